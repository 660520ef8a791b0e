"""Floor that is to be free and is not: at fixtures, doors and the shower; its size; the way."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain

from calm_basin.core.access.day import whose
from calm_basin.core.access.ground import Ground, Spot
from calm_basin.core.access.moves import SIDES, for_spot
from calm_basin.core.access.once import ground_for, spots_for
from calm_basin.core.access.turns import beyond_swing
from calm_basin.core.access.way_in import goal_of
from calm_basin.core.answer.build import asked_of, broken, off_limit, severity_of, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.cures import Asked, ask_for
from calm_basin.core.falls.drains import channel_along
from calm_basin.plan.edits.corners import box_of, stretch
from calm_basin.plan.reading import PlanError
from calm_basin.rules import Space
from calm_basin.tolerances import ON_EDGE

SAID = {
    "before_wc": "before the {}",
    "around_wc": "round the {}",
    "before_basin": "before the {}",
    "before_shower": "before the shower's entry",
    "door_pull": "before door {}",
    "door_push": "before door {}",
}
"""Where a space is."""


def where(case: Case, spot: Spot) -> str:
    """Where a space is, in words."""
    if spot.door is not None:
        beside = "beside the latch of" if spot.across else "before"
        return f"{beside} door {spot.door + 1}"
    name = "" if spot.fixture is None else case.plan.room.called(spot.fixture)
    return SAID[spot.space.topic].format(name)


def _at(spot: Spot) -> str:
    """The thing of the plan that a space is at."""
    if spot.door is not None:
        return f"/room/doors/{spot.door}"
    return "/shower" if spot.fixture is None else f"/room/fixtures/{spot.fixture}"


def size_of(case: Case, space: Space) -> str:
    """A space's size in words."""
    words = case.words
    text = f"{words.limit(space.across)} × {words.limit(space.deep)}"
    return f"{text}, entered over {words.limit(float(space.entry[:-2]))}" if space.entry else text


def clear_floors(case: Case) -> list[Found]:
    """Spaces that are not free, lie too steep, or are swung over by a door."""
    if not case.plan.users:
        return []
    ground = ground_for(case)
    found: list[Found] = []
    swept = []
    for spot in spots_for(case):
        if spot.space.topic == "shower_size":
            found += _shower(case, spot)
        elif not spot.fits:
            found.append(_not_free(case, spot))
        elif not spot.gentle:
            found.append(_too_steep(case, ground, spot))
        if spot.swept:
            swept.append(spot)
    if swept and case.rules.spaces_on("beyond_swing") and not beyond_swing(ground):
        found += [_swung_over(case, spot) for spot in swept]
    return found


def _shower(case: Case, spot: Spot) -> list[Found]:
    if spot.fits:
        return []
    words, space = case.words, spot.space
    need = space.across if spot.across else space.deep
    side = "wide" if spot.across else "deep"
    others = [
        f"{one.applies_to} of {size_of(case, one)}"
        for one in case.rules.spaces_on("shower_size")
        if one.users == space.users and one.weight == space.weight and one != space
    ]
    does = f" {' or '.join(others)} would do as well." if others else ""
    does = does[:1] + does[1:2].upper() + does[2:]
    finding = broken(
        words,
        code="shower_too_small",
        severity=severity_of(space),
        title=f"Shower {words.length(need - spot.free, 'up')} too "
        f"{'narrow' if spot.across else 'shallow'} for {space.applies_to}",
        detail=f"{size_of(case, space)} is {asked_of(space)}; the shower is "
        f"{words.length(spot.free, 'down')} {side}{_and_other(words, spot)} where it counts.{does} "
        f"{space.note}".strip(),
        value=spot.free,
        limit=need,
        binds="at_least",
        applies_to=space.applies_to,
        source=space.source,
        field="/users",
        about="/shower",
    )
    return [Found(finding, lambda: _larger(case, spot), each=True)]


def _and_other(words: Words, spot: Spot) -> str:
    if spot.other is None:
        return ""
    return f" and {words.length(spot.other, 'down')} {'deep' if spot.across else 'wide'}"


def _larger(case: Case, spot: Spot) -> Iterator[Cure | None]:
    """The shower made as wide or as deep as is required, or both, where it is a rectangle."""
    box = box_of(case.plan.shower.outline)
    if box is None:
        return
    if spot.other is not None:
        space, limit = spot.space, case.words.limit
        for wide, deep in ((space.across, space.deep), (space.deep, space.across)):
            yield _stretched(
                case, ((0, wide), (1, deep)), f"Make the shower {limit(wide)} × {limit(deep)}"
            )
        return
    sides = [high - low for low, high in zip(*box, strict=True)]
    for axis, name in ((0, "wide"), (1, "deep")):
        for need in sorted({spot.space.across, spot.space.deep}):
            if sides[axis] >= need:
                continue
            text = f"Make the shower {case.words.limit(need)} {name}"
            yield _stretched(case, ((axis, need),), text)


