"""Tile on the shower's walls: counted by hand, covering each wall once, rows that are level."""

import random
import unittest
from typing import Any

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.answer.changes import changed
from calm_basin.core.tile.answer import best_begun, tile_result
from calm_basin.core.tile.floors import floors_of
from calm_basin.core.tile.laying import lay
from calm_basin.core.tile.origin import best_origin, weight
from calm_basin.core.tile.result import TiledWalls
from calm_basin.core.tile.walls import faces, lay_walls, tile_height
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.edits import add
from tests.core.test_membrane import alcove
from tests.core.test_tile import case_of
from tests.plans import Document, answered, document, moved
from tests.sweeps import some, sweep


def tiled(doc: Document, length: float, width: float, joint: float = 2, **tiling: Any) -> Plan:
    told = plan_from(doc).model_dump(mode="json")
    told["tiling"] |= {"wall": {"length": length, "width": width, "joint": joint}} | tiling
    return plan_from(told)


def walls_of(plan: Plan) -> TiledWalls:
    walls = tile_result(case_of(plan)).walls
    assert walls is not None
    return walls


class CountTest(unittest.TestCase):
    def test_an_alcove_by_hand(self) -> None:
        """Three walls of 900, 2000 high, tile of 298 × 398 with joints of 2, a joint of 2 in each
        corner and at the floor. Upright 300 a tile: the sides go on beyond the shower without a
        corner at the front, where 898 holds two tiles and 298; the back has two corners, 896. Five
        rows of 398 and joints, 1998 to tile: five rows whole, none left over."""
        walls = walls_of(tiled(alcove(), 298, 398, wall_height=2002))
        assert walls.tiled is not None
        self.assertEqual(len(walls.views), 3)
        sides = [view for view in walls.views if view.name != "wall 3"]
        for view in sides:
            whole, cut = len(view.drawn_whole), len(view.drawn_cut)
            self.assertEqual((whole, cut, len(view.drawn_slivers)), (15, 0, 0), view.name)
        (back,) = [view for view in walls.views if view.name == "wall 3"]
        # 896 is 2 less than three tiles with their joints: a tile in the middle, two cut by 1.
        self.assertEqual((len(back.drawn_whole), len(back.drawn_cut)), (5, 10))
        self.assertEqual(walls.tiled.whole, 35)

    def test_every_wall_is_covered_once_but_for_joints_and_niches(self) -> None:
        """Random walls, tiles, niches: tiles and the joints between them are the wall, to 1e-4; no
        two overlap; nothing lies in a niche."""
        chance, ran = random.Random(44), 0
        for _ in range(some(40)):
            wide, deep = chance.uniform(700, 2500), chance.uniform(700, 2000)
            doc = document(
                outline=[[0, 1000], [wide, 1000], [wide, 1000 + deep], [0, 1000 + deep]],
                drain={
                    "kind": "point",
                    "centre": [wide / 2, 1000 + deep / 2],
                    "width": 100,
                    "length": 100,
                },
            )
            doc["room"] |= {
                "doors": [],
                "outline": [[0, 0], [wide, 0], [wide, 1000 + deep], [0, 1000 + deep]],
            }
            doc = moved(doc, turn=chance.uniform(0, 360), mirror=chance.random() < 0.5)
            joint = chance.uniform(1, 8)
            plan = tiled(
                doc,
                chance.uniform(80, 900),
                chance.uniform(80, 600),
                joint,
                wall_height=chance.uniform(900, 2600),
                wall_pattern=chance.choice(["straight", "half", "third", "hexagon"]),
                wall_sheet=chance.choice([None, None, 300]),
            )
            told = plan.model_dump(mode="json")
            told["walls"]["niches"] = [
                {"wall": 2, "offset": 100, "width": 300, "height": 300, "sill": 500}
            ]
            plan = plan_from(told)
            assert plan.tiling.wall is not None
            made = lay_walls(plan, plan.tiling.wall, None)
            for one in made.walls:
                bare = one.face.tiled.area
                jointless = lay(
                    type(one.laid.grid)(
                        one.laid.grid.length + joint,
                        one.laid.grid.width + joint,
                        0.0,
                        one.laid.grid.pattern,
                        one.laid.grid.turn,
                        one.laid.grid.origin,
                    ),
                    [one.face.tiled],
                )
                self.assertAlmostEqual(jointless.areas.sum() / bare, 1, places=4)
                together = shapely.union_all(one.laid.shapes).area
                self.assertAlmostEqual(together / one.laid.areas.sum(), 1, places=6)
                self.assertLess(one.laid.areas.sum(), bare)
                ran += 1
        self.assertGreater(ran, 100 if some(40) == 40 else 5)

    @sweep
    def test_best_layout_weighs_walls_whose_joints_are_carried_up(self) -> None:
        """Floor and wall tile of one module: what best layout says is the weight of both, no worse
        than before, and no worse than the best of the floor by itself with its walls."""
        doc = alcove() | {"version": 3}
        doc["shower"]["tile"] = {"length": 198, "width": 198, "joint": 2}
        for along in (0, 37, 95):
            told = tiled(doc, 198, 98, wall_height=2000, along=along).model_dump(mode="json")
            plan = plan_from(told)
            found = best_begun(case_of(plan))
            after = changed(plan, found.changes)

            def both(plan: Plan) -> tuple[int, float]:
                floors = floors_of(case_of(plan))
                assert plan.tiling.wall is not None
                walls = lay_walls(plan, plan.tiling.wall, floors[0].grid)
                laid = [lay(floor.grid, floor.stretches) for floor in floors]
                weighed = weight([*laid, *[one.laid for one in walls.walls]])
                return weighed.slivers, weighed.narrowest

            self.assertLessEqual(both(after), both(plan))
            bare = floors_of(case_of(plan))
            move, _ = best_origin([(floor.grid, floor.stretches) for floor in bare])
            alone = plan_from(
                told | {"tiling": told["tiling"] | {"along": along + move[0], "across": move[1]}}
            )
            self.assertLessEqual(both(after)[0], both(alone)[0])
            self.assertIn(f"{both(after)[0] or 'no'} sliver", found.said)

    def test_all_walls_but_for_the_doors_by_hand(self) -> None:
        """A room of 900 × 2000 with a door of 760 in its front: all round 2000 high, less the door
        of 2040: a joint of 2 at the floor and at both ends of each wall."""
        doc = alcove()
        doc["room"]["doors"] = [{"wall": 0, "offset": 70, "width": 760}]
        plan = tiled(doc, 298, 398, wall_height=2000, walls="all")
        told = walls_of(plan)
        self.assertEqual(
            sorted(view.name for view in told.views), [f"wall {n}" for n in (1, 2, 3, 4)]
        )
        area = sum(face.tiled.area for face in faces(plan, 2))
        self.assertAlmostEqual(area, 1998 * (2 * 1996 + 896 + 896 - 760), delta=1)
        assert told.tiled is not None
        self.assertEqual(told.tiled.name, "All walls")

    def test_rows_by_thirds_hexagons_and_sheets(self) -> None:
        """Each row a third of its module further than the one below; hexagons half, as high as
        2/√3 of their length, the lowest row whole; sheets of 300 count as one tile of that."""
        for pattern, length, width, shift in (
            ("third", 197, 97, 1 / 3),
            ("half", 197, 97, 1 / 2),
            ("hexagon", 197, 197, 1 / 2),
        ):
            plan = tiled(alcove(), length, width, wall_height=2000, wall_pattern=pattern)
            assert plan.tiling.wall is not None
            made = lay_walls(plan, plan.tiling.wall, None)
            for one in made.walls:
                whole = one.laid.on_plan(one.laid.whole)
                middles = np.array([Polygon(ring).centroid.coords[0] for ring in whole])
                across, up = one.laid.grid.module
                rows = np.round((middles[:, 1] - middles[:, 1].min()) / up)
                self.assertEqual(sorted(set(rows)), list(range(len(set(rows)))))
                against = (middles[:, 0] - middles[0, 0]) / across - (rows - rows[0]) * shift
                self.assertLess(np.abs(against - np.round(against)).max(), 1e-6, pattern)
            for one in made.walls:
                if one.begun not in ("joint", "tile") or made.whole == "top":
                    continue
                # Of the lowest row a joint, or the middle of a tile, stands in the wall's middle.
                on_plan = one.laid.on_plan(one.laid.whole)
                middles = np.array([Polygon(ring).centroid.coords[0] for ring in on_plan])
                lowest = middles[middles[:, 1] < middles[:, 1].min() + 1, 0]
                off = (lowest - (one.face.left + one.face.right) / 2) / one.laid.grid.module[0]
                share = 0.5 if one.begun == "joint" else 0.0
                self.assertLess(np.abs(np.mod(off - share + 0.5, 1) - 0.5).max(), 1e-6, pattern)
            if pattern == "hexagon":
                self.assertAlmostEqual(made.walls[0].laid.grid.full, 197**2 * 3**0.5 / 2)
                low = min(y for ring in whole for _, y in ring)
                self.assertLessEqual(low, 3 + 1e-6)
        plan = tiled(alcove(), 47, 47, wall_height=908, wall_sheet=300)
        told = tile_result(case_of(plan)).walls
        assert told is not None and told.tiled is not None
        self.assertIn("sheets of 300 × 300 mm", told.tiled.buy_text)
        # Three high; three wide at the sides, at the back two between two cut to three small tiles.
        self.assertEqual(told.tiled.whole + told.tiled.cut, 3 * (3 + 4 + 3))

    def test_rows_are_level_all_round_and_their_whole_row_has_the_fewer_slivers(self) -> None:
        """Up to 2002 five rows of 400 fit either way; up to 2080 the last is 78 of 398: a sliver
        whichever row is whole, so neither is preferred for it; up to 1950 it is cut by 52."""
        for height, slivers in ((2002, 0), (2080, 9), (1950, 0)):
            plan = tiled(alcove(), 298, 398, wall_height=height)
            assert plan.tiling.wall is not None
            made = lay_walls(plan, plan.tiling.wall, None)
            origins = {round(one.laid.grid.origin[1], 6) for one in made.walls}
            self.assertEqual(len(origins), 1)
            found = sum(int(one.laid.slivers.sum()) for one in made.walls)
            self.assertGreaterEqual(found, slivers)
            if not slivers:
                self.assertEqual(found, 0, height)

    def test_no_other_beginning_along_a_wall_has_fewer_slivers(self) -> None:
        """A joint or a tile in the middle, a whole tile at an open edge: all are tried here."""
        chance = random.Random(8)
        for _ in range(some(30)):
            plan = tiled(alcove(), chance.uniform(150, 600), 300, wall_height=1800)
            tile = plan.tiling.wall
            assert tile is not None
            made = lay_walls(plan, tile, None)
            for one in made.walls:
                face, grid = one.face, one.laid.grid
                middle = (face.left + face.right) / 2
                step = tile.joint / 2
                ways = [middle, middle + (tile.length + tile.joint) / 2]
                ways += [face.left - step] * (face.left > 0.5)
                ways += [face.right + step] * (face.right < face.length - 0.5)
                every = [
                    int(lay(type(grid)(*_with(grid, x)), [face.tiled]).slivers.sum()) for x in ways
                ]
                self.assertEqual(int(one.laid.slivers.sum()), min(every))


