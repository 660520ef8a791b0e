"""Lines that were found in the floor, in the way of the waste's run and of its trench."""

from __future__ import annotations

import math
import random
import unittest
from math import inf

import numpy as np
import shapely
from scipy.sparse import csr_matrix
from scipy.sparse.csgraph import dijkstra
from shapely.geometry import LineString

from calm_basin.core.answer.changes import changed
from calm_basin.core.solution import Solution
from calm_basin.plan import plan_from
from calm_basin.rules import TRADE, drain_families
from tests.plans import Document, answered, cured, document, moved, solved
from tests.sweeps import some

FAMILY = drain_families()["gasket-hub-foam-tray"]

SHUT = "A line in the floor is in the way of the waste pipe"


def house(chance: random.Random, slab: bool) -> tuple[Document, float]:
    """A drain from which the pipe runs straight to a stack on the right, along the joists, which
    lie clear of it; and the level at which the pipe's middle starts, by hand."""
    doc = document()
    doc["floor"] = (
        {"kind": "slab", "thickness": 400, "reinforcement": "none"}
        if slab
        else (
            doc["floor"]
            | {"direction": 0, "centres": 3000, "first_offset": 400, "depth": 300, "ceiling": False}
        )
    )
    doc["shower"]["drain"]["centre"] = [500, 1350]
    doc["waste"] = {
        "family": FAMILY.model_dump(mode="json"),
        "stack": [2300, 1350],
        "branch": -1000,
        "run": [],
    }
    doc["water"] = {"pipe_fall": 1 / chance.choice([40, 48]), "pipe_diameter": 50}
    found = solved(doc | {"version": 9})
    (start,) = (f.value for f in found.waste.figures if f.label == "Pipe's middle at the trap")
    return doc, start


def told(found: Solution) -> dict[str, float]:
    codes = ("pipe_in_line", "pipe_by_line")
    return {f.code: f.measured for f in found.findings if f.code in codes}


class LineTest(unittest.TestCase):
    def test_a_line_at_the_pipes_level_is_a_stop_and_one_not_measured_a_reminder(self) -> None:
        """Where a line crosses at x the pipe lies at start − fall · (x − 500), by hand."""
        counts = {True: 0, False: 0}
        for seed in range(some(60)):
            chance = random.Random(seed)
            slab = chance.random() < 0.4
            doc, start = house(chance, slab)
            x, lean = chance.uniform(900, 1900), chance.uniform(-300, 300)
            keep, radius = chance.choice([0, 25, 50]), FAMILY.pipe / 2
            level = start - doc["water"]["pipe_fall"] * (x - 500)
            depth = chance.choice([None, chance.uniform(0, 350), -level + chance.uniform(-90, 90)])
            depth = None if depth is None else max(depth, 0)
            line = [[x - lean, 600], [x + lean, 1800 + 300]]
            doc["services"] = [
                {"name": "old pipe", "kind": "gas", "points": line, "clearance": keep}
                | {"depth": depth}
            ]
            doc = moved(doc | {"version": 9}, turn=chance.choice([0, 37.0]))
            found = solved(doc)
            codes = told(found)
            with self.subTest(plan=seed, slab=slab, depth=depth):
                if depth is None:
                    self.assertEqual(set(codes), {"pipe_by_line"})
                    self.assertIn("gets away", found.waste.verdict)
                    continue
                bed = TRADE.practice.trench_bedding.value if slab else 0.0
                over = keep - depth - (level - radius - bed)
                under = inf if slab else level + radius + depth + keep
                # Along the stretch on which it comes by, the pipe falls by a few millimetres.
                slack = doc["water"]["pipe_fall"] * 3 * (keep + radius)
                by = min(over, under)
                if abs(by) > slack:
                    counts[by > 0] += 1
                    self.assertEqual(set(codes), {"pipe_in_line"} if by > 0 else set())
                    self.assertEqual(found.waste.verdict == SHUT, by > 0)
                    self.assertEqual(found.waste.run.fits, by <= 0)
                if by > slack:
                    self.assertAlmostEqual(codes["pipe_in_line"], by, delta=slack)
        if some(60) == 60:
            self.assertGreater(min(counts.values()), 8)

    def test_one_that_lies_aside_is_not_told(self) -> None:
        chance = random.Random(1)
        doc, start = house(chance, slab=False)
        for away, near in ((50 + FAMILY.pipe / 2 + 1, False), (50 + FAMILY.pipe / 2 - 1, True)):
            y = 1350 + away
            doc["services"] = [
                {"name": "cable", "kind": "cable", "points": [[0, y], [2400, y]], "depth": -start}
            ]
            self.assertEqual("pipe_in_line" in told(solved(doc | {"version": 9})), near)

    def test_a_trench_through_the_membrane_is_told(self) -> None:
        doc, start = house(random.Random(2), slab=True)
        fall = doc["water"]["pipe_fall"] * 1800
        deep = -start + fall + FAMILY.pipe / 2 + TRADE.practice.trench_bedding.value
        for membrane, cut in ((deep + 0.1, False), (deep - 0.1, True)):
            doc["floor"]["membrane"] = membrane
            codes = {f.code: f.measured for f in solved(doc | {"version": 9}).findings}
            self.assertEqual("trench_cuts_membrane" in codes, cut)
            if cut:
                self.assertTrue(math.isclose(codes["trench_cuts_membrane"], deep, abs_tol=1e-6))


