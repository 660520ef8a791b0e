"""The chain of heights from the deck to the grate, and of lengths from stud to cover."""

from __future__ import annotations

from shapely.geometry import Point

from calm_basin.core.answer.build import GEOMETRY, broken
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.result import Adjusted, Chain
from calm_basin.core.geometry.levels import cast_on, levels, shower_layers, shower_pour
from calm_basin.core.geometry.lifts import thicker_at_drain
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.core.structure.footing import fitting_family, standing
from calm_basin.plan import Plan
from calm_basin.plan.blocks import standing_faces
from calm_basin.plan.layers import Layer, first, thick
from calm_basin.plan.shower import LinearDrain
from calm_basin.plan.waste import Adjustment, DrainFamily
from calm_basin.rules import TRADE
from calm_basin.tolerances import AT_WALL, UNSEEN


def chains(case: Case) -> tuple[Chain, ...]:
    """The chains of the plan's drain."""
    lengths = _lengths(case)
    return (_heights(case), *([] if lengths is None else [lengths]))


def over_flange(plan: Plan, surface: Surface) -> float:
    """What lies between a drain's flange, on which the membrane lies, and the finished tile, mm: of
    a bed in two lifts the upper one too, as thick as it is at the drain."""
    layers = plan.shower.layers
    over = thick(layers[: first(layers, "membrane")])
    former = former_of(plan.shower)
    if former.lower is not None:
        over += former.thickness + thicker_at_drain(plan, surface)
    return over


def grate_gap(plan: Plan, surface: Surface) -> float:
    """What a grate or cover has to be set over, mm: a channel's lies a little below the tile."""
    proud = TRADE.practice.proud_of_channel.value if drain_kind(plan.shower.drain).proud else 0.0
    return max(over_flange(plan, surface) - proud, 0.0)


def fits(adjusts: tuple[Adjustment, ...], gap: float) -> Adjustment | None:
    """The first part that can be set over a gap, mm."""
    return next((one for one in adjusts if one.least - UNSEEN <= gap <= one.most + UNSEEN), None)


def _heights(case: Case) -> Chain:
    plan, words = case.plan, case.words
    stack, stands = levels(plan, case.surface), standing(plan, case.surface)
    parts = [
        Adjusted(name="deck or slab, where it is lowered", text=words.length(stands.deck), do="")
    ]
    packed = min(stack.base, cast_on(plan, stack) - shower_pour(plan)) - stands.deck
    if packed >= words.display.step / 2:
        parts.append(Adjusted(name="packing", text=words.length(packed), do=""))
    elif packed <= -words.display.step / 2:
        parts.append(Adjusted(name="recess that is missing", text=words.length(packed), do=""))
    poured = shower_pour(plan)
    if poured:
        parts.append(Adjusted(name="pour", text=words.length(poured), do=""))
    under = stack.drain - shower_layers(plan) - cast_on(plan, stack)
    lower = former_of(plan.shower).lower
    if lower is not None:
        thick = (("lower lift", lower.least_thickness), ("membrane between", lower.membrane))
        parts += [Adjusted(name=name, text=words.length(value), do="") for name, value in thick]
        under -= lower.least_thickness + lower.membrane
    name = "what makes the falls, at the drain" if lower is None else "upper lift, at the drain"
    parts.append(Adjusted(name=name, text=words.length(under), do=""))
    parts += [
        Adjusted(name=layer.name, text=words.length(layer.thickness), do="")
        for layer in reversed(plan.shower.layers)
    ]
    parts.append(Adjusted(name="grate or cover", text=words.length(stack.drain), do=""))
    family, gap = fitting_family(plan), grate_gap(plan, case.surface)
    said = [f"Over the flange lie {words.length(over_flange(plan, case.surface))}."]
    if packed <= -words.display.step / 2:
        said.insert(
            0,
            f"These heights do not add up: the recess is {words.length(-packed, 'up')} too "
            "shallow, and the grate would stand that much too high.",
        )
    source = GEOMETRY
    if drain_kind(plan.shower.drain).proud:
        proud = TRADE.practice.proud_of_channel
        said.append(
            f"The tile finishes {words.length(proud.value)} above the channel, never below."
        )
        source = proud.source
    if family is not None and family.adjusts:
        source = family.source
        said += _set(words, family, gap)
    return Chain(
        title="Heights, from the deck to the grate",
        parts=tuple(parts),
        said=tuple(said),
        source=source,
    )


