"""Setting out: each mark is found again from its measures, a slip shows, ticks hold or are told."""

import csv
import io
import math
import random
import unittest
from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.taping import BLIND, Taped, Walls
from calm_basin.core.setting_out.result import Mark, MarksResult
from calm_basin.demo import demo_plans
from calm_basin.formats.marks_csv import write_marks
from calm_basin.plan import PlanError, plan_from
from calm_basin.tolerances import SAME_HEIGHT, SAME_MARK
from tests.core.test_structure import under
from tests.plans import Document, answered, channel, document, moved, point, wet_room
from tests.sweeps import each, some


def marked_out(doc: Document, *marked: dict[str, Any]) -> MarksResult:
    setting_out = doc.get("setting_out", {}) | {"marked": list(marked)}
    doc = doc | {"version": 11, "setting_out": setting_out}
    result = answered(plan_from(doc), parts=("marks",)).marks
    assert result is not None
    return result


def all_marks(result: MarksResult) -> list[Mark]:
    return [mark for group in result.groups for mark in group.marks]


def named(result: MarksResult, name: str) -> Mark:
    return next(mark for mark in all_marks(result) if mark.name == name)


def room(chance: random.Random) -> list[tuple[float, float]]:
    """A room with straight, slanting and inner corners, turned by any angle, either way round."""
    count = chance.randint(3, 9)
    turns = sorted(chance.uniform(0, 2 * math.pi) for _ in range(count))
    corners = [
        (chance.uniform(900, 2500) * math.cos(t), chance.uniform(900, 2500) * math.sin(t))
        for t in turns
    ]
    if chance.random() < 0.5:
        corners = [(0, 0), (2600, 0), (2600, 1200), (1100, 1200), (1100, 2400), (0, 2400)]
        turn = chance.uniform(0, 7)
        cos, sin = math.cos(turn), math.sin(turn)
        corners = [(x * cos - y * sin, x * sin + y * cos) for x, y in corners]
    return corners if chance.random() < 0.5 else corners[::-1]


def rooms(count: int) -> list[tuple[list[tuple[float, float]], Polygon, np.ndarray]]:
    """Rooms with places in them, some on the walls and some in the corners."""
    chance, found = random.Random(23), []
    while len(found) < count:
        outline = room(chance)
        shape = Polygon(outline)
        if not shape.is_valid or shape.area < 8e5:
            continue
        left, bottom, right, top = shape.bounds
        tried = [(chance.uniform(left, right), chance.uniform(bottom, top)) for _ in range(60)]
        inside = [at for at in tried if shape.contains(Point(at))]
        on_walls = [
            shape.exterior.interpolate(chance.random(), normalized=True).coords[0] for _ in "abcd"
        ]
        found.append((outline, shape, np.array([*inside, *on_walls, outline[0]])))
    return found


def found_again(outline: list[tuple[float, float]], shape: Polygon, how: Taped) -> list[Point]:
    """Every place in a room that fits the two measures of one: by lines and circles, with shapely,
    apart from how they were taken."""
    loci = []
    count = len(outline)
    for measure in (how.first, how.second):
        wall = LineString([outline[measure.wall], outline[(measure.wall + 1) % count]])
        if measure.kind == "from":
            # Parallels to the wall on both sides; what is not in the room is no answer.
            off = measure.value or 1e-9
            beside = [wall.parallel_offset(off, side) for side in ("left", "right")]
            loci.append(shapely.union_all(beside))
        elif measure.kind == "straight":
            loci.append(Point(outline[measure.corner]).buffer(measure.value, 4096).exterior)
        else:
            ahead = measure.corner == measure.wall
            foot = wall.interpolate(measure.value if ahead else wall.length - measure.value)
            (x0, y0), (x1, y1) = wall.coords
            ux, uy = (x1 - x0) / wall.length, (y1 - y0) / wall.length
            far = 6000
            loci.append(
                LineString(
                    [
                        (foot.x - uy * far, foot.y + ux * far),
                        (foot.x + uy * far, foot.y - ux * far),
                    ]
                )
            )
    near = loci[0].buffer(0.05).intersection(loci[1].buffer(0.05)).intersection(shape.buffer(0.6))
    return [part.centroid for part in shapely.get_parts(near)]


