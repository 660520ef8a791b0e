"""Findings at the edge of a wet room's zone."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.answer.build import GEOMETRY, broken, listed
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure, Place
from calm_basin.core.falls import ring_of
from calm_basin.core.falls.drains import drain_in_the_middle
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import former_of
from calm_basin.tolerances import LEAST_DAM, SAME_PLACE


def _steps(case: Case, i: int) -> tuple[Array, Array]:
    """Places along an edge of the zone, (n, 2), and how far the rest lies above the zone there."""
    ring = ring_of(case.plan.shower)
    corners = np.vstack([facet.corners[:, :2] for facet in case.surface.facets])
    edge = LineString(ring.edge(i))
    at = corners[shapely.distance(edge, shapely.points(corners)) < SAME_PLACE]
    # A place a little off the corners: a zone that only touches there makes no step.
    at = at + (ring.edge(i).mean(axis=0) - at) * 1e-3
    steps = case.surface.heights(at, "rest") - case.surface.heights(at, "shower")
    known = ~np.isnan(steps)
    return at[known], steps[known]


def zone_edge(case: Case) -> list[Found]:
    """Where the zone's edge does not stay level, the rest of a wet room meets it in a step."""
    plan, words = case.plan, case.words
    if plan.shower.rest is None:
        return []
    planned = plan.shower.set_down - _packed(case)
    entries, places = ring_of(plan.shower).entries, []
    for i in range(len(plan.shower.outline)):
        at, steps = _steps(case, i)
        off = np.abs(steps - planned)
        if i not in entries and len(off) and off.max() > 0.5:
            worst = int(off.argmax())
            step = float(steps[worst] - planned)
            places.append(
                Place(
                    name=f"side {i + 1}",
                    x=float(at[worst][0]),
                    y=float(at[worst][1]),
                    measured=step,
                    text=words.length(abs(step), "up"),
                )
            )
    if not places:
        return []
    worst_place = max(places, key=lambda place: abs(place.measured))
    finding = broken(
        words,
        code="zone_edge_step",
        severity="caution",
        title=f"{worst_place.text} step beside the shower zone",
        detail=f"Along {listed([place.name for place in places])} the zone falls to its drain "
        "while the rest of the room does not: an edge to trip over, unless a screen stands "
        "there. A point drain keeps the zone's edge level.",
        value=abs(worst_place.measured),
        shown=worst_place.text,
        limit=None,
        applies_to="the zone's edge",
        source=GEOMETRY,
        field="/shower/rest",
        places=tuple(places),
    )
    return [Found(finding, lambda: [drain_in_the_middle(plan)])]


def _packed(case: Case) -> float:
    """How far the zone's tray is packed up over the rest, mm; with level walls the zone hangs on
    the floor around it."""
    former, rest = former_of(case.plan.shower), case.plan.shower.rest
    falls_to_it = rest is not None and rest.walls == "rising"
    return former.raised if falls_to_it else 0.0


def dam(case: Case) -> list[Found]:
    """A zone whose edge stands above the rest of a wet room keeps water from the drain: a tray that
    is packed up, a zone that is raised, or one whose edge is not level."""
    plan, words = case.plan, case.words
    if plan.shower.rest is None:
        return []
    edges = [_steps(case, i) for i in range(len(plan.shower.outline))]
    places = np.vstack([at for at, _ in edges])
    above = -np.concatenate([steps for _, steps in edges])
    if above.max(initial=0.0) <= LEAST_DAM:
        return []
    height, place = float(above.max()), places[int(above.argmax())]
    shown = words.length(height, "up")
    packed = _packed(case) > 0
    what = "the tray is packed up over it" if packed else "its edge stands over it"
    finding = broken(
        words,
        code="zone_edge_dams",
        severity="stop",
        title=f"{'Tray' if packed else 'Zone'} edge {shown} above the rest of the floor",
        detail=f"The rest of the room falls to the shower zone, but {what}: what runs down the "
        "rest cannot get in and reaches no drain.",
        value=height,
        shown=shown,
        limit=0.0,
        asked="flush or lower",
        applies_to="the zone's edge",
        source=GEOMETRY,
        field="/shower/former/raised" if packed else "/shower/fall/edge",
        places=(
            Place(name="edge", x=float(place[0]), y=float(place[1]), measured=height, text=shown),
        ),
    )
    return [Found(finding, lambda: _not_dammed(case, height))]


def _not_dammed(case: Case, height: float) -> list[Cure]:
    """The changes by which the zone's edge stands nowhere above the rest."""
    plan, words = case.plan, case.words
    lower = plan.shower.set_down + height
    set_down = Cure(
        text=f"Set the shower down {words.length(lower, 'up')}",
        changes=(Change(path="/shower/set_down", value=lower),),
    )
    packed = _packed(case)
    if not packed:
        level = Cure(
            text="Keep the zone's edges level",
            changes=(Change(path="/shower/fall/edge", value="level"),),
        )
        middle = drain_in_the_middle(plan)
        both = middle and Cure(
            text=f"{level.text}, and {middle.text[0].lower()}{middle.text[1:]}",
            changes=(*level.changes, *middle.changes),
        )
        return [level, *([both] if both else []), set_down]
    left = max(packed - height, 0.0)
    return [
        Cure(
            text="Do not pack the tray up"
            if left <= 0
            else f"Pack the tray up only {words.length(left, 'down')}",
            changes=(Change(path="/shower/former/raised", value=left),),
        ),
        set_down,
    ]
