"""Drain families of one's own."""

from __future__ import annotations

import sqlite3
from functools import lru_cache

from calm_basin.plan.reading import Problem
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules import FamilyFileError, drain_families, read_families, written_families
from calm_basin.store import own


def known_families(db: sqlite3.Connection) -> dict[str, DrainFamily]:
    """All families by id: those that ship, then those of one's own."""
    added = [_read(toml) for toml in own.texts(db, "drain_family")]
    return drain_families() | {family.id: family for family in added}


@lru_cache(maxsize=own.MOST)
def _read(toml: str) -> DrainFamily:
    return read_families(toml)[0]


def keep(db: sqlite3.Connection, families: list[DrainFamily]) -> None:
    """Add families, each in the place of the one with its id.

    Raises
    ------
    FamilyFileError
        An id is that of a family that ships, one is given twice, or there are too many.
    """
    known = known_families(db)
    for place, family in enumerate(families):
        path = f"/families/{place}/id"
        if family.id in drain_families():
            message = f"“{family.id}” ships with Calm Basin and stays as it is. Give yours another."
            raise FamilyFileError([Problem(path, message)])
        if family.id in {other.id for other in families[:place]}:
            raise FamilyFileError([Problem(path, f"“{family.id}” is there twice. Rename one.")])
    new = {family.id for family in families} | set(known) - set(drain_families())
    if len(new) > own.MOST:
        raise FamilyFileError([Problem("", f"At most {own.MOST} are kept. Remove one first.")])
    own.put(db, "drain_family", {f.id: written_families([f]) for f in families})


def remove(db: sqlite3.Connection, name: str) -> None:
    """Remove a family of one's own; plans that chose it keep their copy. Raises
    `own.NotOwnError`."""
    own.remove(db, "drain_family", name, "drain family")
