"""The field in which a finding is mended: from the part it hangs on to a place in the document."""

from __future__ import annotations

from typing import Any

from .findings import Finding
from .unconfirmed_defaults import by_place

Raw = dict[str, Any]

#: what a field is reached from: the group, figure or stage the finding hangs on, the stage that
#: tightens a group, a tool or a
#: multiplier of a stage, a source; "new" is where a stage is added
_TORQUE, _FRICTION, _TOOL_TO, _TOOL_FROM = (
    "figure:torque",
    "group:friction/lubricant",
    "tool:range/1",
    "tool:range/0",
)
_ENGAGED, _PASSES, _CONDITION, _NEW = (
    "group:into/engaged",
    "tightens:passes",
    "stage:condition",
    "new:",
)
FIELDS: dict[Finding, str] = {
    **dict.fromkeys(
        (
            Finding.YIELDS,
            Finding.MAY_YIELD,
            Finding.OVER_SHARE,
            Finding.MAY_EXCEED_SHARE,
            Finding.OVER_COMBINED,
            Finding.MAY_EXCEED_COMBINED,
            Finding.OVER_PUMPED,
            Finding.MAY_EXCEED_PUMPED,
            Finding.PRESSES_IN_BY_TABLE,
            Finding.OVER_PROOF,
            Finding.MAY_EXCEED_PROOF,
            Finding.STRIPS,
            Finding.MAY_STRIP,
            Finding.PRESSES_IN,
            Finding.MAY_PRESS_IN,
            Finding.SOFT_PART_OVER,
            Finding.MAY_EXCEED_SOFT_PART,
            Finding.BELOW_REQUIRED,
            Finding.MAY_FALL_BELOW_REQUIRED,
            Finding.GASKET_TOO_LITTLE,
            Finding.GASKET_MAY_GET_TOO_LITTLE,
            Finding.GASKET_TOO_MUCH,
            Finding.GASKET_MAY_GET_TOO_MUCH,
            Finding.SEPARATES,
            Finding.MAY_SEPARATE,
            Finding.SLIPS,
            Finding.MAY_SLIP,
            Finding.LEAKS,
            Finding.MAY_LEAK,
            Finding.YIELDS_AT_WORK,
            Finding.MAY_YIELD_AT_WORK,
            Finding.YIELDS_HOT,
            Finding.MAY_YIELD_HOT,
            Finding.COMPONENT_TOO_LITTLE,
            Finding.COMPONENT_MAY_GET_TOO_LITTLE,
            Finding.COMPONENT_TOO_MUCH,
            Finding.COMPONENT_MAY_GET_TOO_MUCH,
            Finding.COMPONENT_TARGET,
            Finding.BOUND_EXCEEDED,
            Finding.BELOW_BOUND,
            Finding.OWN_FIGURE,
            Finding.STRUCK_SOURCE_TAKEN,
            Finding.SIZES_OUT_OF_LINE,
            Finding.ANGLE_LEFT_OUT,
        ),
        _TORQUE,
    ),
    **dict.fromkeys(
        (Finding.ANGLE_YIELDS, Finding.ANGLE_MAY_YIELD, Finding.ANGLE_DIFFERS), "figure:angle"
    ),
    Finding.OVERRULED_WITHOUT_REASON: "figure:reason",
    **dict.fromkeys(
        (
            Finding.GALLING,
            Finding.ALUMINIUM_DRY,
            Finding.DRY_SEAT_LUBRICATED,
            Finding.PASTE_ON_HUB,
            Finding.HUB_NOT_OILED,
            Finding.WRONG_CONDITION,
            Finding.COMPOUND_NOT_HERE,
            Finding.COMPOUND_TOO_HOT,
            Finding.FRICTION_UNKNOWN,
            Finding.COMPOUND_UNNAMED,
            Finding.FRICTION_TYPICAL,
            Finding.TESTED_ELSEWHERE,
        ),
        _FRICTION,
    ),
    **dict.fromkeys(
        (Finding.STRIPS_FIRST, Finding.FEW_TURNS, Finding.NO_THREAD, Finding.NO_COUNTER_HOLD),
        _ENGAGED,
    ),
    Finding.BOTTOMS: "group:into/depth",
    Finding.FATIGUE: "group:work/axial",
    Finding.NOTHING_LEFT: "group:at_work/bolt",
    Finding.TEMPERATURE_TYPICAL: "group:at_work/bolt",
    Finding.GASKET_TOO_HOT: "group:gasket/type",
    Finding.COMPONENT_IMPOSSIBLE: "group:component/target_stress",
    Finding.RETIGHTENING_NOT_SAID: "gasket:hot_retighten",
    Finding.HOT_RETIGHTENING: _CONDITION,
    Finding.SHORT_GRIP: "group:stack/0/thickness",
    Finding.SINGLE_USE_REUSED: "group:fastener/condition",
    Finding.REUSED_TOO_OFTEN: "group:fastener/uses",
    Finding.LAST_USE: "group:fastener/uses",
    Finding.STRENGTH_UNSURE: "group:fastener/grade",
    Finding.STRENGTH_ASSUMED: "group:fastener/grade",
    Finding.HISTORY_UNKNOWN: "group:fastener/history",
    Finding.SOCKET_ROOM: "group:layout/count",
    **dict.fromkeys(
        (Finding.COMPOUND_FORBIDDEN, Finding.COMPOUND_ON_GASKET, Finding.COMPOUND_DIFFERS),
        "stage:compound",
    ),
    **dict.fromkeys((Finding.SOURCE_TWO_FIGURES, Finding.SOURCE_CONFLICT), "source:says/torque/0"),
    **dict.fromkeys((Finding.PAIR_UNDECIDED, Finding.PAIR_MISMATCH), "source:holds"),
    **dict.fromkeys(
        (Finding.TOOL_OVER_RANGE, Finding.PRESET_OFF, Finding.SETTING_IMPOSSIBLE), _TOOL_TO
    ),
    **dict.fromkeys((Finding.TOOL_UNDER_RANGE, Finding.TOOL_UNDER_20), _TOOL_FROM),
    Finding.NO_TOOL: "stage:chains",
    Finding.TOOL_TOO_COARSE: "tool:increment",
    Finding.HAND_FORCE: "tool:length",
    Finding.DRIVE_TOO_SMALL: "tool:drive",
    Finding.EFFICIENCY_TAKEN: "multiplier:efficiency",
    Finding.REACTION_HIGH: "multiplier:arm",
    **dict.fromkeys(
        (
            Finding.NO_CHECK_ROUND,
            Finding.STRETCH_DIFFERS,
            Finding.STRETCH_UNCHECKED,
            Finding.ENDS_BELOW_FULL,
            Finding.ENDS_ABOVE_FULL,
            Finding.PERCENT_FALLS,
            Finding.NO_RISING_PASSES,
            Finding.FIGURE_NOT_SET,
            Finding.ENDS_BACKED_OFF,
            Finding.PROVISIONAL,
            Finding.ANGLE_WITHOUT_SNUG,
        ),
        _PASSES,
    ),
    **dict.fromkeys(
        (Finding.BOLT_NOT_THERE, Finding.SPREAD_OF_ONE, Finding.READING_NOT_BEFORE), "stage:checks"
    ),
    Finding.NEVER_TIGHTENED: "tightening:groups",
    Finding.STAGE_ORDER: "stage:after",
    Finding.REMOVED_BEFORE_FITTED: "stage:fit",
    **dict.fromkeys(
        (
            Finding.STATE_NOT_BROUGHT,
            Finding.STATE_FORBIDDEN,
            Finding.CONDITION_NOT_NAMED,
            Finding.CONDITION_NOT_CHOSEN,
            Finding.UNDER_PRESSURE,
            Finding.WATCHED_LOCKED,
            Finding.CHECK_AFTER_SET,
        ),
        _CONDITION,
    ),
    **dict.fromkeys((Finding.SAFEGUARD_UNNAMED, Finding.NOT_SEEN_EMPTY), "stage:brings"),
    **dict.fromkeys(
        (
            Finding.COMPOUND_NOT_APPLIED,
            Finding.TEMPORARY_STAYS,
            Finding.STATE_NOT_LEFT,
            Finding.BARE_FACES,
            Finding.PART_STAYS_ON,
            Finding.APPLIED_TOO_LATE,
        ),
        _NEW,
    ),
    Finding.SETS_TOO_SOON: "stage:sets_in",
    Finding.NO_EARLY_RECHECK: "recheck:",
    Finding.RECHECK_ODD: "recheck:at",
    Finding.RECHECK_WITHOUT_STAGES: "tightening:in",
    Finding.EXAMPLE_VALUES: "example:",
}


