"""Where a friction band comes from."""

from __future__ import annotations

from enum import StrEnum


class Origin(StrEnum):
    """Codes of where a friction band comes from."""

    TYPICAL = "typical"
    ENTERED = "entered"
    OWN = "own"
    SAID = "said"
    TESTED = "tested"

    def say(self, **params: str) -> str:
        """In words.

        >>> Origin.TYPICAL.say(id="light-oil")
        'typical band, table light-oil'
        """
        return TEXTS[self].format(**params)


TEXTS: dict[Origin, str] = {
    Origin.TYPICAL: "typical band, table {id}",
    Origin.ENTERED: "entered in the plan",
    Origin.OWN: "own entry of the plan",
    Origin.SAID: "{source}",
    Origin.TESTED: (
        "{count} own tests on {threads}: mean and interval for 90 % with 95 % confidence"
    ),
}
