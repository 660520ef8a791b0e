"""Changes that bring a drain out of the way of what is in the floor."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from math import ceil

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.cures import raised_by, raised_layers
from calm_basin.core.falls.drains import all_places, movable, move_to
from calm_basin.core.falls.limits import fitting
from calm_basin.core.geometry.levels import drain_stands_on, levels
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import DrainKind, carrier_of, drain_kind, former_of
from calm_basin.core.structure.footing import (
    fitting_family,
    in_the_way,
    standing,
)
from calm_basin.core.structure.joists import Bays, timbers_of
from calm_basin.core.structure.meeting import Met, reach
from calm_basin.plan import Plan, PlanError
from calm_basin.plan.edits.carrying import moved, of_shower
from calm_basin.plan.floor import OtherJoist
from calm_basin.plan.shower import LinearDrain
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules import drain_families
from calm_basin.tolerances import ON_EDGE


def cures(case: Case, drain: DrainKind, number: int, several: list[Met]) -> Iterator[Cure | None]:
    """Changes that may get a drain out of the way, the least trouble first."""
    plan = case.plan
    path = "/shower/second_drain" if number else "/shower/drain"
    if drain.channel is not None:
        yield turned_end(plan)
        yield from _outlets(case, drain.channel)
    else:
        yield nearest_place(case, number)
    for by in exits(case, drain):
        yield _whole_shower(case, by) if plan.shower.bought else _to(case.words, drain, path, by)
    yield from other_families(plan, lambda one: max(one.hole_width, one.hole_length))
    yield _on_boards(case, several)
    yield from _trimmed(case, drain, several)


def nearest_place(case: Case, number: int = 0) -> Cure | None:
    """The nearest place for a point drain that misses everything and keeps every plane in what is
    allowed."""
    plan, words, drain = case.plan, case.words, movable(case.plan.shower)
    if number or drain is None:
        return None
    places, gradients, drops = all_places(plan.shower, words.display.step)
    good = fitting(case.rules, gradients, case.surface.zone("rest"))
    _, good = free_places(case, places, drops, good)
    if not good.any():
        return None
    apart = np.linalg.norm(places - np.array(drain.centre), axis=1)
    apart[~good] = np.inf
    return move_to(places[int(apart.argmin())], np.array(drain.centre), words)


def levels_by_drop(case: Case, drops: Array) -> tuple[Array, Array]:
    """The levels, mm, of rim and base where the floor drops by so much, each (n,)."""
    stack = levels(case.plan, case.surface)
    rims = stack.drain + case.surface.drop - drops
    at_edge = former_of(case.plan.shower).measured_at == "edge"
    return rims, np.full(len(rims), stack.base) if at_edge else stack.base + rims - stack.drain


def free_places(
    case: Case, places: Array, drops: Array, good: NDArray[np.bool_]
) -> tuple[Array, NDArray[np.bool_]]:
    """Where a base would lie for a point drain at each of many places, (n,), mm, and which of
    those that are ``good`` miss everything in the floor."""
    plan, known = case.plan, ~np.isnan(drops)
    rims, bases = levels_by_drop(case, np.where(known, drops, 0.0))
    good, decks = good & known, drain_stands_on(plan, bases)
    for way in in_the_way(plan, drain_kind(plan.shower.drain)):
        reached = way.reached(rims, decks)
        if reached.any():
            good &= ~reached | (way.depths(places) == 0)
    return bases, good


def exits(case: Case, drain: DrainKind) -> list[Array]:
    """The shortest moves, (2,) each, that bring a drain straight out of the way: square to the
    joists or along them, rounded away to whole steps."""
    plan, outlet = case.plan, drain.outlet
    stands, step = standing(plan, case.surface), case.words.display.step
    rim, deck = np.full(1, stands.rim), np.full(1, stands.deck)
    taken = [w.area for w in in_the_way(plan, drain) if w.reached(rim, deck)[0]]
    if not taken:
        return []
    blocked = shapely.union_all(taken)
    far = 4 * max(np.ptp(np.array(plan.shower.outline), axis=0).max(), 1.0)
    found = []
    for way in _ways(plan, drain):
        left = shapely.get_parts(LineString([outlet, outlet + way * far]).difference(blocked))
        starts = [float((np.array(part.coords[0]) - outlet) @ way) for part in left if part.length]
        if starts:
            away = ceil((min(starts) + ON_EDGE / 2) / step) * step
            found.append((away, way))
    return [way * away for away, way in sorted(found, key=lambda one: one[0])[:2]]


def _ways(plan: Plan, drain: DrainKind) -> list[Array]:
    if drain.channel is not None:
        across = np.array([-drain.along[1], drain.along[0]])
        return [across, -across]
    if (joists := carrier_of(plan).joists) is not None:
        bays = Bays.of(joists)
        return [bays.across, -bays.across, bays.along, -bays.along]
    return [np.array(way) for way in ((1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0))]


def _to(words: Words, drain: DrainKind, path: str, by: Array) -> Cure:
    return Cure(
        text=f"Move the {drain.name} {words.move(float(by[0]), float(by[1]))}",
        changes=tuple(
            Change(path=f"{path}/{field}", value=[round(x, 4), round(y, 4)])
            for field, (x, y) in drain.moved(by).items()
        ),
    )


def _whole_shower(case: Case, by: Array) -> Cure | None:
    """The shower moved with its tray: the riser lies where the tray has it."""
    shower, rounded = case.plan.shower, [round(float(v), 4) for v in by]
    if shower.second_drain is not None or drain_kind(shower.drain).point is None:
        return None

    try:
        there = moved(case.plan, (rounded[0], rounded[1]))
    except PlanError:
        return None
    return Cure(
        text=f"Move the shower with its tray {case.words.move(*rounded)}",
        changes=(
            Change(path="/shower/outline", value=[list(one) for one in there.shower.outline]),
            *(
                Change(path=f"/shower/drain/{field}", value=list(place))
                for field, place in drain_kind(there.shower.drain).places.items()
            ),
            *(
                Change(path=f"/room/fixtures/{i}/centre", value=list(there.room.fixtures[i].centre))
                for i in of_shower(case.plan)
            ),
        ),
    )


def turned_end(plan: Plan) -> Cure | None:
    """The channel turned end for end, which takes an outlet that is off its middle elsewhere."""
    drain, family = drain_kind(plan.shower.drain).channel, fitting_family(plan)
    if drain is None or drain.outlet is None or not (family and family.turns):
        return None
    other = drain.size - drain.outlet
    if abs(other - drain.outlet) < 1:
        return None
    return Cure(
        text="Turn the channel round, so that its outlet lies at the other end",
        changes=(Change(path="/shower/drain/outlet", value=round(other, 4)),),
    )


def _outlets(case: Case, drain: LinearDrain) -> Iterator[Cure | None]:
    """A channel with its outlet elsewhere: the nearest place along it, and its middle."""
    words, length = case.words, drain.size
    now = length / 2 if drain.outlet is None else drain.outlet
    step = words.display.step
    tries = now + step * np.arange(ceil(-now / step), int((length - now) / step) + 1)
    start, end = np.array(drain.start), np.array(drain.end)
    places = start + (end - start) * (tries / length)[:, None]
    # Where the outlet lies the channel stays: only the hole moves.
    stands = standing(case.plan, case.surface)
    rim, deck = np.full(1, stands.rim), np.full(1, stands.deck)
    good = np.ones(len(tries), dtype=bool)
    for way in in_the_way(case.plan, drain_kind(drain)):
        if way.part == "hole" and way.reached(rim, deck)[0]:
            good &= way.depths(places) == 0
    if not good.any():
        return
    nearest = tries[good][np.abs(tries[good] - now).argmin()]
    yield Cure(
        text=f"Take a channel with its outlet {words.length(float(nearest))} from its first end",
        changes=(Change(path="/shower/drain/outlet", value=round(float(nearest), 4)),),
    )


MOST_FAMILIES = 2


def other_families(plan: Plan, least: Callable[[DrainFamily], float]) -> Iterator[Cure]:
    """Other families for the drain that the plan has, those first that take ``least``."""
    now = plan.waste.family
    others = [
        family
        for family in drain_families().values()
        if family.drain == plan.shower.drain.kind and (now is None or family.id != now.id)
    ]
    for family in sorted(others, key=least)[:MOST_FAMILIES]:
        yield Cure(
            text=f"Swap the drain: {family.name.lower()}",
            changes=(Change(path="/waste/family", value=family.model_dump(mode="json")),),
        )


def _on_boards(case: Case, several: list[Met]) -> Cure | None:
    """The room raised on boards until body or channel clears the timber's top."""
    words, deep = case.words, [one for one in several if one.way.solid.below == "rim"]
    if len(deep) < len(several):
        return None
    missing = max(reach(case, one) for one in deep)
    if missing <= 0:
        return None
    whole = raised_by(case.plan, words, missing)
    return Cure(
        text=f"Lay it on boards: raise the room's floor {words.length(whole)}, so that it clears "
        "the timber, if the bathroom door allows it",
        changes=(Change(path="/room/layers", value=raised_layers(case.plan, whole)),),
    )


