"""What docs/security.md promises and no other test holds."""

import json
import re
import sqlite3
import tempfile
import unittest
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

from calm_basin.store import door
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app
from tests.plans import document
from tests.web.test_door import RIGHT, SITE, LockedCase

ROOT = Path(__file__).parents[2]
NASTY = "'); DROP TABLE job;--<script>alert(1)</script>"


class DoorTest(LockedCase):
    def test_a_passphrase_does_not_wear_out(self) -> None:
        # OWASP ASVS 4.0.3, 2.1.10: no periodic change.
        later = datetime.now(UTC) + timedelta(days=4000)
        with (
            closing(self.store.connect()) as db,
            mock.patch.object(door, "datetime", wraps=datetime) as clock,
        ):
            clock.now.return_value = later
            self.assertIsNotNone(door.sign_in(db, RIGHT, "here", ""))

    def test_no_address_of_the_api_sets_a_passphrase(self) -> None:
        client = self.client()
        self.sign_in(client)
        for method in ("POST", "PUT", "PATCH"):
            for path in ("/api/passphrase", "/api/session", "/api/store"):
                client.open(path, method=method, json={"new": "four others"}, base_url=SITE)
        with closing(self.store.connect()) as db:
            self.assertIsNotNone(door.sign_in(db, RIGHT, "elsewhere", ""))

    def test_a_token_is_in_a_cookie_alone_and_new_each_time(self) -> None:
        # OWASP ASVS 4.0.3, 3.1 and 3.2: 64 bits of chance or more; here 256.
        tokens = set()
        for _ in range(3):
            client = self.client()
            answer = self.sign_in(client)
            cookie = client.get_cookie("calm-basin", domain="192.0.2.7")
            assert cookie is not None
            self.assertGreaterEqual(len(cookie.value), 43)
            self.assertNotIn(cookie.value, answer.get_data(as_text=True))
            tokens.add(cookie.value)
            told = client.get("/api/sessions", base_url=SITE).get_data(as_text=True)
            self.assertNotIn(cookie.value, told)
            by_address = self.client().get(f"/api/jobs?token={cookie.value}", base_url=SITE)
            self.assertEqual(by_address.status_code, 401)
        self.assertEqual(len(tokens), 3)

    def test_what_is_in_doubt_is_refused(self) -> None:
        # OWASP ASVS 4.0.3, 4.1.5: access fails closed, the store's error too.
        client = self.client()
        self.sign_in(client)
        with mock.patch.object(door, "is_in", side_effect=sqlite3.OperationalError("locked")):
            answer = client.get("/api/jobs", base_url=SITE)
        self.assertGreaterEqual(answer.status_code, 400)
        self.assertNotIn("jobs", answer.get_json())

    def test_no_event_tells_a_passphrase(self) -> None:
        client = self.client()
        self.sign_in(client, "not this one at all")
        self.sign_in(client)
        told = client.get("/api/sessions", base_url=SITE).get_data(as_text=True)
        for secret in (RIGHT, "not this one at all"):
            self.assertNotIn(secret, told)


class AnswersTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.store = Store(Path(folder.name) / "jobs.sqlite3")
        self.client = create_app(self.store).test_client()

    def test_what_is_typed_is_data_in_the_store_and_on_the_page(self) -> None:
        plan = document() | {"job": {"name": NASTY, "note": NASTY}}
        head = self.client.post("/api/jobs", json={"plan": plan}).get_json()
        jobs = self.client.get("/api/jobs")
        self.assertEqual(jobs.get_json()["jobs"][0]["name"], NASTY)
        self.assertEqual(jobs.mimetype, "application/json")
        file = self.client.get(f"/api/jobs/{head['job_id']}/plan-file")
        self.assertIn("attachment", file.headers["Content-Disposition"])
        for mark in "<>\"'/;":
            name = re.search(r'filename="?([^";]*)', file.headers["Content-Disposition"])
            assert name is not None
            self.assertNotIn(mark, name[1])
        self.assertEqual(len(self.client.get("/api/jobs").get_json()["jobs"]), 1)

    def test_nothing_of_the_api_is_kept_by_a_cache_and_no_server_is_named(self) -> None:
        for path in ("/api/jobs", "/api/rules", "/api/nothing", "/api/store/backup"):
            with self.client.get(path) as answer:
                self.assertIn("no-store", answer.headers["Cache-Control"], path)
                self.assertNotIn("Server", answer.headers)
                self.assertNotIn("X-Powered-By", answer.headers)

    def test_no_folder_is_listed(self) -> None:
        for path in ("/assets/", "/assets", "/api/", "/static/"):
            with self.client.get(path) as answer:
                # The page itself names its script and its style.
                named = set(re.findall(r"assets/([\w.-]+)", answer.get_data(as_text=True)))
                self.assertLessEqual(len(named), 2, path)

    def test_all_of_a_job_is_exported_and_deleted_for_good(self) -> None:
        head = self.client.post("/api/jobs", json={"plan": document()}).get_json()
        job = head["job_id"]
        whole = self.client.get(f"/api/jobs/{job}/job-file").get_json()
        self.assertEqual(whole["revisions"][0]["plan"], head["plan"])
        self.client.delete(f"/api/jobs/{job}")
        self.assertEqual(self.client.get(f"/api/jobs/{job}").status_code, 404)


class BuildTest(unittest.TestCase):
    def test_every_locked_package_has_its_hash_and_names_no_host(self) -> None:
        for name in ("requirements.lock", "requirements-dev.lock"):
            text = (ROOT / name).read_text("utf-8")
            packages = re.findall(r"^[\w.\-\[\]]+==.*?(?=^\S|\Z)", text, re.M | re.S)
            self.assertGreater(len(packages), 20)
            for package in packages:
                self.assertIn("--hash=sha256:", package)
            self.assertNotIn("http", re.sub(r"^#.*$|(?<=via).*$", "", text, flags=re.M))
        lock = json.loads((ROOT / "frontend" / "package-lock.json").read_text("utf-8"))
        for name, package in lock["packages"].items():
            if name:
                self.assertTrue(package.get("integrity"), name)
                self.assertNotIn("resolved", package, name)

    def test_no_secret_is_in_the_source(self) -> None:
        looks = re.compile(
            r"BEGIN [A-Z ]*PRIVATE KEY|(?:secret|token|passphrase) *= *[\"'][^\"']{8,}"
        )
        for file in (ROOT / "src").rglob("*.py"):
            self.assertNotRegex(file.read_text("utf-8"), looks, str(file))
