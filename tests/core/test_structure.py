"""The drain against the floor: held against extents on random floors, and what may mend it."""

from __future__ import annotations

import math
import random
import unittest
from typing import Any

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Point, Polygon, box

from calm_basin.core.answer.changes import changed
from calm_basin.core.falls import surface_of
from calm_basin.core.kinds import drain_kind
from calm_basin.core.solution import Solution
from calm_basin.core.structure.footing import standing
from calm_basin.core.structure.joists import timbers_of
from calm_basin.core.structure.meeting import met
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.rules import drain_families, rule_sets
from calm_basin.tolerances import ON_EDGE
from tests.plans import (
    Document,
    answered,
    channel,
    document,
    moved,
    offering,
    point,
    starting,
    tray,
)
from tests.sweeps import each, examples, sweep

FAMILIES = drain_families()
POINT = [name for name, family in FAMILIES.items() if family.drain == "point"]


def under(doc: Document, family: str = "bonded-flange", **floor: Any) -> Document:
    """A document of this version with a drain family and a floor that differs."""
    doc["version"] = 7
    doc["waste"] = {"family": FAMILIES[family].model_dump(mode="json")}
    doc["floor"] |= floor
    return doc


def codes(solution: Solution) -> set[str]:
    return {finding.code for finding in solution.findings}


@st.composite
def floors(draw: st.DrawFn) -> Document:
    """A drain of any family, turned, over joists at any angle, some of them unlike the others."""
    number = st.floats
    family = draw(st.sampled_from(POINT))
    turn = draw(number(-90, 90))
    doc = document(
        drain=point(draw(number(300, 1200)), draw(number(1150, 1550)), 100, turn),
        former=tray(30) if draw(st.booleans()) else {"kind": "bed", "least_thickness": 12},
    )
    others = draw(
        st.lists(
            st.fixed_dictionaries(
                {
                    "number": st.integers(-6, 6),
                    "moved": number(-60, 60),
                    "plies": st.integers(1, 2),
                    "left_out": st.booleans(),
                }
            ),
            max_size=4,
            unique_by=lambda other: other["number"],
        )
    )
    return under(
        doc,
        family,
        direction=draw(st.sampled_from([0.0, 90.0, 45.0]) | number(-180, 180)),
        centres=draw(number(300, 620)),
        width=draw(number(35, 90)),
        first_offset=draw(number(-500, 500)),
        deck_thickness=draw(number(12, 60)),
        others=others,
    )


def reach_across(shape: Polygon, across: np.ndarray) -> tuple[float, float]:
    reach = shapely.get_coordinates(shape) @ across
    return float(reach.min()), float(reach.max())


