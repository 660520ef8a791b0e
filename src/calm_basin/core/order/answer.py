"""The order in words: lines in packs with their working, cut lists, what is kept back."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from math import ceil
from typing import NamedTuple

from calm_basin.amounts import GALLON_LITRES
from calm_basin.core.answer.build import listed, working
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Input
from calm_basin.core.geometry.levels import pour_of
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.core.order.cuts import LEAST_STOCK, Cuts, cut_lists
from calm_basin.core.order.mixing import batch_text
from calm_basin.core.order.need import M2, M, Need, Share
from calm_basin.core.order.needs import floor_of_shower, needs
from calm_basin.core.order.result import (
    CutBar,
    CutList,
    KitCheck,
    OrderLine,
    OrderResult,
    ToolList,
)
from calm_basin.core.survey.ground import ground_of
from calm_basin.core.walls.boards import board_size
from calm_basin.plan.order import Bought
from calm_basin.rules import TRADE
from calm_basin.rules.trade.packs import Counted, Item
from calm_basin.tolerances import SHARE_ROUNDED
from calm_basin.units import Display

SHEETS = ("deck", "wall_board")
"""What is bought in sheets: their number is that of the cut list."""


class UnitOf(NamedTuple):
    """How much of what is counted one of it is, what it is called, and its places on paper."""

    one: float
    name: str
    places: int


FOOT = 0.3048
"""Metres."""

MEASURES: dict[tuple[Counted, bool], UnitOf] = {
    ("each", False): UnitOf(1.0, "pieces", 0),
    ("bag", False): UnitOf(1.0, "bags", 1),
    ("m", False): UnitOf(1.0, "m", 1),
    ("m", True): UnitOf(FOOT, "ft", 1),
    ("m2", False): UnitOf(1.0, "m²", 2),
    ("m2", True): UnitOf(FOOT**2, "sq ft", 1),
    ("litre", False): UnitOf(1.0, "L", 1),
    ("litre", True): UnitOf(GALLON_LITRES, "gal", 1),
    ("volume", False): UnitOf(1.0, "L", 1),
    ("volume", True): UnitOf(FOOT**3 * 1e3, "cu ft", 2),
}
"""In what each is told, in metric units and in those of inches where they differ."""

TITLES = {
    "gear": "Protective gear",
    "consumables": "Consumables",
    "tools": "Tools",
    "forgotten": "Forgotten by most",
}


def order(case: Case) -> OrderResult:
    """All that is bought for a job."""
    plan, words = case.plan, case.words
    inches = words.display.imperial
    lengths = {
        name: (plan.order.of(name).pack or TRADE.order.items[name].sold(inches=inches).pack) * M
        for name in ("cleat", "joist", "backing", "band")
    }
    cuts = cut_lists(case, lengths)
    wanted = _together([*needs(case), *_panels(cuts)])
    items = TRADE.order.items.items()
    lines = tuple(_line(case, item, wanted[name], cuts) for name, item in items if name in wanted)
    costs = [line.cost for line in lines if line.cost is not None]
    without = sum(line.price is None for line in lines)
    total = f"{sum(costs):,.2f}" if costs else ""
    if total and without:
        total += f", without {without} lines that have no price"
    return OrderResult(
        lines=lines,
        cuts=tuple(_cut_list(case, one) for one in cuts),
        kit=_kit(case),
        tools=_tools(case),
        held=plan.system.practice.hold_back if plan.system else (),
        total_text=total,
        said=_said(case),
    )


def _together(found: Iterable[Need]) -> dict[str, Need]:
    """One need an item, with the shares of all."""
    merged: dict[str, list[Need]] = defaultdict(list)
    for need in found:
        merged[need.item].append(need)
    return {
        name: of[0]._replace(shares=tuple(share for one in of for share in one.shares))
        for name, of in merged.items()
    }


def _panels(cuts: list[Cuts]) -> list[Need]:
    counted = [(one.item, one.bought) for one in cuts if one.item in SHEETS and one.bought]
    return [
        Need(item, "sheets of the cut list", (Share("sheets", bought),)) for item, bought in counted
    ]


def _line(case: Case, item: Item, need: Need, cuts: list[Cuts]) -> OrderLine:
    words, typed = case.words, case.plan.order.of(item.id)
    sold = item.sold(inches=words.display.imperial)
    called = _called(case, item)
    pack = typed.pack or _stated(case, item) or sold.pack
    waste = 0.0 if need.counted else item.waste
    amount = need.amount * (1 + waste)
    nested = [one for one in cuts if one.item == item.id and item.id not in SHEETS]
    packs = sum(one.bought for one in nested) if nested else ceil(amount / pack - SHARE_ROUNDED)
    whole = _amount(words.display, item.unit, need.amount)
    inputs = [
        Input(name=share.name, text=_amount(words.display, item.unit, share.amount))
        for share in need.shares
        if share.amount > SHARE_ROUNDED
    ]
    if waste:
        inputs.append(Input(name="waste", text=f"{100 * waste:.0f} %"))
    holds, measure = _amount(words.display, item.unit, pack), _measure(words.display, item.unit)
    if typed.pack is not None:
        inputs.append(Input(name=called, text=f"{holds}, as typed"))
    elif item.gives:
        inputs.append(Input(name=called, text=holds))
    formula = need.formula + (
        ", nested: see the cut list"
        if nested
        else ", in whole packs"
        if need.counted
        else ", with waste, in whole packs"
    )
    cost = None if typed.price is None else typed.price * packs
    return OrderLine(
        item=item.id,
        name=need.called or item.name,
        where=item.where,
        unit=item.unit,
        needed=need.amount,
        needed_text=whole,
        waste_text=f"{100 * item.waste:.0f} %" if item.waste else "",
        pack=pack,
        pack_shown=f"{pack / measure.one:.6g}",
        pack_unit=measure.name,
        pack_one=measure.one,
        pack_text=_packed(item, called, holds, typed),
        packs=packs,
        buy_text=f"{packs} × {called}",
        why=working(formula, inputs, source=item.source, note=item.note),
        typed=typed.pack is not None,
        water=_water(case, item),
        batch=batch_text(case, item, need, pack, called),
        held=_held(case, item),
        price=typed.price,
        cost=cost,
        cost_text="" if cost is None else f"{cost:.2f}",
        bought=typed.bought,
        on_site=typed.on_site,
        checked=typed.checked,
    )


def _called(case: Case, item: Item) -> str:
    """What a pack is called: boards of a wall by the size that was chosen."""
    if item.id == "wall_board":
        length, width = (case.words.length(side) for side in board_size(case.plan))
        return f"board, {length} × {width}"
    return item.sold(inches=case.words.display.imperial).called


def _stated(case: Case, item: Item) -> float | None:
    """What a pack goes under by the system's own text, m²."""
    takes = case.plan.system.bedding[0].takes if case.plan.system else None
    if item.id != "bedding" or takes is None or takes.unit != "bags":
        return None
    return takes.width * takes.length / takes.amount / M2


