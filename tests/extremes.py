"""Valid plans at the edge of what is sensible: many corners, odd shapes, drains anywhere."""

from __future__ import annotations

import random
from contextlib import suppress
from math import cos, pi, sin
from typing import Any

from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.rules import drain_families
from tests.plans import Document, document, layers

Outline = list[list[float]]


def _comb(teeth: int, wide: float, deep: float) -> Outline:
    points: Outline = []
    for i in range(teeth):
        left, middle, right = (wide * (i + share) / teeth for share in (0, 0.5, 1))
        points += [[left, 0], [middle, 0], [middle, 0.3 * deep], [right, 0.3 * deep]]
    return [*points, [wide, deep], [0, deep]]


def _outline(chance: random.Random, wide: float, deep: float) -> Outline:
    kind = chance.choice(["box", "box", "L", "U", "comb", "star", "round"])
    if kind == "L":
        x, y = wide * chance.uniform(0.1, 0.9), deep * chance.uniform(0.1, 0.9)
        return [[0, 0], [wide, 0], [wide, y], [x, y], [x, deep], [0, deep]]
    if kind == "U":
        x0, x1, y = wide * 0.3, wide * 0.7, deep * chance.uniform(0.2, 0.8)
        top = [[x1, deep], [x1, y], [x0, y], [x0, deep]]
        return [[0, 0], [wide, 0], [wide, deep], *top, [0, deep]]
    if kind == "comb":
        return _comb(chance.randint(2, 9), wide, deep)
    if kind in ("star", "round"):
        n = chance.randint(5, 20) * 2
        inner = 0.45 if kind == "star" else 0.995
        return [
            [
                wide / 2 * (1 + (inner if i % 2 else 1) * cos(2 * pi * i / n)),
                deep / 2 * (1 + (inner if i % 2 else 1) * sin(2 * pi * i / n)),
            ]
            for i in range(n)
        ]
    return [[0, 0], [wide, 0], [wide, deep], [0, deep]]


def _within(chance: random.Random, outline: Outline, spread: float = 1.3) -> list[float]:
    xs, ys = [p[0] for p in outline], [p[1] for p in outline]
    return [
        (max(v) + min(v)) / 2 + chance.uniform(-0.5, 0.5) * spread * (max(v) - min(v))
        for v in (xs, ys)
    ]


def extreme(seed: int) -> Document:
    """A plan by chance; many of them are refused, the rest has to be answered."""
    chance = random.Random(seed)
    wide, deep = (10 ** chance.uniform(2.6, 4.3) for _ in range(2))
    room = _outline(chance, wide, deep)
    whole = chance.random() < 0.4
    box = [[0.0, 0.0], [wide, 0.0], [wide, deep], [0.0, deep]]
    if whole:
        shower = [list(p) for p in room]
    else:
        scale = chance.uniform(0.1, 1)
        shower = [[x * scale, y * scale] for x, y in (room if chance.random() < 0.8 else box)]
    drain: dict[str, Any]
    if chance.random() < 0.5:
        rim = 10 ** chance.uniform(1, 2.6)
        drain = {"kind": "point", "centre": _within(chance, shower), "width": rim, "length": rim}
        drain["orientation"] = chance.uniform(-90, 90)
    else:
        start, end = _within(chance, shower), _within(chance, shower)
        if chance.random() < 0.5:
            end[1] = start[1]
        drain = {"kind": "linear", "start": start, "end": end, "width": 10 ** chance.uniform(1, 3)}
        if chance.random() < 0.3:
            drain["strips"] = chance.uniform(0.001, 0.1)
    former = chance.choice(
        [
            {"kind": "bed", "least_thickness": chance.uniform(0, 300)},
            {
                "kind": "tray",
                "edge_thickness": chance.uniform(0, 60),
                "cuts": [{"edge": i, "width": chance.uniform(-900, 900)} for i in range(3)],
                "raised": chance.uniform(0, 90),
            },
            {"kind": "tray", "edge_thickness": 25},
            {"kind": "panels", "thin_edge": 5, "thick_edge": 40, "length": chance.uniform(1, 3000)},
        ]
    )
    doc = document(
        outline=shower,
        entries=sorted({chance.randrange(len(shower)) for _ in range(3)}),
        drain=drain,
        former=former,
        fall={
            "asked": chance.choice([1 / 48, 0.0005, 0.2, 1 / 80]),
            "edge": chance.choice(["level", "level", "even"]),
            "measured": chance.choice(["corner_run", "plane_run"]),
        },
        set_down=chance.choice([0, 0, 20]),
        layers=layers(("tile", chance.uniform(0, 40)), ("membrane", 1)),
    )
    if chance.random() < 0.3:
        walls = chance.choice(["level", "rising"]) if drain["kind"] == "point" else "rising"
        doc["shower"]["rest"] = {"asked": chance.uniform(0.001, 0.1), "walls": walls}
    if chance.random() < 0.25 and drain["kind"] == "point":
        doc["shower"]["fall"]["edge"] = "level"
        doc["shower"]["second_drain"] = drain | {"centre": _within(chance, shower)}
    if chance.random() < 0.4:
        size = 10 ** chance.uniform(1, 3.5)
        doc["shower"]["tile"] = {"length": size, "width": 10 ** chance.uniform(1, 3.5)}
    doc["room"] |= {"outline": room, "doors": [], "fixtures": []}
    side = abs(room[1][0] - room[0][0])
    if side > 600:
        doc["room"]["doors"] = [{"wall": 0, "offset": 20, "width": min(760, side - 40)}]
    for i in range(chance.choice([0, 0, 5, 30])):
        place = [0.02 * wide + 0.005 * i * wide, 0.9 * deep]
        doc["room"]["fixtures"].append(
            {"name": f"thing {i}", "centre": place, "width": chance.uniform(1, 900), "length": 300}
        )
    if chance.random() < 0.3:
        doc["floor"] = {"kind": "slab", "thickness": chance.uniform(1, 400)}
    else:
        doc["floor"] |= {"centres": 10 ** chance.uniform(2, 3), "direction": chance.uniform(0, 180)}
    if chance.random() < 0.5:
        families = list(drain_families().values())
        doc["waste"] = {
            "family": chance.choice(families).model_dump(mode="json"),
            "stack": _within(chance, room, 1.5),
            "branch": -(10 ** chance.uniform(0, 3)),
        }
    readings = chance.choice([0, 0, 3, 40, 2000])
    doc["survey"] = {
        "levels": [
            {"kind": "height", "x": x, "y": y, "height": chance.gauss(0, 6)}
            for x, y in (_within(chance, room, 1.0) for _ in range(readings))
        ]
    }
    if readings and chance.random() < 0.5:
        doc["survey"]["correction"] = {"kind": chance.choice(["pour", "frame", "pack"])}
    doc |= {"version": 7, "pin_spacing": 10 ** chance.uniform(2, 3.3)}
    return _finished(_built_up(doc, random.Random(-1 - seed)), random.Random(f"finish {seed}"))


