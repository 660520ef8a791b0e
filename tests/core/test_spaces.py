"""What fits on a floor, and the way over it: held against brute force on random rooms."""

import math
import random
import re
import unittest
from typing import Any, ClassVar

import numpy as np
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy import ndimage
from shapely import affinity
from shapely.geometry import LineString, Polygon

from calm_basin.core.access.fitting import FreeStrip, middles_of, rectangle_on, tee_on
from calm_basin.core.access.floor import (
    Facing,
    back_of,
    doorway,
    free_floor,
    front_of,
    sweep_of,
)
from calm_basin.core.access.ways import narrows, neck, passes, shortest, widest
from calm_basin.core.answer.changes import changed
from calm_basin.core.falls import door_edges, ring_of
from calm_basin.plan import plan_from
from calm_basin.plan.backs import footprint
from calm_basin.plan.room import Door, Fixture, Room
from calm_basin.tolerances import ON_EDGE
from tests.core.test_access import clearance, coded, rooms
from tests.plans import Document, answered, cured, document, moved, offering, solved, wet_room
from tests.reference.test_access_limits import fixture, roomy
from tests.sweeps import each, examples, some, sweep

CELL = 15.0
"""The brute force looks at places so far apart, mm."""


def free(room: Room) -> shapely.Geometry:
    return free_floor(room, room.outline, False)[0]


class WayTest(unittest.TestCase):
    """Ways from a wall's opening to another: discs on a grid, joined where they touch."""

    @examples(40)
    @given(rooms())
    def test_as_wide_as_by_brute_force(self, room: Room) -> None:
        corners = np.array(room.outline)
        sides = list(zip(corners, np.roll(corners, -1, axis=0), strict=True))
        start, end = ([a + (b - a) * 0.3, a + (b - a) * 0.7] for a, b in (sides[0], sides[2]))
        door, goal = LineString(start), LineString(end)
        floor = free(room)
        wide = widest(floor, door, goal)
        low, high = corners.min(axis=0), corners.max(axis=0)
        xs, ys = (np.arange(low[i], high[i] + CELL, CELL) for i in (0, 1))
        places = np.stack(np.meshgrid(xs, ys), axis=-1)
        apart = clearance(room, places.reshape(-1, 2)).reshape(places.shape[:2])
        points = shapely.points(places)
        near = [shapely.distance(points, line) for line in (door, goal)]

        def joined(radius: float, reach: float) -> bool:
            parts, _ = ndimage.label(apart >= radius)
            at = [set(np.unique(parts[distance <= reach])) - {0} for distance in near]
            return bool(at[0] & at[1])

        # Places on the grid are places: none is joined that is wider by what lies between them.
        loose = (wide + 2 * CELL) / 2
        self.assertFalse(joined(loose, loose), wide)
        # And whatever passes has places of the grid along its way.
        tight = (wide - 5 * CELL) / 2
        if tight > CELL:
            self.assertTrue(joined(tight, tight + 2 * CELL), wide)

    @sweep
    def test_turned_with_fixtures_on_the_walls_it_is_as_wide(self) -> None:
        held = 0
        for seed in range(some(60)):
            chance = random.Random(seed)
            doc = roomy("us-accessible", set_down=30)
            doc["room"]["fixtures"] = [
                fixture("cabinet", 300, chance.uniform(400, 2000), 600, 600, turn=270),
                fixture("WC", 4000 - 350, chance.uniform(400, 2000), 400, 700, turn=90),
                # Corner to corner with the shower's zone.
                fixture("column", 1600 + 125, 2400 - 125, 250, 250),
            ]
            turned = moved(doc, turn=chance.uniform(0, 360), mirror=bool(seed % 2))
            ways = []
            for one in (doc, turned):
                plan = plan_from(one)
                parts = free_floor(plan.room, plan.shower.outline, True)
                for part in parts:
                    self.assertIn(part.geom_type, ("Polygon", "MultiPolygon"))
                (door,) = door_edges(plan.room)
                entry = LineString(ring_of(plan.shower).edge(min(ring_of(plan.shower).entries)))
                ways.append(widest(parts[0], LineString(door), entry))
            self.assertAlmostEqual(*ways, delta=0.5)
            held += ways[0] > 300
        self.assertGreater(held, 0)

    @examples(50)
    @given(rooms())
    def test_its_line_is_free_and_its_narrowest_place_is_one(self, room: Room) -> None:
        corners = np.array(room.outline)
        a, b, c, d = corners[:4]
        door, goal = LineString([a, b]), LineString([c, d])
        floor = free(room)
        wide = widest(floor, door, goal)
        assume(wide > 100)
        self.assertTrue(passes(floor, door, goal, wide - 0.5))
        # Where a disc just fits, what its round corners lack in depth is allowed for.
        lacks = wide * (1 - math.cos(math.pi / 128))
        self.assertFalse(passes(floor, door, goal, wide + 2.0 + lacks))
        line = shortest(floor, door, goal, wide * 0.9)
        assert line is not None
        along = [LineString(line).interpolate(s, normalized=True) for s in np.linspace(0, 1, 60)]
        least = clearance(room, shapely.get_coordinates(np.array(along))).min()
        # Round corners are drawn with sides: what they lack is no more than 2 mm here.
        self.assertGreaterEqual(least, wide * 0.45 * math.cos(math.pi / 32) - 1)
        tight = narrows(floor, door, goal, wide)
        if tight is not None:
            gap = float(np.hypot(*(tight.ends[1] - tight.ends[0])))
            self.assertGreaterEqual(gap, wide * 0.98 - 1)
            self.assertLessEqual(gap, wide * 1.35 + 2)


