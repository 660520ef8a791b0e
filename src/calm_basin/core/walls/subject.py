"""The walls as a subject of the trade: where studs and finished faces are, framing and boards."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.walls.answer import walls_result
from calm_basin.core.walls.findings import (
    crossing_studs,
    niches,
    off_studs,
    valve_depth,
    valve_on_stud,
    wide_centres,
)

WALLS = Subject(
    "walls",
    checks=(off_studs, crossing_studs, wide_centres, niches, valve_depth, valve_on_stud),
    parts={"walls": lambda asked, case: walls_result(case)},
)
"""Its walls are drawn only while somebody looks at them."""
