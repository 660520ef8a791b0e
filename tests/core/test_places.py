"""Places typed from two walls: each is where both measures, taken by themselves, put it."""

import unittest
from typing import Any

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.taping import walls_of
from calm_basin.core.room.places import frame_of, plan_places
from calm_basin.core.room.result import PlaceWay
from calm_basin.core.survey.answer import MOST_LISTED, surveyed
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, plan_from
from tests.plans import Document, channel, document, moved, wet_room
from tests.sweeps import each, examples

KINDS: dict[str, Any] = {
    "a rectangle": document,
    "a channel at the very edge": lambda: document(drain=channel(0, 1765, 1500, 1765)),
    "an L": lambda: (
        wet_room()
        | {
            "room": {
                "outline": [[0, 0], [3000, 0], [3000, 1400], [1700, 1400], [1700, 2600], [0, 2600]],
                "layers": [{"name": "tile", "thickness": 9}, {"name": "bed", "thickness": 60}],
                "doors": [{"wall": 1, "offset": 300, "width": 800}],
                "fixtures": [
                    {"name": "WC", "kind": "WC", "centre": [2600, 700], "width": 380, "length": 700}
                ],
            }
        }
    ),
}


def line_of(plan: Plan, name: str) -> tuple[np.ndarray, np.ndarray]:
    """The corners at the two ends of the wall that a measure names."""
    corners = np.array(plan.room.outline)
    wall = int(name.rsplit(" ", 1)[1]) - 1
    return corners[wall], corners[(wall + 1) % len(corners)]


def far_from(plan: Plan, name: str, place: np.ndarray) -> float:
    """How far a place is as a measure's name says, by plain vectors, mm."""
    corners = np.array(plan.room.outline)
    if name.startswith("along"):
        return float(np.hypot(*(place - corners[int(name.rsplit(" ", 1)[1]) - 1])))
    start, end = line_of(plan, name)
    way = 1 if Polygon(corners).exterior.is_ccw else -1
    across = float(np.linalg.det([end - start, place - start])) / float(np.hypot(*(end - start)))
    return -way * across if name.startswith("behind") else way * across


def value(measure: PlaceWay, place: np.ndarray) -> float:
    return float(np.array(measure.way) @ place) + measure.offset


class PlacesTest(unittest.TestCase):
    def held(self, plan: Plan, chance: np.random.Generator) -> int:
        places = plan_places(plan, Words.of(plan))
        document = plan.model_dump(mode="json")
        for path, measures in places.items():
            at: Any = document
            for step in path.strip("/").split("/"):
                at = at[int(step)] if isinstance(at, list) else at[step]
            place = np.array(at, dtype=float)
            for one, other in (measures, measures[::-1]):
                far = value(one, place)
                if not one.name.startswith("along"):
                    self.assertAlmostEqual(far, far_from(plan, one.name, place), places=6)
                # Typed anew it lies so far from the one, and as far from the other as before.
                typed = far + float(chance.uniform(-300, 300))
                put = place + (typed - far) * np.array(one.move)
                self.assertAlmostEqual(value(one, put), typed, places=6)
                self.assertAlmostEqual(value(other, put), value(other, place), places=6)
                if not one.name.startswith("along"):
                    self.assertAlmostEqual(far_from(plan, one.name, put), typed, places=6)
        return len(places)

    @examples(60, least=60)
    @given(
        kind=st.sampled_from(sorted(KINDS)),
        turn=st.floats(0, 360),
        mirror=st.booleans(),
        inches=st.booleans(),
        seed=st.integers(0, 99),
    )
    def test_of_rooms_turned_and_mirrored(
        self, kind: str, turn: float, mirror: bool, inches: bool, seed: int
    ) -> int:
        doc: Document = moved(KINDS[kind](), turn=turn, mirror=mirror)
        if inches:
            doc |= {"display": {"length": "in", "fraction": 16}}
        return self.held(plan_from(doc), np.random.default_rng(seed))

    def test_of_the_demo(self) -> None:
        chance = np.random.default_rng(3)
        for plan in each(demo_plans(), 11):
            with self.subTest(plan.job.name):
                self.assertGreater(self.held(plan, chance), 0)

    def test_no_measure_goes_through_a_wall(self) -> None:
        plan = plan_from(KINDS["an L"]())
        room = Polygon(plan.room.outline).buffer(0.5)
        places = plan_places(plan, Words.of(plan))
        names = set()
        for path, measures in each(places.items()):
            node = plan.model_dump(mode="json")
            for step in path.strip("/").split("/"):
                node = node[int(step)] if isinstance(node, list) else node[step]
            for one in measures:
                names.add(one.name)
                if one.name.startswith("from"):
                    foot = np.array(node) - value(one, np.array(node)) * np.array(one.way)
                    self.assertTrue(room.covers(LineString([node, foot])), (path, one.name))
        self.assertIn("from wall 6", names)

    def test_what_is_touched_is_measured_from_two_walls_that_meet(self) -> None:
        """The frame's corner, ways and moves agree with the walls' lines at any angle."""
        chance = np.random.default_rng(5)
        for kind in sorted(KINDS):
            for turn, mirror in ((0.0, False), (23.7, True), (211.0, False)):
                plan = plan_from(moved(KINDS[kind](), turn=turn, mirror=mirror))
                one, other = frame_of(plan)
                first, second = chance.uniform(100, 900, 2)
                # From anywhere, one measure after the other: the second leaves the first as it is.
                place = chance.uniform(-2000, 2000, 2)
                for measure, far in ((one, first), (other, second)):
                    place = place + (far - value(measure, place)) * np.array(measure.move)
                with self.subTest(kind, turn=turn):
                    self.assertAlmostEqual(far_from(plan, one.name, place), first, places=6)
                    self.assertAlmostEqual(far_from(plan, other.name, place), second, places=6)

    def test_readings_are_listed_as_they_are_typed(self) -> None:
        """Both ends of a level too, in a room that is turned; thousands are not listed."""
        doc = document()
        doc["survey"] = {
            "levels": [
                {"kind": "height", "x": 400, "y": 700, "height": -2},
                {"kind": "shim", "x": 600, "y": 100, "direction": 90, "distance": 1200, "gap": 4},
            ]
        }
        plan = plan_from(moved(doc, turn=23.7, mirror=True))
        words = Words.of(plan)
        one, level = surveyed(plan, words).readings
        self.assertEqual(one.at, "400 from wall 4, 700 from wall 1")
        self.assertEqual(one.end, "")
        self.assertEqual(level.at, "600 from wall 4, 100 from wall 1")
        self.assertEqual(level.end, "600 from wall 4, 1300 from wall 1")
        many = doc["survey"]["levels"][:1] * (MOST_LISTED + 1)
        crowd = plan_from(doc | {"survey": {"levels": many}})
        self.assertEqual(surveyed(crowd, words).readings, ())

    def test_a_sharp_first_corner_is_passed_over(self) -> None:
        """Two walls of 7° to each other give no place: the squarest corner does."""
        walls = walls_of(((0, 0), (3000, 0), (3000, 2000), (2000, 2000), (2000, 240)))
        self.assertNotEqual(walls.frame, (4, 0))
        first, second = walls.frame
        self.assertAlmostEqual(abs(float(np.linalg.det(walls.along[[first, second]]))), 1.0)


if __name__ == "__main__":
    unittest.main()
