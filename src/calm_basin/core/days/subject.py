"""The days as a subject of the trade: what is done when, and what is waited for."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.days.answer import days

DAYS = Subject("days", parts={"days": lambda asked, case: days(case)})
"""They are worked out only while somebody looks at them."""
