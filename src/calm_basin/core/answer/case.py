"""A plan with its solved floor as the checks see it, and what they find."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from calm_basin.core.answer.result import Cure, Finding
from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet


@dataclass(frozen=True, eq=False)
class Case:
    """A plan with its solved floor, as the checks see it: what several of them need is remembered
    by it."""

    plan: Plan
    rules: RuleSet
    words: Words
    surface: Surface


class Found(NamedTuple):
    """A finding and the changes that might mend it, worked out when they are asked for.

    Of several changes that begin with the same field the first that holds is enough, unless
    ``each`` is a way of its own. ``unbuilt`` says that nothing can be built as it is planned, so
    that what a change opens could not be seen before: where every candidate opens something, that
    which opens least is offered, and says what.
    """

    finding: Finding
    candidates: Callable[[], Iterable[Cure | None]] = list
    each: bool = False
    unbuilt: bool = False


Check = Callable[[Case], list[Found]]


def looked_at(case: Case, checks: Sequence[Check]) -> list[tuple[Check, Found]]:
    """All that the checks find on a plan, each beside the check that found it."""
    return [(check, found) for check in checks for found in check(case)]


Key = tuple[str, str, str]


def key_of(finding: Finding) -> Key:
    """What makes two findings the same one: what is broken, for whom, and whose limit it is."""
    return (finding.code, finding.applies_to, finding.source)
