"""The cut lists of a job: timber from lengths, deck pieces from strips of sheets, bands from
rolls."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import NamedTuple

import numpy as np
from shapely.geometry import Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.order.cutting import Bar, Cutting, cut
from calm_basin.core.order.needs import band_lengths
from calm_basin.core.order.wall_needs import backing_pieces
from calm_basin.core.structure.deck_sheet import deck_sheet
from calm_basin.core.walls.blocks import all_frames
from calm_basin.core.walls.boards import board_size, wall_boards
from calm_basin.rules import TRADE

LEAST_STOCK = 300.0
"""From a length that is shorter, mm, nothing is cut."""

ALIKE = 0.8
"""Pieces share a strip where the narrower one has this share of its width, or more."""


class CutLength(NamedTuple):
    """What is cut from one length: its width where it is a strip of a sheet, mm, the pieces, the
    sheet that it is of, counted from 1, and what is left, mm."""

    width: float
    pieces: tuple[float, ...]
    sheet: int
    left: float


class Cuts(NamedTuple):
    """One cut list: of which item, the length sold, mm, how many lengths or sheets are bought, of
    which none can do with fewer than ``least``, what is cut, and pieces made of several lengths."""

    item: str
    stock: float
    bought: int
    least: int
    strips: tuple[CutLength, ...]
    joined: int = 0


def cut_lists(case: Case, lengths: dict[str, float]) -> list[Cuts]:
    """The cut lists of a job; ``lengths`` is what a length of each item is, mm."""
    return [
        *_timber(case, lengths),
        *_deck(case),
        *_wall_boards(case),
        *_bands(case, lengths["band"]),
    ]


def _timber(case: Case, lengths: dict[str, float]) -> Iterator[Cuts]:
    sheet = deck_sheet(case)
    pieces: dict[str, list[float]] = {"cleat": [], "joist": []}
    pieces["backing"] = [_short(piece.box.x.size) for piece in backing_pieces(case.plan)]
    for batten in () if sheet is None else sheet.battens:
        along = float(np.hypot(*np.subtract(batten.end, batten.start)))
        pieces["joist" if batten.kind == "added joist" else "cleat"].append(_short(along))
    for item, of_item in pieces.items():
        if of_item and lengths[item] >= LEAST_STOCK:
            stock = lengths[item]
            made = cut(of_item, (stock,), TRADE.order.rates.saw_cut.value)
            strips = tuple(CutLength(0.0, bar.pieces, 0, bar.left) for bar in made.bars)
            least = round(made.bound / stock)
            yield Cuts(item, stock, len(strips), least, strips, len(made.joined))


def _bands(case: Case, roll: float) -> Iterator[Cuts]:
    """Bands from rolls, each piece with what it laps at its ends; a knife takes nothing."""
    runs = band_lengths(case.plan)
    if runs and roll >= LEAST_STOCK:
        made = cut([round(run, 1) for run in runs], (roll,), 0.0)
        strips = tuple(CutLength(0.0, bar.pieces, 0, bar.left) for bar in made.bars)
        yield Cuts("band", roll, len(strips), round(made.bound / roll), strips, len(made.joined))


def _deck(case: Case) -> Iterator[Cuts]:
    """Pieces of deck in strips along the sheet, nested along their length; the strips are nested
    across the sheet."""
    sheet = deck_sheet(case)
    if sheet is None or not sheet.pieces:
        return
    size = TRADE.order.items["deck"].sold(inches=case.words.display.imperial).sides
    sides = [_sides(Polygon(piece.outline), size[1]) for piece in sheet.pieces]
    yield _from_sheets("deck", sides, size)


def _wall_boards(case: Case) -> Iterator[Cuts]:
    """Boards of the shower's walls: courses are ripped from boards, and cut to their lengths."""
    size, plan = board_size(case.plan), case.plan
    laid = [box for one in all_frames(plan) for box in wall_boards(plan, one)]
    # A piece as wide or long as a board is not more than one by a rounding.
    rounded = [(round(box.y.size, 1), round(box.x.size, 1)) for box in laid]
    sides = [(min(wide, size[1]), min(long, size[0])) for wide, long in rounded]
    if sides:
        yield _from_sheets("wall_board", sides, size)


def _from_sheets(item: str, sides: list[tuple[float, float]], size: tuple[float, float]) -> Cuts:
    """Pieces, each so wide and so long, mm, out of sheets so long and so wide."""
    long, wide = size
    kerf = TRADE.order.rates.saw_cut.value
    groups: list[tuple[float, list[float]]] = []
    for width, length in sorted(sides, reverse=True):
        # In a strip a good deal wider than the piece much of the sheet would be lost.
        if groups and width >= ALIKE * groups[-1][0]:
            groups[-1][1].append(length)
        else:
            groups.append((width, [length]))
    nested = [(width, cut(of_group, (long,), kerf)) for width, of_group in groups]
    strips = [(width, bar) for width, made in nested for bar in made.bars]
    across = cut([width for width, _ in strips], (wide,), kerf)
    dealt = _on_sheets(strips, across)
    area = sum(width * length for width, length in sides)
    least = ceil(area / (long * wide) - 1e-9)
    joined = sum(len(made.joined) for _, made in nested)
    return Cuts(item, long, len(across.bars), least, dealt, joined)


def _on_sheets(strips: list[tuple[float, Bar]], across: Cutting) -> tuple[CutLength, ...]:
    """The strips in the order of the sheets that they are cut from."""
    left, dealt = list(strips), []
    for number, sheet in enumerate(across.bars, start=1):
        for width in sheet.pieces:
            place = next(i for i, (own, _) in enumerate(left) if own == width)
            own, bar = left.pop(place)
            dealt.append(CutLength(own, bar.pieces, number, bar.left))
    return tuple(dealt)


def _sides(piece: Polygon, most: float) -> tuple[float, float]:
    """The sides of the least box round a piece, mm: across the strip and along it."""
    corners = np.array(piece.minimum_rotated_rectangle.exterior.coords)
    a, b = sorted(float(np.hypot(*side)) for side in np.diff(corners[:3], axis=0))
    return (min(_short(a), most), _short(b))


def _short(length: float) -> float:
    """A length with what a piece is cut short by, to a tenth of a millimetre."""
    return round(max(length - TRADE.order.rates.saw_cut.value, 1.0), 1)
