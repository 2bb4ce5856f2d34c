"""The job itself: pure rules and computation (see README.md)."""

CORE_VERSION = "0.2.0"
