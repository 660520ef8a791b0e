"""Findings on the waste: whether the pipe gets away, at every timber that it passes."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

import numpy as np

from calm_basin.core.answer.build import broken, off_limit, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure, Place
from calm_basin.core.falls.drains import all_places, movable, move_to
from calm_basin.core.falls.limits import fitting
from calm_basin.core.geometry.levels import drain_stands_on
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.core.structure.clearing import free_places, other_families
from calm_basin.core.structure.footing import fitting_family
from calm_basin.core.waste.body import taken_out
from calm_basin.core.waste.run import Run
from calm_basin.core.waste.site import Site, propose, run_of, site_of
from calm_basin.rules import TRADE

SOURCE = "Geometry of the plan"


def family(case: Case) -> list[Found]:
    """A drain that is not for the drain that the plan has."""
    chosen, kind = case.plan.waste.family, case.plan.shower.drain.kind
    if chosen is None or chosen.drain == kind:
        return []
    wanted = drain_kind(case.plan.shower.drain).family_name
    finding = unmeasured(
        "family_other_drain",
        "caution",
        f"{chosen.name} is not for a {wanted}",
        "Choose one that is, to check its hole, body and riser.",
        applies_to="drain",
        source=chosen.source,
        field="/waste/family",
    )
    return [Found(finding, lambda: other_families(case.plan, lambda one: one.trap))]


def pipe_fall(case: Case) -> list[Found]:
    """The pipe's fall against the rules."""
    water, words, found = case.plan.water, case.words, []
    for limit in case.rules.on_pipe("pipe_fall", water.pipe_diameter):
        least = limit.binds == "at_least"
        off = limit.value - water.pipe_fall if least else water.pipe_fall - limit.value
        if off <= limit.value * 1e-6:
            continue
        finding = off_limit(
            words,
            limit,
            code="pipe_fall_off",
            title=f"Waste pipe too {'flat' if least else 'steep'}: "
            f"{words.fall_off(water.pipe_fall, limit.value)}, "
            f"limit {words.fall_limit(limit.value)}",
            detail=f"{'At least' if least else 'No more than'} {words.fall_limit(limit.value)} is "
            "required. A licensed plumber decides.",
            value=water.pipe_fall,
            field="/water/pipe_fall",
        )
        cure = Cure(
            text=f"Lay the pipe at {words.fall(limit.value)}",
            changes=(Change(path="/water/pipe_fall", value=limit.value),),
        )
        found.append(Found(finding, lambda cure=cure: [cure]))  # type: ignore[misc]
    return found


def run(case: Case) -> list[Found]:
    """The run: whether it meets the stack, passes timbers where it may, and is not too long.

    Where the plan does not lay it, there is a run just where the pipe may start so low.
    """
    site = site_of(case)
    if site is None or site.in_timber:
        return []
    if case.plan.waste.run is not None:
        way = run_of(case, site)
        assert way is not None
        missing = site.ways.level - way.end
        told = [*_timbers(case, way), *_bodies(case, site, way), *_holes(case, way)]
        return [*told, *_length(case, way.length), *_reach(case, site, missing)]
    needed, length = site.ways.need(site.outlet)
    way = run_of(case, site)
    bodies = []
    if way is not None:
        length, bodies = max(length, way.length), _bodies(case, site, way)
    found = _length(case, length) if np.isfinite(length) else []
    return [*bodies, *found, *_reach(case, site, needed - site.start)]


