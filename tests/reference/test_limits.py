"""Published limits at their very edge: what keeps them passes, what is a hair beyond fails."""

import math
import unittest

from calm_basin.core.answer.result import Finding
from calm_basin.rules import TRADE, rule_sets
from tests.core.test_survey import sloping, surveyed
from tests.plans import channel, document, layers, solved, wet_room

HAIR = 1e-4


def channel_at(fall: float, rules: str, **shower: object) -> list[Finding]:
    doc = document(drain=channel(0, 1765, 1500, 1765), fall={"asked": fall}, **shower)
    doc["rule_set"] = rules
    doc["floor"]["deck_thickness"] = 100
    return list(solved(doc).findings)


def broken(found: list[Finding], code: str) -> set[tuple[str, str]]:
    return {(f.severity, f.source.split(" (")[0]) for f in found if f.code == code}


class FallLimitsTest(unittest.TestCase):
    """One plane, so that its gradient is the fall that is asked for."""

    def held(self, rules: str, code: str, limit: float, severity: str, source: str) -> None:
        beyond = limit * (1 - HAIR if code == "fall_under_least" else 1 + HAIR)
        with self.subTest(rules=rules, limit=source):
            self.assertNotIn((severity, source), broken(channel_at(limit, rules), code))
            self.assertIn((severity, source), broken(channel_at(beyond, rules), code))

    def test_us_dwelling(self) -> None:
        # IRC P2709.1: 1/4 in per ft at least, 1/2 in per ft at most (from memory).
        self.held("us-dwelling", "fall_under_least", 0.25 / 12, "stop", "IRC P2709.1")
        self.held("us-dwelling", "fall_over_most", 0.5 / 12, "stop", "IRC P2709.1")
        # ADA Standards 2010, 304.2 and 305.2: 1:48 at most where a chair stands or turns (from
        # memory); of a dwelling it is not required.
        source = "ADA Standards 2010 304.2, 305.2"
        self.held("us-dwelling", "fall_over_most", 1 / 48, "caution", source)

    def test_uk(self) -> None:
        # BS 5385-4: 1:80 to 1:35; BS 8300-2: 1:50 at most for access (all from memory).
        self.held("uk", "fall_under_least", 1 / 80, "stop", "BS 5385-4")
        self.held("uk", "fall_over_most", 1 / 35, "stop", "BS 5385-4")
        self.held("uk", "fall_over_most", 1 / 50, "caution", "BS 8300-2")

    def test_one_fall_keeps_every_us_limit_for_a_chair_too(self) -> None:
        # 1:48 is the least for drainage and the most for a chair: the corridor is one fall wide.
        codes = {finding.code for finding in channel_at(1 / 48, "us-dwelling")}
        self.assertFalse(codes & {"fall_under_least", "fall_over_most"})


class StepLimitsTest(unittest.TestCase):
    def steps(self, rules: str, step: float) -> set[tuple[str, str]]:
        found = channel_at(1 / 50, rules, set_down=step)
        return broken(found, "step_over_limit") | broken(found, "edge_too_upright")

    def test_uk_entry(self) -> None:
        # Approved Document M: 15 mm at most, over 5 mm chamfered (from memory).
        source = "Approved Document M"
        self.assertEqual(self.steps("uk", 5), set())
        self.assertEqual(self.steps("uk", 5.01), {("caution", source)})
        self.assertEqual(self.steps("uk", 15), {("caution", source)})
        self.assertEqual(self.steps("uk", 15.01), {("stop", source)})

    def test_us_entry(self) -> None:
        # ADA Standards 2010, 303.2 and 303.3: 1/4 in plain, 1/2 in bevelled (from memory).
        self.assertEqual(self.steps("us-dwelling", 6.35), set())
        plain = self.steps("us-dwelling", 6.36)
        self.assertEqual(plain, {("caution", "ADA Standards 2010 303.2")})
        bevelled = self.steps("us-dwelling", 12.71)
        self.assertEqual(bevelled, {("caution", "ADA Standards 2010 303.3")})


class FloorLimitsTest(unittest.TestCase):
    def test_level_under_the_shower(self) -> None:
        # 1/8 in under trays and one-piece units, 1/4 in under a rigid pan: what is out by just the
        # allowed amount is within it (common practice, no source).
        for base, limit in (("foam-tray", 3.175), ("one-piece", 3.175), ("rigid-pan", 6.35)):
            for share, fine in ((1 - HAIR, True), (1 + HAIR, False)):
                found = solved(surveyed(sloping(share * limit / 1500), base=base))
                self.assertEqual(found.survey.floor.true_enough, fine, (base, share))

    def test_every_base_says_where_its_tolerance_is_from(self) -> None:
        # ANSI A108.02: 1/8 in under 10 ft for large tile (from memory).
        self.assertEqual(TRADE.bases.by_id["tile-alone"].source, "ANSI A108.02 (from memory)")
        for base in TRADE.bases.by_id.values():
            self.assertTrue(base.source and base.note)
            self.assertGreater(base.value, 0)


