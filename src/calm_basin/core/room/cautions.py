"""What to heed before anything is cut."""

from __future__ import annotations

from calm_basin.core.answer.result import Caution
from calm_basin.plan import Plan
from calm_basin.plan.floor import JoistFloor
from calm_basin.rules import RuleSet


def cautions(plan: Plan, rules: RuleSet) -> tuple[Caution, ...]:
    """The warnings that hold for every floor of this kind."""
    if isinstance(plan.floor, JoistFloor):
        structure = Caution(
            code="structure",
            text="Joists are structure. Never notch or cut them by this plan: an engineer decides.",
        )
    else:
        structure = Caution(
            code="slab",
            text="Never cut a slab blind: scan it for stressed cables, heating pipes and the "
            "damp-proof membrane.",
        )
    return (
        structure,
        Caution(
            code="services",
            text="Live wires and pipes may lie under the floor. Find them before a saw goes in. "
            "Electrical and waste connections are for licensed trades.",
        ),
        Caution(
            code="dust",
            text="Cutting tile, board or slab frees silica dust: cut wet or extract, and wear a "
            "mask. Old floor coverings may hold asbestos.",
        ),
        Caution(code="deference", text=rules.deference),
    )
