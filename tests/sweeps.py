"""How much is drawn by chance, and from which seed: the same one gives the same plans again."""

from __future__ import annotations

import os
import unittest
from collections.abc import Callable, Iterable
from functools import wraps
from math import ceil
from typing import Any, TypeVar

import hypothesis

QUICK = "CALM_BASIN_TEST_QUICK"
"""Set while only what a change needs is run: a few of each sweep."""

SEED = "CALM_BASIN_TEST_SEED"
"""The variable that says from which seed examples are drawn; 1 where it is not set."""

FEW = 2

T = TypeVar("T")


def seed() -> int:
    """The seed of this run."""
    return int(os.environ.get(SEED, "1"))


def some(count: int) -> int:
    """So many of a sweep's ``count`` are done in this run."""
    return min(count, FEW) if os.environ.get(QUICK) else count


def sweep(test: Callable[..., Any]) -> Callable[..., Any]:
    """Leave a test out of a quick run: it goes through all there is or prints whole jobs, and takes
    seconds for that."""
    return unittest.skipIf(bool(os.environ.get(QUICK)), "a sweep")(test)


def each(items: Iterable[T], least: int = 1) -> list[T]:
    """What a test looks at one by one: a loop over nothing would assert nothing.

    Raises
    ------
    AssertionError
        There are fewer than ``least``; it says how many.
    """
    found = list(items)
    if len(found) < least:
        raise AssertionError(f"{len(found)} to look at, where {least} or more have to be")
    return found


def examples(count: int, least: int = 0) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Give a test of hypothesis ``count`` examples, drawn from the seed of this run.

    Where ``least`` is given the test returns how many things it looked at in an example, and fails
    where there were fewer than that in all of them together.
    """
    drawn = hypothesis.settings(max_examples=some(count), deadline=None, database=None)

    def decorate(test: Callable[..., Any]) -> Callable[..., Any]:
        seeded: Any = hypothesis.seed(seed())(drawn(test))
        return _tallied(seeded, ceil(least * some(count) / count)) if least else seeded  # type: ignore[no-any-return]

    return decorate


def _tallied(test: Any, least: int) -> Callable[..., Any]:
    inner, looked = test.hypothesis.inner_test, [0]

    @wraps(inner)
    def counted(*args: Any, **named: Any) -> None:
        looked[0] += inner(*args, **named)

    test.hypothesis.inner_test = counted

    @wraps(inner)
    def whole(case: Any) -> None:
        looked[0] = 0
        test(case)
        case.assertGreaterEqual(looked[0], least, "too little was looked at")

    return whole
