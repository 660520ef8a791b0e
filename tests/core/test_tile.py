"""Tile over a floor: pieces against sums of another kind, counts by hand, the best origin against a
scan, offcuts against every way to pair them."""

import math
import random
import unittest
from functools import cache
from itertools import product
from typing import Any

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import surface_of
from calm_basin.core.falls.tiling import is_cut
from calm_basin.core.geometry.surface import Facet
from calm_basin.core.tile.answer import best_begun, tile_result
from calm_basin.core.tile.floors import Floor, NotLaidError, floors_of
from calm_basin.core.tile.laying import TileGrid, cut_once, lay, paired, stretches
from calm_basin.core.tile.origin import best_origin, weight
from calm_basin.core.tile.result import TileResult
from calm_basin.plan import Plan, plan_from
from calm_basin.plan.tiling import Pattern
from calm_basin.rules import chosen_rules
from tests.plans import L_SHAPE, Document, answered, channel, document, moved, point, wet_room
from tests.sweeps import each, some, sweep

PATTERNS: tuple[Pattern, ...] = ("straight", "half", "third", "hexagon")

TO_WALLS: Document = {"drain": channel(0, 1765, 1500, 1765), "fall": {"asked": 1 / 48}}
"""One plane, from the entry to a channel that reaches from wall to wall."""


def case_of(plan: Plan) -> Case:
    return Case(plan, chosen_rules(plan, None), Words.of(plan), surface_of(plan))


def tiled(doc: Document, tile: Document, **tiling: Any) -> Plan:
    """A plan with tile on its shower's floor, and ``tiling`` of its layout."""
    plan = plan_from(doc)
    whole = plan.model_dump(mode="json")
    whole["shower"]["tile"] = tile
    whole["tiling"] = tiling
    return plan_from(whole)


def result(plan: Plan) -> TileResult:
    found = answered(plan, parts=("tile",)).tile
    assert found is not None
    return found


@cache
def plans(count: int) -> tuple[Plan, ...]:
    """Floors of each kind with tile of each pattern, at any angle, either way round, in mm and in
    inches, begun anywhere."""
    chance, found = random.Random(29), []
    for i in range(count):
        kinds = (
            lambda: document(**TO_WALLS),
            lambda: document(drain=point(chance.uniform(500, 1000), 1350, 120)),
            lambda: document(outline=L_SHAPE, entries=[5], drain=point(1200, 300)),
            wet_room,
            lambda: document(drain=point(200, 1000, 100, turn=chance.uniform(0, 90))),
        )
        doc = kinds[i % len(kinds)]()
        if i % len(kinds) == 2:
            doc["room"]["outline"] = [[0, 0], [1500, 0], [1500, 1800], [0, 1800]]
            doc["room"]["doors"] = []
        doc = moved(doc, turn=chance.uniform(0, 360), mirror=chance.random() < 0.5)
        if chance.random() < 0.5:
            doc["display"] = {"length": "in", "fall": "in_per_ft"}
        pattern = PATTERNS[i % len(PATTERNS)]
        tile, room = (
            {
                "length": chance.choice((48, 101.6, 200, 304.8, 600)),
                "width": chance.choice((48, 150, 304.8)),
                "joint": chance.choice((1.5, 3, 4.7625)),
                "turn": chance.choice((0, 45, 90, chance.uniform(-180, 180))),
            }
            for _ in range(2)
        )
        begun = {"along": chance.uniform(-900, 900), "across": chance.uniform(-900, 900)}
        found.append(tiled(doc, tile, pattern=pattern, room=room, **begun))
    return tuple(found)


def floors(count: int) -> list[Floor]:
    return [floor for plan in plans(count) for floor in floors_of(case_of(plan))]


