"""Physics of a joint under a simulated wrench, and what a trace of torque over angle says about a
pull."""
