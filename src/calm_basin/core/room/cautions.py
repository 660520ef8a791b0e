"""What to mind before anything is cut."""

from __future__ import annotations

from calm_basin.core.answer.result import Caution
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet


def cautions(plan: Plan, rules: RuleSet) -> tuple[Caution, ...]:
    """The warnings that hold for every floor of this kind."""
    code, never = carrier_of(plan).never
    return (
        Caution(code=code, text=never),
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
        Caution(
            code="skin",
            text="Wet cement burns skin, and solvent cement gives off fumes. Wear gloves, goggles "
            "and ear protection, and keep the air moving.",
        ),
        Caution(
            code="open_floor",
            text="An open floor is a fall: cover it whenever you leave the room.",
        ),
        Caution(code="drain", text=_drain(plan)),
        Caution(code="sealing", text=_sealing(plan)),
        Caution(
            code="cover",
            text="Cover a finished membrane: a dropped tool nicks it and nobody sees. Tape the "
            "open drain shut; what falls in is fished out with a magnet.",
        ),
        Caution(
            code="wet",
            text="A wet floor is slippery: choose tile by its wet slip class. Fit a thermostatic "
            "valve against scalds.",
        ),
        Caution(code="deference", text=rules.deference),
    )


def _drain(plan: Plan) -> str:
    """What to watch at the drain, by how it is joined."""
    tray = former_of(plan.shower).one_piece
    dry = "Dry-fit the drain and do not hurry it"
    dry += ": a stiff tail stalls a tray that already lies in its adhesive." if tray else "."
    return (
        f"{dry} Gaskets go in bevel up. Draw a clamping ring up on opposite sides in turn, and a "
        "hub by hand only: an overtightened flange cracks."
    )


def _sealing(plan: Plan) -> str:
    """What has to be tight, and what has to stay open."""
    tray = former_of(plan.shower).one_piece
    bead = "A gap in the bead round the tray is a leak. " if tray else ""
    return (
        f"{bead}Keep adhesive off every face that is sealed later, and keep dabs and sealant out "
        "of weep holes and of screw holes that must drain."
    )
