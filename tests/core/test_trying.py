"""What is offered was made on the plan first, and opened no stop."""

import random
import re
import unittest
from collections import Counter
from contextlib import suppress
from itertools import count
from typing import Any
from unittest import mock

from hypothesis import assume, given
from hypothesis import strategies as st

from calm_basin.core.answer.build import TO_SIGN
from calm_basin.core.answer.case import key_of, looked_at
from calm_basin.core.answer.changes import changed
from calm_basin.core.solution import Solution
from calm_basin.core.solve import solve
from calm_basin.core.systems.fitting import fitted
from calm_basin.core.worked import Worked
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.rules import build_systems, drain_families
from tests.core.test_falls import channel_floors, point_floors
from tests.core.test_offers import documents
from tests.extremes import extreme
from tests.plans import (
    Document,
    answered,
    channel,
    cured,
    document,
    offering,
    point,
    solved,
    tray,
    wet_room,
)
from tests.sweeps import examples, some, sweep


def stops(solution: Solution) -> dict[tuple[str, str, str], float]:
    """Stops by code, for whom and by whose limit, with how far each is beyond."""
    return {
        (f.code, f.applies_to, f.source): abs((f.measured or 0.0) - (f.limit or 0.0))
        for f in solution.findings
        if f.severity == "stop"
    }


class GoesOnTest(unittest.TestCase):
    """One answer after another to the same plan is as each of them alone."""

    def test_of_plans_with_much_to_fix_and_of_one_without_a_floor(self) -> None:
        outside = plan_from(document(drain=point(3000, 1350)))
        self.assertFalse(answered(outside).complete)
        for plan in (outside, *broken_jobs()[: some(20)]):
            worked = Worked(plan)
            with mock.patch(
                "calm_basin.core.answer.question.looked_at", side_effect=looked_at
            ) as look:
                answers = [
                    worked.solution(parts, cures=cures)
                    for parts, cures in (((), False), (("water",), True), (("days", "water"), True))
                ]
            self.assertEqual(look.call_count, 0 if plan is outside else 1, plan.job.name)
            alone = [
                solve(plan, cures=False),
                solve(plan, parts=("water",)),
                solve(plan, parts=("water", "days")),
            ]
            self.assertEqual(answers, alone)


def broken_jobs() -> list[Plan]:
    """The demo jobs that must be mended before they are built."""
    jobs = [plan for plan in demo_plans() if stops(answered(plan))]
    assert len(jobs) > 1
    return jobs


@st.composite
def plans(draw: st.DrawFn) -> Document:
    """Showers of every build with something broken in most of them."""
    wide, deep = draw(st.integers(800, 2000)), draw(st.integers(700, 1100))
    drain = draw(
        st.one_of(
            st.builds(point, st.integers(150, 700), st.integers(1150, 1600), st.just(100)),
            st.just(channel(0, 1765, wide, 1765)),
            st.just(channel(0, 900 + 35, wide, 900 + 35)),
        )
    )
    former = draw(
        st.sampled_from(
            [
                {"kind": "bed", "least_thickness": 12},
                {"kind": "bed", "least_thickness": 35},
                tray(30),
                tray(18, raised=9),
                {"kind": "panels", "thin_edge": 6, "thick_edge": 25, "length": 1200},
            ]
        )
    )
    outline = [[0, 1800 - deep], [wide, 1800 - deep], [wide, 1800], [0, 1800]]
    doc = document(
        outline=outline,
        drain=drain,
        former=former,
        set_down=draw(st.sampled_from([0, 8, 25])),
        fall={"asked": draw(st.sampled_from([1 / 100, 1 / 60, 1 / 48, 1 / 30]))},
    )
    doc["rule_set"] = draw(st.sampled_from(["us-dwelling", "uk", "norway"]))
    return doc


