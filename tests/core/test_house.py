"""The house: imports run one way, the core is pure, files and functions stay short."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[2]
SOURCE = ROOT / "src" / "orthotorq"
PYTHON = sorted(SOURCE.rglob("*.py"))


def test_import_contracts_hold() -> None:
    done = subprocess.run(
        [Path(sys.executable).with_name("lint-imports"), "--no-cache"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stdout[-3000:]


def test_the_core_reads_no_files_but_its_tables_and_uses_no_clock_or_chance() -> None:
    for path in sorted((SOURCE / "core").rglob("*.py")):
        text = path.read_text(encoding="utf-8")
        found = re.findall(
            r"^\s*(?:from|import) (time|datetime|random|os|pathlib|socket|uuid|secrets)\b",
            text,
            re.M,
        )
        # days are counted there; what day it is comes from outside
        counts_days = path.parent.name == "rechecking" or path.name == "due_dates.py"
        assert found in ([], ["datetime"] if counts_days else []), f"{path.name} imports {found}"
        assert not re.search(r"\.(?:now|today|utcnow)\(", text), path.name
        assert "open(" not in text, path.name
        if "importlib.resources" in text:
            assert path.name in ("reader.py", "templates.py", "words.py"), (
                "tables, plans to begin from, words of manuals"
            )


def test_digits_are_those_that_a_number_is_read_of() -> None:
    # “²” is a digit to `isdigit`, and no number to `int`
    assert [path.name for path in PYTHON if ".isdigit()" in path.read_text(encoding="utf-8")] == []


#: one table each, of rows that belong in one place
TABLES = ("thresholds.py", "table.py")


def test_files_and_functions_stay_short() -> None:
    for path in PYTHON:
        text = path.read_text(encoding="utf-8")
        if path.name not in TABLES:
            assert sum(1 for line in text.splitlines() if line.strip()) <= 400, path
        for node in ast.walk(ast.parse(text)):
            if (
                isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef)
                and "migrations" not in path.parts
            ):
                assert (node.end_lineno or 0) - node.lineno < 60, f"{path.name}: {node.name}"


def lengths(paths: list[Path]) -> list[int]:
    """Lines of each file, the shortest first."""
    return sorted(n for n in (len(p.read_text(encoding="utf-8").splitlines()) for p in paths) if n)


def test_most_files_are_read_at_a_glance() -> None:
    for paths, middle, most in (
        (PYTHON, 115, 285),
        (sorted((ROOT / "frontend" / "src").rglob("*.svelte")), 70, 150),
    ):
        found = lengths(paths)
        assert found[len(found) // 2] <= middle
        assert found[int(len(found) * 0.9)] <= most


def test_public_names_have_docstrings() -> None:
    for path in PYTHON:
        if path.name == "__init__.py" and not path.read_text(encoding="utf-8").strip():
            continue
        tree = ast.parse(path.read_text(encoding="utf-8"))
        assert ast.get_docstring(tree), f"{path} has no docstring"
        for node in tree.body:
            if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                assert ast.get_docstring(node), f"{path.name}: {node.name} has no docstring"


def test_every_setting_read_is_documented() -> None:
    from orthotorq import settings

    names = {s.name for s in settings.TABLE}
    read = set()
    for path in [*PYTHON, *sorted((ROOT / "scripts").glob("*.sh"))]:
        read |= set(re.findall(r"\b(ORTHOTORQ_[A-Z_]+)\b", path.read_text(encoding="utf-8")))
    assert read - {"ORTHOTORQ_TEST_SUPER_URL"} == names
    assert all(len(s.help) > 15 for s in settings.TABLE)


def test_the_core_has_a_readme_that_says_so() -> None:
    assert "no Flask" in (SOURCE / "core" / "README.md").read_text(encoding="utf-8")
