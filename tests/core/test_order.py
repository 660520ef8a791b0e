"""The order as people get it: packs, what was typed, ticks, CSV, command line."""

import csv
import io
import json
import unittest
from math import ceil
from typing import Any

from click.testing import CliRunner

from calm_basin.cli import main
from calm_basin.core.order.result import OrderResult
from calm_basin.demo import demo_plans
from calm_basin.formats.order_csv import write_order
from calm_basin.plan import PlanError, plan_from
from calm_basin.rules import TRADE
from tests.plans import Document, answered, document
from tests.sweeps import each


def ordered(doc: Document | None = None, *bought: dict[str, Any]) -> OrderResult:
    plan = plan_from((doc or document()) | {"version": 10, "order": {"items": list(bought)}})
    result = answered(plan, parts=("order",)).order
    assert result is not None
    return result


class PacksTest(unittest.TestCase):
    def test_packs_are_whole_and_hold_what_is_needed_with_waste(self) -> None:
        for plan in demo_plans():
            result = answered(plan, parts=("order",)).order
            assert result is not None
            for line in each(result.lines, least=5):
                counted = "of the layout" in line.why.formula
                waste = 0.0 if counted else TRADE.order.items[line.item].waste
                with self.subTest(job=plan.job.name, item=line.item):
                    self.assertGreaterEqual(
                        line.packs * line.pack, line.needed * (1 + waste) - 1e-6
                    )
                    if line.item not in ("cleat", "joist"):
                        self.assertLess((line.packs - 1) * line.pack, line.needed * (1 + waste))
                    self.assertTrue(line.why.formula and line.why.source and line.why.inputs)

    def test_what_the_bag_says_is_taken_and_shown_as_typed(self) -> None:
        (usual,) = (line for line in ordered().lines if line.item == "mud")
        (typed,) = (
            line
            for line in ordered(None, {"item": "mud", "pack": 9.5, "price": 7.25}).lines
            if line.item == "mud"
        )
        self.assertFalse(usual.typed)
        self.assertTrue(typed.typed)
        self.assertEqual(typed.packs, ceil(typed.needed * 1.1 / 9.5))
        self.assertEqual(typed.cost, 7.25 * typed.packs)
        self.assertIn("as typed", typed.why.inputs[-1].text)

    def test_what_a_bag_says_is_told_in_the_units_of_the_job(self) -> None:
        doc = document() | {"display": {"length": "in"}}
        line = next(o for o in ordered(doc).lines if o.item == "tile_adhesive")
        # 5.6 m² are 60.3 sq ft.
        self.assertEqual(line.pack_unit, "sq ft")
        self.assertAlmostEqual(float(line.pack_shown), 60.28, places=2)
        self.assertAlmostEqual(float(line.pack_shown) * line.pack_one, line.pack, places=3)

    def test_tile_that_is_laid_out_is_counted(self) -> None:
        """17 tiles by hand (see the tile's own tests) and one for breakage, of 0.09 m²."""
        drain = {"kind": "linear", "start": [0, 1765], "end": [1500, 1765], "width": 70}
        tile = {"length": 300, "width": 300, "joint": 3}
        doc = document(drain=drain, fall={"asked": 1 / 48}, tile=tile)
        (line,) = (one for one in ordered(doc).lines if one.item == "tile")
        self.assertAlmostEqual(line.needed, 18 * 0.09)
        self.assertEqual(line.packs, 2)
        self.assertIn("18 tiles of the layout", line.why.formula)
        # Where no tile was chosen, its area with a tenth for cuts is.
        doc = document(drain=drain, fall={"asked": 1 / 48})
        (line,) = (one for one in ordered(doc).lines if one.item == "tile")
        self.assertIn("area of the floor", line.why.formula)

    def test_a_heating_cable_is_bought_whole(self) -> None:
        doc = document() | {"version": 10, "heating": {"length": 25_000}}
        (line,) = (one for one in ordered(doc).lines if one.item == "cable")
        self.assertEqual((line.packs, line.name), (1, "Heating cable, 25.0 m, 230 V"))
        self.assertNotIn("cable", [one.item for one in ordered().lines])

    def test_a_total_says_what_has_no_price(self) -> None:
        self.assertEqual(ordered().total_text, "")
        said = ordered(None, {"item": "mud", "price": 1000.0}).total_text
        self.assertIn("without", said)

    def test_a_yield_of_nothing_is_refused_by_its_field(self) -> None:
        for bought, path in (
            ({"item": "mud", "pack": 0}, "/order/items/0/pack"),
            ({"item": "mud", "pack": "1e400"}, "/order/items/0/pack"),
            ({"item": "mud", "price": -1}, "/order/items/0/price"),
            ({"item": "=cmd()"}, "/order/items/0/item"),
        ):
            with self.subTest(bought), self.assertRaises(PlanError) as caught:
                ordered(None, bought)
            self.assertEqual(caught.exception.problems[0].path, path)
        with self.assertRaises(PlanError) as caught:
            ordered(None, {"item": "mud"}, {"item": "mud"})
        self.assertIn("twice", caught.exception.problems[0].message)

    def test_a_length_of_nothing_cuts_nothing_and_is_said(self) -> None:
        result = ordered(None, {"item": "cleat", "pack": 0.001})
        self.assertNotIn("cleat", [cuts.item for cuts in result.cuts])
        self.assertIn("too short to cut from", " ".join(result.said))

    def test_the_table_names_its_sources(self) -> None:
        for item in each(TRADE.order.items.values(), least=20):
            self.assertTrue(item.document and item.note, item.id)
            for pack in (item.metric, item.inch):
                self.assertGreater(pack.pack, 0)
        for usual in each(TRADE.kit.lists.values(), 4):
            self.assertTrue(usual.listed)

    def test_every_piece_of_the_cut_sheet_is_on_a_cut_list(self) -> None:
        cut_from = 0
        for plan in demo_plans():
            solution = answered(plan, parts=("order",))
            sheet = solution.structure.sheet if solution.structure else None
            if sheet is None or solution.order is None:
                continue
            cuts = {one.item: one for one in solution.order.cuts}
            timber = [
                p
                for item in ("cleat", "joist")
                if item in cuts
                for b in cuts[item].bars
                for p in b.pieces
            ]
            self.assertEqual(len(timber), len(sheet.battens))
            if sheet.pieces:
                deck = [p for bar in cuts["deck"].bars for p in bar.pieces]
                self.assertEqual(len(deck), len(sheet.pieces))
                cut_from += len(deck)
        self.assertGreater(cut_from, 10)


