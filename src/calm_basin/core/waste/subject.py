"""The waste under the floor as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.waste.answer import waste
from calm_basin.core.waste.findings import family, pipe_fall, run
from calm_basin.core.waste.lines import lines
from calm_basin.core.waste.places import drain_map

WASTE = Subject(
    "waste",
    fields={"waste": lambda asked: None if asked.case is None else waste(asked.case)},
    checks=(family, pipe_fall, run, lines),
    parts={"drain_map": lambda asked, case: drain_map(case)},
)
"""Where the drain can go is worked out only while somebody looks at it."""
