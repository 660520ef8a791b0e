"""A large JSON object, member by member, so that little of it is in memory at a time."""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Iterator
from typing import Any

from calm_basin.plan import PlanError, Problem
from calm_basin.plan.reading import LARGEST_DOCUMENT, no_constant

LARGEST = LARGEST_DOCUMENT + 10_000
"""Most characters of one value: a plan and what stands beside it."""

_WINDOWS = (50_000, LARGEST)
_SPACE = re.compile(r"[ \t\n\r]*")
_DECODER = json.JSONDecoder(parse_constant=no_constant)


def members_of(text: str, listed: str, known: Collection[str]) -> Iterator[tuple[str, Any]]:
    """The members of the object that ``text`` is, by name, as they come; the one named ``listed``
    is a list, whose items come one by one under its name.

    Raises `ValueError` where it is no such object or has a member twice, `PlanError` where it has
    one that is neither ``listed`` nor ``known``, `RecursionError` where it is nested too deeply.
    """
    there: set[str] = set()
    at = _past(text, 0, "{")
    while True:
        name, at = _value(text, at)
        if not isinstance(name, str) or name not in {listed, *known}:
            path = f"/{name[:60]}" if isinstance(name, str) else ""
            raise PlanError([Problem(path, "The file may hold no such part. Remove it.")])
        if name in there:
            raise ValueError(f"it has the member “{name}” twice")
        there.add(name)
        at = _past(text, at, ":")
        if name == listed:
            at = _past(text, at, "[")
            if text[_space(text, at) : _space(text, at) + 1] == "]":
                at = _past(text, at, "]")
            else:
                while True:
                    value, at = _value(text, at)
                    yield name, value
                    found, at = _one_of(text, at, ",]")
                    if found == "]":
                        break
        else:
            value, at = _value(text, at)
            yield name, value
        found, at = _one_of(text, at, ",}")
        if found == "}":
            break
    if _space(text, at) != len(text):
        raise ValueError(f"something follows its end at character {at + 1:,}")


def _value(text: str, at: int) -> tuple[Any, int]:
    start = _space(text, at)
    for size in _WINDOWS:
        window = text[start : start + size]
        whole = start + size >= len(text)
        try:
            value, end = _DECODER.raw_decode(window)
        except json.JSONDecodeError as error:
            if whole:
                raise ValueError(f"{error.msg} at character {start + error.pos + 1:,}") from None
            continue
        # A number may go on where the window ends: "2" may be the beginning of "2e-7".
        if end + 2 < len(window) or whole:
            return value, start + end
    raise ValueError(
        f"the part at character {start + 1:,} is broken, or longer than {LARGEST:,} characters"
    )


def _space(text: str, at: int) -> int:
    found = _SPACE.match(text, at)
    return found.end() if found else at


def _past(text: str, at: int, mark: str) -> int:
    return _one_of(text, at, mark)[1]


def _one_of(text: str, at: int, marks: str) -> tuple[str, int]:
    at = _space(text, at)
    found = text[at : at + 1]
    if not found or found not in marks:
        expected = " or ".join(f"“{mark}”" for mark in marks)
        raise ValueError(f"{expected} is expected at character {at + 1:,}")
    return found, at + 1
