"""Findings on the depth of a wet room's rest and at its doors."""

from __future__ import annotations

from calm_basin.core.answer.build import GEOMETRY, broken, severity_of
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls.cures import Asked, ask_for
from calm_basin.core.geometry.levels import levels, lowest_layer, rest_thickness
from calm_basin.plan.layers import Layer, thick


def rest_bed(case: Case) -> list[Found]:
    """Where the rest of a wet room falls by more than its bed is thick."""
    plan, words = case.plan, case.words
    left, rest = rest_thickness(plan, case.surface), Asked.of(plan, "rest")
    if plan.shower.rest is None or left >= 0:
        return []
    *upper, lowest = plan.room.layers or (Layer(role="cast", name="screed", thickness=0.0),)
    there, laid = lowest_layer(plan), plan.room.laid is not None
    fall = there - left
    thicker = words.up(fall)
    rows = [*upper, lowest.model_copy(update={"thickness": thicker})]
    why = f"its lowest layer, {lowest.name}, is only {words.length(there)} thick at the door"
    if laid:
        why = f"as it is laid only {words.length(there)} are under its upper layers at the door"
    finding = broken(
        words,
        code="rest_too_thin",
        severity="stop",
        title=f"Bed of the rest of the room {words.length(-left, 'up')} too thin at the zone",
        detail=f"The rest of the room falls {words.length(fall)} to the shower zone, but {why}: "
        "nothing is left of it at the zone. Its maker says how thin it may get.",
        value=there,
        limit=fall,
        binds="at_least",
        applies_to="the rest of the room",
        source=GEOMETRY,
        field="/shower/rest/asked",
    )
    thick = Cure(
        text=f"Make {lowest.name} {words.length(thicker)} thick at the door",
        changes=(
            Change(path="/room/layers", value=[layer.model_dump(mode="json") for layer in rows]),
        ),
    )

    def mended() -> list[Cure | None]:
        less = ask_for(words, rest.fall * there / fall, rest, steeper=False) if fall else None
        # What is laid is no thicker for another plan of its layers.
        return [less] if laid else [less, thick]

    return [Found(finding, mended)]


def door(case: Case) -> list[Found]:
    """Whether water that stands over a blocked drain meets the membrane before the door: asked of a
    shower alone and of a room in two zones alike."""
    plan, words = case.plan, case.words
    stack = levels(plan, case.surface)
    if not plan.room.doors:
        return []
    above = thick(plan.room.layers[:-1])
    height = stack.room - above - stack.drain
    return [
        Found(
            broken(
                words,
                code="membrane_low_at_door",
                severity=severity_of(limit),
                title=f"Membrane at the door too low: {words.length(height, 'down')} above the "
                f"drain, limit {words.limit(limit.value)}",
                detail=f"At least {words.limit(limit.value)} is required: carry it up "
                f"{words.length(limit.value - height, 'up')} under the threshold. It is taken to "
                f"lie on the room's lowest layer. {limit.note}",
                value=height,
                limit=limit.value,
                binds="at_least",
                applies_to=limit.applies_to,
                source=limit.source,
                field="/shower/rest" if plan.shower.rest else "/shower/set_down",
            ),
            lambda missing=limit.value - height: [_lower_shower(case, missing)],  # type: ignore[misc]
        )
        for limit in case.rules.on("door_above_drain")
        if height < limit.value - 1e-6
    ]


def _lower_shower(case: Case, missing: float) -> Cure | None:
    """A shower of one zone set so much lower that the membrane at the door lies high enough."""
    words, shower = case.words, case.plan.shower
    if shower.rest is not None:
        return None
    whole = words.up(missing)
    return Cure(
        text=f"Set the shower down {words.length(shower.set_down + whole)}",
        changes=(Change(path="/shower/set_down", value=shower.set_down + whole),),
    )
