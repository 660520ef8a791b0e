"""Backups: all of it comes back as it was, and nothing is replaced that is not kept."""

import json
import sqlite3
import tempfile
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

from click.testing import CliRunner

from calm_basin.cli import main
from calm_basin.plan import PlanError
from calm_basin.store import backup, copies, door, job_file, jobs, restoring
from calm_basin.store.database import StoreError, connect, migrate, migrations
from calm_basin.store.jobs import DamagedError
from calm_basin.store.opening import Store
from calm_basin.store.upkeep import upkeep
from tests.store.test_jobs import StoreCase, plan

ALL = "SELECT id, parent, made_at, plan, job_id FROM revision ORDER BY id"


def everything(path: Path) -> tuple[list[tuple[object, ...]], list[tuple[object, ...]]]:
    with closing(connect(path)) as db:
        listed = db.execute("SELECT * FROM job ORDER BY id").fetchall()
        return [tuple(row) for row in listed], [tuple(row) for row in db.execute(ALL)]


class BackupTest(StoreCase):
    def fill(self, count: int, steps: int = 2) -> None:
        for i in range(count):
            head = jobs.create(self.db, plan(30 + i / 10, f"job {i}"))
            for step in range(steps):
                fall = 40 + i / 10 + step
                head = jobs.save(self.db, head.job_id, head.revision, plan(fall, f"job {i}"))
            if i % 3 == 0:
                jobs.undo(self.db, head.job_id, head.revision)

    def command(self, *words: str) -> str:
        run = CliRunner().invoke(main, [*words])
        self.assertEqual(run.exit_code, 0, run.output)
        return run.output

    def test_500_jobs_come_back_byte_for_byte_on_an_empty_machine(self) -> None:
        self.fill(500)
        with tempfile.TemporaryDirectory() as folder:
            file, there = Path(folder) / "all.backup", Path(folder) / "new" / "jobs.sqlite3"
            self.command("backup", str(file), "--database", str(self.path))
            said = self.command("restore", str(file), "--database", str(there))
            self.assertIn("500 jobs with 1,500 steps", said)
            self.assertEqual(everything(there), everything(self.path))
            self.assertEqual(file.stat().st_mode & 0o777, 0o600)

    def test_a_restore_keeps_what_was_there_and_who_may_come_in(self) -> None:
        self.fill(3)
        file = self.path.parent / "all.backup"
        backup.write_copy(self.path, file)
        with closing(sqlite3.connect(file)) as kept:
            self.assertEqual(kept.execute("SELECT count(*) FROM passphrase").fetchone()[0], 0)
        door.set_passphrase(self.db, "four words not together")
        token = door.sign_in(self.db, "four words not together", "here", "a browser")
        self.fill(2)
        there = everything(self.path)
        restoring.restore(self.path, file)
        self.assertEqual(len(jobs.list_jobs(self.db)), 3)
        assert token is not None
        self.assertIsNotNone(door.is_in(self.db, token))
        (copy,) = copies.copies(self.path)
        restoring.restore(self.path, copies.folder_of(self.path) / copy.name)
        self.assertEqual(everything(self.path), there)

    def test_what_is_no_whole_backup_replaces_nothing(self) -> None:
        self.fill(2)
        there = everything(self.path)
        folder = self.path.parent
        whole = folder / "whole.backup"
        backup.write_copy(self.path, whole)
        cut, torn, other, newer, gone = (folder / f"{i}.backup" for i in range(5))
        cut.write_bytes(whole.read_bytes()[:9000])
        torn.write_bytes(whole.read_bytes()[:8192] + b"\xff" * 4096 + whole.read_bytes()[12288:])
        with closing(sqlite3.connect(other)) as db:
            db.execute("CREATE TABLE letters (text)")
        newer.write_bytes(whole.read_bytes())
        with closing(sqlite3.connect(newer)) as db:
            db.execute("PRAGMA user_version = 999")
        for file, word in (
            (cut, "damaged"),
            (torn, "damaged"),
            (other, "another program"),
            (newer, "newer"),
            (gone, "no file"),
        ):
            with self.subTest(word=word), self.assertRaises(backup.BackupError) as caught:
                restoring.restore(self.path, file)
            self.assertRegex(str(caught.exception), f"{word}|no whole backup")
            self.assertEqual(everything(self.path), there)
            self.assertEqual(copies.copies(self.path), [])

    def test_a_backup_that_cannot_be_written_leaves_no_half_of_one(self) -> None:
        self.fill(1)
        target = self.path.parent / "all.backup"
        target.write_text("an older one", "utf-8")
        full = OSError(28, "No space left on device")
        with (
            mock.patch("calm_basin.store.backup.settled", side_effect=full),
            self.assertRaises(backup.BackupError) as caught,
        ):
            backup.write_copy(self.path, target)
        self.assertIn("Free some disk space", str(caught.exception))
        self.assertEqual(target.read_text("utf-8"), "an older one")
        self.assertEqual([p for p in self.path.parent.iterdir() if ".part" in p.name], [])

    def test_copies_of_days_and_weeks_are_kept_and_the_oldest_go(self) -> None:
        first = datetime(2026, 3, 1, tzinfo=UTC)
        self.assertIsNone(copies.copy_of_the_day(self.path, first))
        self.fill(1)
        for day in range(40):
            today = first + timedelta(days=day)
            made = copies.copy_of_the_day(self.path, today)
            assert made is not None
            self.assertIsNone(copies.copy_of_the_day(self.path, today))
        names = sorted(copy.name.split(".")[0] for copy in copies.copies(self.path))
        days = [name for name in names if name.startswith("day")]
        weeks = [name for name in names if name.startswith("week")]
        last = [first + timedelta(days=day) for day in range(33, 40)]
        self.assertEqual(days, [f"day-{day:%Y-%m-%d}" for day in last])
        self.assertEqual(len(weeks), 4)
        self.assertEqual(weeks[-1], f"week-{last[-1]:%G-W%V}")

    def test_upkeep_is_done_once_a_day(self) -> None:
        self.fill(1)
        upkeep(self.path)
        made = copies.copies(self.path)
        self.assertEqual(len(made), 2)
        with mock.patch("calm_basin.store.jobs.purge") as purged:
            upkeep(self.path)
        purged.assert_not_called()

    def test_a_copy_is_kept_before_every_migration(self) -> None:
        older = self.path.parent / "older.sqlite3"
        with mock.patch("calm_basin.store.database.migrations", lambda: migrations()[:4]):
            migrate(older)
        with closing(sqlite3.connect(older)) as db:
            text = plan(33).model_dump_json()
            db.execute("INSERT INTO revision VALUES (7, 'old', NULL, '2025-01-01', ?)", (text,))
            db.execute(
                "INSERT INTO job (id, name, made_at, changed_at, head) "
                "VALUES ('old', 'old', '2025-01-01', '2025-01-01', 7)"
            )
            db.commit()
        store = Store(older)
        self.addCleanup(store.close)
        self.assertIsNone(store.trouble)
        with closing(store.connect()) as db:
            self.assertEqual(jobs.head(db, "old").plan, plan(33))
        (copy,) = copies.copies(older)
        self.assertEqual(copy.name, "before-version-5.000001.sqlite3")
        self.assertEqual(backup.check(copies.folder_of(older) / copy.name).jobs, 1)


