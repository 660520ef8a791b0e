"""Heavy work apart from the threads that save and list: in processes that can be stopped.

They are started before the server has loaded what a plan is, and load it beside it.
"""

from __future__ import annotations

import logging
import multiprocessing
import os
import threading
import time
import traceback
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from typing import Any, Literal, NamedTuple, Protocol

log = logging.getLogger(__name__)

MEMORY = 1_500_000_000
"""So many bytes one piece of work may take on top of the program itself."""

START = 60.0
"""So long the first worker may take to stand, s; that is nobody's waiting for room."""

LOOK_EVERY = 0.05
"""So often it is looked whether anybody still waits, s."""

KILLED = (-9, -15)
"""How a process ends that somebody else ended."""

Gone = Callable[[], bool]

GONE = "calm_basin.gone"
"""Where the server leaves the event that the asker has gone."""


class WorkError(RuntimeError):
    """Work was not done for want of time, room or memory; the message says what helps."""


class BusyError(WorkError):
    """More work waits than can be done soon."""

    def __init__(self) -> None:
        super().__init__("Too much to work out at once. Wait a few seconds and try again.")


class OverrunError(WorkError):
    """The work took longer, or more memory, than a real room does."""

    def __init__(self, what: str) -> None:
        super().__init__(
            f"This plan {what} and was stopped; it is kept. Undo the last change, or make it "
            "simpler: fewer corners, readings, joists or fixtures."
        )


class LostError(WorkError):
    """The process that worked was ended from outside."""

    def __init__(self) -> None:
        super().__init__("The process that worked it out was ended by the system. Ask again.")


class NobodyWaitsError(WorkError):
    """The asker has gone; the work was stopped."""


class Work(Protocol):
    """Where heavy functions run. Their arguments and what they yield can be pickled."""

    def stream(self, call: Callable[..., Iterator[Any]], *args: Any, gone: Gone) -> Iterator[Any]:
        """What a function yields, one by one. Raises `PlanError` and `WorkError`."""
        ...

    def close(self) -> None:
        """End what runs."""
        ...


def run(work: Work, call: Callable[..., Iterator[Any]], *args: Any, gone: Gone) -> Any:
    """What a function that yields one value comes to."""
    (value,) = work.stream(call, *args, gone=gone)
    return value


class Here:
    """Runs work in the thread that asks for it, as a test does."""

    def stream(self, call: Callable[..., Iterator[Any]], *args: Any, gone: Gone) -> Iterator[Any]:
        yield from call(*args)

    def close(self) -> None:
        """Nothing runs."""


class _Told(NamedTuple):
    kind: Literal["value", "done", "refused", "memory", "failed"]
    value: Any = None


class _Worker(NamedTuple):
    process: BaseProcess
    pipe: Connection

    def stop(self) -> None:
        self.process.kill()
        self.process.join()
        self.pipe.close()