class NeckTest(unittest.TestCase):
    @examples(60, least=30)
    @given(
        st.floats(815, 905),
        st.floats(50, 900),
        st.floats(50, 900),
        st.one_of(st.just(0.0), st.floats(-400, 400)),
        st.floats(-180, 180),
        st.booleans(),
        st.booleans(),
    )
    def test_it_is_as_long_as_what_stands_on_both_sides_stands_beside_each_other(
        self,
        gap: float,
        first: float,
        second: float,
        shift: float,
        turn: float,
        inches: bool,
        alike: bool,
    ) -> int:
        second = first if alike else second
        scale = 25.4 / 32 if inches else 1.0
        first, second, shift = (round(v / scale) * scale for v in (first, second, shift))
        boxes = [
            shapely.box(1500, 1000 + gap, 1500 + first, 1500 + gap),
            shapely.box(1500 + shift, 0, 1500 + shift + second, 1000),
        ]
        overlap = min(first, shift + second) - max(0.0, shift)
        # Before or behind what overlaps nothing narrows the way: from either alone it is wide.
        assume(overlap > 20)
        floor = shapely.box(0, 0, 4000, 1500 + gap).difference(shapely.union_all(boxes))
        door, goal = LineString([(0, 500), (0, 1500)]), LineString([(4000, 500), (4000, 1500)])
        floor, door, goal = (
            affinity.rotate(shape, turn, origin=(0, 0)) for shape in (floor, door, goal)
        )
        self.assertFalse(passes(floor, door, goal, 914.4))
        length = neck(floor, door, goal, 914.4, 812.8)
        assert length is not None
        # Never shorter than where both stand, never longer than from the first to the last; square
        # to each other it is just what they stand beside each other.
        self.assertGreater(length, overlap - 3.0)
        self.assertLess(length, max(first, shift + second) - min(0.0, shift) + 3.0)
        if first == second and shift == 0:
            self.assertAlmostEqual(length, first, delta=3.0)
        self.assertIsNone(neck(floor, door, goal, 1200.0, gap + 3.0))
        return 1


