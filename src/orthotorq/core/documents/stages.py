"""Stages of a plan. A stage kind is added here (document), in planning/compute/stages and in core/running, nowhere else."""
from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Discriminator, Field, Tag, model_validator

from ..errors import Impossible
from ..messages import Message
from .base import Duration, Id, Model, Reading, Turn, Words, kind
from .passes import Order, Passes, Text

Occasion = Literal["install", "dismantle", "recheck"]
Caution = Literal["stored_pressure", "trapped_hot_fluid", "lockout", "supported_load", "spring_energy", "pinch_reaction",
                  "dropped_objects", "eye_hand", "strong_magnets", "compound_sheet", "hot_work", "overhead", "road_vehicle",
                  "stay_out_of_line", "heavy_lift", "two_persons"]
Across = Literal["once", "position_by_position", "all_positions_first"]
OnFail = Literal["repair", "replace", "accept"]


class _Stage(Model):
    id: Id
    title: Text | None = None
    in_: Annotated[list[Occasion], Field(alias="in", min_length=1)] = ["install"]
    across: Across = "position_by_position"
    after: Annotated[list[Id], Field(max_length=30)] | None = None
    variants: Annotated[list[Id], Field(max_length=20)] = []
    condition: Annotated[list[Text], Field(max_length=10)] = []
    cautions: Annotated[list[Caution], Field(max_length=16)] = []
    note: Words = ""


class Item(Model):
    """One thing to do and tick."""

    id: Id
    text: Text


class PrepareStage(_Stage):
    """Things to be ticked before work goes on; once for the run unless said otherwise. Clean has the same form."""

    kind: Literal["prepare", "clean"]
    across: Across = "once"
    items: Annotated[list[Item], Field(min_length=1, max_length=60)]


class HoldStage(_Stage):
    """Somebody or something holds a part, or the far side of the bolts."""

    kind: Literal["hold", "counter_hold"]
    what: Text
    tool: Text | None = None


class FitStage(_Stage):
    """Something is fitted; `temporary` must come out again by a remove stage."""

    kind: Literal["fit"]
    what: Text
    temporary: bool = False


class RemoveStage(_Stage):
    """Takes out what a fit stage put in, or something that was there."""

    kind: Literal["remove"]
    fit: Id | None = None
    what: Text | None = None

    @model_validator(mode="after")
    def _something(self) -> RemoveStage:
        if self.fit is None and self.what is None:
            raise Impossible(Message.BAD_VALUE, ("fit",), reason="Name the stage that fitted it, or say what comes off")
        return self


class LoosenStage(_Stage):
    """Nuts loosened a little at a time, in the order of tightening unless said otherwise."""

    kind: Literal["loosen"]
    groups: Annotated[list[Id], Field(min_length=1, max_length=60)]
    turn: Turn = Field(default="1 flat", validate_default=True)
    rounds: Annotated[int, Field(ge=1, le=20)] = 2
    order: Order = Order(kind="cross")


class JackOutStage(_Stage):
    """A part pressed off by jacking screws in small equal turns."""

    kind: Literal["jack_out"]
    what: Text
    screws: Annotated[int, Field(ge=1, le=60)]
    turn: Turn = Field(default="90 deg", validate_default=True)
    max: Annotated[int, Field(ge=1, le=50)] = 12


class ApplyStage(_Stage):
    """A compound on stated faces of stated groups; `sets_in` starts a clock for the stages named in `before`."""

    kind: Literal["apply"]
    what: Text
    compound: Id | None = None
    groups: list[Id] = []
    faces: Annotated[list[Literal["thread", "under head", "washer", "seat", "gasket", "teeth", "bore"]], Field(max_length=7)] = []
    amount: Text | None = None
    keep_dry: Text | None = None
    sets_in: Duration | None = None
    before: Annotated[list[Id], Field(max_length=20)] = []
    reason: Words = ""


class MarkStage(_Stage):
    """A paint line or another mark."""

    kind: Literal["mark"]
    what: Text


class LockStage(_Stage):
    """Locked so that it cannot turn: tab bent, nut staked, pin, wire, adhesive, locking ring."""

    kind: Literal["lock"]
    what: Text
    by: Literal["tab", "stake", "pin", "wire", "adhesive", "lock nut", "ring"] = "tab"


