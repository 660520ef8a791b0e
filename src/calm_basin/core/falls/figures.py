"""The key figures of the falls with their workings."""

from __future__ import annotations

from calm_basin.core.answer.build import figure, input_of
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import Figure, Input
from calm_basin.core.falls.limits import sloped
from calm_basin.core.falls.planes import fall_text
from calm_basin.core.geometry.levels import levels
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan import Plan
from calm_basin.plan.sources import COMMON

GRADIENT = "gradient of a plane = its drop ÷ its run, square to its high edge"


def drop_of(asked: Question) -> float | None:
    """How far the floor falls from the entry to the drain, mm; None without a floor."""
    if asked.surface is None:
        return None
    stack, former = levels(asked.plan, asked.surface), former_of(asked.plan.shower)
    # Packing a tray up lifts its drain with it: how far the floor falls stays the same.
    return stack.entry + former.raised - stack.drain


def figures(asked: Question) -> dict[str, Figure]:
    """Drop, steepest and flattest fall."""
    plan, words, surface = asked.plan, asked.words, asked.surface
    planes = sloped(surface) if surface else []
    drop, built = drop_of(asked), plan.shower.built_fall
    how = _run_in_words(plan)
    former = former_of(plan.shower)
    of_what = "planned fall" if former.panels is None else "the panels' fall"
    inputs = [
        (f"{facet.name} plane over {words.length(facet.run)}", fall_text(words, facet))
        for facet in {facet.name: facet for facet in planes}.values()
    ]
    asked_at = "/shower/fall/asked" if of_what == "planned fall" else ""
    asked_for = f"planned {words.fall(plan.shower.fall.asked)}"
    told = "as the tray's maker states" if former.stated else asked_for
    steepest, flattest = (
        figure(
            label,
            value,
            words.fall(value or 0.0),
            GRADIENT,
            inputs,
            source="Geometry of the floor",
            unit="rise_per_run",
            under=told,
        )
        for label, value in (
            ("Steepest plane", max((facet.steepest for facet in planes), default=None)),
            ("Flattest plane", min((facet.flattest for facet in planes), default=None)),
        )
    )
    return {
        "drop_at_drain": figure(
            "Drop at drain",
            drop,
            words.length(drop or 0.0),
            f"drop = {of_what} × {how}",
            [
                Input(name=of_what, text=words.fall(built), field=asked_at),
                input_of(words, how, None if drop is None else drop / built),
            ],
            source=COMMON,
            under=_below_what(asked),
        ),
        "fall_steepest": steepest,
        "fall_flattest": flattest,
    }


def _below_what(asked: Question) -> str:
    """From where the drop is: in a room of two zones it is the zone's alone."""
    if asked.plan.shower.rest is None:
        return "below the entry"
    if asked.surface is None:
        return "below the zone's edge"
    stack = levels(asked.plan, asked.surface)
    return f"below the zone's edge, {asked.words.length(stack.room - stack.drain)} below the door"


def _run_in_words(plan: Plan) -> str:
    if plan.shower.fall.edge == "even":
        return "run from the farthest end of the entry to the rim"
    if drain_kind(plan.shower.drain).point is None:
        return "run from the entry to the channel"
    if plan.shower.fall.measured == "corner_run":
        return "corner run, from the farthest corner to the nearest point of the rim"
    return "plane run, the longest square to a wall"
