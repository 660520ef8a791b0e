"""Findings: what is broken, for whom, and that every cure on offer cures it."""

import re
import unittest
from pathlib import Path
from typing import Any, get_args

from hypothesis import given
from hypothesis import strategies as st

from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Finding
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.plan import PlanError, plan_from
from calm_basin.rules import TITLES, rule_sets
from calm_basin.rules.ruleset import FactTopic, LimitTopic, SpaceTopic
from tests.plans import (
    Document,
    answered,
    channel,
    cured,
    document,
    layers,
    offering,
    point,
    solved,
    tray,
    ways_of,
)
from tests.sweeps import each, examples

ROOT = Path(__file__).parents[2]


def coded(solution: Solution, code: str, severity: str | None = None) -> Finding:
    found = [f for f in solution.findings if f.code == code and severity in (None, f.severity)]
    assert found, f"no finding {code} among {[f.code for f in solution.findings]}"
    return found[0]


class NarrowShowerTest(unittest.TestCase):
    """A narrow shower with a central point drain: which planes, for whom, what cures it."""

    def setUp(self) -> None:
        self.solution = cured(document(fall={"asked": 1 / 48}))

    def test_says_which_planes_are_too_steep_and_for_whom(self) -> None:
        anyone = coded(self.solution, "fall_over_most", "stop")
        self.assertEqual({place.name for place in anyone.places}, {"entry", "back"})
        # 1:24 at most: IRC P2709.1 (from memory).
        self.assertAlmostEqual(anyone.limit, 1 / 24)
        self.assertIn("IRC P2709.1", anyone.source)
        self.assertIn("from memory", anyone.source)
        chair = coded(self.solution, "fall_over_most", "caution")
        # 1:48 at most in clear floor and turning space: ADA Standards 2010, 304.2 (from memory).
        self.assertAlmostEqual(chair.limit, 1 / 48)
        self.assertEqual(chair.applies_to, "a person in a chair")
        self.assertEqual({p.name for p in chair.places}, {"entry", "back", "left", "right"})

    def test_says_how_far_out_it_is(self) -> None:
        anyone = coded(self.solution, "fall_over_most", "stop")
        # 390 mm of run at 1:23.6 instead of 1:24.
        self.assertIn("0.3 mm", anyone.detail)

    def test_a_channel_along_the_back_cures_both(self) -> None:
        for severity in ("stop", "caution"):
            finding = coded(self.solution, "fall_over_most", severity)
            cure = next(c for c in finding.cures if "channel" in c.text)
            mended = answered(changed(plan_from(document(fall={"asked": 1 / 48})), cure.changes))
            self.assertNotIn("fall_over_most", [f.code for f in mended.findings])


class CuresTest(unittest.TestCase):
    def cured(self, doc: Document) -> int:
        """Make every cure of every finding; return how many there were."""
        plan = plan_from(doc)
        tried = 0
        for finding in each(offering(plan).findings):
            for cure in finding.cures:
                after = answered(changed(plan, cure.changes))
                still = [
                    f
                    for f in after.findings
                    if (f.code, f.applies_to, f.severity)
                    == (finding.code, finding.applies_to, finding.severity)
                ]
                if finding.code != "fold_under_least":
                    self.assertFalse(still, f"{cure.text} left {finding.title}")
                tried += 1
        return tried

    def test_each_kind_of_finding_has_a_cure_that_cures(self) -> None:
        slab = document()
        slab["floor"] = {"kind": "slab", "thickness": 120}
        cases: list[tuple[str, Document]] = [
            ("fall_under_least", document(fall={"asked": 1 / 90})),
            ("fall_over_most", document(fall={"asked": 1 / 40})),
            ("recess_over_available", document(former={"kind": "bed", "least_thickness": 30})),
            ("step_over_limit", document(set_down=30)),
            ("channel_short", document(drain=channel(200, 1765, 1300, 1765))),
            ("tray_too_thin", document(former={"kind": "tray", "edge_thickness": 5})),
            ("drain_outside", document(drain=point(-300, 1350))),
            ("drain_outside", document(drain=channel(0, 1790, 1500, 1790))),
            ("slab_to_be_cut", slab),
        ]
        for code, doc in cases:
            with self.subTest(code=code):
                finding = coded(cured(doc), code)
                self.assertTrue(finding.cures)
                self.assertTrue(finding.field.startswith("/shower"))
                self.assertGreater(self.cured(doc), 0)

    def test_the_nearest_move_is_offered_where_there_is_room_to_move(self) -> None:
        doc = document(
            outline=[[0, 300], [1500, 300], [1500, 1800], [0, 1800]],
            drain=point(350, 1050),
            fall={"asked": 1 / 48},
        )
        finding = coded(cured(doc), "fall_over_most", "stop")
        move = next(c for c in finding.cures if c.text.startswith("Move the drain"))
        self.assertIn("right", move.text)
        self.assertLess(move.changes[0].value[0], 750)


