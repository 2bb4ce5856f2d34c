"""What a result says beside groups, stages and findings: tools to choose from, rechecks, the time
it takes."""

from __future__ import annotations

from ....documents.plan import Plan
from ....forms.result import RecheckOut, ToolOut
from ....forms.stage import StageOut
from ..load.context import Context

_METER_UNIT = {"km": 1e6, "h": 3600.0, "d": 86400.0, "cycles": 1.0, "starts": 1.0}


def tools_of(context: Context) -> list[ToolOut]:
    """What the plan asks of each wrench, and of which groups."""
    out = []
    for name, tool in context.plan.tools.items():
        chains = {c.id for c in context.chains.values() if c.tool_id == name}
        groups = [
            g
            for s in context.tighten_stages()
            for g in s.groups
            if any(chains & set(s.chains_of(g, one.chains)) for one in context.passes[s.id])
        ]
        out.append(
            ToolOut(
                id=name,
                kind=tool.kind,
                name=tool.name or tool.kind,
                low_Nm=tool.range[0].base / 1e3,
                high_Nm=tool.range[1].base / 1e3,
                prefer=tool.prefer,
                groups=list(dict.fromkeys(groups)),
            )
        )
    return out


def rechecks_of(plan: Plan) -> list[RecheckOut]:
    """Schedules cleaned up: readings rise, each once; in the meter's own unit."""
    return [
        RecheckOut(
            id=r.id,
            meter=r.meter,
            at=sorted({a.base / _METER_UNIT[r.meter] for a in r.at}),
            every=r.every.base / _METER_UNIT[r.meter] if r.every else None,
            occasion=r.occasion,
            reason=r.reason,
            season=r.season,
            after=r.after,
        )
        for r in plan.rechecks
    ]


def minutes(plan: Plan, stages: list[StageOut]) -> float:
    """Estimated time to fit the joint at every position [min]."""
    positions = max(1, len(plan.positions))
    total = sum(
        s.seconds * (1 if s.across == "once" else positions)
        for s in stages
        if "install" in s.occasions
    )
    return round(total / 60, 1)
