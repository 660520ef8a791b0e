"""What helps against a failure of the disk."""

import sqlite3
import unittest

from calm_basin.store.database import cure_of


class CureTest(unittest.TestCase):
    def test_each_failure_has_its_own(self) -> None:
        for error, said in (
            (OSError(28, "No space left on device"), "Free some disk space."),
            (sqlite3.OperationalError("database or disk is full"), "Free some disk space."),
            (PermissionError(13, "Permission denied"), "writable"),
            (sqlite3.OperationalError("attempt to write a readonly database"), "writable"),
            (OSError(30, "Read-only file system"), "writable"),
            (sqlite3.OperationalError("database is locked"), "Close other programs"),
            (sqlite3.DatabaseError("disk I/O error"), "Check the disk"),
        ):
            self.assertIn(said, cure_of(error), str(error))
