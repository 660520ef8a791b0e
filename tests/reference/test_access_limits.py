"""Each limit on getting in, just inside and just outside, on a plan that breaks nothing else.

The values stand here as the documents have them, beside their clauses: all from memory but for
those marked as common practice, no source.
"""

import random
import unittest
from typing import Any

from calm_basin.core.answer.changes import changed
from calm_basin.plan import plan_from
from calm_basin.rules import rule_sets, steepest_ramp
from tests.plans import Document, answered, channel, document, moved, offering

INCH = 25.4

FALLS = {"us-accessible": 1 / 48, "us-dwelling": 1 / 48, "uk": 1 / 60, "norway": 1 / 50}


def roomy(rules: str, *users: str, **shower: Any) -> Document:
    """A room of 4 × 4 m with a shower of 1.6 × 1.6 m in which nothing is broken."""
    doc = document(
        **{
            "outline": [[0, 2400], [1600, 2400], [1600, 4000], [0, 4000]],
            "drain": channel(0, 3965, 1600, 3965),
            "fall": {"asked": FALLS.get(rules, 1 / 60)},
        }
        | shower
    )
    doc["floor"]["deck_thickness"] = 120
    # None of its joists lies under the room: drains may be anywhere.
    doc["floor"] |= {"centres": 20_000, "first_offset": 10_000}
    doc["room"]["outline"] = [[0, 0], [4000, 0], [4000, 4000], [0, 4000]]
    doc["room"]["doors"] = [{"wall": 0, "offset": 1500, "width": 1000, "swing": "out"}]
    doc["room"]["fixtures"] = []
    # AS/NZS 3500.2, from memory: pipes of this size fall 1:40 at least in Australia.
    water = {"pipe_fall": 1 / 40 if rules == "australia" else 1 / 48}
    users = users or ("chair",)
    return doc | {"version": 6, "rule_set": rules, "users": list(users), "water": water}


def fixture(kind: str, x: float, y: float, width: float, length: float, **more: Any) -> Document:
    """Something that stands or hangs; at turn 0 its back is down the plan."""
    size = {"width": width, "length": length}
    return {"name": kind, "kind": kind, "centre": [x, y], **size} | more


class Case(unittest.TestCase):
    def broken(self, doc: Document) -> set[tuple[str, str]]:
        found = answered(plan_from(doc)).findings
        return {(f.code, f.source) for f in found if f.code != "membrane_low_at_door"}

    def only(self, doc: Document, code: str, clause: str) -> None:
        """The plan breaks this and nothing else."""
        found = self.broken(doc)
        self.assertEqual({one for one, _ in found}, {code}, found)
        self.assertTrue(any(clause in source for _, source in found), found)

    def kept(self, doc: Document) -> None:
        self.assertEqual(self.broken(doc), set())


class RoomyTest(Case):
    def test_nothing_is_broken_in_it_under_any_rule_set(self) -> None:
        for rules in rule_sets():
            for user in ("walks", "frame", "carer", "chair", "powered"):
                with self.subTest(rules=rules, user=user):
                    self.kept(roomy(rules, user))


