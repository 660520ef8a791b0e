"""Measure solving, the request round trip, the first load and an edit on screen.

Plans are moved a little between runs, so that no answer is remembered from the run before.
"""

from __future__ import annotations

import gzip
import json
import statistics
import sys
import tempfile
import urllib.request
from functools import partial
from pathlib import Path

import numpy as np
from bench_tools import ROUNDS, report, timed, variants
from scipy.interpolate import LinearNDInterpolator
from scipy.spatial import ConvexHull
from shapely import box, contains_xy
from skimage.morphology import reconstruction

from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import surface_of
from calm_basin.core.geometry.grid import grid_of
from calm_basin.core.geometry.relief import Relief
from calm_basin.core.geometry.straightedge import Search
from calm_basin.core.solve import solve
from calm_basin.core.subjects import CHECKS
from calm_basin.core.systems.comparing import compared_systems
from calm_basin.core.systems.fitting import fitted
from calm_basin.core.water.runoff import water
from calm_basin.core.water.settings import TrialSettings
from calm_basin.core.water.trials import trials
from calm_basin.demo import demo_plans
from calm_basin.formats.sheet import parts_of, write_sheet
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.plan.survey import HeightReading
from calm_basin.rules import build_systems, chosen_rules, drain_families
from calm_basin.web.app import STATIC


def bench_solve(plans: list[Plan]) -> None:
    print("\nSolve, in the process")
    for plan in plans:
        report(plan.job.name, [timed(lambda p=p: solve(p)) for p in variants(plan)], "aim 50 ms")


def with_readings(plan: Plan, count: int) -> Plan:
    """The plan with a floor that was read at many places."""
    rng = np.random.default_rng(5)
    places = rng.uniform(plan.room.outline[0], plan.room.outline[2], (count, 2))
    heights = -0.003 * places[:, 0] + rng.normal(0, 0.4, count)
    document = plan.model_dump(mode="json")
    document["survey"]["levels"] = [
        {"kind": "height", "x": x, "y": y, "height": z}
        for (x, y), z in zip(places, heights, strict=True)
    ]
    return plan_from(document)


def bench_survey(plan: Plan) -> None:
    print("\nA floor read at 2,000 places: another reading, and an edit elsewhere")
    floors = [with_readings(plan, 2000 + i) for i in range(8)]
    report("solve after a reading", [timed(lambda p=p: solve(p)) for p in floors])
    others = [p.model_copy(update={"job": p.job.model_copy(update={"note": "x"})}) for p in floors]
    report("solve after an edit elsewhere", [timed(lambda p=p: solve(p)) for p in others])
    points = np.array(
        [(r.x, r.y, r.height) for r in floors[0].survey.levels if isinstance(r, HeightReading)]
    )

    def by_library() -> None:
        surface = LinearNDInterpolator(points[:, :2], points[:, 2])
        xs, ys = np.meshgrid(np.linspace(0, 2600, 130), np.linspace(0, 2080, 104))
        np.nanmean(surface(xs, ys))

    report("scipy: interpolate and average alone", [timed(by_library) for _ in range(8)])


def bench_library(plan: Plan) -> None:
    print(
        "\nThe same floor's spot levels from general libraries (no findings, section or contours)"
    )
    solution = solve(plan)
    assert solution.surface
    outline = np.array(plan.shower.outline)
    rim = np.array(solution.drawing.rims[0])
    drop = solution.figures.drop_at_drain.value or 0.0
    spots = np.array([(s.x, s.y) for s in solution.surface.spot_levels])

    def by_library() -> None:
        points = np.vstack([np.c_[outline, np.zeros(len(outline))], np.c_[rim, np.full(4, -drop)]])
        ConvexHull(points)
        LinearNDInterpolator(points[:, :2], points[:, 2])(spots)

    report("scipy hull and interpolator", [timed(by_library) for _ in range(ROUNDS)])
    report("whole solution", [timed(lambda p=p: solve(p)) for p in variants(plan)])


