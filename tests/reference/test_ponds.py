"""Standing water against a spanning tree, against the same floor in triangles, and by hand."""

import unittest
from dataclasses import replace

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from scipy import sparse, spatial
from shapely.geometry import Polygon, box

from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.geometry.drops import Exit, Net
from calm_basin.core.geometry.ponds import Pond, ponds
from calm_basin.core.geometry.surface import Array, Facet, Surface
from calm_basin.core.water.runoff import exits_of
from calm_basin.plan import plan_from
from tests.core.test_arrangements import arrangements
from tests.plans import Document, moved
from tests.sweeps import examples

HILL = 1e4
"""Added to heights: a sparse graph takes a weight of 0 for no edge."""


def triangle(corners: Array) -> Facet:
    """The plane through three corners, (3, 3)."""
    plane = np.linalg.solve(np.column_stack([corners[:, :2], np.ones(3)]), corners[:, 2])
    return Facet("", Polygon(corners[:, :2]), (float(plane[0]), float(plane[1]), float(plane[2])))


def hills(seed: int) -> tuple[Surface, Array, Array]:
    """A random hilly floor of triangles with a drain; its points, (n, 3), and its triangles."""
    rng = np.random.default_rng(seed)
    plan = np.vstack([[[0, 0], [1000, 0], [1000, 1000], [0, 1000]], rng.uniform(50, 950, (40, 2))])
    points = np.column_stack([plan, np.clip(rng.normal(0, 5, len(plan)), -11, None)])
    triangles = spatial.Delaunay(plan).simplices
    middles = plan[triangles].mean(axis=1)
    drain = int(np.hypot(*(middles - 500).T).argmin())
    points[triangles[drain], 2] = -12.0
    rim = Polygon(plan[triangles[drain]])
    kept = np.delete(triangles, drain, axis=0)
    facets = tuple(triangle(points[t]) for t in kept)
    return Surface(box(0, 0, 1000, 1000), (rim,), facets, 12.0), points, kept


def spanning(points: Array, triangles: Array) -> Array:
    """The level to which water stands at each point: the highest place on the way to the drain
    along the least spanning tree, which is the way whose highest place is least."""
    heights = points[:, 2] + HILL
    pairs = np.unique(np.sort(triangles[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2)), axis=0)
    over = heights[pairs].max(axis=1)
    graph = sparse.coo_array((over, pairs.T), (len(points), len(points)))
    tree = sparse.csgraph.minimum_spanning_tree(graph.tocsr())
    start = int(points[:, 2].argmin())
    order, before = sparse.csgraph.breadth_first_order(tree, start, directed=False)
    level = heights.copy()
    for i in order[1:]:
        level[i] = max(level[before[i]], heights[i])
    return level - HILL


class SpanningTreeTest(unittest.TestCase):
    @examples(12, least=19)
    @given(st.integers(0, 10**6))
    def test_levels_areas_and_volumes_of_random_hills(self, seed: int) -> int:
        surface, points, triangles = hills(seed)
        found = ponds(Net(surface, []), 0.05)
        levels = spanning(points, triangles)
        depths = levels - points[:, 2]
        # Every pit is told by its deepest place, and none besides.
        pits = {tuple(np.round(points[i, :2], 6)) for i in np.flatnonzero(depths > 0.05)}
        for pond in found:
            self.assertIn(tuple(np.round(pond.at, 6)), pits)
            i = int(np.hypot(*(points[:, :2] - pond.at).T).argmin())
            self.assertAlmostEqual(pond.level, levels[i], places=6)
            self.assertAlmostEqual(pond.depth, depths[i], places=6)
        self.assertEqual({round(pond.level, 6) for pond in found}, distinct(levels, depths))
        # From a place in a triangle water gets out by the corner with the lowest level.
        places = np.random.default_rng(seed + 1).uniform(0, 1000, (20_000, 2))
        at = surface.located(places)
        on = at >= 0
        lowest = levels[triangles].min(axis=1)[at[on]]
        deep = np.clip(lowest - surface.heights(places[on]), 0, None)
        told = sum(pond.volume for pond in found)
        self.assertAlmostEqual(told, float(deep.sum()) * 50, delta=0.04 * told + 2e4)
        wide = sum(pond.area for pond in found)
        self.assertAlmostEqual(wide, float((deep > 0).sum()) * 50, delta=0.04 * wide + 1e4)
        return len(found)


