"""The ways of drops: where they end does not hang on how the room is turned."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon, box

from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.geometry.drops import DRAIN, OUT, STANDS, Exit, Net
from calm_basin.core.geometry.surface import Facet, Surface
from calm_basin.plan import plan_from
from tests.plans import Document, answered, channel, document, moved
from tests.sweeps import examples


@st.composite
def legs(draw: st.DrawFn) -> tuple[Document, bool]:
    """L-shaped showers with a channel down a leg's side, in mm, inches and turned; and whether a
    wall stands square in the water's way."""
    unit = draw(st.sampled_from([1.0, 25.4 / 32]))
    wide, deep, notch, step = (
        draw(st.integers(int(low / unit), int(high / unit))) * unit
        for low, high in ((1100, 1600), (1000, 1500), (300, 600), (300, 600))
    )
    outline = [
        [0, 0],
        [wide, 0],
        [wide, deep],
        [notch, deep],
        [notch, deep - step],
        [0, deep - step],
    ]
    trapped = draw(st.booleans())
    at = channel(35, 0, 35, deep - step) if trapped else channel(0, 35, wide, 35)
    doc = document(outline=outline, entries=[1], drain=at)
    doc["room"] |= {
        "outline": [[-200, -200], [2200, -200], [2200, 2200], [-200, 2200]],
        "doors": [],
    }
    turn = draw(st.sampled_from([0.0, 13.7, 90.0, -61.2]))
    return moved(doc, turn=turn, mirror=draw(st.booleans())), trapped


class TrapTest(unittest.TestCase):
    @examples(50)
    @given(legs())
    def test_a_wall_square_in_the_waters_way_is_a_trap_in_every_unit_and_turn(
        self, made: tuple[Document, bool]
    ) -> None:
        doc, trapped = made
        if not trapped:
            self.assertLess(surface_of(plan_from(doc)).drop, 100)
            return
        with self.assertRaises(NoSurfaceError) as caught:
            surface_of(plan_from(doc))
        self.assertEqual(caught.exception.code, "water_trapped")

    def test_a_slanted_wall_carries_the_water_on(self) -> None:
        # A wall 30° off square to the fall: along it the floor falls half as much as down the fall.
        for lean, fine in ((0.0, False), (math.tan(math.radians(30)) * 400, True)):
            outline = [[0, 0], [1300, 0], [1300, 1200], [500 + lean, 1200], [500, 800], [0, 800]]
            doc = document(outline=outline, entries=[1], drain=channel(35, 0, 35, 800))
            doc["room"] |= {
                "outline": [[-9, -9], [2200, -9], [2200, 2200], [-9, 2200]],
                "doors": [],
            }
            if fine:
                self.assertTrue(surface_of(plan_from(doc)).facets)
            else:
                self.assertRaises(NoSurfaceError, surface_of, plan_from(doc))


class ShareTest(unittest.TestCase):
    def share(self, doc: Document) -> float:
        water = answered(plan_from(doc), parts=("water",)).water
        return float(water.drained.value)

    def test_turning_the_room_changes_nothing_of_what_reaches_the_drain(self) -> None:
        # A channel 500 mm short of its wall: by hand the strip beside it and what falls on it stay.
        doc = document(drain=channel(500, 1765, 1500, 1765))
        by_hand = 1 - 500 * 900 / (1500 * 900)
        for turn in (0, 22, 45, 71.3):
            for mirror in (False, True):
                self.assertAlmostEqual(
                    self.share(moved(doc, turn=turn, mirror=mirror)), by_hand, delta=0.01
                )

    def test_drops_on_a_tilted_plane_by_hand(self) -> None:
        # One plane that falls 30° off the axes to a wall without a drain, a rim in its corner.
        way = np.array([math.cos(math.radians(210)), math.sin(math.radians(210))])
        plane = (-0.02 * way[0], -0.02 * way[1], 0.0)
        rim = box(0, 0, 100, 100)
        floor = Polygon([(0, 0), (1000, 0), (1000, 600), (0, 600)]).difference(rim)
        surface = Surface(box(0, 0, 1000, 600), (rim,), (Facet("tilt", floor, plane),), 0.0)
        starts = np.array([[900.0, 500], [500, 100], [100, 590]])
        ways = Net(surface, []).run(starts, paths=True)
        # They meet the lower or the left wall and run along it to the corner with the rim.
        self.assertEqual(ways.ends.tolist(), [DRAIN] * 3)
        x, y = ways.paths[0][1]
        self.assertAlmostEqual(y - 500, math.tan(math.radians(30)) * (x - 900), places=6)

    def test_an_exit_lets_out_and_a_wall_does_not(self) -> None:
        floor = box(0, 0, 1000, 600)
        rim = box(450, 500, 550, 600)
        surface = Surface(
            floor, (rim,), (Facet("away", floor.difference(rim), (0.0, 0.02, 0.0)),), 0.0
        )
        wall = np.array([[0.0, 0.0], [1000.0, 0.0]])
        start = np.array([[200.0, 300.0]])
        self.assertEqual(Net(surface, [Exit(wall, -1.0)]).run(start).ends.tolist(), [OUT])
        self.assertEqual(Net(surface, [Exit(wall, 5.0)]).run(start).ends.tolist(), [STANDS])
        self.assertEqual(Net(surface, []).run(start).ends.tolist(), [STANDS])
        self.assertGreater(len(Net(surface, []).traps()), 0)
