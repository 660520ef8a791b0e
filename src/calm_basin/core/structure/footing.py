"""What a drain takes of the floor: its hole, body, flange and channel, in plan and in height."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, MultiPoint, Point, Polygon

from calm_basin.core.geometry.levels import drain_stands_on, levels
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.kinds import DrainKind, PartName
from calm_basin.core.kinds.drain import box
from calm_basin.core.structure.joists import Timber, timbers_of
from calm_basin.plan import Plan
from calm_basin.plan.floor import Service
from calm_basin.plan.waste import DrainFamily
from calm_basin.tolerances import ON_EDGE

FLANGE: PartName = "flange"

ROUND = 32
"""Sides to a quarter of a circle: a hole is drawn larger than it is by less than 0.1 mm."""


@dataclass(frozen=True)
class Solid:
    """One part of a drain: its outline about the outlet, which is the origin, and its ``depth``:
    how far its underside lies below the rim, or below the deck that the drain stands on."""

    part: PartName
    outline: Polygon
    depth: float
    below: Literal["rim", "deck"]


@dataclass(frozen=True)
class DrainLevels:
    """Levels at a drain, mm from the existing deck or slab top: its rim, and the deck or slab on
    which it stands after that was lowered."""

    rim: float
    deck: float


@dataclass(frozen=True)
class InTheWay:
    """Where an outlet must not lie for one part of a drain to miss one thing in the floor, and the
    ``top``: the level below which the part has to reach for that. The thing is made of convex
    ``pieces``, of which the part keeps so ``far``, mm."""

    part: PartName
    what: str
    service: bool
    pieces: tuple[shapely.Geometry, ...]
    far: float
    top: float
    solid: Solid

    @cached_property
    def area(self) -> shapely.Geometry:
        """The places of such outlets: each piece and the part turned about, summed point by
        point."""
        turned = -shapely.get_coordinates(self.solid.outline)
        sums = [
            MultiPoint(
                (shapely.get_coordinates(piece)[:, None] + turned).reshape(-1, 2)
            ).convex_hull
            for piece in self.pieces
        ]
        found = sums[0] if len(sums) == 1 else shapely.union_all(sums)
        area = found.buffer(self.far)
        shapely.prepare(area)
        return area

    @cached_property
    def _bounds(self) -> tuple[Array, Array]:
        """The corners of a box round the area."""
        low, high = np.split(shapely.total_bounds(self.pieces), 2)
        own_low, own_high = np.split(shapely.bounds(self.solid.outline), 2)
        return low - own_high - self.far, high - own_low + self.far

    def reached(self, rim: Array, deck: Array) -> NDArray[np.bool_]:
        """Whether the part reaches so deep, for each pair of levels, shape (n,)."""
        from_level = rim if self.solid.below == "rim" else deck
        deep: NDArray[np.bool_] = from_level - self.solid.depth < self.top - ON_EDGE
        return deep

    def depths(self, outlets: Array) -> Array:
        """How far, mm, outlets (n, 2) have to be moved to get out of the area; 0: out of it."""
        found = np.zeros(len(outlets))
        low, high = self._bounds
        near = ((outlets > low) & (outlets < high)).all(axis=1)
        if not near.any():
            return found
        inside = near & shapely.contains_xy(self.area, outlets)
        if inside.any():
            found[inside] = shapely.distance(self.area.boundary, shapely.points(outlets[inside]))
        return np.where(found > ON_EDGE, found, 0.0)


def fitting_family(plan: Plan) -> DrainFamily | None:
    """The family that the plan chose, where it is one for the drain that it has."""
    family = plan.waste.family
    return family if family and family.drain == plan.shower.drain.kind else None


def standing(plan: Plan, surface: Surface) -> DrainLevels:
    """The levels at the drain of a solved floor."""
    stack = levels(plan, surface)
    return DrainLevels(stack.drain, float(drain_stands_on(plan, np.array([stack.base]))[0]))


def solids_of(plan: Plan, drain: DrainKind) -> tuple[Solid, ...]:
    """What a drain takes of the floor. Where no family is chosen it is the waste pipe alone."""
    return _solids(fitting_family(plan), drain, plan.water.pipe_diameter)


@lru_cache(maxsize=64)
def _solids(family: DrainFamily | None, drain: DrainKind, pipe: float) -> tuple[Solid, ...]:
    if family is None:
        return (Solid("hole", _disc(pipe), pipe, "deck"),)
    reach = family.trap + family.pipe / 2
    hole = (
        _disc(family.hole_width)
        if family.hole == "round"
        else Polygon(box(drain.along, family.hole_width, family.hole_length))
    )
    found = [Solid("hole", hole, reach, "deck")]
    for name, width, length, depth in (
        (drain.body_name, family.body_width, family.body_length, family.body_depth),
        (FLANGE, family.flange_width, family.flange_length, family.flange_depth),
    ):
        if width > 0:
            found.append(Solid(name, Polygon(drain.footprint(width, length)), depth, "rim"))
    return tuple(found)


def _disc(across: float) -> Polygon:
    return Point(0, 0).buffer(across / 2, quad_segs=ROUND)


def in_the_way(plan: Plan, drain: DrainKind) -> tuple[InTheWay, ...]:
    """Everything in the floor that a drain could meet, wherever its outlet is moved."""
    return _in_the_way(timbers_of(plan), plan.services, solids_of(plan, drain))


@lru_cache(maxsize=64)
def _in_the_way(
    timbers: tuple[Timber, ...], services: tuple[Service, ...], solids: tuple[Solid, ...]
) -> tuple[InTheWay, ...]:
    things: list[tuple[str, bool, tuple[shapely.Geometry, ...], float, float]] = [
        (timber.name, False, (timber.outline,), timber.top, 0.0) for timber in timbers
    ]
    for service in services:
        top = np.inf if service.depth is None else service.clearance - service.depth
        ends = zip(service.points, service.points[1:], strict=False)
        pieces = tuple(LineString(pair) for pair in ends)
        things.append((service.name, True, pieces, top, service.clearance))
    return tuple(
        InTheWay(solid.part, name, served, pieces, far, top, solid)
        for solid in solids
        for name, served, pieces, top, far in things
    )
