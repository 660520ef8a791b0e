"""What brings a built floor back: the least work, made on the surface before it is offered."""

from __future__ import annotations

from dataclasses import replace
from math import ceil, inf

import numpy as np

from calm_basin.core.as_built.difference import difference
from calm_basin.core.as_built.floor import BuiltFloor
from calm_basin.core.as_built.judged import Judged
from calm_basin.core.as_built.result import BuiltPlane, BuiltWork, Moved, State
from calm_basin.core.as_built.work import Bounds, Work, least_work, weights_of
from calm_basin.core.falls.limits import bound_by, fall_limits, within
from calm_basin.core.geometry.levels import cast_on, levels, under_drain
from calm_basin.core.geometry.surface import Array, xy
from calm_basin.core.kinds import former_of
from calm_basin.rules import TRADE

LITTLE = 0.5
"""Less is not ground off or filled, mm: nobody can."""


def _bounds(judged: Judged) -> Bounds:
    facets = judged.floor.surface.facets
    least, most = np.full(len(facets), -inf), np.full(len(facets), inf)
    for limit in fall_limits(judged.rules):
        if limit.weight != "required":
            continue
        for number, facet in enumerate(facets):
            # A plane that breaks a limit by plan is not mended on site.
            if not bound_by(limit, facet) or not within(limit, facet.gradient):
                continue
            if limit.binds == "at_least":
                least[number] = max(least[number], limit.value)
            else:
                most[number] = min(most[number], limit.value)
    return Bounds(least, most, _entry_bounds(judged), _thinnest(judged))


def _entry_bounds(judged: Judged) -> tuple[Array, Array, Array]:
    places, planned = judged.entries()
    limits = [limit.value for limit in judged.rules.on("entry_step")]
    if not limits or not len(places):
        return np.empty((0, 2)), np.empty(0), np.empty(0)
    highest = np.maximum(min(limits), np.abs(planned))
    # The step as built is the planned one less what the floor is off by.
    return places, planned - highest, planned + highest


def _thinnest(judged: Judged) -> float:
    """The lowest that the top of a bed may lie, mm from the finished level at the entry."""
    if judged.layer != "bed" or not former_of(judged.plan.shower).cast:
        return -inf
    stack = levels(judged.plan, judged.surface)
    least = under_drain(judged.plan) or 0.0
    return cast_on(judged.plan, stack) + least - stack.datum - 0.01


def mended(judged: Judged, planes: list[BuiltPlane], state: State | None) -> BuiltWork | None:
    """The least work, made on the surface before it is offered."""
    floor = judged.floor
    if state != "fails" or floor.relief is None:
        return None
    none = {"needed": True, "possible": False, "grind": None, "fill": None, "after": None}
    if any(plane.state is None for plane in planes):
        why = "Read the planes that are not judged yet: then the least work can be worked out."
        return BuiltWork.model_validate({**none, "because": why})
    if floor.unread_rims:
        why = "Read the drain's rim: what is ground off and filled is measured from it."
        return BuiltWork.model_validate({**none, "because": why})
    why = _not_worked(judged)
    if why:
        return BuiltWork.model_validate({**none, "because": why})
    cells, areas = _cells(judged)
    weights = weights_of(floor, cells, areas)
    bounds = _bounds(judged)
    slack = max(TRADE.site_tests.flatness.value / 2 - floor.error, 0.0)
    for left in dict.fromkeys((slack, 0.0)):
        work = least_work(floor, weights, bounds, left)
        if work is not None and _passes(judged, work):
            return _worked(judged, work, cells, areas)
    return BuiltWork.model_validate({**none, "because": _in_the_way(judged, weights, bounds)})


def _not_worked(judged: Judged) -> str:
    """Why this layer is neither ground nor filled; empty where it is."""
    if judged.layer == "tile":
        return (
            "Tile is neither ground nor filled: lift those over the places that are out, and "
            "lay them anew on a bed that was put right."
        )
    if judged.layer == "membrane":
        return (
            "A membrane is never ground. Fill on it only as its own text allows, or take it "
            "up, put the bed right and seal it again."
        )
    if not former_of(judged.plan.shower).cast:
        return (
            "A tray or panel is never ground. Check whether it lies hollow or tilted, and reset it "
            "while its bed is fresh."
        )
    return ""


