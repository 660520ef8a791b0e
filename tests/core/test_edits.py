"""Corners added and removed: entries, doors and tray cuts stay where they were."""

import unittest
from itertools import pairwise
from typing import Any, get_args

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LinearRing, LineString, Point, Polygon

from calm_basin.core.answer.changes import EditError, changed, edited
from calm_basin.core.answer.result import Change
from calm_basin.core.falls import door_edges
from calm_basin.plan import Plan, PlanError, plan_from, quantities
from calm_basin.plan.backs import footprint
from calm_basin.plan.edits import (
    Addition,
    add,
    level_read,
    raise_item,
    remove_corner,
    remove_item,
    split_side,
    stretch,
    with_outline,
)
from calm_basin.units import MM_PER_INCH
from tests.plans import Document, answered, channel, document, moved, point, starting, tray, wholly
from tests.sweeps import examples, sweep


def made(turned: bool) -> Plan:
    doc: Document = document(
        former=tray(60, cuts=[{"edge": 2, "width": 80}, {"edge": 1, "width": 40}]), entries=[0, 3]
    )
    doc["room"]["doors"] += [{"wall": 2, "offset": 200, "width": 700}]
    if turned:
        # The other way round: side i of four becomes side 2 − i.
        doc = moved(doc, turn=31)
        doc["shower"]["outline"].reverse()
        doc["shower"]["entries"] = [(2 - e) % 4 for e in doc["shower"]["entries"]]
        for cut in doc["shower"]["former"]["cuts"]:
            cut["edge"] = (2 - cut["edge"]) % 4
    return plan_from(doc)


class SplitTest(unittest.TestCase):
    @examples(20)
    @given(st.integers(0, 3), st.booleans())
    def test_a_split_side_changes_nothing_of_the_floor(self, side: int, turned: bool) -> None:
        plan = made(turned)
        after = split_side(plan, "shower", side)
        self.assertEqual(len(after.shower.outline), 5)
        old, new = answered(plan), answered(after)
        for (name, was), (_, now) in zip(old.figures, new.figures, strict=True):
            self.assertAlmostEqual(was.value, now.value, places=4, msg=name)
        middle = np.array(plan.shower.outline).mean(axis=0)
        for off in ((0, 0), (200, 100), (-300, 50)):
            at = (float(middle[0] + off[0]), float(middle[1] + off[1]))
            self.assertAlmostEqual(
                answered(plan, [at]).asked[0].height,
                answered(after, [at]).asked[0].height,
                places=4,
            )

    @examples(20)
    @given(st.integers(0, 3), st.booleans())
    def test_doors_stay_where_they_are(self, wall: int, turned: bool) -> None:
        plan = made(turned)
        after = split_side(plan, "room", wall)
        self.assertEqual(len(after.room.outline), 5)
        for was, now in zip(door_edges(plan.room), door_edges(after.room), strict=True):
            np.testing.assert_allclose(was, now, atol=1e-3)

    @examples(20)
    @given(st.integers(0, 3), st.booleans(), st.sampled_from(["room", "shower"]))
    def test_taking_the_new_corner_away_gives_the_plan_back(
        self, side: int, turned: bool, which: str
    ) -> None:
        plan = made(turned)
        there = split_side(plan, which, side)  # type: ignore[arg-type]
        back = remove_corner(there, which, side + 1)  # type: ignore[arg-type]
        self.assertEqual(sorted(back.shower.entries), sorted(plan.shower.entries))
        cuts = {(c.edge, c.width) for c in back.shower.former.cuts}  # type: ignore[union-attr]
        self.assertEqual(cuts, {(c.edge, c.width) for c in plan.shower.former.cuts})  # type: ignore[union-attr]
        np.testing.assert_allclose(back.shower.outline, plan.shower.outline)
        for was, now in zip(door_edges(plan.room), door_edges(back.room), strict=True):
            np.testing.assert_allclose(was, now, atol=1e-3)

    def test_what_cannot_be_is_refused_with_its_field(self) -> None:
        plan = made(False)
        for edit, at, path in [
            (split_side, 7, "/shower/outline/7"),
            (remove_corner, -1, "/shower/outline/-1"),
        ]:
            with self.assertRaises(PlanError) as caught:
                edit(plan, "shower", at)
            self.assertEqual(caught.exception.problems[0].path, path)

    def test_a_door_too_wide_for_what_is_left_is_named(self) -> None:
        drain = {"kind": "point", "centre": [140, 1150], "width": 90, "length": 90}
        zone = [[0, 900], [280, 900], [280, 1400], [0, 1400]]
        doc = document(outline=zone, drain=drain)
        doc["room"]["outline"] = [[0, 0], [2400, 100], [300, 600], [300, 1800], [0, 1800]]
        doc["room"]["doors"] = [{"wall": 0, "offset": 0, "width": 2300}]
        with self.assertRaises(PlanError) as caught:
            remove_corner(plan_from(doc), "room", 1)
        self.assertIn("/room", caught.exception.problems[0].path)


