"""What a rule set is: limits, spaces and facts, each with the document that asks it."""

from __future__ import annotations

import re
from datetime import date
from functools import cached_property
from math import inf
from typing import Annotated, Literal, Self, get_args

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from calm_basin.plan.users import User
from calm_basin.units import parse_fall

LimitTopic = Literal[
    "shower_fall",
    "rest_fall",
    "entry_step",
    "edge_upright",
    "edge_bevel",
    "ramp_fall",
    "ramp_rise",
    "channel_gap",
    "door_above_drain",
    "turning_circle",
    "turning_step",
    "door_clear",
    "door_swing",
    "entry_width",
    "path_width",
    "wc_side",
    "wc_free",
    "wc_transfer",
    "control_height",
    "bar_height",
    "seat_height",
    "control_reach",
    "control_over",
    "control_over_height",
    "seat_reach",
    "pipe_fall",
    "pipe_length",
]

SpaceTopic = Literal[
    "shower_size",
    "turning_space",
    "before_shower",
    "before_wc",
    "around_wc",
    "before_basin",
    "door_pull",
    "door_push",
    "beyond_swing",
]

FactTopic = Literal["entry", "door", "grate", "slip", "membrane", "drain", "reach"]

TITLES = {
    "shower_fall": "Fall of the shower",
    "rest_fall": "Fall of the rest of the room",
    "entry_step": "Step at the entry",
    "edge_upright": "Upright part of a step",
    "edge_bevel": "Bevel of a step",
    "ramp_fall": "Fall of a ramp",
    "ramp_rise": "Height of a ramp",
    "channel_gap": "Strip beside a channel",
    "door_above_drain": "Membrane at the door, over the drain",
    "turning_circle": "Circle to turn in",
    "turning_step": "Step where a chair turns",
    "door_clear": "Door, clear",
    "door_swing": "Door's swing into the room",
    "entry_width": "Entry, width",
    "path_width": "Way to the shower",
    "wc_side": "WC, middle to side",
    "wc_free": "WC, free on each side",
    "wc_transfer": "WC, free on one side",
    "control_height": "Control, height",
    "bar_height": "Grab bar, height",
    "seat_height": "Seat, height",
    "control_reach": "Control, from a chair",
    "control_over": "Control, over what stands there",
    "control_over_height": "Height of such a control",
    "seat_reach": "Control, from the seat",
    "pipe_fall": "Fall of the waste pipe",
    "pipe_length": "Length of the waste pipe",
    "shower_size": "Size of the shower",
    "turning_space": "Space to turn",
    "before_shower": "Before the shower",
    "before_wc": "Before the WC",
    "around_wc": "Around the WC",
    "before_basin": "Before the basin",
    "door_pull": "Door, pulled open",
    "door_push": "Door, pushed open",
    "beyond_swing": "Beyond the door's swing",
    "entry": "Entry",
    "door": "Door",
    "reach": "Reach",
    "grate": "Grate",
    "slip": "Slip",
    "membrane": "Membrane",
    "drain": "Drain",
}
"""What each topic is called."""

FALLS: tuple[LimitTopic, ...] = (
    "shower_fall",
    "rest_fall",
    "edge_bevel",
    "ramp_fall",
    "pipe_fall",
)
"""Topics whose limits are falls; those of all others are lengths."""

PIPES_ALIKE = 2.0
"""Inside diameters that differ by less, mm, are those of one size of pipe."""

LENGTH = re.compile(r"\d+(\.\d+)?mm")

LARGEST = 20_000.0
"""No limit on a length is larger, mm."""


def millimetres(text: str) -> float:
    """A length of a rule file, written such as ``812.8mm``."""
    return float(text.removesuffix("mm"))


def _in_mm(text: str) -> float:
    """A length that may be left out, mm; 0 where it is."""
    return millimetres(text) if text else 0.0


def _length(text: str) -> str:
    if not LENGTH.fullmatch(text) or millimetres(text) > LARGEST:
        raise ValueError(
            f"“{text}” is not a length in mm. Write a number with its unit, such as “20mm”"
        )
    return text


Length = Annotated[str, AfterValidator(_length)]

NoLength = Literal[""]

Weight = Literal["required", "advice"]


