"""The job sheet, read back: pages, sizes, figures as text, and a length that is true to scale."""

import io
import re
import tempfile
import unittest
from pathlib import Path

from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PageObject, PdfReader
from reportlab.pdfbase.pdfmetrics import getFont
from shapely.geometry import Polygon

from calm_basin.cli import main
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.formats.sheet import PAGES, UnknownPageError, parts_of, write_sheet
from calm_basin.formats.sheet.floor_plan import FloorPlan
from calm_basin.formats.sheet.page import SCALES, Sheet
from calm_basin.formats.sheet.style import PLAIN, SPARE
from calm_basin.plan import Plan, plan_from
from tests.plans import answered, document, moved, offering, point, starting
from tests.reference.test_access_limits import roomy
from tests.sweeps import each, examples, sweep

POINT = 25.4 / 72
"""Millimetres to a point: 72 of them make an inch (PDF, ISO 32000-1, 8.3.2.3; from memory)."""


def made(plan: Plan, **options: object) -> tuple[PdfReader, Solution]:
    solution = offering(plan, parts=parts_of())
    return printed(plan, solution, **options), solution


def printed(plan: Plan, solution: Solution, **options: object) -> PdfReader:
    return PdfReader(io.BytesIO(write_sheet(plan, solution, **options)))  # type: ignore[arg-type]


def read(page: PageObject) -> tuple[str, float]:
    """The words of a page, and how high over the foot of the paper the lowest of them stand, as a
    share of it, the title block left out."""
    high = float(page.mediabox.height)
    found = [high]

    def seen(text: str, outer: list[float], inner: list[float], *_: object) -> None:
        y = inner[4] * outer[1] + inner[5] * outer[3] + outer[5]
        if text.strip() and y > BLOCK:
            found.append(y)

    told = page.extract_text(visitor_text=seen)
    return told, min(found) / high


BLOCK = 23 / POINT
"""The title block ends so high over the foot, points: a margin of 12 mm and 11 mm of its own."""


def words(reader: PdfReader) -> str:
    return " ".join(" ".join(page.extract_text() for page in reader.pages).split())