class WatchStage(_Stage):
    """Watched, usually at start-up; when it moved the named stage and all since are done again."""

    class IfMoved(Model):
        """What to do again."""

        redo: Id

    kind: Literal["watch"]
    what: Text
    if_moved: IfMoved | None = None


class WaitStage(_Stage):
    """Nothing is turned for a while."""

    kind: Literal["wait"]
    lasts: Duration = Field(alias="for")
    what: Text | None = None


class NoteStage(_Stage):
    """Words to be read and confirmed."""

    kind: Literal["note"]
    text: Text


class Limit(Model):
    """A range a reading must lie in: gap, depth, angle, torque, force."""

    min: Reading | None = None
    max: Reading | None = None

    @model_validator(mode="after")
    def _order(self) -> Limit:
        if self.min is None and self.max is None:
            raise Impossible(Message.BAD_VALUE, reason="A limit needs a min or a max")
        if self.min is not None and self.max is not None:
            if self.min.quantity.kind != self.max.quantity.kind:
                raise Impossible(Message.BAD_VALUE, ("max",), reason="Both ends of a limit must be of one kind")
            if self.min.base > self.max.base:
                raise Impossible(Message.RANGE_REVERSED, low=str(self.min), high=str(self.max))
        return self


class Check(Model):
    """Something looked at (good or not) or, with a limit, measured. `per` is once a position, once a run, or a group's bolts."""

    id: Id
    what: Text | None = None
    per: Id = "position"
    limit: Limit | None = None
    gauge: Text | None = None
    on_fail: Annotated[list[OnFail], Field(min_length=1, max_length=3)] = ["repair", "replace", "accept"]

    @property
    def words(self) -> str:
        """What is looked at; the id in words where the plan says nothing more."""
        return self.what or self.id.replace("_", " ").replace("-", " ")


class InspectStage(_Stage):
    """Looked at or measured; what fails is repaired, replaced, or accepted by name."""

    kind: Literal["inspect", "measure"]
    checks: Annotated[list[Check], Field(min_length=1, max_length=60)]


class TightenStage(_Stage):
    """Passes over groups in a stated condition; a `method` by id stands for its passes.

    Every group is pulled with the stage's chains, unless `chain_for` names its own.
    """

    kind: Literal["tighten"]
    groups: Annotated[list[Id], Field(min_length=1, max_length=60)]
    chains: Annotated[list[Id], Field(max_length=6)] = []
    chain_for: dict[Id, Id] = {}
    impact: Literal["never", "run_down"] = "never"
    watch_for: Text | None = None
    passes: Passes | None = None
    method: Id | None = None

    @model_validator(mode="after")
    def _one_of(self) -> TightenStage:
        if (self.passes is None) == (self.method is None):
            raise Impossible(Message.BAD_VALUE, ("passes",), reason="A tighten stage has either passes or a method")
        return self


#: kinds that share a form with another
_SAME = {"~measure": "~inspect", "~clean": "~prepare", "~counter_hold": "~hold"}


def kind_of_stage(value: object) -> str | None:
    """Discriminator of stages; some kinds share a form."""
    tag = kind(value)
    return _SAME.get(tag, tag) if tag else None


Stage = Annotated[
    Annotated[PrepareStage, Tag("~prepare")] | Annotated[HoldStage, Tag("~hold")] | Annotated[FitStage, Tag("~fit")]
    | Annotated[RemoveStage, Tag("~remove")] | Annotated[LoosenStage, Tag("~loosen")]
    | Annotated[JackOutStage, Tag("~jack_out")] | Annotated[InspectStage, Tag("~inspect")]
    | Annotated[ApplyStage, Tag("~apply")] | Annotated[TightenStage, Tag("~tighten")] | Annotated[WaitStage, Tag("~wait")]
    | Annotated[LockStage, Tag("~lock")] | Annotated[MarkStage, Tag("~mark")] | Annotated[WatchStage, Tag("~watch")]
    | Annotated[NoteStage, Tag("~note")], Discriminator(kind_of_stage)]

#: Stage kinds that must name the condition in which they are valid.
NEEDS_CONDITION = ("tighten", "measure", "inspect")
