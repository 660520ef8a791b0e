"""What a plan's waste run goes through, from where to where, and what its limits are."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from shapely.geometry import Point, Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import carrier_of, drain_kind
from calm_basin.core.structure.footing import fitting_family, standing
from calm_basin.core.structure.joists import Bays, Timber, timbers_under
from calm_basin.core.structure.passing import Passing, passing
from calm_basin.core.waste.body import taken_out
from calm_basin.core.waste.ground import UnderFloor
from calm_basin.core.waste.lattice import Lattice, lattice_of
from calm_basin.core.waste.near import at_levels, shut
from calm_basin.core.waste.run import Run, cheapest, laid
from calm_basin.plan.base import Point as Place
from calm_basin.plan.floor import JoistFloor
from calm_basin.rules import TRADE
from calm_basin.rules.trade.timber import Guide

BOTTOMLESS = -1e5
"""Where nothing says how low the pipe may be, mm."""


@dataclass(frozen=True, eq=False)
class WasteWays:
    """All ways to a stack, wherever the outlet is: what they go through, and the least ``level`` of
    the pipe's middle at which it meets the stack, mm. ``pipe`` is its outside diameter; ``branch``
    says whether the stack's level was measured."""

    ground: UnderFloor
    room: Array
    stack: Array
    level: float
    pipe: float
    branch: bool
    slab: bool

    @cached_property
    def lattice(self) -> Lattice:
        """The free strips under the room."""
        return self._lattice(self.ground, np.empty((0, 2)))

    def through(self, outlet: Place, ground: UnderFloor) -> Lattice:
        """The free strips in some ground, with lines through an outlet."""
        return self._lattice(ground, np.array([outlet]))

    def _lattice(self, ground: UnderFloor, places: Array) -> Lattice:
        return lattice_of(ground, self.room, self.stack, self.level, self.pipe / 2, places)

    def needs(self, outlets: Array) -> tuple[Array, Array]:
        """The lowest level at which the pipe may leave a trap at each of many outlets, (n, 2), and
        how long it then is; infinite where it does not get away."""
        if self.slab:
            long = np.hypot(*(outlets - self.stack).T)
            return self.level + self.ground.fall * long, long
        return self.lattice.from_places(outlets)

    def need(self, outlet: Array) -> tuple[float, float]:
        """The same for one outlet, (2,), remembered: several checks ask for it."""
        return _need(self, (float(outlet[0]), float(outlet[1])))


@lru_cache(maxsize=256)
def _need(ways: WasteWays, outlet: Place) -> tuple[float, float]:
    (level,), (length,) = ways.needs(np.array([outlet]))
    return float(level), float(length)


@dataclass(frozen=True, eq=False)
class Site:
    """The way of one waste: its outlet on plan, and the level of the pipe's middle at which it
    leaves the trap, mm."""

    ways: WasteWays
    outlet: Array
    start: float

    @property
    def in_timber(self) -> bool:
        """Whether the outlet stands in a timber: no pipe leaves it before the drain is moved."""
        place = Point(*self.outlet)
        timbers = (t for t, passing in self.ways.ground.timbers if np.isfinite(passing.high))
        return any(timber.outline.contains(place) for timber in timbers)


def site_of(case: Case) -> Site | None:
    """The way of a plan's waste; None where its drain is not chosen or the stack not measured."""
    ways, family = ways_of(case), fitting_family(case.plan)
    if ways is None or family is None:
        return None
    start = standing(case.plan, case.surface).deck - family.trap
    return Site(ways, drain_kind(case.plan.shower.drain).outlet, start)


def ways_of(case: Case) -> WasteWays | None:
    """All ways to a plan's stack; None where its drain is not chosen or the stack not measured."""
    plan, family = case.plan, fitting_family(case.plan)
    if family is None or plan.waste.stack is None:
        return None
    return _ways(
        carrier_of(plan).joists,
        plan.room.outline,
        plan.waste.stack,
        plan.waste.branch,
        family.pipe,
        plan.water.pipe_fall,
        TRADE.timber.guides_of(case.rules),
    )