def _trimmed(case: Case, drain: DrainKind, several: list[Met]) -> Iterator[Cure | None]:
    """The joist in the way cut short of the drain, a trimmer carrying it to its neighbours."""
    plan, joists = case.plan, carrier_of(case.plan).joists
    names = {one.way.what for one in several}
    if joists is None or len(names) != 1:
        return
    timbers = [t for t in timbers_of(plan) if t.kind == "joist"]
    hit = next((t for t in timbers if t.name in names), None)
    if hit is None or hit.index is None:
        return
    family, bays = fitting_family(plan), Bays.of(joists)
    beside = sorted(
        float(bays.to(shapely.get_coordinates(t.outline.centroid))[0, 1])
        for t in timbers
        if t.index is not None and abs(t.index - hit.index) == 1
    )
    if len(beside) < 2:
        return
    reach = max(float(np.abs(shapely.get_coordinates(m.way.solid.outline)).max()) for m in several)
    away = max(reach, family.blocking if family else 0.0) + 1.5 * joists.width
    at = float(bays.to(drain.outlet[None])[0, 0])
    old = [other for other in joists.others if other.number != hit.index]
    was = next((o for o in joists.others if o.number == hit.index), OtherJoist(number=hit.index))
    for end, name in ((at - away, "end"), (at + away, "start")):
        cut = was.model_copy(update={name: round(end, 1), "planned": True})
        ends = bays.back(np.array([(end, beside[0]), (end, beside[1])]))
        trimmer = {
            "kind": "trimmer",
            "start": [round(float(x), 1) for x in ends[0]],
            "end": [round(float(x), 1) for x in ends[1]],
            "width": joists.width,
        }
        members = [member.model_dump(mode="json") for member in joists.members]
        yield Cure(
            text=f"Have an engineer cut {hit.name} short and carry it by a trimmer "
            f"{'on one side' if name == 'end' else 'on the other side'} of the drain",
            changes=(
                Change(
                    path="/floor/others",
                    value=[other.model_dump(mode="json") for other in [*old, cut]],
                ),
                Change(path="/floor/members", value=[*members, trimmer]),
                # Whoever signed did so for another plan.
                Change(path="/floor/signed", value=None),
            ),
        )
