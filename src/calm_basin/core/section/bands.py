"""The section: a vertical cut through room and shower, layer by layer."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import ceil, floor

import numpy as np
from shapely.affinity import translate
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import ring_of
from calm_basin.core.geometry.levels import (
    Levels,
    cast_on,
    depth_available,
    laid_on,
    levels,
    pour_cover,
    shower_pour,
)
from calm_basin.core.geometry.lifts import lower_lift_rise
from calm_basin.core.geometry.surface import Array, Facet, Surface, xy
from calm_basin.core.kinds import carrier_of, drains_of, former_of
from calm_basin.core.section.cut import Cut, Stretch, without
from calm_basin.core.section.result import Band, Section, Tick
from calm_basin.core.structure.footing import (
    fitting_family,
    solids_of,
    standing,
)
from calm_basin.core.structure.joists import Bays, joists_of, timbers_of
from calm_basin.core.structure.meeting import met
from calm_basin.core.survey.lie import before_entry, lie_along
from calm_basin.plan import Plan
from calm_basin.plan.blocks import blocks
from calm_basin.tolerances import UNSEEN
from calm_basin.units import MM_PER_INCH

RIM = 6.0
"""How thick a rim and a flange are drawn, mm."""


@dataclass(frozen=True)
class Lie:
    """The floor along the cut under its high spot: places along it, and heights between which it
    goes straight, mm, both (n,)."""

    places: Array
    heights: Array

    def at(self, distances: Array) -> Array:
        """Heights at distances along the cut, mm, (n,)."""
        low: Array = np.interp(distances, self.places, self.heights)
        return low

    def within(self, span: Stretch) -> Array:
        """Distances along the cut that bound a stretch and part it where the floor bends."""
        low, high = span
        own = self.places[(self.places > low + 1e-3) & (self.places < high - 1e-3)]
        return np.concatenate([[low], own, [high]])


def _lie_of(plan: Plan, cut: Cut) -> Lie:
    start, end = cut.at(np.array([0.0, cut.length]))
    places, heights = lie_along(before_entry(plan), start, end)
    return Lie((places - cut.start) @ cut.along, heights)


def section(case: Case, cut: Cut) -> Section:
    """Cut the planned floor: finished layers, bed or tray, base, deck or slab, joists, drain."""
    plan, words, surface = case.plan, case.words, case.surface
    joists = carrier_of(plan).joists
    ring, stack = ring_of(plan.shower), levels(plan, surface)
    room = Polygon(plan.room.outline)
    inside = cut.spans(ring.polygon)
    rim = cut.spans(surface.rim)
    outside = without(cut.spans(room), inside)
    lie = _lie_of(plan, cut)
    bands: list[Band] = []
    built = [(block, cut.spans(block.shape)) for block in blocks(plan)]
    for span in without(outside, [span for _, spans in built for span in spans]):
        bands += _stack(span, plan, words, surface, stack, cut, lie)
    for block, spans in built:
        # Drawn as far as it stands out of the floor, not as high as it is.
        tall = words.bare(block.fixture.height)
        for span in without(spans, inside):
            top = stack.room + DRAWN_BLOCK
            bands.append(_box("packing", block.name, span, 0.0, top, f"{tall} high"))
    for span in inside:
        bands += _shower_bands(span, plan, words, surface, stack, cut, rim, lie)
    bands += _structure(plan, words, cut, lie, inside, outside, stack)
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
        joists_along=joists is not None and abs(Bays.of(joists).across @ cut.along) < 0.1,
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


DRAWN_BLOCK = 40.0
"""How far a bench or half wall is drawn above the floor, mm."""


def _drains(
    plan: Plan, surface: Surface, cut: Cut, rim: list[Stretch], stack: Levels
) -> list[Band]:
    """Each drain with what it takes of the floor, and where that meets a timber."""
    if fitting_family(plan) is None:
        return [
            _box("drain", "drain", span, min(stack.base, stack.drain - 40), stack.drain)
            for span in rim
        ]
    stands, lowest = standing(plan, surface), carrier_of(plan).drawn_to(stack.base)
    bands = [_box("drain", "rim", span, stack.drain - RIM, stack.drain) for span in rim]
    clashes: list[Band] = []
    for drain in drains_of(plan):
        at = drain.outlet
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
    span: Stretch,
    plan: Plan,
    words: Words,
    surface: Surface,
    levels: Levels,
    cut: Cut,
    lie: Lie,
) -> list[Band]:
    """The room's layers, listed from the tile down, standing on the deck or slab as it lies.

    Where the rest of a wet room falls too, the lowest layer takes up the fall.
    """
    bands = []
    cover = pour_cover(plan)
    distances = _stops(span, cut, surface.zone("rest"), lie.within(span))
    low = lie.at(distances)
    top = levels.room + low
    if plan.shower.rest is not None:
        top = levels.datum + surface.heights(_just_inside(distances, span, cut), "rest")
    for layer in plan.room.layers[:-1]:
        text = words.bare(layer.thickness)
        under = top - layer.thickness
        bands.append(_sheet("finish", layer.name, text, distances, top, under))
        top = under
    for layer in plan.room.layers[-1:]:
        text = words.bare(layer.thickness)
        under = np.minimum(top, cover + low)
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
    lie: Lie,
) -> list[Band]:
    ends = [end for piece in rim for end in piece]
    distances = _stops(span, cut, surface.zone("shower"), [*ends, *lie.within(span)])
    places = _just_inside(distances, span, cut)
    top = levels.datum + surface.heights(places, "shower")
    bands = []
    for layer in plan.shower.layers:
        under = top - layer.thickness
        text = words.bare(layer.thickness)
        bands.append(_sheet("finish", layer.name, text, distances, top, under))
        top = under
    former = former_of(plan.shower)
    poured = shower_pour(plan)
    base = np.full(len(distances), cast_on(plan, levels))
    laid = laid_on(plan, levels)
    low = lie.at(distances) if levels.base >= -UNSEEN else np.zeros(len(distances))
    if poured:
        text = f"{words.bare(poured)} least"
        bands.append(_sheet("packing", "pour", text, distances, base, base - poured + low))
    elif former.cast:
        base = base + low
    if (lower := former.lower) is not None:
        bed = laid + lower.least_thickness + lower_lift_rise(plan, surface, places)
        bed = np.minimum(bed, top - lower.membrane)
        of_upper, of_lower = (words.bare(v) for v in (former.thickness, lower.least_thickness))
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
    else:
        where = "edge" if former.measured_at == "edge" else "least"
        text = f"{words.bare(former.thickness)} {where}"
        bands.append(_sheet(former.band, former.name, text, distances, top, base))
    return bands


def _stops(span: Stretch, cut: Cut, facets: tuple[Facet, ...], ends: Iterable[float]) -> Array:
    """Distances along the cut between which a floor runs straight."""
    low, high = span
    stops = {low, high}
    for facet in facets:
        for piece in cut.spans(facet.polygon):
            stops.update(piece)
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
    lie: Lie,
    inside: list[Stretch],
    outside: list[Stretch],
    levels: Levels,
) -> list[Band]:
    carrier, base = carrier_of(plan), levels.base
    # A bed is cast down to what carries it.
    packs = not former_of(plan.shower).cast
    carries = base >= -UNSEEN
    bands = []
    for span in inside if carries and packs else ():
        at = lie.within(span)
        low = lie.at(at)
        if base > 0 or low.min() < -UNSEEN:
            text = words.bare(base) if base > 0 else ""
            bands.append(_sheet("packing", "packing", text, at, np.full(len(at), base), low))
    bottom = carrier.drawn_to(base)
    if not carrier.refitted:
        for span in (*outside, *inside):
            at = lie.within(span)
            top = lie.at(at)
            if span in inside and not carries:
                top = np.minimum(top, base)
            top = np.maximum(top, bottom)
            bands.append(_sheet("slab", carrier.name, "", at, top, np.full(len(at), bottom)))
        return bands
    deck = carrier.thickness
    thick = words.bare(deck)
    joists = [span for shape in joists_of(plan) for span in cut.spans(shape)]
    for span in (*outside, *inside) if carries else outside:
        at = lie.within(span)
        bands.append(_sheet("deck", "deck", thick, at, lie.at(at), lie.at(at) - deck))
    for span in () if carries else inside:
        for gap in without([span], joists):
            bands.append(_box("refitted", "deck on cleats", gap, -2 * deck, -deck, thick))
        if base + depth_available(plan) >= words.display.step / 2 and packs:
            bands.append(_box("packing", "packing", span, -deck, base, words.bare(base + deck)))
        elif base < -deck:
            for joist in joists:
                start, end = max(joist[0], span[0]), min(joist[1], span[1])
                if end > start:
                    bands.append(_box("clash", "joist in the way", (start, end), base, -deck))
    for span in joists:
        at = lie.within(span)
        bands.append(_sheet("joist", "joist", "", at, lie.at(at) - deck, np.full(len(at), bottom)))
    return bands
