"""The floor as it was built: errors that are put in come out again, the least work is the least,
and done on the floor it passes everything."""

import heapq
import math
import random
import unittest
from functools import cache
from typing import NamedTuple

import numpy as np
import scipy
import shapely
from shapely.geometry import LineString

from calm_basin.core.answer.words import Words
from calm_basin.core.as_built import mending
from calm_basin.core.as_built.answer import as_built
from calm_basin.core.as_built.floor import BuiltFloor
from calm_basin.core.as_built.judged import Judged, LayerRead, above
from calm_basin.core.as_built.result import AsBuilt
from calm_basin.core.as_built.work import Work, least_work, weights_of
from calm_basin.core.falls import ring_of, surface_of
from calm_basin.core.falls.limits import bound_by, fall_limits, within
from calm_basin.core.geometry.levels import levels
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import Plan, plan_from
from calm_basin.rules import TRADE, chosen_rules
from tests.plans import L_SHAPE, channel, document, moved, point, tray, wet_room
from tests.sweeps import each, some, sweep

Array = np.ndarray

ONE_PLANE = {"drain": channel(35, 1765, 1465, 1765), "fall": {"asked": 1 / 48}}


def plans(count: int) -> list[Plan]:
    """Rooms with each kind of floor, at any angle, either way round, in mm and in inches."""
    chance, found = random.Random(17), []
    for i in range(count):
        steep = {"fall": {"asked": 1 / chance.uniform(40, 60)}}
        kinds = (
            lambda s: document(**ONE_PLANE),
            lambda s: document(drain=point(chance.uniform(500, 1000), 1350, 120), **s),
            lambda s: document(outline=L_SHAPE, entries=[5], drain=point(1200, 300), **s),
            lambda s: wet_room(),
            lambda s: document(drain=point(200, 1000, 100, turn=chance.uniform(0, 90)), **s),
        )
        doc = kinds[i % len(kinds)](steep)
        if i % len(kinds) == 2:
            doc["room"]["outline"] = [[0, 0], [1500, 0], [1500, 1800], [0, 1800]]
            doc["room"]["doors"] = []
        doc = moved(doc, turn=chance.uniform(0, 360), mirror=chance.random() < 0.5)
        if chance.random() < 0.5:
            doc["display"] = {"length": "in", "fall": "in_per_ft"}
        found.append(plan_from(doc))
    return found


class Made(NamedTuple):
    plan: Plan
    surface: Surface
    places: Array
    planned: Array


def read_on(plan: Plan, layer: LayerRead, count: int, seed: int) -> Made:
    """Places by chance on every plane of a floor and on its drains, and how high the layer is
    planned there."""
    surface, chance = surface_of(plan), np.random.default_rng(seed)
    places: list[Array] = [np.array(rim.centroid.coords[0]) for rim in surface.rims]
    for facet in surface.facets:
        left, bottom, right, top = facet.polygon.bounds
        tried = chance.uniform((left, bottom), (right, top), (8 * count, 2))
        mine = 0
        for place in tried[shapely.contains_xy(facet.polygon, *tried.T)]:
            if mine < count and np.hypot(*(np.array(places) - place).T).min() > 26:
                places.append(place)
                mine += 1
    found = np.array(places)
    planned = surface.heights(found)
    there = np.isfinite(planned)
    return Made(plan, surface, found[there], planned[there] - above(plan, layer))


def judged(made: Made, heights: Array, layer: LayerRead = "bed", error: float = 1.0) -> AsBuilt:
    words, rules = Words.of(made.plan), chosen_rules(made.plan)
    rows = [(float(x), float(y), float(z)) for (x, y), z in zip(made.places, heights, strict=True)]
    return as_built(made.plan, rules, words, made.surface, layer, rows, error)