class TapingTest(unittest.TestCase):
    def test_each_place_is_found_again_from_its_measures(self) -> None:
        kinds = set()
        for outline, shape, places in each(rooms(some(60))):
            walls = Walls(tuple(outline))
            for place, how in each(list(zip(places, walls.taped(places), strict=True))):
                kinds.add((how.first.kind, how.second.kind, how.on_wall))
                again = found_again(outline, shape, how)
                near = min(math.dist((p.x, p.y), place) for p in again)
                self.assertLess(near, 1.5, (outline, tuple(place), how))
        self.assertLessEqual({("from", "from", False), ("from", "along", True)}, kinds)

    def test_no_tape_runs_through_a_wall(self) -> None:
        """The foot of each square measure lies on its wall, and in sight."""
        for outline, shape, places in each(rooms(some(60))):
            walls = Walls(tuple(outline))
            for place, how in zip(places, walls.taped(places), strict=True):
                for measure in (how.first, how.second):
                    if measure.kind != "from":
                        continue
                    ends = (outline[measure.wall], outline[(measure.wall + 1) % len(outline)])
                    wall = LineString(ends)
                    self.assertAlmostEqual(wall.distance(Point(place)), measure.value, delta=0.6)
                    foot = wall.interpolate(wall.project(Point(place)))
                    self.assertTrue(shape.buffer(0.6).covers(LineString([foot, place])))

    def test_the_check_measure_shows_a_slip_in_either_measure(self) -> None:
        """A place is marked with one measure 10 mm too long: the check is off by what it says."""
        shown = []
        for outline, _, places in each(rooms(some(40))):
            walls = Walls(tuple(outline))
            taped = walls.taped(places)
            others = np.vstack([walls.corners, places])
            checks = walls.checks(places, taped, np.ones(len(places), dtype=bool))
            for place, how, check in zip(places, taped, checks, strict=True):
                if check is None:
                    continue
                self.assertAlmostEqual(math.dist(place, others[check.other]), check.value)
                slips = ((0, 10),) if how.on_wall else ((10, 0), (0, 10))
                for slip in slips:
                    wrong = place + np.linalg.solve(how.ways, np.array(slip) / 1000)
                    off = abs(math.dist(wrong, others[check.other]) - check.value) * 1000
                    self.assertGreater(off, 10 * check.sees - 0.1)
                shown.append(check.sees)
        self.assertGreater(min(shown), BLIND - 1e-9)
        self.assertGreater(sum(s >= 0.4 for s in shown), 0.9 * len(shown))

    def test_no_place_is_checked_by_what_it_was_taped_from(self) -> None:
        walls = Walls(((0, 0), (3000, 0), (3000, 2000), (0, 2000)))
        places = np.array([[0.0, 0], [500, 0], [600, 400]])
        corner, on_wall, inside = walls.checks(places, walls.taped(places), np.ones(3, dtype=bool))
        self.assertIsNone(corner)
        assert on_wall is not None and inside is not None
        self.assertNotEqual(on_wall.other, 0)
        # By hand: √(600² + 400²) to the corner behind.
        self.assertEqual((inside.other, round(inside.value, 1)), (0, 721.1))


def large() -> Document:
    """The usual shower over joists in a larger room."""
    doc = under(document())
    doc["room"]["outline"] = [[0, -1500], [3600, -1500], [3600, 1800], [0, 1800]]
    return doc


