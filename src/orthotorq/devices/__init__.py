"""Measuring devices behind one protocol, and the simulated ones that ship with it."""
