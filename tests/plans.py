"""Plans for the tests: plain documents that a test changes, and moves on plan."""

from __future__ import annotations

import copy
import math
from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any, cast

from calm_basin.core.answer.result import Part
from calm_basin.core.depth.result import Way
from calm_basin.core.solution import Solution
from calm_basin.core.worked import FIELDS, PARTS, Worked
from calm_basin.plan import Plan, plan_from
from calm_basin.plan.layers import role_by_name
from calm_basin.plan.starting import starting_plan
from calm_basin.rules import rule_sets, usual_family
from calm_basin.units import LengthUnit

Document = dict[str, Any]


def layers(*pairs: tuple[str, float]) -> list[Document]:
    return [
        {"role": role_by_name(name), "name": name, "thickness": thickness}
        for name, thickness in pairs
    ]


def document(**shower: Any) -> Document:
    """The build-up of the worked examples under a 1500 × 900 shower; ``shower`` replaces parts."""
    base: Document = {
        "format": "calm-basin-plan",
        "version": 1,
        "job": {"name": "test"},
        "rule_set": "us-dwelling",
        "room": {
            "outline": [[0, 0], [2400, 0], [2400, 1800], [0, 1800]],
            "doors": [{"wall": 0, "offset": 1500, "width": 760}],
            "layers": layers(("tile", 10), ("adhesive", 4), ("board", 10)),
        },
        "floor": {
            "kind": "joists",
            "deck_thickness": 18,
            "direction": 90,
            "centres": 400,
            "width": 45,
            "depth": 195,
            "first_offset": -200,
        },
        "shower": {
            "outline": [[0, 900], [1500, 900], [1500, 1800], [0, 1800]],
            "entries": [0],
            "layers": layers(("tile", 8), ("adhesive", 4), ("membrane", 1)),
            "former": {"kind": "bed", "least_thickness": 12},
            "drain": point(),
            "fall": {"asked": 1 / 60},
        },
    }
    base["shower"].update(shower)
    return base


def point(x: float = 750, y: float = 1350, rim: float = 120, turn: float = 0) -> Document:
    return {"kind": "point", "centre": [x, y], "width": rim, "length": rim, "orientation": turn}


def channel(x0: float, y0: float, x1: float, y1: float, width: float = 70) -> Document:
    return {"kind": "linear", "start": [x0, y0], "end": [x1, y1], "width": width}


L_SHAPE = [[0, 0], [1500, 0], [1500, 1800], [900, 1800], [900, 900], [0, 900]]
"""A shower with an inner corner at (900, 900)."""


def wet_room(**shower: Any) -> Document:
    """A room of 1.7 × 2.4 m in two zones: the shower in a corner, a door in the opposite wall."""
    parts = {
        "outline": [[0, 1500], [900, 1500], [900, 2400], [0, 2400]],
        "entries": [0, 1],
        "drain": point(450, 1950),
        "fall": {"asked": 1 / 50},
        "rest": {"asked": 1 / 100},
    }
    doc = document(**(parts | shower))
    doc["room"]["outline"] = [[0, 0], [1700, 0], [1700, 2400], [0, 2400]]
    doc["room"]["doors"] = [{"wall": 0, "offset": 800, "width": 760}]
    doc["rule_set"] = "norway"
    return doc


def tray(edge: float = 30, **more: Any) -> Document:
    return {"kind": "tray", "edge_thickness": edge} | more


def starting(name: str, length: LengthUnit, rule_set: str) -> Plan:
    """A new job's plan."""
    least = rule_sets()[rule_set].least_pipe_fall(50)
    return starting_plan(name, length, rule_set, usual_family("linear", "bed"), least)


@dataclass(frozen=True)
class _Written:
    """A plan by what stands in its document."""

    text: str
    plan: Plan = field(compare=False)


@lru_cache(maxsize=24)
def _worked(said: _Written, at: tuple[Any, ...], cut: tuple[Any, Any] | None) -> Worked:
    return Worked(said.plan, at=at, cut=cut)


class Answer:
    """What follows from a plan: a solution of which each field is worked out when a test looks at
    it, and the whole when it is written, printed or held against another."""

    def __init__(self, worked: Worked, parts: tuple[Part, ...], cures: bool) -> None:
        self._worked, self._parts, self._cures = worked, parts, cures

    def __getattr__(self, name: str) -> Any:
        if name == "findings" and self._cures:
            return self._worked.mended
        if name in FIELDS or name in self._parts:
            return self._worked.field(name)
        return None if name in PARTS else getattr(self.whole, name)

    @cached_property
    def whole(self) -> Solution:
        return self._worked.solution(self._parts, cures=self._cures)

    def __eq__(self, other: object) -> bool:
        return self.whole == (other.whole if isinstance(other, Answer) else other)


