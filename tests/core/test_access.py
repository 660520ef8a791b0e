"""Who can get in and turn: circles and doors, on the floor as it will be built."""

import math
import unittest

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon

from calm_basin.core.access.fitting import largest_circle
from calm_basin.core.access.floor import free_floor, stands
from calm_basin.core.access.ground import steepest_to_turn_on
from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Finding
from calm_basin.core.solution import Solution
from calm_basin.plan import plan_from
from calm_basin.plan.backs import footprint
from calm_basin.plan.room import Fixture, Layer, Room
from calm_basin.rules import rule_sets
from tests.plans import Document, answered, channel, cured, document, moved, offering, point, solved
from tests.sweeps import examples

INCH = 25.4


def used(doc: Document, *users: str, rules: str = "us-accessible") -> Document:
    """The plan for somebody in a chair, or for other users, with a door wide enough."""
    doc["room"]["doors"][0] |= {"offset": 1000, "width": 900}
    return doc | {"version": 5, "users": list(users or ["chair"]), "rule_set": rules}


def coded(solution: Solution, code: str) -> Finding | None:
    return next((f for f in solution.findings if f.code == code), None)


@st.composite
def rooms(draw: st.DrawFn) -> Room:
    """Rectangles and Ls with up to three fixtures, in mm and in inches, turned by any angle."""
    unit = draw(st.sampled_from([1.0, INCH]))
    wide, deep = (draw(st.integers(1400, 3200)) // unit * unit for _ in range(2))
    outline = [(0.0, 0.0), (wide, 0.0), (wide, deep), (0.0, deep)]
    if draw(st.booleans()):
        outline[2:3] = [(wide, deep / 2), (wide / 2, deep / 2), (wide / 2, deep)]
    fixtures = [
        (draw(st.floats(0.1, 0.9)) * wide, draw(st.floats(0.1, 0.9)) * deep)
        for _ in range(draw(st.integers(0, 3)))
    ]
    turn = math.radians(draw(st.integers(0, 359)))
    around = np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])
    floor = Polygon(outline)
    return Room(
        outline=tuple(tuple(around @ corner) for corner in outline),
        fixtures=tuple(
            Fixture(
                name=f"fixture {i}",
                centre=tuple(around @ at),
                width=15 * INCH,
                length=28 * INCH,
                turn=draw(st.integers(0, 180)),
            )
            for i, at in enumerate(fixtures)
            if floor.contains(shapely.Point(at))
        ),
        layers=(Layer(role="tile", name="tile", thickness=10),),
    )


def clearance(room: Room, places: np.ndarray) -> np.ndarray:
    """How far places, (n, 2), lie from every wall and fixture, mm; below 0 where they stand in one
    or outside: by the distances to all segments, one by one."""
    shapes = [np.array(room.outline)]
    shapes += [shapely.get_coordinates(footprint(f))[:-1] for f in room.fixtures]
    nearest = np.full(len(places), np.inf)
    inside = np.ones(len(places), dtype=bool)
    for number, corners in enumerate(shapes):
        crossings = np.zeros(len(places), dtype=int)
        for a, b in zip(corners, np.roll(corners, -1, axis=0), strict=True):
            share = np.clip(((places - a) @ (b - a)) / ((b - a) @ (b - a)), 0, 1)
            away = places - a - share[:, None] * (b - a)
            nearest = np.minimum(nearest, np.hypot(*away.T))
            above = (a[1] > places[:, 1]) != (b[1] > places[:, 1])
            with np.errstate(divide="ignore", invalid="ignore"):
                at = a[0] + (places[:, 1] - a[1]) / (b[1] - a[1]) * (b[0] - a[0])
            crossings += above & (places[:, 0] < at)
        inside &= (crossings % 2 == 1) == (number == 0)
    return np.where(inside, nearest, -nearest)


