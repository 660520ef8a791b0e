"""The membrane: every piece counted by hand, ticks that hold for what was laid, Order the same."""

import random
import unittest
from collections import Counter
from typing import Any, ClassVar

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.membrane.pieces import bands
from calm_basin.core.membrane.result import MembraneResult
from calm_basin.core.membrane.sheets import laid
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.framing import shower_stretches
from tests.plans import (
    Document,
    answered,
    channel,
    document,
    layers,
    moved,
    offering,
    point,
    wet_room,
)
from tests.sweeps import some


def sealed(doc: Document, **membrane: Any) -> Plan:
    whole = plan_from(doc).model_dump(mode="json")
    whole["membrane"] = membrane
    return plan_from(whole)


def result(plan: Plan) -> MembraneResult:
    found = answered(plan, parts=("membrane",)).membrane
    assert found is not None
    return found


def counted(found: MembraneResult) -> dict[str, int]:
    return dict(Counter(piece.kind for piece in found.pieces))


def alcove() -> Document:
    """A shower of 900 × 900 between three walls, at the back of a room of 900 × 2000."""
    doc = document(outline=[[0, 1100], [900, 1100], [900, 2000], [0, 2000]], drain=point(450, 1550))
    doc["room"] |= {"outline": [[0, 0], [900, 0], [900, 2000], [0, 2000]], "doors": []}
    return doc


class CountTest(unittest.TestCase):
    def test_an_alcove_by_hand(self) -> None:
        """Three walls of 900 and the joint of 900, each with 50 at both ends; two corners at the
        floor and two uprights of 2000 + 50; a collar for the drain, two for valve and arm."""
        found = result(sealed(alcove(), extent="shower", walls=2000))
        self.assertEqual(
            counted(found), {"band": 4, "upright": 2, "inside corner": 2, "collar": 3, "sheet": 4}
        )
        lengths = sorted(round(p.length) for p in found.pieces if p.length and p.kind != "sheet")
        self.assertEqual(lengths, [1000] * 4 + [2050] * 2)
        self.assertEqual(found.said, "8.1 m of band in 6 pieces, 2 corners, 3 collars")
        area, walls = (one.value for one in found.figures[:2])
        self.assertAlmostEqual(area or 0, 900 * 900)
        self.assertAlmostEqual(walls or 0, 2700 * 2000, delta=1)

    def test_a_wet_room_by_hand(self) -> None:
        """A room of 1700 × 2400 sealed all over: four walls and, across the floor, the two open
        sides of the zone; four corners, one of them the shower's."""
        found = result(sealed(wet_room(), walls=2000))
        self.assertEqual(
            counted(found), {"band": 6, "upright": 1, "inside corner": 4, "collar": 3, "sheet": 4}
        )
        bands = [piece.length for piece in found.pieces if piece.kind == "band"]
        self.assertAlmostEqual(sum(bands), 2 * (1700 + 2400) + 2 * 900 + 6 * 100, delta=1)

    def test_how_far_it_goes_is_chosen(self) -> None:
        areas = [
            result(sealed(document(), extent=extent)).figures[0].value or 0
            for extent in ("shower", "near", "all")
        ]
        # 1500 × 900; 900 mm more to the right and to the front, as far as the room's walls.
        self.assertAlmostEqual(areas[0], 1500 * 900)
        self.assertAlmostEqual(areas[1], 2400 * 1800)
        self.assertAlmostEqual(areas[2], 2400 * 1800)

    def test_a_corner_that_stands_out(self) -> None:
        doc = document(
            outline=[[0, 0], [900, 0], [900, 900], [0, 900]], drain=point(450, 450), entries=[1]
        )
        ell = [[0, 0], [2400, 0], [2400, 1800], [1500, 1800], [1500, 900], [0, 900]]
        doc["room"] |= {"outline": ell, "doors": []}
        found = result(sealed(doc, extent="all"))
        self.assertEqual(counted(found)["outside corner"], 1)
        self.assertEqual(counted(found)["inside corner"], 5)

    def test_turned_mirrored_and_in_inches_it_is_the_same(self) -> None:
        first = None
        for turn, mirror, length in ((0, False, "mm"), (37.3, False, "in"), (217, True, "mm")):
            doc = moved(alcove(), turn=turn, mirror=mirror) | {"display": {"length": length}}
            found = result(sealed(doc, extent="shower", walls=2000))
            told = (counted(found), sorted(round(piece.length) for piece in found.pieces))
            first = first or told
            self.assertEqual(told, first)
        self.assertIn("ft of band", result(sealed(doc | {"display": {"length": "in"}})).said)

    def test_a_liquid_by_the_square_metre(self) -> None:
        """Common practice: 2 gal for 30 × 60 in and three walls 80 in high."""
        doc = document(
            outline=[[0, 0], [1524, 0], [1524, 762], [0, 762]], drain=point(762, 381), entries=[2]
        )
        doc["room"] |= {"outline": [[0, 0], [1524, 0], [1524, 2000], [0, 2000]], "doors": []}
        doc |= {"version": 11, "days": {"membrane": "liquid"}, "setting_out": {}}
        found = result(sealed(doc, extent="shower", walls=2032))
        amount, coat = (one.value for one in found.figures if one.unit == "litre")
        self.assertEqual(coat, (amount or 0) / 2)
        self.assertAlmostEqual((amount or 0) / 3.785, 2, delta=0.1)
        self.assertIn("Second coat", " ".join(found.notes))

    def test_a_channel_keeps_its_shower_side_open(self) -> None:
        notes = " ".join(result(sealed(document(drain=channel(0, 1765, 1500, 1765)))).notes)
        self.assertIn("Leave the shower side open", notes)


