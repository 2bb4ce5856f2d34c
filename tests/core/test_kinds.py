"""What every kind of pass and of stage must keep, whatever it is: its form, what the Bench shows of
it, what it asks."""

from __future__ import annotations

from typing import Any, get_args

import pytest
from pydantic import BaseModel

from orthotorq.core.kinds.pass_kind import PassKind
from orthotorq.core.kinds.prompts import ITEMS, Ask, word_of
from orthotorq.core.kinds.registry import ANSWERS, PASS_KINDS
from orthotorq.core.kinds.stage_kind import StageKind
from orthotorq.core.kinds.stage_registry import STAGE_KINDS
from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.editing import edit
from orthotorq.core.running.walk.actions import ACTIONS, HELD, NEXT_SIGNATURE, STATUS
from orthotorq.core.sums import SUMS
from orthotorq.core.sums.screen import ASKED, carried
from tests.core.play import FITTER, SUPERVISOR, Play
from tests.plans import small

EVERYBODY = frozenset({"planner", "fitter", "supervisor", "administrator"})


@pytest.mark.parametrize(
    "kind",
    [*PASS_KINDS.values(), *STAGE_KINDS.values()],
    ids=lambda k: getattr(k, "do", None) or k.kind,
)
def test_what_the_bench_shows_is_in_the_form_and_its_choices_are_taken(
    kind: PassKind | StageKind,
) -> None:
    if kind.form is None:
        assert kind.fields == ()
        return
    fields = kind.all_fields if isinstance(kind, PassKind) else kind.fields
    for spec in fields:
        assert stands_in(kind.form, spec.name.split(".")), spec.name
        assert spec.label and (spec.kind not in ("choice", "boxes") or spec.choices)


def stands_in(form: type[BaseModel], name: list[str]) -> bool:
    """Whether a form has a field by its name in the document; a name with dots leads into its
    parts."""
    first, *rest = name
    found = next(
        (field for own, field in form.model_fields.items() if (field.alias or own) == first), None
    )
    if found is None or not rest:
        return found is not None
    parts = [found.annotation, *get_args(found.annotation)]
    return any(
        stands_in(part, rest)
        for part in parts
        if isinstance(part, type) and issubclass(part, BaseModel)
    )


@pytest.mark.parametrize("do", [do for do, k in PASS_KINDS.items() if k.listed])
def test_every_choice_of_a_field_of_a_pass_is_one_that_a_plan_takes(do: str) -> None:
    kind = PASS_KINDS[do]
    for words in kind.listed:
        for spec in kind.fields:
            for choice in spec.choices:
                document: Any = small()
                steel = {"material": "carbon steel", "thickness": "40 mm"}
                document["groups"][0].update(
                    stack=[steel], into={"kind": "nut", "engaged": "13 mm"}
                )
                document, _ = edit(document, "add_pass", {"stage": "t", "listed": words})
                document["stages"][0]["passes"][-1][spec.name] = choice.value
                compute(document)


def asks_of(kind: PassKind) -> list[Ask]:
    """What a kind asks, where it always asks the same."""
    return [kind.ask] if hasattr(kind, "ask") else []


def test_answers_have_words_and_keys_of_their_own() -> None:
    every = [*ITEMS.values(), *(ask for kind in PASS_KINDS.values() for ask in asks_of(kind))]
    assert len(every) > 10
    for ask in every:
        shown = [*ask.choices, *ask.wrong]
        assert len({c.word for c in shown}) == len(shown)
        keys = [c.key for c in ask.choices]
        assert len(set(keys)) == len(keys), ask.step
        # the keys of the screen itself are never an answer
        assert not {"w", "c", "a", "t", "s", "?"} & set(keys), ask.step
        assert {c.word for c in shown} <= set(ANSWERS)
        assert ask.exception is None or ask.exception in {c.word for c in shown}
        assert ask.shows in ("setting", "turn", "clock", "label", "words")


def test_what_can_go_wrong_says_so_in_the_run_and_in_the_record() -> None:
    for kind in PASS_KINDS.values():
        for table in (kind.sayings, kind.failures, kind.halts):
            for text, advice in table.values():
                assert text and advice
        if kind.exhausted is not None:
            assert kind.exhausted in kind.halts
        for code, choices in kind.stops.items():
            # what may be left as it is has words for the record
            assert code in kind.halts and (
                "accept" not in map(word_of, choices) or code in kind.sayings
            )


