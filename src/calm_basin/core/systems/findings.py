"""A plan held against the build system that it was filled from."""

from __future__ import annotations

from math import ceil

from calm_basin.core.answer.build import broken, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls.cures import raised_layers
from calm_basin.core.falls.step import step_of
from calm_basin.core.geometry.levels import levels
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.kinds.tray import tray_form
from calm_basin.core.systems.fitting import fitted, written
from calm_basin.core.systems.trims import beyond_trims
from calm_basin.plan import Plan, PlanError
from calm_basin.plan.framing import framed
from calm_basin.plan.system import BuildSystem, DeckLimit, TrayForm
from calm_basin.rules import TRADE, build_systems, drain_families

FORMS = {"tray": "a preformed tray", "bed": "a setting bed", "panels": "slope panels"}


def _let_go() -> Cure:
    return Cure(
        text="Plan on without a build system", changes=(Change(path="/system", value=None),)
    )


def other_floor(case: Case) -> list[Found]:
    """A system on a floor that it is not made for, or with falls made by something else."""
    system, plan = case.plan.system, case.plan
    if system is None:
        return []
    found = []
    if plan.floor.kind not in system.floors:
        finding = unmeasured(
            "system_other_floor",
            "stop",
            f"This system is made for {' or '.join(system.floors)}, not for {plan.floor.kind}",
            f"{system.name}: {system.says} Choose another system for this floor.",
            applies_to="the build system",
            source=system.former.source,
            field="/system",
        )
        found.append(Found(finding, lambda: [_let_go()]))
    if plan.shower.former.kind != system.former.kind:
        finding = unmeasured(
            "system_left",
            "caution",
            f"The falls are made by {FORMS[plan.shower.former.kind]}, not as the system has it",
            f"{system.name} makes them by {FORMS[system.former.kind]}: its instructions no longer "
            "match this plan.",
            applies_to="the build system",
            source=system.former.source,
            field="/system",
        )
        found.append(Found(finding, lambda: [_let_go()]))
    return found


BUILDS = {
    "drain": "drain",
    "channel": "drain's place",
    "family": "drain",
    "base": "what carries it",
    "former": "what makes the falls",
    "layers": "layers",
    "pour": "pour",
    "zones": "zones",
}
"""What a system makes of a plan, as it is called; the rest of it are words."""


def _made_otherwise(one: BuildSystem, other: BuildSystem) -> list[str]:
    """What two editions of a system make in different ways, by name."""
    words = {part: {"document", "from_memory"} for part in ("former", "layers", "pour")}
    old, new = (system.model_dump(include=set(BUILDS), exclude=words) for system in (one, other))
    # What raised this room to the system's base stands behind what the system brings anywhere.
    old["layers"]["room"] = old["layers"]["room"][: len(new["layers"]["room"])]
    return list(dict.fromkeys(called for name, called in BUILDS.items() if old[name] != new[name]))


def renewed(case: Case) -> list[Found]:
    """A plan that was filled from an edition of a system that has changed since."""
    system = case.plan.system
    now = build_systems().get(system.id) if system else None
    if system is None or now is None or not (parts := _made_otherwise(system, now)):
        return []
    finding = unmeasured(
        "system_renewed",
        "caution",
        f"This build system has changed since the plan was filled from it: {', '.join(parts)}",
        f"{now.name}: {now.says} The plan keeps what it was filled with until you choose.",
        applies_to="the build system",
        source=now.former.source,
        field="/system",
    )

    def cures() -> list[Cure]:
        return [*_filled_anew(case.plan, now), _let_go()]

    return [Found(finding, cures, each=True)]


def _filled_anew(plan: Plan, system: BuildSystem) -> list[Cure]:
    try:
        built = fitted(plan, system, drain_families()[system.family])
    except PlanError:
        return []
    return [Cure(text="Fill the plan from the system as it is now", changes=written(plan, built))]


def deck_limit(system: BuildSystem, deck: float) -> DeckLimit | None:
    """How far joists may be apart under a deck of this thickness, mm; None where the system tells
    of none so thin."""
    held = [limit for limit in system.deck if limit.deck <= deck + TRADE.practice.deck_alike.value]
    return max(held, key=lambda limit: limit.deck, default=None)


