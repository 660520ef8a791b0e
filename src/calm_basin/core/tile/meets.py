"""Where the tile meets something else, and what to do where it does not: in words."""

from __future__ import annotations

from collections.abc import Iterator

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Input
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.chains import chains
from calm_basin.core.depth.thresholds import Edge, door_edges, entry_edge
from calm_basin.plan.layers import Layer, thick
from calm_basin.plan.shower import Tile
from calm_basin.rules import TRADE
from calm_basin.tolerances import UNSEEN


def meets(case: Case) -> tuple[Input, ...]:
    """The tile at the entry, at the grate, at the floors outside the doors, and its bed."""
    return (*_beds(case), _entry(case), _grate(case), *_doors(case))


def _beds(case: Case) -> Iterator[Input]:
    """How thick the bed is that a trowel leaves, beside what the build-up counts."""
    plan, words = case.plan, case.words
    parts: list[tuple[str, Tile | None, tuple[Layer, ...]]] = [
        ("shower", plan.shower.tile, plan.shower.layers),
        ("room", plan.tiling.room, plan.room.layers),
        ("shower walls", plan.tiling.wall, plan.walls.shower),
    ]
    for name, tile, layers in parts:
        counted = thick([one for one in layers if one.role == "adhesive"])
        if tile is None or not counted:
            continue
        bed = TRADE.tiling.trowel(max(tile.length, tile.width)).bed_thickness
        text = f"{words.length(bed)}, the build-up counts {words.length(counted)}"
        if abs(bed - counted) >= words.display.step / 2:
            ends = "higher" if bed > counted else "lower"
            text += f": tile ends {words.length(abs(bed - counted))} {ends}"
        yield Input(name=f"bed in the {name}, about", text=text)


def _entry(case: Case) -> Input:
    edge, words = entry_edge(case.plan, case.surface), case.words
    if abs(edge.rise) <= UNSEEN:
        return Input(name="at the shower's entry", text="flush")
    way = "lower" if edge.rise > 0 else "raise"
    return Input(
        name="at the shower's entry",
        text=f"{words.step(-edge.rise)}: {way} the shower's build-up by that in step Depth, or "
        "bevel its edge",
    )


def _grate(case: Case) -> Input:
    _over_flange, *said = chains(case)[0].said
    text = " ".join(said) or "Choose a drain in step Under the floor."
    return Input(name="at the grate", text=text.rstrip("."))


def _doors(case: Case) -> Iterator[Input]:
    plan, words = case.plan, case.words
    known = {edge.door: edge for edge in door_edges(plan, case.surface)}
    for number in range(len(plan.room.doors)):
        edge = known.get(number)
        name = f"at door {number + 1}"
        if edge is None:
            yield Input(name=name, text="measure the floor outside it in step Room")
        else:
            yield Input(name=name, text=_at_door(words, edge))


def _at_door(words: Words, edge: Edge) -> str:
    if abs(edge.rise) <= UNSEEN:
        return "flush"
    above = "above" if edge.rise > 0 else "below"
    how = "a ramp outside" if edge.rise > 0 else "a ramp inside"
    return f"{words.length(abs(edge.rise), 'up')} {above} the floor outside: {how}, or a strip"
