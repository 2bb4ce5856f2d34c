"""What was written down: events by step, who pulled with what."""
