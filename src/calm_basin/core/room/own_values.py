"""Limits that a job keeps at a value of its own, and why."""

from __future__ import annotations

from calm_basin.core.answer.words import Words
from calm_basin.core.room.result import OwnValue
from calm_basin.plan import Plan
from calm_basin.rules import TITLES, Limit, RuleSet, Space
from calm_basin.rules.ruleset import FALLS


def own_values(plan: Plan, rules: RuleSet, words: Words) -> tuple[OwnValue, ...]:
    """Each override of the plan as it is kept to, in words."""
    told = []
    for own in plan.overrides:
        limits: tuple[Limit | Space, ...] = (*rules.limits, *rules.spaces)
        kept = next(
            one
            for one in limits
            if (one.topic, one.applies_to) == (own.topic, own.applies_to)
            and (isinstance(one, Space) or one.binds == own.binds)
        )
        told.append(
            OwnValue(
                title=f"{TITLES[own.topic]}, {own.applies_to}",
                text=_printed(kept, words),
                note=kept.note,
                reason=own.reason,
            )
        )
    return tuple(told)


def _printed(kept: Limit | Space, words: Words) -> str:
    if isinstance(kept, Space):
        return f"{words.limit(kept.across)} × {words.limit(kept.deep)}"
    fall = kept.topic in FALLS
    value = words.fall_limit(kept.value) if fall else words.limit(kept.value)
    return f"{kept.binds.replace('_', ' ')} {value}"
