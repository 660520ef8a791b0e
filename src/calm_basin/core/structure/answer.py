"""What carries the floor and how the deck is opened, in words."""

from __future__ import annotations

import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Figure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.floor import points_of
from calm_basin.core.geometry.surface import xy
from calm_basin.core.kinds import FormerKind, carrier_of, drains_of, former_of
from calm_basin.core.structure.deck_sheet import deck_sheet
from calm_basin.core.structure.findings import unsigned
from calm_basin.core.structure.footing import (
    fitting_family,
    solids_of,
)
from calm_basin.core.structure.joists import Bays, regular, timbers_of
from calm_basin.core.structure.meeting import met
from calm_basin.core.structure.result import (
    BodyMark,
    ServiceMark,
    StructureResult,
    TimberMark,
)
from calm_basin.core.structure.stiffness import bed_load, deflection, inertia, spans
from calm_basin.plan import Plan
from calm_basin.plan.floor import JoistFloor
from calm_basin.rules import TRADE
from calm_basin.rules.trade.timber import load_text

GRAVITY = 9.80665


def structure(case: Case) -> StructureResult:
    """The floor that is there, what the drains take of it, and the sheet to open the deck by."""
    plan, words = case.plan, case.words
    bodies = []
    for drain in drains_of(plan):
        at = drain.outlet
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
    room, joists = Polygon(plan.room.outline), carrier_of(plan).joists
    timbers = [
        TimberMark(
            name=timber.name,
            kind=timber.kind,
            outline=points_of(shapely.get_coordinates(part.exterior)[:-1]),
            number=timber.number,
            index=timber.index,
            regular=regular(joists, timber),
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
        across=None if joists is None else xy(Bays.of(joists).across),
        bodies=tuple(bodies),
        services=tuple(services),
        figures=tuple(_stiffness(plan, words)),
        unsigned=unsigned(plan),
        notes=tuple(_notes(plan)),
        sheet=deck_sheet(case),
    )


def _notes(plan: Plan) -> list[str]:
    """What is not known, and so not looked at."""
    joists, found = carrier_of(plan).joists, []
    if fitting_family(plan) is None:
        why = (
            "The chosen drain is for another kind of drain."
            if plan.waste.family
            else "No drain is chosen."
        )
        found.append(f"{why} Only the waste pipe itself is held against the floor.")
    if joists is not None:
        if joists.joist != "sawn":
            name = "I-joists" if joists.joist == "i_joist" else "trusses"
            found.append(
                f"How far {name} may span and where they may be drilled is in the maker's table."
            )
        elif joists.span is None:
            found.append("Measure the joists' span to check how far they bend.")
        if joists.joist == "sawn" and joists.span is not None and joists.bearing is None:
            found.append(
                "Measure where the joists' span begins to check where along them holes are allowed."
            )
    return found


def _stiffness(plan: Plan, words: Words) -> list[Figure]:
    """How far joists of this size may span under tile, and what the bed weighs."""
    joists, former, found = carrier_of(plan).joists, former_of(plan.shower), []
    if joists is not None and joists.joist == "sawn":
        load, wood = TRADE.timber.live_load, TRADE.timber.grade
        for rule in TRADE.timber.stiffness:
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
                        ("live load w", load_text(load.value)),
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
    if former.cast:
        weight, added = TRADE.timber.bed_weight, bed_load(former)
        found.append(
            figure(
                "New bed weighs, at least",
                added * 1000 / GRAVITY,
                load_text(added),
                "thickness at the drain × weight of a mud bed",
                [("least thickness", words.length(former.thickness))],
                source=weight.source,
                unit="kilogram",
                note=f"{weight.note} Thicker towards the edge. Count it with the tile and with "
                "water that stands in a flood test: 1 kg a litre.",
            )
        )
    return found


def _bending(joists: JoistFloor, former: FormerKind, words: Words) -> list[Figure]:
    """How far joists of a span that was measured bend under people, and under the bed besides."""
    if joists.span is None:
        return []
    live, new, wood = TRADE.timber.live_load.value, bed_load(former), TRADE.timber.grade
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