class ClashTest(unittest.TestCase):
    @examples(200, least=100)
    @given(floors())
    def test_by_how_much_it_lies_on_each_joist(self, doc: Document) -> int:
        """Joists are strips without end: a shape is in the way by how far its extent across them
        reaches into one's."""
        plan = plan_from(doc)
        surface, floor, drain = surface_of(plan), plan.floor, plan.shower.drain
        family, stands = plan.waste.family, standing(plan, surface_of(plan))
        assert family is not None and floor.kind == "joists" and drain.kind == "point"
        turn = drain.orientation
        shapes = {"hole": (Point(0, 0).buffer(family.hole_width / 2, 256), -math.inf)}
        if family.hole != "round":
            half, deep = family.hole_width / 2, family.hole_length / 2
            shapes["hole"] = (affinity.rotate(box(-half, -deep, half, deep), turn), -math.inf)
        for part in ("body", "flange"):
            wide = getattr(family, f"{part}_width") / 2
            if wide:
                long = (getattr(family, f"{part}_length") or 2 * wide) / 2
                flat = affinity.rotate(box(-wide, -long, wide, long), turn, origin=(0, 0))
                shapes[part] = (flat, stands.rim - getattr(family, f"{part}_depth"))
        angle = math.radians(floor.direction)
        across = np.array([-math.sin(angle), math.cos(angle)])
        at = float(np.array(drain.centre) @ across)
        unlike = {other.number: other for other in floor.others}
        expected: list[tuple[str, float]] = []
        for name, (shape, bottom) in shapes.items():
            low, high = reach_across(shape, across)
            for index in range(-30, 31):
                other = unlike.get(index)
                if other and other.left_out:
                    continue
                middle = floor.first_offset + index * floor.centres + (other.moved if other else 0)
                half = floor.width / 2 * (other.plies if other else 1)
                by = min(at + high - (middle - half), (middle + half) - (at + low))
                if by > ON_EDGE and bottom < -floor.deck_thickness - ON_EDGE:
                    expected.append((name, by))
        found = [(one.way.part, one.by) for one in met(plan, surface, drain_kind(drain))]
        near = [by for _, by in expected if by < ON_EDGE + 0.2]
        if near:
            return 0
        self.assertEqual(sorted(n for n, _ in found), sorted(n for n, _ in expected))
        for (_, one), (_, other) in zip(sorted(found), sorted(expected), strict=True):
            self.assertAlmostEqual(one, other, delta=0.1)
        return len(found)

    @examples(60)
    @given(floors(), st.floats(-180, 180), st.booleans())
    def test_turning_and_mirroring_change_nothing(
        self, doc: Document, turn: float, mirror: bool
    ) -> None:
        def told(document: Document) -> list[float]:
            plan = plan_from(document)
            return sorted(o.by for o in met(plan, surface_of(plan), drain_kind(plan.shower.drain)))

        here, there = told(doc), told(moved(doc, turn=turn, mirror=mirror, dx=300, dy=-200))
        if all(abs(by - ON_EDGE) > 0.2 for by in (*here, *there)):
            self.assertEqual(len(here), len(there))
            np.testing.assert_allclose(here, there, atol=0.05)

    def test_is_said_in_finding_section_and_drawing(self) -> None:
        doc = under(document(drain=point(600, 1350)))
        solution = answered(plan_from(doc))
        finding = next(f for f in solution.findings if f.code == "drain_on_timber")
        self.assertIn("joist", finding.title)
        self.assertEqual(finding.severity, "stop")
        self.assertGreater(finding.measured or 0, 60)
        assert solution.section is not None and solution.structure is not None
        self.assertIn("clash", {band.kind for band in solution.section.bands})
        self.assertTrue(any(body.meets for body in solution.structure.bodies))
        doc["shower"]["drain"]["centre"][0] = 750
        solution = answered(plan_from(doc))
        self.assertNotIn("drain_on_timber", codes(solution))
        assert solution.section is not None
        self.assertNotIn("clash", {band.kind for band in solution.section.bands})

    def test_without_a_family_the_pipe_alone_is_held_against_the_floor(self) -> None:
        doc = document(drain=point(600, 1350))
        solution = answered(plan_from(doc))
        self.assertIn("drain_on_timber", codes(solution))
        assert solution.structure is not None
        self.assertIn("No drain is chosen", solution.structure.notes[0])

    def test_a_line_that_was_found(self) -> None:
        doc = under(document())
        doc["services"] = [
            {"name": "hot pipe", "points": [[750, 900], [750, 1800]], "clearance": 40}
        ]
        self.assertIn("drain_near_service", codes(answered(plan_from(doc))))
        # The hole reaches to the pipe's underside: a line far below is not in its way.
        doc["services"][0]["depth"] = 400
        self.assertNotIn("drain_near_service", codes(answered(plan_from(doc))))

    def test_a_trough_over_i_joists_passes_only_in_deck_and_boards(self) -> None:
        doc = under(
            document(drain=channel(0, 1765, 1500, 1765)),
            "narrow-channel",
            joist="i_joist",
            width=60,
            depth=300,
            first_offset=-150,
        )
        solution = offering(plan_from(doc))
        finding = next(f for f in solution.findings if f.code == "drain_on_timber")
        self.assertIn("trough", finding.title)
        self.assertIn("flange of an I-joist is never cut", finding.detail)
        boards = [cure for cure in finding.cures if "boards" in cure.text]
        mended = answered(changed(plan_from(doc), boards[0].changes))
        self.assertNotIn("drain_on_timber", codes(mended))

    def test_what_a_notch_would_be_is_told_of_sawn_joists_alone(self) -> None:
        """IRC R502.8.1, from memory: a sixth of the depth, here 195 ÷ 6 = 32.5 mm."""
        doc = under(document(drain=channel(0, 1765, 1500, 1765)), "narrow-channel")
        finding = next(f for f in answered(plan_from(doc)).findings if f.code == "drain_on_timber")
        self.assertIn("the 32.5 mm of the rule of thumb", finding.detail)
        self.assertIn("R502.8.1", finding.detail)
        doc["floor"] |= {"joist": "truss"}
        finding = next(f for f in answered(plan_from(doc)).findings if f.code == "drain_on_timber")
        self.assertNotIn("notch", finding.detail)
        self.assertIn("A truss is never cut", finding.detail)

    def test_joists_and_timbers_as_the_plan_says(self) -> None:
        doc = under(
            document(),
            others=[
                {"number": 0, "end": 500},
                {"number": -1, "plies": 2},
                {"number": -2, "left_out": True},
            ],
            members=[{"kind": "trimmer", "start": [0, 520], "end": [400, 520], "width": 45}],
            beams=[{"start": [0, 100], "end": [2400, 100], "width": 90}],
        )
        timbers = timbers_of(plan_from(doc))
        by_index = {timber.index: timber for timber in timbers if timber.index is not None}
        self.assertNotIn(-2, by_index)
        self.assertAlmostEqual(by_index[0].outline.bounds[3], 500)
        double = by_index[-1].outline.bounds
        self.assertAlmostEqual(double[2] - double[0], 90)
        kinds = [timber.kind for timber in timbers if timber.index is None]
        self.assertEqual(kinds, ["trimmer", "girder"])
        girder = timbers[-1]
        self.assertAlmostEqual(girder.top, -18 - 195)
        numbers = [timber.number for timber in timbers if timber.kind == "joist"]
        self.assertEqual(len(set(numbers)), len(numbers))