class PiecesTest(unittest.TestCase):
    def test_tile_and_joints_are_the_floor(self) -> None:
        """The pieces against places by chance, each put by arithmetic into tile or joint."""
        for floor in each(floors(some(40)), 2):
            grid, whole = floor.grid, shapely.union_all(floor.stretches)
            laid = lay(grid, floor.stretches)
            left, low, right, top = whole.bounds
            chance = np.random.default_rng(5)
            places = chance.uniform((left, low), (right, top), (60_000, 2))
            places = places[shapely.contains_xy(whole, *places.T)]
            share = float(in_tile(grid, grid.inside(places)).mean())
            error = 4 * math.sqrt(share * (1 - share) / len(places)) + 1e-3
            self.assertAlmostEqual(laid.areas.sum() / whole.area, share, delta=error)
            # No two pieces lie on one another, and none beside the floor.
            framed = shapely.transform(whole, grid.inside)
            together = shapely.union_all(laid.shapes)
            self.assertAlmostEqual(together.area, laid.areas.sum(), delta=1e-6 * whole.area)
            self.assertLess(together.difference(framed.buffer(1e-6)).area, 1e-3)

    def test_straight_tile_with_its_joints_is_the_floor_to_a_ten_thousandth(self) -> None:
        straight = [f for f in floors(some(40)) if f.grid.pattern == "straight"]
        for floor in each(straight, 1):
            grid = floor.grid
            tile = lay(grid, floor.stretches).areas.sum()
            joints, whole = 0.0, 0.0
            for stretch in floor.stretches:
                framed = shapely.transform(stretch, grid.inside)
                joints += framed.intersection(joints_of(grid, framed.bounds)).area
                whole += stretch.area
            self.assertAlmostEqual((tile + joints) / whole, 1, delta=1e-4)

    def test_no_piece_lies_across_a_fold_that_is_cut(self) -> None:
        looked = 0
        for plan in plans(some(40)):
            case = case_of(plan)
            for floor in floors_of(case)[:1]:
                laid, facets = lay(floor.grid, floor.stretches), case.surface.facets
                for fold in case.surface.folds:
                    entry = np.array([math.cos(floor.grid.turn), math.sin(floor.grid.turn)])
                    turned = floor.tile.model_copy(update={"turn": 0.0})
                    if not is_cut(turned, fold, entry):
                        continue
                    line = shapely.LineString([fold.start[:2], fold.end[:2]])
                    line = shapely.transform(line, floor.grid.inside)
                    crossed = shapely.intersection(laid.shapes, line)
                    self.assertLess(shapely.length(crossed).max(), 1e-3)
                    looked += 1
                self.assertGreater(len(facets), 0)
        self.assertGreater(looked, 0)

    def test_small_tile_follows_folds_and_large_tile_is_cut_along_them(self) -> None:
        doc = document()
        shower = next(iter(floors_of(case_of(tiled(doc, {"length": 50, "width": 50})))))
        self.assertEqual(len(shower.stretches), 1)
        shower = next(iter(floors_of(case_of(tiled(doc, {"length": 600, "width": 300})))))
        self.assertEqual(len(shower.stretches), 4)

    def test_planes_that_touch_at_a_corner_alone_stay_apart(self) -> None:
        squares = [
            shapely.box(0, 0, 10, 10),
            shapely.box(10, 10, 20, 20),
            shapely.box(10, 0, 20, 10),
        ]
        facets = [Facet(str(i), shape, (0, 0, 0)) for i, shape in enumerate(squares)]
        self.assertEqual(len(stretches(facets[:2], [])), 2)
        self.assertEqual(len(stretches(facets, [])), 1)

    def test_areas_are_those_of_the_planes(self) -> None:
        plan = tiled(document(**TO_WALLS), {"length": 100, "width": 100})
        (shower,) = result(plan).floors
        # Without the channel, 70 mm wide, at 1:48.
        self.assertAlmostEqual(shower.area, 1500 * 830 * math.hypot(1, 1 / 48), delta=1)


