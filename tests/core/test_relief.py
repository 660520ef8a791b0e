"""The floor between readings: alike in a turned room, its exact extremes, the widest gap."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import LinearNDInterpolator
from shapely.geometry import LineString, Polygon

from calm_basin.core.geometry.relief import Relief
from calm_basin.core.survey.floor import SubFloor
from calm_basin.plan.survey import HeightReading
from tests.sweeps import examples, sweep

Room = list[tuple[float, float]]


def floor_of(places: np.ndarray, room: Room, turn: float = 0.0) -> SubFloor:
    """A floor from readings (x, y, height), the whole turned by degrees."""
    spin = spinning(turn)
    read = tuple(
        HeightReading(x=x, y=y, height=z)
        for (x, y), z in zip(places[:, :2] @ spin.T, places[:, 2], strict=True)
    )
    return SubFloor(read, Polygon(np.array(room) @ spin.T))


def spinning(turn: float) -> np.ndarray:
    angle = np.radians(turn)
    return np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])


@st.composite
def read_rooms(draw: st.DrawFn) -> tuple[np.ndarray, Room]:
    """Rooms, some L-shaped, read on a grid or here and there."""
    wide, deep = draw(st.integers(1300, 3200)), draw(st.integers(1200, 2800))
    rng = np.random.default_rng(draw(st.integers(0, 2**20)))
    room: Room = [(0, 0), (wide, 0), (wide, deep), (0, deep)]
    if draw(st.booleans()):
        room = [
            (0, 0),
            (wide, 0),
            (wide, 0.55 * deep),
            (0.6 * wide, 0.55 * deep),
            (0.6 * wide, deep),
            (0, deep),
        ]
    if draw(st.booleans()):
        axes = np.linspace(40, wide - 40, 5), np.linspace(40, deep - 40, 4)
        places = np.array(np.meshgrid(*axes)).reshape(2, -1).T
    else:
        places = rng.uniform((30, 30), (wide - 30, deep - 30), (draw(st.integers(7, 25)), 2))
    heights = rng.normal(0, 2, len(places)) - 0.002 * places[:, 0]
    return np.column_stack([places, heights]), room


def widest_by_trying(floor: SubFloor, room: Room, length: float) -> float:
    """The widest gap under any edge up to a length: every line of a fan of directions, its profile
    at even steps, every pair of places that the edge may rest on."""
    shape = Polygon(room)
    middle = np.array(shape.centroid.coords[0])
    reach = float(np.hypot(*np.ptp(np.array(room), axis=0)))
    best = 0.0
    for angle in np.pi * np.arange(24) / 24:
        way = np.array([np.cos(angle), np.sin(angle)])
        side = np.array([-way[1], way[0]])
        for off in np.linspace(-reach / 2, reach / 2, 23):
            line = LineString(
                [middle + side * off - way * reach, middle + side * off + way * reach]
            )
            free = line.intersection(shape)
            for part in getattr(free, "geoms", [free]):
                if part.length < 100:
                    continue
                ends = np.array(part.coords)
                steps = np.linspace(0, part.length, 33)
                profile = ends[0] + steps[:, None] * (ends[-1] - ends[0]) / part.length
                heights = floor.heights(profile)[0]
                for i in range(31):
                    for j in range(i + 2, 33):
                        if steps[j] - steps[i] > length:
                            break
                        share = np.arange(1, j - i) / (j - i)
                        chord = heights[i] * (1 - share) + heights[j] * share
                        best = max(best, float((chord - heights[i + 1 : j]).max()))
    return best


class ReliefTest(unittest.TestCase):
    @examples(30)
    @given(read_rooms(), st.sampled_from([17.0, 90.0, -123.4]))
    def test_a_turned_room_has_the_same_floor(
        self, read: tuple[np.ndarray, Room], turn: float
    ) -> None:
        places, room = read
        rng = np.random.default_rng(2)
        probes = rng.uniform(-20, 3000, (300, 2))
        first, second = floor_of(places, room), floor_of(places, room, turn)
        if len(first.places) < len(places):
            return
        here, there = first.heights(probes)[0], second.heights(probes @ spinning(turn).T)[0]
        np.testing.assert_allclose(here, there, atol=1e-6)

    @examples(30)
    @given(st.integers(0, 2**20))
    def test_among_scattered_readings_it_is_scipys_interpolation(self, seed: int) -> None:
        rng = np.random.default_rng(seed)
        places = np.column_stack([rng.uniform(0, 2500, (20, 2)), rng.normal(0, 3, 20)])
        relief = Relief(places, (0.0, 0.0))
        probes = rng.uniform(0, 2500, (200, 2))
        reference = LinearNDInterpolator(places[:, :2], places[:, 2])(probes)
        heights, inside = relief.heights(probes)
        np.testing.assert_array_equal(inside, ~np.isnan(reference))
        np.testing.assert_allclose(heights[inside], reference[inside], atol=1e-7)

    def test_four_on_a_circle_take_the_lower_diagonal(self) -> None:
        corners = np.array([[0.0, 0, 0], [1000, 0, -4], [1000, 1000, 0], [0, 1000, -4]])
        for places in (corners, corners[[2, 1, 0, 3]], corners + np.array([7.3, -2.1, 0])):
            relief = Relief(places, (0.0, 0.0))
            middle = places[:, :2].mean(axis=0)
            self.assertAlmostEqual(relief.heights(middle[None])[0][0], -4)

    def test_beyond_the_readings_it_goes_on_without_a_step(self) -> None:
        rng = np.random.default_rng(8)
        places = np.column_stack([rng.uniform(300, 1700, (12, 2)), rng.normal(0, 3, 12)])
        relief = Relief(places, (0.004, -0.002))
        for radius in np.linspace(500, 1500, 9):
            turns = np.linspace(0, 2 * np.pi, 4000)
            ring = 1000 + radius * np.column_stack([np.cos(turns), np.sin(turns)])
            heights, _ = relief.heights(ring)
            self.assertLess(np.abs(np.diff(heights)).max(), 0.4)

    @examples(40)
    @given(read_rooms(), st.integers(0, 180))
    def test_extremes_under_a_shower_are_exact(
        self, read: tuple[np.ndarray, Room], turn: int
    ) -> None:
        places, room = read
        floor = floor_of(places, room)
        zone = Polygon(np.array([(0, 0), (700, 0), (700, 500), (0, 500)]) @ spinning(turn).T + 600)
        exact = floor.range_under(zone)
        rng = np.random.default_rng(1)
        inside = rng.uniform(0, 1, (4000, 2)) * (700, 500) @ spinning(turn).T + 600
        ring = np.array(
            [
                zone.exterior.interpolate(s, normalized=True).coords[0]
                for s in np.linspace(0, 1, 1500)
            ]
        )
        tried = np.ptp(floor.heights(np.vstack([inside, ring]))[0])
        self.assertGreaterEqual(exact, tried - 1e-9)
        self.assertLess(exact - tried, 0.05 * exact + 0.05)


class StraightedgeTest(unittest.TestCase):
    @sweep
    @examples(2)
    @given(read_rooms(), st.sampled_from([1200.0, 2000.0, 3048.0]))
    def test_no_edge_that_is_tried_gapes_wider(
        self, read: tuple[np.ndarray, Room], length: float
    ) -> None:
        places, room = read
        floor = floor_of(places, room)
        found = floor.flatness(length)
        self.assertGreaterEqual(found.gap, 0.98 * widest_by_trying(floor, room, length))
        self.assertLessEqual(np.hypot(*np.subtract(found.end, found.start)), length + 1e-6)
        # The gap is there: a straightedge laid where it says gapes no less.
        gaps = floor.under_edge(np.array(found.start), np.array(found.end), 241)
        self.assertGreaterEqual(gaps.max(), found.gap * 0.97)

    @examples(12)
    @given(st.integers(1, 3), st.floats(-180, 180))
    def test_a_dip_beside_a_wall_is_found_in_a_turned_room(self, row: int, turn: float) -> None:
        # One reading of a grid lies 9 mm low at the wall; by hand the edge rests on its neighbours.
        axes = np.linspace(40, 2440, 5), np.linspace(40, 1840, 5)
        places = np.array(np.meshgrid(*axes)).reshape(2, -1).T
        heights = np.zeros(25)
        heights[5 * row] = -9.0
        floor = floor_of(
            np.column_stack([places, heights]), [(0, 0), (2480, 0), (2480, 1880), (0, 1880)], turn
        )
        self.assertAlmostEqual(floor.flatness(3048.0).gap, 9.0, delta=0.18)

    def test_a_room_too_small_for_the_edge_takes_a_shorter_one(self) -> None:
        places = np.array([[0.0, 0, 0], [500, 0, 0], [500, 400, 0], [0, 400, 0], [250, 200, -3]])
        floor = floor_of(places, [(0, 0), (500, 0), (500, 400), (0, 400)])
        self.assertAlmostEqual(floor.flatness(3048.0).gap, 3, delta=0.05)

    def test_two_readings_are_a_straight_line(self) -> None:
        floor = floor_of(
            np.array([[100.0, 100, 0], [900, 100, -4]]), [(0, 0), (1000, 0), (1000, 800), (0, 800)]
        )
        self.assertAlmostEqual(floor.flatness(2000.0).gap, 0, places=6)
        self.assertAlmostEqual(
            floor.range_under(Polygon([(0, 0), (1000, 0), (1000, 800), (0, 800)])), 5
        )
