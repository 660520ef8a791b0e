"""Flows: what people type, what they read."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from calm_basin.amounts import format_flow, parse_flow
from calm_basin.units import Display, UnitError
from tests.sweeps import examples


class FlowTest(unittest.TestCase):
    def test_as_it_is_typed(self) -> None:
        # A US gallon is 231 cubic inches of 16.387064 ml (NIST Handbook 44, appendix C).
        gallon = 231 * 16.387064 / 1000
        for text, length, litres in (
            ("9", "mm", 9),
            ("9,5", "mm", 9.5),
            ("9 L/min", "in", 9),
            ("2.5", "in", 2.5 * gallon),
            ("2.5", "ft", 2.5 * gallon),
            ("1.8 gpm", "mm", 1.8 * gallon),
            (" 1.8 GAL/MIN ", "cm", 1.8 * gallon),
        ):
            with self.subTest(text=text, length=length):
                read = parse_flow(text, Display(length))  # type: ignore[arg-type]
                self.assertAlmostEqual(read, litres, places=6)

    def test_nonsense_names_what_would_be_understood(self) -> None:
        for text in ("", "fast", "-3", "9 L", "9 L/h", "nan", "1e3", "9 9"):
            with self.subTest(text), self.assertRaises(UnitError) as caught:
                parse_flow(text, Display())
            self.assertIn("9 L/min", str(caught.exception))

    @examples(60)
    @given(litres=st.floats(0.5, 200), length=st.sampled_from(["mm", "cm", "m", "in", "ft"]))
    def test_what_is_shown_reads_back(self, litres: float, length: str) -> None:
        display = Display(length)  # type: ignore[arg-type]
        shown = format_flow(litres, display)
        self.assertAlmostEqual(parse_flow(shown, display), litres, delta=0.02)