class DoorTest(Case):
    """Clear widths; leaf and stop take 50 mm (common practice, no source)."""

    CLEAR = (
        ("us-accessible", "frame", 32 * INCH, "404.2.3"),
        ("germany", "frame", 800, "DIN 18040-2"),
        ("germany", "chair", 900, "DIN 18040-2"),
        ("uk", "frame", 750, "Approved Document M"),
        ("uk", "chair", 850, "Approved Document M"),
        ("norway", "frame", 860, "Common practice"),
        ("australia", "frame", 850, "AS 1428.1"),
    )

    def test_clear_width(self) -> None:
        for rules, user, clear, clause in self.CLEAR:
            with self.subTest(rules=rules, user=user):
                doc = roomy(rules, user)
                doc["room"]["doors"][0]["width"] = clear + 50
                self.kept(doc)
                doc["room"]["doors"][0]["width"] -= 0.2
                self.only(doc, "door_too_narrow", clause)

    def test_a_sliding_door_loses_its_handle_only_and_a_leaf_what_it_takes(self) -> None:
        doc = roomy("germany", "frame")
        door = doc["room"]["doors"][0]
        door |= {"kind": "sliding", "width": 820}
        self.kept(doc)
        door["width"] = 819
        self.only(doc, "door_too_narrow", "DIN 18040-2")
        door |= {"kind": "hinged", "width": 870, "leaf_and_stop": 70}
        self.kept(doc)
        door["leaf_and_stop"] = 71
        self.only(doc, "door_too_narrow", "DIN 18040-2")

    def test_floor_before_it(self) -> None:
        """ADA 404.2.4.1: pushed 48 in deep; pulled 60 in deep and 18 in beside the latch."""
        for swing, deep in (("out", 48 * INCH), ("in", 60 * INCH)):
            doc = roomy("us-accessible")
            door = doc["room"]["doors"][0] | {"swing": swing, "hinge": "first"}
            doc["room"]["doors"] = [door]
            # A cabinet on the far side of the room would be in the way of the path: this is beside.
            box = fixture("column", 1660, deep + 150, 80, 300)
            doc["room"]["fixtures"] = [box]
            self.kept(doc)
            box["centre"][1] -= 1.5
            self.only(doc, "floor_not_free", "404.2.4.1")
        # Beside the latch, 18 in of floor 60 in deep.
        doc = roomy("us-accessible")
        doc["room"]["doors"][0] |= {"swing": "in", "hinge": "first"}
        box = fixture("column", 2500 + 18 * INCH + 100, 1200, 200, 200)
        doc["room"]["fixtures"] = [box]
        self.kept(doc)
        box["centre"][0] -= 1.5
        self.only(doc, "floor_not_free", "404.2.4.1")

    def test_step_and_ramp(self) -> None:
        """ADA 303: 1/4 in upright, 608.7 1/2 in; ramps 1:12 (405.2), 6 % (DIN 18040-2)."""
        for rules, most, clause in (
            ("us-accessible", 6.35, "303.2"),
            ("uk", 5, "Approved Document M"),
            ("germany", 20, "DIN 18040-2"),
        ):
            doc = roomy(rules)
            door = doc["room"]["doors"][0]
            for way in (1, -1):
                door["outside"] = 24 - way * most
                self.kept(doc)
                door["outside"] = 24 - way * (most + 0.1)
                self.only(doc, "step_at_door", clause)
        for rules, run, clause in (
            ("us-accessible", 12, "405.2"),
            ("uk", 12, "Approved Document M"),
            ("germany", 100 / 6, "DIN 18040-2"),
            ("australia", 8, "AS 1428.1"),
        ):
            doc = roomy(rules)
            doc["room"]["doors"][0] |= {"outside": 0, "ramp": 24 * run + 0.1}
            self.kept(doc)
            doc["room"]["doors"][0]["ramp"] = 24 * run - 1
            # Steeper than 1:8 it is a step, of which Australia has a limit.
            code = "step_at_door" if rules == "australia" else "ramp_too_steep"
            self.only(doc, code, "ABCB" if rules == "australia" else clause)

    def test_a_bevelled_threshold(self) -> None:
        """ADA 404.2.5 and 303: a threshold of 1/2 in at most, bevelled at most 1:2; it is no ramp.
        Approved Document M 15 mm, DIN 18040-2 20 mm."""
        for rules, most in (("us-accessible", 12.7), ("uk", 15), ("germany", 20)):
            for way in (1, -1):
                doc = roomy(rules)
                door = doc["room"]["doors"][0]
                door |= {"outside": 24 - way * most, "ramp": 2 * most}
                self.kept(doc)
                (told, _) = answered(plan_from(doc)).access.thresholds
                self.assertTrue(told.enough)
                self.assertIn("bevelled 1:2", told.text)
                door["outside"] = 24 - way * (most + 0.1)
                door["ramp"] = 2 * most + 0.2
                self.assertEqual({code for code, _ in self.broken(doc)}, {"step_at_door"})
                # Steeper than a bevel it stands upright.
                door |= {"outside": 24 - way * most, "ramp": 2 * most - 0.2}
                (told, _) = answered(plan_from(doc)).access.thresholds
                self.assertIn("upright", told.text)

    def test_height_of_a_ramp(self) -> None:
        """AS 1428.1: a ramp at a threshold takes up at most 35 mm."""
        for way in (1, -1):
            doc = roomy("australia")
            door = doc["room"]["doors"][0] | {"outside": 24 - way * 35, "ramp": 2000}
            doc["room"]["doors"] = [door]
            self.kept(doc)
            door["outside"] = 24 - way * 35.1
            self.only(doc, "ramp_too_high", "AS 1428.1")

    def test_swing(self) -> None:
        """DIN 18040-2: the door of a bathroom opens outwards, or slides."""
        for rules in rule_sets():
            doc = roomy(rules, "frame")
            door = doc["room"]["doors"][0]
            for kind, swing in (("hinged", "out"), ("sliding", "in"), ("hinged", "in")):
                door |= {"kind": kind, "swing": swing}
                if (rules, kind, swing) == ("germany", "hinged", "in"):
                    self.only(doc, "door_swings_in", "DIN 18040-2")
                else:
                    self.kept(doc)

    def test_what_is_steeper_than_any_ramp_is_a_step(self) -> None:
        """1:8 is the steepest of all sets (AS 1428.1); a step of 100 mm is one in each that limits
        steps."""
        self.assertAlmostEqual(steepest_ramp(), 1 / 8)
        for rules in rule_sets().values():
            doc = roomy(rules.id)
            door = doc["room"]["doors"][0]
            steps = [one for one in rules.limits if one.topic in ("entry_step", "edge_upright")]
            for way in (1, -1):
                door["outside"] = 24 - way * 100
                told = {}
                for run in (0, 1, 799, 801):
                    door["ramp"] = run
                    found = answered(plan_from(doc)).findings
                    told[run] = {finding.code for finding in found}
                    for finding in found:
                        if finding.code == "step_at_door":
                            self.assertEqual("too short for a ramp" in finding.detail, run > 0)
                with self.subTest(rules=rules.id, way=way):
                    for run in (0, 1, 799):
                        self.assertEqual("step_at_door" in told[run], bool(steps), run)
                    self.assertNotIn("step_at_door", told[801])

    def test_swings_over_a_clear_floor(self) -> None:
        """ADA 603.2.3: not into it, unless 30 × 48 in lie beyond the swing."""
        side = 60 * INCH
        for basin, door, broken in (
            (True, {"swing": "in"}, True),
            (True, {"swing": "out"}, False),
            (True, {"kind": "sliding"}, False),
            (False, {"swing": "in"}, False),
        ):
            doc = roomy("us-accessible", set_down=40)
            doc["room"]["outline"] = [[0, 0], [side, 0], [side, 2614], [0, 2614]]
            doc["shower"]["outline"] = [[0, 1700], [914, 1700], [914, 2614], [0, 2614]]
            doc["shower"]["drain"] = channel(0, 2579, 914, 2579)
            doc["room"]["doors"] = [{"wall": 0, "offset": 300, "width": 914} | door]
            doc["room"]["fixtures"] = [
                # It looks down the plan: the floor before it reaches to the door's wall.
                fixture("basin" if basin else "column", 762, 1475, 430, 450, turn=180)
            ]
            doc["room"]["outline"] = [[0, 0], [side, 0], [side, 1700], [914, 1700], [914, 2614]]
            doc["room"]["outline"] += [[0, 2614]]
            found = {code for code, _ in self.broken(doc)}
            self.assertEqual("door_over_clear_floor" in found, broken, (basin, door, found))


