"""What the tests on site are held against."""

from __future__ import annotations

from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure, Number


class SiteTests(Record):
    """What the tests on site are held against; what is no length says in its name what it is."""

    leak_water_head: Measure
    leak_air: Number
    leak_minutes: Number
    connection_minutes: Number
    flood_hours: Number
    flood_height: Measure
    evaporation: Measure
    mark_error: Measure
    moisture_error: Number
    drained_minutes: Number
    stands: Measure
    cable_tolerance: Number
    part_tolerance: Measure
    flatness: Measure
    recess_level: Measure
    pocket_slack: Measure
    pocket_square: Measure
    pocket_plumb: Measure
    riser_wiggle: Measure
    riser_cut: Measure
    riser_lean: Measure
    straightedge: Measure
