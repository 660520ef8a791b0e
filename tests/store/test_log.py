"""The site log as it is kept: only added to, once each, and nothing in it changes unseen."""

import json
import random
import sqlite3
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Any

from click.testing import CliRunner, Result

from calm_basin.cli import main
from calm_basin.plan import PlanError
from calm_basin.store import history, jobs, log
from calm_basin.store.job_file import export_job, import_job
from tests.store.test_jobs import StoreCase, plan
from tests.sweeps import some

BODY = {"kind": "note", "title": "Note", "by": "AB", "at": "2026-12-07T09:00", "lines": []}


class LogCase(StoreCase):
    def logged(self, count: int = 3) -> jobs.Head:
        head = jobs.create(self.db, plan(30))
        for i in range(count):
            log.append(self.db, head.job_id, f"entry-{i:03}", BODY | {"n": i}, head.revision)
        return head

    def wrong(self, job_id: str) -> list[log.Broken]:
        found = log.entries(self.db, job_id)
        return log.wrong(self.db, job_id, found)

    def forced(self, sql: str, *values: Any) -> None:
        """Write into the log past what guards it, as somebody with the file may."""
        for trigger in ("log_entry_stays", "log_entry_is_kept"):
            self.db.execute(f"DROP TRIGGER IF EXISTS {trigger}")
        self.db.execute(sql, values)


class AppendTest(LogCase):
    def test_entries_follow_each_other(self) -> None:
        head = self.logged(4)
        found = log.entries(self.db, head.job_id)
        self.assertEqual([entry.number for entry in found], [1, 2, 3, 4])
        self.assertEqual(found[0].previous, log.FIRST)
        for before, after in pairwise(found):
            self.assertEqual(after.previous, before.hash)
        self.assertEqual(self.wrong(head.job_id), [])

    def test_what_arrives_twice_is_there_once(self) -> None:
        head = self.logged(2)
        again = log.append(self.db, head.job_id, "entry-000", BODY | {"n": 99}, head.revision)
        self.assertEqual((again.number, again.body["n"]), (1, 0))
        self.assertEqual(len(log.entries(self.db, head.job_id)), 2)

    def test_an_entry_is_neither_changed_nor_taken_out_but_goes_with_its_job(self) -> None:
        head = self.logged(2)
        for sql in ("UPDATE log_entry SET body = '{}'", "DELETE FROM log_entry WHERE number = 2"):
            with self.assertRaisesRegex(sqlite3.IntegrityError, "never"):
                self.db.execute(sql)
        self.db.execute("DELETE FROM job WHERE id = ?", (head.job_id,))
        self.assertEqual(log.entries(self.db, head.job_id), [])

    def test_a_job_that_is_not_there_has_no_log(self) -> None:
        with self.assertRaises(jobs.NoSuchJobError):
            log.append(self.db, "none", "entry-000", BODY, 1)


class ChangedTest(LogCase):
    def test_any_changed_byte_is_found_and_named(self) -> None:
        chance = random.Random(4)
        columns = ("id", "made_at", "body", "plan_hash", "previous", "hash")
        for _ in range(some(60)):
            head = self.logged(5)
            number, column = chance.randrange(1, 6), chance.choice(columns)
            text = self.db.execute(
                f"SELECT {column} FROM log_entry WHERE job_id = ? AND number = ?",
                (head.job_id, number),
            ).fetchone()[0]
            place = chance.randrange(len(text))
            other = chance.choice([c for c in "0123456789abcdef" if c != text[place]])
            changed = text[:place] + other + text[place + 1 :]
            sql = f"UPDATE log_entry SET {column} = ? WHERE job_id = ? AND number = ?"
            self.forced(sql, changed, head.job_id, number)
            found = self.wrong(head.job_id)
            self.assertIn(number, {one.number for one in found}, (column, text, changed))

    def test_an_entry_that_is_missing_is_named(self) -> None:
        for gone in (1, 3):
            head = self.logged(4)
            sql = "DELETE FROM log_entry WHERE job_id = ? AND number = ?"
            self.forced(sql, head.job_id, gone)
            self.assertIn(f"entry {gone} is missing", [one.what for one in self.wrong(head.job_id)])

    def test_a_changed_plan_is_named_and_a_kept_one_stays_through_thinning(self) -> None:
        head = self.logged(1)
        newer = head
        for i in range(150):
            newer = jobs.save(self.db, head.job_id, newer.revision, plan(31 + i / 1000))
        self.db.execute("UPDATE revision SET made_at = '2020-01-01T00:00:00.000+00:00'")
        # Judged by a step in the midst of those that go.
        middle = head.revision + 20
        log.append(self.db, head.job_id, "entry-mid", BODY, middle)
        today = datetime(2026, 5, 1, tzinfo=UTC) + timedelta(days=1)
        self.assertGreater(history.thin(self.db, today), 20)
        self.assertEqual(self.wrong(head.job_id), [])
        self.db.execute("UPDATE revision SET plan = '{}' WHERE id = ?", (middle,))
        self.assertEqual(
            self.wrong(head.job_id), [log.Broken(2, "was judged by a plan that was changed")]
        )