class HeightTest(unittest.TestCase):
    def test_the_heights_at_which_every_row_is_whole(self) -> None:
        """Rows of 398 and a joint of 2: 400 each, the first a joint above the floor."""
        for height, said in (
            (2000, "Whole tiles in the bottom row"),
            (2100, "Every row is whole up to 2000 mm or 2400 mm"),
            (399, "Every row is whole up to 400 mm"),
        ):
            walls = walls_of(tiled(alcove(), 298, 398, wall_height=height))
            self.assertIn(said, walls.said)
            self.assertEqual("Every row" in walls.said, height != 2000)
        for end in (2000, 2400):
            made = walls_of(tiled(alcove(), 298, 398, wall_height=end))
            heights = {
                round(max(y for _, y in ring) - min(y for _, y in ring))
                for view in made.views
                for ring in (*view.drawn_whole, *view.drawn_cut)
            }
            self.assertEqual(heights, {398})


class CarriedTest(unittest.TestCase):
    def test_the_floors_joints_are_carried_up_where_the_module_is_the_same(self) -> None:
        for turn, mirror in ((0, False), (37.3, False), (190, True)):
            doc = moved(alcove(), turn=turn, mirror=mirror)
            told = plan_from(doc).model_dump(mode="json")
            told["shower"]["tile"] = {"length": 298, "width": 298, "joint": 2}
            told["tiling"] |= {"along": 40, "wall": {"length": 298, "width": 398, "joint": 2}}
            plan = plan_from(told)
            views = walls_of(plan).views
            self.assertEqual(
                {view.said for view in views}, {"joints run up from the floor"}, (turn, mirror)
            )
            # On the back wall 40 to the side of the drain's middle, which is the wall's.
            (back,) = [view for view in views if view.name == "wall 3"]
            edges = {round(x % 300, 1) for ring in back.drawn_whole for x, _ in ring}
            self.assertTrue(
                edges <= {(450 + 40) % 300 + 1.0, (450 + 40) % 300 - 1.0}
                or edges <= {(450 - 40) % 300 + 1.0, (450 - 40) % 300 - 1.0},
                edges,
            )

    def test_another_module_begins_by_itself(self) -> None:
        told = plan_from(alcove()).model_dump(mode="json")
        told["shower"]["tile"] = {"length": 298, "width": 298, "joint": 2}
        told["tiling"] |= {"wall": {"length": 250, "width": 398, "joint": 2}}
        said = {view.said for view in walls_of(plan_from(told)).views}
        self.assertTrue(
            said <= {"joint in the middle", "tile in the middle", "whole tile at the open edge"}
        )


