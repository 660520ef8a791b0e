"""The membrane in words: how far it goes, how much of it, each piece."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from math import inf

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import XY, Figure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.membrane.on_walls import (
    SealedWall,
    niche_round,
    niches_sealed,
    patches,
    sealed_walls,
)
from calm_basin.core.membrane.pieces import Band, bands, corners, sealed, shower_walls
from calm_basin.core.membrane.result import (
    MembranePiece,
    MembraneResult,
    MembraneWall,
    PieceKind,
)
from calm_basin.core.survey.pour import GALLON_LITRES
from calm_basin.core.walls.frame import Box, unfolded
from calm_basin.core.walls.result import WallBox
from calm_basin.plan import Plan
from calm_basin.plan.shower import LinearDrain
from calm_basin.rules.membrane import litres, membrane_length

SAME = 1.0
"""A piece that was laid is still the same where its length changed by no more, mm."""


def membrane(case: Case) -> MembraneResult:
    """The membrane of a plan."""
    plan, words = case.plan, case.words
    pieces = tuple(_pieces(plan, words))
    left = sum(not piece.laid for piece in pieces)
    strips = [piece for piece in pieces if piece.kind in ("band", "upright", "niche")]
    counted = Counter(piece.kind for piece in pieces)
    band = sum(piece.length for piece in strips)
    in_corners = counted["inside corner"] + counted["outside corner"]
    return MembraneResult(
        said=f"{words.run(band)} of band in {_count(len(strips), 'piece')}, "
        f"{_count(in_corners, 'corner')}, {_count(counted['collar'], 'collar')}",
        left=left,
        figures=_figures(case, band),
        pieces=pieces,
        outline=tuple((float(x), float(y)) for x, y in sealed(plan).exterior.coords[:-1]),
        band_width=membrane_length("band").value,
        walls=_walls(plan),
        notes=_notes(case),
    )


def _walls(plan: Plan) -> tuple[MembraneWall, ...]:
    walls = {one.frame.wall: one for one in sealed_walls(plan)}
    return tuple(_wall(walls[number]) for number in unfolded(list(walls), plan.room.outline))


def _wall(one: SealedWall) -> MembraneWall:
    return MembraneWall(
        name=f"wall {one.frame.wall + 1}",
        length=one.frame.length,
        sealed=tuple(_box(box) for box in one.sealed),
        niches=tuple(_box(box, f"niche {number + 1}") for number, box in one.niches),
        pipes=one.pipes,
        patches=one.fasteners,
    )


def _box(box: Box, text: str = "") -> WallBox:
    return WallBox(x=box.x.low, y=box.y.low, width=box.x.size, height=box.y.size, text=text)


def wall_area(plan: Plan) -> float:
    """How much of the shower's walls is sealed, mm²."""
    return shower_walls(plan) * plan.membrane.walls


def uprights(plan: Plan) -> int:
    """Corners of the shower's walls that are sealed as high as its walls."""
    return sum(one.in_shower for one in corners(plan)) if plan.membrane.walls else 0


def _pieces(plan: Plan, words: Words) -> Iterator[MembranePiece]:
    lap = membrane_length("lap").value
    marked = {one.name: one.length for one in plan.membrane.laid}

    def piece(kind: PieceKind, name: str, length: float, *places: XY) -> MembranePiece:
        laid = abs(marked.get(name, inf) - length) <= SAME
        cut = words.length(length, "up") if length else ""
        return MembranePiece(
            kind=kind, name=name, cut_text=cut, length=length, places=places, laid=laid
        )

    lines = bands(plan)
    names = _names(lines)
    at_walls = [(n, b) for n, b in zip(names, lines, strict=True) if b.wall is not None]
    across = [(n, b) for n, b in zip(names, lines, strict=True) if b.wall is None]
    for name, band in at_walls:
        yield piece("band", name, band.length + 2 * lap, band.start, band.end)
    found = corners(plan)
    if plan.membrane.walls:
        for one in found:
            if one.in_shower:
                name = f"corner {one.number + 1}, upright"
                yield piece("upright", name, plan.membrane.walls + lap, one.at)
    niches = niches_sealed(plan)
    for number, box in niches:
        for where in ("back", "front"):
            yield piece("niche", f"niche {number + 1}, {where}", niche_round(box) + lap)
    for name, band in across:
        yield piece("band", name, band.length + 2 * lap, band.start, band.end)
    for one in found:
        kind: PieceKind = "inside corner" if one.inside else "outside corner"
        yield piece(kind, f"{kind}, corner {one.number + 1}", 0.0, one.at)
    for number, _ in niches:
        for kind in ("inside corner", "outside corner"):
            for which in range(1, 5):
                yield piece(kind, f"{kind} {which}, niche {number + 1}", 0.0)
    drains = [plan.shower.drain]
    if plan.shower.second_drain is not None:
        drains.append(plan.shower.second_drain)
    for number, drain in enumerate(drains, start=1):
        at = drain.outlet_at if isinstance(drain, LinearDrain) else drain.centre
        name = "drain collar" if len(drains) == 1 else f"drain collar {number}"
        yield piece("collar", name, 0.0, at)
    for number in range(1, plan.membrane.pipes + 1):
        yield piece("collar", f"pipe collar {number}", 0.0)
    if (count := patches(plan)) > 0:
        yield piece("patch", f"patches over fasteners, {count}", membrane_length("band").value)


