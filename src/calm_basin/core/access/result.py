"""Spaces, ways and edges as they are sent."""

from __future__ import annotations

from calm_basin.core.answer.result import XY, Figure, Result


class Space(Result):
    """A space as it is drawn: a circle ``across`` round (x, y), or an ``outline``, mm.

    ``enough`` is None where nothing is asked; ``asked`` says whose it is. ``state`` says in words
    what is wrong with it, and is empty where nothing is.
    """

    name: str
    x: float
    y: float
    across: float
    outline: tuple[XY, ...]
    text: str
    asked: str
    state: str
    enough: bool | None


class WayIn(Result):
    """The way from a door to the shower: its line, how wide it is, and between which two places it
    is narrowest."""

    line: tuple[XY, ...]
    narrowest: tuple[XY, ...]
    text: str
    enough: bool


class ThresholdSeen(Result):
    """An edge on the way in, drawn from the side: mm along and up from before it; ``asked`` says
    what the rules allow."""

    name: str
    text: str
    asked: str
    profile: tuple[XY, ...]
    enough: bool


class AccessResult(Result):
    """What whoever uses the room needs: spaces, the way in, edges, what the rules ask of turning in
    words, and what else is measured."""

    spaces: tuple[Space, ...]
    ways: tuple[WayIn, ...]
    thresholds: tuple[ThresholdSeen, ...]
    asked: str
    unmeasured: tuple[str, ...]
    figures: tuple[Figure, ...]
