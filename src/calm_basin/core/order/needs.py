"""How much of what a floor takes, from its areas, lengths and pieces: numbers, no packs yet.

Amounts are in what the thing is counted in: pieces, metres, square metres, litres or bags.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.depth.panels import panel_layout
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.geometry.levels import rest_thickness
from calm_basin.core.geometry.lifts import thicker_at_drain
from calm_basin.core.structure.deck_sheet import deck_sheet
from calm_basin.core.survey.ground import ground_of, pour_zone, poured
from calm_basin.core.waste.answer import waste
from calm_basin.plan.places import ON_EDGE
from calm_basin.plan.room import layer_kind
from calm_basin.plan.shower import MortarBed, SlopePanels, Tray
from calm_basin.plan.survey import Pour

M, M2, LITRE = 1e3, 1e6, 1e6
"""Millimetres a metre, square millimetres a square metre, cubic millimetres a litre."""

INTO_ROOM = 900.0
"""So far the membrane goes from the shower into the room, mm: 3 ft (common practice)."""

BAND = 50.0
"""What is laid over at an end of a band or a seam, mm: 2 in (common practice)."""

PRIMER = 0.15
"""Litres of primer a square metre (common practice, from memory)."""

CLEAT_SCREWS, DECK_SCREWS = 300.0, 150.0
"""How far apart screws stand, mm: two rows in a cleat, one along the edge of a piece."""

BED_BAG = 36 * 40 * 25.4**2 * 2
"""The area of a tray under which a bag of adhesive goes, mm²: half a bag for one of 36 × 40 in."""


class Share(NamedTuple):
    """A part of an amount: what it is of, and how much."""

    name: str
    amount: float


class Need(NamedTuple):
    """So much of something, in its shares; ``formula`` in words, ``called`` where it is named more
    closely than what is sold."""

    item: str
    formula: str
    shares: tuple[Share, ...]
    called: str = ""

    @property
    def amount(self) -> float:
        """All of it."""
        return sum(share.amount for share in self.shares)


def needs(case: Case) -> list[Need]:
    """What the floor takes, without what is nothing."""
    found = [
        *_former(case),
        *_pour(case),
        *_drain(case),
        *_framing(case),
        *_membrane(case),
        *_finish(case),
    ]
    return [need for need in found if need.amount > 1e-9]


def floor_of_shower(case: Case) -> Polygon:
    """The shower on plan."""
    return ring_of(case.plan.shower).polygon


def _former(case: Case) -> Iterator[Need]:
    former, shower = case.plan.shower.former, floor_of_shower(case)
    if isinstance(former, MortarBed):
        yield Need("mud", "mean thickness × area, from the planes of the floor", tuple(_beds(case)))
        return
    if isinstance(former, Tray):
        stock, words = former.stock, case.words
        called = f"Shower tray {_size(case, *_outer(shower))}"
        if stock is not None:
            called = f"Shower tray {words.length(stock.width)} × {words.length(stock.length)}"
        drains = 2 if case.plan.shower.second_drain else 1
        yield Need("tray", "one a drain", (Share("drains", drains),), called)
        around = Share("round the tray", shower.length / M)
        yield Need("sealant", "a bead all round", (around,))
    elif isinstance(former, SlopePanels):
        layout = panel_layout(case)
        sides = () if layout is None else layout.sides
        rows = tuple(Share(side.name, side.count) for side in sides)
        yield Need("panel", "panels of each side, those cut from one counted once", rows)
    yield Need(
        "bedding",
        "area ÷ what a bag goes under",
        (Share("under the shower", _bags_under(case, shower.area)),),
    )
    yield Need("primer", "0.15 L a square metre", (Share("shower", PRIMER * shower.area / M2),))


def _bags_under(case: Case, area: float) -> float:
    system = case.plan.system
    takes = system.bedding[0].takes if system else None
    if takes is not None and takes.unit == "bags":
        return takes.over(area)
    return area / BED_BAG


def _beds(case: Case) -> Iterator[Share]:
    """The litres of a bed in the shower, and of that in the rest of a wet room."""
    plan, surface = case.plan, case.surface
    former = plan.shower.former
    assert isinstance(former, MortarBed)
    least = former.least_thickness + thicker_at_drain(plan, surface)
    if former.lower is not None:
        least += former.lower.least_thickness
    facets = list(surface.zone("shower"))
    yield Share(
        "in the shower",
        sum(volume(f.polygon, f.plane, surface.drop + least) for f in facets) / LITRE,
    )
    rest = list(surface.zone("rest"))
    if rest:
        lowest = min(float(facet.corners[:, 2].min()) for facet in rest)
        thin = max(rest_thickness(plan, surface), 0.0)
        yield Share(
            "in the rest of the room",
            sum(volume(f.polygon, f.plane, thin - lowest) for f in rest) / LITRE,
        )


def volume(polygon: Polygon, plane: tuple[float, float, float], above: float) -> float:
    """What lies under a plane and over the level ``above`` mm below its 0, mm³: over a polygon a
    plane's mean height is that at the centroid."""
    if polygon.is_empty:
        return 0.0
    middle = polygon.centroid
    return float(polygon.area * (plane[0] * middle.x + plane[1] * middle.y + plane[2] + above))


def _pour(case: Case) -> Iterator[Need]:
    plan = case.plan
    settings, ground = plan.survey.correction, ground_of(plan)
    if not isinstance(settings, Pour) or ground is None:
        return
    zone, _ = pour_zone(plan, settings)
    made = poured(ground, zone, settings)
    where = "in the shower" if settings.area == "shower" else "over the floor"
    yield Need(
        "compound", "litres ÷ what a bag gives, with what is kept back", (Share(where, made.bags),)
    )
    yield Need("lath", "area ÷ a sheet", (Share(where, made.lath_sheets),))
    yield Need("staples", "6 in apart", (Share(where, made.staples),))
    yield Need(
        "primer", "0.15 L a square metre", (Share("under the pour", PRIMER * made.area / M2),)
    )


