"""The room itself as a subject: its drawing, its fields, and what to mind in it."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.room.assumed import assumed
from calm_basin.core.room.cautions import cautions
from calm_basin.core.room.drawing import drawing
from calm_basin.core.room.fields import plan_texts
from calm_basin.core.room.own_values import own_values
from calm_basin.core.room.places import plan_places

ROOM = Subject(
    "room",
    fields={
        "assumed": lambda asked: assumed(asked.plan, asked.words),
        "own_values": lambda asked: own_values(asked.plan, asked.rules, asked.words),
        "drawing": lambda asked: drawing(asked.plan, asked.words),
        "plan_texts": lambda asked: plan_texts(asked.plan, asked.words),
        "plan_places": lambda asked: plan_places(asked.plan, asked.words),
    },
    cautions=lambda asked: cautions(asked.plan, asked.rules),
)
