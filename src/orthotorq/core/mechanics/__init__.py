"""The mechanics of tightening: one formula, one function; N, mm, MPa, N·mm, rad throughout."""
