"""Walls: studs behind finished faces on any plan, framing and boards counted by hand, cures that
hold."""

import random
import unittest
from itertools import pairwise
from math import hypot
from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.solution import Solution
from calm_basin.core.walls.boards import board_size, boards, fasteners
from calm_basin.core.walls.frame import board_height, frame, frames, stud_middles
from calm_basin.core.walls.plumb import furring
from calm_basin.core.walls.result import WallsResult
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.edits import (
    add,
    measured_at_faces,
    measured_at_studs,
    remove_corner,
    split_side,
    stretch,
    stretch_at_studs,
)
from calm_basin.plan.edits.walls import with_faces
from calm_basin.plan.framing import at_studs, framed, offset, shower_stretches, studs, wall_depths
from calm_basin.plan.walls import StudFace
from tests.core.test_membrane import alcove
from tests.plans import Document, answered, channel, document, layers, moved, offering, point
from tests.sweeps import some

STACK = layers(("tile", 8), ("adhesive", 4), ("membrane", 1), ("board", 12))
"""25 mm."""


def walled(doc: Document, **walls: Any) -> Plan:
    told = plan_from(doc).model_dump(mode="json")
    told["walls"] = {"shower": STACK, "rest": layers(("board", 12))} | walls
    return plan_from(told)


def result(plan: Plan) -> WallsResult:
    found = answered(plan, parts=("walls",)).walls
    assert found is not None
    return found


def finding(solution: Solution, code: str) -> Any:
    return next((one for one in solution.findings if one.code == code), None)


def with_fixture(doc: Document, kind: str, **sizes: Any) -> Document:
    doc["version"] = 6
    fixtures = [*doc["room"].get("fixtures", []), {"name": kind, "kind": kind, **sizes}]
    doc["room"]["fixtures"] = fixtures
    return doc


class LineTest(unittest.TestCase):
    def test_an_alcove_by_hand(self) -> None:
        """A room of 900 × 2000; the shower at its back three walls: 25 behind these, 12 behind the
        front. From stud to stud 950 × 2037, the shower 950 × 925."""
        plan = walled(alcove())
        self.assertEqual(wall_depths(plan), (12, 25, 25, 25))
        outer = Polygon(studs(plan))
        self.assertEqual(outer.bounds, (-25, -12, 925, 2025))
        self.assertEqual(Polygon(framed(plan).outline).bounds, (-25, 1100, 925, 2025))
        found = result(plan)
        self.assertEqual(found.said, "Shower 950 mm × 925 mm between studs")
        # Chart, sheet and places read say which line is theirs.
        self.assertEqual(answered(plan).drawing.faces, "from finished walls")
        self.assertEqual(answered(plan_from(alcove())).drawing.faces, "")
        screws = sum(len(view.fasteners) for view in found.views)
        self.assertEqual(found.boards, f"6 board pieces, {screws} screws with washers")
        self.assertEqual([line.studs_text for line in found.lines][:2], ["950 mm", "2037 mm"])

    def test_nothing_on_the_studs_is_one_line(self) -> None:
        plan = plan_from(alcove())
        self.assertEqual(studs(plan), plan.room.outline)
        self.assertIs(framed(plan), plan.shower)
        self.assertFalse(result(plan).given)

    def test_studs_lie_behind_every_wall_of_any_room_by_what_is_on_it(self) -> None:
        """Random rooms of four to eight corners, turned, mirrored, either way round: each side of
        the studs is parallel to its wall and as far behind it, by distances of its ends alone."""
        chance, sides = random.Random(71), 0
        for _ in range(some(60)):
            room = _room(chance)
            out = [chance.uniform(0, 60) for _ in room]
            outer = offset(tuple(room), out)
            self.assertTrue(Polygon(outer).buffer(1e-6).covers(Polygon(room)))
            for i, far in enumerate(out):
                line = _line(room[i], room[(i + 1) % len(room)])
                for corner in (outer[i], outer[(i + 1) % len(room)]):
                    self.assertAlmostEqual(abs(line @ [*corner, 1]), far, places=6)
                    sides += 1
        self.assertGreater(sides, 400 if some(60) == 60 else 10)

    def test_one_straight_wall_has_its_studs_in_one_plane(self) -> None:
        plan = split_side(walled(alcove()), "room", 1)
        # Wall 2 is parted in its middle: only its upper half lies at the shower.
        self.assertEqual({s.wall for s in shower_stretches(plan)}, {2, 3, 4})
        self.assertEqual(wall_depths(plan), (12, 25, 25, 25, 25))
        self.assertAlmostEqual(Polygon(studs(plan)).area, 950 * 2037, places=3)
        back = remove_corner(plan, "room", 2)
        self.assertEqual(back.room.outline, plan_from(alcove()).room.outline)

    def test_turned_and_mirrored_it_is_the_same(self) -> None:
        areas = set()
        for turn, mirror in ((0, False), (37.3, False), (211, True), (90, True)):
            plan = walled(moved(alcove(), turn=turn, mirror=mirror))
            areas.add((round(Polygon(studs(plan)).area), round(Polygon(framed(plan).outline).area)))
        self.assertEqual(areas, {(950 * 2037, 950 * 925)})