def wide_floor(plan: Plan) -> Plan:
    """A wet room of 3 × 3 m round a point drain."""
    document = plan.model_dump(mode="json")
    square = [[0, 0], [3000, 0], [3000, 3000], [0, 3000]]
    document["room"] |= {"outline": square, "doors": [], "fixtures": []}
    document["survey"] |= {"tape": None}
    document["shower"] |= {"outline": square, "entries": [0], "second_drain": None, "rest": None}
    document["shower"]["drain"] = {
        "kind": "point",
        "centre": [1300, 1200],
        "width": 120,
        "length": 120,
        "orientation": 20,
    }
    return plan_from(document)


def bench_water(plan: Plan) -> None:
    print("\nWater at 10 mm on 3 × 3 m, beside the bare library's filling of the same grid")
    words = Words.of(plan)
    floors = [(p, surface_of(p)) for p in variants(plan)[:30]]
    report(
        "where it runs, gathers, stands",
        [timed(lambda p=p, s=s: water(p, words, s)) for p, s in floors],
        "aim 150 ms",
    )
    grid = grid_of(floors[0][1], [], 10.0)
    lid = np.where(grid.sinks, grid.heights, grid.heights.max())
    report(
        "scikit-image: fill alone",
        [timed(lambda: reconstruction(lid, grid.heights, method="erosion")) for _ in range(30)],
    )
    report(
        "solve with water and marks",
        [timed(lambda p=p: solve(p, parts=("water", "marks"))) for p, _ in floors],
    )


def bench_marks(plan: Plan) -> None:
    print("\nPins in sixteenths of an inch on 3 × 3 m, beside rounding each by itself")
    document = plan.model_dump(mode="json")
    document["display"] |= {"length": "in"}
    document["setting_out"] |= {"pin_spacing": 300}
    floor = plan_from(document)
    floors = variants(floor)[:20]
    report(
        "solve with marks",
        [timed(lambda p=p: solve(p, parts=("marks",))) for p in floors],
        "aim 1 s",
    )
    report("the same solve without", [timed(lambda p=p: solve(p)) for p in variants(floor)[20:40]])


def bench_straightedge() -> None:
    print("\nFlatness of 25 readings under 1.2 m, beside trying edges one by one")
    rng = np.random.default_rng(3)
    room = box(0, 0, 2600, 2100)
    places = rng.uniform((0, 0), (2600, 2100), (25, 2))
    heights = rng.normal(0, 2, 25)
    reads = Relief(np.column_stack([places, heights]), (0.0, 0.0)).heights

    def tried(count: int) -> float:
        start = rng.uniform((0, 0), (2600, 2100), (count, 2))
        angle = rng.uniform(0, 2 * np.pi, count)
        end = start + 1200 * np.column_stack([np.cos(angle), np.sin(angle)])
        kept = contains_xy(room, end[:, 0], end[:, 1])
        shares = np.linspace(0, 1, 25)[:, None, None]
        points = start[kept] + shares * (end - start)[kept]
        z = reads(points.reshape(-1, 2))[0].reshape(25, -1)
        chord = z[0] + shares[..., 0] * (z[-1] - z[0])
        return float((chord - z).max())

    def found() -> float:
        return Search(lambda p: reads(p)[0], room, places, 1200.0).widest().gap

    report(f"search, finds {found():.2f} mm", [timed(found) for _ in range(20)])
    for count in (1_000, 100_000):
        best = max(tried(count) for _ in range(3))
        seconds = [timed(lambda n=count: tried(n)) for _ in range(3)]
        report(f"{count} edges at random, find {best:.2f} mm", seconds)


def roomy(plan: Plan, fixtures: list[dict[str, object]]) -> Plan:
    """A bathroom of 4 × 4 m with a shower in its far left corner and these fixtures."""
    document = plan.model_dump(mode="json") | {"rule_set": "us-accessible", "assumed": []}
    document["room"] |= {
        "outline": [[0, 0], [4000, 0], [4000, 4000], [0, 4000]],
        "doors": [{"wall": 0, "offset": 300, "width": 900, "swing": "out"}],
        "fixtures": fixtures,
    }
    document["shower"] |= {
        "outline": [[0, 2400], [1600, 2400], [1600, 4000], [0, 4000]],
        "drain": {"kind": "linear", "start": [0, 3965], "end": [1600, 3965], "width": 70},
    }
    document["shower"]["fall"]["asked"] = 1 / 48
    document["floor"]["deck_thickness"] = 60
    return plan_from(document)