class FilesTest(unittest.TestCase):
    def test_the_table_says_what_the_screen_says(self) -> None:
        for plan in demo_plans()[:3]:
            order = answered(plan, parts=("order",)).order
            assert order is not None
            rows = list(csv.DictReader(io.StringIO(write_order(order).split("\n\n")[0])))
            self.assertEqual(len(rows), len(order.lines))
            by_name = {row["item"]: row for row in rows}
            for line in order.lines:
                row = by_name[line.name]
                self.assertEqual(
                    (row["where"], row["needed"], row["buy"]),
                    (line.where, line.needed_text, line.buy_text),
                )

    def test_no_cell_is_a_formula(self) -> None:
        doc = json.loads(demo_plans()[0].model_dump_json())
        doc["waste"]["family"] |= {"id": "own", "name": "Ünder"}
        order = ordered(doc)
        named = order.model_copy(
            update={"lines": (order.lines[0].model_copy(update={"name": "=HYPERLINK(1)"}),)}
        )
        (row,) = list(csv.DictReader(io.StringIO(write_order(named).split("\n\n")[0])))
        self.assertEqual(row["item"], "'=HYPERLINK(1)")

    def test_the_command_tells_it(self) -> None:
        text = demo_plans()[0].model_dump_json()
        told = CliRunner().invoke(main, ["solve", "-", "--with", "order", "--text"], input=text)
        self.assertEqual(told.exit_code, 0, told.output)
        self.assertIn("What to buy", told.output)
        self.assertIn("3 × 25 kg bag", told.output)
        as_json = CliRunner().invoke(main, ["solve", "-", "--with", "order"], input=text)
        self.assertTrue(json.loads(as_json.output)["order"]["lines"])
