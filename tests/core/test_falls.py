"""Falls: every floor drains, and nothing hangs on how the plan lies on the paper."""

import math
import unittest

import numpy as np
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely.geometry import MultiPoint, Polygon

from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, floors_by_rim, ring_of, surface_of
from calm_basin.core.falls.drains import bring_drain_inside
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.kinds import drain_kind
from calm_basin.plan import plan_from
from tests.plans import Document, channel, document, figures, moved, point, solved
from tests.sweeps import examples


def surface(doc: Document) -> Surface:
    return surface_of(plan_from(doc))


@st.composite
def point_floors(draw: st.DrawFn) -> Document:
    """A convex shower of up to seven corners with a turned drain somewhere inside it."""
    count = draw(st.integers(3, 7))
    angles = sorted(draw(st.lists(st.floats(0, 6.28), min_size=count, max_size=count, unique=True)))
    corners = [[1200 + 700 * math.cos(a), 900 + 700 * math.sin(a)] for a in angles]
    shape = Polygon(corners)
    assume(shape.area > 250_000)
    assume(
        min(math.dist(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)) > 5
    )
    spot = shape.buffer(-110)
    assume(not spot.is_empty and spot.area > 100)
    inside = (
        MultiPoint(list(spot.exterior.coords)).centroid if spot.geom_type == "Polygon" else None
    )
    assume(inside is not None)
    toward = spot.exterior.interpolate(draw(st.floats(0, 1)), normalized=True)
    share = draw(st.floats(0, 0.95))
    centre = spot.representative_point()
    x = centre.x + share * (toward.x - centre.x)
    y = centre.y + share * (toward.y - centre.y)
    assume(spot.contains(shapely.Point(x, y)))
    return document(
        outline=corners,
        drain=point(x, y, rim=draw(st.floats(40, 140)), turn=draw(st.floats(-180, 180))),
        fall={"asked": 1 / 60, "measured": draw(st.sampled_from(["corner_run", "plane_run"]))},
    )


@st.composite
def channel_floors(draw: st.DrawFn) -> Document:
    """A rectangular shower with a channel from wall to wall somewhere across it."""
    y = draw(st.floats(940, 1760))
    return document(
        drain=channel(0, y, 1500, y),
        entries=draw(st.sampled_from([[0], [2], [0, 2], [1], [0, 1]])),
        fall={"asked": 1 / draw(st.floats(24, 100))},
    )


def points_in(floor: Surface, count: int = 200) -> np.ndarray:
    rng = np.random.default_rng(7)
    left, bottom, right, top = floor.outline.bounds
    points = rng.uniform((left, bottom), (right, top), (count, 2))
    inside = shapely.contains_xy(floor.outline.buffer(-1), points[:, 0], points[:, 1])
    return points[inside]


class EveryFloorDrainsTest(unittest.TestCase):
    @examples(60)
    @given(point_floors())
    def test_planes_tile_the_floor_and_meet(self, doc: Document) -> None:
        floor = surface(doc)
        covered = sum(facet.polygon.area for facet in floor.facets) + floor.rim.area
        self.assertAlmostEqual(covered / floor.outline.area, 1, places=6)
        for facet in floor.facets:
            own = facet.corners[:, 2]
            np.testing.assert_allclose(floor.heights(facet.corners[:, :2]), own, atol=0.02)
            self.assertAlmostEqual(own.max(), 0, places=6)
            self.assertAlmostEqual(own.min(), -floor.drop, places=6)

    @examples(60)
    @given(st.one_of(point_floors(), channel_floors()))
    def test_the_straight_way_to_the_drain_never_rises(self, doc: Document) -> None:
        floor = surface(doc)
        for place in points_in(floor, 40):
            target = shapely.shortest_line(shapely.Point(place), floor.rim).coords[-1]
            way = np.linspace(place, target, 30)
            heights = floor.heights(way)
            heights = heights[~np.isnan(heights)]
            self.assertLess(np.diff(heights).max(initial=-1), 1e-3 * floor.drop + 1e-6)

    @examples(40)
    @given(point_floors())
    def test_no_line_to_the_drain_is_flatter_than_asked(self, doc: Document) -> None:
        doc["shower"]["fall"]["measured"] = "corner_run"
        floor = surface(doc)
        corners = shapely.get_coordinates(floor.outline.exterior)[:-1]
        runs = shapely.distance(floor.rim, shapely.points(corners))
        self.assertGreaterEqual((floor.drop / runs).min(), 1 / 60 - 1e-9)
        by_plane = surface(
            doc | {"shower": doc["shower"] | {"fall": {"asked": 1 / 60, "measured": "plane_run"}}}
        )
        # Square to a wall: a plane that rises to a corner alone may fall less.
        walls = [f for f in by_plane.facets if (np.abs(f.corners[:, 2]) < 1e-6).sum() > 1]
        self.assertGreaterEqual(min(f.gradient for f in walls), 1 / 60 - 1e-9)
        self.assertAlmostEqual(min(f.gradient for f in walls), 1 / 60, places=9)
        self.assertLessEqual(by_plane.drop, floor.drop + 1e-9)

    @examples(40)
    @given(point_floors())
    def test_gradients_by_place_are_those_of_the_surface(self, doc: Document) -> None:
        shower = plan_from(doc).shower
        drain = shower.drain
        there, drops = floors_by_rim(
            ring_of(shower),
            drain_kind(drain).rim[None],
            shower.fall.asked,
            shower.fall.measured,
        )
        floor = surface_of(plan_from(doc))
        built = sorted(facet.gradient for facet in floor.facets)
        np.testing.assert_allclose(sorted(there[0]), built, rtol=1e-9)
        np.testing.assert_allclose(drops, [floor.drop], rtol=1e-9)


