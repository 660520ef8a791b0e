"""Jobs that live long: their histories thin out by the rule that is told, and space comes back."""

import json
import random
from collections import defaultdict
from datetime import UTC, datetime, timedelta

from calm_basin.store import history, jobs
from calm_basin.store.jobs import ConflictError, Write
from tests.plans import document
from tests.store.test_jobs import StoreCase, plan
from tests.sweeps import some

TODAY = datetime(2026, 5, 1, 12, tzinfo=UTC)


class HistoryTest(StoreCase):
    def old_job(self, steps: int, days: float, seed: int) -> jobs.Head:
        """A job whose steps are spread over so many days before today, with turns undone."""
        chance = random.Random(seed)
        head = jobs.create(self.db, plan(30))
        for i in range(steps):
            if chance.random() < 0.1 and head.can_undo:
                head = jobs.undo(self.db, head.job_id, head.revision)
            head = jobs.save(self.db, head.job_id, head.revision, plan(30 + (i % 90) + i / 1000))
        ids = [row["id"] for row in self.db.execute("SELECT id FROM revision ORDER BY id")]
        times = sorted(TODAY - timedelta(days=chance.uniform(0, days)) for _ in ids)
        self.db.executemany(
            "UPDATE revision SET made_at = ? WHERE id = ?",
            [(t.isoformat(timespec="milliseconds"), i) for t, i in zip(times, ids, strict=True)],
        )
        return head

    def steps(self, job_id: str) -> dict[int, tuple[int | None, datetime]]:
        rows = self.db.execute(
            "SELECT id, parent, made_at FROM revision WHERE job_id = ?", (job_id,)
        )
        return {row["id"]: (row["parent"], datetime.fromisoformat(row["made_at"])) for row in rows}

    def test_what_stays_is_what_the_rule_says(self) -> None:
        for seed in range(some(3)):
            head = self.old_job(400, 90, seed)
            before = self.steps(head.job_id)
            history.thin(self.db, TODAY)
            after = self.steps(head.job_id)
            wanted = {head.revision} | {i for i, (parent, _) in before.items() if parent is None}
            wanted |= set(sorted(before)[-100:])
            last: dict[str, int] = defaultdict(int)
            for number, (_, made) in before.items():
                age = (TODAY - made) / timedelta(days=1)
                if age < 7:
                    wanted.add(number)
                else:
                    hour = f"{made:%Y-%m-%d %H}" if age < 30 else f"{made:%Y-%m-%d}"
                    last[hour] = max(last[hour], number)
            self.assertEqual(set(after), wanted | set(last.values()))
            self.assertLess(len(after), len(before))
            # What stays hangs together as it did: each follows the nearest before it that stays.
            for number, (parent, _) in after.items():
                above = before[number][0]
                while above is not None and above not in after:
                    above = before[above][0]
                self.assertEqual(parent, above)

    def test_undo_and_redo_go_through_a_thinned_history(self) -> None:
        head = self.old_job(300, 60, 1)
        history.thin(self.db, TODAY)
        now, seen = jobs.head(self.db, head.job_id), 1
        while now.can_undo:
            now = jobs.undo(self.db, head.job_id, now.revision)
            seen += 1
        self.assertGreater(seen, 90)
        self.assertEqual(now.plan, plan(30))
        while now.can_redo:
            now = jobs.redo(self.db, head.job_id, now.revision)
        self.assertEqual(self.db.execute("PRAGMA foreign_key_check").fetchall(), [])

    def test_thinning_again_changes_nothing(self) -> None:
        self.old_job(300, 60, 2)
        self.assertGreater(history.thin(self.db, TODAY), 0)
        self.assertEqual(history.thin(self.db, TODAY), 0)

    def test_a_job_of_a_thousand_steps_goes_at_once_and_its_space_comes_back(self) -> None:
        head = jobs.create(self.db, plan(30))
        for i in range(1000):
            head = jobs.save(self.db, head.job_id, head.revision, plan(31 + i / 50))
        kept = jobs.create(self.db, plan(40))
        self.db.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
        before = self.path.stat().st_size
        jobs.delete(self.db, head.job_id)
        self.assertEqual([row.id for row in jobs.list_jobs(self.db, deleted=True)], [head.job_id])
        self.assertEqual(jobs.purge(self.db, datetime.now(UTC)), 0)
        self.db.execute("UPDATE job SET deleted_at = '2020-01-01' WHERE deleted_at IS NOT NULL")
        self.assertEqual(jobs.purge(self.db, datetime.now(UTC)), 1)
        history.give_back(self.db)
        self.assertLess(self.path.stat().st_size, before / 5)
        self.assertEqual(self.db.execute("SELECT count(*) FROM revision").fetchone()[0], 1)
        self.assertEqual(jobs.head(self.db, kept.job_id), kept)

    def test_the_steps_of_a_job_are_found_by_an_index(self) -> None:
        for query in (
            "DELETE FROM revision WHERE job_id = 'x'",
            "SELECT 1 FROM revision WHERE parent = 3",
            "SELECT id FROM job WHERE deleted_at IS NULL ORDER BY changed_at DESC",
            "SELECT id FROM job WHERE made_with = 'x'",
        ):
            steps = self.db.execute(f"EXPLAIN QUERY PLAN {query}").fetchall()
            told = " ".join(step["detail"] for step in steps)
            self.assertIn("USING", told, query)
            self.assertNotIn("SCAN", told, query)


