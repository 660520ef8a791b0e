"""What requests bring, field by field; a plan among it is read apart from the rest."""

from __future__ import annotations

from typing import Annotated, Any, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field

from calm_basin.core.answer.result import Part
from calm_basin.plan.base import MOST_CORNERS
from calm_basin.plan.edits import Addition, Which
from calm_basin.plan.job import DisplayChoice
from calm_basin.plan.starting import DrainKind, Ground, Where
from calm_basin.plan.users import User
from calm_basin.units import LengthUnit

FARTHEST = 1e6
"""Places on plan lie nearer to its origin than this, mm."""

MOST_PLACES = 1000

MOST_COMPARED = 8
"""So many rule sets are compared at once."""

Text = Annotated[str, Field(strict=True)]
Whole = Annotated[int, Field(strict=True)]
Yes = Annotated[bool, Field(strict=True)]
Number = Annotated[float, Field(strict=True, gt=-FARTHEST, lt=FARTHEST)]
Spot = tuple[Number, Number]
"""A place on plan: x and y, mm."""


class Asked(BaseModel):
    """What all requests share."""

    model_config = ConfigDict(frozen=True)


class Written(Asked):
    """Which window writes, and its how-manieth write this is."""

    writer: Text | None = None
    write: Whole | None = None


class Based(Written):
    """A write over a revision of a job."""

    base: Whole


class Revision(Asked):
    """One revision of a job."""

    revision: Whole


class Beginning(Asked):
    """A new job: its name, units and rule set, and what is said of it besides."""

    name: Text
    length: LengthUnit
    rule_set: Text
    said: dict[str, Any] | None = Field(default=None, json_schema_extra={"tsType": "Said"})


class Said(Asked):
    """What a new job's form says: sizes as they are typed, empty where nobody measured yet."""

    wide: Text = ""
    deep: Text = ""
    ground: Ground | None = None
    where: Where = "back left"
    across: Text = ""
    out: Text = ""
    drain: DrainKind = "linear"
    users: tuple[User, ...] = Field(default=(), max_length=100)
    accessible: Yes = False


class Solved(Asked):
    """What a plan is solved for: places whose level is asked for, the section's line, parts that
    are worked out besides, and whether changes that mend are looked for."""

    at: tuple[Spot, ...] = Field(default=(), max_length=MOST_PLACES)
    cut: tuple[Spot, Spot] | None = None
    parts: tuple[Part, ...] = Field(default=(), max_length=100)
    cures: Yes = True


class Typed(Asked):
    """What was typed: a length or a flow in the display's unit, or a fall."""

    text: Annotated[str, Field(strict=True, max_length=200)]
    kind: Literal["length", "fall", "flow"]
    display: DisplayChoice


class Printed(Asked):
    """Lengths, mm, that are printed as a display does."""

    values: tuple[Number, ...] = Field(max_length=MOST_PLACES)
    display: DisplayChoice


class RuleSetNames(Asked):
    """The rule sets that a plan is held against, by id."""

    rule_sets: tuple[Text, ...] = Field(min_length=1, max_length=MOST_COMPARED)


class RulesCopied(Asked):
    """A rule set of one's own: the copy of one under another id and name."""

    of: Text
    id: Text
    name: Text


class Csv(Asked):
    """Readings as CSV, and what a bare number means where the heading does not say it."""

    csv: Text
    display: DisplayChoice = DisplayChoice()


class Dxf(Asked):
    """A drawing, what its numbers are (null: what it says itself) and how sizes are printed."""

    dxf: Text
    unit: LengthUnit | None = None
    display: DisplayChoice = DisplayChoice()


class Edge(Asked):
    """Where a straightedge lies."""

    start: Spot
    end: Spot


class Aimed(Asked):
    """Where a staff is set up."""

    at: Spot


class Expected(Asked):
    """What an instrument is expected to read, as it is typed: a length, or a number."""

    near: Text
    display: DisplayChoice = DisplayChoice()


class Passphrase(Asked):
    """What opens the door."""

    passphrase: Text


class Entry(Asked):
    """An entry of the site log as it was typed; known by its id, however often it arrives."""

    id: Text
    kind: Text
    by: Text
    at: Text
    fields: dict[str, Any]


class Split(Asked):
    """Adds a corner at a side of an outline."""

    act: Literal["split"]
    which: Which
    at: Whole


class Join(Asked):
    """Takes a corner from an outline."""

    act: Literal["join"]
    which: Which
    at: Whole


class Stretch(Asked):
    """Gives an outline a size along an axis (0: the width), or the room one at its studs."""

    act: Literal["stretch"]
    which: Which
    axis: Literal[0, 1]
    size: Number
    at: Literal["studs"] | None = None


class Outlined(Asked):
    """Gives the room an outline."""

    act: Literal["outline"]
    points: tuple[Spot, ...] = Field(min_length=3, max_length=MOST_CORNERS)


class Added(Asked):
    """Puts something in in a common size: of a side, or a layer of a kind."""

    act: Literal["add"]
    what: Addition
    side: Whole | None = None
    kind: Text | None = None


class Built(Asked):
    """Builds the shower by a build system."""

    act: Literal["system"]
    system: Text


class Screwed(Asked):
    """Lays the joists through two screws of one line."""

    act: Literal["screws"]
    first: Spot
    last: Spot


class Levelled(Asked):
    """Adds the reading of a level that lies on the floor and has a gap, mm, under its end."""

    act: Literal["level"]
    lies: Spot
    end: Spot
    gap: Number


class Measured(Asked):
    """Says where the room was measured: from its studs the finished walls are then moved."""

    act: Literal["measured"]
    at: Literal["studs", "finished"]


class Mirrored(Asked):
    """Brings the shower to the room's other side or end."""

    act: Literal["mirror"]
    way: Literal["side", "end"]


class Raised(Asked):
    """Puts the layer at a pointer over the one above it."""

    act: Literal["raise"]
    path: Annotated[str, Field(strict=True, max_length=200)]


class Removed(Asked):
    """Takes out the list item at a pointer."""

    act: Literal["remove"]
    path: Annotated[str, Field(strict=True, max_length=200)]


Edit = (
    Split
    | Join
    | Stretch
    | Outlined
    | Added
    | Built
    | Screwed
    | Levelled
    | Measured
    | Mirrored
    | Raised
    | Removed
)
"""An edit in which what names a part by number follows."""

EDITS: dict[str, type[Edit]] = {
    get_args(kind.model_fields["act"].annotation)[0]: kind for kind in get_args(Edit)
}
"""The edits by what they do."""