class PaperDoesNotMatterTest(unittest.TestCase):
    @examples(40)
    @given(
        st.one_of(point_floors(), channel_floors()),
        st.floats(-180, 180),
        st.booleans(),
        st.floats(-3000, 3000),
    )
    def test_turning_mirroring_and_shifting_change_no_figure(
        self, doc: Document, turn: float, mirror: bool, shift: float
    ) -> None:
        first = figures(solved(doc))
        second = figures(solved(moved(doc, turn=turn, mirror=mirror, dx=shift, dy=-shift / 2)))
        for name, value in first.items():
            self.assertIsNotNone(value)
            self.assertAlmostEqual(value, second[name], delta=1e-5, msg=name)

    def test_the_same_outline_given_the_other_way_round(self) -> None:
        doc = document(outline=[[0, 900], [0, 1800], [1500, 1800], [1500, 900]], entries=[3])
        for name, value in figures(solved(document())).items():
            self.assertAlmostEqual(figures(solved(doc))[name], value, places=9, msg=name)
        names = [plane.name for plane in solved(doc).surface.planes]
        self.assertEqual(sorted(names), ["back", "entry", "left", "right"])

    @examples(30)
    @given(st.floats(0.5, 1.6))
    def test_scaling_the_shower_scales_the_drop(self, scale: float) -> None:
        doc = document()
        grown = document(
            outline=[[x * scale, y * scale] for x, y in doc["shower"]["outline"]],
            drain=point(750 * scale, 1350 * scale, rim=120 * scale),
        )
        grown["room"]["outline"] = [[0, 0], [5000, 0], [5000, 5000], [0, 5000]]
        self.assertAlmostEqual(surface(grown).drop, scale * surface(doc).drop, places=6)


class ChannelTest(unittest.TestCase):
    def test_a_channel_at_the_back_makes_one_plane(self) -> None:
        floor = surface(document(drain=channel(0, 1765, 1500, 1765)))
        self.assertEqual([facet.name for facet in floor.facets], ["entry"])
        self.assertAlmostEqual(floor.drop, 830 / 60)

    def test_across_the_entry_there_is_no_drop_and_the_floor_rises(self) -> None:
        floor = surface(document(drain=channel(0, 935, 1500, 935)))
        self.assertEqual(floor.drop, 0)
        self.assertAlmostEqual(floor.highest, 830 / 60)

    def test_between_there_are_two_planes_that_fall_as_asked(self) -> None:
        floor = surface(document(drain=channel(0, 1500, 1500, 1500)))
        self.assertEqual([round(1 / f.gradient, 6) for f in floor.facets], [60, 60])
        self.assertAlmostEqual(floor.drop, (1500 - 35 - 900) / 60)

    def test_entries_on_both_sides_are_both_met(self) -> None:
        floor = surface(document(drain=channel(0, 1500, 1500, 1500), entries=[0, 2]))
        ends = floor.heights(np.array([[750.0, 900.0], [750.0, 1800.0]]))
        np.testing.assert_allclose(ends, 0, atol=1e-9)
        self.assertGreater(max(f.gradient for f in floor.facets), 1 / 59)

    def test_an_entry_beside_the_channel_is_a_step(self) -> None:
        solution = solved(document(drain=channel(0, 1765, 1500, 1765), entries=[1]))
        self.assertAlmostEqual(solution.figures.step_at_entry.value, 900 / 60 - 70 / 60)
        codes = [finding.code for finding in solution.findings]
        self.assertIn("step_over_limit", codes)

    def test_short_ends_are_level_strips(self) -> None:
        floor = surface(document(drain=channel(200, 1765, 1500, 1765)))
        strip = next(f for f in floor.facets if f.run == 0)
        self.assertAlmostEqual(strip.polygon.area, 200 * 70, delta=1)
        self.assertEqual(strip.gradient, 0)

    def test_an_l_shaped_shower_takes_a_channel(self) -> None:
        outline = [[0, 0], [1500, 0], [1500, 1800], [900, 1800], [900, 900], [0, 900]]
        floor = surface(document(outline=outline, drain=channel(1465, 0, 1465, 1800)))
        covered = sum(facet.polygon.area for facet in floor.facets) + floor.rim.area
        self.assertAlmostEqual(covered / floor.outline.area, 1, places=4)
        self.assertTrue(floor.contour(-10.0))


