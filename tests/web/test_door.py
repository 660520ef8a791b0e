"""Who is answered: names, pages, and sessions from another machine."""

import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from flask.testing import FlaskClient
from werkzeug.test import EnvironBuilder, TestResponse

from calm_basin.store import door
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app
from tests.plans import document
from tests.sweeps import each

RIGHT = "four words not together"
SITE = "http://192.0.2.7:8000"


class LockedCase(unittest.TestCase):
    """An application that asks to sign in."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.store = Store(Path(folder.name) / "jobs.sqlite3")
        with closing(self.store.connect()) as db:
            door.set_passphrase(db, RIGHT)
        self.app = create_app(self.store, frozenset({"192.0.2.7"}), locked=True)

    def client(self) -> FlaskClient:
        return self.app.test_client()

    def sign_in(
        self, client: FlaskClient, passphrase: str = RIGHT, base: str = SITE
    ) -> TestResponse:
        return client.post("/api/session", json={"passphrase": passphrase}, base_url=base)


class LockedTest(LockedCase):
    def test_nothing_is_told_or_done_before_one_is_in(self) -> None:
        client = self.client()
        rules = self.app.load().url_map.iter_rules()
        for rule in each((one for one in rules if one.rule != "/api/session"), least=40):
            url = rule.rule.replace("<job_id>", "x").replace("<name>", "x").replace("<key>", "x")
            for method in (rule.methods or set()) - {"HEAD", "OPTIONS"}:
                answer = client.open(url.replace("<path:_path>", "x"), method=method, base_url=SITE)
                self.assertEqual(answer.status_code, 401, (method, url))
        self.assertEqual(client.get("/", base_url=SITE, buffered=True).status_code, 200)

    def test_a_large_body_is_refused_before_it_comes(self) -> None:
        for path in ("/api/jobs/import", "/api/store/restore"):
            for headers, status in (
                ({"Host": "192.0.2.7:8000"}, 401),
                ({"Host": "elsewhere.example"}, 421),
                ({"Host": "192.0.2.7:8000", "Origin": "http://elsewhere.example"}, 403),
            ):
                builder = EnvironBuilder(path, method="POST", headers=headers)
                said = self.app.refused(builder.get_environ())
                assert said is not None
                self.assertEqual(said.status_code, status, (path, headers))
        client = self.client()
        self.sign_in(client)
        cookie = client.get_cookie("calm-basin", domain="192.0.2.7")
        assert cookie is not None
        headers = {"Host": "192.0.2.7:8000", "Cookie": f"calm-basin={cookie.value}"}
        builder = EnvironBuilder("/api/store/restore", method="POST", headers=headers)
        self.assertIsNone(self.app.refused(builder.get_environ()))

    def test_a_foreign_page_fetches_nothing(self) -> None:
        client = create_app(self.store).test_client()
        for path in ("/api/jobs", "/api/store/backup", "/api/store"):
            for headers in (
                {"Sec-Fetch-Site": "cross-site"},
                {"Sec-Fetch-Site": "same-site"},
                {"Origin": "http://elsewhere.example"},
            ):
                self.assertEqual(client.get(path, headers=headers).status_code, 403, headers)
            for site in ("same-origin", "none"):
                with client.get(path, headers={"Sec-Fetch-Site": site}) as answer:
                    self.assertEqual(answer.status_code, 200, (path, site))

    def test_in_and_out_again(self) -> None:
        client = self.client()
        self.assertEqual(client.get("/api/session", base_url=SITE).get_json()["in"], False)
        self.assertEqual(self.sign_in(client, "not this one at all").status_code, 422)
        answer = self.sign_in(client)
        self.assertEqual(answer.status_code, 201)
        made = client.post("/api/jobs", json={"plan": document()}, base_url=SITE)
        self.assertEqual(made.status_code, 201)
        told = client.get("/api/sessions", base_url=SITE).get_json()
        self.assertEqual([one["this"] for one in told["sessions"]], [True])
        self.assertEqual(client.delete("/api/session", base_url=SITE).status_code, 200)
        self.assertEqual(client.get("/api/jobs", base_url=SITE).status_code, 401)

    def test_one_session_ends_another(self) -> None:
        one, other = self.client(), self.client()
        self.sign_in(one)
        self.sign_in(other)
        (key,) = [
            s["key"]
            for s in one.get("/api/sessions", base_url=SITE).get_json()["sessions"]
            if not s["this"]
        ]
        one.delete(f"/api/sessions/{key}", base_url=SITE)
        self.assertEqual(other.get("/api/jobs", base_url=SITE).status_code, 401)
        self.assertEqual(one.get("/api/jobs", base_url=SITE).status_code, 200)

    def test_the_cookie_is_as_owasp_asvs_asks(self) -> None:
        # OWASP ASVS 4.0.3, 3.4.1 to 3.4.5: Secure (over TLS), HttpOnly, SameSite, __Host-, path.
        plain = self.sign_in(self.client()).headers["Set-Cookie"]
        self.assertTrue(plain.startswith("calm-basin="))
        for flag in ("HttpOnly", "SameSite=Strict", "Path=/"):
            self.assertIn(flag, plain)
        secure = self.sign_in(self.client(), base="https://192.0.2.7:8000").headers["Set-Cookie"]
        self.assertTrue(secure.startswith("__Host-calm-basin="))
        self.assertIn("Secure", secure)
        self.assertNotIn("Domain", secure)

    def test_guessing_is_told_to_wait(self) -> None:
        client = self.client()
        for _ in range(door.TRIES):
            self.assertEqual(self.sign_in(client, "not this one at all").status_code, 422)
        answer = self.sign_in(client)
        self.assertEqual(answer.status_code, 429)
        self.assertGreater(int(answer.headers["Retry-After"]), 0)
        self.assertIn("Wait", answer.get_json()["detail"])

    def test_a_forged_name_or_page_is_turned_away_even_with_a_session(self) -> None:
        client = self.client()
        self.sign_in(client)
        for base in (
            "http://evil.example",
            "http://192.0.2.8:8000",
            "http://192.0.2.7.evil.example",
        ):
            self.assertEqual(client.get("/api/jobs", base_url=base).status_code, 421)
        for headers in ({"Origin": "http://evil.example"}, {"Sec-Fetch-Site": "cross-site"}):
            answer = client.delete("/api/jobs/x", base_url=SITE, headers=headers)
            self.assertEqual(answer.status_code, 403)
        self.assertEqual(client.get("/api/jobs", base_url="http://LOCALHOST").status_code, 401)

    def test_on_this_machine_alone_it_is_told_whether_there_is_a_passphrase(self) -> None:
        here = create_app(self.store, frozenset()).test_client()
        self.assertTrue(here.get("/api/session").get_json()["set"])
        with closing(self.store.connect()) as db:
            db.execute("DELETE FROM passphrase")
        self.assertFalse(here.get("/api/session").get_json()["set"])
        # From elsewhere nobody learns it before signing in.
        self.assertFalse(self.client().get("/api/session", base_url=SITE).get_json()["set"])

    def test_on_this_machine_alone_nobody_is_asked(self) -> None:
        client = create_app(self.store).test_client()
        self.assertEqual(client.get("/api/jobs").status_code, 200)
        self.assertEqual(
            client.get("/api/session").get_json(), {"asked": False, "in": True, "set": True}
        )

    def test_every_answer_carries_the_headers(self) -> None:
        client = self.client()
        for url in ("/", "/api/jobs", "/api/nowhere", "/assets/none.js"):
            headers = client.get(url, base_url=SITE, buffered=True).headers
            for name in ("Content-Security-Policy", "X-Content-Type-Options", "Referrer-Policy"):
                self.assertIn(name, headers, url)
            self.assertNotIn("unsafe", headers["Content-Security-Policy"])
