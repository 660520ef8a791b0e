"""A backup from a stranger is data: rows of the known tables come over, and nothing acts."""

import json
import os
import random
import sqlite3
import threading
import time
import tracemalloc
from collections.abc import Iterator
from contextlib import ExitStack, closing, contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import mock

import argon2
from click.testing import CliRunner, Result

from calm_basin.cli import main
from calm_basin.plan import PlanError, read_plan
from calm_basin.store import backup, copies, door, events, job_file, jobs, members, restoring
from calm_basin.store.backup import BackupError
from calm_basin.store.database import connect, migrate, migrations
from calm_basin.store.opening import Store
from calm_basin.store.upkeep import Upkeep, upkeep
from tests.store.test_jobs import StoreCase, plan
from tests.sweeps import each

RIGHT = "four words not together"


class StrangerCase(StoreCase):
    def written(self, *deeds: str, name: str = "theirs.backup") -> Path:
        """A backup of two jobs on which somebody has done something."""
        for i in range(2):
            head = jobs.create(self.db, plan(30 + i, f"job {i}"))
            jobs.save(self.db, head.job_id, head.revision, plan(40 + i, f"job {i}"))
        file = self.path.parent / name
        backup.write_copy(self.path, file)
        self.tampered(file, *deeds)
        return file

    def tampered(self, file: Path, *deeds: str) -> None:
        with closing(sqlite3.connect(file, isolation_level=None)) as db:
            db.execute("PRAGMA writable_schema = ON")
            for deed in deeds:
                db.execute(deed)

    def count(self, query: str) -> int:
        return int(self.db.execute(query).fetchone()[0])


