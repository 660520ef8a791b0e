"""What is bought, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import Result, Working


class OrderLine(Result):
    """One thing that is bought: how much the plan needs, with waste, in whole packs.

    ``item`` names it in the plan's order; ``pack`` is what a pack holds in what the thing is
    counted in, ``pack_shown`` the same in ``pack_unit``, as people type it, of which one is
    ``pack_one``; ``typed`` whether somebody said so. ``held`` is what is kept back of it, ``batch``
    how much is mixed at a time, ``cost`` the packs at the typed price.
    """

    item: str
    name: str
    where: str
    unit: Literal["each", "m", "m2", "litre", "volume", "bag"]
    needed: float
    needed_text: str
    waste_text: str
    pack: float
    pack_shown: str
    pack_unit: str
    pack_one: float
    pack_text: str
    packs: int
    buy_text: str
    why: Working
    typed: bool
    water: str
    batch: str
    held: tuple[str, ...]
    price: float | None
    cost: float | None
    cost_text: str
    bought: bool
    on_site: bool
    checked: bool


class CutBar(Result):
    """A length that is bought, or a strip of a sheet, counted from 1, and how wide it is; what is
    cut from it, mm, longest first, and what is left."""

    sheet: int
    width_text: str
    pieces: tuple[float, ...]
    pieces_text: str
    left_text: str


class CutList(Result):
    """How the pieces of one thing are cut from the lengths or sheets ``bought``; none can do with
    fewer than ``least``, and where that is what is bought it is ``proven`` the best."""

    item: str
    name: str
    stock_text: str
    bars: tuple[CutBar, ...]
    said: str
    proven: bool
    bought: int
    least: int


class KitCheck(Result):
    """A part that is measured before anything is cut, and the sizes that the plan counts on."""

    item: str
    name: str
    sizes: tuple[str, ...]


class ToolList(Result):
    """Things that nobody counts, under their heading."""

    title: str
    listed: tuple[str, ...]
    source: str


class OrderResult(Result):
    """All that is bought for the job, line by line, with the cut lists and what is checked."""

    lines: tuple[OrderLine, ...]
    cuts: tuple[CutList, ...]
    kit: tuple[KitCheck, ...]
    tools: tuple[ToolList, ...]
    held: tuple[str, ...]
    total_text: str
    said: tuple[str, ...]