@lru_cache(maxsize=64)
def _solved(
    said: _Written,
    at: tuple[Any, ...],
    cut: tuple[Any, Any] | None,
    parts: tuple[Part, ...],
    cures: bool,
) -> Solution:
    worked = _worked(said, at, cut)
    # A plan that cannot be worked out is refused here, as it is everywhere.
    worked.field("rule_set")
    return cast(Solution, Answer(worked, parts, cures))


def offering(
    plan: Plan,
    at: Iterable[Any] = (),
    *,
    cut: tuple[Any, Any] | None = None,
    parts: Iterable[Part] = (),
    cures: bool = True,
) -> Solution:
    """What follows from a plan, with the cures of what is found; asked again it is the same one."""
    return _solved(_Written(plan.model_dump_json(), plan), tuple(at), cut, tuple(parts), cures)


def answered(plan: Plan, at: Iterable[Any] = (), **named: Any) -> Solution:
    """What follows from a plan, without the cures: most tests look at none."""
    return offering(plan, at, cures=False, **named)


def wholly(plan: Plan, **named: Any) -> Solution:
    """The same with the cures and with every field: what asks whether a plan is answered at all
    has all of it worked out."""
    return offering(plan, **named).whole  # type: ignore[attr-defined,no-any-return]


def solved(doc: Document, *at: tuple[float, float]) -> Solution:
    return answered(plan_from(doc), at)


def cured(doc: Document) -> Solution:
    """The same with the cures of what is found."""
    return offering(plan_from(doc))


def ways_of(doc: Document) -> tuple[Way, ...]:
    """Every way to the depth of a plan; none where it has no floor."""
    ways = answered(plan_from(doc), parts=("ways",)).ways
    return ways.listed if ways else ()


def moved(
    doc: Document, *, turn: float = 0, mirror: bool = False, dx: float = 0, dy: float = 0
) -> Document:
    """The same bathroom turned by degrees about the origin, mirrored in the y axis and shifted."""
    angle = math.radians(turn)

    def place(xy: list[float]) -> list[float]:
        x, y = (-xy[0], xy[1]) if mirror else xy
        return [
            x * math.cos(angle) - y * math.sin(angle) + dx,
            x * math.sin(angle) + y * math.cos(angle) + dy,
        ]

    new = copy.deepcopy(doc)
    for part in ("room", "shower"):
        new[part]["outline"] = [place(xy) for xy in doc[part]["outline"]]
    for fixture in new["room"].get("fixtures", ()):
        own = fixture.get("turn", 0)
        fixture["centre"] = place(fixture["centre"])
        fixture["turn"] = math.fmod((-own if mirror else own) + turn, 360)
    for drain in filter(None, (new["shower"]["drain"], new["shower"].get("second_drain"))):
        for name in ("centre", "start", "end"):
            if name in drain:
                drain[name] = place(drain[name])
        if "orientation" in drain:
            own = -drain["orientation"] if mirror else drain["orientation"]
            drain["orientation"] = math.fmod(own + turn, 360)
    floor = new["floor"]
    if floor["kind"] == "joists":
        direction = 180 - floor["direction"] if mirror else floor["direction"]
        floor["direction"] = math.fmod(direction + turn, 360)
        across = (
            -math.sin(math.radians(floor["direction"])),
            math.cos(math.radians(floor["direction"])),
        )
        old = math.radians(doc["floor"]["direction"])
        centre = [
            -math.sin(old) * doc["floor"]["first_offset"],
            math.cos(old) * doc["floor"]["first_offset"],
        ]
        foot = place(centre)
        floor["first_offset"] = foot[0] * across[0] + foot[1] * across[1]
        along = (across[1], -across[0])
        on = [math.cos(old), math.sin(old)]

        def reach(value: float) -> float:
            x, y = place([on[0] * value, on[1] * value])
            return x * along[0] + y * along[1]

        if floor.get("bearing") is not None:
            floor["bearing"] = reach(floor["bearing"])
        for other in floor.get("others", ()):
            if mirror:
                other["number"], other["moved"] = -other["number"], -other.get("moved", 0)
            for end in ("start", "end"):
                if other.get(end) is not None:
                    other[end] = reach(other[end])
        for timber in (*floor.get("members", ()), *floor.get("beams", ())):
            timber["start"], timber["end"] = place(timber["start"]), place(timber["end"])
    for service in new.get("services", ()):
        service["points"] = [place(xy) for xy in service["points"]]
    for reading in new.get("survey", {}).get("levels", ()):
        reading["x"], reading["y"] = place([reading["x"], reading["y"]])
        if "direction" in reading:
            own = 180 - reading["direction"] if mirror else reading["direction"]
            reading["direction"] = math.remainder(own + turn, 360)
    waste = new.get("waste", {})
    if waste.get("stack"):
        waste["stack"] = place(waste["stack"])
    if waste.get("run"):
        waste["run"] = [place(xy) for xy in waste["run"]]
    return new


def figures(solution: Solution) -> dict[str, float | None]:
    return {name: figure.value for name, figure in solution.figures}