class Apart:
    """Runs work in processes of its own, ``size`` at a time.

    Each piece may take ``seconds`` with its waiting, counted from when the first worker stands;
    where more than ``most`` pieces wait or run, another is refused. What takes longer, takes too
    much memory or has nobody waiting is stopped.
    """

    def __init__(self, size: int, seconds: float, most: int, nice: int = 0) -> None:
        methods = multiprocessing.get_all_start_methods()
        self._context: Any = multiprocessing.get_context(
            "forkserver" if "forkserver" in methods else "spawn"
        )
        if "forkserver" in methods:
            # What is loaded there once is there at once in each worker.
            self._context.set_forkserver_preload(["calm_basin.web.warm"])
        self._seconds, self._nice = seconds, nice
        self._places = threading.BoundedSemaphore(most)
        self._free = threading.Condition()
        self._idle: list[_Worker] = []
        self._closed = self._stands = False
        threading.Thread(target=self._fill, args=(size,), daemon=True).start()

    def stream(self, call: Callable[..., Iterator[Any]], *args: Any, gone: Gone) -> Iterator[Any]:
        """What a function yields, one by one. Raises `PlanError` and `WorkError`."""
        if not self._places.acquire(blocking=False):
            raise BusyError
        try:
            self._wait_for_first(gone)
            until = time.monotonic() + self._seconds
            with self._worker(until, gone) as worker:
                try:
                    worker.pipe.send((call, args))
                except OSError:
                    raise LostError from None
                while (told := self._heard(worker, until, gone)).kind == "value":
                    yield told.value
            if told.kind == "refused":
                from calm_basin.plan import PlanError

                raise PlanError(told.value)
            if told.kind == "failed":
                log.error("Work failed:\n%s", told.value)
                raise RuntimeError("Work failed; its traceback is in the log.")
        finally:
            self._places.release()

    def close(self) -> None:
        """End the workers that have nothing to do; the others end with what they do."""
        with self._free:
            self._closed = True
            for worker in self._idle:
                worker.stop()
            self._idle.clear()

    @contextmanager
    def _worker(self, until: float, gone: Gone) -> Iterator[_Worker]:
        """A worker of one's own; one that did not come to its end is stopped and replaced."""
        worker = self._taken(until, gone)
        ended = False
        try:
            yield worker
            ended = True
        finally:
            if not ended or not worker.process.is_alive():
                worker.stop()
                worker = self._started()
            self._give(worker)

    def _wait_for_first(self, gone: Gone) -> None:
        with self._free:
            self._wait(lambda: self._stands, time.monotonic() + START, gone)

    def _taken(self, until: float, gone: Gone) -> _Worker:
        with self._free:
            self._wait(lambda: bool(self._idle), until, gone)
            worker = self._idle.pop()
        if worker.process.is_alive():
            return worker
        # It was ended while it had nothing to do: nobody has to hear of that.
        worker.stop()
        return self._started()

    def _wait(self, there: Callable[[], bool], until: float, gone: Gone) -> None:
        while not there():
            self._free.wait(LOOK_EVERY)
            if gone():
                raise NobodyWaitsError
            if time.monotonic() > until:
                raise BusyError

    def _heard(self, worker: _Worker, until: float, gone: Gone) -> _Told:
        while not worker.pipe.poll(LOOK_EVERY):
            if gone():
                raise NobodyWaitsError
            if time.monotonic() > until:
                raise OverrunError(f"took more than {self._seconds:.0f} seconds to work out")
        try:
            told: _Told = worker.pipe.recv()
        except (EOFError, OSError):
            worker.process.join(1)
            if worker.process.exitcode in KILLED:
                raise LostError from None
            told = _Told("memory")
        if told.kind == "memory":
            raise OverrunError("took too much memory to work out")
        return told

    def _started(self) -> _Worker:
        ours, theirs = self._context.Pipe()
        process = self._context.Process(target=_serve, args=(theirs, self._nice), daemon=True)
        process.start()
        theirs.close()
        return _Worker(process, ours)

    def _fill(self, size: int) -> None:
        for _ in range(size):
            self._give(self._started())

    def _give(self, worker: _Worker) -> None:
        with self._free:
            if self._closed:
                worker.stop()
                return
            self._idle.append(worker)
            self._stands = True
            self._free.notify()


def _serve(pipe: Connection, nice: int) -> None:
    """Do what comes through the pipe, in a worker, until nothing comes any more."""
    import signal

    from calm_basin.plan import PlanError

    signal.signal(signal.SIGINT, signal.SIG_IGN)
    _bound_memory()
    os.nice(nice)
    while True:
        try:
            call, args = pipe.recv()
        except (EOFError, OSError):
            # Whoever gave the work is gone.
            return
        try:
            for value in call(*args):
                pipe.send(_Told("value", value))
            pipe.send(_Told("done"))
        except PlanError as error:
            pipe.send(_Told("refused", error.problems))
        except MemoryError:
            # Whatever was half done is thrown away with this process.
            pipe.send(_Told("memory"))
            return
        except OSError:
            return
        except Exception:
            pipe.send(_Told("failed", traceback.format_exc()))


def _bound_memory() -> None:
    try:
        import resource
        from pathlib import Path

        used = int(Path("/proc/self/statm").read_text().split()[0]) * resource.getpagesize()
        resource.setrlimit(resource.RLIMIT_AS, (used + MEMORY, used + MEMORY))
    except (ImportError, OSError):
        # Without that the bound of time is all there is.
        log.debug("Memory is not bounded on this system.")


def until_stopped(first: str, lines: Iterator[str]) -> Iterator[str]:
    """What is told line by line until there is no more, or nobody waits, or it takes too long."""
    with suppress(WorkError):
        yield first
        yield from lines
