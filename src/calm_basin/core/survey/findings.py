"""Findings of the survey."""

from __future__ import annotations

from functools import lru_cache
from math import inf

from calm_basin.core.answer.build import broken, listed, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure, Place
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, ring_of, shower_surface
from calm_basin.core.geometry.straightedge import Straightedge
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.survey.floor import NONE_INSIDE, SubFloor
from calm_basin.core.survey.ground import base_of, ground_of, longest_edge, range_under
from calm_basin.core.survey.pour import fall_left
from calm_basin.core.survey.result import (
    TrayFall,
)
from calm_basin.core.survey.tapes import doubt, tape_findings
from calm_basin.core.survey.truing import cleats_fit, cleats_of, truing_cures
from calm_basin.plan import Plan
from calm_basin.plan.shower import Shower
from calm_basin.plan.survey import FrameLevel, PackLevel, Pour, StaffReading
from calm_basin.tolerances import ROUNDED


def check(case: Case) -> list[Found]:
    """The survey's part of the findings."""
    return survey_findings(case.plan, case.words)


def survey_findings(plan: Plan, words: Words) -> list[Found]:
    """What is doubtful in the survey, and where its floor is not true enough."""
    found: list[Found] = []
    if plan.survey.tape is not None:
        found += tape_findings(words, plan.survey.tape)
    if not plan.survey.levels:
        return found
    found += _simulated(plan)
    ground = ground_of(plan)
    if ground is None:
        title = "No reading lies inside the room"
        return [*found, doubt("readings_outside", title, NONE_INSIDE)]
    found += _out_of_true(plan, words, ground)
    found += _fall_turned(plan, words, ground)
    title = "Look at the readings again"
    # One finding for all of them: they are mended in one place, and a cure leaves those that stay.
    remarks = " ".join(ground.remarks)
    return [*found, doubt("readings_doubtful", title, remarks)] if remarks else found


def _simulated(plan: Plan) -> list[Found]:
    """Readings of the stand-in laser, which stands on an invented floor of its own."""
    levels = plan.survey.levels
    real = [one for one in levels if not (isinstance(one, StaffReading) and one.simulated)]
    count = len(levels) - len(real)
    if not count:
        return []
    mixed = " They stand among readings of this floor." if real else ""
    finding = unmeasured(
        "readings_simulated",
        "stop" if real else "caution",
        f"{count} {'reading is' if count == 1 else 'readings are'} simulated",
        f"The simulated laser reads an invented floor.{mixed} Remove them, and measure this floor "
        "before you build.",
        applies_to="the readings",
        source="Simulated laser",
        field="/survey/levels",
    )
    cure = Cure(
        text="Remove the simulated readings",
        changes=(
            Change(path="/survey/levels", value=[one.model_dump(mode="json") for one in real]),
        ),
    )
    return [Found(finding, lambda: [cure])]


def out_of_true(plan: Plan, words: Words, ground: SubFloor) -> tuple[float, Straightedge]:
    """What the base is held against, mm, and the straightedge under which the floor gapes most."""
    edge = ground.flatness(longest_edge(plan))
    level = base_of(plan).measure == "level"
    return (range_under(ground, plan.shower.outline) if level else edge.gap), edge


def permitted(plan: Plan, words: Words, ground: SubFloor) -> tuple[float, str]:
    """How far the floor may be out with the correction that was chosen, mm, and what of it does not
    go as chosen, in words."""
    base, correction = base_of(plan), plan.survey.correction
    if isinstance(correction, Pour):
        return inf, ""
    if isinstance(correction, PackLevel):
        most = words.limit(base.packs)
        told = f"Packing takes up no more than {most}" if base.packs > 0 else "A bed is not packed"
        return max(base.value, base.packs), f" {told}: choose another correction."
    if not isinstance(correction, FrameLevel):
        return base.value, ""
    if not carrier_of(plan).refitted:
        return base.value, " A slab has no deck to frame: choose another correction."
    if cleats_fit(cleats_of(plan, words, ground)):
        return inf, ""
    return base.value, (
        " Framed level with the highest spot, the deck would stand over the joists at the lowest "
        "spots: choose another correction."
    )


