"""The cutting diagram of a stock tray, from its own drain: what is cut and what that does."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import XY
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.result import TrayLayout, TrayMark
from calm_basin.core.falls import Ring, ring_of
from calm_basin.core.falls.arrangements import EXTENSION
from calm_basin.core.falls.stock import (
    TrayPart,
    TraySide,
    delivered,
    extension_of,
    tray_parts,
    tray_sides,
)
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.core.kinds.tray import tray_form
from calm_basin.plan import Plan
from calm_basin.plan.framing import framed
from calm_basin.plan.shower import StockTray, Tray
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE


def tray_layouts(case: Case) -> tuple[TrayLayout, ...]:
    """How each stock tray is cut so that its drain lies over its riser; none where there is no such
    tray. Places are as on the tray: its own drain's middle is the origin, x to the right as seen by
    whoever comes in, y to the back."""
    shower, former = case.plan.shower, former_of(case.plan.shower).tray
    if former is None or former.stock is None:
        return ()
    cut_to = tray_parts(framed(case.plan), former.stock)
    finished = tray_parts(shower, former.stock)
    return tuple(
        _layout(case, former, former.stock, part, of)
        for part, of in zip(cut_to, finished, strict=True)
    )


OnTray = Callable[[Array], tuple[XY, ...]]
"""Places on plan, (n, 2), as they lie on a tray."""


def _layout(
    case: Case, former: Tray, stock: StockTray, part: TrayPart, finished: TrayPart
) -> TrayLayout:
    """``part`` reaches to the studs, ``finished`` to the walls' faces, where its falls end."""
    words, shower, drain = case.words, part.shower, drain_kind(part.shower.drain)
    ring = ring_of(shower)
    tray = delivered(shower, stock, extension_of(shower))
    deep = ring.inward
    axes = np.array([[deep[1], -deep[0]], deep])

    def on_tray(points: Array) -> tuple[XY, ...]:
        local = (points - drain.outlet) @ axes.T
        return tuple((round(float(x), 4), round(float(y), 4)) for x, y in local)

    kept = tray.polygon.intersection(ring.polygon)
    marks = [
        _mark(case, former, part, finished, side, on_tray) for side in tray_sides(shower, stock)
    ]
    cut = [mark for mark in marks if mark.state == "cut"]
    short = [mark for mark in marks if mark.state == "missing"]
    if short:
        verdict = f"Too small on {len(short)} of {len(marks)} sides"
    elif cut:
        verdict = f"{len(cut)} of {len(marks)} sides are cut"
    else:
        verdict = "It fits as it is delivered"
    size = f"{words.length(stock.width)} × {words.length(stock.length)}"
    which = ""
    if part.joint:
        which = "first " if shower.drain == case.plan.shower.drain else "second "
    return TrayLayout(
        title=f"{which}tray {size}, its drain {words.length(stock.drain_left)} from the left and "
        f"{words.length(stock.drain_back)} from the back".capitalize(),
        verdict=verdict,
        outline=on_tray(tray.points),
        joint=on_tray(delivered(shower, stock).edge(0)) if former.extension else (),
        kept=on_tray(_ring(kept)),
        rim=on_tray(drain.rim),
        sides=tuple(marks),
        said=_order(case, cut, short),
    )


def _ring(shape: object) -> Array:
    """The corners of the largest piece of a shape."""
    pieces = [p for p in shapely.get_parts(shape) if isinstance(p, Polygon)]
    largest = max(pieces, key=lambda piece: piece.area)
    corners: Array = shapely.get_coordinates(largest.normalize().exterior)[:-1]
    return corners


def _lost(case: Case, former: Tray, ends: Array) -> float:
    """How far the tray's edge lies lower along a side where it was cut than as delivered, mm.

    Its planes bend at their corners only; what stands before it or round it is not the tray's.
    """
    surface = case.surface
    own = [facet for facet in surface.zone("shower") if facet.name != EXTENSION]
    corners = np.vstack([facet.corners for facet in own])
    away = shapely.distance(LineString(ends), shapely.points(corners[:, :2]))
    edge = surface.edge - surface.extended + former.raised
    return max(edge - float(corners[away <= ON_EDGE, 2].min(initial=edge)), 0.0)


def _mark(
    case: Case,
    former: Tray,
    part: TrayPart,
    finished: TrayPart,
    side: TraySide,
    on_tray: OnTray,
) -> TrayMark:
    plan, words = case.plan, case.words
    ring = ring_of(part.shower)
    ends = ring.edge(side.edge)
    most, least = max(side.over), min(side.over)
    joint = side.edge in part.joint
    entry = side.edge in ring.entries and not joint
    if least < -ON_EDGE:
        state, text = "missing", f"{words.length(-least, 'up')} is missing"
    elif most > ON_EDGE:
        state = "cut"
        text = f"cut {words.length(most)}"
        if abs(most - least) >= words.display.step:
            first, last = (words.length(max(over, 0.0)) for over in side.over)
            text = f"cut {first} to {last}"
    else:
        state, text = "as delivered", "as delivered"
    loss = _lost(case, former, ring_of(finished.shower).edge(side.edge)) if state == "cut" else 0.0
    notes = []
    own = most - side.extension
    if state == "cut" and joint:
        notes.append("the joint: the other tray is cut alike there, and both are sealed")
    elif state == "cut" and entry and own <= ON_EDGE:
        notes.append("cut the extension at its plain end, at the entry")
    elif state == "cut" and entry:
        notes.append("this is the entry: what it loses is a step there; cut the back instead")
    elif state == "cut":
        notes += _rebate(plan, words)
    if state == "cut" and own > former.most_cut + 1e-6:
        notes.append(f"more than the {words.limit(former.most_cut)} that may be cut off a side")
    return TrayMark(
        name=_name(ring, side.edge, entry, joint),
        state=state,
        text=text,
        riser_text=words.length(side.wanted),
        reach_text=words.length(side.reach),
        loss=loss,
        loss_text=f"its edge is {words.length(loss, 'up')} lower" if loss > 0.05 else "",
        note="; ".join(notes),
        start=on_tray(ends)[0],
        end=on_tray(ends)[1],
        entry=entry,
    )


def _name(ring: Ring, edge: int, entry: bool, joint: bool) -> str:
    """What a side of the tray's part is called."""
    if joint:
        return "joint"
    return "entry" if entry else ring.side(ring.outwards[edge])


def _rebate(plan: Plan, words: Words) -> list[str]:
    """The rebate that a cut side needs anew, by the system that was bought or by what is usual."""
    form = tray_form(plan.system)
    size = TRADE.practice.rebate.value if form is None else form.rebate
    return [f"cut the rebate for the wall panel anew, {words.length(size)} square"] if size else []


def _order(case: Case, cut: list[TrayMark], short: list[TrayMark]) -> tuple[str, ...]:
    words = case.words
    if short:
        return (
            "Do not cut yet: the tray does not reach every side from this riser. Move the riser, "
            "turn the tray, choose another size, or extend it.",
        )
    edge = "each side"
    if framed(case.plan) != case.plan.shower:
        edge = f"the {case.plan.walls.tray_to} at each side"
    told = [
        f"Measure from the riser's middle to {edge}, twice, at both ends of a side.",
        "Carry each measure to the tray from its own drain's middle, and mark it at both ends.",
    ]
    if cut:
        least = words.length(TRADE.practice.undercut.value, "down")
        told += [
            "Saw on the waste side of the line; blade, mask and extraction as for dusty work.",
            f"Undercut by {least} at most, and shim it there.",
        ]
    told.append("Lay it in dry: drain over riser, edges level, before any adhesive is mixed.")
    return tuple(told)
