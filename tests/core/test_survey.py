"""The survey: tapes, readings of every kind, the floor they make, and what makes it true."""

import math
import random
import unittest
from dataclasses import asdict
from math import ceil

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon, box

from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Finding
from calm_basin.core.solution import Solution
from calm_basin.core.survey.floor import SubFloor, cells, places_of
from calm_basin.core.survey.ground import pour_zone
from calm_basin.core.survey.pour import pour
from calm_basin.core.survey.result import Truing
from calm_basin.devices.laser import SimulatedLaser
from calm_basin.formats.levels_csv import read_levels, write_levels
from calm_basin.plan import PlanError, plan_from
from calm_basin.plan.survey import HeightReading, Pour, Reading, ShimReading, StaffReading
from calm_basin.units import Display
from tests.plans import Document, answered, cured, document, moved, offering, solved, wholly
from tests.sweeps import examples

ROOM = box(0, 0, 2400, 1800)
INCH = 25.4


def heights(*rows: tuple[float, float, float]) -> tuple[Reading, ...]:
    return tuple(HeightReading(x=x, y=y, height=z) for x, y, z in rows)


def sloping(tilt: float, turn: float = 0.0, size: float = 2400) -> tuple[Reading, ...]:
    """Readings on a plane that falls ``tilt`` towards ``turn`` degrees."""
    x, y = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    places = [(a, b) for a in (0.0, size / 2, size) for b in (0.0, 900.0, 1800.0)]
    return heights(*((a, b, -tilt * (a * x + b * y)) for a, b in places))


def surveyed(levels: tuple[Reading, ...], **survey: object) -> Document:
    doc = document(former={"kind": "tray", "edge_thickness": 40})
    listed = [level.model_dump(mode="json") for level in levels]
    doc["survey"] = {"levels": listed, **survey}
    doc["version"] = 2
    return doc


def coded(solution: Solution, code: str) -> Finding | None:
    return next((f for f in solution.findings if f.code == code), None)


def truing(solution: Solution, code: str) -> Truing | None:
    floor = solution.survey.floor
    assert floor is not None
    return next((way for way in floor.truings if way.code == code), None)


class ReadingsTest(unittest.TestCase):
    def test_three_ways_of_reading_give_one_floor(self) -> None:
        by_height = heights((0, 0, 0), (1200, 0, -5), (0, 1000, -8))
        by_staff = tuple(
            StaffReading(x=r.x, y=r.y, reading=1240 - r.height, instrument=1240) for r in by_height
        )
        by_level = (
            ShimReading(x=0, y=0, direction=0, distance=1200, gap=5),
            ShimReading(x=0, y=0, direction=90, distance=1000, gap=8),
        )
        expected = sorted(map(tuple, places_of(by_height)[0].round(6)))
        for levels in (by_staff, by_level):
            self.assertEqual(sorted(map(tuple, places_of(levels)[0].round(6))), expected)

    def test_a_laser_may_be_set_up_anew(self) -> None:
        levels = (
            StaffReading(x=0, y=0, reading=1240, instrument=1240),
            StaffReading(x=900, y=0, reading=1310, instrument=1300),
        )
        self.assertEqual(places_of(levels)[0][:, 2].tolist(), [0, -10])

    def test_doubtful_readings_are_told_not_hidden(self) -> None:
        for levels, word in [
            (heights((0, 0, 0)), "Fewer than three"),
            (heights((0, 0, 0), (1000, 0, 3)), "Fewer than three"),
            (heights((0, 0, 0), (1000, 0, 3), (2000, 0, 1)), "one line"),
            (heights((0, 0, 0), (900, 0, 1), (0, 900, 2), (5, 0, 9)), "more than once"),
            (heights((0, 0, 0), (900, 0, 1), (0, 900, 2), (9000, 0, 9)), "outside the room"),
        ]:
            with self.subTest(word=word):
                solution = solved(surveyed(levels))
                self.assertTrue(any(word in remark for remark in solution.survey.floor.remarks))
                self.assertIsNotNone(coded(solution, "readings_doubtful"))
                self.assertFalse(any(math.isnan(d) for d in solution.survey.floor.grid.depths if d))

    def test_all_outside_is_a_finding(self) -> None:
        solution = solved(surveyed(heights((9000, 9000, 0))))
        self.assertIsNone(solution.survey.floor)
        self.assertIsNotNone(coded(solution, "readings_outside"))

    def test_between_readings_it_is_known_beyond_it_is_a_guess(self) -> None:
        floor = SubFloor(heights((600, 600, 0), (1200, 600, 0), (900, 1200, -6)), ROOM)
        _, read = floor.heights(np.array([[900.0, 800.0], [2300.0, 100.0]]))
        self.assertEqual(read.tolist(), [True, False])

    @examples(40)
    @given(
        st.lists(
            st.tuples(st.floats(-500, 3000), st.floats(-500, 2500), st.floats(-40, 40)),
            min_size=1,
            max_size=25,
        )
    )
    def test_any_readings_make_a_floor_or_a_finding(
        self, rows: list[tuple[float, float, float]]
    ) -> None:
        solution = solved(surveyed(heights(*rows)))
        floor = solution.survey.floor
        if floor is None:
            self.assertIsNotNone(coded(solution, "readings_outside"))
            return
        self.assertTrue(all(sounding.depth >= -1e-9 for sounding in floor.soundings))
        self.assertGreaterEqual(floor.flatness.value, -1e-9)
        self.assertIsNotNone(truing(solution, "pour"))


