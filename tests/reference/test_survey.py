"""The survey against trilateration, scipy's integration and a pour that was worked by hand."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import dblquad
from scipy.interpolate import LinearNDInterpolator
from shapely.geometry import box

from calm_basin.core.survey.floor import SubFloor
from calm_basin.core.survey.pour import pour
from calm_basin.core.survey.tape import adjust
from calm_basin.plan.survey import Diagonal, HeightReading, Pour, Tape, TapedWall
from tests.sweeps import examples

INCH, FOOT = 25.4, 304.8


class AdjustmentTest(unittest.TestCase):
    @examples(40)
    @given(st.lists(st.floats(-60, 60), min_size=5, max_size=5))
    def test_a_measured_quadrilateral_agrees_with_trilateration(self, off: list[float]) -> None:
        # Reference: corners placed one after the other from two lengths each (trilateration).
        corners = np.array(
            [[0, 0], [2600 + off[0], 0], [2600 + off[1], 2000 + off[2]], [off[3], 2000 + off[4]]]
        )
        walls = [math.dist(corners[i], corners[(i + 1) % 4]) for i in range(4)]
        across = math.dist(corners[0], corners[2])
        tape = Tape(
            walls=tuple(TapedWall(length=length, square=False) for length in walls),
            diagonals=(Diagonal(first=0, last=2, length=across),),
        )
        x = (walls[0] ** 2 + across**2 - walls[1] ** 2) / (2 * walls[0])
        third = np.array([x, math.sqrt(across**2 - x**2)])
        turn = math.atan2(third[1], third[0])
        u = (across**2 + walls[3] ** 2 - walls[2] ** 2) / (2 * across)
        v = math.sqrt(walls[3] ** 2 - u**2)
        fourth = [u * math.cos(turn) - v * math.sin(turn), u * math.sin(turn) + v * math.cos(turn)]
        room = adjust(tape)
        np.testing.assert_allclose(room.outline[2], third, atol=0.01)
        np.testing.assert_allclose(room.outline[3], fourth, atol=0.01)


class PourTest(unittest.TestCase):
    def test_the_pour_that_was_worked_by_hand(self) -> None:
        # 20 sq ft from 1/4 to 3/4 in deep, even slope: mean 1/2 in, two bags of 11.8 L each
        # (common practice, no source).
        room = box(0, 0, 5 * FOOT, 4 * FOOT)
        rows = [
            (0, 0, 0),
            (0, 4 * FOOT, 0),
            (5 * FOOT, 0, -INCH / 2),
            (5 * FOOT, 4 * FOOT, -INCH / 2),
        ]
        levels = tuple(HeightReading(x=x, y=y, height=z) for x, y, z in rows)
        result = pour(SubFloor(levels, room), room, Pour(cover=INCH / 4))
        self.assertAlmostEqual(result.mean_depth, INCH / 2, delta=0.05)
        self.assertAlmostEqual(result.litres, 20 * FOOT**2 * INCH / 2 / 1e6, delta=0.1)
        self.assertEqual(result.bags, 2)
        self.assertEqual(result.lath_sheets, 1)
        # Staples 6 in apart: four to the square foot.
        self.assertEqual(result.staples, 80)
        low, high = result.water_litres
        # 5 to 6 US quarts a bag (common practice, no source); a quart is 0.946 L.
        self.assertAlmostEqual(low, 2 * 5 * 0.9464, delta=0.01)
        self.assertAlmostEqual(high, 2 * 6 * 0.9464, delta=0.01)

    def test_the_readings_mean_misleads_where_one_corner_is_low(self) -> None:
        room = box(0, 0, 3000, 2400)
        corner = [(3000, 2400, -30), (2700, 2400, -22), (3000, 2100, -22), (2750, 2150, -15)]
        flat = [(0, 0, 0), (3000, 0, 0), (0, 2400, 0), (1500, 1200, 0), (2200, 1700, 0)]
        flat += [(2000, 2400, 0), (3000, 1500, 0)]
        levels = tuple(HeightReading(x=x, y=y, height=z) for x, y, z in flat + corner)
        result = pour(SubFloor(levels, room), room, Pour())
        by_mean = (6 + (30 + 22 + 22 + 15) / 11) * room.area / 1e6
        self.assertGreater(by_mean / result.litres, 1.5)
        self.assertGreater(result.bags_from_mean_of_readings, result.bags)

    @examples(6)
    @given(st.integers(0, 10_000))
    def test_the_volume_agrees_with_scipys_integration(self, seed: int) -> None:
        # Reference: scipy.integrate.dblquad over scipy's own linear interpolation.
        rng = np.random.default_rng(seed)
        edge = [(0, 0), (2000, 0), (2000, 1500), (0, 1500)]
        inner = rng.uniform((100, 100), (1900, 1400), (5, 2))
        places = np.vstack([edge, inner])
        depths = rng.uniform(0, 15, len(places))
        levels = tuple(
            HeightReading(x=x, y=y, height=-d) for (x, y), d in zip(places, depths, strict=True)
        )
        room = box(0, 0, 2000, 1500)
        result = pour(SubFloor(levels, room), room, Pour(cover=6))
        surface = LinearNDInterpolator(places, depths - depths.min() + 6)
        reference, _ = dblquad(
            lambda y, x: float(surface(x, y)), 0, 2000, 0, 1500, epsabs=2e5, epsrel=2e-3
        )
        self.assertAlmostEqual(result.litres / (reference / 1e6), 1, delta=0.01)


class TiltTest(unittest.TestCase):
    @examples(30)
    @given(st.floats(0.002, 0.02), st.floats(-179, 179), st.integers(0, 10_000))
    def test_a_tilted_plane_is_found_in_noisy_readings(
        self, tilt: float, turn: float, seed: int
    ) -> None:
        rng = np.random.default_rng(seed)
        way = np.array([math.cos(math.radians(turn)), math.sin(math.radians(turn))])
        places = rng.uniform((0, 0), (2400, 1800), (60, 2))
        noisy = -tilt * places @ way + rng.normal(0, 0.3, 60)
        levels = tuple(
            HeightReading(x=x, y=y, height=z) for (x, y), z in zip(places, noisy, strict=True)
        )
        floor = SubFloor(levels, box(0, 0, 2400, 1800))
        # Standard error of a slope: noise ÷ (spread × √n), here under 0.0001.
        self.assertAlmostEqual(floor.tilt, tilt, delta=0.0005)
        found = math.radians(floor.tilt_downhill - turn)
        self.assertLess(abs(math.sin(found / 2)) * 2 * tilt, 0.0006)
