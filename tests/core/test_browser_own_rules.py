"""What the browser decides by itself: a list, one line each with its reason. Everything else is
asked of the server.

A rule that a test in Node covers is mutated there, and the tests must fail; the others name the
test in a real browser that fails without them.
"""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
FRONT = ROOT / "frontend"
#: the one that the environment brings, which reads TypeScript as it stands
NODE = shutil.which("node", path=f"{sys.prefix}/bin") or "node"
WALK, KEYS, PLAN = "src/lib/offline/walk.ts", "src/lib/keys.ts", "src/lib/plan.ts"
STEPS = "src/routes/plans/[id]/steps.ts"
FACE = "src/lib/parts/JointFace/geometry.ts"

#: file, what stands there, what it is mutated to, why the browser decides it, the tests in Node
IN_NODE: list[tuple[str, str, str, str, str]] = [
    (
        WALK,
        "given?.follows ? (next(now)",
        "given ? (next(now)",
        "without network a round goes on after an answer that nobody has to judge",
        "walk",
    ),
    (
        WALK,
        "if (event.payload.pull) return null;",
        "",
        "what a device measured is judged before anybody goes on",
        "walk",
    ),
    (
        WALK,
        "event.step !== now.step) continue;",
        "false) continue;",
        "an answer moves the step that it was given to, and no other",
        "walk",
    ),
    (
        WALK,
        "index: step.index + 1,",
        "index: step.index,",
        "the count goes on with the bolt",
        "walk",
    ),
    (
        WALK,
        "upcoming: rest.slice(0, 2)",
        "upcoming: rest.slice(0, 3)",
        "as many bolts are announced as the server announces",
        "walk",
    ),
    (
        KEYS,
        "if (event.repeat || event.ctrlKey",
        "if (event.ctrlKey",
        "a key that is held answers once",
        "parts",
    ),
    (
        KEYS,
        "(!event.altKey && typing(event))",
        "false",
        "what is typed into a field is no key of the screen",
        "parts",
    ),
    (
        KEYS,
        "if (event.view?.document.querySelector('dialog[open]')) return false;",
        "",
        "no key of the screen answers behind an open box",
        "parts",
    ),
    (
        PLAN,
        "? Number(text) : text",
        "? text : text",
        "only a figure is written as one: everything else is named by the server",
        "bench",
    ),
    (
        PLAN,
        "delete fields[first];",
        "fields[first] = value;",
        "a field that is emptied is not given",
        "bench",
    ),
    (
        STEPS,
        "&& !stage.only_again",
        "",
        "the tape shows the work as planned, without what is done only again",
        "bench",
    ),
    (
        STEPS,
        "if (left-- === 0)",
        "if (--left === 0)",
        "the joint is drawn as it stands after the step at which the tape is held",
        "bench",
    ),
    (
        STEPS,
        "limited.some((v) => way.includes(v))",
        "true",
        "one way of a plan is drawn at a time",
        "bench",
    ),
    (
        FACE,
        "if (!taken.has(key)) taken.set(key, place);",
        "taken.set(key, place);",
        "of groups in the same holes the one that is looked at is drawn",
        "parts",
    ),
    (
        FACE,
        "const room = Number.isFinite(gap) ? gap * 0.46 : reach;",
        "const room = reach;",
        "hexagons are drawn as large as they can be without overlapping",
        "parts",
    ),
]
#: file, what stands there, why the browser decides it, the test in a browser
IN_A_BROWSER: list[tuple[str, str, str, str]] = [
    (
        "src/lib/run.svelte.ts",
        "if (kind === 'answer' && (this.busy || this.tapped(",
        "a second answer to one step in one moment is a double tap",
        "test_two_answers_to_one_step_in_one_moment_are_one",
    ),
    (
        "src/routes/runs/[id]/desk.svelte.ts",
        "this.run.busy || now - this.shownAt < GUARD_MS",
        "what is shown must have been seen before it is answered",
        "test_what_is_shown_can_be_answered_at_once",
    ),
    (
        "src/lib/run.svelte.ts",
        "may(action: string): boolean",
        "a device that lost the run offers nothing that belongs to the one that holds it",
        "test_correction_problem_and_taking_over",
    ),
    (
        "src/lib/parts/Choice/Choice.svelte",
        "if (own === turn) picked = null;",
        "a list shows what was picked until its consequences are there",
        "test_a_choice_that_is_refused_shows_the_old_one_again",
    ),
    (
        "src/lib/bench.svelte.ts",
        "if (act) this.acts.unshift(act);",
        "an act is done again on what was typed while it was under way",
        "test_what_is_typed_slowly_lands_in_its_field",
    ),
    (
        "src/routes/plans/[id]/Manual.svelte",
        "item.act && !item.either",
        "of two readings of a line neither is taken with all the others",
        "test_of_two_readings_neither_is_taken_with_the_rest",
    ),
    (
        "src/routes/plans/[id]/ConditionFields.svelte",
        "axis.figure && !!value",
        "a temperature that is none of the choices is a figure",
        "test_a_temperature_is_chosen_or_typed",
    ),
]


def test_every_rule_of_the_browser_stands_where_the_list_says() -> None:
    named = [(file, text) for file, text, *_ in IN_NODE] + [
        (file, text) for file, text, *_ in IN_A_BROWSER
    ]
    for file, text in named:
        assert (FRONT / file).read_text(encoding="utf-8").count(text) == 1, (file, text)
    tests = "\n".join(
        one.read_text(encoding="utf-8") for one in (ROOT / "tests/browser").glob("test_*.py")
    )
    for *_, reason, test in IN_A_BROWSER:
        assert re.search(rf"^def {test}\(", tests, re.M), reason


def node(front: Path, tests: str) -> bool:
    """Whether the tests of a file pass in Node."""
    done = subprocess.run(
        [NODE, "--test", f"tests/{tests}.test.ts"],
        cwd=front,
        capture_output=True,
        check=False,
        timeout=60,
    )
    return done.returncode == 0


@pytest.fixture(scope="module")
def copied(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The sources and their tests, to be mutated."""
    to = tmp_path_factory.mktemp("front")
    for part in ("src/lib", "src/routes/plans", "tests"):
        shutil.copytree(FRONT / part, to / part)
    shutil.copy(FRONT / "package.json", to)
    (to / "node_modules").symlink_to(FRONT / "node_modules")
    return to


@pytest.mark.parametrize(
    ("file", "text", "mutant", "reason", "tests"), IN_NODE, ids=[rule[3] for rule in IN_NODE]
)
def test_a_rule_that_is_mutated_fails_its_tests(
    copied: Path, file: str, text: str, mutant: str, reason: str, tests: str
) -> None:
    path = copied / file
    whole = path.read_text(encoding="utf-8")
    path.write_text(whole.replace(text, mutant), encoding="utf-8")
    try:
        assert not node(copied, tests), reason
    finally:
        path.write_text(whole, encoding="utf-8")


def test_the_tests_pass_where_nothing_is_mutated(copied: Path) -> None:
    assert all(node(copied, tests) for tests in ("walk", "parts", "bench"))
