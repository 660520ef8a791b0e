"""The finished floor as it is drawn: planes, contours, spot levels."""

from __future__ import annotations

from math import ceil, floor

import numpy as np
import shapely

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import XY
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.planes import broken_limit, fall_text, label_point
from calm_basin.core.falls.result import Contour, FloorSurface, Plane, SpotKind, SpotLevel
from calm_basin.core.falls.tiling import fold_line, tile_notes
from calm_basin.core.geometry.levels import levels
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.plan import Plan
from calm_basin.units import MM_PER_INCH

SPOT_CLEARANCE = 45.0
"""How far, in mm, spot levels of the grid keep from edges so that their figures can be read."""


def floor_surface(case: Case) -> FloorSurface:
    """The floor as it is drawn; its heights count from the deck or slab top."""
    plan, rules, words, surface = case.plan, case.rules, case.words, case.surface
    datum = levels(plan, surface).datum
    depth_range = surface.highest - surface.lowest
    interval = _contour_interval(depth_range, words)
    depths = np.arange(
        floor(surface.lowest / interval) * interval, surface.highest + interval, interval
    )
    contours = []
    for height in depths:
        if surface.lowest + 1e-6 < height < surface.highest - 1e-6:
            lines = surface.contour(float(height))
            if lines:
                contours.append(
                    Contour(
                        depth=float(-height) + 0.0,
                        text=words.bare(float(-height)),
                        lines=tuple(points_of(line) for line in lines),
                    )
                )
    widest = sorted(surface.facets, key=lambda facet: facet.polygon.area)
    labelled = {id(facet) for facet in {facet.name: facet for facet in widest}.values()}
    return FloorSurface(
        planes=tuple(
            Plane(
                name=facet.name,
                polygon=points_of(facet.corners[:, :2]),
                heights=tuple(float(datum + z) for z in facet.corners[:, 2]),
                gradient=facet.gradient,
                text=fall_text(words, facet),
                run=facet.run,
                downhill=facet.downhill,
                label_at=label_point(facet),
                severity=broken_limit(rules, facet),
                labelled=id(facet) in labelled,
            )
            for facet in surface.facets
        ),
        folds=tuple(fold_line(plan, words, fold) for fold in surface.folds),
        contour_interval=interval,
        contour_interval_text=words.length(interval),
        contours=tuple(contours),
        spot_levels=tuple(_spot_levels(surface, datum, words)),
        tile_notes=tile_notes(plan, words, surface.folds),
        side_levels=_side_levels(plan, words, surface),
        shallowest=-surface.highest,
        deepest=-surface.lowest,
    )


def asked_levels(asked: Question) -> tuple[SpotLevel, ...]:
    """The finished floor at the places that somebody points at."""
    if asked.surface is None:
        return tuple(_spot("asked", x, y, None, 0.0, asked.words) for x, y in asked.at)
    datum = levels(asked.plan, asked.surface).datum
    heights = asked.surface.heights(np.array(asked.at, dtype=float).reshape(-1, 2))
    return tuple(
        _spot("asked", x, y, None if np.isnan(z) else float(z), datum, asked.words)
        for (x, y), z in zip(asked.at, heights, strict=True)
    )


def _side_levels(plan: Plan, words: Words, surface: Surface) -> tuple[str, ...]:
    """How each side of the shower lies to its edge level, in words, in the document's order."""
    found = []
    starts = np.array(plan.shower.outline)
    ways = np.roll(starts, -1, axis=0) - starts
    places = starts[:, None] + np.linspace(0, 1, 9)[None, :, None] * ways[:, None]
    along = surface.heights(places.reshape(-1, 2), "shower").reshape(-1, 9) - surface.edge
    for side in along:
        heights = side[~np.isnan(side)]
        ends = (
            sorted({words.length(float(z)) for z in (heights.min(), heights.max())})
            if len(heights)
            else []
        )
        found.append(f"edge at {' to '.join(ends)}" if ends else "")
    return tuple(found)


def _contour_interval(depth: float, words: Words) -> float:
    """A round interval that gives about eight contours."""
    choices = (
        [MM_PER_INCH / n for n in (32, 16, 8, 4, 2, 1)]
        if words.display.imperial
        else [0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0]
    )
    return next((c for c in choices if depth / c <= 10), choices[-1])


def _spot_levels(surface: Surface, datum: float, words: Words) -> list[SpotLevel]:
    corners = shapely.get_coordinates(surface.outline.exterior)[:-1]
    rim = shapely.get_coordinates([shape.exterior for shape in surface.rims])
    longest = float(np.ptp(corners, axis=0).max())
    unit = 6 * MM_PER_INCH if words.display.imperial else 150.0
    grid = surface.grid(unit * max(1, ceil(longest / unit / 10)), SPOT_CLEARANCE)
    found = []
    places: tuple[tuple[SpotKind, Array], ...] = (("corner", corners), ("rim", rim), ("grid", grid))
    for kind, points in places:
        if len(points):
            for (x, y), z in zip(points, surface.heights(points), strict=True):
                if not np.isnan(z):
                    found.append(_spot(kind, float(x), float(y), float(z), datum, words))
    return found


def _spot(
    kind: SpotKind, x: float, y: float, relative: float | None, datum: float, words: Words
) -> SpotLevel:
    """A spot level; ``relative`` is its height from the surface's 0, None outside the floor."""
    if relative is None:
        return SpotLevel(kind=kind, x=x, y=y, height=None, depth=None, text="outside the shower")
    depth = 0.0 - relative
    return SpotLevel(
        kind=kind, x=x, y=y, height=datum + relative, depth=depth, text=words.bare(depth)
    )


def points_of(points: Array) -> tuple[XY, ...]:
    """Places of an array, (n, 2), as they are sent."""
    return tuple((float(x), float(y)) for x, y in points)
