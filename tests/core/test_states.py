"""States of a joint, what is put in and comes out again, main parts: each rule with a plan that
breaks it."""

from __future__ import annotations

from typing import Any

import pytest

from orthotorq.core.forms.condition import Condition
from orthotorq.core.forms.errors import DocumentErrors
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.states import AXES, SAFEGUARDS, needed
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import FITTER, Play

RULES = {
    "state_not_brought",
    "state_forbidden",
    "state_not_left",
    "watched_locked",
    "safeguard_unnamed",
    "bare_faces",
    "part_stays_on",
    "not_seen_empty",
    "temporary_stays",
    "removed_before_fitted",
}


def stage(document: dict[str, Any], name: str) -> dict[str, Any]:
    return next(s for s in document["stages"] if s["id"] == name)


def without(document: dict[str, Any], *names: str) -> dict[str, Any]:
    document["stages"] = [s for s in document["stages"] if s["id"] not in names]
    return document


def found(document: dict[str, Any]) -> list[tuple[str, str]]:
    return [
        (f.code, f.where.removeprefix("stages/"))
        for f in compute(document).findings
        if f.code in RULES
    ]


def texts(document: dict[str, Any], code: str) -> list[str]:
    return [f.text for f in compute(document).findings if f.code == code]


@pytest.mark.parametrize("name", plan_names())
def test_no_demo_plan_breaks_a_rule_of_states(name: str) -> None:
    assert found(plan_document(name)) == []


def test_full_torque_on_a_hanging_wheel_is_a_stop() -> None:
    wheel = without(plan_document("trolley-wheel"), "lower")
    stage(wheel, "down")["undoes"] = ["on stands"]
    assert {("state_not_brought", "full"), ("state_forbidden", "full")} <= set(found(wheel))
    assert "at 100 % the wheel turns" in texts(wheel, "state_forbidden")[0]


@pytest.mark.parametrize(("percent", "stopped"), [(60, False), (60.5, True)])
def test_a_hanging_wheel_is_seated_with_no_more_than_a_share(percent: float, stopped: bool) -> None:
    wheel = plan_document("trolley-wheel")
    stage(wheel, "snug")["passes"][1]["percent"] = percent
    assert (("state_forbidden", "snug") in found(wheel)) is stopped


def test_bolts_are_not_broken_loose_while_the_wheel_hangs_unheld() -> None:
    twin = plan_document("twin-drive-wheel")
    assert found(twin) == []
    slack, lift = stage(twin, "slack"), stage(twin, "liftd")
    slack["condition"] = {"wheel": "hanging"}
    stages = twin["stages"]
    stages.remove(slack)
    stages.insert(stages.index(lift) + 1, slack)
    assert found(twin) == [], "the pin holds it"
    without(twin, "pinback", "unpinback")
    assert ("state_forbidden", "slack") in found(twin)


def test_soft_foot_is_measured_on_the_feet() -> None:
    foot = plan_document("gearbox-foot")
    stage(foot, "soft")["condition"] = {"weight": "on_hoist"}
    stage(foot, "seton")["brings"] = []
    assert ("state_forbidden", "soft") in found(foot)


def test_a_joint_is_not_left_hanging() -> None:
    wheel = plan_document("trolley-wheel")
    stage(wheel, "down")["brings"] = []
    assert ("state_not_left", "lower") in found(wheel)
    assert "wheel touching" in texts(wheel, "state_not_left")[0]


def test_what_is_put_in_comes_out_and_the_plan_waits_for_it() -> None:
    hub = without(plan_document("drum-locking-hub"), "unlock")
    stops = [
        (f.code, f.severity, f.waivable) for f in compute(hub).findings if f.severity == "stop"
    ]
    assert ("temporary_stays", "stop", False) in stops
    assert any("locked out" in t for t in texts(hub, "temporary_stays"))
    assert ("watched_locked", "start") in found(hub)


def test_what_is_not_in_cannot_come_out() -> None:
    hub = plan_document("drum-locking-hub")
    stage(hub, "unlock")["undoes"] = ["locked out", "on stands"]
    assert ("removed_before_fitted", "unlock") in found(hub)


def test_a_stage_that_speaks_of_a_lock_names_it() -> None:
    hub = plan_document("drum-locking-hub")
    for one in hub["stages"]:
        for field in ("brings", "undoes", "hands_over"):
            if field in one:
                one[field] = [w for w in one[field] if w != "locked out"]
    stage(hub, "look")["condition"] = {"load": "off"}
    assert ("safeguard_unnamed", "lock") in found(hub)