class SheetTest(unittest.TestCase):
    @sweep
    def test_every_demo_job_on_every_paper(self) -> None:
        # A4 is 210 × 297 mm (ISO 216), Letter 8.5 × 11 in (ANSI Y14.1); from memory.
        # A3 and Tabloid are twice as large, and lie.
        papers = [
            ("a4", (210, 297)),
            ("letter", (215.9, 279.4)),
            ("a3", (420, 297)),
            ("tabloid", (431.8, 279.4)),
        ]
        for nth, plan in enumerate(demo_plans()):
            solution = offering(plan, parts=parts_of())
            # The same is said on all: the first job shows it on two, the others take turns.
            for paper, size in papers[:2] if nth == 0 else papers[nth % 4 :][:1]:
                reader = printed(plan, solution, paper=paper, made="25 November 2026")
                first, *flowing = reader.pages
                wide, high = (float(side) * POINT for side in first.mediabox[2:])
                self.assertLess(abs(sorted((wide, high))[0] - min(size)), 0.1)
                room = Polygon(plan.room.outline).bounds
                self.assertEqual(wide > high, room[2] - room[0] > room[3] - room[1])
                for page in flowing:
                    self.assertAlmostEqual(float(page.mediabox.width) * POINT, size[0], delta=0.1)
                    self.assertAlmostEqual(float(page.mediabox.height) * POINT, size[1], delta=0.1)
                pages = [read(page) for page in reader.pages]
                for number, (_, low) in enumerate(pages[:-1], start=1):
                    self.assertLess(low, 0.5, (plan.job.name, paper, number))
                told = " ".join(" ".join(told for told, _ in pages).split())
                if len(reader.pages) > 4:
                    self.assertIn("Contents", told)
                for _, figure in solution.figures:
                    self.assertIn(figure.text, told)
                    self.assertIn(" ".join(figure.working.formula.split())[:40], told)
                for finding in solution.findings:
                    self.assertIn(finding.title, told)
                    self.assertIn(finding.source[:30], told)
                for caution in solution.cautions:
                    self.assertIn(caution.text[:40], told)
                assert solution.marks is not None
                for group in each(solution.marks.groups):
                    for mark in each(group.marks):
                        self.assertIn(mark.text, told)
                        for place in mark.places:
                            self.assertIn(place.from_text, told)
                self.assertIn(f"1 of {len(reader.pages)}", told)
                self.assertIn("25 November 2026", told)

    @sweep
    def test_the_floor_as_it_was_read_and_the_marks_for_its_cleats(self) -> None:
        doc = document(former={"kind": "tray", "edge_thickness": 30}) | {"version": 9}
        places = [(x, y, -0.004 * x) for x in (0, 800, 2400) for y in (0, 900, 1800)]
        readings = [{"kind": "height", "x": x, "y": y, "height": z} for x, y, z in places]
        doc["survey"] = {"levels": readings, "correction": {"kind": "frame"}, "base": "foam-tray"}
        reader, solution = made(plan_from(doc), pages=["levels"])
        told, floor = words(reader), solution.survey.floor
        assert floor is not None
        self.assertIn(floor.verdict_text, told)
        self.assertIn("9.6 mm", told)  # 0.004 · 2400: the farthest reading.
        self.assertIn("Frame the deck pieces level on cleats", told)
        marks = [mark.text for joist in floor.cleats for mark in joist.marks]
        self.assertGreater(len(marks), 4)
        for mark in marks:
            self.assertIn(mark, told)
        # A job whose floor was not read has no such page.
        reader, _ = made(plan_from(document()))
        self.assertNotIn("The floor as it was read", words(reader))

    @sweep
    def test_what_is_assumed_is_listed_to_be_measured(self) -> None:
        reader, solution = made(starting("Upstairs", "in", "us-dwelling"))
        told = words(reader)
        self.assertGreater(solution.assumed.count, 20)
        for item in solution.assumed.listed:
            self.assertIn(f"{item.name} {item.text}", told)
        # On the page of the figures and on the plan, too.
        self.assertEqual(told.count(solution.assumed.text), 2)

    def test_getting_in_and_limits_of_the_jobs_own_are_printed(self) -> None:
        doc = roomy("uk")
        doc["room"]["doors"][0] |= {"width": 880, "outside": 20}
        own = {
            "topic": "door_clear",
            "binds": "at_least",
            "applies_to": "the bathroom door, for a chair",
            "given": "820mm",
            "reason": "agreed with building control",
        }
        reader, solution = made(plan_from(doc | {"overrides": [own]}), pages=["findings", "access"])
        told, access = words(reader), solution.access
        assert access is not None
        for text in (
            "In a chair",
            "Limits that this job keeps at values of its own",
            "at least 820 mm",
            "agreed with building control",
            *(space.name for space in access.spaces),
            *(edge.text for edge in access.thresholds),
            *(way.text for way in access.ways),
        ):
            self.assertIn(text, told)

    def test_the_deck_the_waste_and_the_riser_are_printed(self) -> None:
        plan = demo_plans()[0]
        reader, solution = made(plan, pages=["deck", "waste", "riser"])
        told, structure, waste = words(reader), solution.structure, solution.waste
        assert structure is not None and structure.sheet is not None
        assert waste is not None and waste.run is not None and waste.riser is not None
        for text in (
            *(line.start_text for line in structure.sheet.saw_lines),
            *(piece.text for piece in structure.sheet.pieces),
            *(step[:50] for step in structure.sheet.steps),
            structure.sheet.hole,
            *(one.level_text for one in waste.run.passed),
            *(figure.text for figure in waste.figures),
            *(said[:60] for said in waste.riser.said),
            *waste.riser.order,
            "Scale 1:",
        ):
            self.assertIn(text, told)
        # What there is not is left out: a slab has no deck to cut.
        slab = next(p for p in demo_plans() if p.floor.kind == "slab")
        reader, _ = made(slab, pages=["deck"])
        self.assertIn("nothing to tell here", words(reader))

    @sweep
    def test_every_sign_of_the_texts_is_in_the_font(self) -> None:
        known = getFont(PLAIN).face.charToGlyph | getFont(SPARE).face.charToGlyph
        for plan in demo_plans():
            text = answered(plan, parts=("water", "marks")).model_dump_json()
            self.assertEqual({c for c in text if ord(c) > 32 and ord(c) not in known}, set())

    def test_pages_are_chosen_by_name(self) -> None:
        plan = demo_plans()[0]
        solution = offering(plan, parts=parts_of())
        for page in PAGES:
            reader = printed(plan, solution, pages=[page.name])
            self.assertIn(page.title, reader.pages[0].extract_text())
        with self.assertRaisesRegex(UnknownPageError, "plan, levels, section"):
            made(plan, pages=["poster"])
        self.assertEqual(parts_of(["plan"]), ())
        self.assertEqual(parts_of(["marks"]), ("marks",))

    @sweep
    def test_walls_and_corners_that_marks_are_taken_from_are_named_on_the_plan(self) -> None:
        for plan in demo_plans()[:5]:
            reader, solution = made(plan, pages=["plan", "marks"])
            drawn = reader.pages[0].extract_text()
            assert solution.marks is not None
            places = [p for g in solution.marks.groups for m in g.marks for p in m.places]
            named = {
                name for p in places for name in re.findall(r"(?:wall|corner) \d+", p.from_text)
            }
            self.assertGreater(len(named), 4)
            for name in named:
                self.assertIn(name, drawn, plan.job.name)

    @sweep
    def test_nothing_is_told_by_colour(self) -> None:
        """Read from the page's own commands (PDF, ISO 32000-1, 8.6.8; from memory)."""
        reader, _ = made(demo_plans()[0])
        inks = set()
        for page in reader.pages:
            stream = page.get_contents().get_data().decode("latin-1")  # type: ignore[union-attr]
            self.assertNotRegex(stream, r"\s(k|K|sc|scn|SCN)\s")
            inks |= set(re.findall(r"([\d.]+) ([\d.]+) ([\d.]+) (?:rg|RG)\b", stream))
        self.assertGreater(len(inks), 4)
        for red, green, blue in inks:
            self.assertEqual((red, green), (green, blue))

    @sweep
    def test_the_contents_say_on_which_page_each_part_begins(self) -> None:
        plan = demo_plans()[1]
        solution = offering(plan, parts=parts_of())
        for paper in ("a4", "tabloid"):
            reader = printed(plan, solution, paper=paper)
            told = words(reader)
            for page in PAGES:
                listed = re.search(
                    rf"{re.escape(page.title)} (\d+) ", told[told.index("Contents") :]
                )
                if page.alone or page.story(Sheet(plan, solution, 500, 700)) == []:
                    self.assertIsNone(listed, page.name)
                    continue
                assert listed is not None, page.name
                there = reader.pages[int(listed[1]) - 1].extract_text()
                self.assertIn(page.title, there)

    def test_the_log_lists_the_hold_points_to_sign(self) -> None:
        plan = demo_plans()[1]
        signed = {
            "task": "leak_test",
            "began": "2026-12-07T09:00",
            "ended": "2026-12-07T09:15",
            "signed": "AB",
        }
        doc = plan.model_dump(mode="json")
        doc["days"] |= {"start": "2026-12-07", "worked": [signed]}
        reader, solution = made(plan_from(doc), pages=["log"])
        told = words(reader)
        assert solution.days is not None
        for slot in each([slot for slot in solution.days.tasks if slot.hold], least=3):
            self.assertIn(f"{slot.name} {slot.day_text}", told)
        self.assertRegex(told, r"Leak test of the waste Mon 7 Dec.* AB")

    @sweep
    def test_the_page_for_the_wall_stands_alone(self) -> None:
        for plan in demo_plans()[:3]:
            reader, solution = made(plan, pages=["wall"])
            self.assertEqual(len(reader.pages), 1)
            told = words(reader)
            self.assertIn(solution.figures.recess_needed.text, told)
            self.assertIn(solution.drawing.drains[0], told)
            self.assertNotIn("For the wall", words(made(plan)[0]))

    def test_without_a_floor_what_is_known_is_printed(self) -> None:
        reader, solution = made(plan_from(document(drain=point(-500, 0))))
        self.assertIn(solution.findings[0].title, words(reader))
        self.assertNotIn("Setting out", words(reader))

    def test_the_command_writes_it_and_refuses_what_is_no_plan(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            job, sheet = Path(folder) / "job.json", Path(folder) / "sheet.pdf"
            job.write_text(demo_plans()[1].model_dump_json(), "utf-8")
            run = CliRunner().invoke(main, ["sheet", str(job), str(sheet), "--paper", "letter"])
            self.assertEqual(run.exit_code, 0, run.output)
            self.assertGreaterEqual(len(PdfReader(sheet).pages), 8)
            job.write_text("{}", "utf-8")
            run = CliRunner().invoke(main, ["sheet", str(job), str(sheet)])
            self.assertEqual(run.exit_code, 2)
            self.assertIn("/room", run.output)


class ScaleTest(unittest.TestCase):
    @examples(25)
    @given(st.integers(1200, 9000), st.integers(1200, 9000), st.booleans())
    def test_lengths_are_true_to_the_scale_that_is_stated(
        self, wide: int, deep: int, mirror: bool
    ) -> None:
        doc = document(drain=point(600, 500))
        doc["room"]["outline"] = [[0, 0], [wide, 0], [wide, deep], [0, deep]]
        doc["room"]["doors"] = []
        doc["shower"]["outline"] = [[0, 0], [1200, 0], [1200, 1000], [0, 1000]]
        plan = plan_from(moved(doc, mirror=mirror, dx=300, dy=-200))
        solution = offering(plan)
        width, height = 510.0, 700.0
        drawn = FloorPlan(Sheet(plan, solution, width, height), height)
        self.assertIn(drawn.scale, SCALES)
        self.assertLessEqual(drawn.width, width)
        self.assertLessEqual(drawn.height, height)
        sides = list(plan.room.outline)
        for a, b in zip(sides, [*sides[1:], sides[0]], strict=True):
            (x0, y0), (x1, y1) = drawn.at(a), drawn.at(b)
            on_paper = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5 * POINT
            in_room = ((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) ** 0.5
            self.assertAlmostEqual(on_paper * drawn.scale / in_room, 1, delta=0.005)

    def test_the_walls_on_the_page_are_as_long_as_the_page_says(self) -> None:
        # Read from the page's own drawing commands: the room is the outline of 2.6 points.
        plan = demo_plans()[1]
        reader, _ = made(plan, paper="letter", pages=["plan"])
        page = reader.pages[0]
        scale = int(re.search(r"Scale 1:(\d+)", page.extract_text())[1])  # type: ignore[index]
        stream = page.get_contents().get_data().decode("latin-1")  # type: ignore[union-attr]
        outline = stream.split("2.6 w")[1].split("\nS")[0]
        places = [tuple(map(float, m)) for m in re.findall(r"([-\d.]+) ([-\d.]+) [ml]\b", outline)]
        spans = [max(p[i] for p in places) - min(p[i] for p in places) for i in (0, 1)]
        room = [
            max(p[i] for p in plan.room.outline) - min(p[i] for p in plan.room.outline)
            for i in (0, 1)
        ]
        for span, size in zip(spans, room, strict=True):
            self.assertAlmostEqual(span * POINT * scale / size, 1, delta=0.005)


class MarkPlaceTest(unittest.TestCase):
    @examples(10)
    @given(st.integers(0, 359), st.booleans())
    def test_marks_stand_where_their_two_walls_say(self, turn: int, mirror: bool) -> None:
        plan = plan_from(moved(document(), turn=turn, mirror=mirror))
        marks = answered(plan, parts=("marks",)).marks
        assert marks is not None
        outline = plan.room.outline
        places = [place for group in marks.groups for m in group.marks for place in m.places]
        for place in each(places):
            x, y = place.at
            said = re.findall(r"([\d.]+) from wall (\d+)", place.from_text)
            for distance, number in said:
                (x0, y0), (x1, y1) = outline[int(number) - 1], outline[int(number) % len(outline)]
                length = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
                away = abs((x1 - x0) * (y - y0) - (y1 - y0) * (x - x0)) / length
                self.assertAlmostEqual(float(distance), away, delta=0.051)