class FlatnessTest(unittest.TestCase):
    def test_a_tilted_plane_is_flat(self) -> None:
        floor = SubFloor(sloping(0.01, 30), ROOM)
        self.assertAlmostEqual(floor.flatness(1000).gap, 0, places=6)
        self.assertAlmostEqual(floor.tilt, 0.01)
        self.assertAlmostEqual(floor.tilt_downhill, 30, places=3)
        self.assertAlmostEqual(floor.crown, 0, places=6)

    def test_a_dish_gapes_in_its_middle(self) -> None:
        rows = [(x, y, 0.0) for x in (0.0, 2400.0) for y in (0.0, 900.0, 1800.0)]
        floor = SubFloor(heights(*rows, (1200, 900, -8.0)), ROOM)
        edge = floor.flatness(2000)
        # 8 deep in the middle, 0 at the walls: along the room 2000 of edge spans 1000 / 1200 of it,
        # from wall to wall across the room all of it.
        self.assertGreater(edge.gap, 8 * 1000 / 1200 - 0.3)
        self.assertLessEqual(edge.gap, 8 + 1e-9)
        self.assertLess(math.dist(edge.at, (1200, 900)), 260)
        self.assertGreater(floor.dish, floor.crown)

    def test_an_edge_rests_on_a_crown(self) -> None:
        rows = [(x, y, 0.0) for x in (0.0, 2400.0) for y in (0.0, 900.0, 1800.0)]
        floor = SubFloor(heights(*rows, (1200, 900, 8.0)), ROOM)
        gaps = floor.under_edge(np.array([200.0, 900.0]), np.array([2200.0, 900.0]))
        self.assertAlmostEqual(gaps.max(), 0, places=6)
        self.assertGreater(floor.crown, floor.dish)

    @examples(30)
    @given(st.lists(st.floats(-10, 10), min_size=8, max_size=8))
    def test_a_gap_is_never_negative_and_ends_touch_or_less(self, values: list[float]) -> None:
        rows = [(300.0 * i, 200.0 * (i % 3), z) for i, z in enumerate(values)]
        floor = SubFloor(heights(*rows), ROOM)
        gaps = floor.under_edge(np.array([100.0, 100.0]), np.array([2000.0, 300.0]))
        self.assertGreaterEqual(gaps.min(), 0)
        self.assertEqual((gaps[0], gaps[-1]), (0, 0))


