"""What carries the floor as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.question import Answer, Question, Subject
from calm_basin.core.structure.answer import structure
from calm_basin.core.structure.clash import clash
from calm_basin.core.structure.findings import slab, stiff, to_sign


def _answer(asked: Question) -> Answer:
    return {"structure": None if asked.case is None else structure(asked.case)}


STRUCTURE = Subject("structure", answer=_answer, checks=(clash, slab, stiff, to_sign))