class WallTest(unittest.TestCase):
    """What goes up the walls, round niches and over fasteners."""

    def plan(self, **membrane: Any) -> Plan:
        told = sealed(alcove(), extent="shower", **membrane).model_dump(mode="json")
        told["walls"] = {
            "shower": layers(("tile", 8), ("board", 12)),
            "niches": [{"wall": 2, "offset": 300, "width": 300, "height": 400, "sill": 1000}],
        }
        return plan_from(told)

    def test_a_niche_by_hand(self) -> None:
        """Once round it at the back and once in front, 2 × (300 + 400) + 50 each; four corners
        inside and four outside (common practice, no source)."""
        found = result(self.plan(walls=2000))
        round_it = [piece.length for piece in found.pieces if piece.kind == "niche"]
        self.assertEqual(round_it, [1450, 1450])
        counts = counted(found)
        self.assertEqual((counts["inside corner"], counts["outside corner"]), (2 + 4, 4))
        # The membrane ends below it: it is not sealed.
        self.assertNotIn("niche", counted(result(self.plan(walls=900))))

    def test_every_fastener_takes_a_patch_up_to_the_membranes_top(self) -> None:
        """5 × 5 in over each head (common practice, no source)."""
        plan = self.plan(walls=2000)
        walls = answered(plan, parts=("walls",)).walls
        assert walls is not None
        below = sum(y < 2000 for view in walls.views for _, y in view.fasteners)
        self.assertGreater(below, 40)
        (patch,) = [piece for piece in result(plan).pieces if piece.kind == "patch"]
        self.assertEqual(patch.name, f"patches over fasteners, {below}")
        self.assertEqual(sum(len(wall.patches) for wall in result(plan).walls), below)
        for change in ({"fixing": "screws"}, {"shower": ()}):
            other = plan.walls.model_copy(update=change)
            bare = plan.model_copy(update={"walls": other})
            self.assertNotIn("patch", counted(result(bare)))

    def test_walls_are_unfolded_from_left_to_right(self) -> None:
        names = [wall.name for wall in result(self.plan(walls=2000)).walls]
        # Seen from the door: the left one, the back, the right one.
        self.assertEqual(names, ["wall 4", "wall 3", "wall 2"])
        self.assertEqual(result(self.plan()).walls, ())

    def test_order_buys_them(self) -> None:
        plan = self.plan(walls=2000)
        order = answered(plan, parts=("order",)).order
        assert order is not None
        lines = {line.item: line.needed for line in order.lines}
        found = result(plan)
        strips = sum(piece.length for piece in found.pieces if piece.kind not in ("patch", "sheet"))
        covered = sum(len(wall.patches) for wall in found.walls) * found.band_width
        self.assertAlmostEqual(lines["band"] * 1e3, strips + covered, delta=0.1)
        self.assertEqual((lines["inside_corner"], lines["outside_corner"]), (6, 4))


