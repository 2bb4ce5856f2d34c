"""What settling of the faces and creep of the gasket take from one bolt."""

from __future__ import annotations

from ....documents.joint import Gasket
from ....forms.group import LossOut
from ....mechanics import losses as loss
from ....tables import gaskets
from ..inputs.facts import Facts


def gasket_factors(gasket: Gasket) -> tuple[float | None, float | None, float]:
    """(m, y [MPa], creep share): the sheet's own, else the type's typical ones."""
    kind = gaskets.table().get(gasket.type) if gasket.type else None
    m = gasket.m if gasket.m is not None else kind.m if kind else None
    y = gasket.y.base if gasket.y is not None else kind.y if kind else None
    creep = gasket.creep if gasket.creep is not None else kind.creep if kind else 0.0
    return m, y, creep


def loss_of(facts: Facts) -> LossOut:
    """What settling of the faces and creep of the gasket take from one bolt."""
    group = facts.group
    embedding, per_face = None, None
    if facts.stiffness is not None:
        layers = len(group.stack)
        inner = layers if facts.stiffness.tapped else layers - 1
        per_face = loss.embedding(
            loss.ROUGHNESS[group.roughness], 1 if facts.stiffness.tapped else 2, max(0, inner)
        )
        embedding = loss.embedding_loss(per_face, facts.stiffness.fastener, facts.stiffness.parts)
    creep = gasket_factors(group.gasket)[2] if group.gasket else 0.0
    return LossOut(embedding_N=embedding, embedding_mm=per_face, creep_share=creep)


def after_losses(load: float, losses: LossOut) -> float:
    """A load [N] less what embedding and creep take."""
    return float(max(0.0, (load - (losses.embedding_N or 0.0)) * (1 - losses.creep_share)))
