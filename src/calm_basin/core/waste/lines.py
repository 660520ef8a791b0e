"""What was found in the floor and lies in the way of the waste's run, or of the trench for it."""

from __future__ import annotations

from calm_basin.core.answer.build import begun, broken, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Place
from calm_basin.core.kinds import carrier_of
from calm_basin.core.structure.footing import fitting_family
from calm_basin.core.waste.near import Near, near_lines
from calm_basin.core.waste.run import Run
from calm_basin.core.waste.site import propose, run_of, site_of
from calm_basin.rules import TRADE

FOUND = "What was found in the floor"


def lines(case: Case) -> list[Found]:
    """Lines in the way of the run, and a membrane that its trench cuts."""
    slab = carrier_of(case.plan).slab
    membrane = slab is not None and slab.membrane is not None
    if not case.plan.services and not membrane:
        return []
    site = site_of(case)
    if site is None or site.in_timber:
        return []
    way = run_of(case, site)
    if way is None:
        return []
    return [*(_met(case, near) for near in near_lines(case.plan, way)), *_trench(case, way)]


def _met(case: Case, near: Near) -> Found:
    words, service = case.words, near.service
    (x, y), trenched = near.at, carrier_of(case.plan).trenched
    what = "trench for the waste" if trenched else "waste pipe"
    if near.by is None:
        return Found(
            unmeasured(
                "pipe_by_line",
                "caution",
                f"Depth of {service.name} not measured, and the {what} crosses it",
                f"Measure its depth first: {words.length(service.clearance)} clearance is needed. "
                "Have a licensed trade move the line if it is in the way.",
                applies_to=service.name,
                source=FOUND,
                field=f"/services/{near.number}/depth",
            )
        )
    own = case.plan.waste.run is not None
    way_out = "Lead the pipe another way" if own else "No run goes round it with its fall"
    return Found(
        broken(
            words,
            code="pipe_in_line",
            severity="stop",
            title=f"{begun(what)} {words.length(near.by, 'up')} too close to {service.name}",
            detail=f"It needs {words.length(near.by, 'up')} more clearance from the line, which is "
            f"{words.length(service.depth or 0.0)} deep. {way_out}; or have a licensed trade move "
            "the line.",
            value=near.by,
            limit=0.0,
            asked="clear of it",
            applies_to=service.name,
            source=FOUND,
            field="/waste/run",
            places=(
                Place(
                    name=service.name,
                    x=x,
                    y=y,
                    measured=near.by,
                    text=words.length(near.by, "up"),
                ),
            ),
        ),
        propose if own else list,
    )


def _trench(case: Case, way: Run) -> list[Found]:
    """A trench through the membrane under a slab."""
    floor, words = carrier_of(case.plan).slab, case.words
    family = fitting_family(case.plan)
    if floor is None or family is None or way.length < 1e-6:
        return []
    low, _ = way.levels_along(0.0, way.length)
    deep = family.pipe / 2 + TRADE.practice.trench_bedding.value - low
    found = []
    if floor.membrane is not None and deep > floor.membrane + 1e-6:
        found.append(
            broken(
                words,
                code="trench_cuts_membrane",
                severity="caution",
                title="Trench for the waste cuts the damp-proof membrane",
                detail=f"It goes {words.length(deep, 'up')} deep, and the membrane lies "
                f"{words.length(floor.membrane)} below the slab's top. It is made good, lapped "
                "and sealed, before the trench is filled.",
                value=deep,
                limit=floor.membrane,
                applies_to="the damp-proof membrane",
                source="Geometry of the plan",
                field="/floor/membrane",
            )
        )
    return [Found(finding) for finding in found]
