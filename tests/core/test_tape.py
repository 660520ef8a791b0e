"""Rooms that are taped: the outline that fits best, what does not fit, and what is left open."""

import math
import re
import unittest

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely.geometry import Polygon

from calm_basin.core.answer.result import Finding
from calm_basin.core.solution import Solution
from calm_basin.core.survey.tape import adjust, angle_text, corners_of
from calm_basin.plan import PlanError, plan_from
from calm_basin.plan.survey import Diagonal, Tape, TapedWall
from tests.plans import Document, document, solved
from tests.sweeps import examples, sweep

INCH = 25.4


def coded(solution: Solution, code: str) -> Finding | None:
    return next((f for f in solution.findings if f.code == code), None)


def taped(walls: list[float], diagonals: list[float], *, square: bool) -> Document:
    """A room of four walls with up to two diagonals, as it was taped."""
    pairs = ((0, 2), (1, 3))
    tape = {
        "walls": [{"length": length, "square": square} for length in walls],
        "diagonals": [
            {"first": first, "last": last, "length": length}
            for (first, last), length in zip(pairs, diagonals, strict=False)
        ],
    }
    return document() | {"version": 2, "survey": {"tape": tape}}


sizes = st.one_of(
    st.tuples(st.integers(1200, 4000), st.integers(900, 3000)),
    st.tuples(st.integers(48, 160), st.integers(36, 120)).map(lambda s: (s[0] * INCH, s[1] * INCH)),
)


class SpareTest(unittest.TestCase):
    """How many measures more than are needed decides what can be told (adjustment computation)."""

    @examples(30)
    @given(sizes, st.integers(0, 5), st.floats(60, 150), st.booleans())
    def test_one_spare_measure_tells_that_and_not_which(
        self, size: tuple[float, float], wrong: int, by: float, less: bool
    ) -> None:
        wide, deep = size
        measures = [wide, deep, wide, deep, *[math.hypot(wide, deep)] * 2]
        measures[wrong] += -by if less else by
        solution = solved(taped(measures[:4], measures[4:], square=False))
        tape = solution.survey.tape
        assert tape is not None
        self.assertFalse([m for m in tape.misfits if m.suspect])
        blunder = coded(solution, "tape_blunder")
        assume(blunder)
        assert blunder is not None
        for name in ("wall 1", "wall 2", "wall 3", "wall 4", "diagonal"):
            self.assertIn(name, f"{blunder.title} {blunder.detail}".lower())

    @examples(30)
    @given(sizes, st.integers(0, 3), st.floats(80, 150))
    def test_with_square_corners_and_both_diagonals_no_other_wall_is_accused(
        self, size: tuple[float, float], wrong: int, by: float
    ) -> None:
        wide, deep = size
        walls = [wide, deep, wide, deep]
        walls[wrong] += by
        solution = solved(taped(walls, [math.hypot(wide, deep)] * 2, square=True))
        tape = solution.survey.tape
        assert tape is not None
        told = [i for i, misfit in enumerate(tape.misfits) if misfit.suspect]
        self.assertIn(told, ([wrong], []))
        blunder = coded(solution, "tape_blunder")
        assume(blunder)
        assert blunder is not None
        self.assertIn(f"wall {wrong + 1}", f"{blunder.title} {blunder.detail}".lower())

    @examples(20)
    @given(sizes, st.integers(0, 1), st.booleans())
    def test_what_the_measures_leave_open_is_not_put_on_the_plan(
        self, size: tuple[float, float], count: int, square: bool
    ) -> None:
        wide, deep = size
        diagonals = [math.hypot(wide, deep)] * count
        solution = solved(taped([wide, deep, wide, deep], diagonals, square=square))
        tape = solution.survey.tape
        assert tape is not None
        # Four sides that are free to lean have a shape only with a diagonal.
        open_ = not square and count == 0
        self.assertEqual(coded(solution, "tape_open") is not None, open_)
        self.assertEqual(tape.changes == (), open_)


class CornerTest(unittest.TestCase):
    @examples(40)
    @given(st.lists(st.floats(-40, 40), min_size=12, max_size=12), st.floats(0, 360))
    def test_angles_add_up_and_an_inner_corner_says_both(
        self, offs: list[float], turn: float
    ) -> None:
        corners = [(0, 0), (2600, 0), (2600, 1100), (1400, 1100), (1400, 2200), (0, 2200)]
        c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
        outline = (np.array(corners) + np.array(offs).reshape(6, 2)) @ np.array([[c, s], [-s, c]])
        texts = [angle_text(corner) for corner in corners_of(outline)]
        found = [[float(x) for x in re.findall(r"([\d.]+)°", text)] for text in texts]
        self.assertEqual([len(angles) for angles in found], [1, 1, 1, 2, 1, 1])
        self.assertAlmostEqual(sum(found[3]), 360, delta=0.11)
        # The angles of a polygon of six corners add up to 720°.
        self.assertAlmostEqual(sum(angles[-1] for angles in found), 720, delta=0.31)
        for i, angles in enumerate(found):
            before, after = outline[i - 1] - outline[i], outline[(i + 1) % 6] - outline[i]
            cosine = before @ after / np.linalg.norm(before) / np.linalg.norm(after)
            self.assertAlmostEqual(angles[0], math.degrees(math.acos(cosine)), delta=0.051)