def _drain(case: Case) -> Iterator[Need]:
    plan = case.plan
    drains = 2 if plan.shower.second_drain else 1
    family = plan.waste.family
    called = f"Drain: {family.name[0].lower()}{family.name[1:]}" if family else ""
    yield Need("drain", "drains of the plan", (Share("drains", drains),), called)
    yield Need("plug", "one an outlet", (Share("outlets", drains),))
    run = waste(case).run
    if run is None or len(run.line) < 2:
        return
    levels = run.profile.levels
    fall = abs(levels[0][1] - levels[-1][1]) if levels else 0.0
    length = LineString(run.line).length
    shares = (Share("run on plan", length / M), Share("drop along it", fall / M))
    yield Need("pipe", "length of the run with its drop", shares)
    yield Need(
        "bend", "bends of the run and the one at the drain", (Share("bends", len(run.line) - 1),)
    )


def _framing(case: Case) -> Iterator[Need]:
    sheet = deck_sheet(case)
    if sheet is None:
        return
    lengths: dict[str, float] = {}
    for batten in sheet.battens:
        along = float(np.hypot(*np.subtract(batten.end, batten.start)))
        lengths[batten.kind] = lengths.get(batten.kind, 0.0) + along
    small = [(kind, total) for kind, total in lengths.items() if kind != "added joist"]
    yield Need(
        "cleat", "pieces of the cut sheet", tuple(Share(f"{kind}s", n / M) for kind, n in small)
    )
    if "added joist" in lengths:
        added = Share("added joists", lengths["added joist"] / M)
        yield Need("joist", "pieces of the cut sheet", (added,))
    screwed = sum(2 * (ceil(n / CLEAT_SCREWS) + 1) for _, n in small)
    yield Need("cleat_screws", "two rows, 300 mm apart", (Share("cleats and blocking", screwed),))
    around = sum(Polygon(piece.outline).length for piece in sheet.pieces)
    yield Need(
        "deck_screws",
        "150 mm apart round each piece",
        (Share("pieces", ceil(around / DECK_SCREWS)),),
    )


def _membrane(case: Case) -> Iterator[Need]:
    plan, shower = case.plan, floor_of_shower(case)
    room = Polygon(plan.room.outline)
    kept = (
        room
        if plan.shower.rest is not None
        else room.intersection(shower.buffer(INTO_ROOM, join_style="mitre"))
    )
    beyond = kept.difference(shower)
    shares = (Share("shower", shower.area / M2), Share("into the room", beyond.area / M2))
    yield Need(
        "membrane", "area of the shower and 900 mm beyond it, or of the whole wet room", shares
    )
    wall = room.exterior
    at_wall = kept.exterior.intersection(wall.buffer(ON_EDGE * 10))
    joint = shower.exterior.difference(wall.buffer(ON_EDGE * 10))
    corners = [shapely.Point(p) for p in shapely.get_coordinates(wall)[:-1]]
    inside = [c for c in corners if kept.distance(c) < ON_EDGE * 10]
    turned = _turns(plan.room.outline)
    outward = sum(turned[i] < 0 for i, c in enumerate(corners) if c in inside)
    laps = BAND * 2 * (len(inside) + 1)
    bands = (
        Share("where floor and wall meet", at_wall.length / M),
        Share("joint of shower and room", joint.length / M),
        Share("laps", laps / M),
    )
    yield Need("band", "lengths at the walls and across the joint, with laps of 50 mm", bands)
    yield Need("inside_corner", "corners of the walls", (Share("corners", len(inside) - outward),))
    yield Need("outside_corner", "corners that stand out", (Share("corners", outward),))
    yield Need("collar", "one a pipe through the wall", (Share("valve and arm", 2),))


def _turns(outline: tuple[tuple[float, float], ...]) -> list[float]:
    """The way an outline turns at each corner: above 0 an inside corner of the room."""
    points = np.array(outline)
    way = 1.0 if shapely.LinearRing(points).is_ccw else -1.0
    before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turns = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    return [float(way * turn) for turn in turns]


def _finish(case: Case) -> Iterator[Need]:
    """Tile and what it is laid in and on, by area."""
    plan, shower = case.plan, floor_of_shower(case)
    tiled = []
    if any(layer_kind(layer) == "tile" for layer in plan.shower.layers):
        tiled.append(("tile", "shower", shower.area / M2))
    rest = Polygon(plan.room.outline).difference(shower).area / M2
    # What is down already is not bought again.
    of_room = () if plan.room.laid is not None else plan.room.layers
    if any(layer_kind(layer) == "tile" for layer in of_room):
        tiled.append(("room_tile", "rest of the room", rest))
    for item, where, area in tiled:
        yield Need(item, "area of the floor", (Share(where, area),))
    shares = tuple(Share(where, area) for _, where, area in tiled)
    for item in ("tile_adhesive", "grout"):
        yield Need(item, "area of the floor", shares)
    boards = [layer.name for layer in of_room if layer_kind(layer) == "board"]
    yield Need(
        "board", "area of the floor outside the shower", tuple(Share(b, rest) for b in boards)
    )


def _outer(shower: Polygon) -> tuple[float, float]:
    left, bottom, right, top = shower.bounds
    return right - left, top - bottom


def _size(case: Case, width: float, length: float) -> str:
    return f"{case.words.length(width)} × {case.words.length(length)}"
