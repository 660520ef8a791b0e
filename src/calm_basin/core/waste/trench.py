"""What is broken out of a slab for recess and pipe, and filled again."""

from __future__ import annotations

from math import ceil

from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Figure
from calm_basin.core.geometry.levels import levels
from calm_basin.core.structure.footing import fitting_family
from calm_basin.core.waste.run import Run
from calm_basin.plan.floor import SlabFloor

ROOM = 75.0
"""A trench is so much wider than its pipe on each side, mm (common practice, no source)."""

BEDDING = 50.0
"""Under the pipe, mm (common practice, no source)."""

DENSITY = 2.4
"""Of concrete, kg a litre (common practice, no source)."""

BUCKET = 10.0
"""What a bucket carries of broken concrete, in litres of the solid (common practice, no source)."""

CP = "Common practice, no source"


def trench(case: Case, way: Run | None) -> tuple[Figure, ...]:
    """Litres, kilograms and buckets that come out of a slab, and what goes back."""
    plan, words, floor = case.plan, case.words, case.plan.floor
    if not isinstance(floor, SlabFloor):
        return ()
    recess = max(levels(plan, case.surface).recess, 0.0)
    zone = Polygon(plan.shower.outline)
    shower = zone.area * min(recess, floor.thickness) / 1e6
    found = [
        figure(
            "Recess to break out",
            shower,
            f"{shower:.0f} L, {shower * DENSITY:.0f} kg",
            "area of the shower × recess",
            [("area", f"{zone.area / 1e6:.2f} m²"), ("recess", words.length(recess, "up"))],
            source=CP,
            unit="litre",
        )
    ]
    family, pipe = fitting_family(plan), 0.0
    if way is not None and family is not None:
        width = family.pipe + 2 * ROOM
        middle = -float(way.levels[:, 1].mean())
        deep = middle + family.pipe / 2 + BEDDING
        line = LineString(way.line).buffer(width / 2, cap_style="flat")
        under = line.intersection(zone).area * max(deep - recess, 0.0)
        beside = line.difference(zone).area * deep
        pipe = (under + beside) / 1e6
        found.append(
            figure(
                "Trench for the pipe",
                pipe,
                f"{pipe:.0f} L, {words.length(deep, 'up')} deep in the mean",
                "area of the trench × its mean depth, less what the recess takes already",
                [
                    ("width", words.length(width, "up")),
                    ("under the pipe", words.length(BEDDING)),
                    ("length", words.length(way.length, "up")),
                ],
                source=CP,
                unit="litre",
                note=f"Through a slab of {words.length(floor.thickness)} and what lies under it: "
                "soil and insulation come out too, and the damp-proof membrane is made good.",
            )
        )
    whole = shower + pipe
    trips = ceil(whole / BUCKET)
    found.append(
        figure(
            "To carry out",
            whole * DENSITY,
            f"{whole * DENSITY:.0f} kg, {trips} trip{'s' if trips != 1 else ''} with a bucket",
            "litres × 2.4 kg; a bucket takes 10 L of the solid, which is 24 kg",
            [("litres", f"{whole:.0f}")],
            source=CP,
            unit="share",
            note="Broken concrete takes half as much room again. Silica dust: cut wet or extract, "
            "and a mask.",
        )
    )
    found.append(
        figure(
            "To fill again",
            pipe,
            f"{pipe:.0f} L, {pipe * DENSITY:.0f} kg of concrete",
            "what the trench took, less the pipe, which is left out here",
            source=CP,
            unit="litre",
            note="After the leak test; the membrane first where it was cut.",
        )
    )
    return tuple(found)
