"""Ask the subjects of the trade in their order and gather what follows, so far as it is wanted."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from calm_basin.core.answer.build import in_order, summed_up
from calm_basin.core.answer.case import Check, Found
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import XY, Finding, Part
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.no_floor import no_surface
from calm_basin.core.solution import Figures, Solution
from calm_basin.core.subjects import CHECKS, SUBJECTS
from calm_basin.core.trying import looked_at, with_cures
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet, chosen_rules


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
        asked = self._asked
        findings = self._mended if cures else asked.findings
        besides = (name for subject in SUBJECTS for name in subject.parts if name in parts)
        return Solution(
            complete=asked.case is not None,
            rule_set=asked.rules.name,
            deference=asked.rules.deference,
            nudge=asked.words.display.step,
            figures=self._figures,
            findings=findings,
            summary=summed_up(findings),
            cautions=tuple(told for subject in SUBJECTS for told in subject.cautions(asked)),
            **self._fields,
            **({} if asked.case is None else {name: self._part(name) for name in besides}),
        )

    @cached_property
    def _floor(self) -> Question:
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
            return replace(asked, findings=(why, *told))

    @cached_property
    def _found(self) -> list[tuple[Check, Found]]:
        case = self._floor.case
        return [] if case is None else looked_at(case, CHECKS)

    @cached_property
    def _asked(self) -> Question:
        """The question with its floor and all that is found, the gravest first."""
        if self._floor.case is None:
            return self._floor
        found = [one.finding for _, one in self._found]
        return replace(self._floor, findings=in_order(found))

    @cached_property
    def _mended(self) -> tuple[Finding, ...]:
        """All that is found, each with the changes that mend it."""
        case = self._floor.case
        if case is None:
            return self._floor.findings
        return in_order(with_cures(case, CHECKS, self._found))

    @cached_property
    def _fields(self) -> dict[str, Any]:
        return {k: v for subject in SUBJECTS for k, v in subject.answer(self._asked).items()}

    @cached_property
    def _figures(self) -> Figures:
        return Figures(
            **{k: v for subject in SUBJECTS for k, v in subject.figures(self._asked).items()}
        )

    @cached_property
    def _parts(self) -> dict[Part, Any]:
        """What was worked out besides, so far."""
        return {}

    def _part(self, name: Part) -> Any:
        if name not in self._parts:
            case = self._asked.case
            assert case is not None
            work = next(subject.parts[name] for subject in SUBJECTS if name in subject.parts)
            self._parts[name] = work(self._asked, case)
        return self._parts[name]
