"""The plan document: what is refused, where and with which cure."""

import copy
import json
import re
import unittest
from pathlib import Path
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from calm_basin.demo import demo_plans
from calm_basin.formats.schema import schemas
from calm_basin.plan import Plan, PlanError, plan_from, quantities, read_plan
from calm_basin.plan.document import VERSION
from tests.plans import answered, channel, document, solved, starting
from tests.sweeps import some

ROOT = Path(__file__).parents[2]


class RefusalTest(unittest.TestCase):
    def refused(self, path: str, value: object, *, where: str, word: str) -> None:
        doc = document()
        *parents, last = path.split("/")
        place = doc
        for step in parents:
            place = place[int(step)] if isinstance(place, list) else place[step]
        place[int(last) if isinstance(place, list) else last] = value
        with self.subTest(path=path), self.assertRaises(PlanError) as caught:
            plan_from(doc)
        problem = caught.exception.problems[0]
        self.assertEqual(problem.path, where)
        self.assertIn(word, problem.message)

    def test_names_the_field_and_the_cure(self) -> None:
        crossed = [[0, 0], [2400, 1800], [2400, 0], [0, 1800]]
        for path, value, where, word in [
            ("room/outline", crossed, "/room/outline", "crosses"),
            ("room/outline", [[0, 0], [1, 1]], "/room/outline", "Too few"),
            ("room/outline", [[0, 0], [0, 0], [9, 9]], "/room/outline/0", "same place"),
            ("shower/outline/1", [2500, 900], "/shower/outline/1", "100 mm outside"),
            ("shower/entries", [7], "/shower/entries/0", "no edge 7"),
            ("shower/entries", [0, 0], "/shower/entries", "twice"),
            ("shower/entries", [], "/shower/entries", "Too few"),
            ("room/layers/0/thickness", -5, "/room/layers/0/thickness", "0 mm or more"),
            ("room/layers/0/thickness", "thick", "/room/layers/0/thickness", "not a number"),
            ("room/doors/0/width", 2000, "/room/doors/0/width", "past the end"),
            ("room/doors/0/wall", 9, "/room/doors/0/wall", "no wall 9"),
            ("shower/drain/width", 0, "/shower/drain/width", "more than 0"),
            ("shower/drain", channel(5, 5, 5, 5), "/shower/drain/end", "same place"),
            ("shower/drain", {"kind": "bucket"}, "/shower/drain", "bucket"),
            ("shower/fall/asked", 3, "/shower/fall/asked", "too large"),
            ("shower/former/least_thickness", None, "/shower/former/least_thickness", "number"),
            (
                "room/fixtures",
                [{"name": "WC", "centre": [9000, 0], "width": 380, "length": 700}],
                "/room/fixtures/0/centre",
                "outside the room",
            ),
            ("colour", "blue", "/colour", "no such field"),
            ("shower/drain/colour", "blue", "/shower/drain/colour", "no such field"),
            ("version", 99, "/version", "newer Calm Basin"),
            ("version", "one", "/version", "whole number"),
            ("format", "drawing", "/format", "not a plan"),
            ("display", {"length": "cubit"}, "/display/length", "Choose one"),
        ]:
            self.refused(path, value, where=where, word=word)

    def test_a_number_that_no_unit_makes_a_length_is_told_as_it_was_written(self) -> None:
        for unit in ("mm", "in", "ft"):
            for huge in (1.7976931348623157e308, -1e300, 10**400, float("inf"), float("nan")):
                for path in ("room/outline/0", "room/outline/0/0", "room/doors/0/offset"):
                    doc: Any = document() | {"display": {"length": unit}}
                    *outer, last = path.split("/")
                    at = doc
                    for name in outer:
                        at = at[int(name)] if name.isdigit() else at[name]
                    at[int(last) if last.isdigit() else last] = huge
                    with self.assertRaises(PlanError) as caught:
                        plan_from(doc)
                    (problem,) = caught.exception.problems
                    self.assertEqual(problem.path, f"/{path}")
                    self.assertLess(len(problem.message), 200)

    def test_a_missing_field_is_named(self) -> None:
        doc = document()
        del doc["shower"]["drain"]
        with self.assertRaises(PlanError) as caught:
            plan_from(doc)
        self.assertEqual(caught.exception.problems[0].path, "/shower/drain")

    def test_the_shower_may_not_cross_an_inner_corner(self) -> None:
        doc = document(outline=[[0, 0], [1900, 0], [1900, 1700], [0, 1700]])
        doc["room"]["outline"] = [[0, 0], [2400, 0], [2400, 1800], [1200, 900], [0, 1800]]
        with self.assertRaises(PlanError) as caught:
            plan_from(doc)
        self.assertIn("outside the room", caught.exception.problems[0].message)

    def test_files_that_are_no_plans(self) -> None:
        for text, word in [
            ("", "not JSON"),
            ("[1]", "JSON object"),
            ('{"room": NaN}', "NaN"),
            ("[" * 100_000, "JSON"),
            ("x" * 4_000_001, "bytes"),
        ]:
            with self.subTest(text=text[:12]), self.assertRaises(PlanError) as caught:
                read_plan(text)
            self.assertIn(word, caught.exception.problems[0].message)

    @given(
        st.recursive(
            st.none() | st.floats() | st.text(),
            lambda c: st.lists(c) | st.dictionaries(st.text(), c),
        )
    )
    def test_any_value_anywhere_is_read_or_refused(self, value: object) -> None:
        for part in ("room", "shower", "floor", "job"):
            doc = document()
            doc[part] = value
            with self.assertRaises(PlanError):
                plan_from(doc)


