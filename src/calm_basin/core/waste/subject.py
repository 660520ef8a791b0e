"""The waste under the floor as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.question import Answer, Question, Subject
from calm_basin.core.waste.answer import waste
from calm_basin.core.waste.findings import family, pipe_fall, run
from calm_basin.core.waste.lines import lines
from calm_basin.core.waste.places import drain_map


def _answer(asked: Question) -> Answer:
    return {"waste": None if asked.case is None else waste(asked.case)}


WASTE = Subject(
    "waste",
    answer=_answer,
    checks=(family, pipe_fall, run, lines),
    parts={"drain_map": lambda asked, case: drain_map(case)},
)
"""Where the drain can go is worked out only while somebody looks at it."""
