"""Coming back to joints: meters of machines, due dates, what happened to a joint, the first screen
of a shift."""
