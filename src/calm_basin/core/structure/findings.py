"""Findings on what carries the floor: how far joists bend, and what a slab forbids."""

from __future__ import annotations

import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.build import TO_SIGN, broken, listed, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Place
from calm_basin.core.geometry.levels import levels
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.structure.joists import timbers_of
from calm_basin.core.structure.stiffness import bed_load, spans
from calm_basin.plan import Plan
from calm_basin.plan.sources import COMMON
from calm_basin.rules import TRADE
from calm_basin.rules.trade.timber import load_text
from calm_basin.tolerances import UNSEEN


def stiff(case: Case) -> list[Found]:
    """Sawn joists that span farther than tile is laid on by rule of thumb."""
    joists, words = carrier_of(case.plan).joists, case.words
    if joists is None or joists.span is None or joists.joist != "sawn":
        return []
    rule = TRADE.timber.stiffness[0]
    both = spans(joists, rule.share, bed_load(former_of(case.plan.shower)))
    most = both.most
    if joists.span <= most + 1e-6:
        return []
    load = load_text(TRADE.timber.live_load.value)
    why = f"Under {load} they bend more than a {rule.share:g}th of their span"
    if both.strong < both.stiff:
        why = (
            f"With the floor's own weight and {load} on it they are loaded beyond the strength of "
        )
        why += TRADE.timber.grade.name
    finding = broken(
        words,
        code="joists_bend",
        severity="caution",
        title=f"Joists span too far for tile: {words.length(joists.span, 'up')}, "
        f"limit {words.limit(most)}",
        detail=f"{why}: {rule.name} is laid on joists of this size up to {words.limit(most)}. "
        "Whether to double them, add some or carry them in between is for an engineer.",
        value=joists.span,
        limit=most,
        applies_to="the joists under tile",
        source=rule.source if both.stiff <= both.strong else TRADE.timber.grade.source,
        field="/floor/span",
    )
    return [Found(finding)]


def unsigned(plan: Plan) -> str:
    """For which joists an engineer has to sign yet, in words; empty: for none."""
    joists = carrier_of(plan).joists
    if joists is None or joists.signed is not None:
        return ""
    planned = {other.number for other in joists.others if other.planned}
    if not planned:
        return ""
    names = {t.name for t in timbers_of(plan) if t.kind == "joist" and t.index in planned}
    be = "is" if len(planned) == 1 else "are"
    return f"An engineer has to sign before {listed(sorted(names) or ['a joist'])} {be} cut"


def to_sign(case: Case) -> list[Found]:
    """Joists that are planned to be cut, until an engineer has signed for it."""
    title = unsigned(case.plan)
    if not title:
        return []
    finding = unmeasured(
        TO_SIGN,
        "stop",
        title,
        "Nobody has checked that the joists carry it. Enter the engineer's name and the date with "
        "the joists; cut nothing before.",
        applies_to="the joists",
        source=COMMON,
        field="/floor/signed",
    )
    return [Found(finding)]


def slab(case: Case) -> list[Found]:
    """What must not be cut in a slab."""
    plan, words, floor = case.plan, case.words, carrier_of(case.plan).slab
    if floor is None:
        return []
    recess, found = levels(plan, case.surface).recess, []
    cut = recess > UNSEEN or plan.waste.family is not None
    if floor.reinforcement == "post_tensioned" and cut:
        found.append(
            unmeasured(
                "slab_post_tensioned",
                "stop",
                "The slab is post-tensioned: nothing is cut",
                "A cable that is cut lets go with all its force, and the slab loses what holds it. "
                "No recess, no core and no trench before an engineer has scanned the slab and said "
                "where. Raise the room instead, or pack the shower up.",
                applies_to="the slab",
                source=COMMON,
                field="/floor/reinforcement",
            )
        )
    if recess >= floor.thickness:
        found.append(
            broken(
                words,
                code="slab_cut_through",
                severity="stop",
                title=f"Recess {words.length(recess - floor.thickness, 'up')} deeper than the "
                "slab is thick",
                detail=f"{words.length(recess, 'up')} would be cut out of "
                f"{words.length(floor.thickness)}. Raise the room, or ask an engineer for a slab "
                "laid lower.",
                value=recess,
                limit=floor.thickness,
                applies_to="the slab",
                source="Geometry of the plan",
                field="/floor/thickness",
            )
        )
    elif floor.membrane is not None and recess >= floor.membrane:
        found.append(
            broken(
                words,
                code="slab_membrane_cut",
                severity="stop",
                title=f"Recess cuts {words.length(recess - floor.membrane, 'up')} past the "
                "damp-proof membrane",
                detail=f"It lies {words.length(floor.membrane)} below the slab's top and "
                "has to be made good when the slab is built up again; raise the room to keep clear "
                "of it.",
                value=recess,
                limit=floor.membrane,
                applies_to="the damp-proof membrane",
                source="Geometry of the plan",
                field="/floor/membrane",
            )
        )
    return [Found(finding) for finding in found] + _heating(case, recess)


def _heating(case: Case, recess: float) -> list[Found]:
    """Lines that were found in the slab where the recess is cut."""
    plan, words = case.plan, case.words
    zone, found = Polygon(plan.shower.outline), []
    for number, service in enumerate(plan.services):
        line = LineString(service.points).intersection(zone)
        deep = service.depth is None or service.depth - service.clearance < recess
        if recess <= UNSEEN or line.is_empty or not deep:
            continue
        at = shapely.get_coordinates(line.centroid)[0]
        found.append(
            broken(
                words,
                code="line_in_recess",
                severity="stop",
                title=f"{service.name} in the way of the recess",
                detail="Its depth is not measured: have it found and marked before anything is cut."
                if service.depth is None
                else f"It lies {words.length(service.depth)} deep and is to be kept "
                f"{words.length(service.clearance)} clear of.",
                value=recess,
                limit=0.0 if service.depth is None else service.depth - service.clearance,
                asked="" if service.depth is not None else "not measured",
                applies_to=service.name,
                source="What was found in the floor",
                field=f"/services/{number}",
                places=(
                    Place(
                        name=service.name,
                        x=float(at[0]),
                        y=float(at[1]),
                        measured=recess,
                        text=words.length(recess, "up"),
                    ),
                ),
            )
        )
    return [Found(finding) for finding in found]