class ListTest(unittest.TestCase):
    def test_the_order_of_work(self) -> None:
        result = marked_out(large())
        self.assertEqual(
            [group.kind for group in result.groups],
            [
                "level line",
                "drain",
                "centre line",
                "entry",
                "edge",
                "saw line",
                "cleat",
                "membrane",
                "pin",
            ],
        )
        self.assertEqual((result.left, result.total), (len(all_marks(result)),) * 2)

    def test_a_room_by_hand(self) -> None:
        """A shower 1500 × 900 in the back left corner of a room 2400 × 1800, its drain in the
        middle; deck 18 mm. Wall 1 is at the front, wall 4 at the left."""
        result = marked_out(under(document(drain=point(700, 1300))))
        drain = named(result, "drain")
        self.assertEqual(drain.places[0].from_text, "500 from wall 3, 700 from wall 4")
        # 500 and 700: √(500² + 700²) = 860.2 to the corner behind, at 36°.
        self.assertEqual(drain.places[0].check_text, "860.2 to corner 4")
        entry = named(result, "entry")
        self.assertEqual(
            {place.from_text for place in entry.places},
            {"on wall 4, 900 from corner 4", "900 from wall 1, 900 from wall 2"},
        )
        lines = {p.from_text for n in (1, 2) for p in named(result, f"drain, line {n}").places}
        self.assertEqual(
            lines,
            {
                "on wall 4, 500 from corner 4",
                "on wall 2, 500 from corner 3",
                "on wall 1, 700 from corner 1",
                "on wall 3, 700 from corner 4",
            },
        )

    def test_the_membrane_ends_where_the_order_ends_it(self) -> None:
        """By hand: a shower to x = 1500 and down to y = 900, and 900 mm beyond (docs/rules.md)."""
        result = marked_out(large())
        lines = [mark for mark in all_marks(result) if mark.kind == "membrane"]
        ends = {tuple(round(v, 1) for v in p.at) for mark in lines for p in mark.places}
        self.assertEqual(ends, {(2400.0, 1800.0), (2400.0, 0.0), (0.0, 0.0)})

    def test_heights_are_read_from_one_line(self) -> None:
        for plan in demo_plans():
            result = answered(plan, parts=("marks",)).marks
            assert result is not None
            high, words = plan.setting_out.staff_on_high_spot, Words.of(plan)
            line = named(result, "level line")
            self.assertEqual(line.marked.height, high)
            pins = {f"pin {pin.number}": pin for pin in result.pins.pins}
            for mark in all_marks(result):
                if mark.level is not None:
                    self.assertEqual(mark.staff_text, words.bare(high - mark.level))
                if mark.kind == "pin":
                    self.assertEqual(mark.level, pins[mark.name].top)
                    self.assertEqual(mark.cut_text, pins[mark.name].text)

    def test_a_turned_and_mirrored_room_is_taped_alike(self) -> None:
        for doc in (document(), wet_room(), document(drain=channel(20, 1760, 1480, 1760))):
            first = marked_out(doc)
            for other in (moved(doc, turn=37.3), moved(doc, dx=700, dy=-300, turn=-100)):
                second = marked_out(other)
                self.assertEqual(
                    [[p.from_text for p in m.places] for m in all_marks(first) if m.kind != "pin"],
                    [[p.from_text for p in m.places] for m in all_marks(second) if m.kind != "pin"],
                )