def inner(made: Made, heights: Array, error: float = 1.0) -> Judged:
    """The same with what the least work is worked out from."""
    lowered = made.surface.lowered(above(made.plan, "bed"))
    floor = BuiltFloor(lowered, np.column_stack([made.places, heights]), error)
    return Judged(
        made.plan, chosen_rules(made.plan), Words.of(made.plan), made.surface, "bed", floor
    )


class ErrorsTest(unittest.TestCase):
    def test_errors_that_are_put_in_come_out_again(self) -> None:
        looked = within_spread = 0
        for i, plan in enumerate(each(plans(some(200)), least=2)):
            chance = np.random.default_rng(i)
            made = read_on(plan, "bed", 6, i)
            tilt = chance.normal(0, 0.004, 2)
            true = made.places @ tilt + chance.uniform(-4, 4)
            noise = chance.normal(0, 1 / 1.96, len(true))
            exact = inner(made, made.planned + true).floor
            np.testing.assert_allclose(exact.off, true, atol=1e-6)
            rough = inner(made, made.planned + true + noise)
            for group in rough.floor.groups:
                mine, fit = rough.floor.of(group), rough.floor.fit(group)
                if fit is None or fit.line or group.level or len(group.facets) > 1:
                    continue
                looked += 1
                (facet,) = group.facets
                built = np.array(facet.plane[:2]) + tilt
                down = -float(np.array(facet.downhill) @ built)
                plain = exact.fit(group)
                assert plain is not None
                flattest, steepest, _ = rough.falls(group, plain)
                self.assertAlmostEqual(flattest, down, delta=1e-7)
                self.assertAlmostEqual(steepest, math.hypot(*built), delta=1e-7)
                # A plane through the heights themselves, by another means.
                basis = np.column_stack([made.places[mine], np.ones(len(mine))])
                basis[:, :2] -= basis[:, :2].mean(axis=0)
                heights = facet.heights(made.places[mine]) + (true + noise)[mine]
                slope, *_ = np.linalg.lstsq(basis, heights, rcond=None)
                fitted = -float(np.array(facet.downhill) @ slope[:2])
                flattest, _, spread = rough.falls(group, fit)
                self.assertAlmostEqual(flattest, fitted, delta=1e-7)
                within_spread += abs(fitted - down) <= spread
        self.assertGreater(looked, some(200))
        # An error of 1 mm is read as what 95 of 100 readings keep to.
        self.assertGreater(within_spread, 0.9 * looked)

    def test_a_room_that_is_turned_is_judged_alike(self) -> None:
        for doc in (document(**ONE_PLANE), document(), wet_room()):
            plain = read_on(plan_from(doc), "tile", 7, 3)
            off = 3 * np.sin(plain.places[:, 0] / 250) + 2 * np.cos(plain.places[:, 1] / 310)
            first = judged(plain, plain.planned + off, "tile")
            for turn, mirror in ((37.3, False), (211, True)):
                other = plan_from(moved(doc, turn=turn, mirror=mirror))
                xs = plain.places * ([-1, 1] if mirror else [1, 1])
                angle = math.radians(turn)
                cos, sin = math.cos(angle), math.sin(angle)
                places = xs @ np.array([[cos, sin], [-sin, cos]])
                again = judged(
                    Made(other, surface_of(other), places, plain.planned),
                    plain.planned + off,
                    "tile",
                )
                built = [sorted(p.built or () for p in one.planes) for one in (first, again)]
                np.testing.assert_allclose(*built, atol=1e-6)
                self.assertEqual(first.state, again.state)
                depths = [sorted(p.depth for p in one.puddles)[-1:] for one in (first, again)]
                if depths[0] and depths[1]:
                    self.assertAlmostEqual(depths[0][0], depths[1][0], delta=0.5)

    def test_a_reading_taken_again_counts_and_one_outside_is_told(
        self,
    ) -> None:
        plan = plan_from(document(**ONE_PLANE))
        made = read_on(plan, "tile", 8, 1)
        rows = [(*map(float, p), float(z)) for p, z in zip(made.places, made.planned, strict=True)]
        wrong = [(x + 10, y, z + 30) for x, y, z in rows[:1]]
        words, rules = Words.of(plan), chosen_rules(plan)
        told = as_built(plan, rules, words, made.surface, "tile", [*wrong, *rows, (9e3, 9e3, 0)], 1)
        self.assertEqual((len(told.readings), told.outside), (len(rows), 1))
        self.assertLess(max(abs(r.off) for r in told.readings), 1e-6)

    def test_too_little_is_not_judged_and_says_what_is_missing(self) -> None:
        plan = plan_from(document(**ONE_PLANE))
        made = read_on(plan, "bed", 1, 1)
        told = judged(made, made.planned)
        self.assertEqual([p.state for p in told.planes], [None])
        self.assertIn("Read 2 more places", told.planes[0].unread)
        none = judged(made._replace(places=made.places[:0]), made.planned[:0])
        self.assertIsNone(none.state)
        self.assertIn("Nothing is read", none.sentence)
        self.assertEqual(len(none.next), 3)

    def test_the_next_readings_make_every_plane_judged(self) -> None:
        for plan in each(plans(some(8)), least=2):
            made = Made(plan, surface_of(plan), np.empty((0, 2)), np.empty(0))
            sloped = {p.name for p in judged(made, made.planned).planes}
            for _ in range(4 * len(sloped) + 4):
                told = judged(made, made.planned)
                if all(p.state for p in told.planes):
                    break
                places = np.vstack([made.places, np.array(told.next)])
                planned = made.surface.heights(places) - above(plan, "bed")
                self.assertTrue(np.isfinite(planned).all(), "they lie on the floor")
                made = made._replace(places=places, planned=planned)
            self.assertTrue(all(p.state for p in told.planes))


