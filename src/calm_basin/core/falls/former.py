"""Trays and panels: what their makers and their geometry allow."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from calm_basin.core.answer.build import GEOMETRY, broken, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.cures import (
    Asked,
    ask_for,
    bed_instead,
    cut_elsewhere,
    pack_tray,
    thicker_panels,
)
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.falls.step import step_of
from calm_basin.core.falls.stock import (
    TrayPart,
    TraySide,
    covering,
    cut_widths,
    reaches,
    tray_entry_cut,
    tray_parts,
    tray_sides,
    turned,
)
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.core.kinds.tray import tray_form
from calm_basin.plan import Plan
from calm_basin.plan.framing import framed
from calm_basin.plan.shower import Shower, StockTray, Tray
from calm_basin.plan.sources import COMMON
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE


def own_fall(former: Tray, surface: Surface) -> float:
    """How far a tray falls from its edge to the drain, mm: packing it up changes nothing of it."""
    return surface.drop + surface.edge - surface.extended + former.raised


def thin_tray(case: Case) -> list[Found]:
    """A tray that is thinner than its own fall."""
    plan, words = case.plan, case.words
    former = former_of(plan.shower).tray
    if former is None:
        return []
    fall = own_fall(former, case.surface)
    if former.edge_thickness > fall:
        return []
    flat = plan.shower.fall.asked * former.edge_thickness / fall * 0.5
    finding = broken(
        words,
        code="tray_too_thin",
        severity="stop",
        title=f"Tray too thin: {words.length(former.edge_thickness, 'down')}, its fall is "
        f"{words.length(fall, 'up')}",
        detail=f"Its edge is {words.length(former.edge_thickness)} thick, but the floor drops "
        f"{words.length(fall)} to the drain: nothing is left under it. Packing it up does not make "
        "it thicker.",
        value=former.edge_thickness,
        shown=words.length(former.edge_thickness, "down"),
        limit=fall,
        asked=f"more than {words.limit(fall)}",
        applies_to="the tray",
        source=GEOMETRY,
        field="/shower/former/edge_thickness",
    )
    return [
        Found(
            finding,
            lambda: [ask_for(words, flat, Asked.of(plan), steeper=False), bed_instead()],
        )
    ]


def tray_cuts(case: Case) -> list[Found]:
    """More cut off a side of a tray than its maker allows."""
    words, former = case.words, former_of(case.plan.shower).tray
    if former is None:
        return []
    widths = cut_widths(framed(case.plan))
    edge, width = max(widths.items(), key=lambda cut: cut[1], default=(0, 0.0))
    if width <= former.most_cut + 1e-6:
        return []
    rows = [cut.model_dump(mode="json") for cut in former.cuts]
    place = "stock" if former.stock else f"cuts/{list(widths).index(edge)}/width"
    for row in rows:
        row["width"] = min(row["width"], former.most_cut)
    finding = broken(
        words,
        code="tray_cut_too_far",
        severity="stop",
        title=f"Tray cut too far on side {edge + 1}: {words.length(width, 'up')}, limit "
        f"{words.limit(former.most_cut)}",
        detail=f"No more than {words.limit(former.most_cut)} a side: beyond that the tray's own "
        "build is cut into. Take a smaller tray, or cut the opposite side too. Cut the edge's "
        "rebate anew afterwards.",
        value=width,
        limit=former.most_cut,
        applies_to="each side of the tray",
        source=COMMON,
        field=f"/shower/former/{place}",
    )
    if former.stock:
        return [Found(finding, lambda: list(turned_tray(case.plan, words)))]
    smaller = Cure(
        text=f"Take a tray that needs only {words.length(former.most_cut, 'down')} cut off",
        changes=(Change(path="/shower/former/cuts", value=rows),),
    )
    return [Found(finding, lambda: [smaller])]


def _slack(part: TrayPart, side: TraySide) -> float:
    """What may be missing at a wall, mm: so much is shimmed and filled there."""
    open_ = side.edge in ring_of(part.shower).entries or side.edge in part.joint
    return 0.0 if open_ else TRADE.practice.undercut.value


def short_tray(case: Case) -> list[Found]:
    """A stock tray that does not reach all sides of the shower from the riser."""
    plan, words, stock = case.plan, case.words, former_of(case.plan.shower).stock
    if stock is None:
        return []
    sides = [
        (part, side)
        for part in tray_parts(framed(plan), stock)
        for side in tray_sides(part.shower, stock)
        if not side.across and -min(side.over) > _slack(part, side) + ON_EDGE
    ]
    if not sides:
        return []
    part, worst = min(sides, key=lambda one: min(one[1].over))
    short = -min(worst.over)
    ring = ring_of(part.shower)
    name = "other tray's" if worst.edge in part.joint else ring.side(ring.outwards[worst.edge])
    wide, deep = needed_size(part.shower)
    where = "Its part of the shower" if part.joint else "The shower"
    between = f", between {plan.walls.tray_to}," if framed(plan) != plan.shower else ""
    finding = broken(
        words,
        code="tray_too_small",
        severity="stop",
        title=f"Tray {words.length(short, 'up')} short of the {name} side",
        detail=f"From its own drain it reaches {words.length(worst.reach)} there, and the riser "
        f"is {words.length(worst.wanted)} from that side. {where}{between} is "
        f"{words.length(wide)} wide and {words.length(deep)} deep as the tray lies. What is "
        "missing has to be extended, or the riser moved, or another size taken.",
        value=short,
        limit=0.0,
        asked="to every side",
        applies_to="the tray",
        source=GEOMETRY,
        field="/shower/former/stock",
    )
    return [
        Found(
            finding,
            lambda: [
                riser_under_tray(plan, words),
                *turned_tray(plan, words),
                other_size(plan, words),
            ],
            each=True,
        ),
    ]


def needed_size(shower: Shower) -> tuple[float, float]:
    """How wide and how deep the shower is, along its entry and square to it, mm."""
    ring = ring_of(shower)
    across = np.array([ring.inward[1], -ring.inward[0]])
    return float(np.ptp(ring.points @ across)), float(np.ptp(ring.points @ ring.inward))


def riser_under_tray(plan: Plan, words: Words) -> Cure | None:
    """Move the riser to the nearest place from which the tray reaches every side."""
    stock = former_of(plan.shower).stock
    by = None if stock is None else _riser_moves(plan, stock)
    if by is None:
        return None
    return Cure(text=f"Move the riser {words.move(*by)}", changes=(_riser_moved(plan, by),))


def _riser_moves(plan: Plan, stock: StockTray) -> tuple[float, float] | None:
    """By how much, (dx, dy) in mm, the riser moves to the nearest place from which a tray reaches
    every side."""
    drain = drain_kind(plan.shower.drain).point
    if drain is None or plan.shower.second_drain is not None:
        return None
    place = covering(framed(plan), stock)
    if place is None:
        return None
    dx, dy = (round(float(v), 4) for v in place - np.array(drain.centre))
    return dx, dy


def _riser_moved(plan: Plan, by: tuple[float, float]) -> Change:
    x, y = drain_kind(plan.shower.drain).middle + by
    return Change(path="/shower/drain/centre", value=[float(x), float(y)])


def turned_tray(plan: Plan, words: Words) -> Iterator[Cure]:
    """Turn the tray a quarter, where it then reaches every side, or does with its riser moved."""
    laid_now = former_of(plan.shower).stock
    if laid_now is None:
        return
    for way, stock in zip(("left", "right"), turned(laid_now), strict=True):
        if stock == laid_now:
            continue
        text, laid = f"Turn the tray a quarter to the {way}", stock.model_dump(mode="json")
        changes = (Change(path="/shower/former/stock", value=laid),)
        if reaches(framed(plan), stock):
            yield Cure(text=text, changes=changes)
        elif (by := _riser_moves(plan, stock)) is not None:
            text += f" and move the riser {words.move(*by)}"
            yield Cure(text=text, changes=(*changes, _riser_moved(plan, by)))


def other_size(plan: Plan, words: Words) -> Cure | None:
    """The smallest of the system's stock sizes that reaches every side from this riser."""
    form = tray_form(plan.system)
    if form is None:
        return None
    sizes = [s for size in form.sizes for s in (size, *turned(size))]
    sizes.sort(key=lambda size: size.width * size.length)
    stock = next((size for size in sizes if reaches(framed(plan), size)), None)
    if stock is None:
        return None
    return Cure(
        text=f"Take the size {words.length(stock.width)} × {words.length(stock.length)}",
        changes=(Change(path="/shower/former/stock", value=stock.model_dump(mode="json")),),
    )


