"""Bolts, wrenches and settings that could be taken for each other are told apart wherever they
are named."""

from __future__ import annotations

from itertools import pairwise

from orthotorq.core.planning.compute import compute
from orthotorq.core.running import first_variants, record_of
from orthotorq.core.running.log.tool_history import PULLED
from orthotorq.demo.load import plan_document
from tests.core.play import Play
from tests.plans import small


def wheels() -> Play:
    """The two trolley wheels, in the first way in which they can be fitted."""
    document = plan_document("trolley-wheel")
    return Play(document, variants=list(first_variants(compute(document))))


def test_a_bolt_of_two_positions_is_named_with_its_side() -> None:
    play = wheels()
    play.until("R/snug/hand/")
    play.answer("refuses")
    assert play.step.text.startswith("Bolt 4 (right), By hand: it refuses")
    play.answer("accept", reason="later")
    assert [d.text for d in play.state.deviations] == [
        "Bolt 4 (right) refuses at By hand; left as it is: later."
    ]


def test_a_bolt_of_one_position_is_named_by_its_number_alone() -> None:
    play = Play(small())
    play.until("/full/")
    play.answer("did_not_turn")
    assert play.step.text.startswith("Bolt 1, 100 %")


def test_a_bolt_is_named_with_its_group_where_another_group_has_its_number() -> None:
    play = Play(plan_document("gearbox-foot"))
    walked = {step.label for step in play.result.groups[0].places} & {
        step.label for step in play.result.groups[1].places
    }
    assert not walked, "numbers run on over the groups of this joint"
    document = small()
    second = {**document["groups"][0], "id": "c", "name": "Dowel bolts"}
    document["groups"].append(second)
    document["targets"]["c"] = document["targets"]["b"]
    document["stages"][0]["groups"] = ["b", "c"]
    play = Play(document)
    labels = [{p.label for p in g.places} for g in play.result.groups]
    play.until("/c.1")
    play.answer("refuses")
    assert play.step.text.startswith("Bolt 1 (Dowel bolts)" if labels[0] & labels[1] else "Bolt")


def test_another_position_is_gone_to_before_anything_is_answered_there() -> None:
    play = wheels()
    told = []
    for _ in range(400):
        if play.state.instruction is None:
            break
        step = play.step
        told.append((step.position, step.go_to))
        play.usual()
    sides = [one for one in told if one[0]]
    for before, (position, go_to) in pairwise(sides):
        assert go_to == ("" if position == before[0] else f"Go to: {str(position).upper()}")
    assert any(go_to for _, go_to in told)


def test_pulls_are_counted_for_the_wrench_of_their_group_and_settings_say_bolt_and_wrench() -> None:
    play = Play(plan_document("rail-stop-anchors"))
    groups = {p.group for s in play.result.stages for p in s.passes if p.settings}
    assert len(groups) > 1
    settings = {
        f"{s.id}/{p.id}/{p.group}": [x.model_dump() for x in p.settings[:1]]
        for s in play.result.stages
        for p in s.passes
        if p.settings
    }
    wrench = {key.rsplit("/", 1)[1]: found[0]["tool"] for key, found in settings.items()}
    names = {t.name: t.id for t in play.result.tools}
    tools = [
        {"tool": names[name], "serial": f"T-{names[name]}", "name": name, "until": None}
        for name in dict.fromkeys(wrench.values())
    ]
    play = Play(plan_document("rail-stop-anchors"), tools=tools, bound_settings=settings)
    play.finish()
    record = record_of(play.result, play.facts, play.now)
    assert len(record.tools) == len(tools)
    assert all(tool.pulls > 0 for tool in record.tools)
    pulled = sum(
        1
        for f in play.facts
        if f.kind == "answer"
        and f.payload["answer"] in PULLED
        and f.step.split("/")[2] in {key.split("/")[1] for key in settings}
    )
    assert sum(tool.pulls for tool in record.tools) == pulled
    heads = [c.setting for t in record.tables for c in t.columns if c.setting]
    for key, found in settings.items():
        one = found[0]
        both = f"at the bolt, {one['text']} on the wrench"
        told = [words for words in heads if both in words or words == one["text"]]
        assert told, key
        assert any(both in words for words in told) is (
            abs(one["settable_Nm"] - one["bolt_torque_Nm"]) > 1e-6
        )
