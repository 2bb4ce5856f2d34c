"""The condition of a joint: the table row by row, failures beside it, acts, and what no sequence
may come to."""

from __future__ import annotations

from pathlib import Path
from random import Random
from typing import Any

import pytest

from orthotorq.core.forms.outcome import FailureOut, PartOutcome, RunOutcome
from orthotorq.core.joint_condition import (
    CONDITIONS,
    RANK,
    ROWS,
    Act,
    PartCondition,
    Past,
    condition_of,
    parts_of,
)
from orthotorq.core.joint_condition.rules import Case, row_for

TODAY = "2031-05-01"
LEAK = FailureOut(
    step="-/fill/watch/-/-",
    stage="fill",
    title="Watch it fill",
    code="moved",
    text="It leaks.",
    needs=["fill"],
)


def part(**more: Any) -> PartOutcome:
    """A group of eight bolts that was tightened whole."""
    made: dict[str, Any] = {
        "position": None,
        "group": "b",
        "group_name": "",
        "bolts": 8,
        "turned": True,
        "slackened": False,
        "pulled": True,
        "checked": 8,
        "moved": 0,
        "held": ["tight", "fill"],
    }
    return PartOutcome(**(made | more))


def run(
    number: int = 1,
    occasion: str = "install",
    status: str = "closed",
    *parts: PartOutcome,
    **more: Any,
) -> Past:
    """A run that counts from the day of its number."""
    made = RunOutcome(
        number=number, occasion=occasion, status=status, parts=list(parts) or [part()], **more
    )
    return Past(f"2031-04-{number:02}", made)


def after(*past: Past | Act) -> PartCondition:
    (found,) = parts_of([part(turned=False)], past)
    return found


def words(*past: Past | Act) -> str:
    return after(*past).word(TODAY)


#: by row: what stood before, the run, what stands then
TABLE: dict[str, tuple[str, Past, str]] = {
    "under way": ("proven", run(2, "recheck", "running"), "unknown"),
    "cut short": ("proven", run(2, "install", "abandoned", ended_why="storm"), "unknown"),
    "not ended": ("proven", run(2, "install", "abandoned", part(turned=False)), "proven"),
    "dismantled": ("proven", run(2, "dismantle", "finished"), "apart"),
    "nothing turned": ("unknown", run(2, "install", "closed", part(turned=False)), "unknown"),
    "provisional": ("proven", run(2, "install", "closed", provisional=["by feel"]), "provisional"),
    "not signed": ("unknown", run(2, "install", "signed"), "unknown"),
    "by the plan": ("apart", run(2, "install", "closed"), "proven"),
    "moved, not signed": ("proven", run(2, "recheck", "finished", part(moved=2)), "moved"),
    "recheck not signed": ("moved", run(2, "recheck", "signed"), "moved"),
    "tightened again": (
        "unknown",
        run(2, "recheck", "closed", part(slackened=True, checked=0)),
        "proven",
    ),
    "moved": ("proven", run(2, "recheck", "closed", part(moved=1)), "moved"),
    "held": ("moved", run(2, "recheck", "closed"), "proven"),
    "looked at": (
        "moved",
        run(2, "recheck", "closed", part(turned=False, pulled=False, checked=0)),
        "moved",
    ),
}
#: how a group comes to stand at each word
BEFORE: dict[str, list[Past]] = {
    "proven": [run(1)],
    "unknown": [],
    "apart": [run(1, "dismantle", "finished")],
    "moved": [run(1), Past("2031-04-01T2", run(9, "recheck", "closed", part(moved=1)).run)],
}


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row.name)
def test_every_row_of_the_table(row: Any) -> None:
    before, past, then = TABLE[row.name]
    assert words(*BEFORE[before]) == before
    assert row_for(Case(before, past.run, past.run.parts[0])).name == row.name
    assert words(*BEFORE[before], past) == then


def test_a_look_is_not_a_pull() -> None:
    look = run(3, "recheck", "closed", part(turned=False, pulled=False, checked=0))
    for before, past in BEFORE.items():
        found = after(*past, look)
        assert found.word(TODAY) == before, "a look raises nothing"
        assert found.looked_at == "2031-04-03", "it is told that somebody was there"


