"""What one bolt does to its neighbours: bolts of a joint pulled one after the other, and the loads
that are left."""

from .compliance import Joint, coefficients, ring, row
from .equalise import Equalised, equalised
from .passes import PassOrder, passes_from
from .run import Scatter, Simulated, Step, simulated
from .tightening import Tightening

__all__ = [
    "Equalised",
    "Joint",
    "PassOrder",
    "Scatter",
    "Simulated",
    "Step",
    "Tightening",
    "coefficients",
    "equalised",
    "passes_from",
    "ring",
    "row",
    "simulated",
]
