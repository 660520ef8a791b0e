"""Arrangements against closed forms and the trade's own numbers."""

import unittest
from math import cos, hypot, log, pi, radians, sin, sqrt, tan

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from calm_basin.core.falls import surface_of
from calm_basin.core.falls.tiling import largest_uncut
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import plan_from
from calm_basin.rules import TRADE
from tests.plans import Document, channel, cured, document, moved, point, solved, tray, wet_room
from tests.sweeps import examples


def surface(doc: Document) -> Surface:
    return surface_of(plan_from(doc))


def roomy(**shower: object) -> Document:
    doc = document(**shower)
    doc["room"]["outline"] = [[-4000, -4000], [4000, -4000], [4000, 4000], [-4000, 4000]]
    doc["room"]["doors"] = []
    return doc


class ClosedFormTest(unittest.TestCase):
    def test_an_even_floor_in_a_round_shower_is_a_cone(self) -> None:
        # A cone over a polygon of 40 sides: what the prism to its corners' level holds, less the
        # integral of the distance from its middle, n a³/3 (sec x tan x + ln(sec x + tan x)) with
        # x = π / n and the apothem a, from the edge of the rim; for many sides that is π r² h / 3.
        turns = [2 * pi * k / 40 for k in range(40)]
        outline = [[1000 * cos(t), 1000 * sin(t)] for t in turns]
        fall = {"asked": 1 / 50, "edge": "even", "entry_level": False}
        floor = surface(roomy(outline=outline, drain=point(0, 0, rim=2), fall=fall))
        area = 40 / 2 * 1000**2 * sin(2 * pi / 40)
        x = pi / 40
        away = 40 * (1000 * cos(x)) ** 3 / 3 * (tan(x) / cos(x) + log(1 / cos(x) + tan(x)))
        cone = (area * floor.drop - (away - area * 1.0) / 50) / 1e6
        self.assertAlmostEqual(floor.held(0.0) / cone, 1, delta=0.003)
        self.assertAlmostEqual(cone, pi * 1000**2 * floor.drop / 3 / 1e6, delta=0.01 * cone)
        self.assertAlmostEqual(floor.drop, 999 / 50, delta=0.1)

    def test_heights_of_an_even_floor_are_distance_times_fall(self) -> None:
        fall = {"asked": 1 / 50, "edge": "even", "entry_level": False}
        doc = document(drain=point(500, 1400, rim=100), fall=fall)
        floor = surface(doc)
        rng = np.random.default_rng(3)
        places = rng.uniform((0, 900), (1500, 1800), (400, 2))
        away = np.maximum(np.abs(places - (500, 1400)) - 50, 0)
        cone = -floor.drop + np.hypot(*away.T) / 50
        np.testing.assert_allclose(floor.heights(places), cone, atol=0.1)

    def test_a_square_level_edge_floor_is_a_pyramid(self) -> None:
        # V = A h / 3: the pyramid's volume, here with a rim of 2 mm at its tip.
        outline = [[-600, -600], [600, -600], [600, 600], [-600, 600]]
        floor = surface(roomy(outline=outline, drain=point(0, 0, rim=2), fall={"asked": 1 / 50}))
        self.assertAlmostEqual(floor.held(0.0) / (1.2 * 1.2 * floor.drop / 3), 1, delta=0.005)

    def test_volume_under_a_plane_is_a_prismatoids(self) -> None:
        # V = h/6 (A₁ + 4 Aₘ + A₂), and V ∝ level³ towards a tip: exact, as every plane is.
        floor = surface(document())
        top, rim = 1500 * 900, 120 * 120
        middle = (1500 + 120) / 2 * (900 + 120) / 2
        whole = floor.drop / 6 * (top + 4 * middle + rim) / 1e6
        self.assertAlmostEqual(floor.held(0.0), whole, places=6)
        half = floor.drop / 2
        between = ((1500 + 3 * 120) / 4) * ((900 + 3 * 120) / 4)
        part = half / 6 * (middle + 4 * between + rim) / 1e6
        self.assertAlmostEqual(floor.held(-half), part, places=6)
        self.assertEqual(floor.held(-floor.drop), 0)

    def test_the_ridge_between_two_drains_lies_midway_at_the_edge_level(self) -> None:
        floor = surface(document(drain=point(400, 1350), second_drain=point(1100, 1350)))
        ridge = [f for f in floor.folds if not f.valley]
        self.assertEqual(len(ridge), 1)
        self.assertEqual({ridge[0].start[0], ridge[0].end[0]}, {750.0})
        places = np.column_stack([np.full(9, 750.0), np.linspace(901, 1799, 9)])
        np.testing.assert_allclose(floor.heights(places), 0, atol=1e-6)
        # Corner run of either half: from its corner to the rim.
        self.assertAlmostEqual(floor.drop, hypot(340, 390) / 60, places=6)

    def test_the_rest_of_a_wet_room_is_a_wedge(self) -> None:
        # Straight before a zone across the whole end of a room the rest is one plane.
        doc = wet_room(
            outline=[[0, 1500], [1700, 1500], [1700, 2400], [0, 2400]],
            entries=[0],
            drain=channel(0, 2365, 1700, 2365),
        )
        floor = surface(doc)
        self.assertAlmostEqual(floor.edge, -15, places=6)
        self.assertAlmostEqual(floor.drop, 15 + 830 / 50, places=6)
        rest = floor.held(0.0, "rest")
        self.assertAlmostEqual(rest, 1.7 * 1.5 * 15 / 2, places=6)

    def test_strips_fall_along_the_channel_to_its_end(self) -> None:
        drain = channel(200, 1765, 1500, 1765) | {"strips": 1 / 50}
        floor = surface(document(drain=drain))
        heights = floor.heights(np.array([[0.5, 1765], [100, 1765], [0.5, 1400]]))
        np.testing.assert_allclose(heights[:2] + floor.drop, [199.5 / 50, 100 / 50], atol=1e-6)
        # Where it is higher, the strip's plane goes on into the floor before it.
        main = -floor.drop + (1730 - 1400) / 60
        self.assertAlmostEqual(heights[2], max(main, -floor.drop + 199.5 / 50), places=6)