def field_of(code: str, where: str, raw: Raw) -> str:
    """The place in a document where a finding is mended, as `groups/0/fastener/grade`; `stages`
    where one is to be added, nothing where the whole plan is meant. A document may be wrong in
    places.

    >>> field_of("under_pressure", "stages/t", {"stages": [{"id": "t"}]})
    'stages/0/condition'
    """
    start, _, rest = FIELDS.get(Finding(code), "").partition(":")
    kind, _, name = where.partition("/")
    made = _reach(
        start,
        rest,
        name if kind in ("groups", "targets", "stages", "sources", "rechecks") else "",
        where,
        raw,
    )
    return made or (
        f"{kind}/{_number(raw, kind, name)}" if kind in ("groups", "stages", "sources") else ""
    )


def _listed(raw: Raw, field: str) -> list[Raw]:
    found = raw.get(field)
    return (
        [one if isinstance(one, dict) else {} for one in found] if isinstance(found, list) else []
    )


def _keyed(raw: Raw, field: str) -> Raw:
    found = raw.get(field)
    return found if isinstance(found, dict) else {}


def _number(raw: Raw, field: str, name: str) -> int:
    return next((i for i, one in enumerate(_listed(raw, field)) if str(one.get("id")) == name), 0)


def _reach(start: str, rest: str, name: str, where: str, raw: Raw) -> str:
    """A field by what it is reached from."""
    if start in ("group", "stage", "source", "recheck"):
        field = {"group": "groups", "stage": "stages", "source": "sources", "recheck": "rechecks"}[
            start
        ]
        at = f"{field}/{_number(raw, field, name)}/{rest}"
        return at if rest else "rechecks"
    if start == "new":
        return "stages"
    if start == "example":
        return by_place(raw, where)
    if start == "figure":
        return _figure(rest, name, raw)
    if start == "gasket":
        sealed = (i for i, g in enumerate(_listed(raw, "groups")) if g.get("gasket"))
        return f"groups/{next(sealed, 0)}/gasket/{rest}"
    if start in ("tightens", "tightening"):
        return _passes(rest, name, where, raw)
    return _tool(start, rest, name, raw)