class JobFileTest(StoreCase):
    def test_a_job_goes_out_and_comes_back_with_its_history(self) -> None:
        head = jobs.create(self.db, plan(30, "Weir Cottage"))
        for fall in (40, 50, 60):
            head = jobs.save(self.db, head.job_id, head.revision, plan(fall, "Weir Cottage"))
        head = jobs.undo(self.db, head.job_id, head.revision)
        with tempfile.TemporaryDirectory() as folder:
            file, there = Path(folder) / "job.json", Path(folder) / "there.sqlite3"
            for words in (
                ("export", "Weir Cottage", str(file), "--database", str(self.path)),
                ("import", str(file), "--database", str(there)),
            ):
                run = CliRunner().invoke(main, words)
                self.assertEqual(run.exit_code, 0, run.output)
            with closing(connect(there)) as db:
                (row,) = jobs.list_jobs(db)
                back = jobs.head(db, row.id)
                self.assertEqual((row.name, back.document), ("Weir Cottage", head.document))
                self.assertTrue(back.can_undo and back.can_redo)
                again = jobs.redo(db, row.id, back.revision)
                self.assertEqual(again.plan, plan(60, "Weir Cottage"))
                while again.can_undo:
                    again = jobs.undo(db, row.id, again.revision)
                self.assertEqual(again.plan, plan(30, "Weir Cottage"))

    def test_a_job_that_is_not_there_is_told_with_those_that_are(self) -> None:
        jobs.create(self.db, plan(30, "Weir Cottage"))
        run = CliRunner().invoke(main, ["export", "x", "-", "--database", str(self.path)])
        self.assertEqual(run.exit_code, 1)
        self.assertIn("Weir Cottage", run.output)

    def test_what_does_not_hang_together_is_named_and_not_taken(self) -> None:
        head = jobs.create(self.db, plan(30))
        jobs.save(self.db, head.job_id, head.revision, plan(40))
        whole = json.loads(job_file.export_job(self.db, head.job_id))
        for change, path in (
            (lambda d: d["revisions"][1].update(parent=99), "/revisions/1/parent"),
            (lambda d: d["revisions"][1].update(id=d["revisions"][0]["id"]), "/revisions/1/id"),
            (lambda d: d["revisions"][1]["plan"].update(version=99), "/revisions/1/plan/version"),
            (lambda d: d["revisions"][0]["plan"].pop("job"), "/revisions/0/plan/job/name"),
            (lambda d: d.update(head=77), "/head"),
            (lambda d: d.update(colour="blue"), "/colour"),
            (lambda d: d.update(revisions=[]), "/revisions"),
        ):
            broken = json.loads(json.dumps(whole))
            change(broken)  # type: ignore[no-untyped-call]
            with self.subTest(path=path), self.assertRaises(PlanError) as caught:
                job_file.import_job(self.db, json.dumps(broken).encode())
            self.assertEqual(caught.exception.problems[0].path, path)
        self.assertEqual(len(jobs.list_jobs(self.db)), 1)


