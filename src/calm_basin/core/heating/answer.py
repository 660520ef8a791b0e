"""The heating cable in words: whether it fits, how far apart its runs lie, what it takes."""

from __future__ import annotations

from math import floor, isinf

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import XY, Change, Cure, Figure
from calm_basin.core.answer.words import Words
from calm_basin.core.heating.area import (
    along_longest,
    cold_joint,
    free_floor,
    heated_zone,
    kept_free,
)
from calm_basin.core.heating.electric import electric
from calm_basin.core.heating.fitting import KEPT, CableFit, fit, span
from calm_basin.core.heating.mats import Mats, mats
from calm_basin.core.heating.result import HeatingResult
from calm_basin.core.heating.route import CableWay, way
from calm_basin.core.kinds import carrier_of
from calm_basin.plan import Plan
from calm_basin.plan.heating import Heating
from calm_basin.rules import TRADE


def heating(case: Case) -> HeatingResult | None:
    """The cable of a plan; None where it has none."""
    plan, words = case.plan, case.words
    cable = plan.heating
    if cable is None:
        return None
    room = Polygon(plan.room.outline)
    free = [part for shape in kept_free(plan) for part in _parts(shape.intersection(room))]
    if cable.mat is not None:
        return _mat(case, cable, cable.mat, _shapes(free))
    laid = fitted(plan)
    if laid is None:
        return HeatingResult(
            none_because="No cable run fits on this floor. Heat more of it, or type a closer "
            "spacing.",
            field="/heating/where",
            state="none",
            sentence="",
            detail="",
            cures=(),
            length_text=words.run(cable.length),
            figures=(),
            route=(),
            mats=(),
            start=cold_joint(plan),
            end=cold_joint(plan),
            sensor=(),
            kept_free=_shapes(free),
            notes=(),
        )
    found = way(laid.over, cable.length, cold_joint(plan), TRADE.heating.sensor.value)
    state, sentence, detail = _state(words, cable, laid)
    line = tuple((round(float(x), 1), round(float(y), 1)) for x, y in found.line)
    return HeatingResult(
        none_because="",
        field="",
        state=state,
        sentence=sentence,
        detail=detail,
        cures=_cures(plan, words, laid),
        length_text=words.run(cable.length),
        figures=_figures(case, cable, laid, found),
        route=line,
        mats=(),
        start=line[0],
        end=line[-1],
        sensor=tuple((round(float(x), 1), round(float(y), 1)) for x, y in found.sensor),
        kept_free=_shapes(free),
        notes=_notes(case, cable),
    )


def _mat(
    case: Case, cable: Heating, width: float, free: tuple[tuple[XY, ...], ...]
) -> HeatingResult:
    """A loose mat on the floor."""
    plan, words = case.plan, case.words
    found = _mats(plan)
    first = cold_joint(plan)
    over = cable.length - found.most
    fits = over <= 0
    covered, zone = found.length * width, free_floor(plan).area
    sensor: tuple[XY, ...] = ()
    if found.strips:
        a, b, c, d = (np.array(corner) for corner in found.strips[0].corners)
        reach = min(TRADE.heating.sensor.value / found.strips[0].length, 1.0)
        begin, end = (a + d) / 2, (b + c) / 2
        ends = begin, begin + (end - begin) * reach
        sensor = tuple((round(float(x), 1), round(float(y), 1)) for x, y in ends)
        first = sensor[0]
    sentence = (
        f"Mat of {words.run(cable.length)} fits in {len(found.strips)} strips"
        if fits
        else f"Mat {words.run(over)} too long"
    )
    return HeatingResult(
        none_because="",
        field="",
        state="fits" if fits else "too long",
        sentence=sentence,
        detail=f"The free floor holds {words.run(found.most)} of a mat {words.length(width)} wide. "
        "Cut the mesh to turn it, never the cable.",
        cures=() if fits else _mat_cures(plan, words),
        length_text=words.run(cable.length),
        figures=(
            figure(
                "Heated area",
                covered,
                words.area(covered),
                "length of the mat × its width",
                [("free floor", words.area(zone)), ("mat", words.length(width))],
                source=TRADE.heating.from_wall.source,
                note=TRADE.heating.mats.note,
                unit="square_mm",
            ),
            *electric(
                words,
                cable,
                width,
                "power a metre ÷ width of the mat",
                ("mat", words.length(width)),
            ),
        ),
        route=(),
        mats=tuple(strip.corners for strip in found.strips),
        start=first,
        end=first,
        sensor=sensor,
        kept_free=free,
        notes=_notes(case, cable),
    )