def _figure(rest: str, name: str, raw: Raw) -> str:
    """A field of a group's figure; what its kind does not have is mended by choosing another
    one."""
    target = _keyed(raw, "targets").get(name)
    target = target if isinstance(target, dict) else {}
    kind = target.get("kind")
    own = {
        "torque": "torque",
        "preload": "preload",
        "yield_fraction": "fraction",
        "torque+angle": "torque",
    }.get(str(kind), "")
    if rest == "reason":
        return f"targets/{name}/reason"
    # the figure of a source is no field of its own: another source, or another kind of figure, is
    # chosen
    own = rest if rest != "torque" else own
    return (
        f"targets/{name}/{own}" if own in target and not target.get("source") else f"targets/{name}"
    )


def _passes(rest: str, name: str, where: str, raw: Raw) -> str:
    """A field of the stage that tightens: the one a finding hangs on, else the first one that turns
    the group."""
    stages = _listed(raw, "stages")
    of = [
        i
        for i, s in enumerate(stages)
        if s.get("kind") == "tighten"
        and (
            str(s.get("id")) == name
            if where.startswith("stages/")
            else not name or name in (s.get("groups") or [])
        )
    ]
    at = next(iter(of or [i for i, s in enumerate(stages) if s.get("kind") == "tighten"]), None)
    if at is None:
        return "stages"
    if rest != "passes":
        return f"stages/{at}/{rest}"
    count = len(_listed(stages[at], "passes"))
    return f"stages/{at}/passes/{count - 1}/percent" if count else f"stages/{at}/method"


def _tool(start: str, rest: str, name: str, raw: Raw) -> str:
    """A field of the wrench, or of the multiplier, that a stage pulls with."""
    stage = next((s for s in _listed(raw, "stages") if str(s.get("id")) == name), {})
    chains = _keyed(raw, "chains")
    own = [c for p in _listed(stage, "passes") for c in p.get("chains") or []] + list(
        stage.get("chains") or []
    )
    links = next(
        ((c, chains[c]) for c in [*own, *chains] if isinstance(chains.get(c), list) and chains[c]),
        None,
    )
    if links is None:
        return ""
    if start == "tool":
        return f"tools/{links[1][0]}/{rest}"
    at = next(
        (i for i, link in enumerate(links[1]) if isinstance(link, dict) and "multiplier" in link), 0
    )
    return f"chains/{links[0]}/{at}/{rest}"
