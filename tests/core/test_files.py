"""All files of a job, each opened by a program that is not ours."""

import io
import json
import re
import unittest
import zipfile
from datetime import UTC, datetime
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import get_args
from xml.etree import ElementTree

import ezdxf
from click.testing import CliRunner
from ezdxf.document import Drawing
from pypdf import PdfReader
from shapely.geometry import LinearRing, Polygon

from calm_basin.cli import main
from calm_basin.core.answer.result import Part
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.formats.bundle import TOLD, files_of, zipped
from calm_basin.formats.drawings_svg import write_plan, write_section
from calm_basin.formats.floor_dxf import INCH, LAYERS, write_floor
from calm_basin.plan import Plan, plan_from, read_plan
from tests.plans import answered, document, point
from tests.sweeps import each, some, sweep

MADE = datetime(2026, 12, 1, 9, tzinfo=UTC)


def whole(plan: Plan) -> Solution:
    return answered(plan, parts=get_args(Part))


def drawn(plan: Plan) -> tuple[Solution, Drawing]:
    solution = answered(plan, parts=("marks",))
    return solution, ezdxf.read(io.StringIO(write_floor(plan, solution)))


class DxfTest(unittest.TestCase):
    """Read and audited by the library ezdxf."""

    def outlines(self, drawing: Drawing, layer: str) -> list[Polygon]:
        unit = INCH if drawing.units == ezdxf.units.IN else 1.0
        found = drawing.modelspace().query(f'LWPOLYLINE[layer=="{layer}"]')
        return [Polygon([(x * unit, y * unit) for x, y in line.get_points("xy")]) for line in found]

    def test_it_passes_the_audit_and_reads_back_equal(self) -> None:
        for plan in each(demo_plans()[: some(11)], least=some(8)):
            solution, drawing = drawn(plan)
            with self.subTest(job=plan.job.name):
                self.assertFalse(drawing.audit().has_errors)
                inches = plan.display.length in ("in", "ft")
                self.assertEqual(drawing.units, ezdxf.units.IN if inches else ezdxf.units.MM)
                for layer, outline in (
                    ("ROOM", plan.room.outline),
                    ("SHOWER", plan.shower.outline),
                ):
                    (read,) = self.outlines(drawing, layer)
                    self.assertLess(read.symmetric_difference(Polygon(outline)).area, 1)
                assert solution.surface is not None
                planes = self.outlines(drawing, "FALLS")
                self.assertEqual(len(planes), len(solution.surface.planes))
                pins = solution.marks.pins.pins if solution.marks else ()
                circles = drawing.modelspace().query('CIRCLE[layer=="PINS"]')
                self.assertEqual(len(circles), len(pins))
                self.assertLessEqual({one.dxf.layer for one in drawing.modelspace()}, set(LAYERS))

    def test_a_name_does_no_harm(self) -> None:
        plan = plan_from(document() | {"job": {"name": "a\n0\nEOF\n{\\fArial|b1;x}", "note": ""}})
        _, drawing = drawn(plan)
        self.assertFalse(drawing.audit().has_errors)
        self.assertGreater(len(drawing.modelspace()), 5)


SVG = "{http://www.w3.org/2000/svg}"


class SvgTest(unittest.TestCase):
    """Read by the standard library's parser of XML."""

    def walls(self, root: ElementTree.Element) -> list[tuple[float, float]]:
        """The corners of the room, which is drawn with lines of 2.6 points."""
        (way,) = (one for one in root.iter(f"{SVG}path") if one.get("stroke-width") == "2.6")
        return [
            (float(x), float(y)) for x, y in re.findall(r"[ML]([-\d.]+) ([-\d.]+)", way.get("d"))
        ]

    def test_the_plan_is_true_to_the_scale_that_it_states(self) -> None:
        for plan in each(demo_plans(), least=8):
            solution = answered(plan)
            root = ElementTree.fromstring(write_plan(plan, solution))
            told = [one.text or "" for one in root.iter(f"{SVG}text")]
            (scale,) = (int(s) for t in told for s in re.findall(r"at 1:(\d+)$", t))
            width = float(root.get("width", "").removesuffix("mm"))
            a_point = width / float(root.get("viewBox", "").split()[2])
            drawn = LinearRing(self.walls(root)).length * a_point * scale
            self.assertAlmostEqual(drawn / LinearRing(plan.room.outline).length, 1, delta=0.005)
            assert solution.surface is not None
            texts = {p.text for p in solution.surface.planes if p.labelled}
            self.assertTrue(texts & set(told), plan.job.name)

    def test_the_section_has_its_bands_and_no_name_does_harm(self) -> None:
        doc = document(drain=point(700, 1300))
        doc["room"]["fixtures"] = [
            {"name": "<b>&\x01]]>", "centre": [2000, 300], "width": 300, "length": 300}
        ]
        plan = plan_from(doc | {"version": 11})
        solution = answered(plan)
        root = ElementTree.fromstring(write_plan(plan, solution))
        self.assertIn("<b>& ]]>", {one.text for one in root.iter(f"{SVG}text")})
        assert solution.section is not None
        section = ElementTree.fromstring(write_section(solution))
        filled = [one for one in section.iter(f"{SVG}path") if one.get("fill") != "none"]
        self.assertGreaterEqual(len(filled), len(solution.section.bands))


class BundleTest(unittest.TestCase):
    def test_every_file_is_opened_and_a_round_trip_gives_the_same_plan(self) -> None:
        plan = demo_plans()[0]
        plan = plan.model_copy(
            update={"days": plan.days.model_copy(update={"start": "2026-12-07"})}
        )
        files = files_of(plan, whole(plan), uid="abc", made=MADE)
        self.assertEqual(set(files) - {"contents.txt"}, set(TOLD))
        with zipfile.ZipFile(io.BytesIO(zipped(files))) as packed:
            self.assertIsNone(packed.testzip())
            self.assertEqual(packed.namelist()[0], "contents.txt")
            read = {name: packed.read(name) for name in packed.namelist()}
        self.assertEqual(read, files)
        self.assertEqual(read_plan(read["plan.json"]), plan)
        self.assertEqual(json.loads(read["solution.json"])["format"], "calm-basin-solution")
        self.assertGreater(len(PdfReader(io.BytesIO(read["sheet.pdf"])).pages), 3)
        for name in TOLD:
            self.assertIn(name, read["contents.txt"].decode())

    @sweep
    def test_the_command_writes_them_and_nothing_over_unasked(self) -> None:
        text = demo_plans()[1].model_dump_json()
        with TemporaryDirectory() as folder:
            to = Path(folder) / "job"
            first = CliRunner().invoke(main, ["files", "-", str(to)], input=text)
            self.assertEqual(first.exit_code, 0, first.output)
            self.assertIn("floor.dxf", {file.name for file in to.iterdir()})
            (to / "plan.json").write_text("mine")
            again = CliRunner().invoke(main, ["files", "-", str(to)], input=text)
            self.assertEqual(again.exit_code, 1)
            self.assertIn("--replace", again.output)
            self.assertEqual((to / "plan.json").read_text(), "mine")
            # That is told before the plan is so much as read.
            early = CliRunner().invoke(main, ["files", "-", str(to)], input="no plan")
            self.assertEqual(early.output, again.output)
            over = CliRunner().invoke(main, ["files", "-", str(to), "--replace"], input=text)
            self.assertEqual(over.exit_code, 0, over.output)
            self.assertNotEqual((to / "plan.json").read_text(), "mine")
