"""The membrane in words: how far it goes, how much of it, each piece."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from math import inf

from calm_basin.amounts import GALLON_LITRES
from calm_basin.core.answer.build import figure
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import XY, Figure, Option
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.geometry.surface import xy
from calm_basin.core.kinds import drain_kind, drains_of
from calm_basin.core.membrane.on_walls import (
    SealedWall,
    board_joints,
    height_on_walls,
    niche_round,
    niches_sealed,
    patches,
    school_of,
    sealed_walls,
)
from calm_basin.core.membrane.pieces import (
    SealBand,
    bands,
    behind_blocks,
    corners,
    sealed,
    shower_walls,
)
from calm_basin.core.membrane.result import (
    MembranePiece,
    MembraneResult,
    MembraneWall,
    PieceKind,
)
from calm_basin.core.membrane.sheets import Sheet, floor_sheets, wall_sheets
from calm_basin.core.walls.blocks import frame_name
from calm_basin.core.walls.boards import boarded
from calm_basin.core.walls.frame import Box, unfolded
from calm_basin.core.walls.result import WallBox
from calm_basin.plan import Plan
from calm_basin.plan.blocks import Block, blocks
from calm_basin.rules import TRADE
from calm_basin.rules.trade.membrane import School
from calm_basin.tolerances import SAME_MARK


def school_options() -> tuple[Option, ...]:
    """The schools to choose from."""
    return tuple(Option(name=name, text=one.name) for name, one in TRADE.membrane.schools.items())


def membrane(case: Case) -> MembraneResult:
    """The membrane of a plan."""
    plan, words, school = case.plan, case.words, school_of(case.plan)
    pieces = tuple(_pieces(plan, words))
    seams = [piece.length for piece in pieces if piece.kind in SEAMS]
    return MembraneResult(
        said=_said(words, school, pieces, sum(seams), sealed(plan).area),
        left=sum(not piece.laid for piece in pieces),
        figures=_figures(case, sum(seams)),
        pieces=pieces,
        outline=tuple((float(x), float(y)) for x, y in sealed(plan).exterior.coords[:-1]),
        band_width=TRADE.membrane.band.value,
        walls=_walls(plan),
        notes=_notes(case, school),
    )


SEAMS: tuple[PieceKind, ...] = ("band", "upright", "niche", "bench", "joint", "bead")
"""What goes over seams."""


def _said(
    words: Words, school: School, pieces: tuple[MembranePiece, ...], seams: float, area: float
) -> str:
    """All of it in a line."""
    counted = Counter(piece.kind for piece in pieces)
    in_corners = counted["inside corner"] + counted["outside corner"]
    over = sum(counted[kind] for kind in SEAMS)
    told = []
    if school.strip:
        told.append(f"{words.run(seams)} of {school.strip} in {_count(over, 'piece')}")
    elif school.beads:
        told.append(f"{words.run(seams * school.beads)} of bead over {_count(over, 'seam')}")
    else:
        told.append(f"{words.area(area)} of sheet")
    if school.corners:
        told.append(_count(in_corners, "corner"))
    if school.collars:
        told.append(_count(counted["collar"], "collar"))
    return ", ".join(told)


def _walls(plan: Plan) -> tuple[MembraneWall, ...]:
    sealed_all = sealed_walls(plan)
    walls = {one.frame.wall: one for one in sealed_all if one.frame.block is None}
    seen = [walls[number] for number in unfolded(list(walls), plan.room.outline)]
    built = [one for one in sealed_all if one.frame.block is not None]
    return tuple(_wall(plan, one) for one in (*seen, *built))


def _wall(plan: Plan, one: SealedWall) -> MembraneWall:
    return MembraneWall(
        name=frame_name(one.frame),
        length=one.frame.length,
        sealed=tuple(_box(box) for box in one.sealed),
        niches=tuple(_box(box, plan.walls.named(number)) for number, box in one.niches),
        pipes=one.pipes,
        patches=one.fasteners,
        joints=one.joints,
    )


def _box(box: Box, text: str = "") -> WallBox:
    return WallBox(x=box.x.low, y=box.y.low, width=box.x.size, height=box.y.size, text=text)


def wall_area(plan: Plan) -> float:
    """How much of the shower's walls, benches and half walls is covered, mm²."""
    if not school_of(plan).walls:
        return 0.0
    return shower_walls(plan) * plan.membrane.walls + built_area(plan)


def built_area(plan: Plan) -> float:
    """How much of benches and half walls is covered, mm²."""
    built = [one.frame for one in sealed_walls(plan) if one.frame.block is not None]
    return sum(one.finished * (one.high or 0.0) for one in built)


def lap_of(school: School) -> float:
    """How far a piece over a seam laps at each end, mm: a bead does not."""
    return 0.0 if school.beads else TRADE.membrane.lap.value