class MeasuredTest(unittest.TestCase):
    def test_a_room_measured_at_the_studs_moves_in_with_all_that_is_at_its_walls(self) -> None:
        doc = document(drain=channel(0, 1765, 1500, 1765))
        doc["room"]["outline"] = [[0, 0], [1500, 0], [1500, 1800], [0, 1800]]
        doc["room"]["doors"] = [{"wall": 0, "offset": 600, "width": 760}]
        doc = with_fixture(
            doc, "bar", centre=[20, 1400], width=600, length=40, turn=-90, height=850
        )
        before = walled(doc)
        after = measured_at_studs(before)
        self.assertEqual(after.room.outline, ((25, 12), (1475, 12), (1475, 1775), (25, 1775)))
        self.assertEqual(after.shower.outline, ((25, 900), (1475, 900), (1475, 1775), (25, 1775)))
        drain = after.shower.drain.model_dump()
        self.assertEqual((drain["start"], drain["end"]), ((25, 1740), (1475, 1740)))
        # The door stands where it stood; the bar is at its wall as before.
        self.assertEqual(after.room.doors[0].offset, 575)
        self.assertEqual(after.room.fixtures[0].centre, (45, 1400))
        self.assertEqual(studs(after), before.room.outline)
        self.assertEqual(measured_at_faces(after).walls.studs, None)
        # Said again it changes nothing.
        self.assertEqual(measured_at_studs(after), after)

    def test_on_random_plans_the_studs_stay_and_the_riser_too(self) -> None:
        chance, ran = random.Random(5), 0
        for _ in range(some(40)):
            doc = moved(
                document(drain=point(chance.uniform(300, 1200), chance.uniform(1200, 1500))),
                turn=chance.uniform(0, 360),
                mirror=chance.random() < 0.5,
            )
            wall = chance.uniform(5, 60)
            plan = walled(doc, shower=layers(("tile", wall)))
            after = measured_at_studs(plan)
            apart = np.abs(np.array(studs(after)) - np.array(plan.room.outline)).max()
            self.assertLess(apart, 0.01)
            self.assertEqual(after.shower.drain, plan.shower.drain)
            pocket = Polygon(framed(after).outline)
            self.assertLess(pocket.symmetric_difference(Polygon(plan.shower.outline)).area, 30)
            ran += 1
        self.assertEqual(ran, some(40))

    def test_thicker_tile_later_is_found_and_its_cure_moves_the_walls(self) -> None:
        plan = measured_at_studs(walled(alcove()))
        told = plan.model_dump(mode="json")
        told["walls"]["shower"][0]["thickness"] = 18
        solution = offering(plan_from(told))
        found = finding(solution, "walls_off_studs")
        self.assertEqual(
            (found.severity, round(found.measured, 3)), ("stop", round(hypot(10, 10), 3))
        )
        cure, drawn = found.cures
        self.assertEqual([change.path for change in drawn.changes], ["/walls/studs"])
        for change in cure.changes:
            part, name = change.path.split("/")[1:]
            told[part][name] = change.value
        self.assertIsNone(finding(answered(plan_from(told)), "walls_off_studs"))

    def test_a_stretched_room_keeps_its_studs_behind_its_walls(self) -> None:
        plan = measured_at_studs(walled(alcove()))
        wider = stretch(plan, "room", 1, 2200)
        self.assertIsNone(finding(answered(wider), "walls_off_studs"))
        self.assertEqual(wider.walls.studs, studs(wider))
        box = result(wider).box
        assert box is not None
        self.assertEqual([round(side.size) for side in box], [900, 2200 + 37])

    def test_a_size_typed_between_studs_is_that_between_them(self) -> None:
        """2400 between studs with 12 and 25 on them is 2363 finished, whichever line was taped."""
        for plan in (walled(alcove()), measured_at_studs(walled(alcove()))):
            longer = stretch_at_studs(plan, 1, 2400)
            box = result(longer).box
            assert box is not None
            self.assertAlmostEqual(box[1].size, 2400, places=6)
            depths = [corner[1] for corner in longer.room.outline]
            self.assertAlmostEqual(max(depths) - min(depths), 2363, places=6)
        with self.assertRaises(PlanError) as refused:
            stretch_at_studs(walled(alcove()), 1, 30)
        self.assertEqual(refused.exception.problems[0].path, "/size")

    def test_a_nib_that_is_thinner_than_what_is_on_it_is_told(self) -> None:
        """A wall of 45 between room and alcove with 25 on one face and 25 on the other."""
        for thick, wrong in ((45, True), (60, False)):
            doc = document()
            doc["room"] |= {
                "doors": [],
                "outline": [
                    [0, 0],
                    [2400, 0],
                    [2400, 1800],
                    [1500 + thick, 1800],
                    [1500 + thick, 1000],
                    [1500, 1000],
                    [1500, 1800],
                    [0, 1800],
                ],
            }
            plan = walled(doc, rest=layers(("board", 25)))
            solution = answered(plan, parts=("walls", "marks", "order", "membrane"))
            self.assertEqual(finding(solution, "studs_cross") is not None, wrong)
            self.assertEqual(studs(plan) == plan.room.outline, wrong)

    def test_what_went_on_walls_in_older_plans_is_on_the_studs_now(self) -> None:
        doc = document() | {"version": 12, "assumed": ["/shower/wall_layers/0/thickness"]}
        doc["shower"]["wall_layers"] = layers(("tile", 8))
        plan = plan_from(doc)
        self.assertEqual(plan.walls.studs, plan.room.outline)
        self.assertEqual(plan.assumed, ("/walls/shower/0/thickness",))
        self.assertIsNotNone(finding(answered(plan), "walls_off_studs"))
        doc["shower"]["wall_layers"] = []
        doc["assumed"] = []
        self.assertEqual(plan_from(doc).walls.studs, None)