def entry_cut(case: Case) -> list[Found]:
    """A tray whose entry side was cut, where the step that makes keeps every limit."""
    plan, words = case.plan, case.words
    cut = tray_entry_cut(plan.shower)
    if cut <= 0:
        return []
    step = step_of(plan, case.surface)
    low = step - plan.shower.set_down
    over = any(abs(step) > limit.value + 1e-6 for limit in case.rules.on("entry_step"))
    if low <= 0.05 or over:
        return []
    finding = broken(
        words,
        code="tray_entry_cut",
        severity="caution",
        title=f"Tray's cut entry edge {words.length(low, 'up')} too low",
        detail=f"Cutting {words.length(cut)} off its entry side lowers that edge by its fall × the "
        "width cut off. Cut a wall side instead; packing the tray up helps only if the cut edge "
        "is low all along.",
        value=low,
        limit=0.0,
        asked="flush as planned",
        applies_to="the tray",
        source=GEOMETRY,
        field="/shower/former/cuts",
    )
    return [Found(finding, lambda: [*cut_elsewhere(plan), pack_tray(plan, words, low)])]


def panels(case: Case) -> list[Found]:
    """Panels whose own fall or length is not the planned one."""
    plan, words, former = case.plan, case.words, former_of(case.plan.shower).panels
    if former is None:
        return []
    if drain_kind(plan.shower.drain).channel is None:
        finding = unmeasured(
            "panels_need_channel",
            "stop",
            "Slope panels need a channel",
            "A panel falls one way, and a floor round a point drain falls from every side.",
            applies_to="the slope panels",
            source=GEOMETRY,
            field="/shower/former",
        )
        return [Found(finding, lambda: [channel_along(plan, "back"), bed_instead()])]
    asked = plan.shower.fall.asked
    run = max((facet.run for facet in case.surface.zone("shower")), default=0.0)
    found = []
    if abs(asked - former.fall) > 1e-3 * asked:
        word = "less" if former.fall < asked else "more"
        finding = broken(
            words,
            code="panel_fall",
            severity="caution",
            title=f"Panels too {'flat' if former.fall < asked else 'steep'}: "
            f"{words.fall_off(former.fall, asked)}, planned {words.fall(asked)}",
            detail=f"From {words.length(former.thin_edge)} to "
            f"{words.length(former.thick_edge)} over {words.length(former.length)} is "
            f"{words.fall_off(former.fall, asked)}: {word} than planned. The floor follows "
            "the panels, and every figure here is worked out for them.",
            value=former.fall,
            limit=asked,
            asked=f"{words.fall(asked)} planned",
            unit="rise_per_run",
            applies_to="the slope panels",
            source=GEOMETRY,
            field="/shower/former/thick_edge",
        )
        as_they_are = Cure(
            text=f"Plan the panels' own fall of {words.fall(former.fall)}",
            changes=(Change(path="/shower/fall/asked", value=former.fall),),
        )
        found.append(Found(finding, lambda: [as_they_are, thicker_panels(plan, words, asked)]))
    if run > former.length + 1e-6:
        finding = broken(
            words,
            code="panel_short",
            severity="caution",
            title=f"Panels {words.length(run - former.length, 'up')} too short for the fall",
            detail=f"The fall runs {words.length(run)}, a panel {words.length(former.length)}. "
            "A second row is packed up by what the first one rises.",
            value=run,
            limit=former.length,
            applies_to="the slope panels",
            source=GEOMETRY,
            field="/shower/former/length",
        )
        found.append(Found(finding))
    return found
