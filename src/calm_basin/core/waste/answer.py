"""The waste's run in figures, along its profile, and what is not measured."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.answer.build import figure, input_of
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Figure
from calm_basin.core.falls.floor import points_of
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import carrier_of
from calm_basin.core.structure.footing import fitting_family, standing
from calm_basin.core.structure.passing import Passing
from calm_basin.core.waste.body import taken_out
from calm_basin.core.waste.near import shut
from calm_basin.core.waste.result import (
    PassedMark,
    Profile,
    RunMark,
    TimberCut,
    WasteResult,
)
from calm_basin.core.waste.riser import riser_card
from calm_basin.core.waste.run import Passed, Run
from calm_basin.core.waste.site import Site, run_of, site_of
from calm_basin.core.waste.trench import trench
from calm_basin.plan import Plan
from calm_basin.plan.sources import COMMON
from calm_basin.rules import TRADE

ARITHMETIC = "Geometry of the plan"

NO_WAY = "The waste does not get away like this"

DRAWN = 40.0
"""What is drawn below the lowest and above the highest thing of a profile, mm."""


def waste(case: Case) -> WasteResult:
    """Where the waste goes, the riser that it starts from, and the slab that is broken out for
    it."""
    site = site_of(case)
    way = None if site is None or site.in_timber else run_of(case, site)
    missing = tuple(_missing(case.plan))
    return WasteResult(
        run=None if site is None or way is None else _mark(case, site, way),
        figures=() if site is None or way is None else tuple(_figures(case, site, way)),
        missing=missing,
        reminders=_reminders(case.plan, way),
        riser=riser_card(case),
        trench=trench(case, way),
        verdict=_verdict(case, site, way, missing),
    )


def _missing(plan: Plan) -> list[str]:
    found = []
    if fitting_family(plan) is None:
        found.append("Choose the drain: its trap says at which level the pipe starts.")
    if plan.waste.stack is None:
        found.append(
            "Measure where the stack or branch is to check that the pipe reaches it with its fall."
        )
    elif any(path.startswith("/waste/stack/") for path in plan.assumed):
        found.append("Measure the place of the stack or branch: it is only assumed.")
    if "/waste/branch" in plan.assumed:
        found.append("Measure how low the branch is: it is only assumed.")
    if plan.waste.branch is None:
        found.append("Measure how low the branch is to check that the pipe still falls to it.")
    return found


def _verdict(case: Case, site: Site | None, way: Run | None, missing: tuple[str, ...]) -> str:
    if site is None:
        return "Waste run not checked yet"
    if site.in_timber:
        return "The waste run is worked out once the drain is clear of the floor"
    told = NO_WAY if way is None else _held_up(case, site, way)
    return told or "The waste gets away" + (", as far as it is measured" if missing else "")


def _held_up(case: Case, site: Site, way: Run) -> str:
    """What keeps the waste from getting away by a run, as a verdict; empty where nothing does."""
    ways = site.ways
    if not way.keeps(ways.level):
        return NO_WAY
    if taken_out(ways.ground, ways.pipe, way, TRADE.timber.guides_of(case.rules)):
        return NO_WAY
    return "A line in the floor is in the way of the waste pipe" if shut(case.plan, way) else ""


def _reminders(plan: Plan, way: Run | None) -> tuple[str, ...]:
    found = [
        "Whether the branch has to be vented, and how, is for the code and a licensed plumber.",
        "Test every joint for leaks before anything covers it.",
    ]
    if way is not None and way.passed and carrier_of(plan).timber:
        found.append(
            "Holes in joists are drilled, not sawn, and only where an engineer or the "
            "rule of thumb allows it."
        )
    if plan.shower.second_drain is not None:
        found.append("The second drain needs a run of its own: it is not laid here.")
    return tuple(found)


def _figures(case: Case, site: Site, way: Run) -> list[Figure]:
    words, fall = case.words, site.ways.ground.fall
    family = fitting_family(case.plan)
    trap = None if family is None else family.trap
    branch = case.plan.waste.branch
    found = [
        figure(
            "Pipe, from trap to stack",
            way.length,
            words.length(way.length, "up"),
            "length of the run on plan",
            [("bends", str(way.bends)), ("holes through joists", str(way.holes))],
            source=ARITHMETIC,
        ),
        figure(
            "Pipe's middle at the trap",
            site.start,
            words.length(site.start),
            "level of the deck, or of the base, that the drain stands on − depth of its trap",
            [
                input_of(words, "what the drain stands on", standing(case.plan, case.surface).deck),
                input_of(words, "trap", trap),
            ],
            source=COMMON,
            note="From the existing deck or slab top.",
        ),
        figure(
            "Pipe's centre at the stack",
            way.end,
            words.length(way.end),
            "level at the trap − fall × length − steps down before holes",
            [
                input_of(words, "at the trap", site.start),
                ("fall", words.fall(fall)),
                input_of(words, "length", way.length),
            ],
            source=ARITHMETIC,
            note="From the existing deck or slab top.",
        ),
    ]
    if branch is not None:
        left = way.end - branch
        found.append(
            figure(
                "Height to spare at the branch",
                left,
                words.length(left, "down"),
                "level at the stack − level of the branch",
                [input_of(words, "level at the stack", way.end), input_of(words, "branch", branch)],
                source=ARITHMETIC,
            )
        )
    return found


def _mark(case: Case, site: Site, way: Run) -> RunMark:
    plan = case.plan
    return RunMark(
        line=points_of(way.line),
        proposed=plan.waste.run is None,
        fits=not _held_up(case, site, way),
        passed=tuple(_passed(case, one) for one in way.passed),
        profile=_profile(plan, site, way),
    )


def _passed(case: Case, one: Passed) -> PassedMark:
    words, passing, timber = case.words, one.crossing.passing, one.crossing.timber
    beneath = passing.under is not None and one.level <= passing.under + 1e-9
    over = not np.isfinite(passing.high)
    hole = ""
    if one.fits and not beneath and passing.hole:
        hole = f"hole {words.length(passing.hole, 'up')}"
        if timber.made == "truss":
            hole = "between its webs"
        elif timber.made == "i_joist":
            hole += " in the web, by its maker's table"
    elif one.fits:
        hole = "above it" if over else "below it"
    limit = passing.refused
    if not limit and not over:
        limit = (
            f"pipe's middle {words.bare(-passing.high)} to {words.length(-passing.low)} below the "
            "deck"
        )
    return PassedMark(
        name=timber.name,
        at=(float(one.at[0]), float(one.at[1])),
        distance=one.distance,
        level=one.level,
        level_text=f"{words.length(-one.level)} below the deck",
        hole_text=hole,
        limit_text=limit,
        fits=one.fits,
    )


def _band(passing: Passing) -> tuple[float | None, float | None]:
    if passing.refused or not np.isfinite(passing.high):
        return None, None
    return passing.low, passing.high


def _profile(plan: Plan, site: Site, way: Run) -> Profile:
    carrier, timbers = carrier_of(plan), []
    for one in way.passed:
        timber = one.crossing.timber
        half = _half(way.line, one, timber.outline)
        low, high = _band(one.crossing.passing)
        timbers.append(
            TimberCut(
                name=timber.name,
                start=max(one.distance - half, 0.0),
                end=min(one.distance + half, way.length),
                top=timber.top,
                bottom=max(timber.bottom, timber.top - 400.0),
                low=low,
                high=high,
            )
        )
    ceiling, under = carrier.ceiling, carrier.thickness
    branch = plan.waste.branch
    radius = site.ways.pipe / 2
    lows = [float(way.levels[:, 1].min()) - radius, -under]
    lows += [ceiling] if ceiling is not None else []
    lows += [branch - radius] if branch is not None else []
    lows += [timber.bottom for timber in timbers]
    return Profile(
        length=way.length,
        pipe=site.ways.pipe,
        levels=points_of(way.levels),
        timbers=tuple(timbers),
        deck=under,
        ceiling=ceiling,
        branch=branch,
        top=DRAWN / 2,
        bottom=min(lows) - DRAWN,
    )


def _half(line: Array, one: Passed, outline: shapely.Geometry) -> float:
    """Half of how far the run lies inside a timber where it passes it."""
    inside = [
        part
        for part in shapely.get_parts(LineString(line).intersection(outline))
        if part.distance(shapely.Point(one.at)) < 1
    ]
    return sum(float(part.length) for part in inside) / 2
