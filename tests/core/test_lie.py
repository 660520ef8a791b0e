"""Floors that tilt: steps along the whole edge, from the floor as it is and as it is made true."""

from __future__ import annotations

import random
import unittest
from itertools import pairwise

from shapely.geometry import Polygon

from calm_basin.core.depth.thresholds import door_edges, entry_edge
from calm_basin.core.falls import surface_of
from calm_basin.core.survey.ground import floor_of
from calm_basin.core.survey.pour import pour
from calm_basin.plan import plan_from
from calm_basin.plan.survey import Pour
from calm_basin.rules import TRADE
from tests.plans import Document, cured, document, moved, solved
from tests.sweeps import some

INCH = 25.4

ENTRY = 900.0
"""The shower is entered over y = 900, from x = 0 to 1500."""


class Tilted:
    """A room of 2400 × 1800 whose floor is folded at one x and tilts along y, read where it folds.

    Each of its rectangles is a plane, so what lies between the readings is known by hand.
    """

    def __init__(self, seed: int) -> None:
        chance = random.Random(seed)
        self.chance = chance
        self.fold = chance.uniform(200, 1400)
        self.left, self.right = (chance.uniform(-0.015, 0.015) for _ in range(2))
        self.along = chance.uniform(-0.015, 0.015)
        self.places = [(x, y) for x in (0.0, self.fold, 2400.0) for y in (0.0, ENTRY, 1800.0)]
        self.top = max(self.height(x, y) for x, y in self.places)

    def height(self, x: float, y: float) -> float:
        side = self.left if x < self.fold else self.right
        return side * (x - self.fold) + self.along * y

    def below(self, x: float, y: float) -> float:
        return self.height(x, y) - self.top

    def plan(self, correction: Document | None, **doc: object) -> Document:
        made = document(former={"kind": "bed", "least_thickness": 20}) | doc
        readings = [
            {"kind": "height", "x": x, "y": y, "height": self.height(x, y)} for x, y in self.places
        ]
        made["survey"] = {"levels": readings, "correction": correction}
        made["version"] = 9
        return made

    def along_edge(self, start: float, end: float, y: float) -> list[float]:
        """Heights under the high spot where the floor bends along an edge at one y."""
        return [self.below(x, y) for x in (start, end, self.fold) if start <= x <= end]


def worst(values: list[float]) -> float:
    return max(abs(value) for value in values)


CORRECTIONS: tuple[Document | None, ...] = (
    None,
    {"kind": "frame"},
    {"kind": "pack"},
    {"kind": "pour", "area": "shower"},
)
"""What leaves the room's floor as it is."""