class NoSurfaceTest(unittest.TestCase):
    def test_drains_that_do_not_lie_inside(self) -> None:
        for drain in (
            point(30, 1350),
            point(60, 1350),
            point(-500, 1350),
            point(750, 1350, rim=2000),
            channel(0, 1800, 1500, 1800),
            channel(-100, 1765, 1500, 1765),
        ):
            with self.subTest(drain=drain), self.assertRaises(NoSurfaceError) as caught:
                surface(document(drain=drain))
            self.assertEqual(caught.exception.code, "drain_outside")

    def test_a_drain_outside_is_offered_the_nearest_place_inside_as_it_is(self) -> None:
        """A channel 35 beyond the back wall, one that also reaches 100 out at the left, a point
        drain: by hand."""
        for drain, start, end in (
            (channel(200, 1800, 1300, 1800), (200, 1765), (1300, 1765)),
            (channel(-100, 1400, 1000, 1400), (0, 1400), (1100, 1400)),
            (point(-500, 1350), (60, 1350), None),
        ):
            plan = plan_from(document(drain=drain))
            cure = bring_drain_inside(plan, Words.of(plan))
            assert cure is not None
            wanted = (start,) if end is None else (start, end)
            self.assertEqual(len(cure.changes), len(wanted))
            for change, (x, y) in zip(cure.changes, wanted, strict=True):
                self.assertAlmostEqual(change.value[0], x, delta=2.5)
                self.assertAlmostEqual(change.value[1], y, delta=2.5)

    def test_a_point_drain_behind_a_corner(self) -> None:
        outline = [[0, 0], [1500, 0], [1500, 1800], [900, 1800], [900, 900], [0, 900]]
        with self.assertRaises(NoSurfaceError) as caught:
            surface(document(outline=outline, drain=point(1200, 1200)))
        self.assertEqual(caught.exception.code, "drain_hidden")


class ContourTest(unittest.TestCase):
    def test_the_interval_is_the_finest_round_one_that_gives_at_most_ten(self) -> None:
        rounds = {
            "mm": [0.5, 1, 2, 5, 10, 20, 50],
            "in": [25.4 / n for n in (32, 16, 8, 4, 2, 1)],
        }
        for unit, choices in rounds.items():
            for asked in (1 / 300, 1 / 100, 1 / 60, 1 / 30, 1 / 16, 1 / 8, 1 / 6):
                doc = document(fall={"asked": asked}) | {"display": {"length": unit}}
                floor = solved(doc).surface
                assert floor is not None
                deep = floor.deepest - floor.shallowest
                fitting = [choice for choice in choices if deep / choice <= 10]
                self.assertAlmostEqual(floor.contour_interval, min(fitting), msg=f"{unit} {asked}")

    @examples(30)
    @given(point_floors(), st.floats(0.05, 0.95))
    def test_contours_lie_on_the_surface_and_close(self, doc: Document, share: float) -> None:
        floor = surface(doc)
        lines = floor.contour(-share * floor.drop)
        self.assertTrue(lines)
        for line in lines:
            middles = (line[:-1] + line[1:]) / 2
            np.testing.assert_allclose(floor.heights(middles), -share * floor.drop, atol=1e-3)
        ring = shapely.linearrings(lines[0]) if len(lines) == 1 else None
        self.assertIsNotNone(ring)
        self.assertTrue(shapely.contains(shapely.polygons(ring), floor.rim.buffer(-0.01)))
