"""Sums about tools: settings through adapter and multiplier, pairs of units."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..errors import BadQuantity, Impossible
from ..mechanics import tools as mech
from ..mechanics.formula import Step, explain
from ..messages import Message, a_word
from ..unit_table import FACTORS
from ..units import Quantity, find_unit, pair_difference, parse, read_number
from .fields import Answer, Chain


def _through_multipliers(
    torque: float, ratios: Sequence[float], efficiencies: Sequence[float]
) -> list[Step]:
    """The torque [N·mm] before each multiplier, from the bolt backwards."""
    steps: list[Step] = []
    for i, ratio in enumerate(ratios):
        efficiency = efficiencies[i] if i < len(efficiencies) else 1.0
        after = steps[-1].value if steps else torque
        steps.append(
            explain(mech.multiplier_setting, torque=after, ratio=ratio, efficiency=efficiency)
        )
    return steps


def _through_adapter(v: dict[str, Any], drive: float) -> Step:
    if v["length"] is None:
        raise Impossible(
            Message.BAD_VALUE, ("length",), reason="An offset adapter needs the wrench's --length"
        )
    return explain(
        mech.adapter_setting,
        torque=drive,
        length=v["length"],
        adapter=v["adapter"],
        angle=v["adapter_angle"] or 0.0,
    )


def tool_sum(v: dict[str, Any]) -> Answer:
    """What to set on a wrench for a torque at the bolt, and what reacts."""
    torque: float = v["torque"]
    ratios, efficiencies = v["ratio"], v["efficiency"]
    if len(efficiencies) > len(ratios):
        raise Impossible(
            Message.BAD_VALUE, ("efficiency",), reason="Each efficiency belongs to a ratio"
        )
    steps = _through_multipliers(torque, ratios, efficiencies)
    drive = steps[-1].value if steps else torque
    if v["adapter"] is not None:
        steps.append(_through_adapter(v, drive))
    setting = steps[-1].value if steps else torque
    reaction = explain(mech.reaction_torque, torque=torque, setting=drive) if ratios else None
    force = (
        explain(mech.hand_force, setting=setting, length=v["length"])
        if v["length"] is not None
        else None
    )
    found = mech.settable(setting, v["increment"], v["max"])
    steps += [s for s in (reaction, force) if s is not None]
    return Answer(
        {
            "setting_Nm": setting / 1e3,
            "settable_Nm": found.value / 1e3,
            "error_percent": found.error * 100,
            "reaction_torque_Nm": reaction.value / 1e3 if reaction else None,
            "reaction_force_N": reaction.value / v["arm"]
            if reaction and v["arm"] is not None
            else None,
            "hand_force_N": force.value if force else None,
        },
        tuple(steps),
        _tool_notes(v, found.value),
        (),
        Chain(
            v["length"],
            v["adapter"],
            v["adapter_angle"] or 0.0,
            tuple(ratios),
            v["arm"],
            v["increment"],
            v["mark"],
        ),
    )


def _tool_notes(v: dict[str, Any], setting: float) -> tuple[str, ...]:
    notes = []
    if v["adapter"]:
        notes.append(
            "The adapter is at the wrench; the hand pulls at the grip, square to the handle."
        )
    if v["mark"]:
        main, collar = mech.scale_reading(setting, v["mark"])
        notes.append(f"On the scale: main mark {main / 1e3:g}, collar {collar / 1e3:.4g}.")
    return tuple(notes)


def scale_sum(v: dict[str, Any]) -> Answer:
    """How a setting reads on a two-part scale."""
    if v["increment"] is not None and v["increment"] > v["mark"]:
        raise Impossible(
            Message.RANGE_REVERSED,
            ("increment",),
            low=f"collar {v['increment'] / 1e3:g}",
            high=f"main marks {v['mark'] / 1e3:g} N·m",
        )
    found = mech.settable(v["torque"], v["increment"])
    main, collar = mech.scale_reading(found.value, v["mark"])
    return Answer(
        {
            "main_mark_Nm": main / 1e3,
            "collar_Nm": collar / 1e3,
            "settable_Nm": found.value / 1e3,
            "error_percent": found.error * 100,
        },
        (),
        ("Turn the collar up from the main mark, never down to it.",),
        (),
        Chain(None, None, 0.0, (), None, v["increment"], v["mark"]),
    )


def _statement(text: str, name: str) -> Quantity:
    try:
        unit = find_unit(read_number(text)[2])
    except BadQuantity as error:
        error.path = (name,)
        raise
    if unit is None:
        raise BadQuantity(Message.UNIT_MISSING, (name,), text=text, example="250 N·m")
    return parse(text, unit[0])


def pair_sum(v: dict[str, Any]) -> Answer:
    """Whether two statements agree."""
    first, second = _statement(v["first"], "first"), _statement(v["second"], "second")
    if first.kind != second.kind:
        raise Impossible(
            Message.BAD_VALUE,
            ("second",),
            reason=(
                f"“{v['first']}” is {a_word(first.kind)} and “{v['second']}” {a_word(second.kind)}"
            ),
        )
    difference, agree = pair_difference(first, second)
    in_first = second.base / FACTORS[first.kind][first.unit]
    return Answer(
        {"difference_percent": difference * 100, "agree": agree},
        (),
        (f"{second.text} is {in_first:.6g} {first.unit}.",),
    )


def units_sum(v: dict[str, Any]) -> Answer:
    """One statement in every unit of its kind."""
    found = _statement(v["first"], "first")
    return Answer(
        {unit: found.base / factor for unit, factor in FACTORS[found.kind].items()},
        (),
        (f"{found.text} is {a_word(found.kind)}; factors are exact.",),
    )
