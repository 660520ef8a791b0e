"""Many readings, and many on one spot: what belongs together, and within what bound of memory."""

import random
import tracemalloc
import unittest

import numpy as np
from scipy.cluster.hierarchy import fcluster, linkage

from calm_basin.core.survey.floor import places_of
from calm_basin.core.systems.fitting import fitted
from calm_basin.plan import PlanError, plan_from
from calm_basin.plan.survey import MOST_READINGS, HeightReading
from calm_basin.rules import build_systems, drain_families
from calm_basin.tolerances import ONE_PLACE
from tests.extremes import extreme
from tests.plans import Document, document, wholly


def of_readings(places: np.ndarray, doc: Document | None = None) -> Document:
    rows = [{"kind": "height", "x": x, "y": y, "height": h} for x, y, h in places.tolist()]
    return (doc or document() | {"version": 2}) | {"survey": {"levels": rows}}


class OnePlaceTest(unittest.TestCase):
    def test_readings_are_of_one_place_as_single_linkage_has_it(self) -> None:
        """Held against scipy's hierarchical clustering (single linkage, cut at the distance)."""
        joined = 0
        for seed in range(120):
            chance = np.random.default_rng(seed)
            count, size = int(chance.integers(2, 150)), 10 ** chance.uniform(0.3, 3.2)
            places = chance.uniform(-size, size, (count, 3))
            if seed % 3 == 0:
                # On a grid of half the distance ties decide.
                places[:, :2] = np.round(places[:, :2] / (ONE_PLACE / 2)) * (ONE_PLACE / 2)
            groups = fcluster(linkage(places[:, :2], "single"), ONE_PLACE, "distance")
            readings = tuple(HeightReading(x=x, y=y, height=h) for x, y, h in places.tolist())
            found = places_of(readings)[0]
            expected = [places[groups == group].mean(axis=0) for group in dict.fromkeys(groups)]
            joined += len(expected) < count
            np.testing.assert_allclose(found, expected, atol=1e-9)
        self.assertGreater(joined, 40)

    def test_as_many_as_there_may_be_take_no_more_memory_on_one_spot(self) -> None:
        chance = np.random.default_rng(5)
        for size in (2, 300):
            places = chance.uniform(-size, size, (MOST_READINGS, 3)) * [1, 1, 0.01] + [900, 800, 0]
            plan = plan_from(of_readings(places))
            tracemalloc.start()
            self.addCleanup(tracemalloc.stop)
            wholly(plan, cures=False)
            peak = tracemalloc.get_traced_memory()[1]
            tracemalloc.stop()
            self.assertLess(peak, 100_000_000)


class BaseTest(unittest.TestCase):
    def test_a_base_that_no_room_can_be_raised_to_is_refused_with_its_height(self) -> None:
        refused = 0
        for seed in (51, 52, 58, 106):
            chance = random.Random(seed)
            doc = extreme(seed)
            xs, ys = zip(*doc["room"]["outline"], strict=True)
            places = np.array(
                [
                    [chance.uniform(0, max(xs)), chance.uniform(0, max(ys)), chance.uniform(-8, 8)]
                    for _ in range(200)
                ]
            )
            try:
                plan = plan_from(of_readings(places, doc))
            except PlanError:
                continue
            for system in build_systems().values():
                try:
                    fitted(plan, system, drain_families()[system.family])
                except PlanError as error:
                    refused += error.problems[0].path == "/room/layers"
        self.assertGreater(refused, 0)
