"""The parts that floors are made of: stretched planes, even planes, and cells."""

import itertools
import unittest
from dataclasses import replace
from math import cos, pi, sin

import numpy as np
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely.geometry import Polygon, box

from calm_basin.core.falls import surface_of
from calm_basin.core.falls.even import above, even_facets, raised_to
from calm_basin.core.falls.level_edge import corner_run, stretched
from calm_basin.core.falls.ring import NoSurfaceError, Ring
from calm_basin.core.geometry.drops import Exit
from calm_basin.core.geometry.grid import Grid, grid_of
from calm_basin.core.geometry.surface import Facet, Surface
from calm_basin.plan import plan_from
from tests.core.test_arrangements import arrangements
from tests.plans import L_SHAPE, Document, document, point
from tests.sweeps import examples

RIM = np.array([[-60.0, -60], [60, -60], [60, 60], [-60, 60]])


def ring(points: list[tuple[float, float]]) -> Ring:
    return Ring(np.array(points, dtype=float), frozenset(), np.array([0.0, 1.0]))


@st.composite
def stars(draw: st.DrawFn) -> Ring:
    """Outlines that the whole rim at the origin sees, with or without inner corners."""
    count = draw(st.integers(4, 9))
    turns = [2 * pi * (k + draw(st.floats(-0.3, 0.3))) / count for k in range(count)]
    reach = draw(st.lists(st.floats(300, 1500), min_size=count, max_size=count))
    found = ring([(r * cos(t), r * sin(t)) for r, t in zip(reach, turns, strict=True)])
    assume(found.hiding_corner(RIM) is None)
    return found