class TrueEnoughTest(unittest.TestCase):
    def test_limits_follow_what_the_floor_has_to_carry(self) -> None:
        # 1/8 in under trays and one-piece units, 1/4 in under a rigid pan (common practice, no
        # source). The shower is 1500 wide: 1:333 along it makes 4.5 mm.
        levels = sloping(0.003)
        for base, fine in [
            ("foam-tray", False),
            ("one-piece", False),
            ("rigid-pan", True),
            ("mortar-bed", True),
            ("tile-alone", True),
        ]:
            with self.subTest(base=base):
                solution = solved(surveyed(levels, base=base))
                self.assertEqual(solution.survey.floor.true_enough, fine)
                self.assertEqual(coded(solution, "floor_out_of_true") is None, fine)

    def test_an_unknown_base_is_named(self) -> None:
        with self.assertRaises(PlanError) as caught:
            wholly(plan_from(surveyed(sloping(0.001), base="trampoline")))
        self.assertEqual(caught.exception.problems[0].path, "/survey/base")

    def test_every_truing_cures(self) -> None:
        plan = plan_from(surveyed(sloping(0.003)))
        first = offering(plan)
        finding = coded(first, "floor_out_of_true")
        self.assertEqual(len(finding.cures), 3)
        for cure in finding.cures:
            after = answered(changed(plan, cure.changes))
            self.assertIsNone(coded(after, "floor_out_of_true"), cure.text)
            self.assertTrue(any(way.chosen for way in after.survey.floor.truings))

    def test_packing_only_within_its_limit_and_cleats_only_on_joists(self) -> None:
        steep = solved(surveyed(sloping(0.01)))
        self.assertIsNone(truing(steep, "pack"))
        # Adhesive takes up 6 mm and no more (common practice, no source): the shower is 1500 wide.
        for high, packed in ((5.99, True), (6.01, False)):
            found = solved(surveyed(sloping(high / 1500)))
            self.assertEqual(truing(found, "pack") is not None, packed, high)
        slab = surveyed(sloping(0.003))
        slab["floor"] = {"kind": "slab", "thickness": 120}
        self.assertIsNone(truing(solved(slab), "frame"))
        self.assertIsNotNone(truing(solved(slab), "pour"))

    def test_a_pour_lifts_the_room_and_so_the_recess(self) -> None:
        plan = plan_from(surveyed(sloping(0.003)))
        before = answered(plan)
        after = answered(changed(plan, truing(before, "pour").changes))
        gained = before.figures.recess_needed.value - after.figures.recess_needed.value
        self.assertAlmostEqual(gained, 6)
        self.assertIn("pour", [band.name for band in after.section.bands])
        inputs = [item.name for item in after.figures.room_level.working.inputs]
        self.assertIn("pour over the high spot", inputs)


class BoundsTest(unittest.TestCase):
    def refused(self, *readings: Document) -> str:
        doc = document() | {"version": 9}
        doc["survey"] = {"levels": list(readings)}
        try:
            plan_from(doc)
        except PlanError as error:
            return error.problems[0].path
        return ""

    def test_a_reading_that_no_floor_gives_is_refused_by_name(self) -> None:
        def staff(reading: float, laser: float = 1000) -> Document:
            return {"kind": "staff", "x": 100, "y": 100, "reading": reading, "instrument": laser}

        def high(value: float) -> Document:
            return {"kind": "height", "x": 100, "y": 100, "height": value}

        good = [staff(995), staff(1003), high(2)]
        self.assertEqual(self.refused(*good), "")
        self.assertEqual(self.refused(*good, staff(-5)), "/survey/levels/3/reading")
        self.assertEqual(self.refused(*good, staff(13_020)), "/survey/levels/3/reading")
        # Another set-up of the laser is no fault where its height is told.
        self.assertEqual(self.refused(*good, staff(1500, 1500)), "")
        self.assertEqual(self.refused(staff(1500), *good), "/survey/levels/0/reading")
        for out, path in ((299, ""), (-299, ""), (310, "/survey/levels/3/height")):
            self.assertEqual(self.refused(*good, high(out)), path)
        shim = {"kind": "shim", "x": 0, "y": 0, "direction": 0, "distance": 600}
        self.assertEqual(self.refused(*good, shim | {"gap": 12}), "")
        self.assertEqual(self.refused(*good, shim | {"gap": 350}), "/survey/levels/3/gap")


