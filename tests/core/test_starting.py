"""What a new job starts from: what is said of it stands, all else is assumed."""

from __future__ import annotations

import random
import unittest
from typing import get_args

from calm_basin.plan import Plan, PlanError
from calm_basin.plan.starting import Said, Where, starting_plan
from calm_basin.rules import rule_sets, usual_family
from calm_basin.units import LengthUnit
from tests.plans import answered
from tests.sweeps import some


def begun(said: Said, length: LengthUnit = "mm", rules: str = "uk") -> Plan:
    return starting_plan("x", length, rules, usual_family(said.drain, "bed"), 0.0, said)


def chance_said(seed: int) -> Said:
    chance = random.Random(seed)
    wide, deep = chance.uniform(900, 3600), chance.uniform(1000, 3600)
    where: Where = chance.choice(get_args(Where))
    whole = where == "back"
    return Said(
        wide=chance.choice([wide, None]),
        deep=chance.choice([deep, None]),
        ground=chance.choice(["joists", "slab", None]),
        where=where,
        across=None if whole else chance.choice([chance.uniform(620, 900), None]),
        out=chance.choice([chance.uniform(620, 700), None]),
        drain=chance.choice(["linear", "point"]),
        users=chance.choice([(), ("walks",), ("chair", "carer")]),
        accessible=chance.random() < 0.3,
    )


class StartingTest(unittest.TestCase):
    def test_what_is_said_stands_and_all_else_is_assumed(self) -> None:
        begun_of = 0
        for seed in range(some(80)):
            said = chance_said(seed)
            chance = random.Random(seed)
            length: LengthUnit = chance.choice(["mm", "in", "ft"])
            with self.subTest(seed=seed):
                try:
                    plan = begun(said, length, chance.choice(list(rule_sets())))
                except PlanError as error:
                    # Only what a small room leaves too little of is refused, at its field.
                    fields = {problem.path for problem in error.problems}
                    self.assertLessEqual(fields, {"/wide", "/deep", "/across", "/out"})
                    self.assertTrue((said.deep or 9e3) < 1200 or (said.wide or 9e3) < 36 * 25.4)
                    continue
                begun_of += 1
                self.stands(plan, said)
        self.assertGreater(begun_of, some(80) * 0.7)

    def stands(self, plan: Plan, said: Said) -> None:
        xs, ys = (sorted({c[axis] for c in plan.room.outline}) for axis in (0, 1))
        us, vs = (sorted({c[axis] for c in plan.shower.outline}) for axis in (0, 1))
        sizes = {
            "wide": (xs[1] - xs[0], "/room/outline/1/0"),
            "deep": (ys[1] - ys[0], "/room/outline/2/1"),
            "across": (us[1] - us[0], "/shower/outline/1/0"),
            "out": (vs[1] - vs[0], "/shower/outline/0/1"),
        }
        for name, (size, path) in sizes.items():
            given = getattr(said, name)
            if given is not None:
                self.assertAlmostEqual(size, given)
            known = given is not None or (name == "across" and said.where == "back")
            # In a corner of the plan's axes a side is no measure.
            if not (name == "across" and said.where == "back right"):
                self.assertEqual(path in plan.assumed, not known, path)
        # At the back, in its corner.
        self.assertEqual(vs[1], ys[1])
        self.assertEqual(us[0] == xs[0], said.where != "back right" or us == xs)
        self.assertEqual(us[1] == xs[1], said.where != "back left" or us == xs)
        self.assertEqual(plan.floor.kind, said.ground or "joists")
        self.assertEqual("/floor/kind" in plan.assumed, said.ground is None)
        self.assertEqual(plan.shower.drain.kind, said.drain)
        self.assertEqual((plan.users, plan.accessible), (said.users, said.accessible))
        door = plan.room.doors[0]
        self.assertGreaterEqual(door.offset, 0)
        self.assertLessEqual(door.offset + door.width, xs[1])
        solution = answered(plan)
        self.assertTrue(solution.complete, solution.findings[:1])

    def test_what_does_not_go_together_names_the_field_in_the_jobs_unit(self) -> None:
        cases: dict[str, tuple[Said, LengthUnit, str]] = {
            "/wide": (Said(wide=24), "in", 'at least 36"'),
            "/deep": (Said(deep=500), "mm", "at least 900 mm"),
            "/across": (Said(wide=1500, across=1600), "mm", "The room is 1500 mm wide"),
            "/out": (Said(deep=1500, out=1400), "mm", "Leave 300 mm in front of it"),
        }
        for path, (said, length, text) in cases.items():
            with self.subTest(path), self.assertRaises(PlanError) as raised:
                begun(said, length)
            (problem,) = raised.exception.problems
            self.assertEqual(problem.path, path)
            self.assertIn(text, problem.message)

    def test_nothing_said_it_is_an_ordinary_bathroom(self) -> None:
        for length, wide in (("mm", 2400), ("in", 96 * 25.4)):
            plan = begun(Said(), length)  # type: ignore[arg-type]
            corner, door = plan.room.outline[2], 1500 if length == "mm" else 60 * 25.4
            self.assertAlmostEqual(corner[0], wide)
            self.assertAlmostEqual(corner[1], wide * 0.75)
            self.assertAlmostEqual(plan.room.doors[0].offset, door)


if __name__ == "__main__":
    unittest.main()