class CarriedOverTest(StrangerCase):
    def test_triggers_views_and_other_tables_stay_behind(self) -> None:
        file = self.written(
            "CREATE TABLE letters (text)",
            "CREATE VIEW every AS SELECT * FROM revision",
            "CREATE TRIGGER gone AFTER INSERT ON event BEGIN DELETE FROM job; END",
            "CREATE INDEX slow ON revision (upper(plan))",
        )
        before = {row[0] for row in self.db.execute("SELECT name FROM sqlite_schema")}
        restoring.restore(self.path, file)
        after = {row[0] for row in self.db.execute("SELECT name FROM sqlite_schema")}
        self.assertEqual(after, before)
        events.tell(self.db, "put back", "here")
        self.assertEqual(self.count("SELECT count(*) FROM job"), 2)

    def test_who_may_come_in_is_no_part_of_a_backup(self) -> None:
        door.set_passphrase(self.db, RIGHT)
        file = self.written(
            "INSERT INTO passphrase VALUES (1, 'theirs', '2026-01-01')",
            "INSERT INTO session VALUES ('theirs', '2026-01-01', 'there', 'a browser')",
        )
        restoring.restore(self.path, file)
        self.assertEqual(self.count("SELECT count(*) FROM session"), 0)
        self.assertEqual(self.count("SELECT count(*) FROM passphrase WHERE hash = 'theirs'"), 0)
        self.assertTrue(door.is_set(self.db))

    def test_a_circle_of_steps_is_no_history(self) -> None:
        file = self.written("UPDATE revision SET parent = 4 - id + 1")
        restoring.restore(self.path, file)
        for row in each(jobs.list_jobs(self.db)):
            head, steps = jobs.head(self.db, row.id), 0
            while head.can_undo:
                head, steps = jobs.undo(self.db, row.id, head.revision), steps + 1
                self.assertLess(steps, 5)

    def test_what_acts_in_the_place_of_a_table_is_refused(self) -> None:
        made = "CREATE TABLE revision (id INTEGER PRIMARY KEY, job_id, parent, made_at, plan"
        for deeds in (
            ("DROP TABLE revision", "CREATE VIEW revision AS SELECT 1 AS id, 2 AS plan"),
            (
                "DROP TABLE revision",
                f"{made} GENERATED ALWAYS AS (printf('%.*c', 90000000, 'x')))",
                "INSERT INTO revision (id, job_id) VALUES (1, 'x')",
            ),
            ("ALTER TABLE revision DROP COLUMN made_at",),
        ):
            with self.subTest(deeds[-1]), self.assertRaises(BackupError):
                restoring.restore(self.path, self.written("DROP INDEX revision_by_job", *deeds))
            self.assertGreater(self.count("SELECT count(*) FROM job"), 1)

    def test_a_value_that_is_too_large_or_a_time_that_is_none_is_named(self) -> None:
        for deed, word in (
            ("UPDATE revision SET plan = printf('%.*c', 9000000, 'x') WHERE id = 1", "too big"),
            ("UPDATE revision SET made_at = 'yesterday' WHERE id = 1", "made_at of row 1"),
            ("UPDATE job SET changed_at = '2026-13-40T00:00'", "changed_at of row"),
        ):
            with self.subTest(word), self.assertRaises(BackupError) as caught:
                restoring.restore(self.path, self.written(deed))
            self.assertIn(word, str(caught.exception))

    def test_one_of_an_older_version_is_brought_up_to_date(self) -> None:
        older = self.path.parent / "older.sqlite3"
        with mock.patch("calm_basin.store.database.migrations", lambda: migrations()[:4]):
            migrate(older)
        text = plan(33).model_dump_json()
        with closing(sqlite3.connect(older)) as db:
            db.execute(
                "INSERT INTO revision VALUES (7, 'old', NULL, '2025-01-01T00:00:00+00:00', ?)",
                (text,),
            )
            db.execute(
                "INSERT INTO job (id, name, made_at, changed_at, head) VALUES ('old', 'old', "
                "'2025-01-01T00:00:00+00:00', '2025-01-01T00:00:00+00:00', 7)"
            )
            db.commit()
        self.assertEqual(restoring.restore(self.path, older).jobs, 1)
        self.assertEqual(jobs.head(self.db, "old").plan, plan(33))

    def test_a_plan_that_cannot_be_read_is_named_and_taken_along(self) -> None:
        file = self.written("UPDATE revision SET plan = '{' WHERE id = 2")
        contents = restoring.restore(self.path, file)
        self.assertEqual(contents.unread, ("step 2 of job 0",))
        self.assertIn("step 2 of job 0", contents.told())
        self.assertEqual(self.count("SELECT count(*) FROM revision WHERE plan = '{'"), 1)
        # Nor does it keep a copy from being made.
        self.assertEqual(backup.write_copy(self.path, file).unread, ("step 2 of job 0",))
        self.assertIsNotNone(copies.copy_of_the_day(self.path))

    def test_one_restore_at_a_time_and_all_of_it_is_there(self) -> None:
        file, told = self.written(), []

        def put_back() -> None:
            try:
                told.append(restoring.restore(self.path, file).jobs)
            except BackupError as error:
                told.append(str(error))

        threads = [threading.Thread(target=put_back) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertIn(2, told)
        for one in told:
            self.assertTrue(one == 2 or "Another restore" in str(one), one)
        self.assertEqual(self.count("SELECT count(*) FROM job"), 2)
        self.assertEqual(list(self.path.parent.glob(".*.part*")), [])


RIGHT_TIME = datetime(2026, 5, 1, 12, tzinfo=UTC)


@contextmanager
def clock(ahead: timedelta = timedelta(0)) -> Iterator[None]:
    """The store's clock, so far ahead of the right time."""

    class Clock(datetime):
        @classmethod
        def now(cls, _zone: object = None) -> datetime:  # type: ignore[override]
            return RIGHT_TIME + ahead

    with ExitStack() as held:
        for part in ("copies", "database", "days", "door", "events"):
            held.enter_context(mock.patch(f"calm_basin.store.{part}.datetime", Clock))
        yield


class ClockTest(StoreCase):
    """A clock that runs ahead, and is put right again."""

    AHEAD = timedelta(days=400)

    def test_a_copy_that_was_just_made_never_goes(self) -> None:
        jobs.create(self.db, plan(30))
        for days in (*range(400, 412), *range(12)):
            made = copies.copy_of_the_day(self.path, RIGHT_TIME + timedelta(days=days))
            assert made is not None
            self.assertIn(made.name, [one.name for one in copies.copies(self.path)[:2]])
        left = [one.name for one in copies.copies(self.path) if one.name.startswith("day-")]
        last = [RIGHT_TIME + timedelta(days=days) for days in range(11, 4, -1)]
        self.assertEqual([name.split(".")[0] for name in left], [f"day-{d:%Y-%m-%d}" for d in last])

    def test_a_restore_keeps_what_it_replaces(self) -> None:
        jobs.create(self.db, plan(30, "ours"))
        file = self.path.parent / "all.backup"
        backup.write_copy(self.path, file)
        for ahead in (*[self.AHEAD] * 6, timedelta(0)):
            jobs.create(self.db, plan(31, "since then"))
            with clock(ahead):
                restoring.restore(self.path, file)
            newest = copies.folder_of(self.path) / copies.copies(self.path)[0].name
            self.assertEqual(backup.check(newest).jobs, 2)

    def test_a_clock_that_ran_ahead_lets_nothing_go_and_one_that_goes_right_does(self) -> None:
        with clock():
            gone = jobs.create(self.db, plan(30, "deleted"))
            head = jobs.create(self.db, plan(30, "long"))
            for i in range(120):
                head = jobs.save(self.db, head.job_id, head.revision, plan(31 + i / 10, "long"))
            jobs.delete(self.db, gone.job_id)
        count = "SELECT count(*) FROM revision"
        before = self.db.execute(count).fetchone()[0]
        for ahead in (timedelta(0), self.AHEAD, self.AHEAD, timedelta(days=1), -self.AHEAD):
            with clock(ahead):
                upkeep(self.path)
            self.assertEqual(self.db.execute(count).fetchone()[0], before, ahead)
        for days in range(2, 60, 3):
            with clock(timedelta(days=days)):
                upkeep(self.path)
        self.assertEqual(jobs.list_jobs(self.db, deleted=True), [])
        self.assertLess(self.db.execute(count).fetchone()[0], before - 1)

    def test_a_lock_ends_and_a_session_too(self) -> None:
        door.set_passphrase(self.db, RIGHT)
        with clock(self.AHEAD):
            token = door.sign_in(self.db, RIGHT, "there", "a browser")
            for _ in range(door.TRIES):
                self.assertIsNone(door.sign_in(self.db, "not this one", "here", "a browser"))
            with self.assertRaises(door.LockedOutError):
                door.sign_in(self.db, RIGHT, "here", "a browser")
        assert token is not None
        with clock():
            self.assertIsNone(door.is_in(self.db, token))
            self.assertEqual(door.sessions(self.db), [])
            self.assertIsNotNone(door.sign_in(self.db, RIGHT, "here", "a browser"))


class GuessingTest(StoreCase):
    def test_of_many_at_once_no_more_are_looked_at_than_may_be(self) -> None:
        door.set_passphrase(self.db, RIGHT)
        looked, told = [], []

        def verify(_hashed: str, _passphrase: str) -> bool:
            looked.append(1)
            raise argon2.exceptions.VerifyMismatchError

        def guess() -> None:
            with closing(connect(self.path)) as db:
                try:
                    door.sign_in(db, "not this one", "there", "a browser")
                    told.append("refused")
                except door.LockedOutError:
                    told.append("locked out")

        with mock.patch.object(door, "_HASHER", mock.Mock(verify=verify)):
            threads = [threading.Thread(target=guess) for _ in range(60)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertLessEqual(len(looked), door.TRIES)
        self.assertEqual(len(told), 60)
        self.assertGreaterEqual(told.count("locked out"), 60 - door.TRIES)

    def test_the_command_that_is_named_lifts_the_lock(self) -> None:
        door.set_passphrase(self.db, RIGHT)
        for _ in range(door.TRIES):
            door.sign_in(self.db, "not this one", "there", "a browser")
        with self.assertRaises(door.LockedOutError) as caught:
            door.sign_in(self.db, RIGHT, "there", "a browser")
        self.assertIn("calm-basin passphrase", str(caught.exception))
        door.set_passphrase(self.db, "five words not together")
        token = door.sign_in(self.db, "five words not together", "there", "a browser")
        self.assertIsNotNone(token)

    def test_who_finds_no_place_in_the_line_has_not_guessed(self) -> None:
        door.set_passphrase(self.db, RIGHT)
        with mock.patch.object(door, "_PLACES", threading.BoundedSemaphore(1)) as places:
            places.acquire()
            for _ in range(2 * door.TRIES):
                with self.assertRaises(door.LockedOutError) as caught:
                    door.sign_in(self.db, RIGHT, "there", "a browser")
                self.assertIn("Many sign in at once", str(caught.exception))
            places.release()
            self.assertIsNotNone(door.sign_in(self.db, RIGHT, "there", "a browser"))

    def test_any_character_may_be_in_one(self) -> None:
        for passphrase in (
            "vier Wörter\u00a0nicht zusammen",
            "👩‍🔧 four words apart",
            "水 " * 7 + "four",
        ):
            door.set_passphrase(self.db, passphrase)
            self.assertIsNotNone(door.sign_in(self.db, passphrase, "there", "a browser"))

    def test_half_a_character_is_no_passphrase(self) -> None:
        with self.assertRaises(door.PassphraseError):
            door.set_passphrase(self.db, "four words \ud800 together")
        door.set_passphrase(self.db, RIGHT)
        self.assertIsNone(door.sign_in(self.db, "four words \ud800", "there", "a browser"))


class FilesTest(StrangerCase):
    def exported(self) -> dict[str, Any]:
        head = jobs.create(self.db, plan(30))
        whole: dict[str, Any] = json.loads(job_file.export_job(self.db, head.job_id))
        return whole

    def test_nothing_that_is_no_number_no_text_or_no_time_gets_in(self) -> None:
        whole = json.dumps(self.exported())
        for old, new, path in (
            ('"version": 1', '"version": 1', None),
            ('"asked": ', '"asked": 1e400, "was": ', "/revisions/0/plan"),
            ('"asked": ', '"asked": -1e400, "was": ', "/revisions/0/plan"),
            ('"job": {', '"job": {"colour": "\\ud800", ', "/revisions/0/plan"),
            ('"made_at": "', '"made_at": "the day before ', "/made_at"),
        ):
            self.assertIn(old, whole)
            text = whole.replace(old, new, 1).encode()
            if path is None:
                job_file.import_job(self.db, text)
                continue
            with self.subTest(new), self.assertRaises(PlanError) as caught:
                job_file.import_job(self.db, text)
            self.assertEqual(caught.exception.problems[0].path, path)
        with self.assertRaises(PlanError) as caught:
            read_plan('{"format": "calm-basin-plan", "room": 1e999}')
        self.assertIn("1e999", str(caught.exception))

    def test_a_job_file_is_read_as_json_reads_it_wherever_its_parts_are_cut(self) -> None:
        """Held against the standard library's reader: random documents, cut at random."""
        chance = random.Random(7)

        def value(depth: int) -> Any:
            kinds = [1, -2.5e-3, 'a \\ "é" ]},', True, None, 10**12]
            if depth and chance.random() < 0.6:
                count = chance.randrange(4)
                if chance.random() < 0.5:
                    return [value(depth - 1) for _ in range(count)]
                return {f"k{i}": value(depth - 1) for i in range(count)}
            return chance.choice(kinds)

        for number in range(300):
            whole = {"name": value(2), "revisions": [value(3) for _ in range(number % 5)]}
            if number % 2:
                whole = dict(reversed(whole.items()))
            indent = chance.choice((None, 1, 4))
            text = json.dumps(whole, indent=indent, ensure_ascii=number % 3 == 0)
            with mock.patch.object(members, "_WINDOWS", (1 + number % 9, 100_000)):
                found = list(members.members_of(text, "revisions", {"name"}))
                self.assertEqual([v for n, v in found if n == "revisions"], whole["revisions"])
                self.assertEqual(dict(found)["name"], whole["name"])
                cut = chance.randrange(len(text))
                for broken in (text[:cut], text[:cut] + chance.choice('}]{",x') + text[cut:]):
                    try:
                        as_json = json.loads(broken)
                    except ValueError:
                        with self.assertRaises(ValueError):
                            list(members.members_of(broken, "revisions", {"name"}))
                    else:
                        if not isinstance(as_json, dict) or set(as_json) != set(whole):
                            continue
                        found = list(members.members_of(broken, "revisions", {"name"}))
                        self.assertEqual(dict(found)["name"], as_json["name"])

    def test_a_job_file_of_millions_of_parts_is_refused_before_it_takes_memory(self) -> None:
        begin = b'{"format": "calm-basin-job", "version": 1, "revisions": ['
        for text in (
            b'{"format": "calm-basin-job", "x": [' + b"[]," * 2_000_000 + b"[]]}",
            begin + b'{"a":1},' * 1_000_000 + b"{}]}",
            begin + b"[" + b"[]," * 2_000_000 + b"[]]]}",
            begin + b"[" * 1_000_000,
            b'{"format": "calm-basin-job", "name": "' + b"x" * 6_000_000 + b'"}',
        ):
            tracemalloc.start()
            self.addCleanup(tracemalloc.stop)
            with self.assertRaises(PlanError):
                list(job_file.read_job(text))
            self.assertLess(tracemalloc.get_traced_memory()[1], 120_000_000)
            tracemalloc.stop()

    def command(self, *words: str) -> Result:
        return CliRunner().invoke(main, [*words, "--database", str(self.path)])

    def test_nothing_is_written_over_unasked_and_never_the_store(self) -> None:
        jobs.create(self.db, plan(30, "Weir Cottage"))
        there = self.path.parent / "there.backup"
        there.write_text("an older one", "utf-8")
        folder = copies.folder_of(self.path)
        folder.mkdir()
        for words in (("backup",), ("export", "Weir Cottage")):
            for target, word in (
                (self.path, "all jobs are kept"),
                (Path(f"{self.path}-wal"), "all jobs are kept"),
                (folder / "mine.sqlite3", "Choose another folder"),
                (there, "--replace"),
            ):
                run = self.command(*words, str(target))
                with self.subTest(words=words, target=target.name):
                    self.assertEqual(run.exit_code, 1, run.output)
                    self.assertIn(word, run.output)
            self.assertEqual(there.read_text("utf-8"), "an older one")
            run = self.command(*words, str(there), "--replace")
            self.assertEqual(run.exit_code, 0, run.output)
            self.assertNotEqual(there.read_bytes(), b"an older one")
            there.write_text("an older one", "utf-8")
        self.assertEqual(len(jobs.list_jobs(self.db)), 1)


class UpkeepTest(StoreCase):
    def test_it_goes_on_after_an_error_and_says_so(self) -> None:
        jobs.create(self.db, plan(30))
        store = Store(self.path)
        self.addCleanup(store.close)
        calls: list[str] = []

        def fails(_path: Path) -> None:
            calls.append(store.undone)
            if len(calls) == 1:
                raise ValueError("a time that is none")

        with (
            mock.patch("calm_basin.store.upkeep.upkeep", side_effect=fails),
            mock.patch("calm_basin.store.upkeep.EVERY", 0.01),
            self.assertLogs("calm_basin.store.upkeep", "WARNING"),
        ):
            thread = Upkeep(store)
            thread.start()
            while len(calls) < 3:
                thread.join(0.01)
            thread.stop()
        self.assertIn("a time that is none", calls[1])
        self.assertEqual(store.undone, "")

    def test_what_a_killed_process_left_is_cleared_away(self) -> None:
        old = self.path.parent / f".{self.path.name}.x.part"
        new = self.path.parent / f".{self.path.name}.y.part"
        for file, age in ((old, 2 * backup.STALE), (new, 0)):
            file.touch()
            moment = time.time() - age
            os.utime(file, (moment, moment))
        Store(self.path).close()
        self.assertFalse(old.exists())
        self.assertTrue(new.exists())
