"""What several checks ask of one solved plan, worked out once.

A change that is tried leaves most of the floor as it was: what hangs on the floor alone is
remembered by the floor.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import lru_cache
from typing import Generic, TypeVar

from calm_basin.core.access.floor import on_the_floor
from calm_basin.core.access.ground import Ground, Spot, ground_of
from calm_basin.core.access.spaces import spots
from calm_basin.core.access.turns import Turning, turning
from calm_basin.core.answer.case import Case
from calm_basin.core.geometry.surface import Surface

T = TypeVar("T")

KEPT = 32
"""So many floors are remembered."""


@lru_cache(maxsize=8)
def ground_for(case: Case) -> Ground:
    """The floor of a case on which spaces are looked for."""
    return ground_of(case.plan, case.rules, case.surface)


class _ByFloor(Generic[T]):
    """Remembers what was worked out of a floor. The surface is kept with it, so that no other can
    take its identity."""

    def __init__(self, work: Callable[[Ground], T]) -> None:
        self._work = work
        self._kept: OrderedDict[Hashable, tuple[Surface, T]] = OrderedDict()

    def __call__(self, case: Case) -> T:
        ground = ground_for(case)
        plan = ground.plan
        standing = tuple(one for one in plan.room.fixtures if on_the_floor(one))
        numbers = tuple(i for i, one in enumerate(plan.room.fixtures) if on_the_floor(one))
        key = (
            id(case.surface),
            (plan.room.outline, plan.room.doors, standing, numbers),
            (plan.shower.outline, plan.shower.entries, ground.stepped),
            plan.users,
            (ground.most, case.rules.spaces, case.rules.on("turning_circle")),
        )
        found = self._kept.get(key)
        if found is None:
            found = (case.surface, self._work(ground))
            self._kept[key] = found
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
        return found[1]


spots_for: Callable[[Case], tuple[Spot, ...]] = _ByFloor(lambda ground: tuple(spots(ground)))
"""Every space that a case needs, where it lies best."""

turning_for: Callable[[Case], Turning] = _ByFloor(turning)
"""Where a chair can turn."""
