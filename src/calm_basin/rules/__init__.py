"""Rule sets: published limits as data, one TOML file each, and their loader."""

from __future__ import annotations

import tomllib
from datetime import date
from functools import cache, cached_property
from importlib import resources
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from calm_basin.units import parse_fall

Topic = Literal[
    "shower_fall",
    "rest_fall",
    "entry_step",
    "channel_gap",
    "door_above_drain",
    "turning_circle",
    "door_clear",
]

TITLES = {
    "shower_fall": "Fall of the shower",
    "rest_fall": "Fall of the rest of the room",
    "entry_step": "Step at the entry",
    "channel_gap": "Strip beside a channel",
    "door_above_drain": "Membrane at the door, over the drain",
    "turning_circle": "Circle to turn in",
    "door_clear": "Door, clear",
    "shower_size": "Size of the shower",
    "entry": "Entry",
    "turning_space": "Space to turn",
    "clear_floor": "Clear floor",
    "door": "Door",
    "reach": "Reach",
    "grate": "Grate",
    "slip": "Slip",
    "membrane": "Membrane",
    "drain": "Drain",
}
"""What each topic is called."""


class Written(BaseModel):
    """What is asked or kept to, and where that is written."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    document: str
    clause: str = ""
    from_memory: bool
    note: str = ""

    @property
    def source(self) -> str:
        """Document and clause in words, with how sure it is."""
        words = f"{self.document} {self.clause}".strip()
        return f"{words} (from memory)" if self.from_memory else words


class Limit(Written):
    """One limit: what it is on, which way it binds, how strongly, for whom and by which clause."""

    topic: Topic
    binds: Literal["at_least", "at_most"]
    given: str = Field(description="as the document prints it: a fall, or millimetres")
    weight: Literal["required", "advice"]
    applies_to: str

    @cached_property
    def value(self) -> float:
        """The limit in house units: rise over run, or millimetres."""
        if self.topic in ("shower_fall", "rest_fall"):
            return parse_fall(self.given)
        return _mm(self.given)

    @property
    def printed(self) -> str:
        """The limit as the document prints it, its unit set apart."""
        return self.given.replace("mm", " mm").replace("%", " %")


FactTopic = Literal[
    "shower_size",
    "entry",
    "turning_space",
    "clear_floor",
    "door",
    "reach",
    "grate",
    "slip",
    "membrane",
    "drain",
]


class Fact(Written):
    """What a document asks that no check holds a plan against: it is shown to whoever plans."""

    topic: FactTopic
    given: str = Field(description="as the document prints it")
    applies_to: str


class RuleSet(BaseModel):
    """The limits a job is held against, and what else its documents ask."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: str
    name: str
    entered: date
    deference: str
    limits: tuple[Limit, ...]
    facts: tuple[Fact, ...] = ()

    def on(self, topic: Topic) -> tuple[Limit, ...]:
        """The limits on one topic, in the file's order."""
        return tuple(limit for limit in self.limits if limit.topic == topic)


class Sourced(Written):
    """A value of the trade that hangs on no rule set: why it is kept to stands beside it."""

    note: str


class Lippage(Sourced):
    """How far a tile may stand off its neighbour over joints narrower than ``joint_under``."""

    given: str
    joint_under: str = ""

    @property
    def value(self) -> float:
        """Millimetres."""
        return _mm(self.given)


class Pipe(Sourced):
    """A waste pipe and the total flow of shower heads, litres a minute, that it may take."""

    name: str
    diameter: str
    most_l_min: float

    @property
    def bore(self) -> float:
        """Inside diameter, mm."""
        return _mm(self.diameter)


class Practice(Sourced):
    """A length that the trade keeps to."""

    given: str

    @property
    def value(self) -> float:
        """Millimetres."""
        return _mm(self.given)


class Roughness(Sourced):
    """Manning's n of a waste pipe, s/m^(1/3)."""

    given: float


def _mm(text: str) -> float:
    return float(text.removesuffix("mm"))


class Base(Sourced):
    """What a floor has to carry and how true it must be: level under the whole shower, or flat
    under a straightedge."""

    id: str
    name: str
    measure: Literal["level", "flat"]
    tolerance: str

    @cached_property
    def value(self) -> float:
        """The tolerance in mm."""
        return _mm(self.tolerance)


class UnknownRuleSetError(LookupError):
    """No rule set has this name; the message lists those that there are."""


@cache
def rule_sets() -> dict[str, RuleSet]:
    """All rule sets that ship, by id, in the order of their file names."""
    files = sorted((resources.files(__name__) / "sets").iterdir(), key=lambda file: file.name)
    sets = [RuleSet.model_validate(tomllib.loads(file.read_text("utf-8"))) for file in files]
    return {rules.id: rules for rules in sets}


def _table(name: str) -> dict[str, Any]:
    """A table of values of the trade that belong to no rule set."""
    file = resources.files(__name__) / "tables" / f"{name}.toml"
    return tomllib.loads(file.read_text("utf-8"))


@cache
def lippages() -> tuple[Lippage, ...]:
    """Permitted lippage by joint, the narrowest joints first."""
    return tuple(Lippage.model_validate(item) for item in _table("tiling")["lippage"])


def lippage(joint: float) -> Lippage:
    """Permitted lippage over a joint of this width, mm."""
    found = lippages()
    return next((x for x in found if joint < _mm(x.joint_under)), found[-1])


@cache
def thumb() -> Lippage:
    """The rule of thumb for the largest tile that follows folds uncut."""
    return Lippage.model_validate(_table("tiling")["thumb"])


@cache
def pipes() -> tuple[Pipe, ...]:
    """Waste pipes by the flow that they may take, the narrowest first."""
    return tuple(Pipe.model_validate(item) for item in _table("pipes")["pipes"])


@cache
def packing() -> Practice:
    """How much adhesive or shims may take up under a tray."""
    return Practice.model_validate(_table("practice")["packing"])


@cache
def door_leaf() -> Practice:
    """What leaf and stop take of a hinged door's width."""
    return Practice.model_validate(_table("practice")["door_leaf"])


@cache
def joist_centres() -> Practice:
    """How far apart joists may stand under a deck that carries a tray."""
    return Practice.model_validate(_table("practice")["joist_centres"])


@cache
def roughness() -> Roughness:
    """Manning's n of the waste pipe."""
    return Roughness.model_validate(_table("pipes")["roughness"])


@cache
def bases() -> dict[str, Base]:
    """What a floor may have to carry, by id, in the file's order."""
    found = [Base.model_validate(item) for item in _table("bases")["bases"]]
    return {base.id: base for base in found}


def rule_set(name: str) -> RuleSet:
    """The rule set with this id. Raises `UnknownRuleSetError`."""
    try:
        return rule_sets()[name]
    except KeyError:
        known = ", ".join(rule_sets())
        raise UnknownRuleSetError(
            f"There is no rule set “{name}”. Choose one of: {known}."
        ) from None
