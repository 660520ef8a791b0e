"""Requests by chance at every address of the API: each is answered, none with a fault."""

from __future__ import annotations

import http.client
import json
import random
import tempfile
import threading
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from calm_basin.plan.starting import starting_plan
from calm_basin.rules import usual_family
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app
from tests.browser.case import Server
from tests.plans import channel, document
from tests.siege.spoiling import TOKENS, changed

SPUN_OUT = ("/api/trials", "/api/compare/systems", "/api/store/backup", "/api/session")
"""What is told line by line for as long as one listens, and the door, which makes guessers wait."""


def addresses() -> list[tuple[str, str]]:
    """Every method and address of the API, parts in brackets as they are declared."""
    with tempfile.TemporaryDirectory() as folder:
        store = Store(Path(folder) / "jobs.sqlite3")
        rules = create_app(store).load().url_map.iter_rules()
        store.close()
    return sorted(
        (method, rule.rule)
        for rule in rules
        if rule.rule not in SPUN_OUT
        for method in rule.methods or ()
    )


def thrown(number: int, threads: int = 4) -> Counter[str]:
    """Send ``number`` requests; how many of each status came, and the longest, ms.

    Raises `AssertionError` where one was answered with 500 or not at all.
    """
    known, seen, lock = addresses(), Counter[str](), threading.Lock()
    with tempfile.TemporaryDirectory(prefix="calm-basin-siege-") as folder:
        server = Server(Path(folder) / "jobs.sqlite3")
        job = server.call("POST", "/jobs", {"plan": document()})
        server.call("POST", "/solve", {"plan": document()})
        turns = iter(range(number))

        def work() -> None:
            line = http.client.HTTPConnection("127.0.0.1", server.port, timeout=60)
            while True:
                with lock:
                    turn = next(turns, None)
                if turn is None or seen["500"]:
                    line.close()
                    return
                asked = _request(random.Random(turn), known, job["job_id"])
                begun = time.monotonic()
                line.request(*asked)
                answer = line.getresponse()
                answer.read()
                took = round(1000 * (time.monotonic() - begun))
                with lock:
                    seen[str(answer.status)] += 1
                    if took > seen["longest, ms"]:
                        seen["longest, ms"], seen["of turn"] = took, turn
                assert answer.status != 500, f"{turn}: {asked[:2]}"

        with ThreadPoolExecutor(threads) as crowd:
            for done in [crowd.submit(work) for _ in range(threads)]:
                done.result()
        server.kill()
    return seen


def _request(
    chance: random.Random, known: list[tuple[str, str]], job: str
) -> tuple[str, str, bytes | None, dict[str, str]]:
    method, rule = chance.choice(known)
    if method not in ("POST", "PUT") and chance.random() < 0.8:
        method, rule = chance.choice([one for one in known if one[0] in ("POST", "PUT")])
    path = rule.replace("<path:_path>", "nothing").replace("<job_id>", chance.choice((job, "x%00")))
    for part in ("name", "key", "item"):
        path = path.replace(f"<{part}>", chance.choice(("us-dwelling", "%2e%2e", "x" * 300, "é")))
    path = path.encode("ascii", "backslashreplace").decode().replace("\\", "%5C")
    if chance.random() < 0.2:
        path += f"?paper={chance.randrange(9)}&pages=%ff,{'a' * chance.randrange(400)}"
    headers = {"Content-Type": "application/json"}
    if chance.random() < 0.1:
        headers |= chance.choice(
            (
                {"Content-Type": "text/plain; charset=\u00ff"},
                {"Idempotency-Key": "k" * chance.randrange(300)},
                {"Accept": "*/*;q=nan", "Cookie": "a=b; =; ;;"},
                {"Range": "bytes=5-2"},
                {"If-Modified-Since": "never"},
            )
        )
    if method in ("GET", "HEAD", "OPTIONS"):
        return method, path, None, headers
    return method, path, _body(chance), headers


def _body(chance: random.Random) -> bytes:
    plan: Any = document(drain=channel(0, 1765, 1500, 1765)) if chance.random() < 0.3 else None
    plan = plan or (document() if chance.random() < 0.7 else _fresh())
    for _ in range(chance.choice((0, 1, 1, 2, 6))):
        changed(chance, plan)
    whole: Any = {
        "plan": plan, "base": chance.choice((0, 1, 2, -1, "1")), "writer": "w", "write": 1,
        "text": chance.choice(("5' 2", "1e999", "1:0", "")), "kind": chance.choice(("length", 1)),
        "display": {"length": chance.choice(("in", "parsec"))}, "values": [1, 1e300],
        "csv": chance.choice(("x,y,reading\n1,2,3", "x;y\n", "\x00")), "at": [[1, 2], [1e9, 0]],
        "start": [0, 0], "end": [1000, chance.choice((0, 1e308))], "act": chance.choice(
            ("split", "stretch", "add", "remove", "system", "screws", "fly")),
        "which": "room", "axis": 0, "size": chance.choice((0, -5, 1e9, 3000)),
        "what": chance.choice(("door", "fixture", "nothing")), "path": "/room/doors/0",
        "revision": 1, "name": "n", "length": "mm", "rule_set": "us-dwelling", "of": "x", "id": "y",
        "rule_sets": ["us-dwelling", "x"],
    }  # fmt: skip
    for _ in range(chance.choice((0, 0, 1, 3))):
        changed(chance, whole)
    text = json.dumps(whole).encode("utf-8", "surrogatepass")
    if chance.random() < 0.15:
        at = chance.randrange(len(text))
        text = text[:at] + chance.choice(TOKENS) + text[at + chance.randrange(9) :]
    if chance.random() < 0.05:
        text = chance.choice((b"", b"[" * 50_000, b"null", b"\xff" * 900, b"{" * 3))
    return text


def _fresh() -> Any:
    return starting_plan(
        "n", "in", "us-dwelling", usual_family("linear", "bed"), 1 / 48
    ).model_dump(mode="json")