class Written(BaseModel):
    """What is required or kept to, and where that is written."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    document: str = Field(min_length=1, max_length=120)
    clause: str = Field(default="", max_length=120)
    from_memory: bool
    note: str = Field(default="", max_length=500)

    @property
    def source(self) -> str:
        """Document and clause in words, with how sure it is."""
        words = f"{self.document} {self.clause}".strip()
        return f"{words} (from memory)" if self.from_memory else words


class Asked(Written):
    """What a plan is held against: how strongly, and for whom.

    ``users`` are those for whom it is asked, empty for everybody. ``accessible`` marks advice that
    binds where a job is to be accessible.
    """

    weight: Weight
    applies_to: str = Field(min_length=1, max_length=120)
    users: tuple[User, ...] = ()
    accessible: bool = False

    @property
    def printed(self) -> str:
        """What is required, in words."""
        raise NotImplementedError

    def asked_by(self, users: tuple[User, ...]) -> bool:
        """Whether it is required for somebody who will use the room."""
        return not self.users or any(user in self.users for user in users)


class Limit(Asked):
    """One limit: what it is on, which way it binds, how strongly, for whom and by which clause.

    One on the waste pipe may be for pipes of up to one inside diameter, ``pipe``. A way may be as
    narrow as ``narrow`` over a length of at most ``over``.
    """

    topic: LimitTopic
    binds: Literal["at_least", "at_most"]
    given: str = Field(description="as the document prints it: a fall, or millimetres")
    pipe: Length | NoLength = ""
    narrow: Length | NoLength = ""
    over: Length | NoLength = ""

    @model_validator(mode="after")
    def _in_its_unit(self) -> Self:
        if bool(self.narrow) != bool(self.over):
            raise ValueError("“narrow” and “over” stand together: how narrow, over what length")
        if self.topic not in FALLS:
            _length(self.given)
        elif self.given.endswith("mm"):
            raise ValueError(f"“{self.given}” is a length. Write a fall, such as “1:50”")
        else:
            parse_fall(self.given)
        return self

    @cached_property
    def value(self) -> float:
        """The limit in house units: rise over run, or millimetres."""
        return parse_fall(self.given) if self.topic in FALLS else millimetres(self.given)

    @property
    def bore(self) -> float:
        """The largest inside diameter of a pipe that it is for, mm; infinite for every pipe."""
        return millimetres(self.pipe) if self.pipe else inf

    @property
    def narrowed(self) -> tuple[float, float]:
        """How narrow it may be and over what length, mm; 0 and 0: it may not."""
        return _in_mm(self.narrow), _in_mm(self.over)

    @property
    def printed(self) -> str:
        """Which way it binds, and the limit as the document prints it, its unit set apart."""
        value = self.given.replace("mm", " mm").replace("%", " %")
        less = ", {:g} mm over at most {:g} mm".format(*self.narrowed) if self.narrow else ""
        return f"{self.binds.replace('_', ' ')} {value}{less}"


class Space(Asked):
    """Floor that has to be free, or how large the shower has to be: a rectangle or a T.

    ``width`` lies along the wall, fixture or entry that it is at, ``depth`` goes out from there. A
    T is ``width`` square with arms of ``arm``. A shower has an ``entry`` of at least so much on its
    width; one that is ``exact`` is neither smaller nor larger. ``latch`` is what lies beside a
    door's latch, whose own width is the least. Of several spaces of one topic and weight any one is
    enough.
    """

    topic: SpaceTopic
    width: Length
    depth: Length
    arm: Length | NoLength = ""
    entry: Length | NoLength = ""
    latch: Length | NoLength = ""
    exact: bool = False

    @property
    def across(self) -> float:
        """Width, mm."""
        return millimetres(self.width)

    @property
    def deep(self) -> float:
        """Depth, mm."""
        return millimetres(self.depth)

    @property
    def arms(self) -> float:
        """How long the arms of a T are, mm; 0 where it has none."""
        return _in_mm(self.arm)

    @property
    def opening(self) -> float:
        """How wide a shower's entry has to be, mm; 0 where that is free."""
        return _in_mm(self.entry)

    @property
    def beside(self) -> float:
        """What lies beside a door's latch, mm; 0 where that is free."""
        return _in_mm(self.latch)

    @property
    def printed(self) -> str:
        """The space in words, in mm."""
        words = f"{self.across:g} × {self.deep:g} mm" if self.across else f"{self.deep:g} mm deep"
        words = f"just {words}" if self.exact else words
        for said, value in (("a T with arms of", self.arms), ("entry", self.opening)):
            words += f", {said} {value:g} mm" if value else ""
        return f"{words}, {self.beside:g} mm beside the latch" if self.beside else words


class Fact(Written):
    """What a document asks that no check holds a plan against: it is shown to the planner."""

    topic: FactTopic
    given: str = Field(description="as the document prints it", max_length=200)
    applies_to: str = Field(max_length=120)

    @property
    def printed(self) -> str:
        """As the document prints it."""
        return self.given


class RuleSet(BaseModel):
    """The limits a job is held against, and what else its documents ask."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: str = Field(pattern=r"^[a-z0-9][a-z0-9-]{0,58}$")
    name: str = Field(min_length=1, max_length=60)
    entered: date
    deference: str = Field(min_length=20, max_length=400)
    layer: str = Field(
        default="", description="the rule set that is added where a job is to be accessible"
    )
    timber: Literal["", "us", "uk"] = Field(
        default="", description="whose guidance on notches and holes in joists; empty: all of it"
    )
    waste_table: Literal["", "ipc"] = Field(
        default="", description="whose table of pipes and flows is held to; empty: none"
    )
    limits: tuple[Limit, ...] = Field(max_length=200)
    spaces: tuple[Space, ...] = Field(default=(), max_length=100)
    facts: tuple[Fact, ...] = Field(default=(), max_length=100)

    def on(self, topic: LimitTopic) -> tuple[Limit, ...]:
        """The limits on one topic, in the file's order."""
        return tuple(limit for limit in self.limits if limit.topic == topic)

    def on_pipe(self, topic: Literal["pipe_fall", "pipe_length"], bore: float) -> list[Limit]:
        """The limits on a waste pipe of an inside diameter, mm: of those for pipes of up to one,
        those for the smallest that it is no larger than."""
        sizes = sorted({limit.bore for limit in self.on(topic) if limit.bore >= bore - PIPES_ALIKE})
        return [limit for limit in self.on(topic) if sizes and limit.bore == sizes[0]]

    def least_pipe_fall(self, bore: float) -> float:
        """The least that a waste pipe of an inside diameter, mm, may fall, rise over run; 0 where
        nothing is asked."""
        asked = self.on_pipe("pipe_fall", bore)
        return max((limit.value for limit in asked if limit.binds == "at_least"), default=0.0)

    def spaces_on(self, topic: SpaceTopic) -> tuple[Space, ...]:
        """The spaces of one topic, in the file's order."""
        return tuple(space for space in self.spaces if space.topic == topic)


TOPICS: tuple[str, ...] = (*get_args(LimitTopic), *get_args(SpaceTopic), *get_args(FactTopic))
