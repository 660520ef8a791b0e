"""Spaces and doors as they are sent."""

from __future__ import annotations

from calm_basin.core.answer.result import Figure, Result


class Space(Result):
    """The largest circle that fits, mm, on the floor or on its gentle part; ``enough`` is None
    where nothing is asked."""

    name: str
    x: float
    y: float
    across: float
    text: str
    enough: bool | None


class AccessResult(Result):
    """What somebody who does not walk in unaided needs: the circles, what the rules ask of
    them in words, and what else is measured."""

    spaces: tuple[Space, ...]
    asked: str
    figures: tuple[Figure, ...]