class DocumentTest(unittest.TestCase):
    def test_reads_back_what_it_writes(self) -> None:
        for plan in [
            *demo_plans(),
            starting("New", "mm", "uk"),
            starting("N", "ft", "uk"),
        ]:
            self.assertEqual(read_plan(plan.model_dump_json()), plan)

    def test_reading_leaves_the_document_alone(self) -> None:
        doc = document()
        before = copy.deepcopy(doc)
        plan_from(doc)
        self.assertEqual(doc, before)

    def test_every_measure_has_a_pointer(self) -> None:
        plan = plan_from(document())
        found = {path: (kind, value) for path, kind, value in quantities(plan)}
        self.assertEqual(found["/shower/outline/2/1"], ("length", 1800))
        self.assertEqual(found["/shower/fall/asked"], ("fall", 1 / 60))
        self.assertEqual(found["/floor/direction"], ("angle", 90))
        self.assertEqual(found["/room/layers/2/thickness"], ("length", 10))
        self.assertNotIn("/room/doors/0/wall", found)
        raw = json.loads(plan.model_dump_json())
        for path, (_, value) in found.items():
            place = raw
            for step in path[1:].split("/"):
                place = place[int(step)] if isinstance(place, list) else place[step]
            self.assertEqual(place, value, path)

    def test_a_plan_of_version_2_means_the_same(self) -> None:
        old = plan_from(document() | {"version": 2})
        self.assertEqual(old.version, VERSION)
        self.assertEqual(old.shower.fall.edge, "level")
        self.assertIsNone(old.shower.rest)
        self.assertEqual(old.shower.former, plan_from(document()).shower.former)
        self.assertEqual(old.water.heads[0].flow_l_min, 9)

    def test_joists_cannot_stand_in_each_other(self) -> None:
        doc = document()
        doc["floor"]["centres"] = 40
        with self.assertRaises(PlanError) as caught:
            plan_from(doc)
        self.assertEqual(caught.exception.problems[0].path, "/floor/centres")
        self.assertIn("45 mm wide cannot stand 40 mm", caught.exception.problems[0].message)

    def test_a_refusal_speaks_the_unit_of_its_job(self) -> None:
        """Every number that has a unit, of every demo job, out of all bounds: an inch job names no
        millimetre, a metric one no inch."""
        refused = 0
        for plan in demo_plans():
            pointers = [(path, kind) for path, kind, _ in quantities(plan) if kind == "length"]
            inches = plan.display.length == "in"
            for path, _ in pointers[:: 120 // some(20)]:
                for value in (-60_000.0, -1.0, 0.0, 3000.0, 48_000.0):
                    doc = plan.model_dump(mode="json")
                    *parents, last = path.strip("/").split("/")
                    at: Any = doc
                    for step in parents:
                        at = at[int(step)] if isinstance(at, list) else at[step]
                    at[int(last) if isinstance(at, list) else last] = value
                    try:
                        plan_from(doc)
                    except PlanError as wrong:
                        for problem in wrong.problems:
                            refused += 1
                            other = r"\bmm\b|\bcm\b|\d m\b" if inches else r"\d\""
                            self.assertIsNone(re.search(other, problem.message), problem)
                            bare = re.findall(
                                r"(?<![\w/])\d{3,}(?!\d|\.| ?mm| ?m\b|\"|/| \d)", problem.message
                            )
                            self.assertEqual(bare, [], problem)
        self.assertGreater(refused, 10 * some(20))

    def test_the_committed_schemas_are_those_of_the_models(self) -> None:
        for name, text in schemas().items():
            committed = (ROOT / "docs" / "schema" / name).read_text("utf-8")
            self.assertEqual(committed, text, f"run script/format to renew docs/schema/{name}")

    def test_plans_are_frozen(self) -> None:
        plan = plan_from(document())
        with self.assertRaises(ValueError):
            plan.job = None  # type: ignore[assignment, misc]
        self.assertIsInstance(plan, Plan)


class AssumedTest(unittest.TestCase):
    """What a new job starts with is assumed until somebody typed or confirmed it."""

    def test_every_measure_of_a_new_job_is_assumed_and_told(self) -> None:
        for length in ("mm", "in"):
            plan = starting("Attic", length, "uk")  # type: ignore[arg-type]
            told = answered(plan).assumed
            self.assertIn("/shower/layers/0/thickness", told.paths)
            self.assertIn("/floor/centres", told.paths)
            # Both rooms' widths and depths, the shower's corner and the channel's two ends count.
            self.assertEqual(told.text, f"rests on {told.count - 4} assumed measures and 4 choices")
            self.assertEqual(len(told.listed), told.count)
            listed = {item.name: item.text for item in told.listed}
            wide = {"mm": "2400 mm", "in": '96"'}[length]
            self.assertEqual((listed["room: width"], listed["floor: kind"]), (wide, "joists"))
            self.assertEqual(listed["floor: joist direction"], "0°")
            self.assertEqual(listed["drain: kind"], "Narrow channel on deck and board")
            self.assertLess(told.count, len(told.paths))
            values = {path for path, _, _ in quantities(plan)}
            choices = {
                "/floor/kind",
                "/room/doors/0/hinge",
                "/room/doors/0/swing",
                "/waste/family/id",
            }
            self.assertEqual(set(told.paths) - values, choices)

    def test_the_count_is_of_what_is_still_there(self) -> None:
        doc = document() | {"version": 4}
        for paths, text in (
            ([], ""),
            (["/room/layers/0/thickness"], "rests on 1 assumed measure"),
            (["/room/layers/9/thickness", "/nowhere"], ""),
            (
                ["/room/outline/1/0", "/room/outline/2/0", "/room/outline/2/1"],
                "rests on 2 assumed measures",
            ),
        ):
            self.assertEqual(solved(doc | {"assumed": paths}).assumed.text, text)

    def test_older_plans_are_measured_and_their_staff_is_read(self) -> None:
        plan = plan_from(document() | {"version": 3, "laser": 1234})
        self.assertEqual((plan.assumed, plan.setting_out.staff_on_high_spot), ((), 1234))
