"""Benches and half walls at the shower's floor: a bench takes its place out of it, a half wall
stands beside it. What is not so is found, and the floor cut or led up to them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache, partial
from itertools import pairwise
from math import cos, dist, radians, sin

import numpy as np
import shapely
from shapely.geometry import LinearRing, LineString, Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.answer.build import GEOMETRY, broken, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls import rims_of
from calm_basin.core.falls.cures import even_fall
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.kinds import former_of
from calm_basin.plan import Plan
from calm_basin.plan.backs import footprint
from calm_basin.plan.base import Outline
from calm_basin.plan.blocks import BUILT_UP, blocks
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.room import Fixture
from calm_basin.rules import TRADE
from calm_basin.tolerances import AT_WALL, HAIR


@dataclass(frozen=True)
class _Box:
    """What a block takes on plan, in its own frame: its front looks along ``out``."""

    centre: np.ndarray
    along: np.ndarray
    out: np.ndarray
    low: tuple[float, float]
    high: tuple[float, float]

    @classmethod
    def of(cls, fixture: Fixture) -> _Box:
        turn = radians(fixture.turn)
        half = (fixture.width / 2, fixture.length / 2)
        return cls(
            np.array(fixture.centre),
            np.array([cos(turn), sin(turn)]),
            np.array([-sin(turn), cos(turn)]),
            (-half[0], -half[1]),
            half,
        )

    def rectangle(self, low: tuple[float, float], high: tuple[float, float]) -> Polygon:
        corners = [low, (high[0], low[1]), high, (low[0], high[1])]
        return Polygon([self.centre + u * self.along + v * self.out for u, v in corners])

    def beyond(self, axis: int, up: bool, far: float) -> Polygon:
        """The strip in front of one of its four faces, up to ``far`` off it, mm."""
        low, high = list(self.low), list(self.high)
        if up:
            low[axis], high[axis] = self.high[axis], self.high[axis] + far
        else:
            low[axis], high[axis] = self.low[axis] - far, self.low[axis]
        return self.rectangle((low[0], low[1]), (high[0], high[1]))

    def reaching(self, floor: Polygon) -> Polygon:
        """The block, with what would be left as a sliver between it and the floor's edges."""
        low, high = list(self.low), list(self.high)
        for axis in (0, 1):
            for up in (False, True):
                strip_ = self.beyond(axis, up, 2 * AT_WALL)
                if strip_.intersection(floor).area > 0.5 * strip_.area:
                    continue
                if up:
                    high[axis] += 2 * AT_WALL
                else:
                    low[axis] -= 2 * AT_WALL
        return self.rectangle((low[0], low[1]), (high[0], high[1]))


def standing(case: Case) -> list[Found]:
    """Blocks that stand on the shower's falls, off them by less than a floor, in its entry, or of
    no known height."""
    found: list[Found] = []
    for number, fixture in enumerate(case.plan.room.fixtures):
        if fixture.kind in BUILT_UP:
            found += _on_falls(case, number, fixture)
            found += _off_falls(case, number, fixture)
    on_falls = {one.finding.field for one in found if one.finding.severity == "stop"}
    for block in blocks(case.plan):
        if f"/room/fixtures/{block.number}" not in on_falls:
            found += _in_entry(case, block.number, block.fixture)
        if block.fixture.height <= 0:
            found.append(_without_height(case, block.number, block.fixture))
    return found


def _named(fixture: Fixture, number: int) -> str:
    return f"{fixture.name} {number + 1}"


def stands_on(plan: Plan, fixture: Fixture) -> bool:
    """Whether a fixture takes of the shower's floor: what stands at its edge does not."""
    return bool(footprint(fixture).intersects(_off_edges(plan.shower.outline)))


@lru_cache(maxsize=64)
def _off_edges(outline: Outline) -> BaseGeometry:
    """The shower's floor but for what lies at its edges."""
    return Polygon(outline).buffer(-AT_WALL, join_style="mitre")


def cut_round(case: Case, number: int) -> Iterator[Cure | None]:
    """The shower's floor cut round what stands on it, alone and with other falls."""
    fixture, floor = case.plan.room.fixtures[number], Polygon(case.plan.shower.outline)
    left = floor.difference(_Box.of(fixture).reaching(floor))
    name = case.plan.room.called(number)
    cut = _remade(case.plan, left, f"Cut the shower floor round the {name}")
    yield cut
    if cut is not None:
        now = changed(case.plan, cut.changes)
        for more in (even_fall(now), channel_along(now, "back")):
            yield more and Cure(
                text=f"{cut.text}. {more.text}", changes=(*cut.changes, *more.changes)
            )


