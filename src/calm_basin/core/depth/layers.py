"""Findings on layers: as thick as their kind is, and as the floor is that is down already."""

from __future__ import annotations

from calm_basin.core.answer.build import GEOMETRY, begun, broken
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.geometry.levels import room_build_up
from calm_basin.plan.layers import Layer
from calm_basin.plan.sources import COMMON
from calm_basin.tolerances import UNSEEN


def layers(case: Case) -> list[Found]:
    """Layers that are thinner or thicker than their kind usually is."""
    found = []
    for part, rows in (("shower", case.plan.shower.layers), ("room", case.plan.room.layers)):
        for i, layer in enumerate(rows):
            found += _unusual(case, layer, f"the {part}’s {layer.name}", f"/{part}/layers/{i}")
    return found


def _unusual(case: Case, layer: Layer, what: str, path: str) -> list[Found]:
    words = case.words
    if layer.least is not None and layer.thickness < layer.least - UNSEEN:
        bound, binds, word = layer.least, "at_least", "thin"
    elif layer.most is not None and layer.thickness > layer.most + UNSEEN:
        bound, binds, word = layer.most, "at_most", "thick"
    else:
        return []
    finding = broken(
        words,
        code="layer_unusual",
        severity="caution",
        title=f"{begun(what)} unusually {word}: {words.length(layer.thickness)}",
        detail=f"This kind of layer is usually {_range(case, layer)}. Check the product's own "
        "text, or the unit.",
        value=layer.thickness,
        limit=bound,
        binds="at_least" if binds == "at_least" else "at_most",
        applies_to=f"{what}, {path.split('/')[-1]}",
        source=COMMON,
        field=f"{path}/thickness",
    )
    cure = Cure(
        text=f"Make it {words.length(bound)}",
        changes=(Change(path=f"{path}/thickness", value=bound),),
    )
    return [Found(finding, lambda: [cure])]


def _range(case: Case, layer: Layer) -> str:
    words = case.words
    if layer.least is None or layer.most is None:
        bound = layer.most if layer.least is None else layer.least
        word = "no more than" if layer.least is None else "at least"
        return f"{word} {words.length(bound or 0.0)}"
    return f"{words.length(layer.least)} to {words.length(layer.most)}"


def laid(case: Case) -> list[Found]:
    """A floor that is down at another level than its layers make."""
    plan, words, level = case.plan, case.words, case.plan.room.laid
    if level is None:
        return []
    made = room_build_up(plan)
    if abs(level - made) < words.display.step / 2:
        return []
    *upper, lowest = plan.room.layers or (Layer(role="other", name="packing", thickness=0.0),)
    thickness = lowest.thickness + level - made
    rows = [*upper, lowest.model_copy(update={"thickness": max(thickness, 0.0)})]
    word = "higher" if level > made else "lower"
    finding = broken(
        words,
        code="laid_otherwise",
        severity="caution",
        title=f"Room's floor {words.length(abs(level - made))} {word} than its layers",
        detail=f"It was measured at {words.length(level)}, its layers make {words.length(made)}. "
        "The shower is planned to meet what is there; check what lies under it.",
        value=level,
        limit=made,
        asked=f"{words.length(made)} by its layers",
        applies_to="the room's floor",
        source=GEOMETRY,
        field="/room/layers",
    )
    cures: list[Cure | None] = []
    if thickness >= 0:
        cures.append(
            Cure(
                text=f"{begun(lowest.name)} is {words.length(thickness)}",
                changes=(
                    Change(
                        path="/room/layers", value=[row.model_dump(mode="json") for row in rows]
                    ),
                ),
            )
        )
    return [Found(finding, lambda: cures)]
