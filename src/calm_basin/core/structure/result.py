"""The floor that is there and what is cut out of it, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Figure, Result


class TimberMark(Result):
    """One timber on plan; ``number`` is a joist's for people, ``index`` how the plan counts it.

    Of a joist ``regular`` is where its middle stands where nothing moved it, along ``across`` of
    the whole.
    """

    name: str
    kind: Literal["joist", "trimmer", "blocking", "girder", "wall"]
    outline: tuple[XY, ...]
    number: int | None = None
    index: int | None = None
    regular: float | None = None


class BodyMark(Result):
    """One part of a drain on plan; ``meets`` names what it lies on."""

    part: Literal["hole", "body", "flange", "channel"]
    outline: tuple[XY, ...]
    meets: tuple[str, ...] = ()


class ServiceMark(Result):
    """A line that was found, and the strip that is kept clear of it."""

    name: str
    kind: str
    points: tuple[XY, ...]
    strip: tuple[XY, ...]


class SawLine(Result):
    """One cut of a saw: its ends, each with its distance from two walls."""

    start: XY
    end: XY
    length_text: str
    start_text: str
    end_text: str


class Piece(Result):
    """A piece of deck that goes back between the joists; ``loose`` until the waste is tested."""

    outline: tuple[XY, ...]
    text: str
    loose: bool = False


class Batten(Result):
    """A cleat along a joist or under a plate, timber under the deck's edge or beside the hole."""

    kind: Literal["cleat", "blocking", "plate cleat", "edge", "added joist"]
    start: XY
    end: XY
    text: str


class CutSheet(Result):
    """What is sawn out of the deck and what goes back in; where nothing is recessed a channel's
    ``slot`` alone, and no cleats."""

    blade: Figure
    set_down: Figure | None
    cleats: Figure | None
    saw_lines: tuple[SawLine, ...]
    pieces: tuple[Piece, ...]
    battens: tuple[Batten, ...]
    hole: str
    slot: str
    steps: tuple[str, ...]


class StructureResult(Result):
    """What carries the floor, what the drain takes of it, and the sheet to cut the deck by;
    ``unsigned`` says for which joists an engineer has to sign yet."""

    timbers: tuple[TimberMark, ...]
    across: XY | None
    bodies: tuple[BodyMark, ...]
    services: tuple[ServiceMark, ...]
    figures: tuple[Figure, ...]
    notes: tuple[str, ...]
    unsigned: str
    sheet: CutSheet | None = None
