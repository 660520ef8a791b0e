"""A build system put into a plan: it writes its own part and keeps what was measured."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, inf

import numpy as np
from pydantic import ValidationError

from calm_basin.core.answer.result import Change
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.falls.cures import raised_layers
from calm_basin.core.falls.drains import channel_at, middle_drain
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.falls.stock import covering, cut_widths, missing, tray_entry_cut, turned
from calm_basin.core.geometry.levels import levels, pour_of
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.core.kinds.bed import bed_form
from calm_basin.core.kinds.tray import tray_form
from calm_basin.core.systems.trims import beyond_trims
from calm_basin.plan import Plan, PlanError, Problem, plan_from
from calm_basin.plan.assumed import with_assumed
from calm_basin.plan.framing import framed
from calm_basin.plan.layers import BOARDS, Layer
from calm_basin.plan.pointers import at
from calm_basin.plan.room import Room
from calm_basin.plan.shower import (
    LinearDrain,
    MortarBed,
    PointDrain,
    Rest,
    Shower,
    SlopePanels,
    StockTray,
    Tray,
)
from calm_basin.plan.survey import Pour
from calm_basin.plan.system import BuildSystem, TrayForm
from calm_basin.plan.waste import DrainFamily
from calm_basin.tolerances import ON_EDGE


def fitted(plan: Plan, system: BuildSystem, family: DrainFamily) -> Plan:
    """The plan built by a system, its drain of a family.

    The room, its survey, rules and users stay, and of the shower what still fits: its outline and
    entries, a drain of the same kind with its place, layers of the same name within the system's
    range, and a fall that was asked of a bed. What the former system put in goes with it. Sizes
    that are only usual are assumed until they are typed.

    Raises
    ------
    PlanError
        The system cannot be put into this shower: the problem says why.
    """
    shower = plan.shower.model_copy(update={"drain": _drain(plan.shower, system)})
    former, drain = _former(plan, shower, system)
    kept = [_kept(layer, plan.shower.layers, plan.assumed) for layer in system.layers.shower]
    layers = [own or usual for own, usual in zip(kept, system.layers.shower, strict=True)]
    room = _room_layers(plan, system)
    document = plan.model_dump(mode="json")
    document["room"]["layers"] = [layer.model_dump(mode="json") for layer in room]
    document["survey"]["base"] = system.base
    document["survey"]["correction"] = _correction(plan, system)
    document["system"] = system.model_dump(mode="json")
    fall = document["shower"]["fall"]
    fall["asked"] = _asked(plan, system)
    document["shower"] |= {
        "former": former.model_dump(mode="json"),
        "drain": drain.model_dump(mode="json"),
        "layers": [layer.model_dump(mode="json") for layer in layers],
        "rest": _rest(plan, system, drain),
    }
    if drain.kind == "linear" or former.kind == "tray":
        fall["edge"] = "level"
        document["shower"]["second_drain"] = None
    was = plan.waste.family
    if was is None or was.id != family.id:
        document["waste"]["family"] = family.model_dump(mode="json")
    replaced = ["/shower/former", "/shower/layers", "/waste/family"]
    replaced += ["/shower/drain", "/shower/second_drain"] if drain != plan.shower.drain else []
    replaced += ["/room/layers"] if room != plan.room.layers else []
    document["assumed"] = [p for p in plan.assumed if not p.startswith(tuple(replaced))]
    assumed = ["/shower/former"] if system.former.common else []
    if system.layers.common:
        new = [(f"/shower/layers/{i}", own is None) for i, own in enumerate(kept)]
        new += [(f"/room/layers/{i}", x not in plan.room.layers) for i, x in enumerate(room)]
        assumed += [f"{path}/thickness" for path, brought in new if brought]
    return with_assumed(_on_its_base(plan_from(document)), *assumed)


def _on_its_base(built: Plan) -> Plan:
    """The plan with the room's floor raised to a tray that stands on a base of its own: the deck
    under that stays as it is, and nothing is recessed."""
    form = tray_form(built.system)
    if built.system is None or form is None or form.base <= 0:
        return built
    if built.shower.rest is not None:
        # The bed of the rest is cast to its falls: how thick it is was chosen.
        return built
    try:
        stands = levels(built, surface_of(built)).base
    except NoSurfaceError:
        return built
    # Whole millimetres in every display: the same room gets the same floor.
    short = float(ceil(form.base - stands - 1e-6))
    if short <= 0:
        return built
    rows = raised_layers(built, short)
    try:
        room = Room.model_validate(built.room.model_dump(mode="json") | {"layers": rows})
    except ValidationError:
        higher = Words.of(built).length(short)
        reason = f"Its base needs the room's floor {higher} higher, more than a layer can be."
        raise PlanError([Problem("/room/layers", reason)]) from None
    own = built.system.layers
    # What raises the room goes with the system, as all that it put in.
    brought = own.model_copy(update={"room": (*own.room, room.layers[-1])})
    return built.model_copy(
        update={
            "room": room,
            "system": built.system.model_copy(update={"layers": brought}),
        }
    )


WRITTEN = (
    "/room/layers",
    "/survey/base",
    "/survey/correction",
    "/system",
    "/shower/former",
    "/shower/drain",
    "/shower/second_drain",
    "/shower/layers",
    "/shower/fall",
    "/shower/rest",
    "/waste/family",
    "/assumed",
)
"""What a system writes of a plan."""


def written(plan: Plan, built: Plan) -> tuple[Change, ...]:
    """The changes that make a plan the one that a system built."""
    old, new = plan.model_dump(mode="json"), built.model_dump(mode="json")

    return tuple(
        Change(path=path, value=at(new, path)) for path in WRITTEN if at(new, path) != at(old, path)
    )


def _drain(shower: Shower, system: BuildSystem) -> PointDrain | LinearDrain:
    """A drain of the system's kind: the one that is there, or one in its usual place."""
    if shower.drain.kind == system.drain:
        return shower.drain
    if system.channel is None:
        return middle_drain(shower)
    channel = channel_at(shower, system.channel)
    if channel is None:
        raise PlanError(
            [
                Problem(
                    "/shower/outline", "No channel fits into this shower where the system has it."
                )
            ]
        )
    return channel