class MovedJoistTest(unittest.TestCase):
    def test_one_from_beyond_the_wall_is_there_once_it_is_moved_in_or_doubled(self) -> None:
        """Every joist from −60 to 60, by hand: it is there where it stands, or has its place, under
        the room."""
        came = 0
        for seed in range(60):
            chance = random.Random(seed)
            centres, half = chance.uniform(300, 600), 22.5
            first = chance.uniform(-300, 300)
            others = {
                number: {
                    "number": number,
                    "moved": chance.choice([0.0, chance.uniform(-500, 500)]),
                    "plies": chance.choice([1, 1, 2, 4]),
                    "left_out": chance.random() < 0.2,
                }
                for number in chance.sample(range(-12, 13), 6)
            }
            doc = document()
            doc["floor"] |= {"centres": centres, "first_offset": first, "direction": 0}
            doc["floor"]["others"] = list(others.values())
            plan = plan_from(doc | {"version": 9})
            wanted = []
            # Along x the joists lie over one another in y, from 0 to 1800.
            for number in range(-60, 61):
                one = others.get(number, {"moved": 0.0, "plies": 1, "left_out": False})
                place = first + centres * number
                at, wide = place + one["moved"], half * one["plies"]
                regular = -half <= place <= 1800 + half
                here = at + wide >= 0 and at - wide <= 1800
                if not one["left_out"] and (regular or (number in others and here)):
                    wanted.append((at - wide, at + wide))
                    came += not regular
            found = [t.outline.bounds for t in timbers_of(plan) if t.kind == "joist"]
            with self.subTest(plan=seed):
                np.testing.assert_allclose(
                    sorted((low, high) for _, low, _, high in found), sorted(wanted), atol=1e-6
                )
                numbers = [t.number for t in timbers_of(plan) if t.kind == "joist"]
                self.assertEqual(len(set(numbers)), len(numbers))
                self.assertGreaterEqual(min(n for n in numbers if n is not None), 1)
        self.assertGreater(came, 0)


