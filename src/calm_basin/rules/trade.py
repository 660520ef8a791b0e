"""Values of the trade that hang on no rule set: tables with their loader."""

from __future__ import annotations

import tomllib
from functools import cache, cached_property
from importlib import resources
from math import ceil
from typing import Any, Literal

from calm_basin.plan.users import User
from calm_basin.rules.reading import rule_sets
from calm_basin.rules.ruleset import Limit, Written, millimetres
from calm_basin.units import parse_fall


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
        return millimetres(self.given)


class Pipe(Sourced):
    """A waste pipe and the total flow of shower heads, litres a minute, that it may take; what a
    drain with such an outlet lets through by makers' tests, ``maker_l_min``, is another thing."""

    name: str
    diameter: str
    most_l_min: float
    maker_l_min: float | None = None

    @property
    def bore(self) -> float:
        """Inside diameter, mm."""
        return millimetres(self.diameter)


class Practice(Sourced):
    """A length that the trade keeps to."""

    given: str

    @property
    def value(self) -> float:
        """Millimetres."""
        return millimetres(self.given)


class Steepest(Sourced):
    """A fall that the trade does not go beyond."""

    given: str

    @property
    def value(self) -> float:
        """Rise over run."""
        return parse_fall(self.given)


class Boards(Sourced):
    """Thicknesses in which boards are sold, by the unit in which a job is measured."""

    metric: tuple[str, ...]
    inch: tuple[str, ...]

    def at_least(self, high: float, *, inches: bool) -> float:
        """The least that boards of such thicknesses are together that is no less, mm."""
        sold = [millimetres(given) for given in (self.inch if inches else self.metric)]
        most = sold[-1]
        full = max(ceil(high / most - 1e-9) - 1, 0)
        return full * most + next(one for one in sold if one >= high - full * most - 1e-6)


class Given(Sourced):
    """A number whose unit its note tells."""

    given: float


class Days(Sourced):
    """How long a way to the depth takes."""

    days: str


class Base(Sourced):
    """What a floor has to carry and how true it must be: level under the whole shower, or flat
    under a straightedge. What is not true enough may be packed up to ``packing``."""

    id: str
    name: str
    measure: Literal["level", "flat"]
    tolerance: str
    packed_with: Literal["adhesive", "shims", ""] = ""
    packing: str = "0mm"

    @cached_property
    def value(self) -> float:
        """The tolerance in mm."""
        return millimetres(self.tolerance)

    @cached_property
    def packs(self) -> float:
        """The most that packing takes up, mm; 0 where nothing is packed."""
        return millimetres(self.packing)


class Person(Sourced):
    """Somebody who may use the room: how wide a way they need, and their day in a few words."""

    id: User
    name: str
    given: str
    day: str

    @property
    def value(self) -> float:
        """The width of their way, mm."""
        return millimetres(self.given)


@cache
def table(name: str) -> dict[str, Any]:
    """A table of values of the trade that belong to no rule set."""
    file = resources.files(__package__) / "tables" / f"{name}.toml"
    return tomllib.loads(file.read_text("utf-8"))


@cache
def way_days(code: str) -> Days:
    """How long one way to the depth takes, by its code."""
    return Days.model_validate(table("ways")[code])


@cache
def lippages() -> tuple[Lippage, ...]:
    """Permitted lippage by joint, the narrowest joints first."""
    return tuple(Lippage.model_validate(item) for item in table("tiling")["lippage"])


def lippage(joint: float) -> Lippage:
    """Permitted lippage over a joint of this width, mm."""
    found = lippages()
    return next((x for x in found if joint < millimetres(x.joint_under)), found[-1])


@cache
def thumb() -> Lippage:
    """The rule of thumb for the largest tile that follows folds uncut."""
    return Lippage.model_validate(table("tiling")["thumb"])


@cache
def pipes() -> tuple[Pipe, ...]:
    """Waste pipes by the flow that they may take, the narrowest first."""
    return tuple(Pipe.model_validate(item) for item in table("pipes")["pipes"])


@cache
def door_leaf() -> Practice:
    """What leaf and stop take of a hinged door's width."""
    return Practice.model_validate(table("practice")["door_leaf"])


@cache
def joist_centres() -> Practice:
    """How far apart joists may stand under a deck that carries a tray."""
    return Practice.model_validate(table("practice")["joist_centres"])


@cache
def roughness() -> Given:
    """Manning's n of the waste pipe."""
    return Given.model_validate(table("pipes")["roughness"])


@cache
def bases() -> dict[str, Base]:
    """What a floor may have to carry, by id, in the file's order."""
    found = [Base.model_validate(item) for item in table("bases")["bases"]]
    return {base.id: base for base in found}


@cache
def people() -> dict[User, Person]:
    """Who may use a room, by id, in the file's order."""
    found = [Person.model_validate(item) for item in table("people")["people"]]
    return {person.id: person for person in found}


