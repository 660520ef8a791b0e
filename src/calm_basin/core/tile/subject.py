"""The tile as a subject of the trade: how it lies, and how much of it."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.tile.answer import tile_result

TILE = Subject("tile", parts={"tile": lambda asked, case: tile_result(case)})
"""It is laid out only while somebody looks at it."""