class OpensNothingTest(unittest.TestCase):
    def held(self, plan: Plan, before: Solution) -> int:
        tried = 0
        was = stops(before)
        cautions = {f.title for f in before.findings}
        for finding in before.findings:
            for cure in finding.cures:
                mended = changed(plan, cure.changes)
                self.assertNotEqual(mended, plan, cure.text)
                # As a file it is read back: all its parts agree.
                self.assertEqual(plan_from(mended.model_dump(mode="json")), mended, cure.text)
                after = answered(mended)
                self.assertTrue(after.complete)
                # A change for an engineer says that one has to sign, and stays a stop until then.
                now = {key for key in stops(after) if key[0] != TO_SIGN}
                if before.complete:
                    self.assertLessEqual(now, was.keys(), cure.text)
                codes = [(f.code, f.applies_to, f.source) for f in after.findings]
                self.assertNotIn((finding.code, finding.applies_to, finding.source), codes)
                keys = {(f.code, f.applies_to, f.source) for f in before.findings}
                opened = {
                    f.title for f in after.findings if (f.code, f.applies_to, f.source) not in keys
                }
                if before.complete:
                    self.assertLessEqual(opened, set(cure.opens) | cautions, cure.text)
                tried += 1
        return tried

    @examples(30, least=60)
    @given(plans())
    def test_no_cure_opens_a_stop_and_every_caution_is_said(self, doc: Document) -> int:
        try:
            plan = plan_from(doc)
        except PlanError:
            assume(False)
        return self.held(plan, offering(plan))

    @examples(25, least=50)
    @given(
        st.one_of(point_floors(), channel_floors()),
        st.sampled_from(["us-dwelling", "uk"]),
        st.floats(5, 40),
        st.floats(0, 40),
    )
    def test_nor_in_showers_of_any_shape(
        self, doc: Document, rules: str, bed: float, down: float
    ) -> int:
        doc["rule_set"] = rules
        doc["shower"]["former"] = {"kind": "bed", "least_thickness": bed}
        doc["shower"]["set_down"] = down
        plan = plan_from(doc)
        return self.held(plan, offering(plan))

    @sweep
    def test_of_the_demo_and_all_arrangements_too(self) -> None:
        tried = sum(self.held(plan, offering(plan)) for plan in map(plan_from, documents()))
        self.assertGreater(tried, 40)

    @sweep
    def test_of_plans_that_a_system_filled(self) -> None:
        plans = demo_plans()
        tried = 0
        for i, system in enumerate(build_systems().values()):
            rooms = [p for p in plans if p.floor.kind in system.floors and not p.shower.rest]
            plan = fitted(rooms[i % len(rooms)], system, drain_families()[system.family])
            tried += self.held(plan, offering(plan))
        self.assertGreater(tried, 20)

    def test_a_depth_that_would_leave_planes_too_flat_is_not_offered(self) -> None:
        # 1:59 would find the depth and leave the long planes under 1:48.
        outline = [[0, 1000], [2000, 1000], [2000, 1800], [0, 1800]]
        doc = document(outline=outline, drain=point(1000, 1400), fall={"asked": 1 / 48})
        finding = next(f for f in cured(doc).findings if f.code == "recess_over_available")
        self.assertTrue(finding.cures)
        self.assertNotIn("/shower/fall/asked", [c.changes[0].path for c in finding.cures])

    def test_a_raised_wet_room_keeps_its_bed_the_lowest_layer(self) -> None:
        doc = wet_room(former={"kind": "bed", "least_thickness": 40})
        doc["room"]["layers"] = [
            {"name": n, "thickness": t} for n, t in (("tile", 10), ("adhesive", 4), ("screed", 30))
        ]
        before = cured(doc)
        recess = next(f for f in before.findings if f.code == "recess_over_available")
        raise_it = next(c for c in recess.cures if c.changes[0].path == "/room/layers")
        after = answered(changed(plan_from(doc), raise_it.changes))
        self.assertEqual(
            [row["name"] for row in raise_it.changes[0].value], ["tile", "adhesive", "screed"]
        )
        height = {
            s: next(f for f in solution.findings if f.code == "membrane_low_at_door").measured
            for s, solution in (("before", before), ("after", after))
        }
        # Room and drain rise together; tile and adhesive, 14 mm, still lie on the membrane.
        self.assertAlmostEqual(height["before"], height["after"], places=6)
        drop = after.figures.room_level.value - after.figures.drain_level.value
        self.assertAlmostEqual(height["after"], drop - 14, places=6)
        self.assertNotIn("rest_too_thin", [f.code for f in after.findings])