def distinct(levels: Array, depths: Array) -> set[float]:
    return {round(float(level), 6) for level in levels[depths > 0.05]}


def upside_down(doc: Document) -> tuple[Surface, list[Exit]] | None:
    """A planned floor with its heights turned over: water stands along its walls, if anywhere."""
    plan = plan_from(doc)
    try:
        return surface_of(plan).scaled(-1.0), exits_of(plan)
    except NoSurfaceError:
        return None


def in_triangles(surface: Surface) -> Surface:
    facets = [
        replace(facet, polygon=part)
        for facet in surface.facets
        for part in shapely.get_parts(shapely.constrained_delaunay_triangles(facet.polygon))
    ]
    return replace(surface, facets=tuple(facets))


class TrianglesTest(unittest.TestCase):
    @examples(40, least=12)
    @given(arrangements(), st.sampled_from([0.0, 33.0, 90.0]), st.booleans())
    def test_planes_with_inner_corners_and_holes_hold_what_their_triangles_hold(
        self, doc: Document, turn: float, mirror: bool
    ) -> int:
        made = upside_down(moved(doc, turn=turn, mirror=mirror))
        if made is None:
            return 0
        surface, exits = made
        whole = ponds(Net(surface, exits), 0.05)
        parted = ponds(Net(in_triangles(surface), exits), 0.05)
        self.assertEqual(len(whole), len(parted))
        for one, other in zip(whole, parted, strict=True):
            self.assertAlmostEqual(one.level, other.level, delta=1e-3)
            self.assertAlmostEqual(one.depth, other.depth, delta=1e-3)
        for name in ("volume", "area"):
            one, other = (sum(getattr(p, name) for p in found) for found in (whole, parted))
            self.assertAlmostEqual(one, other, delta=1e-3 * one + 1.0)
        return len(whole)


def dammed(height: float, thick: float, exits: list[Exit]) -> list[Pond]:
    """Water on a floor 1000 × 1000 at 1:50 behind a wall ``thick`` mm thick right across it."""
    edge = 400.0
    parts = [
        (box(-500, 0, 500, edge), (0.0, 1 / 50, 0.0)),
        (box(-500, edge, 500, edge + thick), (0.0, 0.0, edge / 50 + height)),
        (box(-500, edge + thick, 500, 1000), (0.0, 1 / 50, 0.0)),
    ]
    rim = box(-500, -60, 500, 0)
    facets = tuple(Facet(str(i), polygon, plane) for i, (polygon, plane) in enumerate(parts))
    surface = Surface(box(-500, -60, 500, 1000), (rim,), facets, 0.0)
    return [pond for pond in ponds(Net(surface, exits), 0.05) if pond.depth > 0.1]


class DamTest(unittest.TestCase):
    def test_a_dam_holds_what_its_height_does_however_thin_it_is(self) -> None:
        for thick in (0.8, 2.0, 7.0, 30.0):
            foot = (400 + thick) / 50
            depth = 400 / 50 + 3 - foot
            (pond,) = dammed(3.0, thick, [])
            self.assertAlmostEqual(pond.depth, depth, places=6)
            # A wedge of water: as long as its depth times 50, half as deep in the mean.
            self.assertAlmostEqual(pond.area, 1000 * depth * 50, places=2)
            self.assertAlmostEqual(pond.volume, 1000 * depth * 50 * depth / 2, places=1)

    def test_a_way_out_in_the_wall_behind_the_dam_lets_it_out_at_its_lowest_place(self) -> None:
        # The door stands in the middle of the side wall: its lower end decides.
        door = Exit(np.array([[500.0, 430.0], [500.0, 480.0]]), -99.0)
        (pond,) = dammed(3.0, 2.0, [door])
        self.assertAlmostEqual(pond.level, 430 / 50, places=6)
        higher = Exit(door.edge, 9.5)
        (pond,) = dammed(3.0, 2.0, [higher])
        self.assertAlmostEqual(pond.level, 9.5, places=6)
