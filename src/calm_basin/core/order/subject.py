"""The order as a subject of the trade: what is bought, and how it is cut."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.order.answer import order

ORDER = Subject("order", parts={"order": lambda asked, case: order(case)})
"""It is worked out only while somebody looks at it."""