class InvarianceTest(unittest.TestCase):
    def test_every_demo_job_measured_at_the_studs_is_the_same_as_at_the_tile(self) -> None:
        """Its walls are drawn at the studs, as somebody measures them there; told so, the finished
        room, the shower and every key figure are those of the job as it was drawn."""
        ran = 0
        for demo in demo_plans():
            told = demo.model_dump(mode="json")
            told["walls"] |= {"shower": STACK, "rest": layers(("board", 12)), "niches": []}
            finished = plan_from(told)
            with self.subTest(job=finished.job.name):
                drawn = with_faces(finished, studs(finished))
                self.assertGreater(
                    Polygon(drawn.room.outline).area, Polygon(told["room"]["outline"]).area
                )
                back = measured_at_studs(drawn)
                for one, other in (
                    (back.room.outline, finished.room.outline),
                    (back.shower.outline, finished.shower.outline),
                    (
                        [f.centre for f in back.room.fixtures],
                        [f.centre for f in finished.room.fixtures],
                    ),
                    (
                        [(d.offset, d.wall) for d in back.room.doors],
                        [(d.offset, d.wall) for d in finished.room.doors],
                    ),
                ):
                    self.assertLess(np.abs(np.array(one) - np.array(other)).max(initial=0), 0.01)
                figures = [
                    {name: value.text for name, value in answered(plan).figures}
                    for plan in (back, finished)
                ]
                self.assertEqual(*figures)
                ran += 1
        self.assertEqual(ran, len(demo_plans()))


