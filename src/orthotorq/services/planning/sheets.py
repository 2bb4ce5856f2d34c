"""Released plans on paper: made once for a revision, and kept."""
from __future__ import annotations

import hashlib
import uuid
from collections.abc import Callable
from functools import cache
from pathlib import Path

from sqlalchemy.dialects.postgresql import insert

from ...core.planning.compute.working import working
from ...exchange.sheet import SheetHead, render_sheet
from ...exchange.template_sheet import render_template
from ...settings import read
from ...store.models import KeptSheet, Revision
from ..context import Ctx
from ..keys import code_of, holds
from ..permissions import use_case
from .queries import read_revision

_PACKAGE = Path(__file__).parents[2]


@cache
def _program() -> str:
    """Digest of the program that makes sheets: a newer one makes them anew."""
    found = hashlib.sha256()
    for file in sorted(one for part in ("core", "exchange") for one in (_PACKAGE / part).rglob("*") if one.is_file()):
        if "__pycache__" not in file.parts:
            found.update(file.relative_to(_PACKAGE).as_posix().encode() + b"\0" + file.read_bytes())
    return found.hexdigest()


def _kept(ctx: Ctx, revision_id: uuid.UUID, name: str, paper: str, made_of: object, make: Callable[[], bytes]) -> bytes:
    """The sheet that is kept, unless the program or what it was made of has changed since."""
    digest = hashlib.sha256(repr((_program(), made_of)).encode()).hexdigest()
    row = ctx.session.get(KeptSheet, (revision_id, name, paper))
    if row is not None and row.digest == digest and holds(row.code, _text(revision_id, name, paper, digest, row.data)) is None:
        return row.data
    data = make()
    values = {"digest": digest, "made_at": ctx.now, "data": data, "code": code_of(_text(revision_id, name, paper, digest, data))}
    # two people may ask for it at the same time
    ctx.session.execute(insert(KeptSheet).values(revision_id=revision_id, name=name, paper=paper, **values)
                        .on_conflict_do_update(index_elements=["revision_id", "name", "paper"], set_=values))
    return data


def _text(revision_id: uuid.UUID, name: str, paper: str, digest: str, data: bytes) -> str:
    """What the code of a kept sheet stands for: people pull by what is printed there."""
    return f"sheet|{revision_id}|{name}|{paper}|{digest}|{hashlib.sha256(data).hexdigest()}"


@use_case
def template_pdf(ctx: Ctx, revision_id: uuid.UUID, paper: str = "A4") -> tuple[str, bytes]:
    """(file name, PDF) of a template of the bolts, 1:1. Raises NotFound, Impossible."""
    view = read_revision(ctx, revision_id)
    title = f"{view.equipment_name} › {view.joint_name} · revision {view.number}"
    return f"template-{view.number}.pdf", _kept(ctx, revision_id, "template", paper, title,
                                                lambda: render_template(view.result, title, paper=paper))


@use_case
def sheet_pdf(ctx: Ctx, revision_id: uuid.UUID, paper: str = "A4") -> tuple[str, bytes]:
    """(file name, PDF) of the sheet to carry before a run, on A4 or Letter. Raises NotFound, Impossible."""
    view = read_revision(ctx, revision_id)
    head = SheetHead(view.equipment_name, view.joint_name, view.number, view.released_by, view.released_at)
    revision = ctx.session.get_one(Revision, revision_id)
    link = f"{read('ORTHOTORQ_PUBLIC_URL').rstrip('/')}/joints/{revision.plan.joint_id}"

    def make() -> bytes:
        workings = [w for g in view.result.groups if g.target and g.preload
                    for w in [working(view.document, f"{g.id}/preload")] if w.steps]
        return render_sheet(view.result, head, workings, made_at=ctx.now, link=link, paper=paper)

    return f"plan-{view.number}.pdf", _kept(ctx, revision_id, "plan", paper, (head, link), make)
