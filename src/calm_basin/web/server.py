"""Serve the application: many connections, bounded bodies, and word of those who went away."""

from __future__ import annotations

import asyncio
import json
import logging
import os
import socket
import tempfile
import threading
from contextlib import suppress
from pathlib import Path
from typing import IO, Any

import uvicorn
from a2wsgi import WSGIMiddleware
from flask import Flask
from uvicorn.protocols.http.h11_impl import H11Protocol

from calm_basin.web.limits import largest, too_large
from calm_basin.web.work import GONE

THREADS = 32
"""So many requests are answered at a time; heavy work waits in few of them (`Apart`)."""

CONNECTIONS = 1000
"""More at a time are told to come back."""

PATIENCE = 15.0
"""A connection that sends no whole request for so long is closed, s."""

LET_BY = 50_000_000
"""So many bytes of a body that is refused are let by, so that its sender hears why."""

PIECE = 1_000_000
"""Bytes of a body that are handed on at a time, and that are kept in memory."""


class _Impatient(H11Protocol):
    """A connection that is closed where it sends nothing, or half a request, and no more."""

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        self._asked: Any = None
        self._look_again = self.loop.call_later(PATIENCE, self._look)

    def connection_lost(self, exc: Exception | None) -> None:
        self._look_again.cancel()
        super().connection_lost(exc)

    def _look(self) -> None:
        done = self.cycle is None or self.cycle.response_complete
        if done and self.cycle is self._asked:
            self.transport.close()
            return
        self._asked = self.cycle
        self._look_again = self.loop.call_later(PATIENCE, self._look)


class _Front:
    """Takes a request's body in, within its bound and its time, before a thread is given to it;
    then hears whether whoever asked goes away."""

    def __init__(self, app: Flask) -> None:
        self._app: Any = WSGIMiddleware(app, workers=THREADS)  # type: ignore[arg-type]

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        with tempfile.SpooledTemporaryFile(max_size=PIECE) as kept:
            if not await _taken_in(scope, receive, kept):
                await _refuse(scope["path"], receive, send)
                return
            gone = threading.Event()
            watch = asyncio.ensure_future(_watch(receive, gone))
            try:
                await self._app({**scope, GONE: gone}, _handing_on(kept), send)
            finally:
                watch.cancel()


async def _taken_in(scope: Any, receive: Any, kept: IO[bytes]) -> bool:
    """Read the body; whether all of it came and is no larger than it may be."""
    most = largest(scope["path"])
    told = dict(scope["headers"]).get(b"content-length", b"0")
    if not told.isdigit() or int(told[:20]) > most:
        return False
    more, size = True, 0
    while more:
        try:
            message = await asyncio.wait_for(receive(), PATIENCE)
        except TimeoutError:
            return False
        if message["type"] == "http.disconnect":
            return False
        size += len(message.get("body", b""))
        if size > most:
            return False
        kept.write(message.get("body", b""))
        more = message.get("more_body", False)
    kept.seek(0)
    return True


def _handing_on(kept: IO[bytes]) -> Any:
    async def receive() -> dict[str, Any]:
        piece = kept.read(PIECE)
        return {"type": "http.request", "body": piece, "more_body": len(piece) == PIECE}

    return receive


async def _watch(receive: Any, gone: threading.Event) -> None:
    while (await receive())["type"] != "http.disconnect":
        continue
    gone.set()


async def _refuse(path: str, receive: Any, send: Any) -> None:
    # Most send all of a body before they read the answer: some of it is let by, and not kept.
    passed, more = 0, True
    with suppress(TimeoutError):
        while more and passed < LET_BY:
            message = await asyncio.wait_for(receive(), PATIENCE)
            more, passed = message.get("more_body", False), passed + len(message.get("body", b""))
    said = {
        "type": "about:blank",
        "title": "Too large",
        "status": 413,
        "detail": too_large(path),
    }
    headers = [
        (b"content-type", b"application/problem+json"),
        (b"x-content-type-options", b"nosniff"),
    ]
    await send({"type": "http.response.start", "status": 413, "headers": headers})
    await send({"type": "http.response.body", "body": json.dumps(said).encode()})


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


def serve(app: Flask, listener: socket.socket, tls: tuple[Path, Path] | None = None) -> None:
    """Serve until it is stopped by a signal; ``tls`` are the files of a certificate and its key."""
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
    uvicorn.Server(config).run(sockets=[listener])


def _more_files() -> None:
    """Let as many connections be open as the system allows: each is a file."""
    try:
        import resource

        _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
        resource.setrlimit(resource.RLIMIT_NOFILE, (most, most))
    except (ImportError, ValueError, OSError):
        logging.getLogger(__name__).debug("The number of open files stays as it is.")