def along_walls() -> list[dict[str, object]]:
    """30 fixtures: what a bathroom has, and bars, controls and radiators along its right and far
    walls, all within reach."""
    kinds = [("basin", 430, 450), ("radiator", 300, 90), ("bar", 200, 40), ("control", 80, 60)]
    found: list[dict[str, object]] = []
    for i in range(30):
        kind, width, length = kinds[
            0 if i in (4, 20) else 2 + i % 2 if i in (3, 5, 19, 21) else 1 + i % 3
        ]
        along = 300 + (i % 15) * 230
        right = i < 15
        place = (4000 - length / 2, along) if right else (4000 - along * 0.6, 4000 - length / 2)
        found.append(
            {"name": f"{kind} {i}", "kind": kind, "centre": place, "width": width * 0.4}
            | {"length": length, "turn": 90 if right else 180}
            | {"height": 1100 if kind == "control" else 870}
        )
    return found


def bench_access(plan: Plan) -> None:
    print("\nGetting in among 30 fixtures, beside the same solve where nobody is said to")
    rng = np.random.default_rng(1)
    strewn: list[dict[str, object]] = [
        {"name": f"box {i}", "centre": [x, y], "width": 120, "length": 120, "turn": 0}
        for i, (x, y) in enumerate(rng.uniform((60, 60), (3940, 2300), (30, 2)))
    ]
    for fixtures, how in ((along_walls(), "along the walls"), (strewn, "strewn about")):
        floor = roomy(plan, fixtures)
        for users, name in (((), "nobody said"), (("chair",), "in a chair")):
            plans = [p.model_copy(update={"users": users}) for p in variants(floor)[:30]]
            report(f"{how}, {name}", [timed(lambda p=p: solve(p)) for p in plans], "aim 50 ms")
        open_ones = solve(plans[0]).summary
        print(f"  {how}: {open_ones}")


