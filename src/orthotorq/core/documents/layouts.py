"""Where the bolts of a group stand: circle, row, grid, free points. 0° is at the top, seen from the
turning side."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, Tag

from ..forms.base import KIND, Model
from ..forms.quantities import Direction, Length, Position

Count = Annotated[int, Field(ge=1, le=400)]
Pair = Annotated[list[Position], Field(min_length=2, max_length=2)]


class _Layout(Model):
    """Shared by all: the common origin of a joint, and the numbers painted: in place or in
    tightening order, from which on."""

    origin: Pair = Field(default=["0 mm", "0 mm"], validate_default=True)
    labels: Literal["place", "order"] = "place"
    first_label: Annotated[int, Field(ge=1, le=10_000)] = 1


class Circle(_Layout):
    """Bolts equally spaced on a circle."""

    kind: Literal["circle"]
    count: Count
    diameter: Length
    first_at: Direction = Field(default="0 deg", validate_default=True)
    sense: Literal["cw", "ccw"] = "cw"


class Row(_Layout):
    """Bolts on a line, centred on the origin; 90° runs to the right."""

    kind: Literal["row"]
    count: Count
    pitch: Length
    direction: Direction = Field(default="90 deg", validate_default=True)


class Grid(_Layout):
    """A rectangle of bolts numbered row by row from the top left; `perimeter` keeps only its edge,
    numbered clockwise."""

    kind: Literal["grid"]
    rows: Annotated[int, Field(ge=1, le=100)]
    columns: Annotated[int, Field(ge=1, le=100)]
    row_pitch: Length
    column_pitch: Length
    perimeter: bool = False

    @property
    def count(self) -> int:
        """Number of bolts."""
        if not self.perimeter or min(self.rows, self.columns) < 3:
            return self.rows * self.columns
        return 2 * (self.rows + self.columns) - 4


class Points(_Layout):
    """Bolts wherever they are: x to the right, y up."""

    kind: Literal["points"]
    points: Annotated[list[Pair], Field(min_length=1, max_length=400)]

    @property
    def count(self) -> int:
        """Number of bolts."""
        return len(self.points)


Layout = Annotated[
    Annotated[Circle, Tag("~circle")]
    | Annotated[Row, Tag("~row")]
    | Annotated[Grid, Tag("~grid")]
    | Annotated[Points, Tag("~points")],
    KIND,
]
