"""Surfaces and sections against general libraries and closed forms."""

import unittest

import numpy as np
from hypothesis import given
from scipy.interpolate import LinearNDInterpolator
from scipy.spatial import ConvexHull

from calm_basin.core.falls import surface_of
from calm_basin.plan import plan_from
from tests.core.test_falls import point_floors, points_in
from tests.plans import Document, document, point, solved
from tests.sweeps import examples


class LevelEdgeFloorTest(unittest.TestCase):
    @examples(60)
    @given(point_floors())
    def test_is_the_lower_convex_hull_of_edge_and_rim(self, doc: Document) -> None:
        # Reference: scipy.spatial.ConvexHull (Qhull) of the outline at 0 and the rim at −D.
        floor = surface_of(plan_from(doc))
        high = np.array([(x, y, 0.0) for x, y in floor.outline.exterior.coords[:-1]])
        low = np.array([(x, y, -floor.drop) for x, y in floor.rim.exterior.coords[:-1]])
        hull = ConvexHull(np.vstack([high, low]))
        under = hull.equations[hull.equations[:, 2] < -1e-9]
        points = points_in(floor)
        a, b, c, d = under.T
        reference = np.max(-(points @ np.array([a, b]) + d) / c, axis=1)
        np.testing.assert_allclose(floor.heights(points), reference, atol=2e-3)

    def test_volume_is_a_prismatoids(self) -> None:
        # V = h/6 (A₁ + 4 Aₘ + A₂): the prismatoid formula; integrated by midpoints on a 2 mm grid.
        solution = solved(document())
        drop = solution.figures.drop_at_drain.value
        whole, rim = 1500 * 900, 120 * 120
        middle = (1500 + 120) / 2 * (900 + 120) / 2
        closed = drop / 6 * (whole + 4 * middle + rim)
        xs, ys = np.arange(1, 1500, 2.0), np.arange(901, 1800, 2.0)
        grid = np.array(np.meshgrid(xs, ys)).reshape(2, -1).T
        depths = -surface_of(plan_from(document())).heights(grid)
        self.assertAlmostEqual(depths.sum() * 4 / closed, 1, delta=0.002)

    def test_spot_levels_agree_with_an_interpolator_on_one_plane(self) -> None:
        # Reference: scipy's linear interpolation between a plane's own corners.
        solution = solved(document(drain=point(400, 1500)), (700, 1000), (750, 960))
        plane = next(p for p in solution.surface.planes if p.name == "entry")
        reference = LinearNDInterpolator(np.array(plane.polygon), np.array(plane.heights))
        for spot in solution.asked:
            self.assertAlmostEqual(spot.height, float(reference(spot.x, spot.y)), places=6)


class SectionTest(unittest.TestCase):
    def test_the_drawing_says_what_the_figures_say(self) -> None:
        for doc in (document(), document(former={"kind": "tray", "edge_thickness": 25})):
            doc["floor"]["direction"] = 0
            solution = solved(doc)
            bands = solution.section.bands
            drawn = {b.kind for b in bands}
            self.assertLessEqual({"finish", "deck", "refitted", "joist", "drain"}, drawn)
            former = next(b for b in bands if b.kind in ("bed", "tray"))
            # A tray lies on its base; a bed is cast down to the deck, lowered by its own 18 mm.
            base = solution.figures.base_level.value if former.kind == "tray" else -18
            self.assertAlmostEqual(min(z for _, z in former.outline), base)
            tile = next(b for b in bands if b.name == "tile" and b.outline[0][0] >= 899)
            self.assertAlmostEqual(
                max(z for _, z in tile.outline), solution.figures.entry_level.value, places=4
            )
            lowest = min(z for _, z in tile.outline) + 8
            self.assertAlmostEqual(lowest, solution.figures.drain_level.value, places=4)
