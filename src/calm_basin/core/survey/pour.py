"""A pour, cleats set to a line, and what a tilt leaves of a tray's fall."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from math import floor as floor_of

import numpy as np
import scipy
import shapely
from shapely.geometry import Polygon

from calm_basin.amounts import GALLON_LITRES
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.survey.floor import FloorSpot, SubFloor, cells
from calm_basin.plan.survey import Pour

LATH_SHEET = 2.5 * 8 * 304.8**2

STAPLE_SPACING = 152.4


@dataclass(frozen=True)
class PourPlan:
    """What a pour takes. Volumes in litres, areas in mm²; ``minutes`` for one who mixes;
    with ``mixers`` at work the last batch is poured before the first one stiffens. ``unread`` is
    the share of the area that lies beyond all readings, ``read_next`` a place there."""

    area: float
    mean_depth: float
    deepest: FloorSpot
    deepest_depth: float
    litres: float
    bags: int
    bags_from_mean_of_readings: int
    water_litres: tuple[float, float]
    batches: int
    minutes: float
    mixers: int
    lath_sheets: int
    staples: int
    unread: float
    read_next: tuple[float, float]


def pour(floor: SubFloor, zone: Polygon, settings: Pour) -> PourPlan:
    """Work out a pour over a zone; its depth is integrated over the area, not over the readings.

    Depth at a place = (high spot − height there) + cover over the high spot. The high spot is the
    room's, to which the shower is set; of a pour in the shower alone it is the shower's own. Water
    5 to 6 US quarts a bag, lath in sheets of 2.5 × 8 ft, staples 6 in apart (common practice, no
    source).
    """
    points, each = cells(zone, 25.0)
    heights, read = floor.heights(points)
    top = floor.extremes(zone)[1] if settings.area == "shower" else 0.0
    depths = settings.cover + np.maximum(top - heights, 0.0)
    litres = float(depths.sum() * each / 1e6)
    # It is poured from the deepest place that was read: beyond that the floor is a guess.
    worst = int(np.where(read, depths, -np.inf).argmax()) if read.any() else int(depths.argmax())
    apart = np.where(read, -1.0, scipy.spatial.cKDTree(floor.places[:, :2]).query(points)[0])
    farthest = points[int(apart.argmax())]
    by_readings = float((settings.cover + top - _mean_of_readings(floor, zone)) * zone.area / 1e6)
    bags = _bags(litres, settings)
    batches = ceil(bags / settings.bags_a_batch)
    # One who mixes does whole batches only: the next is not begun that would stiffen.
    each_mixes = max(floor_of(settings.working_minutes / settings.batch_minutes + 1e-9), 1)
    quart = GALLON_LITRES / 4
    return PourPlan(
        area=float(zone.area),
        mean_depth=float(depths.mean()),
        deepest=FloorSpot(float(points[worst, 0]), float(points[worst, 1]), float(heights[worst])),
        deepest_depth=float(depths[worst]),
        litres=litres,
        bags=bags,
        bags_from_mean_of_readings=_bags(by_readings, settings),
        water_litres=(5 * quart * bags, 6 * quart * bags),
        batches=batches,
        minutes=batches * settings.batch_minutes,
        mixers=ceil(batches / each_mixes),
        lath_sheets=ceil(zone.area / LATH_SHEET - 1e-9),
        staples=ceil(zone.area / STAPLE_SPACING**2 - 1e-9),
        unread=float(1 - read.mean()),
        read_next=(float(farthest[0]), float(farthest[1])),
    )


def _mean_of_readings(floor: SubFloor, zone: Polygon) -> float:
    """Mean height of the readings in a zone, or of all where there are none in it."""
    inside = shapely.intersects_xy(zone, floor.places[:, 0], floor.places[:, 1])
    return float(floor.places[inside if inside.any() else slice(None), 2].mean())


def _bags(litres: float, settings: Pour) -> int:
    # A floor that takes a whole number of bags to within a cup of compound takes just those.
    return max(1, ceil(litres * (1 + settings.waste_share) / settings.bag_litres - 0.02))


def fall_left(surface: Surface, floor: SubFloor, zone: Polygon) -> list[tuple[str, float, float]]:
    """What a tilt under a tray leaves of the fall of each of its planes.

    Returns
    -------
    list of (plane's name, fall built in, fall left)
        Rise over run along the plane's own way down; below 0 the fall has turned round.
    """
    points, _ = cells(zone)
    heights, _ = floor.heights(points)
    local = points - points.mean(axis=0)
    (a, b), *_ = np.linalg.lstsq(local, heights - heights.mean(), rcond=None)
    found = []
    for facet in surface.facets:
        if facet.run > 0:
            x, y = facet.downhill
            found.append((facet.name, facet.gradient, facet.gradient - float(a * x + b * y)))
    return found


def cleat_marks(
    floor: SubFloor,
    joists: Sequence[tuple[int, Polygon]],
    zone: Polygon,
    deck: float,
    step: float = 400.0,
) -> list[tuple[int, list[tuple[float, float, float]]]]:
    """How far below each joist's top its cleats are set, so that deck pieces lie level.

    The refitted deck lies one deck thickness below the high spot of the old one, so at a place the
    cleat's top is ``deck + height there`` below the joist's top: less where the floor is low.

    Returns
    -------
    list of (joist number, [(x, y, mark)])
        Marks in mm at even steps, at most ``step`` apart, along the joist under the zone.
    """
    found = []
    for number, joist in joists:
        line = _middle_line(joist)
        under = shapely.intersection(shapely.linestrings(line), zone)
        if under.is_empty or under.length < 1:
            continue
        ends = shapely.get_coordinates(under)
        count = max(2, ceil(float(under.length) / step) + 1)
        places = ends[0] + np.linspace(0, 1, count)[:, None] * (ends[-1] - ends[0])
        heights, _ = floor.heights(places)
        marks = [
            (float(x), float(y), float(deck + z)) for (x, y), z in zip(places, heights, strict=True)
        ]
        found.append((number, marks))
    return found


def _middle_line(joist: Polygon) -> Array:
    corners = np.array(joist.minimum_rotated_rectangle.exterior.coords)[:4]
    sides = [(0, 1, 2, 3), (1, 2, 3, 0)]
    long_first = np.linalg.norm(corners[1] - corners[0]) < np.linalg.norm(corners[2] - corners[1])
    a, b, c, d = sides[0] if long_first else sides[1]
    middle: Array = np.array([(corners[a] + corners[b]) / 2, (corners[c] + corners[d]) / 2])
    return middle
