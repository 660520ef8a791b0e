"""Lengths and falls: what people type, what they read."""

import math
import random
import unittest

from hypothesis import given
from hypothesis import strategies as st

from calm_basin.units import (
    Display,
    UnitError,
    format_fall,
    format_fall_limit,
    format_fall_off,
    format_length,
    format_limit,
    parse_fall,
    parse_length,
)

INCHES, FEET, MM = Display("in"), Display("ft"), Display("mm")


class ParseLengthTest(unittest.TestCase):
    def test_reads_what_people_type(self) -> None:
        # One inch is 25.4 mm exactly: International Yard and Pound Agreement, 1959.
        for text, display, expected in [
            ("35", MM, 35),
            ("35", INCHES, 35 * 25.4),
            ("35", FEET, 35 * 25.4),
            ("35 mm", INCHES, 35),
            ("3.5 cm", MM, 35),
            ("3,5", Display("cm"), 35),
            ("1.58m", MM, 1580),
            ("1 3/8", INCHES, 34.925),
            ('1-3/8"', MM, 34.925),
            ("1 ⅜ in", MM, 34.925),
            ("⅜", INCHES, 9.525),
            ("5' 2 3/8\"", MM, 62.375 * 25.4),
            ("5’ 2”", MM, 62 * 25.4),
            ("5'", MM, 60 * 25.4),
            ("5 ft 2", MM, 62 * 25.4),
            ("3''", MM, 76.2),
            ("62 1/2 inches", MM, 62.5 * 25.4),
            ("−12", MM, -12),
            # A fraction without a unit is inches in every display.
            ("5/8", MM, 15.875),
            ("½", MM, 12.7),
            ("1 3/8", Display("m"), 34.925),
            ("1⁄2", MM, 12.7),
            # Feet and inches as they are called out on site: common practice, no source.
            ("8-1", FEET, 97 * 25.4),
            ("8-1 1/2", INCHES, 97.5 * 25.4),
            ("8-1/2", FEET, 8.5 * 25.4),
            ("-5 - 2", FEET, -62 * 25.4),
            ("1.200 m", MM, 1200),
            ("1.375", INCHES, 34.925),
            ("1,234.5", MM, 1234.5),
            ("1.234,5", MM, 1234.5),
            ("0.125", MM, 0.125),
        ]:
            with self.subTest(text=text, unit=display.length):
                self.assertAlmostEqual(parse_length(text, display), expected, places=9)

    def test_refuses_what_is_not_plain_and_says_what_would_be(self) -> None:
        for text, word in [
            ("", "Nothing"),
            ("5'' 3", "not a length"),
            ("5' 14\"", "12 inches"),
            ("1/0", "zero"),
            ("1/3", "no tape. Type 5/16 or 3/8."),
            ("2 ⅔ in", "2 5/8 or 2 11/16"),
            ("8-1", "not a length"),
            ("1,500", "1.5 mm or as 1500 mm"),
            ("1.200", "1.2 mm or as 1200 mm"),
            ("1.345 cm", "1.345 cm or as 1345 cm"),
            ('1,375"', "1.375 in or as 1375 in"),
            ("11/2", "5 1/2 or 1 1/2"),
            ('1 9/8"', "2 1/8"),
            ("5.5' 6\"", "whole feet"),
            ("1--1/2", "not a length"),
            ("1.2.3", "more than one decimal mark"),
            ("9" * 500 + "/7", "characters"),
            (" " * 60_000, "characters"),
            ("five", "not a length"),
            ("1e9", "not a length"),
            ("500 m", "100 m"),
            ("12 furlongs", "not a length"),
            ("5 5", "not a length"),
            ("nan", "not a length"),
        ]:
            with self.subTest(text=text):
                with self.assertRaises(UnitError) as caught:
                    parse_length(text, MM)
                self.assertIn(word, str(caught.exception))

    @given(st.text(max_size=40))
    def test_any_text_is_a_number_or_a_named_error(self, text: str) -> None:
        for read in (parse_length, parse_fall):
            try:
                self.assertTrue(math.isfinite(read(text)))
            except UnitError as error:
                self.assertGreater(len(str(error)), 10)

    @given(
        st.floats(-20_000, 20_000),
        st.sampled_from([MM, Display("cm"), Display("m"), INCHES, FEET, Display("in", 32)]),
    )
    def test_what_is_printed_reads_back(self, value: float, display: Display) -> None:
        text = format_length(value, display)
        half = display.step / 2 if display.imperial else 0.05
        self.assertLessEqual(abs(parse_length(text, display) - value), half + 1e-9)
        self.assertEqual(format_length(parse_length(text, display), display), text)


class FormatLengthTest(unittest.TestCase):
    def test_prints_in_the_users_form(self) -> None:
        for value, display, expected in [
            (18.29, MM, "18.3 mm"),
            (1500, MM, "1500 mm"),
            (-14, MM, "−14 mm"),
            (-0.01, MM, "0 mm"),
            (18.29, Display("cm"), "1.83 cm"),
            (1500, Display("m"), "1.5 m"),
            (34.925, INCHES, '1 3/8"'),
            (9.525, INCHES, '3/8"'),
            (62.375 * 25.4, FEET, "5' 2 3/8\""),
            (60 * 25.4, FEET, "5'"),
            (0, FEET, '0"'),
            (25.4 / 32, Display("in", 32), '1/32"'),
        ]:
            with self.subTest(expected=expected):
                self.assertEqual(format_length(value, display), expected)

    def test_rounds_to_the_safe_side_when_asked(self) -> None:
        self.assertEqual(format_length(18.21, MM, rounding="up"), "18.3 mm")
        self.assertEqual(format_length(18.29, MM, rounding="down"), "18.2 mm")
        self.assertEqual(format_length(18.0000000001, MM, rounding="up"), "18 mm")


