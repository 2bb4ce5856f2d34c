"""Kinds of bolted joint: what each one asks for, a file a kind, listed in `registry`."""
