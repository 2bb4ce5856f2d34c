"""Writes the golden files anew; look at the difference before you commit it."""

from __future__ import annotations

from orthotorq.demo.load import plan_names
from tests.golden import write

for one in plan_names():
    write(one)
