"""Every arrangement: it covers the floor, drains everywhere, and does not hang on the paper."""

import random
import re
import unittest
from typing import Any

import numpy as np
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.geometry.grid import grid_of
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import PlanError, plan_from
from tests.core.test_falls import channel_floors, point_floors
from tests.plans import (
    L_SHAPE,
    Document,
    answered,
    channel,
    cured,
    document,
    figures,
    layers,
    moved,
    point,
    solved,
    tray,
    wet_room,
)
from tests.sweeps import examples, some, sweep


def surface(doc: Document) -> Surface:
    return surface_of(plan_from(doc))


def between(low: float, high: float) -> st.SearchStrategy[float]:
    return st.floats(low, high).map(lambda x: round(x, 1))


@st.composite
def arrangements(draw: st.DrawFn) -> Document:
    """Any arrangement, with its drain anywhere and its sizes, falls and turns drawn."""
    asked = 1 / draw(st.integers(40, 100))
    rim, turn = draw(between(60, 160)), draw(st.floats(-90, 90))
    fall: dict[str, Any] = {"asked": asked}
    kind = draw(st.sampled_from(KINDS))
    x, y = draw(between(130, 1370)), draw(between(1030, 1670))
    if kind == "even":
        fall |= {"edge": "even", "entry_level": draw(st.booleans())}
        return document(drain=point(x, y, rim, turn), fall=fall)
    if kind == "corner":
        # Where both legs of the L are in sight of the whole rim.
        at = point(draw(between(1020, 1380)), draw(between(120, 780)), rim, turn)
        return document(outline=L_SHAPE, drain=at, fall=fall)
    if kind == "two":
        second = point(1500 - x, 2700 - y, rim, turn)
        assume(np.hypot(1500 - 2 * x, 2700 - 2 * y) > 3 * rim)
        return document(drain=point(x, y, rim, turn), second_drain=second, fall=fall)
    if kind == "legs":
        first = point(draw(between(150, 600)), draw(between(200, 700)), rim, turn)
        other = point(draw(between(1050, 1350)), draw(between(1100, 1650)), rim, turn)
        return document(outline=L_SHAPE, drain=first, second_drain=other, fall=fall)
    if kind == "strips":
        ends = sorted([draw(between(0, 600)), draw(between(900, 1500))])
        drain = channel(ends[0], y, ends[1], y) | {"strips": 1 / draw(st.integers(40, 80))}
        return document(drain=drain, fall=fall, entries=draw(st.sampled_from([[0], [0, 2]])))
    if kind == "cut":
        cuts = [{"edge": e, "width": draw(between(-120, 140))} for e in draw(EDGES)]
        former = tray(60, cuts=cuts)
        return document(drain=point(x, y, 80, turn), fall=fall, former=former)
    zone = {"drain": point(draw(between(150, 750)), draw(between(1650, 2250)), rim, turn)}
    rest = {"asked": 1 / draw(st.integers(80, 150)), "walls": kind}
    return wet_room(**zone, rest=rest, set_down=draw(st.sampled_from([0, 5])))


KINDS = ("even", "corner", "two", "legs", "strips", "cut", "rising", "level")
EDGES = st.lists(st.integers(0, 3), unique=True, max_size=3)


