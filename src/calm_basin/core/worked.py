"""Ask the subjects of the trade in their order and gather what follows, so far as it is wanted."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from calm_basin.core.answer.build import in_order, summed_up
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import XY, Finding, Part
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.no_floor import no_surface
from calm_basin.core.solution import Figures, Solution
from calm_basin.core.subjects import CHECKS, SUBJECTS
from calm_basin.core.trying import with_cures
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet, chosen_rules


def _figures(asked: Question) -> Figures:
    return Figures(**{k: v for subject in SUBJECTS for k, v in subject.figures(asked).items()})


FIELDS: Mapping[str, Callable[[Question], Any]] = {
    "complete": lambda asked: asked.case is not None,
    "rule_set": lambda asked: asked.rules.name,
    "deference": lambda asked: asked.rules.deference,
    "nudge": lambda asked: asked.words.display.step,
    "figures": _figures,
    "findings": lambda asked: asked.findings,
    "summary": lambda asked: summed_up(asked.findings),
    "cautions": lambda asked: tuple(
        told for subject in SUBJECTS for told in subject.cautions(asked)
    ),
} | {name: work for subject in SUBJECTS for name, work in subject.fields.items()}
"""How each field of a solution that stands in every one is worked out."""

PARTS: Mapping[str, Callable[[Question, Case], Any]] = {
    name: work for subject in SUBJECTS for name, work in subject.parts.items()
}
"""How each part is worked out that stands only in the solutions that were asked for it."""


@dataclass(frozen=True, eq=False)
class Worked:
    """A plan as it is worked out: what one answer needed, the next one to the same plan has.

    The fields are as `solve` takes them.
    """

    plan: Plan
    known: Mapping[str, RuleSet] | None = None
    at: tuple[XY, ...] = ()
    cut: tuple[XY, XY] | None = None

    def solution(self, parts: Collection[Part] = (), *, cures: bool = True) -> Solution:
        """The answer, as `solve` gives it. Raises `PlanError` as it does."""
        told = {name: self.field(name) for name in (*FIELDS, *(p for p in PARTS if p in parts))}
        if cures:
            told["findings"] = self.mended
        return Solution(**told)

    def field(self, name: str) -> Any:
        """One field or part of the solution, worked out with no more than it needs; the findings
        are without cures. None where it needs a floor that there is not. Raises `PlanError` as
        `solve` does."""
        if name not in self._fields:
            asked = self._asked
            if name in FIELDS:
                self._fields[name] = FIELDS[name](asked)
            else:
                self._fields[name] = None if asked.case is None else PARTS[name](asked, asked.case)
        return self._fields[name]

    @cached_property
    def mended(self) -> tuple[Finding, ...]:
        """All that is found, each with the changes that mend it."""
        asked = self._asked
        if asked.case is None:
            return asked.findings
        return in_order(with_cures(asked.case, CHECKS, asked.found))

    @cached_property
    def _asked(self) -> Question:
        """The question with its floor, where there is one; else with the reason, as a finding."""
        rules = chosen_rules(self.plan, self.known)
        words = Words.of(self.plan)
        asked = Question(self.plan, rules, words, None, self.at, self.cut, checks=CHECKS)
        try:
            return replace(asked, surface=surface_of(asked.plan))
        except NoSurfaceError as reason:
            why = no_surface(asked, reason)
            doubts = [found for subject in SUBJECTS for found in subject.doubts(self.plan, words)]
            told = in_order([found.finding for found in doubts])
            return replace(asked, unbuilt=(why, *told))

    @cached_property
    def _fields(self) -> dict[str, Any]:
        """What was worked out so far."""
        return {}
