"""Stages and passes of a plan. A stage kind is added here and in core/running, nowhere else."""
from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Discriminator, Field, Tag, model_validator

from ..errors import Impossible
from ..messages import Message
from .base import DO, Id, Model, Reading, Turn, kind

Occasion = Literal["install", "dismantle", "recheck"]
Text = Annotated[str, Field(min_length=1, max_length=300)]
Caution = Literal["stored_pressure", "trapped_hot_fluid", "lockout", "supported_load", "spring_energy", "pinch_reaction",
                  "dropped_objects", "eye_hand", "strong_magnets", "compound_sheet", "hot_work", "overhead", "road_vehicle"]


class Order(Model):
    """Order of the bolts of a pass. Star is the word for cross on few or odd bolts; both are one family."""

    kind: Literal["cross", "star", "circle"]
    start: Annotated[int, Field(ge=1, le=400)] = 1
    sense: Literal["cw", "ccw"] = "cw"
    group: Annotated[int, Field(ge=1, le=4)] = 1
    tools: Annotated[int, Field(ge=1, le=8)] = 1


class Rounds(Model):
    """A round repeated until none moves; a round is always finished, reaching `max` is never success."""

    until: Literal["none_moves"]
    moved_above: Turn = Field(default="5 deg", validate_default=True)
    max: Annotated[int, Field(ge=1, le=50)] = 3


class HandPass(Model):
    """Run on by hand until it seats."""

    id: Id
    name: Text | None = None
    do: Literal["hand"]
    order: Order = Order(kind="circle")


def _percent(value: float) -> float:
    if value > 110:
        raise Impossible(Message.OVER_110_PERCENT, percent=f"{value:g}")
    return value


class TorquePass(Model):
    """A share of the chosen torque at every bolt; `check` marks a round that proves rather than tightens."""

    id: Id
    name: Text | None = None
    do: Literal["torque"]
    percent: Annotated[float, Field(gt=0), AfterValidator(_percent)]
    order: Order = Order(kind="cross")
    check: bool = False
    rounds: Rounds | None = None


Pass = Annotated[Annotated[HandPass, Tag("~hand")] | Annotated[TorquePass, Tag("~torque")], DO]


class _Stage(Model):
    id: Id
    title: Text | None = None
    in_: Annotated[list[Occasion], Field(alias="in", min_length=1)] = ["install"]
    across: Literal["once", "position_by_position", "all_positions_first"] = "position_by_position"
    condition: Annotated[list[Text], Field(max_length=10)] = []
    cautions: Annotated[list[Caution], Field(max_length=12)] = []


class Item(Model):
    """One thing to do and tick."""

    id: Id
    text: Text


class PrepareStage(_Stage):
    """Things to be ticked before work goes on; once for the run unless said otherwise."""

    kind: Literal["prepare"]
    across: Literal["once", "position_by_position", "all_positions_first"] = "once"
    items: Annotated[list[Item], Field(min_length=1, max_length=60)]


class ApplyStage(_Stage):
    """A compound on stated faces of stated groups."""

    kind: Literal["apply"]
    what: Text
    groups: list[Id] = []
    faces: Annotated[list[Literal["thread", "under head", "washer"]], Field(max_length=3)] = []


class MarkStage(_Stage):
    """A paint line or another mark."""

    kind: Literal["mark"]
    what: Text


class Limit(Model):
    """A range a reading must lie in."""

    min: Reading | None = None
    max: Reading | None = None

    @model_validator(mode="after")
    def _order(self) -> Limit:
        if self.min is None and self.max is None:
            raise Impossible(Message.BAD_VALUE, reason="A limit needs a min or a max")
        if self.min is not None and self.max is not None and self.min.base > self.max.base:
            raise Impossible(Message.RANGE_REVERSED, low=str(self.min), high=str(self.max))
        return self


class Check(Model):
    """Something looked at (good or not) or, with a limit, measured."""

    id: Id
    what: Text
    limit: Limit | None = None


class InspectStage(_Stage):
    """Looked at or measured; what fails is a deviation to be accepted by name."""

    kind: Literal["inspect", "measure"]
    checks: Annotated[list[Check], Field(min_length=1, max_length=60)]


class TightenStage(_Stage):
    """Passes over groups in a stated condition."""

    kind: Literal["tighten"]
    groups: Annotated[list[Id], Field(min_length=1, max_length=60)]
    chains: Annotated[list[Id], Field(max_length=6)] = []
    impact: Literal["never", "run_down"] = "never"
    passes: Annotated[list[Pass], Field(min_length=1, max_length=40)]


def kind_of_stage(value: object) -> str | None:
    """Discriminator of stages; inspect and measure share a form."""
    tag = kind(value)
    return "~inspect" if tag == "~measure" else tag


Stage = Annotated[
    Annotated[PrepareStage, Tag("~prepare")] | Annotated[ApplyStage, Tag("~apply")] | Annotated[MarkStage, Tag("~mark")]
    | Annotated[InspectStage, Tag("~inspect")] | Annotated[TightenStage, Tag("~tighten")], Discriminator(kind_of_stage)]

#: Stage kinds that must name the condition in which they are valid.
NEEDS_CONDITION = ("tighten", "measure", "inspect")
