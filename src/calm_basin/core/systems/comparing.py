"""Build systems compared for one room: each put into the plan and held against its rules."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Literal

from calm_basin.core.answer.build import in_order
from calm_basin.core.answer.case import Case, Check
from calm_basin.core.answer.result import Finding
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.geometry.levels import depth_left, levels
from calm_basin.core.kinds import carrier_of
from calm_basin.core.survey.lie import step_at_entry
from calm_basin.core.systems.fitting import fitted
from calm_basin.core.systems.result import Candidate
from calm_basin.core.trying import after
from calm_basin.plan import Plan, PlanError
from calm_basin.plan.system import BuildSystem
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules import RuleSet
from calm_basin.tolerances import UNSEEN


def compared_systems(
    plan: Plan,
    rules: RuleSet,
    checks: Sequence[Check],
    systems: Iterable[BuildSystem],
    families: Mapping[str, DrainFamily],
) -> Iterator[Candidate]:
    """Each system put into the plan: its recess, and what is wrong with it here."""
    words = Words.of(plan)
    for system in systems:
        yield _candidate(plan, rules, checks, words, system, families)


def _candidate(
    plan: Plan,
    rules: RuleSet,
    checks: Sequence[Check],
    words: Words,
    system: BuildSystem,
    families: Mapping[str, DrainFamily],
) -> Candidate:
    chosen = plan.system is not None and plan.system.id == system.id
    try:
        family = families[system.family]
        built = fitted(plan, system, family)
        surface = surface_of(built)
    except KeyError:
        reason = f"Its drain family “{system.family}” is not kept here any more."
    except (PlanError, NoSurfaceError) as error:
        reason = error.problems[0].message if isinstance(error, PlanError) else str(error)
    else:
        found = in_order(after(Case(built, rules, words, surface), checks))
        recess, left = levels(built, surface).recess, depth_left(built, surface)
        return Candidate(
            id=system.id,
            name=system.name,
            says=system.says,
            verdict=_verdict(found),
            recess=recess,
            recess_text=words.length(recess, "up") if recess > UNSEEN else "none",
            left=left,
            left_text=words.spare(left) if carrier_of(built).refitted or recess <= 0 else "to cut",
            step_text=words.step(step_at_entry(built, surface)),
            against=tuple(finding.title for finding in found),
            chosen=chosen,
        )
    return Candidate(
        id=system.id,
        name=system.name,
        says=system.says,
        verdict="none",
        recess=None,
        recess_text="—",
        left=None,
        left_text="—",
        step_text="—",
        against=(reason,),
        chosen=chosen,
    )


def _verdict(found: Sequence[Finding]) -> Literal["fits", "cautions", "stops"]:
    if not found:
        return "fits"
    return "stops" if any(finding.severity == "stop" for finding in found) else "cautions"
