"""What is done without being asked: a copy, thinner histories, space given back, no photo that
nobody names."""

from __future__ import annotations

import logging
import threading
from contextlib import closing
from pathlib import Path

from calm_basin.store import photos
from calm_basin.store.copies import copy_of_the_day
from calm_basin.store.database import connect
from calm_basin.store.opening import Store

log = logging.getLogger(__name__)

EVERY = 3600.0
"""So often it is looked whether a day has begun, s."""


def upkeep(path: Path) -> None:
    """Clear away photos that nobody names, and keep the copy of the day; where it is made now, thin
    out what is old and give space back.

    Raises `BackupError`, `OSError` and `sqlite3.Error`.
    """
    photos.clear(path)
    if copy_of_the_day(path) is None:
        return
    # Loaded in the thread that tidies: nobody waits for it.
    from calm_basin.store import days, history, jobs

    with closing(connect(path)) as db:
        today = days.believed(db)
        gone = jobs.purge(db, today) + history.thin(db, today)
        if gone:
            history.give_back(db)


class Upkeep(threading.Thread):
    """Does it at once and then looks every hour, until it is stopped."""

    def __init__(self, store: Store) -> None:
        super().__init__(name="upkeep", daemon=True)
        self._store, self._stop_asked = store, threading.Event()

    def run(self) -> None:
        while True:
            try:
                upkeep(self._store.path)
                self._store.undone = ""
            except Exception as error:
                # Whatever it was today: tomorrow it is tried again, and until then it is said.
                log.warning("What is done every day was not done", exc_info=error)
                self._store.undone = f"What is done every day was not done: {error}"
            if self._stop_asked.wait(EVERY):
                return

    def stop(self) -> None:
        """Look no more, and come to an end with what is being written."""
        self._stop_asked.set()
        if self.is_alive():
            self.join()
