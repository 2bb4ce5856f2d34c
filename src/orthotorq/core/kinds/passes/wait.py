"""Settle and look again: nothing is turned for a while."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from ...forms.quantities import Duration
from ...forms.stage import PassOut
from ..fields import field
from ..pass_kind import PassForm, PassKind, Planned
from ..prompts import WAIT


class WaitPass(PassForm):
    """Settle and look again: nothing is turned for a while."""

    do: Literal["wait"]
    lasts: Duration = Field(alias="for")


class Wait(PassKind):
    """A pause."""

    do, form, word, place = "wait", WaitPass, "Let it settle", 70
    listed = {"wait": {"do": "wait", "for": "10 min"}}
    fields = (field("for", "How long", "quantity"),)
    pause = True
    ask = WAIT

    def planned(self, form: Any, group: Planned) -> dict[str, Any]:
        """How long [s]."""
        return {"wait_s": form.lasts.base}

    def brief(self, raw: dict[str, Any]) -> str:
        """With its time."""
        return f"wait {raw.get('for', '')}".strip()

    def seconds(self, one: PassOut) -> float:
        """In full."""
        return one.wait_s or 0.0
