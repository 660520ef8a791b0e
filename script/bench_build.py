"""Measure what to buy, the days and the files of a job, beside the solve or doing it by hand."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import get_args

import numpy as np
from bench_tools import report, timed, variants

from calm_basin.core.answer.result import Part
from calm_basin.core.days.calendar import WorkHours
from calm_basin.core.days.schedule import Task, scheduled
from calm_basin.core.order.cutting import cut
from calm_basin.core.solution import Solution
from calm_basin.core.solve import solve
from calm_basin.demo import demo_plans
from calm_basin.formats.bundle import files_of, zipped
from calm_basin.formats.drawings_svg import write_plan, write_section
from calm_basin.formats.floor_dxf import write_floor
from calm_basin.formats.outline_dxf import read_outlines
from calm_basin.formats.sheet import write_sheet
from calm_basin.plan import Plan
from calm_basin.units import Display


def bench_order(plans: list[Plan]) -> None:
    print("\nWhat to buy, beside the solve; and its cut list, beside the longest piece first")
    plan = max(plans, key=lambda plan: len(plan.model_dump_json()))
    report(
        "solve with the order",
        [timed(lambda p=p: solve(p, parts=("order",), cures=False)) for p in variants(plan)[:20]],
        "aim 50 ms beside the solve",
    )
    report(
        "the same solve without",
        [timed(lambda p=p: solve(p, cures=False)) for p in variants(plan)[20:40]],
    )
    rng = np.random.default_rng(4)
    pieces = [tuple(rng.choice((1497.0, 350.0, 273.5, 610.0, 895.0), 24)) for _ in range(20)]
    report(
        "cut list of 24 pieces, exact", [timed(lambda p=p: cut(p, (2400.0,), 3.0)) for p in pieces]
    )

    def by_hand(wanted: tuple[float, ...]) -> int:
        left: list[float] = []
        for piece in sorted(wanted, reverse=True):
            place = next((i for i, room in enumerate(left) if room >= piece), None)
            if place is None:
                left.append(2400.0)
                place = -1
            left[place] -= piece + 3.0
        return len(left)

    report("the longest piece first", [timed(lambda p=p: by_hand(p)) for p in pieces])
    saved = sum(by_hand(p) - len(cut(p, (2400.0,), 3.0).bars) for p in pieces)
    print(f"lengths saved in {len(pieces)} cut lists: {saved}")


def bench_days(plans: list[Plan]) -> None:
    print("\nThe days, beside the solve; and sixty tasks with a calendar")
    report(
        "solve with the days",
        [timed(lambda p=p: solve(p, parts=("days",), cures=False)) for p in plans],
        "aim 50 ms beside the solve",
    )
    report("the same solve without", [timed(lambda p=p: solve(p, cures=False)) for p in plans])
    rng = np.random.default_rng(2)
    hours = WorkHours(480, 990, (True,) * 5 + (False,) * 2)
    nets = [
        [
            Task(
                f"t{i}",
                int(rng.choice((30, 120, 240))),
                int(rng.choice((0, 0, 240, 1440))),
                tuple(f"t{j}" for j in range(max(0, i - 4), i) if rng.random() < 0.5),
            )
            for i in range(60)
        ]
        for _ in range(5)
    ]
    report("sixty tasks", [timed(lambda n=n: scheduled(n, hours)) for n in nets], "aim 300 ms")


def bench_marks(plans: list[Plan]) -> None:
    print("\nSetting out, beside the solve")
    report(
        "solve with the marks",
        [timed(lambda p=p: solve(p, parts=("marks",), cures=False)) for p in plans],
        "aim 50 ms beside the solve",
    )
    report("the same solve without", [timed(lambda p=p: solve(p, cures=False)) for p in plans])


def drawn(plan: Plan, solution: Solution) -> str:
    """Both drawings."""
    return write_plan(plan, solution) + write_section(solution)


def bench_files(plan: Plan) -> None:
    print("\nAll files of a job")
    solution = solve(plan, parts=get_args(Part))
    made = datetime.now(UTC)
    report(
        "the floor as DXF",
        [timed(lambda: write_floor(plan, solution)) for _ in range(5)],
        "aim 200 ms",
    )
    text = write_floor(plan, solution)
    report(
        "outlines read out of it again",
        [timed(lambda: read_outlines(text, None, Display("mm", 16, "ratio"))) for _ in range(5)],
    )
    report("plan and section as SVG", [timed(lambda: drawn(plan, solution)) for _ in range(5)])
    for paper in ("a4", "a3"):
        report(
            f"the job sheet on {paper.upper()}",
            [timed(lambda p=paper: write_sheet(plan, solution, paper=p)) for _ in range(3)],
            "aim 3 s",
        )
    report(
        "all of them in one zip",
        [timed(lambda: zipped(files_of(plan, solution, uid="x", made=made))) for _ in range(3)],
        "aim 3 s",
    )


if __name__ == "__main__":
    demo = demo_plans()
    bench_order(demo)
    bench_days(demo)
    bench_marks(demo)
    bench_files(demo[0])
