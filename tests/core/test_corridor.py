"""The corridor of gradients: what fits is what a solve finds to fit."""

import unittest
from typing import Any

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from calm_basin.core.falls.result import Corridor, FallSpan
from tests.plans import L_SHAPE, Document, channel, cured, document, point, solved, wet_room
from tests.sweeps import each, examples, sweep


def corridor(doc: Document) -> Corridor:
    found = solved(doc).corridor
    assert found is not None
    return found


def span(doc: Document, label: str) -> FallSpan:
    return next(s for s in corridor(doc).spans if s.label == label)


def keeps(doc: Document) -> bool:
    return not any(
        f.severity == "stop" and f.code.startswith("fall_") for f in solved(doc).findings
    )


def square(**more: Any) -> Document:
    return document(outline=[[0, 900], [1100, 900], [1100, 1800], [0, 1800]], **more)


class SpansTest(unittest.TestCase):
    def test_the_falls_that_fit_are_those_that_a_solve_finds_to_fit(self) -> None:
        doc = square(drain=point(550, 1350), fall={"asked": 1 / 60})
        fits = span(doc, "Fall to plan")
        for asked, good in (
            (fits.low * 1.001, True),
            (fits.high * 0.999, True),
            (fits.low * 0.99, False),
            (fits.high * 1.01, False),
        ):
            doc["shower"]["fall"]["asked"] = asked
            self.assertEqual(keeps(doc), good, asked)

    def test_the_drop_follows_the_fall(self) -> None:
        doc = square(drain=point(550, 1350))
        fall, drop = span(doc, "Fall to plan"), span(doc, "Drop at drain")
        self.assertAlmostEqual(drop.low / drop.now, fall.low / fall.now)
        self.assertAlmostEqual(drop.high / drop.now, fall.high / fall.now)

    def test_the_rims_that_fit(self) -> None:
        doc = square(drain=point(550, 1350), fall={"asked": 1 / 50})
        fits = span(doc, "Rim of the drain")
        for size in (fits.low, (fits.low + fits.high) / 2, fits.high):
            doc["shower"]["drain"] = point(550, 1350, rim=size)
            self.assertTrue(keeps(doc), size)
        doc["shower"]["drain"] = point(550, 1350, rim=fits.high + 40)
        self.assertFalse(keeps(doc))

    @examples(15)
    @given(st.integers(0, 10**6))
    def test_places_on_the_chart_are_places_that_fit(self, pick: int) -> None:
        doc = square(drain=point(550, 1350), fall={"asked": 1 / 54})
        places = corridor(doc).places
        assume(places)
        x, y = places[pick % len(places)]
        doc["shower"]["drain"] = point(x, y)
        self.assertTrue(keeps(doc))

    def test_moves_are_told_from_where_the_drain_is(self) -> None:
        doc = square(drain=point(550, 1350), fall={"asked": 1 / 54})
        move = span(doc, "Drain, left to right")
        self.assertTrue(move.inside)
        self.assertLess(move.low, 550)
        self.assertGreater(move.high, 550)
        self.assertIn("left to", move.text)

    def test_nothing_fits_and_says_so(self) -> None:
        doc = document(outline=[[0, 900], [2300, 900], [2300, 1500], [0, 1500]])
        doc["shower"]["drain"] = point(1150, 1200)
        found = {s.label: s for s in corridor(doc).spans}
        self.assertEqual(found["Fall to plan"].text, "none fits")
        self.assertIsNone(found["Fall to plan"].low)
        self.assertEqual(found["Drain, down to up"].text, "nowhere on this line")
        self.assertEqual(corridor(doc).places, ())
        self.assertFalse(corridor(doc).fits)
        # The nearest change that does fit is a cure of the finding.
        finding = next(f for f in cured(doc).findings if f.code == "fall_over_most")
        self.assertIn("channel", finding.cures[0].text)


