"""Rule sets: published limits as data, one TOML file each, and their loader."""

from __future__ import annotations

import tomllib
from datetime import date
from functools import cache, cached_property
from importlib import resources
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from calm_basin.units import parse_fall

Topic = Literal["shower_fall", "entry_step", "channel_gap"]


class Limit(BaseModel):
    """One limit: what it is on, which way it binds, how strongly, for whom and by which clause."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    topic: Topic
    binds: Literal["at_least", "at_most"]
    given: str = Field(description="as the document prints it: a fall, or millimetres")
    weight: Literal["required", "advice"]
    applies_to: str
    document: str
    clause: str = ""
    from_memory: bool
    note: str = ""

    @cached_property
    def value(self) -> float:
        """The limit in house units: rise over run, or millimetres."""
        if self.topic == "shower_fall":
            return parse_fall(self.given)
        return float(self.given.removesuffix("mm"))

    @property
    def source(self) -> str:
        """Document and clause in words, with how sure it is."""
        words = f"{self.document} {self.clause}".strip()
        return f"{words} (from memory)" if self.from_memory else words


class RuleSet(BaseModel):
    """The limits a job is held against."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: str
    name: str
    entered: date
    deference: str
    limits: tuple[Limit, ...]

    def on(self, topic: Topic) -> tuple[Limit, ...]:
        """The limits on one topic, in the file's order."""
        return tuple(limit for limit in self.limits if limit.topic == topic)


class Base(BaseModel):
    """What a floor has to carry and how true it must be: level under the whole shower, or flat
    under a straightedge."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: str
    name: str
    measure: Literal["level", "flat"]
    tolerance: str
    document: str
    from_memory: bool
    note: str

    @cached_property
    def value(self) -> float:
        """The tolerance in mm."""
        return float(self.tolerance.removesuffix("mm"))

    @property
    def source(self) -> str:
        """Document in words, with how sure it is."""
        return f"{self.document} (from memory)" if self.from_memory else self.document


BASES = "bases.toml"


class UnknownRuleSetError(LookupError):
    """No rule set has this name; the message lists those that there are."""


@cache
def rule_sets() -> dict[str, RuleSet]:
    """All rule sets that ship, by id, in the order of their file names."""
    found = {}
    for file in sorted(resources.files(__name__).iterdir(), key=lambda f: f.name):
        if file.name.endswith(".toml") and file.name != BASES:
            rules = RuleSet.model_validate(tomllib.loads(file.read_text("utf-8")))
            found[rules.id] = rules
    return found


@cache
def bases() -> dict[str, Base]:
    """What a floor may have to carry, by id, in the file's order."""
    text = (resources.files(__name__) / BASES).read_text("utf-8")
    found = [Base.model_validate(item) for item in tomllib.loads(text)["bases"]]
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