class CuresTest(unittest.TestCase):
    @examples(40, least=30)
    @given(floors())
    def test_each_cure_gets_the_drain_out_of_the_way(self, doc: Document) -> int:
        plan, tried = plan_from(doc), 0
        for finding in offering(plan).findings:
            if finding.code != "drain_on_timber":
                continue
            for cure in finding.cures:
                self.assertNotIn("drain_on_timber", codes(answered(changed(plan, cure.changes))))
                tried += 1
        return tried

    def test_a_drain_over_an_i_joist(self) -> None:
        """No, why, and the nearest place that will do."""
        plan = next(p for p in demo_plans() if p.job.name.startswith("Wren"))
        solution = offering(plan, parts=["drain_map"])
        finding = solution.findings[0]
        self.assertEqual(finding.code, "drain_on_timber")
        self.assertIn('Move the drain 4 9/16" ', finding.cures[0].text)
        mended = answered(changed(plan, finding.cures[0].changes))
        self.assertEqual([f for f in mended.findings if f.severity == "stop"], [])
        assert solution.drain_map is not None and solution.drain_map.nearest is not None
        self.assertIn('4 9/16"', solution.drain_map.nearest.text)

    def test_a_channel_turned_round_misses_the_joist(self) -> None:
        doc = under(
            document(drain=channel(0, 1765, 1500, 1765) | {"outlet": 210}),
            "narrow-channel",
            deck_thickness=60,
        )
        plan = plan_from(doc)
        finding = next(f for f in offering(plan).findings if f.code == "drain_on_timber")
        turned = next(cure for cure in finding.cures if "round" in cure.text)
        mended = changed(plan, turned.changes)
        assert mended.shower.drain.kind == "linear"
        self.assertAlmostEqual(mended.shower.drain.outlet or 0, 1500 - 210)
        self.assertNotIn("drain_on_timber", codes(answered(mended)))

    def test_turning_to_a_channel_takes_a_family_for_it(self) -> None:
        doc = under(document(drain=point(750, 1350)))
        solution = offering(plan_from(doc))
        for arrangement in each(solution.arrangements, 4):
            mended = changed(plan_from(doc), arrangement.changes)
            assert mended.waste.family is not None
            self.assertEqual(mended.waste.family.drain, mended.shower.drain.kind)


class NewJobTest(unittest.TestCase):
    @sweep
    def test_starts_without_a_clash_in_every_unit_and_under_all_rules(self) -> None:
        for unit in ("mm", "cm", "m", "in", "ft"):
            for rules in rule_sets():
                with self.subTest(unit=unit, rules=rules):
                    plan = starting("job", unit, rules)
                    found = codes(answered(plan))
                    self.assertFalse(found & {"drain_on_timber", "pipe_fall_off"})
                    for sort in ("bed", "tray"):
                        self.assertEqual(self.clashes(plan, sort), set())

    @staticmethod
    def clashes(plan: Plan, former: str) -> set[str]:
        from calm_basin.plan.edits import add

        return codes(answered(add(plan, former))) & {"drain_on_timber", "drain_near_service"}