class CutToTest(unittest.TestCase):
    def test_a_stock_tray_has_to_reach_the_studs(self) -> None:
        """Stock sizes are stud to stud (common practice, no source): a tray of 900 × 900 fills the
        finished alcove and is 25 short at each wall; one of 950 × 925 reaches the studs."""
        for size, short in (((900, 900), True), ((950, 925), False)):
            doc = alcove() | {"version": 8}
            wide, deep = size
            doc["shower"]["former"] = {
                "kind": "tray",
                "edge_thickness": 25,
                "stock": {
                    "width": wide,
                    "length": deep,
                    "drain_left": wide / 2,
                    "drain_back": 450 + deep - 900,
                },
            }
            for walls in (STACK, []):
                found = finding(answered(walled(doc, shower=walls, rest=[])), "tray_too_small")
                self.assertEqual(found is not None, short and bool(walls), (size, len(walls)))

    def test_a_tray_that_goes_in_after_the_boards_ends_at_them(self) -> None:
        """12 of board on the studs, 13 in front of it: the tray is 926 × 913 where the studs are
        950 × 925 apart; the deck goes to the studs all the same."""
        plan = walled(alcove(), tray_to="boards")
        self.assertEqual(Polygon(framed(plan).outline).bounds, (-13, 1100, 913, 2013))
        self.assertEqual(Polygon(at_studs(plan).outline).bounds, (-25, 1100, 925, 2025))
        self.assertEqual(result(plan).said, "Shower 926 mm × 913 mm between boards")

    def test_the_deck_is_cut_to_the_studs(self) -> None:
        plain, behind = plan_from(alcove()), walled(alcove())
        areas = []
        for plan in (plain, behind):
            sheet = answered(plan).structure.sheet
            assert sheet is not None
            areas.append(shapely.union_all([Polygon(one.outline) for one in sheet.pieces]).area)
        told = answered(behind).structure.sheet
        assert told is not None
        self.assertIn("Measure from the studs", told.steps[0])
        places = [text for line in told.saw_lines for text in (line.start_text, line.end_text)]
        # Two of its corners are the studs' own, and none lies behind a wall.
        self.assertEqual(sum("in corner" in text for text in places), 4)
        self.assertFalse(any("behind" in text for text in places))
        # 950 × 925 less the joists in it, against 900 × 900 less them.
        self.assertGreater(areas[1] - areas[0], 40_000)

    def test_marks_are_taped_from_the_studs(self) -> None:
        found = answered(walled(alcove()), parts=("marks",)).marks
        assert found is not None
        self.assertIn("Taken from the studs", str(found))