def _reach(case: Case, site: Site, missing: float) -> list[Found]:
    words, ways, laid = case.words, site.ways, case.plan.waste.run is not None
    if missing <= 1e-6:
        return []
    lands = "the branch" if ways.branch else "the room over the ceiling"
    if np.isfinite(missing):
        title = f"Waste pipe {words.length(missing, 'up')} too low for {lands}"
        detail = (
            "By the best way it would have to leave its trap so much higher"
            if not laid
            else "Laid like this it would have to leave its trap so much higher"
        )
        value = missing
    else:
        title, value = "No way for the waste pipe to the stack", 0.0
        detail = "Every way is shut by what is in the floor"
    finding = broken(
        words,
        code="waste_cannot_reach",
        severity="stop",
        title=title,
        detail=f"{detail}. A pipe that does not fall stands full; a licensed plumber decides.",
        value=value,
        limit=0.0,
        asked="reach the stack with its fall",
        applies_to="waste pipe",
        source=SOURCE,
        field="/waste/branch",
        places=(
            Place(
                name="outlet",
                x=float(site.outlet[0]),
                y=float(site.outlet[1]),
                measured=value,
                text=words.length(value, "up"),
            ),
        ),
    )
    return [Found(finding, lambda: _nearer(case, site, missing), each=True)]


def _nearer(case: Case, site: Site, missing: float) -> Iterator[Cure | None]:
    """Changes that let the pipe get away."""
    plan, words = case.plan, case.words
    if plan.waste.run is not None:
        yield from propose()
    least = case.rules.least_pipe_fall(plan.water.pipe_diameter) or 1 / 100
    if plan.water.pipe_fall > least * (1 + 1e-6):
        yield Cure(
            text=f"Lay the pipe at {words.fall(least)}, the least that is allowed",
            changes=(Change(path="/water/pipe_fall", value=least),),
        )
    yield _nearest_that_reaches(case, site)
    yield from other_families(plan, lambda one: one.trap)
    if np.isfinite(missing) and former_of(plan.shower).one_piece:
        raised = former_of(plan.shower).raised + words.up(missing)
        yield Cure(
            text=f"Pack the tray up {words.length(raised)}",
            changes=(Change(path="/shower/former/raised", value=raised),),
        )


def _nearest_that_reaches(case: Case, site: Site) -> Cure | None:
    """The nearest place for a point drain that is free, keeps the falls, and from which the pipe
    gets away."""
    plan, words, drain = case.plan, case.words, movable(case.plan.shower)
    chosen = fitting_family(plan)
    if drain is None or chosen is None:
        return None
    places, gradients, drops = all_places(plan.shower, words.display.step)
    good = fitting(case.rules, gradients, case.surface.zone("rest"))
    bases, good = free_places(case, places, drops, good)
    needed, _ = site.ways.needs(places)
    good &= needed <= drain_stands_on(plan, bases) - chosen.trap + 1e-6
    if not good.any():
        return None
    apart = np.linalg.norm(places - np.array(drain.centre), axis=1)
    apart[~good] = np.inf
    return move_to(places[int(apart.argmin())], np.array(drain.centre), words)


def _timbers(case: Case, way: Run) -> list[Found]:
    """Timbers that the run does not pass where it may."""
    words, found = case.words, []
    for one in way.passed:
        passing, timber = one.crossing.passing, one.crossing.timber
        if one.fits:
            continue
        if passing.refused:
            off, why = 0.0, passing.refused
        elif not passing.at(one.crossing.along):
            off, why = 0.0, "no hole may be at this place of its span"
        else:
            off = passing.low - one.level
            why = f"the pipe lies {words.length(off, 'up')} too low for a hole there"
        depth = words.length(-one.level)
        found.append(
            broken(
                words,
                code="pipe_meets_timber",
                severity="stop",
                title=f"Waste pipe cannot pass {timber.name}: {why}",
                detail=f"Its centre is {depth} below the deck there. "
                + (
                    "Holes in I-joists are their maker's; flanges are never cut. "
                    if timber.made == "i_joist"
                    else ""
                )
                + "An engineer decides on anything beyond the rule.",
                value=off,
                limit=0.0,
                asked="a hole within the rule",
                applies_to=f"waste pipe at {timber.name}",
                source=_guides(case),
                field="/waste/run",
                places=(
                    Place(
                        name=timber.name,
                        x=float(one.at[0]),
                        y=float(one.at[1]),
                        measured=off,
                        text=depth,
                    ),
                ),
            )
        )
    return [Found(finding, propose) for finding in found]