class PointerTest(unittest.TestCase):
    def test_a_place_inside_a_list_can_be_changed(self) -> None:
        plan = made(False)
        for path, value in [
            ("/room/layers/1/thickness", 7.5),
            ("/room/doors/0/width", 600.0),
            ("/shower/outline/2/0", 1490.0),
            ("/shower/former/cuts/1/width", 12.0),
            ("/shower/entries/0", 1),
        ]:
            after = changed(plan, (Change(path=path, value=value),))
            found: object = after.model_dump()
            for name in path[1:].split("/"):
                found = found[int(name)] if isinstance(found, list | tuple) else found[name]  # type: ignore[index]
            self.assertEqual(found, value)
            self.assertNotEqual(after, plan)

    def test_a_pointer_that_leads_nowhere_is_named(self) -> None:
        for path in ("/room/layers/9/thickness", "/room/roof", "/room/layers/x"):
            with self.subTest(path=path), self.assertRaises(EditError):
                changed(made(False), (Change(path=path, value=1),))

    def test_what_makes_no_plan_is_one_error(self) -> None:
        """A value that does not fit, parts that do not agree: of room, floor, drain, waste, walls
        and readings."""
        plan = plan_from(document())
        heights = [
            {"kind": "height", "x": x, "y": 100.0, "height": height}
            for x, height in ((100.0, 0.0), (600.0, 1.0), (1100.0, 900.0))
        ]
        wrong: list[tuple[str, Any]] = [
            ("/room/layers/0/thickness", -1),
            ("/room/outline", [[0, 0], [100, 0], [100, 100]]),
            ("/room/doors/0/wall", 9),
            ("/floor/others", [{"kind": "beam"}]),
            ("/shower/outline", [[0, 0], [9000, 0], [9000, 900]]),
            ("/shower/drain", {"kind": "linear", "start": [5, 5], "end": [5, 5], "width": 70}),
            ("/waste/stack", [40_000.0, 0.0]),
            ("/walls/shower", [{"role": "board", "name": "b", "thickness": 400}]),
            ("/survey/levels", heights),
        ]
        for path, value in wrong:
            with self.subTest(path=path), self.assertRaises(EditError):
                edited(plan, (Change(path=path, value=value),))

    def test_the_cuts_lie_on_the_sides_that_were_cut(self) -> None:
        plan = split_side(made(False), "shower", 0)
        outline = plan.shower.outline
        for cut in plan.shower.former.cuts:  # type: ignore[union-attr]
            side = LineString([outline[cut.edge], outline[(cut.edge + 1) % 5]])
            expected = Point(750, 1800) if cut.width == 80 else Point(1500, 1350)
            self.assertLess(side.distance(expected), 1e-6)


