"""The friction a group is computed with, and where its band comes from."""

from __future__ import annotations

from dataclasses import dataclass

from ....documents.joint import Friction as Given
from ....documents.plan import OwnLubricant, Plan
from ....errors import Impossible, UnknownName
from ....forms.base import as_band
from ....messages import Message, Origin
from ....tables import lubricants
from ....tables.lubricants import Band, Lubricant
from ....tables.threads import parse_thread
from .friction_test import tested


@dataclass(frozen=True, slots=True)
class Friction:
    """Friction in use with its name and where its band comes from; `forbidden` names where it must
    not be.

    `dry` is None where nobody named what is there. `group` is what the lubricant is (see
    tables/lubricants), `origin` with its parameters where the band comes from.
    """

    lubricant: str | None
    name: str
    mu_thread: Band | None
    mu_bearing: Band | None
    nut_factor: Band | None
    dry: bool | None
    solid: bool
    forbidden: tuple[str, ...]
    group: str
    origin: Origin
    origin_params: tuple[tuple[str, str], ...] = ()

    @property
    def measured(self) -> bool:
        """Whether the ends of the band were measured: then they do occur, and are no worst guess
        of a table or of a person."""
        return self.origin is Origin.TESTED

    @property
    def source(self) -> str:
        """Where the band comes from, in words."""
        return self.origin.say(**dict(self.origin_params))


def friction_of(plan: Plan, given: Given) -> Friction:
    """Friction of a group: entered bands first, then the plan's own entry, then the table. Raises
    UnknownName."""
    own = plan.definitions.lubricants.get(given.lubricant) if given.lubricant else None
    if own is not None:
        return _own(given, own)
    shipped = lubricants.table().get(given.lubricant) if given.lubricant else None
    if shipped is not None:
        return _shipped(given, shipped)
    if given.lubricant:
        raise UnknownName(Message.LUBRICANT_UNKNOWN, ("lubricant",), text=given.lubricant)
    mu_t, mu_b, factor = _entered(given)
    return Friction(
        None, "as entered", mu_t, mu_b or mu_t, factor, None, False, (), "unnamed", Origin.ENTERED
    )


def _entered(given: Given) -> tuple[Band | None, Band | None, Band | None]:
    """Bands entered at the group: thread, bearing, nut factor."""
    return (
        as_band(given.mu_thread) if given.mu_thread else None,
        as_band(given.mu_bearing) if given.mu_bearing else None,
        as_band(given.nut_factor) if given.nut_factor else None,
    )


def _own(given: Given, own: OwnLubricant) -> Friction:
    mu_t, mu_b, factor = _entered(given)
    entered, bands = mu_t is not None or factor is not None, bands_of(own)
    factor = factor or (bands.get("nut_factor") if mu_t is None else None)
    mu_t = mu_t or bands.get("mu_thread")
    mu_b = mu_b or bands.get("mu_bearing")
    forbidden = (
        ("friction hub", "gasket", "dry seat")
        if own.solid
        else ()
        if own.dry
        else ("gasket", "dry seat")
    )
    origin, params = Origin.OWN, tuple[tuple[str, str], ...]()
    if own.source:
        origin, params = Origin.SAID, (("source", own.source),)
    if not entered and own.mu_thread is None and own.nut_factor is None:
        threads = dict.fromkeys(parse_thread(t.thread).designation for t in own.tests)
        origin, params = (
            Origin.TESTED,
            (
                ("count", str(sum(len(t.readings) for t in own.tests))),
                ("threads", ", ".join(threads)),
            ),
        )
    return Friction(
        given.lubricant,
        own.name,
        mu_t,
        mu_b or mu_t,
        factor,
        own.dry,
        own.solid,
        forbidden,
        "own",
        origin,
        params,
    )


def bands_of(own: OwnLubricant) -> dict[str, Band]:
    """Bands of an own entry by field: as typed, else out of its tests. Friction of thread and face
    together stands for each; the nut factor only where no test tells friction. Raises Impossible
    where the tests do not make a band."""
    typed = {
        name: as_band(values)
        for name in ("mu_thread", "mu_bearing", "nut_factor")
        if (values := getattr(own, name))
    }
    if typed:
        return typed
    found = {one.what: Band(*one.band) for one in tested(own) if one.band is not None}
    if "mu_total" in found:
        return {"mu_thread": found["mu_total"], "mu_bearing": found["mu_total"]}
    if "mu_thread" in found:
        return {name: found[name] for name in ("mu_thread", "mu_bearing")}
    if "nut_factor" not in found:
        raise Impossible(
            Message.BAD_VALUE,
            ("lubricant",),
            reason=f"The tests of “{own.name}” are of several kinds, and of none "
            "there are enough for a band",
        )
    return {"nut_factor": found["nut_factor"]}


def _shipped(given: Given, shipped: Lubricant) -> Friction:
    mu_t, mu_b, factor = _entered(given)
    measured = mu_t is not None or factor is not None
    if factor is None:
        mu_t, mu_b = mu_t or shipped.mu_thread, mu_b or (None if measured else shipped.mu_bearing)
    origin, params = (Origin.ENTERED, ()) if measured else (Origin.TYPICAL, (("id", shipped.id),))
    return Friction(
        given.lubricant,
        shipped.name,
        mu_t,
        mu_b or mu_t,
        factor,
        shipped.dry,
        shipped.solid,
        shipped.forbidden,
        shipped.group,
        origin,
        params,
    )
