"""What carries the floor and how the deck is opened, in words."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.build import figure, listed
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Figure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.floor import points_of
from calm_basin.core.geometry.levels import NO_DEPTH, levels
from calm_basin.core.geometry.surface import Array, xy
from calm_basin.core.structure.cutsheet import Opened, distances, opened, taped_from
from calm_basin.core.structure.findings import unsigned
from calm_basin.core.structure.footing import (
    drains_of,
    fitting_family,
    outlet_of,
    solids_of,
)
from calm_basin.core.structure.joists import Bays, regular, timbers_of
from calm_basin.core.structure.meeting import met
from calm_basin.core.structure.result import (
    Batten,
    BodyMark,
    CutSheet,
    Piece,
    SawLine,
    ServiceMark,
    StructureResult,
    TimberMark,
)
from calm_basin.core.structure.stiffness import bed_load, deflection, inertia, spans
from calm_basin.plan import Plan
from calm_basin.plan.floor import JoistFloor
from calm_basin.plan.shower import Former, MortarBed
from calm_basin.plan.survey import FrameLevel
from calm_basin.rules import (
    bed_weight,
    grade,
    joist_centres,
    live_load,
    load_text,
    stiffnesses,
)

CP = "Common practice, no source"

GRAVITY = 9.80665


def structure(case: Case) -> StructureResult:
    """The floor that is there, what the drains take of it, and the sheet to open the deck by."""
    plan, words = case.plan, case.words
    bodies = []
    for drain in drains_of(plan):
        at = outlet_of(drain)
        hits: dict[str, list[str]] = {}
        for one in met(plan, case.surface, drain):
            hits.setdefault(one.way.part, []).append(one.way.what)
        for solid in solids_of(plan, drain):
            corners = shapely.get_coordinates(solid.outline)[:-1] + at
            bodies.append(
                BodyMark(
                    part=solid.part,
                    outline=points_of(corners),
                    meets=tuple(hits.get(solid.part, ())),
                )
            )
    room = Polygon(plan.room.outline)
    timbers = [
        TimberMark(
            name=timber.name,
            kind=timber.kind,
            outline=points_of(shapely.get_coordinates(part.exterior)[:-1]),
            number=timber.number,
            index=timber.index,
            regular=regular(plan.floor, timber),
        )
        for timber in timbers_of(plan)
        for part in shapely.get_parts(timber.outline.intersection(room))
        if isinstance(part, Polygon) and part.area > 0
    ]
    services = [
        ServiceMark(
            name=service.name,
            kind=service.kind,
            points=service.points,
            strip=points_of(
                shapely.get_coordinates(
                    LineString(service.points).buffer(max(service.clearance, 1.0), quad_segs=4)
                )[:-1]
            ),
        )
        for service in plan.services
    ]
    return StructureResult(
        timbers=tuple(timbers),
        across=xy(Bays.of(plan.floor).across) if isinstance(plan.floor, JoistFloor) else None,
        bodies=tuple(bodies),
        services=tuple(services),
        figures=tuple(_stiffness(plan, words)),
        unsigned=unsigned(plan),
        notes=tuple(_notes(plan)),
        sheet=_sheet(case),
    )


def _notes(plan: Plan) -> list[str]:
    """What is not known, and so not looked at."""
    joists, found = plan.floor, []
    if fitting_family(plan) is None:
        why = (
            "The chosen drain is for another kind of drain."
            if plan.waste.family
            else "No drain is chosen."
        )
        found.append(f"{why} Only the waste pipe itself is held against the floor.")
    if isinstance(joists, JoistFloor):
        if joists.joist != "sawn":
            name = "I-joists" if joists.joist == "i_joist" else "trusses"
            found.append(
                f"How far {name} may span and where they may be drilled is in the maker's table."
            )
        elif joists.span is None:
            found.append("The joists' span is not measured: how far they bend is not looked at.")
        if joists.joist == "sawn" and joists.span is not None and joists.bearing is None:
            found.append(
                "Where the span begins is not measured: where along the joists holes may "
                "be is not looked at."
            )
    return found


def _stiffness(plan: Plan, words: Words) -> list[Figure]:
    """How far joists of this size may span under tile, and what the bed weighs."""
    joists, former, found = plan.floor, plan.shower.former, []
    if isinstance(joists, JoistFloor) and joists.joist == "sawn":
        load, wood = live_load(), grade()
        for rule in stiffnesses():
            both = spans(joists, rule.share, bed_load(former))
            most = both.most
            holds = (
                ""
                if joists.span is None
                else ("holds" if joists.span <= most + 1e-6 else "does not hold")
            )
            found.append(
                figure(
                    f"Longest span under {rule.name}",
                    most,
                    words.length(most, "down"),
                    "the shorter of the span at which 5 w L^4 ÷ (384 E I) is the span ÷ "
                    f"{rule.share:g}, and that at which w L² ÷ 8 is f · width · depth² ÷ 6 with "
                    "the floor's own weight",
                    [
                        ("joist", f"{words.length(joists.width)} × {words.length(joists.depth)}"),
                        ("centres", words.length(joists.centres)),
                        ("live load w", load_text(load.given)),
                        ("by stiffness", words.length(both.stiff, "down")),
                        ("by strength", words.length(both.strong, "down")),
                        ("E", f"{wood.elasticity:.1f} kN/mm²"),
                        ("f", f"{wood.strength(joists.depth):.1f} N/mm²"),
                        *([("span", words.length(joists.span))] if joists.span else []),
                    ],
                    source=f"{rule.source}; {wood.source}",
                    note=f"{rule.note} {wood.name} is taken: {wood.note} A rule of thumb: an "
                    "engineer decides.",
                    under=holds,
                )
            )
        found += _bending(joists, former, words)
    if isinstance(former, MortarBed):
        weight, added = bed_weight(), bed_load(former)
        found.append(
            figure(
                "New bed weighs, at least",
                added * 1000 / GRAVITY,
                load_text(added),
                "thickness at the drain × weight of a mud bed",
                [("least thickness", words.length(former.least_thickness))],
                source=weight.source,
                unit="kilogram",
                note=f"{weight.note} Thicker towards the edge. Count it with the tile and with "
                "water that stands in a flood test: 1 kg a litre.",
            )
        )
    return found


def _bending(joists: JoistFloor, former: Former, words: Words) -> list[Figure]:
    """How far joists of a span that was measured bend under people, and under the bed besides."""
    if joists.span is None:
        return []
    live, new, wood = live_load().given, bed_load(former), grade()
    found = []
    for name, load in (("people", live), ("people and the new bed", live + new)):
        if name != "people" and not new:
            continue
        bent = deflection(
            joists.span,
            load * joists.centres / 1000,
            wood.elasticity,
            inertia(joists.width, joists.depth),
        )
        found.append(
            figure(
                f"Bends under {name}",
                bent,
                f"{words.length(bent, 'up')}, the span ÷ {joists.span / bent:.0f}",
                "5 w L^4 ÷ (384 E I), w = load × centres",
                [
                    ("load", load_text(load)),
                    ("span L", words.length(joists.span)),
                    ("E", f"{wood.elasticity:.1f} kN/mm²"),
                ],
                source=wood.source,
                note="A rule of thumb for single joists on two supports. An engineer decides.",
            )
        )
    return found


def _set_down(plan: Plan, words: Words, thick: float) -> Figure:
    """How far below the joists' tops cleats are set: by the level line where the floor was read
    and its pieces are framed level."""
    line = plan.survey.levels and isinstance(plan.survey.correction, FrameLevel)
    return figure(
        "Cleats' top below the joists' top",
        thick,
        "to the level line" if line else words.length(thick),
        "the deck's thickness, at the high spot of the floor; elsewhere less by how far the floor "
        "lies below that: the marks stand with the levels"
        if line
        else "the deck's thickness, so that it lies flush with the joists' tops",
        [("deck thickness", words.length(thick))],
        source=CP,
        note="Set them to a level line, not to joists that are not level.",
    )


def _signature(joists: JoistFloor) -> list[str]:
    """Who signed for joists that are planned to be cut, or that somebody has to."""
    if not any(other.planned for other in joists.others):
        return []
    if joists.signed is None:
        return ["No joist is cut before an engineer has signed for it. Nobody has yet."]
    return [f"{joists.signed.name} signed on {joists.signed.on} for the joists that are cut."]


def _sheet(case: Case) -> CutSheet | None:
    plan, words, joists = case.plan, case.words, case.plan.floor
    if not isinstance(joists, JoistFloor) or levels(plan, case.surface).base >= -NO_DEPTH:
        return None
    family, drain = fitting_family(plan), plan.shower.drain
    outlet, outline = outlet_of(drain), plan.shower.outline
    most = joist_centres()
    cut = opened(
        joists,
        timbers_of(plan),
        plan.room.outline,
        outline,
        (float(outlet[0]), float(outlet[1])),
        family.blocking if family else 0.0,
        most.value,
    )
    walls = taped_from(plan.room.outline, outline)

    def taped(place: Array) -> str:
        apart = distances(plan.room.outline, walls, place)
        return ", ".join(
            f"{words.bare(max(d, 0.0))} from wall {n + 1}"
            for n, d in zip(walls, apart, strict=True)
        )

    corners = np.array(outline)
    lines = [
        SawLine(
            start=xy(a),
            end=xy(b),
            length_text=words.length(float(np.hypot(*(b - a)))),
            start_text=taped(a),
            end_text=taped(b),
        )
        for a, b in zip(corners, np.roll(corners, -1, axis=0), strict=True)
    ]
    pieces = [
        Piece(
            outline=points_of(shapely.get_coordinates(piece.exterior)[:-1]),
            text=_size(piece, words),
            loose=bool(piece.intersects(shapely.Point(outlet))),
        )
        for piece in cut.pieces
    ]
    kinds = (
        ("cleat", cut.cleats),
        ("plate cleat", cut.plates),
        ("edge", cut.edges),
        ("blocking", cut.blocking),
        ("added joist", cut.added),
    )
    battens = [
        Batten.model_validate(
            {
                "kind": kind,
                "start": xy(bar.start),
                "end": xy(bar.end),
                "text": words.length(bar.length),
            }
        )
        for kind, bars in kinds
        for bar in bars
    ]
    total = sum(bar.length for bar in cut.cleats)
    thick = joists.deck_thickness
    hole = ""
    if family is not None:
        size = (
            words.length(family.hole_width)
            if family.hole == "round"
            else f"{words.bare(family.hole_width)} × {words.length(family.hole_length)}"
        )
        hole = f"Hole {size} {family.hole}, its middle {taped(outlet)}"
    return CutSheet(
        blade=figure(
            "Saw blade, set to",
            thick,
            words.length(thick, "down"),
            "the deck's thickness and no more: joists, wires and pipes lie under it",
            [("deck thickness", words.length(thick))],
            source=CP,
        ),
        set_down=_set_down(plan, words, thick),
        cleats=figure(
            "Cleats, in all",
            total,
            words.length(total, "up"),
            "both sides of each joist, as far as the deck is opened",
            [("pieces", str(len(cut.cleats)))],
            source=CP,
        ),
        saw_lines=tuple(lines),
        pieces=tuple(pieces),
        battens=tuple(battens),
        hole=hole,
        steps=(*_signature(joists), *_steps(words, cut, hole)),
    )


def _steps(words: Words, cut: Opened, hole: str) -> list[str]:
    found = [
        "Find wires, pipes and heating under the boards first; switch off what can be.",
        "Saw along the lines, the blade set to the deck's thickness. Wet cutting or extraction, "
        "and a mask: old coverings may hold asbestos.",
        "Lift the pieces and mark where each came from. An open floor is a fall hazard.",
        "Fix cleats to both sides of each joist, set down by the deck's thickness.",
    ]
    if cut.plates:
        found.append(
            f"Put a cleat under the plate where the wall stands off its joist: "
            f"{listed([words.length(bar.length) for bar in cut.plates])}."
        )
    if cut.edges:
        found.append(
            "Put blocking or a joist under the edge of the deck that stays: "
            f"{words.length(sum(bar.length for bar in cut.edges), 'up')} in all."
        )
    if cut.added:
        found.append(
            f"Put in {len(cut.added)} more joist{'s' if len(cut.added) > 1 else ''} or blocking: "
            f"the deck spans farther than {words.limit(joist_centres().value)} "
            f"({joist_centres().source})."
        )
    if cut.blocking:
        found.append("Put blocking on both sides of the hole, clear of it as drawn.")
    if hole:
        found.append(f"{hole}.")
    found.append("Leave the panel under the waste loose until the pipe is tested and passed.")
    return found


def _size(piece: Polygon, words: Words) -> str:
    corners = shapely.get_coordinates(piece.minimum_rotated_rectangle)
    sides = sorted(float(np.hypot(*(corners[i + 1] - corners[i]))) for i in (0, 1))
    return f"{words.bare(sides[0])} × {words.length(sides[1])}"
