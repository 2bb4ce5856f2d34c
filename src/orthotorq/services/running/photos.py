"""Photos of a run: re-encoded, at most 2 MB, in the database."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Iterable
from functools import partial

from sqlalchemy.orm import Session

from ...core.messages import Refusal
from ...exchange.pictures import upright
from ...store.models import Photo, Run
from ..context import Ctx
from ..errors import BadField, NotFound
from ..helper_task import HelperTask
from ..permissions import use_case

#: photos in a printed record
ON_PAPER = 60


def reencode(data: bytes) -> bytes:
    """A picture as an upright JPEG of at most 2 MB without its metadata. Raises BadField for what
    is no picture, Impossible where it is too heavy."""
    kept = upright(data)
    if isinstance(kept, str):
        raise BadField(
            Refusal.PICTURE_TOO_LARGE if kept == "too large" else Refusal.NO_PICTURE, "photo"
        )
    return kept


def for_paper(session: Session, ids: Iterable[str]) -> dict[str, bytes]:
    """The first photos of these as they are kept, by id; who prints makes them small."""
    found = ((one, session.get(Photo, uuid.UUID(one))) for one in list(ids)[:ON_PAPER])
    return {one: photo.data for one, photo in found if photo is not None}


@use_case
def keep_photo(ctx: Ctx, run_id: uuid.UUID, data: bytes) -> HelperTask[bytes, uuid.UUID]:
    """Keep a photo of a run: its id, which an event names afterwards. Raises NotFound; its work
    raises BadField."""
    if ctx.session.get(Run, run_id) is None:
        raise NotFound("run")
    return HelperTask(partial(reencode, data), partial(_keep, run_id))


def _keep(run_id: uuid.UUID, ctx: Ctx, kept: bytes) -> uuid.UUID:
    photo = Photo(
        id=ctx.new_id(),
        run_id=run_id,
        data=kept,
        digest=hashlib.sha256(kept).hexdigest(),
        person_id=ctx.person.id,
        at=ctx.now,
    )
    ctx.session.add(photo)
    ctx.session.flush()
    return photo.id


@use_case
def read_photo(ctx: Ctx, photo_id: uuid.UUID) -> bytes:
    """A photo as JPEG. Raises NotFound."""
    photo = ctx.session.get(Photo, photo_id)
    if photo is None:
        raise NotFound("photo")
    return photo.data