class FrameTest(unittest.TestCase):
    def test_studs_as_boards_are_laid_out(self) -> None:
        # 2400 long, 400 apart: one flush with each end, the others on 400, 800, … 2000.
        middles = stud_middles(2400, 400, 38)
        self.assertEqual(middles, (19, 400, 800, 1200, 1600, 2000, 2381))
        self.assertEqual(stud_middles(60, 400, 38), (30,))

    def test_no_gap_between_studs_is_wider_than_their_spacing(self) -> None:
        chance = random.Random(3)
        for _ in range(200):
            length, centres = chance.uniform(100, 9000), chance.uniform(150, 700)
            middles = stud_middles(length, centres, 38)
            self.assertTrue(all(0 < b - a <= centres + 1e-6 for a, b in pairwise(middles)))
            self.assertTrue(middles[0] >= 19 and middles[-1] <= length - 19 + 1e-9)

    def test_a_wall_of_two_thicknesses_says_how_to_finish_flush(self) -> None:
        notes = result(walled(alcove())).notes
        told = [note for note in notes if "in front of the rest" in note]
        # The sides go on beyond the shower, the back does not: 25 against 12.
        self.assertEqual([note.split(":")[0] for note in told], ["Wall 2", "Wall 4"])
        self.assertTrue(all("13 mm" in note for note in told))
        same = walled(alcove(), rest=STACK)
        self.assertFalse(any("in front of" in note for note in result(same).notes))

    def test_seen_from_inside_left_is_left(self) -> None:
        """Looking at the back wall of the alcove from its door, x grows to the right: a niche near
        its right end in a room that goes round either way."""
        niche = {"wall": 2, "offset": 100, "width": 200, "height": 300, "sill": 1000}
        (box,) = (box for _, box in frame(walled(alcove(), niches=[niche]), 2).niches)
        # Wall 3 runs from the right to the left: 100 to 300 from its right end, 25 behind.
        self.assertEqual((round(box.x.low), round(box.x.high)), (950 - 25 - 300, 950 - 25 - 100))
        doc = alcove()
        doc["room"]["outline"] = doc["room"]["outline"][::-1]
        niche["wall"] = next(
            i
            for i, pair in enumerate(pairwise([*doc["room"]["outline"]] * 2))
            if {tuple(p) for p in pair} == {(900, 2000), (0, 2000)}
        )
        (box,) = (box for _, box in frame(walled(doc, niches=[niche]), niche["wall"]).niches)
        self.assertEqual((round(box.x.low), round(box.x.high)), (25 + 100, 25 + 300))

    def test_backing_lies_behind_what_hangs_on_the_wall(self) -> None:
        doc = with_fixture(
            alcove(), "bar", centre=[20, 1500], width=600, length=40, turn=-90, height=850
        )
        plan = walled(doc)
        seen = frame(plan, 3)
        self.assertEqual(len(seen.hung), 1)
        pieces = seen.backing
        self.assertTrue(all(piece.box.y == (850 - 92, 850 + 92) for piece in pieces))
        # 600 wide and 50 beyond at each end: all of it is backed or stud.
        low, high = seen.hung[0].x.low - 50, seen.hung[0].x.high + 50
        solid = [*seen.studs, *(piece.box.x for piece in pieces)]
        left = LineString([(low, 0), (high, 0)])
        for span in solid:
            left = left.difference(shapely.box(span.low - 1e-6, -1, span.high + 1e-6, 1))
        self.assertLess(left.length, 1e-3)
        # Seen by its front alone: it hangs on no other wall.
        self.assertEqual([len(one.hung) for one in frames(plan)], [0, 0, 0, 1])

    def test_a_tray_has_blocking_all_round(self) -> None:
        doc = alcove()
        doc["shower"]["former"] = {"kind": "tray", "edge_thickness": 25}
        for wall, pieces in ((1, 3), (2, 3), (3, 3)):
            seen = frame(walled(doc), wall)
            round_it = [one for one in seen.backing if one.hung is None]
            self.assertGreaterEqual(len(round_it), pieces - 1)
            covered = sum(one.box.x.size for one in round_it)
            inside = seen.shower[0]
            standing = sum(
                max(min(s.high, inside.high) - max(s.low, inside.low), 0) for s in seen.studs
            )
            self.assertGreaterEqual(covered + standing, inside.size - 1e-6)
        self.assertEqual(frame(walled(doc), 0).backing, ())

    def test_glass_gets_a_stud_behind_its_edge(self) -> None:
        doc = with_fixture(
            alcove(), "screen", centre=[450, 1105], width=890, length=10, turn=0, height=0
        )
        added = [one.added for one in frames(walled(doc))]
        self.assertEqual([len(x) for x in added], [0, 1, 0, 1])

    def test_furring_brings_all_studs_into_one_plane(self) -> None:
        faces = tuple(
            StudFace(wall=1, offset=at, foot=foot, head=head)
            for at, foot, head in ((800, 3, 9), (400, 5, 2), (1200, 6, 6))
        )
        rows = furring(faces, 1)
        self.assertEqual([row.face.offset for row in rows], [400, 800, 1200])
        self.assertEqual([(row.foot, row.head) for row in rows], [(3, 0), (1, 7), (4, 4)])
        # What is put on and how far the stud was back come to one plane.
        planes = {row.face.foot - row.foot for row in rows} | {r.face.head - r.head for r in rows}
        self.assertEqual(planes, {2})
        self.assertEqual(furring(faces, 0), [])