class TrayTest(unittest.TestCase):
    """Half an inch in four feet is 1:96."""

    def tray(self, fall: float) -> Solution:
        doc = surveyed(sloping(0.5 / 48, 0))
        doc["shower"]["fall"] = {"asked": fall, "measured": "plane_run"}
        return cured(doc)

    def test_the_fall_of_a_flat_tray_turns_round_and_it_says_where(self) -> None:
        solution = self.tray(1 / 100)
        finding = coded(solution, "tray_fall_turned")
        self.assertEqual(finding.severity, "stop")
        self.assertIn("right", finding.detail)
        turned = [fall.plane for fall in solution.survey.floor.tray_falls if fall.turned]
        self.assertEqual(turned, ["right"])
        self.assertGreater(finding.places[0].x, 750)
        self.assertTrue(finding.cures)

    def test_a_steeper_tray_keeps_what_the_tilt_leaves(self) -> None:
        solution = self.tray(1 / 48)
        self.assertIsNone(coded(solution, "tray_fall_turned"))
        left = {fall.plane: fall.left for fall in solution.survey.floor.tray_falls}
        self.assertAlmostEqual(left["right"], 1 / 48 - 1 / 96)
        self.assertAlmostEqual(left["left"], 1 / 48 + 1 / 96)

    def test_once_the_floor_is_made_true_nothing_turns(self) -> None:
        doc = surveyed(sloping(0.5 / 48), correction={"kind": "frame"})
        self.assertEqual(solved(doc).survey.floor.tray_falls, ())


class CleatTest(unittest.TestCase):
    def test_cleats_lie_less_deep_where_the_floor_is_low(self) -> None:
        solution = solved(surveyed(sloping(0.01, 90)))
        joists = solution.survey.floor.cleats
        self.assertTrue(joists)
        for joist in joists:
            for mark in joist.marks:
                self.assertAlmostEqual(mark.mark, 18 - 0.01 * mark.y, places=6)

    def test_marks_follow_each_joist_through_the_shower_only(self) -> None:
        for joist in solved(surveyed(sloping(0.001))).survey.floor.cleats:
            self.assertGreaterEqual(len(joist.marks), 2)
            for mark in joist.marks:
                self.assertTrue(-1e-6 <= mark.x <= 1500 + 1e-6)
                self.assertTrue(900 - 1e-6 <= mark.y <= 1800 + 1e-6)