class LargestCircleTest(unittest.TestCase):
    @examples(40)
    @given(rooms())
    def test_none_is_larger_by_brute_force(self, room: Room) -> None:
        found = largest_circle(free_floor(room, room.outline, False))
        corners = np.array(room.outline)
        low, high = corners.min(axis=0), corners.max(axis=0)
        grid = np.array(np.meshgrid(*(np.linspace(low[i], high[i], 60) for i in (0, 1))))
        places = grid.reshape(2, -1).T
        best = places[np.argsort(clearance(room, places))[-12:]]
        reach = float((high - low).max()) / 30
        rng = np.random.default_rng(3)
        for _ in range(60):
            tries = best[:, None] + rng.normal(0, reach, (len(best), 24, 2))
            tries[:, 0] = best
            radii = clearance(room, tries.reshape(-1, 2)).reshape(len(best), -1)
            best = tries[np.arange(len(best)), radii.argmax(axis=1)]
            reach *= 0.85
        brute = 2 * max(float(clearance(room, best).max()), 0.0)
        self.assertGreaterEqual(found.across, brute - 1.0)
        # It truly fits where it is said to lie.
        own = float(clearance(room, np.array([[found.x, found.y]]))[0])
        self.assertGreaterEqual(2 * own, found.across - 0.01)

    def test_in_rooms_whose_answer_is_known(self) -> None:
        """A square room holds a circle of its side; beside a square in its corner the circle
        touches two walls and that square's corner: r = √2 (s − f) / (1 + √2)."""
        layers = (Layer(role="tile", name="tile", thickness=10),)
        for side in (1525.0, 1524.0, 2000.0):
            square = ((0.0, 0.0), (side, 0.0), (side, side), (0.0, side))
            room = Room(outline=square, layers=layers)
            found = largest_circle(free_floor(room, square, False))
            self.assertAlmostEqual(found.across, side, delta=0.3)
            for f in (700.0, 900.0):
                box = Fixture(name="box", centre=(f / 2, f / 2), width=f, length=f)
                room = Room(outline=square, layers=layers, fixtures=(box,))
                radius = math.sqrt(2) * (side - f) / (1 + math.sqrt(2))
                found = largest_circle(free_floor(room, square, False))
                self.assertAlmostEqual(found.across, 2 * radius, delta=0.3)


