"""Heating as a subject of the trade: where its cable runs and what it takes."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.heating.answer import heating
from calm_basin.core.heating.findings import not_in_build_up, on_timber

HEATING = Subject(
    "heating",
    checks=(not_in_build_up, on_timber),
    parts={"heating": lambda asked, case: heating(case)},
)
"""It is laid only while somebody looks at it."""
