"""Build systems as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.systems.cards import cards
from calm_basin.core.systems.findings import (
    low_room,
    other_floor,
    over_room,
    renewed,
    trims,
    wide_centres,
)

SYSTEMS = Subject(
    "systems",
    fields={"system": lambda asked: cards(asked.plan, asked.words)},
    checks=(other_floor, renewed, wide_centres, trims, over_room, low_room),
)