def _mats(plan: Plan) -> Mats:
    cable = plan.heating
    assert cable is not None and cable.mat is not None
    way = along_longest(plan.room.outline)
    return mats(free_floor(plan), cable.length, cable.mat, way)


def _mat_cures(plan: Plan, words: Words) -> tuple[Cure, ...]:
    """What lets a mat fit; each was tried."""
    cable = plan.heating
    assert cable is not None
    step = 304.8 if words.display.imperial else 500.0
    length = floor(_mats(plan).most / step) * step
    names = {"room": "the room only", "both": "room and shower"}
    tried: list[tuple[str, float | str, str]] = [
        ("where", key, f"Heat {name}") for key, name in names.items() if key != cable.where
    ]
    if length > 0:
        tried.insert(0, ("length", length, f"Use a {words.run(length)} mat"))
    found = []
    for name, value, told in tried:
        changed = cable.model_copy(update={name: value})
        if changed.length <= _mats(plan.model_copy(update={"heating": changed})).most:
            found.append(Cure(text=told, changes=(Change(path=f"/heating/{name}", value=value),)))
    return tuple(found)


def fitted(plan: Plan) -> CableFit | None:
    """How far apart the runs of the plan's cable lie."""
    cable = plan.heating
    if cable is None:
        return None
    return fit(free_floor(plan), cable.length, *_asked(plan, cable))


def _asked(plan: Plan, cable: Heating) -> tuple[float, float, float, float | None]:
    """The way of the runs, radians, how near and how far they may be, and the studs: no nearer than
    a bend from one to the next can be."""
    least = max(cable.least, 2 * TRADE.heating.bend.value)
    return along_longest(plan.room.outline), least, max(cable.most, least), cable.stud


def _state(words: Words, cable: Heating, laid: CableFit) -> tuple[str, str, str]:
    apart = words.length(laid.over.apart)
    takes = f"This floor takes {_span(words, laid)}."
    if laid.long:
        over = cable.length - laid.most
        return (
            "too long",
            f"Cable {words.run(over)} too long",
            f"{takes} At the closest spacing, {apart}, that much is left over, and a cable is "
            "never shortened.",
        )
    if laid.short:
        short = laid.over.length - cable.length
        return (
            "too short",
            f"Cable {words.run(short)} too short",
            f"{takes} At the widest spacing, {apart}, it ends before the floor is covered: the "
            "rest stays cold.",
        )
    return (
        "fits",
        f"Spacing {apart} uses all {words.run(cable.length)}",
        takes,
    )


def _span(words: Words, laid: CableFit) -> str:
    if isinf(laid.most):
        return f"cables of {words.run(laid.least)} and more"
    if laid.most - laid.least < 100:
        return f"a cable of {words.run(laid.most)}"
    return f"cables from {words.run(laid.least)} to {words.run(laid.most)}"


def _cures(plan: Plan, words: Words, laid: CableFit) -> tuple[Cure, ...]:
    """What lets a cable fit; each was tried."""
    cable = plan.heating
    if not (laid.long or laid.short) or cable is None:
        return ()
    step = 304.8 if words.display.imperial else 100.0
    length = floor(laid.most / step) * step if laid.long else -floor(-laid.least / step) * step
    names = {"room": "the room only", "shower": "the shower only", "both": "room and shower"}
    tried: list[tuple[str, float | str, str]] = [
        ("length", length, f"Use a {words.run(length)} cable"),
    ]
    tried += [("where", key, f"Heat {name}") for key, name in names.items() if key != cable.where]
    found = []
    for name, value, told in tried:
        other = plan.model_copy(update={"heating": cable.model_copy(update={name: value})})
        if _takes(other):
            change = Change(path=f"/heating/{name}", value=value)
            found.append(Cure(text=told, changes=(change,)))
    return tuple(found)


