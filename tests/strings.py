"""Every string that a person may see, with where it stands: what is read for its words."""

from __future__ import annotations

import ast
import json
import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
#: where strings for people are made; tests, stores and the web server's own texts are not
PYTHON = ("core", "services", "exchange", "cli", "demo")
_MARKUP = re.compile(r"<(script|style)\b.*?</\1>", re.S)
_COMMENT = re.compile(r"<!--.*?-->|/\*.*?\*/|(?<![:'\"])//[^\n]*", re.S)
_LITERAL = re.compile(r"'((?:[^'\\\n]|\\.)*)'|`((?:[^`\\]|\\.)*)`|\"((?:[^\"\\\n]|\\.)*)\"")
_CODE = re.compile(r"[{][^{}]*[}]")
#: what is no words: addresses, classes, keys, modules
_NO_WORDS = re.compile(r"^[#./$@]|^[a-z0-9_./:$%{}\[\]-]*$")
#: a list of classes of a style sheet
_CLASSES = re.compile(r"^[a-z0-9:./\[\]()%_&># -]*[a-z0-9](?:-\[|[-:])[a-z0-9:./\[\]()%_&>#\n -]*$")


def _docstrings(tree: ast.AST) -> set[int]:
    out = set()
    for node in ast.walk(tree):
        body = getattr(node, "body", None)
        if isinstance(body, list) and body and isinstance(body[0], ast.Expr):
            out.add(id(body[0].value))
    return out


def _python(path: Path) -> Iterator[tuple[int, str]]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    said = _docstrings(tree)
    parts = {
        id(part)
        for node in ast.walk(tree)
        if isinstance(node, ast.JoinedStr)
        for part in node.values
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            whole = "".join(p.value if isinstance(p, ast.Constant) else "{}" for p in node.values)
            yield node.lineno, whole
        elif (
            isinstance(node, ast.Constant)
            and isinstance(node.value, str)
            and id(node) not in said
            and id(node) not in parts
        ):
            yield node.lineno, node.value


def _svelte(path: Path) -> Iterator[tuple[int, str]]:
    whole = path.read_text(encoding="utf-8")

    def line(at: int) -> int:
        return whole.count("\n", 0, at) + 1

    def blank(found: re.Match[str]) -> str:
        return re.sub(r"[^\n]", " ", found[0])

    code = _COMMENT.sub(blank, whole)
    for found in _LITERAL.finditer(code):
        text = next((part for part in found.groups() if part is not None), "")
        yield line(found.start()), text
    if path.suffix == ".svelte":
        markup = re.sub(r"=\"[^\"]*\"|='[^']*'", blank, _MARKUP.sub(blank, code))
        for _ in range(6):
            markup = _CODE.sub(blank, markup)
        for found in re.finditer(r">([^<>]+)<", markup):
            text = " ".join(found[1].split())
            yield line(found.start()), text


def _template(path: Path) -> Iterator[tuple[int, str]]:
    """The words of a sheet, without its styles and what is filled in."""
    whole = path.read_text(encoding="utf-8")
    words = re.sub(r"<style>.*?</style>|[{][%{].*?[%}][}]|<[^<>]*>", "\n", whole, flags=re.S)
    for text in filter(None, map(str.strip, words.splitlines())):
        yield whole.count("\n", 0, whole.find(text)) + 1, text


def shown_strings() -> Iterator[tuple[str, int, str]]:
    """(file, line, string) of everything that may be read by a person."""
    for area in PYTHON:
        for path in sorted((ROOT / "src" / "orthotorq" / area).rglob("*.py")):
            for at, text in _python(path):
                if text.strip() and not _NO_WORDS.match(text):
                    yield str(path.relative_to(ROOT)), at, text
    for path in sorted((ROOT / "src" / "orthotorq" / "exchange" / "templates").glob("*.html")):
        for at, text in _template(path):
            yield str(path.relative_to(ROOT)), at, text
    for path in sorted((ROOT / "docs" / "guide").glob("*.md")):
        for at, text in enumerate(path.read_text(encoding="utf-8").splitlines(), 1):
            yield str(path.relative_to(ROOT)), at, text
    sentences = ROOT / "frontend" / "src" / "lib" / "sentences.json"
    for at, text in enumerate(json.loads(sentences.read_text(encoding="utf-8")).values(), 2):
        yield str(sentences.relative_to(ROOT)), at, text
    for path in sorted((ROOT / "frontend" / "src").rglob("*")):
        if path.suffix not in (".svelte", ".ts") or path.name == "schema.d.ts":
            continue
        for at, text in _svelte(path):
            if text.strip() and not _NO_WORDS.match(text) and not _CLASSES.match(text):
                yield str(path.relative_to(ROOT)), at, text