class SlabTest(unittest.TestCase):
    def slab(self, **more: Any) -> Document:
        doc = under(document())
        doc["floor"] = {"kind": "slab", "thickness": 100} | more
        return doc

    def test_post_tensioned_is_a_stop(self) -> None:
        solution = answered(plan_from(self.slab(reinforcement="post_tensioned")))
        finding = next(f for f in solution.findings if f.code == "slab_post_tensioned")
        self.assertEqual(finding.severity, "stop")
        self.assertIn("engineer", finding.detail)
        for kind in ("unknown", "none", "bars"):
            found = codes(answered(plan_from(self.slab(reinforcement=kind))))
            self.assertNotIn("slab_post_tensioned", found)

    def test_what_the_recess_cuts(self) -> None:
        recess = answered(plan_from(self.slab())).figures.recess_needed.value or 0
        self.assertGreater(recess, 5)
        for thick, broken in ((recess - 0.1, True), (recess + 0.1, False)):
            found = codes(answered(plan_from(self.slab(thickness=thick))))
            self.assertEqual("slab_cut_through" in found, broken)
        for deep, broken in ((recess - 0.1, True), (recess + 0.1, False)):
            found = codes(answered(plan_from(self.slab(membrane=deep))))
            self.assertEqual("slab_membrane_cut" in found, broken)
        doc = self.slab()
        doc["services"] = [
            {"name": "floor heating", "kind": "heating", "points": [[0, 1000], [1500, 1000]]}
        ]
        self.assertIn("line_in_recess", codes(answered(plan_from(doc))))
        doc["services"][0] |= {"depth": recess + 60, "clearance": 50}
        self.assertNotIn("line_in_recess", codes(answered(plan_from(doc))))


class CutSheetTest(unittest.TestCase):
    @examples(40, least=14)
    @given(floors())
    def test_pieces_and_joists_make_up_the_opening(self, doc: Document) -> int:
        plan = plan_from(doc)
        solution = offering(plan)
        assert solution.structure is not None
        sheet = solution.structure.sheet
        recess = solution.figures.recess_needed.value or 0
        self.assertEqual(sheet is not None, recess > 1e-6)
        if sheet is None:
            return 0
        zone = Polygon(plan.shower.outline)
        joists = shapely.union_all(
            [t.outline for t in timbers_of(plan) if t.kind == "joist"]
        ).intersection(zone)
        pieces = sum(Polygon(piece.outline).area for piece in sheet.pieces)
        # Pieces narrower than 20 mm are left out.
        self.assertLessEqual(pieces, zone.area - joists.area + 1)
        self.assertGreaterEqual(pieces, zone.area - joists.area - 20 * zone.length * 2)
        edge = sum(
            (t.outline.boundary.intersection(zone.buffer(-1e-6))).length
            for t in timbers_of(plan)
            if t.kind == "joist"
        )
        cleats = sum(math.dist(bar.start, bar.end) for bar in sheet.battens if bar.kind == "cleat")
        self.assertAlmostEqual(cleats, edge, delta=45 * len(sheet.battens) + 1)
        for bar in sheet.battens:
            if bar.kind == "blocking":
                at = Point((bar.start[0] + bar.end[0]) / 2, (bar.start[1] + bar.end[1]) / 2)
                assert plan.waste.family is not None
                hole = Point(plan.shower.drain.centre)  # type: ignore[union-attr]
                line = shapely.LineString([bar.start, bar.end])
                self.assertGreaterEqual(line.distance(hole), plan.waste.family.blocking - 0.1, at)
        return 1

    def test_a_trough_that_goes_through_the_deck_takes_a_slot_beside_the_hole(self) -> None:
        """A trough 1 1/4 in wide takes a slot of 1 1/2 in, also where nothing is recessed (common
        practice, no source: handbook §17)."""
        seen = set()
        linear = [f for f in FAMILIES.values() if f.drain == "linear" and f.body_width > 0]
        for family in each(linear):
            for raised in (0, 10, 20, 40, 80):
                doc = document(drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 60})
                doc["room"]["layers"][-1]["thickness"] += raised
                doc = under(moved(doc, turn=31.0), family.id)
                solution = answered(plan_from(doc))
                sheet, figures = solution.structure.sheet, solution.figures
                recess = figures.recess_needed.value
                deck = 0.0 if recess <= 0.05 else -18.0
                through = figures.drain_level.value - family.body_depth < deck - 0.05
                with self.subTest(family=family.id, raised=raised):
                    self.assertEqual(sheet is not None, recess > 0.05 or through)
                    if sheet is None:
                        continue
                    self.assertEqual(bool(sheet.slot), through)
                    seen.add((recess > 0.05, through))
                    if not through:
                        continue
                    wide = family.body_width + 6.35
                    self.assertIn(f"Slot {wide:.1f} × 1500 mm".replace(".0 ×", " ×"), sheet.slot)
                    self.assertTrue(any(sheet.slot in step for step in sheet.steps))
                    if recess <= 0.05:
                        self.assertEqual((sheet.pieces, sheet.battens), ((), ()))
                        lines = [math.dist(x.start, x.end) for x in sheet.saw_lines]
                        self.assertAlmostEqual(sum(lines), 2 * (wide + 1500), places=3)
        self.assertLessEqual({(True, True), (False, True)}, seen)

    def test_plates_at_walls_and_timber_under_the_edge_that_stays(self) -> None:
        """By hand: a shower 1500 × 900 in the back left corner, joists up the plan at 200, 600,
        1000 and 1400. Its left side is at a wall with no joist; its right side and its entry lie
        in the room, the entry over four joists 45 wide."""
        solution = offering(plan_from(under(document())))
        assert solution.structure is not None and solution.structure.sheet is not None
        battens = solution.structure.sheet.battens
        plates = [bar for bar in battens if bar.kind == "plate cleat"]
        self.assertEqual([bar.start[0] for bar in plates], [0.0])
        edges = [math.dist(bar.start, bar.end) for bar in battens if bar.kind == "edge"]
        self.assertAlmostEqual(sum(edges), 900 + 1500 - 4 * 45, delta=25)
        self.assertTrue(any("edge of the deck" in s for s in solution.structure.sheet.steps))

    def test_distances_from_two_walls(self) -> None:
        """By hand: a shower 1500 × 900 in the back left corner of a room of 2400 × 1800."""
        solution = offering(plan_from(under(document())))
        assert solution.structure is not None and solution.structure.sheet is not None
        told = {line.start_text for line in solution.structure.sheet.saw_lines}
        self.assertEqual(
            told,
            {
                "on wall 4, 900 from corner 4",
                "900 from wall 1, 900 from wall 2",
                "on wall 3, 900 from corner 3",
                "in corner 4",
            },
        )
        self.assertIn("450 from wall 3, 750 from wall 4", solution.structure.sheet.hole)


