"""Benches without legs and half walls: they take their place out of floor, falls and tray, and are
framed, sealed and tiled with the shower. Held against rectangles taken apart by hand."""

import random
import unittest
from itertools import product
from typing import Any

import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Finding
from calm_basin.core.membrane.result import MembraneResult
from calm_basin.core.solution import Solution
from calm_basin.core.walls.blocks import back_height, block_frames
from calm_basin.core.walls.boards import wall_boards, wall_fasteners
from calm_basin.plan import Plan, plan_from
from calm_basin.plan.backs import footprint
from calm_basin.plan.blocks import blocks, compartment, standing_faces
from calm_basin.plan.edits import add
from calm_basin.plan.framing import framed, shower_stretches
from tests.core.test_walls import STACK
from tests.plans import Document, document, figures, moved, offering, point
from tests.sweeps import some

INCH = 25.4


def with_block(doc: Document, kind: str, box: tuple[float, float, float, float], turn: float = 0):
    """A bench or half wall over a box (left, low, right, high); its front looks along ``turn``."""
    left, low, right, high = box
    across, deep = (right - left, high - low) if turn % 180 == 0 else (high - low, right - left)
    fixture = {
        "name": kind,
        "kind": kind,
        "centre": [(left + right) / 2, (low + high) / 2],
        "width": across,
        "length": deep,
        "turn": turn,
        "height": 460 if kind == "bench" else 1100,
    }
    doc["version"] = 6
    doc["room"]["fixtures"] = [*doc["room"].get("fixtures", []), fixture]
    return doc


def bathroom(wide: float, deep: float, drain: tuple[float, float]) -> Document:
    """A shower so wide and deep in the back left corner of a room that is larger."""
    doc = document(
        outline=[[0, 0], [wide, 0], [wide, deep], [0, deep]],
        entries=[0],
        drain=point(*drain),
        fall={"asked": 1 / 48, "edge": "even"},
    )
    doc["floor"] = {"kind": "slab", "thickness": 150}
    doc["room"] = doc["room"] | {
        "outline": [[0, -900], [wide + 1000, -900], [wide + 1000, deep], [0, deep]],
        "doors": [],
    }
    return doc


def finding(solution: Solution, code: str) -> Finding | None:
    return next((one for one in solution.findings if one.code == code), None)


def mended(plan: Plan, code: str) -> tuple[Plan, Solution]:
    """The plan with the first cure of a finding made, and its answer."""
    found = finding(offering(plan), code)
    assert found is not None, code
    plan = changed(plan, found.cures[0].changes)
    return plan, offering(plan)


