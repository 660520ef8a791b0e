"""Serve the application: many connections, bounded bodies, and word of those who went away."""

from __future__ import annotations

import asyncio
import io
import json
import logging
import os
import socket
import tempfile
import threading
from collections import Counter
from collections.abc import Mapping, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any, ClassVar, cast

import uvicorn
from a2wsgi import WSGIMiddleware
from a2wsgi.wsgi import build_environ
from uvicorn.protocols.http.h11_impl import H11Protocol

from calm_basin.web import intake
from calm_basin.web.app import Pages
from calm_basin.web.network import is_this_machine
from calm_basin.web.outbox import Outbox
from calm_basin.web.work import GONE

THREADS = 32
"""So many requests are answered at a time; heavy work waits in few of them (`Apart`)."""

CONNECTIONS = 1000
"""More at a time are told to come back."""

PATIENCE = 15.0
"""A connection that sends no whole request for so long is closed, s."""

SHARE = 64
"""So many connections of one other machine are open at a time: whoever holds that many leaves the
rest to others."""


LINES = 20_000
"""In so many lines a body that comes in chunks may be cut: each of them takes time to read."""

TOO_MANY = (
    b"HTTP/1.1 413 Content Too Large\r\nconnection: close\r\ncontent-type: text/plain\r\n\r\n"
    b"The request comes in too many pieces. Send it in one.\n"
)


def _is_chunked(headers: Any) -> bool:
    return any(name == b"transfer-encoding" for name, _ in headers)


class _Impatient(H11Protocol):
    """A connection that is closed where it sends nothing, or half a request, and no more; and at
    once where its address has more than its share."""

    _of: ClassVar[Counter[str]] = Counter()

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        self._asked: Any = None
        self._chunked: Any = None
        self._unread = -1
        self._look_again = self.loop.call_later(PATIENCE, self._look)
        self._address = str((transport.get_extra_info("peername") or ("",))[0])
        self._of[self._address] += 1
        if self._of[self._address] > SHARE and not is_this_machine(self._address):
            transport.abort()

    def data_received(self, data: bytes) -> None:
        asked = self.cycle
        if asked is not None and not asked.response_complete and _is_chunked(self.headers):
            if asked is not self._chunked:
                self._chunked, self._lines = asked, 0
            self._lines += data.count(b"\r\n")
            if self._lines > LINES:
                self.transport.write(TOO_MANY)
                self.transport.close()
                return
        super().data_received(data)

    def connection_lost(self, exc: Exception | None) -> None:
        self._look_again.cancel()
        self._of[self._address] -= 1
        if not self._of[self._address]:
            del self._of[self._address]
        super().connection_lost(exc)

    def _look(self) -> None:
        done = self.cycle is None or self.cycle.response_complete
        if self.transport.is_closing():
            # Where it read nothing of its last answer for so long, it will not read it any more.
            unread, self._unread = self._unread, self.transport.get_write_buffer_size()
            if unread == self._unread:
                self.transport.abort()
                return
        elif done and self.cycle is self._asked:
            self.transport.close()
            self._look_again = self.loop.call_later(PATIENCE, self._look)
            return
        self._asked = self.cycle
        self._look_again = self.loop.call_later(PATIENCE, self._look)


class _Front:
    """Takes a request's body in, within its bound and its time, before a thread is given to it;
    hears whether whoever asked goes away; and takes the answer off the thread at once."""

    def __init__(self, app: Pages) -> None:
        self._pages, self._app = app, cast(Any, WSGIMiddleware(app, workers=THREADS))

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        if intake.is_large(scope):
            environ = build_environ(scope, cast(Any, io.BytesIO()))
            said = await asyncio.to_thread(self._pages.refused, environ)
            if said is not None:
                await _refuse(receive, send, said.status_code, dict(said.headers), said.get_data())
                return
        with tempfile.SpooledTemporaryFile(max_size=intake.PIECE) as kept:
            wrong = await intake.taken_in(scope, receive, kept, PATIENCE)
            if wrong:
                await _refuse(receive, send, 413, PROBLEM, _problem(wrong))
                return
            gone, outbox = threading.Event(), Outbox(send, PATIENCE)
            watch = asyncio.ensure_future(_watch(receive, gone))
            giving = asyncio.ensure_future(outbox.give())
            try:
                await self._app({**scope, GONE: gone}, intake.handing_on(kept), outbox.take)
                # One that is not read is let go of; the connection is closed with that.
                with suppress(TimeoutError):
                    await giving
            finally:
                giving.cancel()
                watch.cancel()
                outbox.close()


async def _watch(receive: Any, gone: threading.Event) -> None:
    while (await receive())["type"] != "http.disconnect":
        continue
    gone.set()


PROBLEM = {"content-type": "application/problem+json", "x-content-type-options": "nosniff"}


def _problem(detail: str) -> bytes:
    said = {"type": "about:blank", "title": "Not taken", "status": 413, "detail": detail}
    return json.dumps(said).encode()


async def _refuse(
    receive: Any, send: Any, status: int, headers: Mapping[str, str], body: bytes
) -> None:
    named = [(name.lower().encode(), value.encode("latin1")) for name, value in headers.items()]
    await send({"type": "http.response.start", "status": status, "headers": named})
    await send({"type": "http.response.body", "body": body, "more_body": True})
    await intake.let_by(receive, PATIENCE)
    await send({"type": "http.response.body", "body": b"", "more_body": False})


def listening(host: str, port: int) -> socket.socket:
    """A socket that listens. Raises `OSError`; `socket.gaierror` where there is no such host."""
    family, _, _, _, place = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)[0]
    listener = socket.socket(family)
    try:
        if os.name == "posix":
            listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        listener.bind(place)
        listener.listen(512)
    except OSError:
        listener.close()
        raise
    return listener


class _Server(uvicorn.Server):
    """Stops by itself where it was told to end before it listened to signals."""

    def __init__(self, config: uvicorn.Config, ended: Sequence[int]) -> None:
        super().__init__(config)
        self._ended = ended

    async def on_tick(self, counter: int) -> bool:
        return bool(self._ended) or await super().on_tick(counter)


def serve(
    app: Pages,
    listener: socket.socket,
    tls: tuple[Path, Path] | None = None,
    ended: Sequence[int] = (),
) -> None:
    """Serve until it is stopped by a signal, or one has been noted in ``ended``; ``tls`` are the
    files of a certificate and its key."""
    _more_files()
    logging.getLogger("uvicorn.error").setLevel(logging.ERROR)
    options: dict[str, Any] = {}
    if tls:
        options = {"ssl_certfile": str(tls[0]), "ssl_keyfile": str(tls[1])}
    config = uvicorn.Config(
        _Front(app),
        http=_Impatient,
        ws="none",
        loop="asyncio",
        lifespan="off",
        access_log=False,
        server_header=False,
        proxy_headers=False,
        limit_concurrency=CONNECTIONS,
        timeout_keep_alive=int(PATIENCE),
        timeout_graceful_shutdown=2,
        log_config=None,
        **options,
    )
    _Server(config, ended).run(sockets=[listener])


def _more_files() -> None:
    """Let as many connections be open as the system allows: each is a file."""
    try:
        import resource

        _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
        resource.setrlimit(resource.RLIMIT_NOFILE, (most, most))
    except (ImportError, ValueError, OSError):
        logging.getLogger(__name__).debug("The number of open files stays as it is.")
