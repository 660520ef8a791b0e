"""Floors that nobody would build: every one of them is answered, and in its own words."""

from __future__ import annotations

import unittest
from itertools import pairwise
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from calm_basin.plan import PlanError, plan_from
from calm_basin.rules import drain_families, rule_sets
from tests.plans import Document, channel, document, moved, offering, point, tray, wet_room
from tests.sweeps import examples

places = st.tuples(st.floats(-300, 2500), st.floats(-300, 2000)).map(list)


def timber(**more: Any) -> Any:
    return st.fixed_dictionaries(
        {"start": places, "end": places, "width": st.floats(20, 300), **more}
    )


@st.composite
def hostile(draw: st.DrawFn) -> Document:
    number = st.floats
    doc = draw(
        st.sampled_from(
            [
                document(drain=point(700, 1300)),
                document(drain=channel(0, 1500, 1500, 1500) | {"outlet": 20}),
                document(drain=point(620, 1400), former=tray(20, raised=8)),
                wet_room(),
            ]
        )
    )
    doc = {**doc, "version": 7, "rule_set": draw(st.sampled_from(sorted(rule_sets())))}
    doc["floor"] = {
        "kind": "joists",
        "deck_thickness": draw(number(0, 80)),
        "direction": draw(st.sampled_from([0.0, 90.0, 45.0]) | number(-360, 360)),
        "centres": draw(number(100, 1200)),
        "width": draw(number(20, 95)),
        "depth": draw(number(80, 500)),
        "first_offset": draw(number(-3000, 3000)),
        "joist": draw(st.sampled_from(["sawn", "i_joist", "truss"])),
        "ceiling": draw(st.booleans()),
        "span": draw(st.none() | number(500, 6000)),
        "bearing": draw(st.none() | number(-2000, 2000)),
        "members": draw(
            st.lists(timber(kind=st.sampled_from(["joist", "trimmer", "blocking"])), max_size=3)
        ),
        "beams": draw(
            st.lists(
                timber(kind=st.sampled_from(["girder", "wall"]), flush=st.booleans()), max_size=2
            )
        ),
    }
    doc["services"] = draw(
        st.lists(
            st.fixed_dictionaries(
                {
                    "name": st.just("a line"),
                    "points": st.lists(places, min_size=2, max_size=4),
                    "clearance": number(0, 150),
                    "depth": st.none() | number(0, 400),
                }
            ),
            max_size=2,
        )
    )
    family = draw(st.none() | st.sampled_from(list(drain_families().values())))
    doc["waste"] = {
        "family": None if family is None else family.model_dump(mode="json"),
        "stack": draw(st.none() | places),
        "branch": draw(st.none() | number(-600, -1)),
        "run": draw(st.none() | st.lists(places, max_size=3)),
    }
    return moved(doc, turn=draw(st.sampled_from([0.0, 30.0]) | number(-180, 180)))


class HostileFloorsTest(unittest.TestCase):
    @examples(20)
    @given(hostile())
    def test_each_is_answered_and_agrees_with_itself(self, doc: Document) -> None:
        try:
            plan = plan_from(doc)
        except PlanError as refused:
            for problem in refused.problems:
                self.assertTrue(problem.path.startswith("/"))
                self.assertGreater(len(problem.message), 15)
            return
        solution = offering(plan)
        if not solution.complete:
            return
        structure, waste = solution.structure, solution.waste
        assert structure is not None and waste is not None
        found = {finding.code for finding in solution.findings}
        met = any(body.meets for body in structure.bodies)
        self.assertEqual(met, bool(found & {"drain_on_timber", "drain_near_service"}))
        if waste.run is not None:
            # What is said of the run is what is found of it.
            self.assertEqual(
                waste.run.fits,
                not found & {"waste_cannot_reach", "pipe_meets_timber", "pipe_in_line"},
            )
            heights = [z for _, z in waste.run.profile.levels]
            self.assertTrue(all(a >= b - 1e-9 for a, b in pairwise(heights)))
        if "waste_cannot_reach" in found:
            self.assertIn("does not get away", waste.verdict)
