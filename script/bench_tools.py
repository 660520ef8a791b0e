"""How the measurements are taken and told."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

from calm_basin.plan import Plan, plan_from

ROUNDS = 120


def report(name: str, seconds: list[float], aim: str = "") -> None:
    ms = sorted(1000 * s for s in seconds)
    p95 = ms[int(len(ms) * 0.95)]
    print(f"{name:<58} median {statistics.median(ms):7.1f} ms   p95 {p95:7.1f} ms   {aim}")


def timed(call: Callable[[], object]) -> float:
    start = time.perf_counter()
    call()
    return time.perf_counter() - start


def variants(plan: Plan) -> list[Plan]:
    """The plan with its drain a little farther on each time, as a drag would move it."""
    found = []
    for i in range(ROUNDS):
        document = plan.model_dump(mode="json")
        drain = document["shower"]["drain"]
        for name in ("centre", "start", "end"):
            if name in drain:
                drain[name][1] -= 0.13 * i
        found.append(plan_from(document))
    return found
