"""The membrane as a subject of the trade: how far it goes, and every piece of it."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.membrane.answer import membrane

MEMBRANE = Subject("membrane", parts={"membrane": lambda asked, case: membrane(case)})
"""It is counted only while somebody looks at it."""
