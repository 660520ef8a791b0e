"""Figures in words, changes to plans, and texts that stand beside every number."""

import re
import unittest

from calm_basin.core.answer.changes import EditError, changed
from calm_basin.core.answer.result import Change
from calm_basin.core.answer.words import Words
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, plan_from
from calm_basin.units import Display, parse_fall, parse_length
from tests.plans import (
    Document,
    answered,
    channel,
    document,
    offering,
    point,
    solved,
    starting,
    ways_of,
)
from tests.sweeps import each, sweep

UNITS = ("mm", "cm", "m", "in", "ft")
FORMS = ("ratio", "percent", "in_per_ft", "mm_per_m", "degrees")


def shown(length: str, fall: str = "ratio", **shower: object) -> Solution:
    doc = document(**shower)
    doc["display"] = {"length": length, "fall": fall}
    return solved(doc)


class MoveTest(unittest.TestCase):
    def test_says_which_way_and_leaves_out_what_is_nothing(self) -> None:
        words = Words(Display("mm"))
        for dx, dy, text in [
            (38, 0, "38 mm right"),
            (-38, 20.5, "38 mm left and 20.5 mm up the drawing"),
            (0.1, -7, "7 mm down the drawing"),
        ]:
            self.assertEqual(words.move(dx, dy), text)


class ChangedTest(unittest.TestCase):
    def test_changes_only_what_it_names(self) -> None:
        plan = plan_from(document())
        new = changed(plan, (Change(path="/shower/set_down", value=3.0),))
        self.assertEqual(new.shower.set_down, 3)
        self.assertEqual(new.room, plan.room)
        self.assertEqual(plan.shower.set_down, 0)
        self.assertEqual(plan_from(new.model_dump(mode="json")), new)

    def test_several_at_once(self) -> None:
        drain = channel(0, 1765, 1500, 1765)
        changes = (
            Change(path="/shower/drain", value=drain),
            Change(path="/shower/fall/asked", value=0.02),
        )
        new = changed(plan_from(document()), changes)
        self.assertEqual((new.shower.drain.kind, new.shower.fall.asked), ("linear", 0.02))

    def test_refuses_what_does_not_fit(self) -> None:
        for path, value in [("/shower/set_down", -501), ("/shower/drain", {"kind": "bucket"})]:
            with self.assertRaises(EditError):
                changed(plan_from(document()), (Change(path=path, value=value),))


INCHES = {"display": {"length": "in", "fall": "in_per_ft"}}


class UnitsEverywhereTest(unittest.TestCase):
    def numbers(self, solution: Solution) -> dict[str, float | None]:
        return {name: figure.value for name, figure in solution.figures}

    def test_units_change_no_number(self) -> None:
        reference = self.numbers(shown("mm"))
        for length in UNITS:
            for fall in FORMS:
                self.assertEqual(self.numbers(shown(length, fall)), reference)

    def test_every_text_reads_back_to_its_number(self) -> None:
        for length in UNITS:
            display = Display(length)  # type: ignore[arg-type]
            tolerance = display.step if display.imperial else 0.11
            with_digits = [
                figure
                for _, figure in shown(length).figures
                if figure.unit == "mm" and re.search(r"\d", figure.text)
            ]
            for figure in each(with_digits):
                read = parse_length(figure.text, display)
                self.assertAlmostEqual(read, figure.value, delta=tolerance, msg=figure.label)
        for form in FORMS:
            solution = shown("mm", form)
            for plane in each(solution.surface.planes):
                self.assertAlmostEqual(
                    parse_fall(plane.text) / plane.gradient, 1, delta=0.02, msg=plane.text
                )

    def test_a_recess_is_never_shown_less_deep_than_it_is(self) -> None:
        held = 0
        for bed in (7.0, 9.31, 12.77, 16.04):
            for length in UNITS:
                former = {"kind": "bed", "least_thickness": bed}
                solution = shown(length, former=former)
                display = Display(length)  # type: ignore[arg-type]
                needed = solution.figures.recess_needed
                if needed.value and needed.value > 0:
                    held += 1
                    self.assertGreaterEqual(parse_length(needed.text, display), needed.value - 1e-3)
                gives = solution.figures.recess_available
                self.assertLessEqual(parse_length(gives.text, display), gives.value + 1e-3)
        self.assertGreaterEqual(held, 3 * len(UNITS))

    def test_no_text_shows_another_unit(self) -> None:
        solution = shown("in", "in_per_ft", former={"kind": "bed", "least_thickness": 30})
        texts = [figure.text for _, figure in solution.figures]
        texts += [f.measured_text + f.limit_text + f.title for f in solution.findings]
        texts += [cure.text for f in solution.findings for cure in f.cures]
        ways = ways_of(document(former={"kind": "bed", "least_thickness": 30}) | INCHES)
        for way in each(ways):
            texts += [way.gives_text, way.title, way.material, way.left_text, way.step_text]
        assert solution.depth is not None
        texts += [one.text + one.given for one in solution.depth.flush]
        texts += [part.text for part in solution.depth.segments]
        texts += [part.text for chain in solution.chains for part in chain.parts]
        for text in texts:
            # A limit that is no fraction of an inch stands in mm beside the nearest one.
            self.assertNotRegex(text, r"\d ?(mm|cm|m)\b(?! \(just (?:under|over) )")

    @sweep
    def test_water_concrete_and_areas_are_told_in_the_units_of_the_job(self) -> None:
        metric = re.compile(r"\d ?(?:(?:mm|cm|m|L|kg|L/min)\b(?! \(just )|m²|cm²)")
        imperial = re.compile(r"\d ?(?:\"|(?:in|ft|gal|lb|cu ft|sq ft|sq in)\b)")
        told = 0
        for plan in demo_plans():
            for length, other in (("in", metric), ("mm", imperial)):
                display = plan.display.model_copy(update={"length": length, "fall": "percent"})
                solution = answered(
                    plan.model_copy(update={"display": display}), parts=("water", "ways")
                ).model_dump(mode="json")
                water, waste = solution["water"], solution["waste"]
                texts = [one["text"] for one in (*water["puddles"], *water["capacities"])]
                for name in ("holds", "overflow", "flow", "drained"):
                    figure = water[name]
                    texts += [figure["text"], *(i["text"] for i in figure["working"]["inputs"])]
                texts += [water["level_text"], *(one["text"] for one in solution["cautions"])]
                for figure in waste["trench"]:
                    texts += [figure["text"], figure["working"]["formula"]]
                    texts += [i["text"] for i in figure["working"]["inputs"]]
                texts += [way["material"] for way in solution["ways"]["listed"]]
                texts += [finding["title"] for finding in solution["findings"]]
                for text in texts:
                    self.assertNotRegex(text, other)
                told += sum(bool(re.search(r"gal|cu ft|lb|sq", text)) for text in texts)
        self.assertGreater(told, 100)

    def test_the_step_of_arrow_keys_is_what_is_shown(self) -> None:
        self.assertEqual(shown("mm").nudge, 1)
        self.assertAlmostEqual(shown("in").nudge, 25.4 / 16)
        doc = document() | {"display": {"length": "in", "fraction": 32}}
        self.assertAlmostEqual(solved(doc).nudge, 25.4 / 32)


