"""Setting out as a subject of the trade: screed pins and the check card."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.setting_out.pins import pins

SETTING_OUT = Subject(
    "setting out",
    parts={"pins": lambda asked, case: pins(case.plan, case.words, case.surface)},
)
