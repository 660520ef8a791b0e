"""A shower brought to the other side or the other end of its room, with all that belongs to it."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from shapely import contains_xy
from shapely.geometry import Polygon

from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.edits import carrying, mirrored
from calm_basin.plan.edits.carrying import of_shower
from tests.plans import Document, answered, channel, document, figures, moved, point, tray
from tests.sweeps import examples

WIDE, DEEP = 2700.0, 1800.0


def fixture(name: str, kind: str, x: float, y: float, turn: float) -> Document:
    return {
        "name": name,
        "kind": kind,
        "centre": [x, y],
        "width": 300,
        "length": 80,
        "turn": turn,
    }


def bathroom(left: float, front: float, wide: float, drain: Document, **shower: object) -> Document:
    """A shower against the back of a room that is a rectangle, with what belongs to it and a WC."""
    doc = document(drain=drain, **shower)
    doc["room"]["outline"] = [[0, 0], [WIDE, 0], [WIDE, DEEP], [0, DEEP]]
    doc["room"]["doors"] = []
    right = left + wide
    doc["shower"]["outline"] = [[left, front], [right, front], [right, DEEP], [left, DEEP]]
    doc["room"]["fixtures"] = [
        fixture("bar", "bar", left + 200, DEEP - 40, 180),
        fixture("head", "head", right - 180, DEEP - 40, 171),
        fixture("screen", "screen", left + 160, front, 0),
        # It belongs to the room, wherever it stands, and so does what hangs far from the shower.
        fixture("WC", "WC", WIDE - 200, 100, 13),
        fixture("far bar", "bar", WIDE - 200, 40, 0),
    ]
    return doc


class MirrorTest(unittest.TestCase):
    def same(self, plan: Plan, doc: Document, belong: int = 3) -> None:
        """The shower, and what belongs to it, is where a whole bathroom mirrored has it."""
        other = plan_from(doc)
        np.testing.assert_allclose(plan.shower.outline, other.shower.outline, atol=2e-3)
        for name in ("centre", "start", "end"):
            if hasattr(other.shower.drain, name):
                own, there = getattr(plan.shower.drain, name), getattr(other.shower.drain, name)
                np.testing.assert_allclose(own, there, atol=2e-3)
        for one, there in zip(plan.room.fixtures[:belong], other.room.fixtures, strict=False):
            np.testing.assert_allclose(one.centre, there.centre, atol=2e-3)
            turned = (one.turn - there.turn + 180) % 360 - 180
            self.assertAlmostEqual(turned, 0, places=3, msg=one.name)

    def seen_over(self, plan: Plan) -> tuple[int, ...]:
        """The fixtures of which some place lies in the shower, by a grid of places on each."""
        found = []
        for i, one in enumerate(plan.room.fixtures):
            u, v = np.meshgrid(np.linspace(-0.5, 0.5, 61), np.linspace(-0.5, 0.5, 61))
            angle = np.radians(one.turn)
            across, deep = u.ravel() * one.width, v.ravel() * one.length
            places = np.column_stack(
                [
                    one.centre[0] + across * np.cos(angle) - deep * np.sin(angle),
                    one.centre[1] + across * np.sin(angle) + deep * np.cos(angle),
                ]
            )
            if contains_xy(Polygon(plan.shower.outline), *places.T).any():
                found.append(i)
        return tuple(found)

    @examples(60)
    @given(
        left=st.floats(0, 900),
        front=st.floats(500, 900),
        wide=st.floats(800, 1700),
        way=st.sampled_from(["side", "end"]),
        turn=st.sampled_from([0, 0, 90, 180, 31.7, -117.3]),
        linear=st.booleans(),
        cuts=st.booleans(),
    )
    def test_it_lies_where_a_whole_bathroom_mirrored_has_it(
        self,
        left: float,
        front: float,
        wide: float,
        way: str,
        turn: float,
        linear: bool,
        cuts: bool,
    ) -> None:
        drain = (
            channel(left, DEEP - 35, left + wide, DEEP - 35)
            if linear
            else point(left + 0.4 * wide, front + 400, turn=20)
        )
        doc = bathroom(left, front, wide, drain)
        if cuts and not linear:
            # A tray keeps what was cut off its sides, and two drains keep their ridge.
            doc["shower"]["former"] = tray(60, cuts=[{"edge": 1, "width": 70}])
        elif not linear:
            doc["shower"]["second_drain"] = point(left + 0.8 * wide, front + 350, turn=70)
        plan = plan_from(moved(doc, turn=turn, dx=311, dy=-57))
        self.assertEqual(of_shower(plan), (0, 1, 2))
        # What is seen over its floor, by a grid of places on each rectangle.
        self.assertEqual(answered(plan).drawing.over_shower, self.seen_over(plan))
        asked = mirrored(plan, way)  # type: ignore[arg-type]
        # Mirrored in the y axis and shifted, the room lies on itself; turned half round it lies end
        # for end.
        whole = moved(doc, mirror=True, dx=WIDE)
        if way == "end":
            whole = moved(whole, turn=180, dx=WIDE, dy=DEEP)
        self.same(asked, moved(whole, turn=turn, dx=311, dy=-57))
        # What does not belong to it stays, and so does all that was measured of the room.
        self.assertEqual(asked.room.fixtures[3:], plan.room.fixtures[3:])
        self.assertEqual(asked.room.outline, plan.room.outline)
        before, after = figures(answered(plan)), figures(answered(asked))
        for name, value in before.items():
            if value is None:
                self.assertIsNone(after[name], name)
            else:
                self.assertAlmostEqual(after[name] or 0.0, value, places=4, msg=name)
        again = mirrored(asked, way)  # type: ignore[arg-type]
        np.testing.assert_allclose(again.shower.outline, plan.shower.outline, atol=1e-3)

    @examples(30)
    @given(
        dx=st.floats(-300, 300),
        dy=st.floats(-300, 0),
        turn=st.sampled_from([0, 90, 31.7, -117.3]),
    )
    def test_moved_it_takes_along_what_belongs_to_it_and_nothing_else(
        self, dx: float, dy: float, turn: float
    ) -> None:
        plan = plan_from(moved(bathroom(400, 600, 1200, point(900, 1200)), turn=turn))
        angle = np.radians(turn)
        by = np.array(
            [dx * np.cos(angle) - dy * np.sin(angle), dx * np.sin(angle) + dy * np.cos(angle)]
        )
        there = carrying.moved(plan, (float(by[0]), float(by[1])))
        apart = np.array(there.shower.outline) - np.array(plan.shower.outline)
        np.testing.assert_allclose(apart, np.tile(by, (4, 1)), atol=2e-3)
        for i, (one, before) in enumerate(
            zip(there.room.fixtures, plan.room.fixtures, strict=True)
        ):
            shift = by if i < 3 else np.zeros(2)
            np.testing.assert_allclose(np.subtract(one.centre, before.centre), shift, atol=2e-3)
            self.assertEqual(one.turn, before.turn)
        before, after = figures(answered(plan)), figures(answered(there))
        self.assertAlmostEqual(after["recess_needed"], before["recess_needed"], places=4)

    @examples(30)
    @given(lean=st.floats(-60, 60), turn=st.sampled_from([0, 90, 31.7]))
    def test_at_a_wall_that_is_out_of_square_it_stands_inside_and_against_it(
        self, lean: float, turn: float
    ) -> None:
        doc = bathroom(0, 900, 1200, point(500, 1300))
        doc["room"]["outline"][2][0] += lean
        plan = mirrored(plan_from(moved(doc, turn=turn)), "side")
        room = Polygon(plan.room.outline)
        shower = Polygon(plan.shower.outline)
        self.assertLess(shower.difference(room).area, 1)
        walls = [Polygon(room).exterior.distance(shower), shower.area - 1200 * 900]
        np.testing.assert_allclose(walls, 0, atol=1)

    def test_what_has_no_room_there_is_refused_and_so_is_a_tray_that_is_not_even(self) -> None:
        # A shower with an inner corner that fills a room with one fits only as it is.
        plan = next(p for p in demo_plans() if len(p.shower.outline) == 6)
        for way in ("side", "end"):
            with self.subTest(way=way), self.assertRaises(PlanError) as caught:
                mirrored(plan, way)  # type: ignore[arg-type]
            self.assertRegex(caught.exception.problems[0].path, "^/shower/outline/")
        for left, refused in ((450, True), (600, False)):
            stock = {"width": 1200, "length": 900, "drain_left": left, "drain_back": 450}
            former = tray(30, stock=stock)
            plan = plan_from(bathroom(0, 900, 1200, point(left, 1350), former=former))
            if refused:
                with self.assertRaises(PlanError) as caught:
                    mirrored(plan, "side")
                self.assertIn("drain_left", caught.exception.problems[0].path)
                self.assertEqual(mirrored(plan, "end").shower.former, plan.shower.former)
            else:
                self.assertEqual(mirrored(plan, "side").shower.former, plan.shower.former)
