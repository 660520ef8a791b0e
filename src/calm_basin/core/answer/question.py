"""What a plan has to answer, and how a subject of the trade answers."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from calm_basin.core.answer.build import in_order
from calm_basin.core.answer.case import Case, Check, Found, looked_at
from calm_basin.core.answer.result import XY, Caution, Figure, Finding, Part
from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet


@dataclass(frozen=True)
class Question:
    """A plan with what is asked of it beside the usual, and what is known so far.

    ``surface`` is None where the falls cannot be worked out; ``unbuilt`` are then the findings
    that need no floor. ``at`` are places (x, y), mm, whose level is asked for; ``cut`` the ends of
    the line along which the section is cut, None for the one through entry and drain. ``checks``
    are those of all subjects: a change that is offered is held against every one of them.
    """

    plan: Plan
    rules: RuleSet
    words: Words
    surface: Surface | None
    at: tuple[XY, ...] = ()
    cut: tuple[XY, XY] | None = None
    unbuilt: tuple[Finding, ...] = ()
    checks: tuple[Check, ...] = ()

    @cached_property
    def case(self) -> Case | None:
        """The solved floor as the checks see it."""
        if self.surface is None:
            return None
        return Case(self.plan, self.rules, self.words, self.surface)

    @cached_property
    def found(self) -> list[tuple[Check, Found]]:
        """All that the checks find on the solved floor, each beside the check that found it."""
        return [] if self.case is None else looked_at(self.case, self.checks)

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """All that is found, the gravest first, without cures where there is a floor."""
        if self.case is None:
            return self.unbuilt
        return in_order([one.finding for _, one in self.found])


@dataclass(frozen=True)
class Subject:
    """A subject of the trade.

    ``fields`` are its fields of the solution, ``figures`` its key figures by name, ``cautions``
    what to heed. ``checks`` hold a solved floor against limits; ``doubts`` are found without a
    floor. ``parts`` are worked out only when they are asked for.
    """

    name: str
    fields: Mapping[str, Callable[[Question], Any]] = field(default_factory=dict)
    figures: Callable[[Question], Mapping[str, Figure]] = lambda _: {}
    cautions: Callable[[Question], tuple[Caution, ...]] = lambda _: ()
    checks: tuple[Check, ...] = ()
    doubts: Callable[[Plan, Words], list[Found]] = lambda _plan, _words: []
    parts: Mapping[Part, Callable[[Question, Case], Any]] = field(default_factory=dict)