class RuleDataTest(unittest.TestCase):
    def test_a_rule_set_has_a_least_and_a_most_and_they_leave_room(self) -> None:
        for rules in rule_sets().values():
            falls = rules.on("shower_fall")
            least = max(limit.value for limit in falls if limit.binds == "at_least")
            most = min(
                (x.value for x in falls if x.binds == "at_most" and x.weight == "required"),
                default=1.0,
            )
            # ADA 304.2 with IPC 417.5.2 (from memory): both are 1:48, so a single slope is left.
            leave = self.assertLessEqual if rules.id == "us-accessible" else self.assertLess
            leave(least, most)

    def test_values_that_were_published(self) -> None:
        """Each from the document that the rule set names, all from memory."""
        for name, topic, binds, value in [
            ("us-accessible", "shower_fall", "at_least", 1 / 48),  # IPC 417.5.2
            ("us-accessible", "shower_fall", "at_most", 1 / 48),  # ADA 2010 304.2
            ("us-accessible", "entry_step", "at_most", 12.7),  # ADA 2010 608.7: 1/2 in
            ("us-accessible", "edge_upright", "at_most", 6.35),  # ADA 2010 303.2: 1/4 in
            ("germany", "shower_fall", "at_most", 0.02),  # DIN 18040-2
            ("germany", "entry_step", "at_most", 20),  # DIN 18040-2
            ("australia", "shower_fall", "at_least", 1 / 80),  # NCC Housing Provisions 10.2.12
            ("australia", "shower_fall", "at_most", 1 / 50),  # NCC Housing Provisions 10.2.12
            ("australia", "shower_fall", "at_most", 1 / 60),  # AS 1428.1
        ]:
            found = [x.value for x in rule_sets()[name].on(topic) if x.binds == binds]  # type: ignore[arg-type]
            self.assertIn(round(value, 9), [round(x, 9) for x in found], (name, topic))

    def test_new_sets_just_inside_and_just_outside(self) -> None:
        """A channel along the back of the shower: one plane, whose fall is the fall asked for."""
        back = channel(0, 1765, 1500, 1765)
        for name, limit, way in [
            ("us-accessible", 1 / 48, 1),
            ("germany", 0.02, 1),
            ("australia", 1 / 50, 1),
            ("us-accessible", 1 / 48, -1),
            ("australia", 1 / 80, -1),
        ]:
            code = "fall_over_most" if way > 0 else "fall_under_least"
            for off, broken in ((0.0, False), (0.005, True)):
                fall = limit * (1 + way * off)
                doc = document(drain=back, fall={"asked": fall}) | {"rule_set": name}
                stops = {f.code for f in solved(doc).findings if f.severity == "stop"}
                self.assertEqual(code in stops, broken, (name, fall))
        for name, limit in (("us-accessible", 12.7), ("germany", 20.0)):
            for step, broken in ((limit, False), (limit + 0.1, True)):
                doc = document(drain=back, fall={"asked": 1 / 55}, set_down=step)
                codes = {(f.code, f.severity) for f in solved(doc | {"rule_set": name}).findings}
                self.assertEqual(("step_over_limit", "stop") in codes, broken, (name, step))

    def test_the_membrane_at_the_door_of_a_norwegian_wet_room(self) -> None:
        # TEK17 §13-15, guidance (from memory): at least 25 mm above the drain's top.
        doc = wet_room()
        doc["room"]["layers"] = layers(("tile", 10), ("adhesive", 4), ("screed", 60))
        solution = solved(doc)
        finding = next(f for f in solution.findings if f.code == "membrane_low_at_door")
        drop = solution.figures.room_level.value - solution.figures.drain_level.value
        self.assertAlmostEqual(finding.measured, drop - 14, places=6)
        self.assertIn("carry it up 11.7 mm", finding.detail)
        # Deep enough, there is nothing to say; and other rule sets do not ask.
        doc["shower"]["set_down"] = 12
        self.assertNotIn("membrane_low_at_door", [f.code for f in solved(doc).findings])
        doc["shower"]["set_down"] = 0
        doc["rule_set"] = "uk"
        self.assertNotIn("membrane_low_at_door", [f.code for f in solved(doc).findings])

    def test_the_rest_at_the_edge_of_its_limit(self) -> None:
        # TEK17 §13-15, guidance (from memory): exactly 1:100 keeps it, a hair less does not.
        for asked, broken in ((1 / 100, False), (1 / 100.2, True)):
            codes = [
                (f.code, f.applies_to) for f in solved(wet_room(rest={"asked": asked})).findings
            ]
            rest = ("fall_under_least", "the rest of a floor that gets wet")
            self.assertEqual(rest in codes, broken, asked)

    def test_quarter_inch_a_foot_is_one_in_48(self) -> None:
        least = rule_sets()["us-dwelling"].on("shower_fall")[0]
        self.assertTrue(math.isclose(least.value, 0.25 / 12))

    def test_no_floor_is_as_steep_as_you_like_in_any_rule_set(self) -> None:
        # Where a set names no steepest fall for everybody, the steepest of all sets is held against
        # as advice: IRC P2709.1, 1:24 (from memory).
        silent = 0
        for name, rules in rule_sets().items():
            own = [x for x in rules.on("shower_fall") if x.binds == "at_most" and not x.users]
            limit = min((x.value for x in own), default=1 / 24)
            asked = {x.source.split(" (")[0] for x in own} or {"IRC P2709.1"}
            told = {
                fall: {
                    severity
                    for severity, source in broken(channel_at(fall, name), "fall_over_most")
                    if source in asked
                }
                for fall in (limit, limit * (1 + HAIR), 1 / 5)
            }
            with self.subTest(rules=name):
                self.assertEqual(told[limit], set())
                self.assertTrue(told[limit * (1 + HAIR)])
                self.assertTrue(told[1 / 5])
                if not own:
                    silent += 1
                    self.assertEqual(told[1 / 5], {"caution"})
        self.assertGreater(silent, 0)
