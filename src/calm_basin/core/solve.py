"""Solve a plan: ask the subjects of the trade in their order and gather what follows."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from typing import Any

from calm_basin.core.answer.build import in_order, summed_up
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import XY, Part
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.no_floor import no_surface
from calm_basin.core.solution import Figures, Solution
from calm_basin.core.subjects import CHECKS, SUBJECTS
from calm_basin.core.trying import after, with_cures
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet, chosen_rules


def solve(
    plan: Plan,
    at: Sequence[XY] = (),
    *,
    cut: tuple[XY, XY] | None = None,
    parts: Collection[Part] = (),
    known: Mapping[str, RuleSet] | None = None,
    cures: bool = True,
) -> Solution:
    """Work out everything that follows from a plan.

    Parameters
    ----------
    plan : Plan
    at : sequence of (x, y), optional
        Places on plan, mm, whose finished level is asked for.
    cut : pair of (x, y), optional
        Ends of a line along which the section is cut, in place of the one through entry and drain.
    parts : collection of Part, optional
        What is worked out besides: it takes longer and is not needed for every answer.
    known : mapping of id to RuleSet, optional
        The rule sets that the plan may name, where there are others than those that ship.
    cures : bool, optional
        Whether changes that mend what is found are tried on the plan: without them figures,
        drawings and findings are the same, but for the corridor's ``nearest``, in about half the
        time.

    Returns
    -------
    Solution
        ``complete`` is false where the falls cannot be worked out; a finding then says why.

    Raises
    ------
    PlanError
        The plan names a rule set that there is not, or a limit that its rule set has not.
    """
    rules = chosen_rules(plan, known)
    words = Words.of(plan)
    asked = Question(plan, rules, words, None, tuple(at), cut, checks=CHECKS)
    question = _with_findings(asked, cures)
    case = question.case
    fields: dict[str, Any] = {}
    figures: dict[str, Any] = {}
    for subject in SUBJECTS:
        fields |= subject.answer(question)
        figures |= subject.figures(question)
        if case is not None:
            fields |= {
                name: part(question, case) for name, part in subject.parts.items() if name in parts
            }
    return Solution(
        complete=case is not None,
        rule_set=question.rules.name,
        deference=question.rules.deference,
        nudge=question.words.display.step,
        figures=Figures(**figures),
        findings=question.findings,
        summary=summed_up(question.findings),
        cautions=tuple(told for subject in SUBJECTS for told in subject.cautions(question)),
        **fields,
    )


def _with_findings(asked: Question, cures: bool) -> Question:
    """The question with its floor and all that is found, the gravest first."""
    try:
        asked = replace(asked, surface=surface_of(asked.plan))
    except NoSurfaceError as reason:
        why = no_surface(asked, reason)
        doubts = [
            found for subject in SUBJECTS for found in subject.doubts(asked.plan, asked.words)
        ]
        told = in_order([found.finding for found in doubts])
        return replace(asked, findings=(why, *told))
    assert asked.case is not None
    found = with_cures(asked.case, CHECKS) if cures else after(asked.case, CHECKS)
    return replace(asked, findings=in_order(found))