def _names(lines: list[Band]) -> list[str]:
    """Bands by the wall that they lie at, numbered where one wall has several."""
    plain = ["joint" if band.wall is None else f"wall {band.wall + 1}" for band in lines]
    often, seen, names = Counter(plain), Counter[str](), []
    for name in plain:
        seen[name] += 1
        names.append(name if often[name] == 1 else f"{name}, piece {seen[name]}")
    return names


def _figures(case: Case, band: float) -> tuple[Figure, ...]:
    plan, words = case.plan, case.words
    floor, shower = sealed(plan), ring_of(plan.shower).polygon
    beyond = floor.difference(shower).area
    walls = wall_area(plan)
    lap, far, coats = membrane_length("lap"), membrane_length("into_room"), litres()
    figures = [
        figure(
            "Floor sealed",
            floor.area,
            words.area(floor.area),
            "shower + floor outside it that is sealed",
            [("shower", words.area(shower.area)), ("outside it", words.area(beyond))],
            source=far.source,
            note=far.note,
            unit="square_mm",
        ),
        figure(
            "Walls sealed",
            walls,
            words.area(walls),
            "shower edge at walls × height",
            [
                ("shower edge at walls", words.length(shower_walls(plan))),
                ("height", words.length(plan.membrane.walls)),
            ],
            source="Arithmetic",
            unit="square_mm",
        ),
        figure(
            "Band",
            band,
            words.run(band),
            "length of every piece with a lap at both ends",
            [("lap", words.length(lap.value))],
            source=lap.source,
            note=lap.note,
        ),
    ]
    if plan.days.membrane == "liquid":
        amount = (floor.area + walls) / 1e6 * coats.amount
        figures.append(
            figure(
                "Liquid, two coats",
                amount,
                f"{amount / GALLON_LITRES:.1f} gal"
                if words.display.imperial
                else f"{amount:.1f} L",
                "area × litres a square metre",
                [
                    ("area", words.area(floor.area + walls)),
                    ("a square metre takes", f"{coats.amount:g} L"),
                ],
                source=coats.source,
                note=coats.note,
                unit="litre",
            )
        )
    return tuple(figures)


def _notes(case: Case) -> tuple[str, ...]:
    plan, words = case.plan, case.words
    up = membrane_length("upstand")
    notes = [
        f"Band at least {words.length(up.value)} up every wall ({up.source}). Check the height the "
        "local code requires.",
        "Keep weep holes open, and sealant out of screw holes that have to drain.",
        "Cover every fastener head. Cover the finished membrane: a dropped tool nicks it unseen.",
    ]
    if isinstance(plan.shower.drain, LinearDrain):
        notes.append(
            "Seal the room side of the channel with edge trim, along its end and up the wall. "
            "Leave the shower side open, so that water in the bed reaches the drain."
        )
    if plan.days.membrane == "liquid":
        notes.append(
            "Second coat once the first is dry. Fabric in every seam and change of plane, corners "
            "wet in wet."
        )
    else:
        notes.append("Cut all strips first. Lay bands, then corners and collars, then the sheet.")
    return tuple(notes)


def _count(number: int, name: str) -> str:
    return f"{number} {name}{'' if number == 1 else 's'}"
