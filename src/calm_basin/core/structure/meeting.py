"""What of a drain meets what is in the floor, and how far."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from calm_basin.core.answer.case import Case
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.kinds import DrainKind
from calm_basin.core.structure.footing import (
    InTheWay,
    in_the_way,
    standing,
)
from calm_basin.plan import Plan


@dataclass(frozen=True)
class Met:
    """One thing that one part of a drain meets, and how far, mm, the outlet has to be moved for it
    to miss that."""

    way: InTheWay
    by: float


def met(plan: Plan, surface: Surface, drain: DrainKind) -> list[Met]:
    """Everything in the floor that a drain meets."""
    at, stands = drain.outlet[None], standing(plan, surface)
    rim, deck = np.array([stands.rim]), np.array([stands.deck])
    found = []
    for way in in_the_way(plan, drain):
        if way.reached(rim, deck)[0]:
            by = float(way.depths(at)[0])
            if by > 0:
                found.append(Met(way, by))
    return found


def reach(case: Case, one: Met) -> float:
    """How far, mm, a part that hangs on the rim reaches below the top of what it meets."""
    rim = standing(case.plan, case.surface).rim
    missing = one.way.top - (rim - one.way.solid.depth)
    return float(missing) if np.isfinite(missing) else 0.0