class TapeTest(unittest.TestCase):
    def walls(self, *lengths: float) -> tuple[TapedWall, ...]:
        return tuple(TapedWall(length=length) for length in lengths)

    def test_a_square_room_comes_out_as_it_was_taped(self) -> None:
        room = adjust(Tape(walls=self.walls(2400, 1800, 2400, 1800)))
        np.testing.assert_allclose(
            room.outline, [[0, 0], [2400, 0], [2400, 1800], [0, 1800]], atol=1e-6
        )
        self.assertAlmostEqual(max(abs(m.misfit) for m in room.misfits), 0, places=6)

    def test_an_l_shape_and_an_alcove_close(self) -> None:
        turns = [(2300, "left"), (900, "right"), (600, "left"), (1500, "left"), (2900, "left")]
        walls = [TapedWall(length=length, turn=turn) for length, turn in turns]
        room = adjust(Tape(walls=(*walls, TapedWall(length=2400))))
        self.assertAlmostEqual(Polygon(room.outline).area, 2300 * 900 + 2900 * 1500, delta=1)
        self.assertLess(room.closes, 1e-6)

    def test_a_wall_that_is_100_mm_off_is_named_with_what_it_should_be(self) -> None:
        diagonal = math.hypot(2600, 2080)
        crossed = (
            Diagonal(first=0, last=2, length=diagonal),
            Diagonal(first=1, last=3, length=diagonal),
        )
        for wrong in range(4):
            lengths = [2600.0, 2080.0, 2600.0, 2080.0]
            right = lengths[wrong]
            lengths[wrong] += 100
            room = adjust(Tape(walls=self.walls(*lengths), diagonals=crossed))
            suspects = [m for m in room.misfits if m.suspect]
            self.assertEqual([m.name for m in suspects], [f"wall {wrong + 1}"])
            self.assertAlmostEqual(suspects[0].likely, right, delta=8)

    def test_the_plan_is_told_and_offered_the_outline(self) -> None:
        doc = document()
        walls = [{"length": length} for length in (2400, 1800, 2500, 1800)]
        diagonals = [
            {"first": 0, "last": 2, "length": 3000},
            {"first": 1, "last": 3, "length": 3000},
        ]
        doc["survey"] = {"tape": {"walls": walls, "diagonals": diagonals}}
        doc["version"] = 2
        solution = solved(doc)
        self.assertIn("Wall 3", coded(solution, "tape_blunder").title)
        change = solution.survey.tape.changes[0]
        self.assertEqual(change.path, "/room/outline")
        self.assertEqual(len(change.value), 4)

    def test_corners_say_what_they_do_to_a_square_tray(self) -> None:
        walls = self.walls(2000, 1000, 2020, 1000)
        diagonal = math.hypot(2010, 1000)
        room = adjust(Tape(walls=walls, diagonals=(Diagonal(first=0, last=2, length=diagonal),)))
        self.assertEqual(len(room.corners), 4)
        self.assertAlmostEqual(sum(corner.off for corner in room.corners), 0, places=6)
        self.assertTrue(all(abs(corner.gap) < 40 for corner in room.corners))

    @sweep
    def test_a_corner_is_square_as_far_as_the_display_can_tell(self) -> None:
        said = set()
        for unit, step in (("mm", 1.0), ("in", INCH / 16)):
            for longer in np.arange(0.0, 2.0, 0.05):
                diagonal = math.hypot(2000, 1500)
                doc = taped(
                    [2000, 1500] * 2, [diagonal + longer, diagonal - longer], square=False
                ) | {"display": {"length": unit}}
                tape = solved(doc).survey.tape
                assert tape is not None
                for corner in tape.corners:
                    square = abs(corner.gap) < step / 2
                    said.add((unit, square))
                    self.assertEqual(corner.text == "square", square, (unit, corner))
        self.assertEqual(len(said), 4)

    def test_tapes_that_cannot_be_are_refused(self) -> None:
        walls = [{"length": 900}] * 4
        for tape, path in [
            ({"walls": [{"length": 900}] * 5}, "/survey/tape/walls"),
            (
                {"walls": walls, "diagonals": [{"first": 0, "last": 1, "length": 900}]},
                "/survey/tape/diagonals/0/last",
            ),
            (
                {"walls": walls, "diagonals": [{"first": 0, "last": 2, "length": 2000}]},
                "/survey/tape/diagonals/0/length",
            ),
            ({"walls": [{"length": 9}, *walls[1:]]}, "/survey/tape/walls/0/length"),
            ({"walls": [*walls[1:], {"length": 3000}]}, "/survey/tape/walls/3/length"),
            ({"walls": [{"length": 16_000}] * 4}, "/survey/tape/walls"),
            ({"walls": [{"length": -9}] * 4}, "/survey/tape/walls/0/length"),
        ]:
            doc = document() | {"version": 2, "survey": {"tape": tape}}
            with self.subTest(path=path), self.assertRaises(PlanError) as caught:
                plan_from(doc)
            self.assertEqual(caught.exception.problems[0].path, path)