class RectangleTest(unittest.TestCase):
    @examples(70)
    @given(rooms(), st.floats(200, 1200), st.floats(200, 1200), st.randoms(use_true_random=False))
    def test_middles_are_those_of_rectangles_on_the_floor(
        self, room: Room, wide: float, deep: float, random: object
    ) -> None:
        floor = free(room)
        middles = middles_of(floor, wide, deep)
        rng = np.random.default_rng(random.getrandbits(32))  # type: ignore[attr-defined]
        low, high = np.array(room.outline).min(axis=0), np.array(room.outline).max(axis=0)
        for x, y in rng.uniform(low, high, (25, 2)):

            def box(grown: float, x: float = x, y: float = y) -> Polygon:
                w, d = wide / 2 + grown, deep / 2 + grown
                return shapely.box(x - w, y - d, x + w, y + d)

            place = shapely.Point(x, y)
            if floor.covers(box(0.01)):
                self.assertTrue(middles.covers(place))
            elif not floor.covers(box(-2 * ON_EDGE)):
                self.assertFalse(middles.covers(place))

    @examples(70)
    @given(rooms(), st.floats(200, 1400), st.floats(200, 1400), st.floats(0, 2 * math.pi))
    def test_starts_along_a_frame(self, room: Room, wide: float, deep: float, angle: float) -> None:
        floor = free(room)
        along = np.array([math.cos(angle), math.sin(angle)])
        origin = np.array(Polygon(room.outline).centroid.coords[0])
        frame = Facing(origin, along, np.array([-along[1], along[0]]))
        starts = FreeStrip(floor, frame, -900, 900 + wide, deep).starts(wide, -900, 900)
        for first, last in starts:
            self.assertLessEqual(first, last)
        for start in np.linspace(-900, 900, 61):
            on = floor.covers(frame.rectangle(start, wide, deep).buffer(0.01))
            off = not floor.covers(frame.rectangle(start, wide, deep).buffer(-3 * ON_EDGE))
            inside = any(first <= start <= last for first, last in starts)
            if on:
                self.assertTrue(inside, start)
            if off:
                self.assertFalse(inside, start)

    def test_a_rectangle_and_a_t_in_rooms_whose_answer_is_known(self) -> None:
        for angle in (0, 20, 61):
            room = affinity.rotate(shapely.box(0, 0, 2000, 1500), angle, origin=(0, 0))
            for size, fits in (((2000, 1500), True), ((1500, 2000), True), ((1502, 2000), False)):
                found = rectangle_on(room, *size)
                self.assertEqual(found is not None, fits, (angle, size))
                if found is not None:
                    self.assertTrue(room.buffer(1.1).covers(found))
            self.assertIsNone(tee_on(room, 1524, 914))
            # A T as a room of its own, and one whose stem is too narrow.
            for arm, fits in ((914, True), (910, False)):
                shape = shapely.union_all(
                    [
                        shapely.box(0, 610, 1524, 1524),
                        shapely.box(762 - arm / 2, 0, 762 + arm / 2, 1524),
                    ]
                )
                shape = affinity.rotate(shape, angle, origin=(0, 0))
                self.assertEqual(tee_on(shape, 1524, 914) is not None, fits, (angle, arm))


class ShapeTest(unittest.TestCase):
    def test_which_way_a_fixture_looks(self) -> None:
        """At turn 0 up the plan, its sitter's right is the right of the plan."""
        for turn, front, right in (
            (0, (0, 1), (1, 0)),
            (90, (-1, 0), (0, 1)),
            (180, (0, -1), (-1, 0)),
        ):
            one = Fixture(name="WC", kind="WC", centre=(0, 0), width=400, length=700, turn=turn)
            frame = front_of(one)
            np.testing.assert_allclose(frame.out, front, atol=1e-9)
            np.testing.assert_allclose(frame.along, right, atol=1e-9)
            np.testing.assert_allclose(frame.origin, np.array(front) * 350, atol=1e-9)
            np.testing.assert_allclose(back_of(one).origin, np.array(front) * -350, atol=1e-9)
            self.assertAlmostEqual(footprint(one).area, 400 * 700)

    def test_where_a_door_swings(self) -> None:
        for outline in (((0, 0), (3000, 0), (3000, 2000), (0, 2000)),):
            for ring in (outline, outline[::-1]):
                room = Room(outline=ring, layers=())
                walls = [i for i in range(4) if ring[i][1] == ring[(i + 1) % 4][1] == 0]
                door = Door(wall=walls[0], offset=500, width=800, hinge="first")
                frame = doorway(room, door)
                np.testing.assert_allclose(frame.out, (0, 1), atol=1e-9)
                sweep = sweep_of(room, door)
                self.assertAlmostEqual(sweep.area, math.pi / 4 * 800**2, delta=0.002 * 800**2)
                self.assertTrue(Polygon(ring).buffer(0.01).covers(sweep))
                for other in ({"swing": "out"}, {"kind": "sliding"}):
                    self.assertTrue(sweep_of(room, door.model_copy(update=other)).is_empty)

    def test_what_hangs_leaves_the_floor_free(self) -> None:
        doc = roomy("uk")
        doc["room"]["fixtures"] = [
            fixture("folding seat", 800, 3800, 400, 400, height=460),
            fixture("bar", 20, 3200, 600, 40, turn=-90, height=850),
        ]
        self.assertAlmostEqual(free(plan_from(doc).room).area, 16e6, delta=1)
        doc["room"]["fixtures"][0]["kind"] = "seat"
        self.assertAlmostEqual(free(plan_from(doc).room).area, 16e6 - 16e4, delta=1)


