"""What is one's own beside what ships: kept whole or not at all."""

from __future__ import annotations

import sqlite3
import tempfile
import unittest
from pathlib import Path

from calm_basin.rules import FamilyFileError, drain_families, read_families, rule_sets
from calm_basin.store import own
from calm_basin.store.database import connect, migrate
from calm_basin.store.rule_sets import known_rules
from calm_basin.store.shelves import FAMILIES


class OwnTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "jobs.sqlite3"
        migrate(self.path)
        self.db = connect(self.path)
        self.addCleanup(self.db.close)

    def family(self, name: str, trap: float = 100.0):  # type: ignore[no-untyped-def]
        usual = drain_families()["bonded-flange"]
        return usual.model_copy(update={"id": name, "name": name.title(), "trap": trap})

    def test_an_empty_store_has_what_ships(self) -> None:
        self.assertEqual(FAMILIES.known(self.db), drain_families())
        self.assertEqual(known_rules(self.db), rule_sets())

    def test_kept_over_a_restart_and_put_in_its_place(self) -> None:
        FAMILIES.keep(self.db, [self.family("one"), self.family("two")])
        FAMILIES.keep(self.db, [self.family("one", 80.0)])
        again = connect(self.path)
        self.addCleanup(again.close)
        known = FAMILIES.known(again)
        self.assertEqual([*known][-2:], ["one", "two"])
        self.assertEqual((known["one"].trap, known["two"].trap), (80.0, 100.0))
        FAMILIES.remove(self.db, "one")
        self.assertNotIn("one", FAMILIES.known(again))
        with self.assertRaises(own.NotOwnError):
            FAMILIES.remove(self.db, "one")

    def test_one_that_is_refused_keeps_none_of_its_file(self) -> None:
        for families in (
            [self.family("fine"), self.family("bonded-flange")],
            [self.family("fine"), self.family("fine")],
            [self.family(f"many-{i}") for i in range(own.MOST + 1)],
        ):
            with self.assertRaises(FamilyFileError):
                FAMILIES.keep(self.db, families)
            self.assertEqual(FAMILIES.known(self.db), drain_families())

    def test_a_full_disk_keeps_what_was_there(self) -> None:
        FAMILIES.keep(self.db, [self.family("one")])
        pages = self.db.execute("PRAGMA page_count").fetchone()[0]
        self.db.execute(f"PRAGMA max_page_count = {pages}")
        long = {f"big-{i}": "x" * 4000 for i in range(50)}
        with self.assertRaises(sqlite3.Error):
            own.put(self.db, "drain_family", long)
        self.assertEqual([*FAMILIES.known(self.db)][-1], "one")

    def test_what_was_written_reads_back_the_same(self) -> None:
        FAMILIES.keep(self.db, [self.family("one", 101.6)])
        (text,) = own.texts(self.db, "drain_family")
        self.assertEqual(read_families(text), [self.family("one", 101.6)])
