"""Plans read aloud: what a fitter hears from first to last step when all goes well, for every
occasion and way of doing it."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from orthotorq.core.planning.compute import compute
from orthotorq.core.planning.work_order import ways
from orthotorq.core.running import occasions_of
from orthotorq.demo.load import plan_document, plan_names
from tests.core.play import Play

HERE = Path(__file__).parent / "readings"


def spoken(document: dict[str, Any], occasion: str, variants: tuple[str, ...]) -> Iterator[str]:
    """A run as it is heard: stages with their cautions, and every instruction once for all bolts
    that it is said of."""
    tools = [
        {"tool": name, "serial": f"TW-{number}", "name": f"TW-{number}"}
        for number, name in enumerate(document["tools"], 1)
    ]
    play = Play(document, occasion=occasion, variants=list(variants), history="known", tools=tools)
    stage, said, bolts = "", "", list[str]()
    while (step := play.state.instruction) is not None:
        where = f"{step.stage}{f' ({step.position})' if step.position else ''}"
        if where != stage:
            yield from _bolts(bolts)
            stage, said = where, ""
            yield f"\n== {where}"
            yield from (f"   ! {caution}" for caution in step.cautions)
            yield from (f"   note: {step.note}" for _ in [0] if step.note and step.do is None)
        line = _line(step)
        if line != said:
            yield from _bolts(bolts)
            said = line
            yield line
        if step.label:
            bolts.append(step.label)
        play.usual()
    yield from _bolts(bolts)
    state = play.state
    yield ""
    yield from (f"-- deviation: {d.text}" for d in state.deviations)
    yield (
        "-- still in: "
        f"{', '.join(state.fitted) or 'nothing'}{'; provisional' if state.provisional else ''}"
    )


def _bolts(bolts: list[str]) -> Iterator[str]:
    if bolts:
        yield f"      bolts {' '.join(bolts)}"
    bolts.clear()


def _line(step: Any) -> str:
    what = (
        f"[{step.pass_name}] "
        if step.pass_name
        else "Is it so: "
        if step.kind == "condition"
        else ""
    )
    setting = f" Set {step.settings[0].text}." if step.settings and step.shows == "setting" else ""
    limit = f" ({step.limit_text})" if step.limit_text else ""
    gauge = f" with {step.gauge}" if step.gauge else ""
    first = f" First: {step.before_each}" if step.before_each else ""
    note = f" Note: {step.note}" if step.note and step.do is not None else ""
    hint = f" {step.hint}" if step.hint else ""
    watch = f" Watch: {step.watch_for}." if step.watch_for and step.do is not None else ""
    answers = " / ".join(b.label for b in step.buttons)
    return f"   {what}{step.text}{limit}{gauge}{first}{setting}{note}{watch}{hint} -> {answers}"


def heard() -> Iterator[tuple[str, str, str, tuple[str, ...]]]:
    """(name of the file, plan, occasion, variants) of every demo plan on every occasion, in every
    way."""
    for name in plan_names():
        result = compute(plan_document(name))
        for occasion in occasions_of(result):
            for variants in ways(result.variants):
                yield f"{name}.{'.'.join((occasion, *variants))}.txt", name, occasion, variants


def reading(name: str, occasion: str, variants: tuple[str, ...]) -> str:
    """A plan read aloud."""
    document = plan_document(name)
    head = f"{document['title']}: {', '.join((occasion, *variants))}"
    return "\n".join([head, *spoken(document, occasion, variants)]) + "\n"


def main() -> None:
    """Write the readings anew: to be read before they are committed."""
    argparse.ArgumentParser(description=main.__doc__).parse_args()
    HERE.mkdir(exist_ok=True)
    for old in HERE.glob("*.txt"):
        old.unlink()
    for title, *way in heard():
        (HERE / title).write_text(reading(*way), encoding="utf-8")


if __name__ == "__main__":
    main()