class WriteTest(StoreCase):
    def test_a_press_makes_one_job_however_often_it_is_sent(self) -> None:
        first = jobs.create(self.db, plan(30), "press-one")
        self.assertEqual(jobs.create(self.db, plan(30), "press-one"), first)
        jobs.create(self.db, plan(30), "press-two")
        jobs.create(self.db, plan(30))
        jobs.create(self.db, plan(30))
        self.assertEqual(len(jobs.list_jobs(self.db)), 4)

    def test_a_save_that_is_sent_again_equals_the_head(self) -> None:
        head = jobs.create(self.db, plan(30))
        saved = jobs.save(self.db, head.job_id, head.revision, plan(40))
        self.assertEqual(jobs.save(self.db, head.job_id, head.revision, plan(40)), saved)

    def test_a_windows_later_save_follows_its_earlier_one_in_any_order(self) -> None:
        head = jobs.create(self.db, plan(30))
        base = head.revision
        first = jobs.save(self.db, head.job_id, base, plan(40), Write("window-a", 1))
        late = jobs.save(self.db, head.job_id, base, plan(50), Write("window-a", 2))
        self.assertEqual(late.plan, plan(50))
        # The first one once more, behind the second: it is old and changes nothing.
        with self.assertRaises(ConflictError):
            jobs.save(self.db, head.job_id, base, plan(40), Write("window-a", 1))
        back = jobs.undo(self.db, head.job_id, late.revision, Write("window-a", 3))
        self.assertEqual(back.revision, first.revision)
        again = jobs.undo(self.db, head.job_id, late.revision, Write("window-a", 3))
        self.assertEqual(again, back)

    def test_another_windows_save_is_never_passed_over(self) -> None:
        head = jobs.create(self.db, plan(30))
        base = head.revision
        jobs.save(self.db, head.job_id, base, plan(40), Write("window-a", 1))
        for write in (Write("window-b", 9), None):
            with self.assertRaises(ConflictError):
                jobs.save(self.db, head.job_id, base, plan(50), write)
        theirs = jobs.head(self.db, head.job_id)
        jobs.save(self.db, head.job_id, theirs.revision, plan(60), Write("window-b", 1))
        with self.assertRaises(ConflictError):
            jobs.save(self.db, head.job_id, theirs.revision, plan(70), Write("window-a", 2))

    def test_a_plan_that_breaks_a_limit_made_later_opens_and_is_undone(self) -> None:
        head = jobs.create(self.db, plan(30))
        stored = document()
        stored["room"]["outline"] = [[0, 0], [24000, 0], [24000, 1800], [0, 1800]]
        self.db.execute(
            "INSERT INTO revision (job_id, parent, made_at, plan) VALUES (?, ?, '2026', json(?))",
            (head.job_id, head.revision, json.dumps(stored)),
        )
        self.db.execute("UPDATE job SET head = (SELECT max(id) FROM revision)")
        opened = jobs.head(self.db, head.job_id)
        self.assertEqual(opened.document["room"]["outline"][1], [24000, 0])
        back = jobs.undo(self.db, head.job_id, opened.revision)
        self.assertEqual(back.plan, plan(30))