def _on_falls(case: Case, number: int, fixture: Fixture) -> Iterator[Found]:
    if not stands_on(case.plan, fixture):
        return
    shape, name = footprint(fixture), case.plan.room.called(number)
    on_drain = any(shape.intersects(Polygon(rim)) for rim in rims_of(case.plan.shower))
    finding = unmeasured(
        "block_on_falls",
        "stop",
        f"The {name} stands on the {'drain' if on_drain else 'falls of the shower'}",
        "Built up from the subfloor it takes its place out of floor, falls and tray. "
        + ("Move it or the drain first." if on_drain else "Cut the floor round it, or choose a ")
        + ("" if on_drain else "seat on legs."),
        applies_to=_named(fixture, number),
        source=GEOMETRY,
        field=f"/room/fixtures/{number}",
    )

    yield Found(finding, partial(cut_round, case, number), unbuilt=True)


def _off_falls(case: Case, number: int, fixture: Fixture) -> Iterator[Found]:
    """A block that stands a little off the floor that it was meant to stand at."""
    plan, words, name = case.plan, case.words, case.plan.room.called(number)
    floor, box, far = Polygon(plan.shower.outline), _Box.of(fixture), TRADE.practice.strip.value
    if footprint(fixture).distance(floor) <= AT_WALL:
        return
    for axis, up in ((0, False), (0, True), (1, False), (1, True)):
        before = box.beyond(axis, up, far)
        near = before.intersection(floor)
        if near.is_empty:
            continue
        # What lies beside most of its face, not a corner of the floor.
        wide = np.ptp((shapely.get_coordinates(near) - box.centre) @ _other(box, axis), axis=0)
        if wide < 0.5 * (box.high[1 - axis] - box.low[1 - axis]):
            continue
        gap = float(footprint(fixture).distance(near))
        finding = broken(
            words,
            code="gap_at_block",
            severity="caution",
            title=f"{words.length(gap)} gap between the shower and the {name}",
            detail="A strip this narrow cannot be floor: it gets wet and drains nowhere.",
            value=gap,
            limit=0.0,
            asked="up to it",
            applies_to=_named(fixture, number),
            source=TRADE.practice.strip.source,
            field=f"/room/fixtures/{number}",
        )
        up_to = floor.union(box.beyond(axis, up, gap + HAIR / 2)).buffer(0)
        text = f"Let the shower floor run up to the {name}"
        yield Found(finding, partial(_one, plan, up_to, text))
        return


def _one(plan: Plan, floor: BaseGeometry, text: str) -> list[Cure | None]:
    return [_remade(plan, floor, text)]


def _other(box: _Box, axis: int) -> np.ndarray:
    return box.out if axis == 0 else box.along


def _in_entry(case: Case, number: int, fixture: Fixture) -> Iterator[Found]:
    """A block that stands in what was taken for the entry."""
    plan, words, name = case.plan, case.words, case.plan.room.called(number)
    corners: list[tuple[float, float]] = []
    entries: list[int] = []
    shut = 0.0
    for edge, (start, end) in enumerate(_edges(plan.shower.outline)):
        line, entered = LineString([start, end]), edge in plan.shower.entries
        low, high = _beside(line, footprint(fixture)) if entered else (0.0, 0.0)
        shut += high - low
        stops = [0.0, *(at for at in (low, high) if 0 < at < line.length)]
        for at, until in pairwise([*stops, line.length]):
            if entered and not low < (at + until) / 2 < high:
                entries.append(len(corners))
            place = line.interpolate(at)
            corners.append((round(place.x, 4), round(place.y, 4)) if at else start)
    if not shut:
        return
    finding = broken(
        words,
        code="block_in_entry",
        severity="caution",
        title=f"{words.length(shut)} of the entry closed by the {name}",
        detail="Nobody can come in there. The entry is what is open beside it.",
        value=shut,
        limit=0.0,
        asked="beside the entry",
        applies_to=_named(fixture, number),
        source=GEOMETRY,
        field="/shower/entries",
    )
    changes = _changes(plan, tuple(corners), tuple(entries))
    cure = Cure(text=f"End the entry at the {name}", changes=changes) if entries else None
    yield Found(finding, lambda: [cure])


