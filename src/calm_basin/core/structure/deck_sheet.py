"""The deck cut sheet in words: what is sawn out, what goes back in and on what."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.build import figure, listed
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Figure
from calm_basin.core.answer.taped import place_text, place_texts
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.floor import points_of
from calm_basin.core.geometry.levels import levels
from calm_basin.core.geometry.surface import Array, xy
from calm_basin.core.kinds import carrier_of, drain_kind
from calm_basin.core.structure.cutsheet import Opened, opened
from calm_basin.core.structure.footing import fitting_family, standing
from calm_basin.core.structure.joists import timbers_of
from calm_basin.core.structure.result import Batten, CutSheet, Piece, SawLine
from calm_basin.plan import Plan
from calm_basin.plan.floor import JoistFloor
from calm_basin.plan.framing import at_studs, studs
from calm_basin.plan.sources import COMMON
from calm_basin.plan.survey import FrameLevel
from calm_basin.rules import TRADE
from calm_basin.tolerances import UNSEEN


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
        source=COMMON,
        note="Set them to a level line, not to joists that are not level.",
    )


def _signature(joists: JoistFloor) -> list[str]:
    """Who signed for joists that are planned to be cut, or that somebody has to."""
    if not any(other.planned for other in joists.others):
        return []
    if joists.signed is None:
        return ["No joist is cut before an engineer has signed for it. Nobody has yet."]
    return [f"{joists.signed.name} signed on {joists.signed.on} for the joists that are cut."]


def deck_sheet(case: Case) -> CutSheet | None:
    """The sheet by which the deck is cut; None where it stays as it is."""
    plan, words, joists = case.plan, case.words, carrier_of(case.plan).joists
    if joists is None:
        return None
    slot = _slot(case)
    if levels(plan, case.surface).base >= -UNSEEN:
        return None if slot is None else _slot_sheet(case, joists, slot)
    family = fitting_family(plan)
    outlet, outline = drain_kind(plan.shower.drain).outlet, at_studs(plan).outline
    most = TRADE.practice.joist_centres
    cut = opened(
        joists,
        timbers_of(plan),
        studs(plan),
        outline,
        (float(outlet[0]), float(outlet[1])),
        family.blocking if family else 0.0,
        most.value,
    )
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
    hole, slotted = _hole(case), "" if slot is None else _slot_text(case, slot)
    return CutSheet(
        blade=_blade(words, joists),
        set_down=_set_down(plan, words, joists.deck_thickness),
        cleats=figure(
            "Cleats, in all",
            total,
            words.length(total, "up"),
            "both sides of each joist, as far as the deck is opened",
            [("pieces", str(len(cut.cleats)))],
            source=COMMON,
        ),
        saw_lines=_saw_lines(case, np.array(outline)),
        pieces=tuple(pieces),
        battens=tuple(battens),
        hole=hole,
        slot=slotted,
        steps=(*_signature(joists), *_steps(case, cut, hole, slotted)),
    )


def _slot_sheet(case: Case, joists: JoistFloor, slot: Polygon) -> CutSheet:
    """The sheet where nothing is recessed, and only the channel's trough goes through the deck."""
    words = case.words
    hole, slotted = _hole(case), _slot_text(case, slot)
    found = [*_signature(joists), FIND, SAW, f"{slotted}."]
    return CutSheet(
        blade=_blade(words, joists),
        set_down=None,
        cleats=None,
        saw_lines=_saw_lines(case, shapely.get_coordinates(slot)[:-1]),
        pieces=(),
        battens=(),
        hole=hole,
        slot=slotted,
        steps=(*found, *([f"{hole}."] if hole else [])),
    )


def _slot(case: Case) -> Polygon | None:
    """What is sawn out of the deck for a channel's trough, on plan; None where it stands on it."""
    plan, family = case.plan, fitting_family(case.plan)
    drain = drain_kind(plan.shower.drain).channel
    if drain is None or family is None or family.body_width <= 0:
        return None
    stands = standing(plan, case.surface)
    if stands.rim - family.body_depth >= stands.deck - UNSEEN:
        return None
    half = family.body_width / 2 + TRADE.practice.slot_room.value
    slot: Polygon = LineString([drain.start, drain.end]).buffer(half, cap_style="flat")
    return slot


def _slot_text(case: Case, slot: Polygon) -> str:
    return (
        f"Slot {_size(slot, case.words)} for the channel's trough, its corners "
        f"{', '.join(f'({_taped(case, corner)})' for corner in shapely.get_coordinates(slot)[:2])}"
    )


def _blade(words: Words, joists: JoistFloor) -> Figure:
    thick = joists.deck_thickness
    return figure(
        "Saw blade, set to",
        thick,
        words.length(thick, "down"),
        "the deck's thickness and no more: joists, wires and pipes lie under it",
        [("deck thickness", words.length(thick))],
        source=COMMON,
    )


def _hole(case: Case) -> str:
    """The hole for the drain, and where its middle is taped; empty where none is chosen."""
    family, words = fitting_family(case.plan), case.words
    if family is None:
        return ""
    size = (
        words.length(family.hole_width)
        if family.hole == "round"
        else f"{words.bare(family.hole_width)} × {words.length(family.hole_length)}"
    )
    outlet = drain_kind(case.plan.shower.drain).outlet
    return f"Hole {size} {family.hole}, centred {_taped(case, outlet)}"


def _taped(case: Case, place: Array) -> str:
    """Where a place is, as a tape finds it from the studs: walls are bare when a deck is cut."""
    return place_text(studs(case.plan), xy(place), case.words)


def _saw_lines(case: Case, corners: Array) -> tuple[SawLine, ...]:
    texts = place_texts(studs(case.plan), corners, case.words)
    ends = np.roll(corners, -1, axis=0)
    return tuple(
        SawLine(
            start=xy(a),
            end=xy(b),
            length_text=case.words.length(float(np.hypot(*(b - a)))),
            start_text=start,
            end_text=end,
        )
        for a, b, start, end in zip(corners, ends, texts, [*texts[1:], texts[0]], strict=True)
    )


FIND = "Find wires, pipes and heating under the boards first; switch off what can be."
FROM_STUDS = "Measure from the studs, not from finished walls."
SAW = (
    "Saw along the lines, the blade set to the deck's thickness. Wet cutting or extraction, and a "
    "mask: old coverings may hold asbestos."
)


def _steps(case: Case, cut: Opened, hole: str, slot: str) -> list[str]:
    words = case.words
    found = [
        *([FROM_STUDS] if studs(case.plan) != case.plan.room.outline else []),
        FIND,
        SAW,
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
            f"the deck spans farther than {words.limit(TRADE.practice.joist_centres.value)} "
            f"({TRADE.practice.joist_centres.source})."
        )
    if cut.blocking:
        found.append("Put blocking on both sides of the hole, clear of it as drawn.")
    found += [f"{one}." for one in (hole, slot) if one]
    found.append("Leave the panel under the waste loose until the pipe is tested and passed.")
    return found


def _size(piece: Polygon, words: Words) -> str:
    corners = shapely.get_coordinates(piece.minimum_rotated_rectangle)
    sides = sorted(float(np.hypot(*(corners[i + 1] - corners[i]))) for i in (0, 1))
    return f"{words.bare(sides[0])} × {words.length(sides[1])}"
