"""Lengths and falls that the trade keeps to and no published rule asks."""

from __future__ import annotations

from math import ceil

from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure, Sourced, Steepest


class Boards(Sourced):
    """Thicknesses in which boards are sold, by the unit in which a job is measured."""

    metric: tuple[str, ...]
    inch: tuple[str, ...]

    def at_least(self, high: float, *, inches: bool) -> float:
        """The least that boards of such thicknesses are together that is no less, mm."""
        sold = [millimetres(given) for given in (self.inch if inches else self.metric)]
        most = sold[-1]
        full = max(ceil(high / most - 1e-9) - 1, 0)
        return full * most + next(one for one in sold if one >= high - full * most - 1e-6)


class Practice(Record):
    """What the trade keeps to about floors, trays, doors and chairs.

    ``joist_centres`` is how far apart joists may stand under a deck that carries a tray,
    ``deck_alike`` and ``centres_alike`` by how much boards of one thickness and joists that are
    spaced alike differ. ``door_leaf`` and ``sliding_stop`` are what leaf and stop take of a hinged
    and a sliding door's width; ``chair_floor`` and ``chair_width`` the floor on which a chair
    stands, ``transfer_floor`` how wide it is beside a WC. ``bevel`` and ``ramp`` are the steepest
    for wheels, ``no_edge`` the lowest step that is one to a wheel; ``nothing_electric`` may stand
    where water is sprayed. What is narrower than ``strip`` between a shower and a wall is no floor;
    ``strip_closed`` the wall's finish closes. A tray's ``rebate`` is cut anew, a side of it may be
    cut short by ``undercut``. A channel loses ``end_stops`` and ``outlet_section`` of its length,
    tile finishes ``proud_of_channel`` above it; ``slot_room`` and ``trench_room`` are on each side
    of a trough and a pipe, ``trench_bedding`` under it. ``as_built`` is by how much what is to be
    just so large may be larger.
    """

    joist_centres: Measure
    deck_alike: Measure
    centres_alike: Measure
    door_leaf: Measure
    sliding_stop: Measure
    chair_floor: Measure
    chair_width: Measure
    transfer_floor: Measure
    bevel: Steepest
    ramp: Steepest
    no_edge: Measure
    nothing_electric: Sourced
    boards: Boards
    strip: Measure
    strip_closed: Measure
    flood_depth: Measure
    rebate: Measure
    undercut: Measure
    end_stops: Measure
    outlet_section: Measure
    proud_of_channel: Measure
    slot_room: Measure
    trench_room: Measure
    trench_bedding: Measure
    as_built: Measure
