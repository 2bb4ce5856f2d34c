"""Locked so that it cannot turn: tab bent, nut staked, pin, wire, adhesive, locking ring."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from ...forms.order import Text
from ...forms.stage import ItemOut, StageOut
from ..fields import field
from ..stage_kind import ASKS, Kit, Raw, StageForm, StageKind, StagePlanning, done

#: how it is locked -> (what is then so, what that takes)
BY = {
    "tab": ("tab bent", "drift and hammer for the tab"),
    "stake": ("staked", "staking punch and hammer"),
    "pin": ("pinned", "pliers for the pin"),
    "wire": ("wired", "wire pliers and cutter"),
    "adhesive": ("adhesive", "adhesive of the lock, cleaner"),
    "lock nut": ("lock nut on", "second spanner for the lock nut"),
    "ring": ("ring in", "pliers for the ring"),
}


class LockStage(StageForm):
    """Locked so that it cannot turn: tab bent, nut staked, pin, wire, adhesive, locking ring."""

    kind: Literal["lock"]
    what: Text
    by: Literal["tab", "stake", "pin", "wire", "adhesive", "lock nut", "ring"] = "tab"


class Lock(StageKind):
    """Locked."""

    kind, form, word, listed, place = "lock", LockStage, "Lock", "Lock: tab, pin, stake", 140
    fields = (field("what", "What"), field("by", "By", "choice", choices={k: k for k in BY}), ASKS)

    def beginning(self, doc: Raw) -> Raw:
        """By a tab."""
        return {"what": "the lock", "by": "tab"}

    def items(self, stage: Any, planning: StagePlanning) -> list[ItemOut]:
        """What is locked, and how it is then."""
        return done("lock", f"{stage.what}: {BY[stage.by][0]}")

    def kit(self, stage: Any, out: StageOut, planning: StagePlanning) -> Iterator[Kit]:
        """What locking takes."""
        yield Kit("tool", BY[stage.by][1])
