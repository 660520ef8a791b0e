"""Corners added and removed: entries, doors and tray cuts stay where they were."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point

from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Change
from calm_basin.core.falls import door_edges
from calm_basin.core.solve import solve
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.edits import remove_corner, split_side
from tests.plans import Document, document, moved, tray


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
    @settings(max_examples=20, deadline=None)
    @given(st.integers(0, 3), st.booleans())
    def test_a_split_side_changes_nothing_of_the_floor(self, side: int, turned: bool) -> None:
        plan = made(turned)
        after = split_side(plan, "shower", side)
        self.assertEqual(len(after.shower.outline), 5)
        old, new = solve(plan), solve(after)
        for (name, was), (_, now) in zip(old.figures, new.figures, strict=True):
            self.assertAlmostEqual(was.value, now.value, places=4, msg=name)
        middle = np.array(plan.shower.outline).mean(axis=0)
        for off in ((0, 0), (200, 100), (-300, 50)):
            at = (float(middle[0] + off[0]), float(middle[1] + off[1]))
            self.assertAlmostEqual(
                solve(plan, [at]).asked[0].height, solve(after, [at]).asked[0].height, places=4
            )

    @settings(max_examples=20, deadline=None)
    @given(st.integers(0, 3), st.booleans())
    def test_doors_stay_where_they_are(self, wall: int, turned: bool) -> None:
        plan = made(turned)
        after = split_side(plan, "room", wall)
        self.assertEqual(len(after.room.outline), 5)
        for was, now in zip(door_edges(plan.room), door_edges(after.room), strict=True):
            np.testing.assert_allclose(was, now, atol=1e-3)

    @settings(max_examples=20, deadline=None)
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
            with self.subTest(path=path), self.assertRaises(LookupError):
                changed(made(False), (Change(path=path, value=1),))

    def test_the_cuts_lie_on_the_sides_that_were_cut(self) -> None:
        plan = split_side(made(False), "shower", 0)
        outline = plan.shower.outline
        for cut in plan.shower.former.cuts:  # type: ignore[union-attr]
            side = LineString([outline[cut.edge], outline[(cut.edge + 1) % 5]])
            expected = Point(750, 1800) if cut.width == 80 else Point(1500, 1350)
            self.assertLess(side.distance(expected), 1e-6)
