"""The findings of a plan, a file per question; their sentences are in core/planning/findings."""
