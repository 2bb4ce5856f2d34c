"""The core: compute of large plans, single steps of a run."""

from __future__ import annotations

import gc
import json
import statistics
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

from tests.core.test_sums import GOOD

from orthotorq.core.planning.compute import compute
from orthotorq.core.running import Fact, expand, state_of
from orthotorq.core.sums.table import answer as answer_sum
from orthotorq.demo.load import plan_document

Figure = tuple[str, str, str]


def median_ms(call: Callable[[], object], times: int = 60) -> float:
    """Median time of a call in milliseconds, after a warm-up."""
    call()
    taken = []
    for _ in range(times):
        begin = time.perf_counter()
        call()
        taken.append((time.perf_counter() - begin) * 1e3)
    return statistics.median(taken)


def _process_ms() -> float:
    """Best of five whole processes of a calculation, start to end."""
    command: list[str | Path] = [
        Path(sys.executable).with_name("orthotorq"),
        "calc",
        "pair",
        "250 N·m",
        "148 ft·lbf",
    ]
    taken = []
    for _ in range(5):
        begin = time.perf_counter()
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
        taken.append((time.perf_counter() - begin) * 1e3)
    return min(taken)


def large_cover(count: int) -> str:
    """The demo cover with so many bolts, as JSON text."""
    document = plan_document("evaporator-cover")
    document["groups"][0]["layout"].update(count=count, diameter=f"{count * 60} mm")
    document["targets"]["studs"] = {
        "kind": "torque",
        "torque": "450 N·m",
    }  # the manual's figure is for sixteen
    return json.dumps(document)


def measure() -> Iterator[Figure]:
    """Figures of the core, with the loaded code frozen for the collector as in the server."""
    gc.collect()
    gc.freeze()
    text = large_cover(64)
    assert max(len(s.passes) for s in compute(json.loads(text)).stages) == 5
    whole = median_ms(lambda: compute(json.loads(text)).model_dump_json())
    yield "compute, 64 bolts, 5 passes, JSON to JSON", f"{whole:.2f} ms", "under 10 ms"
    small = json.dumps(plan_document("evaporator-cover"))
    ratio = whole / median_ms(lambda: compute(json.loads(small)).model_dump_json())
    yield "the same, as a ratio to 16 bolts", f"{ratio:.2f}", "-"
    most = json.loads(large_cover(400))
    close = next(s for s in most["stages"] if s["id"] == "close")
    close["passes"].insert(2, {**close["passes"][1], "id": "half", "percent": 50})
    most_text = json.dumps(most)
    assert max(len(s.passes) for s in compute(json.loads(most_text)).stages) == 6
    yield (
        "compute, 400 bolts, 6 passes, JSON to JSON",
        f"{median_ms(lambda: compute(json.loads(most_text)).model_dump_json(), 30):.1f} ms",
        "under 25 ms",
    )
    large = compute(most)
    yield (
        f"expansion of it to {len(expand(large))} steps",
        f"{median_ms(lambda: expand(large), 30):.1f} ms",
        "under 15 ms",
    )
    slowest = max((median_ms(partial(answer_sum, *one), 20), one[0]) for one in GOOD.items())
    yield f"slowest single sum ({slowest[1]})", f"{slowest[0]:.2f} ms", "under 1 ms"
    yield "orthotorq calc, whole process", f"{_process_ms():.0f} ms", "under 350 ms"
    result = compute(json.loads(text))
    facts: list[Fact] = []
    while (step := state_of(result, facts).instruction) is not None and len(facts) < 300:
        answer = {"pull": "turned", "check": "good", "reading": "value"}.get(step.kind, "done")
        payload = {"answer": answer, **({"value": "3.2 mm"} if answer == "value" else {})}
        facts.append(Fact(len(facts) + 1, str(len(facts)), step.step, "answer", payload, "x", "t"))
    yield (
        "state of a run with 300 answers",
        f"{median_ms(lambda: state_of(result, facts)):.2f} ms",
        "-",
    )