def _former(
    plan: Plan, shower: Shower, system: BuildSystem
) -> tuple[MortarBed | Tray | SlopePanels, PointDrain | LinearDrain]:
    form, drain = system.former, shower.drain
    if form.kind == "bed":
        return MortarBed(least_thickness=form.least_thickness, lower=form.lower), drain
    if form.kind == "panels":
        sizes = form.model_dump(include={"thin_edge", "thick_edge", "length", "width"})
        return SlopePanels.model_validate(sizes), drain
    old = former_of(plan.shower).tray
    same = plan.system is not None and plan.system.id == system.id
    tray = Tray(
        edge_thickness=form.edge_thickness,
        most_cut=form.most_cut,
        # What its maker states of a tray that was typed stays with it.
        stated=old.stated if same and old is not None else None,
        cuts=old.cuts if old is not None and not form.sizes else (),
    )
    if not form.sizes or drain_kind(drain).point is None or not ring_of(shower).convex:
        return tray, drain
    free = drain != plan.shower.drain or "/shower/drain/centre/0" in plan.assumed
    cut_to = shower.model_copy(update={"outline": framed(plan).outline})
    return _best_size(cut_to, tray, form, free)


def _best_size(
    shower: Shower, tray: Tray, form: TrayForm, free: bool
) -> tuple[Tray, PointDrain | LinearDrain]:
    """The smallest stock size that reaches every side with the fewest cuts that do harm, and where
    the riser then lies: it moves only where it is ``free``."""
    best: tuple[tuple[float, ...], Tray, PointDrain] | None = None
    stocks = dict.fromkeys(s for size in form.sizes for s in (size, *turned(size)))
    for stock in stocks:
        former = tray.model_copy(update={"stock": stock, "extension": form.extension})
        for drain in _places(shower, former, stock, free):
            tried = shower.model_copy(
                update={"former": former, "drain": drain, "second_drain": None}
            )
            short = _more_than(missing(tried, stock), ON_EDGE)
            # Of trays that do not reach, how they are cut is no matter.
            if best is not None and short > best[0][0]:
                continue
            over = max(cut_widths(tried).values(), default=0.0) - former.most_cut
            cost = (
                short,
                _more_than(tray_entry_cut(tried), ON_EDGE),
                _more_than(over, ON_EDGE),
                float(len(beyond_trims(tried, form.trims))),
                float(stock not in form.sizes),
                stock.width * stock.length,
                0.0 if drain == shower.drain else 1.0,
            )
            if best is None or cost < best[0]:
                best = (cost, former, drain)
    assert best is not None
    return best[1], best[2]


def _more_than(value: float, least: float) -> float:
    """A measure, mm, that counts from ``least`` on: turned on plan it differs in the last digits,
    and is the same."""
    return round(value, 2) if value > least else 0.0