class RefusedTest(unittest.TestCase):
    def refused(self, doc: Document) -> tuple[str, str]:
        with self.assertRaises(PlanError) as caught:
            plan_from(doc)
        problem = caught.exception.problems[0]
        return problem.path, problem.message

    def test_names_the_field_and_the_cure(self) -> None:
        cases: list[tuple[str, Document]] = [
            ("/floor/centres", under(document(), centres=40)),
            ("/floor/centres", under(document(), centres=5, width=2)),
            ("/floor/flange", under(document(), joist="i_joist", flange=100)),
            ("/floor/web", under(document(), joist="i_joist", web=60)),
            ("/floor/others/1/number", under(document(), others=[{"number": 1}, {"number": 1}])),
            (
                "/floor/others/0/end",
                under(document(), others=[{"number": 1, "start": 5, "end": 5}]),
            ),
            (
                "/floor/beams/0/end",
                under(document(), beams=[{"start": [0, 0], "end": [0, 0], "width": 50}]),
            ),
            ("/floor/joist", under(document(), joist="bamboo")),
        ]
        for waste, path in (
            ({"stack": [40_000, 0]}, "/waste/stack"),
            ({"branch": 20}, "/waste/branch"),
            ({"family": {"colour": "red"}}, "/waste/family/id"),
        ):
            doc = document() | {"version": 7, "waste": waste}
            cases.append((path, doc))
        for path, doc in cases:
            with self.subTest(path=path):
                place, message = self.refused(doc)
                self.assertEqual(place, path)
                self.assertGreater(len(message), 20)
