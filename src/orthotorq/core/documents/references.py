"""References inside a plan: every id that is named exists, nothing runs in a circle, no two bolts
stand in one place."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ..errors import Impossible, OrthotorqError
from ..forms.condition import Condition
from ..forms.errors import FieldError, unknown
from ..kinds.stage_kind import OCCASIONS, ids_known
from ..kinds.stage_registry import STAGE_KINDS, Stage
from ..messages import Message, render
from ..planning.layouts import nearest_spacing
from ..planning.states import AXES, EVERYWHERE
from ..tables.threads import parse_thread
from .places import points_of
from .plan import Plan

#: bolts times passes over all stages of a plan; the largest joints of one plant have some thousands
MOST_PULLS = 60_000
_PASSES_OF_A_METHOD = 6
_METER_KIND = {"km": "length", "h": "time", "d": "time", "cycles": "cycles", "starts": "cycles"}


def _group_errors(plan: Plan) -> list[FieldError]:
    """Variants of groups are known, and what a group is like has been found."""
    known, groups = [v.id for v in plan.variants], [g.id for g in plan.groups]
    errors = []
    for i, group in enumerate(plan.groups):
        errors += ids_known(group.variants, known, "variant", "groups", i, "variants")
        if group.like is not None:
            errors.append(
                unknown(
                    "group that is like no other",
                    group.like,
                    [g for g in groups if g != group.id],
                    "groups",
                    i,
                    "like",
                )
            )
    return errors


def plan_errors(plan: Plan) -> list[FieldError]:
    """Every reference and every geometry that does not hold, with its path."""
    groups = [g.id for g in plan.groups]
    errors = [
        *_all_duplicates(plan),
        *_target_errors(plan, groups),
        *_chain_errors(plan),
        *_recheck_errors(plan),
        *_group_errors(plan),
    ]
    stages, variants = [s.id for s in plan.stages], [v.id for v in plan.variants]
    for i, stage in enumerate(plan.stages):
        errors += _stage_errors(
            stage,
            ("stages", i),
            {"group": groups, "stage": stages, "variant": variants},
            plan.joint_kind,
        )
        errors += STAGE_KINDS[stage.kind].errors(plan, stage, ("stages", i))
    if not errors:
        errors += _cycles(plan)
    return [*errors, *_amount(plan), *_geometry(plan)]


def _amount(plan: Plan) -> list[FieldError]:
    """A plan that nobody could work is not computed: bolts times passes over all stages are
    bounded."""
    bolts = {g.id: g.layout.count for g in plan.groups}
    count = 0
    for stage in plan.stages:
        fields = vars(stage)
        if fields.get("passes") or fields.get("method"):
            own = plan.definitions.methods.get(fields.get("method") or "")
            passes = len(fields.get("passes") or (own.passes if own else ())) or _PASSES_OF_A_METHOD
            count += passes * sum(bolts.get(group, 0) for group in fields.get("groups", ()))
    if count <= MOST_PULLS:
        return []
    allowed = f"at most {MOST_PULLS} in one plan; make several"
    text = render(Message.OUT_OF_RANGE, value=f"{count} bolts times passes", range=allowed)
    return [FieldError(("stages",), Message.OUT_OF_RANGE.value, text)]


def _duplicates(ids: Iterable[str], kind: str, *path: str | int) -> list[FieldError]:
    seen: set[str] = set()
    out = []
    for index, one in enumerate(ids):
        if one in seen:
            text = render(Message.DUPLICATE_ID, id=one, kind=kind)
            out.append(FieldError((*path, index, "id"), Message.DUPLICATE_ID.value, text))
        seen.add(one)
    return out


def _named_twice(names: Sequence[str], kind: str, *path: str | int) -> list[FieldError]:
    """A name that stands twice in a list would be worked twice under one step id."""
    return [
        FieldError(
            (*path, i), Message.DUPLICATE_ID.value, render(Message.DUPLICATE_ID, id=name, kind=kind)
        )
        for i, name in enumerate(names)
        if name in names[:i]
    ]


def _all_duplicates(plan: Plan) -> list[FieldError]:
    out = []
    for field in ("groups", "positions", "variants", "sources", "parts", "stages", "rechecks"):
        out += _duplicates((x.id for x in getattr(plan, field)), field.removesuffix("s"), field)
    for name, method in plan.definitions.methods.items():
        out += _duplicates(
            (p.id for p in method.passes), "pass", "definitions", "methods", name, "passes"
        )
    return out


def _target_errors(plan: Plan, groups: list[str]) -> list[FieldError]:
    errors = []
    known = [s.id for s in plan.sources]
    for name, target in plan.targets.items():
        if name not in groups:
            errors.append(unknown("group", name, groups, "targets", name))
        source = getattr(target, "source", None)
        if source is not None and source not in known:
            errors.append(unknown("source", source, known, "targets", name, "source"))
    for i, one in enumerate(plan.sources):
        errors += [
            unknown("group", g, groups, "sources", i, "groups", j)
            for j, g in enumerate(one.groups)
            if g not in groups
        ]
        if one.valid_for.thread is not None:
            try:
                parse_thread(one.valid_for.thread)
            except OrthotorqError as error:
                errors.append(
                    FieldError(("sources", i, "valid_for", "thread"), error.code.value, str(error))
                )
    return errors


def _chain_errors(plan: Plan) -> list[FieldError]:
    errors = []
    for name, chain in plan.chains.items():
        adapters = 0
        for i, link in enumerate(chain):
            path = ("chains", name, i)
            if isinstance(link, str) and link not in plan.tools:
                errors.append(unknown("tool", link, list(plan.tools), *path))
            if isinstance(link, str) != (i == 0):
                errors.append(
                    _bad(path, "A chain begins with one tool; adapters and multipliers follow it")
                )
            adapters += hasattr(link, "adapter")
            if hasattr(link, "adapter") and adapters > 1:
                errors.append(
                    _bad(path, "One offset adapter on the wrench; give the length of both together")
                )
            if hasattr(link, "adapter") and any(
                hasattr(before, "multiplier") for before in chain[:i]
            ):
                reason = (
                    "No adapter on a multiplier's output: the bolt torque would depend on "
                    "where the reaction "
                    "rests; put the adapter on the wrench"
                )
                text = render(Message.CHAIN_IMPOSSIBLE, what=reason)
                errors.append(FieldError(path, Message.CHAIN_IMPOSSIBLE.value, text))
        tool = plan.tools.get(chain[0]) if isinstance(chain[0], str) else None
        if adapters and tool is not None and tool.length is None:
            errors.append(
                _bad(
                    ("tools", str(chain[0]), "length"),
                    "An offset adapter needs the wrench's length",
                )
            )
    return errors


def _bad(path: Sequence[str | int], reason: str) -> FieldError:
    return FieldError(
        tuple(path), Message.BAD_VALUE.value, render(Message.BAD_VALUE, reason=reason)
    )


def _recheck_errors(plan: Plan) -> list[FieldError]:
    errors = []
    for i, one in enumerate(plan.rechecks):
        kind = _METER_KIND[one.meter]
        for field, values in (("at", one.at), ("every", [one.every] if one.every else [])):
            for j, value in enumerate(values):
                if value.quantity.kind != kind or value.base <= 0:
                    path = ("rechecks", i, field) if field == "every" else ("rechecks", i, field, j)
                    errors.append(
                        _bad(
                            path,
                            f"A meter of {one.meter} is read in {one.meter}, more than 0; "
                            f"“{value}” is not",
                        )
                    )
        if not one.at and one.every is None and not one.season and not one.after.strip():
            errors.append(
                _bad(
                    ("rechecks", i, "at"),
                    "Enter the readings, the interval, the season or the event",
                )
            )
    return errors


def _strange_axes(stage: Stage, path: tuple[str, int], kind: str) -> list[FieldError]:
    """Choices of a condition that a joint of this kind has not."""
    own = {axis.name for axis in AXES.get(kind, ())} | set(EVERYWHERE)
    named: list[tuple[tuple[str | int, ...], Condition]] = [((*path, "condition"), stage.condition)]
    named += [
        ((*path, "passes", i, "condition"), one.condition)
        for i, one in enumerate(getattr(stage, "passes", None) or ())
    ]
    return [
        _bad((*where, axis), f"A joint of this kind has no choice of “{axis}”")
        for where, condition in named
        for axis in condition.chosen
        if axis not in own
    ]


def _stage_errors(
    stage: Stage, path: tuple[str, int], known: dict[str, list[str]], kind: str
) -> list[FieldError]:
    """What holds of stages of every kind; `known` are the ids that may be named, by what they
    name."""
    errors = []
    if STAGE_KINDS[stage.kind].needs_condition and not stage.condition:
        errors.append(
            FieldError(
                (*path, "condition"),
                Message.CONDITION_MISSING.value,
                render(Message.CONDITION_MISSING),
            )
        )
    errors += _strange_axes(stage, path, kind)
    fields = vars(stage)  # not every kind has each of these
    for field in ("items", "checks", "passes"):
        if fields.get(field):
            errors += _duplicates(
                (x.id for x in fields[field]), field.removesuffix("s"), *path, field
            )
    for field in ("groups", "chains"):
        errors += _named_twice(fields.get(field, ()), field.removesuffix("s"), *path, field)
    for field, kind in (("groups", "group"), ("after", "stage"), ("variants", "variant")):
        if fields.get(field):
            errors += ids_known(fields[field], known[kind], kind, *path, field)
    return errors


def resolved_after(stages: Sequence[Stage], occasion: str) -> dict[str, list[str]]:
    """For every stage of an occasion, the stages it comes after: the one before when the plan says
    nothing.

    Stages that are not on the occasion are left out: what is not done cannot be waited for.
    """
    out: dict[str, list[str]] = {}
    on = [s for s in stages if occasion in s.in_]
    names = {s.id for s in on}
    previous: str | None = None
    for stage in on:
        if stage.after is None:
            out[stage.id] = [previous] if previous else []
        else:
            out[stage.id] = [a for a in stage.after if a in names]
        # what is done only when others are done again is waited for by nobody
        previous = previous if stage.only_again else stage.id
    return out


def _cycles(plan: Plan) -> list[FieldError]:
    for occasion in OCCASIONS:
        after = resolved_after(plan.stages, occasion)
        state: dict[str, int] = {}
        for start in after:
            if (loop := _loop_from(start, after, state)) is not None:
                index = next(i for i, s in enumerate(plan.stages) if s.id == loop[0])
                text = render(
                    Message.STAGE_CYCLE, loop=" → ".join([*loop, loop[0]]), occasion=occasion
                )
                return [FieldError(("stages", index, "after"), Message.STAGE_CYCLE.value, text)]
    return []


def _loop_from(start: str, after: dict[str, list[str]], state: dict[str, int]) -> list[str] | None:
    """A loop reached from a stage, by depth-first search without recursion; 1 is on the way, 2 is
    done."""
    if state.get(start) == 2:
        return None
    path, todo = [start], [iter(after[start])]
    state[start] = 1
    while todo:
        step = next(todo[-1], None)
        if step is None:
            state[path.pop()] = 2
            todo.pop()
        elif state.get(step) == 1:
            return path[path.index(step) :]
        elif step not in state:
            state[step] = 1
            path.append(step)
            todo.append(iter(after[step]))
    return None


def _geometry(plan: Plan) -> list[FieldError]:
    """Two bolts of a group cannot stand in one place: their distance must leave room for the thread
    itself."""
    errors = []
    for i, group in enumerate(plan.groups):
        try:
            thread = parse_thread(group.fastener.thread)
        except OrthotorqError as error:
            errors.append(
                FieldError(("groups", i, "fastener", "thread"), error.code.value, str(error))
            )
            continue
        if group.layout.count > 400:
            text = render(
                Message.OUT_OF_RANGE,
                value=f"{group.layout.count} bolts",
                range="1 to 400 bolts in a group",
            )
            errors.append(FieldError(("groups", i, "layout"), Message.OUT_OF_RANGE.value, text))
            continue
        spacing = nearest_spacing(tuple(points_of(group.layout)))
        if spacing < thread.diameter:
            problem = Impossible(
                Message.PLACES_OVERLAP,
                count=group.layout.count,
                spacing=f"{spacing:.1f}",
                head=f"{thread.diameter:g}",
            )
            errors.append(FieldError(("groups", i, "layout"), problem.code.value, str(problem)))
    return errors
