"""One plan under several rule sets: what each of them finds."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from calm_basin.core.answer.build import in_order, summed_up
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Finding, Result, Severity
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import surface_of
from calm_basin.core.subjects import CHECKS
from calm_basin.core.trying import after
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet, chosen_rules


class Difference(Result):
    """A finding under a rule set. ``here_too`` tells that the plan's own rule set finds the same
    thing, be it against another limit."""

    severity: Severity
    title: str
    asked: str
    source: str
    here_too: bool


class Compared(Result):
    """What one rule set finds, in words and one by one, and what it no longer does."""

    id: str
    name: str
    summary: str
    findings: tuple[Difference, ...]
    gone: tuple[str, ...]


def compared(plan: Plan, names: Sequence[str], known: Mapping[str, RuleSet]) -> list[Compared]:
    """Hold one plan against several rule sets; values of its own are left out under others.

    Raises
    ------
    NoSurfaceError
        The plan has no floor.
    UnknownRuleSetError
        There is no such rule set.
    """
    surface, words = surface_of(plan), Words.of(plan)

    def found(under: Plan) -> tuple[Finding, ...]:
        case = Case(under, chosen_rules(under, known), words, surface)
        return in_order(after(case, CHECKS))

    here = found(plan)
    told = []
    for name in names:
        own = name == plan.rule_set
        under = plan if own else plan.model_copy(update={"rule_set": name, "overrides": ()})
        there = here if own else found(under)
        told.append(
            Compared(
                id=name,
                name=chosen_rules(under, known).name,
                summary=summed_up(there),
                findings=tuple(
                    Difference(
                        severity=finding.severity,
                        title=finding.title,
                        asked=finding.limit_text,
                        source=finding.source,
                        here_too=any(_same(finding, other) for other in here),
                    )
                    for finding in there
                ),
                gone=tuple(
                    other.title for other in here if not any(_same(f, other) for f in there)
                ),
            )
        )
    return told


def _same(one: Finding, other: Finding) -> bool:
    """Whether two findings are of the same thing: the limit may be another's."""
    return (one.code, one.about) == (other.code, other.about)
