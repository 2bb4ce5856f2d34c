"""Messages: every code has its sentence, every error carries code, field and allowed range."""

from __future__ import annotations

import re
import string

import pytest

from orthotorq.core.errors import BadQuantity, Impossible, OrthotorqError, UnknownName, in_range
from orthotorq.core.forms.errors import DocumentErrors, FieldError
from orthotorq.core.kinds.prompts import CONDITION, ITEMS, decision
from orthotorq.core.kinds.registry import ANSWERS, PASS_KINDS
from orthotorq.core.messages import TEXTS, Message, Origin, Refusal, render
from orthotorq.core.messages.origin import TEXTS as ORIGINS
from orthotorq.core.planning.cautions import ALWAYS, CAUTIONS
from orthotorq.core.planning.findings import RULES
from orthotorq.core.running.walk.texts import REDO, REPEAT, SET, deviation_texts, fail_texts
from orthotorq.core.working_text import shown_figure


def test_every_code_has_a_sentence_and_no_sentence_lacks_a_code() -> None:
    assert set(TEXTS) == {*Message, *Refusal}
    assert set(ORIGINS) == set(Origin)


@pytest.mark.parametrize("code", [*Message, *Refusal])
def test_every_sentence_is_filled_in_whole(code: Message | Refusal) -> None:
    fields = {name for _, name, _, _ in string.Formatter().parse(TEXTS[code]) if name}
    text = render(code, **dict.fromkeys(fields, "something"))
    assert "{" not in text
    assert text.endswith((".", "…")) or TEXTS[code].endswith("}")
    with pytest.raises(KeyError):
        render(code) if fields else {}["no parameters: nothing to leave out"]


def test_findings_cautions_and_run_texts_are_sentences() -> None:
    for rule in RULES.values():
        assert rule.text[-1] in ".:" or rule.text.endswith("}")
        assert rule.remedy.endswith(".")
    asks = [
        CONDITION,
        *ITEMS.values(),
        decision(("repair",)),
        *(k.ask for k in PASS_KINDS.values()),
    ]
    said = [x for ask in asks for x in (ask.instruction, ask.hint) if x]
    for text in (*CAUTIONS.values(), ALWAYS, REDO, REPEAT, SET, *said):
        assert text[0].isupper()
        assert text[-1] in ".?"
    assert {c.word for ask in asks for c in (*ask.choices, *ask.wrong)} <= set(ANSWERS)
    assert all(
        re.search(r"[.?}]$", text) and (not advice or advice[-1] in ".?")
        for text, advice in deviation_texts().values()
    )
    assert all(re.search(r"[.?]$", advice) for _, advice in fail_texts().values())


def test_the_answers_of_a_step_have_a_key_each() -> None:
    for kind in PASS_KINDS.values():
        keys = [c.key for c in (*kind.ask.choices, *kind.ask.wrong)]
        assert len(keys) == len(set(keys)), kind.do
        assert kind.ask.exception is None or kind.ask.exception in kind.ask.words()


def test_errors_are_both_ours_and_the_builtin_kind() -> None:
    for kind, builtin in (
        (BadQuantity, ValueError),
        (Impossible, ValueError),
        (UnknownName, LookupError),
    ):
        error = kind(Message.MISSING_FIELD, ("groups", 0))
        assert isinstance(error, builtin)
        assert isinstance(error, OrthotorqError)
        assert (error.code, error.path) == (Message.MISSING_FIELD, ("groups", 0))


def test_a_range_error_names_value_and_range() -> None:
    assert in_range(0.1, 0, 1, "0 to 1") == 0.1
    with pytest.raises(Impossible, match=r"1\.5 is outside .*expected 0 to 1"):
        in_range(1.5, 0, 1, "0 to 1")
    with pytest.raises(Impossible):
        in_range(float("nan"), 0, 1, "0 to 1")


def test_document_errors_keep_every_field() -> None:
    errors = [FieldError(("groups", 0, "id"), "x", "One."), FieldError(("title",), "y", "Two.")]
    assert [e.pointer() for e in DocumentErrors(errors).errors] == ["groups/0/id", "title"]
    assert str(DocumentErrors(errors)) == "groups/0/id: One.; title: Two."


@pytest.mark.parametrize(
    ("key", "value", "shown"),
    [
        ("torque_Nm", 100.0, ("torque", "100 N·m", "73.76 ft·lbf")),
        ("preload_N", 1500.0, ("preload", "1.5 kN", "337.2 lbf")),
        ("preload_low_rss_N", 500.0, ("preload low, root-sum-square", "500 N", "112.4 lbf")),
        ("ok", True, ("ok", "yes", "")),
        ("hole_mm", None, ("hole", "–", "")),
        ("order", [1, 3, 2], ("order", "1 3 2", "")),
        ("order", [[1, 3], [2, 4]], ("order", "1+3 2+4", "")),
        ("certainty", "sure", ("certainty", "sure", "")),
        ("stress_area_mm2", 352.504, ("stress area", "352.5 mm²", "")),
        ("turns", 8.0, ("turns", "8", "")),
    ],
)
def test_figures_are_shown_with_their_units(
    key: str, value: object, shown: tuple[str, str, str]
) -> None:
    assert shown_figure(key, value) == shown
