"""What carries the floor and what may be taken out of it, against published tables and limits."""

from __future__ import annotations

import math
import unittest

import numpy as np
from scipy.integrate import solve_bvp

from calm_basin.core.structure.joists import Timber, timbers_of
from calm_basin.core.structure.passing import passing
from calm_basin.core.structure.stiffness import deflection, inertia, longest_span, spans
from calm_basin.plan import plan_from
from calm_basin.plan.floor import JoistFloor
from calm_basin.rules import TRADE, drain_families, rule_sets
from calm_basin.rules.trade.timber import Guide
from calm_basin.units import format_fall, parse_fall
from tests.core.test_structure import codes, under
from tests.plans import Document, answered, channel, document

INCH, FOOT = 25.4, 304.8


def joists(depth: float, width: float = 1.5, centres: float = 16.0) -> JoistFloor:
    return JoistFloor(
        deck_thickness=19.05,
        direction=0,
        centres=centres * INCH,
        width=width * INCH,
        depth=depth * INCH,
    )


class SpanTest(unittest.TestCase):
    """IRC Table R502.3.1(2), living areas at 40 psf live and 10 psf dead, L/360, SPF No. 2, from
    memory: feet and inches by joist depth and centres, both in inches."""

    TABLE = (
        (5.5, {12: (10, 3), 16: (9, 4), 19.2: (8, 9), 24: (8, 1)}),
        (7.25, {12: (13, 6), 16: (12, 3), 19.2: (11, 6), 24: (10, 3)}),
        (9.25, {12: (17, 3), 16: (15, 5), 19.2: (14, 1), 24: (12, 7)}),
        (11.25, {12: (20, 7), 16: (17, 10), 19.2: (16, 3), 24: (14, 7)}),
    )

    def test_the_published_table(self) -> None:
        for depth, by_centres in self.TABLE:
            for centres, (feet, inches) in by_centres.items():
                floor = joists(depth).model_copy(update={"centres": centres * INCH})
                with self.subTest(depth=depth, centres=centres):
                    span = spans(floor, 360, 0.0).most / INCH
                    self.assertAlmostEqual(span, feet * 12 + inches, delta=0.7)

    def test_the_figure_tells_both_and_counts_a_new_bed(self) -> None:
        solution = answered(plan_from(under(document())))
        assert solution.structure is not None
        told = solution.structure.figures[0]
        names = {item.name for item in told.working.inputs}
        self.assertLessEqual({"by stiffness", "by strength"}, names)
        floor = JoistFloor.model_validate(document()["floor"])
        light, heavy = spans(floor, 360, 0.0), spans(floor, 360, 1.0)
        self.assertEqual(light.stiff, heavy.stiff)
        # 40 and 10 psf, and 1 kN/m² more: the span goes with the root of the load.
        loads = 1.915 + 0.479
        self.assertAlmostEqual(heavy.strong / light.strong, (loads / (loads + 1)) ** 0.5, places=9)

    def test_the_live_load_is_40_psf(self) -> None:
        self.assertAlmostEqual(TRADE.timber.live_load.value, 40 * 0.04788, places=3)
        self.assertAlmostEqual(TRADE.timber.grade.elasticity, 1.4e6 * 6.894757e-6, places=2)
        # 10 to 12 lb per sq ft for an inch of mud bed (common practice, no source).
        psf = TRADE.timber.bed_weight.value * 25.4 / 0.04788
        self.assertTrue(10 <= psf <= 12, psf)

    def test_bends_as_the_elastic_line_does(self) -> None:
        """E I w'' = -M, solved numerically by scipy for an even load on two supports."""
        span, load, modulus = 3600.0, 0.8, 9.6
        moment = inertia(45, 195)
        stiff = modulus * 1000 * moment

        def slope(x: np.ndarray, y: np.ndarray) -> np.ndarray:
            bending = load * x * (span - x) / 2
            return np.vstack([y[1], -bending / stiff])

        def ends(a: np.ndarray, b: np.ndarray) -> np.ndarray:
            return np.array([a[0], b[0]])

        x = np.linspace(0, span, 41)
        line = solve_bvp(slope, ends, x, np.zeros((2, 41)), tol=1e-8)
        self.assertAlmostEqual(
            float(line.sol(span / 2)[0]), deflection(span, load, modulus, moment), places=3
        )
        # Bent by its span over 360, a floor is just at its longest span.
        floor = joists(7.25)
        most = longest_span(floor, 1.915, 9.653, 360)
        bent = deflection(
            most, 1.915 * floor.centres / 1000, 9.653, inertia(floor.width, floor.depth)
        )
        self.assertAlmostEqual(bent, most / 360, places=6)

    def test_what_it_bends_under_people_and_under_the_new_bed(self) -> None:
        """By hand: 45 × 195 at 400, span 3600: I = 27.8e6 mm⁴, w = 1.915 × 0.4 = 0.766 kN/m,
        5 w L⁴ ÷ 384 E I = 6.24 mm; a bed of 12 mm adds 0.25 kN/m²."""
        figures = answered(plan_from(under(document(), span=3600, bearing=0))).structure
        assert figures is not None
        told = {f.label: f for f in figures.figures}
        live = told["Bends under people"].value or 0
        self.assertAlmostEqual(live, 6.24, delta=0.02)
        both = told["Bends under people and the new bed"].value or 0
        self.assertAlmostEqual(both / live, (1.915 + 12 * 0.0208) / 1.915, places=4)
        self.assertIn("the span ÷ 577", told["Bends under people"].text)

    def test_just_inside_and_just_outside(self) -> None:
        floor = JoistFloor.model_validate(document()["floor"])
        most = spans(floor, 360, 12 * TRADE.timber.bed_weight.value).most
        for span, broken in ((most - 0.5, False), (most + 0.5, True)):
            found = codes(answered(plan_from(under(document(), span=span, bearing=0))))
            self.assertEqual("joists_bend" in found, broken)