class EveryArrangementTest(unittest.TestCase):
    @examples(120)
    @given(arrangements())
    def test_covers_the_floor_once_and_lies_nowhere_below_its_drain(self, doc: Document) -> None:
        try:
            floor = surface(doc)
        except NoSurfaceError as reason:
            self.assertIn(reason.code, ("drain_outside", "drains_unparted", "drain_hidden"))
            assume(False)
        covered = sum(facet.polygon.area for facet in floor.facets) + floor.rim.area
        self.assertAlmostEqual(covered / floor.outline.area, 1, places=4)
        lowest = min(facet.corners[:, 2].min() for facet in floor.facets)
        self.assertGreaterEqual(lowest, -floor.drop - 1e-4)

    @examples(60)
    @given(st.one_of(arrangements(), point_floors(), channel_floors()))
    def test_every_place_drains_and_no_puddle_stays(self, doc: Document) -> None:
        try:
            floor = surface(doc)
        except NoSurfaceError:
            assume(False)
        grid = grid_of(floor, [], 20.0)
        on = grid.floor
        standing = grid.filled()[on] - grid.heights[on]
        self.assertLess(standing.max(), 1e-6)

    @examples(20)
    @given(arrangements(), st.floats(-180, 180), st.booleans(), st.floats(-2000, 2000))
    def test_turning_and_mirroring_change_no_figure(
        self, doc: Document, turn: float, mirror: bool, shift: float
    ) -> None:
        first = solved(doc)
        assume(first.complete)
        # Between two equal ridges the first is taken, which may be the other one when mirrored.
        assume(doc["shower"].get("second_drain") is None or not mirror)
        second = solved(moved(doc, turn=turn, mirror=mirror, dx=shift, dy=-shift / 3))
        for name, value in figures(first).items():
            self.assertAlmostEqual(value, figures(second)[name], delta=2e-3, msg=name)

    @examples(40)
    @given(arrangements())
    def test_no_plane_breaks_off_from_its_neighbour(self, doc: Document) -> None:
        try:
            floor = surface(doc)
        except NoSurfaceError:
            assume(False)
        for zone in ("shower", "rest"):
            for facet in floor.zone(zone):
                heights = floor.heights(facet.corners[:, :2], zone)
                np.testing.assert_allclose(heights, facet.corners[:, 2], atol=0.03)


class LevelEdgeTest(unittest.TestCase):
    def test_an_l_keeps_its_whole_edge_level(self) -> None:
        floor = surface(document(outline=L_SHAPE, drain=point(1200, 450)))
        edge = floor.outline.exterior
        places = shapely.get_coordinates(edge.interpolate(np.linspace(0, 1, 60), normalized=True))
        np.testing.assert_allclose(floor.heights(places), 0, atol=1e-6)
        self.assertAlmostEqual(floor.drop, np.hypot(1140 - 0, 450 - 60 - 0) / 60, delta=6)

    def test_the_corner_that_hides_is_named_and_two_drains_are_offered(self) -> None:
        doc = document(outline=L_SHAPE, drain=point(1200, 1500))
        finding = cured(doc).findings[0]
        self.assertEqual(finding.code, "drain_hidden")
        self.assertIn("inner corner (900 from wall 1, 900 from wall 4) hides", finding.detail)
        # Where nothing is broken afterwards all ways out are offered; here, by a rule set without a
        # most and over a deck that gives enough.
        free = doc | {"rule_set": "norway"}
        free["floor"] = doc["floor"] | {"deck_thickness": 100}
        free["shower"] = doc["shower"] | {"fall": {"asked": 1 / 50}}
        finding = cured(free).findings[0]
        texts = [cure.text for cure in finding.cures]
        self.assertTrue(any(text.startswith("Move the drain") for text in texts), texts)
        pair = next(cure for cure in finding.cures if "two drains" in cure.text)
        shower = {c.path.rsplit("/", 1)[1]: c.value for c in pair.changes[:2]}
        self.assertTrue(cured(doc | {"shower": doc["shower"] | shower}).complete)

    def test_two_drains_are_placed_from_walls_however_the_room_lies(self) -> None:
        said = re.compile(r"([\d.]+) from wall (\d+), ([\d.]+) from wall (\d+)")
        for turn, mirror in ((0, False), (23.7, True), (118, False), (205, True)):
            doc = document(outline=L_SHAPE, drain=point(1200, 1500), fall={"asked": 1 / 50})
            doc["floor"]["deck_thickness"] = 100
            plan = moved(doc | {"rule_set": "norway"}, turn=turn, mirror=mirror)
            cure = next(c for c in cured(plan).findings[0].cures if "two drains" in c.text)
            walls = np.array(plan["room"]["outline"], dtype=float)
            ends = np.roll(walls, -1, axis=0)
            texts = re.findall(r"\(([^()]*)\)", cure.text)
            self.assertEqual(len(texts), 2, cure.text)
            for text, change in zip(texts, cure.changes[:2], strict=True):
                centre = shapely.Point(change.value["centre"])
                match = said.match(text)
                assert match is not None, text
                away, wall, other, second = match.groups()
                for number, distance in ((wall, away), (second, other)):
                    line = shapely.LineString([walls[int(number) - 1], ends[int(number) - 1]])
                    self.assertAlmostEqual(line.distance(centre), float(distance), delta=0.06)

    def test_moving_into_sight_is_the_least_move(self) -> None:
        doc = document(outline=L_SHAPE, drain=point(1200, 1500), fall={"asked": 1 / 50})
        doc["floor"]["deck_thickness"] = 100
        finding = cured(doc | {"rule_set": "norway"}).findings[0]
        move = next(c for c in finding.cures if c.text.startswith("Move the drain"))
        x, y = move.changes[0].value
        self.assertAlmostEqual(x, 1200, delta=0.5)
        self.assertAlmostEqual(y, 900 - 60 - 1, delta=3)