class CureTest(unittest.TestCase):
    """Every cure that is offered ends its finding and opens no stop: in rooms turned and mirrored
    too."""

    def crowded(self, rules: str, *users: str) -> Document:
        doc = roomy(rules, *users)
        doc["room"]["outline"] = [[0, 0], [2600, 0], [2600, 4000], [0, 4000]]
        doc["room"]["doors"] = [{"wall": 0, "offset": 300, "width": 900, "swing": "in"}]
        doc["room"]["fixtures"] = [
            fixture("WC", 2250, 1150, 380, 700, turn=90),
            fixture("basin", 2370, 1900, 560, 460, turn=90),
            fixture("cabinet", 900, 1500, 520, 500),
            fixture("control", 40, 3700, 150, 80, turn=-90, height=1300),
        ]
        return doc

    @sweep
    def test_each_cure_holds(self) -> None:
        seen: set[str] = set()
        for rules, turned in (
            ("us-accessible", ((37, True),)),
            ("germany", ((-61, True),)),
            ("uk", ((0, False),)),
        ):
            for turn, mirror in turned:
                doc = moved(self.crowded(rules, "chair", "frame"), turn=turn, mirror=mirror)
                if mirror:
                    # Walls keep their numbers and run the other way: a door is told from its end.
                    door = doc["room"]["doors"][0]
                    door["hinge"] = "last" if door.get("hinge", "first") == "first" else "first"
                plan = plan_from(doc)
                before = offering(plan)
                stops = {f.code for f in before.findings if f.severity == "stop"}
                for finding in before.findings:
                    for cure in finding.cures:
                        after = answered(changed(plan, cure.changes))
                        left = {(f.code, f.applies_to, f.source) for f in after.findings}
                        self.assertNotIn(
                            (finding.code, finding.applies_to, finding.source), left, cure.text
                        )
                        new = {f.code for f in after.findings if f.severity == "stop"} - stops
                        self.assertEqual(new, set(), cure.text)
                        seen.add(finding.code)
        self.assertLessEqual({"way_too_narrow", "floor_not_free", "height_out_of_reach"}, seen)

    def test_it_turns_and_mirrors_with_the_plan(self) -> None:
        base = solved(self.crowded("us-accessible", "chair")).access
        assert base is not None
        for turn in (17, 90, 203):
            other = solved(moved(self.crowded("us-accessible", "chair"), turn=turn)).access
            assert other is not None
            self.assertEqual(
                [(s.name, s.enough) for s in base.spaces],
                [(s.name, s.enough) for s in other.spaces],
            )
            for one, two in zip(base.figures, other.figures, strict=True):
                self.assertAlmostEqual(one.value or 0, two.value or 0, delta=1.2)

    def test_two_fixtures_are_swapped_where_that_helps(self) -> None:
        """DIN 18040-2 (from memory): 1500 mm before the WC; before a cabinet nothing is asked."""
        doc = roomy("germany")
        doc["room"]["outline"] = [[0, 0], [4000, 0], [4000, 4000], [0, 4000]]
        doc["room"]["doors"][0]["offset"] = 100
        doc["room"]["fixtures"] = [
            fixture("WC", 3800, 600, 380, 400, turn=90),
            fixture("cabinet", 3800, 2800, 400, 400, turn=90),
            fixture("column", 2600, 600, 300, 1200),
        ]
        finding = coded(cured(doc), "floor_not_free")
        assert finding is not None
        swap = next(c for c in finding.cures if c.text == "Swap the WC and the cabinet")
        after = changed(plan_from(doc), swap.changes)
        self.assertEqual(after.room.fixtures[0].centre, (3800, 2800))
        self.assertEqual(after.room.fixtures[1].centre, (3800, 600))
        self.assertIsNone(coded(offering(after), "floor_not_free"))

    def test_a_wc_is_moved_just_so_far(self) -> None:
        """ADA 604.2 (from memory): from 10 in to 16 in from the wall, 6 in to the right."""
        doc = roomy("us-accessible") | {
            "display": {"length": "in", "fraction": 16, "fall": "ratio"}
        }
        doc["room"]["fixtures"] = [fixture("WC", 254, 355, 380, 710)]
        finding = coded(cured(doc), "wc_beside")
        assert finding is not None
        self.assertEqual([c.text for c in finding.cures], ['Move the WC 6" right'])

    def test_a_raised_room_makes_a_step_at_its_door(self) -> None:
        """Level with the hall; a recess that is short is found by raising the room by 12 mm."""
        doc = roomy("us-accessible")
        doc["room"]["doors"][0]["outside"] = 24
        doc["floor"]["deck_thickness"] = 50
        level = cured(doc)
        self.assertIsNone(coded(level, "step_at_door"))
        recess = level.figures.recess_needed.value
        assert recess is not None
        doc["floor"]["deck_thickness"] = recess - 12
        short = coded(cured(doc), "recess_over_available")
        assert short is not None
        raised = next((c for c in short.cures if "/room/layers" in c.changes[0].path), None)
        # It would open a stop at the door, and is not offered.
        self.assertIsNone(raised)
        layers = doc["room"]["layers"]
        doc["room"]["layers"] = [*layers, {"name": "board that raises the floor", "thickness": 12}]
        solution = cured(doc)
        step = coded(solution, "step_at_door")
        assert step is not None and solution.access is not None
        self.assertAlmostEqual(step.measured or 0, 12)
        self.assertIn("was raised", step.detail)
        self.assertIn("12 mm up, upright", [t.text for t in solution.access.thresholds])
        self.assertTrue(step.cures)


