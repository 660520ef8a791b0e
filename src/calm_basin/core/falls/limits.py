"""Limits on falls: which planes they bind, and which keep them."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from calm_basin.core.geometry.surface import Array, Facet, Surface
from calm_basin.rules import Limit, RuleSet, steepest_floor
from calm_basin.tolerances import SHARE_ROUNDED


def within(limit: Limit, gradient: float) -> bool:
    """Whether a gradient keeps a limit on falls."""
    if limit.binds == "at_least":
        return gradient >= limit.value * (1 - SHARE_ROUNDED)
    return gradient <= limit.value * (1 + SHARE_ROUNDED)


def fall_of(limit: Limit, facet: Facet) -> float:
    """The fall of a plane that is held against a limit, rise over run."""
    return facet.flattest if limit.binds == "at_least" else facet.steepest


def sloped(surface: Surface) -> list[Facet]:
    """The planes that are meant to fall (level strips beyond a channel's ends are not)."""
    return [facet for facet in surface.facets if not facet.level]


def bound_by(limit: Limit, facet: Facet) -> bool:
    """Whether a limit on falls is on this plane: the rest of a wet room has a least of its own."""
    if limit.topic == "rest_fall":
        return facet.zone == "rest"
    return facet.zone == "shower" or limit.binds == "at_most"


def fall_limits(rules: RuleSet) -> tuple[Limit, ...]:
    """All limits on the floor's falls. Where a rule set names no steepest one for everybody, the
    steepest that any set allows is what is recommended."""
    own = (*rules.on("shower_fall"), *rules.on("rest_fall"))
    silent = not any(
        limit.topic == "shower_fall" and limit.binds == "at_most" and not limit.users
        for limit in own
    )
    return (*own, steepest_floor()) if silent else own


def breaking(limit: Limit, surface: Surface) -> list[Facet]:
    """The planes that break a limit on falls."""
    return [
        f for f in sloped(surface) if bound_by(limit, f) and not within(limit, fall_of(limit, f))
    ]


def fitting(
    rules: RuleSet, gradients: Array, rest: Sequence[Facet], limit: Limit | None = None
) -> NDArray[np.bool_]:
    """Which rows of the shower's gradients keep the required limits on falls, and one more.

    The ``rest`` of a wet room falls alike wherever the drain is: where it breaks its own limits no
    row keeps them.
    """
    good = np.asarray(~np.isnan(gradients).any(axis=1))
    for other in fall_limits(rules):
        bound = [facet for facet in rest if bound_by(other, facet) and not facet.level]
        if other.weight == "required" and not all(within(other, f.gradient) for f in bound):
            good[:] = False
    for other in rules.on("shower_fall"):
        if other.weight == "required" or other == limit:
            if other.binds == "at_least":
                good &= (gradients >= other.value * (1 - SHARE_ROUNDED)).all(axis=1)
            else:
                good &= (gradients <= other.value * (1 + SHARE_ROUNDED)).all(axis=1)
    return good
