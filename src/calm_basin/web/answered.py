"""Answers that were worked out before: the same plan, asked the same, is answered at once."""

from __future__ import annotations

import threading
from collections.abc import Callable
from hashlib import sha256

from cachetools import LRUCache

MOST = 32_000_000
"""So many bytes of answers are kept; what was asked for longest ago goes first."""


class Answered:
    """Texts by what was asked. An answer hangs on nothing but its question, so it stays right."""

    def __init__(self, most: int = MOST) -> None:
        self._kept: LRUCache[bytes, bytes] = LRUCache(most, getsizeof=len)
        self._lock = threading.Lock()

    def text(self, *question: bytes, work: Callable[[], str]) -> bytes:
        """The answer to a question, all its parts together; worked out where it is not known.

        What ``work`` raises is raised, and not kept.
        """
        key = sha256(b"".join(sha256(part).digest() for part in question)).digest()
        with self._lock:
            known: bytes | None = self._kept.get(key)
        if known is not None:
            return known
        text = work().encode()
        with self._lock:
            if len(text) <= self._kept.maxsize:
                self._kept[key] = text
        return text
