"""The server as others meet it: half requests, large bodies, heavy plans, the site's network."""

import json
import os
import re
import signal
import socket
import ssl
import subprocess
import sys
import tempfile
import threading
import time
import unittest
import urllib.error
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack, closing
from pathlib import Path
from unittest import mock

from calm_basin.web import certificate, network, server
from calm_basin.web.app import Pages
from calm_basin.web.intake import LET_BY
from tests.plans import document
from tests.web.test_process import ask, demo, refused, running

CLI = "calm_basin.cli"
RIGHT = "four words not together"


class LoadTest(unittest.TestCase):
    def test_half_open_connections_do_not_silence_it(self) -> None:
        address = demo()
        with ExitStack() as held:
            place = ("127.0.0.1", int(address.rsplit(":", 1)[1]))
            for i in range(400):
                one = held.enter_context(socket.create_connection(place, timeout=10))
                one.sendall(
                    (b"", b"GET / HT", b"POST /api/solve HTTP/1.1\r\nHost: 127.0.0.1\r\n")[i % 3]
                )
            self.assertTrue(ask(f"{address}/api/jobs")["jobs"])

    def test_a_connection_that_asks_for_nothing_is_closed(self) -> None:
        patience = "import calm_basin.web.server as s; s.PATIENCE = 0.5; "
        start = "from calm_basin.cli import main; main(['demo', '--port', '0'])"
        process = subprocess.Popen(
            [sys.executable, "-u", "-c", patience + start], stdout=subprocess.PIPE, text=True
        )
        self.addCleanup(process.communicate)
        self.addCleanup(process.terminate)
        assert process.stdout is not None
        port = int(process.stdout.readline().split(":")[2].split("/")[0])
        for sent in (
            b"",
            b"GET / HT",
            b"POST /api/solve HTTP/1.1\r\nHost: localhost\r\nContent-Length: 9\r\n\r\n{",
        ):
            with socket.create_connection(("127.0.0.1", port), timeout=30) as one:
                one.sendall(sent)
                said = b""
                while piece := one.recv(4096):
                    said += piece
                self.assertTrue(said == b"" or b" 413 " in said or b" 408 " in said, said[:99])

    def test_answers_that_nobody_reads_do_not_silence_it(self) -> None:
        address = demo()
        with urllib.request.urlopen(f"{address}/") as page:
            asset = re.findall(r'src="(/assets/[^"]+)"', page.read().decode())[0]
        place = ("127.0.0.1", int(address.rsplit(":", 1)[1]))
        with ExitStack() as held:
            for _ in range(2 * server.THREADS):
                one = held.enter_context(socket.socket())
                one.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 4096)
                one.connect(place)
                one.sendall(f"GET {asset} HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n".encode())
            self.assertTrue(ask(f"{address}/api/jobs")["jobs"])

    def test_an_answer_that_is_read_slowly_comes_whole(self) -> None:
        address = demo()
        with urllib.request.urlopen(f"{address}/") as page:
            asset = re.findall(r'src="(/assets/[^"]+)"', page.read().decode())[0]
        with urllib.request.urlopen(address + asset) as whole:
            expected = whole.read()
        with socket.socket() as one:
            one.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 4096)
            one.connect(("127.0.0.1", int(address.rsplit(":", 1)[1])))
            head = f"GET {asset} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n"
            one.sendall(head.encode())
            said = b""
            while piece := one.recv(20_000):
                said += piece
        self.assertEqual(said.split(b"\r\n\r\n", 1)[1], expected)

    def test_a_body_in_a_million_pieces_is_refused_at_once(self) -> None:
        address = demo()
        place = ("127.0.0.1", int(address.rsplit(":", 1)[1]))
        with socket.create_connection(place, timeout=30) as one:
            head = "POST /api/solve HTTP/1.1\r\nHost: 127.0.0.1\r\n"
            one.sendall(f"{head}Transfer-Encoding: chunked\r\n\r\n".encode())
            sender = threading.Thread(target=self.pieces, args=(one,))
            sender.start()
            said = one.recv(4096)
            self.assertIn(b" 413 ", said)
            self.assertIn(b"too many pieces", said)
            one.close()
            sender.join()

    @staticmethod
    def pieces(one: socket.socket) -> None:
        try:
            for _ in range(1000):
                one.sendall(b"1\r\nx\r\n" * 1000)
        except OSError:
            return

    def test_a_body_over_the_limit_is_refused_before_it_is_kept(self) -> None:
        address = demo()
        for path, size in (("/api/solve", 10_000_000), ("/api/jobs/import", 10**9)):
            with socket.create_connection(
                ("127.0.0.1", int(address.rsplit(":", 1)[1])), timeout=30
            ) as one:
                head = f"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {size}\r\n\r\n"
                one.sendall(head.encode())
                sender = threading.Thread(target=self.pour, args=(one, size))
                sender.start()
                try:
                    said = one.recv(4096)
                except ConnectionResetError:
                    # Whoever goes on sending far beyond the limit may find the line closed.
                    said = b" 413 " if size > LET_BY else b"reset"
                self.assertIn(b" 413 ", said)
                one.close()
                sender.join()

    @staticmethod
    def pour(one: socket.socket, size: int) -> None:
        try:
            for _ in range(size // 1_000_000):
                one.sendall(b"x" * 1_000_000)
        except OSError:
            return

    def test_the_worst_plans_at_once_leave_saving_and_opening_alone(self) -> None:
        heavy = document()
        heavy["room"]["outline"] = [[0, 0], [13000, 0], [13000, 13000], [0, 13000]]
        heavy["survey"] = {
            "levels": [
                {"kind": "height", "x": 180.0 * (i % 70), "y": 180.0 * (i // 70), "height": i % 7}
                for i in range(4900)
            ]
        }
        heavy["floor"]["centres"] = 600
        with running("demo", "--port", "0") as address, ThreadPoolExecutor(12) as pool:
            head = ask(f"{address}/api/jobs", {"plan": document()})
            asked = [
                pool.submit(ask, f"{address}/api/solve", {"plan": heavy | {"pin_spacing": 100 + i}})
                for i in range(6)
            ]
            for set_down in range(1, 11):
                put = urllib.request.Request(
                    f"{address}/api/jobs/{head['job_id']}/plan",
                    json.dumps(
                        {"base": head["revision"], "plan": document(set_down=set_down)}
                    ).encode(),
                    method="PUT",
                )
                with urllib.request.urlopen(put, timeout=60) as answer:
                    head = json.loads(answer.read())
                self.assertEqual(
                    ask(f"{address}/api/jobs/{head['job_id']}")["revision"], head["revision"]
                )
            # On a machine in use they may take too long: then that is told, and nothing else is.
            for one in asked:
                try:
                    self.assertIn("findings", one.result())
                except urllib.error.HTTPError as error:
                    self.assertIn(error.code, (422, 503))
                    self.assertIn("Not worked out", error.read().decode())

    def test_a_request_that_is_given_up_frees_its_worker(self) -> None:
        address = demo()
        place = ("127.0.0.1", int(address.rsplit(":", 1)[1]))
        body = json.dumps({"plan": document(), "floors": 1000, "correlation": 3000}).encode()
        head = "POST /api/trials HTTP/1.1\r\nHost: 127.0.0.1\r\n"
        head += f"Content-Length: {len(body)}\r\n\r\n"
        for _ in range(5):
            with socket.create_connection(place, timeout=60) as one:
                one.sendall(head.encode() + body)
                self.assertIn(b" 200 ", one.recv(400))


class NetworkTest(unittest.TestCase):
    def test_beyond_this_machine_a_passphrase_is_needed(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            database = str(Path(folder) / "jobs.sqlite3")
            none = refused("--host", "0.0.0.0", "--port", "0", "--database", database)
            self.assertEqual(none.returncode, 1)
            self.assertIn("passphrase", none.stderr)
            with mock.patch.dict(os.environ, {"CALM_BASIN_PASSPHRASE": "short"}):
                short = refused("--host", "0.0.0.0", "--port", "0", "--database", database)
            self.assertIn("12 to 128", short.stderr)

    def test_on_the_network_one_signs_in_over_tls(self) -> None:
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.dict(os.environ, {"CALM_BASIN_PASSPHRASE": RIGHT}),
        ):
            database = Path(folder) / "jobs.sqlite3"
            command = ("serve", "--host", "0.0.0.0", "--port", "0", "--tls", "--database")
            with running(*command, str(database)) as address:
                port = address.rsplit(":", 1)[1]
                made = Path(folder) / "jobs-tls" / "certificate.pem"
                self.assertEqual((Path(folder) / "jobs-tls" / "key.pem").stat().st_mode & 0o77, 0)
                context = ssl.create_default_context(cafile=made)
                opener = urllib.request.build_opener(
                    urllib.request.HTTPSHandler(context=context),
                    urllib.request.HTTPCookieProcessor(),
                )
                url = f"https://127.0.0.1:{port}/api"
                with self.assertRaises(urllib.error.HTTPError) as caught:
                    opener.open(f"{url}/jobs", timeout=30)
                self.assertEqual(caught.exception.code, 401)
                caught.exception.close()
                body = json.dumps({"passphrase": RIGHT}).encode()
                opener.open(f"{url}/session", body, timeout=30).close()
                with opener.open(f"{url}/jobs", timeout=30) as answer:
                    self.assertEqual(json.loads(answer.read()), {"jobs": []})
                forged = urllib.request.Request(f"{url}/jobs", headers={"Host": "evil.example"})
                with self.assertRaises(urllib.error.HTTPError) as caught:
                    opener.open(forged, timeout=30)
                self.assertEqual(caught.exception.code, 421)
                caught.exception.close()

    def test_a_certificate_is_kept_until_a_name_is_missing(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            database = Path(folder) / "jobs.sqlite3"
            first = certificate.certificate(database, ["192.0.2.7", "site"])[0].read_bytes()
            self.assertEqual(certificate.certificate(database, ["site"])[0].read_bytes(), first)
            files = certificate.certificate(database, ["192.0.2.8"])
            self.assertNotEqual(files[0].read_bytes(), first)
            self.assertRegex(certificate.fingerprint(files[0]), r"^([0-9A-F]{2}:){31}[0-9A-F]{2}$")

    def test_names_and_addresses(self) -> None:
        for host, here in (
            ("127.0.0.1", True),
            ("127.8.8.8", True),
            ("::1", True),
            ("localhost", True),
            ("0.0.0.0", False),
            ("::", False),
            ("192.0.2.7", False),
            ("evil.example", False),
        ):
            self.assertEqual(network.is_this_machine(host), here, host)
        self.assertEqual(network.in_address("::1"), "[::1]")
        self.assertEqual(network.names_of("192.0.2.7"), ["192.0.2.7"])
        self.assertIn("127.0.0.1", network.names_of("0.0.0.0"))

    def test_addresses_that_cannot_be_used_are_told_without_a_trace(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            database = str(Path(folder) / "jobs.sqlite3")
            for host, word in (("no such host", "There is no address"), ("192.0.2.7", "--host")):
                with mock.patch.dict(os.environ, {"CALM_BASIN_PASSPHRASE": RIGHT}):
                    told = refused("--host", host, "--port", "0", "--database", database)
                self.assertEqual(told.returncode, 1, host)
                self.assertIn(word, told.stderr)
                self.assertNotIn("Traceback", told.stderr)

    def test_ipv6_is_printed_as_an_address(self) -> None:
        try:
            server.listening("::1", 0).close()
        except OSError:
            self.skipTest("this machine has no IPv6")
        with running("demo", "--host", "::1", "--port", "0") as address:
            self.assertRegex(address, r"^http://\[::1\]:\d+$")
            self.assertTrue(ask(f"{address}/api/jobs")["jobs"])


class StartTest(unittest.TestCase):
    def test_two_that_start_at_once_on_a_new_file_both_come_up(self) -> None:
        with tempfile.TemporaryDirectory() as folder, ExitStack() as both:
            database = str(Path(folder) / "jobs.sqlite3")
            found: list[str] = []

            def start() -> None:
                found.append(
                    both.enter_context(running("serve", "--port", "0", "--database", database))
                )

            threads = [threading.Thread(target=start) for _ in range(2)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
            self.assertEqual(len(found), 2)
            ask(f"{found[0]}/api/jobs", {"plan": document()})
            self.assertEqual(len(ask(f"{found[1]}/api/jobs")["jobs"]), 1)

    def test_a_folder_that_can_only_be_read_is_told_as_that(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            place = Path(folder)
            inside = place / "file" / "jobs.sqlite3"
            inside.parent.write_text("no folder", "utf-8")
            told = refused("--port", "0", "--database", str(inside))
            self.assertEqual(told.returncode, 1)
            self.assertNotIn("port", told.stderr.lower().replace("--port", ""))
            self.assertNotIn("Traceback", told.stderr)
            self.assertIn("jobs.sqlite3", told.stderr)

    def test_no_process_is_left_behind_when_it_is_killed(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            database = str(Path(folder) / "jobs.sqlite3")
            process = subprocess.Popen(
                [sys.executable, "-u", "-m", CLI, "serve", "--port", "0", "--database", database],
                stdout=subprocess.PIPE,
                text=True,
            )
            assert process.stdout is not None
            address = process.stdout.readline().split()[5].rstrip("/")
            ask(f"{address}/api/solve", {"plan": document()})
            kept = _children(process.pid)
            self.assertTrue(kept)
            process.kill()
            process.communicate()
            until = time.monotonic() + 30
            while any(Path(f"/proc/{pid}").exists() for pid in kept):
                self.assertLess(time.monotonic(), until, "workers are left behind")
                time.sleep(0.1)


def _children(pid: int) -> list[int]:
    """The processes that came of one, and those that came of them."""
    found = []
    for folder in Path("/proc").glob("[0-9]*"):
        try:
            parent = int((folder / "stat").read_text().rsplit(")", 1)[1].split()[1])
        except (OSError, ValueError):
            continue
        if parent == pid:
            child = int(folder.name)
            found += [child, *_children(child)]
    return found


class EndTest(unittest.TestCase):
    def test_a_demo_that_is_ended_leaves_nothing_behind(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            with mock.patch.dict(os.environ, {"TMPDIR": folder}), running("demo", "--port", "0"):
                self.assertTrue(list(Path(folder).glob("calm-basin-demo-*")))
            self.assertEqual(list(Path(folder).glob("calm-basin-demo-*")), [])

    def test_told_to_end_while_it_still_loads_it_does_not_begin_to_serve(self) -> None:
        with closing(server.listening("127.0.0.1", 0)) as listener:
            serving = threading.Thread(
                target=server.serve,
                args=(Pages(frozenset({"127.0.0.1"})), listener),
                kwargs={"ended": [signal.SIGTERM]},
                daemon=True,
            )
            serving.start()
            serving.join(30)
            self.assertFalse(serving.is_alive())

    def test_told_at_once_it_ends_each_time_by_either_signal(self) -> None:
        for number in (signal.SIGTERM, signal.SIGINT):
            with self.subTest(number), tempfile.TemporaryDirectory() as folder:
                process = subprocess.Popen(
                    [sys.executable, "-u", "-m", "calm_basin.cli", "demo", "--port", "0"],
                    env=os.environ | {"TMPDIR": folder},
                    stdout=subprocess.PIPE,
                    text=True,
                )
                assert process.stdout is not None
                self.assertIn("ready", process.stdout.readline())
                process.send_signal(number)
                rest, _ = process.communicate(timeout=60)
                self.assertEqual(process.returncode, 0)
                self.assertEqual("Stopped." in rest, number is signal.SIGINT)
                self.assertEqual(list(Path(folder).glob("calm-basin-demo-*")), [])
