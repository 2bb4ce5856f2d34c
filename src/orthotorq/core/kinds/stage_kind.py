"""What every kind of stage answers: its form, what it begins with, what it becomes, what it takes,
what ticking it does."""

from __future__ import annotations

import copy
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal, Protocol

from pydantic import Field

from ..forms.base import Id, Model, Words
from ..forms.condition import CONDITION, Condition
from ..forms.errors import FieldError, unknown
from ..forms.order import Order, Text
from ..forms.stage import ItemOut, PassOut, StageOut
from ..planning.cautions import CAUTIONS
from ..planning.findings import Finding
from .fields import FieldSpec, field
from .joints.joint_traits import JointTraits
from .recorded_fields import WORDS, AskedFor

Occasion = Literal["install", "dismantle", "recheck"]
if TYPE_CHECKING:
    Caution = str
else:
    Caution = Literal[tuple(CAUTIONS)]
Across = Literal["once", "position_by_position", "all_positions_first"]
OCCASIONS: dict[str, str] = {"install": "Tighten", "recheck": "Recheck", "dismantle": "Take apart"}

Raw = dict[str, Any]


class StageForm(Model):
    """What every stage of a plan has."""

    id: Id
    kind: Any
    title: Text | None = None
    in_: Annotated[list[Occasion], Field(alias="in", min_length=1)] = ["install"]
    across: Across = "position_by_position"
    after: Annotated[list[Id], Field(max_length=30)] | None = None
    variants: Annotated[list[Id], Field(max_length=20)] = []
    condition: Condition = CONDITION
    #: states it brings about, and what it puts in for the work; what it undoes again, or leaves in
    #: for who comes next
    brings: Annotated[list[Text], Field(max_length=10)] = []
    undoes: Annotated[list[Text], Field(max_length=10)] = []
    hands_over: Annotated[list[Text], Field(max_length=10)] = []
    #: done only when the stages around it are done again
    only_again: bool = False
    cautions: Annotated[list[Caution], Field(max_length=16)] = []
    #: what is recorded with its last answer
    asks: Annotated[list[AskedFor], Field(max_length=3)] = []
    note: Words = ""

    @property
    def words(self) -> str:
        """The stage as findings name it."""
        return self.title or self.id


class PlanView(Protocol):
    """The plan as a stage sees it; the plan document has more."""

    @property
    def joint_kind(self) -> str:
        """What kind of joint it is."""
        ...

    @property
    def traits(self) -> JointTraits:
        """What its kind of joint asks for."""
        ...

    @property
    def groups(self) -> Any:
        """Groups of bolts."""
        ...

    @property
    def stages(self) -> Any:
        """Stages in the order of the document."""
        ...

    @property
    def chains(self) -> Any:
        """Chains by id."""
        ...

    @property
    def variants(self) -> Any:
        """Variants."""
        ...

    @property
    def targets(self) -> Any:
        """Targets by group."""
        ...

    @property
    def definitions(self) -> Any:
        """Own entries."""
        ...


class StagePlanning(Protocol):
    """What a stage may ask while it is planned."""

    @property
    def plan(self) -> PlanView:
        """The plan."""
        ...

    def count(self, group: str) -> int:
        """How many bolts a group has; 0 for one that cannot be computed."""
        ...

    def moves(self, group: str, order: Order, *path: str | int) -> list[list[str]]:
        """The order of a group as moves; what is wrong with it is named at the path."""
        ...

    def passes(self, stage: Any, index: int) -> list[PassOut]:
        """The passes of a stage that tightens."""
        ...

    def seconds(self, stage: str) -> float:
        """Estimated time of the passes of a stage [s]."""
        ...

    def follows(self, later: str, earlier: str) -> bool:
        """Whether a stage comes after another when the joint is fitted."""
        ...


@dataclass(frozen=True, slots=True)
class Effect:
    """What answering an item of a stage does in a run: a compound begins to set."""

    sets: str | None = None


@dataclass(frozen=True, slots=True)
class Kit:
    """A line of the kit list: kind, what, how many."""

    kind: str
    text: str
    count: int = 1


#: the field of what is recorded with a stage that is answered once
ASKS = field(
    "asks", "Recorded with it", "boxes", choices={str(k): v for k, v in WORDS.items()}, main=False
)
#: a finding of a stage: code, the stage it hangs on, parameters
Found = tuple[Finding, str, dict[str, object]]


def done(identifier: str, text: str) -> list[ItemOut]:
    """One thing to tick."""
    return [ItemOut(id=identifier, text=text, answer="done")]


def ids_known(
    values: Sequence[str], known: Sequence[str], kind: str, *path: str | int
) -> list[FieldError]:
    """Errors for names that are not known."""
    return [unknown(kind, v, list(known), *path, j) for j, v in enumerate(values) if v not in known]


def usual_condition(doc: Raw) -> Raw:
    """The condition that the plan's tightening names, else one that fits every joint."""
    stages = [s for s in doc.get("stages", []) if s.get("kind") == "tighten"]
    named = (
        s["condition"] for s in stages if isinstance(s.get("condition"), dict) and s["condition"]
    )
    return copy.deepcopy(next(named, {"load": "off"}))


def all_groups(doc: Raw) -> list[str]:
    """Ids of all groups of a plan as typed."""
    return [str(g.get("id")) for g in doc.get("groups", [])]


class StageKind:
    """One kind of stage. A subclass in a file of its own says everything about it; kinds may share
    a form."""

    kind: ClassVar[str]
    form: ClassVar[type[StageForm]]
    #: the stage in words where the plan gives it no title; the words on the list of new stages and
    #: its place there
    word: ClassVar[str]
    listed: ClassVar[str]
    place: ClassVar[int]
    fields: ClassVar[tuple[FieldSpec, ...]] = ()
    #: whether it must name the condition it is valid in; turns bolts; proves something; makes safe
    #: and is no work
    needs_condition: ClassVar[bool] = False
    turns: ClassVar[bool] = False
    proves: ClassVar[bool] = False
    makes_safe: ClassVar[bool] = False
    #: whether what is done may refuse to come off
    may_refuse: ClassVar[bool] = False

    def beginning(self, doc: Raw) -> Raw:
        """What a new stage begins with beside id and kind; complete, so that the plan goes on being
        computed."""
        raise NotImplementedError

    def errors(self, plan: PlanView, stage: Any, path: tuple[str | int, ...]) -> list[FieldError]:
        """References that only this kind has."""
        return []

    def title(self, stage: Any) -> str:
        """The stage in words."""
        return stage.title or self.word

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """What is ticked, checked, read or waited for."""
        return []

    def brings(self, stage: Any) -> list[str]:
        """States it brings about, and what it puts in for the work."""
        return list(stage.brings)

    def undoes(self, stage: Any, plan: PlanView) -> list[str]:
        """What was put in and comes out again."""
        return list(stage.undoes)

    def more(self, stage: Any, planning: StagePlanning) -> dict[str, Any]:
        """Fields of the result that only this kind has."""
        return {}

    def passes(self, stage: Any, planning: StagePlanning, index: int) -> list[PassOut]:
        """Passes over bolts."""
        return []

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """What to bring for it."""
        return iter(())

    def findings(self, stage: Any, planning: StagePlanning) -> Iterator[Found]:
        """What is wrong with it in this plan."""
        return iter(())

    def line(self, raw: Raw) -> str:
        """A stage as typed in one telling line."""
        return str(raw.get("what") or "")

    def effect(self, stage: StageOut, word: str) -> Effect | None:
        """What an answer does in a run."""
        return None