class AnswerTest(unittest.TestCase):
    def test_height_follows_the_boards_until_it_is_typed(self) -> None:
        self.assertEqual(tile_height(tiled(alcove(), 300, 300)), 2100)
        self.assertEqual(tile_height(tiled(alcove(), 300, 300, wall_height=1234)), 1234)
        told = tiled(alcove(), 300, 300).model_dump(mode="json")
        told["walls"]["height"] = 1900
        self.assertEqual(tile_height(plan_from(told)), 1900)

    def test_order_buys_what_is_counted(self) -> None:
        plan = tiled(alcove(), 298, 398, wall_height=2002)
        order = answered(plan, parts=("order",)).order
        assert order is not None
        line = next(line for line in order.lines if line.item == "wall_tile")
        counted = walls_of(plan).tiled
        assert counted is not None
        self.assertAlmostEqual(line.needed, counted.buy * 0.298 * 0.398, places=6)
        adhesive = next(line for line in order.lines if line.item == "tile_adhesive")
        bare = answered(plan_from(alcove()), parts=("order",)).order
        assert bare is not None
        before = next(line for line in bare.lines if line.item == "tile_adhesive")
        area = sum(face.tiled.area for face in faces(plan, 2)) / 1e6
        self.assertAlmostEqual(adhesive.needed - before.needed, area, places=6)

    def test_what_cannot_be_laid_says_so(self) -> None:
        for length, joint, said in (
            (5000, 2, "Tile larger than these walls"),
            (300, 0, "Joint too narrow"),
            (10, 2, "Too many single tiles"),
        ):
            walls = walls_of(tiled(alcove(), length, 2000 if length == 5000 else 10, joint))
            self.assertIn(said, walls.none_because)
            self.assertIsNone(walls.tiled)
        island = document(outline=[[600, 400], [1500, 400], [1500, 1300], [600, 1300]])
        island["shower"]["drain"]["centre"] = [1000, 800]
        self.assertEqual(walls_of(tiled(island, 300, 300)).none_because, "No wall at the shower.")
        self.assertIsNone(tile_result(case_of(plan_from(alcove()))).walls)

    def test_nonsense_is_named_and_a_common_size_is_assumed(self) -> None:
        with self.assertRaises(PlanError) as refused:
            tiled(alcove(), -3, 300)
        self.assertEqual(refused.exception.problems[0].path, "/tiling/wall/length")
        plan = add(plan_from(alcove()), "wall tile")
        self.assertIn("/tiling/wall/length", plan.assumed)


def _with(grid: Any, x: float) -> tuple[Any, ...]:
    return grid.length, grid.width, grid.joint, grid.pattern, grid.turn, (x, grid.origin[1])