class LimitTest(unittest.TestCase):
    """Just inside and just outside: falls by the rules, hollows by BS 5385-3 (from memory)."""

    def tilted(self, share: float, error: float) -> AsBuilt:
        """A plane that is built to a share of the flattest fall that is asked."""
        plan = plan_from(document(**ONE_PLANE | {"fall": {"asked": 1 / 36}}))
        made = read_on(plan, "tile", 9, 2)
        (facet,) = [f for f in made.surface.facets if not f.level]
        limit = 1 / 48
        wanted = limit * share
        off = (facet.gradient - wanted) * (made.places @ np.array(facet.downhill))
        return judged(made, made.planned + off, "tile", error)

    def test_a_fall_near_its_limit_is_open_and_beyond_it_fails(self) -> None:
        for share, error, state in (
            (1.0005, 0.001, "holds"),
            (0.9995, 0.001, "fails"),
            (0.99, 2.0, "open"),
            (1.01, 2.0, "open"),
            (0.5, 1.0, "fails"),
            (1.0, 1.0, "holds"),
            (-0.2, 1.0, "fails"),
        ):
            told = self.tilted(share, error)
            self.assertEqual(told.planes[0].state, state, (share, told.planes[0].text))
        self.assertIn("does not fall", self.tilted(-0.2, 1.0).planes[0].text)
        self.assertIn("Too flat", self.tilted(0.5, 1.0).planes[0].text)
        self.assertIn("Too steep", self.tilted(2.2, 1.0).planes[0].text)

    def test_a_hollow_is_as_deep_as_it_was_made(self) -> None:
        plan = plan_from(document(**ONE_PLANE))
        surface = surface_of(plan)
        xs, ys = np.meshgrid(np.linspace(50, 1450, 8), np.linspace(950, 1720, 7))
        places = np.column_stack([xs.ravel(), ys.ravel()])
        made = Made(plan, surface, places, surface.heights(places))
        limit = TRADE.site_tests.flatness.value
        for depth in (limit - 0.1, limit + 0.1, limit + 1.5, 7.0):
            off = np.zeros(len(places))
            off[27] = -depth
            told = judged(made, made.planned + off, "tile", 0.5)
            plane = told.planes[0]
            if depth < limit:
                self.assertIsNone(plane.hollow)
                continue
            assert plane.hollow is not None and plane.hollow_from and plane.hollow_to
            self.assertAlmostEqual(plane.hollow, depth, delta=0.02 * depth)
            self.assertLessEqual(math.dist(plane.hollow_from, plane.hollow_to), 2000 + 1e-6)
            self.assertEqual(told.state, "fails" if depth > limit + 0.5 else "open")

    def test_the_recess_is_deep_enough_and_level_or_not(self) -> None:
        plan = plan_from(document(former=tray(25), layers=[]))
        surface = surface_of(plan)
        stack = levels(plan, surface)
        base = stack.base - stack.datum
        words, rules = Words.of(plan), chosen_rules(plan)
        at = [(200.0, 1000.0), (1300.0, 1000.0), (700.0, 1700.0)]
        for offs, error, state in (
            ((0, 0, 0), 1.0, "holds"),
            ((-1, -3, -2), 1.0, "holds"),
            ((2, 0, 0), 1.0, "fails"),
            ((0.5, 0, 0), 1.0, "open"),
            ((0, -3.7, 0), 1.0, "open"),
            ((0, -5, 0), 1.0, "fails"),
        ):
            rows = [(x, y, base + off) for (x, y), off in zip(at, offs, strict=True)]
            told = as_built(plan, rules, words, surface, "recess", rows, error)
            self.assertEqual(told.state, state, offs)

    def test_the_step_as_built_is_the_planned_one_less_what_the_floor_is_off_by(self) -> None:
        doc = document(**ONE_PLANE)
        doc["rule_set"] = "us-accessible"
        plan = plan_from(doc)
        made = read_on(plan, "tile", 12, 4)
        entry = np.array([[x, 905.0] for x in (50, 500, 1000, 1450)])
        places = np.vstack([made.places, entry])
        made = made._replace(places=places, planned=made.surface.heights(places))
        (limit,) = {one.value for one in chosen_rules(plan).on("entry_step")}
        for off, state in (
            (0, "holds"),
            (limit - 0.1, "holds"),
            (limit + 0.6, "open"),
            (limit + 2, "fails"),
        ):
            for sign in (1, -1):
                told = judged(made, made.planned + sign * off, "tile")
                (step,) = told.steps
                self.assertEqual(step.state, state, (off, step))