class TakenOutTest(unittest.TestCase):
    def test_a_bench_in_a_corner_by_hand(self) -> None:
        """1500 × 900 with a bench of 900 × 380 along its back wall from the left: the floor is what
        is left, an L of six corners, entered where it was; the falls are worked out on it."""
        doc = with_block(bathroom(1500, 900, (1000, 250)), "bench", (0, 520, 900, 900), 180)
        told = offering(plan_from(doc))
        found = finding(told, "block_on_falls")
        assert found is not None
        self.assertEqual(found.severity, "stop")
        plan, told = mended(plan_from(doc), "block_on_falls")
        wanted = Polygon([(0, 0), (1500, 0), (1500, 900), (900, 900), (900, 520), (0, 520)])
        self.assertTrue(Polygon(plan.shower.outline).equals(wanted))
        self.assertEqual(len(plan.shower.entries), 1)
        self.assertTrue(told.complete)
        self.assertIsNone(finding(told, "block_on_falls"))

    def test_along_a_whole_wall_the_floor_stays_a_rectangle(self) -> None:
        doc = with_block(bathroom(1500, 900, (1000, 450)), "bench", (0, 0, 400, 900), -90)
        plan, told = mended(plan_from(doc), "block_on_falls")
        self.assertEqual(Polygon(plan.shower.outline).bounds, (400, 0, 1500, 900))
        self.assertEqual(len(plan.shower.outline), 4)
        self.assertNotIn("block", str([one.code for one in told.findings]))

    def test_random_showers_lose_what_the_bench_takes(self) -> None:
        """Any size in mm or inches, either way round, turned: the floor that is left is shower less
        bench, the compartment is the shower as it was, and the entry lies where it lay."""
        chance, cured = random.Random(7), 0
        for _ in range(some(40)):
            unit = chance.choice([1.0, INCH])
            wide, deep = (
                round(chance.uniform(*r) / unit) * unit for r in ((1300, 2000), (900, 1400))
            )
            long, out = (round(chance.uniform(*r) / unit) * unit for r in ((400, 900), (300, 420)))
            full = chance.random() < 0.3
            doc = bathroom(wide, deep, (wide * 0.75, deep * 0.4))
            doc["display"] = {"length": "mm" if unit == 1 else "in"}
            along_left = chance.random() < 0.5
            if along_left:
                box = (0.0, 0.0 if full else deep - min(long, deep), out, deep)
            else:
                box = (0.0, deep - out, wide if full else min(long, wide - 300), deep)
            doc = with_block(doc, "bench", box, -90 if along_left else 180)
            if chance.random() < 0.5:
                doc["shower"]["outline"] = doc["shower"]["outline"][::-1]
                doc["shower"]["entries"] = [2]
            turned = {"turn": chance.uniform(-180, 180), "mirror": chance.random() < 0.5}
            plan = plan_from(moved(doc, **turned))
            found = finding(offering(plan), "block_on_falls")
            assert found is not None
            if not found.cures:
                continue
            cured += 1
            whole, bench = Polygon(plan.shower.outline), footprint(plan.room.fixtures[0])
            now = changed(plan, found.cures[0].changes)
            floor = Polygon(now.shower.outline)
            self.assertLess(floor.symmetric_difference(whole.difference(bench)).area, 1)
            self.assertLess(Polygon(compartment(now)).symmetric_difference(whole).area, 1)
            self.assertEqual(
                shapely.LinearRing(now.shower.outline).is_ccw,
                shapely.LinearRing(plan.shower.outline).is_ccw,
            )
            entry, before = _entry(now), _entry(plan)
            self.assertLess(entry.difference(before.buffer(0.01)).length, 0.01)
            clear = before.difference(bench.buffer(0.01))
            self.assertAlmostEqual(entry.length, clear.length, delta=0.1)
            self.assertIsNone(finding(offering(now), "block_on_falls"))
            self.assertEqual(_walls_of(now), _walls_of(plan))
        self.assertGreaterEqual(cured, some(40) // 2 - 1)

    def test_a_bench_a_little_off_the_floor(self) -> None:
        """380 deep where 400 was cut: the gap of 20 is told, and the floor led up to it."""
        doc = bathroom(1500, 900, (1000, 450))
        doc["shower"]["outline"] = [[400, 0], [1500, 0], [1500, 900], [400, 900]]
        doc = with_block(doc, "bench", (0, 0, 380, 900), -90)
        for turn in (0.0, 37.3, -141.0):
            plan = plan_from(moved(doc, turn=turn, mirror=turn < 0))
            found = finding(offering(plan), "gap_at_block")
            assert found is not None and found.measured is not None
            self.assertAlmostEqual(found.measured, 20, delta=0.01)
            now = changed(plan, found.cures[0].changes)
            self.assertAlmostEqual(Polygon(now.shower.outline).area, 1120 * 900, delta=5)
            self.assertEqual(len(now.shower.outline), 4)
            self.assertIsNone(finding(offering(now), "gap_at_block"))

    def test_over_the_drain_another_drain_is_offered(self) -> None:
        doc = with_block(bathroom(1500, 900, (400, 450)), "bench", (0, 0, 400, 900), -90)
        found = finding(offering(plan_from(doc)), "block_on_falls")
        assert found is not None
        self.assertEqual(found.title, "The bench stands on the drain")
        self.assertEqual(
            [cure.text for cure in found.cures],
            ["Cut the shower floor round the bench. Turn to a channel along the back wall"],
        )

    def test_a_seat_on_legs_leaves_the_floor(self) -> None:
        doc = with_block(bathroom(1500, 900, (1000, 450)), "bench", (0, 0, 400, 900), -90)
        doc["room"]["fixtures"][0]["kind"] = "seat"
        told = offering(plan_from(doc))
        self.assertIsNone(finding(told, "block_on_falls"))
        self.assertEqual(blocks(plan_from(doc)), ())

    def test_added_it_stands_at_a_wall_off_the_drain(self) -> None:
        for kind, way in product(("bench", "half wall"), (0.0, 37.3, -142.7)):
            doc = moved(bathroom(1500, 900, (1000, 250)), turn=way, mirror=way < 0)
            plan = add(plan_from(doc), kind)
            # An angle that somebody can read in its field.
            turn = plan.room.fixtures[0].turn
            self.assertEqual(turn, round(turn, 4))
            (block,) = blocks(plan)
            self.assertGreater(block.at_walls, 100)
            drain = plan.shower.drain
            assert drain.kind == "point"
            self.assertFalse(block.shape.contains(shapely.Point(drain.centre)))


class HalfWallTest(unittest.TestCase):
    def test_the_entry_ends_at_it(self) -> None:
        """600 of half wall before an entry of 1500: 900 stay open, whichever way it is turned."""
        doc = with_block(bathroom(1500, 900, (750, 450)), "half wall", (0, -120, 600, 0))
        for turn in (0.0, 23.4, 180.0):
            plan = plan_from(moved(doc, turn=turn, mirror=turn > 100))
            found = finding(offering(plan), "block_in_entry")
            assert found is not None and found.measured is not None
            self.assertAlmostEqual(found.measured, 600, delta=0.01)
            now, told = mended(plan, "block_in_entry")
            self.assertAlmostEqual(_entry(now).length, 900, delta=0.01)
            self.assertIsNone(finding(told, "block_in_entry"))
            self.assertTrue(
                Polygon(now.shower.outline).equals_exact(Polygon(now.shower.outline), 1)
            )
            self.assertAlmostEqual(Polygon(now.shower.outline).area, 1500 * 900, delta=1)

    def test_one_in_the_middle_parts_the_entry(self) -> None:
        doc = with_block(bathroom(1500, 900, (750, 450)), "half wall", (500, -120, 900, 0))
        now, _ = mended(plan_from(doc), "block_in_entry")
        lengths = sorted(LineString(edge).length for edge in _entries(now))
        self.assertEqual(lengths, [500, 600])

    def test_before_the_whole_entry_there_is_no_way_in(self) -> None:
        doc = with_block(bathroom(1500, 900, (750, 450)), "half wall", (0, -120, 1500, 0))
        found = finding(offering(plan_from(doc)), "block_in_entry")
        assert found is not None
        self.assertEqual(found.cures, ())

    def test_of_no_height_it_asks_for_one(self) -> None:
        doc = with_block(bathroom(1500, 900, (750, 450)), "half wall", (0, -120, 600, 0))
        doc["room"]["fixtures"][0]["height"] = 0
        plan, told = mended(plan_from(doc), "block_without_height")
        self.assertEqual(plan.room.fixtures[0].height, 1100)
        self.assertIsNone(finding(told, "block_without_height"))
        self.assertEqual(block_frames(plan_from(doc)), ())


class SixtyByThirtySixTest(unittest.TestCase):
    """A shower of 60 × 36 in between three walls, a half wall 24 in long, 4 3/4 in thick and 42 in
    high before the left of its entry, studs at 16 in, boards of 96 × 48 in. Counted by hand."""

    def setUp(self) -> None:
        doc = bathroom(60 * INCH, 36 * INCH, (30 * INCH, 18 * INCH))
        doc["display"] = {"length": "in"}
        wide = 60 * INCH
        doc["room"]["outline"] = [[0, -900], [wide, -900], [wide, 36 * INCH], [0, 36 * INCH]]
        doc = with_block(doc, "half wall", (0, -4.75 * INCH, 24 * INCH, 0))
        doc["room"]["fixtures"][0]["height"] = 42 * INCH
        told = plan_from(doc).model_dump(mode="json")
        told["walls"] = {"shower": [STACK[-1] | {"thickness": 12.7}], "rest": []}
        told["membrane"] |= {"walls": 84 * INCH, "extent": "shower"}
        told["days"] |= {"membrane": "sheet"}
        told["shower"]["entries"] = [0]
        self.plan, _ = mended(plan_from(told), "block_in_entry")

    def result(self) -> MembraneResult:
        found = offering(self.plan, parts=("membrane",)).membrane
        assert found is not None
        return found

    def test_its_faces(self) -> None:
        """One end at the wall; shower side, room side and the other end can be seen, with one edge
        at the wall on each side and two that stand out."""
        (block,) = blocks(self.plan)
        beside = sorted(face.beside for face in block.faces)
        self.assertEqual(beside, ["room", "room", "shower", "wall"])
        self.assertEqual((block.free_edges, block.edges_at_walls), (2, 2))
        self.assertAlmostEqual(block.at_walls, 4.75 * INCH, 6)

    def test_boards_and_fasteners(self) -> None:
        """Of each side 23 1/2 in are framed (1/2 in of board stands before its end), studs at 3/4,
        16 and 22 3/4 in; of the end 3 3/4 in with two. Each face is one board, the top another.
        Washers at 12, 24 and 36 in up each stud, staggered 18, 30 and 42 in corners: 3 × 3 on each
        side, 2 × 3 on the end, none through the top."""
        frames = {one.wall: one for one in block_frames(self.plan)}
        lengths = sorted(round(one.length / INCH, 3) for one in frames.values())
        self.assertEqual(lengths, [3.75, 23.5, 23.5, 24])
        boards = [wall_boards(self.plan, one) for one in frames.values()]
        self.assertEqual([len(of_face) for of_face in boards], [1, 1, 1, 1])
        area = sum(box.x.size * box.y.size for (box,) in boards) / INCH**2
        self.assertAlmostEqual(area, 2 * 23.5 * 42 + 3.75 * 42 + 24 * 4.75, 3)
        sides = [one for one in frames.values() if round(one.length / INCH, 1) == 23.5]
        for one in sides:
            self.assertEqual([round(x / INCH, 2) for x in one.middles], [0.75, 16, 22.75])
        held = [len(wall_fasteners(self.plan, one)[0]) for one in frames.values()]
        self.assertEqual(sum(held), 9 + 9 + 6)
        self.assertEqual(held[-1], 0)

    def test_bands_and_corners(self) -> None:
        """Floor: three walls of 60, 36 and 36; the foot along 24 of the shower; the joint of 36.
        Up: two corners of the walls; of the half wall two edges that stand out and two at the wall;
        round its top 24 + 24 + 4 3/4, at the wall 4 3/4. 2 in of lap (50 mm) at each end, one where
        it goes round or ends free."""
        lap = 50
        found = self.result()
        bands = sorted(round(one.length) for one in found.pieces if one.kind == "band")
        wanted = [(60 * INCH, 2), (36 * INCH, 2), (36 * INCH, 2), (24 * INCH, 2), (36 * INCH, 2)]
        self.assertEqual(bands, sorted(round(long + ends * lap) for long, ends in wanted))
        built = sorted(round(one.length) for one in found.pieces if one.kind == "bench")
        up, round_top = 42 * INCH + lap, 52.75 * INCH + lap
        wanted_up = [up, up, up, up, round_top, 4.75 * INCH + 2 * lap]
        self.assertEqual(built, sorted(round(one) for one in wanted_up))
        corners = [one.kind for one in found.pieces if "corner" in one.kind]
        self.assertEqual(corners.count("inside corner"), 2 + 2)
        self.assertEqual(corners.count("outside corner"), 4)

    def test_areas(self) -> None:
        """132 in of wall by 84, and of the half wall its shower side, its end and its top."""
        found = self.result()
        walls = next(one for one in found.figures if one.label == "Walls sealed")
        built = 24 * 42 + 4.75 * 42 + 24 * 4.75
        assert walls.value is not None
        self.assertAlmostEqual(walls.value / INCH**2, 132 * 84 + built, 1)


class BenchTest(unittest.TestCase):
    """A bench of 400 × 900 at the left wall of 1500 × 900 between left and back wall."""

    def plan(self, **more: Any) -> Plan:
        doc = with_block(bathroom(1500, 900, (1000, 450)), "bench", (0, 0, 400, 900), -90)
        told = plan_from(doc).model_dump(mode="json")
        told["walls"] = {"shower": STACK, "rest": []}
        told["membrane"] |= {"walls": 2000, "extent": "shower"}
        told |= more
        return mended(plan_from(told), "block_on_falls")[0]

    def test_the_wall_behind_it_stays_a_wall_of_the_shower(self) -> None:
        plan = self.plan()
        self.assertEqual(
            {(one.wall, one.start, one.end) for one in shower_stretches(plan)},
            {(2, 1000, 2500), (3, 0, 900)},
        )

    def test_the_tray_goes_to_its_studs(self) -> None:
        """25 mm of boards and tile before the studs at the bench and at the back wall, none at the
        open sides."""
        self.assertEqual(Polygon(framed(self.plan()).outline).bounds, (375, 0, 1500, 925))

    def test_it_is_boarded_sealed_and_tiled(self) -> None:
        """Its left end is at the back wall, its right end looks into the room: front 900 × 460, end
        400 × 460, top 900 × 400, whose back is 1/48 of 400 higher. Two upright edges at walls, one
        that stands out; the corner of the walls above it, 1540 high."""
        plan = self.plan()
        (block,) = blocks(plan)
        self.assertEqual((block.free_edges, block.edges_at_walls), (1, 2))
        self.assertAlmostEqual(back_height(block), 460 + 400 / 48)
        told = plan.model_dump(mode="json")
        told["tiling"] |= {"wall": {"length": 300, "width": 200, "joint": 3}}
        told = plan_from(told)
        solution = offering(told, parts=("membrane", "tile", "walls"))
        assert solution.membrane and solution.tile and solution.tile.walls and solution.walls
        pieces = {one.name: round(one.length) for one in solution.membrane.pieces}
        self.assertEqual(pieces["bench, corner 4 above it"], 1540 + 50)
        self.assertEqual(pieces["bench, round its top"], 1300 + 50)
        self.assertEqual(pieces["bench, top at the walls"], 1300 + 100)
        self.assertEqual(pieces["bench, foot"], 900 + 100)
        tiled = solution.tile.walls.tiled
        assert tiled is not None
        walls = (1500 - 3) * (2000 - 3) - (400) * (back_height(block) + 3 - 3)
        side = (900 - 3) * (2000 - back_height(block) - 3)
        built = (900 - 3) * 457 + 400 * 457 + (900 - 3) * (400 - 3)
        high = solution.tile.walls.height
        self.assertEqual(high, 2000)
        self.assertAlmostEqual(tiled.area, walls + 3 * 400 + side - 0 + built, delta=4000)
        rows = {row.name: row.text for row in solution.walls.built[0].rows}
        self.assertEqual(rows["front edge of its top"], "460 mm")
        self.assertEqual(rows["back edge of its top"], "468.3 mm")

    def test_the_section_shows_it_and_no_floor_under_it(self) -> None:
        """Cut across floor and bench: the room's layers end at it, the slab goes on under it."""
        section = offering(self.plan(), cut=((10, 450), (2400, 450))).section
        assert section is not None
        (bench,) = [band for band in section.bands if band.name == "bench"]
        self.assertEqual(sorted({x for x, _ in bench.outline}), [0, 400])
        self.assertEqual(bench.text, "460 high")
        layers = [band for band in section.bands if band.name == "board"]
        self.assertGreaterEqual(min(x for band in layers for x, _ in band.outline), 1500)
        slab = [band for band in section.bands if band.kind == "slab"]
        self.assertEqual(min(x for band in slab for x, _ in band.outline), 0)

    def test_a_channel_that_ends_at_it_ends_at_tile(self) -> None:
        """A channel along the front of a bench counts the wall that the bench is."""
        plan = self.plan()
        self.assertAlmostEqual(standing_faces(plan).distance(shapely.Point(400, 450)), 0)

    def test_two_of_one_name_have_their_own_pieces(self) -> None:
        """What is ticked goes by its name: no two pieces of membrane share one."""
        doc = with_block(bathroom(2000, 900, (1000, 450)), "bench", (0, 0, 400, 900), -90)
        doc = with_block(doc, "bench", (1600, 0, 2000, 900), 90)
        plan = plan_from(doc)
        for _ in range(2):
            plan, _ = mended(plan, "block_on_falls")
        self.assertEqual([block.name for block in blocks(plan)], ["bench 1", "bench 2"])
        found = offering(plan, parts=("membrane", "walls"))
        assert found.membrane and found.walls
        for names in (
            [piece.name for piece in found.membrane.pieces],
            [wall.name for wall in found.membrane.walls],
            [view.name for view in found.walls.views],
        ):
            self.assertEqual(len(names), len(set(names)))

    def test_turned_it_is_the_same(self) -> None:
        doc = with_block(bathroom(1500, 900, (1000, 450)), "bench", (0, 0, 400, 900), -90)
        plain = figures(mended(plan_from(doc), "block_on_falls")[1])
        for turn, mirror in ((90.0, False), (33.3, True), (-120.0, False)):
            other = plan_from(moved(doc, turn=turn, mirror=mirror))
            again = figures(mended(other, "block_on_falls")[1])
            for name, value in plain.items():
                if value is not None and again[name] is not None:
                    self.assertAlmostEqual(value, again[name] or 0, delta=0.05, msg=name)


def _entries(plan: Plan) -> list[list[tuple[float, float]]]:
    outline = plan.shower.outline
    return [[outline[i], outline[(i + 1) % len(outline)]] for i in plan.shower.entries]


def _entry(plan: Plan) -> shapely.Geometry:
    return shapely.union_all([LineString(edge) for edge in _entries(plan)])


def _walls_of(plan: Plan) -> list[tuple[int, int, int]]:
    return [(one.wall, round(one.start), round(one.end)) for one in shower_stretches(plan)]
