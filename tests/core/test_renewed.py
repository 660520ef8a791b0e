"""A plan keeps the build system that it was filled from: told where that has changed since."""

import unittest

from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Finding
from calm_basin.core.solution import Solution
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan
from calm_basin.plan.system import BuildSystem, TrayForm
from calm_basin.rules import build_systems
from tests.core.test_systems import built
from tests.plans import answered, offering
from tests.sweeps import each, sweep

LOW = demo_plans()[1]


def told(solution: Solution) -> list[Finding]:
    return [f for f in solution.findings if f.code == "system_renewed"]


def by(plan: Plan, system: BuildSystem, **parts: object) -> Plan:
    """A plan filled from an edition of a system in which some parts were others."""
    return built(plan, system.model_copy(update=parts))


class RenewedTest(unittest.TestCase):
    def test_nothing_is_told_of_a_system_as_it_ships_or_of_other_words(self) -> None:
        for system in each(build_systems().values()):
            with self.subTest(system.id):
                self.assertEqual(told(answered(built(LOW, system))), [])
                other = system.model_copy(update={"says": "Said otherwise.", "name": "Another"})
                source = other.former.model_copy(update={"document": "Another text"})
                reworded = by(LOW, other, former=source)
                self.assertEqual(told(answered(reworded)), [])

    def test_each_part_that_makes_the_plan_is_named(self) -> None:
        system = build_systems()["foam-tray-poured-deck"]
        assert isinstance(system.former, TrayForm)
        thicker = system.former.model_copy(update={"edge_thickness": 38.0})
        tile = system.layers.shower[0].model_copy(update={"thickness": 13.0})
        layers = system.layers.model_copy(update={"shower": (tile, *system.layers.shower[1:])})
        for name, old, named in (
            ("former", thicker, "what makes the falls"),
            ("layers", layers, "layers"),
            ("base", "rigid-pan", "what carries it"),
            ("pour", None, "pour"),
        ):
            with self.subTest(name):
                (finding,) = told(answered(by(LOW, system, **{name: old})))
                self.assertTrue(finding.title.endswith(f": {named}"), finding.title)

    @sweep
    def test_filled_anew_it_is_the_plan_of_the_system_as_it_is(self) -> None:
        for system in each(s for s in build_systems().values() if isinstance(s.former, TrayForm)):
            assert isinstance(system.former, TrayForm)
            edge = system.former.edge_thickness + 1
            former = system.former.model_copy(update={"edge_thickness": edge})
            old = by(LOW, system, former=former)
            with self.subTest(system.id):
                (finding,) = told(offering(old))
                anew, alone = finding.cures
                self.assertEqual(alone.text, "Plan on without a build system")
                self.assertEqual(changed(old, anew.changes), built(old, system))
                for cure in finding.cures:
                    self.assertEqual(told(answered(changed(old, cure.changes))), [])

    def test_a_raised_zone_of_before_its_base_had_a_height_needs_no_recess_any_more(self) -> None:
        system = build_systems()["raised-zone-extension"]
        flat = system.former.model_copy(update={"base": 0.0})
        old = by(LOW, system, former=flat)
        before = offering(old)
        self.assertGreater(before.figures.recess_needed.value or 0, 1)
        (finding,) = told(before)
        self.assertEqual(finding.cures[0].text, "Fill the plan from the system as it is now")
        after = answered(changed(old, finding.cures[0].changes))
        self.assertEqual(after.figures.recess_needed.text, "none")
