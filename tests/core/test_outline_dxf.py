"""A room's outline out of a DXF drawing: by hand and by libraries, in any unit, and hostile."""

import io
import math
import random
import unittest
from pathlib import Path
from typing import Any

import ezdxf
import numpy as np
from ezdxf.addons import r12writer
from shapely.geometry import Polygon

from calm_basin.demo import demo_plans
from calm_basin.formats.floor_dxf import write_floor
from calm_basin.formats.outline_dxf import MILLIMETRES, Outlines, Unit, read_outlines
from calm_basin.plan import PlanError
from calm_basin.units import Display
from tests.core.test_marks import room
from tests.plans import answered
from tests.sweeps import each, some

MM = Display("mm", 16, "ratio")


def read(text: str, unit: Unit | None = None) -> Outlines:
    return read_outlines(text, unit, MM)


def by_layer(found: Outlines) -> dict[str, Any]:
    return {layer.name: layer for layer in found.layers}


def text_of(drawing: Any) -> str:
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()


def placed(points: Any) -> Polygon:
    """An outline moved to its own lower left corner."""
    corners = np.array(points, dtype=float)
    return Polygon(corners - corners.min(axis=0))


HAND = """0
SECTION
2
ENTITIES
0
LINE
8
WALLS
10
0.0
20
0.0
11
96.0
21
0.0
0
LINE
8
WALLS
10
96.0
20
0.0
11
96.0
21
60.0
0
LINE
8
WALLS
10
96.0
20
60.0
11
0.0
21
60.0
0
LINE
8
WALLS
10
0.0
20
60.0
11
0.0
21
0.0
0
ENDSEC
0
EOF
"""
"""Four lines, written by hand (DXF reference, group codes; from memory): 96 × 60."""


