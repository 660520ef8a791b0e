"""Measure walls, tile and heating cable, beside what a library does with the same shapes."""

from __future__ import annotations

import shapely
from bench_tools import report, timed

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import surface_of
from calm_basin.core.heating.answer import heating
from calm_basin.core.heating.area import free_floor
from calm_basin.core.membrane.answer import membrane
from calm_basin.core.solve import solve
from calm_basin.core.tile.answer import best_begun, tile_result
from calm_basin.core.tile.floors import floors_of
from calm_basin.core.walls.answer import walls_result
from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, plan_from
from calm_basin.rules import chosen_rules

TIMES = 30


def case_of(plan: Plan) -> Case:
    return Case(plan, chosen_rules(plan), Words.of(plan), surface_of(plan))


LARGE = {"length": 300, "width": 300, "joint": 3}
MOSAIC = {"length": 48, "width": 48, "joint": 2}


def with_finish(plan: Plan, tile: dict[str, object], **tiling: object) -> list[Case]:
    """The plan with tile, begun a little farther on each time, and a cable that is a little
    longer."""
    found = []
    for i in range(TIMES):
        document = plan.model_dump(mode="json")
        document["shower"]["tile"] = tile
        document["tiling"] = {"along": 3.7 * i} | tiling
        document["heating"] = {"where": "both", "length": 30_000.0 + 137.0 * i}
        found.append(case_of(plan_from(document)))
    return found


def larger(plan: Plan, times: float) -> Plan:
    """The same room, so many times as wide and deep, with nothing in it."""
    document = plan.model_dump(mode="json")
    for part in ("room", "shower"):
        outline = document[part]["outline"]
        document[part]["outline"] = [[x * times, y * times] for x, y in outline]
    drain = document["shower"]["drain"]
    drain["centre"] = [x * times for x in drain["centre"]]
    document["room"] |= {"doors": [], "fixtures": []}
    return plan_from(document | {"waste": {}, "services": [], "survey": {}})


def bench_tile(plans: list[Plan]) -> None:
    print("\nTile laid out, beside clipping every tile with the library alone")
    cases = [case for plan in plans for case in with_finish(plan, LARGE, room=LARGE)[:6]]
    report("300 × 300 in the demo jobs", [timed(lambda c=c: tile_result(c)) for c in cases])

    def bare(case: Case) -> None:
        for floor in floors_of(case):
            whole = shapely.union_all(floor.stretches)
            framed = shapely.transform(whole, floor.grid.inside)
            tiles = floor.grid.over(shapely.bounds(framed))
            shapely.area(shapely.intersection(tiles, framed))

    report("the library alone, with nothing told", [timed(lambda c=c: bare(c)) for c in cases])
    report(
        "best layout of them",
        [timed(lambda c=c: best_begun(c)) for c in cases[::3]],
        "aim 1 s",
    )
    cases = with_finish(larger(plans[1], 4.0), MOSAIC, sheet=300.0)
    area = sum(floor.area for floor in floors_of(cases[0])) / 1e6
    report(
        f"mosaic on sheets over {area:.0f} m², with its answer as text",
        [timed(lambda c=c: tile_result(c).model_dump_json()) for c in cases],
        "aim 150 ms",
    )


def bench_heating(plans: list[Plan]) -> None:
    print("\nHeating cable, beside the area and the distance that it gives")
    cases = [case for plan in plans for case in with_finish(plan, LARGE, room=LARGE)[:4]]
    report("cable laid out", [timed(lambda c=c: heating(c)) for c in cases], "aim 100 ms")
    report(
        "area ÷ length, with no way",
        [timed(lambda c=c: free_floor(c.plan).area / c.plan.heating.length) for c in cases],
    )
    report(
        "solve with cable and tile",
        [timed(lambda c=c: solve(c.plan, parts=("heating", "tile"), cures=False)) for c in cases],
    )
    report("the same solve without", [timed(lambda c=c: solve(c.plan, cures=False)) for c in cases])


def bench_walls(plans: list[Plan]) -> None:
    print("\nWalls, beside the library's own offset of the room's outline")
    cases = []
    for plan in plans:
        document = plan.model_dump(mode="json")
        document["membrane"]["walls"] = 2000.0
        for i in range(5):
            tile = [
                {"role": "tile", "name": "tile", "thickness": 8.0 + i},
                {"role": "board", "name": "board", "thickness": 12.5},
            ]
            document["walls"] |= {"shower": tile, "rest": tile[1:]}
            cases.append(case_of(plan_from(document)))
    report("walls framed and boarded", [timed(lambda c=c: walls_result(c)) for c in cases])
    report("membrane on floor and walls", [timed(lambda c=c: membrane(c)) for c in cases])
    report(
        "the offset alone",
        [
            timed(lambda c=c: shapely.Polygon(c.plan.room.outline).buffer(20, join_style="mitre"))
            for c in cases
        ],
    )
    report("solve with walls", [timed(lambda c=c: solve(c.plan, parts=("walls",))) for c in cases])
    report("the same solve without", [timed(lambda c=c: solve(c.plan)) for c in cases])


if __name__ == "__main__":
    jobs = list(demo_plans())
    bench_tile(jobs)
    bench_heating(jobs)
    bench_walls(jobs)
