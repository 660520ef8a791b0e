"""What is left between the shower and a wall: too narrow to stand on, and wet."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import shapely

from calm_basin.core.answer.build import broken
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure, Place
from calm_basin.core.falls.ring import ring_of, turned_edge
from calm_basin.core.geometry.surface import Array
from calm_basin.plan import Plan
from calm_basin.plan.blocks import blocks
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE, SAME_SIDE


class Left(NamedTuple):
    """A strip between a side of the shower, by its edge of the document, and a wall: how wide it
    is at most, mm, over what length and where its middle is, (2,)."""

    edge: int
    wall: int
    wide: float
    long: float
    middle: Array


def strips_left(plan: Plan) -> list[Left]:
    """Strips beside the shower that are no floor to stand on, the widest first.

    A wall is beside a side of the shower where it runs along it, not farther off than such a strip
    is wide; what the finish of the wall closes is none.
    """
    ring, corners = ring_of(plan.shower), np.array(plan.room.outline)
    ends_of = np.roll(corners, -1, axis=0)
    ways = (ends_of - corners) / np.hypot(*(ends_of - corners).T)[:, None]
    found = []
    for edge in range(len(plan.shower.outline)):
        own = turned_edge(edge, plan.shower.outline)
        if edge in plan.shower.entries:
            continue
        (start, end), outward = ring.edge(own), ring.outwards[own]
        along = np.array([-outward[1], outward[0]])
        low, high = sorted((float(start @ along), float(end @ along)))
        for wall in np.flatnonzero(np.abs(ways @ outward) <= SAME_SIDE / 4).tolist():
            first, last, way = corners[wall], ends_of[wall], ways[wall]
            reach = sorted((float(first @ along), float(last @ along)))
            ends = np.array([max(low, reach[0]), min(high, reach[1])])
            long = float(ends[1] - ends[0])
            if long <= TRADE.practice.strip.value:
                continue
            # The wall's distance at both ends of what runs beside it.
            share = (ends - first @ along) / float(way @ along)
            apart = (first @ outward) + share * float(way @ outward) - ring.offsets[own]
            wide = float(apart.max())
            closed, strip = TRADE.practice.strip_closed.value, TRADE.practice.strip.value
            if apart.min() < -ON_EDGE or not closed + ON_EDGE < wide <= strip:
                continue
            middle = along * ends.mean() + outward * (ring.offsets[own] + apart.mean() / 2)
            if any(shapely.contains_xy(block.shape, *middle) for block in blocks(plan)):
                continue
            found.append(Left(edge, wall, wide, long, middle))
    return sorted(found, key=lambda one: -one.wide)


def beside_walls(case: Case) -> list[Found]:
    """Strips between the shower and a wall that are too narrow for floor."""
    plan, words = case.plan, case.words
    left = [] if plan.shower.rest is not None else strips_left(plan)
    if not left:
        return []
    worst = left[0]
    finding = broken(
        words,
        code="strip_beside",
        severity="caution",
        title=f"{words.length(worst.wide)} gap between the shower and wall {worst.wall + 1}",
        detail="A strip this narrow cannot be floor: it gets wet and drains nowhere. Fur the wall "
        "out, or fill the strip with blocking and board and carry the membrane over it.",
        value=worst.wide,
        limit=0.0,
        asked="up to the wall",
        applies_to="the shower",
        source=TRADE.practice.strip.source,
        field="/shower/outline",
        places=tuple(
            Place(
                name=f"to wall {one.wall + 1}",
                x=float(one.middle[0]),
                y=float(one.middle[1]),
                measured=one.wide,
                text=words.length(one.wide),
            )
            for one in left
        ),
    )
    return [Found(finding, lambda: [_to_the_walls(plan, left)])]


def _to_the_walls(plan: Plan, left: list[Left]) -> Cure | None:
    """The shower's sides moved out to their walls; a bought tray is as large as it is."""
    if plan.shower.bought:
        return None
    ring, shower = ring_of(plan.shower), plan.shower
    count = len(shower.outline)
    by = {one.edge: one.wide for one in left}
    normals = np.array([ring.outwards[turned_edge(i, shower.outline)] for i in range(count)])
    offsets = np.array(
        [ring.offsets[turned_edge(i, shower.outline)] + by.get(i, 0.0) for i in range(count)]
    )
    moved = []
    for i, corner in enumerate(shower.outline):
        sides = [(i - 1) % count, i]
        if not any(side in by for side in sides):
            moved.append(list(corner))
            continue
        if abs(np.linalg.det(normals[sides])) < SAME_SIDE:
            return None
        moved.append([round(float(v), 4) for v in np.linalg.solve(normals[sides], offsets[sides])])
    return Cure(
        text="Let the shower reach its walls",
        changes=(Change(path="/shower/outline", value=moved),),
    )