def true_enough(plan: Plan, words: Words, ground: SubFloor) -> bool:
    """Whether the floor, as it is or with the correction that was chosen, is true enough."""
    most, _ = permitted(plan, words, ground)
    return out_of_true(plan, words, ground)[0] <= most + ROUNDED


def _out_of_true(plan: Plan, words: Words, ground: SubFloor) -> list[Found]:
    base = base_of(plan)
    if true_enough(plan, words, ground):
        return []
    measured, edge = out_of_true(plan, words, ground)
    most, why = permitted(plan, words, ground)
    level = base.measure == "level"
    length = longest_edge(plan)
    how = "from level under the shower" if level else f"under a {words.length(length)} edge"
    x, y = (ground.low.x, ground.low.y) if level else edge.at
    finding = broken(
        words,
        code="floor_out_of_true",
        severity="stop",
        title=f"Floor {words.length(measured, 'up')} out {how}, limit {words.limit(most)}",
        detail=f"{base.name}: no more than {words.limit(most)}, so "
        f"{words.length(measured - most, 'up')} too much.{why} {base.note}",
        value=measured,
        limit=most,
        applies_to=base.name.lower(),
        source=base.source,
        field="/survey/correction",
        places=(Place(name="low spot", x=x, y=y, measured=measured, text=words.length(measured)),),
    )
    return [Found(finding, lambda: truing_cures(plan, words, ground), each=True)]


@lru_cache(maxsize=32)
def _falls_left(
    shower: Shower, ground: SubFloor
) -> tuple[tuple[str, float, float, tuple[float, float]], ...]:
    """What a floor under a tray leaves of each plane's fall, and a place in the plane."""
    try:
        surface = shower_surface(shower)
    except NoSurfaceError:
        return ()
    places = {f.name: f.polygon.representative_point() for f in surface.facets}
    left = fall_left(surface, ground, ring_of(shower).polygon)
    return tuple((name, was, now, (places[name].x, places[name].y)) for name, was, now in left)


def tray_falls(plan: Plan, words: Words, ground: SubFloor) -> tuple[TrayFall, ...]:
    """What is left of a tray's falls if it is laid on the floor as it is."""
    if not former_of(plan.shower).one_piece or plan.survey.correction is not None:
        return ()
    return tuple(
        TrayFall(
            plane=name,
            built_in_text=words.fall(built_in),
            left=left,
            text=f"{words.fall(abs(left))}{' the wrong way' if left < -1e-9 else ''}",
            turned=left <= 0,
        )
        for name, built_in, left, _ in _falls_left(plan.shower, ground)
    )


def _fall_turned(plan: Plan, words: Words, ground: SubFloor) -> list[Found]:
    """Planes of a tray whose fall the floor under it turns round."""
    turned = [fall for fall in tray_falls(plan, words, ground) if fall.turned]
    if not turned:
        return []
    worst = min(turned, key=lambda fall: fall.left)
    x, y = next(at for name, *_, at in _falls_left(plan.shower, ground) if name == worst.plane)
    finding = broken(
        words,
        code="tray_fall_turned",
        severity="stop",
        title=f"Floor's tilt turns the tray's fall round: {worst.text}",
        detail=f"On this floor the {listed([fall.plane for fall in turned])} "
        f"{'plane runs' if len(turned) == 1 else 'planes run'} {worst.text} instead of "
        f"{worst.built_in_text}: water stands or runs away from the drain.",
        value=worst.left,
        shown=worst.text,
        limit=0.0,
        asked="a fall towards the drain",
        unit="rise_per_run",
        applies_to="the tray",
        source="Geometry of tray and floor",
        field="/survey/correction",
        places=(Place(name=worst.plane, x=x, y=y, measured=worst.left, text=worst.text),),
    )
    return [Found(finding, lambda: truing_cures(plan, words, ground), each=True)]
