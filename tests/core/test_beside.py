"""Strips between a shower and a wall: held against rooms in which their width was chosen."""

import random
import unittest

from calm_basin.core.answer.changes import changed
from calm_basin.core.falls.beside import strips_left
from calm_basin.plan import plan_from
from calm_basin.rules import TRADE
from tests.plans import Document, document, moved, offering, point, solved
from tests.sweeps import some


def apart(chance: random.Random) -> tuple[Document, dict[int, float]]:
    """A shower in a corner of its room, each of three sides so far from its wall, in mm or in
    inches, turned or mirrored; the gaps by the wall's number."""
    unit = chance.choice([1.0, 25.4 / 8])
    left, back, right = (
        round(chance.choice([0, 10, 24, 30, 76.2, 140, 148, 155, 400]) / unit) * unit
        for _ in range(3)
    )
    wide, deep = (round(chance.uniform(800, 1400) / unit) * unit for _ in range(2))
    tall = 1000 + deep + back
    doc = document(
        outline=[
            [left, 1000],
            [left + wide, 1000],
            [left + wide, 1000 + deep],
            [left, 1000 + deep],
        ],
        drain=point(left + wide / 2, 1000 + deep / 2),
    )
    whole = left + wide + right
    doc["room"]["outline"] = [[0, 0], [whole, 0], [whole, tall], [0, tall]]
    doc["room"]["doors"] = []
    doc["display"] = {"length": "mm" if unit == 1.0 else "in"}
    return doc, {1: right, 2: back, 3: left}


class StripTest(unittest.TestCase):
    def test_each_is_told_as_wide_as_it_was_made(self) -> None:
        told = 0
        for seed in range(some(80)):
            chance = random.Random(seed)
            doc, gaps = apart(chance)
            wanted = {
                wall: gap
                for wall, gap in gaps.items()
                if TRADE.practice.strip_closed.value + 0.5 < gap <= TRADE.practice.strip.value
            }
            turn, mirror = chance.choice([0.0, 37.3, 90.0, -141.0]), chance.random() < 0.5
            plan = plan_from(moved(doc, turn=turn, mirror=mirror))
            with self.subTest(seed=seed):
                found = {one.wall: one.wide for one in strips_left(plan)}
                self.assertEqual(set(found), set(wanted))
                for wall, gap in wanted.items():
                    self.assertAlmostEqual(found[wall], gap, places=3)
                told += len(found)
        self.assertGreater(told, 0)

    def test_the_cure_brings_the_shower_to_its_walls_and_a_bought_tray_has_none(self) -> None:
        cures = 0
        for seed in range(some(14)):
            doc, _ = apart(random.Random(seed))
            plan = plan_from(moved(doc, turn=23.0))
            found = [f for f in offering(plan).findings if f.code == "strip_beside"]
            self.assertEqual(bool(found), bool(strips_left(plan)))
            for cure in found[0].cures if found else ():
                self.assertEqual(strips_left(changed(plan, cure.changes)), [])
                cures += 1
            doc["shower"]["former"] = {
                "kind": "tray",
                "edge_thickness": 30,
                "stock": {"width": 2000, "length": 2000, "drain_left": 1000, "drain_back": 1000},
            }
            stock = [f for f in offering(plan_from(doc)).findings if f.code == "strip_beside"]
            self.assertFalse(any(f.cures for f in stock))
        self.assertGreater(cures, 0)

    def test_a_wet_room_that_falls_has_no_such_strip(self) -> None:
        doc, _ = apart(random.Random(1))
        doc["room"]["layers"].append({"name": "screed", "thickness": 80})
        doc["shower"]["rest"] = {"asked": 0.01}
        self.assertNotIn("strip_beside", {f.code for f in solved(doc).findings})