class StretchTest(unittest.TestCase):
    def test_the_room_grows_from_its_corner_and_the_shower_stays_at_its_wall(self) -> None:
        plan = plan_from(document() | {"assumed": ["/shower/outline/1/0", "/shower/outline/2/1"]})
        wide = stretch(plan, "room", 0, 3000)
        self.assertEqual(wide.room.outline, ((0, 0), (3000, 0), (3000, 1800), (0, 1800)))
        # At the left wall the shower grows to the right, at the far wall towards the room.
        across = stretch(plan, "shower", 0, 1300)
        self.assertEqual(across.shower.outline[1], (1300, 900))
        self.assertEqual(across.assumed, ("/shower/outline/2/1",))
        deep = stretch(plan, "shower", 1, 1000)
        self.assertEqual(deep.shower.outline, ((0, 800), (1500, 800), (1500, 1800), (0, 1800)))

    def test_a_shower_goes_with_the_wall_that_it_stands_at(self) -> None:
        for axis, drain in ((1, point(700, 1300)), (1, channel(0, 1765, 1500, 1765))):
            plan = plan_from(document(drain=drain))
            for size in (2600, 1500):
                after = stretch(plan, "room", axis, size)  # type: ignore[arg-type]
                self.assertEqual(max(y for _, y in after.shower.outline), size)
                # The same shower: every figure of its floor stays as it was.
                for (name, was), (_, now) in zip(
                    answered(plan).figures, answered(after).figures, strict=True
                ):
                    self.assertAlmostEqual(was.value, now.value, places=6, msg=name)
        # At the near wall, or from wall to wall, it stays.
        self.assertEqual(stretch(plan, "room", 0, 3000).shower, plan.shower)

    def test_only_a_rectangle_along_the_axes_is_stretched(self) -> None:
        with self.assertRaises(PlanError) as refused:
            stretch(made(True), "shower", 0, 1000)
        self.assertEqual(refused.exception.problems[0].path, "/shower/outline")


class AdditionTest(unittest.TestCase):
    def added(self, plan: Plan, what: Addition) -> Plan:
        if what == "cut":
            return add(add(plan, "tray"), what, side=0)
        if what == "stock tray":
            return add(add(plan, "tray"), what)
        if what == "floor outside":
            return add(plan, what, side=0)
        if what == "other joist":
            return add(plan, what, side=1)
        if what in ("joist start", "joist end"):
            return add(add(plan, "other joist", side=1), what, side=0)
        if what == "service depth":
            return add(add(plan, "service"), what, side=0)
        if what == "membrane":
            return add(add(plan, "slab"), what)
        if what == "bend":
            return add(changed(add(plan, "stack"), (Change(path="/waste/run", value=()),)), what)
        if what in ("studs", "heating mat"):
            return add(add(plan, "heating"), what)
        if what in ("taped wall", "diagonal"):
            return add(add(plan, "tape"), what)
        return add(plan, what)

    @sweep
    def test_every_size_is_assumed_and_round_in_the_plans_unit(self) -> None:
        for unit, step in (("mm", 1.0), ("in", MM_PER_INCH / 16)):
            plan = starting("job", unit, "us-dwelling").model_copy(update={"assumed": ()})
            # Level walls round two zones are for a point drain only.
            drain = point(600, plan.room.outline[2][1] - 450, 110)
            plan = changed(plan, (Change(path="/shower/drain", value=drain),))
            for what in get_args(Addition):
                with self.subTest(unit=unit, what=what):
                    bought = what in ("extension", "stated falls")
                    own = self.added(plan, "stock tray") if bought else plan
                    before = {path: value for path, _, value in quantities(own)}
                    after = self.added(own, what)
                    new = {
                        path: value
                        for path, kind, value in quantities(after)
                        if kind == "length" and before.get(path) != value
                    }
                    # A height of 0 where none matters, and a ramp where no floor is, are none.
                    none = {path for path in new if path.endswith(("/height", "/ramp"))}
                    self.assertLessEqual(set(new) - none, set(after.assumed))
                    self.assertTrue(all(new[path] == 0 for path in none - set(after.assumed)))
                    self.assertNotIn("/floor/kind", after.assumed)
                    for path, value in new.items():
                        if not path.startswith("/survey/tape/diagonals"):
                            self.assertAlmostEqual(value / step, round(value / step), msg=path)
                    self.assertTrue(wholly(after, cures=False).complete)

    def test_a_new_job_and_its_parts_break_nothing(self) -> None:
        for unit in ("mm", "in", "ft"):
            plan = starting("job", unit, "us-dwelling")
            for what in ("bed", "tray", "panels", "joists", "WC", "tile"):
                stops = [f.code for f in answered(add(plan, what)).findings if f.severity == "stop"]
                self.assertEqual(stops, [], (unit, what))

    def test_fixtures_stand_at_walls_and_not_in_each_other(self) -> None:
        for unit in ("mm", "in"):
            plan = starting("job", unit, "us-dwelling")
            plan = changed(plan, (Change(path="/room/outline/1/0", value=4064.0),))
            plan = changed(plan, (Change(path="/room/outline/2/0", value=4064.0),))
            for what in ("WC", "basin", "cabinet", "column", "radiator", "seat", "bar", "control"):
                plan = add(plan, what)
            shapes = [footprint(one) for one in plan.room.fixtures]
            for i, one in enumerate(shapes):
                self.assertTrue(Polygon(plan.room.outline).buffer(1).covers(one), i)
                self.assertLess(one.distance(LinearRing(plan.room.outline)), 1.0, i)
                for other in shapes[:i]:
                    self.assertLess(one.intersection(other).area, 1.0)
            self.assertEqual(
                [f.code for f in answered(plan).findings if "fixture" in f.code], [], unit
            )

    def test_what_cannot_be_added_is_refused_with_its_field(self) -> None:
        plan = starting("job", "mm", "us-dwelling")
        for what, side, path in [
            ("bath", None, "/what"),
            ("cut", 0, "/shower/former/kind"),
            ("taped wall", None, "/survey/tape/walls"),
            ("diagonal", None, "/survey/tape"),
        ]:
            with self.assertRaises(PlanError) as refused:
                add(plan, what, side)
            self.assertEqual(refused.exception.problems[0].path, path)


