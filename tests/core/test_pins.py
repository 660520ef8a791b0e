"""Screed pins and the check card."""

import unittest

import numpy as np
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.pins import neighbours, rounded
from calm_basin.core.solution import PinsResult
from calm_basin.core.solve import solve
from calm_basin.plan import plan_from
from tests.core.test_arrangements import arrangements
from tests.plans import L_SHAPE, Document, channel, document, point, tray, wet_room


def pinned(doc: Document) -> PinsResult:
    result = solve(plan_from(doc), parts=("pins",)).pins
    assert result is not None
    return result


class RoundingTest(unittest.TestCase):
    @settings(max_examples=40, deadline=None)
    @given(arrangements(), st.sampled_from([0.5, 1.0, 25.4 / 16, 5.0]), st.floats(0, 3))
    def test_no_neighbours_lose_their_fall(self, doc: Document, unit: float, rough: float) -> None:
        try:
            surface = surface_of(plan_from(doc))
        except NoSurfaceError:
            assume(False)
        rng = np.random.default_rng(int(1000 * rough))
        left, bottom, right, top = surface.outline.bounds
        places = rng.uniform((left, bottom), (right, top), (40, 2))
        places = places[~np.isnan(surface.heights(places))]
        assume(len(places) > 3)
        tops = surface.heights(places) + 200
        bases = rng.normal(0, rough, len(places))
        cut = rounded(places, tops, bases, unit, surface)
        np.testing.assert_allclose(cut / unit, np.round(cut / unit), atol=1e-9)
        real = bases + cut
        for a, b in neighbours(places, surface):
            high, low = (a, b) if tops[a] >= tops[b] else (b, a)
            fall = tops[high] - tops[low]
            if fall > 1e-6:
                self.assertGreaterEqual(real[high] - real[low], -1e-9)
            if fall > unit / 2:
                self.assertGreater(real[high] - real[low], 0)

    def test_plain_rounding_would_turn_a_pair_round(self) -> None:
        # Two pins 1 mm apart in level on bases that differ by a fraction: rounding each by itself
        # gives 10.4 → 10 on a base of 0.0 and 9.6 → 10 on a base of −0.2.
        places = np.array([[0.0, 900.0], [300.0, 900.0], [150.0, 1300.0]])
        tops, bases = np.array([10.4, 9.4, 8.0]), np.array([0.0, -0.2, -0.9])
        naive = bases + np.round(tops - bases)
        self.assertLess(naive[0] - naive[1], 0.5)
        surface = surface_of(plan_from(document()))
        real = bases + rounded(places, tops, bases, 1.0, surface)
        self.assertGreaterEqual(real[0] - real[1], 0.5)

    def test_neighbours_never_reach_across_a_wall(self) -> None:
        surface = surface_of(plan_from(document(outline=L_SHAPE, drain=point(1200, 450))))
        places = np.array([[50.0, 850.0], [950.0, 1750.0], [1200.0, 450.0], [1450.0, 50.0]])
        self.assertNotIn((0, 1), neighbours(places, surface))


