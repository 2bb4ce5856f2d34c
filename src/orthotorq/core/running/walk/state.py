"""The state of a run: the walk through the work order up to the steps that are open."""

from __future__ import annotations

from collections.abc import Iterable

from ...forms.result import Result
from ...forms.run import Conflict, Deviation, LastAnswer, RunState, SignOff, Stopped
from ...kinds.prompts import RESUME
from ...kinds.stage_kind import OCCASIONS
from ...thresholds import RUN_BREAK
from ..log.event_log import Fact, Given, Log, fold
from ..log.setup import to_unload
from ..log.step_id import FINISH, base_of, parse, step_id
from .actions import HELD, LEAVES_UNKNOWN, NEXT_SIGNATURE, STATUS, offered_to
from .deviations import all_deviations
from .instruction import answer_text, choices_of, instruction_for, what_of
from .items import stage_done, walk_item
from .passes import sketch, walk_pass
from .pending import Pending
from .program import Segment, Unit, first_steps, segments_of, units_of, waited_for, waits_for
from .provisional import provisional_why
from .step_walker import Walk
from .texts import STOPS

#: the part of the step that is asked after a break
RESUMED = "resumed"
#: so many of the last answers are shown and can be corrected
RECENT = 6


def _walk_unit(walk: Walk, unit: Unit) -> Pending | None:
    """Every segment of a unit up to its first open step; passes after that are sketched on the
    tape."""
    pending: Pending | None = None
    for segment in segments_of(unit):
        if pending is not None:
            sketch(walk, unit, segment)
        elif segment.one is None:
            pending = walk_item(walk, unit, segment)
        else:
            pending = walk_pass(walk, unit, segment)
        if walk.back is not None:
            return None
    if pending is None:
        stage_done(walk, unit)
        walk.end(unit)
    return pending


def _again(every: list[Unit], past: list[Unit], current: Unit, stage: str) -> list[Unit]:
    """Copies of the units from a stage up to the current one, at its position, to be done again;
    with what is done only then.

    What was never reached is not done again: it still comes in its own turn.
    """
    cycles = {u.key: u.cycle for u in past}
    end = next(i for i, u in enumerate(every) if u.key == current.key)
    start = next(
        (
            i
            for i in range(end, -1, -1)
            if every[i].stage.id == stage
            and (
                every[i].position == current.position
                or None in (every[i].position, current.position)
            )
        ),
        end,
    )
    same = [
        u
        for u in every[start : end + 1]
        if u.position == current.position or None in (u.position, current.position)
    ]
    return [
        Unit(u.stage, u.position, cycles.get(u.key, 1) + 1)
        for u in same
        if u.key in cycles or u.stage.only_again
    ]


def _from_finish(walk: Walk, every: list[Unit], past: list[Unit]) -> list[Unit]:
    """What is done again because somebody said so when everything was done: a stage and all that
    comes after it."""
    asked, seen = walk.log.redos.get(FINISH, []), walk.redone.get(FINISH, 0)
    if seen >= len(asked):
        return []
    walk.redone[FINISH] = seen + 1
    stage, cycles = str(asked[seen].payload.get("stage")), {u.key: u.cycle for u in past}
    start = next((i for i, u in enumerate(every) if u.stage.id == stage), len(every))
    return [
        Unit(u.stage, u.position, cycles.get(u.key, 1) + 1)
        for u in every[start:]
        if u.key in cycles or u.stage.only_again
    ]


def _redo_of(walk: Walk, unit: Unit, pending: Pending | None) -> str | None:
    """The stage to be done again after this unit: because a watch saw movement, or because somebody
    said so."""
    if pending is not None:
        asked = walk.log.redos.get(pending.step, [])
        seen = walk.redone.get(pending.step, 0)
        if seen < len(asked):
            walk.redone[pending.step] = seen + 1
            if pending.decision is not None:
                # done again instead of decided: what failed is answered anew
                walk.decided(pending.decision)
                walk.used[
                    step_id(pending.segment.base(), pending.round, pending.place, 1, pending.pull)
                ] = pending.attempt
            return str(asked[seen].payload.get("stage"))
        return None
    if walk.back is not None:
        back, walk.back = walk.back, None
        return back
    return None


def _begun(walk: Walk, unit: Unit) -> bool:
    """Whether a stage has been answered in on this visit: what is done cannot be held back, and
    what was done before it was done again does not count."""
    for segment in segments_of(unit):
        for round_, place, pull in first_steps(segment):
            used = walk.used.get(step_id(segment.base(), round_, place, 1, pull), 0)
            given = walk.log.answers.get(step_id(segment.base(), round_, place, used + 1, pull))
            if given is not None and not walk.redone_before(FINISH, given):
                return True
    return False


def _next_unit(walk: Walk, queue: list[Unit], kept: list[Unit]) -> Unit | None:
    """The next unit that may be done: while something that failed is left, nothing is done from the
    stage on that gives the machine back; `kept` are those, and come once nothing failed is left."""
    if not queue and kept and not walk.failed:
        queue[:], kept[:] = kept, []
    while queue:
        unit = queue.pop(0)
        held_back = walk.failed and walk.log.setup.occasion != "dismantle"
        if not held_back or not (kept or unit.gives_back) or _begun(walk, unit):
            return unit
        kept.append(unit)
    return None


