"""Values of the trade: each table is one record, each value has its unit and its source."""

import re
import tomllib
import unittest
from collections.abc import Iterator
from functools import cached_property
from importlib import resources
from typing import Any

from pydantic import BaseModel, ValidationError

from calm_basin.rules import TRADE
from calm_basin.rules.trade import Trade
from calm_basin.rules.trade.heating import Heating
from calm_basin.rules.trade.sourced import Measure, Sourced, Steepest, Value
from tests.sweeps import each

TABLES = resources.files("calm_basin.rules") / "tables"


def tables() -> list[str]:
    return [name for name in vars(Trade) if isinstance(vars(Trade)[name], cached_property)]


def parts(value: Any) -> Iterator[BaseModel]:
    """All records in a record."""
    if isinstance(value, BaseModel):
        yield value
        value = [getattr(value, name) for name in type(value).model_fields]
    if isinstance(value, dict):
        value = list(value.values())
    if isinstance(value, list | tuple):
        for one in value:
            yield from parts(one)


class RecordTest(unittest.TestCase):
    def test_every_table_that_ships_is_read(self) -> None:
        kinds = {type(getattr(TRADE, name)) for name in each(tables(), 15)}
        read = {name: vars(Trade)[name].func.__code__.co_consts for name in tables()}
        named = {const for consts in read.values() for const in consts if isinstance(const, str)}
        # Drain families and kinds of layer are lists that files of one's own add to.
        others = {"drains-linear", "drains-point", "layers"}
        files = {file.name.removesuffix(".toml") for file in TABLES.iterdir()}
        self.assertEqual(files - others, named & files)
        self.assertEqual(len(kinds), len(tables()))

    def test_each_value_is_what_its_text_says_and_has_a_source_and_a_reason(self) -> None:
        seen = 0
        for name in tables():
            for part in parts(getattr(TRADE, name)):
                if isinstance(part, Sourced):
                    self.assertTrue(part.source, part)
                if not isinstance(part, Value):
                    continue
                self.assertTrue(part.note, part)
                text = str(part.given)
                if isinstance(part, Measure):
                    found = re.fullmatch(r"([\d.]+)mm", text)
                    assert found, text
                    self.assertEqual(part.value, float(found[1]))
                elif isinstance(part, Steepest):
                    rise, run = (float(side) for side in text.split(":"))
                    self.assertAlmostEqual(part.value, rise / run)
                else:
                    self.assertEqual(part.value, float(text))
                seen += 1
        self.assertGreater(seen, 80)

    def test_a_value_too_many_or_too_few_is_refused(self) -> None:
        whole = tomllib.loads((TABLES / "heating.toml").read_text("utf-8"))
        self.assertEqual(Heating.model_validate(whole), TRADE.heating)
        for name in each(whole, 8):
            less = {other: value for other, value in whole.items() if other != name}
            for wrong in (less, whole | {f"{name}_too": whole[name]}):
                with self.assertRaises(ValidationError):
                    Heating.model_validate(wrong)


if __name__ == "__main__":
    unittest.main()
