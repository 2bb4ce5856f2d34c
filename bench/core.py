"""The core: compute of large plans, single steps of a run."""
from __future__ import annotations

import json
import statistics
import time
from collections.abc import Callable, Iterator

from orthotorq.core.planning.compute import compute
from orthotorq.core.running import Fact, state_of
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


def large_cover(count: int) -> str:
    """The demo cover with so many bolts, as JSON text."""
    document = plan_document("evaporator-cover")
    document["groups"][0]["layout"].update(count=count, diameter=f"{count * 60} mm")
    return json.dumps(document)


def measure() -> Iterator[Figure]:
    """Figures of the core."""
    text = large_cover(64)
    assert len(compute(json.loads(text)).stages[3].passes) == 5
    whole = median_ms(lambda: compute(json.loads(text)).model_dump_json())
    yield "compute, 64 bolts, 5 passes, JSON to JSON", f"{whole:.2f} ms", "under 10 ms"
    small = json.dumps(plan_document("evaporator-cover"))
    ratio = whole / median_ms(lambda: compute(json.loads(small)).model_dump_json())
    yield "the same, as a ratio to 16 bolts", f"{ratio:.2f}", "-"
    result = compute(json.loads(text))
    facts: list[Fact] = []
    while (step := state_of(result, facts).instruction) is not None and len(facts) < 300:
        answer = {"pull": "turned", "check": "good", "reading": "value"}.get(step.kind, "done")
        payload = {"answer": answer, **({"value": "3.2 mm"} if answer == "value" else {})}
        facts.append(Fact(len(facts) + 1, str(len(facts)), step.step, "answer", payload, "x", "t"))
    yield "state of a run with 300 answers", f"{median_ms(lambda: state_of(result, facts)):.2f} ms", "-"
