"""What a line of a manual says: figures, passes, order, rechecks, each beside the words it came from. No model, no guess."""
from .line import Line, read_line
from .torques import Figure
from .words import Part

__all__ = ["Figure", "Line", "Part", "read_line"]