class NameTest(unittest.TestCase):
    def test_a_band_is_called_after_the_wall_that_it_lies_at(self) -> None:
        """Every band of a whole floor, the room either way round and turned."""
        for turn, mirror in ((0.0, False), (33.0, True)):
            plan = sealed(moved(alcove(), turn=turn, mirror=mirror), extent="all")
            found = [band for band in bands(plan) if band.wall is not None]
            self.assertEqual(sorted(band.wall or 0 for band in found), [0, 1, 2, 3])
            room = plan.room.outline
            for band in found:
                number = band.wall or 0
                wall = LineString([room[number], room[(number + 1) % len(room)]])
                for end in (band.start, band.end):
                    self.assertLess(wall.distance(Point(end)), 1)


class WetRoomTest(unittest.TestCase):
    def test_a_wet_room_with_niche_and_bench_by_hand(self) -> None:
        """The wet room of 1700 × 2400 with 900 of shower on two walls: six bands at walls and
        across the floor, a niche of 300 × 300 in front and at the back. A bench of 300 × 400 in
        the corner: two bands at its foot, one edge that stands out and two at walls, round its top
        and along the walls, the corner above it. Inside corners: three of the room, four in the
        niche, two at the foot and one on the top of the bench; outside: four round the niche, foot
        and top of its edge. Sheets on its front, end and top."""
        told = sealed(wet_room(), walls=2000).model_dump(mode="json")
        wall = next(one.wall for one in shower_stretches(plan_from(told)) if one.start == 0)
        told["walls"]["niches"] = [
            {"wall": wall, "offset": 500, "width": 300, "height": 300, "sill": 1200}
        ]
        corner = told["room"]["outline"][wall]
        inner = [
            corner[0] + (150 if corner[0] < 850 else -150),
            corner[1] + (200 if corner[1] < 1200 else -200),
        ]
        told["room"]["fixtures"] = [
            {
                "name": "bench",
                "kind": "bench",
                "centre": inner,
                "width": 300,
                "length": 400,
                "height": 450,
            }
        ]
        found = result(plan_from(told))
        self.assertEqual(
            counted(found),
            {
                "band": 6 + 2,
                "niche": 2,
                "bench": 6,
                "inside corner": 3 + 4 + 3,
                "outside corner": 4 + 2,
                "collar": 3,
                "sheet": 4 + 3,
            },
        )
        bench = [round(piece.length) for piece in found.pieces if piece.kind == "bench"]
        self.assertEqual(bench, [500, 500, 500, 700 + 50, 700 + 100, 1550 + 50])


class SheetTest(unittest.TestCase):
    """Sheets off a roll of 1 m, lapping 50 (common practice, no source)."""

    def test_a_wet_room_by_hand(self) -> None:
        """1700 × 2400: two of 2400, 1000 and 750 wide, rather than three of 1700; up two walls of
        900 one each."""
        found = result(sealed(wet_room(), walls=2000))
        told = [(p.name, p.cut_text) for p in found.pieces if p.kind == "sheet"]
        self.assertEqual(
            [text for _, text in told],
            ["2400 mm × 1000 mm", "2400 mm × 750 mm", "2000 mm × 900 mm", "2000 mm × 900 mm"],
        )

    def test_sheets_cover_any_floor_and_lap(self) -> None:
        """Random rooms of four and six sides, turned either way: together the sheets cover the
        floor; two beside each other lap by 50 or more, all along."""
        chance = random.Random(31)
        for _ in range(some(60)):
            wide, deep = chance.uniform(900, 4000), chance.uniform(900, 4000)
            corners = [[0, 0], [wide, 0], [wide, deep], [0, deep]]
            if chance.random() < 0.5:
                x, y = wide * chance.uniform(0.3, 0.7), deep * chance.uniform(0.3, 0.7)
                corners = [[0, 0], [wide, 0], [wide, y], [x, y], [x, deep], [0, deep]]
            shape = affinity.rotate(Polygon(corners), chance.uniform(0, 360))
            along = chance.uniform(0, 3)
            sheets = laid(shape, along)
            boxes = [Polygon(sheet.corners) for sheet in sheets]
            together = shapely.union_all(boxes)
            self.assertLess(shape.difference(together.buffer(0.01)).area, 1)
            for sheet, box in zip(sheets, boxes, strict=True):
                self.assertAlmostEqual(box.area, sheet.length * sheet.width, delta=1)
                self.assertLessEqual(sheet.width, 1000 + 1e-6)
            # Without its lap each is narrower by 50, and they cover the floor still.
            way = np.array([-np.sin(along), np.cos(along)])
            tops = [max(float(np.array(c) @ way) for c in sheet.corners) for sheet in sheets]
            lows = [min(float(np.array(c) @ way) for c in sheet.corners) for sheet in sheets]
            high = max(tops)
            for top in tops:
                if top < high - 1:
                    self.assertTrue(any(abs(top - low - 50) < 1e-6 for low in lows))


