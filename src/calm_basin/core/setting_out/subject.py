"""Setting out as a subject of the trade: what is marked, in the order of work."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.setting_out.marks import marks

SETTING_OUT = Subject("setting out", parts={"marks": lambda asked, case: marks(case)})
"""It is worked out only while somebody looks at it."""
