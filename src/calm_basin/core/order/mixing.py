"""How much is mixed at a time: what hands lay before it stiffens."""

from __future__ import annotations

from math import floor

from calm_basin.core.answer.case import Case
from calm_basin.core.order.need import Need
from calm_basin.rules import TRADE
from calm_basin.rules.trade.packs import Item
from calm_basin.rules.trade.tasks import Usual

QUARTERS = ("", "1/4", "1/2", "3/4")
"""Packs are parted in quarters: less nobody weighs."""


def batch_text(case: Case, item: Item, need: Need, pack: float, called: str) -> str:
    """The most that is mixed at a time, in packs; empty for what is not mixed.

    Notes
    -----
    Hands lay the whole in the usual time of its task, as they work in its pace: of that the share
    is mixed that they lay while it can be worked.
    """
    if not item.works:
        return ""
    hours = _hours(TRADE.tasks.tasks[item.task], need.amount)
    share = min(item.works / 60 / hours, 1.0) if hours else 1.0
    packs = need.amount * share / pack
    worked = f"{item.works:g} min" if item.works < 120 else f"{item.works / 60:g} h"
    if share == 1.0 and packs <= 1:
        return f"All of it in one mix: it can be worked for {worked}"
    quarters = max(floor(4 * packs + 1e-9), 1)
    whole, rest = divmod(quarters, 4)
    amount = " ".join(part for part in (str(whole) if whole else "", QUARTERS[rest]) if part)
    return f"Mix at most {amount} × {called} at a time: it can be worked for {worked}"


def _hours(usual: Usual, area: float) -> float:
    """The usual hours of a task, of so many square metres where it goes by them."""
    if usual.rate is None:
        return sum(usual.hands) / 2
    return sum(area / rate for rate in usual.rate) / 2
