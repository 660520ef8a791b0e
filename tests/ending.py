"""What has to end with a process of the tests, such as a server or a browser."""

from __future__ import annotations

import signal
from collections.abc import Callable
from multiprocessing.util import Finalize

_ENDS: list[Callable[[], None]] = []


def at_end(end: Callable[[], None]) -> None:
    """Do something when this process ends, also where it is one of several of a runner."""
    if not _ENDS:
        Finalize(None, end_all, exitpriority=1)
    _ENDS.append(end)


def end_all() -> None:
    """Do it now, what was begun last first; a signal to end no longer disturbs it."""
    signal.signal(signal.SIGTERM, signal.SIG_IGN)
    while _ENDS:
        _ENDS.pop()()
