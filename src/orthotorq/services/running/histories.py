"""What may be known of the bolts before a run."""

from __future__ import annotations

#: the most that is said in a line
MOST_WORDS = 200
HISTORIES = {
    "known": "known: as in the last record",
    "unknown": "unknown: slackened first in a recheck",
}