def bench_places(plan: Plan) -> None:
    """The map of the drain's places in a shower of 1.2 × 1.8 m, and each place by itself."""
    print("\nWhere the drain can go at 25 mm in 1.2 × 1.8 m, beside solving each place alone")
    document = plan.model_dump(mode="json")
    document["display"]["length"] = "mm"
    document["room"]["outline"] = [[0, 0], [2400, 0], [2400, 2600], [0, 2600]]
    document["room"]["fixtures"], document["services"] = [], []
    document["shower"] |= {"outline": [[0, 800], [1200, 800], [1200, 2600], [0, 2600]]}
    document["shower"]["drain"]["centre"] = [600, 1700]
    document["waste"]["stack"] = [2300, 2400]

    def moved(by: float, x: float = 600.0, y: float = 1700.0) -> Plan:
        document["shower"]["drain"]["centre"] = [x + by, y]
        return plan_from(document)

    plans = [moved(0.05 * i) for i in range(40)]
    report(
        "the map, with the solve",
        [timed(lambda p=p: solve(p, parts=["drain_map"])) for p in plans],
        "aim 300 ms",
    )
    report(
        "the solve alone",
        [timed(lambda p=p: solve(p)) for p in (moved(3 + 0.05 * i) for i in range(40))],
    )
    found = solve(plans[0], parts=["drain_map"]).drain_map
    assert found is not None
    every = list(zip(found.x, found.y, strict=True))[:: max(1, len(found.x) // 30)]
    each = [timed(lambda p=p: solve(p)) for p in (moved(0.01, x, y) for x, y in every)]
    whole = statistics.mean(each) * len(found.x)
    print(f"{len(found.x)} places solved alone: {whole:.1f} s by {len(each)} of them")


def bench_systems(plans: list[Plan]) -> None:
    print("\nBuild systems and ways to the depth")
    systems, families = build_systems(), drain_families()

    def compare(plan: Plan) -> None:
        for _ in compared_systems(plan, chosen_rules(plan), CHECKS, systems.values(), families):
            pass

    def by_hand(plan: Plan) -> None:
        for system in systems.values():
            try:
                solve(fitted(plan, system, families[system.family]))
            except PlanError:
                continue

    def ways_by_hand(plan: Plan) -> None:
        ways = solve(plan, parts=("ways",)).ways
        assert ways is not None
        for way in ways.listed:
            solve(changed(plan, way.changes))

    for plan in plans:
        moved = variants(plan)
        name = plan.job.name[:28]
        report(f"all systems, {name}", [timed(partial(compare, p)) for p in moved[:12]], "aim 1 s")
        hand = [timed(partial(by_hand, p)) for p in moved[12:20]]
        report("  each chosen and solved instead", hand)
        part = [timed(partial(solve, p, parts=("ways",))) for p in moved[20:40]]
        alone = [timed(partial(solve, p)) for p in moved[40:60]]
        report(f"ways, besides the rest, {name}", part, "told after the rest")
        report("  the rest alone", alone, "aim 50 ms")
        report("  each way solved instead", [timed(partial(ways_by_hand, p)) for p in moved[60:68]])
    built = fitted(plans[0], systems["foam-tray-poured-deck"], families["gasket-hub-foam-tray"])
    report("solve of a plan built by a system", [timed(partial(solve, p)) for p in variants(built)])


def bench_sheet(plans: list[Plan]) -> None:
    print("\nThe job sheet, all pages")
    for plan in plans:
        solution = solve(plan, parts=parts_of())
        seconds = [timed(lambda p=plan, s=solution: write_sheet(p, s)) for _ in range(5)]
        report(plan.job.name, seconds, "aim 3 s")


def bench_trials(plans: list[Plan]) -> None:
    print("\nFloors as hands make them: each tried with all falls")
    for plan in plans:
        settings = TrialSettings(floors=300)
        words = Words.of(plan)
        seconds = timed(lambda p=plan, w=words, s=settings: list(trials(p, w, s)))
        print(f"300 floors, {plan.job.name:<45} {seconds:7.1f} s   aim 15 s")


def bench_server(plans: list[Plan]) -> None:
    sys.path.insert(0, ".")
    from tests.browser.server import Server

    print("\nRequest round trip over HTTP on this machine")
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "jobs.sqlite3")
        url = f"http://127.0.0.1:{server.port}/api"

        def ask(plan: Plan) -> None:
            body = json.dumps({"plan": plan.model_dump(mode="json")}).encode()
            with urllib.request.urlopen(urllib.request.Request(f"{url}/solve", body)) as answer:
                answer.read()

        for plan in plans:
            report(plan.job.name, [timed(lambda p=p: ask(p)) for p in variants(plan)])
        server.kill()


def bench_first_load() -> None:
    print("\nFirst load")
    page = (STATIC / "index.html").read_text("utf-8")
    scripts = list((STATIC / "assets").glob("*.js"))
    for name, files in (
        ("scripts of the list of jobs", [one for one in scripts if one.name in page]),
        ("all scripts", scripts),
        ("styles", list((STATIC / "assets").glob("*.css"))),
    ):
        raw = sum(len(f.read_bytes()) for f in files)
        packed = sum(len(gzip.compress(f.read_bytes(), 6)) for f in files)
        aim = "" if name == "styles" else "aim 300 kB gzipped"
        print(f"{name:<58} {raw / 1000:7.1f} kB   gzipped {packed / 1000:7.1f} kB   {aim}")


if __name__ == "__main__":
    demo = demo_plans()
    bench_solve(demo)
    bench_survey(demo[0])
    bench_library(next(p for p in demo if p.shower.drain.kind == "point"))
    bench_water(wide_floor(demo[0]))
    bench_marks(wide_floor(demo[0]))
    bench_straightedge()
    bench_access(demo[0])
    bench_places(demo[-1])
    bench_systems([demo[1], demo[2]])
    bench_sheet([demo[1], demo[4]])
    bench_trials([demo[1], demo[3], wide_floor(demo[0])])
    bench_server(demo)
    bench_first_load()
