"""The subjects of the trade in its order, and all that a solved floor is held against."""

from __future__ import annotations

from calm_basin.core.access.subject import ACCESS
from calm_basin.core.answer.case import Check
from calm_basin.core.answer.question import Subject
from calm_basin.core.days.subject import DAYS
from calm_basin.core.depth.subject import DEPTH
from calm_basin.core.falls.subject import FALLS
from calm_basin.core.heating.subject import HEATING
from calm_basin.core.membrane.subject import MEMBRANE
from calm_basin.core.order.subject import ORDER
from calm_basin.core.room.subject import ROOM
from calm_basin.core.section.subject import SECTION
from calm_basin.core.setting_out.subject import SETTING_OUT
from calm_basin.core.structure.subject import STRUCTURE
from calm_basin.core.survey.subject import SURVEY
from calm_basin.core.systems.subject import SYSTEMS
from calm_basin.core.tile.subject import TILE
from calm_basin.core.walls.subject import WALLS
from calm_basin.core.waste.subject import WASTE
from calm_basin.core.water.subject import WATER

SUBJECTS: tuple[Subject, ...] = (
    SURVEY,
    FALLS,
    SYSTEMS,
    DEPTH,
    STRUCTURE,
    WASTE,
    ACCESS,
    WATER,
    WALLS,
    MEMBRANE,
    HEATING,
    TILE,
    ORDER,
    DAYS,
    SETTING_OUT,
    SECTION,
    ROOM,
)

CHECKS: tuple[Check, ...] = tuple(check for subject in SUBJECTS for check in subject.checks)