def _finished(doc: Document, chance: random.Random) -> Document:
    """The plan with tile and cable laid anyhow, each in a third of the plans."""

    def tile() -> Document:
        length, width = (10 ** chance.uniform(1, 3.4) for _ in range(2))
        turn = chance.uniform(-90, 90)
        return {"length": length, "width": width, "joint": chance.uniform(0.5, 20), "turn": turn}

    if chance.random() < 1 / 3:
        doc["tiling"] = {
            "pattern": chance.choice(["straight", "half", "third", "hexagon"]),
            "along": chance.uniform(-5e3, 5e3),
            "across": chance.uniform(-5e3, 5e3),
            "sheet": chance.choice([None, None, 50, 300]),
            "room": tile(),
        }
    if chance.random() < 1 / 3:
        least = chance.choice([20, 40, 60])
        doc["heating"] = {
            "where": chance.choice(["room", "shower", "both"]),
            "length": 10 ** chance.uniform(2, 5.47),
            "least": least,
            "most": chance.uniform(least, 300),
            "stud": chance.choice([None, None, 20, 32]),
        }
    return doc


def _built_up(doc: Document, chance: random.Random) -> Document:
    """The plan with lifts, extensions, pours, layers with ranges and floors that are down."""
    former, shower = doc["shower"]["former"], doc["shower"]
    if former["kind"] == "bed" and chance.random() < 0.5:
        former["lower"] = {
            "least_thickness": chance.uniform(0, 200),
            "membrane": chance.uniform(0, 5),
            "fall": 10 ** chance.uniform(-3, -0.7),
        }
    if former["kind"] == "tray" and "cuts" not in former and chance.random() < 0.8:
        wide, deep = (10 ** chance.uniform(2.3, 4.3) for _ in range(2))
        former["stock"] = {
            "width": wide,
            "length": deep,
            "drain_left": wide * chance.uniform(0.1, 0.9),
            "drain_back": deep * chance.uniform(0.1, 0.9),
        }
        if chance.random() < 0.5:
            length = 10 ** chance.uniform(0, 4)
            former["extension"] = {"length": length, "rise": chance.choice([0, 10, 400])}
    if former["kind"] == "panels":
        former["width"] = 10 ** chance.uniform(0.5, 3.5)
    for layer in shower["layers"]:
        layer |= chance.choice([{}, {"least": 3}, {"least": 6, "most": 12}, {"most": 0}])
    if chance.random() < 0.3:
        # The tallest of them are refused.
        doc["walls"] = walls_by_chance(chance)
    if chance.random() < 0.3:
        shower["set_down"] = chance.uniform(-400, 400)
    if chance.random() < 0.2:
        doc["room"]["laid"] = chance.uniform(-2000, 2000)
    correction = doc["survey"].get("correction", {"kind": "pour"})
    if correction["kind"] == "pour" and chance.random() < 0.5:
        area = chance.choice(["room", "shower", "both"])
        doc["survey"]["correction"] = correction | {"area": area, "cover": chance.uniform(0, 90)}
    return doc | {"version": 9}


def walls_by_chance(chance: random.Random) -> Document:
    """What is on walls and built into them, much of it not sensible."""
    side = chance.randrange(5)
    return {
        "shower": layers(("tile", chance.uniform(0, 400))),
        "rest": chance.choice([[], layers(("board", chance.uniform(0, 100)))]),
        "centres": chance.choice([None, chance.uniform(150, 700)]),
        "height": chance.choice([None, 10 ** chance.uniform(0, 4)]),
        "board_length": chance.choice([None, chance.uniform(700, 5000)]),
        "board_width": chance.choice([None, chance.uniform(200, 3000)]),
        "fixing": chance.choice(["washers", "screws"]),
        "niches": [
            {
                "wall": side,
                "offset": chance.uniform(0, 1500),
                "width": 10 ** chance.uniform(0, 3),
                "height": 10 ** chance.uniform(0, 4),
                "sill": chance.uniform(0, 2000),
            }
        ]
        if chance.random() < 0.5
        else [],
    }


def valid(count: int, first: int = 0) -> list[tuple[int, Plan]]:
    """So many plans by chance that are not refused, each with its seed."""
    found = []
    seed = first
    while len(found) < count:
        with suppress(PlanError):
            found.append((seed, plan_from(extreme(seed))))
        seed += 1
    return found
