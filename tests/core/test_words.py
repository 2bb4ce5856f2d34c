"""The words that people read: no riddle on a button, no archaism, nothing internal; one file of
terms."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from orthotorq.core.glossary import glossary
from orthotorq.core.planning.findings import RULES
from tests.strings import ROOT, shown_strings

#: words that were replaced by a term or a plain verb; a pattern of whole words
FORBIDDEN = (
    "keep it",
    "keep aside",
    "kept aside",
    "leave it aside",
    "take it over",
    "take out",
    "taken on",
    "take on",
    "last one out",
    "lists in and out",
    "read it in",
    "find the figure",
    "own face",
    "edge only",
    "bolts stand",
    "coming back",
    "come back",
    "what comes when",
    "target comes from",
    "these are mine",
    "counts again",
    "to be mended",
    "seen by",
    "give or take",
    "not understood",
    "to look at now",
    "half done",
    "nothing is to settle",
    "parts were replaced",
    "write a note",
    "hand over to",
    "take over here",
    "something is wrong",
    "skip this step",
    "clicked, it turned",
    "not to be used now",
    "let it go again",
    "let it be used",
    "check it",
    "has touched",
    "strike out",
    "in store",
    "our records teach",
    "own entries",
    "works as",
    "out of action",
    "is it one figure",
    "what the bolt allows",
    "which thread is it",
    "put away this",
    "comes to something",
    "teaches",
    "tires",
    "somebody else",
    "stands with",
    "stands in several",
)
_FORBIDDEN = re.compile(rf"\b(?:{'|'.join(FORBIDDEN)})\b", re.I)
#: what one word says alone: the act is plain where it stands; any other has its object, or a label
PLAIN = {
    "Calendar",
    "Cancel",
    "Clear",
    "Close",
    "Discard",
    "Enter",
    "Glossary",
    "Help",
    "Import",
    "Pause",
    "Redo",
    "Refresh",
    "Save",
    "Search",
    "Stop",
    "Undo",
    "Use",
    "Waive",
}
_ID = re.compile(r"\b[a-z]+_[a-z]+\b")
_BUTTON = re.compile(
    r"<(?:Button|Word|GloveButton)\b((?:[^<>]|=>)*)>([^<>{}]+)</(?:Button|Word|GloveButton)\s*>"
)
#: a name in braces that nothing was put in for
_OPEN = re.compile(r"[{][a-z_]+[}]")


def test_no_string_says_what_was_replaced() -> None:
    found = [
        f"{path}:{line}: {text}" for path, line, text in shown_strings() if _FORBIDDEN.search(text)
    ]
    assert found == []


def test_strings_of_screens_and_core_are_found() -> None:
    """What reads the strings sees those of both: else the test above could not fail."""
    texts = {text for _, _, text in shown_strings()}
    assert {
        "Torque target",
        "Waive with a reason …",
        "Remove bolt group",
        "Stopped before the angle",
    } <= texts


@pytest.mark.parametrize("word", ["Take it over", "nothing is to settle", "It was kept aside."])
def test_a_forbidden_word_is_seen(word: str) -> None:
    assert _FORBIDDEN.search(word)


def test_findings_name_no_internal_id() -> None:
    for code, rule in RULES.items():
        for text in (rule.text, rule.remedy):
            assert _ID.search(re.sub(r"\{[^}]*\}", "", text)) is None, f"{code}: {text}"


def test_a_button_of_one_word_says_what_it_does() -> None:
    found, seen = [], 0
    for path in sorted((ROOT / "frontend" / "src").rglob("*.svelte")):
        for button in _BUTTON.finditer(path.read_text(encoding="utf-8")):
            words = " ".join(button[2].split())
            seen += 1
            labelled = "label=" in button[1] or not any(letter.isalpha() for letter in words)
            if len(words.split()) == 1 and words not in PLAIN and not labelled:
                found.append(f"{path.name}: {words}")
    assert found == [] and seen > 100


def test_nothing_that_is_shown_has_an_open_placeholder() -> None:
    """What plans, runs, records and screens said when they were read; the tables of texts show
    theirs on purpose."""
    pages = [p for p in (ROOT / "tests" / "golden").rglob("*.txt") if p.name != "tables.txt"]
    found = [(p.name, m[0]) for p in pages for m in _OPEN.finditer(p.read_text(encoding="utf-8"))]
    assert found == [] and len(pages) > 10


def test_terms_are_one_each_and_sentences() -> None:
    names = [term.name.lower() for term in glossary()]
    assert len(set(names)) == len(names) > 50
    for term in glossary():
        assert term.meaning.endswith(".") and term.meaning[0].isupper(), term
        assert term.standard == "" or re.match(r"(?:ISO|EN|VDI|ASME) ", term.standard), term


def test_the_glossary_is_printed_in_the_docs() -> None:
    page = (Path(ROOT) / "docs" / "glossary.md").read_text(encoding="utf-8")
    for term in glossary():
        assert f"| **{term.name}** | {term.meaning} |" in page, (
            "./torq cli terms > docs/glossary.md"
        )
