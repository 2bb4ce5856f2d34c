"""A flange judged by component: stresses of bolt, gasket and flange as the clamp of one bolt."""

from __future__ import annotations

from collections.abc import Iterator

from ....documents.joint import Component, Gasket
from ....errors import Impossible
from ....mechanics import flange as fla
from ....mechanics import strength as lim
from ....mechanics.formula import Step, explain
from ....messages import Message
from ..inputs.facts import Facts
from .limit import Bound, bound_from


def component_bounds(facts: Facts) -> list[Bound]:
    """Bounds of a flange judged by component, each as the clamp of one bolt. Raises Impossible
    without a gasket."""
    group = facts.group
    given, gasket = group.component, group.gasket
    if given is None:
        return []
    if gasket is None:
        raise Impossible(
            Message.COMPONENT_NEEDS_GASKET, ("component", "target_stress"), group=group.name
        )
    shared = {
        "gasket_area": lim.ring_area(gasket.outside.base, gasket.inside.base),
        "bolts": float(group.layout.count),
        "root_area": facts.thread.root_area,
    }
    return [
        *_component_least(facts, given, gasket, shared),
        *_component_most(facts, given, gasket, shared),
    ]


def _component_bound(
    facts: Facts, names: tuple[str, str], upper: bool, field: str, stress: Step | float
) -> Bound:
    """A bound on a bolt stress as the clamp of one bolt; `names` are its code and its words."""
    step = stress if isinstance(stress, Step) else None
    last = explain(
        fla.bolt_load,
        stress=step.value if step else stress,
        root_area=facts.thread.root_area,
    )
    return bound_from(
        f"component_{names[0]}",
        f"component: {names[1]}",
        upper,
        f"groups/{facts.group.id}/{field}",
        [*([step] if step else []), last],
        "Stress on the bolt's root area.",
    )


def _component_least(
    facts: Facts, given: Component, gasket: Gasket, shared: dict[str, float]
) -> Iterator[Bound]:
    if given.bolt_min is not None:
        least = given.bolt_min.base
        yield _component_bound(
            facts, ("bolt_min", "bolt, at least"), False, "component/bolt_min", least
        )
    if gasket.seating is not None:
        yield _component_bound(
            facts,
            ("seating", "gasket seating"),
            False,
            "gasket/seating",
            explain(fla.bolt_stress_for, gasket_stress=gasket.seating.base, **shared),
        )
    if gasket.service is not None and gasket.pressure is not None:
        yield _component_bound(
            facts,
            ("operating", "gasket in operation"),
            False,
            "gasket/service",
            explain(
                fla.bolt_stress_in_operation,
                gasket_stress=gasket.service.base,
                pressure=gasket.pressure.base,
                inside=gasket.inside.base,
                relaxation=given.relaxation,
                **shared,
            ),
        )


def _component_most(
    facts: Facts, given: Component, gasket: Gasket, shared: dict[str, float]
) -> Iterator[Bound]:
    if given.bolt_max is not None:
        most = given.bolt_max.base
        yield _component_bound(
            facts, ("bolt_max", "bolt, at most"), True, "component/bolt_max", most
        )
    if given.flange_max is not None:
        most = given.flange_max.base
        yield _component_bound(facts, ("flange", "flange"), True, "component/flange_max", most)
        if given.gasket_rotation is not None and given.flange_rotation is not None:
            yield _component_bound(
                facts,
                ("rotation", "rotation"),
                True,
                "component/gasket_rotation",
                explain(
                    fla.bolt_stress_for_rotation,
                    flange=given.flange_max.base,
                    gasket_rotation=given.gasket_rotation.base,
                    flange_rotation=given.flange_rotation.base,
                ),
            )
    if gasket.damage is not None:
        yield _component_bound(
            facts,
            ("crush", "gasket crushed"),
            True,
            "gasket/damage",
            explain(fla.bolt_stress_for, gasket_stress=gasket.damage.base, **shared),
        )