def _pieces(plan: Plan, words: Words) -> Iterator[MembranePiece]:
    school = school_of(plan)
    marked = {one.name: one.length for one in plan.membrane.laid}

    def piece(
        kind: PieceKind, name: str, length: float, *places: XY, sheet: Sheet | None = None
    ) -> MembranePiece:
        laid = abs(marked.get(name, inf) - length) <= SAME_MARK
        cut = words.length(length, "up") if length else ""
        if sheet is not None:
            cut = f"{cut} × {words.length(sheet.width, 'up')}"
        return MembranePiece(
            kind=kind, name=name, cut_text=cut, length=length, places=places, laid=laid
        )

    if school.strip or school.beads:
        for kind, name, length, places in _seams(plan, school):
            yield piece("bead" if school.beads else kind, name, length, *places)
    niches, named = niches_sealed(plan), plan.walls.named
    if school.corners:
        for one in corners(plan):
            turn: PieceKind = "inside corner" if one.inside else "outside corner"
            yield piece(turn, f"{turn}, corner {one.number + 1}", 0.0, one.at)
        for name, inside in block_corners(plan):
            built: PieceKind = "inside corner" if inside else "outside corner"
            yield piece(built, f"{built}, {name}", 0.0)
        for number, _ in niches:
            for which in range(1, 5):
                yield piece("inside corner", f"inside corner {which}, {named(number)}", 0.0)
            for which in range(1, 5):
                yield piece("outside corner", f"outside corner {which}, {named(number)}", 0.0)
    if school.collars:
        drains = drains_of(plan)
        for number, drain in enumerate(drains, start=1):
            name = "drain collar" if len(drains) == 1 else f"drain collar {number}"
            yield piece("collar", name, 0.0, xy(drain.outlet))
        for number in range(1, plan.membrane.pipes + 1):
            yield piece("collar", f"pipe collar {number}", 0.0)
    if (count := patches(plan)) > 0:
        yield piece("patch", f"patches over fasteners, {count}", TRADE.membrane.band.value)
    for number, sheet in enumerate(floor_sheets(plan), start=1):
        yield piece("sheet", f"floor sheet {number}", sheet.length, *sheet.corners, sheet=sheet)
    often = Counter[str]()
    for wall, sheet in wall_sheets(plan):
        often[wall] += 1
        name = f"{wall}, sheet {often[wall]}"
        yield piece("sheet", name, sheet.length, sheet=sheet)


def _seams(plan: Plan, school: School) -> Iterator[tuple[PieceKind, str, float, tuple[XY, ...]]]:
    """Every seam in the order of laying: its kind, name, length with laps, and where it lies."""
    lap, high, opening = lap_of(school), height_on_walls(plan), plan.walls.named
    lines = bands(plan)
    named = list(zip(_names(plan, lines), lines, strict=True))
    for name, band in named:
        if band.wall is not None or band.block is not None:
            yield "band", name, band.length + 2 * lap, (band.start, band.end)
    for one in corners(plan) if high else []:
        if one.in_shower:
            yield "upright", f"corner {one.number + 1}, upright", high + lap, (one.at,)
    for number, box in niches_sealed(plan):
        for where in ("back", "front"):
            yield "niche", f"{opening(number)}, {where}", niche_round(box) + lap, ()
    for block in sealed_blocks(plan):
        for name, length in _over_block(plan, block, lap, high):
            yield "bench", f"{block.name}, {name}", length, (block.fixture.centre,)
    often = Counter[str]()
    for wall, length in board_joints(plan):
        often[wall] += 1
        yield "joint", f"{wall}, board joint {often[wall]}", length + 2 * lap, ()
    for name, band in named:
        if band.wall is None and band.block is None:
            yield "band", name, band.length + 2 * lap, (band.start, band.end)


def sealed_blocks(plan: Plan) -> list[Block]:
    """The benches and half walls that the membrane goes up on."""
    sealed_there = {one.frame.block.number for one in sealed_walls(plan) if one.frame.block}
    return [block for block in blocks(plan) if block.number in sealed_there]


def _over_block(plan: Plan, block: Block, lap: float, high: float) -> Iterator[tuple[str, float]]:
    """The seams of a bench or half wall above its foot, each with its laps, mm."""
    tall = block.fixture.height
    for number in range(block.free_edges):
        yield f"edge {number + 1}", tall + lap
    for number in range(block.edges_at_walls):
        yield f"edge at the wall {number + 1}", tall + lap
    yield "round its top", sum(face.length for face in block.free) + lap
    if block.at_walls:
        yield "top at the walls", block.at_walls + 2 * lap
    for one in behind_blocks(plan):
        if one.block == block.number and high > tall:
            yield f"corner {one.corner + 1} above it", high - tall + lap


