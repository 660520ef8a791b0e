"""What makes the floor true, in words."""

from __future__ import annotations

from calm_basin.amounts import GALLON_LITRES
from calm_basin.core.answer.result import Change, Cure, Input
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import ring_of
from calm_basin.core.geometry.levels import pour_of
from calm_basin.core.kinds import carrier_of
from calm_basin.core.structure.joists import numbered_joists
from calm_basin.core.survey.floor import SubFloor
from calm_basin.core.survey.ground import base_of, pour_zone, poured, range_under
from calm_basin.core.survey.pour import cleat_marks
from calm_basin.core.survey.result import (
    CleatMark,
    JoistMarks,
    Truing,
)
from calm_basin.plan import Plan
from calm_basin.plan.survey import FrameLevel, PackLevel, Pour, PourArea
from calm_basin.tolerances import ROUNDED

MOST_UNREAD = 0.6
"""Where a larger share of a pour lies beyond all readings it is not worked out."""

CUBIC_FOOT_LITRES = 28.316846592


def truing_cures(plan: Plan, words: Words, ground: SubFloor) -> list[Cure]:
    """The ways to make the floor true, as changes of the plan."""
    cleats = cleats_of(plan, words, ground)
    ways = truings(plan, words, cleats, ground, range_under(ground, plan.shower.outline))
    return [Cure(text=way.title, changes=way.changes) for way in ways]


def pour_over_room(plan: Plan) -> Cure:
    """A pour over the room's floor, and in the shower too where one is poured there already."""
    there = pour_of(plan)
    settings = there or Pour()
    area: PourArea = "room" if there is None else "both"
    poured_too = settings.model_copy(update={"area": area})
    return Cure(
        text="Pour self-levelling compound over the room",
        changes=(Change(path="/survey/correction", value=poured_too.model_dump(mode="json")),),
    )


def cleats_of(plan: Plan, words: Words, ground: SubFloor) -> tuple[JoistMarks, ...]:
    """Where the cleats are set on each joist under the shower."""
    joists = carrier_of(plan).joists
    if joists is None:
        return ()
    shower = ring_of(plan.shower).polygon
    return tuple(
        JoistMarks(
            joist=number,
            marks=tuple(
                CleatMark(x=x, y=y, mark=mark, text=words.bare(mark)) for x, y, mark in along
            ),
        )
        for number, along in cleat_marks(
            ground, numbered_joists(plan), shower, joists.deck_thickness
        )
    )


def cleats_fit(cleats: tuple[JoistMarks, ...]) -> bool:
    """Whether a deck that is framed level lies below the tops of all joists under the shower."""
    marks = [mark.mark for joist in cleats for mark in joist.marks]
    return bool(marks) and min(marks) >= 0


def truings(
    plan: Plan,
    words: Words,
    cleats: tuple[JoistMarks, ...],
    ground: SubFloor,
    under: float,
) -> tuple[Truing, ...]:
    """The ways that can make this floor true, each with its figures."""
    correction = plan.survey.correction
    ways = [_pour(plan, words, ground)]
    if carrier_of(plan).refitted:
        marks = [mark.mark for joist in cleats for mark in joist.marks]
        if cleats_fit(cleats):
            ways.append(
                Truing(
                    code="frame",
                    title="Frame the deck pieces level on cleats",
                    figures=(
                        Input(
                            name="cleats below the joist tops, least", text=words.length(min(marks))
                        ),
                        Input(name="most", text=words.length(max(marks))),
                        Input(name="marks", text=str(len(marks))),
                    ),
                    advice=(
                        "Set the cleats to a level line, not to the joist tops.",
                        "Only the shower is made level: the room's tile follows its own floor.",
                    ),
                    chosen=isinstance(correction, FrameLevel),
                    changes=(Change(path="/survey/correction", value={"kind": "frame"}),),
                )
            )
    base = base_of(plan)
    if base.packs > 0 and under <= base.packs + ROUNDED:
        shims = base.packed_with == "shims"
        ways.append(
            Truing(
                code="pack",
                title=f"Shim under the {base.name.lower()}"
                if shims
                else "Pack with adhesive under tray or pan",
                figures=(
                    Input(
                        name="highest shim" if shims else "most packing",
                        text=words.length(under, "up"),
                    ),
                ),
                advice=(
                    f"Not beyond {words.limit(base.packs)}: "
                    f"{'more takes a pour' if shims else 'adhesive shrinks'} ({base.source}).",
                ),
                chosen=isinstance(correction, PackLevel),
                changes=(Change(path="/survey/correction", value={"kind": "pack"}),),
            )
        )
    return tuple(ways)


def _pour(plan: Plan, words: Words, ground: SubFloor) -> Truing:
    chosen = pour_of(plan)
    settings = chosen or Pour()
    zone, whole = pour_zone(plan, settings)
    where = "over the room" if whole else "up to the shower's recess"
    if settings.area == "shower":
        where = "in the shower, under what makes the falls"
    result = poured(ground, zone, settings)
    wood = carrier_of(plan).timber
    imperial = words.display.imperial
    volume = f"{result.litres:.1f} L"
    if imperial:
        volume = f"{result.litres / CUBIC_FOOT_LITRES:.2f} cu ft ({volume})"
    quart = GALLON_LITRES / 4
    low, high = result.water_litres
    water = (
        f"{low / quart:.0f} to {high / quart:.0f} qt" if imperial else f"{low:.1f} to {high:.1f} L"
    )
    figures = [
        Input(name="bags", text=str(result.bags)),
        Input(name="volume", text=volume),
        Input(name="mean depth, over the area", text=words.length(result.mean_depth)),
        Input(name="deepest", text=words.length(result.deepest_depth)),
        Input(name="by the mean of the readings", text=f"{result.bags_from_mean_of_readings} bags"),
        Input(name="water in all", text=water),
        Input(name="batches", text=f"{result.batches} in {result.minutes:.0f} min"),
        Input(name="people mixing", text=str(result.mixers)),
    ]
    if wood:
        figures += [
            Input(name="lath, sheets of 2.5 × 8 ft", text=str(result.lath_sheets)),
            Input(name="staples", text=str(result.staples)),
        ]
    doors = len(plan.room.doors)
    at_doors = f"at {doors} {'door' if doors == 1 else 'doors'}"
    dams = f"{'at the drain hole' if whole else 'round the recess'} and {at_doors}"
    if settings.area == "shower":
        dams = "at the drain hole and along the entry"
    x, y = (words.length(v) for v in (result.deepest.x, result.deepest.y))
    advice = [
        f"Pour from the deepest place, {x} right and {y} up.",
        f"Have all {result.bags} bags and their water measured before the first is mixed.",
        f"Dams {dams}; seams and edges sealed, primer down. Keep a bag in hand for what runs away.",
    ]
    if result.unread > MOST_UNREAD:
        # What was not read is not poured upon: the figures would be a guess.
        share = f"{result.unread:.0%}"
        right, up = (words.length(v) for v in result.read_next)
        figures = [
            Input(name="not read", text=f"{share} of where it goes"),
            Input(name="bags", text="read more first"),
        ]
        advice = [
            f"{share} of the area is outside your readings. Read at {right} right and {up} up, in "
            "the corners and between; bags and the place to start follow.",
        ]
    return Truing(
        code="pour",
        title=f"Pour self-levelling compound {where}",
        figures=tuple(figures),
        advice=tuple(advice),
        chosen=chosen is not None,
        changes=(Change(path="/survey/correction", value=settings.model_dump(mode="json")),),
    )
