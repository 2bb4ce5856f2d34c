"""What is looked at or measured in a stage: limits, readings that relate to others, what is kept
for the trend."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ..errors import Impossible
from ..forms.base import Id, Model
from ..forms.order import Text
from ..forms.quantities import Reading
from ..forms.stage import ItemOut
from ..messages import Message
from .recorded_fields import AskedFor

OnFail = Literal["repair", "replace", "accept"]
Reads = Literal["length", "angle", "torque", "force", "stress", "time", "temperature"]
#: the unit of a reading that nothing else gives one
_UNITS: dict[str, str] = {
    "length": "mm",
    "angle": "deg",
    "torque": "N·m",
    "force": "kN",
    "stress": "bar",
    "time": "s",
    "temperature": "°C",
}


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
                raise Impossible(
                    Message.BAD_VALUE, ("max",), reason="Both ends of a limit must be of one kind"
                )
            if self.min.base > self.max.base:
                raise Impossible(Message.RANGE_REVERSED, low=str(self.min), high=str(self.max))
        return self

    @property
    def words(self) -> str:
        """At least, at most."""
        parts = [
            f"at least {self.min}" if self.min else "",
            f"at most {self.max}" if self.max else "",
        ]
        return ", ".join(p for p in parts if p)


class Change(Model):
    """A reading held against an earlier one at the same place: `since` is `stage/check`; without a
    limit it is kept for the trend."""

    since: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_-]*/[a-z][a-z0-9_-]*$", max_length=90)]
    limit: Limit | None = None


class Repeats(Model):
    """The same place several times, no further apart than `within`."""

    count: Annotated[int, Field(ge=2, le=9)] = 3
    within: Reading | None = None


class Check(Model):
    """Something looked at (good or not) or, with a limit, measured. `per` is once a position, once
    a run, or a group's bolts; `back` is the stage before it that can mend what fails, done again
    with everything since."""

    id: Id
    what: Text | None = None
    per: Id = "position"
    limit: Limit | None = None
    #: what is read where no limit says so: a value that is kept for the trend
    reads: Reads | None = None
    #: the gauge is set to zero before
    zero: bool = False
    repeats: Repeats | None = None
    change: Change | None = None
    #: the largest minus the smallest of all its places, at most
    spread: Reading | None = None
    gauge: Text | None = None
    on_fail: Annotated[list[OnFail], Field(min_length=1, max_length=3)] = [
        "repair",
        "replace",
        "accept",
    ]
    back: Id | None = None
    asks: Annotated[list[AskedFor], Field(max_length=3)] = []

    @property
    def words(self) -> str:
        """What is looked at; the id in words where the plan says nothing more."""
        return self.what or self.id.replace("_", " ").replace("-", " ")

    @property
    def measure(self) -> tuple[str, str] | None:
        """(kind of quantity, unit) of its readings, by whatever figure names one; None for what is
        only looked at."""
        if figures := self._figures():
            return figures[0].quantity.kind, figures[0].quantity.unit
        return (self.reads, _UNITS[self.reads]) if self.reads else None

    @model_validator(mode="after")
    def _measured(self) -> Check:
        """What relates readings is said of something that is read, all of one kind."""
        kinds = {one.quantity.kind for one in self._figures()} | (
            {self.reads} if self.reads else set()
        )
        if len(kinds) > 1:
            raise Impossible(Message.BAD_VALUE, reason="All figures of a check must be of one kind")
        related = [
            name for name in ("repeats", "change", "spread") if getattr(self, name) is not None
        ]
        if self.zero:
            related.append("zero")
        if related and not kinds:
            raise Impossible(
                Message.BAD_VALUE, (related[0],), reason="Enter what is read here, or a limit"
            )
        return self

    def _figures(self) -> list[Any]:
        limits = [
            one
            for one in (self.limit, self.change.limit if self.change else None)
            if one is not None
        ]
        ends = [end for limit in limits for end in (limit.min, limit.max)]
        within = self.repeats.within if self.repeats else None
        return [one for one in (*ends, self.spread, within) if one is not None]


def items_of(check: Check, count: int, group: str) -> list[ItemOut]:
    """What is asked of a check at `count` bolts of a group, or once: its gauge set to zero first,
    where that is said."""
    shared: dict[str, Any] = {
        "id": check.id,
        "text": check.words,
        "gauge": check.gauge,
        "places": [f"{group}.{i + 1}" for i in range(count)],
        "on_fail": list(check.on_fail),
        "back": check.back,
        "asks": list(check.asks),
    }
    if check.measure is None:
        return [ItemOut(answer="good", **shared)]
    kind, unit = check.measure
    limit, change, repeats = check.limit, check.change, check.repeats
    out = ItemOut(
        answer="value",
        quantity=kind,
        unit=unit,
        limit_text=limit.words if limit else None,
        relation_text=_relation_words(check),
        min=_base(limit, "min"),
        max=_base(limit, "max"),
        repeats=repeats.count if repeats else None,
        repeats_within=repeats.within.base if repeats and repeats.within else None,
        change_from=change.since if change else None,
        change_text=_change_words(change.limit) if change and change.limit else "",
        change_min=_base(change.limit if change else None, "min"),
        change_max=_base(change.limit if change else None, "max"),
        spread_max=check.spread.base if check.spread else None,
        **shared,
    )
    gauge = check.gauge or "gauge"
    zero = ItemOut(
        id=f"{check.id}.zero",
        answer="done",
        text=f"{gauge[0].upper()}{gauge[1:]} set to zero for “{check.words}”",
    )
    return [zero, out] if check.zero else [out]


def _base(limit: Limit | None, end: str) -> float | None:
    found = getattr(limit, end) if limit is not None else None
    return None if found is None else float(found.base)


def _change_words(limit: Limit) -> str:
    """How far a reading may have gone from the one before it.

    >>> _change_words(Limit.model_validate({"min": "-0.1 mm", "max": "0.1 mm"}))
    'at most ±0.1 mm'
    >>> _change_words(Limit.model_validate({"min": "1 mm", "max": "4 mm"}))
    '1 mm to 4 mm'
    """
    if limit.min is None or limit.max is None:
        return limit.words
    if limit.min.base == -limit.max.base:
        return f"at most ±{limit.max}"
    return f"{limit.min} to {limit.max}"


def _relation_words(check: Check) -> str:
    """What readings must keep to among themselves, in words."""
    change, repeats = check.change, check.repeats
    said = [
        f"changed by {_change_words(change.limit)}" if change and change.limit else "",
        f"no more than {check.spread} between the places" if check.spread else "",
        f"no more than {repeats.within} between the readings" if repeats and repeats.within else "",
    ]
    return "; ".join(one for one in said if one)