def in_tile(grid: TileGrid, places: np.ndarray) -> np.ndarray:
    """Which places along and across the rows lie in a tile, by arithmetic."""
    long, deep = grid.module
    if grid.pattern == "hexagon":
        # The nearest middle of three rows; a hexagon is where three widths across flats overlap.
        row = np.floor(places[:, 1] / deep)
        inside = np.zeros(len(places), dtype=bool)
        for step in (-1, 0, 1):
            shift = (row + step) % 2 * long / 2
            dx = (places[:, 0] - shift + long / 2) % long - long / 2
            dy = places[:, 1] - (row + step) * deep
            half, turns = grid.length / 2, np.radians((0, 60, 120))
            near = [np.abs(dx * math.cos(a) + dy * math.sin(a)) <= half for a in turns]
            inside |= np.all(near, axis=0)
        return inside
    parts = {"straight": 1, "half": 2, "third": 3}[grid.pattern]
    row = np.floor(places[:, 1] / deep)
    u = (places[:, 0] - (row % parts) / parts * long) % long - grid.joint / 2
    v = places[:, 1] % deep - grid.joint / 2
    return (u >= 0) & (u <= grid.length) & (v >= 0) & (v <= grid.width)


def joints_of(grid: TileGrid, bounds: tuple[float, float, float, float]) -> shapely.Geometry:
    """All joints of tile whose joints cross, as strips."""
    (left, low, right, top), half = bounds, grid.joint / 2
    long, deep = grid.module
    across = [
        shapely.box(left, j * deep - half, right, j * deep + half)
        for j in range(math.floor(low / deep) - 1, math.ceil(top / deep) + 2)
    ]
    along = [
        shapely.box(i * long - half, low, i * long + half, top)
        for i in range(math.floor(left / long) - 1, math.ceil(right / long) + 2)
    ]
    return shapely.union_all([*across, *along])