def flooded(plan: Plan, made: Made, off: Array, cell: float) -> float:
    """The deepest water on a floor, by a flood from its outlets over fine cells (Barnes 2014), with
    what it is off by drawn between the readings by another library's mesh."""
    surface = made.surface
    left, bottom, right, top = surface.outline.bounds
    xs, ys = np.arange(left + cell / 2, right, cell), np.arange(bottom + cell / 2, top, cell)
    grid = np.array([(x, y) for y in ys for x in xs])
    z = surface.heights(grid)
    # What lies a hair beyond the readings at the edge is as what lies a hair within.
    pulled = grid + (np.array(surface.outline.centroid.coords[0]) - grid) * 2e-3
    z = (z + scipy.interpolate.LinearNDInterpolator(made.places, off)(pulled)).reshape(
        len(ys), len(xs)
    )
    rim = shapely.covers(surface.rim, shapely.points(grid)).reshape(z.shape)
    water = np.full(z.shape, np.inf)
    queue: list[tuple[float, int, int]] = []
    entries = [LineString(ring_of(plan.shower).edge(i)) for i in ring_of(plan.shower).entries]
    apart = shapely.distance(shapely.union_all(entries), shapely.points(grid)).reshape(z.shape)
    for row, column in np.argwhere(rim | ((apart < cell) & np.isfinite(z))):
        level = z[row, column] if rim[row, column] else max(z[row, column], 0.0)
        heapq.heappush(queue, (level, int(row), int(column)))
    while queue:
        level, row, column = heapq.heappop(queue)
        if water[row, column] < np.inf:
            continue
        water[row, column] = level
        for dr in (-1, 0, 1):
            for dc in (-1, 0, 1):
                r, c = row + dr, column + dc
                there = 0 <= r < z.shape[0] and 0 <= c < z.shape[1]
                if there and water[r, c] == np.inf and np.isfinite(z[r, c]):
                    heapq.heappush(queue, (max(level, z[r, c]), r, c))
    return float(np.nanmax(np.where(np.isfinite(water), water - z, 0.0)))