def test_the_part_is_fitted_before_its_nuts() -> None:
    cover = without(plan_document("evaporator-cover"), "gasketon", "coveron")
    assert ("bare_faces", "close") in found(cover)
    anchors = plan_document("rail-stop-anchors")
    assert found(anchors) == [], "one at a time, while the others hold: the part is there"
    stage(anchors, "one")["passes"][0].pop("before_each")
    assert ("bare_faces", "one") in found(anchors)


def test_taking_apart_ends_with_the_part_off_and_seen_to_be_empty() -> None:
    cover = plan_document("evaporator-cover")
    stage(cover, "empty")["brings"] = []
    assert ("not_seen_empty", "cover") in found(cover)
    bare = without(plan_document("evaporator-cover"), "press", "cover", "oldgasket")
    assert ("part_stays_on", "crack") in found(bare)
    anchors = without(plan_document("rail-stop-anchors"), "plateoff")
    assert ("part_stays_on", "slack") in found(anchors)
    # what comes after the loosening is no loosening
    bare["stages"].append(
        {
            "id": "after",
            "kind": "inspect",
            "in": ["dismantle"],
            "condition": {"says": "taken apart"},
            "checks": [{"id": "c", "what": "Faces clean"}],
        }
    )
    assert ("part_stays_on", "crack") in found(bare)


def test_a_condition_that_no_stage_brings_about_is_said_once() -> None:
    cover = plan_document("evaporator-cover")
    stage(cover, "safe")["brings"] = ["locked out"]
    said = texts(cover, "state_not_brought")
    assert any("“pressure off”, “cold”" in t for t in said)
    assert len(said) == len({t.rpartition("(")[2] for t in said}), "once an occasion"


def test_own_states_are_brought_about_like_the_known_ones() -> None:
    nut = plan_document("drum-journal-nut")
    assert found(nut) == []
    stage(nut, "bar")["brings"] = []
    assert ("state_not_brought", "rundown") in found(nut) and (
        "removed_before_fitted",
        "unbar",
    ) in found(nut)


def test_undoing_has_a_caution_of_its_own() -> None:
    stages = {s.id: s for s in compute(plan_document("trolley-wheel")).stages}
    assert "lock_off" in stages["unlock"].cautions and "lower_down" in stages["lower"].cautions
    assert "lock_off" not in stages["leave"].cautions, "handed over is not undone"
    assert all(
        c is None or c in stages["unlock"].cautions
        for c in (SAFEGUARDS["chocked"], SAFEGUARDS["locked out"])
    )


def test_every_kind_of_joint_has_its_states() -> None:
    from orthotorq.core.documents.plan import JOINT_KINDS

    assert set(AXES) == set(JOINT_KINDS)
    for axes in AXES.values():
        words = [w for axis in axes for w in axis.states]
        assert len(words) == len(set(words)) and not set(words) & set(SAFEGUARDS)
        for axis in axes:
            assert set(axis.begins.values()) <= set(axis.choices) and axis.passing < set(
                axis.choices
            )


def test_a_condition_wants_its_states_and_what_is_in_place() -> None:
    asked = Condition(load="off", in_place=["locked out"], says="keys with the shift")
    assert needed("locking_hub", asked) == ["load off", "locked out"]
    # heat and pressure that are wanted, and states that the joint has not, are not looked for
    assert needed("gasketed_cover", Condition(pressure="on", temperature="80 °C")) == []
    assert needed("fixture", Condition(pressure="off")) == []


def test_a_run_is_not_signed_while_something_is_in() -> None:
    document = plan_document("drum-journal-nut")
    play = Play(document)
    assert play.state.fitted == []
    play.usual()
    assert play.state.fitted == ["locked out"]
    play.until("/tight/")
    assert play.state.fitted == [
        "locked out",
        "counterweight pinned",
        "drum held",
        stage(document, "bar")["what"],
    ]
    play.until("/unlock/off")
    assert play.state.fitted == ["locked out"]
    assert "skip" not in play.state_for(FITTER).actions
    play.finish()
    assert (
        play.state.fitted == [] and play.send("sign_off", "-", {"role": "fitter"})[0] == "accepted"
    )


def test_the_same_is_in_at_one_position_and_out_at_another() -> None:
    play = Play(plan_document("twin-drive-wheel"), variants=["two", "both"])
    play.until("R/pin/")
    assert "locking pin in the hub" not in play.state.fitted
    play.until("R/unpin/")
    assert "locking pin in the hub" in play.state.fitted
    play.finish()
    assert play.state.fitted == []


def test_a_way_back_names_a_stage_before() -> None:
    cover = plan_document("evaporator-cover")
    stage(cover, "gap")["checks"][0]["back"] = "paint"
    with pytest.raises(DocumentErrors, match="stage before it"):
        compute(cover)