class BoardTest(unittest.TestCase):
    def test_boards_of_a_wall_by_hand(self) -> None:
        """A wall of 950 between studs under boards of 2400 × 1200, 2100 high: two courses, each of
        one piece, 1200 and 900 high."""
        plan = walled(alcove())
        laid = boards(frame(plan, 2), board_height(plan), board_size(plan))
        self.assertEqual([(b.x.size, b.y.size) for b in laid], [(950, 1200), (950, 900)])

    def test_boards_cover_the_shower_once_and_end_on_studs(self) -> None:
        chance, joints = random.Random(12), 0
        for _ in range(some(60)):
            wide, deep = chance.uniform(900, 5000), chance.uniform(900, 2500)
            doc = document(
                outline=[[0, 0], [wide, 0], [wide, deep], [0, deep]],
                drain=point(wide / 2, deep / 2),
                entries=[0],
            )
            doc["room"] |= {
                "outline": [[0, -1500], [wide, -1500], [wide, deep], [0, deep]],
                "doors": [],
            }
            plan = walled(
                moved(doc, turn=chance.uniform(0, 360), mirror=chance.random() < 0.5),
                board_length=chance.uniform(700, 2600),
                board_width=chance.uniform(300, 1300),
                height=chance.uniform(500, 2600),
                centres=chance.uniform(300, 600),
            )
            size, height = board_size(plan), board_height(plan)
            for seen in frames(plan):
                laid = boards(seen, height, size)
                asked = sum(stretch.size * height for stretch in seen.shower)
                self.assertAlmostEqual(sum(b.x.size * b.y.size for b in laid), asked, delta=1)
                shapes = [shapely.box(b.x.low, b.y.low, b.x.high, b.y.high) for b in laid]
                if shapes:
                    self.assertAlmostEqual(shapely.union_all(shapes).area, asked, delta=1)
                for board in laid:
                    self.assertLessEqual(board.x.size, size[0] + 1)
                    self.assertLessEqual(board.y.size, size[1] + 1e-6)
                    inside = any(s.low + 1 < board.x.high < s.high - 1 for s in seen.shower)
                    if inside:
                        self.assertIn(round(board.x.high, 6), [round(x, 6) for x in seen.middles])
                        joints += 1
        self.assertGreater(joints, 50 if some(60) == 60 else 1)

    def test_screws_by_hand(self) -> None:
        """Common practice, no source: the first 12 in above the tray, then every 12 in; or every
        200 mm. Up to 2100 that is six on a stud, or ten; on wall 2 (the second) those in its
        corners begin half a step higher, which leaves as many."""
        plan = walled(alcove())
        held, _ = fasteners(frame(plan, 2), 2100, "washers")
        self.assertEqual(len(held), 4 * 6)
        self.assertEqual(min(y for _, y in held), 304.8)
        held, _ = fasteners(frame(plan, 2), 2100, "screws")
        self.assertEqual(len(held), 4 * 10)
        first = {y for x, y in fasteners(frame(plan, 1), 2100, "washers")[0] if y < 500}
        self.assertEqual(first, {304.8, 304.8 * 1.5})

    def test_no_screw_in_front_of_a_pipe_or_in_a_niche(self) -> None:
        doc = with_fixture(
            alcove(), "control", centre=[375, 1960], width=150, length=80, turn=180, height=1000
        )
        niche = {"wall": 2, "offset": 100, "width": 300, "height": 900, "sill": 300}
        seen = frame(walled(doc, niches=[niche]), 2)
        held, left_out = fasteners(seen, 2100, "washers")
        (pipe,) = seen.pipes
        self.assertTrue(any(abs(x - pipe) < 50 for x in seen.middles))
        self.assertEqual(left_out, 6)
        self.assertTrue(all(abs(x - pipe) >= 50 for x, _ in held))
        ((_, box),) = seen.niches
        self.assertFalse(
            any(box.x.low < x < box.x.high and box.y.low < y < box.y.high for x, y in held)
        )


