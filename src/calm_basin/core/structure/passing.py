"""At which levels, and where along it, a pipe may pass a timber by rule of thumb."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from calm_basin.core.geometry.surface import Array
from calm_basin.core.structure.joists import Bays, Timber
from calm_basin.plan.floor import JoistFloor
from calm_basin.rules import TRADE
from calm_basin.rules.trade.timber import Guide

Stretch = tuple[float, float]


@dataclass(frozen=True)
class Passing:
    """How a pipe passes one timber.

    Its middle may lie from ``low`` to ``high``, mm from the deck's top, at the ``places`` along the
    joists (empty: anywhere), or at ``under`` or lower where nothing hangs there. ``hole`` is what
    is drilled, mm across, 0: nothing. ``refused`` says in a few words why no level will do.
    """

    low: float
    high: float
    places: tuple[Stretch, ...] = ()
    under: float | None = None
    hole: float = 0.0
    refused: str = ""

    def at(self, along: float) -> bool:
        """Whether this is a place for the hole."""
        return not self.places or any(a - 1e-6 <= along <= b + 1e-6 for a, b in self.places)

    def needed(self, level: float, along: float) -> float | None:
        """The lowest level from ``level`` up at which the pipe may pass here; None: there is
        none."""
        if self.under is not None and level <= self.under:
            return level
        if self.refused or not self.at(along) or level > self.high:
            return None
        return max(level, self.low)

    def needed_by(self, levels: Array, along: Array) -> Array:
        """The same for many levels at many places along the joists; infinite where there is
        none."""
        here = np.full(len(along), not self.refused)
        if self.places:
            here &= np.any([(along >= a - 1e-6) & (along <= b + 1e-6) for a, b in self.places], 0)
        found = np.where(here & (levels <= self.high), np.maximum(levels, self.low), np.inf)
        if self.under is None:
            return found
        return np.where(levels <= self.under, levels, found)

    def taken(self, level: float, along: float) -> float | None:
        """The highest level down from ``level`` at which the pipe may pass here."""
        open_here = not self.refused and self.at(along)
        if open_here and level >= self.low:
            return min(level, self.high)
        return None if self.under is None else min(level, self.under)


@lru_cache(maxsize=256)
def passing(timber: Timber, joists: JoistFloor, pipe: float, guides: tuple[Guide, ...]) -> Passing:
    """How a pipe, ``pipe`` mm across outside, may pass a timber."""
    radius = pipe / 2
    if timber.top < -joists.deck_thickness - 1e-6:
        return Passing(timber.top + radius, np.inf)
    under = None if joists.ceiling else timber.bottom - radius
    if timber.kind in ("girder", "wall", "trimmer"):
        beneath = under if np.isfinite(timber.bottom) else None
        return Passing(0.0, 0.0, under=beneath, refused=f"a {timber.kind} is not drilled")
    if timber.made != "sawn" and timber.kind == "joist":
        hole = pipe if timber.made == "truss" else pipe + TRADE.timber.pipe_room.value
        room = 0.0 if timber.made == "truss" else TRADE.timber.flange_room.value
        low = timber.bottom + joists.flange + room + hole / 2
        high = timber.top - joists.flange - room - hole / 2
        shut = "it does not fit between the flanges" if low > high else ""
        return Passing(low, high, under=under, hole=hole, refused=shut)
    hole, depth = pipe + TRADE.timber.pipe_room.value, timber.top - timber.bottom
    most = min(guide.hole * depth for guide in guides)
    low = max(
        max(
            timber.bottom + max(guide.clear, (1 - guide.middle) / 2 * depth) + hole / 2,
            timber.bottom + depth / 2 - guide.centred,
        )
        for guide in guides
    )
    high = timber.top - (low - timber.bottom)
    shut = ""
    if hole > most + 1e-6:
        shut = "the hole would be too large for the joist"
    elif low > high + 1e-6:
        shut = "too little would be left over or under the hole"
    return Passing(low, high, _stretches(joists, guides), under, hole, shut)


def _stretches(joists: JoistFloor, guides: tuple[Guide, ...]) -> tuple[Stretch, ...]:
    """Where along the joists holes may be; empty: anywhere, or the span is not known."""
    if joists.span is None or joists.bearing is None:
        return ()
    share = (max(g.hole_from for g in guides), min(g.hole_to for g in guides))
    if share[0] <= 0 and share[1] >= 1:
        return ()
    start, span = joists.bearing, joists.span
    near = (start + share[0] * span, start + share[1] * span)
    far = (start + (1 - share[1]) * span, start + (1 - share[0]) * span)
    return (near, far)


AT_END = 100.0
"""What lies nearer to a bearing, mm, is at the end of the span."""


def notch_share(joists: JoistFloor, guide: Guide, at: Array) -> float | None:
    """How much of its depth a joist may be notched by at a place on plan; None where it is not
    known where the place lies on the span."""
    if joists.span is None or joists.bearing is None:
        return None
    from_end = float(Bays.of(joists).to(at[None])[0, 0]) - joists.bearing
    from_end = min(from_end, joists.span - from_end)
    if abs(from_end) <= AT_END:
        return guide.end_notch
    share = from_end / joists.span
    return guide.notch if guide.notch_from <= share <= guide.notch_to else 0.0