class HoleTest(unittest.TestCase):
    """Holes in sawn joists by rule of thumb, from memory."""

    def timber(self, plan_floor: JoistFloor) -> Timber:
        doc = document()
        doc["floor"] = plan_floor.model_dump(mode="json")
        return timbers_of(plan_from(doc))[0]

    def passes(self, floor: JoistFloor, pipe: float, rules: str) -> bool:
        guides = TRADE.timber.guides_of(rule_sets()[rules])
        return not passing(self.timber(floor), floor, pipe, guides).refused

    def test_irc_r502_8_1_a_third_of_the_depth_and_2_in_from_the_edges(self) -> None:
        floor, room = joists(9.25), TRADE.timber.pipe_room.value
        most = 9.25 * INCH / 3 - room
        self.assertTrue(self.passes(floor, most - 0.1, "us-dwelling"))
        self.assertFalse(self.passes(floor, most + 0.1, "us-dwelling"))
        guides = TRADE.timber.guides_of(rule_sets()["us-dwelling"])
        found = passing(self.timber(floor), floor, 50, guides)
        top, bottom = -19.05, -19.05 - 9.25 * INCH
        self.assertAlmostEqual(found.high, top - 2 * INCH - (50 + room) / 2)
        self.assertAlmostEqual(found.low, bottom + 2 * INCH + (50 + room) / 2)
        self.assertIsNone(found.needed(found.high + 0.1, 0))
        self.assertEqual(found.needed(found.high - 0.1, 0), found.high - 0.1)

    def test_uk_a_quarter_of_the_depth_between_a_quarter_and_four_tenths_of_the_span(self) -> None:
        floor = JoistFloor(
            deck_thickness=18, direction=0, centres=400, width=47, depth=220, span=3000, bearing=100
        )
        most = 0.25 * 220 - TRADE.timber.pipe_room.value
        self.assertTrue(self.passes(floor, most - 0.1, "uk"))
        self.assertFalse(self.passes(floor, most + 0.1, "uk"))
        found = passing(self.timber(floor), floor, 43, TRADE.timber.guides_of(rule_sets()["uk"]))
        for along, open_here in (
            (100 + 749, False),
            (100 + 751, True),
            (100 + 1199, True),
            (100 + 1201, False),
            (100 + 1799, False),
            (100 + 1801, True),
            (100 + 2249, True),
            (100 + 2251, False),
        ):
            self.assertEqual(found.at(along), open_here, along)

    def test_where_a_rule_set_names_no_guidance_all_of_it_is_kept(self) -> None:
        both = TRADE.timber.guides_of(rule_sets()["norway"])
        self.assertEqual({guide.id for guide in both}, {"us", "uk"})
        floor = JoistFloor(
            deck_thickness=18, direction=0, centres=400, width=47, depth=220, span=3000, bearing=0
        )
        found = passing(self.timber(floor), floor, 40, both)
        self.assertTrue(found.places)
        self.assertLessEqual(found.high, -18 - 50.8 - 43 / 2 + 1e-9)

    def test_notches_just_inside_and_just_outside(self) -> None:
        """The trough of a channel reaches into joists 195 deep: 32.5 mm is a sixth, 24.4 an
        eighth. Whether it is cut at all an engineer decides; the rule of thumb stands beside it."""
        for rules, most, clause in (
            ("us-dwelling", 0.16667 * 195, "R502.8.1"),
            ("uk", 0.125 * 195, "NHBC"),
        ):
            doc = under(document(drain=channel(0, 1765, 1500, 1765)), "narrow-channel")
            doc["rule_set"] = rules
            start = self.reaches(doc)
            for off, word in ((-0.2, "within"), (0.2, "deeper than")):
                doc["waste"]["family"]["body_depth"] += most + off - start
                start = most + off
                finding = next(
                    f for f in answered(plan_from(doc)).findings if f.code == "drain_on_timber"
                )
                self.assertIn(f"it would be {word} the", finding.detail)
                self.assertIn(clause, finding.detail)
                self.assertEqual(finding.severity, "stop")

    def reaches(self, doc: Document) -> float:
        """How deep the trough goes into the joists, by hand from the levels."""
        drain = answered(plan_from(doc)).figures.drain_level.value or 0.0
        return -18 - (drain - doc["waste"]["family"]["body_depth"])

    def test_notches_are_told_with_their_clause(self) -> None:
        """IRC R502.8.1: a sixth of the depth, not in the middle third. UK: an eighth, between 0.07
        and 0.25 of the span."""
        (us,) = TRADE.timber.guides_of(rule_sets()["us-dwelling"])
        (uk,) = TRADE.timber.guides_of(rule_sets()["uk"])
        self.assertAlmostEqual(us.notch, 1 / 6, places=4)
        self.assertAlmostEqual(us.notch_to, 1 / 3, places=4)
        self.assertEqual((uk.notch, uk.notch_from, uk.notch_to), (0.125, 0.07, 0.25))
        self.assertIn("R502.8.1", us.source)
        for guide in (us, uk):
            self.assertIsInstance(guide, Guide)
            self.assertIn("from memory", guide.source)

    def test_flanges_and_trusses_never(self) -> None:
        for made, gap in (("i_joist", 220 - 2 * 38 - 2 * 6), ("truss", 220 - 2 * 38)):
            floor = JoistFloor(
                deck_thickness=18,
                direction=0,
                centres=400,
                width=60,
                depth=220,
                joist=made,  # type: ignore[arg-type]
            )
            taken = TRADE.timber.pipe_room.value if made == "i_joist" else 0.0
            self.assertTrue(self.passes(floor, gap - taken - 0.1, "us-dwelling"))
            self.assertFalse(self.passes(floor, gap - taken + 0.1, "us-dwelling"))


