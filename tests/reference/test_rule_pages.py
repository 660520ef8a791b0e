"""Every limit of every rule set that ships, at its value and a hair beyond it.

The plans are made from the data: a limit that is added and that no check reads fails here.
"""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import dataclass
from typing import get_args

from calm_basin.plan import plan_from
from calm_basin.rules import Limit, RuleSet, drain_families, rule_sets, steepest_ramp
from calm_basin.rules.ruleset import LimitTopic, millimetres
from tests.plans import Document, answered, channel, layers, wet_room
from tests.reference.test_access_limits import FALLS, fixture, roomy

HAIR = 2.5
"""By so much, mm, a length is beyond its limit: outlines have a tolerance of their own."""


LITTLE = {"edge_upright": 0.5, "entry_step": 0.5, "ramp_rise": 0.5}
"""Less beyond these: another limit lies near."""

FALLS_OF = ("shower_fall", "rest_fall")


@dataclass(frozen=True)
class Page:
    """One limit, and the room in which plans are held against it."""

    rules: RuleSet
    limit: Limit

    def room(self, **shower: object) -> Document:
        user = self.limit.users[0] if self.limit.users else "frame"
        return roomy(self.rules.id, user, **shower)

    def beyond(self, by: float) -> float:
        """A value so much beyond the limit; below 0 inside it."""
        return self.limit.value + (by if self.limit.binds == "at_most" else -by)

    def told(self, doc: Document) -> bool:
        """Whether the plan is told to break this very limit."""
        return any(
            finding.source == self.limit.source
            and (self.limit.topic not in FALLS_OF or finding.applies_to == self.limit.applies_to)
            and (finding.limit is None or abs(finding.limit - self.limit.value) < 1e-6)
            for finding in answered(plan_from(doc)).findings
        )


Made = Callable[[Page, float], Document]


def fall(page: Page, value: float) -> Document:
    doc = page.room(fall={"asked": value})
    doc["floor"]["deck_thickness"] = 300
    return doc


def rest(page: Page, value: float) -> Document:
    doc = wet_room(rest={"asked": value})
    doc["room"]["layers"] = layers(("tile", 10), ("adhesive", 4), ("screed", 200))
    return doc | {"rule_set": page.rules.id}


def step(page: Page, value: float) -> Document:
    return page.room(set_down=value)


def bevel(page: Page, value: float) -> Document:
    return page.room(set_down=12, bevel={"height": 10, "run": 10 / value})


def with_door(page: Page, **door: object) -> Document:
    doc = page.room()
    doc["room"]["doors"][0] |= door
    return doc


def gap(page: Page, value: float) -> Document:
    return page.room(drain=channel(value, 3965, 1600, 3965))


def above_drain(page: Page, value: float) -> Document:
    """The room's lowest layer carries the membrane: 10 mm of board in the example."""
    drop = 1530 * FALLS.get(page.rules.id, 1 / 60)
    doc = page.room()
    doc["room"]["layers"] = layers(("tile", 10), ("adhesive", 4), ("board", 10))
    doc["shower"]["set_down"] = value + 14 - drop
    return doc


def parted(page: Page, size: float, **shower: object) -> Document:
    """The floor before the shower is so wide and deep, parted from it by a step."""
    doc = page.room(**({"set_down": 60} | shower))
    doc["room"]["outline"] = [[0, 0], [size, 0], [size, size + 900], [0, size + 900]]
    doc["shower"]["outline"] = [
        [0, size],
        [size, size],
        [size, size + 900],
        [0, size + 900],
    ]
    doc["shower"]["drain"] = channel(0, size + 865, size, size + 865)
    doc["room"]["doors"] = []
    return doc


def across_step(page: Page, value: float) -> Document:
    """A floor of 2.2 m by less than is asked to turn in, and a shower behind a step."""
    doc = parted(page, 2200, set_down=max(value, 0))
    for part in ("room", "shower"):
        doc[part]["outline"] = [[x, y - 1000 if y > 0 else 0] for x, y in doc[part]["outline"]]
    doc["shower"]["drain"] = channel(0, 2065, 2200, 2065)
    return doc | {"users": ["chair"]}


def entry(page: Page, value: float) -> Document:
    outline = [[0, 2400], [value, 2400], [1600, 2400], [1600, 4000], [0, 4000]]
    return page.room(outline=outline, entries=[0])


def path(page: Page, value: float) -> Document:
    doc, side = page.room(), (4000 - value) / 2
    # Longer than what may be narrower.
    long = millimetres(page.limit.over) + 50 if page.limit.over else 100
    doc["room"]["fixtures"] = [
        fixture("column", side / 2, 1900, side, long),
        fixture("column", 4000 - side / 2, 1900, side, long),
    ]
    return doc


def hung(kind: str) -> Made:
    def made(page: Page, value: float) -> Document:
        doc = page.room()
        doc["room"]["fixtures"] = [fixture(kind, 800, 3980, 300, 40, turn=180, height=value)]
        return doc

    return made


def wc(page: Page, value: float) -> Document:
    doc = page.room()
    doc["room"]["fixtures"] = [fixture("WC", value, 355, 380, 710)]
    return doc