def _choose(open_: list[Pending], begun: set[int], now: float) -> Pending | None:
    """What to offer: the unit that is under way, else the first that need not wait, else the
    shortest wait."""
    for one in open_:
        if id(one) in begun and one.kind != "wait":
            return one
    for one in open_:
        if one.ready_at is None or one.ready_at <= now:
            return one
    return min(open_, key=lambda p: p.ready_at or 0.0, default=None)


def _after_a_break(walk: Walk, chosen: Pending | None) -> Pending | None:
    """What is asked before a run goes on after a long break, an early end, or in other hands:
    whether all is as it was left; asked until it is."""
    last = walk.log.order[-1] if walk.log.order else None
    had = [given for given in walk.log.order if _asks_whether_all_is_as_it_was(given.fact.step)]
    for given in had:
        # told in the record, and never corrected: what is asked is whether it is so now
        where = parse(given.fact.step)
        unit = next(
            (
                u
                for u in units_of(walk.result, walk.log.setup)
                if where and u.stage.id == where.stage
            ),
            None,
        )
        if unit is not None:
            walk.asked[given.fact.id] = (
                Pending(unit, Segment(unit.stage, where.position if where else None), RESUME),
                1,
            )
    if chosen is None or last is None or chosen.kind == "wait" or walk.now <= 0:
        return chosen
    no = bool(had) and had[-1] is last and last.word != "done"
    longest = walk.result.longest_break_s or RUN_BREAK.value * 3600
    other_hands = walk.log.holder not in ("", last.fact.person)
    continued = walk.log.continued is not None and walk.log.continued.sequence > last.fact.sequence
    if not (no or other_hands or continued) and walk.now - walk.log.when(last.fact) <= longest:
        return chosen
    base = base_of(chosen.segment.position, chosen.unit.stage.id, RESUMED)
    segment = Segment(chosen.unit.stage, chosen.segment.position)
    return Pending(chosen.unit, segment, RESUME, decision=step_id(base, None, None, len(had) + 1))


def _asks_whether_all_is_as_it_was(step: str) -> bool:
    # every answer of a run is looked at: hardly any is one of these
    found = parse(step) if RESUMED in step else None
    return found is not None and found.part == RESUMED


def walk_run(
    result: Result, log: Log, now: float = 0.0
) -> tuple[Walk, Pending | None, list[Pending]]:
    """Walk the whole work order: (the walk, the step that is offered, waits that run meanwhile)."""
    walk = Walk(result, log, now, last_at=log.when(log.start) if log.start else 0.0)
    queue = units_of(result, log.setup)
    every = units_of(result, log.setup, again=True)
    waited = waited_for(result, log.setup)
    open_: list[Pending] = []
    begun: set[int] = set()
    closed: list[Unit] = []
    incomplete: set[tuple[str, str | None]] = set()
    kept: list[Unit] = []
    while True:
        unit = _next_unit(walk, queue, kept)
        if unit is None:
            if open_ or not (again := _from_finish(walk, every, closed)):
                break
            # what was held back comes after what is done again, and is judged anew then
            queue, kept = again + kept, []
            continue
        if any(u.key in incomplete for u in waits_for(unit, every, waited)):
            incomplete.add(unit.key)
            for segment in segments_of(unit):
                sketch(walk, unit, segment)
            continue
        before = walk.answered
        walk.begin(unit)
        pending = _walk_unit(walk, unit)
        closed.append(unit)
        back_to = _redo_of(walk, unit, pending)
        if back_to is not None:
            queue[:0] = _again(every, closed, unit, back_to)
        elif pending is not None:
            incomplete.add(unit.key)
            open_.append(pending)
            if walk.answered > before:
                begun.add(id(pending))
    walk.left_locked = bool(kept) and not open_
    chosen = _choose(open_, begun, now)
    waits = [p for p in open_ if p.kind == "wait" and p is not chosen]
    chosen = _after_a_break(walk, chosen)
    return walk, chosen, waits


def last_answer(walk: Walk, given: Given) -> LastAnswer:
    """An answer as it can be corrected; without choices where it no longer counts."""
    asked, step = walk.step_of(given.fact.id), parse(given.fact.step)
    place = step.place if step else None
    return LastAnswer(
        event=given.fact.id,
        step=given.fact.step,
        label=walk.named(step.position, place) if step and place else "-",
        answer=given.word or "voided",
        text=answer_text(given.answer, asked),
        what=what_of(walk, asked) if asked else "",
        choices=choices_of(asked) if asked else [],
    )


def stopped_of(log: Log) -> list[Stopped]:
    """What stops the run, with what to do about it."""
    out = []
    for fact in log.stopped():
        about = str(fact.payload["about"])
        advice, ask = STOPS[about]
        out.append(
            Stopped(
                event=fact.id,
                about="unsafe" if about == "unsafe" else "wrench",
                text=str(fact.payload.get("text", "")),
                advice=advice,
                ask=ask,
                person=fact.person,
                at=fact.at,
            )
        )
    return out