class EvenFallTest(unittest.TestCase):
    def test_every_plane_falls_as_asked(self) -> None:
        fall = {"asked": 1 / 60, "edge": "even", "entry_level": False}
        floor = surface(document(drain=point(400, 1500), fall=fall))
        np.testing.assert_allclose([facet.gradient for facet in floor.facets], 1 / 60)
        self.assertEqual(floor.folds, ())

    def test_a_pinned_entry_is_level_and_the_rest_falls_as_asked(self) -> None:
        fall = {"asked": 1 / 60, "edge": "even"}
        floor = surface(document(drain=point(400, 1500), fall=fall))
        entry = np.column_stack([np.linspace(1, 1499, 30), np.full(30, 900.0)])
        np.testing.assert_allclose(floor.heights(entry), 0, atol=1e-6)
        round_it = [f.gradient for f in floor.facets if f.curved]
        np.testing.assert_allclose(round_it, 1 / 60)

    def test_an_unpinned_entry_is_a_step_where_it_lies_nearest(self) -> None:
        fall = {"asked": 1 / 60, "edge": "even", "entry_level": False}
        step = solved(document(drain=point(750, 1350), fall=fall)).figures.step_at_entry.value
        far, near = np.hypot(690, 390), 390
        self.assertAlmostEqual(step, (far - near) / 60, delta=0.05)


class EvenEntryTest(unittest.TestCase):
    @sweep
    def test_a_level_entry_at_an_inner_corner_drains_or_is_refused(self) -> None:
        refused = kept = 0
        for seed in range(20):
            chance = random.Random(seed)
            wide, deep = chance.uniform(900, 1400), chance.uniform(1200, 1800)
            x, y = chance.uniform(0.4, 0.7) * wide, chance.uniform(0.4, 0.6) * deep
            outline = [[0, 0], [wide, 0], [wide, y], [x, y], [x, deep], [0, deep]]
            drain = point(chance.uniform(100, x - 100), chance.uniform(100, y - 100), 100)
            doc = document(outline=outline, drain=drain, entries=[chance.randrange(6)])
            doc["shower"]["fall"] = {"asked": 1 / 50, "edge": "even", "entry_level": True}
            doc["room"]["outline"] = [[0, 0], [2400, 0], [2400, 2400], [0, 2400]]
            doc["version"] = 9
            turned = moved(doc, turn=chance.uniform(0, 360), mirror=bool(seed % 2))
            answer = cured(turned)
            with self.subTest(plan=seed):
                if not answer.complete:
                    refused += answer.findings[0].code == "water_trapped"
                    self.assertTrue(answer.findings[0].cures)
                    continue
                water = answered(plan_from(turned), parts=("water",)).water
                assert water is not None
                # What the entry lets out is no water that stands.
                if not water.crosses:
                    self.assertGreater(water.drained.value, 0.98)
                kept += 1
        self.assertGreater(min(refused, kept), 0)