def test_a_recheck_raises_nothing_that_is_not_known() -> None:
    held = run(3, "recheck", "closed")
    assert words(held) == "unknown"
    assert words(run(1, provisional=["by feel"]), held) == "provisional"
    assert words(run(1), Act("opened", "2031-04-02", "Tam"), held) == "unknown"
    assert words(run(1), Act("replaced", "2031-04-02", "Tam", "all nuts"), held) == "unknown"


def test_what_failed_and_was_left_is_not_used_until_it_holds_again() -> None:
    leaking = run(1, "install", "closed", part(failures=[LEAK]))
    found = after(leaking)
    assert found.word(TODAY) == "do_not_use" and "It leaks." in found.why(TODAY)
    assert "Repair" in found.clears(TODAY)
    # a recheck of other stages does not clear it; one in which the watch itself held does
    assert words(leaking, run(2, "recheck", "closed", part(held=["look"]))) == "do_not_use"
    assert words(leaking, run(2, "recheck", "closed", part(held=["look", "fill"]))) == "proven"
    assert words(leaking, run(2, "recheck", "signed", part(held=["look", "fill"]))) == "do_not_use"
    assert words(leaking, run(2)) == "proven"
    assert words(leaking, run(2, "install", "closed", part(failures=[LEAK]))) == "do_not_use"


def test_a_failure_counts_at_once_and_whatever_the_run_comes_to() -> None:
    for status in ("running", "finished", "signed", "closed", "abandoned"):
        assert words(run(1), run(2, "recheck", status, part(failures=[LEAK]))) == "do_not_use"


def test_used_as_is_has_conditions_and_an_end() -> None:
    leaking = run(1, "install", "closed", part(failures=[LEAK]))
    act = Act("use_as_is", "2031-04-02", "Runa", "weeps only cold", "half pressure", "2031-06-01")
    found = after(leaking, act)
    assert found.word(TODAY) == "limited" and found.until(TODAY) == "2031-06-01"
    assert "half pressure" in found.why(TODAY) and "Runa" in found.why(TODAY)
    assert found.word("2031-06-01") == "limited"
    assert found.word("2031-06-02") == "do_not_use", "the acceptance ends on its day"
    # what fails afterwards was not accepted
    again = run(3, "recheck", "closed", part(failures=[LEAK]))
    assert words(leaking, act, again) == "do_not_use"
    assert words(leaking, act, run(3)) == "proven"


def test_an_acceptance_raises_nothing_else() -> None:
    act = Act("use_as_is", "2031-04-02", "Runa", "as is", "slow", "2031-06-01")
    assert words(act) == "unknown", "there was nothing to accept"
    cut = run(1, "install", "abandoned", part(failures=[LEAK]))
    assert words(cut) == "do_not_use" and words(cut, act) == "unknown"


def test_somebody_says_that_it_is_not_safe() -> None:
    said = Act("not_safe", "2031-04-02", "Tam", "the flange is cracked")
    assert words(run(1), said) == "do_not_use"
    assert words(run(1), said, run(3, "recheck", "closed")) == "do_not_use"
    assert words(run(1), said, run(3)) == "proven"


def test_one_position_alone() -> None:
    two = [part(position="L", position_name="left"), part(position="R", position_name="right")]
    cut = [two[0], two[1].model_copy(update={"failures": [LEAK]})]
    past: list[Past | Act] = [run(1, "install", "closed", *cut)]
    by = {p.name: p.word(TODAY) for p in parts_of([], past)}
    assert by == {"left": "proven", "right": "do_not_use"}
    worst = condition_of(parts_of([], past), TODAY)
    assert worst is not None and worst.name == "right"
    # a run of the right wheel only leaves the left one as it is
    past.append(run(2, "install", "closed", two[1]))
    assert {p.name: p.word(TODAY) for p in parts_of([], past)} == {
        "left": "proven",
        "right": "proven",
    }
    opened = Act("opened", "2031-04-03", "Tam", position="R")
    assert [p.word(TODAY) for p in parts_of([], [*past, opened])] == ["proven", "unknown"]


