"""The verdict on an entry of the site log, with the sum and the source that it goes by."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.build import GEOMETRY
from calm_basin.core.answer.result import Result
from calm_basin.core.answer.words import Words
from calm_basin.core.as_built.answer import as_built
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.falls.limits import fall_limits
from calm_basin.core.site_log.entries import (
    Cable,
    ConnectionTest,
    Delivered,
    DrainageTest,
    Entry,
    FallChecked,
    FloodTest,
    Hold,
    LeakTest,
    LevelsRead,
    Moisture,
    Pocket,
    Riser,
)
from calm_basin.plan import Plan
from calm_basin.rules import TRADE, RuleSet
from calm_basin.rules.trade.sourced import Value

State = Literal["holds", "fails", "open", "none"]


class Verdict(Result):
    """Whether what was read holds: ``open`` where the reading alone cannot tell, or something is
    still to be read; ``none`` for what is not judged. ``why`` is the sum in words, ``cure`` what to
    do."""

    state: State
    text: str
    why: str
    cure: str
    source: str


NONE = Verdict(state="none", text="", why="", cure="", source="")


def judged(entry: Entry, plan: Plan, rules: RuleSet, words: Words) -> Verdict:
    """The verdict on an entry, in the units of the job."""
    if isinstance(entry, LevelsRead):
        return _levels(entry, plan, rules, words)
    if isinstance(entry, Pocket):
        return _pocket(entry, words)
    if isinstance(entry, Riser):
        return _riser(entry, words)
    if isinstance(entry, Hold):
        return _verdict("holds", "Signed", "The person who signed answers for it", "")
    if isinstance(entry, FallChecked):
        return _fall(entry, rules, words)
    if isinstance(entry, LeakTest):
        return _leak(entry, words)
    if isinstance(entry, ConnectionTest):
        return _connection(entry)
    if isinstance(entry, FloodTest):
        return _flood(entry, words)
    if isinstance(entry, DrainageTest):
        return _drainage(entry, words)
    if isinstance(entry, Cable):
        return _cable(entry)
    if isinstance(entry, Moisture):
        return _moisture(entry)
    return _delivered(entry, words) if isinstance(entry, Delivered) else NONE


def _verdict(state: State, text: str, why: str, cure: str, *by: Value) -> Verdict:
    sources = dict.fromkeys(one.source for one in by)
    return Verdict(state=state, text=text, why=why, cure=cure, source="; ".join(sources))


def _fall(entry: FallChecked, rules: RuleSet, words: Words) -> Verdict:
    """A fall is known only as well as it was read: near a limit it is open."""
    fall = entry.drop / entry.run
    spread = entry.error / entry.run
    why = (
        f"{words.length(entry.drop)} over {words.length(entry.run)} is "
        f"{words.fall(fall) if fall > 0 else 'no fall'}, read to {words.length(entry.error)}"
    )
    if fall + spread <= 0:
        cure = "Grind or fill before anything covers it."
        return Verdict(
            state="fails", text="It does not fall", why=why, cure=cure, source="Geometry"
        )
    limits = [one for one in fall_limits(rules) if one.topic == "shower_fall" and not one.users]
    state: State = "holds"
    told, cure, source = "The fall is kept", "", "; ".join(one.source for one in limits)
    for limit in limits:
        over = fall - limit.value if limit.binds == "at_most" else limit.value - fall
        much = "steep" if limit.binds == "at_most" else "flat"
        if over > spread:
            cure = "Grind or fill before anything covers it."
            return Verdict(
                state="fails", text=f"Too {much}", why=why, cure=cure, source=limit.source
            )
        if over > -spread:
            state, told = "open", f"It may be too {much}"
            cure, source = "Read it over a longer run, or finer.", limit.source
    return Verdict(state=state, text=told, why=why, cure=cure, source=source)


def _leak(entry: LeakTest, words: Words) -> Verdict:
    tests = TRADE.site_tests
    head, air, least = tests.leak_water_head, tests.leak_air, tests.leak_minutes
    why = f"{entry.minutes:g} min of {least.value:g}"
    if entry.head is not None:
        why += f", water {words.length(entry.head)} of {words.length(head.value)}"
    if entry.pressure is not None:
        why += f", air {entry.pressure:g} kPa of {air.value:g}"
    if entry.after is not None:
        why += f", at the end {entry.after:g} kPa"
    if not entry.dry:
        return _verdict("fails", "A joint leaks", why, "Mend the joint and test again.", least)
    fell = entry.pressure is not None and entry.after is not None and entry.after < entry.pressure
    if fell:
        return _verdict("fails", "The pressure fell", why, "Find the leak and test again.", air)
    enough = (entry.head or 0.0) >= head.value - 1e-6 or (entry.pressure or 0.0) >= air.value
    if not enough or entry.minutes < least.value:
        cure = "Test again at the full head or pressure, for the full time."
        return _verdict("open", "Not long or not high enough", why, cure, head, air, least)
    if entry.pressure is not None and entry.after is None and entry.head is None:
        return _verdict("open", "Not read at the end", why, "Read the gauge again.", air)
    return _verdict("holds", "The joints hold", why, "", head, air, least)


def _connection(entry: ConnectionTest) -> Verdict:
    least = TRADE.site_tests.connection_minutes
    why = f"{entry.minutes:g} min of {least.value:g}"
    if not entry.dry:
        return _verdict("fails", "It leaks", why, "Seal it again before it is covered.", least)
    if entry.minutes < least.value:
        return _verdict("open", "Not long enough", why, "Wait, and look again.", least)
    return _verdict("holds", "The connection holds", why, "", least)


def _flood(entry: FloodTest, words: Words) -> Verdict:
    """By the mark and by the moisture beside it; what evaporates does not count."""
    tests = TRADE.site_tests
    least, height = tests.flood_hours, tests.flood_height
    usual, error, moist = tests.evaporation, tests.mark_error, tests.moisture_error
    evaporated = entry.evaporated
    if evaporated is None:
        evaporated = usual.value * entry.hours / 24
    lost = entry.first - entry.last
    more = lost - evaporated
    why = (
        f"{words.length(entry.first)} at the drain, after {entry.hours:g} h "
        f"{words.length(entry.last)}: {words.length(abs(lost))} "
        f"{'less' if lost >= 0 else 'more'}, of which {words.length(evaporated)} may evaporate; "
        f"a mark is read to {words.length(error.value)}"
    )
    wetter = None
    if entry.moist_before is not None and entry.moist_after is not None:
        wetter = entry.moist_after - entry.moist_before
        why += f"; moisture {entry.moist_before:g} % and {entry.moist_after:g} %"
    by = (least, height, usual, error, moist)
    rate = evaporated / entry.hours if entry.hours > 0 else 0.0
    for hours, read in sorted(entry.between):
        if entry.first - read - rate * hours > error.value + 1e-9:
            why += f"; after {hours:g} h {words.length(read)}"
            cure = "Find the leak before any tile is laid: dry, seal, and flood again."
            return _verdict("fails", f"Water is lost within {hours:g} h", why, cure, *by)
    if more > error.value + 1e-9:
        cure = "Find the leak before any tile is laid: dry, seal, and flood again."
        return _verdict("fails", "Water is lost", why, cure, *by)
    if wetter is not None and wetter > moist.value + 1e-9:
        cure = "Find where it gets wet, whatever the mark says, and flood again."
        return _verdict("fails", "It gets wetter beside it", why, cure, *by)
    if lost < -error.value - 1e-9:
        cure = "Water came in: close the head, and begin again."
        return _verdict("open", "The water rose", why, cure, *by)
    if entry.hours < least.value or entry.first < height.value - error.value - 1e-9:
        cure = (
            f"It stands {least.value:g} h or more, {words.length(height.value)} deep at the drain."
        )
        return _verdict("open", "Not long or not high enough", why, cure, *by)
    if wetter is None:
        cure = "Read the moisture beside it before and after, too."
        return _verdict("holds", "The floor holds, by its mark alone", why, cure, *by)
    return _verdict("holds", "The floor holds", why, "", *by)


def _drainage(entry: DrainageTest, words: Words) -> Verdict:
    most, stands = TRADE.site_tests.drained_minutes, TRADE.site_tests.stands
    why = f"{entry.litres:g} L gone in {entry.minutes:g} min; {words.length(entry.stands)} stand"
    if entry.stands > stands.value + 1e-9:
        cure = "Mark the place, and fill or grind it while it can be done."
        return _verdict("fails", "Water stands", why, cure, stands)
    if entry.minutes > most.value:
        cure = "Look for what is in its way: trap, grate, a fall that is too flat."
        return _verdict("fails", "It runs off too slowly", why, cure, most)
    return _verdict("holds", "It runs off", why, "", most, stands)


def _cable(entry: Cable) -> Verdict:
    usual = TRADE.site_tests.cable_tolerance
    tolerance = usual.value if entry.tolerance is None else entry.tolerance
    read = {"before laying": entry.before, "laid": entry.laid, "tiled": entry.tiled}
    off = {
        name: 100 * (value - entry.label) / entry.label
        for name, value in read.items()
        if value is not None
    }
    shown = ", ".join(f"{name} {read[name]:g} Ω ({share:+.1f} %)" for name, share in off.items())
    why = f"{entry.label:g} Ω by its label, within {tolerance:g} %: {shown}"
    wrong = [name for name, share in off.items() if abs(share) > tolerance + 1e-9]
    if wrong:
        cure = "Stop. An electrician finds out why before it is covered."
        return _verdict("fails", f"Out of its tolerance: {', '.join(wrong)}", why, cure, usual)
    missing = [name for name, value in read.items() if value is None]
    if missing:
        cure = f"Still to be read: {', '.join(missing)}."
        return _verdict("open", "Within its tolerance so far", why, cure, usual)
    return _verdict("holds", "Within its tolerance all three times", why, "", usual)


def _moisture(entry: Moisture) -> Verdict:
    why = f"{entry.reading:g} % of at most {entry.limit:g} %"
    if entry.reading > entry.limit + 1e-9:
        return _verdict("fails", "Too wet", why, "Wait, warm and air it, and read again.")
    return _verdict("holds", "Dry enough", why, "")


def _delivered(entry: Delivered, words: Words) -> Verdict:
    most = TRADE.site_tests.part_tolerance
    off = entry.measured - entry.planned
    why = (
        f"{words.length(entry.measured)} measured, {words.length(entry.planned)} planned: "
        f"{words.length(abs(off))} off"
    )
    if abs(off) > most.value + 1e-9:
        cure = "Change the plan to what came, or send it back, before anything is cut."
        return _verdict("fails", "It is not what was planned", why, cure, most)
    return _verdict("holds", "It is what was planned", why, "", most)


def _levels(entry: LevelsRead, plan: Plan, rules: RuleSet, words: Words) -> Verdict:
    """What was read in this entry alone against the plan; the step As built judges all of them."""
    try:
        surface = surface_of(plan)
    except NoSurfaceError as reason:
        return Verdict(state="open", text="Not judged", why=str(reason), cure="", source="")
    found = as_built(plan, rules, words, surface, entry.layer, entry.heights, entry.error)
    said = {
        "holds": "Built as planned",
        "fails": "Out of its limits",
        "open": "Near a limit, or too few readings",
    }
    state = found.state or "open"
    worst = [
        f"{plane.name}: {plane.text.lower()}" for plane in found.planes if plane.state == state
    ]
    why = "; ".join([found.sentence.rstrip("."), *worst, *(step.text for step in found.steps)])
    cure = "" if state == "holds" else "See As built: where it is out, and what brings it back."
    return Verdict(state=state, text=said[state], why=why, cure=cure, source=GEOMETRY)


def _pocket(entry: Pocket, words: Words) -> Verdict:
    tests = TRADE.site_tests
    slack, square, plumb = tests.pocket_slack, tests.pocket_square, tests.pocket_plumb
    spare = {"width": entry.width - entry.asked_width, "depth": entry.depth - entry.asked_depth}
    why = ", ".join(
        f"{name} {words.length(getattr(entry, name))}, "
        f"{words.length(getattr(entry, f'asked_{name}'))} required"
        for name in spare
    )
    short = [name for name, over in spare.items() if over < -1e-6]
    if short:
        most = words.length(-min(spare.values()), "up")
        cure = f"Widen the pocket by {most}, or take a smaller unit, before anything is carried in."
        return _verdict("fails", f"Too small in {' and '.join(short)}", why, cure, slack)
    cures = [
        f"Fur out the {name} by {words.length(over - slack.value, 'up')}, or shim the unit."
        for name, over in spare.items()
        if over > slack.value + 1e-6
    ]
    if entry.diagonal is not None and entry.other_diagonal is not None:
        off = abs(entry.diagonal - entry.other_diagonal)
        why += f"; diagonals {words.length(off)} apart"
        if off > square.value + 1e-6:
            cures.append("It is out of square: fur one side to a wedge, and measure again.")
    if entry.lean is not None:
        why += f"; studs {words.length(entry.lean)} out of plumb"
        if entry.lean > plumb.value + 1e-6:
            most = words.length(entry.lean, "up")
            cures.append(f"Fur the studs plumb, up to {most}, or shim the unit forward.")
    by = (slack, square, plumb)
    if cures:
        return _verdict("fails", "Not accepted yet", why, " ".join(cures), *by)
    if entry.diagonal is None or entry.other_diagonal is None or entry.lean is None:
        cure = "Measure both diagonals, and hold a level to the studs."
        return _verdict("open", "The opening is right", why, cure, *by)
    return _verdict("holds", "The pocket is right", why, "", *by)


def _riser(entry: Riser, words: Words) -> Verdict:
    tests = TRADE.site_tests
    wiggle, fine, leans = tests.riser_wiggle, tests.riser_cut, tests.riser_lean
    over = entry.top - entry.asked
    why = (
        f"top {words.length(entry.top)}, {words.length(entry.asked)} required, centre "
        f"{words.length(entry.off)} off, leans by {words.length(entry.lean)}"
    )
    by = (wiggle, fine, leans)
    if entry.off > wiggle.value + 1e-6:
        cure = "Move the pipe before the floor is closed, or lay the tray out from where it is."
        return _verdict("fails", "Its centre is too far off", why, cure, *by)
    if entry.lean > leans.value + 1e-6:
        return _verdict("fails", "It leans", why, "Set the pipe plumb, then measure again.", *by)
    if over < -fine.value - 1e-6:
        cure = (
            f"It is {words.length(-over, 'up')} too low and can never seal: a plumber adds a "
            "coupling and a new piece."
        )
        return _verdict("fails", "Too low", why, cure, *by)
    if over > fine.value + 1e-6:
        cure = f"Cut {words.length(over)} off, with an inside pipe cutter if it is covered."
        return _verdict("open", f"Cut {words.length(over)} off", why, cure, *by)
    return _verdict("holds", "The riser is right", why, "", *by)