def _beside(line: LineString, shape: Polygon) -> tuple[float, float]:
    """From and to along a side of the shower where a block stands at it, mm; both 0 where it does
    not."""
    near = line.intersection(shape.buffer(AT_WALL, join_style="mitre"))
    ends = [line.project(shapely.Point(place)) for place in shapely.get_coordinates(near)]
    if not ends or max(ends) - min(ends) <= 4 * AT_WALL:
        return 0.0, 0.0
    # What makes it near is no part of it.
    low, high = min(ends), max(ends)
    low = low + AT_WALL if low > AT_WALL else 0.0
    return low, high - AT_WALL if high < line.length - AT_WALL else line.length


def _without_height(case: Case, number: int, fixture: Fixture) -> Found:
    name = case.plan.room.called(number)
    common = CommonSizes(case.plan.display.length)
    usual = common.fixture("bench" if fixture.kind == "bench" else "half wall", (0.0, 0.0)).height
    finding = unmeasured(
        "block_without_height",
        "caution",
        f"Type how high the {name} is",
        "Its boards, membrane and tile are counted by it.",
        applies_to=_named(fixture, number),
        source=GEOMETRY,
        field=f"/room/fixtures/{number}/height",
    )
    cure = Cure(
        text=f"Make the {name} {case.words.length(usual)} high",
        changes=(Change(path=f"/room/fixtures/{number}/height", value=usual),),
    )
    return Found(finding, lambda: [cure])


def _edges(outline: Outline) -> Iterator[tuple[tuple[float, float], tuple[float, float]]]:
    yield from zip(outline, (*outline[1:], outline[0]), strict=True)


def _remade(plan: Plan, floor: BaseGeometry, text: str) -> Cure | None:
    """The shower's floor with another outline, entered and cut along the lines where it was; None
    where it falls apart or is entered nowhere."""
    if not isinstance(floor, Polygon) or floor.interiors or floor.is_empty:
        return None
    old = plan.shower.outline
    outline = _cleared(floor, old)
    if len(outline) < 3:
        return None
    if LinearRing(outline).is_ccw != LinearRing(old).is_ccw:
        outline = outline[::-1]
    lies = {new: _on(old, start, end) for new, (start, end) in enumerate(_edges(outline))}
    entries = tuple(new for new, was in lies.items() if was in plan.shower.entries)
    if not entries:
        return None
    return Cure(text=text, changes=_changes(plan, outline, entries))


def _cleared(floor: Polygon, old: Outline) -> Outline:
    """The corners of a floor: those that turn, and those that parted a side before."""
    parting = {place for place, turns in zip(old, _turning(old), strict=True) if not turns}
    corners: list[tuple[float, float]] = []
    for x, y in floor.exterior.coords[:-1]:
        known = (place for place in old if dist(place, (x, y)) <= HAIR)
        corner = next(known, (round(float(x), 4), round(float(y), 4)))
        if corner not in corners:
            corners.append(corner)
    turns = _turning(tuple(corners))
    return tuple(
        corner for corner, turned in zip(corners, turns, strict=True) if turned or corner in parting
    )


def _turning(outline: Outline) -> list[bool]:
    """Whether an outline turns at each of its corners."""
    around = zip(outline[-1:] + outline[:-1], outline, outline[1:] + outline[:1], strict=True)
    return [
        LineString([before, after]).distance(shapely.Point(here)) > HAIR
        for before, here, after in around
    ]


def _on(old: Outline, start: tuple[float, float], end: tuple[float, float]) -> int | None:
    """Which side of the old outline a side of a new one lies on, or goes on from."""
    new = LineString([start, end])
    for number, edge in enumerate(_edges(old)):
        line = LineString(edge)
        if line.intersection(new.buffer(AT_WALL, cap_style="flat")).length > 4 * AT_WALL:
            return number
    return None


def _changes(plan: Plan, outline: Outline, entries: tuple[int, ...]) -> tuple[Change, ...]:
    found = [
        Change(path="/shower/outline", value=[list(corner) for corner in outline]),
        Change(path="/shower/entries", value=list(entries)),
    ]
    former = former_of(plan.shower).tray
    if former is not None and former.cuts:
        width = {cut.edge: cut.width for cut in former.cuts}
        lies = {
            new: _on(plan.shower.outline, start, end)
            for new, (start, end) in enumerate(_edges(outline))
        }
        cuts = [
            {"edge": new, "width": width[was]}
            for new, was in lies.items()
            if was is not None and was in width
        ]
        found.append(Change(path="/shower/former/cuts", value=cuts))
    return tuple(found)
