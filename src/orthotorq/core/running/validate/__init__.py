"""Whether an event holds: accepted, conflict or refused."""
