"""Drain families, build systems and kinds of layer: what ships, and what is one's own."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Generic, Protocol, TypeVar

from calm_basin.plan.reading import Problem
from calm_basin.plan.system import BuildSystem
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules import (
    FamilyFileError,
    LayerFileError,
    LayerKind,
    RuleFileError,
    SystemFileError,
    build_systems,
    drain_families,
    layer_kinds,
    of_family,
    read_families,
    read_layers,
    read_system,
    written_families,
    written_layers,
    written_system,
)
from calm_basin.store import own


class Named(Protocol):
    """What lies on a shelf."""

    @property
    def id(self) -> str: ...


ItemT = TypeVar("ItemT", bound=Named)


@dataclass(frozen=True)
class Shelf(Generic[ItemT]):
    """One kind of thing that ships and of which one may have one's own: the ``table`` that keeps
    those, what one is ``called``, and how they are read and written. ``places`` says where in a
    file the id of the n-th stands, ``agrees`` what of one does not go with what else is kept.
    Shelves stay as long as the program."""

    table: own.Table
    called: str
    ships: Callable[[], dict[str, ItemT]]
    read: Callable[[str | bytes], list[ItemT]]
    write: Callable[[ItemT], str]
    error: type[RuleFileError]
    places: Callable[[int], str]
    agrees: Callable[[sqlite3.Connection, ItemT], list[Problem]] = lambda _db, _item: []

    def known(self, db: sqlite3.Connection) -> dict[str, ItemT]:
        """All by id: those that ship, then those of one's own."""
        added = [self._read(toml) for toml in own.texts(db, self.table)]
        return self.ships() | {item.id: item for item in added}

    @lru_cache(maxsize=4 * own.MOST)  # noqa: B019
    def _read(self, toml: str) -> ItemT:
        return self.read(toml)[0]

    def keep(self, db: sqlite3.Connection, items: list[ItemT]) -> None:
        """Add some, each in the place of the one with its id.

        Raises
        ------
        RuleFileError
            Of the shelf's kind: an id is that of one that ships, one is given twice, or there are
            too many.
        """
        known, ships = self.known(db), self.ships()
        wrong = [problem for item in items for problem in self.agrees(db, item)]
        if wrong:
            raise self.error(wrong)
        for place, item in enumerate(items):
            path = self.places(place)
            if item.id in ships:
                message = (
                    f"“{item.id}” ships with Calm Basin and stays as it is. Give yours another."
                )
                raise self.error([Problem(path, message)])
            if item.id in {other.id for other in items[:place]}:
                raise self.error([Problem(path, f"“{item.id}” is there twice. Rename one.")])
        if len({item.id for item in items} | set(known) - set(ships)) > own.MOST:
            raise self.error([Problem("", f"At most {own.MOST} are kept. Remove one first.")])
        own.put(db, self.table, {item.id: self.write(item) for item in items})

    def remove(self, db: sqlite3.Connection, name: str) -> None:
        """Remove one of one's own; plans that chose it keep their copy. Raises
        `own.NotOwnError`."""
        own.remove(db, self.table, name, self.called)


FAMILIES: Shelf[DrainFamily] = Shelf(
    "drain_family",
    "drain family",
    drain_families,
    read_families,
    lambda family: written_families([family]),
    FamilyFileError,
    lambda place: f"/families/{place}/id",
)

SYSTEMS: Shelf[BuildSystem] = Shelf(
    "build_system",
    "build system",
    build_systems,
    lambda text: [read_system(text)],
    written_system,
    SystemFileError,
    lambda _place: "/id",
    lambda db, system: of_family(system, FAMILIES.known(db)),
)

LAYERS: Shelf[LayerKind] = Shelf(
    "layer_kind",
    "kind of layer",
    layer_kinds,
    read_layers,
    lambda kind: written_layers([kind]),
    LayerFileError,
    lambda place: f"/layers/{place}/id",
)