class PuddleTest(unittest.TestCase):
    def test_water_stands_as_deep_as_another_flood_says(self) -> None:
        looked = 0
        for seed in range(2, 2 + some(6)):
            chance = np.random.default_rng(seed)
            doc = document(**(ONE_PLANE if seed % 2 else {}))
            plan = plan_from(moved(doc, turn=float(chance.uniform(0, 360))))
            surface = surface_of(plan)
            corners = np.vstack([facet.corners[:, :2] for facet in surface.facets])
            inside = corners + (np.array(surface.outline.centroid.coords[0]) - corners) * 1e-3
            places = np.vstack([inside, read_on(plan, "tile", 14, seed).places])
            made = Made(plan, surface, places, surface.heights(places))
            # Clear of the drain, whose rim is level whatever lies round it, and of the edge.
            spots = shapely.points(places)
            roomy = shapely.distance(surface.outline.exterior, spots) > 60
            clear = places[roomy & (shapely.distance(surface.rim, spots) > 350)]
            pit = clear[int(chance.integers(len(clear)))]
            away = np.hypot(*(places - pit).T)
            off = -chance.uniform(6, 20) * np.exp(-((away / 160) ** 2))
            told = judged(made, made.planned + off, "tile")
            deepest = max((p.depth for p in told.puddles), default=0.0)
            kept = np.array([(*reading.at, reading.off) for reading in told.readings])
            expected = flooded(plan, made._replace(places=kept[:, :2]), kept[:, 2], 8.0)
            if max(deepest, expected) > 2.5:
                looked += 1
                self.assertAlmostEqual(deepest, expected, delta=0.12 * expected + 1.0)
        self.assertGreater(looked, some(6) // 2)


class WorkTest(unittest.TestCase):
    @staticmethod
    @cache
    def works() -> list[tuple[Made, Judged, Work, AsBuilt]]:
        """Floors by chance that can be brought back, with the work that does it."""
        found = []
        for i, plan in enumerate(plans(some(20))):
            chance = np.random.default_rng(i)
            made = read_on(plan, "bed", 7, i)
            off = made.places @ chance.normal(0, 0.003, 2)
            off += chance.normal(0, 2.5, len(made.places))
            told = judged(made, made.planned + off)
            if told.work is None or not told.work.possible:
                continue
            one = inner(made, made.planned + off)
            cells, areas = mending._cells(one)
            weights, bounds = weights_of(one.floor, cells, areas), mending._bounds(one)
            slack = max(TRADE.site_tests.flatness.value / 2 - one.floor.error, 0.0)
            works = [least_work(one.floor, weights, bounds, left) for left in (slack, 0.0)]
            work = next(w for w in works if w is not None and mending._passes(one, w))
            found.append((made, one, work, told))
        return found

    @sweep
    def test_done_on_the_floor_it_passes_everything(self) -> None:
        for made, one, work, told in each(self.works(), least=some(20) // 4):
            facets = one.floor.surface.facets
            for number, facet in enumerate(facets):
                after = np.array(facet.plane[:2]) + work.planes[number, :2]
                if facet.level:
                    continue
                for limit in fall_limits(one.rules):
                    # A limit that the plan itself breaks is not mended on site.
                    binds = limit.weight == "required" and within(limit, facet.gradient)
                    if not binds or not bound_by(limit, facet):
                        continue
                    if limit.binds == "at_most":
                        self.assertLessEqual(math.hypot(*after), limit.value * (1 + 2e-6))
                    else:
                        down = -float(np.array(facet.downhill) @ after)
                        self.assertGreaterEqual(down, limit.value * (1 - 2e-6))
            # Planes that met meet again, at the drain they are where it is.
            for f, first in enumerate(facets):
                for g, second in enumerate(facets[:f]):
                    shared = first.polygon.intersection(second.polygon)
                    for x, y in shapely.get_coordinates(shared):
                        if abs(first.at(x, y) - second.at(x, y)) < 0.01:
                            a, b = (float(work.planes[k] @ (x, y, 1.0)) for k in (f, g))
                            self.assertAlmostEqual(a, b, delta=1e-3)
            # Read again where it was read, and between: nothing is out.
            left, bottom, right, top = made.surface.outline.bounds
            xs, ys = np.arange(left, right, 27), np.arange(bottom, top, 27)
            more = np.array([(x, y) for x in xs for y in ys])
            more = more[np.isfinite(one.floor.surface.heights(more))]
            more = more[one.floor.surface.located(more) >= 0]
            after_off = work.off(one.floor, more, one.floor.off_at(more))
            heights = one.floor.surface.heights(more) + after_off
            again = inner(made._replace(places=more), heights, 0.01)
            for group in each(g for g in again.floor.groups if not g.level):
                plane = again.plane(group)
                self.assertNotEqual(plane.state, "fails", (plane.name, plane.text, plane.built))
                self.assertLessEqual(plane.hollow or 0.0, TRADE.site_tests.flatness.value + 0.05)
            assert told.work is not None

    def test_the_narrow_planes_of_a_round_part_are_tilted_alike(self) -> None:
        looked = 0
        for _, one, work, _ in each(self.works(), least=some(20) // 4):
            facets = list(one.floor.surface.facets)
            for group in (g for g in one.floor.groups if len(g.facets) > 1):
                tilts = np.array([work.planes[n, :2] for n in group.numbers])
                self.assertLess(np.ptp(tilts, axis=0).max(), 1e-9)
                # What was read is askew: level they would only be alike by doing nothing.
                self.assertGreater(np.abs(tilts).max(), 1e-4)
                self.assertEqual([facets[n] for n in group.numbers], list(group.facets))
                looked += 1
        self.assertGreaterEqual(looked, some(20) // 10)

    def test_what_is_moved_is_what_lies_between_the_two_floors(self) -> None:
        for _, one, work, told in each(self.works(), least=some(20) // 4):
            assert told.work is not None
            left, bottom, right, top = one.floor.surface.outline.bounds
            # Halton's places in place of cells (a low-discrepancy sum).
            places = scipy.stats.qmc.Halton(2, seed=1).random(40_000)
            places = places * (right - left, top - bottom) + (left, bottom)
            places = places[one.floor.surface.located(places) >= 0]
            share = (right - left) * (top - bottom) / 40_000
            before = one.floor.off_at(places)
            depth = work.off(one.floor, places, before) - before
            for moved_, sign in ((told.work.fill, 1), (told.work.grind, -1)):
                litres = float(np.maximum(sign * depth, 0).sum()) * share / 1e6
                deepest = float(np.maximum(sign * depth, 0).max())
                if moved_ is None:
                    self.assertLess(deepest, 1.0)
                    continue
                self.assertAlmostEqual(moved_.litres, litres, delta=0.04 * litres + 0.02)
                self.assertAlmostEqual(moved_.depth, deepest, delta=0.1 * deepest + 0.4)

    def test_it_is_the_least_by_trying_all(self) -> None:
        """Round one drain the planes turn together: what is looked for is one number."""
        looked = 0
        for seed in range(some(20)):
            chance = np.random.default_rng(seed)
            doc = document(**ONE_PLANE) if seed % 2 else document(fall={"asked": 1 / 40})
            plan = plan_from(doc)
            made = read_on(plan, "bed", 6, seed)
            off = chance.normal(0, 4, len(made.places))
            one = inner(made, made.planned + off)
            cells, areas = mending._cells(one)
            weights, bounds = weights_of(one.floor, cells, areas), mending._bounds(one)
            slack = float(chance.uniform(0, 1))
            # By hand the bed may get thin: that bound is not tried here.
            work = least_work(one.floor, weights, bounds, slack, ("thickness", "entry"))
            facets = [f for f in one.floor.surface.facets if not f.level]
            numbers = [n for n, f in enumerate(one.floor.surface.facets) if not f.level]
            if len(one.floor.surface.facets) != len(facets):
                continue
            rim = float(one.floor.rims_off[0])
            located = one.floor.located
            on = located >= 0
            best = math.inf
            drop = one.floor.surface.drop
            datum = max(f.corners[:, 2].max() for f in facets)
            for share in np.linspace(-1.2, 1.2, 4801):
                # Every plane keeps its low edge at the rim and is so much steeper.
                falls = [f.gradient * (1 + share) for f in facets]
                # What is left on either side of a plane tilts it by up to that.
                spare = [4 * slack / f.run for f in facets]
                if any(
                    fall < bounds.least[n] + more - 1e-9 or fall > bounds.most[n] - more + 1e-9
                    for n, fall, more in zip(numbers, falls, spare, strict=True)
                ):
                    continue
                z = np.array(
                    [
                        one.floor.surface.facets[k].at(*p)
                        for k, p in zip(located[on], one.floor.places[on], strict=True)
                    ]
                )
                target = rim + share * (z + drop)
                gap = np.maximum(np.abs(target - one.floor.off[on]) - slack, 0)
                best = min(best, float(weights[on] @ gap))
            if work is None:
                self.assertEqual(best, math.inf)
                continue
            looked += 1
            target = (
                work.planes[located[on]]
                * np.column_stack([one.floor.places[on], np.ones(on.sum())])
            ).sum(axis=1)
            cost = float(weights[on] @ np.maximum(np.abs(target - one.floor.off[on]) - slack, 0))
            self.assertLessEqual(cost, best * (1 + 1e-6) + 1e-3)
            self.assertGreaterEqual(cost, best * 0.995 - 1e-3)
            self.assertLess(datum, 1)
        self.assertGreater(looked, some(20) / 4)

    def test_what_cannot_be_brought_back_says_why(self) -> None:
        plan = plan_from(document(**ONE_PLANE))
        made = read_on(plan, "bed", 9, 2)
        (facet,) = [f for f in made.surface.facets if not f.level]
        off = 0.03 * (made.places @ np.array(facet.downhill))
        # The drain lies where it was planned.
        flat = made.planned + np.where(np.arange(len(off)) == 0, 0.0, off - off[0])
        layers: list[tuple[LayerRead, Plan, str]] = [
            ("tile", plan, "Tile is neither ground nor filled"),
            ("membrane", plan, "never ground"),
            ("bed", plan_from(document(former=tray(25))), "A tray or panel is never ground"),
        ]
        for layer, other, said in layers:
            again = read_on(other, layer, 9, 2)
            steep = again.planned + 0.03 * (again.places @ np.array(facet.downhill))
            work = judged(again, steep, layer).work
            assert work is not None
            self.assertFalse(work.possible)
            self.assertIn(said, work.because)
        told = judged(made, flat)
        assert told.work is not None and told.work.possible, told.work
        self.assertTrue(told.work.grind or told.work.fill)

    def test_a_floor_that_holds_asks_for_no_work(self) -> None:
        for plan in each(plans(some(10)), least=2):
            made = read_on(plan, "bed", 6, 1)
            told = judged(made, made.planned)
            self.assertIsNone(told.work)
            self.assertEqual(told.puddles, ())
            self.assertIn(told.state, ("holds", "open"))