class TradeTest(unittest.TestCase):
    """Common practice, no source, where no other source is named."""

    def test_cutting_150_mm_at_1_in_48_lowers_the_edge_by_3_1_mm(self) -> None:
        doc = document(
            former=tray(cuts=[{"edge": 0, "width": 150}]),
            drain=channel(0, 1765, 1500, 1765),
            fall={"asked": 1 / 48},
        )
        self.assertAlmostEqual(solved(doc).figures.step_at_entry.value, 3.1, delta=0.05)

    def test_panels_of_a_quarter_to_one_inch_over_four_feet_fall_1_in_64(self) -> None:
        panels = {"kind": "panels", "thin_edge": 6.35, "thick_edge": 25.4, "length": 1219.2}
        doc = document(former=panels, drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 48})
        finding = next(f for f in cured(doc).findings if f.code == "panel_fall")
        self.assertAlmostEqual(1 / finding.measured, 64, places=6)
        self.assertIn("less than planned", finding.detail)
        doc["shower"]["fall"]["asked"] = finding.cures[0].changes[0].value
        self.assertNotIn("panel_fall", [f.code for f in cured(doc).findings])
        doc["shower"]["former"]["length"] = 600
        self.assertIn("panel_short", [f.code for f in cured(doc).findings])

    def test_wet_room_zones_of_the_norwegian_guidance(self) -> None:
        # TEK17 §13-15, guidance (from memory): 1:50 in the shower zone, 1:100 in the rest.
        codes = [f.code for f in solved(wet_room()).findings]
        self.assertNotIn("fall_under_least", codes)
        flatter = wet_room(rest={"asked": 1 / 101})
        self.assertIn("fall_under_least", [f.code for f in solved(flatter).findings])

    def test_a_central_drain_in_1500_by_900_and_its_corridor(self) -> None:
        solution = solved(document())
        rows = {plane.name: plane for plane in solution.corridor.planes}
        self.assertEqual(rows["left"].text, "1:52.2")
        self.assertEqual(rows["entry"].text, "1:29.5")
        self.assertEqual(rows["entry"].asked_text, "1:60")
        self.assertAlmostEqual(1 / rows["fold"].gradient, 60, places=6)