def lowest_by_trying_all(outline: Ring, heights: np.ndarray, drop: float) -> float:
    """Least volume over the rim's level of all ways to join outline and rim by triangles."""
    n, m = len(outline.points), len(RIM)
    high = np.column_stack([outline.points, heights])
    low = np.column_stack([RIM, np.full(m, -drop)])
    best = np.inf
    for first in range(m):
        for walls in itertools.combinations(range(n + m), n):
            i = j = 0
            volume = 0.0
            for step in range(n + m):
                k = (first + j) % m
                if step in walls:
                    corners = [high[i % n], high[(i + 1) % n], low[k]]
                    i += 1
                else:
                    corners = [low[(k + 1) % m], low[k], high[i % n]]
                    j += 1
                (ax, ay, _), (bx, by, _), (cx, cy, _) = corners
                area = ((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2
                if area <= 1e-6:
                    volume = np.inf
                    break
                volume += area * (sum(c[2] for c in corners) / 3 + drop)
            best = min(best, volume)
    return best


class StretchedTest(unittest.TestCase):
    @examples(12)
    @given(stars(), st.floats(0, 20))
    def test_is_the_lowest_of_all_ways_to_join_both_lines(self, outline: Ring, rise: float) -> None:
        assume(len(outline.points) <= 6)
        heights = rise * np.abs(np.sin(np.arange(len(outline.points))))
        facets = stretched(outline, heights, RIM, 15.0)
        volume = sum(
            f.polygon.area * (f.at(f.polygon.centroid.x, f.polygon.centroid.y) + 15) for f in facets
        )
        brute = lowest_by_trying_all(outline, heights, 15.0)
        self.assertAlmostEqual(volume / brute, 1, places=6)

    @examples(60)
    @given(stars())
    def test_covers_the_floor_and_keeps_both_lines(self, outline: Ring) -> None:
        facets = stretched(outline, np.zeros(len(outline.points)), RIM, 15.0)
        covered = sum(f.polygon.area for f in facets)
        self.assertAlmostEqual(covered / (outline.polygon.area - 120**2), 1, places=9)
        for facet in facets:
            self.assertAlmostEqual(facet.corners[:, 2].max(), 0, places=6)
            self.assertAlmostEqual(facet.corners[:, 2].min(), -15, places=6)

    def test_a_wall_in_the_rims_line_cannot_be_joined(self) -> None:
        behind = ring([(-500, -500), (500, -500), (500, 0), (30, 0), (30, 500), (-500, 500)])
        self.assertEqual(behind.hiding_corner(RIM), 3)
        with self.assertRaises(NoSurfaceError):
            stretched(behind, np.zeros(6), RIM, 15.0)

    def test_the_corner_run_is_to_the_nearest_point_of_the_rim(self) -> None:
        self.assertAlmostEqual(corner_run(np.array([[460.0, 360.0]]), RIM), np.hypot(400, 300))


class EvenTest(unittest.TestCase):
    @examples(30)
    @given(st.floats(-500, 500), st.floats(-400, 400), st.floats(0, 90))
    def test_planes_touch_the_cone_from_below(self, x: float, y: float, turn: float) -> None:
        shape = shapely.affinity.rotate(box(-50, -30, 50, 30), turn, origin=(0, 0))
        shape = shapely.affinity.translate(shape, x, y)
        floor = box(-900, -700, 900, 700)
        corners = shapely.get_coordinates(shapely.geometry.polygon.orient(shape).exterior)[:-1]
        facets = even_facets(corners, floor, 0.02, "round")
        self.assertAlmostEqual(
            sum(f.polygon.area for f in facets) / (floor.area - shape.area), 1, places=6
        )
        for facet in facets:
            place = facet.polygon.representative_point()
            cone = 0.02 * shape.distance(place)
            height = facet.at(place.x, place.y)
            self.assertLessEqual(height, cone + 1e-9)
            self.assertGreater(height, cone * 0.9965)

    def test_a_plane_is_raised_only_where_it_is_higher(self) -> None:
        floor = [Facet("low", box(0, 0, 1000, 1000), (0.0, 0.0, 0.0))]
        both = raised_to(floor, ((0.02, 0.0, -10.0),), "ramp")
        self.assertEqual([f.name for f in both], ["low", "ramp"])
        self.assertAlmostEqual(both[0].polygon.area, 500 * 1000)
        self.assertAlmostEqual(both[1].at(1000, 0), 10)
        self.assertEqual([f.name for f in raised_to(floor, ((0.0, 0.0, -1.0),), "x")], ["low"])
        self.assertEqual([f.name for f in raised_to(floor, ((0.0, 0.0, 1.0),), "x")], ["x"])

    @examples(60)
    @given(st.floats(-1, 1), st.floats(-1, 1), st.floats(-2000, 2000))
    def test_a_floor_is_parted_without_rest(self, a: float, b: float, c: float) -> None:
        shapes = [box(0, 0, 700, 300), Polygon([(0, 400), (900, 500), (100, 900)])]
        floor = [Facet(str(i), shape, (0.0, 0.0, 0.0)) for i, shape in enumerate(shapes)]
        parts = raised_to(floor, ((a, b, c),), "up")
        self.assertAlmostEqual(
            sum(f.polygon.area for f in parts) / sum(s.area for s in shapes), 1, places=2
        )
        for facet in parts:
            place = facet.polygon.representative_point()
            height = np.array((a, b, c)) @ (place.x, place.y, 1)
            self.assertGreater(height if facet.name == "up" else -height, -1e-4)

    def test_nothing_to_part(self) -> None:
        self.assertEqual(above(np.array([Polygon()]), np.ones((1, 3)))[0].area, 0)
        flat = np.array([box(0, 0, 9, 9)] * 3)
        planes = np.array([[0.0, 0.0, 1.0], [0.0, 0.0, 0.0], [0.0, 0.0, -1.0]])
        self.assertEqual([part.area for part in above(flat, planes)], [81, 0, 0])

    def test_a_tray_with_a_corner_in_a_straight_side_is_covered_once(self) -> None:
        outline = [[0, 900], [700, 900], [1500, 900], [1500, 1800], [0, 1800]]
        cut = {"kind": "tray", "edge_thickness": 60, "cuts": [{"edge": 3, "width": 80}]}
        floor = surface_of(plan_from(document(outline=outline, former=cut)))
        covered = sum(facet.polygon.area for facet in floor.facets) + floor.rim.area
        self.assertAlmostEqual(covered / floor.outline.area, 1, places=6)


class GridTest(unittest.TestCase):
    def made(
        self, doc: Document, spacing: float = 25.0, exits: bool = False
    ) -> tuple[Surface, Grid]:
        surface = surface_of(plan_from(doc))
        ways = [Exit(np.array([[0.0, 900.0], [1500.0, 900.0]]), 5.0)] if exits else []
        return surface, grid_of(surface, ways, spacing)

    @examples(25)
    @given(arrangements(), st.sampled_from([15.0, 40.0]))
    def test_cells_hold_the_floor_and_its_lowest_heights(self, doc: Document, size: float) -> None:
        try:
            surface = surface_of(plan_from(doc))
        except NoSurfaceError:
            assume(False)
        grid = grid_of(surface, [], size)
        self.assertAlmostEqual(grid.areas.sum() / surface.outline.area, 1, places=3)
        rng = np.random.default_rng(1)
        left, bottom, right, top = surface.outline.bounds
        places = rng.uniform((left, bottom), (right, top), (300, 2))
        heights = surface.heights(places)
        known = ~np.isnan(heights)
        rows, columns = grid.cell(places[known])
        self.assertTrue((grid.heights[rows, columns] <= heights[known] + 1e-3).all())
        self.assertGreaterEqual(grid.heights[grid.floor].min(), -surface.drop - 1e-4)

    def test_sinks_are_the_rim(self) -> None:
        surface, grid = self.made(document(drain=point(750, 1350, rim=100)))
        self.assertEqual(grid.sinks.sum(), 16)
        np.testing.assert_allclose(grid.heights[grid.sinks], -surface.drop)

    def test_exits_lie_along_their_edge(self) -> None:
        _, grid = self.made(document(), exits=True)
        rows, _ = np.nonzero(np.isfinite(grid.exits))
        self.assertEqual(set(rows), {0})
        # With the drain blocked the water stands to the exit's level and no higher.
        blocked = replace(grid, sinks=np.zeros_like(grid.sinks))
        filled = blocked.filled()
        self.assertAlmostEqual(filled[grid.floor].max(), 5.0)
        self.assertAlmostEqual(filled[grid.sinks].min(), 5.0)

    def test_an_l_has_no_cells_in_its_missing_corner(self) -> None:
        _, grid = self.made(document(outline=L_SHAPE, drain=point(1200, 450)))
        rows, columns = grid.cell(np.array([[300.0, 1500.0], [300.0, 300.0]]))
        self.assertEqual(grid.floor[rows, columns].tolist(), [False, True])