class PlanTextsTest(unittest.TestCase):
    def test_every_measure_of_the_plan_has_its_text(self) -> None:
        texts = shown("ft").plan_texts
        self.assertEqual(texts["/room/outline/1/0"], "7' 10 1/2\"")
        self.assertEqual(texts["/shower/fall/asked"], "1:60")
        self.assertEqual(texts["/floor/direction"], "90°")
        self.assertEqual(texts["/shower/former/least_thickness"], '1/2"')

    def test_sides_are_measured(self) -> None:
        drawing = shown("mm").drawing
        self.assertEqual(drawing.room_sides, ("2400", "1800", "2400", "1800"))
        self.assertEqual(drawing.shower_sides, ("1500", "900", "1500", "900"))


class StartingPlanTest(unittest.TestCase):
    def plans(self) -> list[Plan]:
        return [starting("New", unit, rules) for unit in UNITS for rules in ("uk", "us-dwelling")]

    def test_a_new_job_stops_for_nothing(self) -> None:
        for plan in self.plans():
            solution = offering(plan)
            self.assertTrue(solution.complete)
            stops = [f.title for f in solution.findings if f.severity == "stop"]
            self.assertEqual(stops, [], plan.rule_set)

    def test_it_is_round_in_its_own_unit(self) -> None:
        for plan in self.plans():
            texts = offering(plan).plan_texts
            for i in (1, 2):
                place = texts[f"/room/outline/{i}/0"]
                self.assertIn(place, ("2400", "240", "2.4", '96"', "8'"))


class DemoTest(unittest.TestCase):
    def test_findings_name_places_inside_the_room(self) -> None:
        from shapely.geometry import Point, Polygon

        places = 0
        for plan in demo_plans():
            room = Polygon(plan.room.outline).buffer(1)
            for finding in offering(plan).findings:
                for place in finding.places:
                    places += 1
                    self.assertTrue(room.contains(Point(place.x, place.y)), finding.title)
                    self.assertTrue(place.text)
        self.assertGreater(places, 20)

    def test_fields_of_findings_are_fields_of_the_plan(self) -> None:
        docs: list[Document] = [plan.model_dump(mode="json") for plan in demo_plans()]
        docs.append(document(drain=point(-300, 1350), set_down=30))
        for doc in docs:
            for finding in each(solved(doc).findings):
                place = plan_from(doc).model_dump(mode="json")
                for step in finding.field.strip("/").split("/"):
                    self.assertIn(step, place, finding.field)
                    place = place[step]