class DirectionTest(unittest.TestCase):
    """A step binds both ways and says which way it goes."""

    @examples(40)
    @given(st.integers(0, 40), st.integers(0, 40))
    def test_packed_up_and_set_down(self, raised: int, down: int) -> None:
        doc = document(former=tray(45, raised=raised), set_down=down) | {"rule_set": "uk"}
        doc["floor"] = doc["floor"] | {"deck_thickness": 100}
        solution = cured(doc)
        step = down - raised
        self.assertAlmostEqual(solution.figures.step_at_entry.value, step, places=6)
        word = "flush" if step == 0 else f"{abs(step)} mm {'down' if step > 0 else 'up'}"
        self.assertEqual(solution.figures.step_at_entry.text, word)
        codes = ("step_over_limit", "edge_too_upright")
        found = [f for f in solution.findings if f.code in codes]
        # Approved Document M: 15 mm, over 5 mm chamfered (from memory).
        self.assertEqual(
            [f.severity for f in found],
            ["stop"] if abs(step) > 15 else ["caution"] if abs(step) > 5 else [],
        )
        for finding in found:
            way = "down" if step > 0 else "up"
            self.assertTrue(finding.title.startswith(f"{abs(step)} mm step {way} at the entry"))
            self.assertTrue(finding.cures)
            self.assertNotIn("−", finding.title + finding.detail)


class BuiltInFallTest(unittest.TestCase):
    """Trays and panels have their own fall, whatever is asked for or packed under them."""

    @examples(40)
    @given(st.integers(10, 40), st.integers(0, 12), st.sampled_from([1 / 60, 1 / 40, 1 / 25]))
    def test_packing_does_not_thicken_a_tray(self, edge: int, raised: int, fall: float) -> None:
        doc = document(former=tray(edge, raised=raised), fall={"asked": fall})
        # 792.6 mm: the longest run of this shower, corner to rim.
        run = ((690) ** 2 + (390) ** 2) ** 0.5
        codes = [f.code for f in solved(doc).findings]
        self.assertEqual("tray_too_thin" in codes, edge <= run * fall)

    @examples(40)
    @given(st.integers(12, 45), st.integers(600, 1500), st.sampled_from([1 / 100, 1 / 48, 1 / 30]))
    def test_panels_decide_the_fall(self, thick: int, length: int, asked: float) -> None:
        panels = {"kind": "panels", "thin_edge": 6, "thick_edge": thick, "length": length}
        doc = document(drain=channel(0, 1765, 1500, 1765), former=panels, fall={"asked": asked})
        solution = solved(doc)
        own = (thick - 6) / length
        self.assertAlmostEqual(solution.figures.drop_at_drain.value, own * 830, places=6)
        self.assertAlmostEqual(solution.figures.fall_flattest.value, own, places=9)
        # 1:48 at least: IRC P2709.1 (from memory).
        flat = [f for f in solution.findings if f.code == "fall_under_least"]
        self.assertEqual([f.severity for f in flat], ["stop"] if own < 1 / 48 * (1 - 1e-6) else [])
        span = next(s for s in solution.corridor.spans if s.label == "Fall of the panels")
        self.assertAlmostEqual(span.now, own)

    @examples(20)
    @given(st.floats(0, 12), st.floats(0, 8))
    def test_a_packed_tray_in_a_wet_room_dams_the_rest(self, raised: float, down: float) -> None:
        doc = wet_room(former=tray(60, raised=raised), set_down=down)
        dam = [f for f in solved(doc).findings if f.code == "zone_edge_dams"]
        above = raised - down
        assume(abs(above - 0.1) > 0.3)
        self.assertEqual(bool(dam), above > 0.1)
        if dam:
            self.assertAlmostEqual(dam[0].measured, above, delta=0.15)
            self.assertEqual(dam[0].severity, "stop")


