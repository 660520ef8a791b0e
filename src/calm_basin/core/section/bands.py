"""The section: a vertical cut through room and shower, layer by layer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor, radians

import numpy as np
import shapely
from shapely.affinity import translate
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import Ring, ring_of
from calm_basin.core.geometry.levels import (
    NO_DEPTH,
    Levels,
    cast_on,
    depth_available,
    laid_on,
    levels,
    pour_cover,
    shower_pour,
    under_drain,
)
from calm_basin.core.geometry.lifts import lower_lift, lower_lift_rise
from calm_basin.core.geometry.surface import Array, Facet, Surface, xy
from calm_basin.core.section.result import Band, Section, Tick
from calm_basin.core.structure.clash import met
from calm_basin.core.structure.footing import (
    drains_of,
    fitting_family,
    outlet_of,
    solids_of,
    standing,
)
from calm_basin.core.structure.joists import joists_of, timbers_of
from calm_basin.plan import Plan
from calm_basin.plan.floor import Floor, JoistFloor
from calm_basin.plan.shower import MortarBed, Tray
from calm_basin.units import MM_PER_INCH

RIM = 6.0
"""How thick a rim and a flange are drawn, mm."""

DRAWN_SLAB = 120.0
"""How much of a slab or of the joists is drawn below the deepest level, in mm."""

Stretch = tuple[float, float]


@dataclass(frozen=True)
class Cut:
    """A straight cut on plan: ``start``, unit vector ``along`` and ``length`` in mm."""

    start: Array
    along: Array
    length: float

    @property
    def line(self) -> LineString:
        return LineString([self.start, self.start + self.along * self.length])

    def spans(self, shape: Polygon) -> list[Stretch]:
        """Stretches of the cut that lie inside a shape, as distances along it."""
        inside = self.line.intersection(shape)
        pieces = [p for p in shapely.get_parts(inside) if isinstance(p, LineString)]
        spans = []
        for piece in pieces:
            reach = (shapely.get_coordinates(piece) - self.start) @ self.along
            if len(reach) and np.ptp(reach) > 1e-6:
                spans.append((float(reach.min()), float(reach.max())))
        return sorted(spans)

    def shadow(self, shape: Polygon) -> Stretch:
        """How far a shape reaches along the cut, which may go beside it."""
        reach = (shapely.get_coordinates(shape) - self.start) @ self.along
        low, high = np.clip([reach.min(), reach.max()], 0.0, self.length)
        return (float(low), float(high))

    def at(self, distances: Array) -> Array:
        """Points on plan at distances along the cut, shape (n, 2)."""
        points: Array = self.start + distances[:, None] * self.along
        return points


def main_cut(ring: Ring, room: Polygon, rim: Array) -> Cut:
    """The cut through entry and drain, room side first.

    It runs straight in from the entry where it meets the drain so; else from the middle of the
    widest entry to the drain.
    """
    centre = rim.mean(axis=0)
    far = 4 * max(np.ptp(shapely.get_coordinates(room), axis=0).max(), 1.0)
    straight = LineString([centre - ring.inward * far, centre + ring.inward * far])
    along = ring.inward
    entries = [LineString(ring.edge(i)) for i in sorted(ring.entries)]
    if not any(straight.intersects(entry) for entry in entries):
        widest = max(entries, key=lambda entry: entry.length)
        middle = shapely.get_coordinates(widest).mean(axis=0)
        if np.linalg.norm(centre - middle) > 1:
            along = (centre - middle) / np.linalg.norm(centre - middle)
    whole = LineString([centre - along * far, centre + along * far]).intersection(room)
    pieces = [p for p in shapely.get_parts(whole) if isinstance(p, LineString)]
    if not pieces:
        return Cut(centre, along, 1.0)
    through = min(pieces, key=lambda piece: piece.distance(Point(centre)))
    reach = (shapely.get_coordinates(through) - centre) @ along
    return Cut(centre + along * reach.min(), along, float(np.ptp(reach)))


def cut_along(room: Polygon, start: tuple[float, float], end: tuple[float, float]) -> Cut:
    """The cut along a line that somebody laid, as long as the room is there."""
    first, last = np.array(start), np.array(end)
    length = float(np.hypot(*(last - first)))
    along = (last - first) / length if length > 1 else np.array([1.0, 0.0])
    far = 4 * max(np.ptp(shapely.get_coordinates(room), axis=0).max(), 1.0)
    whole = LineString([first - along * far, first + along * far]).intersection(room)
    if whole.is_empty:
        return Cut(first, along, max(length, 1.0))
    reach = (shapely.get_coordinates(whole) - first) @ along
    return Cut(first + along * reach.min(), along, max(float(np.ptp(reach)), 1.0))


def section(case: Case, cut: Cut) -> Section:
    """Cut the planned floor: finished layers, bed or tray, base, deck or slab, joists, drain."""
    plan, words, surface = case.plan, case.words, case.surface
    ring, stack = ring_of(plan.shower), levels(plan, surface)
    room = Polygon(plan.room.outline)
    inside = cut.spans(ring.polygon)
    rim = cut.spans(surface.rim)
    outside = _without(cut.spans(room), inside)
    bands: list[Band] = []
    for span in outside:
        bands += _stack(span, plan, words, surface, stack, cut)
    for span in inside:
        bands += _shower_bands(span, plan, words, surface, stack, cut, rim)
    bands += _structure(plan, words, cut, joists_of(plan), inside, outside, stack)
    bands += _drains(plan, surface, cut, rim, stack)
    tops = [z for band in bands for _, z in band.outline]
    shower = (inside[0][0], inside[-1][1]) if inside else (0.0, 0.0)
    edges = [LineString(ring.edge(i)) for i in sorted(ring.entries)]
    at_entry = [
        s for s in shower if any(e.distance(Point(*cut.at(np.array([s]))[0])) < 1 for e in edges)
    ]
    return Section(
        start=xy(cut.start),
        end=xy(cut.at(np.array([cut.length]))[0]),
        length=cut.length,
        bands=tuple(bands),
        shower=shower,
        entry=at_entry[0] if at_entry and inside else None,
        drain=(rim[0][0], rim[-1][1]) if rim else (0.0, 0.0),
        top=max(tops, default=0.0),
        bottom=min(tops, default=0.0),
        ticks=_ticks(min(tops, default=0.0), max(tops, default=0.0), words),
        joists_along=isinstance(plan.floor, JoistFloor)
        and abs(_across(plan.floor) @ cut.along) < 0.1,
    )


def _ticks(bottom: float, top: float, words: Words) -> tuple[Tick, ...]:
    """Round heights for the scale board, about eight of them."""
    inch = MM_PER_INCH
    choices = (
        [inch / 4, inch / 2, inch, 2 * inch, 4 * inch]
        if words.display.imperial
        else [5.0, 10.0, 20.0, 50.0, 100.0]
    )
    step = next((c for c in choices if (top - bottom) / c <= 10), choices[-1])
    heights = step * np.arange(ceil(bottom / step), floor(top / step) + 1)
    return tuple(Tick(height=float(z), text=words.bare(float(z))) for z in heights)


def _across(floor: JoistFloor) -> Array:
    angle = radians(floor.direction)
    return np.array([-np.sin(angle), np.cos(angle)])


def _box(kind: str, name: str, span: Stretch, bottom: float, top: float, text: str = "") -> Band:
    low, high = span
    return Band.model_validate(
        {
            "kind": kind,
            "name": name,
            "text": text,
            "outline": ((low, bottom), (high, bottom), (high, top), (low, top)),
        }
    )


def _without(spans: list[Stretch], holes: list[Stretch]) -> list[Stretch]:
    """Stretches of ``spans`` that no hole covers."""
    left = []
    for low, high in spans:
        for start, end in sorted(holes):
            if low < start < high and start - low > 1e-6:
                left.append((low, start))
            if end > low:
                low = min(max(low, end), high) if start < high else low
        if high - low > 1e-6:
            left.append((low, high))
    return left


def _lowest(floor: Floor, base: float) -> float:
    """How far down a slab or joists are drawn, mm from the deck or slab top."""
    if not isinstance(floor, JoistFloor):
        return -min(floor.thickness, max(DRAWN_SLAB, -base + DRAWN_SLAB / 2))
    deck = floor.deck_thickness
    return -deck - min(floor.depth, max(DRAWN_SLAB / 2, -base - deck + DRAWN_SLAB / 2))


def _drains(
    plan: Plan, surface: Surface, cut: Cut, rim: list[Stretch], stack: Levels
) -> list[Band]:
    """Each drain with what it takes of the floor, and where that meets a timber."""
    if fitting_family(plan) is None:
        return [
            _box("drain", "drain", span, min(stack.base, stack.drain - 40), stack.drain)
            for span in rim
        ]
    stands, lowest = standing(plan, surface), _lowest(plan.floor, stack.base)
    bands = [_box("drain", "rim", span, stack.drain - RIM, stack.drain) for span in rim]
    clashes: list[Band] = []
    for drain in drains_of(plan):
        at = outlet_of(drain)
        hit = {(one.way.part, one.way.what) for one in met(plan, surface, drain)}
        for solid in solids_of(plan, drain):
            shape = translate(solid.outline, float(at[0]), float(at[1]))
            hangs = solid.below == "rim"
            top = stands.rim if hangs else stands.deck
            bottom = max(top - solid.depth, lowest)
            if solid.part == "flange":
                top = bottom + RIM
            for span in cut.spans(shape):
                bands.append(_box("drain" if hangs else "riser", solid.part, span, bottom, top))
            for timber in timbers_of(plan):
                overlap = timber.outline.intersection(shape)
                if (solid.part, timber.name) not in hit or overlap.is_empty:
                    continue
                low, high = max(bottom, timber.bottom), min(top, timber.top)
                # Where the cut goes beside it, what is met is drawn as it is seen from there.
                for span in cut.spans(overlap) or [cut.shadow(overlap)]:
                    clashes.append(_box("clash", timber.name, span, low, high))
    return bands + clashes


def _stack(
    span: Stretch, plan: Plan, words: Words, surface: Surface, levels: Levels, cut: Cut
) -> list[Band]:
    """The room's layers, listed from the tile down, standing on the deck or slab.

    Where the rest of a wet room falls too, the lowest layer takes up the fall.
    """
    bands = []
    cover = pour_cover(plan)
    distances = _stops(span, cut, surface.zone("rest"), [])
    top = np.full(len(distances), levels.room)
    if plan.shower.rest is not None:
        top = levels.datum + surface.heights(_just_inside(distances, span, cut), "rest")
    for layer in plan.room.layers[:-1]:
        text = words.bare(layer.thickness)
        under = top - layer.thickness
        bands.append(_sheet("finish", layer.name, text, distances, top, under))
        top = under
    for layer in plan.room.layers[-1:]:
        text = words.bare(layer.thickness)
        under = np.minimum(top, cover)
        bands.append(_sheet("finish", layer.name, text, distances, top, under))
    if cover:
        bands.append(_box("packing", "pour", span, 0.0, cover, f"{words.bare(cover)} least"))
    return bands


def _shower_bands(
    span: Stretch,
    plan: Plan,
    words: Words,
    surface: Surface,
    levels: Levels,
    cut: Cut,
    rim: list[Stretch],
) -> list[Band]:
    distances = _stops(span, cut, surface.zone("shower"), rim)
    places = _just_inside(distances, span, cut)
    top = levels.datum + surface.heights(places, "shower")
    bands = []
    for layer in plan.shower.layers:
        under = top - layer.thickness
        text = words.bare(layer.thickness)
        bands.append(_sheet("finish", layer.name, text, distances, top, under))
        top = under
    former = plan.shower.former
    poured = shower_pour(plan)
    base = np.full(len(distances), cast_on(plan, levels))
    laid = laid_on(plan, levels)
    if poured:
        text = f"{words.bare(poured)} least"
        bands.append(_box("packing", "pour", span, base[0] - poured, float(base[0]), text))
    lower = lower_lift(plan)
    if isinstance(former, MortarBed) and lower is not None:
        bed = laid + lower.least_thickness + lower_lift_rise(plan, surface, places)
        bed = np.minimum(bed, top - lower.membrane)
        of_upper, of_lower = (
            words.bare(v) for v in (former.least_thickness, lower.least_thickness)
        )
        bands += [
            _sheet("bed", "upper lift", f"{of_upper} least", distances, top, bed + lower.membrane),
            _sheet(
                "finish",
                "membrane between",
                words.bare(lower.membrane),
                distances,
                bed + lower.membrane,
                bed,
            ),
            _sheet("bed", "lower lift", f"{of_lower} least", distances, bed, base),
        ]
    elif isinstance(former, Tray):
        text = f"{words.bare(former.edge_thickness)} edge"
        bands.append(_sheet("tray", "tray", text, distances, top, base))
    else:
        name = "setting bed" if isinstance(former, MortarBed) else "slope panels"
        text = f"{words.bare(under_drain(plan) or 0.0)} least"
        bands.append(_sheet("bed", name, text, distances, top, base))
    return bands


def _stops(span: Stretch, cut: Cut, facets: tuple[Facet, ...], rim: list[Stretch]) -> Array:
    """Distances along the cut between which a floor runs straight."""
    low, high = span
    stops = {low, high}
    for facet in facets:
        for ends in cut.spans(facet.polygon):
            stops.update(ends)
    for ends in rim:
        stops.update(ends)
    distances = np.array(sorted(s for s in stops if low - 1e-6 <= s <= high + 1e-6))
    kept: Array = distances[np.append(True, np.diff(distances) > 1e-3)]
    return kept


def _just_inside(distances: Array, span: Stretch, cut: Cut) -> Array:
    """Places on plan; the cut's ends lie on outlines within rounding, so look a little inside."""
    low, high = span
    return cut.at(np.clip(distances, low + 1e-4, high - 1e-4))


