"""A volume that can only be read still lists, opens and exports, and says why nothing is saved."""

import json
import os
import tempfile
import traceback
import unittest
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

from calm_basin.store import jobs
from calm_basin.store.database import StoreError
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app
from tests.plans import document
from tests.store.test_jobs import plan

NOBODY = 65534


def as_nobody(deed: Callable[[], None]) -> str:
    """Do something in a process that may write nowhere it is not let; what failed there, if
    anything."""
    read, write = os.pipe()
    child = os.fork()
    if child == 0:
        try:
            if os.geteuid() == 0:
                os.setgid(NOBODY)
                os.setuid(NOBODY)
            deed()
        except BaseException:
            os.write(write, traceback.format_exc().encode()[-4000:])
        finally:
            os._exit(0)
    os.close(write)
    with os.fdopen(read, "rb") as said:
        text = said.read().decode()
    os.waitpid(child, 0)
    return text


class ReadOnlyTest(unittest.TestCase):
    maxDiff = None

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        Path(folder.name).chmod(0o755)
        self.folder = Path(folder.name) / "kept"
        self.path = self.folder / "jobs.sqlite3"
        store = Store(self.path)
        with closing(store.connect()) as db:
            self.head = jobs.create(db, plan(30))
            self.head = jobs.save(db, self.head.job_id, self.head.revision, plan(40))
        # What the application loads only when it is asked for something is loaded by now.
        create_app(store).test_client().get(f"/api/jobs/{self.head.job_id}/plan-file").close()

    def close_to_writers(self) -> None:
        for place, mode in ((self.path, 0o444), (self.folder, 0o555)):
            place.chmod(mode)
        self.addCleanup(self.folder.chmod, 0o755)

    def works(self, deed: Callable[[], None]) -> None:
        self.assertEqual(as_nobody(deed), "")

    def reads(self, store: Store) -> None:
        client = create_app(store).test_client()
        (listed,) = client.get("/api/jobs").get_json()["jobs"]
        url = f"/api/jobs/{listed['id']}"
        opened = client.get(url).get_json()
        assert opened["plan"] == self.head.document, opened
        for file in ("plan-file", "job-file"):
            assert client.get(f"{url}/{file}").status_code == 200, file
        body = {"base": opened["revision"], "plan": document(set_down=7)}
        refused = client.put(f"{url}/plan", json=body)
        assert refused.status_code == 503, refused.status_code
        detail = json.loads(refused.data)["detail"]
        assert "writable" in detail and "kept in this window" in detail, detail

    def test_from_the_start(self) -> None:
        self.close_to_writers()

        def deed() -> None:
            store = Store(self.path)
            assert store.trouble is not None and store.trouble.kind == "not writable"
            assert "writable" in store.trouble.detail, store.trouble.detail
            self.reads(store)

        self.works(deed)

    def test_with_a_log_that_was_not_yet_taken_in(self) -> None:
        with closing(Store(self.path).connect()) as held:
            held.execute("BEGIN")
            held.execute("SELECT count(*) FROM job").fetchone()
            with closing(Store(self.path).connect()) as db:
                self.head = jobs.save(db, self.head.job_id, self.head.revision, plan(50))
            log = Path(f"{self.path}-wal").read_bytes()
            main = self.path.read_bytes()
        self.path.write_bytes(main)
        Path(f"{self.path}-wal").write_bytes(log)
        Path(f"{self.path}-shm").unlink(missing_ok=True)
        Path(f"{self.path}-wal").chmod(0o444)
        self.close_to_writers()

        def deed() -> None:
            with closing(Store(self.path)) as store:
                self.reads(store)

        self.works(deed)

    def test_from_one_moment_to_the_next(self) -> None:
        # The store was opened while it could be written.
        store = Store(self.path)
        self.close_to_writers()
        self.works(lambda: self.reads(store))

    def test_a_folder_in_which_nothing_can_be_made_is_named(self) -> None:
        self.close_to_writers()

        def deed() -> None:
            try:
                Store(self.folder / "other.sqlite3")
            except StoreError as error:
                assert "other.sqlite3" in str(error) and "writable" in str(error), error
                return
            raise AssertionError("it was opened")

        self.works(deed)
