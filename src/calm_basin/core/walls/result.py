"""The walls, as they are sent."""

from __future__ import annotations

from calm_basin.core.answer.result import XY, Figure, Input, Result


class WallLine(Result):
    """One wall: between finished walls, between studs, and how far the studs are behind."""

    number: int
    start: XY
    end: XY
    finished_text: str
    studs_text: str
    depth_text: str
    at_shower: bool


class WallSize(Result):
    """A size between studs, mm."""

    size: float
    text: str


class WallBox(Result):
    """A rectangle on a wall, from the left end of its studs and up from the finished floor, mm;
    ``text`` is what is said of it, empty where nothing is."""

    x: float
    y: float
    width: float
    height: float
    text: str


class WallView(Result):
    """A wall from inside, with all that is framed and boarded in it."""

    wall: int
    name: str
    said: str
    length: float
    height: float
    low: float
    """The lowest that is drawn, mm: below 0 where blocking goes down behind a tray."""

    studs: tuple[WallBox, ...]
    added: tuple[WallBox, ...]
    backing: tuple[WallBox, ...]
    hung: tuple[WallBox, ...]
    niches: tuple[WallBox, ...]
    boards: tuple[WallBox, ...]
    fasteners: tuple[XY, ...]
    cuts: tuple[Input, ...]
    """What is cut for it: what for, and its pieces."""

    fixings: tuple[str, ...]
    furring: tuple[Input, ...]
    """By stud: how much goes on at foot and head."""


class BuiltUp(Result):
    """A bench or half wall: its sizes for the builder."""

    name: str
    rows: tuple[Input, ...]
    note: str


class WallsResult(Result):
    """Where studs and finished walls are, and how the walls are framed and boarded."""

    said: str
    boards: str
    """How many boards and what holds them; empty where nobody said that there are any."""

    given: bool
    """Whether anything is said of what is on the studs; else both lines are one."""

    measured: str
    figures: tuple[Figure, ...]
    lines: tuple[WallLine, ...]
    box: tuple[WallSize, WallSize] | None
    """Width and depth of a room that is a rectangle along the axes, between studs."""

    studs: tuple[XY, ...]
    pocket: tuple[XY, ...]
    views: tuple[WallView, ...]
    built: tuple[BuiltUp, ...]
    chain: tuple[Input, ...]
    """From the studs to the finished face in the shower, with what the valve takes."""

    centres: float
    centres_text: str
    boarded: float
    """How high the shower's walls are boarded, mm."""

    boarded_text: str
    board: tuple[float, float]
    """Length and width of a board, mm."""

    board_texts: tuple[str, str]
    layers_texts: tuple[str, str]
    """In all on the shower's walls, and on the others."""

    notes: tuple[str, ...]