def _cells(judged: Judged) -> tuple[Array, Array]:
    rows, columns = np.nonzero(judged.grid.floor & ~judged.grid.sinks)
    grid = judged.grid
    points = np.column_stack([columns, rows]).astype(float) + 0.5
    return points * grid.spacing + (grid.left, grid.bottom), grid.areas[rows, columns]


class _Done(BuiltFloor):
    """A floor on which the work was done: between its readings as well."""

    def __init__(self, before: BuiltFloor, work: Work, readings: Array) -> None:
        super().__init__(before.surface, readings, 1e-6)
        self._before, self._work = before, work

    def off_at(self, points: Array) -> Array:
        return self._work.off(self._before, points, self._before.off_at(points))


def _passes(judged: Judged, work: Work) -> bool:
    """Whether the floor passes everything once the work is done on it."""
    floor = judged.floor
    after = work.off(floor, floor.places, floor.off)
    heights = floor.heights - floor.off + after
    # What is made is made to the mark: it is read again, with the same error.
    done = _Done(floor, work, np.column_stack([floor.places, heights]))
    again = replace(judged, floor=done)
    planes = [again.plane(group) for group in done.groups if not group.level]
    good = all(plane.state != "fails" for plane in planes)
    most = TRADE.site_tests.flatness.value + 1e-3
    flat = all(plane.hollow is None or plane.hollow <= most for plane in planes)
    return good and flat and not again.puddles(done)


def _worked(judged: Judged, work: Work, cells: Array, areas: Array) -> BuiltWork:
    floor = judged.floor
    before = floor.off_at(cells)
    after = work.off(floor, cells, before)
    grind = _moved(judged, cells, areas, before - after, -1)
    fill = _moved(judged, cells, areas, after - before, 1)
    return BuiltWork(
        needed=True,
        possible=True,
        because="",
        grind=grind,
        fill=fill,
        after=difference(floor, lambda points: work.off(floor, points, floor.off_at(points))),
    )


def _moved(judged: Judged, cells: Array, areas: Array, depth: Array, way: int) -> Moved | None:
    """What is ground off (``way`` −1) or filled (1)."""
    words = judged.words
    depth = np.maximum(depth, 0.0)
    if float(depth.max(initial=0.0)) < LITTLE:
        return None
    deepest = int(depth.argmax())
    litres = float((depth * areas).sum()) / 1e6
    area = float(areas[depth > LITTLE / 5].sum())
    most = words.length(float(depth[deepest]), "up")
    if way > 0:
        pack = TRADE.order.items["mud"].sold(inches=words.display.imperial)
        count = max(ceil(litres / pack.pack - 1e-9), 1)
        text = f"Fill {words.bulk(litres, 1)} over {words.area(area)}, up to {most} deep: "
        text += f"{count} × {pack.called}"
    else:
        text = f"Grind off {words.bulk(litres, 1)} over {words.area(area)}, up to {most} deep"
    return Moved(
        depth=float(depth[deepest]),
        depth_text=most,
        at=xy(cells[deepest]),
        area_text=words.area(area),
        litres=litres,
        text=text,
    )


def _in_the_way(judged: Judged, weights: Array, bounds: Bounds) -> str:
    """Why no work brings it back: what has to give way for it."""
    if least_work(judged.floor, weights, bounds, 0.0) is not None:
        return "With the planes brought back water would still stand. Read round the puddles."
    said = {
        "drain": "the drain stays at the height that it has",
        "entry": "the step at the entry has to be kept",
        "thickness": "the bed would get too thin",
    }
    for name, why in said.items():
        if least_work(judged.floor, weights, bounds, 0.0, (name,)) is not None:
            return f"It cannot be brought back by grinding and filling: {why}."
    return (
        "It cannot be brought back by grinding and filling: drain, entry and the bed's "
        "thickness leave no room for the falls. Take the bed out and lay it anew."
    )
