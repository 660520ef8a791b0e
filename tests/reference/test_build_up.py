"""The build-up against the trade's own figures and sums by hand."""

from __future__ import annotations

import math
import random
import unittest

import numpy as np
from shapely.geometry import Point, Polygon

from calm_basin.core.depth.chains import channel_lengths, fits, grate_gap, over_flange
from calm_basin.core.falls import surface_of
from calm_basin.core.geometry.levels import levels
from calm_basin.core.geometry.lifts import lower_lift_rise, thicker_at_drain
from calm_basin.plan import Plan, plan_from
from calm_basin.plan.shower import LinearDrain, MortarBed
from calm_basin.rules import build_systems, drain_families
from tests.plans import Document, answered, channel, document, layers, moved, point
from tests.sweeps import some

INCH = 25.4


def two_lift(drain: Document, fall: float = 1 / 48, lower: float = 1 / 48) -> Plan:
    doc = document(
        drain=drain,
        layers=layers(("tile", 10), ("adhesive", 4)),
        fall={"asked": fall},
        former={
            "kind": "bed",
            "least_thickness": 32,
            "lower": {"least_thickness": 13, "membrane": 1, "fall": lower},
        },
    )
    return plan_from(doc | {"version": 9})


class TwoLiftTest(unittest.TestCase):
    def test_a_stack_by_hand(self) -> None:
        """Depth at the drain = tile + adhesive + upper lift's least + membrane + lower lift's least
        (common practice, no source): 10 + 4 + 32 + 1 + 13 = 60, under a floor that drops
        1:48 × 792.6 mm = 16.5 mm."""
        plan = two_lift(point())
        stack = levels(plan, surface_of(plan))
        self.assertAlmostEqual(stack.drain - stack.base, 60)
        # Room 24, level: recess = 16.5 + 60 − 24.
        self.assertAlmostEqual(stack.recess, 792.62 / 48 + 60 - 24, places=2)
        self.assertAlmostEqual(thicker_at_drain(plan, surface_of(plan)), 0)

    def test_a_single_bed_is_one_lift_less(self) -> None:
        # Common practice, no source.
        double = two_lift(point())
        former = double.shower.former
        assert isinstance(former, MortarBed)
        single = double.model_copy(
            update={
                "shower": double.shower.model_copy(
                    update={"former": former.model_copy(update={"lower": None})}
                )
            }
        )
        saved = (
            levels(double, surface_of(double)).recess - levels(single, surface_of(single)).recess
        )
        self.assertAlmostEqual(saved, 1 + 13)

    def test_beside_a_channel_the_upper_lift_is_nowhere_under_its_least(self) -> None:
        """The lower lift falls 1/4 in per ft from all sides to the outlet (common practice, no
        source), the channel lies level: at its ends, 750 mm away, it is 15.6 mm higher."""
        plan = two_lift(channel(0, 1765, 1500, 1765))
        surface = surface_of(plan)
        more = thicker_at_drain(plan, surface)
        self.assertAlmostEqual(more, math.hypot(750, 35) / 48, places=3)
        for seed in range(some(30)):
            chance = random.Random(seed)
            fall, lower = 1 / chance.uniform(30, 80), 1 / chance.uniform(30, 90)
            doc = two_lift(channel(0, 1765, 1500, 1765), fall, lower).model_dump(mode="json")
            turned = plan_from(moved(doc, turn=chance.uniform(0, 360), mirror=bool(seed % 2)))
            self.assertGreaterEqual(self.thinnest(turned, chance), 32 - 1e-6)
            # The flange lies on the lower lift, 13 mm over the base, under membrane and the rest.
            laid = surface_of(turned)
            stack = levels(turned, laid)
            over = stack.drain - (stack.base + 13 + 1)
            self.assertAlmostEqual(over_flange(turned, laid), over)
            self.assertGreater(over, 32 + 14)

    def test_pins_set_the_lower_lift(self) -> None:
        """1/4 in per ft from all sides to the drain's body (common practice, no source), 13 mm
        thick there."""
        plan = two_lift(point())
        marks = answered(plan, parts=("marks",)).marks
        assert marks is not None
        pins = marks.pins
        self.assertIn("lower lift", pins.stands_on)
        rim = Polygon([(690, 1290), (810, 1290), (810, 1410), (690, 1410)])
        self.assertGreater(len(pins.pins), 8)
        for pin in pins.pins:
            away = rim.distance(Point(pin.x, pin.y))
            self.assertAlmostEqual(pin.height, 13 + away / 48, places=3)

    def thinnest(self, plan: Plan, chance: random.Random) -> float:
        """The upper lift where it is thinnest, sampled all over the floor."""
        former = plan.shower.former
        assert isinstance(former, MortarBed) and former.lower is not None
        surface = surface_of(plan)
        stack = levels(plan, surface)
        corners = np.array(plan.shower.outline)
        shares = np.array([[chance.random() for _ in corners] for _ in range(400)])
        places = np.vstack([corners, shares @ corners / shares.sum(axis=1, keepdims=True)])
        finished = stack.datum + surface.heights(places) - 14
        lower = stack.base + 13 + lower_lift_rise(plan, surface, places) + 1
        return float(np.nanmin(finished - lower))


