"""The plan a new job starts from: an ordinary bathroom that is easier to change than a blank."""

from __future__ import annotations

from calm_basin.plan.assumed import with_assumed
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.document import Plan
from calm_basin.plan.job import DisplayChoice, Job
from calm_basin.plan.room import Room
from calm_basin.plan.shower import Fall, LinearDrain, Shower
from calm_basin.plan.waste import DrainFamily, Waste
from calm_basin.plan.water import Water
from calm_basin.units import LengthUnit


def starting_plan(
    name: str, length: LengthUnit, rule_set: str, family: DrainFamily, least: float = 0.0
) -> Plan:
    """A room of 8 × 6 ft (2400 × 1800 mm) with a channel of a ``family`` along the back of the
    shower, and a waste pipe that falls at ``least`` so much, rise over run.

    Every size is a common one and marked as assumed; the falls asked for are chosen.
    """
    common = CommonSizes(length)
    size = common.size
    wide, deep = size(2400, 96), size(1800, 72)
    across, back = size(1200, 48), size(900, 36)
    channel = size(70, 2.75)
    plan = Plan(
        job=Job(name=name),
        display=DisplayChoice(length=length, fall="ratio"),
        rule_set=rule_set,
        room=Room(
            outline=((0, 0), (wide, 0), (wide, deep), (0, deep)),
            doors=(common.door(0, size(1500, 60)),),
            layers=common.room_layers,
        ),
        floor=common.joists,
        shower=Shower(
            outline=((0, deep - back), (across, deep - back), (across, deep), (0, deep)),
            entries=(0,),
            layers=common.shower_layers,
            former=common.former("bed"),
            drain=LinearDrain(
                start=(0, deep - channel / 2), end=(across, deep - channel / 2), width=channel
            ),
            fall=Fall(asked=1 / 48),
        ),
        waste=Waste(family=family),
        water=Water(pipe_fall=max(least, Water().pipe_fall)),
    )
    assumed = with_assumed(plan, "/room", "/floor", "/shower", "/waste").assumed
    return plan.model_copy(
        update={"assumed": tuple(path for path in assumed if path != "/shower/fall/asked")}
    )