def _water(case: Case, item: Item) -> str:
    system = case.plan.system
    if item.id == "bedding" and system is not None:
        return system.bedding[0].water
    return item.water


def _held(case: Case, item: Item) -> tuple[str, ...]:
    """What the system says is kept back of a thing."""
    if case.plan.system is None:
        return ()
    word = {
        "compound": "compound",
        "bedding": "adhesive",
        "sealant": "sealant",
        "mud": "mortar",
    }.get(item.id)
    told = case.plan.system.practice.hold_back
    return tuple(one for one in told if word and word in one.lower())


def _measure(display: Display, unit: Counted) -> UnitOf:
    """In what a thing that is counted in a unit is told."""
    return MEASURES.get((unit, display.imperial), MEASURES[unit, False])


def _amount(display: Display, unit: Counted, amount: float) -> str:
    """An amount in the units of the display."""
    if unit == "each":
        return f"{ceil(amount - SHARE_ROUNDED)}"
    measure = _measure(display, unit)
    return f"{amount / measure.one:.{measure.places}f} {measure.name}"


def _packed(item: Item, called: str, holds: str, typed: Bought) -> str:
    """A pack in words, with what it gives where its name does not tell, or somebody typed it."""
    if typed.pack is None and not item.gives:
        return called
    return f"{called} {item.gives or 'of'} {holds}"