def wide_centres(case: Case) -> list[Found]:
    """Joists farther apart than the system carries itself between under this deck."""
    system, plan, words = case.plan.system, case.plan, case.words
    joists = carrier_of(plan).joists
    if system is None or joists is None or not system.deck:
        return []
    limit = deck_limit(system, joists.deck_thickness)
    if limit is None:
        least = min(system.deck, key=lambda one: one.deck)
        finding = broken(
            words,
            code="system_deck_thin",
            severity="caution",
            title=f"Deck too thin for this system: "
            f"{words.length(joists.deck_thickness, 'down')}, limit {words.limit(least.deck)}",
            detail=f"{system.name} needs a deck of {words.limit(least.deck)} or more. Add a "
            "layer of boards, or choose another system.",
            value=joists.deck_thickness,
            limit=least.deck,
            binds="at_least",
            applies_to="the build system",
            source=least.source,
            field="/system",
        )
        return [Found(finding)]
    if joists.centres <= limit.centres + TRADE.practice.centres_alike.value:
        return []
    finding = broken(
        words,
        code="system_centres",
        severity="caution",
        title=f"Joists too far apart for this system: {words.length(joists.centres, 'up')}, limit "
        f"{words.limit(limit.centres)}",
        detail=f"{system.name} spans {words.limit(limit.centres)} under a deck of "
        f"{words.limit(limit.deck)}: add joists or blocking under the shower. An engineer decides "
        "on anything that touches structure.",
        value=joists.centres,
        limit=limit.centres,
        applies_to="the build system",
        source=limit.source,
        field="/system",
    )
    return [Found(finding)]


def trims(case: Case) -> list[Found]:
    """A side of the tray that is cut and must not be."""
    system, words = case.plan.system, case.words
    form = tray_form(system)
    if system is None or form is None or not former_of(case.plan.shower).one_piece:
        return []
    found = []
    # What is cut off at the entry is told by what it loses there.
    allowed = (*form.trims, "entry")
    for side, width in beyond_trims(framed(case.plan), allowed):
        finding = broken(
            words,
            code="system_trim",
            severity="stop",
            title=f"{words.length(width)} cut off the tray's {side} side",
            detail=f"{system.name} {_where_cut(form)}. Move the riser, or choose another "
            "size or system.",
            value=width,
            limit=0.0,
            asked="this side stays as it is delivered",
            applies_to=f"the tray's {side} side",
            source=system.former.source,
            field="/shower/former/stock",
        )
        found.append(Found(finding))
    return found


def _where_cut(form: TrayForm) -> str:
    if not form.trims:
        return "is cut at no side"
    return f"may be cut at {' and '.join(form.trims)} only"


def over_room(case: Case) -> list[Found]:
    """A unit whose edge stands farther over the room's floor than its maker allows."""
    system, words = case.plan.system, case.words
    form = tray_form(system)
    if system is None or form is None or form.most_over is None:
        return []
    over = -step_of(case.plan, case.surface)
    if over <= form.most_over + 1e-6:
        return []
    finding = broken(
        words,
        code="system_over_room",
        severity="caution",
        title=f"Unit too high over the room's floor: {words.length(over, 'up')}, limit "
        f"{words.limit(form.most_over)}",
        detail=f"{system.name}: no more than {words.limit(form.most_over)} over the floor before "
        "it. Go deeper, or raise the room.",
        value=over,
        limit=form.most_over,
        applies_to="the build system",
        source=form.source,
        field="/shower/set_down",
    )
    down = case.plan.shower.set_down + over - form.most_over
    lower = Cure(
        text=f"Set the unit {words.length(over - form.most_over, 'up')} lower",
        changes=(Change(path="/shower/set_down", value=round(down, 4)),),
    )
    return [Found(finding, lambda: [lower])]


def low_room(case: Case) -> list[Found]:
    """A room too low for a tray on a base of its own, which stands on the deck as it is."""
    system, plan, words = case.plan.system, case.plan, case.words
    form = tray_form(system)
    if system is None or form is None or form.base <= 0:
        return []
    if not former_of(plan.shower).one_piece or plan.shower.rest is not None:
        return []
    stands = levels(plan, case.surface).base
    short = form.base - stands
    if short <= 1e-6:
        return []
    finding = broken(
        words,
        code="system_room_low",
        severity="stop",
        title=f"Room {words.length(short, 'up')} too low for the zone's base",
        detail=f"{system.name}: its base is {words.limit(form.base)} high and stands on the deck. "
        "Nothing is recessed: the room comes up to it.",
        value=stands,
        limit=form.base,
        binds="at_least",
        applies_to="the build system",
        source=form.source,
        field="/room/layers",
    )
    high = float(ceil(short - 1e-6))
    raised = Cure(
        text=f"Raise the room's floor {words.length(high)}",
        changes=(Change(path="/room/layers", value=raised_layers(plan, high)),),
    )
    return [Found(finding, lambda: [raised])]
