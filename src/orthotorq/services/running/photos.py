"""Photos of a run: re-encoded, at most 2 MB, in the database."""
from __future__ import annotations

import hashlib
import io
import threading
import uuid
from collections.abc import Iterable

from PIL import Image, ImageFile, ImageOps, UnidentifiedImageError
from sqlalchemy.orm import Session

from ...core.messages import Refusal
from ...store.models import Photo, Run
from ..context import Ctx
from ..errors import BadField, NotFound
from ..permissions import use_case

MOST_BYTES, MOST_PIXELS, SIDE = 2_000_000, 60_000_000, 2048
#: what cameras and screens make; other formats of the library, some with interpreters behind them, are never opened
FORMATS = ("JPEG", "PNG", "WEBP")
#: a large picture takes its size in memory while it is decoded
_ONE_AT_A_TIME = threading.Lock()
#: photos in a printed record, and how wide they are at most
ON_PAPER, PAPER_SIDE = 60, 900


def reencode(data: bytes) -> bytes:
    """A picture as an upright JPEG of at most 2 MB without its metadata. Raises BadField for what is no picture."""
    try:
        # the library that prints allows half pictures in the whole process as soon as it is loaded
        ImageFile.LOAD_TRUNCATED_IMAGES = False
        with _ONE_AT_A_TIME, Image.open(io.BytesIO(data), formats=FORMATS) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise BadField(Refusal.PICTURE_TOO_LARGE, "photo")
            # a JPEG is made smaller while it is decoded
            opened.draft("RGB", (SIDE, SIDE))
            picture = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise BadField(Refusal.NO_PICTURE, "photo") from None
    # comments of the file would be written into the new one
    picture.info = {}
    picture.thumbnail((SIDE, SIDE))
    for quality in (85, 75, 60, 45, 30):
        out = io.BytesIO()
        picture.save(out, "JPEG", quality=quality, optimize=True)
        if out.tell() <= MOST_BYTES:
            break
    return out.getvalue()


def for_paper(session: Session, ids: Iterable[str]) -> dict[str, bytes]:
    """The first photos of these as small JPEGs, by id, for printing."""
    out = {}
    for one in list(ids)[:ON_PAPER]:
        photo = session.get(Photo, uuid.UUID(one))
        if photo is not None:
            with Image.open(io.BytesIO(photo.data), formats=("JPEG",)) as opened:
                opened.thumbnail((PAPER_SIDE, PAPER_SIDE))
                made = io.BytesIO()
                opened.save(made, "JPEG", quality=75)
                out[one] = made.getvalue()
    return out


@use_case
def keep_photo(ctx: Ctx, run_id: uuid.UUID, data: bytes) -> uuid.UUID:
    """Keep a photo of a run; an event names it afterwards. Raises NotFound, BadField."""
    if ctx.session.get(Run, run_id) is None:
        raise NotFound("run")
    kept = reencode(data)
    photo = Photo(id=ctx.new_id(), run_id=run_id, data=kept, digest=hashlib.sha256(kept).hexdigest(),
                  person_id=ctx.person.id, at=ctx.now)
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
