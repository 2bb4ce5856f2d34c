"""The thirteen joints as the fitter meets them: what makes each kind special, asked of every
instruction of a whole run."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache
from itertools import product

import pytest

from orthotorq.core.forms.result import Result
from orthotorq.core.forms.run import Instruction
from orthotorq.core.planning.compute import compute
from orthotorq.core.running import first_variants
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import Play


@lru_cache(maxsize=64)
def plan(name: str) -> Result:
    return compute(plan_document(name))


@lru_cache(maxsize=64)
def told(name: str, occasion: str = "install", *variants: str) -> tuple[Instruction, ...]:
    """Every instruction of a run in which all goes well."""
    chosen = variants or first_variants(plan(name))
    play, out = Play(plan_document(name), occasion=occasion, variants=list(chosen)), []
    while (step := play.state.instruction) is not None:
        out.append(step)
        play.usual()
    assert play.state.status == "finished"
    return tuple(out)


def stages(steps: tuple[Instruction, ...]) -> list[str]:
    """Stages in the order in which they are met, position by position."""
    return list(dict.fromkeys("/".join(s.step.split("/")[:2]) for s in steps))


def of(steps: tuple[Instruction, ...], stage: str, part: str = "") -> list[Instruction]:
    return [s for s in steps if s.stage_id == stage and f"/{part}" in s.step]


def first(steps: tuple[Instruction, ...], test: Callable[[Instruction], bool]) -> int:
    return next(i for i, s in enumerate(steps) if test(s))


def last(steps: tuple[Instruction, ...], test: Callable[[Instruction], bool]) -> int:
    return max(i for i, s in enumerate(steps) if test(s))


def in_order(steps: tuple[Instruction, ...], *names: str) -> bool:
    """Whether the stages are met in this order, whatever stands between them."""
    met = [s.split("/")[1] for s in stages(steps)]
    at = [met.index(name) for name in names]
    return at == sorted(at)


def bolts(steps: list[Instruction]) -> list[str]:
    return [s.label for s in steps if s.places]


def test_wheel_seats_flush_hanging_is_lowered_once_and_gone_round_once_more() -> None:
    steps = told("trolley-wheel", "install", "wrench")
    assert stages(steps) == [
        "-/safe",
        "-/stand",
        "L/seats",
        "R/seats",
        "L/wheelon",
        "R/wheelon",
        "L/snug",
        "R/snug",
        "-/lower",
        "L/full",
        "R/full",
        "L/paint",
        "R/paint",
        "-/down",
        "-/unlock",
    ]
    snug, full = of(steps, "snug", "snug/r"), of(steps, "full", "full/r")
    # hanging, it begins with the lowest nut
    assert (
        bolts(snug) == ["4", "1", "5", "2", "6", "3"] * 2
        and bolts(full) == ["1", "4", "2", "5", "3", "6"] * 2
    )
    assert snug[0].settings[0].bolt_torque_Nm < 0.5 * full[0].settings[0].bolt_torque_Nm
    assert snug[0].condition == ["wheel hanging"]
    assert full[0].condition == ["wheel touching"]
    again = of(steps, "full", "again/")
    assert len(again) == 12 and all(s.check_round and not s.changed_setting for s in again[1:])
    assert "cone of every nut towards the wheel" in " ".join(s.text for s in of(steps, "wheelon"))
    assert plan("trolley-wheel").groups[0].friction.lubricant == "dry-steel"
    assert plan("trolley-wheel").rechecks[0].at[0] < 50


def test_wheel_at_the_roadside_is_tightened_by_feel_and_due_for_its_recheck() -> None:
    play = Play(plan_document("trolley-wheel"), variants=["roadside"])
    play.finish()
    assert play.state.provisional
    steps = told("trolley-wheel", "install", "roadside")
    assert not any(s.settings for s in steps)
    assert {s.condition[0] for s in of(steps, "feel") if s.places} == {"wheel touching"}


def test_twin_wheel_verifies_the_inner_before_the_outer_and_takes_its_pin_out() -> None:
    steps = told("twin-drive-wheel", "install", "two", "both")
    assert in_order(steps, "verify", "snug", "full", "drum", "close")
    assert in_order(steps, "pin", "handcentre", "zero", "close", "travel", "unpin", "gap")
    # a wheel that hangs is drawn to its seat from the lowest nut
    assert next(s.label for s in of(steps, "snug", "hand/")) == "I5"
    stays = told("twin-drive-wheel", "install", "two", "stays")
    assert in_order(stays, "verify", "innerstays", "drum", "close") and not of(stays, "full")
    targets = {g.id: g.target.set_torque_Nm for g in plan("twin-drive-wheel").groups if g.target}
    assert targets == {
        "inner": pytest.approx(380),
        "drum": pytest.approx(62, abs=11),
        "centre": pytest.approx(150),
    }
    assert [s.turn_deg for s in of(steps, "close", "a/")] == [20, 20]
    limits = {
        s.limit_text
        for s in steps
        if s.kind == "reading" and s.stage_id in ("zero", "travel", "gap")
    }
    # the dial gauge is read at hand-tight without a limit; its change has one
    assert None in limits and len(limits) == 4


def test_twin_wheel_releases_its_taper_with_the_bolt_left_in() -> None:
    steps = tuple(
        s for s in told("twin-drive-wheel", "dismantle", "two", "both") if s.position == "left"
    )
    slack = first(steps, lambda s: s.stage_id == "slack" and s.kind == "loosen")
    free = last(steps, lambda s: s.kind == "jack")
    out = first(steps, lambda s: s.stage_id == "boltout")
    assert slack < free < out
    assert "catch" in steps[slack].note


def test_cover_is_opened_and_closed_in_cross_order_with_pressure_off() -> None:
    steps = told("evaporator-cover")
    assert steps[0].stage_id == "safe" and "Pressure off" in steps[0].text + steps[0].label
    for part in ("first", "second", "full"):
        done = bolts(of(steps, "close", f"{part}/"))
        assert len(done) == 16 and done[:4] == ["1", "9", "5", "13"]
    assert bolts(of(steps, "close", "check/"))[:4] == ["1", "2", "3", "4"]
    shares = [
        of(steps, "close", f"{p}/")[0].settings[0].bolt_torque_Nm / 450
        for p in ("first", "second", "full")
    ]
    assert shares == pytest.approx([0.35, 0.7, 1.0], abs=0.01)
    loosened = bolts([s for s in told("evaporator-cover", "dismantle") if s.kind == "loosen"])
    assert loosened[:4] == ["9", "1", "13", "5"] and len(loosened) == 48
    window = plan("evaporator-cover").groups[0].window
    assert window is not None and window.lower_N and window.upper_N
    sides = {(x.side, x.code.split("_")[0]) for x in plan("evaporator-cover").groups[0].limits}
    assert {("lower", "gasket"), ("upper", "gasket")} <= sides


def test_cover_comes_off_only_when_it_is_seen_to_be_empty() -> None:
    order = [s.split("/")[1] for s in stages(told("evaporator-cover", "dismantle"))]
    assert order == ["safe", "crack", "empty", "press", "cover", "oldgasket", "leave"]


def test_mount_starts_all_loose_then_locates_then_settles() -> None:
    steps = told("gearbox-foot")
    hand = of(steps, "start", "hand/")
    assert sorted(bolts(hand)) == ["1", "2", "3", "4"]
    assert in_order(steps, "hold", "start", "align", "locker", "locatefull", "full")
    assert any(s.kind == "wait" for s in of(steps, "full"))
    assert all(s.deadline is None for s in hand), "it is aligned dry: nothing sets meanwhile"
    locked = [*of(steps, "locatefull", "full/"), *of(steps, "full", "full/r")]
    assert all(s.deadline is not None for s in locked if s.places)
    setting = of(steps, "locatefull", "full/")[0].settings[0]
    # the offset adapter lengthens the wrench: less is set than the bolt gets
    assert setting.settable_Nm == pytest.approx(setting.bolt_torque_Nm * 850 / 940, rel=1e-6)
    assert not [s for s in told("gearbox-foot", "recheck") if s.kind == "pull"]


def test_anchors_are_serviced_one_at_a_time_with_multiplier_and_pulled_until_still() -> None:
    steps = told("rail-stop-anchors")
    one = of(steps, "one", "service/")
    assert len([s for s in one if s.places]) == 7 and all(
        "others hold" in (s.before_each or "") for s in one if s.places
    )
    full = of(steps, "rise", "full/")
    # one pull that turns, then three that do not
    assert (
        max(s.pull or 0 for s in full) == 4 and len([s for s in full if s.kind == "pull"]) == 7 * 4
    )
    for s in full:
        assert s.settings[0].reaction_Nm == pytest.approx(
            s.settings[0].bolt_torque_Nm - s.settings[0].settable_Nm, rel=0.01
        )
    torques = {s.places[0].split(".")[0]: round(s.settings[0].bolt_torque_Nm / 100) for s in full}
    assert torques["m42"] > 2 * torques["m36"]
    assert "sizes_out_of_line" in {f.code for f in plan("rail-stop-anchors").findings}
    assert steps[0].stage_id == "load"


def test_locking_hub_goes_round_above_target_then_none_may_move_at_target() -> None:
    steps = told("drum-locking-hub")
    over, check = of(steps, "tight", "over/"), of(steps, "tight", "check/")
    assert over[0].settings[0].bolt_torque_Nm == pytest.approx(1.04 * 76, rel=0.01)
    assert check[0].settings[0].bolt_torque_Nm == pytest.approx(76, rel=0.01)
    assert {s.round for s in over} == {1, 2} and {s.round for s in check} == {1}
    assert all(s.watch_for for s in over)
    assert "never a paste" in " ".join(s.label + s.text for s in of(steps, "oil"))
    watch = of(steps, "start")
    assert watch and watch[0].kind == "watch" and steps[-1].stage_id == "start"
    play = Play(plan_document("drum-locking-hub"))
    while play.step.kind != "watch":
        play.usual()
    play.answer("moved")
    play.answer("back")
    assert play.step.stage_id == "lock" and play.step.attempt == 2
    jack = [s for s in told("drum-locking-hub", "dismantle") if s.kind == "jack"]
    assert (
        jack
        and {s.turn_deg for s in jack} == {90}
        and "by 90°" in jack[0].text
        and "run them in by hand" in jack[0].note
    )


def test_centre_bolt_is_turned_by_angle_while_its_locking_tool_holds() -> None:
    steps = told("agitator-coupling")
    assert in_order(
        steps, "half", "tool", "tight", "mesh", "lock", "untool", "free", "unlock", "start"
    )
    assert [s.turn_deg for s in steps if s.kind == "angle"] == [40, 35]
    assert all(
        s.hint.startswith("Set the disc to zero") and s.window_deg
        for s in steps
        if s.kind == "angle"
    )
    assert any("single use" in line.text for line in plan("agitator-coupling").kit)


def test_bearing_nut_is_backed_off_and_measured_after_the_lock_nut() -> None:
    steps = told("elevator-bearing-nut")
    assert in_order(
        steps, "thread", "bearing", "seat", "washer", "locknut", "play", "tab", "unlock", "warm"
    )
    back = [s for s in steps if s.kind == "back_off"]
    assert [s.turn_deg for s in back] == [12]
    # what is turned back gives a play inside the limit by the thread's own pitch
    assert 0.03 < 12 / 360 * 2 < 0.10
    assert any(s.kind == "reading" and "End play" in s.label + s.text for s in of(steps, "play"))
    assert "turn" in (of(steps, "seat", "seat/")[0].watch_for or "")


def test_axle_nut_is_new_held_and_pinned_and_never_driven_by_impact() -> None:
    steps = told("drum-journal-nut")
    assert in_order(
        steps, "parts", "partson", "oil", "bar", "rundown", "running", "tight", "pin", "unbar"
    )
    assert next(s for s in plan("drum-journal-nut").stages if s.id == "tight").impact == "never"
    assert any(line.text.startswith("new slotted nut") for line in plan("drum-journal-nut").kit)
    assert [s.gauge for s in of(steps, "running") if s.kind == "reading"] == ["small dial wrench"]


def test_soft_clamp_is_drawn_evenly_by_its_gap_with_torque_as_a_cap() -> None:
    steps = told("bellows-clamp")
    gaps = [s for s in steps if s.kind == "gap"]
    assert gaps and {s.turn_deg for s in gaps} == {60}
    assert all("cap" in {b.answer for b in [*s.buttons, *s.wrong]} for s in gaps)
    assert gaps[0].settings[0].bolt_torque_Nm == pytest.approx(15, rel=0.02)
    assert "halves meet" in (gaps[0].watch_for or "")


@pytest.mark.parametrize(("variant", "pulls"), [("preset", 1), ("click", 2)])
def test_fixture_has_two_ways_to_the_same_end(variant: str, pulls: int) -> None:
    steps = told("valve-block-fixture", "install", variant)
    block = [s for s in steps if s.kind == "pull" and s.places[0].startswith("m10")]
    assert len(block) == 8 * pulls
    assert block[-1].settings[0].bolt_torque_Nm == pytest.approx(38)
    # painted in tightening order: the numbers are met as they count
    assert bolts(block)[:8] == [f"B{n}" for n in range(1, 9)]
    assert [s.do for s in steps if s.kind == "snug"] == ["snug"] * 3
    assert {s.condition[0] for s in steps if s.places} == {"parts at their stops"}


def test_casting_studs_are_seated_and_set_before_the_nuts() -> None:
    steps = told("pump-casing-studs")
    assert in_order(steps, "clean", "depth", "locker", "seat", "cure", "close")
    seat = of(steps, "seat", "seat/r")
    assert all(s.deadline is not None for s in seat) and seat[0].settings[
        0
    ].bolt_torque_Nm == pytest.approx(40)
    assert of(steps, "close", "full/")[0].settings[0].bolt_torque_Nm == pytest.approx(130)
    assert len([s for s in of(steps, "out") if s.kind == "reading"]) == 12
    assert "two locked nuts" in " ".join(
        s.label + s.text for s in told("pump-casing-studs", "dismantle")
    )


def test_hung_magnet_keeps_its_spacers_in_until_the_rods_carry() -> None:
    steps = told("magnet-hanger")
    assert in_order(steps, "lift", "spacer", "before", "rods", "lower", "out")
    assert in_order(steps, "out", "guard", "after")
    assert steps[0].cautions and any("magnet" in c.lower() for c in steps[0].cautions)
    pairs = [s.places for s in of(steps, "rods", "half/")]
    # two at once stand across the corner
    assert sorted(sorted(p) for p in pairs if p) == [["rods.1", "rods.4"], ["rods.2", "rods.3"]]
    wrenches = [line for line in plan("magnet-hanger").kit if line.kind == "wrench"]
    assert max(line.count for line in wrenches) == 2


def ways(name: str) -> list[tuple[str, ...]]:
    """Every combination of variants, one of each choice."""
    choices: dict[str, list[str]] = {}
    for one in plan(name).variants:
        choices.setdefault(one.choice, []).append(one.id)
    return list(product(*choices.values()))


@pytest.mark.parametrize(("name", "way"), [(n, w) for n in plan_names() for w in ways(n)])
def test_every_pull_says_in_which_condition_and_where_the_wrench_stands(
    name: str, way: tuple[str, ...]
) -> None:
    for step in told(name, "install", *way):
        if step.kind in ("pull", "angle", "gap", "feel", "back_off"):
            assert step.condition, step.step
        if step.kind == "pull":
            assert step.settings and step.settings[0].bolt_torque_Nm > 0, step.step


@pytest.mark.parametrize("name", plan_names())
def test_everything_is_made_safe_first_on_every_occasion(name: str) -> None:
    for occasion in ("install", "recheck", "dismantle"):
        steps = told(name, occasion)
        assert steps[0].cautions, occasion
        assert next(s for s in plan(name).stages if s.id == steps[0].stage_id).kind == "prepare"


@pytest.mark.parametrize("name", plan_names())
def test_what_is_fitted_for_the_work_comes_out_again(name: str) -> None:
    document = plan_document(name)
    for stage in document["stages"]:
        if stage.get("temporary"):
            out = [
                s
                for s in document["stages"]
                if s["kind"] == "remove" and s.get("fit") == stage["id"]
            ]
            assert len(out) == 1 and out[0].get("in") == stage.get("in")
            cut = {**document, "stages": [s for s in document["stages"] if s is not out[0]]}
            assert "temporary_stays" in {
                f.code for f in compute(cut).findings if f.severity == "stop"
            }


@pytest.mark.parametrize("name", plan_names())
def test_the_torque_wrench_never_loosens_and_the_kit_has_all_it_takes(name: str) -> None:
    result = plan(name)
    kit = " | ".join(line.text for line in result.kit)
    assert all("torque wrench" in s.hint for s in told(name, "dismantle") if s.kind == "loosen")
    for tool in result.tools:
        assert tool.name in kit
    for stage in result.stages:
        if any(p.do == "angle" and p.read_by == "angle disc" for p in stage.passes):
            assert "angle disc" in kit
        for item in stage.items:
            if item.gauge:
                assert item.gauge in kit
    for part in plan_document(name).get("parts", []):
        assert part["name"] in kit


@pytest.mark.parametrize("name", plan_names())
def test_somebody_comes_back_early(name: str) -> None:
    rechecks = plan(name).rechecks
    assert rechecks and all(r.at and r.every and min(r.at) < r.every for r in rechecks)
    assert told(name, "recheck")


@pytest.mark.parametrize("name", plan_names())
def test_no_instruction_has_a_hole_in_it(name: str) -> None:
    for occasion in ("install", "recheck", "dismantle"):
        for step in told(name, occasion):
            labels = [b.label for b in step.buttons]
            words = "|".join(
                [step.text, step.hint, step.note, step.stage, step.pass_name or "", *labels]
            )
            assert step.text and all(labels), step.step
            assert not re.search(r"None(?! may)|[{}]|  | °(?!C)| [.,;]|\bnan\b", words), words