class DepthTest(unittest.TestCase):
    @examples(30)
    @given(st.floats(0, 60), st.floats(0.1, 40))
    def test_a_deeper_bed_never_needs_less_recess(self, bed: float, more: float) -> None:
        first, second = (
            solved(document(former={"kind": "bed", "least_thickness": t}))
            for t in (bed, bed + more)
        )
        gained = second.figures.recess_needed.value - first.figures.recess_needed.value
        self.assertAlmostEqual(gained, more)

    def test_room_to_spare_is_said(self) -> None:
        doc = document()
        doc["room"]["layers"] = layers(("tile", 10), ("board", 60))
        solution = solved(doc)
        self.assertLess(solution.figures.recess_needed.value, 0)
        self.assertEqual(solution.figures.recess_needed.text, "none")
        self.assertEqual([way.code for way in ways_of(doc)], ["pack_up"])
        # A bed is cast down to the deck; a tray is packed up.
        self.assertNotIn("packing", {band.kind for band in solution.section.bands})
        doc["shower"]["former"] = tray(28)
        self.assertIn("packing", {band.kind for band in solved(doc).section.bands})

    def test_joists_are_never_a_way_that_is_offered(self) -> None:
        ways = ways_of(document(former={"kind": "bed", "least_thickness": 40}))
        structure = next(way for way in ways if way.code == "structure")
        self.assertIsNone(structure.enough)
        self.assertTrue(structure.engineer)
        self.assertEqual(structure.changes, ())
        self.assertIn("engineer", structure.costs)
        # A joist that the section crosses stands in a recess that is deeper than the deck.
        across = document(former={"kind": "bed", "least_thickness": 40})
        across["floor"] = across["floor"] | {"direction": 0, "first_offset": 1350}
        for doc, clash in (
            (across, True),
            (document(former={"kind": "bed", "least_thickness": 9}), False),
        ):
            kinds = {band.kind for band in solved(doc).section.bands}
            self.assertEqual("clash" in kinds, clash)

    def test_a_slab_gives_nothing_without_a_scan(self) -> None:
        doc = document()
        doc["floor"] = {"kind": "slab", "thickness": 120}
        solution = solved(doc)
        self.assertEqual(solution.figures.recess_available.value, 0)
        self.assertIn("scan", coded(solution, "slab_to_be_cut").detail)
        self.assertIn("slab", [caution.code for caution in solution.cautions])

    def test_what_the_trade_warns_of_stands_in_every_job(self) -> None:
        """Handbook §16, and what §17 adds to it."""
        told = {
            "silica dust",
            "asbestos",
            "Live wires",
            "licensed trades",
            "burns skin",
            "fumes",
            "gloves",
            "goggles",
            "ear protection",
            "open floor is a fall",
            "slip",
            "scald",
            "weep holes",
            "opposite sides",
            "by hand only",
            "bevel up",
            "magnet",
            "nicks",
            "sealed later",
            "do not hurry",
        }
        for plan in demo_plans():
            text = " ".join(caution.text for caution in answered(plan).cautions)
            self.assertEqual({word for word in told if word not in text}, set(), plan.job.name)
            self.assertRegex(text, r"puts about \d+ (kg|lb) on it")
            self.assertIn("engineer" if plan.floor.kind == "joists" else "scan", text)
            tray = plan.shower.former.kind == "tray"
            self.assertEqual("bead round the tray" in text, tray)
            self.assertEqual("stalls a tray" in text, tray)


