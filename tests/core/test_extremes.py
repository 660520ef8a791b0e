"""Every valid plan is answered, and what is not sensible is refused with its field."""

import unittest
from typing import get_args

from calm_basin.core.answer.result import Part
from calm_basin.plan import PlanError, plan_from, read_plan
from calm_basin.plan.agreement import LONGEST_ROOM, MOST_JOISTS
from calm_basin.plan.base import MOST_CORNERS
from calm_basin.plan.survey import MOST_READINGS
from tests.core.test_survey import sloping, surveyed
from tests.extremes import extreme, valid
from tests.plans import L_SHAPE, Document, channel, document, moved, point, wholly
from tests.sweeps import some, sweep

PARTS: tuple[Part, ...] = tuple(part for part in get_args(Part) if part != "ways")

SQUARE = [[0, 0], [2000, 0], [2000, 2000], [0, 2000]]


def room(walls: list[list[float]], **shower: object) -> Document:
    doc = document(**shower)
    doc["room"] |= {"outline": walls, "doors": []}
    return doc


class AnsweredTest(unittest.TestCase):
    @sweep
    def test_plans_by_chance_at_the_edge_of_what_is_sensible(self) -> None:
        met = set()
        for seed, plan in valid(some(20)):
            with self.subTest(seed=seed):
                solution = wholly(plan, parts=PARTS)
                met.add(solution.complete)
                for finding in solution.findings:
                    self.assertTrue(finding.title and finding.detail and finding.source)
                stops = [f for f in solution.findings if f.severity == "stop"]
                self.assertTrue(solution.complete or stops)
        self.assertEqual(met, {True, False})

    @sweep
    def test_turned_mirrored_in_inches_with_the_drain_at_the_edge(self) -> None:
        answered = 0
        for seed in range(100, 100 + some(40)):
            doc = extreme(seed)
            drain = doc["shower"]["drain"]
            if drain["kind"] == "point":
                left = min(x for x, _ in doc["shower"]["outline"])
                drain |= {"orientation": 0, "centre": [left + drain["width"] / 2 + seed % 3, 300]}
            turned = moved(doc, turn=seed * 7.3, mirror=seed % 2 == 0)
            turned["survey"] = {}
            turned["display"] = {"length": ("in", "ft")[seed % 2], "fraction": 16}
            try:
                plan = plan_from(turned)
            except PlanError:
                continue
            answered += 1
            with self.subTest(seed=seed):
                solution = wholly(plan, parts=PARTS)
                self.assertTrue(solution.complete or solution.findings)
        self.assertGreater(answered, 13)

    def test_shapes_that_once_had_no_answer(self) -> None:
        star = extreme(0)["room"]["outline"]
        self.assertGreaterEqual(len(star), 3)
        u_shape = [[0, 0], [3000, 0], [3000, 2000], [2000, 2000], [2000, 600], [1000, 600]]
        u_shape += [[1000, 2000], [0, 2000]]
        narrow = [[0, 0], [2000, 0], [2000, 320], [320, 320], [320, 2000], [0, 2000]]
        level = {"asked": 1 / 100, "walls": "level"}
        for name, doc in {
            "a whole room in two zones with level walls": room(
                SQUARE, outline=SQUARE, rest=level, drain=point(900, 900)
            ),
            "two drains over a tray that is extended": document(
                former={
                    "kind": "tray",
                    "edge_thickness": 30,
                    "cuts": [{"edge": 1, "width": -300}],
                },
                drain=point(350, 1350),
                second_drain=point(1150, 1350),
            ),
            "a shower as deep as its channel is wide": room(
                SQUARE,
                outline=[[0, 0], [1500, 0], [1500, 200], [0, 200]],
                drain=channel(0, 100, 1500, 100, 200),
            ),
            "a U with two drains": room(
                u_shape, outline=u_shape, drain=point(500, 1500), second_drain=point(2500, 1500)
            ),
            "an L with two drains on its ridge": room(
                [[0, 0], [1500, 0], [1500, 1800], [0, 1800]],
                outline=L_SHAPE,
                drain=point(900, 850),
                second_drain=point(950, 950),
            ),
            "a narrow L whose channel lies outside": room(
                narrow, outline=narrow, drain=channel(900, 900, 1900, 900)
            ),
        }.items():
            with self.subTest(name):
                solution = wholly(plan_from(doc), parts=PARTS)
                self.assertTrue(solution.complete or solution.findings)

    def test_the_zone_that_is_the_whole_room_is_the_level_edge_floor(self) -> None:
        drain, level = point(900, 900), {"asked": 1 / 100, "walls": "level"}
        alone = wholly(plan_from(room(SQUARE, outline=SQUARE, drain=drain)))
        zoned = wholly(plan_from(room(SQUARE, outline=SQUARE, drain=drain, rest=level)))
        self.assertAlmostEqual(
            zoned.figures.drop_at_drain.value or 0,
            alone.figures.drop_at_drain.value or 1,
            delta=0.1,
        )