class ReadTest(unittest.TestCase):
    def test_a_drawing_written_by_hand(self) -> None:
        unknown = read(HAND)
        self.assertIsNone(unknown.unit)
        self.assertEqual(unknown.layers, ())
        self.assertIn("choose the unit", unknown.said)
        (outline,) = by_layer(read(HAND, "in"))["WALLS"].outlines
        self.assertEqual(outline.text, "2438.4 mm × 1524 mm, 4 corners")
        self.assertAlmostEqual(Polygon(outline.points).area, 96 * 60 * 25.4**2)

    def test_rooms_by_a_library_in_every_unit_as_polylines_and_as_lines(self) -> None:
        chance, units = random.Random(7), {"in": 1, "ft": 2, "mm": 4, "cm": 5, "m": 6}
        for _ in each(range(some(40))):
            outline = room(chance)
            if not Polygon(outline).is_valid or Polygon(outline).area < 8e5:
                continue
            unit = chance.choice(list(MILLIMETRES))
            far = (chance.uniform(-1e5, 1e5), chance.uniform(-1e5, 1e5))
            points = [
                ((x + far[0]) / MILLIMETRES[unit], (y + far[1]) / MILLIMETRES[unit])
                for x, y in outline
            ]
            drawing = ezdxf.new("R2010", units=units[unit])
            space = drawing.modelspace()
            space.add_lwpolyline(points, close=True, dxfattribs={"layer": "closed"})
            space.add_lwpolyline([*points, points[0]], dxfattribs={"layer": "met"})
            lines = list(zip(points, [*points[1:], points[0]], strict=True))
            chance.shuffle(lines)
            for start, end in lines:
                ends = (start, end) if chance.random() < 0.5 else (end, start)
                space.add_line(*ends, dxfattribs={"layer": "lines"})
            found = by_layer(read(text_of(drawing)))
            for layer in ("closed", "met", "lines"):
                (one,) = found[layer].outlines
                self.assertLess(
                    placed(outline).symmetric_difference(Polygon(one.points)).area, 1500, layer
                )

    def test_a_room_by_another_writer(self) -> None:
        """ezdxf's writer of the old format shares nothing with its document."""
        out = io.StringIO()
        with r12writer(out) as writer:
            corners = [(0, 0), (3, 0), (3, 2), (1, 2), (1, 2.5), (0, 2.5)]
            writer.add_polyline_2d(corners, closed=True, layer="room")
        (outline,) = by_layer(read(out.getvalue(), "m"))["room"].outlines
        self.assertAlmostEqual(Polygon(outline.points).area, (6 + 0.5) * 1e6)

    def test_a_room_drawn_by_another_program(self) -> None:
        """Written with the DXF driver of GDAL, in metres. Its head says inches, whatever is in it:
        the unit that is chosen counts."""
        text = (Path(__file__).parent / "drawings" / "gdal.dxf").read_text()
        found = read(text, "m")
        self.assertIn("says inches; read in metres, as chosen", found.said)
        (outline,) = by_layer(found)["ROOM"].outlines
        drawn = [(10, 20), (13.6, 20), (13.6, 22), (12.1, 22), (12.1, 22.9), (10, 22.9)]
        wanted = placed([(1000 * x, 1000 * y) for x, y in drawn])
        self.assertLess(wanted.symmetric_difference(Polygon(outline.points)).area, 1)
        (walls,) = by_layer(found)["WALLS"].outlines
        self.assertEqual(walls.text, "2400 mm × 1800 mm, 4 corners")

    def test_our_own_drawing_gives_the_room_back(self) -> None:
        for plan in each(demo_plans(), least=8):
            text = write_floor(plan, answered(plan))
            outlines = by_layer(read(text))["ROOM"].outlines
            self.assertEqual(len(outlines), 1)
            same = placed(plan.room.outline).symmetric_difference(Polygon(outlines[0].points))
            self.assertLess(same.area, 10)

    def test_what_is_no_outline_is_told(self) -> None:
        drawing = ezdxf.new("R2010", units=4)
        space = drawing.modelspace()
        space.add_circle((0, 0), 500)
        space.add_text("bath")
        space.add_lwpolyline([(0, 0, 0.5), (2000, 0, 0), (2000, 2000, 0)], format="xyb", close=True)
        space.add_lwpolyline([(0, 0), (2000, 2000), (2000, 0), (0, 2000)], close=True)
        space.add_lwpolyline([(0, 0), (90, 0), (90, 90)], close=True)
        many = [(math.cos(t) * 2000, math.sin(t) * 2000) for t in np.arange(0, 6.28, 0.1)]
        space.add_lwpolyline(many, close=True)
        space.add_line((0, 0), (1000, 50))
        (layer,) = read(text_of(drawing)).layers
        self.assertEqual(layer.outlines, ())
        for word in ("circle", "text", "arcs", "crosses itself", "check the unit", "40 corners"):
            self.assertTrue(any(word in told for told in layer.told), (word, layer.told))
        self.assertTrue(any("1 lines do not close" in told for told in layer.told))

    def test_lines_that_cross_are_parted_where_they_are_few_and_many_are_answered_all_the_same(
        self,
    ) -> None:
        chance = random.Random(2)
        for count, crossing in ((4, True), (150, True), (5000, False)):
            drawing = ezdxf.new("R2010", units=4)
            space = drawing.modelspace()
            # Four walls drawn past their corners, among lines that lead nowhere.
            for start, end in (
                ((-50, 0), (2450, 0)),
                ((-50, 1800), (2450, 1800)),
                ((0, -50), (0, 1850)),
                ((2400, -50), (2400, 1850)),
            ):
                space.add_line(start, end)
            for _ in range(count - 4):
                x, y = chance.uniform(3000, 9000), chance.uniform(0, 9000)
                space.add_line((x, y), (x + chance.uniform(-900, 900), y + 700))
            (layer,) = read(text_of(drawing)).layers
            sizes = [outline.text for outline in layer.outlines]
            self.assertEqual("2400 mm × 1800 mm, 4 corners" in sizes, crossing, count)
            if not crossing:
                self.assertIn("5000 lines do not close", layer.told[0])

    def test_the_unit_that_is_chosen_counts(self) -> None:
        drawing = ezdxf.new("R2010", units=1)
        drawing.modelspace().add_lwpolyline(
            [(0, 0), (2400, 0), (2400, 1800), (0, 1800)], close=True
        )
        text = text_of(drawing)
        self.assertIn("check the unit", " ".join(read(text).layers[0].told))
        chosen = read(text, "mm")
        self.assertEqual(chosen.layers[0].outlines[0].text, "2400 mm × 1800 mm, 4 corners")
        self.assertIn("says inches; read in millimetres", chosen.said)

    def test_what_is_no_drawing_is_refused_in_words(self) -> None:
        for text in ("", "hello", "{}", "0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nx\n", "\x00" * 90):
            with self.subTest(text[:12]):
                try:
                    self.assertEqual(read(text, "mm").layers, ())
                except PlanError as refused:
                    self.assertEqual(refused.problems[0].path, "/dxf")
        with self.assertRaises(PlanError) as caught:
            read("0\n" * 2_500_000, "mm")
        self.assertIn("over 4 MB", caught.exception.problems[0].message)

    def test_broken_drawings_end_in_words(self) -> None:
        whole = text_of(ezdxf.new("R2010", units=4))
        chance = random.Random(5)
        for _ in range(some(60)):
            text = list(HAND if chance.random() < 0.7 else whole)
            for _ in range(chance.randrange(1, 30)):
                text[chance.randrange(len(text))] = chance.choice("0123456789\nAZ.-e\x00é")
            try:
                read("".join(text[: chance.randrange(1, len(text))]), "in")
            except PlanError as refused:
                self.assertEqual(refused.problems[0].path, "/dxf")