class SchoolTest(unittest.TestCase):
    """What each school counts, by hand; all of it common practice, no source."""

    def plan(self, school: str, former: Any = None, **walls: Any) -> Plan:
        doc = alcove()
        if former:
            doc["shower"]["former"] = former
        told = sealed(doc, extent="shower", walls=2000).model_dump(mode="json")
        told["days"]["membrane"] = school
        told["walls"] = {"shower": layers(("board", 12))} | walls
        return plan_from(told)

    TRAY: ClassVar[Document] = {"kind": "tray", "edge_thickness": 25}

    def test_boards_take_two_beads_over_every_seam(self) -> None:
        """Boards of 2400 × 1200, 2000 high: on each of three walls one joint at 1200, as long as
        the wall: 912 (of 900 and a stud's depth), 924, 912; the foot of each wall and the joint
        to the room 900, two corners 2000 high."""
        found = result(self.plan("boards", self.TRAY))
        self.assertEqual(set(counted(found)), {"bead"})
        lengths = sorted(round(piece.length) for piece in found.pieces)
        self.assertEqual(lengths, [900] * 4 + [912, 912, 924] + [2000, 2000])
        seams = sum(piece.length for piece in found.pieces)
        self.assertEqual(found.said, f"{2 * seams / 1e3:.1f} m of bead over 9 seams")
        order = answered(self.plan("boards", self.TRAY), parts=("order",)).order
        assert order is not None
        sealant = next(line for line in order.lines if line.item == "sealant")
        # And the bead round the tray, that it had before.
        self.assertAlmostEqual(sealant.needed, 2 * seams / 1e3 + 3.6, places=3)
        self.assertFalse({"membrane", "band", "collar"} & {line.item for line in order.lines})

    def test_tape_and_cement_boards_go_over_the_boards_joints(self) -> None:
        for school, field in (("tape", "liquid"), ("cement", "membrane")):
            found = result(self.plan(school))
            joints = [piece.length for piece in found.pieces if piece.kind == "joint"]
            self.assertEqual(sorted(map(round, joints)), [1012, 1012, 1024])
            self.assertEqual(counted(found).get("inside corner", 0), 0 if school == "tape" else 2)
            order = answered(self.plan(school), parts=("order",)).order
            assert order is not None
            self.assertIn(field, {line.item for line in order.lines})
            bare = result(self.plan(school, shower=layers(("tile", 8))))
            self.assertNotIn("joint", counted(bare))
            self.assertIn("Add a board", " ".join(bare.notes))

    def test_a_sheet_between_lifts_stays_on_the_floor(self) -> None:
        bed = {"kind": "bed", "least_thickness": 30}
        lifts = bed | {"lower": {"least_thickness": 15, "membrane": 1}}
        found = result(self.plan("lifts", lifts))
        self.assertEqual(counted(found), {"inside corner": 2, "sheet": 1})
        self.assertEqual(found.walls, ())
        self.assertIn("0.81 m² of sheet", found.said)
        days = answered(self.plan("lifts", lifts), parts=("days",)).days
        assert days is not None
        tasks = [slot.task for slot in days.tasks]
        first, sheet, then = (tasks.index(t) for t in ("lower_lift", "membrane_sheet", "bed"))
        self.assertTrue(first < sheet < then)

    def test_a_school_that_the_floor_is_not_built_for_is_told_and_its_cure_holds(self) -> None:
        bed = {"kind": "bed", "least_thickness": 30}
        for school, former, wrong in (
            ("lifts", bed, True),
            ("boards", bed, True),
            ("boards", self.TRAY, False),
            ("tape", bed, False),
        ):
            found = [f for f in offering(self.plan(school, former)).findings if f.code == WRONG]
            self.assertEqual(len(found), int(wrong), school)
            for one in found:
                self.assertEqual([cure.changes[0].value for cure in one.cures], ["sheet"])

    def test_each_school_has_its_tasks(self) -> None:
        tasks = {}
        for school in ("sheet", "liquid", "boards", "tape", "lifts", "cement"):
            days = answered(self.plan(school, self.TRAY), parts=("days",)).days
            assert days is not None
            known = {"membrane_sheet", "first_coat", "second_coat", "board_beads"}
            tasks[school] = {slot.task for slot in days.tasks} & known
        coats, sheet = {"first_coat", "second_coat"}, {"membrane_sheet"}
        self.assertEqual(
            tasks,
            {
                "sheet": sheet,
                "liquid": coats,
                "boards": {"board_beads"},
                "tape": coats,
                "lifts": sheet,
                "cement": sheet,
            },
        )


