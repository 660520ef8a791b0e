"""Jobs and revisions: nothing is lost, whoever writes and whatever breaks."""

import os
import random
import signal
import sqlite3
import subprocess
import sys
import tempfile
import threading
import unittest
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from calm_basin.plan import Plan, plan_from
from calm_basin.store import jobs
from calm_basin.store.database import StoreError, connect, migrate
from calm_basin.store.opening import Store
from tests.plans import document


def plan(fall: float = 60, name: str = "test") -> Plan:
    doc = document(fall={"asked": 1 / fall})
    doc["job"]["name"] = name
    return plan_from(doc)


class StoreCase(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "deep" / "jobs.sqlite3"
        migrate(self.path)
        self.db = connect(self.path)
        self.addCleanup(self.db.close)


class RevisionTest(StoreCase):
    def test_undo_and_redo_have_no_end_and_survive_a_restart(self) -> None:
        head = jobs.create(self.db, plan(30))
        for fall in range(31, 81):
            head = jobs.save(self.db, head.job_id, head.revision, plan(fall))
        with closing(connect(self.path)) as later:
            while head.can_undo:
                head = jobs.undo(later, head.job_id, head.revision)
            self.assertEqual(head.plan, plan(30))
            while head.can_redo:
                head = jobs.redo(later, head.job_id, head.revision)
            self.assertEqual(head.plan, plan(80))

    def test_a_change_after_undo_takes_over_redo_but_drops_nothing(self) -> None:
        first = jobs.create(self.db, plan(30))
        second = jobs.save(self.db, first.job_id, first.revision, plan(40))
        back = jobs.undo(self.db, first.job_id, second.revision)
        third = jobs.save(self.db, first.job_id, back.revision, plan(50))
        self.assertFalse(third.can_redo)
        back = jobs.undo(self.db, first.job_id, third.revision)
        again = jobs.redo(self.db, first.job_id, back.revision)
        self.assertEqual(again.plan, plan(50))
        kept = self.db.execute("SELECT count(*) FROM revision").fetchone()[0]
        self.assertEqual(kept, 3)

    def test_saving_what_stands_adds_nothing(self) -> None:
        head = jobs.create(self.db, plan(30))
        self.assertEqual(jobs.save(self.db, head.job_id, head.revision, plan(30)), head)

    def test_at_the_ends_undo_and_redo_stay(self) -> None:
        head = jobs.create(self.db, plan(30))
        self.assertEqual(jobs.undo(self.db, head.job_id, head.revision), head)
        self.assertEqual(jobs.redo(self.db, head.job_id, head.revision), head)

    def test_the_name_follows_the_plan(self) -> None:
        head = jobs.create(self.db, plan(30, "old"))
        renamed = jobs.save(self.db, head.job_id, head.revision, plan(30, "new"))
        self.assertEqual([row.name for row in jobs.list_jobs(self.db)], ["new"])
        jobs.undo(self.db, head.job_id, renamed.revision)
        self.assertEqual([row.name for row in jobs.list_jobs(self.db)], ["old"])

    def test_what_is_deleted_is_gone_and_comes_back_with_its_history(self) -> None:
        head = jobs.create(self.db, plan(30))
        saved = jobs.save(self.db, head.job_id, head.revision, plan(40))
        jobs.delete(self.db, head.job_id)
        self.assertEqual(jobs.list_jobs(self.db), [])
        for call in (
            lambda: jobs.head(self.db, head.job_id),
            lambda: jobs.delete(self.db, head.job_id),
            lambda: jobs.save(self.db, head.job_id, saved.revision, plan(50)),
            lambda: jobs.restore(self.db, "nowhere"),
        ):
            with self.assertRaises(jobs.NoSuchJobError):
                call()
        self.assertEqual(jobs.restore(self.db, head.job_id), saved)
        back = jobs.undo(self.db, head.job_id, saved.revision)
        self.assertEqual(back.plan, plan(30))

    def test_what_was_deleted_long_ago_is_gone_for_good(self) -> None:
        old, new = jobs.create(self.db, plan(30)), jobs.create(self.db, plan(40))
        jobs.delete(self.db, old.job_id)
        self.db.execute("UPDATE job SET deleted_at = '2020-01-01T00:00:00.000+00:00'")
        self.db.execute("UPDATE job SET deleted_at = NULL WHERE id = ?", (new.job_id,))
        jobs.delete(self.db, new.job_id)
        self.assertEqual(jobs.purge(self.db, datetime.now(UTC)), 1)
        with self.assertRaises(jobs.NoSuchJobError):
            jobs.restore(self.db, old.job_id)
        self.assertEqual(self.db.execute("SELECT count(*) FROM revision").fetchone()[0], 1)
        jobs.restore(self.db, new.job_id)


class WritersTest(StoreCase):
    def test_the_second_of_two_writers_is_told_and_may_go_on(self) -> None:
        head = jobs.create(self.db, plan(30))
        theirs = jobs.save(self.db, head.job_id, head.revision, plan(40))
        for call in (
            lambda: jobs.save(self.db, head.job_id, head.revision, plan(50)),
            lambda: jobs.undo(self.db, head.job_id, head.revision),
        ):
            with self.assertRaises(jobs.ConflictError) as caught:
                call()
            self.assertEqual(caught.exception.head, theirs)
        mine = jobs.save(self.db, head.job_id, theirs.revision, plan(50))
        back = jobs.undo(self.db, head.job_id, mine.revision)
        self.assertEqual(back.plan, plan(40))

    def test_of_many_writers_at_once_each_save_is_kept_or_refused(self) -> None:
        head = jobs.create(self.db, plan(30))
        won: list[float] = []

        def write(seed: int) -> None:
            chance = random.Random(seed)
            with closing(connect(self.path)) as own:
                for _ in range(10):
                    now = jobs.head(own, head.job_id)
                    fall = chance.uniform(30, 90)
                    try:
                        jobs.save(own, head.job_id, now.revision, plan(fall))
                        won.append(fall)
                    except jobs.ConflictError:
                        continue

        threads = [threading.Thread(target=write, args=(seed,)) for seed in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        now, seen = jobs.head(self.db, head.job_id), 1
        while now.can_undo:
            now, seen = jobs.undo(self.db, head.job_id, now.revision), seen + 1
        self.assertEqual(seen, len(won) + 1)
        self.assertGreaterEqual(len(won), 10)


class FaultTest(StoreCase):
    def test_killed_in_mid_write_the_last_whole_state_stands(self) -> None:
        head = jobs.create(self.db, plan(30))
        script = (
            "import sys; from pathlib import Path\n"
            "from calm_basin.store import jobs; from calm_basin.store.database import connect\n"
            "from tests.store.test_jobs import plan\n"
            "db = connect(Path(sys.argv[1])); head = jobs.head(db, sys.argv[2]); fall = 30\n"
            "while True:\n"
            "    fall += 0.5; head = jobs.save(db, head.job_id, head.revision, plan(fall))\n"
            "    print(fall, flush=True)\n"
        )
        writer = subprocess.Popen(
            [sys.executable, "-c", script, str(self.path), head.job_id],
            stdout=subprocess.PIPE,
            text=True,
            env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)},
        )
        assert writer.stdout is not None
        told = [float(writer.stdout.readline()) for _ in range(5)]
        writer.send_signal(signal.SIGKILL)
        rest, _ = writer.communicate()
        told += [float(line) for line in rest.split()]
        with closing(connect(self.path)) as later:
            check = later.execute("PRAGMA integrity_check").fetchone()[0]
            self.assertEqual(check, "ok")
            stands = 1 / jobs.head(later, head.job_id).plan.shower.fall.asked
        self.assertGreaterEqual(stands, told[-1] - 1e-6)

    def test_a_full_disk_leaves_the_job_as_it_was(self) -> None:
        head = jobs.create(self.db, plan(30))
        pages = self.db.execute("PRAGMA page_count").fetchone()[0]
        self.db.execute(f"PRAGMA max_page_count = {pages}")
        with self.assertRaises(sqlite3.OperationalError):
            for fall in range(31, 90):
                now = jobs.head(self.db, head.job_id)
                jobs.save(self.db, head.job_id, now.revision, plan(fall))
        with closing(connect(self.path)) as later:
            stood = jobs.head(later, head.job_id)
            self.db.execute("PRAGMA max_page_count = 100000")
            jobs.save(later, head.job_id, stood.revision, plan(99))

    def test_migrating_again_changes_nothing(self) -> None:
        head = jobs.create(self.db, plan(30))
        migrate(self.path)
        self.assertEqual(jobs.head(self.db, head.job_id), head)

    def test_a_file_that_another_process_is_just_making_is_nobodys_yet(self) -> None:
        path = self.path.with_name("new.sqlite3")
        with closing(sqlite3.connect(path, isolation_level=None)) as db:
            # Its header stands, and no table does.
            db.execute("PRAGMA journal_mode = WAL")
            store = Store(path)
        self.addCleanup(store.close)
        self.assertIsNone(store.trouble)
        with closing(store.connect()) as db:
            self.assertEqual(jobs.list_jobs(db), [])

    def test_a_newer_database_or_another_file_is_refused_and_left(self) -> None:
        self.db.execute("PRAGMA user_version = 999")
        with self.assertRaises(StoreError):
            migrate(self.path)
        other = self.path.parent / "letter.txt"
        other.write_text("Dear tiler, " * 100, "utf-8")
        with self.assertRaises(StoreError):
            migrate(other)
        self.assertTrue(other.read_text("utf-8").startswith("Dear tiler"))
