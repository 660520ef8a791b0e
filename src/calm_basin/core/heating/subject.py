"""Heating as a subject of the trade: where its cable runs and what it takes."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.heating.answer import heating

HEATING = Subject("heating", parts={"heating": lambda asked, case: heating(case)})
"""It is laid only while somebody looks at it."""
