"""Furring that brings the studs of a wall into one plumb plane: numbers only."""

from __future__ import annotations

from typing import NamedTuple

from calm_basin.plan.walls import StudFace


class Furring(NamedTuple):
    """How much goes on a stud, mm: at its foot and at its head."""

    face: StudFace
    foot: float
    head: float


def furring(faces: tuple[StudFace, ...], wall: int) -> list[Furring]:
    """What each stud of a wall takes, from its first corner on: nothing comes off a stud, so the
    plane goes through the place that stands out most."""
    own = sorted((face for face in faces if face.wall == wall), key=lambda face: face.offset)
    out = min((min(face.foot, face.head) for face in own), default=0.0)
    return [Furring(face, face.foot - out, face.head - out) for face in own]
