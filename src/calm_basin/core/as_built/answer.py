"""The floor as it was built, from the readings of one layer."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from calm_basin.core.answer.build import GEOMETRY
from calm_basin.core.answer.taped import place_text
from calm_basin.core.answer.words import Words
from calm_basin.core.as_built.difference import difference
from calm_basin.core.as_built.floor import BuiltFloor
from calm_basin.core.as_built.judged import Judged, LayerRead, above, gravest, off_text
from calm_basin.core.as_built.mending import mended
from calm_basin.core.as_built.result import AsBuilt, BuiltPlane, BuiltReading, BuiltStep, State
from calm_basin.core.geometry.levels import levels
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import Plan
from calm_basin.rules import TRADE, RuleSet

TITLES: dict[LayerRead, str] = {
    "recess": "Recess",
    "bed": "Bed or tray",
    "membrane": "Membrane",
    "tile": "Tile",
}

NEXT = 3
"""So many places are named where the next readings would tell most."""


def as_built(
    plan: Plan,
    rules: RuleSet,
    words: Words,
    surface: Surface,
    layer: LayerRead,
    readings: Sequence[tuple[float, float, float]],
    error: float,
) -> AsBuilt:
    """Hold what was read of one layer against the plan.

    Parameters
    ----------
    surface : Surface
        The planned finished floor.
    readings : sequence of (x, y, height)
        Heights from the finished level at which the floor starts, mm, the oldest first.
    error : float
        So far a reading may be off, mm.
    """
    if layer == "recess":
        return _recess(plan, words, surface, readings, error)
    built = BuiltFloor(
        surface.lowered(above(plan, layer)), np.array(readings).reshape(-1, 3), error
    )
    return _told(Judged(plan, rules, words, surface, layer, built))


def _told(judged: Judged) -> AsBuilt:
    floor, words = judged.floor, judged.words
    planes = [judged.plane(group) for group in floor.groups if not group.level]
    puddles = judged.puddles(floor)
    steps = judged.steps()
    states = [plane.state for plane in planes] + [step.state for step in steps]
    states += ["fails"] * bool(puddles)
    hollow = [judged.hollow_state(plane.hollow) for plane in planes if plane.hollow is not None]
    state = gravest([*states, *hollow])
    places = floor.next_places(NEXT)
    work = mended(judged, planes, state)
    return AsBuilt(
        layer=TITLES[judged.layer],
        state=state if len(floor.places) else None,
        sentence=_sentence(judged, planes, state),
        error_text=words.length(floor.error),
        readings=tuple(judged.readings()),
        outside=len(floor.outside),
        planes=tuple(planes),
        puddles=tuple(puddles),
        puddles_text=judged.puddles_text(puddles),
        steps=tuple(steps),
        map=difference(floor, floor.off_at),
        work=work,
        next=tuple(places),
        next_texts=tuple(place_text(judged.plan.room.outline, at, words) for at in places),
    )


def _sentence(judged: Judged, planes: list[BuiltPlane], state: State | None) -> str:
    floor = judged.floor
    if not len(floor.places):
        return f"Nothing is read of the {TITLES[judged.layer].lower()} yet."
    unread = sum(plane.state is None for plane in planes)
    out = sum(plane.state == "fails" for plane in planes)
    most = float(np.abs(floor.off).max())
    told = f"{len(floor.places)} places read, no more than {judged.words.length(most)} off the plan"
    if out:
        told += f"; {out} of {len(planes)} planes out"
    if unread:
        told += f"; {unread} not judged yet"
    return f"{told}."


def _recess(
    plan: Plan,
    words: Words,
    surface: Surface,
    readings: Sequence[tuple[float, float, float]],
    error: float,
) -> AsBuilt:
    """A recess is level: it is judged by its highest and its lowest place."""
    stack = levels(plan, surface)
    found = np.array(readings).reshape(-1, 3)
    base = stack.base - stack.datum
    off = found[:, 2] - base
    steps = []
    state: State | None = None
    if len(found):
        high, low = float(off.max()), float(off.min())
        level = TRADE.site_tests.recess_level.value
        state, said, source = "holds", "Deep enough and level", TRADE.site_tests.recess_level.source
        if high > error:
            state, said = "fails", f"Too shallow by {words.length(high, 'up')}"
            source = GEOMETRY
        elif high - low > level + error:
            state, said = "fails", f"Out of level by {words.length(high - low, 'up')}"
        elif high > 0 or high - low > level:
            state, said = "open", "It may be too shallow or out of level"
        steps = [
            BuiltStep(
                title="Recess, from the finished level at the entry",
                state=state,
                planned_text=words.length(-base),
                built_text=f"{words.length(-base - high)} to {words.length(-base - low)}",
                text=said,
                source=source,
            )
        ]
    told = "Nothing is read of the recess yet."
    if len(found):
        told = f"{len(found)} places read: {steps[0].text.lower()}."
    return AsBuilt(
        layer=TITLES["recess"],
        state=state,
        sentence=told,
        error_text=words.length(error),
        readings=tuple(
            BuiltReading(
                at=(float(x), float(y)),
                height=float(z),
                height_text=words.bare(float(z)),
                planned_text=words.bare(base),
                off=float(z - base),
                off_text=off_text(words, float(z - base)),
            )
            for x, y, z in found
        ),
        outside=0,
        planes=(),
        puddles=(),
        puddles_text="",
        steps=tuple(steps),
        map=None,
        work=None,
        next=(),
        next_texts=(),
    )