WRONG = "membrane_school"


class LaidTest(unittest.TestCase):
    def test_a_tick_holds_for_what_was_laid_and_no_longer(self) -> None:
        plan = sealed(alcove(), extent="shower")
        before = result(plan)
        first = before.pieces[0]
        ticked = {"name": first.name, "length": first.length}
        after = result(sealed(alcove(), extent="shower", laid=[ticked]))
        self.assertEqual(after.left, before.left - 1)
        self.assertTrue(after.pieces[0].laid)
        # The wall grew: that is another piece.
        doc = alcove()
        doc["shower"]["outline"] = [[0, 1000], [900, 1000], [900, 2000], [0, 2000]]
        doc["shower"]["drain"] = point(450, 1500)
        longer = result(sealed(doc, extent="shower", laid=[ticked]))
        grown = next(piece for piece in longer.pieces if piece.name == first.name)
        self.assertEqual(grown.laid, round(grown.length) == round(first.length))
        side = next(piece for piece in before.pieces if round(piece.length) == 1000)
        self.assertFalse(
            any(p.laid for p in longer.pieces if p.name == "wall 2" and side.name == "wall 2")
        )

    def test_nonsense_is_named(self) -> None:
        for membrane, path in (
            ({"extent": "walls"}, "/membrane/extent"),
            ({"walls": -5}, "/membrane/walls"),
            ({"pipes": 99}, "/membrane/pipes"),
        ):
            with self.assertRaises(PlanError) as refused:
                sealed(document(), **membrane)
            self.assertEqual(refused.exception.problems[0].path, path)


class OrderTest(unittest.TestCase):
    def line(self, plan: Plan, item: str) -> Any:
        order = answered(plan, parts=("order",)).order
        assert order is not None
        return next((line for line in order.lines if line.item == item), None)

    def test_order_buys_what_is_counted(self) -> None:
        plan = sealed(alcove(), extent="shower", walls=2000, pipes=3)
        band = sum(piece.length for piece in result(plan).pieces if piece.kind != "sheet")
        self.assertAlmostEqual(self.line(plan, "band").needed * 1e3, band, delta=0.1)
        self.assertAlmostEqual(self.line(plan, "membrane").needed, 0.81 + 5.4, places=3)
        self.assertEqual(self.line(plan, "collar").packs, 3)
        self.assertIsNone(self.line(plan, "liquid"))

    def test_a_liquid_takes_the_sheets_place(self) -> None:
        plan = sealed(alcove(), extent="shower", walls=2000)
        plan = plan.model_copy(update={"days": plan.days.model_copy(update={"membrane": "liquid"})})
        self.assertIsNone(self.line(plan, "membrane"))
        self.assertAlmostEqual(self.line(plan, "liquid").needed, 6.21 * 1.04, places=2)