class StretchesTest(unittest.TestCase):
    @sweep
    @examples(4)
    @given(st.integers(0, 10_000))
    def test_a_line_names_every_stretch_and_no_gap(self, pick: int) -> None:
        rng = np.random.default_rng(pick)
        width, depth = rng.integers(9, 14, 2) * 100
        doc = square(fall={"asked": 1 / float(rng.uniform(48, 60))})
        doc["shower"]["outline"] = [
            [0, 0],
            [int(width), 0],
            [int(width), int(depth)],
            [0, int(depth)],
        ]
        doc["room"]["outline"] = [[0, 0], [2400, 0], [2400, 1800], [0, 1800]]
        doc["shower"]["drain"] = point(float(width) / 2, float(depth) / 2)
        found = corridor(doc)
        line = next(s for s in found.spans if s.label == "Drain, left to right")
        on_line = [x for x, y in found.places if abs(y - depth / 2) < found.stride / 2]
        # Solved one by one, which of the places along the line fit.
        fits = []
        for i in range(-8, 9):
            doc["shower"]["drain"] = point(float(width) / 2 + 40 * i, float(depth) / 2)
            fits.append(keeps(doc))
        runs = sum(now and not before for before, now in zip([False, *fits], fits, strict=False))
        self.assertEqual(line.text == "nowhere on this line", not on_line)
        self.assertGreaterEqual(line.text.count(", or ") + bool(on_line), runs)
        if line.inside:
            self.assertTrue(fits[8])

    def test_a_rest_that_is_too_flat_leaves_no_place_for_the_drain(self) -> None:
        doc = wet_room(rest={"asked": 1 / 400})
        self.assertEqual(corridor(doc).places, ())
        self.assertEqual(span(doc, "Rim of the drain").text, "no size fits here")
        self.assertNotEqual(corridor(wet_room()).places, ())


class PlanesTest(unittest.TestCase):
    def test_every_plane_and_fold_has_its_row(self) -> None:
        solution = solved(document())
        names = [plane.name for plane in solution.corridor.planes]
        self.assertEqual(names.count("fold"), len(solution.surface.folds))
        self.assertEqual(set(names) - {"fold"}, {p.name for p in solution.surface.planes})
        for plane in each(solution.corridor.planes[:4], 4):
            self.assertEqual((plane.least_text, plane.most_text), ("1:48", "1:24"))

    def test_zones_are_asked_and_bounded_apart(self) -> None:
        rows = {p.name: p for p in corridor(wet_room()).planes}
        self.assertEqual(rows["round the zone"].asked_text, "1:100")
        self.assertAlmostEqual(rows["round the zone"].least, 1 / 100)
        self.assertAlmostEqual(rows["entry"].least, 1 / 50)
        self.assertIsNone(rows["entry"].most)
        fall = span(wet_room(), "Fall to plan")
        self.assertIsNone(fall.high)
        self.assertTrue(fall.text.endswith("or more"))

    def test_the_fall_that_keeps_the_folds_does_and_a_hair_less_does_not(self) -> None:
        looked = 0
        for x, y in ((750, 1350), (500, 1300), (900, 1500), (1100, 1250)):
            doc = document(drain=point(x, y), fall={"asked": 1 / 48}) | {"rule_set": "norway"}
            keeps = [s for s in corridor(doc).spans if s.label == "Fall that keeps the folds too"]
            if not keeps:
                continue
            (one,) = keeps
            looked += 1
            for share, told in ((1.0001, False), (0.999, True)):
                doc["shower"]["fall"] = {"asked": one.low * share}
                codes = {f.code for f in solved(doc).findings}
                self.assertEqual(bool(codes & {"fold_under_least", "fall_under_least"}), told)
        self.assertGreater(looked, 0)

    def test_channels_have_no_places_and_strips_no_say(self) -> None:
        drain = channel(200, 1765, 1500, 1765) | {"strips": 1 / 30}
        found = corridor(document(drain=drain, fall={"asked": 1 / 48}))
        self.assertEqual(found.places, ())
        self.assertTrue(next(s for s in found.spans if s.label == "Fall to plan").inside)
        rows = {plane.name: plane.asked_text for plane in found.planes}
        self.assertEqual((rows["entry"], rows["left strip"]), ("1:48", "1:30"))

    def test_an_l_has_places_only_where_all_walls_are_seen(self) -> None:
        doc = document(outline=L_SHAPE, drain=point(1200, 450), fall={"asked": 1 / 60})
        doc["rule_set"] = "norway"
        for x, y in each(corridor(doc).places):
            self.assertGreater(x, 900)
            self.assertLess(y, 900)

    def test_mirrored_drawings_say_the_same(self) -> None:
        doc = square(drain=point(500, 1300))
        values = np.array([p.gradient for p in corridor(doc).planes])
        other = square(drain=point(600, 1300))
        mirrored = np.array([p.gradient for p in corridor(other).planes])
        np.testing.assert_allclose(sorted(values), sorted(mirrored))
