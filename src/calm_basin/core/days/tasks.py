"""The tasks of a job, from its plan: which there are, how long they take, what waits for what."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, NamedTuple

from shapely.geometry import Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.days.schedule import Task
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.geometry.levels import levels, pour_of
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.membrane.on_walls import school_of
from calm_basin.core.tile.walls import faces
from calm_basin.plan import Plan
from calm_basin.plan.blocks import without_blocks
from calm_basin.plan.days import OwnTask
from calm_basin.plan.layers import has
from calm_basin.rules import TRADE
from calm_basin.rules.trade.tasks import Usual
from calm_basin.tolerances import UNSEEN

HOUR = 60
"""Minutes."""

BASES = ("set_tray", "set_panels")
"""What is set as the shower's base."""

STEP = 15
"""Hands are planned in quarters of an hour, minutes."""

Pace = Literal["quick", "usual", "slow"]
"""How fast the crew works."""


class Placed(NamedTuple):
    """A task of the job: what it usually is, the area that it is of, m², what is done and waited
    for before it, and what is only done."""

    usual: Usual
    area: float
    after: tuple[str, ...]
    behind: tuple[str, ...] = ()


def placed(case: Case) -> list[Placed]:
    """The tasks of a plan in the order of the work."""
    chain, schools = _Chain(), case.plan.days
    _floor(case, chain)
    _former(case, chain)
    if schools.walls == "walls first":
        # They need the floor only once they are to stand on it.
        chain.beside("walls")
    else:
        chain.then("walls")
    if schools.plumbing == "last":
        _plumbing(chain)
    cable = case.plan.heating
    if cable is not None and cable.lies == "under the membrane":
        chain.then("cable", also=BASES)
    school = school_of(case.plan)
    if school.field == "liquid":
        chain.then("first_coat", also=("walls", *BASES))
        chain.then("second_coat")
    elif school.beads:
        chain.then("board_beads", also=("walls", *BASES))
    elif not _between_lifts(case):
        chain.then("membrane_sheet", also=("walls", *BASES))
    chain.then("flood")
    chain.then("flood_read")
    if cable is not None and cable.lies == "over the membrane":
        chain.then("cable")
    _finish(case, chain)
    return _with_own(chain.placed, case.plan)


def _between_lifts(case: Case) -> bool:
    """Whether the membrane is laid on the lower lift, before the upper one is cast."""
    lower = former_of(case.plan.shower).lower
    return lower is not None and case.plan.days.membrane == "lifts"


def _with_own(found: list[Placed], plan: Plan) -> list[Placed]:
    """The tasks with those of one's own among them, linked to those that there are."""
    own = plan.days.own
    there = {one.usual.id for one in found} | {one.id for one in own}
    added = [
        Placed(_usual(one), 0.0, tuple(before for before in one.after if before in there))
        for one in own
    ]
    behind: dict[str, list[str]] = {}
    for one in own:
        for other in one.before:
            behind.setdefault(other, []).append(one.id)
    return [
        one._replace(after=tuple(dict.fromkeys((*one.after, *behind.get(one.usual.id, ())))))
        for one in (*found, *added)
    ]


def _usual(own: OwnTask) -> Usual:
    """A task of one's own in the form of those of the trade."""
    return Usual(
        id=own.id,
        name=own.name,
        hands=(own.hours, own.hours),
        who=own.who,
        wait=own.wait,
        hold=own.hold,
        document="Typed for this job",
        from_memory=False,
        note="",
    )


def tasks(found: list[Placed], pace: Pace, times: float, earliest: Mapping[str, int]) -> list[Task]:
    """The tasks with their minutes at a pace, cures ``times`` as long as usual, none before its
    ``earliest`` minute."""
    return [
        Task(
            id=one.usual.id,
            minutes=hands(one, pace),
            wait=round(one.usual.wait * HOUR * times),
            after=one.after,
            who=one.usual.who,
            whole=one.usual.whole,
            earliest=earliest.get(one.usual.id, 0),
            behind=one.behind,
        )
        for one in found
    ]


def hands(one: Placed, pace: Pace) -> int:
    """The minutes of hands at a pace, in quarters of an hour."""
    least, most = one.usual.hands
    if one.usual.rate is not None:
        quick, slow = one.usual.rate
        least, most = max(one.area / quick, least), max(one.area / slow, most)
    hours = {"quick": least, "usual": (least + most) / 2, "slow": most}[pace]
    return max(round(hours * HOUR / STEP), 1) * STEP


