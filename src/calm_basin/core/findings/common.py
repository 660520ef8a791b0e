"""What all findings share."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import Point

from calm_basin.core.cures import (
    bound_by,
    fall_limits,
    within,
)
from calm_basin.core.solution import Cure, Finding, Severity
from calm_basin.core.surface import SAME_PLACE, Facet, Fold, Surface
from calm_basin.rules import Limit, RuleSet

GEOMETRY = "Geometry of the plan"
ORDER: dict[Severity, int] = {"stop": 0, "caution": 1, "note": 2}


def unmeasured(
    code: str,
    severity: Severity,
    title: str,
    detail: str,
    *,
    applies_to: str,
    source: str,
    field: str,
    cures: tuple[Cure, ...] = (),
) -> Finding:
    """A finding that holds no measure against a limit."""
    return Finding(
        code=code,
        severity=severity,
        title=title,
        detail=detail,
        measured=None,
        measured_text="",
        limit=None,
        limit_text="",
        unit="mm",
        applies_to=applies_to,
        source=source,
        field=field,
        cures=cures,
    )


def in_order(found: list[Finding]) -> tuple[Finding, ...]:
    """The gravest first."""
    return tuple(sorted(found, key=lambda finding: ORDER[finding.severity]))


def severity_of(limit: Limit) -> Severity:
    """How grave it is to break a limit."""
    return "stop" if limit.weight == "required" else "caution"


def label_point(facet: Facet) -> tuple[float, float]:
    """A place well inside a plane, for its label."""
    place = facet.polygon.centroid
    if not facet.polygon.contains(place):
        place = facet.polygon.representative_point()
    return (place.x, place.y)


def broken_limit(rules: RuleSet, facet: Facet) -> Severity | None:
    """The gravest severity with which a plane breaks the rule set's limits."""
    broken = [
        severity_of(limit)
        for limit in fall_limits(rules)
        if bound_by(limit, facet) and not within(limit, facet.gradient)
    ]
    return min(broken, key=ORDER.__getitem__, default=None)


def listed(names: list[str]) -> str:
    """Names in a row, as they are spoken."""
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def gathering(surface: Surface) -> list[Fold]:
    """The folds of the shower in which water runs; ridges carry none."""
    rest = shapely.union_all([facet.polygon for facet in surface.zone("rest")])
    return [fold for fold in surface.folds if fold.valley and _off(rest, fold)]


def _off(shape: shapely.Geometry, fold: Fold) -> bool:
    middle = Point((np.array(fold.start[:2]) + np.array(fold.end[:2])) / 2)
    return bool(shape.is_empty or shape.distance(middle) > SAME_PLACE)