class LimitTest(unittest.TestCase):
    """A limit prints so that what it allows stays allowed and what it forbids forbidden."""

    def test_prints_what_is_meant(self) -> None:
        for value, display, expected in [
            (3.0, MM, "3 mm"),
            (6.35, MM, "6.35 mm"),
            (3.175, MM, "3.175 mm"),
            (12.7, Display("cm"), "1.27 cm"),
            (3.175, INCHES, '1/8"'),
            (25.4 / 32, INCHES, '1/32"'),
            (3.0, INCHES, '3 mm (just under 1/8")'),
            (6.0, FEET, '6 mm (just under 1/4")'),
            (17.0, Display("in", 32), '17 mm (just over 21/32")'),
        ]:
            with self.subTest(expected=expected):
                self.assertEqual(format_limit(value, display), expected)

    @given(
        st.integers(1, 40_000).map(lambda n: n / 100),
        st.sampled_from([MM, Display("cm"), Display("m"), INCHES, FEET, Display("in", 32)]),
    )
    def test_no_limit_is_moved(self, value: float, display: Display) -> None:
        text = format_limit(value, display).split(" (")[0]
        number, _, unit = text.partition(" ")
        if unit in ("mm", "cm", "m"):
            scale = {"mm": 1, "cm": 10, "m": 1000}[unit]
            self.assertAlmostEqual(float(number) * scale, value, places=6)
        else:
            self.assertAlmostEqual(parse_length(text, display), value, places=6)

    def test_falls_stand_beside_their_ratio_where_the_form_rounds(self) -> None:
        self.assertEqual(format_fall_limit(1 / 48), "1:48")
        self.assertEqual(format_fall_limit(1 / 48, "in_per_ft"), "1/4 in per ft")
        self.assertEqual(format_fall_limit(1 / 48, "percent"), "2.08 % (1:48)")
        self.assertEqual(format_fall_limit(1 / 50, "percent"), "2 %")


class FallTest(unittest.TestCase):
    def test_every_form_is_the_same_fall(self) -> None:
        # 1/4 in per ft is 1:48 and 2.08 %: IRC P2709.1 gives both (from memory).
        for text in ("1:48", "1 in 48", "1/4 in per ft", '1/4"/ft', "0.25 in/ft", "1/4", "¼"):
            self.assertAlmostEqual(parse_fall(text), 1 / 48, places=12)
        self.assertAlmostEqual(parse_fall("2.08 %"), 1 / 48, places=4)
        self.assertAlmostEqual(parse_fall("20 mm/m"), 0.02)
        self.assertAlmostEqual(parse_fall("45°"), 1.0)
        self.assertEqual(parse_fall("level"), 0.0)

    def test_prints_every_form(self) -> None:
        for form, expected in [
            ("ratio", "1:48"),
            ("percent", "2.08 %"),
            ("in_per_ft", "1/4 in per ft"),
            ("mm_per_m", "20.8 mm/m"),
            ("degrees", "1.19°"),
        ]:
            self.assertEqual(format_fall(1 / 48, form), expected)  # type: ignore[arg-type]
        self.assertEqual(format_fall(0), "level")

    def test_one_that_breaks_a_limit_never_reads_as_the_limit(self) -> None:
        chance = random.Random(1)
        for _ in range(400):
            limit = 1 / chance.choice([12, 24, 48, 50, 60, 80, 100, chance.uniform(10, 200)])
            fall = limit * (1 + chance.choice([-1, 1]) * 10 ** chance.uniform(-5, -1))
            form = chance.choice(["ratio", "percent", "in_per_ft", "mm_per_m", "degrees"])
            text = format_fall_off(fall, limit, form)  # type: ignore[arg-type]
            with self.subTest(fall=fall, limit=limit, form=form):
                self.assertNotEqual(text, format_fall(limit, form))  # type: ignore[arg-type]
                # And lies on its side of what the limit reads.
                read = parse_fall(format_fall(limit, form))  # type: ignore[arg-type]
                if abs(read / limit - 1) < 1e-9:
                    self.assertEqual(parse_fall(text) > limit, fall > limit)
        self.assertEqual(format_fall_off(1 / 50.04, 1 / 50), "1:50.04")
        self.assertEqual(format_fall_off(100.0, 1 / 12), "1:0.01")

    def test_a_ratio_written_as_a_fraction_that_no_rule_has(self) -> None:
        for typed, fall in (("1/50", 1 / 50), ("1/48", 1 / 48), ("1 / 80", 1 / 80)):
            self.assertEqual(parse_fall(typed), fall, typed)
        # Fractions that a rule has stay inches in the foot, those that are both are refused.
        self.assertAlmostEqual(parse_fall("1/4"), 1 / 48)
        self.assertAlmostEqual(parse_fall("1/16"), 1 / 192)
        for typed, said in (("1/32", "Type 1:32."), ("50", "1:50 or 50 %")):
            with self.assertRaises(UnitError) as refused:
                parse_fall(typed)
            self.assertIn(said, str(refused.exception))

    def test_refuses_a_bare_number_and_walls(self) -> None:
        for text in ("48", "", "1:0", "2:1", "steep", "150 %", "11/4 in per ft", "1/32", "1/3"):
            with self.subTest(text=text), self.assertRaises(UnitError):
                parse_fall(text)