class LayoutTest(unittest.TestCase):
    def test_pins_stand_at_rim_folds_edges_and_between(self) -> None:
        result = pinned(document())
        kinds = [pin.kind for pin in result.pins]
        self.assertEqual(kinds, sorted(kinds, key=["rim", "fold", "edge", "field"].index))
        self.assertEqual(set(kinds), {"rim", "fold", "edge", "field"})
        self.assertEqual([pin.number for pin in result.pins], list(range(1, len(kinds) + 1)))
        edge = [pin for pin in result.pins if pin.kind == "edge"]
        self.assertGreaterEqual(edge[0].y, edge[-1].y)

    def test_heights_are_bed_over_base(self) -> None:
        # Least bed 12 at the rim, and the drop more at the edge: the worked build-up.
        doc = document()
        solution = solve(plan_from(doc), parts=("pins",))
        drop = solution.figures.drop_at_drain.value
        for pin in solution.pins.pins:
            if pin.kind == "rim":
                self.assertAlmostEqual(pin.height, 12, places=6)
            if pin.kind == "edge":
                self.assertAlmostEqual(pin.height, 12 + drop, places=6)
            self.assertLessEqual(abs(pin.cut - pin.height), result_unit(solution.pins))
            self.assertAlmostEqual(pin.staff + pin.top, 1000, places=6)

    def test_the_floor_as_read_is_under_the_pins_where_it_stays(self) -> None:
        doc = document()
        doc["floor"] = {"kind": "slab", "thickness": 150}
        doc["room"]["layers"] = [{"name": "screed", "thickness": 70}]
        doc["version"] = 3
        doc["survey"] = {
            "levels": [
                {"kind": "height", "x": x, "y": y, "height": -0.004 * x}
                for x in (0, 1200, 2400)
                for y in (0, 900, 1800)
            ]
        }
        result = pinned(doc)
        self.assertEqual(result.stands_on, "the floor as it was read")
        edge = {round(pin.x): pin.height for pin in result.pins if pin.kind == "edge"}
        self.assertAlmostEqual(edge[1500] - edge[0], 0.004 * 1500, places=6)

    def test_imperial_pins_are_cut_to_a_sixteenth(self) -> None:
        result = pinned(document() | {"display": {"length": "in"}})
        for pin in result.pins:
            sixteenths = pin.cut / 25.4 * 16
            self.assertAlmostEqual(sixteenths, round(sixteenths), places=6)
        self.assertIn('"', result.pins[0].text)

    def test_a_wider_spacing_sets_fewer(self) -> None:
        few = pinned(document() | {"version": 3, "pin_spacing": 700})
        self.assertLess(len(few.pins), len(pinned(document()).pins))

    def test_far_too_many_are_not_laid_out(self) -> None:
        doc = document() | {"version": 3, "pin_spacing": 100}
        doc["room"]["outline"] = [[0, 0], [6000, 0], [6000, 6000], [0, 6000]]
        doc["shower"]["outline"] = doc["room"]["outline"]
        result = pinned(doc)
        self.assertEqual(result.pins, ())
        self.assertIn("Set them wider", result.none_because)

    def test_both_zones_of_a_wet_room_have_pins(self) -> None:
        result = pinned(wet_room())
        self.assertTrue(any(pin.y < 1400 for pin in result.pins))
        self.assertTrue(any(pin.y > 1600 for pin in result.pins))

    def test_a_tray_needs_none_and_says_so(self) -> None:
        result = pinned(document(former=tray()))
        self.assertEqual(result.pins, ())
        self.assertIn("built in", result.none_because)
        self.assertEqual(len(result.lines), 6)


def result_unit(result: PinsResult) -> float:
    return 1.0 if result.unit_text == "1 mm" else 25.4 / 16


class CheckCardTest(unittest.TestCase):
    @settings(max_examples=25, deadline=None)
    @given(arrangements())
    def test_lines_run_from_the_rim_to_the_wall_and_rise(self, doc: Document) -> None:
        solution = solve(plan_from(doc), parts=("pins",))
        assume(solution.complete)
        floor = surface_of(plan_from(doc))
        for line in solution.pins.lines:
            start, end = shapely.Point(line.start), shapely.Point(line.end)
            self.assertLess(start.distance(floor.rim), 0.01)
            if len(floor.rims) == 1:
                self.assertLess(end.distance(floor.outline.exterior), 0.01)
            self.assertEqual(len(line.distances), len(line.rises))
            rises = [float(text.replace("−", "-")) for text in line.rises]
            self.assertEqual(rises, sorted(rises))

    def test_a_point_drain_has_six_all_round_and_a_channel_six_along(self) -> None:
        self.assertEqual(len(pinned(document()).lines), 6)
        along = pinned(document(drain=channel(0, 1765, 1500, 1765))).lines
        self.assertEqual([line.end[1] for line in along], [900.0] * 6)
        self.assertEqual({line.rises[-1] for line in along}, {"13.8"})
        middle = pinned(document(drain=channel(0, 1350, 1500, 1350))).lines
        self.assertEqual(len(middle), 6)