class SpaceTest(Case):
    def test_turning(self) -> None:
        """ADA 304.3 60 in; Approved Document M and TEK17 1500; DIN 18040-2 1500 × 1500, 1200 × 1200
        for whoever walks; AS 1428.1 2070 × 1540."""
        for rules, user, wide, deep, clause in (
            ("us-accessible", "chair", 60 * INCH, 60 * INCH, "304.3"),
            ("uk", "chair", 1500, 1500, "Approved Document M"),
            ("norway", "powered", 1500, 1500, "TEK17"),
            ("germany", "chair", 1500, 1500, "DIN 18040-2"),
            ("germany", "frame", 1200, 1200, "DIN 18040-2"),
            ("australia", "chair", 2070, 1540, "AS 1428.1"),
        ):
            for off, ok in ((0.0, True), (-1.6, False)):
                with self.subTest(rules=rules, user=user, ok=ok):
                    doc = self.parted(rules, user, wide, deep + off)
                    found = {f for f in self.broken(doc) if f[0].startswith("turning")}
                    self.assertEqual(not found, ok, found)
                    for code, source in found:
                        self.assertEqual(code, "turning_too_small")
                        self.assertIn(clause, source)

    def test_no_circle_lies_across_a_step(self) -> None:
        """ADA 304.2: no change in level where a chair turns; DIN 18040-2: over a shower that is
        lowered by 20 mm; elsewhere none (common practice, no source). 0.5 mm is no step."""
        for rules, most in (
            ("us-accessible", 0.5),
            ("uk", 0.5),
            ("norway", 0.5),
            ("australia", 0.5),
            ("germany", 20.5),
        ):
            for step, ok in ((most - 0.1, True), (most + 0.1, False)):
                for way in (1, -1):
                    doc = self.parted(rules, "chair", 2200, 1400)
                    doc["shower"] |= {"set_down": step if way > 0 else 0}
                    if way < 0:
                        doc["shower"]["former"] = {"kind": "tray", "edge_thickness": 30}
                        doc["shower"]["former"]["raised"] = step
                    with self.subTest(rules=rules, step=step * way):
                        codes = {code for code, _ in self.broken(doc)}
                        self.assertEqual("turning_too_small" not in codes, ok, codes)

    def parted(self, rules: str, user: str, wide: float, deep: float) -> Document:
        """A room whose free floor is so wide and deep: a step parts a small shower from it."""
        doc = roomy(rules, user, set_down=40)
        doc["room"]["outline"] = [[0, 0], [wide, 0], [wide, deep + 900], [0, deep + 900]]
        doc["shower"]["outline"] = [[0, deep], [wide, deep], [wide, deep + 900], [0, deep + 900]]
        doc["shower"]["drain"] = channel(0, deep + 865, wide, deep + 865)
        doc["room"]["doors"] = []
        return doc

    def test_a_t_stands_for_the_circle(self) -> None:
        """ADA 304.3.2: a 60 in square, arms and stem 36 in wide."""
        side, arm = 60 * INCH, 36 * INCH
        over = (side - arm) / 2
        for less, ok in ((0.0, True), (2.0, False)):
            doc = self.parted("us-accessible", "chair", side, side)
            # Two columns leave a stem of 36 in between them, and a bar above.
            deep = side - arm + less
            doc["room"]["fixtures"] = [
                fixture("column", x, deep / 2, over, deep) for x in (over / 2, side - over / 2)
            ]
            found = {code for code, _ in self.broken(doc) if code.startswith("turning")}
            self.assertEqual(not found, ok)

    def test_size_of_the_shower(self) -> None:
        for rules, user, wide, deep, clause in (
            ("us-accessible", "chair", 36 * INCH, 36 * INCH, "608.2.1"),
            ("us-dwelling", "walks", 30 * INCH, 30 * INCH, "P2708.1"),
            ("us-dwelling", "walks", 52 * INCH, 25 * INCH, "P2708.1"),
            ("uk", "walks", 1000, 1000, "Approved Document M"),
            ("uk", "chair", 1200, 1200, "Approved Document M"),
            ("germany", "carer", 1200, 1200, "DIN 18040-2"),
            ("germany", "powered", 1500, 1500, "DIN 18040-2"),
            ("norway", "walks", 900, 900, "Common practice"),
            ("australia", "chair", 1160, 1100, "AS 1428.1"),
        ):
            for off, ok in ((0.0, True), (-1.6, False)):
                with self.subTest(rules=rules, user=user, ok=ok):
                    y = 4000 - deep - off
                    doc = roomy(
                        rules,
                        user,
                        outline=[[0, y], [wide, y], [wide, 4000], [0, 4000]],
                        drain=channel(0, 3965, wide, 3965),
                    )
                    found = self.broken(doc)
                    self.assertEqual({c for c, _ in found}, set() if ok else {"shower_too_small"})
                    self.assertTrue(all(clause in source for _, source in found))

    def sized(self, rules: str, wide: float, deep: float) -> Document:
        y = 4000 - deep
        outline = [[0, y], [wide, y], [wide, 4000], [0, 4000]]
        return roomy(rules, "chair", outline=outline, drain=channel(0, 3965, wide, 3965))

    def test_a_transfer_shower_is_just_so_large_and_a_roll_in_entered_on_its_long_side(
        self,
    ) -> None:
        """ADA 608.2.1 36 × 36 in, neither less nor more; 608.2.2 60 × 30 in; 608.2.3 60 × 36 in,
        entered at its long side. Half an inch more is how true it is built (common practice, no
        source)."""
        for wide, deep, ok in (
            (36, 36, True),
            (36.5, 36.5, True),
            (36.6, 36.6, False),
            (48, 48, False),
            (48, 36, False),
            (60, 30, True),
            (30, 60, False),
            (36, 60, False),
            (59.9, 40, False),
            (60, 36, True),
            (72, 48, True),
        ):
            found = {
                code
                for code, _ in self.broken(self.sized("us-accessible", wide * INCH, deep * INCH))
            }
            self.assertEqual("shower_too_small" not in found, ok, (wide, deep, found))

    def test_where_both_sides_are_short_both_are_told_and_mended(self) -> None:
        """What is missing, by hand: of the way round in which least is."""
        chance = random.Random(3)
        for _ in range(12):
            wide, deep = chance.uniform(700, 1150), chance.uniform(700, 1150)
            plan = plan_from(self.sized("germany", wide, deep))
            finding = next(f for f in offering(plan).findings if f.code == "shower_too_small")
            self.assertAlmostEqual(finding.measured, min(wide, deep), delta=1.1)
            self.assertIn(" wide", finding.detail)
            self.assertIn(" deep", finding.detail)
            self.assertTrue(finding.cures)
            for cure in finding.cures:
                after = answered(changed(plan, cure.changes)).findings
                self.assertNotIn("shower_too_small", {one.code for one in after})

    def test_what_else_would_do_is_a_sentence_of_its_own(self) -> None:
        plan = plan_from(self.sized("us-accessible", 1000, 700))
        finding = next(f for f in answered(plan).findings if f.code == "shower_too_small")
        self.assertRegex(finding.detail, r"\. A (transfer|roll-in) shower of .* would do as well")

    def test_entry_of_a_shower(self) -> None:
        """IRC P2708.1.1: at least 22 in to walk in."""
        for wide, ok in ((22 * INCH, True), (22 * INCH - 1.5, False)):
            outline = [[0, 2400], [wide, 2400], [1600, 2400], [1600, 4000], [0, 4000]]
            doc = roomy("us-dwelling", "walks", outline=outline, entries=[0])
            found = {code for code, _ in self.broken(doc)}
            self.assertEqual(found, set() if ok else {"entry_too_narrow"})

    def test_before_fixtures(self) -> None:
        """ADA 606.2 30 × 48 in before a basin, 604.3 60 × 56 in round the WC; IRC R307.1 21 in;
        DIN 18040-2 1200 and 1500 square."""
        for rules, user, kind, deep, clause in (
            ("us-accessible", "chair", "basin", 48 * INCH, "606.2"),
            ("us-dwelling", "walks", "WC", 21 * INCH, "R307.1"),
            ("germany", "frame", "basin", 1200, "DIN 18040-2"),
            ("germany", "chair", "WC", 1500, "DIN 18040-2"),
            ("germany", "frame", "WC", 1200, "DIN 18040-2"),
            ("germany", "chair", "basin", 1500, "DIN 18040-2"),
        ):
            for off, ok in ((0.0, True), (-1.5, False)):
                with self.subTest(rules=rules, kind=kind, user=user, ok=ok):
                    doc = roomy(rules, user)
                    doc["room"]["doors"][0]["offset"] = 100
                    # Its back at the right wall, it looks to the left: something stands before it.
                    at = 4000 - 450 - deep - off - 100
                    doc["room"]["fixtures"] = [
                        fixture(kind, 4000 - 225, 2000, 430, 450, turn=90),
                        fixture("column", at, 2000, 200, 1800),
                    ]
                    found = self.broken(doc)
                    self.assertEqual({c for c, _ in found}, set() if ok else {"floor_not_free"})
                    for code, source in found:
                        if code == "floor_not_free":
                            self.assertIn(clause, source)

    def test_round_the_wc(self) -> None:
        """ADA 604.3: 60 in wide, 56 in deep from the wall behind."""
        for off, ok in ((0.0, True), (-1.5, False)):
            doc = roomy("us-accessible")
            doc["room"]["doors"][0]["offset"] = 100
            doc["room"]["fixtures"] = [
                fixture("WC", 4000 - 355, 17 * INCH, 380, 710, turn=90),
                fixture("column", 4000 - 56 * INCH - off - 100, 800, 200, 900),
            ]
            found = {code for code, _ in self.broken(doc)}
            self.assertEqual(found, set() if ok else {"floor_not_free"}, found)

    def test_beside_a_wc(self) -> None:
        """ADA 604.2 16 to 18 in to the side wall; IRC R307.1 at least 15 in."""
        for rules, inches, ok in (
            ("us-accessible", 16, True),
            ("us-accessible", 15.9, False),
            ("us-accessible", 18, True),
            ("us-accessible", 18.1, False),
            ("us-dwelling", 15, True),
            ("us-dwelling", 14.9, False),
        ):
            doc = roomy(rules)
            doc["room"]["fixtures"] = [fixture("WC", inches * INCH, 355, 380, 710)]
            found = {code for code, _ in self.broken(doc)}
            self.assertEqual(found, set() if ok else {"wc_beside"}, (rules, inches))

    def test_beside_the_wc_in_germany(self) -> None:
        """DIN 18040-2: 20 cm on each side; with a chair 90 cm on one side and 30 cm on the other
        (from memory)."""
        for user, left, right, broken in (
            ("frame", 200, 200, set()),
            ("frame", 198, 900, {"wc_beside"}),
            ("chair", 300, 900, set()),
            ("chair", 900, 300, set()),
            ("chair", 298, 900, {"wc_beside"}),
            ("chair", 400, 898, {"no_side_to_transfer"}),
            ("chair", 250, 800, {"wc_beside", "no_side_to_transfer"}),
        ):
            for turn in (0.0, 31.0):
                doc = roomy("germany", user)
                doc["room"]["fixtures"] = [
                    fixture("WC", left + 190, 355, 380, 710),
                    fixture("cabinet", left + 380 + right + 50, 355, 100, 710),
                ]
                found = answered(plan_from(moved(doc, turn=turn))).findings
                told = {f.code: f for f in found if f.code in ("wc_beside", "no_side_to_transfer")}
                with self.subTest(user=user, left=left, right=right, turn=turn):
                    self.assertEqual(set(told), broken)
                    for finding in told.values():
                        self.assertIn("DIN 18040-2", finding.source)
                        self.assertEqual(finding.severity, "stop")
                    if "no_side_to_transfer" in told:
                        self.assertAlmostEqual(
                            told["no_side_to_transfer"].measured, max(left, right), places=3
                        )
        # The side that somebody said counts, though the other one is wide.
        doc = roomy("germany") | {"transfer": "left"}
        doc["room"]["fixtures"] = [fixture("WC", 350 + 190, 355, 380, 710)]
        self.only(doc, "no_side_to_transfer", "DIN 18040-2")

    def test_the_way_in(self) -> None:
        """ADA 403.5.1 36 in, 32 in over at most 24 in; 750 mm with a frame and 850 mm in a chair,
        common practice, no source."""
        for rules, user, wide, long, clause in (
            ("us-accessible", "chair", 36 * INCH, 24.1 * INCH, "403.5.1"),
            ("us-accessible", "chair", 32 * INCH, 23.9 * INCH, "403.5.1"),
            ("us-accessible", "chair", 32 * INCH, 1 * INCH, "403.5.1"),
            ("uk", "frame", 750, 100, "Common practice"),
            ("uk", "chair", 850, 100, "Common practice"),
        ):
            for off, ok in ((0.0, True), (-1.5, False)):
                with self.subTest(rules=rules, user=user, long=long, ok=ok):
                    doc = roomy(rules, user)
                    # Two columns across the room leave a gap between them.
                    left = (4000 - wide - off) / 2
                    doc["room"]["fixtures"] = [
                        fixture("column", left / 2, 1900, left, long),
                        fixture("column", 4000 - left / 2, 1900, left, long),
                    ]
                    found = self.broken(doc)
                    self.assertEqual("way_too_narrow" not in {c for c, _ in found}, ok, found)
                    for code, source in found:
                        if code == "way_too_narrow":
                            self.assertIn(clause, source)

    def test_the_doorway_is_on_the_way(self) -> None:
        """750 mm with a frame and 850 mm in a chair, through the doorway too, whose leaf and stop
        take 50 mm (common practice, no source). Where rules say how narrow a door may be, that
        stands."""
        for rules in rule_sets():
            own = bool(rule_sets()[rules].on("door_clear"))
            for user, need in (("frame", 750), ("chair", 850)):
                for clear, ok in ((need, True), (need - 1, False), (need - 100, False)):
                    doc = roomy(rules, user)
                    doc["room"]["doors"][0]["width"] = clear + 50
                    found = answered(plan_from(doc))
                    told = [f for f in found.findings if f.code == "way_too_narrow"]
                    asked = rule_sets()[rules].on("path_width")
                    if own or asked:
                        continue
                    with self.subTest(rules=rules, user=user, clear=clear):
                        self.assertEqual(not told, ok)
                        (way,) = found.access.ways
                        self.assertEqual(way.enough, ok)
                        if told:
                            self.assertAlmostEqual(told[0].measured, clear)
                            self.assertIn("Door 1 too narrow", told[0].title)
        # Where there is no such rule a way past the door is as wide as its doorway.
        self.assertFalse(rule_sets()["us-dwelling"].on("door_clear"))

    def test_a_side_to_transfer(self) -> None:
        """800 mm beside the WC, common practice, no source."""
        for side, x in (("left", 190 + 800), ("right", 4000 - 190 - 800)):
            for off, ok in ((0.0, True), (2.0, False)):
                doc = roomy("uk") | {"transfer": side}
                # It looks up the plan: the sitter's left is the left of the plan.
                at = x - off if side == "left" else x + off
                doc["room"]["fixtures"] = [fixture("WC", at, 355, 380, 710)]
                found = {code for code, _ in self.broken(doc)}
                self.assertEqual(found, set() if ok else {"no_side_to_transfer"}, (side, off))


