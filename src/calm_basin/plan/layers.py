"""The layers of a floor's or wall's build-up."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from calm_basin.plan.base import Name, Part, Thickness

LayerRole = Literal["tile", "adhesive", "membrane", "board", "plywood", "cable", "cast", "other"]
"""What a layer is in its build-up: tile or mosaic, what it is laid in, the membrane, a board that
does not burn or one of wood, one with a heating cable in it, one that is cast such as screed, or
one that only has its thickness."""

BOARDS: tuple[LayerRole, ...] = ("board", "plywood")
"""What tile and membrane go on, whether it burns or not."""


class Layer(Part):
    """One layer of a build-up: what it is there and what it is called; ``least`` and ``most`` are
    how thick its kind usually is."""

    role: LayerRole
    name: Name
    thickness: Thickness
    least: Thickness | None = Field(default=None, description="null: nothing is known")
    most: Thickness | None = Field(default=None, description="null: nothing is known")


def thick(layers: Sequence[Layer]) -> float:
    """How thick layers are together, mm."""
    return sum(layer.thickness for layer in layers)


def has(layers: Sequence[Layer], *roles: LayerRole) -> bool:
    """Whether one of the layers is that."""
    return first(layers, *roles) is not None


def first(layers: Sequence[Layer], *roles: LayerRole) -> int | None:
    """Where the first layer lies that is that, from the finished face down; None: none is."""
    return next((i for i, layer in enumerate(layers) if layer.role in roles), None)


WORDS: tuple[tuple[LayerRole, tuple[str, ...]], ...] = (
    ("plywood", ("plywood",)),
    ("board", ("board",)),
    ("cable", ("heating",)),
    ("adhesive", ("adhesive",)),
    ("tile", ("tile", "mosaic", "stone", "slate", "porcelain")),
    ("membrane", ("membrane",)),
    ("cable", ("cable",)),
    ("cast", ("screed", "cast", "compound", "levelling", "mortar")),
)


def role_by_name(name: str) -> LayerRole:
    """What a layer of an older file was known to be: by words in its name."""
    low = name.lower()
    found = (role for role, words in WORDS if any(word in low for word in words))
    return next(found, "other")