def _shallower(case: Case, spot: Spot) -> Iterator[Cure | None]:
    """A shower whose entry steps back, where it is a rectangle: what is missing before it."""
    box = box_of(case.plan.shower.outline)
    if box is None or spot.space.topic != "before_shower":
        return
    missing = case.words.up(spot.space.deep - spot.free)
    for axis in (0, 1):
        size = box[1][axis] - box[0][axis] - missing
        if size > 0:
            name = ("wide", "deep")[axis]
            text = f"Make the shower {case.words.length(size)} {name}"
            yield _stretched(case, ((axis, size),), text)


def _stretched(case: Case, sizes: tuple[tuple[int, float], ...], text: str) -> Cure | None:
    """The shower with another width (axis 0) or depth or both, its drains going with its walls."""
    other = case.plan
    try:
        for axis, size in sizes:
            other = stretch(other, "shower", 0 if axis == 0 else 1, size)
    except PlanError:
        return None
    document = other.shower.model_dump(mode="json")
    parts = [part for part in ("outline", "drain", "second_drain") if document[part]]
    return Cure(
        text=text, changes=tuple(Change(path=f"/shower/{p}", value=document[p]) for p in parts)
    )


def _not_free(case: Case, spot: Spot) -> Found:
    words, space = case.words, spot.space
    need = space.across if spot.across else space.deep
    finding = broken(
        words,
        code="floor_not_free",
        severity=severity_of(space),
        title=f"Clear floor {where(case, spot)}: {words.length(spot.free, 'down')} "
        f"{'wide' if spot.across else 'deep'}, {words.limit(need)} {asked_of(space)}",
        detail=f"{whose(case.plan, space)} needs {size_of(case, space)} of free floor there. "
        f"{space.note}".strip(),
        value=spot.free,
        limit=need,
        binds="at_least",
        applies_to=f"{space.applies_to}, {where(case, spot)}",
        source=space.source,
        field="/users",
        about=_at(spot),
    )
    return Found(finding, lambda: chain(for_spot(case, spot), _shallower(case, spot)), each=True)


def _too_steep(case: Case, ground: Ground, spot: Spot) -> Found:
    words, most = case.words, ground.most or 0.0
    finding = broken(
        words,
        code="floor_steep_there",
        severity=severity_of(spot.space),
        title=f"Floor too steep {where(case, spot)}: {words.fall_off(spot.fall, most)}, limit "
        f"{words.fall_limit(most)}",
        detail=f"{whose(case.plan, spot.space)} stops there, and a wheelchair rolls on anything "
        "steeper than the limit.",
        value=spot.fall,
        limit=most,
        unit="rise_per_run",
        applies_to=f"{spot.space.applies_to}, {where(case, spot)}",
        source=spot.space.source,
        field="/users",
        about=_at(spot),
    )

    def cures() -> Iterator[Cure | None]:
        yield ask_for(words, most, Asked.of(case.plan), steeper=False)
        yield from (channel_along(case.plan, side, words, most) for side in SIDES)

    return Found(finding, cures, each=True)


def _swung_over(case: Case, spot: Spot) -> Found:
    finding = unmeasured(
        "door_over_clear_floor",
        severity_of(spot.space),
        f"A door swings over the floor {where(case, spot)}",
        f"{whose(case.plan, spot.space)} sits there when it opens, and there is nowhere beyond its "
        "swing to go.",
        applies_to=f"{spot.space.applies_to}, {where(case, spot)}",
        source=next(one.source for one in case.rules.spaces_on("beyond_swing")),
        field="/users",
        about=_at(spot),
    )
    return Found(finding, lambda: for_spot(case, spot), each=True)


def entries(case: Case) -> list[Found]:
    """Entries too narrow to walk in."""
    users = case.plan.users
    if not users:
        return []
    words = case.words
    wide = max(float(line.length) for line in goal_of(case).geoms)
    found = []
    for limit in case.rules.on("entry_width"):
        if limit.asked_by(users) and wide < limit.value - 2 * ON_EDGE:
            finding = off_limit(
                words,
                limit,
                code="entry_too_narrow",
                title=f"Entry too narrow: {words.length(wide, 'down')}, "
                f"limit {words.limit(limit.value)}",
                detail=f"{words.limit(limit.value)} is {asked_of(limit)} for "
                f"{whose(case.plan, limit).lower()}.",
                value=wide,
                field="/users",
                about="/shower/entries",
            )
            found.append(Found(finding))
    return found
