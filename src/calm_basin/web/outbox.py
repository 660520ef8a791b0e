"""An answer on its way: who reads it slowly, or not at all, holds up nobody else."""

from __future__ import annotations

import asyncio
import tempfile
from collections.abc import Awaitable, Callable
from typing import Any

PIECE = 65_536
"""Bytes of an answer that are handed to the network at a time."""

KEPT = 1_000_000
"""Bytes of an answer that wait in memory; what is beyond them waits on the disk."""

Send = Callable[[Any], Awaitable[None]]


class Outbox:
    """Takes an answer in as fast as it is made, and gives it on as fast as it is read.

    A piece that is not read within ``patience``, s, ends it with a `TimeoutError`.
    """

    def __init__(self, send: Send, patience: float) -> None:
        self._send, self._patience = send, patience
        self._kept = tempfile.SpooledTemporaryFile(max_size=KEPT)  # noqa: SIM115
        self._taken = self._given = 0
        self._start: Any = None
        self._ended = False
        self._news = asyncio.Event()

    async def take(self, message: Any) -> None:
        """A message of the answer, as ASGI has it; it waits for nobody."""
        if message["type"] == "http.response.start":
            self._start = message
            return
        body = message.get("body", b"")
        self._kept.seek(self._taken)
        self._kept.write(body)
        self._taken += len(body)
        self._ended = not message.get("more_body", False)
        self._news.set()

    async def give(self) -> None:
        """Give all of it on. Raises `TimeoutError`."""
        await self._news.wait()
        await self._sent(self._start)
        while self._given < self._taken or not self._ended:
            if self._given == self._taken:
                self._news.clear()
                await self._news.wait()
                continue
            self._kept.seek(self._given)
            piece = self._kept.read(min(PIECE, self._taken - self._given))
            self._given += len(piece)
            await self._sent({"type": "http.response.body", "body": piece, "more_body": True})
        await self._sent({"type": "http.response.body", "body": b"", "more_body": False})

    async def _sent(self, message: Any) -> None:
        await asyncio.wait_for(self._send(message), self._patience)

    def close(self) -> None:
        """Let go of what was not given on."""
        self._kept.close()