class PlacedTest(unittest.TestCase):
    def test_over_a_wall_on_another_and_in_a_door(self) -> None:
        doc = roomy("uk")
        doc["users"] = []
        doc["room"]["fixtures"] = [fixture("cabinet", 3900, 1000, 600, 400, turn=90)]
        over = coded(cured(doc), "fixture_over_wall")
        assert over is not None
        self.assertAlmostEqual(over.measured or 0, 100)
        self.assertTrue(over.cures)
        doc["room"]["fixtures"] = [
            fixture("cabinet", 3000, 1000, 600, 400),
            fixture("basin", 3200, 1200, 500, 400),
        ]
        self.assertIsNotNone(coded(cured(doc), "fixtures_overlap"))
        doc["room"]["fixtures"] = [fixture("cabinet", 2000, 600, 600, 400)]
        self.assertIsNone(coded(cured(doc), "door_hits_fixture"))
        doc["room"]["doors"][0]["swing"] = "in"
        hit = coded(cured(doc), "door_hits_fixture")
        assert hit is not None
        self.assertIn("Hang door 1 to open outwards", [cure.text for cure in hit.cures])

    def test_the_goal_is_any_entry(self) -> None:
        doc = roomy("uk")
        doc["shower"]["entries"] = [0, 1]
        access = solved(doc).access
        assert access is not None
        self.assertEqual(len(access.ways), 1)
        self.assertTrue(access.ways[0].enough)


