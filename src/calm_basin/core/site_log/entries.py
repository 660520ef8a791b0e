"""Entries of the site log by their kinds: what is written down of each."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Length = Annotated[float, Field(ge=-50_000, le=50_000, allow_inf_nan=False)]
Amount = Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
Place = tuple[Length, Length]
Size = Annotated[float, Field(gt=0, le=50_000, allow_inf_nan=False)]
Note = Annotated[str, Field(max_length=2000)]


class Written(BaseModel):
    """What every entry may say besides."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    note: Note = ""


class Hold(Written):
    """A hold point that somebody signed."""

    kind: Literal["hold"] = "hold"
    task: Annotated[str, Field(min_length=1, max_length=80)]


class FallChecked(Written):
    """A fall as it was built: how far it falls, mm, over a run, mm, read to ``error``."""

    kind: Literal["fall"] = "fall"
    where: Annotated[str, Field(min_length=1, max_length=80)]
    run: Annotated[float, Field(ge=100, le=20_000)]
    drop: Length
    error: Annotated[float, Field(ge=0, le=50)] = 1.0


class LeakTest(Written):
    """Pipe joints under water (``head``, mm) or air (``pressure``, kPa), for so many minutes; what
    was read at the end."""

    kind: Literal["leak"] = "leak"
    head: Length | None = None
    pressure: Amount | None = None
    after: Amount | None = Field(default=None, description="kPa at the end")
    minutes: Amount
    dry: bool = Field(description="no joint was wet")


class ConnectionTest(Written):
    """One connection under water, apart from the flood test of the floor."""

    kind: Literal["connection"] = "connection"
    minutes: Amount
    dry: bool


class FloodTest(Written):
    """The whole floor under water: its height at the drain at the beginning and at the end, mm, how
    long it stood, and the moisture beside it before and after, per cent."""

    kind: Literal["flood"] = "flood"
    closed_by: Literal["plug", "insert turned over"] = "plug"
    hours: Amount
    first: Annotated[float, Field(ge=0, le=500)]
    last: Annotated[float, Field(ge=0, le=500)]
    between: Annotated[tuple[tuple[Amount, Amount], ...], Field(max_length=50)] = Field(
        default=(), description="hours after the beginning, and the height then, mm"
    )
    evaporated: Annotated[float, Field(ge=0, le=100)] | None = Field(
        default=None, description="from a dish beside it, mm; null: what is usual"
    )
    moist_before: Share | None = None
    moist_after: Share | None = None


class DrainageTest(Written):
    """Water poured out: how long it took to run off, and how high some still stands, mm."""

    kind: Literal["drainage"] = "drainage"
    litres: Annotated[float, Field(gt=0, le=200)]
    minutes: Amount
    stands: Annotated[float, Field(ge=0, le=100)] = 0.0


class Cable(Written):
    """The resistance of a heating cable, ohm: by its label, before it was laid, after, and after
    tiling; what has not been read yet is left out."""

    kind: Literal["cable"] = "cable"
    label: Annotated[float, Field(gt=0, le=100_000)]
    tolerance: Share | None = Field(default=None, description="per cent, by its label")
    before: Amount
    laid: Amount | None = None
    tiled: Amount | None = None


class Moisture(Written):
    """The moisture of a bed or floor, per cent, and what it may be."""

    kind: Literal["moisture"] = "moisture"
    where: Annotated[str, Field(min_length=1, max_length=80)]
    reading: Share
    limit: Share


class Delivered(Written):
    """A part that came: a size as planned and as measured, mm."""

    kind: Literal["delivered"] = "delivered"
    part: Annotated[str, Field(min_length=1, max_length=80)]
    planned: Length
    measured: Length


class Pocket(Written):
    """The place that a tray, pan or unit goes into, mm: as it is and as it is asked; the two
    diagonals, and how far studs or walls lean over the unit's height."""

    kind: Literal["pocket"] = "pocket"
    width: Size
    depth: Size
    asked_width: Size
    asked_depth: Size
    diagonal: Size | None = None
    other_diagonal: Size | None = None
    lean: Annotated[float, Field(ge=0, le=500)] | None = None


class Riser(Written):
    """A riser as it was found: its top over the deck that the drain stands on and where the drain
    asks for it, how far its centre lies from the plan's, and how far it leans over its length,
    mm."""

    kind: Literal["riser"] = "riser"
    top: Length
    asked: Length
    off: Annotated[float, Field(ge=0, le=2000)] = 0.0
    lean: Annotated[float, Field(ge=0, le=500)] = 0.0


class LevelsRead(Written):
    """Levels read on one layer of the shower: places on plan and what was read there, mm. With
    ``zero``, which is what was read at the finished level at the entry, the readings go down from a
    line or a laser; without it they are heights from that level, up positive."""

    kind: Literal["levels"] = "levels"
    layer: Literal["recess", "bed", "membrane", "tile"]
    zero: Length | None = None
    error: Annotated[float, Field(gt=0, le=50)] = 1.0
    readings: Annotated[
        tuple[tuple[Length, Length, Length], ...], Field(min_length=1, max_length=500)
    ]

    @property
    def heights(self) -> tuple[tuple[float, float, float], ...]:
        """The places with their heights from the finished level at the entry, mm."""
        if self.zero is None:
            return self.readings
        return tuple((x, y, self.zero - value) for x, y, value in self.readings)


class Photo(Written):
    """A photo: what it shows, where on plan it was taken, mm, and the entry whose photo shows the
    same before. The picture itself is kept with the entry."""

    kind: Literal["photo"] = "photo"
    shows: Annotated[str, Field(min_length=1, max_length=120)]
    place: Place | None = None
    before: Annotated[int, Field(ge=1)] | None = None


class Trade(Written):
    """Somebody of a licensed trade who was there: who, and what they did or decided."""

    kind: Literal["trade"] = "trade"
    role: Literal["engineer", "plumber", "electrician", "inspector"]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    licence: Annotated[str, Field(max_length=80)] = ""
    what: Annotated[str, Field(min_length=1, max_length=300)]


class Told(Written):
    """A note."""

    kind: Literal["note"] = "note"
    note: Annotated[str, Field(min_length=1, max_length=2000)]


class Changed(Written):
    """A change from the plan, and why."""

    kind: Literal["change"] = "change"
    what: Annotated[str, Field(min_length=1, max_length=300)]
    reason: Annotated[str, Field(min_length=1, max_length=300)]


class Corrected(Written):
    """An entry that was wrong: its number, and what is right. The wrong one stays."""

    kind: Literal["correction"] = "correction"
    entry: Annotated[int, Field(ge=1)]
    right: Annotated[str, Field(min_length=1, max_length=2000)]


Entry = (
    Hold
    | FallChecked
    | LeakTest
    | ConnectionTest
    | FloodTest
    | DrainageTest
    | Cable
    | Moisture
    | Delivered
    | Pocket
    | Riser
    | LevelsRead
    | Photo
    | Trade
    | Told
    | Changed
    | Corrected
)

KINDS: dict[str, type[Entry]] = {
    str(one.model_fields["kind"].default): one
    for one in (
        Hold,
        FallChecked,
        LeakTest,
        ConnectionTest,
        FloodTest,
        DrainageTest,
        Cable,
        Moisture,
        Delivered,
        Pocket,
        Riser,
        LevelsRead,
        Photo,
        Trade,
        Told,
        Changed,
        Corrected,
    )
}
