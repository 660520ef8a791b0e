"""Screed pins and the check card."""

import itertools
import math
import random
import unittest

import numpy as np
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.setting_out.pins import layout, loses_most
from calm_basin.core.setting_out.result import PinsResult
from calm_basin.core.setting_out.rounding import cut_to_units, neighbours
from calm_basin.plan import PlanError, plan_from
from tests.core.test_arrangements import arrangements
from tests.plans import (
    L_SHAPE,
    Document,
    answered,
    channel,
    document,
    moved,
    point,
    tray,
    wet_room,
)
from tests.sweeps import each, examples, some


def pinned(doc: Document) -> PinsResult:
    result = answered(plan_from(doc), parts=("marks",)).marks
    assert result is not None
    return result.pins


class RoundingTest(unittest.TestCase):
    @examples(40)
    @given(arrangements(), st.sampled_from([1.0, 25.4 / 32, 25.4 / 16]), st.booleans())
    def test_on_a_level_base_nothing_is_turned_and_no_pin_is_far_off(
        self, doc: Document, unit: float, turned: bool
    ) -> None:
        try:
            plan = plan_from(moved(doc, turn=33) if turned else doc)
            surface = surface_of(plan)
        except NoSurfaceError:
            assume(False)
        apart = plan.setting_out.model_copy(update={"pin_spacing": 300.0})
        places, _ = layout(plan.model_copy(update={"setting_out": apart}), surface)
        tops = surface.heights(places)
        places, tops = places[~np.isnan(tops)], tops[~np.isnan(tops)] + surface.drop + 12.3
        pairs = neighbours(places, surface, 300.0)
        least = np.full(len(tops), 12.3)
        cut = cut_to_units(pairs, tops, np.zeros(len(tops)), unit, least)
        self.assertEqual(cut.turned, [])
        np.testing.assert_allclose(cut.heights / unit, np.round(cut.heights / unit), atol=1e-9)
        self.assertLessEqual(np.abs(cut.heights - tops).max(), unit + 1e-9)
        self.assertGreaterEqual(cut.heights.min(), 12.3 - 1e-9)
        for a, b in each(pairs):
            self.assertGreaterEqual((cut.heights[a] - cut.heights[b]) * (tops[a] - tops[b]), -1e-9)
            if abs(tops[a] - tops[b]) < 1e-9:
                self.assertEqual(cut.heights[a], cut.heights[b])

    @examples(30)
    @given(st.integers(0, 2**20), st.sampled_from([1.0, 25.4 / 16]), st.floats(0.1, 3))
    def test_on_a_rough_base_what_is_turned_is_told_and_cannot_be_helped(
        self, seed: int, unit: float, rough: float
    ) -> None:
        # Few pins, so that every rounding within a unit can be tried.
        rng = np.random.default_rng(seed)
        surface = surface_of(plan_from(document()))
        places = rng.uniform((0, 900), (1500, 1800), (9, 2))
        tops = surface.heights(places) + 60
        bases = rng.normal(0, rough, 9)
        pairs = neighbours(places, surface, 500.0)
        cut = cut_to_units(pairs, tops, bases, unit, np.zeros(9))
        real = bases + cut.heights

        def turned(levels: np.ndarray) -> list[tuple[int, int]]:
            ways = [(a, b) if tops[a] > tops[b] else (b, a) for a, b in pairs]
            return [
                (a, b) for a, b in ways if tops[a] - tops[b] > 1e-6 and levels[a] < levels[b] - 1e-6
            ]

        self.assertLessEqual(np.abs(real - tops).max(), unit + 1e-9)
        self.assertEqual(sorted(cut.turned), sorted(turned(real)))
        now, planned = loses_most(places, pairs, tops, real)
        lost = []
        for a, b in pairs:
            upper, lower = (a, b) if tops[a] > tops[b] else (b, a)
            left = max(real[upper] - real[lower], 0.0)
            lost.append((tops[upper] - tops[lower] - left) / math.dist(places[a], places[b]))
        self.assertAlmostEqual(planned - now, max(lost))
        if cut.turned:
            low = np.ceil((tops - bases) / unit - 1)
            for choice in itertools.product((0, 1), repeat=9):
                self.assertNotEqual(turned(bases + (low + choice) * unit), [])

    def test_diagonals_of_a_grid_are_neighbours(self) -> None:
        surface = surface_of(plan_from(document()))
        places = np.array([[100.0, 1000], [400, 1000], [400, 1300], [100, 1300]])
        self.assertEqual(
            neighbours(places, surface, 300.0), [(0, 1), (0, 2), (0, 3), (1, 2), (1, 3), (2, 3)]
        )

    def test_neighbours_never_reach_across_a_wall(self) -> None:
        surface = surface_of(plan_from(document(outline=L_SHAPE, drain=point(1200, 450))))
        places = np.array([[50.0, 850.0], [950.0, 1750.0], [1200.0, 450.0], [1450.0, 50.0]])
        self.assertNotIn((0, 1), neighbours(places, surface, 2000.0))

    def test_pairs_that_no_cut_keeps_are_named(self) -> None:
        # Three levels a hair apart on bases that only let them come out the other way round.
        tops, bases = np.array([10.0, 10.01, 10.02]), np.array([0.9, 0.5, 0.1])
        cut = cut_to_units([(0, 1), (1, 2), (0, 2)], tops, bases, 1.0, np.zeros(3))
        self.assertTrue(cut.turned)