class ChainTest(unittest.TestCase):
    def linear(self, ends: str, *walls: tuple[str, float]) -> tuple[float, float, float]:
        drain = channel(0, 1765, 1500, 1765) | {"ends": ends}
        doc = document(drain=drain) | {"version": 9, "walls": {"shower": layers(*walls)}}
        doc["room"] |= {"outline": [[0, 0], [1500, 0], [1500, 1800], [0, 1800]], "doors": []}
        plan = plan_from(doc)
        assert isinstance(plan.shower.drain, LinearDrain)
        return channel_lengths(plan, plan.shower.drain)

    def test_lengths_wall_to_wall(self) -> None:
        """Less wall tile and its adhesive at each end (common practice, no source): with 12 mm of
        board, 1 of membrane, 4 of adhesive and 8 of tile on both walls, studs are 50 mm farther
        apart than the finished walls, which are 1,500."""
        walls = (("tile", 8), ("adhesive", 4), ("membrane", 1), ("board", 12))
        self.assertEqual(self.linear("deducted", *walls), (1550, 1500, 1500))
        self.assertEqual(self.linear("finished"), (1500, 1500, 1500))
        # Notched, the tile goes down into the channel, and only the cover ends at it.
        self.assertEqual(self.linear("notched", *walls), (1550, 1524, 1500))

    def test_a_channel_with_one_end_at_a_wall_loses_its_tile_there_alone(self) -> None:
        walls = {"shower": layers(("tile", 8), ("adhesive", 4), ("board", 13))}
        drain = channel(0, 1765, 1400, 1765) | {"ends": "notched"}
        plan = plan_from(document(drain=drain) | {"version": 9, "walls": walls})
        assert isinstance(plan.shower.drain, LinearDrain)
        self.assertEqual(channel_lengths(plan, plan.shower.drain), (1425, 1412, 1400))

    def test_both_end_stops_and_a_cemented_outlet(self) -> None:
        # 3/16 in for both end stops, 2 7/16 in for a cemented outlet (common practice, no source).
        doc = document(drain=channel(0, 1765, 1500, 1765))
        chain = answered(plan_from(doc)).chains[1]
        parts = {part.name: part.text for part in chain.parts}
        self.assertEqual(parts["its cut pieces, threaded outlet"], "1495.2 mm")
        self.assertEqual(parts["its cut pieces, cemented outlet"], "1433.3 mm")

    def test_a_grate_holder_and_what_is_outside_its_range(self) -> None:
        # Common practice, no source: 5.8 to 13 mm of tile; thinner the ring is turned over.
        adjusts = drain_families()["bonded-flange"].adjusts
        for gap, part in (
            (5.8, "grate holder"),
            (13, "grate holder"),
            (4, "grate holder’s ring, turned over"),
            (20, "extension collar"),
        ):
            one = fits(adjusts, gap)
            self.assertEqual(one and one.part, part)
        self.assertIsNone(fits(adjusts, 60))
        plan = plan_from(document(layers=layers(("tile", 60), ("membrane", 1))))
        plan = plan.model_copy(
            update={
                "waste": plan.waste.model_copy(update={"family": drain_families()["bonded-flange"]})
            }
        )
        self.assertEqual(over_flange(plan, surface_of(plan)), 60)
        finding = next(f for f in answered(plan).findings if f.code == "grate_out_of_range")
        self.assertIn("extension of 20 mm", finding.detail)

    def test_tile_finishes_a_sixteenth_above_a_channel(self) -> None:
        # Common practice, no source: 1/16 in above the channel, never below it.
        plan = plan_from(document(drain=channel(0, 1765, 1500, 1765)))
        surface = surface_of(plan)
        self.assertAlmostEqual(over_flange(plan, surface) - grate_gap(plan, surface), INCH / 16)