class DamageTest(StoreCase):
    def damage(self, at: int, size: int) -> None:
        self.db.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
        self.db.close()
        text = bytearray(self.path.read_bytes())
        text[at : at + size] = b"\xa5" * len(text[at : at + size])
        self.path.write_bytes(text)

    def opened(self) -> Store:
        store = Store(self.path)
        self.addCleanup(store.close)
        return store

    def test_a_damaged_file_opens_to_be_read_and_names_the_newest_whole_copy(self) -> None:
        for i in range(60):
            jobs.create(self.db, plan(30 + i, f"job {i}"))
        upkeep(self.path)
        pages = self.db.execute("PRAGMA page_count").fetchone()[0]
        self.damage(4096 * (pages - 3), 8192)
        store = self.opened()
        assert store.trouble is not None
        self.assertEqual(store.trouble.kind, "damaged")
        self.assertTrue(store.trouble.copy)
        self.assertIn(store.trouble.copy or "", store.trouble.detail)
        with closing(store.connect()) as db:
            self.assertEqual(len(jobs.list_jobs(db)), 60)
            with self.assertRaises(sqlite3.OperationalError):
                jobs.create(db, plan(99))
        restoring.restore(self.path, copies.folder_of(self.path) / (store.trouble.copy or ""))
        store.open()
        self.assertIsNone(store.trouble)
        with closing(store.connect()) as db:
            self.assertEqual(len(jobs.list_jobs(db)), 60)
            jobs.create(db, plan(99))
        kept = [p.name for p in copies.folder_of(self.path).iterdir() if "damaged" in p.name]
        self.assertTrue(kept, "the damaged file is kept")

    def test_an_empty_or_overwritten_file_that_had_jobs_is_told(self) -> None:
        jobs.create(self.db, plan(30))
        upkeep(self.path)
        self.db.close()
        for end in ("-wal", "-shm"):
            Path(f"{self.path}{end}").unlink(missing_ok=True)
        for text in (b"", b"Dear tiler, " * 900, b"SQLite format 3\0" + b"\0" * 9000):
            self.path.write_bytes(text)
            store = self.opened()
            assert store.trouble is not None
            self.assertEqual(store.trouble.kind, "damaged")
            with closing(store.connect()) as db:
                self.assertEqual(jobs.list_jobs(db), [])
            self.assertEqual(self.path.read_bytes(), text)

    def test_a_head_that_cannot_be_read_goes_back_to_one_that_can(self) -> None:
        head = jobs.create(self.db, plan(30))
        second = jobs.save(self.db, head.job_id, head.revision, plan(40))
        third = jobs.save(self.db, head.job_id, second.revision, plan(50))
        self.db.execute("UPDATE revision SET plan = '{\"job' WHERE id = ?", (third.revision,))
        with self.assertRaises(DamagedError) as caught:
            jobs.head(self.db, head.job_id)
        assert caught.exception.sound is not None
        self.assertEqual(caught.exception.sound[0], second.revision)
        back = jobs.go_back(self.db, head.job_id, second.revision)
        self.assertEqual(back.plan, plan(40))
        with self.assertRaises(DamagedError):
            jobs.redo(self.db, head.job_id, back.revision)

    def test_another_programs_database_is_left_alone(self) -> None:
        other = self.path.parent / "other.sqlite3"
        with closing(sqlite3.connect(other)) as db:
            db.execute("CREATE TABLE letters (text)")
        before = other.read_bytes()
        with self.assertRaises(StoreError) as caught:
            Store(other)
        self.assertIn("another program", str(caught.exception))
        self.assertEqual(other.read_bytes(), before)

    def test_a_disk_that_is_full_at_the_start_says_so_and_still_shows(self) -> None:
        jobs.create(self.db, plan(30))
        full = sqlite3.OperationalError("database or disk is full")
        with mock.patch("calm_basin.store.opening.migrate", side_effect=[full, None, None]):
            store = self.opened()
        assert store.trouble is not None
        self.assertEqual(store.trouble.kind, "not writable")
        self.assertIn("Free some disk space", store.trouble.detail)
        with closing(store.connect()) as db:
            self.assertEqual(len(jobs.list_jobs(db)), 1)