class TurningTest(unittest.TestCase):
    def test_the_most_that_a_floor_may_fall_under_a_chair(self) -> None:
        """ADA 304.2, BS 8300-2, DIN 18040-2, AS 1428.1 (all from memory); TEK17 says nothing."""
        expected = {
            "us-accessible": 1 / 48,
            "us-dwelling": 1 / 48,
            "uk": 1 / 50,
            "germany": 0.02,
            "australia": 1 / 60,
            "norway": None,
        }
        for name, most in expected.items():
            self.assertEqual(steepest_to_turn_on(rule_sets()[name]), most, name)
        self.assertEqual(set(expected), set(rule_sets()))

    def room(self, side: float, **shower: object) -> Document:
        """A square room, all of its floor the shower's or free."""
        doc = document(**shower)
        doc["room"]["outline"] = [[0, 0], [side, 0], [side, side], [0, side]]
        return doc

    def test_just_inside_and_just_outside(self) -> None:
        """ADA Standards 304.3 (from memory): a circle of 60 in."""
        for side, broken in ((1524, False), (1522.9, True)):
            doc = self.room(
                side,
                outline=[[0, side - 300], [side, side - 300], [side, side], [0, side]],
                drain=channel(0, side - 35, side, side - 35),
                fall={"asked": 1 / 48},
            )
            doc["room"]["doors"] = []
            finding = coded(answered(plan_from(used_without_door(doc))), "turning_too_small")
            self.assertEqual(finding is not None, broken, side)

    def test_a_circle_on_too_steep_a_plane_is_found_and_a_channel_cures_it(self) -> None:
        # Four planes round a point drain, the short ones steeper than 1:48: on plan all fits.
        doc = used(
            self.room(
                2000,
                outline=[[0, 800], [1500, 800], [1500, 2000], [0, 2000]],
                drain=point(750, 1400),
                fall={"asked": 1 / 48},
            )
        )
        solution = cured(doc)
        finding = coded(solution, "turning_too_steep")
        assert finding is not None and solution.access is not None
        self.assertIsNone(coded(solution, "turning_too_small"))
        gentle, anywhere = (one for one in solution.access.spaces if one.across)
        self.assertAlmostEqual(anywhere.across, 2000, delta=0.3)
        self.assertLess(gentle.across, 1524)
        self.assertTrue(finding.cures)
        for cure in finding.cures:
            self.assertIn("channel", cure.text)
            mended = answered(changed(plan_from(doc), cure.changes))
            self.assertIsNone(coded(mended, "turning_too_steep"))

    def test_the_circle_lies_off_every_steep_plane(self) -> None:
        for angle in (0, 33, 118):
            doc = moved(used(document(drain=point(500, 1400), fall={"asked": 1 / 55})), turn=angle)
            solution = solved(doc)
            assert solution.access is not None and solution.surface is not None
            circle = solution.access.spaces[0]
            disc = shapely.Point(circle.x, circle.y).buffer(circle.across / 2 - 1)
            for plane in solution.surface.planes:
                if plane.gradient > 1 / 48 + 1e-9:
                    self.assertFalse(Polygon(plane.polygon).intersects(disc))

    def test_it_turns_and_mirrors_with_the_plan(self) -> None:
        doc = used(document(drain=point(500, 1400), fall={"asked": 1 / 60}))
        doc["room"]["fixtures"] = [
            {"name": "WC", "centre": [2100, 350], "width": 380, "length": 700, "turn": 0}
        ]
        base = solved(doc)
        assert base.access is not None
        for angle, mirror in ((17, False), (90, True), (203, True)):
            turned = solved(moved(doc, turn=angle, mirror=mirror)).access
            assert turned is not None
            for one, other in zip(base.access.spaces, turned.spaces, strict=True):
                self.assertAlmostEqual(one.across, other.across, delta=0.6)

    def test_a_step_parts_shower_and_room(self) -> None:
        doc = used(
            self.room(
                2000,
                outline=[[0, 1000], [2000, 1000], [2000, 2000], [0, 2000]],
                drain=channel(0, 1965, 2000, 1965),
                fall={"asked": 1 / 50},
            )
        )
        self.assertIsNone(coded(solved(doc), "turning_too_small"))
        doc["shower"]["set_down"] = 30
        solution = solved(doc)
        finding = coded(solution, "turning_too_small")
        assert finding is not None
        self.assertAlmostEqual(finding.measured or 0, 1000, delta=0.3)
        self.assertIn("step parts the shower", finding.detail)

    def test_fixtures_are_moved_only_to_where_they_can_stand(self) -> None:
        doc = used(
            self.room(
                2300,
                outline=[[0, 1300], [1200, 1300], [1200, 2300], [0, 2300]],
                drain=channel(0, 2265, 1200, 2265),
                fall={"asked": 1 / 48},
            )
        )
        doc["room"]["doors"] = []
        doc["room"]["fixtures"] = [
            {"name": "WC", "centre": [1150, 900], "width": 380, "length": 700, "turn": 0}
        ]
        plan = plan_from(doc)
        finding = coded(offering(plan), "turning_too_small")
        assert finding is not None
        self.assertTrue(finding.cures)
        for cure in finding.cures:
            mended = changed(plan, cure.changes)
            self.assertTrue(stands(mended, 0, mended.room.fixtures[0].centre))
            self.assertIsNone(coded(answered(mended), "turning_too_small"))


def used_without_door(doc: Document) -> Document:
    """The same where the room has no door to look at."""
    return doc | {"version": 5, "users": ["chair"], "rule_set": "us-accessible"}


class DoorTest(unittest.TestCase):
    def test_a_wall_that_is_too_short_has_no_cure_of_its_own(self) -> None:
        doc = used(document())
        doc["room"]["doors"] = [{"wall": 1, "offset": 1000, "width": 800}]
        finding = coded(cured(doc), "door_too_narrow")
        assert finding is not None
        self.assertEqual(finding.cures, ())
        doc["room"]["doors"][0]["offset"] = 900
        self.assertEqual(len((coded(cured(doc), "door_too_narrow") or finding).cures), 1)

    def test_nobody_said_and_nothing_is_looked_at(self) -> None:
        doc = used(document()) | {"users": []}
        doc["room"]["doors"][0]["width"] = 500
        solution = solved(doc)
        self.assertIsNone(solution.access)
        self.assertIsNone(coded(solution, "door_too_narrow"))
        walking = solved(used(document(), "walks")).access
        assert walking is not None
        self.assertEqual({one.enough for one in walking.spaces if one.across}, {None})
