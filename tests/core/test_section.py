"""The section, the joists on plan and the ways to the depth."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon

from calm_basin.core.answer.changes import changed
from calm_basin.core.falls import ring_of
from calm_basin.core.kinds import drain_kind
from calm_basin.core.section.cut import Cut, main_cut
from calm_basin.core.section.result import Band
from calm_basin.core.solution import Solution
from calm_basin.core.structure.joists import joists_under
from calm_basin.plan import plan_from
from calm_basin.plan.floor import JoistFloor
from tests.core.test_falls import channel_floors, point_floors
from tests.plans import answered, channel, document, layers, moved, point, solved, ways_of
from tests.sweeps import each, examples


def bands(solution: Solution, kind: str) -> list[Band]:
    assert solution.section is not None
    return [band for band in solution.section.bands if band.kind == kind]


def extent(band: Band, axis: int) -> tuple[float, float]:
    values = [place[axis] for place in band.outline]
    return min(values), max(values)


class CutTest(unittest.TestCase):
    def cut(self, **shower: object) -> Cut:
        plan = plan_from(document(**shower))
        ring = ring_of(plan.shower)
        return main_cut(ring, Polygon(plan.room.outline), drain_kind(plan.shower.drain).rim)

    def test_runs_straight_in_from_the_entry_through_the_drain(self) -> None:
        cut = self.cut(drain=point(400, 1350))
        np.testing.assert_allclose(cut.start, [400, 0])
        np.testing.assert_allclose(cut.along, [0, 1])
        self.assertAlmostEqual(cut.length, 1800)

    def test_turns_to_the_drain_where_the_entry_is_narrow(self) -> None:
        outline = [[0, 900], [400, 900], [1500, 900], [1500, 1800], [0, 1800]]
        cut = self.cut(outline=outline, entries=[0], drain=point(1200, 1350))
        self.assertTrue(
            cut.line.intersects(
                Polygon(drain_kind(plan_from(document(drain=point(1200, 1350))).shower.drain).rim)
            )
        )
        middle = np.array([200.0, 900.0])
        off = (middle - cut.start) - ((middle - cut.start) @ cut.along) * cut.along
        self.assertLess(np.linalg.norm(off), 1e-6)

    def test_stays_in_its_own_part_of_an_l_shaped_room(self) -> None:
        doc = document(drain=point(750, 1350))
        doc["room"]["outline"] = [
            [0, 0],
            [600, 0],
            [600, 400],
            [2400, 400],
            [2400, 1800],
            [0, 1800],
        ]
        doc["room"]["doors"] = []
        section = solved(doc).section
        self.assertAlmostEqual(section.length, 1400)
        self.assertAlmostEqual(section.start[1], 400)


class BandsTest(unittest.TestCase):
    def test_layers_lie_on_each_other_without_a_gap(self) -> None:
        solution = solved(document(drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 48}))
        shower = [b for b in solution.section.bands if extent(b, 0)[0] >= 899]
        tile, adhesive, membrane = (
            next(b for b in shower if b.name == name) for name in ("tile", "adhesive", "membrane")
        )
        for upper, lower, thickness in ((tile, adhesive, 8), (adhesive, membrane, 4)):
            top = dict(upper.outline[: len(upper.outline) // 2])
            under = dict(lower.outline[: len(lower.outline) // 2])
            for s, z in under.items():
                self.assertAlmostEqual(top[s] - z, thickness)

    def test_bed_is_thinnest_at_the_drain(self) -> None:
        for doc in (document(), document(drain=channel(0, 1765, 1500, 1765))):
            found = solved(doc)
            bed = bands(found, "bed")[0]
            half = len(bed.outline) // 2
            top = [z for _, z in bed.outline[:half]]
            base = bed.outline[half][1]
            # It goes down to the deck, which was lowered by its own 18 mm.
            over = max(18 - found.figures.recess_needed.value, 0)
            self.assertAlmostEqual(min(top) - base, 12 + over, places=4)

    def test_a_recess_deeper_than_the_deck_shows_the_joist_in_the_way(self) -> None:
        doc = document(former={"kind": "bed", "least_thickness": 30})
        doc["floor"]["direction"] = 0
        solution = solved(doc)
        clash = bands(solution, "clash")
        self.assertTrue(clash)
        low, high = extent(clash[0], 1)
        self.assertAlmostEqual(high - low, solution.figures.recess_left_to_find.value)

    def test_refitted_deck_leaves_the_joists_free(self) -> None:
        doc = document()
        doc["floor"] |= {"direction": 0, "first_offset": 0}
        solution = solved(doc)
        pieces = [extent(band, 0) for band in bands(solution, "refitted")]
        joists = [extent(band, 0) for band in bands(solution, "joist")]
        for low, high in pieces:
            for start, end in joists:
                self.assertTrue(high <= start + 1e-6 or low >= end - 1e-6)
        self.assertAlmostEqual(extent(bands(solution, "refitted")[0], 1)[1], -18)

    def test_along_the_joists_it_says_so(self) -> None:
        self.assertTrue(solved(document()).section.joists_along)
        across = document()
        across["floor"]["direction"] = 0
        self.assertFalse(solved(across).section.joists_along)

    def test_slab_is_drawn_cut_to_the_base(self) -> None:
        doc = document()
        doc["floor"] = {"kind": "slab", "thickness": 150}
        solution = solved(doc)
        tops = sorted(extent(band, 1)[1] for band in bands(solution, "slab"))
        self.assertAlmostEqual(tops[0], solution.figures.base_level.value)
        self.assertAlmostEqual(tops[1], 0)

    @examples(40)
    @given(st.one_of(point_floors(), channel_floors()), st.floats(-180, 180), st.floats(0, 60))
    def test_every_plan_can_be_cut(self, doc: dict, turn: float, bed: float) -> None:
        doc["shower"]["former"] = {"kind": "bed", "least_thickness": bed}
        section = solved(moved(doc, turn=turn)).section
        self.assertGreater(section.length, 100)
        self.assertLess(section.drain[0], section.drain[1])
        for band in section.bands:
            self.assertFalse(np.isnan(np.array(band.outline)).any(), band.name)
            self.assertGreaterEqual(extent(band, 0)[0], -1e-6)
            self.assertLessEqual(extent(band, 0)[1], section.length + 1e-6)
        finish = [extent(band, 0) for band in section.bands if band.kind == "finish"]
        self.assertAlmostEqual(min(low for low, _ in finish), 0, places=3)
        self.assertAlmostEqual(max(high for _, high in finish), section.length, places=3)

    def test_scale_board_has_round_heights_in_the_plans_unit(self) -> None:
        ticks = solved(document()).section.ticks
        self.assertTrue(all(tick.height % 5 == 0 for tick in ticks))
        self.assertIn("0", [tick.text for tick in ticks])
        inches = document()
        inches["display"] = {"length": "in"}
        for tick in each(solved(inches).section.ticks):
            self.assertAlmostEqual(tick.height / 6.35, round(tick.height / 6.35))


class JoistsTest(unittest.TestCase):
    OUTLINE = ((0, 0), (2400, 0), (2400, 1800), (0, 1800))
    ROOM = Polygon(OUTLINE)

    def test_lie_at_their_centres_from_the_origin(self) -> None:
        floor = JoistFloor(
            deck_thickness=18, direction=0, centres=400, width=50, depth=200, first_offset=100
        )
        found = sorted(shape.centroid.y for shape in joists_under(floor, self.OUTLINE))
        np.testing.assert_allclose(found, [100, 500, 900, 1300, 1700])

    def test_are_clipped_to_the_room(self) -> None:
        floor = JoistFloor(
            deck_thickness=18, direction=0, centres=1800, width=50, depth=200, first_offset=0
        )
        shapes = joists_under(floor, self.OUTLINE)
        self.assertEqual([round(shape.area) for shape in shapes], [25 * 2400] * 2)

    @examples(40)
    @given(st.floats(-360, 360), st.floats(200, 800), st.floats(-2000, 2000))
    def test_cover_their_share_of_any_room(self, turn: float, centres: float, first: float) -> None:
        floor = JoistFloor(
            deck_thickness=18,
            direction=turn,
            centres=centres,
            width=40,
            depth=200,
            first_offset=first,
        )
        shapes = joists_under(floor, self.OUTLINE)
        covered = sum(shape.area for shape in shapes) / self.ROOM.area
        self.assertAlmostEqual(covered, 40 / centres, delta=0.5 * 40 / centres + 0.01)
        for shape in shapes:
            self.assertTrue(self.ROOM.buffer(1e-6).contains(shape))


class WaysTest(unittest.TestCase):
    def test_enough_comes_first_and_structure_last(self) -> None:
        ways = ways_of(document(former={"kind": "bed", "least_thickness": 14}))
        self.assertEqual(ways[-1].code, "structure")
        ranks = [{True: 0, None: 1, False: 2}[way.enough] for way in ways[:-1]]
        self.assertEqual(ranks, sorted(ranks))

    def test_putting_a_way_into_the_plan_does_what_it_says(self) -> None:
        doc = document(former={"kind": "bed", "least_thickness": 30}, fall={"asked": 1 / 48})
        plan, ways = plan_from(doc), ways_of(doc)
        before = answered(plan)
        raised = next(way for way in ways if way.code == "raise_room")
        after = answered(changed(plan, raised.changes))
        self.assertEqual(after.figures.recess_left_to_find.value, 0)
        entry = next(way for way in ways if way.code == "drain_at_entry")
        moved_drain = answered(changed(plan, entry.changes))
        gained = before.figures.recess_needed.value - moved_drain.figures.recess_needed.value
        self.assertAlmostEqual(gained, entry.gives)

    def test_joists_far_apart_need_more_of_them(self) -> None:
        # Common practice, no source: add joists or blocking where centres exceed 16 in.
        doc = document()
        for centres, more in ((400, False), (16 * 25.4, False), (407, True), (600, True)):
            doc["floor"]["centres"] = centres
            lift = next(way for way in ways_of(doc) if way.code == "lift_deck")
            self.assertEqual("Add joists" in lift.costs, more, centres)

    def test_a_thick_room_needs_no_recess(self) -> None:
        doc = document()
        doc["room"]["layers"] = layers(("bed", 60))
        solution = solved(doc)
        self.assertEqual(solution.figures.recess_needed.text, "none")
        self.assertIn("to spare", solution.figures.recess_needed.working.note)


class ArrangementsTest(unittest.TestCase):
    @examples(6)
    @given(st.one_of(point_floors(), channel_floors()))
    def test_every_arrangement_on_offer_fits(self, doc: dict) -> None:
        for choice in each(solved(doc).arrangements, 4):
            shower = doc["shower"] | {
                change.path.rsplit("/", 1)[1]: change.value
                for change in choice.changes
                if change.path.count("/") == 2
            }
            edge = [c.value for c in choice.changes if c.path == "/shower/fall/edge"]
            shower["fall"] = doc["shower"]["fall"] | {"edge": edge[0] if edge else "level"}
            solution = solved(doc | {"shower": shower})
            fits = solution.complete or choice.code in ("point", "even")
            self.assertTrue(fits, (choice.code, [f.title for f in solution.findings]))

    def test_sides_are_those_of_someone_who_enters(self) -> None:
        choices = {
            c.code: c.changes[1].value for c in solved(document()).arrangements if c.code != "two"
        }
        self.assertEqual(
            list(choices), ["point", "even", "back", "left", "right", "middle", "entry"]
        )
        self.assertAlmostEqual(choices["back"]["start"][1], 1765)
        self.assertAlmostEqual(choices["entry"]["start"][1], 935)
        self.assertAlmostEqual(choices["left"]["start"][0], 35)
        self.assertAlmostEqual(choices["right"]["start"][0], 1465)
        self.assertAlmostEqual(choices["middle"]["start"][1], 1350)
