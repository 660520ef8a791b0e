"""The water as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.question import Question, Subject
from calm_basin.core.answer.result import Caution
from calm_basin.core.water.findings import capacity
from calm_basin.core.water.result import WaterResult
from calm_basin.core.water.runoff import flood_weight, reserve, water


def _cautions(asked: Question) -> tuple[Caution, ...]:
    if asked.surface is None:
        return ()
    return (
        Caution(code="reserve", text=reserve(asked.plan, asked.words, asked.surface)),
        Caution(code="flood_weight", text=flood_weight(asked.surface, asked.words)),
    )


def _water(case: Case) -> WaterResult:
    table = case.rules.waste_table == "ipc"
    return water(case.plan, case.words, case.surface, table=table)


WATER = Subject(
    "water",
    cautions=_cautions,
    checks=(capacity,),
    parts={"water": lambda asked, case: _water(case)},
)
