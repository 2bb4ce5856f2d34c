"""Released plans on paper: made once for a revision, and kept."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Callable
from functools import cache, partial
from pathlib import Path

from sqlalchemy.dialects.postgresql import insert

from ...core.planning.compute.output.working import working
from ...exchange.sheet import SheetHead, render_sheet
from ...exchange.template_sheet import render_template
from ...settings import public_url
from ...store.models import KeptSheet, Revision
from ..context import Ctx
from ..helper_task import HelperTask
from ..keys import code_of, holds
from ..permissions import use_case
from ..revision_proof import require_proven
from .queries import read_revision

_PACKAGE = Path(__file__).parents[2]
#: a sheet under way: its work is the PDF, what follows is (file name, PDF)
Paper = HelperTask[bytes, tuple[str, bytes]]


@cache
def _program() -> str:
    """Digest of the program that makes sheets: a newer one makes them anew."""
    found = hashlib.sha256()
    for file in sorted(
        one
        for part in ("core", "exchange")
        for one in (_PACKAGE / part).rglob("*")
        if one.is_file()
    ):
        if "__pycache__" not in file.parts:
            found.update(file.relative_to(_PACKAGE).as_posix().encode() + b"\0" + file.read_bytes())
    return found.hexdigest()


def _kept(
    ctx: Ctx,
    revision_id: uuid.UUID,
    name: str,
    paper: str,
    made_of: object,
    make: Callable[[], bytes],
) -> HelperTask[bytes, bytes]:
    """The sheet that is kept, unless the program or what it was made of has changed since."""
    digest = hashlib.sha256(repr((_program(), made_of)).encode()).hexdigest()
    row = ctx.session.get(KeptSheet, (revision_id, name, paper))
    if (
        row is not None
        and row.digest == digest
        and holds(row.code, _text(revision_id, name, paper, digest, row.data)) is None
    ):
        return HelperTask(partial(bytes, row.data), lambda _ctx, data: data)
    return HelperTask(make, partial(_keep, revision_id, name, paper, digest))


def _keep(
    revision_id: uuid.UUID, name: str, paper: str, digest: str, ctx: Ctx, data: bytes
) -> bytes:
    """Keep a sheet that was just made."""
    values = {
        "digest": digest,
        "made_at": ctx.now,
        "data": data,
        "code": code_of(_text(revision_id, name, paper, digest, data)),
    }
    # two people may ask for it at the same time
    ctx.session.execute(
        insert(KeptSheet)
        .values(revision_id=revision_id, name=name, paper=paper, **values)
        .on_conflict_do_update(index_elements=["revision_id", "name", "paper"], set_=values)
    )
    return data


def _text(revision_id: uuid.UUID, name: str, paper: str, digest: str, data: bytes) -> str:
    """What the code of a kept sheet stands for: people pull by what is printed there."""
    return f"sheet|{revision_id}|{name}|{paper}|{digest}|{hashlib.sha256(data).hexdigest()}"


def _named(name: str, kept: HelperTask[bytes, bytes]) -> Paper:
    return HelperTask(kept.work, lambda ctx, data: (name, kept.then(ctx, data)))


@use_case
def template_pdf(ctx: Ctx, revision_id: uuid.UUID, paper: str = "A4") -> Paper:
    """A template of the bolts, 1:1. Raises NotFound, Refused; its work raises Impossible."""
    view = read_revision(ctx, revision_id)
    require_proven(ctx.session, ctx.session.get_one(Revision, revision_id))
    title = f"{view.equipment_name} › {view.joint_name} · revision {view.number}"
    kept = _kept(
        ctx,
        revision_id,
        "template",
        paper,
        title,
        lambda: render_template(view.result, title, paper=paper),
    )
    return _named(f"template-{view.number}.pdf", kept)


@use_case
def sheet_pdf(ctx: Ctx, revision_id: uuid.UUID, paper: str = "A4") -> Paper:
    """The sheet to carry before a run, on A4 or Letter. Raises NotFound, Refused; its work
    raises Impossible."""
    view = read_revision(ctx, revision_id)
    head = SheetHead(
        view.equipment_name, view.joint_name, view.number, view.released_by, view.released_at
    )
    revision = ctx.session.get_one(Revision, revision_id)
    require_proven(ctx.session, revision)
    link = f"{public_url()}/joints/{revision.plan.joint_id}"

    def make() -> bytes:
        workings = [
            w
            for g in view.result.groups
            if g.target and g.preload
            for w in [working(view.document, f"{g.id}/preload")]
            if w.steps
        ]
        return render_sheet(view.result, head, workings, made_at=ctx.now, link=link, paper=paper)

    return _named(
        f"plan-{view.number}.pdf", _kept(ctx, revision_id, "plan", paper, (head, link), make)
    )