class FileTest(LogCase):
    def test_a_job_takes_its_log_along_whole(self) -> None:
        head = self.logged(3)
        made = import_job(self.db, export_job(self.db, head.job_id).encode())
        there, here = (log.entries(self.db, one.job_id) for one in (head, made))
        self.assertEqual(
            [entry._replace(revision=None) for entry in there],
            [entry._replace(revision=None) for entry in here],
        )
        self.assertEqual(self.wrong(made.job_id), [])
        # And goes on from where it was.
        log.append(self.db, made.job_id, "entry-new", BODY, made.revision)
        self.assertEqual(self.wrong(made.job_id), [])

    def test_what_was_changed_in_the_file_shows(self) -> None:
        head = self.logged(3)
        document = json.loads(export_job(self.db, head.job_id))
        document["log"][1]["body"]["by"] = "XY"
        made = import_job(self.db, json.dumps(document).encode())
        self.assertEqual([one.number for one in self.wrong(made.job_id)], [2])

    def verified(self, text: str, *options: str) -> Result:
        return CliRunner().invoke(main, ["verify", "-", *options], input=text)

    def test_the_command_checks_a_file_without_a_server(self) -> None:
        head = self.logged(3)
        whole = export_job(self.db, head.job_id)
        last = log.entries(self.db, head.job_id)[-1].hash
        good = self.verified(whole, "--seal", last[:12])
        self.assertEqual((good.exit_code, good.output.count(last)), (0, 1))
        self.assertEqual(self.verified(whole, "--seal", "0000").exit_code, 4)
        self.assertEqual(self.verified("{}").exit_code, 2)
        chance = random.Random(9)
        for _ in range(some(40)):
            document = json.loads(whole)
            part = chance.choice((document["log"], document["revisions"]))
            place = chance.randrange(len(part))
            if part is document["log"]:
                name = chance.choice(("made_at", "plan_hash", "previous", "hash"))
                part[place][name] = part[place][name].translate({ord("0"): "1", ord("1"): "0"})
            else:
                part[place]["plan"]["job"]["note"] = "otherwise"
            text = json.dumps(document)
            if json.loads(text) == json.loads(whole):
                continue
            found = self.verified(text)
            self.assertEqual(found.exit_code, 4, found.output)
            self.assertIn("Entry", found.output)

    def test_a_log_that_is_none_is_refused_with_its_place(self) -> None:
        head = self.logged(2)
        whole = export_job(self.db, head.job_id)
        for change, path in (
            (lambda d: d["log"][1].update(number=1), "/log/1/number"),
            (lambda d: d["log"][1].update(id="entry-000"), "/log/1/id"),
            (lambda d: d["log"][0].update(hash="x"), "/log/0/hash"),
            (lambda d: d["log"][0].update(extra=1), "/log/0/extra"),
        ):
            document = json.loads(whole)
            change(document)
            with self.assertRaises(PlanError) as caught:
                import_job(self.db, json.dumps(document).encode())
            self.assertEqual(caught.exception.problems[0].path, path)
