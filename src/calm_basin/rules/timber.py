"""What may be taken out of joists, and how stiff they should be under tile."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from typing import Any, Literal

from calm_basin.rules.ruleset import RuleSet, millimetres
from calm_basin.rules.trade import Practice, Sourced

GuideName = Literal["us", "uk"]


class Guide(Sourced):
    """Rules of thumb for sawn joists: depths and places as shares of depth and span.

    A notch may be ``notch`` of the depth between ``notch_from`` and ``notch_to`` of the span, from
    either end; a hole ``hole`` of the depth across, its edge ``edge`` from top and bottom, within
    the ``middle`` share of the depth, between ``hole_from`` and ``hole_to`` of the span, and
    ``apart`` diameters from the next.
    """

    id: GuideName
    name: str
    notch: float
    notch_from: float
    notch_to: float
    end_notch: float
    hole: float
    edge: str
    hole_from: float
    hole_to: float
    middle: float
    apart: float

    @property
    def clear(self) -> float:
        """From a hole's edge to the joist's, mm."""
        return millimetres(self.edge)


class Stiffness(Sourced):
    """How little a floor under one kind of tile may bend: its span over ``share``."""

    id: Literal["ceramic", "stone"]
    name: str
    share: float


class Given(Sourced):
    """A number whose unit its note tells."""

    given: float


@cache
def _table() -> dict[str, Any]:
    file = resources.files(__package__) / "tables" / "timber.toml"
    return tomllib.loads(file.read_text("utf-8"))


@cache
def _guides() -> tuple[Guide, ...]:
    return tuple(Guide.model_validate(item) for item in _table()["guides"])


def guides_of(rules: RuleSet) -> tuple[Guide, ...]:
    """The guidance of a rule set; all there is where it names none: every one is then kept."""
    own = tuple(guide for guide in _guides() if guide.id == rules.timber)
    return own or _guides()


@cache
def stiffnesses() -> tuple[Stiffness, ...]:
    """How stiff a floor should be, by kind of tile."""
    return tuple(Stiffness.model_validate(item) for item in _table()["stiffness"])


@cache
def live_load() -> Given:
    """What a dwelling's floor carries, kN/m²."""
    return Given.model_validate(_table()["live_load"])


@cache
def elasticity() -> Given:
    """Young's modulus of ordinary joists, kN/mm²."""
    return Given.model_validate(_table()["elasticity"])


@cache
def bed_weight() -> Given:
    """Of a mortar bed, kN/m² for each mm."""
    return Given.model_validate(_table()["bed_weight"])


@cache
def pipe_room() -> Practice:
    """How much wider than its pipe a hole is."""
    return Practice.model_validate(_table()["pipe_room"])


@cache
def ceiling_room() -> Practice:
    """Room between a pipe and the ceiling under it."""
    return Practice.model_validate(_table()["ceiling_room"])
