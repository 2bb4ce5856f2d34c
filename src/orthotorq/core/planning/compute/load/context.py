"""Everything about a plan that its questions read: made once, changed by nobody, passed to each of
them.

What needs the passes (settings, seconds) is asked of `Work`, which is made from it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import lru_cache

from pydantic import TypeAdapter

from ....documents.plan import Plan
from ....documents.references import resolved_after
from ....forms.errors import FieldErrors
from ....kinds.registry import Pass
from ....kinds.stage_kind import OCCASIONS
from ....kinds.stages.tighten import TightenStage
from ....mechanics.preload import torque_from_preload
from ...methods import passes_of_method
from ..inputs.facts import Facts, gather
from ..inputs.sources import Sources, read_sources
from ..inputs.target import Chosen, NeedsStack, choose
from ..inputs.wrench_settings import Chain, chain_of
from .component import component_bounds
from .in_service import Hot, hot_of, work_bounds
from .limits import share_bound

_PASSES: TypeAdapter[list[Pass]] = TypeAdapter(list[Pass])


@lru_cache(maxsize=32)
def _method(identifier: str) -> list[Pass]:
    return _PASSES.validate_python(passes_of_method(identifier))


def stage_passes(plan: Plan, stage: TightenStage) -> list[Pass]:
    """The passes of a tighten stage: its own, or those of its method."""
    if stage.passes is not None:
        return stage.passes
    own = plan.definitions.methods.get(stage.method or "")
    return own.passes if own is not None else _method(stage.method or "")


@dataclass(frozen=True, slots=True)
class Context:
    """A plan with what its groups come to: facts, sources and target by group id, passes by stage
    id, chains by id."""

    plan: Plan
    facts: dict[str, Facts]
    sources: dict[str, Sources]
    chosen: dict[str, Chosen]
    #: torque [N·mm] by group that nothing may pass, whatever the figure
    allowed: dict[str, float | None]
    passes: dict[str, list[Pass]]
    chains: dict[str, Chain]
    hot: dict[str, Hot] = field(default_factory=dict)
    #: by occasion, for every stage on it the stages it comes after
    after: dict[str, dict[str, list[str]]] = field(default_factory=dict)

    def tighten_stages(
        self, group: str | None = None, occasion: str | None = None
    ) -> Iterator[TightenStage]:
        """Stages that tighten, of a group and on an occasion where one is named."""
        for stage in self.plan.stages:
            if (
                isinstance(stage, TightenStage)
                and (group is None or group in stage.groups)
                and (occasion is None or occasion in stage.in_)
            ):
                yield stage

    def ceiling(self, chosen: Chosen) -> float | None:
        """Torque [N·mm] that rounding may not pass: what is allowed at most; a share of yield is
        not passed itself."""
        name = chosen.facts.group.id
        allowed = self.allowed[name]
        if self.plan.targets[name].kind != "yield_fraction":
            return allowed
        return chosen.torque if allowed is None else min(chosen.torque, allowed)

    def follows(self, later: str, earlier: str) -> bool:
        """Whether a stage comes after another on the occasion install, by dependencies."""
        after = self.after["install"]
        todo, seen = list(after.get(later, [])), set[str]()
        while todo:
            one = todo.pop()
            if one == earlier:
                return True
            if one not in seen:
                seen.add(one)
                todo += after.get(one, [])
        return False


def _allowed(chosen: Chosen) -> float | None:
    """Torque [N·mm] that is allowed at most, whatever the figure: by a code, or a chosen share of
    yield at typical friction."""
    facts = chosen.facts
    allowed = (r.source.says.at_most for r in chosen.sources.readings if r.struck is None)
    tops = [most.base for most in allowed if most is not None]
    if not chosen.angle and (share := share_bound(facts)) is not None:
        tops.append(
            torque_from_preload(
                share.clamp, facts.joint.band_per_preload().typical, facts.joint.prevailing
            )
        )
    return min(tops, default=None)


def context_of(plan: Plan, errors: FieldErrors) -> Context:
    """The context of a checked plan; fields that do not fit each other are named in `errors`, and
    their group is left out."""
    facts = {
        g.id: f for i, g in enumerate(plan.groups) if (f := gather(plan, i, errors)) is not None
    }
    hot: dict[str, Hot] = {}
    for i, group in enumerate(plan.groups):
        if (fact := facts.get(group.id)) is not None:
            # what acts at work is looked at here, so that what is wrong with it stands at its own
            # field
            with errors.at("groups", i):
                work_bounds(plan, fact)
                component_bounds(fact)
                if (found := hot_of(plan, fact)) is not None:
                    hot[group.id] = found
    sources = {name: read_sources(plan, fact) for name, fact in facts.items()}
    chosen: dict[str, Chosen] = {}
    for name, fact in facts.items():
        with errors.at("targets", name):
            try:
                target = choose(plan, fact, sources[name])
            except NeedsStack:
                with errors.at("groups", [g.id for g in plan.groups].index(name), "stack"):
                    raise
                continue
            if target is not None:
                chosen[name] = target
    return Context(
        plan,
        facts,
        sources,
        chosen,
        {name: _allowed(one) for name, one in chosen.items()},
        {s.id: stage_passes(plan, s) for s in plan.stages if isinstance(s, TightenStage)},
        {name: chain_of(plan, name) for name in plan.chains},
        hot,
        {o: resolved_after(plan.stages, o) for o in OCCASIONS},
    )
