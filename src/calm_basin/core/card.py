"""A job as a list shows it: small enough to be kept beside every job."""

from __future__ import annotations

from collections.abc import Iterable

from calm_basin.core.answer.result import XY, Result
from calm_basin.core.solution import Solution
from calm_basin.plan import Plan

Line = tuple[XY, ...]


class Card(Result):
    """What the job is about, what is open, the recess in words, and the floor from above in
    whole mm."""

    note: str
    recess: str
    summary: str
    stops: bool
    room: Line
    shower: Line
    planes: tuple[Line, ...]
    rims: tuple[Line, ...]
    entries: tuple[tuple[XY, XY], ...]


def card_of(plan: Plan, solution: Solution) -> Card:
    """The card of a plan whose solution is known."""
    surface = solution.surface
    return Card(
        note=plan.job.note,
        recess=solution.figures.recess_needed.text,
        summary=solution.summary,
        stops=any(finding.severity == "stop" for finding in solution.findings),
        room=_whole(plan.room.outline),
        shower=_whole(plan.shower.outline),
        planes=tuple(_whole(plane.polygon) for plane in surface.planes) if surface else (),
        rims=tuple(map(_whole, solution.drawing.rims)),
        entries=tuple((_place(a), _place(b)) for a, b in solution.drawing.entries),
    )


def _whole(line: Iterable[XY]) -> Line:
    return tuple(map(_place, line))


def _place(place: XY) -> XY:
    return round(place[0]), round(place[1])
