"""Bricks of every document: quantities as typed, field errors, and the forms of results and
runs."""