class ReachTest(Case):
    def test_heights(self) -> None:
        """ADA 608.5 controls 38–48 in, 609.4 bars 33–36 in, 608.4 seats 17–19 in."""
        for kind, low, high, clause in (
            ("control", 38, 48, "608.5"),
            ("bar", 33, 36, "609.4"),
            ("seat", 17, 19, "608.4"),
            ("folding seat", 17, 19, "608.4"),
        ):
            for inches, ok in ((low, True), (low - 0.1, False), (high, True), (high + 0.1, False)):
                doc = roomy("us-accessible")
                doc["room"]["fixtures"] = [
                    fixture(kind, 800, 3980, 300, 40, turn=180, height=inches * INCH)
                ]
                if ok:
                    self.kept(doc)
                else:
                    self.only(doc, "height_out_of_reach", clause)

    def test_from_a_chair(self) -> None:
        """ADA 308.3: 10 in with nothing between, over an obstruction at most 24 in, and beyond 10
        in no control above 46 in."""
        for away, high, code in (
            (24, 46, ""),
            (24.12, 46, "control_out_of_reach"),
            (24, 46.1, "height_out_of_reach"),
            (10, 48, ""),
            (10.12, 48, "height_out_of_reach"),
        ):
            doc, deep = roomy("us-accessible"), away * INCH
            # The control is at the right wall, a deep cabinet the whole length of it before that.
            doc["room"]["fixtures"] = [
                fixture("cabinet", 4000 - deep / 2, 2000, 4000, deep, turn=90),
                fixture("control", 3999.5, 2000, 100, 1, turn=90, height=high * INCH),
            ]
            found = {code for code, _ in self.broken(doc)}
            self.assertEqual(found, {code} if code else set(), (away, high))
        # A sunken corner of the room is no obstruction, but no chair gets into it.
        for away, ok in ((10 * INCH, True), (10 * INCH + 3, False)):
            doc = roomy("us-accessible")
            outline = [[0, 0], [4000, 0], [4000, 1000], [4000 + away, 1000]]
            doc["room"]["outline"] = [*outline, [4000 + away, 1400], [4000, 1400], [4000, 4000]]
            doc["room"]["outline"] += [[0, 4000]]
            doc["room"]["fixtures"] = [
                fixture("control", 3999.5 + away, 1200, 100, 1, turn=90, height=1100)
            ]
            found = {code for code, _ in self.broken(doc)}
            self.assertEqual(found, set() if ok else {"control_out_of_reach"}, found)

    def test_from_the_seat(self) -> None:
        """ADA 608.5.2: 27 in from the seat's wall, on whichever wall the control hangs."""
        for deep in (300, 400):
            for away, ok in ((27 * INCH, True), (27 * INCH + 3, False)):
                doc = roomy("us-accessible")
                doc["room"]["fixtures"] = [
                    fixture("folding seat", deep / 2, 3000, 400, deep, turn=-90, height=460),
                    fixture("control", away, 3980, 100, 40, turn=180, height=1100),
                ]
                found = {code for code, _ in self.broken(doc)}
                self.assertEqual(found, set() if ok else {"control_out_of_reach"}, found)


