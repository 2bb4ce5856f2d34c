"""Whether every stage finds the joint in the state it is valid in, and whether nothing stays in
that was put in for the work.

Each occasion is gone through in work order, once for every way in which variants can be chosen.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ....forms.stage import StageOut
from ....kinds.joints.axis import WHEEL
from ....kinds.stage_kind import OCCASIONS
from ....thresholds import FULL, HANGING_MOST
from ...findings import Finding
from ...states import AXES, LOCKED, PRESSED, SPOKEN_OF, Standing, needed
from ...work_order import in_work_order, takes, ways
from ..inputs.finding_builder import Found, find
from ..load.context import Context

_WHEN = {
    "install": "when it is fitted",
    "recheck": "at the recheck",
    "dismantle": "when it is taken apart",
}


def state_findings(context: Context, stages: Sequence[StageOut]) -> Iterator[Found]:
    """What is wrong with the states of a plan, each once."""
    said: set[tuple[Finding, str, str]] = set()
    for occasion in OCCASIONS:
        for chosen in ways(context.plan.variants):
            taken = in_work_order(
                [s for s in stages if takes(s, occasion, chosen) and not s.only_again], occasion
            )
            for one in _walked(context, taken, occasion):
                key = (one.code, one.where, str(sorted(one.params.items())))
                if key not in said:
                    said.add(key)
                    yield one
    yield from _unnamed(context, stages)


def _walked(context: Context, stages: Sequence[StageOut], occasion: str) -> Iterator[Found]:
    kind, standing = context.plan.joint_kind, Standing(context.plan.joint_kind, occasion)
    conditions = {
        s.id: [s.condition, *(p.condition for p in context.passes.get(s.id, ()))]
        for s in context.plan.stages
    }
    missing: set[str] = set()
    loose: set[str] = set()
    held = {s.id for s in stages if s.kind == "fit" and s.temporary}
    for stage in stages:
        where = f"stages/{stage.id}"
        named = [word for said in conditions[stage.id] for word in needed(kind, said)]
        if absent := [w for w in named if not standing.holds(w) and w not in missing]:
            missing.update(absent)
            yield find(
                Finding.STATE_NOT_BROUGHT,
                where,
                stage=stage.title,
                state="”, “".join(absent),
                when=_WHEN[occasion],
            )
        yield from _forbidden(kind, standing, stage, loose, held)
        for word in stage.takes_out:
            if not standing.undo(word):
                yield find(Finding.REMOVED_BEFORE_FITTED, where, stage=stage.title, what=word)
        for word in (*stage.brings, *stage.puts_in):
            standing.bring(word, stage.id)
    for what, by in standing.inside.items():
        yield find(Finding.TEMPORARY_STAYS, f"stages/{by}", what=what, when=_WHEN[occasion])
    if stages:
        for word in standing.unfinished():
            last = next(s for s in reversed(stages) if word in s.brings)
            yield find(
                Finding.STATE_NOT_LEFT,
                f"stages/{last.id}",
                stage=last.title,
                state=word,
                when=_WHEN[occasion],
            )


def _forbidden(
    kind: str, standing: Standing, stage: StageOut, loose: set[str], held: set[str]
) -> Iterator[Found]:
    """What must not be done in the state that holds; `loose` are groups already broken loose,
    `held` stages that fit a tool."""
    where, words = f"stages/{stage.id}", {"stage": stage.title}
    highest = max((p.percent or 0.0 for p in stage.passes), default=0.0)
    if WHEEL in AXES.get(kind, ()) and standing.holds("wheel hanging"):
        if highest > HANGING_MOST.value:
            yield find(
                Finding.STATE_FORBIDDEN,
                where,
                **words,
                state="wheel hanging",
                why=(
                    f"at {highest:g} % the wheel turns or the machine comes off its stands; "
                    "hanging, at most "
                    f"{HANGING_MOST.text} to seat it"
                ),
            )
        tool = standing.holds("holding tool in") or bool(held & set(standing.inside.values()))
        if stage.kind == "loosen" and not tool and not set(stage.groups) <= loose:
            yield find(
                Finding.STATE_FORBIDDEN,
                where,
                **words,
                state="wheel hanging",
                why=(
                    "bolts are broken loose while the wheel stands, or while something fitted "
                    "holds it"
                ),
            )
    if kind == "machine_mount" and stage.kind == "measure" and standing.holds("on the hoist"):
        yield find(
            Finding.STATE_FORBIDDEN,
            where,
            **words,
            state="on the hoist",
            why="a foot is measured while it carries its whole share of the machine's weight",
        )
    if stage.kind == "watch" and standing.holds(LOCKED):
        yield find(Finding.WATCHED_LOCKED, where, **words)
    if stage.kind == "loosen":
        loose.update(stage.groups)
    if any((p.percent or 0.0) >= FULL.value for p in stage.passes):
        loose.difference_update(stage.groups)


def _unnamed(context: Context, stages: Sequence[StageOut]) -> Iterator[Found]:
    """Safeguards that a stage speaks of and does not name as put in: nothing would ask for them
    again."""
    brought = {word for s in stages for word in s.puts_in}
    for caution, word in SPOKEN_OF.items():
        first = next(
            (s for s in context.plan.stages if caution in s.cautions and s.kind == "prepare"), None
        )
        if first is not None and word not in brought:
            yield find(
                Finding.SAFEGUARD_UNNAMED, f"stages/{first.id}", stage=first.words, what=word
            )


def part_findings(context: Context, stages: Sequence[StageOut]) -> Iterator[Found]:
    """Whether the main part is fitted before its nuts, and comes off, seen to be empty, when the
    joint is taken apart."""
    kind, chosen = context.plan.joint_kind, ways(context.plan.variants)[0]
    fitted = [s for s in in_work_order(stages, "install") if takes(s, "install", chosen)]
    studs = {g.id for g in context.plan.groups if g.seated_stud}
    tightens = next(
        (i for i, s in enumerate(fitted) if s.kind == "tighten" and not set(s.groups) <= studs),
        None,
    )
    # where one bolt at a time is taken out while the others hold, the part is in its place
    held = tightens is not None and any(p.before_each for p in fitted[tightens].passes)
    if (
        tightens is not None
        and not held
        and not any(s.kind == "fit" and not s.temporary for s in fitted[:tightens])
    ):
        yield find(
            Finding.BARE_FACES, f"stages/{fitted[tightens].id}", stage=fitted[tightens].title
        )
    apart = [s for s in in_work_order(stages, "dismantle") if takes(s, "dismantle", chosen)]
    last = next((s for s in reversed(apart) if s.kind == "loosen"), None)
    if last is None:
        return
    off = [s for s in apart[apart.index(last) :] if s.kind == "remove"]
    if not off:
        yield find(Finding.PART_STAYS_ON, f"stages/{last.id}", stage=last.title)
    elif kind in PRESSED and not any(
        "seen to be empty" in s.brings for s in apart[: apart.index(off[0])]
    ):
        yield find(Finding.NOT_SEEN_EMPTY, f"stages/{off[0].id}", stage=off[0].title)