ROLES = ("planner", "fitter", "supervisor", "administrator")


def stood(status: str) -> Play:
    """A run that stands in a status, with nothing left to accept."""
    play = Play(small())
    if status == "running":
        play.until("/h/r1/b.2")
        return play
    play.finish()
    if status in ("signed", "closed"):
        assert play.send("sign_off", "-", {"role": "fitter"})[0] == "accepted"
    if status == "closed":
        assert play.send("sign_off", "-", {"role": "supervisor"}, SUPERVISOR)[0] == "accepted"
    if status == "abandoned":
        assert play.send("abandon", "-", {"reason": "the cover is cracked"})[0] == "accepted"
    return play


def payload_of(action: str, play: Play) -> tuple[str, str, dict[str, Any]]:
    """(kind of event, step, payload) that would do an action."""
    state = play.state
    step = state.instruction.step if state.instruction else "-"
    last = state.last
    return {
        "answer": ("answer", step, {"answer": "done"}),
        "skip": ("answer", step, {"answer": "skip", "reason": "why"}),
        "correct": (
            "correct",
            last.step if last else "-",
            {"voids": last.event if last else "x", "answer": None},
        ),
        "resume": ("resume", "-", {"problem": "x", "reason": "why"}),
        "tool": ("tool", "-", TOOL),
        "redo": ("redo", step, {"stage": "t", "reason": "why"}),
        "problem": ("problem", "-", {"text": "torn"}),
        "note": ("note", "-", {"text": "seen"}),
        "suggest": ("suggest", "-", {"text": "thinner washer"}),
        "abandon": ("abandon", "-", {"reason": "why"}),
        "photo": ("photo", "-", {"photo": "x"}),
        "sign_fitter": ("sign_off", "-", {"role": "fitter"}),
        "sign_supervisor": ("sign_off", "-", {"role": "supervisor"}),
    }[action]


TOOL = {"tool": "w", "serial": "T-9", "reason": "dropped"}
TRIED = (
    "resume",
    "tool",
    "answer",
    "skip",
    "correct",
    "redo",
    "problem",
    "note",
    "suggest",
    "abandon",
    "photo",
    "sign_fitter",
    "sign_supervisor",
)


@pytest.mark.parametrize("status", STATUS)
@pytest.mark.parametrize("role", ROLES)
def test_an_action_that_is_offered_is_accepted_and_no_other(status: str, role: str) -> None:
    play = stood(status)
    assert play.state.status == status
    offered = set(play.state_for(frozenset({role})).actions)
    for action in TRIED:
        kind, step, payload = payload_of(action, play)
        facts, now = list(play.facts), play.now
        verdict, text = play.send(kind, step, payload, frozenset({role}))
        play.facts, play.now = facts, now
        assert (verdict == "accepted") is (action in offered), (action, verdict, text)


def test_every_action_is_somebodys_and_every_signature_has_its_action() -> None:
    for name, action in ACTIONS.items():
        assert action.roles and action.roles <= EVERYBODY and set(action.when) <= set(STATUS), name
    assert {f"sign_{role}" for role in NEXT_SIGNATURE.values()} <= set(ACTIONS)
    assert set(HELD) == {"answer", "round", "skip", "correct", "redo", "tool"}
    assert ACTIONS["answer"].roles >= FITTER


def test_sums_are_asked_with_their_own_fields_and_carry_a_torque() -> None:
    assert set(ASKED) <= set(SUMS)
    for name, asked in ASKED.items():
        fields = {f.name for f in SUMS[name].fields}
        assert set(asked.fields) <= fields and set(asked.begins) <= fields
        assert 0 < len(asked.fields) <= 5
    assert carried("torque", {}, {"torque_Nm": 430.0}).endswith("N·m")
    assert carried("preload", {"torque": "430 N·m"}, {"preload_N": 1.0}) == "430 N·m"
    assert (
        carried("units", {"torque": "430 N·m"}, {}) == ""
        and carried("torque", {}, {"torque_Nm": None}) == ""
    )
