"""Planes and folds of the floor: which break a limit, where their labels stand."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import Point

from calm_basin.core.answer.build import ORDER, severity_of
from calm_basin.core.answer.result import Severity
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.limits import bound_by, fall_limits, fall_of, within
from calm_basin.core.geometry.surface import Facet, Fold, Surface
from calm_basin.rules import RuleSet
from calm_basin.tolerances import SAME_PLACE


def label_point(facet: Facet) -> tuple[float, float]:
    """A place well inside a plane, for its label."""
    place = facet.polygon.centroid
    if not facet.polygon.contains(place):
        place = facet.polygon.representative_point()
    return (place.x, place.y)


def fall_text(words: Words, facet: Facet) -> str:
    """A plane's fall in words: that of what is made on site, or what its maker states."""
    if facet.stated is None:
        return words.fall(facet.gradient)
    return " to ".join(dict.fromkeys(words.fall(fall) for fall in facet.stated[::-1]))


def broken_limit(rules: RuleSet, facet: Facet) -> Severity | None:
    """The gravest severity with which a plane breaks the rule set's limits."""
    broken = [
        severity_of(limit)
        for limit in fall_limits(rules)
        if bound_by(limit, facet) and not within(limit, fall_of(limit, facet))
    ]
    return min(broken, key=ORDER.__getitem__, default=None)


def gathering(surface: Surface) -> list[Fold]:
    """The folds of the shower in which water runs; ridges carry none."""
    rest = shapely.union_all([facet.polygon for facet in surface.zone("rest")])
    return [fold for fold in surface.folds if fold.valley and _off(rest, fold)]


def _off(shape: shapely.Geometry, fold: Fold) -> bool:
    middle = Point((np.array(fold.start[:2]) + np.array(fold.end[:2])) / 2)
    return bool(shape.is_empty or shape.distance(middle) > SAME_PLACE)
