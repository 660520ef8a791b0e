"""What any rule set of those that ship allows."""

from __future__ import annotations

from functools import cache

from calm_basin.rules.reading import rule_sets
from calm_basin.rules.ruleset import Limit


@cache
def steepest_ramp() -> float:
    """The steepest ramp that any rule set allows, rise over run."""
    return max(limit.value for rules in rule_sets().values() for limit in rules.on("ramp_fall"))


@cache
def steepest_floor() -> Limit:
    """The steepest fall of a shower's floor that any rule set allows everybody, as advice."""
    steepest = max(
        (
            limit
            for rules in rule_sets().values()
            for limit in rules.on("shower_fall")
            if limit.binds == "at_most" and not limit.users
        ),
        key=lambda limit: limit.value,
    )
    return steepest.model_copy(update={"weight": "advice", "applies_to": "a floor to stand on"})


@cache
def highest_step() -> float:
    """The highest step at an entry that any rule set allows, mm."""
    return max(limit.value for rules in rule_sets().values() for limit in rules.on("entry_step"))