def _sheet(kind: str, name: str, text: str, distances: Array, top: Array, bottom: Array) -> Band:
    upper = zip(distances, top, strict=True)
    lower = zip(distances[::-1], bottom[::-1], strict=True)
    outline = [(float(s), float(z)) for s, z in (*upper, *lower)]
    return Band.model_validate({"kind": kind, "name": name, "text": text, "outline": outline})


def _structure(
    plan: Plan,
    words: Words,
    cut: Cut,
    shapes: Sequence[Polygon],
    inside: list[Stretch],
    outside: list[Stretch],
    levels: Levels,
) -> list[Band]:
    floor = plan.floor
    base = levels.base
    # A bed is cast down to what carries it.
    packs = not isinstance(plan.shower.former, MortarBed)
    bands = []
    if not isinstance(floor, JoistFloor):
        bottom = _lowest(floor, base)
        for span in outside:
            bands.append(_box("slab", "slab", span, bottom, 0.0))
        for span in inside:
            bands.append(_box("slab", "slab", span, bottom, max(min(base, 0.0), bottom)))
            if base > 0 and packs:
                bands.append(_box("packing", "packing", span, 0.0, base, words.bare(base)))
        return bands
    deck = floor.deck_thickness
    thick = words.bare(deck)
    bottom = _lowest(floor, base)
    joists = [span for shape in shapes for span in cut.spans(shape)]
    for span in outside:
        bands.append(_box("deck", "deck", span, -deck, 0.0, thick))
    for span in inside:
        if base >= -NO_DEPTH:
            bands.append(_box("deck", "deck", span, -deck, 0.0, thick))
            if base > 0 and packs:
                bands.append(_box("packing", "packing", span, 0.0, base, words.bare(base)))
            continue
        for gap in _without([span], joists):
            bands.append(_box("refitted", "deck on cleats", gap, -2 * deck, -deck, thick))
        if base + depth_available(plan) >= words.display.step / 2 and packs:
            bands.append(_box("packing", "packing", span, -deck, base, words.bare(base + deck)))
        elif base < -deck:
            for joist in joists:
                low, high = max(joist[0], span[0]), min(joist[1], span[1])
                if high > low:
                    bands.append(_box("clash", "joist in the way", (low, high), base, -deck))
    for span in joists:
        bands.append(_box("joist", "joist", span, bottom, -deck))
    return bands
