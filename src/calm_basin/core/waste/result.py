"""The waste under the floor, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Change, Figure, Result


class PassedMark(Result):
    """One timber that the run passes: where, the pipe's level there, and what is drilled."""

    name: str
    at: XY
    distance: float
    level: float
    level_text: str
    hole_text: str
    limit_text: str
    fits: bool


class TimberCut(Result):
    """A timber as the run's profile cuts it: from ``start`` to ``end`` along the run, and the band
    of levels in which the pipe's middle may pass it, where there is one."""

    name: str
    start: float
    end: float
    top: float
    bottom: float
    low: float | None
    high: float | None


class Profile(Result):
    """The run drawn out straight: levels of the pipe's middle, the timbers it passes, deck and
    ceiling, and the branch that it meets; heights in mm from the deck or slab top."""

    length: float
    pipe: float
    levels: tuple[XY, ...]
    timbers: tuple[TimberCut, ...]
    deck: float
    ceiling: float | None
    branch: float | None
    top: float
    bottom: float


class RunMark(Result):
    """The run on plan with where it passes timbers; ``proposed`` where the plan does not lay it."""

    line: tuple[XY, ...]
    proposed: bool
    fits: bool
    passed: tuple[PassedMark, ...]
    profile: Profile


class RiserCard(Result):
    """What the plumber on the floor is told: lines to read out, the order of work, the check."""

    title: str
    said: tuple[str, ...]
    order: tuple[str, ...]
    check: str
    source: str


class WasteResult(Result):
    """Where the waste goes; ``missing`` says what is not measured and so not looked at."""

    run: RunMark | None
    figures: tuple[Figure, ...]
    missing: tuple[str, ...]
    reminders: tuple[str, ...]
    riser: RiserCard | None
    trench: tuple[Figure, ...]
    verdict: str


Verdict = Literal["open", "blocked", "falls", "deep", "waste", "edge"]


class ChannelLine(Result):
    """A channel's place: its two ends."""

    start: XY
    end: XY


class Offered(Result):
    """A place that is offered: in words, and what it changes."""

    text: str
    place: int
    changes: tuple[Change, ...]


class DrainMap(Result):
    """Where the drain can go: outlets ``x``, ``y`` on plan with what each comes to.

    ``reason`` points into ``reasons``; ``line`` into ``lines`` and ``outlet`` tells how far along
    it the outlet lies, where the drain is a channel. Cells are ``stride`` mm square, along
    ``along``. ``rows`` and ``columns`` are those of a point drain's or a channel's places.
    """

    stride: float
    along: XY
    x: tuple[float, ...]
    y: tuple[float, ...]
    row: tuple[int, ...]
    column: tuple[int, ...]
    verdict: tuple[Verdict, ...]
    reason: tuple[int, ...]
    reasons: tuple[str, ...]
    lines: tuple[ChannelLine, ...] = ()
    line: tuple[int, ...] = ()
    outlet: tuple[float, ...] = ()
    here: int | None = None
    summary: str
    best: Offered | None = None
    nearest: Offered | None = None