def beside_wc(other: float) -> Made:
    """So much free on the WC's one side, and ``other`` on its other one, to a cabinet."""

    def made(page: Page, value: float) -> Document:
        doc = page.room()
        doc["room"]["fixtures"] = [
            fixture("WC", value + 190, 355, 380, 710),
            fixture("cabinet", value + 380 + other + 100, 300, 200, 600),
        ]
        return doc

    return made


def over_cabinet(page: Page, deep: float, high: float) -> Document:
    doc = page.room()
    doc["room"]["fixtures"] = [
        fixture("cabinet", 4000 - deep / 2, 2000, 4000, deep, turn=90),
        fixture("control", 3999.5, 2000, 100, 1, turn=90, height=high),
    ]
    return doc


def in_a_nook(page: Page, value: float) -> Document:
    doc = page.room()
    outline = [[0, 0], [4000, 0], [4000, 1000], [4000 + value, 1000], [4000 + value, 1400]]
    doc["room"]["outline"] = [*outline, [4000, 1400], [4000, 4000], [0, 4000]]
    doc["room"]["fixtures"] = [
        fixture("control", 3999.5 + value, 1200, 100, 1, turn=90, height=1100)
    ]
    return doc


def from_seat(page: Page, value: float) -> Document:
    doc = page.room()
    doc["room"]["fixtures"] = [
        fixture("folding seat", 200, 3000, 400, 400, turn=-90, height=460),
        fixture("control", value, 3980, 100, 40, turn=180, height=1100),
    ]
    return doc


def pipe(page: Page, value: float) -> Document:
    doc = page.room()
    bore = page.limit.bore if page.limit.pipe else 50
    doc["water"] = {"pipe_fall": value, "pipe_diameter": bore}
    return doc


def run(page: Page, value: float) -> Document:
    """On joists that lie far apart a pipe runs straight to its stack, along the channel."""
    doc = page.room(drain=channel(0, 3965, 1600, 3965))
    doc["room"]["outline"] = [[0, 0], [9000, 0], [9000, 4000], [0, 4000]]
    family = drain_families()["narrow-channel"]
    doc["waste"] = {"family": family.model_dump(mode="json"), "run": []}
    doc["waste"] |= {"stack": [800 + value, 3965], "branch": -2000}
    bore = page.limit.bore if page.limit.pipe else 50
    doc["water"] = {"pipe_fall": 1 / 40, "pipe_diameter": bore}
    return doc


MADE: dict[LimitTopic, Made] = {
    "shower_fall": fall,
    "rest_fall": rest,
    "entry_step": step,
    "edge_upright": step,
    "edge_bevel": bevel,
    "ramp_fall": lambda page, value: with_door(page, outside=0, ramp=24 / value),
    "ramp_rise": lambda page, value: with_door(page, outside=24 - value, ramp=6000),
    "channel_gap": gap,
    "door_above_drain": above_drain,
    "turning_circle": parted,
    "turning_step": across_step,
    "door_clear": lambda page, value: with_door(page, width=value + 50),
    "door_swing": lambda page, value: with_door(page, swing="in" if value > 0 else "out"),
    "entry_width": entry,
    "path_width": path,
    "wc_side": wc,
    "wc_free": beside_wc(950),
    "wc_transfer": beside_wc(350),
    "control_height": hung("control"),
    "bar_height": hung("bar"),
    "seat_height": hung("seat"),
    "control_reach": in_a_nook,
    "control_over": lambda page, value: over_cabinet(page, value, 1100),
    "control_over_height": lambda page, value: over_cabinet(page, 600, value),
    "seat_reach": from_seat,
    "pipe_fall": pipe,
    "pipe_length": run,
}

ELSEWHERE = {"turning_step": ("turning_too_small",)}
"""Limits that are told by what they shut out, with the source of what is asked there."""


class PagesTest(unittest.TestCase):
    def test_each_topic_has_its_plans(self) -> None:
        self.assertEqual(set(MADE), set(get_args(LimitTopic)))

    def test_at_each_limit_nothing_is_told_and_a_hair_beyond_it_is(self) -> None:
        looked = 0
        for rules in rule_sets().values():
            for limit in rules.limits:
                page, make = Page(rules, limit), MADE[limit.topic]
                falls = limit.topic in ("shower_fall", "rest_fall", "edge_bevel", "ramp_fall")
                falls = falls or limit.topic == "pipe_fall"
                hair = limit.value * 1e-3 if falls else LITTLE.get(limit.topic, HAIR)
                with self.subTest(rules=rules.id, topic=limit.topic, to=limit.applies_to):
                    looked += 1
                    inside, outside = make(page, limit.value), make(page, page.beyond(hair))
                    if limit.topic in ELSEWHERE:
                        (code,) = ELSEWHERE[limit.topic]
                        for doc, told in ((inside, False), (outside, True)):
                            found = {f.code for f in answered(plan_from(doc)).findings}
                            self.assertEqual(code in found, told)
                        continue
                    self.assertFalse(page.told(inside), "at the limit itself")
                    if limit.topic == "ramp_fall" and limit.value == steepest_ramp():
                        # What is steeper than any set allows is told as the step that it is.
                        codes = {f.code for f in answered(plan_from(outside)).findings}
                        self.assertIn("step_at_door", codes)
                        continue
                    self.assertTrue(page.told(outside), "a hair beyond it")
        self.assertGreater(looked, 80)
