"""What the chart draws of the room itself, as it is sent."""

from __future__ import annotations

from calm_basin.core.answer.result import XY, Result


class Joist(Result):
    """A joist on plan, drawn under the floor."""

    outline: tuple[XY, ...]


class Assumption(Result):
    """A measure or choice that nobody has made: what it is of, and what stands for it."""

    name: str
    text: str
    fields: tuple[str, ...]


class Assumed(Result):
    """What of the plan is only assumed: pointers, of which those ``alone`` are confirmed each by
    itself, each measure by its name, and how many there are in words."""

    paths: tuple[str, ...]
    alone: tuple[str, ...]
    listed: tuple[Assumption, ...]
    count: int
    text: str


class PlaceWay(Result):
    """One of two measures by which a place p is found: ``name`` says from what (*from wall 4*),
    ``of`` which wall or corner that is. It is ``way`` · p + ``offset``, mm, and p goes by ``move``
    for each mm that it grows."""

    name: str
    of: str
    way: XY
    offset: float
    move: XY


class PlaceMeasure(PlaceWay):
    """The same of a place of the plan, as it is printed."""

    text: str


class RectangleSize(Result):
    """Width and depth of an outline that is a rectangle along the axes, mm and as printed."""

    width: float
    depth: float
    width_text: str
    depth_text: str


class Drawing(Result):
    """Shapes on plan that follow from the document and are not of the floor's surface.

    ``outlet`` is where the waste leaves a channel, ``outlet_offset`` mm from its start; ``drains``
    says where the middle of each drain is taped. ``faces`` says from which line of the walls sizes
    and places are; empty where both lines are one.
    ``frame`` are the two measures by which a place that is in no plan yet is touched or typed.
    ``of_shower`` are the fixtures, by number, that go where the shower goes, ``over_shower`` those
    that are seen over its floor, ``with_height`` those whose height above the floor matters.
    """

    frame: tuple[PlaceWay, PlaceWay]
    rims: tuple[tuple[XY, ...], ...]
    outlet: XY | None
    outlet_offset: float | None
    joists: tuple[Joist, ...]
    entries: tuple[tuple[XY, XY], ...]
    room_box: RectangleSize | None
    shower_box: RectangleSize | None
    room_sides: tuple[str, ...]
    shower_sides: tuple[str, ...]
    shower_names: tuple[str, ...]
    of_shower: tuple[int, ...]
    over_shower: tuple[int, ...]
    with_height: tuple[int, ...]
    drains: tuple[str, ...]
    faces: str


class OwnValue(Result):
    """A limit that the job keeps at a value of its own; ``note`` says in whose place, and why."""

    title: str
    text: str
    note: str
    reason: str
