"""The riser card: what is read out to the plumber on the floor with the pipe cutter."""

from __future__ import annotations

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.levels import laid_on, levels
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.structure.footing import fitting_family, standing
from calm_basin.core.waste.result import RiserCard
from calm_basin.plan import Plan
from calm_basin.plan.waste import DrainFamily
from calm_basin.tolerances import UNSEEN


def riser_card(case: Case) -> RiserCard | None:
    """How the riser is cut and tested for the drain that is chosen; None where none is."""
    plan, words, family = case.plan, case.words, fitting_family(case.plan)
    if family is None:
        return None
    carrier = carrier_of(plan)
    on = carrier.name
    said = [*_height(case, family, on), _hole(words, family, on)]
    said.append("Body level both ways and in the middle of its hole before the cement sets.")
    if family.riser is not None:
        said.append("The gasket's top ends flush with the pipe's top or below it, never above.")
        said.append(
            "Cut too low it can never seal, cut too high it holds the tray up. Measure twice."
        )
    if family.wiggle:
        said.append(
            f"The drain can be shifted {words.length(family.wiggle, 'down')} on its riser. A tail "
            "that reaches deep into the pipe takes that away: shorten it."
        )
    if family.most_height > family.least_height:
        said.append(
            f"Its height can be set from {words.length(family.least_height)} to "
            f"{words.length(family.most_height)} over the {on}."
        )
    said.append("Leak-test the joint before anything covers it. A licensed plumber connects it.")
    if family.riser is not None:
        said.append(_cut_when(plan.waste.riser_cut))
    below = plan.waste.access_below and not carrier.trenched
    return RiserCard(
        title=f"{family.name}, {'reached from below' if below else 'no access from below'}",
        said=tuple(said),
        order=family.with_access if below and family.with_access else family.without_access,
        check=family.check,
        source=family.source,
    )


def riser_top(plan: Plan, surface: Surface, riser: float) -> tuple[float, float]:
    """How far the riser's top lies over the deck or slab, mm, as it will be and as it was, where
    it has to lie ``riser`` over what the drain stands on.

    A tray holds its drain: what is poured and packed under the tray lifts both.
    """
    deck = standing(plan, surface).deck
    stands = deck
    if former_of(plan.shower).one_piece:
        stands = laid_on(plan, levels(plan, surface))
    return stands - deck + riser, stands + riser


def _from(words: Words, height: float, what: str) -> str:
    if abs(height) < UNSEEN:
        return f"flush with {what}"
    return f"{words.length(abs(height))} {'above' if height > 0 else 'below'} {what}"


def _height(case: Case, family: DrainFamily, on: str) -> list[str]:
    words = case.words
    if family.riser is None:
        return [f"No riser is cut to a height: {family.note}"]
    riser, old = riser_top(case.plan, case.surface, family.riser)
    lines = []
    if family.riser_inside:
        # It ends in the drain, which hangs on its rim.
        stands = standing(case.plan, case.surface)
        old = stands.rim - family.body_depth + family.riser
        riser = old - stands.deck
        inside = _from(words, family.riser, "the drain's inside bottom")
        lines.append(f"Riser's top: {inside}, {words.length(family.body_depth)} below its rim.")
        measured = _from(words, riser, f"the {on}")
        lines.append(f"Measured from the {on} after that was lowered: {measured}.")
    elif abs(riser - family.riser) >= words.display.step / 2:
        under = _from(words, family.riser, "the tray's underside")
        lines.append(f"Riser's top: {under}, which stands on what is poured and packed under it.")
        measured = _from(words, riser, f"the {on}")
        lines.append(f"Measured from the {on} after that was lowered: {measured}.")
    else:
        where = _from(words, riser, f"the {on}")
        lines.append(f"Riser's top: {where} that the drain stands on, after that was lowered.")
    if abs(old - riser) >= UNSEEN:
        beside = _from(words, old, f"the old {on}")
        lines.append(f"Measured from where the {on} was: {beside}.")
    if riser < 0:
        lines.append(
            f"Tape on the shank of the inside pipe cutter: {words.length(-riser)} above its wheel, "
            f"the {on} at the tape."
        )
    elif riser > 0:
        lines.append(f"Mark the pipe {words.length(riser)} above the {on} all round, then cut.")
    return lines


def _hole(words: Words, family: DrainFamily, on: str) -> str:
    if family.hole == "round":
        return f"Hole in the {on}: {words.length(family.hole_width)} round, the pipe centred in it."
    size = f"{words.length(family.hole_width)} × {words.length(family.hole_length)}"
    return f"Hole in the {on}: {size}, the pipe centred in it."


def _cut_when(school: str) -> str:
    if school == "before":
        return "Cut before the tray is set: dry-fit tray and drain once on the cut pipe."
    return (
        "Left long and cut after the tray is set: the inside cutter goes down through the drain, "
        "where the plumbing can be done last."
    )
