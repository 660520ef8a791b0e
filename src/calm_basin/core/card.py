"""A job as a list shows it: small enough to be kept beside every job."""

from __future__ import annotations

from collections.abc import Iterable

from calm_basin.core.answer.result import XY, Finding, Result
from calm_basin.core.falls.result import FloorSurface
from calm_basin.core.room.result import Drawing
from calm_basin.core.solution import Figures
from calm_basin.core.worked import Worked

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


def card_of(worked: Worked) -> Card:
    """The card of a plan: no more of it is worked out than the card shows."""
    plan = worked.plan
    figures: Figures = worked.field("figures")
    surface: FloorSurface | None = worked.field("surface")
    findings: tuple[Finding, ...] = worked.field("findings")
    drawn: Drawing = worked.field("drawing")
    return Card(
        note=plan.job.note,
        recess=figures.recess_needed.text,
        summary=worked.field("summary"),
        stops=any(finding.severity == "stop" for finding in findings),
        room=_whole(plan.room.outline),
        shower=_whole(plan.shower.outline),
        planes=tuple(_whole(plane.polygon) for plane in surface.planes) if surface else (),
        rims=tuple(map(_whole, drawn.rims)),
        entries=tuple((_place(a), _place(b)) for a, b in drawn.entries),
    )


def _whole(line: Iterable[XY]) -> Line:
    return tuple(map(_place, line))


def _place(place: XY) -> XY:
    return round(place[0]), round(place[1])