def cure_times(plan: Plan) -> float:
    """How many times as long cures take: as typed, else by how cold the room is."""
    days = plan.days
    if days.slower is not None:
        return days.slower
    colder = max(TRADE.tasks.usual_warmth.value - days.temperature, 0.0)
    return float(TRADE.tasks.slower_per_10_degrees.value ** (colder / 10))


class _Chain:
    """Tasks one after the other, with what may be done beside them."""

    def __init__(self) -> None:
        self.placed: list[Placed] = []
        self.last: tuple[str, ...] = ()

    def then(
        self,
        name: str,
        area: float = 0.0,
        also: tuple[str, ...] = (),
        behind: tuple[str, ...] = (),
    ) -> None:
        """A task after the last one, and after those of ``also`` that there are; ``behind`` others
        whose waits it does not wait for."""
        there = {one.usual.id for one in self.placed}
        after = dict.fromkeys((*self.last, *(other for other in also if other in there)))
        self.placed.append(Placed(TRADE.tasks.tasks[name], area, tuple(after), behind))
        self.last = (name,)

    def beside(self, name: str) -> None:
        """A task that waits for none, and that the next ones do not wait for."""
        self.placed.append(Placed(TRADE.tasks.tasks[name], 0.0, ()))


def _floor(case: Case, chain: _Chain) -> None:
    """The floor opened or cut, the pipe, and the floor made level."""
    plan = case.plan
    recessed = levels(plan, case.surface).base < -UNSEEN
    carrier = carrier_of(plan)
    if recessed or carrier.opened_for_pipe:
        chain.then(carrier.opening)
    if plan.days.plumbing == "first":
        _plumbing(chain)
    if recessed and carrier.refitted:
        chain.then("frame")
    if pour_of(plan) is not None:
        chain.then("level_pour")
    chain.then("level_check")


def _plumbing(chain: _Chain) -> None:
    chain.then("plumb")
    chain.then("leak_test")


def _former(case: Case, chain: _Chain) -> None:
    """What makes the falls."""
    former = former_of(case.plan.shower)
    if former.cast:
        if former.lower is not None:
            chain.then("lower_lift")
        if _between_lifts(case):
            chain.then("membrane_sheet")
        chain.then(former.task)
        if case.plan.shower.rest is not None:
            chain.then("rest_bed")
    else:
        chain.then("dry_fit")
        chain.then(former.task)
        if case.plan.days.tray == "walls at once":
            # Boards that stand on its edges keep it down: they do not wait until it is stepped on.
            chain.last = ()
            chain.then("falls_check", behind=(former.task,))
            return
    chain.then("falls_check")


def _walls_tiled(plan: Plan) -> float:
    """How much of the shower's walls is tiled, m²; 0 where no tile is chosen for them."""
    tile = plan.tiling.wall
    if tile is None:
        return 0.0
    return sum(float(face.tiled.area) for face in faces(plan, tile.joint)) / 1e6


def _finish(case: Case, chain: _Chain) -> None:
    """Tile, grout, grate and the last test."""
    plan = case.plan
    shower = ring_of(plan.shower).polygon
    walls = _walls_tiled(plan)
    if walls and plan.days.tile == "walls first":
        chain.then("tile_walls", walls)
    laid, before = plan.room.laid is not None, chain.last
    if not laid and has(plan.room.layers, "tile"):
        rest = without_blocks(plan, Polygon(plan.room.outline)).difference(shower).area / 1e6
        if rest > 0.01:
            chain.then("tile_room", rest)
    if has(plan.shower.layers, "tile"):
        # The outside floor comes first; the shower's tile is built to meet it, without waiting.
        if chain.last == ("tile_room",):
            chain.last = before
            chain.then("tile_shower", shower.area / 1e6, behind=("tile_room",))
            chain.last = ("tile_room", "tile_shower")
        else:
            chain.then("tile_shower", shower.area / 1e6)
    if walls and plan.days.tile == "walls first":
        chain.then("last_row")
    elif walls:
        chain.then("cover_floor")
        chain.then("tile_walls", walls)
    if walls or has(plan.shower.layers, "tile"):
        chain.then("grout")
    chain.then("grate")
    chain.then("final_test")