@cache
def sliding_stop() -> Practice:
    """What leaf and stop take of a sliding door's width."""
    return Practice.model_validate(table("practice")["sliding_stop"])


@cache
def chair_floor() -> Practice:
    """The length of floor on which a chair stands."""
    return Practice.model_validate(table("practice")["chair_floor"])


@cache
def chair_width() -> Practice:
    """The width of the floor on which a chair stands."""
    return Practice.model_validate(table("practice")["chair_width"])


@cache
def rebate() -> Practice:
    """The rebate at a tray's edge that is cut anew."""
    return Practice.model_validate(table("practice")["rebate"])


@cache
def undercut() -> Practice:
    """By how much a side of a tray may be cut short."""
    return Practice.model_validate(table("practice")["undercut"])


@cache
def end_stops() -> Practice:
    """What both end stops of a channel take of its length together."""
    return Practice.model_validate(table("practice")["end_stops"])


@cache
def outlet_section() -> Practice:
    """What a cemented outlet section takes out of a channel's cut pieces."""
    return Practice.model_validate(table("practice")["outlet_section"])


@cache
def proud_of_channel() -> Practice:
    """How far tile finishes above a channel."""
    return Practice.model_validate(table("practice")["proud_of_channel"])


@cache
def boards() -> Boards:
    """Boards with which a floor is raised."""
    return Boards.model_validate(table("practice")["boards"])


@cache
def strip() -> Practice:
    """What is too narrow, between a shower and a wall, to be floor."""
    return Practice.model_validate(table("practice")["strip"])


@cache
def strip_closed() -> Practice:
    """How wide a strip beside a shower the finish of the wall closes."""
    return Practice.model_validate(table("practice")["strip_closed"])


@cache
def flood_depth() -> Practice:
    """How deep the water of a flood test stands."""
    return Practice.model_validate(table("practice")["flood_depth"])


@cache
def slot_room() -> Practice:
    """How much wider a slot is than the trough that goes through it, on each side."""
    return Practice.model_validate(table("practice")["slot_room"])


@cache
def ramp() -> Steepest:
    """The steepest ramp where the rule set names none."""
    return Steepest.model_validate(table("practice")["ramp"])


@cache
def steepest_ramp() -> float:
    """The steepest ramp that any rule set allows, rise over run."""
    return max(limit.value for rules in rule_sets().values() for limit in rules.on("ramp_fall"))


@cache
def steepest_floor() -> Limit:
    """The steepest fall of a shower's floor that any rule set allows everybody, as advice."""
    steepest = max(
        (
            limit
            for rules in rule_sets().values()
            for limit in rules.on("shower_fall")
            if limit.binds == "at_most" and not limit.users
        ),
        key=lambda limit: limit.value,
    )
    return steepest.model_copy(update={"weight": "advice", "applies_to": "a floor to stand on"})


@cache
def highest_step() -> float:
    """The highest step at an entry that any rule set allows, mm."""
    return max(limit.value for rules in rule_sets().values() for limit in rules.on("entry_step"))


@cache
def deck_alike() -> Practice:
    """By how much boards of one thickness differ."""
    return Practice.model_validate(table("practice")["deck_alike"])


@cache
def centres_alike() -> Practice:
    """By how much joists that are spaced alike differ."""
    return Practice.model_validate(table("practice")["centres_alike"])


@cache
def bevel() -> Steepest:
    """The steepest bevel that wheels take."""
    return Steepest.model_validate(table("practice")["bevel"])


@cache
def transfer_floor() -> Practice:
    """How wide the floor beside a WC has to be from which somebody changes over to it."""
    return Practice.model_validate(table("practice")["transfer_floor"])


@cache
def bend_counts() -> Given:
    """How much more pipe a bend counts as when runs are compared, mm."""
    return Given.model_validate(table("pipes")["bend"])


@cache
def hole_counts() -> Given:
    """How much more pipe a hole through a timber counts as, mm."""
    return Given.model_validate(table("pipes")["hole"])


@cache
def concrete() -> Given:
    """What concrete weighs, kg a litre."""
    return Given.model_validate(table("pipes")["concrete"])


@cache
def bucket() -> Given:
    """What a bucket carries of broken concrete, litres of the solid."""
    return Given.model_validate(table("pipes")["bucket"])


@cache
def trench_room() -> Practice:
    """How much wider than its pipe a trench is on each side."""
    return Practice.model_validate(table("practice")["trench_room"])


@cache
def trench_bedding() -> Practice:
    """What lies under a pipe in a trench."""
    return Practice.model_validate(table("practice")["trench_bedding"])


@cache
def as_built() -> Practice:
    """By how much what is to be just so large may be larger."""
    return Practice.model_validate(table("practice")["as_built"])


@cache
def no_edge() -> Practice:
    """The lowest step that is one to a wheel."""
    return Practice.model_validate(table("practice")["no_edge"])
