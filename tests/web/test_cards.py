"""The list of jobs: how each looked when it was last worked out, and never as it no longer is."""

import sqlite3
from contextlib import closing
from unittest import mock

from calm_basin.demo import demo_plans
from calm_basin.store import backup, restoring
from calm_basin.store.database import connect
from tests.plans import Document, answered, document
from tests.web.test_api import ApiCase


class CardsTest(ApiCase):
    def listed(self) -> Document:
        (job,) = self.client.get("/api/jobs").get_json()["jobs"]
        found: Document = job
        return found

    def card(self, head: Document) -> Document:
        answer = self.client.get(f"/api/jobs/{head['job_id']}/card")
        self.assertEqual(answer.status_code, 200)
        found: Document = answer.get_json()
        return found

    def save(self, head: Document, plan: Document) -> Document:
        asked = {"base": head["revision"], "plan": plan}
        answer = self.client.put(f"/api/jobs/{head['job_id']}/plan", json=asked)
        saved: Document = answer.get_json()
        return saved

    def test_it_says_what_the_solve_says_of_every_demo_job(self) -> None:
        for plan in demo_plans():
            with self.subTest(plan.job.name):
                card = self.card(self.made(plan.model_dump(mode="json")))
                solution = answered(plan)
                self.assertEqual(card["recess"], solution.figures.recess_needed.text)
                self.assertEqual(card["summary"], solution.summary)
                stops = [one for one in solution.findings if one.severity == "stop"]
                self.assertEqual(card["stops"], bool(stops))
                for asked, drawn in zip(plan.room.outline, card["room"], strict=True):
                    self.assertLessEqual(
                        max(abs(a - b) for a, b in zip(asked, drawn, strict=True)), 0.5
                    )
                assert solution.surface
                self.assertEqual(len(card["planes"]), len(solution.surface.planes))

    def test_it_is_current_until_the_plan_changes_and_again_once_it_is_worked_out(self) -> None:
        head = self.made()
        self.assertEqual((self.listed()["card"], self.listed()["current"]), (None, False))
        card = self.card(head)
        self.assertEqual((self.listed()["card"], self.listed()["current"]), (card, True))
        head = self.save(head, document(set_down=3))
        self.assertEqual((self.listed()["card"], self.listed()["current"]), (card, False))
        other = self.card(head)
        self.assertNotEqual(other, card)
        self.assertEqual((self.listed()["card"], self.listed()["current"]), (other, True))
        # Back at the plan before: the card is of another revision.
        undo = f"/api/jobs/{head['job_id']}/undo"
        self.client.post(undo, json={"base": head["revision"]})
        self.assertFalse(self.listed()["current"])

    def test_it_hangs_on_the_rules_and_on_the_program(self) -> None:
        head = self.made()
        self.card(head)
        self.assertTrue(self.listed()["current"])
        with mock.patch("calm_basin.web.jobs._program", return_value="a later version"):
            self.assertFalse(self.listed()["current"])
        self.client.post("/api/rules", json={"of": "uk", "id": "ours", "name": "Ours"})
        self.assertFalse(self.listed()["current"])

    def test_what_a_backup_says_of_it_is_not_believed(self) -> None:
        head = self.made()
        self.card(head)
        file = self.path.parent / "all.backup"
        backup.write_copy(self.path, file)
        with closing(sqlite3.connect(file)) as db, db:
            db.execute("UPDATE card SET body = json_set(body, '$.recess', '0 mm')")
        restoring.restore(self.path, file)
        self.assertIsNone(self.listed()["card"])

    def test_a_store_that_cannot_be_written_to_still_shows_it(self) -> None:
        head = self.made()
        with mock.patch(
            "calm_basin.web.jobs.cards.keep", side_effect=sqlite3.OperationalError("readonly")
        ):
            self.assertTrue(self.card(head)["recess"])
        self.assertIsNone(self.listed()["card"])

    def test_of_a_job_that_is_gone_there_is_none(self) -> None:
        head = self.made()
        self.card(head)
        url = f"/api/jobs/{head['job_id']}"
        self.assertEqual(self.client.delete(url).status_code, 204)
        self.assertEqual(self.client.get("/api/jobs").get_json()["jobs"], [])
        self.problem(self.client.get(f"{url}/card"), 404)
        with closing(connect(self.path)) as db, db:
            db.execute("DELETE FROM job")
            self.assertEqual(db.execute("SELECT count(*) FROM card").fetchone()[0], 0)