def _bodies(case: Case, site: Site, way: Run) -> list[Found]:
    """Timbers of which the pipe takes out more than may be drilled."""
    words, found = case.words, []
    refused = {one.crossing.timber for one in way.passed if not one.fits}
    guides = TRADE.timber.guides_of(case.rules)
    for taken in taken_out(site.ways.ground, site.ways.pipe, way, guides):
        timber = taken.timber
        if timber in refused:
            continue
        if taken.crosses and not taken.most:
            title = f"Waste pipe cuts into {timber.name}"
            why = f"Its body is in it over {words.length(taken.length, 'up')}"
        elif taken.crosses:
            title = f"Waste pipe crosses {timber.name} at an angle"
            why = f"It cuts {words.length(taken.length, 'up')} out along the timber"
            why += (
                "" if timber.made != "sawn" else f", no more than {words.limit(taken.most)} by rule"
            )
        else:
            title = f"Waste pipe lies in {timber.name} lengthwise"
            why = f"Its body is in it over {words.length(taken.length, 'up')}"
        found.append(
            broken(
                words,
                code="pipe_meets_timber",
                severity="stop",
                title=title,
                detail=f"{why}. Cross it square, or keep the whole pipe beside it. An engineer "
                "decides on anything beyond the rule.",
                value=taken.length,
                limit=taken.most if taken.crosses else 0.0,
                asked="a hole within the rule",
                applies_to=f"waste pipe at {timber.name}",
                source=_guides(case),
                field="/waste/run",
                places=(
                    Place(
                        name=timber.name,
                        x=taken.at[0],
                        y=taken.at[1],
                        measured=taken.length,
                        text=words.length(taken.length, "up"),
                    ),
                ),
            )
        )
    return [Found(finding, propose) for finding in found]


def _holes(case: Case, way: Run) -> list[Found]:
    """Holes of one run that are too near to each other in one timber."""
    words, guides, found = case.words, TRADE.timber.guides_of(case.rules), []
    drilled = [one for one in way.passed if one.fits and one.crossing.passing.hole > 0]
    for one, other in combinations(drilled, 2):
        timber = one.crossing.timber
        if timber != other.crossing.timber or timber.made != "sawn":
            continue
        apart = float(np.hypot(*(one.at - other.at)))
        guide = max(guides, key=lambda guide: guide.spacing(one.crossing.passing.hole))
        least = guide.spacing(one.crossing.passing.hole)
        if apart >= least - 1e-6:
            continue
        finding = broken(
            words,
            code="holes_too_near",
            severity="stop",
            title=f"Holes in {timber.name} too close: {words.length(apart, 'down')} apart, limit "
            f"{words.limit(least)}",
            detail=f"At least {words.limit(least)} from middle to middle is the rule of thumb. An "
            "engineer decides on anything beyond it.",
            value=apart,
            limit=least,
            binds="at_least",
            applies_to=f"waste pipe at {timber.name}",
            source=guide.source,
            field="/waste/run",
        )
        found.append(Found(finding, propose))
    return found


def _guides(case: Case) -> str:
    return "; ".join(guide.source for guide in TRADE.timber.guides_of(case.rules))


def _length(case: Case, length: float) -> list[Found]:
    words = case.words
    return [
        Found(
            off_limit(
                words,
                limit,
                code="pipe_too_long",
                title=f"Waste pipe too long: {words.length(length, 'up')}, "
                f"limit {words.limit(limit.value)}",
                detail=f"No more than {words.limit(limit.value)} for {limit.applies_to}. A "
                "licensed plumber decides on venting.",
                value=length,
                field="/waste/run",
            )
        )
        for limit in case.rules.on_pipe("pipe_length", case.plan.water.pipe_diameter)
        if length > limit.value + 1e-6
    ]