class TwoZonesTest(unittest.TestCase):
    def test_the_rest_falls_from_the_door_to_the_zone(self) -> None:
        floor = surface(wet_room())
        door = np.column_stack([np.linspace(801, 1559, 9), np.full(9, 0.5)])
        np.testing.assert_allclose(floor.heights(door), 0, atol=0.02)
        # From the door's far jamb to the zone's nearest corner, at 1:100.
        self.assertAlmostEqual(floor.edge, -np.hypot(660, 1500) / 100, delta=0.06)
        self.assertAlmostEqual(-floor.drop - floor.edge, -np.hypot(390, 390) / 50, places=6)

    def test_a_set_down_lowers_the_zone_and_is_the_step(self) -> None:
        flush, down = solved(wet_room()), solved(wet_room(set_down=8))
        self.assertAlmostEqual(down.figures.step_at_entry.value, 8, places=6)
        self.assertAlmostEqual(
            flush.figures.drain_level.value - down.figures.drain_level.value, 8, places=6
        )

    def test_level_walls_stay_level(self) -> None:
        floor = surface(wet_room(rest={"asked": 1 / 100, "walls": "level"}))
        wall = floor.outline.exterior
        places = shapely.get_coordinates(wall.interpolate(np.linspace(0, 1, 80), normalized=True))
        np.testing.assert_allclose(floor.heights(places), 0, atol=1e-3)

    def test_each_zone_is_held_to_its_own_least_fall(self) -> None:
        doc = wet_room(rest={"asked": 1 / 130}, fall={"asked": 1 / 60, "edge": "even"})
        found = {f.applies_to: f for f in cured(doc).findings if f.code == "fall_under_least"}
        self.assertEqual(
            set(found), {"the shower zone", "the rest of a floor that gets wet"}, found.keys()
        )
        rest = found["the rest of a floor that gets wet"]
        self.assertEqual(rest.cures[0].changes[0].path, "/shower/rest/asked")

    def test_a_bed_that_runs_out_is_a_stop_with_two_cures(self) -> None:
        solution = cured(wet_room())
        finding = next(f for f in solution.findings if f.code == "rest_too_thin")
        # The board of 10 mm is the lowest layer, and the rest falls 16.4 mm.
        self.assertEqual(finding.severity, "stop")
        self.assertAlmostEqual(finding.limit - finding.measured, 6.36, delta=0.1)
        for cure in finding.cures:
            doc = wet_room()
            if cure.changes[0].path == "/room/layers":
                doc["room"]["layers"] = cure.changes[0].value
            else:
                doc["shower"]["rest"]["asked"] = cure.changes[0].value
            self.assertNotIn("rest_too_thin", [f.code for f in cured(doc).findings], cure.text)
        # A flatter rest would be too flat: only a thicker bed is offered.
        self.assertEqual([cure.changes[0].path for cure in finding.cures], ["/room/layers"])

    @sweep
    def test_an_edge_above_the_rest_dams_it_and_the_water_says_so(self) -> None:
        dammed = 0
        for seed in range(some(24)):
            chance = random.Random(seed)
            wide, deep = chance.uniform(800, 1100), chance.uniform(800, 1100)
            doc = wet_room(
                outline=[[0, 2400 - deep], [wide, 2400 - deep], [wide, 2400], [0, 2400]],
                drain=point(
                    chance.uniform(200, wide - 200), 2400 - chance.uniform(200, deep - 200)
                ),
                fall={
                    "asked": 1 / chance.uniform(40, 80),
                    "edge": chance.choice(["even", "level"]),
                },
                entries=chance.choice([[0], [0], [1], [0, 1]]),
                set_down=chance.choice([0, 0, 0, 6]),
            )
            if seed % 3 == 2:
                # With level walls the zone hangs on the floor around it, lower or raised.
                doc["shower"]["rest"]["walls"] = "level"
                doc["shower"]["fall"]["edge"] = "level"
                doc["shower"]["set_down"] = chance.choice([0, 5, -6, -15])
            doc["version"] = 9
            turned = moved(doc, turn=chance.uniform(0, 360), mirror=bool(seed % 2))
            answer = answered(plan_from(turned), parts=("water",))
            assert answer.water is not None
            dams = [f for f in answer.findings if f.code == "zone_edge_dams"]
            with self.subTest(plan=seed):
                # Drops that run down the planes know nothing of the finding.
                self.assertEqual(bool(dams), answer.water.drained.value < 0.998)
                said = answer.water.verdict
                stays = said.endswith("reaches no drain") or said.startswith("Water stands")
                self.assertEqual(bool(dams), stays)
                self.assertEqual(bool(dams), not answer.water.clear)
            dammed += bool(dams)
        self.assertGreater(dammed, 0)

    def test_a_laid_floor_has_no_more_under_it_than_its_level_leaves(self) -> None:
        for seed in range(some(20)):
            chance = random.Random(seed)
            tile, laid = chance.uniform(6, 12), chance.uniform(10, 60)
            fall = 1 / chance.uniform(50, 120)
            doc = wet_room(rest={"asked": fall})
            doc["room"]["layers"] = layers(("tile", tile), ("screed", chance.uniform(20, 60)))
            doc["room"]["laid"] = laid
            doc["version"] = 9
            plan = plan_from(moved(doc, turn=29 * seed))
            found = [f for f in answered(plan).findings if f.code == "rest_too_thin"]
            # The rest falls from the door to where its planes meet the zone.
            lowest = min(f.corners[:, 2].min() for f in surface_of(plan).zone("rest"))
            with self.subTest(plan=seed):
                self.assertEqual(bool(found), laid - tile + lowest < 0)

    def test_the_section_draws_the_rest_as_it_falls(self) -> None:
        doc = wet_room()
        doc["room"]["layers"] = layers(("tile", 10), ("adhesive", 4), ("screed", 60))
        section = solved(doc).section
        tile = next(b for b in section.bands if b.name == "tile" and b.outline[0][0] < 1)
        tops = [z for _, z in tile.outline]
        self.assertAlmostEqual(max(tops), 74, delta=0.5)
        self.assertLess(tops[len(tops) // 2 - 1], 64)
        screed = next(b for b in section.bands if b.name == "screed")
        self.assertEqual(min(z for _, z in screed.outline), 0)

    def test_a_channel_makes_a_step_beside_the_zone(self) -> None:
        doc = wet_room(drain=channel(0, 2365, 900, 2365), entries=[0])
        finding = next(f for f in cured(doc).findings if f.code == "zone_edge_step")
        self.assertEqual(finding.places[0].name, "side 2")
        self.assertGreater(finding.measured, 10)
        self.assertIn("point drain", finding.cures[0].text)


class TrayTest(unittest.TestCase):
    def test_a_side_cut_at_a_wall_leaves_the_entry_alone(self) -> None:
        whole = solved(document(former=tray()))
        cut = solved(document(former=tray(cuts=[{"edge": 2, "width": 100}])))
        self.assertAlmostEqual(cut.figures.step_at_entry.value, 0, places=6)
        self.assertEqual(whole.figures.step_at_entry.value, 0)
        self.assertIn("edge at", cut.surface.side_levels[2])

    def test_the_entry_side_cut_is_a_step_and_the_cure_cuts_the_wall_side(self) -> None:
        doc = document(former=tray(cuts=[{"edge": 0, "width": 100}]))
        finding = next(f for f in cured(doc).findings if f.code == "tray_entry_cut")
        plane = next(p for p in cured(doc).surface.planes if p.name == "entry")
        self.assertAlmostEqual(finding.measured, 100 * plane.gradient, places=6)
        self.assertEqual(finding.cures[0].changes[0].value, [{"edge": 2, "width": 100.0}])

    def test_cutting_too_much_is_refused(self) -> None:
        doc = document(former=tray(cuts=[{"edge": 1, "width": 180}]))
        finding = next(f for f in solved(doc).findings if f.code == "tray_cut_too_far")
        self.assertEqual((finding.severity, finding.limit), ("stop", 150))

    def test_a_single_slope_that_was_cut_can_be_packed_up(self) -> None:
        doc = document(
            former=tray(cuts=[{"edge": 0, "width": 100}]), drain=channel(0, 1765, 1500, 1765)
        )
        solution = cured(doc)
        self.assertAlmostEqual(solution.figures.step_at_entry.value, 100 / 60, places=6)
        finding = next(f for f in solution.findings if f.code == "tray_entry_cut")
        pack = next(c for c in finding.cures if c.text.startswith("Pack"))
        doc["shower"]["former"]["raised"] = pack.changes[0].value
        mended = cured(doc)
        self.assertAlmostEqual(mended.figures.step_at_entry.value, 0, places=6)
        lower = solution.figures.recess_needed.value - mended.figures.recess_needed.value
        self.assertAlmostEqual(lower, 100 / 60, places=6)

    def test_an_extension_goes_on_rising(self) -> None:
        doc = document(former=tray(cuts=[{"edge": 2, "width": -100}]))
        floor = surface(doc)
        self.assertGreater(floor.highest, 1.5)
        self.assertAlmostEqual(floor.highest, 100 * floor.facets[0].gradient, delta=3)


class ChannelInAnLTest(unittest.TestCase):
    def test_a_wall_that_keeps_water_back_is_told(self) -> None:
        finding = solved(document(outline=L_SHAPE, drain=channel(900, 1765, 1500, 1765))).findings
        self.assertEqual(finding[0].code, "water_trapped")

    def test_a_channel_along_the_whole_side_drains_both_legs(self) -> None:
        floor = surface(document(outline=L_SHAPE, drain=channel(0, 35, 1500, 35)))
        self.assertEqual(len(floor.facets), 1)


class RefusalTest(unittest.TestCase):
    def refused(self, path: str, doc: Document) -> None:
        with self.assertRaises(PlanError) as caught:
            plan_from(doc)
        self.assertEqual(caught.exception.problems[0].path, path)

    def test_parts_that_do_not_go_together(self) -> None:
        back = channel(0, 1765, 1500, 1765)
        self.refused("/shower/second_drain", document(drain=back, second_drain=point()))
        self.refused(
            "/shower/fall/edge",
            document(second_drain=point(300), fall={"asked": 0.02, "edge": "even"}),
        )
        self.refused("/shower/drain/outlet", document(drain=back | {"outlet": 1600}))
        self.refused(
            "/shower/rest/walls",
            wet_room(drain=channel(0, 2365, 900, 2365), rest={"asked": 0.01, "walls": "level"}),
        )
        self.refused(
            "/shower/former/cuts/1/edge",
            document(former=tray(cuts=[{"edge": 0, "width": 1}, {"edge": 0, "width": 2}])),
        )
        panels = {"kind": "panels", "thin_edge": 20, "thick_edge": 10, "length": 1000}
        self.refused("/shower/former/thick_edge", document(former=panels, drain=back))

    def test_panels_beside_a_point_drain(self) -> None:
        panels = {"kind": "panels", "thin_edge": 6, "thick_edge": 32, "length": 1200}
        finding = next(
            f for f in cured(document(former=panels)).findings if f.code == "panels_need_channel"
        )
        self.assertEqual(finding.severity, "stop")
        paths = [cure.changes[0].path for cure in finding.cures]
        self.assertEqual(paths, ["/shower/drain", "/shower/former"])

    def test_a_zone_with_an_inner_corner_keeps_the_rest_flat(self) -> None:
        zone = [[0, 1200], [900, 1200], [900, 1800], [400, 1800], [400, 2400], [0, 2400]]
        finding = cured(wet_room(outline=zone, drain=point(200, 1500), entries=[0])).findings[0]
        self.assertEqual(finding.code, "zone_not_convex")
        self.assertIn("Keep the rest of the room flat", [c.text for c in finding.cures])

    def test_drains_on_each_other(self) -> None:
        doc = document(drain=point(700), second_drain=point(760))
        self.assertEqual(cured(doc).findings[0].code, "drains_touch")
        self.assertIn("without the second", cured(doc).findings[0].cures[0].text)
