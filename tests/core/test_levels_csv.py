"""Readings as tables: units by the heading or the screen, rows that are refused."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from calm_basin.formats.levels_csv import read_levels, write_levels
from calm_basin.plan.survey import HeightReading, ShimReading, StaffReading
from calm_basin.units import Display
from tests.sweeps import examples

UNITS = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8}
"""Millimetres in each unit: the international inch is 25.4 mm (ISO 80000-3, from memory)."""

BARE = UNITS | {"ft": 25.4}
"""What a bare number counts on a screen: on one in feet and inches it is inches."""

numbers = st.integers(-90_000, 90_000).map(lambda n: n / 1000)
rows = st.lists(st.tuples(numbers, numbers, numbers), min_size=1, max_size=5)


def heights(text: str, display: Display) -> list[float]:
    levels, errors = read_levels(text, display)
    assert not errors, errors
    return [
        value for level in levels for value in (level.x, level.y, getattr(level, "height", 0.0))
    ]


class UnitsTest(unittest.TestCase):
    @examples(80)
    @given(rows, st.sampled_from(list(UNITS)), st.sampled_from(list(UNITS)), st.booleans())
    def test_the_heading_says_the_unit_else_the_screen_does(
        self, table: list[tuple[float, float, float]], heading: str, screen: str, commas: bool
    ) -> None:
        if max(abs(v) for row in table for v in row) * max(UNITS[heading], UNITS[screen]) > 4.9e4:
            table = [(a / 1000, b / 1000, c / 1000) for a, b, c in table]
        cell = ";" if commas else ","
        for unit, names in (
            (UNITS[heading], [f"{name} ({heading})" for name in ("x", "y", "reading")]),
            (BARE[screen], ["x", "y", "reading"]),
        ):
            lines = [cell.join(names)]
            for row in table:
                texts = (f"{value:.6f}" for value in row)
                lines.append(cell.join(t.replace(".", ",") if commas else t for t in texts))
            found = heights("\n".join(lines), Display(length=screen))  # type: ignore[arg-type]
            for got, value in zip(found, (v for row in table for v in row), strict=True):
                self.assertAlmostEqual(got, value * unit, places=2)

    def test_a_decimal_comma_between_commas_is_refused_with_its_row(self) -> None:
        for row in ("1,2,-3,5", '1,2,"-3,5"', "1,5,2,3"):
            levels, errors = read_levels(f"x,y,reading\n0,0,0\n{row}\n", Display())
            self.assertEqual((len(levels), [e.row for e in errors]), (1, [3]), row)
            self.assertIn("comma", errors[0].message)

    def test_a_written_fraction_is_inches_in_any_table(self) -> None:
        for heading in ("x,y,reading", "x (mm),y (mm),reading (mm)", "x (in),y (in),reading (in)"):
            levels, errors = read_levels(f"{heading}\n0,0,3/8\n", Display())
            self.assertEqual(errors, [])
            self.assertAlmostEqual(levels[0].height, 9.525)  # type: ignore[union-attr]

    def test_a_unit_on_what_is_no_length_is_refused(self) -> None:
        levels, errors = read_levels("x,y,reading,direction (mm)\n0,0,0,90\n", Display())
        self.assertEqual((levels, errors[0].row), ([], 1))
        self.assertIn("direction", errors[0].message)


class CsvTest(unittest.TestCase):
    LEVELS = (
        HeightReading(x=1, y=2, height=-3.5),
        StaffReading(x=1000, y=2, reading=1243.2, instrument=1240),
        ShimReading(x=5, y=6, direction=90, distance=1200, gap=4),
    )

    def test_what_goes_out_comes_back(self) -> None:
        self.assertEqual(read_levels(write_levels(self.LEVELS), Display()), (list(self.LEVELS), []))

    def test_rows_that_cannot_be_read_are_told_one_by_one(self) -> None:
        text = (
            'X; Y ;Reading;kind\n0;0;5;\n1;1;deep;height\n;;;\n2;2;1/8";staff\n'
            "3;3;4;wave\n4;4;4;shim\n;5;1;height\n9e9;0;0;height\n"
        )
        levels, errors = read_levels(text, Display())
        self.assertEqual(len(levels), 2)
        self.assertEqual([error.row for error in errors], [3, 6, 7, 8, 9])
        for error, word in zip(
            errors, ("reading", "wave", "direction", "x is empty", "x"), strict=True
        ):
            self.assertIn(word, error.message)

    def test_a_heading_is_needed(self) -> None:
        for text in ("", "1,2,3\n", "x,y\n1,2\n"):
            levels, errors = read_levels(text, Display())
            self.assertEqual(levels, [])
            self.assertIn("heading", errors[0].message)


class BoundsTest(unittest.TestCase):
    """Text of any length is read in one pass, and what is told of it is bounded."""

    def test_cells_of_any_length_are_refused_with_their_row(self) -> None:
        for cell in (
            "1" + " " * 60_000 + "2",
            "9" * 5_000,
            "1" * 300 + "/" + "7" * 300,
            '"' + "1" * 200_000 + '"',
            "\0",
            "1,000,000.5.5",
        ):
            levels, errors = read_levels(f"x;y;reading\n{cell};1;2\n4;5;6\n", Display())
            self.assertEqual([error.row for error in errors], [2], cell[:20])
            self.assertLess(len(errors[0].message), 400)
            self.assertEqual([level.x for level in levels], [4.0])

    def test_headings_that_cannot_be_parted(self) -> None:
        for heading in ("x" * 200_000, '"' * 5_001, ",".join("x" * 9_000)):
            levels, errors = read_levels(f"{heading}\n1,2,3\n", Display())
            self.assertEqual(levels, [])
            self.assertEqual(errors[0].row, 1)

    def test_rows_may_end_in_any_way(self) -> None:
        for end in ("\n", "\r\n", "\r"):
            levels, errors = read_levels(end.join(["x,y,reading", "1,2,3", "4,5,6"]), Display())
            self.assertEqual((len(levels), errors), (2, []))

    def test_errors_are_cut_and_counted(self) -> None:
        _, errors = read_levels("x,y,reading\n" + "a,b,c\n" * 500, Display())
        self.assertEqual(len(errors), 41)
        self.assertIn("460 rows more", errors[-1].message)

    def test_more_rows_or_readings_than_there_can_be(self) -> None:
        levels, errors = read_levels("x,y,reading\n" + "1,2,3\n" * 5_001, Display())
        self.assertEqual(len(levels), 5_000)
        self.assertIn("5,000 readings", errors[0].message)
        _, errors = read_levels("x,y,reading\n" + "\n" * 30_000 + "1,2,3\n", Display())
        self.assertIn("20,000 rows", errors[0].message)
