"""What carries the floor as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.structure.answer import structure
from calm_basin.core.structure.clash import clash
from calm_basin.core.structure.findings import slab, stiff, to_sign

STRUCTURE = Subject(
    "structure",
    fields={"structure": lambda asked: None if asked.case is None else structure(asked.case)},
    checks=(clash, slab, stiff, to_sign),
)
