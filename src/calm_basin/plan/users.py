"""Who will use the room: it decides which spaces are looked at."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from calm_basin.plan.base import Name, Part

User = Literal["walks", "frame", "carer", "chair", "powered"]
"""Walks unaided, walks with a frame, has a carer beside, moves a chair by hand, drives one."""

SITTING: tuple[User, ...] = ("chair", "powered")
"""Users who sit in a chair."""

Side = Literal["left", "right"]

Reason = Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=300)]


class Override(Part):
    """A limit of the rule set that this job keeps at another value, and why.

    ``topic``, ``binds`` and ``applies_to`` name the limit; ``given`` is written as a limit is: a
    fall such as ``1:50``, or a length such as ``20mm``.
    """

    topic: Annotated[str, Field(min_length=1, max_length=60)]
    binds: Literal["at_least", "at_most"]
    applies_to: Name
    given: Annotated[str, Field(min_length=1, max_length=30)]
    reason: Reason
