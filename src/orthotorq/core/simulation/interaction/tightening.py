"""Nuts that are turned on one after the other: a bolt pulls and never pushes, a wrench never lowers
a load.

`A = I/k_b + C` gives the take-up `u` of the nuts for loads `F`. A bolt is tight (`u = A F` there)
or loose (`F = 0` and `u <= A F`): a complementarity problem, solved by turning over the bolts that
violate it, for many trials at once. Trials with the same tight bolts share one inverse.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ...errors import Impossible
from ...messages import Message
from .compliance import Array, Joint

Mask = NDArray[np.bool_]
#: below this share of the largest load or take-up a difference is none
_TINY = 1e-9
#: turns in which all violating bolts are turned over at once; afterwards the first alone, which
#: always ends
_AT_ONCE = 20
#: doubles of inverses that are kept: 256 MB
_KEPT = 32_000_000
#: an inverse is made anew after so many changes one upon the other
_CHAIN = 40


class _Inverses:
    """Inverses of `A` over the tight bolts, with zeros elsewhere."""

    def __init__(self, flexibility: Array) -> None:
        self._a = flexibility
        self._known: dict[bytes, tuple[Array, int]] = {}
        self._last: tuple[Mask, Array, int] | None = None

    def of(self, tight: Mask) -> Array:
        """(n, n) N/mm for (n,) tight bolts."""
        key = tight.tobytes()
        found = self._known.get(key)
        if found is None:
            found = self._changed(tight) or self._anew(tight)
            if (len(self._known) + 1) * self._a.size > _KEPT:
                self._known.clear()
            self._known[key] = found
        self._last = (tight.copy(), *found)
        return found[0]

    def _anew(self, tight: Mask) -> tuple[Array, int]:
        out = np.zeros_like(self._a)
        at = np.flatnonzero(tight)
        out[np.ix_(at, at)] = np.linalg.inv(self._a[np.ix_(at, at)])
        return out, 0

    def _changed(self, tight: Mask) -> tuple[Array, int] | None:
        """The inverse used last, with a few bolts more or fewer."""
        if self._last is None:
            return None
        before, inverse, chain = self._last
        flips = np.flatnonzero(before != tight)
        if len(flips) * 4 > len(tight) or chain + len(flips) > _CHAIN:
            return None
        out, now = inverse.copy(), before.copy()
        for bolt in flips:
            if now[bolt]:
                out -= np.outer(out[:, bolt], out[bolt] / out[bolt, bolt])
                out[bolt] = out[:, bolt] = 0
            else:
                step = out @ self._a[:, bolt]
                step[bolt] = -1
                out += np.outer(step, step / (self._a[bolt, bolt] - self._a[bolt, now] @ step[now]))
            now[bolt] = not now[bolt]
        return out, chain + len(flips)


class Tightening:
    """The nuts of a joint in so many trials, finger tight at first."""

    def __init__(self, joint: Joint, trials: int = 1, static_friction: float = 0.0) -> None:
        self._a = joint.flexibility
        self._inverses = _Inverses(self._a)
        self._sticks = 1 + static_friction
        shape = (trials, joint.count)
        #: (trials, n) N, mm, and whether a bolt is tight
        self.loads: Array = np.zeros(shape)
        self.take_up: Array = np.zeros(shape)
        self.tight: Mask = np.ones(shape, dtype=bool)
        self._tight_all: Mask = np.ones(trials, dtype=bool)

    def pull(self, bolts: list[int], wanted: Array) -> Mask:
        """Pull bolts (from 0) together to `wanted` (trials, len(bolts)) N; (trials, len(bolts))
        which nuts moved.

        A nut moves where its load is below the wanted one by more than static friction hides.
        """
        below = self.loads[:, bolts] * self._sticks < wanted * (1 - _TINY)
        moving: Mask = np.asarray(below.any(axis=1))
        if len(bolts) == 1:
            moving = self._turned_on(bolts[0], wanted[:, 0], moving)
        rows = np.flatnonzero(moving)
        if not len(rows):
            return below
        goal = np.zeros((len(rows), self._a.shape[0]))
        goal[:, bolts] = wanted[rows]
        driven = np.zeros(goal.shape, dtype=bool)
        driven[:, bolts] = below[rows]
        self._settle(rows, goal, driven)
        below[rows] = driven[:, bolts]
        return below

    def _turned_on(self, bolt: int, wanted: Array, moving: Mask) -> Mask:
        """Turn one nut where no bolt is loose and none gets loose; the trials in which it is still
        to be turned."""
        tight = self._tight_all
        if not tight.any():
            return moving
        inverse = self._inverses.of(np.ones(len(self._a), dtype=bool))
        more = np.where(moving & tight, (wanted - self.loads[:, bolt]) / inverse[bolt, bolt], 0)
        loads = self.loads + more[:, None] * inverse[bolt]
        good = tight & (loads.min(axis=1) >= 0)
        if good.all():
            self.loads = loads
            self.take_up[:, bolt] += more
        else:
            self.loads[good] = loads[good]
            self.take_up[good, bolt] += more[good]
        return np.asarray(moving & ~good)

    def turn_to(self, bolt: int, take_up: Array) -> Mask:
        """Turn a nut on to a take-up (trials,) mm, never back; (trials,) whether it moved."""
        moved = take_up > self.take_up[:, bolt] + _TINY * np.abs(take_up)
        rows = np.flatnonzero(moved)
        self.take_up[rows, bolt] = take_up[rows]
        none = np.zeros((len(rows), self._a.shape[0]))
        self._settle(rows, none, none.astype(bool))
        return moved

    def _settle(self, rows: NDArray[np.intp], goal: Array, driven: Mask) -> None:
        """Loads of some trials after `driven` nuts were turned until their bolts bear `goal`."""
        tight = self.tight[rows] | driven
        nuts = self.take_up[rows]
        loads, added = np.zeros_like(goal), np.zeros_like(goal)
        wrong = np.zeros(goal.shape, dtype=bool)
        scale = _TINY * max(
            float(goal.max(initial=0)), float(self.loads[rows].max(initial=0)), 1e-3
        )
        together = bool(len(goal)) and int((goal[0] > 0).sum()) > 1
        open_ = np.arange(len(rows))
        for turn in range(_AT_ONCE + 8 * goal.shape[1]):
            for part in _alike(tight[open_], driven[open_] if together else None):
                part = open_[part]
                first = part[0]
                at = np.flatnonzero(driven[first])
                found = self._solved(nuts[part], goal[part], tight[first], at, scale)
                loads[part], turned, wrong[part] = found
                added[np.ix_(part, at)] = turned
            now = wrong[open_]
            if turn >= _AT_ONCE:
                now &= np.cumsum(now, axis=1) == 1
            again = now.any(axis=1)
            if again.any():
                tight[open_] ^= now
            if together:
                other = self._driven_otherwise(
                    goal[open_], driven[open_], loads[open_], added[open_]
                )
                driven[open_] ^= other
                tight[open_] |= other
                again |= other.any(axis=1)
                added[open_[again]] = 0
            open_ = open_[again]
            if not len(open_):
                break
        else:
            raise Impossible(
                Message.BAD_VALUE,
                ("kb",),
                reason="The loads of this joint come to no rest: check its stiffnesses",
            )
        self.loads[rows] = np.maximum(loads, 0)
        self.take_up[rows] = nuts + added
        self.tight[rows] = tight
        self._tight_all[rows] = tight.all(axis=1)

    def _solved(
        self, nuts: Array, goal: Array, tight: Mask, at: NDArray[np.intp], scale: float
    ) -> tuple[Array, Array, Mask]:
        """Trials that share tight and driven bolts: (loads, how far the driven nuts were turned,
        bolts that violate).

        A tight bolt violates where it would push, a loose one where it would be pulled.
        """
        inverse = self._inverses.of(tight)
        loads = nuts @ inverse
        more = goal[:, at] - loads[:, at]
        if len(at) == 1:
            turned = more / inverse[at[0], at[0]]
            loads += turned * inverse[at[0]]
        else:
            turned = np.linalg.solve(inverse[np.ix_(at, at)], more.T).T
            loads += turned @ inverse[at]
        wrong = loads < -scale
        loose = np.flatnonzero(~tight)
        if len(loose):
            gap = nuts[:, loose] - loads @ self._a[:, loose]
            wrong[:, loose] = gap > scale * self._a[0, 0]
        return loads, turned, wrong

    def _driven_otherwise(self, goal: Array, driven: Mask, loads: Array, added: Array) -> Mask:
        """Of nuts that are pulled together: those that fell below their goal are turned too, none
        is turned back."""
        fell = (goal > 0) & ~driven & (loads * self._sticks < goal * (1 - _TINY))
        return np.asarray(fell | (driven & (added < -_TINY * np.abs(self.take_up).max())))


def _alike(tight: Mask, driven: Mask | None) -> list[NDArray[np.intp]]:
    """Trials in groups that share tight, and driven, bolts."""
    both = tight if driven is None else np.hstack([tight, driven])
    if (both == both[0]).all():
        return [np.arange(len(both))]
    if both.shape[1] < 64:
        keys = both @ (1 << np.arange(both.shape[1], dtype=np.int64))
    else:
        packed = np.ascontiguousarray(np.packbits(both, axis=1))
        keys = packed.view([("", packed.dtype)] * packed.shape[1]).ravel()
    order = np.argsort(keys, kind="stable")
    return np.split(order, np.flatnonzero(keys[order][1:] != keys[order][:-1]) + 1)
