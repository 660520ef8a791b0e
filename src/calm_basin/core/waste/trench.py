"""What is broken out of a slab for recess and pipe, and filled again."""

from __future__ import annotations

from math import ceil

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Figure
from calm_basin.core.geometry.levels import levels
from calm_basin.core.kinds import carrier_of
from calm_basin.core.structure.footing import fitting_family
from calm_basin.core.waste.run import Run
from calm_basin.plan.sources import COMMON
from calm_basin.rules import TRADE

STATION = 5.0
"""A run is looked at so far apart, mm, when what is dug is summed along it."""


def dug(way: Run, zone: Polygon, recess: float, under: float) -> float:
    """The side view of a trench, mm²: its depth below the slab's top summed along the run, to
    ``under`` below the pipe's middle, less what a recess has taken under the ``zone``."""
    line = LineString(way.line)
    count = max(2, ceil(line.length / STATION))
    along = (np.arange(count) + 0.5) * line.length / count
    depth = under - np.interp(along, way.levels[:, 0], way.levels[:, 1])
    inside = shapely.contains(zone, shapely.line_interpolate_point(line, along))
    left = np.maximum(depth - np.where(inside, recess, 0.0), 0.0)
    return float(left.mean() * line.length)


def trench(case: Case, way: Run | None) -> tuple[Figure, ...]:
    """Litres, kilograms and buckets that come out of a slab, and what goes back."""
    plan, words, floor = case.plan, case.words, carrier_of(case.plan).slab
    if floor is None:
        return ()
    weight, holds = TRADE.pipes.concrete.value, TRADE.pipes.bucket
    recess = max(levels(plan, case.surface).recess, 0.0)
    zone = Polygon(plan.shower.outline)
    shower = zone.area * min(recess, floor.thickness) / 1e6
    found = [
        figure(
            "Recess to break out",
            shower,
            f"{words.bulk(shower)}, {words.weight(shower * weight)}",
            "area of the shower × recess",
            [("area", words.area(zone.area)), ("recess", words.length(recess, "up"))],
            source=COMMON,
            unit="litre",
        )
    ]
    family, pipe = fitting_family(plan), 0.0
    if way is not None and family is not None:
        width = family.pipe + 2 * TRADE.practice.trench_room.value
        below = family.pipe / 2 + TRADE.practice.trench_bedding.value
        pipe = width * dug(way, zone, recess, below) / 1e6
        deep = pipe * 1e6 / (width * way.length) if way.length else 0.0
        found.append(
            figure(
                "Trench for the pipe",
                pipe,
                f"{words.bulk(pipe)}, {words.length(deep, 'up')} deep in the mean",
                "width × depth, summed along the run, less what the recess takes already",
                [
                    ("width", words.length(width, "up")),
                    ("under the pipe", words.length(TRADE.practice.trench_bedding.value)),
                    ("length", words.length(way.length, "up")),
                ],
                source=COMMON,
                unit="litre",
                note=f"Through a slab of {words.length(floor.thickness)} and what lies under it: "
                "soil and insulation come out too, and the damp-proof membrane is made good.",
            )
        )
    whole = shower + pipe
    trips = ceil(whole / holds.value)
    found.append(
        figure(
            "To carry out",
            whole * weight,
            f"{words.weight(whole * weight)}, {trips} {'trip' if trips == 1 else 'trips'} with a "
            "bucket",
            f"what comes out × its weight; a bucket takes {words.bulk(holds.value)} of the solid",
            [
                ("comes out", words.bulk(whole)),
                (f"weight of {words.bulk(holds.value)}", words.weight(holds.value * weight)),
            ],
            source=COMMON,
            unit="kilogram",
            note="Broken concrete takes half as much room again. Silica dust: cut wet or extract, "
            "and a mask.",
        )
    )
    found.append(
        figure(
            "To fill again",
            pipe,
            f"{words.bulk(pipe)}, {words.weight(pipe * weight)} of concrete",
            "what the trench took, less the pipe, which is left out here",
            source=COMMON,
            unit="litre",
            note="After the leak test; the membrane first where it was cut.",
        )
    )
    return tuple(found)