class StepTest(unittest.TestCase):
    def test_entry_and_door_are_read_along_their_whole_length(self) -> None:
        for seed in range(some(30)):
            floor = Tilted(seed)
            chance = floor.chance
            offset, width = chance.uniform(100, 800), chance.uniform(700, 1400)
            outside, set_down = chance.uniform(0, 30), chance.choice([0.0, 5.0, 12.0])
            doc = floor.plan(chance.choice(CORRECTIONS))
            doc["shower"]["set_down"] = set_down
            doc["room"]["doors"] = [
                {"wall": 0, "offset": offset, "width": width, "outside": outside}
            ]
            turn = chance.choice([0, 0, 90, chance.uniform(-180, 180)])
            doc = moved(doc, turn=turn, mirror=chance.random() < 0.5)
            plan = plan_from(doc)
            surface = surface_of(plan)
            room = sum(layer.thickness for layer in plan.room.layers)
            with self.subTest(plan=seed):
                # The shower's edge is set level with the high spot, less its set-down.
                steps = [below + set_down for below in floor.along_edge(0, 1500, ENTRY)]
                edge = entry_edge(plan, surface)
                self.assertAlmostEqual(abs(edge.rise), worst(steps), places=4)
                self.assertAlmostEqual(
                    solved(doc).figures.step_at_entry.value, -edge.rise, places=6
                )
                rises = [
                    room + below - outside for below in floor.along_edge(offset, offset + width, 0)
                ]
                (door,) = door_edges(plan, surface)
                self.assertAlmostEqual(abs(door.rise), worst(rises), places=4)
                crosses = min(rises) <= 0 <= max(rises)
                self.assertAlmostEqual(
                    abs(door.least), 0 if crosses else min(abs(r) for r in rises), places=4
                )

    def test_the_section_shows_the_step_that_the_figures_tell(self) -> None:
        for seed in range(some(20)):
            floor = Tilted(seed)
            chance = floor.chance
            set_down = chance.choice([0.0, 5.0, 12.0])
            doc = floor.plan(chance.choice(CORRECTIONS))
            doc["shower"]["set_down"] = set_down
            if chance.random() < 0.5:
                doc["floor"] = {"kind": "slab", "thickness": 120}
            turn = chance.choice([0, 90, chance.uniform(-180, 180)])
            found = solved(moved(doc, turn=turn, mirror=chance.random() < 0.5)).section
            with self.subTest(plan=seed):
                assert found is not None and found.entry is not None
                layers = [band for band in found.bands if band.kind == "finish"]
                outside = [b for b in layers if max(s for s, _ in b.outline) < found.entry + 1e-3]
                inside = [b for b in layers if min(s for s, _ in b.outline) > found.entry - 1e-3]
                before, behind = (
                    max(z for band in side for s, z in band.outline if abs(s - found.entry) < 1e-3)
                    for side in (outside, inside)
                )
                # The drain stands at x = 750 and the cut runs straight in to it.
                step = floor.below(750, ENTRY) + set_down
                self.assertAlmostEqual(before - behind, step, places=4)
                carrier = next(
                    b for b in found.bands if b.kind in ("deck", "slab") and b.outline[0][0] < 1
                )
                ends = dict(carrier.outline[: len(carrier.outline) // 2])
                for s, z in ends.items():
                    self.assertAlmostEqual(z, floor.below(750, s), places=4)

    def test_a_floor_an_inch_out_reads_flush_nowhere_until_it_is_poured(self) -> None:
        for correction in CORRECTIONS:
            floor = Tilted(0)
            floor.left = floor.right = INCH / 2400
            floor.along, floor.fold = 0.0, 700.0
            floor.top = floor.height(2400, 0)
            doc = floor.plan(correction)
            doc["room"]["doors"] = [{"wall": 0, "offset": 100, "width": 800, "outside": 24}]
            found = solved(doc)
            with self.subTest(correction=correction):
                self.assertNotEqual(found.figures.step_at_entry.text, "flush")
                self.assertAlmostEqual(found.figures.step_at_entry.value, -INCH, places=3)
                self.assertIn("step_at_door", {finding.code for finding in found.findings})
        for area in ("room", "both"):
            found = solved(floor.plan({"kind": "pour", "area": area}))
            self.assertEqual(found.figures.step_at_entry.text, "flush")

    def test_a_tray_on_a_floor_that_is_true_enough_follows_it(self) -> None:
        for seed in range(some(20)):
            floor = Tilted(seed)
            for name in ("left", "right", "along"):
                setattr(floor, name, getattr(floor, name) / 15)
            floor.top = max(floor.height(x, y) for x, y in floor.places)
            doc = floor.plan(None)
            doc["shower"]["former"] = {"kind": "tray", "edge_thickness": 30}
            under = floor.along_edge(0, 1500, ENTRY) + floor.along_edge(0, 1500, 1800)
            out = max(under) - min(under)
            with self.subTest(plan=seed):
                step = abs(solved(doc).figures.step_at_entry.value)
                if out <= INCH / 8:
                    self.assertEqual(step, 0)
                else:
                    self.assertAlmostEqual(step, worst(floor.along_edge(0, 1500, ENTRY)), places=4)

    def test_a_pour_over_the_room_is_offered_and_cures(self) -> None:
        offered = 0
        for seed in range(some(6)):
            floor = Tilted(seed)
            doc = floor.plan({"kind": "frame"})
            for finding in cured(doc).findings:
                if finding.code == "step_over_limit":
                    offered += any("over the room" in cure.text for cure in finding.cures)
        self.assertGreater(offered, 0)


class PourTest(unittest.TestCase):
    def test_one_in_the_shower_starts_from_the_showers_own_high_spot(self) -> None:
        """Depths by hand over the rectangles of the floor: of each the mean of its corners."""
        for seed in range(some(40)):
            floor = Tilted(seed)
            plan = plan_from(floor.plan(None))
            ground = floor_of(plan.survey.levels, plan.room.outline)
            zone = Polygon(plan.shower.outline)
            xs, ys = sorted({0.0, min(floor.fold, 1500.0), 1500.0}), (ENTRY, 1800.0)
            top = max(floor.below(x, y) for x in xs for y in ys)
            cover = floor.chance.choice([3.0, 6.0, INCH / 4])
            litres = 0.0
            for x0, x1 in pairwise(xs):
                mean = sum(top - floor.below(x, y) for x in (x0, x1) for y in ys) / 4 + cover
                litres += mean * (x1 - x0) * 900 / 1e6
            with self.subTest(plan=seed):
                result = pour(ground, zone, Pour(area="shower", cover=cover))
                self.assertAlmostEqual(result.litres / litres, 1, delta=0.005)

    def test_what_is_not_read_is_not_poured_upon(self) -> None:
        """Five readings in one corner of a room tell nothing of the rest: no bags, but where to
        read; the deepest place is one that was read."""
        for size, told in ((300, False), (1000, False), (2300, True)):
            floor = Tilted(3)
            spots = [(0, 0), (size, 0), (0, 0.7 * size), (size, 0.7 * size), (size / 2, size / 3)]
            doc = floor.plan({"kind": "pour"})
            doc["survey"]["levels"] = [
                {"kind": "height", "x": x, "y": y, "height": -0.004 * x} for x, y in spots
            ]
            found = solved(doc).survey.floor
            (way,) = (one for one in found.truings if one.code == "pour")
            bags = next(item.text for item in way.figures if item.name == "bags")
            with self.subTest(size=size):
                self.assertEqual(bags.isdigit(), told)
                self.assertEqual("outside your readings" in way.advice[0], not told)
                if told:
                    plan = plan_from(doc)
                    ground = floor_of(plan.survey.levels, plan.room.outline)
                    at = pour(ground, Polygon(plan.room.outline), Pour()).deepest
                    self.assertLessEqual(at.x, size)
                    self.assertLessEqual(at.y, 0.7 * size)


class CorrectionTest(unittest.TestCase):
    def test_one_that_was_chosen_keeps_its_own_limit(self) -> None:
        """Packed or shimmed so far (common practice, no source): 1/8 in of shims under a one-piece
        unit, 1/4 in under a rigid pan, a few mm of adhesive under a foam tray, none under a bed."""
        limits = {"one-piece": INCH / 8, "rigid-pan": INCH / 4, "foam-tray": 6}
        for name, most in limits.items():
            self.assertAlmostEqual(TRADE.bases.by_id[name].packs, most, places=6)
            for out, fine in ((most, True), (most + 0.1, False)):
                floor = Tilted(1)
                floor.left = floor.right = out / 1500
                floor.along, floor.top = 0.0, floor.height(2400, 0)
                doc = floor.plan({"kind": "pack"})
                doc["survey"]["base"] = name
                found = solved(doc)
                with self.subTest(base=name, out=out):
                    codes = {finding.code for finding in found.findings}
                    self.assertEqual("floor_out_of_true" in codes, not fine)
                    self.assertEqual(found.survey.floor.true_enough, fine)
        self.assertEqual(TRADE.bases.by_id["mortar-bed"].packs, 0)

    def test_a_deck_is_framed_level_on_joists_only_and_not_over_them(self) -> None:
        for deck, kind, fine in ((18, "joists", True), (6, "joists", False), (18, "slab", False)):
            floor = Tilted(1)
            floor.left = floor.right = 12 / 2400
            floor.along, floor.top = 0.0, floor.height(2400, 0)
            doc = floor.plan({"kind": "frame"})
            doc["floor"] = (
                doc["floor"] | {"deck_thickness": deck}
                if kind == "joists"
                else {"kind": "slab", "thickness": 120}
            )
            doc["survey"]["base"] = "foam-tray"
            codes = {finding.code for finding in solved(doc).findings}
            self.assertEqual("floor_out_of_true" in codes, not fine, (deck, kind))


if __name__ == "__main__":
    unittest.main()
