"""Heavy work runs apart: it comes to its end, or is stopped and told."""

import os
import signal
import threading
import time
import unittest
from collections.abc import Iterator
from typing import Any, ClassVar
from unittest import mock

from calm_basin.plan import PlanError, Problem
from calm_basin.web.work import (
    Apart,
    BusyError,
    Here,
    LostError,
    NobodyWaitsError,
    OverrunError,
    run,
)


def doubled(*values: int) -> Iterator[int]:
    for value in values:
        yield 2 * value


def refused() -> Iterator[int]:
    raise PlanError([Problem("/room", "Too small. Make it larger.")])
    yield 0


def failed() -> Iterator[int]:
    yield 1
    raise ZeroDivisionError("secret")


def endless() -> Iterator[int]:
    yield 1
    while True:
        time.sleep(0.01)


def numbered() -> Iterator[int]:
    yield os.getpid()
    time.sleep(60)


def huge() -> Iterator[int]:
    yield len([bytearray(10**9) for _ in range(9)])


def never() -> bool:
    return False


class WorkTest(unittest.TestCase):
    apart: ClassVar[Apart]
    short: ClassVar[Apart]

    @classmethod
    def setUpClass(cls) -> None:
        cls.apart = Apart(1, seconds=60, most=2)
        cls.short = Apart(1, seconds=3, most=2)
        for work in (cls.apart, cls.short):
            cls.addClassCleanup(work.close)
        # The first answer waits until the worker is there.
        run(cls.apart, doubled, 1, gone=never)
        run(cls.short, doubled, 1, gone=never)

    def test_the_time_of_a_piece_begins_when_there_is_a_worker(self) -> None:
        # A clock that goes on by ten minutes while the worker comes: no machine is too slow for it.
        real, gone_by = Apart._started, [0.0]
        clock = mock.patch(
            "calm_basin.web.work.time", mock.Mock(monotonic=lambda: time.monotonic() + gone_by[0])
        )

        def late(work: Apart) -> Any:
            time.sleep(0.3)
            gone_by[0] += 600
            return real(work)

        patient = mock.patch("calm_basin.web.work.START", 10_000)
        with clock, patient, mock.patch.object(Apart, "_started", late):
            slow = Apart(1, seconds=300, most=2)
            self.addCleanup(slow.close)
            self.assertEqual(run(slow, doubled, 2, gone=never), 4)
        with mock.patch.object(Apart, "_started", late):
            slow = Apart(1, seconds=300, most=2)
            self.addCleanup(slow.close)
            with self.assertRaises(NobodyWaitsError):
                run(slow, doubled, 2, gone=lambda: True)

    def test_it_comes_to_the_same_apart_and_here(self) -> None:
        for work in (Here(), self.apart):
            self.assertEqual(list(work.stream(doubled, 1, 2, 3, gone=never)), [2, 4, 6])
            with self.assertRaises(PlanError) as caught:
                run(work, refused, gone=never)
            self.assertEqual(caught.exception.problems[0].path, "/room")

    def test_a_fault_is_logged_and_its_words_are_not_told(self) -> None:
        logs = self.assertLogs("calm_basin.web.work", "ERROR")
        with logs as logged, self.assertRaises(RuntimeError) as caught:
            list(self.apart.stream(failed, gone=never))
        self.assertNotIn("secret", str(caught.exception))
        self.assertIn("secret", logged.output[0])
        self.assertEqual(run(self.apart, doubled, 4, gone=never), 8)

    def test_what_takes_too_long_is_stopped_and_the_next_is_done(self) -> None:
        with self.assertRaises(OverrunError):
            list(self.short.stream(endless, gone=never))
        self.assertEqual(run(self.short, doubled, 4, gone=never), 8)

    def test_what_takes_too_much_memory_is_stopped(self) -> None:
        with self.assertRaises(OverrunError) as caught:
            run(self.apart, huge, gone=never)
        self.assertIn("memory", str(caught.exception))
        self.assertEqual(run(self.apart, doubled, 4, gone=never), 8)

    def test_a_worker_that_is_ended_from_outside_is_said_as_such(self) -> None:
        values = self.apart.stream(numbered, gone=never)
        os.kill(next(values), signal.SIGKILL)
        with self.assertRaises(LostError) as caught:
            next(values)
        self.assertIn("Ask again", str(caught.exception))
        # One that is ended while it has nothing to do costs nobody an answer.
        (idle,) = self.apart._idle
        os.kill(idle.process.pid or 0, signal.SIGKILL)
        idle.process.join()
        self.assertEqual(run(self.apart, doubled, 4, gone=never), 8)

    def test_what_nobody_waits_for_stops(self) -> None:
        left = threading.Event()
        values = self.apart.stream(endless, gone=left.is_set)
        self.assertEqual(next(values), 1)
        left.set()
        with self.assertRaises(NobodyWaitsError):
            next(values)
        self.assertEqual(run(self.apart, doubled, 4, gone=never), 8)

    def test_a_stream_that_is_closed_stops_its_work(self) -> None:
        values = self.apart.stream(endless, gone=never)
        self.assertEqual(next(values), 1)
        values.close()  # type: ignore[attr-defined]
        self.assertEqual(run(self.apart, doubled, 4, gone=never), 8)

    def test_more_than_it_takes_is_told_to_come_back(self) -> None:
        one = Apart(1, seconds=60, most=1)
        self.addCleanup(one.close)
        values = one.stream(endless, gone=never)
        self.assertEqual(next(values), 1)
        with self.assertRaises(BusyError):
            run(one, doubled, 1, gone=never)
        values.close()  # type: ignore[attr-defined]
        self.assertEqual(run(one, doubled, 4, gone=never), 8)

    def test_whoever_goes_while_waiting_for_a_worker_is_let_go(self) -> None:
        values = self.apart.stream(endless, gone=never)
        self.assertEqual(next(values), 1)
        with self.assertRaises(NobodyWaitsError):
            run(self.apart, doubled, 1, gone=lambda: True)
        values.close()  # type: ignore[attr-defined]
