"""Getting in as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.access.answer import access
from calm_basin.core.access.findings import doorways, turning_space
from calm_basin.core.answer.question import Subject

ACCESS = Subject("access", answer=access, checks=(turning_space, doorways))