class WorkingTest(unittest.TestCase):
    def test_every_key_figure_carries_its_working(self) -> None:
        for plan in demo_plans():
            for name, figure in each(answered(plan).figures):
                with self.subTest(job=plan.job.name, figure=name):
                    self.assertTrue(figure.working.formula)
                    self.assertTrue(figure.working.source)
                    self.assertTrue(figure.text)

    def test_without_falls_only_what_hangs_on_them_is_missing(self) -> None:
        solution = solved(document(drain=point(-300, 1350)))
        self.assertFalse(solution.complete)
        self.assertIsNone(solution.figures.drop_at_drain.value)
        self.assertIsNone(solution.figures.recess_needed.value)
        self.assertEqual(solution.figures.room_level.value, 24)
        tray = solved(
            document(drain=point(-300, 1350), former={"kind": "tray", "edge_thickness": 25})
        )
        self.assertAlmostEqual(tray.figures.recess_needed.value, 14)


class RuleSetTest(unittest.TestCase):
    def test_published_limits(self) -> None:
        # IRC P2709.1; BS 5385-4; BS 8300-2; Approved Document M; all from memory.
        expected: dict[str, list[tuple[str, str, Any]]] = {
            "us-dwelling": [("at_least", "required", 1 / 48), ("at_most", "required", 1 / 24)],
            "uk": [
                ("at_least", "required", 1 / 80),
                ("at_most", "required", 1 / 35),
                ("at_most", "advice", 1 / 50),
            ],
        }
        for name, limits in expected.items():
            found = [(x.binds, x.weight, x.value) for x in rule_sets()[name].on("shower_fall")]
            for limit in limits:
                self.assertIn(limit, found)
        uk = rule_sets()["uk"]
        steps = [limit.value for limit in (*uk.on("entry_step"), *uk.on("edge_upright"))]
        self.assertEqual(steps, [15, 5])

    def test_every_limit_says_where_it_is_from(self) -> None:
        for rules in rule_sets().values():
            self.assertTrue(rules.deference)
            for limit in rules.limits:
                # What has no source can not be remembered from one; what has may be checked.
                self.assertFalse(limit.from_memory and "no source" in limit.document)
                self.assertEqual("(from memory)" in limit.source, limit.from_memory)
                self.assertTrue(limit.document)
                none = limit.topic in ("turning_step", "door_swing") and limit.binds == "at_most"
                self.assertGreater(limit.value, -1 if none else 0)
            for fact in rules.facts:
                self.assertFalse(fact.from_memory and "no source" in fact.document)
                self.assertEqual("(from memory)" in fact.source, fact.from_memory)

    def test_every_limit_is_held_and_every_fact_is_not(self) -> None:
        code = "".join(
            path.read_text("utf-8") for path in (ROOT / "src/calm_basin/core").rglob("*.py")
        )
        checked = set(get_args(LimitTopic)) | set(get_args(SpaceTopic))
        self.assertEqual(checked, {topic for topic in checked if f'"{topic}"' in code})
        facts = set(get_args(FactTopic))
        self.assertEqual({t for t in facts if re.search(rf'on\("{t}"\)', code)}, set())
        self.assertEqual(set(TITLES), checked | facts)
        asked = {x.topic for rules in rule_sets().values() for x in (*rules.limits, *rules.spaces)}
        told = {x.topic for rules in rule_sets().values() for x in rules.facts}
        self.assertEqual(asked, checked)
        # Sets of one's own that were made from older ones may tell more.
        self.assertEqual(facts - told, {"door"})

    def test_an_unknown_rule_set_is_named(self) -> None:
        doc = document()
        doc["rule_set"] = "atlantis"
        with self.assertRaises(PlanError) as caught:
            solved(doc)
        self.assertEqual(caught.exception.problems[0].path, "/rule_set")
        self.assertIn("us-dwelling", caught.exception.problems[0].message)
