"""Every number of the tables of Build is the same in the answer, as CSV, on paper, on the command
line and in the calendar."""

import csv
import io
import json
import unittest
from collections.abc import Iterator
from datetime import UTC, datetime

from click.testing import CliRunner
from icalendar import Calendar
from pypdf import PdfReader

from calm_basin.cli import main
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.formats.days_files import write_calendar, write_days
from calm_basin.formats.marks_csv import write_marks
from calm_basin.formats.order_csv import write_cuts, write_order
from calm_basin.formats.sheet import write_sheet
from calm_basin.plan import Plan
from tests.plans import answered
from tests.sweeps import sweep

START = "2026-12-07"

Row = tuple[str, ...]


def tables(solution: Solution) -> Iterator[tuple[str, list[Row]]]:
    """The tables with the cells that all forms of them show."""
    order, days, marks = solution.order, solution.days, solution.marks
    assert order is not None and days is not None and marks is not None
    yield "order", [(one.name, one.needed_text, one.buy_text) for one in order.lines]
    yield "cuts", [(bar.pieces_text, bar.left_text) for one in order.cuts for bar in one.bars]
    yield (
        "days",
        [(s.day_text, s.begin_text, s.end_text, s.name, s.who, s.wait_text) for s in days.tasks],
    )
    yield (
        "marks",
        [
            (mark.name, mark.cut_text, mark.staff_text, place.from_text, place.check_text)
            for group in marks.groups
            for mark in group.marks
            for place in mark.places
        ],
    )


COLUMNS = {
    "order": ("item", "needed", "buy"),
    "cuts": ("cut", "left"),
    "days": ("day", "begins", "ends", "task", "who", "wait"),
    "marks": ("mark", "cut to", "staff reads", "where", "check"),
}


def job(plan: Plan) -> tuple[Plan, Solution]:
    plan = plan.model_copy(update={"days": plan.days.model_copy(update={"start": START})})
    return plan, answered(plan, parts=("order", "days", "marks"))


def plain(text: str) -> str:
    return " ".join(text.split())


class TablesTest(unittest.TestCase):
    @sweep
    def test_every_table_says_the_same_everywhere(self) -> None:
        seen = 0
        for plan in demo_plans()[1::3]:
            plan, solution = job(plan)
            assert solution.order is not None and solution.days is not None
            assert solution.marks is not None
            written = {
                "order": write_order(solution.order),
                "cuts": write_cuts(solution.order),
                "days": write_days(solution.days),
                "marks": write_marks(solution.marks),
            }
            pages = ["order", "days", "marks"]
            pdf = PdfReader(io.BytesIO(write_sheet(plan, solution, pages=pages)))
            paper = plain(" ".join(page.extract_text() for page in pdf.pages))
            asked = [word for part in pages for word in ("--with", part)]
            run = CliRunner().invoke(
                main, ["solve", "-", "--text", *asked], input=plan.model_dump_json()
            )
            console = plain(run.output)
            for name, rows in tables(solution):
                read = list(csv.DictReader(io.StringIO(written[name])))
                cells = [tuple(row[column] for column in COLUMNS[name]) for row in read]
                # What has no place has a row of its own.
                kept = [row for row in cells if "round the walls" not in row]
                self.assertEqual(sorted(kept), sorted(rows), (plan.job.name, name))
                for cell in {cell for row in rows for cell in row if cell}:
                    with self.subTest(job=plan.job.name, table=name, cell=cell):
                        self.assertIn(plain(cell), paper)
                        self.assertIn(plain(cell), console)
                        seen += 1
        self.assertGreater(seen, 300)

    def test_the_calendar_has_the_same_days_and_hours(self) -> None:
        for plan in demo_plans()[1::3]:
            _, solution = job(plan)
            assert solution.days is not None
            made = datetime(2026, 12, 1, tzinfo=UTC)
            text = write_calendar(solution.days, job="x", uid="y", first=START, made=made)
            (calendar,) = Calendar.from_ical(text, multiple=True)
            events = {str(one["uid"]).split(".")[0]: one for one in calendar.walk("VEVENT")}
            for slot in solution.days.tasks:
                begins, ends = (events[slot.task][name].dt for name in ("dtstart", "dtend"))
                told = f"{begins:%a} {begins.day} {begins:%b}"
                self.assertEqual((told, f"{begins:%H:%M}"), (slot.day_text, slot.begin_text))
                self.assertEqual(f"{ends:%H:%M}", slot.end_text)

    def test_the_answer_as_json_is_what_the_tables_are_read_from(self) -> None:
        plan, solution = job(demo_plans()[1])
        run = CliRunner().invoke(
            main,
            ["solve", "-", "--with", "order", "--with", "days", "--with", "marks"],
            input=plan.model_dump_json(),
        )
        answer = json.loads(run.output[run.output.index("{") :])
        for name in ("order", "days", "marks"):
            self.assertEqual(answer[name], getattr(solution, name).model_dump(mode="json"))