class TileTest(unittest.TestCase):
    def test_a_tile_lies_on_one_plane_and_stands_off_the_other(self) -> None:
        # By hand: planes that fall 1:48 at right angles turn by arccos(1 / (1 + 1/48²)).
        angle = np.arccos(1 / (1 + 1 / 48**2))
        half = largest_uncut(float(angle), 1.0) / 2
        self.assertAlmostEqual(half * sin(angle), 1.0)

    def test_the_100_mm_rule_is_the_wider_joints_lippage_at_1_in_48(self) -> None:
        # ANSI A108.02 (from memory): 1/16 in over joints of 1/4 in and wider; and the rule of
        # thumb of 4 in (common practice, no source) is what comes out for a four-way fall of 1:48.
        outline = [[0, 600], [1200, 600], [1200, 1800], [0, 1800]]
        doc = document(outline=outline, drain=point(600, 1200), fall={"asked": 1 / 48})
        doc["shower"]["fall"]["measured"] = "plane_run"
        doc["shower"]["tile"] = {"length": 100, "width": 100, "joint": 6.4}
        folds = solved(doc).surface.folds
        self.assertEqual(len(folds), 4)
        for fold in folds:
            self.assertAlmostEqual(fold.tile, TRADE.tiling.thumb.value, delta=10)
            # The folds run at 45° to the tile: 100 mm of tile reach 141 mm square to them.
            self.assertAlmostEqual(fold.reach, 100 * 2**0.5, delta=0.5)
            self.assertFalse(fold.cut)
        # By practice it is not cut (common practice, no source); what it stands off is told.
        told = solved(doc).surface.tile_notes[-1]
        self.assertIn("more than the lippage limit", told)
        doc["shower"]["tile"] |= {"length": 103, "width": 103}
        self.assertTrue(all(fold.cut for fold in solved(doc).surface.folds))
        doc["shower"]["tile"] = {"length": 100, "width": 100, "joint": 6.4, "turn": 45}
        for fold in solved(doc).surface.folds:
            self.assertAlmostEqual(fold.reach, 100, delta=0.5)
            self.assertFalse(fold.cut)
        doc["shower"]["tile"] = {"length": 150, "width": 150, "joint": 6.4}
        self.assertTrue(all(fold.cut for fold in solved(doc).surface.folds))
        # Over narrow joints half of it.
        doc["shower"]["tile"]["joint"] = 2
        self.assertAlmostEqual(solved(doc).surface.folds[0].tile, folds[0].tile / 2, delta=0.4)

    @examples(40)
    @given(st.floats(20, 400), st.floats(20, 400), st.floats(0, 359), st.floats(0, 359))
    def test_a_tile_reaches_as_far_as_its_corners_lie_apart(
        self, length: float, width: float, laid: float, turn: float
    ) -> None:
        doc = moved(document(), turn=turn)
        doc["shower"]["tile"] = {"length": length, "width": width, "turn": laid}
        # The tile's corners, laid along the entry and turned; and the folds' own directions.
        corners = np.array([[x, y] for x in (0, length) for y in (0, width)])
        angle = np.radians(laid + turn)
        spin = np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
        for fold in solved(doc).surface.folds:
            along = np.subtract(fold.end, fold.start)
            across = np.array([-along[1], along[0]]) / np.hypot(*along)
            self.assertAlmostEqual(fold.reach, np.ptp(corners @ spin @ across), places=4)
            large = max(length, width) > 102
            self.assertEqual(fold.cut, large and fold.reach > fold.tile + 1e-6)

    def test_lippage_by_joint(self) -> None:
        # ANSI A108.02 (from memory).
        narrow, wide = (TRADE.tiling.lippage_over(joint) for joint in (3, 25.4 / 4 + 0.01))
        self.assertAlmostEqual(narrow.value, 25.4 / 32, delta=0.01)
        self.assertAlmostEqual(wide.value, 25.4 / 16, delta=0.01)

    def test_folds_turn_by_the_angle_between_their_planes(self) -> None:
        # By hand: two planes that fall s at right angles turn by s √2, nearly.
        outline = [[0, 600], [1200, 600], [1200, 1800], [0, 1800]]
        doc = document(outline=outline, drain=point(600, 1200))
        fold = solved(doc).surface.folds[0]
        gradient = solved(doc).surface.planes[0].gradient
        self.assertAlmostEqual(radians(fold.angle), gradient * sqrt(2), delta=1e-5)
