"""A line from a manual: figures, passes, order, rechecks, each beside the words it came from. No
model, no guess."""

from .line import Line, read_line
from .torques import Figure, Question
from .words import Part

__all__ = ["Figure", "Line", "Part", "Question", "read_line"]
