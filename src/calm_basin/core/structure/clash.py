"""Whether the drain meets what is in the floor: by how much."""

from __future__ import annotations

from calm_basin.core.answer.build import broken, listed
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Place
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import DrainKind, carrier_of, drains_of
from calm_basin.core.structure.clearing import cures
from calm_basin.core.structure.footing import (
    fitting_family,
)
from calm_basin.core.structure.meeting import Met, met, reach
from calm_basin.core.structure.passing import notch_share
from calm_basin.plan import Plan
from calm_basin.rules import TRADE

CUT_BY = "Joists are structure (common practice, no source)"

PARTS = {"hole": "hole", "body": "body", "flange": "flange", "channel": "trough"}
"""What the parts of a drain are called."""


def clash(case: Case) -> list[Found]:
    """The drains against timbers and against lines that were found."""
    found = []
    for number, drain in enumerate(drains_of(case.plan)):
        all_met = met(case.plan, case.surface, drain)
        for served in (False, True):
            several = [one for one in all_met if one.way.service is served]
            if several:
                found.append(_told(case, drain, number, several))
    return found


def _told(case: Case, drain: DrainKind, number: int, several: list[Met]) -> Found:
    plan, words = case.plan, case.words
    served = several[0].way.service
    names = list(dict.fromkeys(one.way.what for one in several))
    parts = list(dict.fromkeys(one.way.part for one in several))
    worst = max(several, key=lambda one: one.by)
    at, by = drain.outlet, words.length(worst.by, "up")
    what = f"The drain's {listed([PARTS[part] for part in parts])}"
    if fitting_family(plan) is None:
        what = "The waste pipe itself"
    deep = max((reach(case, m) for m in several if m.way.solid.below == "rim"), default=0.0)
    need = "needs" if len(parts) == 1 else "need"
    beside = f" and {need} {words.length(deep, 'up')} more depth than there is" if deep > 0 else ""
    one = len(parts) == 1
    if served:
        title = f"{what} {by} too close to {listed(names)}"
        detail = "Have a licensed trade move the line, or move the drain."
    else:
        title = f"{what} sit{'s' if one else ''} on {listed(names)}"
        detail = (
            f"{'It overlaps' if one else 'They overlap'} the timber by {by}{beside}. "
            f"{_never(plan)}{_notch(case, deep, at)} Move the drain, or have an engineer frame "
            "round it."
        )
    finding = broken(
        words,
        code="drain_near_service" if served else "drain_on_timber",
        severity="stop",
        title=title,
        detail=detail,
        value=worst.by,
        limit=0.0,
        asked="clear of it",
        applies_to="second drain" if number else "drain",
        source="What was found in the floor" if served else CUT_BY,
        field="/waste/family",
        places=tuple(
            Place(
                name=f"{PARTS[one.way.part]}, {one.way.what}",
                x=float(at[0]),
                y=float(at[1]),
                measured=one.by,
                text=words.length(one.by, "up"),
            )
            for one in several
        ),
    )
    return Found(finding, lambda: cures(case, drain, number, several), each=True)


def _notch(case: Case, deep: float, at: Array) -> str:
    """How a notch of this depth at a place stands to each rule of thumb, for whoever asks an
    engineer."""
    joists, words = carrier_of(case.plan).joists, case.words
    if joists is None or joists.joist != "sawn" or deep <= 0:
        return ""
    told = []
    for guide in TRADE.timber.guides_of(case.rules):
        share = notch_share(joists, guide, at)
        notch = f" As a notch of {words.length(deep, 'up')} it would be "
        if share == 0:
            told.append(f"{notch}where none may be ({guide.source}).")
            continue
        most = (guide.notch if share is None else share) * joists.depth
        keeps = "within" if deep <= most + 1e-6 else "deeper than"
        where = f"from {guide.notch_from:.0%} to {guide.notch_to:.0%} of the span"
        if share is not None:
            where = "at the end of the span" if share == guide.end_notch else "at this place of it"
        told.append(
            f"{notch}{keeps} the {words.limit(most)} of the rule of thumb, {where} "
            f"({guide.source})."
        )
    return "".join(told)


def _never(plan: Plan) -> str:
    joists = carrier_of(plan).joists
    made = "sawn" if joists is None else joists.joist
    if made == "i_joist":
        return "The flange of an I-joist is never cut or notched."
    return "A truss is never cut." if made == "truss" else "Joists are not cut by this plan."