class PanelTest(unittest.TestCase):
    def panels(self, wide: float, deep: float, **more: float) -> Document:
        doc = document(
            outline=[[0, 0], [wide, 0], [wide, deep], [0, deep]],
            drain=channel(0, deep - 35, wide, deep - 35),
            fall={"asked": 1 / 64},
            former={
                "kind": "panels",
                "thin_edge": INCH / 4,
                "thick_edge": INCH,
                "length": 48 * INCH,
                "width": 16 * INCH,
            }
            | more,
        )
        doc["room"]["outline"] = [[-1, -2000], [4000, -2000], [4000, deep + 1], [-1, deep + 1]]
        doc["room"]["doors"] = []
        family = drain_families()["narrow-channel"].model_dump(mode="json")
        return doc | {"version": 9, "waste": {"family": family}}

    def test_count_is_width_over_sixteen_inches(self) -> None:
        """Panels 16 in wide: count = width ÷ 16 in, up; 1/4 in to 1 in over 4 ft is 1:64 (common
        practice, no source)."""
        for wide, count in ((60, 4), (48, 3), (49, 4), (62, 4), (64, 4), (65, 5)):
            solution = answered(plan_from(self.panels(wide * INCH, 40 * INCH)))
            assert solution.panels is not None
            self.assertEqual(solution.panels.count, count, wide)
            (side,) = solution.panels.sides
            said = " ".join(side.said)
            self.assertIn("thin end meets the drain", said)
            self.assertIn("Notch panel", said)
            # The hole of 2 in is wider than the trough of 1 1/2 in, with half of that on each side.
            (left_of, low), (right_of, high) = side.notch
            hole = drain_families()["narrow-channel"].hole_width
            body = drain_families()["narrow-channel"].body_width
            self.assertAlmostEqual((left_of + right_of) / 2, wide * INCH / 2)
            self.assertAlmostEqual(right_of - left_of, hole)
            self.assertAlmostEqual(high - low, (hole - body) / 2)
            # What is left of the width after whole panels is what the last one is ripped to.
            left = wide - 16 * (count - 1)
            self.assertEqual("Rip the last panel" in said, left < 16, wide)
            if left < 16:
                self.assertIn(f"to {left * INCH:.1f} mm", said)
        self.assertAlmostEqual(1 / build_systems()["back-channel-slope-panels"].former.fall, 64)

    def test_on_both_sides_of_a_channel_the_panels_own_fall_is_built(self) -> None:
        """Rise = fall × run on either side, by hand; the longer side meets the entry's level."""
        for seed in range(some(20)):
            chance = random.Random(seed)
            wide, deep = chance.uniform(800, 1500), chance.uniform(800, 1200)
            doc = self.panels(wide, deep)
            at = chance.uniform(0.2, 0.8) * deep
            doc["shower"]["drain"] = channel(0, at, wide, at)
            doc["shower"]["entries"] = [1]
            fall = (INCH - INCH / 4) / (48 * INCH)
            runs = sorted((at - 35, deep - at - 35))
            plan = plan_from(moved(doc, turn=chance.uniform(0, 360), mirror=bool(seed % 2)))
            surface = surface_of(plan)
            sloped = [facet for facet in surface.facets if facet.run > 0]
            with self.subTest(plan=seed):
                for facet in sloped:
                    self.assertAlmostEqual(facet.gradient, fall, places=9)
                self.assertAlmostEqual(surface.drop, fall * runs[1], places=6)
                ends = sorted(float(facet.corners[:, 2].max()) for facet in sloped)
                self.assertAlmostEqual(ends[0], fall * (runs[0] - runs[1]), places=6)
                # The entry runs along both: it steps down by what the shorter side lacks.
                step = answered(plan).figures.step_at_entry.value
                self.assertAlmostEqual(step or 0, surface.drop, places=3)

    def test_a_floor_longer_than_a_panel_takes_another_row(self) -> None:
        solution = answered(plan_from(self.panels(48 * INCH, 70 * INCH)))
        assert solution.panels is not None
        (side,) = solution.panels.sides
        self.assertEqual((side.rows, side.count), (2, 6))
        # A row rises 3/4 in: the second is packed up by so much.
        self.assertIn("Pack row 2 up 19.1 mm", " ".join(side.said))

    def test_turned_and_mirrored_they_are_the_same(self) -> None:
        doc = self.panels(1450, 900)
        before = answered(plan_from(doc)).panels
        for turn, mirror in ((33, False), (90, True), (217, True)):
            after = answered(plan_from(moved(doc, turn=turn, mirror=mirror))).panels
            assert before is not None and after is not None
            (one,), (other,) = before.sides, after.sides
            self.assertEqual(
                (one.count, one.text, one.said, one.panels),
                (other.count, other.text, other.said, other.panels),
            )
            self.assertAlmostEqual(Polygon(one.kept).area, Polygon(other.kept).area, places=3)
            self.assertAlmostEqual(Polygon(one.kept).area, 1450 * 830, places=3)


if __name__ == "__main__":
    unittest.main()
