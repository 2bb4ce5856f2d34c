"""A file for every kind of pass."""