class RimTest(unittest.TestCase):
    @examples(40)
    @given(st.integers(0, 14), st.integers(0, 2**16), st.sampled_from([0.0, 22.0, -100.0]))
    def test_rim_pins_are_the_least_bed_beside_slanted_walls(
        self, lean: int, seed: int, turn: float
    ) -> None:
        # A channel along the back whose corners lie up to half a millimetre outside the outline.
        off = np.random.default_rng(seed).uniform(-0.45, 0.45)
        outline = [[0, 900], [1500, 900], [1500 + lean, 1800], [0, 1800]]
        end = 1500 + lean * (865 / 900) + off
        doc = document(outline=outline, drain=channel(0, 1765, end, 1765))
        doc["room"]["outline"] = [[-30, -30], [2400, -30], [2400, 1830], [-30, 1830]]
        try:
            found = answered(plan_from(moved(doc, turn=turn)), parts=("marks",))
        except PlanError:
            assume(False)
        assume(found.marks is not None)
        rim = [pin.height for pin in found.marks.pins.pins if pin.kind == "rim"]
        # The bed is cast down to the deck, which was lowered by its own 18 mm.
        over = max(18 - found.figures.recess_needed.value, 0)
        np.testing.assert_allclose(rim, 12 + over, atol=0.02)


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
        solution = answered(plan_from(doc), parts=("marks",))
        drop = solution.figures.drop_at_drain.value
        # Down to the deck that was lowered by its own 18 mm.
        least = 12 + 18 - solution.figures.recess_needed.value
        kinds = [pin.kind for pin in solution.marks.pins.pins]
        each(kind for kind in kinds if kind == "rim")
        each(kind for kind in kinds if kind == "edge")
        for pin in solution.marks.pins.pins:
            if pin.kind == "rim":
                self.assertAlmostEqual(pin.height, least, places=6)
            if pin.kind == "edge":
                self.assertAlmostEqual(pin.height, least + drop, places=6)
            self.assertLessEqual(abs(pin.cut - pin.height), result_unit(solution.marks.pins))

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
        for pin in each(result.pins):
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
    @examples(25)
    @given(arrangements())
    def test_lines_run_from_the_rim_to_the_wall_and_rise(self, doc: Document) -> None:
        solution = answered(plan_from(doc), parts=("marks",))
        assume(solution.complete)
        floor = surface_of(plan_from(doc))
        for line in each(solution.marks.pins.lines):
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


class StandsOnTest(unittest.TestCase):
    def test_a_pin_is_as_high_as_the_bed_over_what_it_stands_on(self) -> None:
        """By hand: the finished level less the shower's layers, over the deck as it is, the deck
        refitted a thickness lower, the slab, its recess, or what is poured there."""
        seen = set()
        for seed in range(some(60)):
            chance = random.Random(seed)
            doc = document(former={"kind": "bed", "least_thickness": chance.uniform(8, 30)})
            slab = chance.random() < 0.5
            if slab:
                doc["floor"] = {"kind": "slab", "thickness": 200}
            doc["room"]["layers"][-1]["thickness"] = chance.choice([0.5, 20, 60])
            cover = chance.choice([0, 0, 6])
            if cover:
                doc["survey"] = {"correction": {"kind": "pour", "area": "shower", "cover": cover}}
            doc["display"] = {"length": "mm"}
            plan = plan_from(moved(doc, turn=chance.choice([0, 40])) | {"version": 9})
            found = answered(plan, parts=("marks",))
            base = found.figures.base_level.value
            deck = base if slab else -18.0
            if base >= 0:
                deck = 0.0
            # A bed that is short of its recess stands as deep as it has to.
            on = min(base, deck) + cover
            layers = sum(layer.thickness for layer in plan.shower.layers)
            drop = found.figures.drain_level.value
            rim = [pin for pin in found.marks.pins.pins if pin.kind == "rim"]
            with self.subTest(plan=seed):
                for pin in rim:
                    self.assertAlmostEqual(pin.height, drop - layers - on, places=4)
                named = {pin.on for pin in rim}
                (name,) = named
                seen.add(name)
                if cover:
                    self.assertEqual(name, "pour")
                elif base >= 0:
                    self.assertEqual(name, "slab" if slab else "deck")
                else:
                    below = "recess in the slab" if slab else "deck between the joists"
                    self.assertEqual(name, below)
        if some(60) == 60:
            self.assertEqual(len(seen), 5)

    def test_the_check_lines_of_a_point_drain_go_out_all_round(self) -> None:
        found = answered(plan_from(document() | {"version": 9}), parts=("marks",)).marks
        assert found is not None
        ways = sorted(
            math.degrees(math.atan2(line.end[1] - line.start[1], line.end[0] - line.start[0])) % 360
            for line in found.pins.lines
        )
        self.assertEqual(len(ways), 6)
        for one, other in itertools.pairwise([*ways, ways[0] + 360]):
            self.assertAlmostEqual(other - one, 60, places=4)