class TickedTest(unittest.TestCase):
    def ticked(self, doc: Document) -> tuple[MarksResult, list[dict[str, Any]]]:
        result = marked_out(doc)
        return result, [m.marked.model_dump(mode="json") for m in all_marks(result)]

    def test_what_was_marked_holds_and_is_counted(self) -> None:
        for doc in (document(), wet_room(), under(document())):
            _, marks = self.ticked(doc)
            again = marked_out(doc, *marks[::2])
            self.assertEqual(again.left, again.total - len(marks[::2]))
            self.assertEqual(again.stale, ())
            self.assertEqual(
                [bool(m.noted) for m in all_marks(again)][::2], [True] * len(marks[::2])
            )

    def test_a_moved_drain_is_told_and_what_stayed_holds(self) -> None:
        doc = document(drain=point(700, 1300))
        _, marks = self.ticked(doc)
        again = marked_out(document(drain=point(740, 1300)), *marks)
        self.assertFalse(named(again, "drain").noted)
        self.assertTrue(named(again, "entry").noted)
        stale = next(one for one in again.stale if one.noted.kind == "drain")
        self.assertEqual(stale.from_text, "500 from wall 3, 700 from wall 4")
        self.assertEqual(stale.said, "It has moved by 40 mm.")
        self.assertEqual(marks.index(stale.noted.model_dump(mode="json")), 1)

    def test_holds_within_what_a_pencil_marks_and_no_further(self) -> None:
        doc = document()
        for off, holds in ((0.9 * SAME_MARK, True), (1.1 * SAME_MARK, False)):
            _, marks = self.ticked(doc)
            entry = next(m for m in marks if m["kind"] == "entry")
            entry["places"] = [[x + off, y] for x, y in entry["places"]]
            self.assertEqual(bool(named(marked_out(doc, entry), "entry").noted), holds)
        for off, holds in ((0.9 * SAME_HEIGHT, True), (1.1 * SAME_HEIGHT, False)):
            _, marks = self.ticked(doc)
            pin = next(m for m in marks if m["kind"] == "pin")
            pin["height"] += off
            again = marked_out(doc, pin)
            self.assertEqual(sum(m.noted is not None for m in all_marks(again)), int(holds))
            self.assertEqual(len(again.stale), int(not holds))

    def test_a_pin_is_known_by_its_place_and_height_not_by_its_number(self) -> None:
        doc = document()
        _, marks = self.ticked(doc)
        pin = next(m for m in marks if m["name"] == "pin 5")
        again = marked_out(doc, pin | {"name": "pin 77"})
        self.assertTrue(named(again, "pin 5").noted)

    def test_a_line_marked_from_its_other_end_holds(self) -> None:
        doc = document()
        _, marks = self.ticked(doc)
        entry = next(m for m in marks if m["kind"] == "entry")
        again = marked_out(doc, entry | {"places": entry["places"][::-1]})
        self.assertTrue(named(again, "entry").noted)

    def test_a_mark_made_twice_counts_once(self) -> None:
        doc = document()
        _, marks = self.ticked(doc)
        again = marked_out(doc, marks[1], marks[1])
        self.assertEqual(again.left, again.total - 1)
        self.assertEqual(len(again.stale), 1)

    def test_hostile_marks_are_refused_with_the_field(self) -> None:
        for field, value in (("kind", "spell"), ("places", [[1e9, 0]]), ("name", "")):
            mark = {"kind": "drain", "name": "drain", "places": [[0, 0]]} | {field: value}
            with self.assertRaises(PlanError) as refused:
                marked_out(document(), mark)
            self.assertIn(f"/setting_out/marked/0/{field}", refused.exception.problems[0].path)


class FilesTest(unittest.TestCase):
    def test_the_table_says_what_the_screen_says(self) -> None:
        for plan in demo_plans():
            result = answered(plan, parts=("marks",)).marks
            assert result is not None
            rows = list(csv.DictReader(io.StringIO(write_marks(result))))
            told = [
                (group.title, mark.name, mark.text, place.from_text, place.check_text)
                for group in result.groups
                for mark in group.marks
                for place in mark.places
            ]
            read = [(r["group"], r["mark"], r["what"], r["where"], r["check"]) for r in rows]
            self.assertEqual([row for row in read if row[3] != "round the walls"], told)

    def test_a_name_that_a_spreadsheet_would_work_out_is_text(self) -> None:
        mark = {"kind": "drain", "name": "=1+1", "places": [[10, 10]]}
        rows = list(csv.reader(io.StringIO(write_marks(marked_out(document(), mark)))))
        self.assertEqual(rows[-1][:2], ["Holds no more", "'=1+1"])


if __name__ == "__main__":
    unittest.main()