class FindingTest(unittest.TestCase):
    def test_a_niche_on_a_stud_is_moved_between_two(self) -> None:
        ran = 0
        for turn, mirror in ((0, False), (123, True)):
            for at in (0, 150, 420, 550):
                niche = {"wall": 2, "offset": at, "width": 320, "height": 300, "sill": 1000}
                plan = walled(moved(alcove(), turn=turn, mirror=mirror), niches=[niche])
                found = finding(offering(plan), "niche_on_stud")
                if found is None:
                    continue
                (cure,) = found.cures
                told = plan.model_dump(mode="json")
                told["walls"]["niches"][0]["offset"] = cure.changes[0].value
                after = plan_from(told)
                self.assertIsNone(finding(answered(after), "niche_on_stud"))
                seen = dict(frame(after, 2).niches)[0].x
                self.assertTrue(
                    any(
                        b.low <= seen.low + 1 and seen.high <= b.high + 1
                        for b in frame(after, 2).bays
                    )
                )
                ran += 1
        self.assertGreater(ran, 3)

    def test_a_window_has_its_framing_and_is_left_open_by_boards_and_membrane(self) -> None:
        opening = {"wall": 2, "offset": 0, "width": 320, "height": 300, "sill": 1000}
        for kind, wrong in (("niche", True), ("window", False)):
            plan = walled(alcove(), niches=[opening | {"kind": kind}])
            told = plan.model_dump(mode="json")
            told["membrane"]["walls"] = 2000
            solution = answered(plan_from(told), parts=("walls", "membrane"))
            self.assertEqual(finding(solution, "niche_on_stud") is not None, wrong)
            assert solution.walls is not None and solution.membrane is not None
            cuts = [row.name for view in solution.walls.views for row in view.cuts]
            self.assertEqual(any("sill and header" in name for name in cuts), wrong)
            names = [piece.name for piece in solution.membrane.pieces]
            self.assertIn(f"{kind} 1, back", names)

    def test_one_wider_than_every_bay_is_made_narrower(self) -> None:
        niche = {"wall": 2, "offset": 200, "width": 500, "height": 300, "sill": 1000}
        plan = walled(alcove(), niches=[niche])
        (cure,) = finding(offering(plan), "niche_on_stud").cures
        self.assertIn("wide, between two studs", cure.text)
        told = plan.model_dump(mode="json")
        for change in cure.changes:
            told["walls"]["niches"][0][change.path.rsplit("/", 1)[1]] = change.value
        self.assertIsNone(finding(answered(plan_from(told)), "niche_on_stud"))

    def test_a_valve_that_the_wall_does_not_suit(self) -> None:
        for valve, code, forward in (
            ({"least": 20, "most": 30}, None, None),
            ({"least": 30, "most": 50}, "valve_depth", -15),
            ({"least": 5, "most": 15}, "valve_depth", 15),
        ):
            plan = walled(alcove(), valve=valve)
            found = finding(offering(plan), "valve_depth")
            self.assertEqual(found and found.code, code)
            if found is not None:
                (cure,) = found.cures
                self.assertAlmostEqual(cure.changes[0].value, forward)

    def test_a_valve_on_a_stud_is_moved_beside_it_whichever_way_the_room_lies(self) -> None:
        ran = 0
        for turn, mirror in ((0, False), (123, False), (300, True)):
            for at in (450, 480, 520, 560):
                doc = with_fixture(
                    alcove(),
                    "control",
                    centre=[at, 1960],
                    width=150,
                    length=80,
                    turn=180,
                    height=1000,
                )
                plan = walled(moved(doc, turn=turn, mirror=mirror))
                found = finding(offering(plan), "valve_on_stud")
                seen = frame(plan, 2)
                (one,) = seen.hung
                middle = (one.x.low + one.x.high) / 2
                wrong = any(
                    s.low - 50 < middle - 1 and middle + 1 < s.high + 50 for s in seen.studs
                )
                self.assertEqual(found is not None, wrong, (turn, at))
                if found is None:
                    continue
                (cure,) = found.cures
                told = plan.model_dump(mode="json")
                told["room"]["fixtures"][0]["centre"] = cure.changes[0].value
                self.assertIsNone(finding(answered(plan_from(told)), "valve_on_stud"))
                ran += 1
        self.assertGreaterEqual(ran, 3)

    def test_studs_too_far_apart_for_boards(self) -> None:
        """No more than 16 in (common practice, no source)."""
        self.assertIsNone(finding(answered(walled(alcove(), centres=406.4)), "studs_too_far_apart"))
        found = finding(offering(walled(alcove(), centres=610)), "studs_too_far_apart")
        self.assertEqual(found.cures[0].changes[0].value, 400)

    def test_nonsense_is_named(self) -> None:
        niche = {"wall": 2, "offset": 800, "width": 320, "height": 300, "sill": 1000}
        for walls, path in (
            ({"shower": layers(("tile", 400))}, "/walls/shower"),
            ({"centres": 20}, "/walls/centres"),
            ({"studs": [[0, 0], [900, 0], [900, 900]]}, "/walls/studs"),
            ({"valve": {"least": 50, "most": 20}}, "/walls/valve/most"),
            ({"niches": [niche]}, "/walls/niches/0/offset"),
            ({"niches": [niche | {"wall": 9}]}, "/walls/niches/0/wall"),
            (
                {"faces": [{"wall": 2, "offset": 5000, "foot": 0, "head": 0}]},
                "/walls/faces/0/offset",
            ),
        ):
            with self.assertRaises(PlanError) as refused:
                walled(alcove(), **walls)
            self.assertEqual(refused.exception.problems[0].path, path)

    def test_parts_are_added_in_common_sizes_and_assumed(self) -> None:
        for length, board in (("mm", 12), ("in", 12.7)):
            plan = plan_from(alcove() | {"display": {"length": length}})
            plan = add(plan, "wall layers")
            self.assertEqual(plan.walls.rest[0].thickness, board)
            self.assertIn("/walls/shower/0/thickness", plan.assumed)
            for what in ("niche", "valve", "stud face", "shower wall layer", "other wall layer"):
                plan = add(plan, what)
            self.assertEqual((len(plan.walls.niches), len(plan.walls.faces)), (1, 1))
            self.assertEqual((len(plan.walls.shower), len(plan.walls.rest)), (5, 2))
            with self.assertRaises(PlanError):
                add(plan, "niche", 9)