class PourTest(unittest.TestCase):
    def test_more_cover_never_takes_fewer_bags(self) -> None:
        floor = SubFloor(sloping(0.004), ROOM)
        bags = [pour(floor, ROOM, Pour(cover=cover)).bags for cover in (3, 6, 12, 24)]
        self.assertEqual(bags, sorted(bags))

    def test_waste_kept_back_is_bought_too(self) -> None:
        floor = SubFloor(sloping(0.01), ROOM)
        plain, kept = (pour(floor, ROOM, Pour(waste_share=share)) for share in (0.0, 0.3))
        self.assertEqual(plain.litres, kept.litres)
        self.assertAlmostEqual(kept.bags / plain.bags, 1.3, delta=0.15)

    def test_everybody_needed_pours_within_the_working_time(self) -> None:
        floor = SubFloor(sloping(0.01), ROOM)
        chance = random.Random(4)
        timed = [
            Pour(
                batch_minutes=round(chance.uniform(2, 14), 1),
                working_minutes=round(chance.uniform(14, 40), 1),
                bags_a_batch=chance.randint(1, 3),
            )
            for _ in range(30)
        ]
        for settings_ in (Pour(), Pour(working_minutes=10), *timed):
            result = pour(floor, ROOM, settings_)
            # Batches are dealt out one by one until all are, each to whoever has the least to do.
            busy = [0.0] * result.mixers
            for _ in range(result.batches):
                busy[busy.index(min(busy))] += settings_.batch_minutes
            self.assertLessEqual(max(busy), settings_.working_minutes + 1e-9)
            one_less = ceil(result.batches / (result.mixers - 1)) if result.mixers > 1 else None
            if one_less:
                self.assertGreater(one_less * settings_.batch_minutes, settings_.working_minutes)
            self.assertGreaterEqual(result.batches * settings_.bags_a_batch, result.bags)

    def test_it_ends_at_a_recess_that_is_opened_and_framed(self) -> None:
        litres = []
        for edge in (60, 5):
            doc = surveyed(sloping(0.003))
            doc["shower"]["former"] = {"kind": "tray", "edge_thickness": edge}
            way = truing(solved(doc), "pour")
            litres.append(float(way.figures[1].text.removesuffix(" L")))
            word = "up to the shower's recess" if edge == 60 else "over the room"
            self.assertIn(word, way.title)
        self.assertLess(litres[0] / litres[1], 0.85)

    def test_it_goes_under_the_shower_only_where_its_base_is_no_lower(self) -> None:
        """Room 24 and 6 of pour, shower layers 13: the base lies 17 mm less the tray's edge up."""
        for edge, under in ((16.9, False), (14, False), (11.1, False), (10.9, True), (4, True)):
            for turn, mirror in ((0, False), (31, True)):
                doc = surveyed(sloping(0.003))
                doc["shower"]["former"] = {"kind": "tray", "edge_thickness": edge}
                plan = plan_from(moved(doc, turn=turn, mirror=mirror))
                zone, whole = pour_zone(plan, Pour(cover=6))
                room, shower = Polygon(plan.room.outline), Polygon(plan.shower.outline)
                with self.subTest(edge=edge, turn=turn):
                    self.assertEqual(whole, under)
                    self.assertAlmostEqual(zone.area, room.area - (0 if under else shower.area))

    def test_the_laser_walks_twelve_places_in_any_room(self) -> None:
        doc = document()
        walk = solved(doc).survey.walk
        self.assertEqual(len(walk), 12)
        # To and fro in three rows, near both ends and in the middle of a room of 2400 × 1800.
        self.assertEqual([y for _, y in walk], [180.0] * 4 + [900.0] * 4 + [1620.0] * 4)
        self.assertEqual([x for x, _ in walk[:4]], [192.0, 864.0, 1536.0, 2208.0])
        doc["room"]["outline"] = [[0, 0], [2400, 0], [2400, 1800], [1600, 1800], [0, 1800]]
        doc["room"]["outline"][3] = [2000, 1850]
        room = Polygon(doc["room"]["outline"])
        walk = solved(doc).survey.walk
        self.assertEqual(len(walk), 12)
        self.assertTrue(all(room.buffer(0.1).contains(Point(place)) for place in walk))

    def test_it_starts_at_the_deepest_place(self) -> None:
        result = pour(SubFloor(sloping(0.01, 0), ROOM), ROOM, Pour())
        self.assertGreater(result.deepest.x, 2300)

    def test_cells_stand_for_the_whole_zone(self) -> None:
        for zone in (ROOM, Polygon([(0, 0), (900, 0), (0, 30)]), box(0, 0, 5, 5)):
            points, each = cells(zone)
            self.assertAlmostEqual(len(points) * each, zone.area)


class LaserTest(unittest.TestCase):
    def test_the_same_seed_gives_the_same_floor_and_readings(self) -> None:
        places = [(100.0 * i, 70.0 * i) for i in range(12)]
        first, second = SimulatedLaser(3), SimulatedLaser(3)
        self.assertEqual([first.read(*p) for p in places], [second.read(*p) for p in places])

    def test_its_readings_are_marked_and_told_alone_and_among_real_ones(self) -> None:
        laser = SimulatedLaser(3)
        shots = [
            {"kind": "staff", "x": x, "y": 700} | asdict(laser.read(x, 700))
            for x in (200.0, 900.0, 1600.0)
        ]
        real = {"kind": "height", "x": 300, "y": 1500, "height": 0}
        for levels, severity in ((shots, "caution"), ([*shots, real], "stop"), ([real], None)):
            doc = document() | {"version": 6}
            doc["survey"] = {"levels": levels}
            plan = plan_from(doc)
            found = [f for f in offering(plan).findings if f.code == "readings_simulated"]
            self.assertEqual([f.severity for f in found], [severity] if severity else [])
            for finding in found:
                self.assertIn("3 readings", finding.title)
                (cure,) = finding.cures
                left = changed(plan, cure.changes).survey.levels
                self.assertEqual(len(left), len(levels) - 3)
            self.assertEqual(
                read_levels(write_levels(plan.survey.levels), Display())[0],
                list(plan.survey.levels),
            )

    def test_readings_tell_the_hidden_floor_to_its_noise(self) -> None:
        laser = SimulatedLaser(11)
        for x in range(0, 2400, 100):
            shot = laser.read(x, 900)
            self.assertAlmostEqual(shot.instrument - shot.reading, laser.floor(x, 900), delta=1.6)
