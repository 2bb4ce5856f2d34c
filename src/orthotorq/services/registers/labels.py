"""Labels of joints and tools: their codes open them on a phone."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from functools import partial

from sqlalchemy import select

from ...core.messages import Refusal
from ...exchange.labels import Label, render_labels
from ...settings import public_url
from ...store.models import Equipment, Joint, Tool
from ..context import Ctx
from ..errors import BadField
from ..helper_task import HelperTask, named_file
from ..permissions import use_case
from ..toolroom.tools import view_of

#: labels of one file
MOST = 600


@use_case
def labels(
    ctx: Ctx, what: str, ids: Sequence[uuid.UUID] = (), paper: str = "A4"
) -> HelperTask[bytes, tuple[str, bytes]]:
    """Labels as PDF: of joints, of all joints of machines, or of tools; of everything where
    nothing is named. Raises BadField."""
    home = public_url()
    out = []
    if what == "tools":
        tools = select(Tool).order_by(Tool.serial).limit(MOST)
        for tool in ctx.session.scalars(tools.where(Tool.id.in_(ids)) if ids else tools):
            seen = view_of(tool, ctx.now)
            reach = (
                f"{seen.low_Nm:g} to {seen.high_Nm:g} N·m"
                if seen.high_Nm and seen.low_Nm != seen.high_Nm
                else ""
            )
            out.append(
                Label(
                    tool.serial,
                    seen.name,
                    reach or (f"{seen.high_Nm:g} N·m" if seen.high_Nm else ""),
                    f"{home}/tools/{tool.id}",
                )
            )
    else:
        wanted = (
            select(
                Joint.id, Joint.name, Joint.summary, Equipment.name.label("machine"), Equipment.tag
            )
            .join(Equipment, Joint.equipment_id == Equipment.id)
            .order_by(Equipment.tag, Joint.tag)
            .limit(MOST)
        )
        if ids:
            wanted = wanted.where(
                Equipment.id.in_(ids) if what == "machines" else Joint.id.in_(ids)
            )
        out = [
            Label(row.name, f"{row.machine}, {row.tag}", row.summary, f"{home}/joints/{row.id}")
            for row in ctx.session.execute(wanted)
        ]
    if not out:
        raise BadField(Refusal.NOT_FOUND, "ids", what="label to print")
    return named_file("labels.pdf", partial(render_labels, out, paper))
