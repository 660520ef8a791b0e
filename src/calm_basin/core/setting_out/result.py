"""What is marked on floor and walls, screed pins and check lines, as they are sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Result
from calm_basin.plan.setting_out import Marked, MarkKind


class Pin(Result):
    """A screed pin: ``height`` from the base, cut to ``cut``; ``top`` is its level; ``on`` what it
    stands on."""

    number: int
    kind: Literal["rim", "fold", "edge", "field"]
    x: float
    y: float
    height: float
    cut: float
    text: str
    top: float
    on: str


class CheckLine(Result):
    """A line from the rim outwards for a level and a tape: distances and rises over the rim."""

    name: str
    start: XY
    end: XY
    distances: tuple[str, ...]
    rises: tuple[str, ...]


class PinsResult(Result):
    """Screed pins in laying order. ``worst`` is the largest change that rounding made, mm."""

    pins: tuple[Pin, ...]
    unit_text: str
    worst: float
    cost: str
    stands_on: str
    lines: tuple[CheckLine, ...]
    none_because: str


class MarkPlace(Result):
    """One place of a mark: from two walls, and a measure that shows a slip; ``check_to`` is the
    place it is taken to."""

    at: XY
    from_text: str
    check_text: str
    check_to: XY | None


class Mark(Result):
    """One thing that is marked: a place, a line by its ends, or a level.

    ``marked`` is what is noted in the plan once it is done, ``noted`` what the plan has of it; null
    while it is still to be marked. ``text`` says more of it, ``cut_text`` what a pin is cut to;
    ``level`` is where its top lies over the old floor's high spot, mm, and ``staff_text`` what the
    staff reads there.
    """

    name: str
    kind: MarkKind
    places: tuple[MarkPlace, ...]
    text: str
    cut_text: str
    level: float | None
    staff_text: str
    marked: Marked
    noted: Marked | None


class MarkGroup(Result):
    """Marks that are made together, in the order of work."""

    title: str
    kind: MarkKind
    said: str
    marks: tuple[Mark, ...]


class StaleMark(Result):
    """What was marked, as it is ``noted`` in the plan, and holds no more."""

    noted: Marked
    from_text: str
    said: str


class MarksResult(Result):
    """All that is marked, in the order of work, and what was marked and holds no more."""

    groups: tuple[MarkGroup, ...]
    stale: tuple[StaleMark, ...]
    left: int
    total: int
    measured_from: str
    pins: PinsResult