def block_corners(plan: Plan) -> list[tuple[str, bool]]:
    """The preformed corners of benches and half walls: the name of each, and whether it is an
    inside one. Where an upright edge meets the floor and the top, and where the top meets a corner
    of the walls."""
    found = []
    for block in sealed_blocks(plan):
        name = block.name
        for number in range(block.edges_at_walls):
            found.append((f"{name}, foot at the wall {number + 1}", True))
        for number in range(block.free_edges):
            found += [(f"{name}, {end} of edge {number + 1}", False) for end in ("foot", "top")]
        found += [
            (f"{name}, top at corner {one.corner + 1}", one.inside)
            for one in behind_blocks(plan)
            if one.block == block.number
        ]
    return found


def seam_lengths(plan: Plan) -> list[float]:
    """What each strip over a seam is cut to, mm, with its laps; of a bead the seam."""
    school = school_of(plan)
    if not (school.strip or school.beads):
        return []
    return [length for _, _, length, _ in _seams(plan, school)]


def _names(plan: Plan, lines: list[SealBand]) -> list[str]:
    """Bands by what they lie at, numbered where one wall has several."""

    def at(band: SealBand) -> str:
        if band.block is not None:
            return f"{plan.room.called(band.block)}, foot"
        return "joint" if band.wall is None else f"wall {band.wall + 1}"

    plain = [at(band) for band in lines]
    often, seen, names = Counter(plain), Counter[str](), []
    for name in plain:
        seen[name] += 1
        names.append(name if often[name] == 1 else f"{name}, piece {seen[name]}")
    return names


def _figures(case: Case, band: float) -> tuple[Figure, ...]:
    plan, words = case.plan, case.words
    floor, shower = sealed(plan), ring_of(plan.shower).polygon
    beyond = floor.difference(shower).area
    walls, built = wall_area(plan), built_area(plan)
    school = school_of(plan)
    lap, far, coats = TRADE.membrane.lap, TRADE.membrane.into_room, TRADE.membrane.litres
    bead = TRADE.membrane.bead
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
            f"shower edge at walls × height{' + benches and half walls' if built else ''}",
            [
                ("shower edge at walls", words.length(shower_walls(plan))),
                ("height", words.length(plan.membrane.walls)),
                *([("benches and half walls", words.area(built))] if built else []),
            ],
            source="Arithmetic",
            unit="square_mm",
        ),
    ]
    if school.strip:
        figures.append(
            figure(
                school.strip.capitalize(),
                band,
                words.run(band),
                "length of every piece with a lap at both ends",
                [("lap", words.length(lap.value))],
                source=lap.source,
                note=lap.note,
            )
        )
    if school.beads:
        figures.append(
            figure(
                "Bead of sealant",
                band * school.beads,
                words.run(band * school.beads),
                "length of every seam × beads on it",
                [("seams", words.run(band)), ("beads", str(school.beads))],
                source=bead.source,
                note=bead.note,
            )
        )
    if school.field == "liquid":
        amount = (floor.area + walls) / 1e6 * coats.value
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
                    ("a square metre takes", f"{coats.value:g} L"),
                ],
                source=coats.source,
                note=coats.note,
                unit="litre",
            )
        )
        figures.append(
            figure(
                "Each coat",
                amount / 2,
                f"{amount / 2 / GALLON_LITRES:.1f} gal"
                if words.display.imperial
                else f"{amount / 2:.1f} L",
                "half of it; the second once the first is dry",
                [("wait with a fan", f"{TRADE.tasks.tasks['first_coat'].wait:g} h")],
                source=TRADE.tasks.tasks["first_coat"].source,
                note=TRADE.tasks.tasks["first_coat"].note,
                unit="litre",
            )
        )
    return tuple(figures)


def _notes(case: Case, school: School) -> tuple[str, ...]:
    plan, words = case.plan, case.words
    up = TRADE.membrane.upstand
    notes = [*school.notes]
    if school.strip:
        notes.append(
            f"{school.strip.capitalize()} at least {words.length(up.value)} up every wall "
            f"({up.source}). Check the height the local code requires."
        )
    if school.joints and not boarded(plan):
        notes.append("Add a board to the shower walls in step Walls to count the joints.")
    notes += [
        "Keep weep holes open, and sealant out of screw holes that have to drain.",
        "Cover every fastener head. Cover the finished membrane: a dropped tool nicks it unseen.",
    ]
    if drain_kind(plan.shower.drain).channel is not None:
        notes.append(
            "Seal the room side of the channel with edge trim, along its end and up the wall. "
            "Leave the shower side open, so that water in the bed reaches the drain."
        )
        steel, floor = TRADE.membrane.tape_on_steel, TRADE.membrane.tape_on_floor
        notes.append(
            f"On a steel flange lay transition tape up to {words.length(steel.value)} onto the "
            f"steel and {words.length(floor.value)} onto the floor ({steel.source})."
        )
    return tuple(notes)


def _count(number: int, name: str) -> str:
    return f"{number} {name}{'' if number == 1 else 's'}"