@lru_cache(maxsize=32)
def _ways(
    joists: JoistFloor | None,
    outline: tuple[Place, ...],
    stack: Place,
    branch: float | None,
    pipe: float,
    fall: float,
    guides: tuple[Guide, ...],
) -> WasteWays:
    low = BOTTOMLESS
    bays = Bays(np.array([1.0, 0.0]), np.array([0.0, 1.0]))
    timbers: tuple[tuple[Timber, Passing], ...] = ()
    if joists is not None:
        bays = Bays.of(joists)
        under = timbers_under(joists, outline)
        timbers = tuple((timber, passing(timber, joists, pipe, guides)) for timber in under)
        if joists.ceiling:
            low = -joists.deck_thickness - joists.depth + TRADE.timber.ceiling_room.value + pipe / 2
    return WasteWays(
        UnderFloor(bays, timbers, fall),
        np.array(outline),
        np.array(stack),
        max(low, BOTTOMLESS if branch is None else branch),
        pipe,
        branch is not None,
        joists is None,
    )


def run_of(case: Case, site: Site) -> Run | None:
    """The run that the plan lays, or the cheapest that keeps all limits; None: there is none.

    Where a line that was found is in the way of that one, or a timber lengthwise, it is the
    cheapest round that.
    """
    plan, ways = case.plan, site.ways
    bends, outlet = plan.waste.run, (float(site.outlet[0]), float(site.outlet[1]))
    if bends is not None:
        return _straight(site, bends)
    needed, _ = ways.need(site.outlet)
    if ways.slab:
        way: Run | None = _straight(site, ())
    else:
        way = None if needed > site.start + 1e-6 else _proposed(ways, outlet, site.start)
    guides = TRADE.timber.guides_of(case.rules)
    if way is None or not (shut(plan, way) or _cut_into(ways, way, guides)):
        return way
    kept_clear = at_levels(plan, ways.level, site.start, ways.pipe / 2)
    round_it = _round(ways, outlet, site.start, kept_clear)
    if round_it is None or shut(plan, round_it) or _cut_into(ways, round_it, guides):
        return way
    return round_it


@lru_cache(maxsize=64)
def _cut_into(ways: WasteWays, way: Run, guides: tuple[Guide, ...]) -> bool:
    return bool(taken_out(ways.ground, ways.pipe, way, guides))


def propose() -> list[Cure | None]:
    """The cure that takes back what the plan lays."""
    return [Cure(text="Let the run be proposed", changes=(Change(path="/waste/run", value=None),))]


def _straight(site: Site, bends: tuple[Place, ...]) -> Run:
    line = np.array([site.outlet, *(np.array(bend) for bend in bends), site.ways.stack])
    apart = np.append(True, np.hypot(*np.diff(line, axis=0).T) > 1e-6)
    line = line[apart] if apart.sum() > 1 else line[[0, -1]]
    return laid(site.ways.ground, line, site.start)


@lru_cache(maxsize=64)
def _proposed(ways: WasteWays, outlet: Place, start: float) -> Run | None:
    return cheapest(ways.through(outlet, ways.ground), np.array(outlet), start)


@lru_cache(maxsize=64)
def _round(
    ways: WasteWays, outlet: Place, start: float, kept_clear: tuple[Polygon, ...]
) -> Run | None:
    """The cheapest run that keeps all limits and comes into nothing that is kept clear."""
    bays, away = ways.ground.bays, ways.stack - np.array(outlet)
    if ways.slab and np.hypot(*away) > 1e-6:
        # A trench has no joists to follow: it is dug along the way to the stack, or square to it.
        along = away / np.hypot(*away)
        bays = Bays(along, np.array([-along[1], along[0]]))
    ground = replace(ways.ground, bays=bays, kept_clear=kept_clear, beside=ways.pipe / 2)
    way = cheapest(ways.through(outlet, ground), np.array(outlet), start)
    return way if way is not None and way.keeps(ways.level) else None