class CountsTest(unittest.TestCase):
    def test_a_shower_by_hand(self) -> None:
        """1500 × 900, a channel from wall to wall, tile 300 × 300 with joints of 3: from the middle
        of the channel four columns are whole, 141 and 139.5 are left at the sides; one row is
        whole, 265 and 256 are left before the channel and at the entry."""
        (shower,) = result(tiled(document(**TO_WALLS), {"length": 300, "width": 300})).floors
        self.assertEqual((shower.whole, shower.cut, shower.slivers), (4, 14, 0))
        # 141 and 139.5 come out of one tile.
        self.assertEqual((shower.reused, shower.used, shower.buy), (1, 17, 18))
        sizes = {piece.text: piece.count for piece in shower.sizes}
        self.assertEqual(sizes["300 × 265 mm"], 4)
        self.assertEqual(sizes["300 × 256 mm"], 4)
        self.assertEqual(sum(sizes.values()), 14)
        # A saw is not set to tenths of a millimetre.
        self.assertEqual(sizes["140 × 300 mm"], 1)

    def test_each_pattern_by_hand(self) -> None:
        """A floor of 404 × 202 under tile of 100 × 100 with joints of 1, from its lower left
        corner: 4 × 2 whole; rows shifted by half have 3 whole and 2 halves in the second; by a
        third 3 whole, a third and two thirds."""
        floor = [shapely.box(0, 0, 404, 202)]
        for pattern, whole, cut in (("straight", 8, 0), ("half", 7, 2), ("third", 7, 2)):
            laid = lay(TileGrid(100, 100, 1, pattern, 0.0, (0, 0)), floor)  # type: ignore[arg-type]
            self.assertEqual((laid.whole.sum(), (~laid.whole).sum()), (whole, cut), pattern)
        laid = lay(TileGrid(100, 100, 1, "third", 0.0, (0, 0)), floor)
        kept = sorted(laid.extents[~laid.whole][:, 0])
        # A module is 101: its third is 33.67, less half a joint either side of the cut tile.
        self.assertAlmostEqual(kept[0], 101 / 3 - 0.5, delta=1e-6)
        self.assertAlmostEqual(kept[1], 202 / 3 - 0.5, delta=1e-6)

    def test_hexagons_by_hand(self) -> None:
        """Middles along the lower wall: half of each row's hexagons lies behind it. A floor of four
        modules by two rows, begun at a middle: the first row has three whole widths and two halves
        of them, all cut by the wall; the row over it four, whole."""
        grid = TileGrid(100, 100, 1, "hexagon", 0.0, (0, 0))
        rows = grid.module[1]
        laid = lay(grid, [shapely.box(0, 0, 404, rows + 59)])
        self.assertEqual(laid.whole.sum(), 4)
        halves = laid.extents[~laid.whole]
        self.assertEqual((np.abs(halves[:, 0] - 100) < 1e-6).sum(), 3 + 3)
        area = math.sqrt(3) / 2 * 100**2
        self.assertAlmostEqual(laid.areas.max(), area, delta=1e-6)

    def test_a_third_is_no_sliver_and_less_is_one(self) -> None:
        grid = TileGrid(300, 300, 3, "straight", 0.0, (0, 0))
        for wide, sliver in ((1.5 + 100, False), (1.5 + 98, True)):
            laid = lay(grid, [shapely.box(0, 0, 303 + wide, 303)])
            self.assertEqual(bool(laid.slivers.any()), sliver, wide)

    def test_what_is_short_by_a_rounding_is_whole(self) -> None:
        grid = TileGrid(300, 300, 3, "straight", 0.0, (0, 0))
        self.assertTrue(lay(grid, [shapely.box(1.7, 1.5, 301.3, 301.5)]).whole.all())
        self.assertFalse(lay(grid, [shapely.box(3.5, 1.5, 301.5, 301.5)]).whole.any())

    def test_turned_mirrored_and_in_inches_it_is_the_same(self) -> None:
        tile = {"length": 200, "width": 100, "joint": 3}
        for doc in (document(**TO_WALLS), document(), wet_room()):
            first = None
            for turn, mirror, length in ((0, False, "mm"), (37.3, False, "in"), (217, True, "mm")):
                changed = moved(doc, turn=turn, mirror=mirror) | {"display": {"length": length}}
                found = result(tiled(changed, tile, room=tile)).floors
                counts = [(f.whole, f.cut, f.slivers, f.buy) for f in found]
                first = first or counts
                self.assertEqual(counts, first, (turn, mirror))

    def test_mosaic_on_sheets_is_counted_in_sheets(self) -> None:
        tile = {"length": 25, "width": 25, "joint": 2}
        plan = tiled(document(), tile, sheet=300)
        (shower,) = result(plan).floors
        self.assertEqual(shower.buy_text, f"{shower.buy} sheets of 300 × 300 mm")
        # Mosaic follows the folds: no sheet is cut for them.
        self.assertEqual(
            len(floors_of(case_of(tiled(document(), tile, sheet=300)))[0].stretches), 1
        )

    def test_the_narrowest_piece_is_told(self) -> None:
        found = result(tiled(document(**TO_WALLS), {"length": 300, "width": 300}))
        self.assertEqual(found.narrowest_text, "Narrowest cut 139.5 mm of 300 mm.")
        found = result(tiled(document(**TO_WALLS), {"length": 300, "width": 300}, along=60))
        self.assertIn("a third of the tile is 100 mm", found.narrowest_text)


class OffcutsTest(unittest.TestCase):
    def test_no_other_way_to_pair_saves_more(self) -> None:
        chance = random.Random(3)
        for _ in range(some(300)):
            pieces = [chance.uniform(20, 290) for _ in range(chance.randint(0, 8))]
            self.assertEqual(paired(pieces, 300, 3), most_pairs(tuple(pieces), 297))

    def test_a_piece_cut_twice_comes_out_of_no_offcut(self) -> None:
        grid = TileGrid(300, 300, 3, "straight", 0.0, (0, 0))
        laid = lay(grid, [shapely.box(0, 0, 403, 403)])
        shorter, narrower = cut_once(laid)
        self.assertEqual([round(x, 3) for x in shorter], [98.5])
        self.assertEqual([round(x, 3) for x in narrower], [98.5])


