"""What a page of the sheet is, and what it reads."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from reportlab.lib.pagesizes import A4, LETTER

from calm_basin.core.answer.result import Part
from calm_basin.core.solution import Solution
from calm_basin.plan import Plan

Paper = Literal["a4", "letter"]
PAPERS: dict[Paper, tuple[float, float]] = {"a4": A4, "letter": LETTER}
"""Width and height of the paper, points."""


SCALES = (5, 8, 10, 12, 16, 20, 24, 25, 32, 48, 50, 96, 100, 200, 500, 1000)
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
    """One page: its name to choose it by, and what stands on it (nothing: it is left out)."""

    name: str
    title: str
    story: Callable[[Sheet], list[Any]]
    part: Part | None = None