def _placed(plan: Plan) -> list[Any]:
    """Where walls, shower, fixtures and doors are."""
    return [
        plan.room.outline,
        plan.shower.outline,
        [fixture.centre for fixture in plan.room.fixtures],
        [(door.offset, door.width) for door in plan.room.doors],
    ]


def _line(a: Any, b: Any) -> Any:
    """The line through two places as (a, b, c) with a² + b² = 1."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    long = hypot(dx, dy)
    return np.array([-dy / long, dx / long, (dy * a[0] - dx * a[1]) / long])


def _room(chance: random.Random) -> list[tuple[float, float]]:
    """Corners of a rectangle or an L, a little out of square, turned, either way round."""
    wide, deep = chance.uniform(1800, 4000), chance.uniform(1800, 4000)
    corners = [(0.0, 0.0), (wide, 0.0), (wide, deep), (0.0, deep)]
    if chance.random() < 0.5:
        x, y = wide * chance.uniform(0.3, 0.7), deep * chance.uniform(0.3, 0.7)
        corners = [(0.0, 0.0), (wide, 0.0), (wide, y), (x, y), (x, deep), (0.0, deep)]
    off = [(x + chance.uniform(-20, 20), y + chance.uniform(-20, 20)) for x, y in corners]
    turn = chance.uniform(0, 6.3)
    c, s = np.cos(turn), np.sin(turn)
    turned = [(float(x * c - y * s), float(x * s + y * c)) for x, y in off]
    return turned if chance.random() < 0.5 else turned[::-1]


class OrderTest(unittest.TestCase):
    def line(self, plan: Plan, item: str) -> Any:
        order = answered(plan, parts=("order",)).order
        assert order is not None
        return next((line for line in order.lines if line.item == item), None)

    def test_boards_screws_and_timber_are_bought_as_they_are_counted(self) -> None:
        """Three walls of 950, 925 and 925 in courses of 1200 and 900 out of boards of 2400 × 1200,
        by hand: two of a course fill one board's length (950 + 925 and a saw cut), so two boards
        hold one course's three pieces, and the two courses four."""
        doc = with_fixture(
            alcove(), "bar", centre=[20, 1500], width=600, length=40, turn=-90, height=850
        )
        plan = walled(doc)
        board = self.line(plan, "wall_board")
        self.assertEqual((board.packs, board.buy_text), (4, "4 × board, 2400 mm × 1200 mm"))
        screws = sum(len(view.fasteners) for view in result(plan).views)
        self.assertEqual(self.line(plan, "wall_screws").needed, screws)
        timber = sum(piece.box.x.size for one in frames(plan) for piece in one.backing)
        self.assertAlmostEqual(self.line(plan, "backing").needed, timber / 1e3, places=6)
        # Of 1250 × 950: a board for each piece of two courses, and the last 200 of all out of one.
        own = walled(alcove(), board_length=1250, board_width=950)
        self.assertEqual(self.line(own, "wall_board").buy_text, "7 × board, 1250 mm × 950 mm")

    def test_nothing_is_bought_for_walls_of_which_nothing_is_said(self) -> None:
        for item in ("wall_board", "wall_screws", "backing"):
            self.assertIsNone(self.line(plan_from(alcove()), item))
            self.assertIsNone(self.line(walled(alcove(), shower=[], rest=[]), item))
