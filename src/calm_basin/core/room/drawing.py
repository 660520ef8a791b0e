"""What the chart draws of the room itself."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.answer.result import XY
from calm_basin.core.answer.taped import place_text
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import rims_of, ring_of, turned_edge
from calm_basin.core.falls.floor import points_of
from calm_basin.core.geometry.surface import xy
from calm_basin.core.kinds import drain_kind, drains_of
from calm_basin.core.room.places import frame_of
from calm_basin.core.room.result import Drawing, Joist, RectangleSize
from calm_basin.core.structure.joists import joists_of
from calm_basin.plan import Plan
from calm_basin.plan.backs import footprint
from calm_basin.plan.edits.carrying import of_shower
from calm_basin.plan.edits.corners import box_of
from calm_basin.plan.framing import studs
from calm_basin.plan.room import WITH_HEIGHT


def drawing(plan: Plan, words: Words) -> Drawing:
    """Shapes on plan that follow from the document alone."""
    ring, outline = ring_of(plan.shower), plan.shower.outline
    drain = drain_kind(plan.shower.drain)
    outlet, offset = None, None
    if (channel := drain.channel) is not None:
        offset = channel.size / 2 if channel.outlet is None else channel.outlet
        (outlet,) = points_of(drain.outlet[None])
    return Drawing(
        frame=frame_of(plan),
        rims=tuple(points_of(rim) for rim in rims_of(plan.shower)),
        outlet=outlet,
        outlet_offset=offset,
        joists=tuple(
            Joist(outline=points_of(shapely.get_coordinates(shape.exterior)[:-1]))
            for shape in joists_of(plan)
        ),
        entries=tuple(
            ((float(a[0]), float(a[1])), (float(b[0]), float(b[1])))
            for a, b in (ring.edge(i) for i in sorted(ring.entries))
        ),
        room_box=_box(plan.room.outline, words),
        shower_box=_box(plan.shower.outline, words),
        room_sides=_edge_lengths(plan.room.outline, words),
        shower_sides=_edge_lengths(plan.shower.outline, words),
        shower_names=tuple(
            "" if i in plan.shower.entries else ring.side(ring.outwards[turned_edge(i, outline)])
            for i in range(len(outline))
        ),
        of_shower=of_shower(plan),
        over_shower=tuple(
            i
            for i, one in enumerate(plan.room.fixtures)
            if footprint(one).intersection(Polygon(outline)).area > 0
        ),
        with_height=tuple(i for i, one in enumerate(plan.room.fixtures) if one.kind in WITH_HEIGHT),
        drains=tuple(_drains(plan, words)),
        faces="from finished walls" if studs(plan) != plan.room.outline else "",
    )


def _drains(plan: Plan, words: Words) -> Iterator[str]:
    """Where the middle of each drain is taped."""
    drains = drains_of(plan)
    for number, drain in enumerate(drains, start=1):
        name = "Drain" if len(drains) == 1 else f"Drain {number}"
        place = place_text(plan.room.outline, xy(drain.outlet), words)
        yield f"{name} {drain.outlet_name}: {place}."


def _box(outline: tuple[XY, ...], words: Words) -> RectangleSize | None:
    box = box_of(outline)
    if box is None:
        return None
    width, depth = (high - low for low, high in zip(*box, strict=True))
    return RectangleSize(
        width=width, depth=depth, width_text=words.bare(width), depth_text=words.bare(depth)
    )


def _edge_lengths(outline: tuple[XY, ...], words: Words) -> tuple[str, ...]:
    points = np.array(outline)
    lengths = np.linalg.norm(np.roll(points, -1, axis=0) - points, axis=1)
    return tuple(words.bare(float(length)) for length in lengths)
