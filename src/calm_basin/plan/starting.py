"""The plan a new job starts from: an ordinary bathroom that is easier to change than a blank."""

from __future__ import annotations

from calm_basin.plan.document import Plan
from calm_basin.plan.job import DisplayChoice, Job
from calm_basin.plan.quantities import quantities
from calm_basin.plan.room import Door, JoistFloor, Layer, Room
from calm_basin.plan.shower import Fall, LinearDrain, MortarBed, Shower
from calm_basin.units import MM_PER_INCH, LengthUnit


def starting_plan(name: str, length: LengthUnit, rule_set: str) -> Plan:
    """A room of 8 × 6 ft (2400 × 1800 mm) with a channel along the back of the shower.

    Sizes are round in the unit that is asked for; every value is a common one (common practice, no
    source) is marked as assumed and is there to be replaced by what was measured.
    """
    imperial = length in ("in", "ft")

    def size(mm: float, inches: float) -> float:
        return inches * MM_PER_INCH if imperial else mm

    wide, deep = size(2400, 96), size(1800, 72)
    across, back = size(1200, 48), size(900, 36)
    channel = size(70, 2.75)
    plan = Plan(
        job=Job(name=name),
        display=DisplayChoice(length=length, fall="ratio"),
        rule_set=rule_set,
        room=Room(
            outline=((0, 0), (wide, 0), (wide, deep), (0, deep)),
            doors=(Door(wall=0, offset=size(1500, 60), width=size(760, 30)),),
            layers=(
                Layer(name="tile", thickness=size(10, 0.375)),
                Layer(name="adhesive", thickness=size(4, 0.125)),
                Layer(name="board", thickness=size(10, 0.375)),
            ),
        ),
        floor=JoistFloor(
            deck_thickness=size(18, 0.75),
            direction=90,
            centres=size(400, 16),
            width=size(45, 1.5),
            depth=size(195, 9.25),
            first_offset=-size(200, 8),
        ),
        shower=Shower(
            outline=((0, deep - back), (across, deep - back), (across, deep), (0, deep)),
            entries=(0,),
            layers=(
                Layer(name="tile", thickness=size(8, 0.3125)),
                Layer(name="adhesive", thickness=size(4, 0.125)),
                Layer(name="membrane", thickness=size(1, 0.0625)),
            ),
            former=MortarBed(least_thickness=size(10, 0.375)),
            drain=LinearDrain(
                start=(0, deep - channel / 2), end=(across, deep - channel / 2), width=channel
            ),
            fall=Fall(asked=1 / 48),
        ),
    )
    return plan.model_copy(update={"assumed": tuple(_measures(plan))})


def _measures(plan: Plan) -> list[str]:
    """What somebody has to measure or choose: everything in room, floor and shower with a size.

    The corner at the origin and what lies on its axes is no measure.
    """
    measured = ("/room/", "/floor/", "/shower/")
    return [
        path
        for path, _, value in quantities(plan)
        if path.startswith(measured)
        and not path.startswith("/shower/fall/")
        and not (path.startswith("/room/outline/") and value == 0)
    ]