class RemovalTest(unittest.TestCase):
    def test_what_is_assumed_of_the_others_follows(self) -> None:
        plan = starting("job", "mm", "us-dwelling").model_copy(update={"assumed": ()})
        for what in ("WC", "basin", "cabinet"):
            plan = add(plan, what)
        kept = [path for path in plan.assumed if path.startswith("/room/fixtures/2")]
        plan = plan.model_copy(update={"assumed": tuple(kept)})
        after = remove_item(plan, "/room/fixtures/0")
        self.assertEqual([f.name for f in after.room.fixtures], ["basin", "cabinet"])
        self.assertEqual(after.assumed, tuple(p.replace("/2/", "/1/") for p in kept))
        self.assertEqual(remove_item(after, "/room/fixtures/1").assumed, ())

    def test_a_taped_wall_takes_only_its_own_diagonals(self) -> None:
        doc = document()
        walls = [{"length": 1000, "turn": "left", "square": False} for _ in range(6)]
        pairs = [(0, 2), (1, 3), (2, 4), (3, 5), (0, 3), (1, 5)]
        doc["survey"] = {
            "tape": {
                "walls": walls,
                "diagonals": [{"first": a, "last": b, "length": 1500 + a} for a, b in pairs],
            }
        }
        plan = plan_from(doc)
        for wall in range(6):
            after = remove_item(plan, f"/survey/tape/walls/{wall}").survey.tape
            assert after is not None
            # Both corners of a wall that is gone are one, and no diagonal was taped to it.
            corners = [c for c in range(6) if c not in (wall, (wall + 1) % 6)]
            place = {c: c - (c > wall) for c in corners}
            left = [(place[a], place[b]) for a, b in pairs if a in place and b in place]
            self.assertEqual([(d.first, d.last) for d in after.diagonals], left)
            self.assertTrue(all(a < b for a, b in pairwise(sorted(place.values()))))

    def test_corners_carry_what_is_assumed_of_them(self) -> None:
        plan = plan_from(document() | {"assumed": ["/shower/outline/2/0", "/shower/outline/3/1"]})
        more = split_side(plan, "shower", 1)
        self.assertEqual(more.assumed, ("/shower/outline/3/0", "/shower/outline/4/1"))
        self.assertEqual(remove_corner(more, "shower", 2).assumed, plan.assumed)
        self.assertEqual(remove_corner(more, "shower", 3).assumed, ("/shower/outline/3/1",))


