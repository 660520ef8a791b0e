"""Water on the planned floor, and floors as hands make them."""

import unittest
from collections import Counter

import numpy as np
import shapely
from hypothesis import assume, given

from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.water.result import TrialResult, WaterResult
from calm_basin.core.water.runoff import water
from calm_basin.core.water.settings import TrialSettings
from calm_basin.core.water.trials import trials
from calm_basin.plan import plan_from
from tests.core.test_arrangements import arrangements
from tests.plans import Document, answered, channel, document, point, solved, wet_room
from tests.sweeps import each, examples


def wet(doc: Document) -> WaterResult:
    result = answered(plan_from(doc), parts=("water",)).water
    assert result is not None
    return result


class PlannedFloorTest(unittest.TestCase):
    @examples(25)
    @given(arrangements())
    def test_every_drop_reaches_the_drain(self, doc: Document) -> None:
        plan = plan_from(doc)
        try:
            surface = surface_of(plan)
        except NoSurfaceError:
            assume(False)
        result = water(plan, Words.of(plan), surface)
        self.assertEqual(result.puddles, ())
        self.assertAlmostEqual(result.drained.value, 1, places=9)
        self.assertEqual(Counter(run.ends for run in result.runs).keys(), {"drain"})
        self.assertFalse(result.crosses)

    def test_between_planes_of_a_turned_drain_no_hair_holds_a_drop(self) -> None:
        """Where planes part in a hair by the rim a slit is left: 3 drops of 1496 stood at it."""
        for drain in (point(480, 1159, 60, 0.25), point(130, 1030, 60, 0.25)):
            plan = plan_from(document(drain=drain, fall={"asked": 0.025, "edge": "even"}))
            floor = surface_of(plan)
            covered = shapely.union_all([facet.polygon for facet in floor.facets])
            self.assertGreater(floor.outline.difference(covered).difference(floor.rim).area, 0)
            self.assertEqual(water(plan, Words.of(plan), floor).drained.value, 1)

    def test_ways_stay_on_the_floor_and_end_at_the_rim(self) -> None:
        doc = document(drain={"kind": "point", "centre": [400, 1500], "width": 90, "length": 90})
        floor = surface_of(plan_from(doc))
        for run in each(wet(doc).runs, 20):
            line = shapely.LineString(run.points)
            self.assertTrue(floor.outline.buffer(1).covers(line))
            self.assertLess(shapely.Point(run.points[-1]).distance(floor.rim), 11)
            heights = floor.heights(np.array(run.points[:-1]))
            self.assertLess(np.diff(heights).max(initial=-1.0), 0.3)

    def test_drops_are_drawn_from_all_over_the_floor(self) -> None:
        starts = np.array([run.points[0] for run in wet(document()).runs])
        # The shower is 1500 × 900 from (0, 900): every ninth of it has a drop of its own.
        ninths = {(int(x // 500), int((y - 900) // 300)) for x, y in starts}
        self.assertEqual(len(ninths), 9)

    def test_water_gathers_in_the_folds(self) -> None:
        """Over a square floor drops run square to its walls, to the rim or to a fold and along it:
        at a rim's corner arrives a quarter of what the rim's own strips do not take, and what comes
        over 30 mm of the rim on either side (common practice, no source)."""
        for size, rim in ((900, 100), (900, 300), (1200, 240)):
            doc = document(
                outline=[[0, 0], [size, 0], [size, size], [0, size]],
                drain=point(size / 2, size / 2, rim),
            )
            beside = (size - rim) / 2
            expected = (beside**2 + 2 * 30 * beside) / size**2
            shares = [gathering.share for gathering in wet(doc).gatherings]
            self.assertEqual(len(shares), 4)
            for share in shares:
                self.assertAlmostEqual(share, expected, delta=0.015)

    def test_level_strips_keep_a_film(self) -> None:
        result = wet(document(drain=channel(200, 1765, 1500, 1765)))
        self.assertAlmostEqual(result.level_area, 200 * 70, delta=1500)
        self.assertIn("film", result.level_text)
        self.assertLess(result.drained.value, 0.9)
        self.assertIn("stands", {run.ends for run in result.runs})
        mended = wet(document(drain=channel(200, 1765, 1500, 1765) | {"strips": 0.02}))
        self.assertEqual((mended.level_area, mended.level_text), (0, ""))
        self.assertEqual((result.clear, mended.clear), (False, True))

    def test_the_outlet_lies_on_the_channel(self) -> None:
        back = channel(0, 1765, 1500, 1765)
        middle = solved(document(drain=back)).drawing
        self.assertEqual((middle.outlet, middle.outlet_offset), ((750, 1765), 750))
        own = solved(document(drain=back | {"outlet": 250})).drawing
        self.assertEqual((own.outlet, own.outlet_offset), ((250, 1765), 250))
        # What may be absent is printed for its field when it is there.
        texts = solved(document(drain=back | {"outlet": 250, "strips": 0.02})).plan_texts
        self.assertEqual(texts["/shower/drain/outlet"], "250")
        self.assertEqual(texts["/shower/drain/strips"], "1:50")
        self.assertIsNone(solved(document()).drawing.outlet)

    def test_a_tray_raised_over_the_room_sheds_water_into_it(self) -> None:
        # The whole tray stands 20 mm proud and its entry edge was extended: the edge runs out.
        doc = document(former={"kind": "tray", "edge_thickness": 60, "raised": 20})
        result = wet(doc)
        step = solved(doc).figures.step_at_entry.value
        self.assertAlmostEqual(step, -20)
        self.assertIsNotNone(result.holds.value)

    def test_nothing_is_worked_out_that_was_not_asked_for(self) -> None:
        self.assertIsNone(solved(document()).water)
        self.assertIsNone(solved(document()).marks)

    def test_the_reserve_stands_first_among_the_cautions(self) -> None:
        first = solved(wet_room()).cautions[0]
        self.assertEqual(first.code, "reserve")
        self.assertIn("the door", first.text)

    def test_no_heads_no_time(self) -> None:
        result = wet(document() | {"water": {"heads": []}})
        self.assertIsNone(result.overflow.value)
        self.assertEqual(result.overflow.text, "—")


class WorkmanshipTest(unittest.TestCase):
    def run_trials(self, doc: Document, **settings_: object) -> TrialResult:
        plan = plan_from(doc)
        *_, last = trials(plan, Words.of(plan), TrialSettings.model_validate(settings_))
        return last

    def test_the_same_seed_gives_the_same_floors(self) -> None:
        first, second, other = (
            self.run_trials(document(), floors=12, seed=seed, tolerance=3) for seed in (5, 5, 6)
        )
        self.assertEqual(first, second)
        self.assertNotEqual(first.rows, other.rows)

    def test_steeper_floors_hold_less(self) -> None:
        rows = self.run_trials(document(), floors=40, tolerance=3).rows
        self.assertEqual([row.fall for row in rows], sorted(row.fall for row in rows))
        self.assertGreater(rows[0].holding, rows[-1].holding)
        litres = [row.litres for row in rows]
        self.assertEqual(litres, sorted(litres, reverse=True))
        self.assertEqual([row.fall for row in rows if row.planned], [1 / 60])

    def test_a_true_hand_leaves_no_puddle(self) -> None:
        result = self.run_trials(document(), floors=10, tolerance=0.05)
        self.assertEqual({row.holding for row in result.rows}, {0})
        self.assertIn("none of 10 floors holds", result.sentence)

    def test_it_tells_how_far_it_is_and_can_be_left(self) -> None:
        plan = plan_from(document())
        running = trials(plan, Words.of(plan), TrialSettings(floors=50))
        self.assertEqual([next(running).done for _ in range(3)], [1, 2, 3])
        running.close()

    def test_a_floor_that_cannot_be_is_said_before_the_first(self) -> None:
        plan = plan_from(document(drain=channel(0, 1800, 1500, 1800)))
        with self.assertRaises(NoSurfaceError):
            next(trials(plan, Words.of(plan), TrialSettings()))

    def test_a_wet_room_is_tried_too(self) -> None:
        result = self.run_trials(wet_room(), floors=3)
        self.assertEqual(result.done, 3)