def failed_of(walk: Walk, stopped: list[Stopped]) -> list[str]:
    """What failed and was left, in sentences: the joint must not be used then."""
    unsafe = [f"Stopped, not safe: {one.text}" for one in stopped if one.about == "unsafe"]
    return list(dict.fromkeys([*(text for _, text in walk.failed.values()), *unsafe]))


def signs_of(walk: Walk, log: Log, deviations: list[Deviation]) -> str:
    """What a signature stands over: bolts, answers with who gave them, deviations."""
    by: dict[str, int] = {}
    for given in log.order:
        by[given.fact.person] = by.get(given.fact.person, 0) + 1
    bolts = sum(1 for look in walk.bolts.values() if look.state != "untouched")
    people = ", ".join(
        f"{person} {count}" for person, count in sorted(by.items(), key=lambda x: -x[1])
    )
    open_ = sum(1 for d in deviations if not d.accepted_by)
    said = (
        f"{len(deviations)} deviation{'' if len(deviations) == 1 else 's'}"
        if deviations
        else "no deviations"
    )
    return (
        f"{bolts} bolt{'' if bolts == 1 else 's'}, {sum(by.values())} answers ({people}), {said}"
        + (f", {open_} not yet accepted" if open_ else "")
    )


def status_of(log: Log, pending: Pending | None) -> str:
    """How far the run is, in one word."""
    if log.abandoned is not None:
        return "abandoned"
    roles = {f.payload.get("role") for f in log.sign_offs}
    if "supervisor" in roles:
        return "closed"
    if "fitter" in roles:
        return "signed"
    return "running" if pending is not None else "finished"


def sign_offs_of(log: Log) -> list[SignOff]:
    """Signatures with the head hash each was put under."""
    return [
        SignOff(
            role="supervisor" if f.payload.get("role") == "supervisor" else "fitter",
            person=f.person,
            at=f.at,
            head_hash=str(f.payload.get("head_hash", "")),
        )
        for f in log.sign_offs
    ]


def conflicts_of(log: Log, walk: Walk) -> list[Conflict]:
    """Events that were kept aside, with what a supervisor made of them."""
    out = []
    for fact in log.conflicts:
        word = log.settled.get(fact.id)
        out.append(
            Conflict(
                event=fact.id,
                step=fact.step,
                kind=fact.kind,
                text=answer_text(fact.payload),
                person=fact.person,
                settled=word.person if word else None,
                reason=str(word.payload.get("reason", "")) if word else None,
            )
        )
    return out


def state_of(
    result: Result, facts: Iterable[Fact], now: float = 0.0, roles: frozenset[str] = frozenset()
) -> RunState:
    """The state of a run from its stored result and its events in sequence order, at a time in
    seconds since 1970."""
    return state_from(result, fold(facts), now, roles)


def state_from(
    result: Result, log: Log, now: float = 0.0, roles: frozenset[str] = frozenset()
) -> RunState:
    """The state of a run from its folded log, with what somebody in these roles may do."""
    walk, pending, waits = walk_run(result, log, now)
    status = status_of(log, pending)
    running = status == "running"
    position = pending.segment.position if pending else walk.position
    if position is None and result.positions:
        position = log.setup.at(result)[0].id
    deviations, conflicts = all_deviations(walk, log), conflicts_of(log, walk)
    clear = all(d.accepted_by for d in deviations) and all(c.settled for c in conflicts)
    why = provisional_why(result, walk, log)
    stopped = stopped_of(log) if running else []
    if stopped:
        pending, waits = None, []
    recent = [last_answer(walk, g) for g in log.order[-RECENT:]][::-1]
    return RunState(
        status=status,
        status_text=STATUS[status],
        occasion=log.setup.occasion,
        occasion_text=OCCASIONS.get(log.setup.occasion, log.setup.occasion),
        held=list(HELD),
        actions=offered_to(roles, status, pending, bool(recent), clear, bool(stopped)),
        next_signature=NEXT_SIGNATURE.get(status),
        variants=list(log.setup.variants),
        history="unknown" if log.setup.history == "unknown" else "known",
        provisional=bool(why),
        provisional_why=why,
        stopped=stopped,
        failed=failed_of(walk, stopped),
        leaves=LEAVES_UNKNOWN if status == "abandoned" and walk.marks else "",
        left_locked=walk.left_locked,
        turned=bool(walk.marks),
        signs=signs_of(walk, log, deviations),
        waiting=[instruction_for(walk, w) for w in waits] if running else [],
        clocks=walk.clock_outs(),
        fitted=list(dict.fromkeys(walk.fitted.values())),
        conflicts=conflicts,
        sequence=log.sequence,
        instruction=instruction_for(walk, pending) if pending is not None and running else None,
        position=position,
        bolts=walk.bolt_states(position),
        tape=walk.tape,
        deviations=deviations,
        sign_offs=sign_offs_of(log),
        last=recent[0] if recent else None,
        recent=recent,
        done=walk.done,
        notes=sum(1 for f in log.others if f.kind in ("note", "suggest", "photo")),
        unload=to_unload(result, log.setup) if status == "finished" else [],
    )
