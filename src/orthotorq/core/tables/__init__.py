"""Shipped tables: CSV files with source and certainty, read once into frozen types.

The edition below is written into plans and results, so that a stored result says what it was
computed from.
"""

EDITION = "2026.2"