class InShowerTest(unittest.TestCase):
    """What does not belong there stands on the shower's floor: held against a fine grid."""

    SQUARE: ClassVar[dict[str, dict[str, float]]] = {
        "mm": {"cm²": 100.0, "m²": 1e6},
        "in": {"sq in": 25.4**2, "sq ft": 304.8**2},
    }
    """In which units an area is told, mm²."""

    def doc(self, kind: str, x: float, y: float, turn: float, **shower: Any) -> Document:
        doc = document(**shower)
        doc["room"]["fixtures"] = [fixture(kind, x, y, 500, 400, turn=turn)]
        return doc

    def test_found_just_where_a_grid_says_so_and_as_deep(self) -> None:
        chance, inside, outside = random.Random(11), 0, 0
        while inside < some(40) or outside < some(10):
            kind = chance.choice(["WC", "basin", "cabinet", "washing machine", "radiator"])
            x, y = chance.uniform(100, 2300), chance.uniform(100, 1700)
            turn = chance.uniform(-180, 180)
            unit = chance.choice(["mm", "in"])
            plan = plan_from(self.doc(kind, x, y, turn) | {"display": {"length": unit}})
            # A grid over the fixture, turned by hand; the shower lies along the plan.
            u, v = np.meshgrid(np.linspace(-250, 250, 101), np.linspace(-200, 200, 81))
            cos, sin = np.cos(np.radians(turn)), np.sin(np.radians(turn))
            places = np.array([x + u * cos - v * sin, y + u * sin + v * cos]).reshape(2, -1)
            (low, left), (high, right) = (
                np.min(plan.shower.outline, axis=0),
                np.max(plan.shower.outline, axis=0),
            )

            xs, ys = places
            share = float(((xs > low) & (xs < high) & (ys > left) & (ys < right)).mean())
            found = coded(answered(plan), "fixture_in_shower")
            if share == 0:
                self.assertIsNone(found)
                outside += 1
            elif share > 0.01:
                assert found is not None, (x, y, turn)
                self.assertEqual(found.severity == "stop", kind == "washing machine")
                self.assertEqual("60364" in found.source, kind == "washing machine")
                units = self.SQUARE[plan.display.length]
                told = re.search(rf"on ([\d.]+) ({'|'.join(units)}) of", found.title)
                assert told is not None, found.title
                area = float(told[1]) * units[told[2]]
                self.assertAlmostEqual(area, share * 500 * 400, delta=0.01 * 1e6)
                inside += 1

    def test_moved_out_it_is_gone_and_what_belongs_there_is_not_told(self) -> None:
        plan = plan_from(self.doc("basin", 950, 1300, 0))
        found = coded(offering(plan), "fixture_in_shower")
        assert found is not None
        for cure in each(found.cures):
            after = answered(changed(plan, cure.changes))
            self.assertIsNone(coded(after, "fixture_in_shower"))
        for kind in ("seat", "folding seat", "bench", "half wall", "bar", "control", "head"):
            belongs = answered(plan_from(self.doc(kind, 750, 1350, 0)))
            self.assertIsNone(coded(belongs, "fixture_in_shower"), kind)

    def test_a_column_is_cut_round_and_a_wet_room_minds_only_what_is_never_there(self) -> None:
        column = coded(offering(plan_from(self.doc("column", 750, 1350, 30))), "fixture_in_shower")
        assert column is not None
        self.assertEqual((column.severity, column.cures), ("stop", ()))
        # At a wall the floor is cut round it, as round a bench.
        plan = plan_from(self.doc("column", 750, 1600, 0))
        found = coded(offering(plan), "fixture_in_shower")
        assert found is not None
        after = changed(plan, each(found.cures)[0].changes)
        self.assertIsNone(coded(answered(after), "fixture_in_shower"))
        less = Polygon(plan.shower.outline).area - Polygon(after.shower.outline).area
        self.assertAlmostEqual(less, 500 * 400, delta=500 * 5 + 400 * 5)
        for kind, told in (("basin", False), ("WC", False), ("washing machine", True)):
            doc = wet_room()
            middle = np.mean(doc["shower"]["outline"], axis=0)
            doc["room"]["fixtures"] = [fixture(kind, *map(float, middle), 300, 300)]
            found = coded(answered(plan_from(doc)), "fixture_in_shower")
            self.assertEqual(found is not None, told, kind)