def most_pairs(pieces: tuple[float, ...], room: float) -> int:
    """By trying every partner of the first, and none."""
    if len(pieces) < 2:
        return 0
    first, rest = pieces[0], pieces[1:]
    best = most_pairs(rest, room)
    for i, other in enumerate(rest):
        if first + other <= room:
            best = max(best, 1 + most_pairs(rest[:i] + rest[i + 1 :], room))
    return best


class OriginTest(unittest.TestCase):
    def test_it_is_never_worse_than_any_origin_of_a_scan(self) -> None:
        docs = (
            document(**TO_WALLS),
            document(drain=point(610, 1270, 100)),
            moved(document(**TO_WALLS), turn=31, mirror=True),
        )
        tiles = ({"length": 300, "width": 300}, {"length": 450, "width": 200, "joint": 2})
        for doc, tile in list(product(docs, tiles))[: some(6)]:
            laid = [(f.grid, f.stretches) for f in floors_of(case_of(tiled(doc, tile)))]
            (along, across), best = best_origin(laid)
            begun = [lay(grid.begun(along, across), on) for grid, on in laid]
            self.assertEqual(weight(begun), best)
            step = 23.0
            long, deep = laid[0][0].module
            for u, v in product(np.arange(0, long, step), np.arange(0, deep, step)):
                other = weight([lay(grid.begun(u, v), on) for grid, on in laid])
                self.assertLessEqual(best.slivers, other.slivers, (u, v))

    def test_what_it_changes_is_what_it_said(self) -> None:
        plan = tiled(document(**TO_WALLS), {"length": 300, "width": 300}, along=60, across=70)
        (before,) = result(plan).floors
        self.assertGreater(before.slivers, 0)
        found = best_begun(case_of(plan))
        put = {change.path.split("/")[-1]: change.value for change in found.changes}
        moved_to = plan.tiling.model_copy(update=put)
        after = result(plan.model_copy(update={"tiling": moved_to}))
        self.assertEqual(after.floors[0].slivers, 0)
        self.assertIn("no slivers", found.said)
        again = best_begun(case_of(plan.model_copy(update={"tiling": moved_to})))
        self.assertEqual(again.changes, ())

    def test_it_lies_no_worse_after_on_any_plan(self) -> None:
        for plan in plans(some(20)):
            laid = [(f.grid, f.stretches) for f in floors_of(case_of(plan))]
            if sum(len(lay(*one).shapes) for one in laid) > 150:
                continue
            _, best = best_origin(laid)
            self.assertLessEqual(best, weight([lay(*one) for one in laid]))


class RefusedTest(unittest.TestCase):
    def test_what_cannot_be_laid_names_its_field_and_the_cure(self) -> None:
        for tile, tiling, field, cure in (
            ({"length": 300, "width": 300, "joint": 0}, {}, "/shower/tile/joint", "at least 1 mm"),
            ({"length": 3000, "width": 3000}, {}, "/shower/tile/length", "Type a smaller tile"),
            ({"length": 5, "width": 5}, {}, "/tiling/sheet", "Type the sheet size"),
            (
                {"length": 300, "width": 300},
                {"room": {"length": 5, "width": 5}},
                "/tiling/room/length",
                "Type the sheet size as the tile",
            ),
            (
                {"length": 300, "width": 300},
                {"room": {"length": 4000, "width": 3000}},
                "/tiling/room/length",
                "Type a smaller tile",
            ),
        ):
            with self.subTest(field):
                found = result(tiled(document(), tile, **tiling))
                self.assertEqual((found.field, found.floors), (field, ()))
                self.assertIn(cure, found.none_because)
                with self.assertRaises(NotLaidError):
                    best_begun(case_of(tiled(document(), tile, **tiling)))

    def test_without_a_tile_it_says_so(self) -> None:
        found = answered(plan_from(document()), parts=("tile",)).tile
        assert found is not None
        self.assertEqual(found.field, "/shower/tile")
        self.assertIn("Choose a tile", found.none_because)