def _set(words: Words, family: DrainFamily, gap: float) -> list[str]:
    one = fits(family.adjusts, gap)
    if one is not None:
        said = {
            "screw": f"Screw the {one.part} to {words.length(gap)}.",
            "saw": f"Saw {words.length(one.most - gap)} off the foot of the {one.part}.",
            "snap": f"Snap the {one.part} to {words.length(gap)}.",
            "turn": f"The {one.part}: set it to {words.length(gap)}.",
        }
        return [said[one.how]]
    most = max(adjust.most for adjust in family.adjusts)
    if gap > most:
        return [f"An extension of {words.length(gap - most, 'up')} is needed under the grate."]
    least = min(adjust.least for adjust in family.adjusts)
    return [f"The grate would stand {words.length(least - gap, 'up')} proud of the tile."]


def grate(case: Case) -> list[Found]:
    """A grate that cannot be set to the tile with the parts that come with the drain."""
    plan, words, family = case.plan, case.words, fitting_family(case.plan)
    if family is None or not family.adjusts:
        return []
    gap = grate_gap(plan, case.surface)
    if fits(family.adjusts, gap) is not None:
        return []
    most = max(adjust.most for adjust in family.adjusts)
    least = min(adjust.least for adjust in family.adjusts)
    over = gap > most
    finding = broken(
        words,
        code="grate_out_of_range",
        severity="caution",
        title=f"Grate cannot be set to the tile: {words.length(gap)} over the flange",
        detail=" ".join(_set(words, family, gap)) + " Thicker or thinner tile, another drain, or a "
        "part for it from its maker.",
        value=gap,
        limit=most if over else least,
        binds="at_most" if over else "at_least",
        applies_to=family.name,
        source=family.source,
        field="/shower/layers",
    )
    return [Found(finding)]


def _tiled(layers: tuple[Layer, ...]) -> float:
    """Tile and adhesive of a wall, mm."""
    return thick([layer for layer in layers if layer.role in ("tile", "adhesive")])


def channel_lengths(plan: Plan, drain: LinearDrain) -> tuple[float, float, float]:
    """Lengths, mm: from stud to stud, of the channel, and of its cover.

    The plan draws it between finished walls, in front of what is on the studs. Where the tile is
    notched down into the channel, the channel runs on under tile and adhesive and only the cover
    ends at the tile.
    """
    walls, cover, ends = plan.walls.shower, drain.size, ends_at_walls(plan, drain)
    channel = cover + ends * _tiled(walls) if drain.ends == "notched" else cover
    return cover + ends * thick(walls), channel, cover


def ends_at_walls(plan: Plan, drain: LinearDrain) -> int:
    """How many of a channel's two ends lie at walls, benches or half walls."""
    walls = standing_faces(plan)
    return sum(walls.distance(Point(end)) <= AT_WALL for end in (drain.start, drain.end))


def _lengths(case: Case) -> Chain | None:
    plan, words = case.plan, case.words
    drain = drain_kind(plan.shower.drain).channel
    if drain is None:
        return None
    whole, channel, cover = channel_lengths(plan, drain)
    stops, section = TRADE.practice.end_stops, TRADE.practice.outlet_section
    walls, ends = plan.walls.shower, ends_at_walls(plan, drain)
    between = ("as planned", "from the stud to the open end", "from stud to stud")[ends]
    if not walls:
        between = "from wall to wall, as planned"
    at_ends = "at each end" if ends == 2 else "at the wall"
    parts = [Adjusted(name=between, text=words.length(whole), do="")]
    parts += [
        Adjusted(name=f"{layer.name}, {at_ends}", text=words.length(layer.thickness), do="less")
        for layer in (reversed(walls) if ends else ())
    ]
    body = channel - stops.value
    parts += [
        Adjusted(name="channel, end stops included", text=words.length(channel), do=""),
        Adjusted(name="both end stops", text=words.length(stops.value), do="less"),
        Adjusted(name="its cut pieces, threaded outlet", text=words.length(body), do="cut"),
        Adjusted(
            name="its cut pieces, cemented outlet",
            text=words.length(body - section.value),
            do="cut",
        ),
        Adjusted(name="grate or cover", text=words.length(cover), do="cut"),
    ]
    said = {
        "finished": "The channel ends at the finished wall: measure again between the tiles.",
        "deducted": "Wall tile and adhesive are taken off at each end before they are there.",
        "notched": "The channel ends behind the tile, which is notched down into it.",
    }
    more = [said[drain.ends]]
    if not walls:
        more.append("Add what is on the studs in step Walls to see the length from stud to stud.")
    tiled = ends * _tiled(walls)
    if tiled:
        more.append(
            f"A tile-in cover is cut twice: {words.length(cover + tiled)} before the wall "
            f"tile, {words.length(cover)} to fit after it."
        )
    return Chain(
        title="Lengths, from wall to cover",
        parts=tuple(parts),
        said=tuple(more),
        source=f"{stops.source}. {stops.note}",
    )
