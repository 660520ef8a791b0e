"""A request's body on its way in: within its bounds, and not before it is known who sends it."""

from __future__ import annotations

import asyncio
from collections.abc import Awaitable, Callable
from contextlib import suppress
from typing import IO, Any

from calm_basin.web.limits import LARGEST_BODY, largest, too_large

PIECE = 1_000_000
"""Bytes of a body that are handed on at a time, and that are kept in memory."""

FEW, SMALL = 1000, 256
"""A body may come in so many pieces of any size; of more each has so many bytes on average."""

LET_BY = 50_000_000
"""So many bytes of a body that is refused are let by, so that its sender hears why."""

Receive = Callable[[], Awaitable[Any]]


def _told_size(scope: Any) -> int | None:
    """How many bytes a request says that it has, 0 where it says nothing; None where that is no
    number."""
    told = dict(scope["headers"]).get(b"content-length", b"0")
    return int(told[:20]) if told.isdigit() else None


def is_large(scope: Any) -> bool:
    """Whether a request may bring more than a plan does: then the sender is looked up first."""
    return largest(scope["path"]) > LARGEST_BODY


async def taken_in(scope: Any, receive: Receive, kept: IO[bytes], patience: float) -> str:
    """Read the body; empty where all of it came, in sensible pieces, and is no larger than it may
    be, else what is wrong with it, as a sentence."""
    most, told = largest(scope["path"]), _told_size(scope)
    if told is None or told > most:
        return too_large(scope["path"])
    more, size, pieces = True, 0, 0
    while more:
        try:
            message = await asyncio.wait_for(receive(), patience)
        except TimeoutError:
            return "Only a part of the request came. Send it again."
        if message["type"] == "http.disconnect":
            return "Only a part of the request came. Send it again."
        size, pieces = size + len(message.get("body", b"")), pieces + 1
        if size > most:
            return too_large(scope["path"])
        if pieces > FEW and size < pieces * SMALL:
            return "The request comes in pieces that are too small. Send it in one."
        kept.write(message.get("body", b""))
        more = message.get("more_body", False)
    kept.seek(0)
    return ""


def handing_on(kept: IO[bytes]) -> Receive:
    """What hands a body that was taken in on, piece by piece."""

    async def receive() -> dict[str, Any]:
        piece = kept.read(PIECE)
        return {"type": "http.request", "body": piece, "more_body": len(piece) == PIECE}

    return receive


async def let_by(receive: Receive, patience: float) -> None:
    """Let some of a body that is refused by: most send all of it before they read the answer."""
    passed, pieces, more = 0, 0, True
    with suppress(TimeoutError):
        while more and passed < LET_BY and not (pieces > FEW and passed < pieces * SMALL):
            message = await asyncio.wait_for(receive(), patience)
            more, size = message.get("more_body", False), len(message.get("body", b""))
            passed, pieces = passed + size, pieces + 1