class PipeTest(unittest.TestCase):
    def test_three_degrees_are_1_in_19(self) -> None:
        """Common practice, no source: a moulded trap tail with 3° built in. Typed so and printed so
        where falls are shown in degrees."""
        fall = parse_fall("3°")
        self.assertAlmostEqual(fall, math.tan(math.radians(3)), places=9)
        self.assertEqual(format_fall(fall), "1:19.1")
        doc = under(document())
        doc["water"] = {"pipe_fall": fall}
        doc["waste"] |= {"stack": [850, 300], "branch": -400}
        doc["display"] = {"fall": "degrees"}
        doc["floor"]["depth"] = 450
        solution = answered(plan_from(doc))
        self.assertEqual(solution.plan_texts["/water/pipe_fall"], "3°")
        assert solution.waste is not None and solution.waste.run is not None
        (_, start), *_, (long, end) = solution.waste.run.profile.levels
        self.assertAlmostEqual((start - end) / long, math.tan(math.radians(3)), places=6)

    def test_lengths_of_approved_document_h(self) -> None:
        """Table 2, from memory: 40 mm up to 3 m, 50 mm up to 4 m, where the branch is not
        vented."""
        for bore, most in ((40, 3000), (50, 4000)):
            for length, broken in ((most - 1, False), (most + 1, True)):
                doc = self.long(bore, length)
                finding = [
                    f for f in answered(plan_from(doc)).findings if f.code == "pipe_too_long"
                ]
                self.assertEqual(bool(finding), broken, (bore, length))
                self.assertTrue(all("Approved Document H" in f.source for f in finding))

    def long(self, bore: float, length: float) -> Document:
        """A slab, where the run is straight, and a stack so far away."""
        doc = under(document())
        doc["rule_set"] = "uk"
        doc["floor"] = {"kind": "slab", "thickness": 150}
        doc["water"] = {"pipe_diameter": bore, "pipe_fall": 0.02}
        doc["waste"] |= {"stack": [750 + length, 1350]}
        return doc


class FamilyTest(unittest.TestCase):
    def test_riser_and_hole_of_the_usual_families(self) -> None:
        """Handbook values: common practice, no source."""
        families = drain_families()
        for name, riser, hole in (
            ("gasket-hub-foam-tray", -5 / 8 * INCH, 6.5 * INCH),
            ("gasket-hub-on-tray", 1 / 8 * INCH, 5 * INCH),
            ("bonded-hub-steel-plate", -2.375 * INCH, None),
            ("rigid-pan-deep-hub", 0.0, 8 * INCH),
            ("one-piece-unit-slab", None, 6 * INCH),
            ("square-trap-level-tray", None, 180.0),
            ("linear-trap-tray", None, 350.0),
            ("narrow-channel", None, None),
        ):
            family = families[name]
            if riser is not None:
                self.assertAlmostEqual(family.riser or 0.0, riser, places=3)
            if hole is not None:
                self.assertAlmostEqual(family.hole_width, hole, places=3)
        self.assertEqual(len(families), 13)
        self.assertAlmostEqual(families["narrow-channel"].body_width, 1.5 * INCH)
        # The flange lies 1 in above the trough's bottom.
        channel = families["narrow-channel"]
        self.assertAlmostEqual(channel.body_depth - channel.flange_depth, INCH)
        self.assertEqual(families["linear-trap-tray"].hole_length, 100)
        for family in families.values():
            self.assertTrue(4.5 * INCH - 0.5 <= family.blocking <= 6 * INCH + 0.1)
            self.assertFalse(family.from_memory)
