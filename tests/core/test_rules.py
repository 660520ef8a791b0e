"""Rule sets: read and written, made binding, kept at values of one's own."""

import tracemalloc
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from click.testing import CliRunner

from calm_basin.cli import main
from calm_basin.core.comparing import compared
from calm_basin.core.solve import solve
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.rules import (
    TRADE,
    RuleFileError,
    chosen_rules,
    read_rules,
    rule_sets,
    written_rules,
)
from tests.core.test_access import coded
from tests.plans import Document, answered, channel, document, moved, point
from tests.reference.test_access_limits import fixture, roomy

INCH = 25.4


def override(**values: str) -> Document:
    return {
        "topic": "entry_step",
        "binds": "at_most",
        "applies_to": "anyone walking in",
        "given": "20mm",
        "reason": "agreed with building control",
    } | values


class FileTest(unittest.TestCase):
    def test_every_set_that_ships_comes_back_from_its_file(self) -> None:
        for rules in rule_sets().values():
            self.assertEqual(read_rules(written_rules(rules)), rules)
            self.assertEqual(read_rules(written_rules(rules).encode()), rules)

    def test_each_limit_has_a_name_of_its_own(self) -> None:
        """An override names a limit by topic, way and for whom: of those there is one."""
        for rules in rule_sets().values():
            named = [(x.topic, x.binds, x.applies_to) for x in rules.limits]
            named += [(x.topic, "at_least", x.applies_to) for x in rules.spaces]  # type: ignore[misc]
            self.assertEqual(len(named), len(set(named)), rules.id)

    def test_what_is_wrong_is_named_by_its_field(self) -> None:
        good = written_rules(rule_sets()["uk"])
        for old, new, path, said in (
            ('given = "15mm"', 'given = "15cm"', "/limits/3", "not a length in mm"),
            ('given = "15mm"', 'given = "1:40"', "/limits/3", "not a length in mm"),
            ('given = "1:80"', 'given = "80mm"', "/limits/0", "Write a fall"),
            ('given = "1:80"', 'given = "steep"', "/limits/0", "steep"),
            ('topic = "entry_step"', 'topic = "entry_stp"', "/limits/3/topic", "Choose one of"),
            ('binds = "at_least"', 'bind = "at_least"', "/limits/0/binds", "missing"),
            ('width = "1000mm"', 'width = "1 m"', "/spaces/0/width", "not a length in mm"),
            ("from_memory = true", "from_memory = 7.5", "/limits/0/from_memory", "boolean"),
            ('id = "uk"', 'id = "U K"', "/id", "pattern"),
            ('id = "uk"', 'id = "uk', "", "not TOML"),
        ):
            self.assertIn(old, good)
            with self.subTest(new=new), self.assertRaises(RuleFileError) as refused:
                read_rules(good.replace(old, new, 1))
            problems = {problem.path: problem.message for problem in refused.exception.problems}
            self.assertIn(path, problems)
            self.assertIn(said, problems[path])
        for text in ("", "x" * 300_000, "[[limits]]\n" * 300, b"\xff\xfe"):
            with self.assertRaises(RuleFileError):
                read_rules(text)

    def test_a_name_of_very_many_parts_is_refused_before_it_takes_memory(self) -> None:
        good = written_rules(rule_sets()["uk"])
        dots = '"' + "a." * 100 + '"'
        long = "a." * 16_000 + "a"
        for text in (
            f"{long} = 1",
            f"[{long}]",
            f"x = {{ {long} = 1 }}",
            long.replace("a", "'a'") + " = 1",
            long.replace("a", '"a"') + " = 1",
            long.replace(".", " . ") + " = 1",
        ):
            tracemalloc.start()
            with self.assertRaises(RuleFileError) as refused:
                read_rules(text)
            peak = tracemalloc.get_traced_memory()[1]
            tracemalloc.stop()
            self.assertLess(peak, 20e6)
            self.assertIn("over 12 parts", refused.exception.problems[0].message)
        # Nor is a long text gone through more than once, however its strings are left open.
        for piece in ("x", '\\"', '"', "'", '""" ', "''' ", "a ", "- ", "a" + " " * 99):
            for start in ("", '"', '"""', "'''"):
                with self.subTest(piece, start=start), self.assertRaises(RuleFileError):
                    read_rules(start + piece * (190_000 // len(piece)))
        # In a text that is said they are only dots.
        said = good.replace('name = "', f"name = {dots} # ", 1)
        with self.assertRaises(RuleFileError) as refused:
            read_rules(said)
        self.assertNotIn("parts", str(refused.exception))

    def test_people_are_those_that_a_plan_may_name(self) -> None:
        self.assertEqual(list(TRADE.people.by_id), ["walks", "frame", "carer", "chair", "powered"])
        for person in TRADE.people.by_id.values():
            self.assertIn("no source", person.document)
            self.assertGreater(person.value, 500)


class ChosenTest(unittest.TestCase):
    def plan(self, rules: str, **parts: object) -> Plan:
        return plan_from(roomy(rules) | parts)

    def test_an_accessible_job_binds_what_is_advised_for_it(self) -> None:
        for name in ("uk", "norway", "australia"):
            plain, bound = (chosen_rules(self.plan(name, accessible=on)) for on in (False, True))
            self.assertEqual(plain, rule_sets()[name])
            marked = [one for one in (*plain.limits, *plain.spaces) if one.accessible]
            self.assertTrue(marked)
            self.assertTrue(all(one.weight == "advice" for one in marked))
            there = [one for one in (*bound.limits, *bound.spaces) if one.accessible]
            self.assertEqual(len(there), len(marked))
            self.assertTrue(all(one.weight == "required" for one in there))

    def test_the_layers_shower_is_asked_for_and_not_the_dwellings(self) -> None:
        """ADA 608.2: 36 × 36 in, or 60 × 30 in with its long side open (from memory); IRC P2708.1
        30 × 30 in (from memory) is none of them."""
        for wide, deep, fits in (
            (36, 36, True),
            (60, 30, True),
            (60, 36, True),
            (35.9, 36, False),
            (36, 35.9, False),
            (59.9, 30, False),
            (59.9, 35.9, False),
            (30, 30, False),
        ):
            doc = roomy("us-dwelling")
            low, x = 4000 - deep * INCH, wide * INCH
            doc["shower"] |= {
                "outline": [[0, low], [x, low], [x, 4000], [0, 4000]],
                "drain": channel(0, 3965, x, 3965),
            }
            for turn, mirror in ((0, False), (68, True)):
                turned = moved(doc, turn=turn, mirror=mirror) | {"accessible": True}
                found = answered(plan_from(turned)).findings
                with self.subTest(wide=wide, deep=deep, turn=turn):
                    small = any(f.code == "shower_too_small" for f in found)
                    self.assertEqual(not small, fits)

    def test_a_value_of_ones_own_rests_while_the_layer_asks_otherwise(self) -> None:
        doc = roomy("us-dwelling")
        doc["overrides"] = [
            {
                "topic": "shower_size",
                "binds": "at_least",
                "applies_to": "an ordinary shower",
                "given": "800mm × 800mm",
                "reason": "agreed with the inspector",
            }
        ]
        sizes = []
        for accessible in (False, True):
            rules = chosen_rules(plan_from(doc | {"accessible": accessible}))
            sizes.append({space.width for space in rules.spaces_on("shower_size")})
        self.assertIn("800mm", sizes[0])
        self.assertNotIn("800mm", sizes[1])
        doc["overrides"][0]["applies_to"] = "nobody"
        with self.assertRaises(PlanError):
            chosen_rules(plan_from(doc | {"accessible": True}))

    def test_a_dwelling_adds_the_accessible_layer_and_both_bind(self) -> None:
        """IRC P2709.1 at most 1:24, ADA 304.2 1:48 (both from memory): the layer's binds."""
        doc = roomy("us-dwelling", drain=point(800, 3200), fall={"asked": 1 / 48})
        codes = {f.code for f in answered(plan_from(doc)).findings if f.severity == "stop"}
        self.assertEqual(codes, set())
        layered = answered(plan_from(doc | {"accessible": True}))
        steep = [f for f in layered.findings if f.code == "fall_over_most"]
        self.assertEqual([f.severity for f in steep if "ADA" in f.source], ["stop"])
        self.assertEqual(layered.rule_set, "US dwelling, accessible")
        corridor = layered.corridor
        assert corridor is not None
        # Where the two pull against each other the corridor shows the one that binds.
        self.assertEqual({plane.most_text for plane in corridor.planes if plane.most}, {"1:48"})
        widths = [one.value for one in chosen_rules(plan_from(doc)).on("door_clear")]
        self.assertEqual(widths, [])
        both = chosen_rules(plan_from(doc | {"accessible": True}))
        self.assertEqual([one.value for one in both.on("door_clear")], [32 * INCH])

    def test_a_value_of_ones_own_is_kept_and_shown_with_its_reason(self) -> None:
        doc = roomy("uk", set_down=18, bevel={"height": 14, "run": 40})
        self.assertIsNotNone(coded(answered(plan_from(doc)), "step_over_limit"))
        solution = answered(plan_from(doc | {"overrides": [override()]}))
        self.assertIsNone(coded(solution, "step_over_limit"))
        (own,) = solution.own_values
        self.assertEqual(own.text, "at most 20 mm")
        self.assertEqual(own.note.count("agreed with building control"), 1)
        self.assertIn("at most 15 mm, Approved Document M (from memory)", own.note)
        doc["shower"]["set_down"] = 21
        finding = coded(answered(plan_from(doc | {"overrides": [override()]})), "step_over_limit")
        assert finding is not None
        self.assertEqual(finding.source, "Own value")
        self.assertIn("agreed with building control", finding.detail)

    def test_a_space_is_kept_at_ones_own_size(self) -> None:
        own = override(
            topic="shower_size",
            binds="at_least",
            applies_to="a level shower for a chair",
            given="1400mm × 1400mm",
        )
        shower = {
            "outline": [[0, 2600], [1400, 2600], [1400, 4000], [0, 4000]],
            "drain": channel(0, 3965, 1400, 3965),
        }
        doc = roomy("germany", **shower)
        self.assertIsNotNone(coded(answered(plan_from(doc)), "shower_too_small"))
        solution = answered(plan_from(doc | {"overrides": [own]}))
        self.assertIsNone(coded(solution, "shower_too_small"))
        self.assertEqual(solution.own_values[0].text, "1400 mm × 1400 mm")

    def test_an_override_that_means_nothing_is_refused_with_its_field(self) -> None:
        for values, path, said in (
            ({"applies_to": "nobody"}, "/overrides/0", "no limit"),
            ({"topic": "colour"}, "/overrides/0", "no topic"),
            ({"given": "1:40"}, "/overrides/0/given", "not a length"),
            ({"given": "20 cm"}, "/overrides/0/given", "not a length"),
        ):
            doc = roomy("uk") | {"overrides": [override(**values)]}
            with self.subTest(**values), self.assertRaises(PlanError) as refused:
                answered(plan_from(doc))
            (problem,) = refused.exception.problems
            self.assertEqual(problem.path, path)
            self.assertIn(said, problem.message)
        with self.assertRaises(PlanError) as refused:
            plan_from(roomy("uk") | {"overrides": [override(reason=" ")]})
        self.assertEqual(refused.exception.problems[0].path, "/overrides/0/reason")

    def test_a_set_of_ones_own_is_handed_in(self) -> None:
        text = written_rules(rule_sets()["uk"]).replace('id = "uk"', 'id = "ours"')
        own = read_rules(text.replace('given = "15mm"', 'given = "10mm"'))
        plan = plan_from(roomy("ours", set_down=12, bevel={"height": 9, "run": 40}))
        with self.assertRaises(PlanError) as refused:
            answered(plan)
        self.assertEqual(refused.exception.problems[0].path, "/rule_set")
        solution = solve(plan, known=rule_sets() | {own.id: own}, cures=False)
        self.assertIsNotNone(coded(solution, "step_over_limit"))
        with TemporaryDirectory() as folder:
            rules, job = Path(folder) / "ours.toml", Path(folder) / "job.json"
            rules.write_text(written_rules(own), "utf-8")
            job.write_text(plan.model_dump_json(), "utf-8")
            asked = ["solve", str(job), "--text", "--rules", str(rules)]
            answer = CliRunner().invoke(main, asked)
            self.assertEqual(answer.exit_code, 0, answer.output)
            self.assertIn("Getting in", answer.output)
            rules.write_text("id = 7", "utf-8")
            self.assertEqual(CliRunner().invoke(main, asked).exit_code, 2)


class CopyTest(unittest.TestCase):
    def test_a_copy_with_another_size_is_as_large_as_it_says(self) -> None:
        """What was read of the size before it was copied is not the copy's."""
        looked = 0
        for rules in rule_sets().values():
            for space in rules.spaces:
                before = (space.across, space.deep, space.arms, space.opening, space.beside)
                sizes = {"width": "111mm", "depth": "222mm", "arm": "", "entry": "", "latch": "7mm"}
                copy = space.model_copy(update=sizes)
                after = (copy.across, copy.deep, copy.arms, copy.opening, copy.beside)
                self.assertEqual(after, (111, 222, 0, 0, 7))
                self.assertNotEqual(before, after)
                looked += 1
        self.assertGreater(looked, 20)


class ComparedTest(unittest.TestCase):
    def test_one_room_under_several_rule_sets(self) -> None:
        doc = roomy("us-accessible")
        # 60 in before the shower, a door of 860 mm: each set asks another thing of it.
        doc["room"]["doors"][0]["width"] = 900
        plan = plan_from(doc)
        told = {one.id: one for one in compared(plan, list(rule_sets()), rule_sets())}
        self.assertEqual(set(told), set(rule_sets()))
        for name, one in told.items():
            alone = answered(plan.model_copy(update={"rule_set": name}))
            self.assertEqual([f.title for f in one.findings], [f.title for f in alone.findings])
            self.assertEqual(one.summary, alone.summary)
            for finding in one.findings:
                # The same thing may be held against another limit: then its title is another.
                said = finding.title.split(":")[0]
                here = [f.title.split(":")[0] for f in told["us-accessible"].findings]
                self.assertEqual(finding.here_too, said in here, finding.title)
        self.assertIn(
            "Door 1 too narrow: 850 mm clear, limit 900 mm",
            [f.title for f in told["germany"].findings],
        )
        self.assertEqual(told["us-accessible"].gone, ())

    def test_what_another_limit_finds_as_well_is_neither_new_nor_gone(self) -> None:
        """A door too narrow for both: 850 mm clear in Germany, 815 mm (32 in) under the ADA."""
        doc = roomy("us-accessible")
        doc["room"]["doors"][0]["width"] = 800
        doc["room"]["doors"].append({"wall": 2, "offset": 300, "width": 1200})
        ours, theirs = compared(plan_from(doc), ["us-accessible", "germany"], rule_sets())
        here = next(f for f in ours.findings if f.title.startswith("Door 1 too narrow"))
        there = next(f for f in theirs.findings if f.title.startswith("Door 1 too narrow"))
        self.assertNotEqual(here.asked, there.asked)
        self.assertTrue(there.here_too)
        self.assertFalse([title for title in theirs.gone if title.startswith("Door 1 too")])

    def test_what_is_gone_is_told(self) -> None:
        doc = roomy("us-accessible")
        doc["room"]["fixtures"] = [fixture("WC", 300, 355, 380, 710)]
        (uk,) = compared(plan_from(doc), ["uk"], rule_sets())
        self.assertIn(
            "Middle of the WC too close to what is beside it: 300 mm, limit 406.4 mm", uk.gone
        )

    def test_values_of_ones_own_are_left_out_under_others(self) -> None:
        plan = plan_from(roomy("uk") | {"overrides": [override()]})
        self.assertEqual(len(compared(plan, ["uk", "germany"], rule_sets())), 2)

    def test_an_old_plan_learns_which_way_its_fixtures_look(self) -> None:
        doc = document()
        doc["room"]["fixtures"] = [
            {"name": "WC", "centre": [2050, 900], "width": 700, "length": 380, "turn": 0},
            {"name": "basin", "centre": [1900, 230], "width": 560, "length": 460, "turn": 180},
            {"name": "stool", "centre": [1900, 900], "width": 300, "length": 300, "turn": 12},
        ]
        wc, basin, stool = plan_from(doc).room.fixtures
        # The WC's back is at the right wall: it looks to the left.
        self.assertEqual((wc.kind, wc.width, wc.length, wc.turn), ("WC", 380, 700, 90))
        self.assertEqual((basin.kind, basin.width, basin.turn), ("basin", 560, 0))
        self.assertEqual((stool.kind, stool.turn), ("other", 12))