def _takes(plan: Plan) -> bool:
    """Whether the floor takes a plan's cable."""
    cable = plan.heating
    assert cable is not None
    takes = span(free_floor(plan), *_asked(plan, cable))
    return takes is not None and takes[0] * KEPT <= cable.length <= takes[1]


def _figures(case: Case, cable: Heating, laid: CableFit, found: CableWay) -> tuple[Figure, ...]:
    words = case.words
    used = (cable.length - max(cable.length - laid.over.length, 0.0)) / laid.over.length
    area = laid.over.area * min(used, 1.0)
    zone = heated_zone(case.plan).area
    length = ("length of the cable", words.run(cable.length))
    return (
        figure(
            "Spacing",
            laid.over.apart,
            words.length(laid.over.apart),
            "the spacing at which one loop over the free floor is as long as the cable"
            if cable.stud is None
            else "whole studs at which one loop over the free floor is no shorter than the cable",
            [length, ("loop over the floor", words.run(laid.over.length))],
            source="Geometry of the floor",
        ),
        figure(
            "Heated area",
            area,
            words.area(area),
            "run length × spacing, on the floor less fixtures, drains and edges",
            [
                ("floor to heat", words.area(zone)),
                ("loop left without cable", words.run(found.left)),
            ],
            source=TRADE.heating.from_wall.source,
            note=f"Kept free: {words.length(TRADE.heating.from_wall.value)} at walls and fixtures, "
            f"{words.length(TRADE.heating.from_channel.value)} round a drain's body, "
            f"{words.length(TRADE.heating.from_outlet.value)} round its outlet.",
        ),
        *electric(
            words,
            cable,
            laid.over.apart,
            "power a metre ÷ spacing",
            ("spacing", words.length(laid.over.apart)),
        ),
    )


def _notes(case: Case, cable: Heating) -> tuple[str, ...]:
    words, board, bend = case.words, TRADE.heating.board, TRADE.heating.bend
    notes = [
        "An electrician connects the cable, behind residual-current protection, to local code. "
        "Never cut or shorten it; runs never cross or touch.",
        "Lay the cold joint flat under the tile, sunk flush. Fill every groove cut for it with "
        "adhesive, with a band over it. Lay the sensor in a tube, midway between two runs, so "
        "that it can be drawn out.",
        f"No bend tighter than {words.length(bend.value)} ({bend.source}).",
    ]
    if carrier_of(case.plan).timber:
        notes.append(
            f"On timber lay an incombustible board of {words.length(board.value)} first "
            f"({board.source}), and count it in the build-up."
        )
    if cable.lies == "under the membrane":
        notes.append(
            "Cable first: cover it level with adhesive or compound, let that cure, then the "
            "membrane. Count both in the build-up and in the days."
        )
    else:
        notes.append(
            "Membrane first, and tested: fix nothing through it. The cable lies in the tile "
            "adhesive, which gets thicker by the cable."
        )
    if cable.mat is not None:
        notes.append(
            "From one strip to the next lead the loose cable round drains and fixtures, where no "
            "run of the mat lies."
        )
    notes.append(
        "Read the resistance before laying, after laying and after tiling, and write each into the "
        "site log: damage then shows while the floor is open."
    )
    return tuple(notes)


def _parts(shape: BaseGeometry) -> list[Polygon]:
    return [part for part in shapely.get_parts(shape) if isinstance(part, Polygon)]


def _shapes(shapes: list[Polygon]) -> tuple[tuple[XY, ...], ...]:
    return tuple(
        tuple((round(float(x), 1), round(float(y), 1)) for x, y in shape.exterior.coords[:-1])
        for shape in shapes
    )