class EdgeTest(Case):
    def test_upright_and_bevelled(self) -> None:
        """ADA 303.2 1/4 in upright, 303.3 bevelled at most 1:2, 608.7 1/2 in in all; Approved
        Document M 15 mm, chamfered over 5 mm."""
        for rules, upright, most, code, clause in (
            ("us-accessible", 6.35, 12.7, "step_over_limit", "608.7"),
            ("uk", 5, 15, "step_over_limit", "Approved Document M"),
        ):
            doc = roomy(rules, set_down=upright)
            self.kept(doc)
            doc["shower"]["set_down"] = upright + 0.1
            self.only(doc, "edge_too_upright", "303.2" if rules == "us-accessible" else clause)
            high = most - upright
            doc["shower"] |= {"set_down": most, "bevel": {"height": high, "run": 2 * high}}
            self.kept(doc)
            doc["shower"]["set_down"] = most + 0.1
            self.only(doc, code, clause)
        doc = roomy("us-accessible", set_down=12.7, bevel={"height": 6.35, "run": 12.6})
        self.only(doc, "bevel_too_steep", "303.3")


class PipeTest(Case):
    def test_fall_by_size(self) -> None:
        """IPC 704.1 and IRC P3005.3 1/4 in per ft to 2 1/2 in, 1/8 in above; AS/NZS 3500.2 1:40 to
        DN 65, 1:60 above; Norway 1:60."""
        for rules, bore, run, clause in (
            ("us-accessible", 50, 48, "704.1"),
            ("us-accessible", 76.2, 96, "704.1"),
            ("us-dwelling", 76.2, 96, "P3005.3"),
            ("australia", 65, 40, "3500.2"),
            ("australia", 80, 60, "3500.2"),
            ("norway", 50, 60, "water and sewer"),
        ):
            with self.subTest(rules=rules, bore=bore):
                doc = roomy(rules)
                doc["water"] = {"pipe_fall": 1 / run, "pipe_diameter": bore}
                self.kept(doc)
                doc["water"]["pipe_fall"] = 1 / (run + 0.1)
                self.only(doc, "pipe_fall_off", clause)
