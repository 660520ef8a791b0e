"""What is wrong with a cable: it is missing from the build-up, or lies on bare timber."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from calm_basin.core.answer.build import unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.plan import Plan
from calm_basin.plan.layers import Layer, first, has
from calm_basin.rules import TRADE


def not_in_build_up(case: Case) -> list[Found]:
    """A heated floor among whose layers nothing has the cable in it."""
    plan, words = case.plan, case.words
    thick = TRADE.heating.layer.value
    found = []
    for part, layers in _heated(plan):
        if _holds(plan, part, layers):
            continue
        finding = unmeasured(
            "cable_not_in_build_up",
            "caution",
            f"Heating cable missing from the {part}'s build-up",
            f"A cable in adhesive takes about {words.length(thick)}. Without it the finished floor "
            "ends that much higher than planned.",
            applies_to=f"the {part}",
            source=TRADE.heating.layer.source,
            field="/heating/lies",
        )
        cure = Cure(
            text=f"Add {words.length(thick)} for the cable to the {part}",
            changes=(Change(path=f"/{part}/layers", value=_with_cable(plan, layers, thick)),),
        )
        found.append(Found(finding, partial(list, (cure,))))
    return found


def on_timber(case: Case) -> list[Found]:
    """A cable over a deck or a layer of timber with no board between them that does not burn."""
    plan, words, board = case.plan, case.words, TRADE.heating.board
    heated = plan.heating is not None and plan.heating.where != "shower"
    if not heated or not carrier_of(plan).timber:
        return []
    layers = plan.room.layers
    over = layers[: first(layers, "plywood")]
    if has(over, "board"):
        return []
    finding = unmeasured(
        "cable_on_timber",
        "stop",
        "Heating cable on a bare timber deck",
        f"Timber burns. Lay an incombustible board of {words.length(board.value)} under the cable. "
        "The cable's own text and the electrician decide.",
        applies_to="the room",
        source=board.source,
        field="/heating/where",
    )
    new = Layer(role="board", name="incombustible board", thickness=board.value)
    layers = (*over, new, *layers[len(over) :])
    cure = Cure(
        text=f"Add a board of {words.length(board.value)} under the cable",
        changes=(
            Change(path="/room/layers", value=[one.model_dump(mode="json") for one in layers]),
        ),
    )
    return [Found(finding, lambda: [cure])]


def _heated(plan: Plan) -> Iterator[tuple[str, tuple[Layer, ...]]]:
    """The parts of the floor that are heated, with their layers."""
    if plan.heating is None:
        return
    if plan.heating.where in ("room", "both"):
        yield "room", plan.room.layers
    if plan.heating.where in ("shower", "both"):
        yield "shower", plan.shower.layers


def _holds(plan: Plan, part: str, layers: tuple[Layer, ...]) -> bool:
    """Whether a part's build-up has the cable in it: a layer of its own, or under the membrane what
    is cast there anyway."""
    assert plan.heating is not None
    under = plan.heating.lies == "under the membrane"
    if under and part == "shower" and former_of(plan.shower).cast:
        return True
    return has(layers, "cable") or (under and has(layers, "cast"))


def _with_cable(plan: Plan, layers: tuple[Layer, ...], thick: float) -> list[object]:
    """The layers with the cable's own among them: over or under the membrane, else under tile and
    adhesive."""
    assert plan.heating is not None
    over = plan.heating.lies == "over the membrane"
    membrane = first(layers, "membrane")
    if membrane is not None:
        at = membrane + (not over)
    else:
        at = sum(layer.role in ("tile", "adhesive") for layer in layers)
    new = Layer(role="cable", name="heating cable in adhesive", thickness=thick)
    return [one.model_dump(mode="json") for one in (*layers[:at], new, *layers[at:])]
