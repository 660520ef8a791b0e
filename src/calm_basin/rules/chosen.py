"""The rules of one job: its rule set, what is added where it is to be accessible, and the limits
that it keeps at another value."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import TypeVar

from pydantic import ValidationError

from calm_basin.plan import Plan
from calm_basin.plan.reading import PlanError, Problem
from calm_basin.plan.users import Override, User
from calm_basin.rules.reading import rule_sets
from calm_basin.rules.ruleset import TOPICS, Asked, Fact, Limit, RuleSet, Space

OWN = "Own value"
"""The document of a limit that a job keeps at another value."""


class UnknownRuleSetError(PlanError):
    """The plan names a rule set that there is not; the message lists those that there are."""


def chosen_rules(plan: Plan, known: Mapping[str, RuleSet] | None = None) -> RuleSet:
    """The rules that a plan is held against.

    Parameters
    ----------
    plan : Plan
    known : mapping of id to RuleSet, optional
        The rule sets to choose from, where there are others than those that ship.

    Raises
    ------
    UnknownRuleSetError
        There is no such rule set, among those known or as a layer of one.
    PlanError
        An override names a limit that the rule set has not, or a value in another unit.
    """
    sets = rule_sets() if known is None else known
    bare = rules = _named(sets, plan.rule_set)
    if plan.accessible:
        layer = _named(sets, rules.layer) if rules.layer else None
        rules = _accessible(rules, layer, plan.users)
    # A value of one's own for what the layer asks otherwise rests while the layer is there.
    own = tuple(one for one in plan.overrides if _asks(rules, one) or not _asks(bare, one))
    return _overridden(rules, own) if own else rules


def _asks(rules: RuleSet, own: Override) -> bool:
    """Whether a rule set has the limit or the space for which a job has a value of its own."""
    key = (own.topic, own.binds, own.applies_to)
    return any((one.topic, one.binds, one.applies_to) == key for one in rules.limits) or any(
        (one.topic, "at_least", one.applies_to) == key for one in rules.spaces
    )


def _named(sets: Mapping[str, RuleSet], name: str) -> RuleSet:
    if name in sets:
        return sets[name]
    known = ", ".join(sets)
    raise UnknownRuleSetError(
        [Problem("/rule_set", f"There is no rule set “{name}”. Choose one of: {known}.")]
    )


@lru_cache(maxsize=32)
def _accessible(rules: RuleSet, layer: RuleSet | None, users: tuple[User, ...]) -> RuleSet:
    """A rule set with its layer, and with what binds accessible jobs binding.

    Of spaces on one topic any will do: where the layer asks these users for some, the rule set's
    own are none of them.
    """
    own_limits = tuple(_binding(one) for one in rules.limits)
    own_spaces = tuple(_binding(one) for one in rules.spaces)
    limits: tuple[Limit, ...] = ()
    spaces: tuple[Space, ...] = ()
    facts: tuple[Fact, ...] = ()
    if layer is not None:
        limits = tuple(_binding(one) for one in layer.limits)
        spaces = tuple(_binding(one) for one in layer.spaces)
        facts = tuple(one for one in layer.facts if one not in rules.facts)
    # What both ask of the same thing the layer asks: it is there to be the stricter.
    again = {(one.topic, one.binds, one.applies_to) for one in limits}
    instead = {one.topic for one in spaces if one.asked_by(users)}
    return rules.model_copy(
        update={
            "name": f"{rules.name}, accessible",
            "limits": (
                *(one for one in own_limits if (one.topic, one.binds, one.applies_to) not in again),
                *limits,
            ),
            "spaces": (
                *(one for one in own_spaces if one not in spaces and one.topic not in instead),
                *spaces,
            ),
            "facts": (*rules.facts, *facts),
        }
    )


AskedT = TypeVar("AskedT", bound=Asked)


def _binding(asked: AskedT) -> AskedT:
    return asked.model_copy(update={"weight": "required"}) if asked.accessible else asked


@lru_cache(maxsize=32)
def _overridden(rules: RuleSet, overrides: tuple[Override, ...]) -> RuleSet:
    for number, own in enumerate(overrides):
        rules = _with_own(rules, own, f"/overrides/{number}")
    return rules


def _with_own(rules: RuleSet, own: Override, path: str) -> RuleSet:
    limits = [
        _kept_at(limit, own, {"given": own.given}, path)
        if (limit.topic, limit.binds, limit.applies_to) == (own.topic, own.binds, own.applies_to)
        else limit
        for limit in rules.limits
    ]
    spaces = [
        _kept_at(space, own, _sides(own.given, path), path)
        if (space.topic, "at_least", space.applies_to) == (own.topic, own.binds, own.applies_to)
        else space
        for space in rules.spaces
    ]
    if not _asks(rules, own):
        cure = (
            "Remove this value of your own, or choose the rule set that it was meant for."
            if own.topic in TOPICS
            else f"There is no topic “{own.topic}”."
        )
        message = f"{rules.name} has no limit on {own.topic} for “{own.applies_to}”. {cure}"
        raise PlanError([Problem(path, message)])
    return rules.model_copy(update={"limits": tuple(limits), "spaces": tuple(spaces)})


def _sides(given: str, path: str) -> dict[str, str]:
    """Width and depth of a space, written such as ``1200mm × 900mm``."""
    width, times, depth = given.replace(" ", "").partition("×")
    if not times:
        message = f"“{given}” is no space. Write width × depth, such as “1200mm × 900mm”."
        raise PlanError([Problem(f"{path}/given", message)])
    return {"width": width, "depth": depth}


def _kept_at(asked: AskedT, own: Override, values: dict[str, str], path: str) -> AskedT:
    """The same at the job's own value; whose it was, and why it is not kept, stands with it."""
    try:
        return type(asked).model_validate(
            {name: getattr(asked, name) for name in type(asked).model_fields}
            | values
            | {
                "document": OWN,
                "clause": "",
                "from_memory": False,
                "note": f"In place of {asked.printed}, {asked.source}: {own.reason}"[:500],
            }
        )
    except ValidationError as error:
        said = error.errors()[0]["msg"].removeprefix("Value error, ").rstrip(".")
        raise PlanError([Problem(f"{path}/given", f"{said}.")]) from None
