"""The survey as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.survey.answer import surveyed
from calm_basin.core.survey.findings import check, survey_findings

SURVEY = Subject(
    "survey",
    fields={"survey": lambda asked: surveyed(asked.plan, asked.words)},
    checks=(check,),
    doubts=survey_findings,
)