def _places(shower: Shower, former: Tray, stock: StockTray, free: bool) -> Iterator[PointDrain]:
    """Where the riser may lie for a tray: where it is, and where the tray then lies best."""
    drain = drain_kind(shower.drain).point
    assert drain is not None
    yield drain
    if not free:
        return
    reaching = covering(shower.model_copy(update={"former": former}), stock)
    for place in (_against_entry(shower, former, stock), reaching):
        if place is not None:
            x, y = (round(float(v), 1) for v in place)
            yield drain.model_copy(update={"centre": (x, y)})


def _against_entry(shower: Shower, former: Tray, stock: StockTray) -> Array:
    """The riser's place with the tray's edge at the entry, or with an extension its back at the
    wall, and what is cut alike to the left and to the right."""
    ring = ring_of(shower)
    deep = ring.inward
    across = np.array([deep[1], -deep[0]])
    sides, depths = ring.points @ across, ring.points @ deep
    aside = (sides.min() + sides.max()) / 2 + stock.drain_left - stock.width / 2
    if former.extension is not None:
        inwards = depths.max() - stock.drain_back
    else:
        entries = [float((ring.edge(i) @ deep).min()) for i in sorted(ring.entries)]
        inwards = min(entries) + stock.length - stock.drain_back
    place: Array = across * aside + deep * inwards
    return place


def _kept(layer: Layer, there: tuple[Layer, ...], assumed: tuple[str, ...]) -> Layer | None:
    """A layer of the system, named and as thick as the plan has it, where that was chosen and is
    usual; None: it is put in as the system has it."""
    for i, old in enumerate(there):
        chosen = f"/shower/layers/{i}/thickness" not in assumed
        least, most = layer.least or 0.0, inf if layer.most is None else layer.most
        if _alike(old, layer) and chosen and least <= old.thickness <= most:
            return layer.model_copy(update={"name": old.name, "thickness": old.thickness})
    return None


def _alike(one: Layer, other: Layer) -> bool:
    return one.role == other.role and (one.role != "other" or one.name == other.name)


def _room_layers(plan: Plan, system: BuildSystem) -> tuple[Layer, ...]:
    """The room's layers without what the former system put in, with what this one does; in a wet
    room that falls already the floor that takes the fall is there, unless that system put it in.
    A floor that is cast to its falls carries the tile itself: no board lies over it."""
    put_in = plan.system.layers.room if plan.system else ()
    own = [layer for layer in plan.room.layers if layer not in put_in]
    stays = len(own) == len(plan.room.layers)
    if system.zones is not None and plan.shower.rest is not None and stays:
        return tuple(own)
    if system.zones is not None and plan.room.laid is None:
        own = [layer for layer in own if layer.role not in BOARDS]
    new = [layer for layer in system.layers.room if layer.name not in {one.name for one in own}]
    return (*own, *new)


def _asked(plan: Plan, system: BuildSystem) -> float:
    """The fall: built into trays and panels; that of a bed may have been chosen."""
    chosen = "/shower/fall/asked" not in plan.assumed
    bed = former_of(plan.shower).cast and bed_form(system) is not None
    return plan.shower.fall.asked if chosen and bed else system.former.fall


def _correction(plan: Plan, system: BuildSystem) -> object:
    """How the floor is made true: as it was chosen, with the pour that the system brings."""
    there, pour, old = plan.survey.correction, pour_of(plan), plan.system
    if old is not None and old.pour is not None and pour is not None:
        # What the former system poured in the shower goes with it.
        there = pour = pour.model_copy(update={"area": "room"}) if pour.area == "both" else None
    if system.pour is not None:
        area = "both" if pour is not None and pour.area != "shower" else "shower"
        pour = pour or Pour(cover=system.pour.cover)
        there = pour.model_copy(update={"area": area})
    return None if there is None else there.model_dump(mode="json")


def _rest(plan: Plan, system: BuildSystem, drain: PointDrain | LinearDrain) -> object:
    """The rest of a wet room: as it is, or as the system has it."""
    rest, old = plan.shower.rest, plan.system
    brought = old is not None and old.zones is not None and rest == Rest(asked=old.zones.rest)
    if system.zones is not None and rest is None:
        rest = Rest(asked=system.zones.rest)
    elif system.zones is None and brought:
        rest = None
    if rest is not None and drain.kind == "linear" and rest.walls == "level":
        rest = rest.model_copy(update={"walls": "rising"})
    return None if rest is None else rest.model_dump(mode="json")
