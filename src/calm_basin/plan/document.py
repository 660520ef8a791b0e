"""The plan document: what was measured and what was decided, nothing derived.

Lengths are millimetres, falls rise over run, angles degrees. x points right and y up on plan;
heights are up positive with 0 at the top of the existing deck or slab. Outlines may run either
way round; edge ``i`` of an outline joins its points ``i`` and ``i + 1``.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from calm_basin.plan.agreement import check_levels, check_parts, check_under
from calm_basin.plan.agreement_walls import check_walls
from calm_basin.plan.base import ContradictionError, Part
from calm_basin.plan.days import Days
from calm_basin.plan.floor import Floor, Service
from calm_basin.plan.heating import Heating
from calm_basin.plan.job import DisplayChoice, Job
from calm_basin.plan.membrane import Membrane
from calm_basin.plan.order import Order
from calm_basin.plan.room import Room
from calm_basin.plan.setting_out import SettingOut
from calm_basin.plan.shower import Shower
from calm_basin.plan.survey import Survey
from calm_basin.plan.system import BuildSystem
from calm_basin.plan.tiling import Tiling
from calm_basin.plan.users import Override, Side, User
from calm_basin.plan.walls import WallBuild
from calm_basin.plan.waste import Waste
from calm_basin.plan.water import Water

FORMAT = "calm-basin-plan"

Version = Literal[14]

VERSION: Version = 14


class Plan(Part):
    """The whole document."""

    format: Literal["calm-basin-plan"] = "calm-basin-plan"
    version: Version = VERSION
    job: Job
    display: DisplayChoice = DisplayChoice()
    rule_set: str = Field(min_length=1, max_length=60)
    room: Room
    floor: Floor
    shower: Shower
    system: BuildSystem | None = Field(
        default=None, description="by which the shower is built; null: none was chosen"
    )
    accessible: bool = Field(
        default=False, description="whether the rules for accessible rooms bind this one"
    )
    overrides: tuple[Override, ...] = Field(
        default=(), max_length=40, description="limits that this job keeps at another value"
    )
    users: tuple[User, ...] = Field(
        default=(), max_length=5, description="who will use the room; empty: nobody said"
    )
    transfer: Side | None = Field(
        default=None, description="the side of the WC from which somebody changes over to it"
    )
    survey: Survey = Survey()
    water: Water = Water()
    waste: Waste = Waste()
    services: tuple[Service, ...] = Field(
        default=(), max_length=30, description="pipes, cables and heating that were found"
    )
    order: Order = Order()
    days: Days = Days()
    setting_out: SettingOut = SettingOut()
    walls: WallBuild = WallBuild()
    membrane: Membrane = Membrane()
    tiling: Tiling = Tiling()
    heating: Heating | None = Field(
        default=None, description="the cable in the floor; null: there is none"
    )

    assumed: tuple[Annotated[str, Field(max_length=200)], ...] = Field(
        default=(),
        max_length=1000,
        description="pointers of measures and choices that nobody has made or confirmed yet",
    )

    @model_validator(mode="after")
    def _parts_agree(self) -> Self:
        try:
            check_parts(self.room, self.floor, self.shower, self.survey)
            check_levels(self.survey.levels)
            check_under(self.room, self.floor, self.waste)
            check_walls(self.room, self.walls)
        except ContradictionError as wrong:
            raise wrong.said(self.display.shown) from None
        return self
