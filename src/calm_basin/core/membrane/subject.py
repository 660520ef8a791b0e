"""The membrane as a subject of the trade: how far it goes, and every piece of it."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.membrane.answer import membrane, school_options
from calm_basin.core.membrane.findings import school_and_floor

MEMBRANE = Subject(
    "membrane",
    fields={"membrane_schools": lambda _: school_options()},
    checks=(school_and_floor,),
    parts={"membrane": lambda asked, case: membrane(case)},
)
"""It is counted only while somebody looks at it."""
