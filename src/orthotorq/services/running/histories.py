"""What may be known of the bolts before a run."""
from __future__ import annotations

HISTORIES = {"known": "known: as the last record says", "unknown": "unknown: slackened first in a recheck"}