class EveryOriginTest(unittest.TestCase):
    @sweep
    def test_no_origin_of_a_scan_by_the_millimetre_has_fewer_slivers(self) -> None:
        """Every origin of small tile along a rectangle and an L, mm by mm both ways; laid askew
        over the rectangle every third millimetre, of which none is better by more than one."""
        box, corner = [(0, 0), (217, 0), (217, 146), (0, 146)], (125, 75)
        shapes = (
            (0.4, box),
            (0.0, [(0, 0), (200, 0), (200, 75), corner, (125, 150), (0, 150)]),
            (0.0, box),
            (np.pi / 4, box),
        )
        for turn, corners in shapes[: some(4)]:
            grid, floor = TileGrid(28, 18, 2, "straight", turn, (0.0, 0.0)), Polygon(corners)
            (along, across), best = best_origin([(grid, [floor])])
            self.assertEqual(weight([lay(grid.begun(along, across), [floor])]), best)
            long, deep = (round(size) for size in grid.module)
            least = min(
                weight([lay(grid.begun(u, v), [floor])]).slivers
                for u in range(0, long, 3 if turn else 1)
                for v in range(0, deep, 3 if turn else 1)
            )
            self.assertLessEqual(best.slivers, least + (turn > 0), turn)


class DrainTest(unittest.TestCase):
    def test_what_lies_on_the_drain_is_put_there_in_any_turn_of_the_room(self) -> None:
        """A crossing of joints, or the middle of a tile: by the drain's middle in the grid."""
        for turn, mirror in ((0, False), (37.3, False), (211, True)):
            doc = moved(document(), turn=turn, mirror=mirror)
            doc |= {"version": 3}
            doc["shower"]["tile"] = {"length": 200, "width": 100, "joint": 4, "turn": 15}
            plan = plan_from(doc)
            drain = np.array([plan.shower.drain.model_dump()["centre"]])
            for name, share in (("on_joints", 0.0), ("on_tile", 0.5)):
                after = changed(plan, getattr(tile_result(case_of(plan)), name))
                grid = floors_of(case_of(after))[0].grid
                where = np.mod(grid.inside(drain)[0] / np.array(grid.module), 1)
                off = np.abs(where - share)
                self.assertLess(np.minimum(off, 1 - off).max(), 1e-4)


class MeetsTest(unittest.TestCase):
    """What the tile comes up to at the entry, the grate and the doors, and its bed."""

    def rows(self, doc: Document) -> dict[str, str]:
        return {row.name: row.text for row in tile_result(case_of(plan_from(doc))).meets}

    def test_a_flush_entry_and_a_step(self) -> None:
        self.assertEqual(self.rows(document())["at the shower's entry"], "flush")
        low = self.rows(document(set_down=12))["at the shower's entry"]
        self.assertIn("12 mm down: raise", low)
        high = self.rows(document(set_down=-5))["at the shower's entry"]
        self.assertIn("5 mm up: lower", high)

    def test_doors_are_told_or_to_be_measured(self) -> None:
        """A room's floor of 24 against one of 20, 24 and 40 outside, by hand."""
        doc = document()
        self.assertIn("measure the floor outside", self.rows(doc)["at door 1"])
        for outside, said in ((20, "4 mm above"), (24, "flush"), (40, "16 mm below")):
            doc["version"] = 5
            doc["room"]["doors"] = [{"wall": 0, "offset": 1500, "width": 760, "outside": outside}]
            self.assertIn(said, self.rows(doc)["at door 1"])

    def test_the_bed_that_a_trowel_leaves_beside_what_is_counted(self) -> None:
        """About 3, 4 and 6 mm by trowel (common practice, no source); the build-up counts 4."""
        for side, said in (
            (50, "3 mm, the build-up counts 4 mm: tile ends 1 mm lower"),
            (300, "4 mm, the build-up counts 4 mm"),
            (900, "tile ends 2 mm higher"),
        ):
            doc = document(tile={"length": side, "width": 50, "joint": 3}) | {"version": 3}
            self.assertIn(said, self.rows(doc)["bed in the shower, about"])
