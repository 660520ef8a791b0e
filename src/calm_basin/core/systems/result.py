"""A build system's cards and how it compares for a room, as they are sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import Input, Result


class Instruction(Result):
    """One card: named lines, or lines alone, and whose they are."""

    title: str
    named: tuple[Input, ...] = ()
    lines: tuple[str, ...] = ()
    source: str


class SystemCards(Result):
    """The system that the plan was filled from, with its instructions for the installer."""

    id: str
    name: str
    says: str
    cards: tuple[Instruction, ...]


class Candidate(Result):
    """A system put into this plan: whether it fits, what recess it needs and how much of that is
    over or short, the step at the entry, and what stands against it."""

    id: str
    name: str
    says: str
    verdict: Literal["fits", "cautions", "stops", "none"]
    recess: float | None
    recess_text: str
    left: float | None
    left_text: str
    step_text: str
    against: tuple[str, ...]
    chosen: bool