class RaisingTest(unittest.TestCase):
    def test_a_layer_goes_over_the_one_above_it_with_what_is_only_assumed_of_it(self) -> None:
        plan = starting("job", "mm", "uk")
        layers = plan.shower.layers
        plan = changed(plan, (Change(path="/assumed", value=["/shower/layers/2/thickness"]),))
        once = raise_item(plan, "/shower/layers/2")
        self.assertEqual(once.shower.layers, (layers[0], layers[2], layers[1], *layers[3:]))
        self.assertEqual(once.assumed, ("/shower/layers/1/thickness",))
        self.assertEqual(raise_item(once, "/shower/layers/2").shower, plan.shower)
        self.assertEqual(raise_item(once, "/shower/layers/2").assumed, plan.assumed)
        # What lies in another order is as thick as it was.
        before, after = answered(plan).figures, answered(once).figures
        self.assertEqual(after.recess_needed.value, before.recess_needed.value)

    def test_what_lies_on_nothing_is_not_raised(self) -> None:
        plan = starting("job", "mm", "uk")
        for path in ("/shower/layers/0", "/shower/layers/9", "/room/doors/0", "/nowhere/1", ""):
            with self.subTest(path), self.assertRaises(PlanError) as caught:
                raise_item(plan, path)
            self.assertEqual(caught.exception.problems[0].path, path)


class LevelTest(unittest.TestCase):
    @examples(40)
    @given(
        x=st.floats(100, 2300),
        y=st.floats(100, 1700),
        direction=st.floats(-179, 179),
        distance=st.floats(5, 600),
    )
    def test_it_is_told_by_its_two_ends(
        self, x: float, y: float, direction: float, distance: float
    ) -> None:
        # By complex numbers, which the edit does not use.
        end = complex(x, y) + distance * np.exp(1j * np.radians(direction))
        plan = level_read(plan_from(document()), (x, y), (end.real, end.imag), 4)
        (reading,) = plan.survey.levels
        self.assertEqual((reading.x, reading.y, reading.gap), (x, y, 4))
        self.assertAlmostEqual(reading.direction, direction, places=2)
        self.assertAlmostEqual(reading.distance, distance, places=3)

    def test_two_ends_at_one_place_are_none(self) -> None:
        with self.assertRaises(PlanError) as caught:
            level_read(plan_from(document()), (600, 400), (600.4, 400), 2)
        self.assertEqual(caught.exception.problems[0].path, "/end")


class OutlineTest(unittest.TestCase):
    """Another outline of the room, such as one out of a drawing."""

    def test_it_lies_on_the_lower_left_corner_and_is_measured(self) -> None:
        plan = starting("Upstairs", "mm", "us-dwelling")
        left, low = np.array(plan.room.outline).min(axis=0)
        right, high = np.array(plan.room.outline).max(axis=0)
        points = [(7000.0, 500.0), (7400.0 + right - left, 500.0)]
        points += [(points[1][0], 900.0 + high - low), (7000.0, 900.0 + high - low)]
        new = with_outline(plan, tuple(points))
        corners = np.array(new.room.outline)
        np.testing.assert_allclose(corners.min(axis=0), (left, low))
        np.testing.assert_allclose(corners.max(axis=0), (right + 400, high + 400))
        self.assertTrue(any(p.startswith("/room/outline") for p in plan.assumed))
        self.assertFalse(any(p.startswith("/room/outline") for p in new.assumed))
        self.assertEqual(new.shower, plan.shower)

    def test_a_door_that_its_wall_does_not_carry_goes_and_the_others_stay(self) -> None:
        doc = document()
        doc["room"]["doors"] = [
            {"wall": 0, "offset": 1500, "width": 760},
            {"wall": 1, "offset": 900, "width": 700},
            {"wall": 4, "offset": 100, "width": 700},
        ]
        doc["room"]["outline"] = [[0, 0], [2400, 0], [2400, 1800], [1200, 1800], [0, 1800]]
        doc["shower"]["outline"] = [[0, 900], [1500, 900], [1500, 1800], [0, 1800]]
        room = ((0.0, 0.0), (2300.0, 0.0), (2300.0, 1850.0), (0.0, 1850.0))
        new = with_outline(plan_from(doc), room)
        self.assertEqual([(d.wall, d.offset) for d in new.room.doors], [(0, 1500), (1, 900)])
        narrow = ((0.0, 0.0), (2200.0, 0.0), (2200.0, 1850.0), (0.0, 1850.0))
        self.assertEqual([d.wall for d in with_outline(plan_from(doc), narrow).room.doors], [1])

    def test_an_outline_that_the_shower_does_not_fit_is_refused(self) -> None:
        with self.assertRaises(PlanError) as caught:
            with_outline(plan_from(document()), ((0, 0), (1200, 0), (1200, 900), (0, 900)))
        self.assertTrue(caught.exception.problems[0].path)
