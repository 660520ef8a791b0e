"""Whole files and documents, and something done to them."""

from __future__ import annotations

import copy
import json
import random
from typing import Any

TOKENS = (
    b"1e400", b"-1e400", b"NaN", b"Infinity", b"null", b"true", b"{}", b"[]", b'""', b"-1", b"0",
    b"1e308", b"99999999999999999999999", b'"\\ud800"', b"\x00", b"\xff\xfe", b"\xef\xbb\xbf",
    b"=cmd()", b"\"", b"'", b"\\", b"a.b.c.d", b"[[x]]", b"{{", b"\n\n", b"\r", b";", b",", b":",
    b"2026-13-45T99:99:99", b"1/0", b"5' 2 3/8\"", b"\xf0\x9f\x9b\x81", b"../../etc",
)  # fmt: skip

LEAVES: tuple[Any, ...] = (
    None, True, False, 0, -1, 1, 10**40, -(10**40), 1e308, 5e-324, 0.5, "", "x", "1/4", "5' 3\"",
    "1:48", "\ud800", "\x00", "../../x", "=1+1", [], {}, [[]], {"kind": "none"}, "é" * 500,
)  # fmt: skip


def spoilt(text: bytes, chance: random.Random) -> bytes:
    """The file with something done to it; to one of JSON half the time within its form."""
    if text[:1] == b"{" and chance.random() < 0.5:
        whole = json.loads(text)
        for _ in range(chance.choice((1, 1, 2, 6))):
            changed(chance, whole)
        return json.dumps(whole).encode("utf-8", "surrogatepass")
    found = bytearray(text)
    for _ in range(chance.choice((1, 1, 2, 5, 40))):
        at = chance.randrange(len(found) + 1)
        end = min(len(found), at + chance.choice((1, 4, 30, 400)))
        act = chance.randrange(7)
        if act == 0:
            found[at:end] = b""
        elif act == 1:
            found[at:at] = chance.choice(TOKENS)
        elif act == 2:
            found[at:end] = chance.choice(TOKENS)
        elif act == 3:
            found[at:at] = found[at:end] * chance.choice((1, 3, 200))
        elif act == 4:
            found[at:end] = chance.randbytes(end - at)
        elif act == 5:
            del found[at:]
        else:
            piece = chance.choice((b"[", b'{"a":', b"(", b"a.", b"[[x]]\n", b"0,", b"\n1,2,3"))
            found[at:at] = piece * chance.choice((100, 3000, 200_000 // len(piece)))
    return bytes(found)


def changed(chance: random.Random, whole: Any) -> None:
    """Put something else somewhere into a document."""
    at = whole
    while True:
        keys = list(at) if isinstance(at, dict) else list(range(len(at)))
        if not keys:
            return
        key = chance.choice(keys)
        below = at[key]
        if isinstance(below, dict | list) and below and chance.random() < 0.8:
            at = below
            continue
        if isinstance(below, int | float) and chance.random() < 0.6:
            at[key] = below * chance.choice((-1, 0, 0.5, 1.1, 10, 1e3))
        else:
            at[key] = copy.deepcopy(chance.choice(LEAVES))
        return
