"""A compound on stated faces of stated bolts; one that sets starts a clock."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from ...forms.base import Id, Words
from ...forms.errors import FieldError, unknown
from ...forms.order import Text
from ...forms.quantities import Duration
from ...forms.stage import ItemOut, StageOut
from ...planning.findings import Finding
from ...tables import lubricants
from ..fields import field
from ..stage_kind import (
    ASKS,
    Effect,
    Found,
    Kit,
    PlanView,
    Raw,
    StageForm,
    StageKind,
    StagePlanning,
    all_groups,
    done,
    ids_known,
)

OFFERED = {
    "thread": "thread",
    "under head": "under the head",
    "nut face": "nut face",
    "washer": "washer",
    "seat": "seat",
}


class ApplyStage(StageForm):
    """A compound on stated faces of stated groups; `sets_in` starts a clock for the stages named in
    `before`."""

    kind: Literal["apply"]
    what: Text
    compound: Id | None = None
    groups: list[Id] = []
    faces: Annotated[
        list[
            Literal[
                "thread",
                "under head",
                "nut face",
                "washer",
                "seat",
                "gasket",
                "teeth",
                "bore",
                "shaft",
                "taper",
            ]
        ],
        Field(max_length=10),
    ] = []
    amount: Text | None = None
    keep_dry: Text | None = None
    sets_in: Duration | None = None
    before: Annotated[list[Id], Field(max_length=20)] = []
    reason: Words = ""


def _minutes(seconds: float) -> str:
    return f"{seconds / 60:.0f} min" if seconds >= 90 else f"{seconds:.0f} s"


class Apply(StageKind):
    """A compound is put on."""

    kind, form, word, listed, place = (
        "apply",
        ApplyStage,
        "Apply",
        "Lubricate or lock with a compound",
        70,
    )
    fields = (
        field("compound", "Compound", "compound", "not one of the tables"),
        field("what", "What"),
        field("amount", "How much", example="Not specified"),
        field("keep_dry", "Keep dry", example="Not specified"),
        field("sets_in", "Sets in", "quantity", "does not set"),
        field("before", "Then done before", "stages", main=False),
        field("faces", "On which faces", "boxes", choices=OFFERED),
        ASKS,
    )

    def beginning(self, doc: Raw) -> Raw:
        """What the first bolts' friction is computed for."""
        groups, on = all_groups(doc), ["thread", "under head"]
        first = (doc.get("groups") or [{}])[0]
        compound = (first.get("friction") or {}).get("lubricant")
        what = (
            {"what": str(compound).replace("-", " "), "compound": compound}
            if compound
            else {"what": "the compound"}
        )
        return {**what, "groups": groups, "faces": on}

    def errors(self, plan: PlanView, stage: Any, path: tuple[str | int, ...]) -> list[FieldError]:
        """The stages it must be done before, and the compound, are known."""
        out = ids_known(stage.before, [s.id for s in plan.stages], "stage", *path, "before")
        known = [*plan.definitions.lubricants, *lubricants.table()]
        if stage.compound is not None and stage.compound not in known:
            out.append(unknown("compound", stage.compound, known, *path, "compound"))
        return out

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """What, how much, on which faces of which bolts, and what stays dry."""
        *most, final = [OFFERED.get(face, str(face)) for face in stage.faces] or [""]
        on = f"{', '.join(most)} and {final}" if most else final
        # two ways of the same bolts share a name
        names = ", ".join(
            dict.fromkeys(g.name for g in planning.plan.groups if g.id in stage.groups)
        )
        text = f"{stage.what}, {stage.amount}," if stage.amount else stage.what
        text = f"{text} on {on}" if on else text.rstrip(",")
        text += (f" of {names}" if names else "") + (
            f"; keep dry: {stage.keep_dry}" if stage.keep_dry else ""
        )
        return done("apply", text[:1].upper() + text[1:])

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """The clock, and which bolts."""
        return {
            "sets_in_s": stage.sets_in.base if stage.sets_in else None,
            "sets_before": list(stage.before),
            "groups": list(stage.groups),
        }

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """The compound and what puts it on."""
        yield Kit("compound", stage.what + (f", {stage.amount}" if stage.amount else ""))
        yield Kit("sundry", "brush and lint-free cloth")

    def findings(self, stage: Any, planning: StagePlanning) -> Iterator[Found]:
        """Where it must not be, and whether what it sets on is tightened in time."""
        plan, shipped = planning.plan, lubricants.table().get(stage.compound or "")
        if "gasket" in stage.faces and not stage.reason:
            yield Finding.COMPOUND_ON_GASKET, stage.id, {"stage": stage.words, "what": stage.what}
        if (
            shipped is not None
            and "seat" in stage.faces
            and "dry seat" in shipped.forbidden
            and plan.traits.seat == "dry"
        ):
            yield (
                Finding.COMPOUND_FORBIDDEN,
                stage.id,
                {"stage": stage.words, "lubricant": shipped.name, "face": "a dry seat"},
            )
        if stage.sets_in is not None:
            yield from self._clock(stage, planning)

    def _clock(self, stage: Any, planning: StagePlanning) -> Iterator[Found]:
        tightens = [
            s
            for s in planning.plan.stages
            if s.kind == "tighten" and set(s.groups) & set(stage.groups)
        ]
        timed = [s for s in tightens if "install" in s.in_ and s.id in stage.before]
        needs = sum(planning.seconds(s.id) for s in timed)
        if needs > stage.sets_in.base:
            yield (
                Finding.SETS_TOO_SOON,
                stage.id,
                {
                    "stage": ", ".join(s.words for s in tightens if s.id in stage.before),
                    "needs": _minutes(needs),
                    "what": stage.what,
                    "sets": str(stage.sets_in),
                },
            )
        for one in tightens:
            # before the compound it is late, after it a pull breaks the bond
            if one.id in stage.before:
                continue
            if "install" not in one.in_ or planning.follows(one.id, stage.id):
                yield Finding.CHECK_AFTER_SET, one.id, {"stage": one.words, "what": stage.what}
            elif planning.follows(stage.id, one.id) and any(
                p.do == "torque" for p in one.passes or []
            ):
                yield Finding.APPLIED_TOO_LATE, one.id, {"what": stage.what, "stage": one.words}

    def effect(self, stage: StageOut, word: str) -> Effect | None:
        """A clock begins."""
        return Effect(sets=stage.items[0].text) if stage.sets_in_s is not None else None
