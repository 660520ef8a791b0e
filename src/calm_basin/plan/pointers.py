"""JSON pointers into a plan's document."""

from __future__ import annotations

from typing import Any


def steps(pointer: str) -> list[str]:
    """The names and numbers on the way to what a pointer leads to."""
    return pointer.removeprefix("/").split("/")


def at(document: Any, pointer: str) -> Any:
    """What stands in a document where a pointer leads to; None where that is nothing."""
    for name in steps(pointer):
        if isinstance(document, list):
            number = int(name) if name.isdigit() else len(document)
            document = document[number] if number < len(document) else None
        else:
            document = document.get(name) if isinstance(document, dict) else None
    return document
