"""A loose heating mat: its strips by hand and on random floors."""

import random
import unittest
from itertools import combinations
from typing import Any

from shapely.geometry import Polygon, box

from calm_basin.core.heating.answer import heating
from calm_basin.core.heating.area import along_longest, free_floor
from calm_basin.core.heating.mats import mats
from calm_basin.core.heating.result import HeatingResult
from calm_basin.plan import Plan, PlanError
from calm_basin.plan.edits import add
from tests.core.test_heating import figure, heated, rooms
from tests.core.test_tile import case_of
from tests.plans import document
from tests.sweeps import some


def result(plan: Plan) -> HeatingResult:
    found = heating(case_of(plan))
    assert found is not None
    return found


class StripTest(unittest.TestCase):
    def test_a_bare_floor_by_hand(self) -> None:
        """2200 × 1650 with a mat of 500 and 50 between its strips: three strips of 2200 take
        1600 across; the other way four strips of 1650 take 2150. 6.6 m each."""
        found = mats(box(0, 0, 2200, 1650), 6000, 500, 0.0)
        self.assertAlmostEqual(found.most, 6600)
        self.assertAlmostEqual(found.length, 6000)
        self.assertEqual([round(strip.length) for strip in found.strips], [2200, 2200, 1600])

    def test_what_stands_on_the_floor_parts_a_strip(self) -> None:
        floor = box(0, 0, 3000, 500).difference(box(1000, 200, 1400, 400))
        found = mats(floor, 9000, 500, 0.0)
        self.assertEqual(sorted(round(strip.length) for strip in found.strips), [1000, 1600])
        # A stretch of 250 is too short to turn into.
        floor = box(0, 0, 1650, 500).difference(box(1000, 0, 1400, 400))
        found = mats(floor, 9000, 500, 0.0)
        self.assertEqual([round(strip.length) for strip in found.strips], [1000])

    def test_strips_on_random_floors_lie_free_and_apart_and_are_as_long_as_the_mat(self) -> None:
        chance, ran = random.Random(9), 0
        for plan in rooms(some(60)):
            free, width = free_floor(plan), chance.uniform(300, 600)
            length = chance.uniform(500, 8000)
            found = mats(free, length, width, along_longest(plan.room.outline))
            self.assertAlmostEqual(found.length, min(length, found.most), delta=1)
            shapes = [Polygon(strip.corners) for strip in found.strips]
            for shape, strip in zip(shapes, found.strips, strict=True):
                self.assertAlmostEqual(shape.area, strip.length * width, delta=1)
                self.assertLess(shape.difference(free).area, 1)
            for one, other in combinations(shapes, 2):
                self.assertGreaterEqual(one.distance(other), min(50, 1e9) - 1e-6)
                ran += 1
        self.assertGreater(ran, 20 if some(60) == 60 else 0)


class AnswerTest(unittest.TestCase):
    def mat(self, **more: Any) -> Plan:
        return heated(document(), **({"where": "room", "length": 1500, "mat": 400} | more))

    def test_it_fits_or_is_too_long_and_what_cures_it_was_tried(self) -> None:
        found = result(self.mat())
        self.assertEqual(found.state, "fits")
        self.assertEqual((found.route, bool(found.mats)), ((), True))
        self.assertAlmostEqual(figure(found, "Heated area"), 1500 * 400, delta=500)
        long = result(self.mat(length=30_000))
        self.assertEqual(long.state, "too long")
        self.assertTrue(long.cures)
        for cure in long.cures:
            change = cure.changes[0]
            mended = self.mat(**{"length": 30_000, change.path.rsplit("/", 1)[1]: change.value})
            self.assertEqual(result(mended).state, "fits")

    def test_its_load_is_by_its_width(self) -> None:
        """60 W a metre of a mat 400 wide: 150 W a square metre, by hand."""
        found = result(self.mat(watts_a_metre=60))
        self.assertAlmostEqual(figure(found, "Load per area"), 150)
        self.assertAlmostEqual(figure(found, "Power"), 90)

    def test_one_way_to_fix_it_takes_the_others_place(self) -> None:
        plan = add(add(self.mat(mat=None), "studs"), "heating mat")
        assert plan.heating is not None
        self.assertEqual((plan.heating.stud, plan.heating.mat), (None, 500))
        back = add(plan, "studs")
        assert back.heating is not None
        self.assertEqual((back.heating.stud, back.heating.mat), (30, None))
        with self.assertRaises(PlanError) as refused:
            self.mat(mat=50)
        self.assertEqual(refused.exception.problems[0].path, "/heating/mat")