STEP = 20.0
"""The grid of the sum beside it, mm."""


def on_a_grid(room: tuple[float, float], lines: list[LineString], away: float) -> csr_matrix:
    """The ways along a grid over a room that keep ``away`` from lines, as a graph."""
    across, up = (int(size / STEP) + 1 for size in room)
    xs, ys = np.meshgrid(np.arange(across) * STEP, np.arange(up) * STEP)
    free = np.ones(xs.shape, dtype=bool)
    for line in lines:
        free &= shapely.distance(shapely.points(xs, ys), line) >= away
    number = np.arange(xs.size).reshape(xs.shape)
    pairs = [
        (number[:, :-1][beside], number[:, 1:][beside]) for beside in [free[:, :-1] & free[:, 1:]]
    ] + [(number[:-1][over], number[1:][over]) for over in [free[:-1] & free[1:]]]
    first, last = (np.concatenate(side) for side in zip(*pairs, strict=True))
    return csr_matrix((np.full(len(first), STEP), (first, last)), shape=(xs.size, xs.size))


class RoundTest(unittest.TestCase):
    def test_a_proposed_run_goes_round_what_it_can_go_round(self) -> None:
        """Held against the shortest way on a fine grid; a pipe's length there is all it costs."""
        found_round, shut = 0, 0
        for seed in range(some(50)):
            chance = random.Random(seed)
            slab = chance.random() < 0.4
            doc, start = house(chance, slab)
            doc["waste"]["run"] = None
            # So much is kept clear that no fall of these pipes leads beneath a line.
            keep = chance.choice([60, 90])
            lines = []
            for _ in range(chance.choice([1, 1, 2])):
                x, low = chance.uniform(900, 1900), chance.choice([0, chance.uniform(0, 1200)])
                high = chance.choice([1800, chance.uniform(1450, 1650)])
                lines.append([[x, low], [x + chance.uniform(-150, 150), high]])
            doc["services"] = [
                {"name": f"line {i}", "kind": "gas", "points": line, "clearance": keep}
                | {"depth": -start}
                for i, line in enumerate(lines)
            ]
            doc["display"] = {"length": chance.choice(["mm", "in"])}
            away = keep + FAMILY.pipe / 2
            graph = on_a_grid((2400, 1800), [LineString(line) for line in lines], away)
            row = int(2400 / STEP) + 1
            outlet, stack = (int(1350 / STEP) * row + int(x / STEP) for x in (500, 2300))
            shortest = float(dijkstra(graph, indices=outlet)[stack])
            turn, mirror = chance.choice([(0.0, False), (37.0, True)])
            placed = moved(doc | {"version": 9}, turn=turn, mirror=mirror)
            found = solved(placed)
            with self.subTest(plan=seed, slab=slab, shortest=shortest):
                stop = "pipe_in_line" in told(found)
                run = found.waste.run
                assert run is not None
                way = LineString(run.line)
                near = min(way.distance(LineString(one["points"])) for one in placed["services"])
                if not stop:
                    self.assertGreaterEqual(near, away - 0.01)
                    # A grid's way is never shorter than one between lines that lie anywhere.
                    self.assertLess(way.length, shortest + 4 * STEP)
                    found_round += way.length > 1801
                else:
                    self.assertLess(near, away)
                    self.assertEqual(shortest, inf)
                    shut += 1
        self.assertGreater(found_round, some(50) // 5)
        self.assertGreaterEqual(shut, some(50) // 25)

    def test_a_run_that_is_laid_through_a_line_may_be_proposed_anew(self) -> None:
        doc, start = house(random.Random(3), slab=False)
        doc["services"] = [
            {"name": "gas", "kind": "gas", "points": [[1400, 900], [1400, 1500]], "depth": -start}
        ]
        plan = plan_from(doc | {"version": 9})
        (finding,) = (f for f in cured(doc | {"version": 9}).findings if f.code == "pipe_in_line")
        (cure,) = finding.cures
        self.assertEqual(cure.text, "Let the run be proposed")
        self.assertNotIn("pipe_in_line", told(answered(changed(plan, cure.changes))))


if __name__ == "__main__":
    unittest.main()