def _cut_list(case: Case, cuts: Cuts) -> CutList:
    words, item = case.words, TRADE.order.items[cuts.item]
    called = _called(case, item)
    if case.plan.order.of(cuts.item).pack is not None and cuts.item not in SHEETS:
        called = words.length(cuts.stock)
    over = (cuts.bought - cuts.least) / cuts.bought if cuts.bought else 0.0
    unit = {"deck": "sheet", "wall_board": "board", "band": "roll"}.get(cuts.item, "length")
    said = (
        f"No other way to cut takes fewer {unit}s."
        if not over
        else f"At least {cuts.least} {unit}s would be needed by any way to cut."
    )
    if cuts.joined:
        said += f" {cuts.joined} pieces are longer than a {unit} and are joined."
    return CutList(
        item=cuts.item,
        name=item.name,
        stock_text=called,
        bars=tuple(
            CutBar(
                sheet=strip.sheet,
                width_text=words.length(strip.width, "up") if strip.width else "",
                pieces=strip.pieces,
                pieces_text=" + ".join(words.length(piece, "down") for piece in strip.pieces),
                left_text=words.length(strip.left, "down"),
            )
            for strip in cuts.strips
        ),
        said=said,
        proven=not over,
        bought=cuts.bought,
        least=cuts.least,
    )


def _kit(case: Case) -> tuple[KitCheck, ...]:
    """Parts that are measured before anything is cut."""
    plan, words = case.plan, case.words
    found = []
    former, family, drain = former_of(plan.shower), plan.waste.family, plan.shower.drain
    if former.one_piece:
        sizes = [f"edge {words.length(former.thickness)}"]
        if (stock := former.stock) is not None:
            sizes = [
                f"{words.length(stock.width)} × {words.length(stock.length)}",
                f"drain {words.length(stock.drain_left)} from the left, "
                f"{words.length(stock.drain_back)} from the back",
                *sizes,
            ]
        found.append(KitCheck(item="tray", name="Tray", sizes=tuple(sizes)))
    sizes = [f"cover {words.length(drain.width)} wide"]
    if (channel := drain_kind(drain).channel) is not None:
        sizes = [f"channel {words.length(channel.size)} long, {words.length(drain.width)} wide"]
    if family is not None:
        if family.body_depth:
            sizes.append(f"body {words.length(family.body_depth)} deep")
        sizes.append(f"pipe {words.length(family.pipe)} outside")
    found.append(KitCheck(item="drain", name="Drain and trap", sizes=tuple(sizes)))
    return tuple(found)


def _tools(case: Case) -> tuple[ToolList, ...]:
    system = case.plan.system
    own = {} if system is None else {"tools": system.practice, "forgotten": system.practice}
    found = []
    for name, usual in TRADE.kit.lists.items():
        told, source = usual.listed, usual.source
        if name in own:
            practice = own[name]
            told, source = getattr(practice, name) or told, practice.source
        found.append(ToolList(title=TITLES[name], listed=told, source=source))
    return tuple(found)


def _said(case: Case) -> tuple[str, ...]:
    """What stands over the list."""
    plan, words = case.plan, case.words
    said = ["Packs and yields are usual ones: type what the bag says."]
    former = former_of(plan.shower)
    if former.one_piece and plan.room.doors:
        narrow = min(door.width for door in plan.room.doors)
        left, bottom, right, top = floor_of_shower(case).bounds
        least = min(right - left, top - bottom)
        if former.stock is not None:
            least = min(former.stock.width, former.stock.length)
        if least > narrow:
            said.append(
                f"The tray's shorter side is {words.length(least)} and the narrowest door "
                f"{words.length(narrow)}: it goes in on edge. Measure the way in."
            )
    if pour_of(plan) is not None and ground_of(plan) is None:
        said.append("Levelling compound is counted once the floor has been read.")
    for name in ("cleat", "joist", "band"):
        typed = plan.order.of(name).pack
        if typed is not None and typed * M < LEAST_STOCK:
            short = words.length(typed * M)
            said.append(f"Lengths of {short} are too short to cut from: type what one is.")
    if plan.system is None:
        said.append(f"No build system is chosen: {listed(['bedding', 'tools'])} are usual ones.")
    return tuple(said)