class IdentityTest(unittest.TestCase):
    """What tells one finding from another: whatever goes by the same name is told apart."""

    def test_no_two_findings_of_a_plan_are_the_same_one(self) -> None:
        """Every demo job for people in chairs, its fixtures three times over, all of one name and
        anywhere, its doors twice, its layers of one name."""
        looked = 0
        for number, plan in enumerate(demo_plans()):
            doc = plan.model_dump(mode="json")
            room, chance = doc["room"], random.Random(number)
            doc["users"] = ["chair"]
            toilet = {"name": "x", "kind": "WC", "width": 380, "length": 700, "turn": 0.0}
            middle = [
                sum(xy[axis] for xy in room["outline"]) / len(room["outline"]) for axis in (0, 1)
            ]
            copies = [fixture | {"name": "x"} for fixture in room["fixtures"] * 3]
            room["fixtures"] = [*copies, *[toilet | {"centre": middle} for _ in range(2)]]
            for fixture in room["fixtures"]:
                fixture["centre"] = [v + chance.uniform(-200, 200) for v in fixture["centre"]]
            room["doors"] = room["doors"] * 2
            room["layers"] = [layer | {"name": "layer"} for layer in room["layers"]]
            try:
                found = answered(plan_from(doc)).findings
            except PlanError:
                continue
            keys = [key_of(finding) for finding in found]
            self.assertEqual(len(keys), len(set(keys)), [k for k in keys if keys.count(k) > 1])
            looked += len(keys)
        self.assertGreater(looked, 60)

    LISTS = (
        "/room/doors",
        "/room/fixtures",
        "/services",
        "/walls/niches",
        "/floor/others",
        "/floor/members",
        "/floor/beams",
        "/survey/levels",
        "/shower/former/cuts",
    )
    """What a plan lists in no order of its own."""

    def shuffled(self, plan: Plan, chance: random.Random) -> tuple[Plan, int]:
        """The plan with all that is listed in another order and of one name, and how many lists
        that were; what is assumed is assumed of the same things."""
        doc, moved = plan.model_dump(mode="json"), 0
        for path in self.LISTS:
            at: Any = doc
            for step in path.strip("/").split("/"):
                at = at.get(step) if isinstance(at, dict) else None
            if not at:
                continue
            order = list(range(len(at)))
            chance.shuffle(order)
            moved += order != sorted(order)
            at[:] = [at[i] | ({"name": "one"} if "name" in at[i] else {}) for i in order]
            doc["assumed"] = [
                re.sub(
                    rf"^{path}/(\d+)(?=/|$)",
                    lambda found, path=path, order=order: f"{path}/{order.index(int(found[1]))}",  # type: ignore[misc]
                    pointer,
                )
                for pointer in doc["assumed"]
            ]
        return plan_from(doc), moved

    def test_in_another_order_and_of_one_name_all_is_found_and_mended_alike(self) -> None:
        plans, seeds = demo_plans()[: some(99)], count()
        while len(plans) < some(40):
            with suppress(PlanError):
                plans.append(plan_from(extreme(next(seeds))))
        lists = 0
        for number, plan in enumerate(plans):
            other, moved = self.shuffled(plan, random.Random(number))
            lists += moved
            found, again = (
                Counter(
                    (f.code, f.severity, f.measured and round(f.measured, 5), f.limit, len(f.cures))
                    for f in offering(one).findings
                )
                for one in (plan, other)
            )
            self.assertEqual(found, again, plan.job.name)
        self.assertGreaterEqual(lists, some(20) // 2)

    def test_each_of_two_of_one_name_is_cured(self) -> None:
        """Two WCs, both too near their side wall: both findings have their own change."""
        doc = document(
            outline=[[0, 900], [900, 900], [900, 1800], [0, 1800]], drain=point(450, 1350)
        )
        doc |= {"version": 4, "rule_set": "us-accessible", "users": ["chair"]}
        doc["room"]["outline"] = [[0, 0], [4000, 0], [4000, 1800], [0, 1800]]
        doc["room"]["fixtures"] = [
            {
                "name": "WC",
                "kind": "WC",
                "centre": [x, 1450],
                "width": 380,
                "length": 700,
                "turn": 180,
            }
            for x in (1700, 3700)
        ]
        found = [one for one in offering(plan_from(doc)).findings if one.code == "wc_beside"]
        self.assertEqual(len({key_of(one) for one in found}), len(found))
        changes = [cure.changes[0].path for one in found for cure in one.cures]
        self.assertIn("/room/fixtures/1/centre", changes)
        self.assertIn("WC 2", " ".join(cure.text for one in found for cure in one.cures))
