"""The plan a new job starts from: an ordinary bathroom that is easier to change than a blank, with
what somebody says of it already in its place."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from calm_basin.plan.assumed import with_assumed
from calm_basin.plan.base import Outline
from calm_basin.plan.common import POINT_RIM, CommonSizes
from calm_basin.plan.document import Plan
from calm_basin.plan.job import DisplayChoice, Job
from calm_basin.plan.reading import PlanError, Problem
from calm_basin.plan.room import Room
from calm_basin.plan.shower import Fall, LinearDrain, PointDrain, Shower
from calm_basin.plan.users import User
from calm_basin.plan.waste import DrainFamily, Waste
from calm_basin.plan.water import Water
from calm_basin.units import Display, LengthUnit, format_length

Where = Literal["back left", "back right", "back"]
"""In which corner the shower is, seen from the door, or that it is as wide as the room."""

Ground = Literal["joists", "slab"]

DrainKind = Literal["linear", "point"]

LEAST_ROOM, LEAST_SHOWER, IN_FRONT = (900, 36), (600, 24), (300, 12)
"""A room, a shower and what is left of the room in front of it are no smaller, mm or inches."""


@dataclass(frozen=True)
class Said:
    """What is said of a new job. Sizes are mm, None where nobody measured yet: the room from left
    to right and from front to back, and the shower likewise."""

    wide: float | None = None
    deep: float | None = None
    ground: Ground | None = None
    where: Where = "back left"
    across: float | None = None
    out: float | None = None
    drain: DrainKind = "linear"
    users: tuple[User, ...] = ()
    accessible: bool = False


def starting_plan(
    name: str,
    length: LengthUnit,
    rule_set: str,
    family: DrainFamily,
    least: float = 0.0,
    said: Said = Said(),
) -> Plan:
    """A room of 8 × 6 ft (2400 × 1800 mm) with a channel of a ``family`` along the back of the
    shower, and a waste pipe that falls at ``least`` so much, rise over run; or as it is ``said``.

    Every size that was not said is a common one and marked as assumed; the falls asked for are
    chosen.

    Raises
    ------
    PlanError
        What is said does not go together; the pointers are those of `Said`'s fields.
    """
    common = CommonSizes(length)
    size = common.size
    wide = size(2400, 96) if said.wide is None else said.wide
    deep = size(1800, 72) if said.deep is None else said.deep
    across = min(size(1200, 48), wide) if said.across is None else said.across
    if said.where == "back":
        across = wide
    out = min(size(900, 36), common.whole(deep / 2)) if said.out is None else said.out
    if problems := list(_too_small(wide, deep, across, out, common)):
        raise PlanError(problems)
    left = wide - across if said.where == "back right" else 0.0
    right, front = left + across, deep - out
    outline: Outline = ((left, front), (right, front), (right, deep), (left, deep))
    door = common.door(0, 0.0)
    spare = max(wide - door.width - size(100, 4), 0.0)
    door = door.model_copy(update={"offset": common.whole(min(size(1500, 60), spare))})
    channel, rim = size(70, 2.75), size(*POINT_RIM)
    plan = Plan(
        job=Job(name=name),
        display=DisplayChoice(length=length, fall="ratio"),
        rule_set=rule_set,
        users=said.users,
        accessible=said.accessible,
        room=Room(
            outline=((0, 0), (wide, 0), (wide, deep), (0, deep)),
            doors=(door,),
            layers=common.room_layers,
        ),
        floor=common.slab if said.ground == "slab" else common.joists,
        shower=Shower(
            outline=outline,
            entries=(0,),
            layers=common.shower_layers,
            former=common.former("bed"),
            drain=LinearDrain(
                start=(left, deep - channel / 2), end=(right, deep - channel / 2), width=channel
            )
            if said.drain == "linear"
            else PointDrain(centre=(left + across / 2, front + out / 2), width=rim, length=rim),
            fall=Fall(asked=1 / 48),
        ),
        waste=Waste(family=family),
        water=Water(pipe_fall=max(least, Water().pipe_fall)),
    )
    assumed = with_assumed(plan, "/room", "/floor", "/shower", "/waste").assumed
    known = {"/shower/fall/asked", *_known(said)}
    return plan.model_copy(update={"assumed": tuple(path for path in assumed if path not in known)})


def _known(said: Said) -> Iterator[str]:
    """Pointers of what was said, which is not assumed."""
    for of, sizes in (("room", (said.wide, said.deep)), ("shower", (said.across, said.out))):
        for axis, given in enumerate(sizes):
            if given is not None or (of == "shower" and axis == 0 and said.where == "back"):
                yield from (f"/{of}/outline/{corner}/{axis}" for corner in range(4))
    if said.ground is not None:
        yield "/floor/kind"


def _too_small(
    wide: float, deep: float, across: float, out: float, common: CommonSizes
) -> Iterator[Problem]:
    def told(value: float) -> str:
        return format_length(value, Display(common.unit))

    room, shower, front = (common.size(*least) for least in (LEAST_ROOM, LEAST_SHOWER, IN_FRONT))
    small = [field for field, value in (("/wide", wide), ("/deep", deep)) if value < room]
    if small:
        yield from (
            Problem(field, f"A room is at least {told(room)}. Check the unit.") for field in small
        )
        return
    for field, value in (("/across", across), ("/out", out)):
        if value < shower:
            yield Problem(field, f"A shower is at least {told(shower)}. Check the unit.")
    if across > wide:
        yield Problem("/across", f"The room is {told(wide)} wide. Make the shower no wider.")
    if out > deep - front:
        most = told(deep - front)
        yield Problem("/out", f"Leave {told(front)} in front of it: no more than {most}.")
