"""Kinds of what carries a shower, what it falls to and what makes its falls: subjects ask them, so
that one that nobody knew goes through everything."""

from __future__ import annotations

import unittest
from dataclasses import dataclass
from typing import Any, get_args
from unittest import mock

import numpy as np
from numpy.typing import NDArray

from calm_basin.core.answer.result import Part
from calm_basin.core.comparing import compared
from calm_basin.core.kinds import (
    CARRIERS,
    DRAINS,
    FORMERS,
    Carrier,
    DrainKind,
    FormerKind,
    drain_kind,
)
from calm_basin.core.solution import Solution
from calm_basin.core.solve import solve
from calm_basin.plan import plan_from
from calm_basin.plan.floor import JoistFloor, SlabFloor
from calm_basin.plan.shower import LinearDrain, MortarBed, PointDrain, SlopePanels, Tray
from calm_basin.rules import rule_sets
from tests.plans import channel, document, point
from tests.sweeps import each

PARTS: tuple[Part, ...] = get_args(Part)


@dataclass(frozen=True)
class OnPlanks(Carrier):
    """Concrete planks with a topping that may be chased out 30 mm deep; no joists, no slab."""

    floor: SlabFloor

    name = "topping"
    recessed_name = "chase in the topping"
    structure = "the planks"
    opening = "cut_slab"
    opened_for_pipe = True
    refitted = False
    trenched = True
    timber = False
    gives_why = "the topping may be chased to the planks' top"
    never = ("planks", "Planks are stressed: never chase below the topping.")

    @property
    def thickness(self) -> float:
        return 50.0

    @property
    def gives(self) -> float:
        return 30.0

    def under(self, base: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.minimum(base, 0.0)

    def drawn_to(self, base: float) -> float:
        return min(-77.0, base)


@dataclass(frozen=True)
class FoamBlocks(FormerKind):
    """Blocks glued up to the falls, 31 mm at the drain whatever the document says."""

    former: MortarBed

    name = "foam blocks"
    band = "bed"
    cast = False
    one_piece = False
    rigid = False
    task = "set_panels"
    measured_at = "drain"
    measure = ("blocks at the drain", "least_thickness")

    @property
    def thickness(self) -> float:
        return 31.0


class KindTest(unittest.TestCase):
    def test_every_kind_of_the_document_has_one_that_answers_all(self) -> None:
        asked: tuple[tuple[Any, dict[str, Any], tuple[Any, ...]], ...] = (
            (Carrier, CARRIERS, (JoistFloor, SlabFloor)),
            (DrainKind, DRAINS, (PointDrain, LinearDrain)),
            (FormerKind, FORMERS, (MortarBed, Tray, SlopePanels)),
        )
        for kind, listed, documents in asked:
            named = {one.model_fields["kind"].default for one in documents}
            self.assertEqual(set(listed), named)
            for one in listed.values():
                self.assertFalse(one.__abstractmethods__, one)
                for name in each(kind.__annotations__):
                    self.assertTrue(hasattr(one, name), f"{one.__name__} says no {name}")

    def solution(self, doc: dict[str, Any]) -> Solution:
        return solve(plan_from(doc), parts=PARTS)

    def test_a_third_base_goes_through_everything(self) -> None:
        doc = document(fall={"asked": 1 / 58.7})
        doc["floor"] = {"kind": "slab", "thickness": 180}
        doc["waste"] = {"stack": [100, 1700], "branch": -400}
        doc["survey"] = {
            "levels": [
                {"kind": "height", "x": x, "y": y, "height": 0.01 * x}
                for x in (50, 1200, 2350)
                for y in (50, 900, 1750)
            ]
        }
        with mock.patch.dict(CARRIERS, {"slab": OnPlanks}):
            said = self.solution(doc)
        self.assertTrue(said.complete)
        self.assertEqual(said.figures.recess_available.value, 30.0)
        self.assertIn("chased", said.figures.recess_available.working.formula)
        self.assertIn("planks", {one.code for one in said.cautions})
        assert said.section is not None and said.marks is not None and said.days is not None
        drawn = [band for band in said.section.bands if band.kind == "slab"]
        self.assertEqual({band.name for band in drawn}, {"topping"})
        self.assertEqual(min(z for band in drawn for _, z in band.outline), -77.0)
        self.assertIn("cut_slab", {task.task for task in said.days.tasks})
        self.assertIn("topping", said.marks.model_dump_json())
        assert said.order is not None
        self.assertTrue(said.order.lines)

    def test_a_third_base_is_mended_by_cures_and_compared_under_other_rules(self) -> None:
        doc = document(former={"kind": "bed", "least_thickness": 37.3})
        doc["floor"] = {"kind": "slab", "thickness": 180}
        with mock.patch.dict(CARRIERS, {"slab": OnPlanks}):
            said = self.solution(doc)
            (found,) = (one for one in said.findings if one.code == "slab_to_be_cut")
            self.assertEqual(found.limit, 30.0)
            self.assertEqual(found.applies_to, "the planks")
            for cure in each(found.cures):
                for change in cure.changes:
                    self.assertTrue(change.path.startswith("/"), cure.text)
            under = compared(plan_from(doc), ["norway", "us-dwelling"], rule_sets())
            self.assertEqual(len(under), 2)

    def test_a_deck_without_thickness_gives_nothing_and_no_scan_is_asked_for(self) -> None:
        doc = document()
        doc["floor"]["deck_thickness"] = 0
        said = self.solution(doc)
        self.assertEqual(said.figures.recess_available.text, "0 mm")
        (found,) = (one for one in said.findings if one.code == "recess_over_available")
        self.assertEqual(found.limit_text, "the deck gives 0 mm")

    def test_another_former_goes_through_everything(self) -> None:
        doc = document(former={"kind": "bed", "least_thickness": 12.7}, fall={"asked": 1 / 57.3})
        bed = self.solution(doc)
        with mock.patch.dict(FORMERS, {"bed": FoamBlocks}):
            said = self.solution(doc)
        # 31 mm of blocks in place of 12.7 of mortar.
        recess, was = said.figures.recess_needed.value, bed.figures.recess_needed.value
        assert recess is not None and was is not None
        self.assertAlmostEqual(recess - was, 31 - 12.7)
        assert said.section is not None and said.marks is not None and said.days is not None
        names = {band.name for band in said.section.bands}
        self.assertIn("foam blocks", names)
        self.assertNotIn("setting bed", names)
        assert bed.marks is not None
        self.assertTrue(bed.marks.pins.pins)
        self.assertFalse(said.marks.pins.pins)
        tasks = {task.task for task in said.days.tasks}
        self.assertIn("set_panels", tasks)
        self.assertNotIn("bed", tasks)
        assert said.order is not None and bed.order is not None
        self.assertIn("mud", {line.item for line in bed.order.lines})
        self.assertNotIn("mud", {line.item for line in said.order.lines})
        assert said.depth is not None
        self.assertIn("blocks at the drain", {part.name for part in said.depth.segments})

    def test_a_drain_lies_where_its_document_has_it_at_any_angle(self) -> None:
        chance = np.random.default_rng(7)
        for _ in range(60):
            x, y, wide = chance.uniform(-2e3, 2e3, 3)
            turn = float(chance.uniform(-180, 180))
            rim = abs(float(wide)) + 20
            kinds = (
                point(x, y, rim, turn),
                channel(x, y, x + 900 * np.cos(np.radians(turn)), y + 900 * np.sin(turn), rim),
            )
            for doc in kinds:
                drain = drain_kind(plan_from(document(drain=doc)).shower.drain)
                corners = drain.rim
                sides = np.roll(corners, -1, axis=0) - corners
                # A rectangle, anticlockwise, about its middle.
                self.assertAlmostEqual(float(sides[0] @ sides[1]), 0.0, delta=1e-4)
                (x0, y0), (x1, y1) = sides[:2]
                self.assertGreater(float(x0 * y1 - y0 * x1), 0)
                np.testing.assert_allclose(corners.mean(axis=0), drain.middle, atol=1e-6)
                self.assertAlmostEqual(float(np.hypot(*drain.along)), 1.0)
                moved = drain.moved(np.array([10.0, -3.0]))
                for field, place in drain.places.items():
                    np.testing.assert_allclose(np.subtract(moved[field], place), (10, -3))


if __name__ == "__main__":
    unittest.main()