def test_another_way_of_the_plan_leaves_no_group_behind() -> None:
    six = run(2, "install", "closed", part(group="six"))
    assert [p.key[1] for p in parts_of([part(turned=False)], [run(1), six])] == ["six"]


def test_a_look_at_another_way_of_the_plan_makes_no_group() -> None:
    both = [
        part(turned=False, pulled=False, checked=0),
        part(group="six", turned=False, pulled=False, checked=0),
    ]
    (found,) = parts_of([], [run(1), run(2, "recheck", "closed", *both)])
    assert found.key[1] == "b" and found.word(TODAY) == "proven" and found.looked_at == "2031-04-02"


def _random_past(chance: Random) -> list[Past | Act]:
    out: list[Past | Act] = []
    for number in range(1, chance.randint(2, 8)):
        if chance.random() < 0.2:
            out.append(
                Act(
                    chance.choice(["opened", "not_safe", "use_as_is"]),
                    f"2031-04-{number:02}",  # type: ignore[arg-type]
                    "Runa",
                    "w",
                    "c",
                    "2031-09-01",
                )
            )
            continue
        turned = chance.random() < 0.7
        made = part(
            turned=turned,
            slackened=turned and chance.random() < 0.3,
            pulled=turned and chance.random() < 0.7,
            checked=8 if turned else 0,
            moved=chance.choice([0, 0, 2]) if turned else 0,
            failures=[LEAK] if chance.random() < 0.25 else [],
            held=["tight", "fill"] if chance.random() < 0.5 else [],
        )
        out.append(
            run(
                number,
                chance.choice(["install", "recheck", "dismantle"]),
                chance.choice(["running", "finished", "signed", "closed", "abandoned"]),
                made,
                provisional=["by feel"] if chance.random() < 0.15 else [],
            )
        )
    return out


@pytest.mark.parametrize("seed", range(20))
def test_no_sequence_comes_to_more_than_was_proven(seed: int) -> None:
    chance = Random(seed)
    for _ in range(100):
        past = _random_past(chance)
        for length in range(1, len(past) + 1):
            before, last, now = after(*past[: length - 1]), past[length - 1], after(*past[:length])
            # from “taken apart” to “unknown” nothing is known better
            raised = RANK[now.word(TODAY)] > max(RANK[before.word(TODAY)], RANK["unknown"])
            assert now.why(TODAY) and now.clears(TODAY) and now.word(TODAY) in CONDITIONS
            if isinstance(last, Act):
                assert not raised or (last.kind == "use_as_is" and now.word(TODAY) != "proven")
                continue
            found = last.run.parts[0]
            if found.failures:
                assert now.word(TODAY) == "do_not_use", "what failed and was left is not used"
            if raised:
                assert last.run.whole or last.run.provisional, (before, last)
            if now.word(TODAY) == "proven" and before.word(TODAY) != "proven":
                assert last.run.whole and not last.run.provisional and not found.failures
                # only a pull raises, and only what was looked at again clears a failure
                cleared = before.open and set(LEAK.needs) <= set(found.held)
                assert found.pulled or last.run.occasion == "install" or cleared
            lowered = RANK[now.word(TODAY)] < RANK[before.word(TODAY)]
            assert not lowered or now.why(TODAY) != before.why(TODAY), (
                "nothing is lowered without a word"
            )


def test_the_table_is_printed_in_the_docs() -> None:
    page = (Path(__file__).parents[2] / "docs" / "conditions.md").read_text(encoding="utf-8")
    for row in ROWS:
        then = CONDITIONS[row.to].title if row.to else "as before"
        assert f"| {row.name} | {row.says} | {then} |" in page, (
            "write it anew: ./torq cli conditions > docs/conditions.md"
        )
    for one in CONDITIONS.values():
        assert f"| **{one.title}** | {one.when} |" in page
