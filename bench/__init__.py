"""Measurements of the figures named in the README: `./torq bench`. No test asserts a time; they are
printed."""