class RefusedTest(unittest.TestCase):
    def refused(self, doc: Document, path: str) -> str:
        with self.assertRaises(PlanError) as caught:
            plan_from(doc)
        first = caught.exception.problems[0]
        self.assertEqual(first.path, path)
        self.assertTrue(first.message.endswith("."))
        return first.message

    def test_sizes_on_either_side_of_each_limit(self) -> None:
        across = LONGEST_ROOM / 2**0.5
        for size, path in ((across - 1, None), (across + 1, "/room/outline")):
            doc = room([[0, 0], [size, 0], [size, size], [0, size]])
            doc["floor"]["centres"] = 600
            if path:
                self.assertIn("Check its sizes", self.refused(doc, path))
            else:
                plan_from(doc)
        for deep, refused in ((205, False), (195, True)):
            doc = document(outline=[[0, 900], [1500, 900], [1500, 900 + deep], [0, 900 + deep]])
            if refused:
                self.refused(doc, "/shower/outline")
            else:
                plan_from(doc)
        for centres, refused in ((3000 / MOST_JOISTS + 46, False), (0.002, True), (1e-12, True)):
            doc = document()
            doc["floor"] |= {"centres": centres}
            if refused:
                self.refused(doc, "/floor/centres")
            else:
                plan_from(doc)

    def test_what_is_no_room(self) -> None:
        strip = [[0, 0], [1500, 0], [1500, 1], [0, 1]]
        self.refused(room(strip, outline=strip), "/room/outline")
        self.refused(document(outline=[[x, y / 1800] for x, y in SQUARE]), "/shower/outline")
        comb = [[float(20 * i), 0.0 if i % 2 else 900.0] for i in range(MOST_CORNERS + 1)]
        self.refused(room(comb), "/room/outline")
        bag = {"kind": "pour", "bag_litres": 1e-9}
        self.refused(surveyed(sloping(0.003), correction=bag), "/survey/correction/bag_litres")
        readings = [
            {"kind": "height", "x": i, "y": 0, "height": 0} for i in range(MOST_READINGS + 1)
        ]
        self.refused(document() | {"version": 7, "survey": {"levels": readings}}, "/survey/levels")

    def test_many_errors_are_cut_and_counted(self) -> None:
        readings = [{"kind": "height", "x": "x", "y": 0, "height": 0}] * 900
        with self.assertRaises(PlanError) as caught:
            plan_from(document() | {"version": 7, "survey": {"levels": readings}})
        problems = caught.exception.problems
        self.assertEqual(len(problems), 41)
        self.assertIn("860 more", problems[-1].message)

    def test_what_is_exported_can_be_read_again(self) -> None:
        readings = [
            {
                "kind": "staff",
                "x": 1.2345 + i / 7,
                "y": 2.3456 + i / 11,
                "reading": 1234.5678 + i / 13,
            }
            for i in range(MOST_READINGS)
        ]
        plan = plan_from(document() | {"version": 7, "survey": {"levels": readings}})
        self.assertEqual(read_plan(plan.model_dump_json(indent=2)), plan)
