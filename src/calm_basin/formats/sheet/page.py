"""What a page of the sheet is, and what it reads."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from reportlab.lib.pagesizes import A3, A4, LETTER, TABLOID

from calm_basin.core.answer.result import Part
from calm_basin.core.solution import Solution
from calm_basin.plan import Plan

Paper = Literal["a4", "a3", "letter", "tabloid"]
PAPERS: dict[Paper, tuple[float, float]] = {
    "a4": A4,
    "a3": A3,
    "letter": LETTER,
    "tabloid": TABLOID,
}
"""Width and height of the paper, points."""

HEAD = 90.0
"""A heading begins where so much room is left, points; else on the next column."""

SCALES = (
    *(5, 6, 8, 10, 12, 15, 16, 18, 20, 24, 25, 30, 32, 40, 48, 50, 64, 75, 96, 100),
    *(150, 200, 500, 1000),
)
"""One on paper is so many in the room; the largest drawing that fits is taken."""


def scale_for(fits: Callable[[int], bool]) -> int:
    """The largest of the scales with which a drawing fits; the smallest where none does."""
    return next((scale for scale in SCALES if fits(scale)), SCALES[-1])


@dataclass(frozen=True)
class Sheet:
    """What the pages read, and the room they have, points."""

    plan: Plan
    solution: Solution
    width: float
    height: float


@dataclass(frozen=True)
class Page:
    """One part of the sheet: its name to choose it by, and what stands in it (nothing: it is left
    out). What is ``whole`` has a page of its own, turned so that its drawing is largest; what is
    ``alone`` is printed only where it is asked for."""

    name: str
    title: str
    story: Callable[[Sheet], list[Any]]
    part: Part | None = None
    whole: bool = False
    alone: bool = False
