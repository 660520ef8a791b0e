"""Solve a plan."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

from calm_basin.core.answer.result import XY, Part
from calm_basin.core.solution import Solution
from calm_basin.core.worked import Worked
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet


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
        Whether changes that mend what is found are tried on the plan: without them all else is the
        same, in about half the time.

    Returns
    -------
    Solution
        ``complete`` is false where the falls cannot be worked out; a finding then says why.

    Raises
    ------
    PlanError
        The plan names a rule set that there is not, or a limit that its rule set has not.
    """
    return Worked(plan, known, tuple(at), cut).solution(parts, cures=cures)
