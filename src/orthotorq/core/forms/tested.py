"""Friction as own tests found it."""

from __future__ import annotations

from .base import Out


class RigPointOut(Out):
    """What one test says: friction or nut factor, on which thread, when, on which sheet."""

    value: float
    thread: str
    date: str
    sheet: str


class RigBandOut(Out):
    """A band out of tests: what it is a band of (`mu_total`, `mu_thread`, `mu_bearing`,
    `nut_factor`), low, typical, high where there are tests enough, and every test as a point."""

    what: str
    count: int
    threads: list[str]
    band: list[float] | None
    points: list[RigPointOut]
