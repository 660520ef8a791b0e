"""Parts of what makes the falls, in common sizes: stock tray, extension, stated falls, lower lift,
pour."""

from __future__ import annotations

import numpy as np

from calm_basin.plan.backs import Side
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.document import Plan
from calm_basin.plan.edits.putting import need, put
from calm_basin.plan.framing import framed
from calm_basin.plan.shower import PointDrain, StatedFalls, StockTray, Tray
from calm_basin.plan.survey import Pour, PourArea

POURED: dict[str, PourArea] = {"pour room": "room", "pour shower": "shower", "pour both": "both"}


def with_build_up(plan: Plan, common: CommonSizes, what: str) -> Plan:
    """The plan with one more of these parts. Raises `PlanError` where it has no place for it."""
    former = plan.shower.former
    match what:
        case "stock tray":
            return _stock_tray(plan, common)
        case "extension":
            stocked = isinstance(former, Tray) and former.stock is not None
            need(stocked, "/shower/former/stock", "Lay a stock tray out first.")
            return put(plan, "/shower/former/extension", common.extension)
        case "stated falls":
            need(isinstance(former, Tray), "/shower/former/kind", "Choose a tray first.")
            asked = plan.shower.fall.asked
            return put(plan, "/shower/former/stated", StatedFalls(least=asked, most=asked))
        case "lower lift":
            need(former.kind == "bed", "/shower/former/kind", "Choose a bed first.")
            return put(plan, "/shower/former/lower", common.lower_lift)
    there = plan.survey.correction
    if not isinstance(there, Pour):
        pour = Pour(cover=common.pour_cover, area=POURED[what])
        return put(plan, "/survey/correction", pour)
    poured = there.model_copy(update={"area": POURED[what]})
    survey = plan.survey.model_copy(update={"correction": poured})
    return plan.model_copy(update={"survey": survey})


STOCK = (100.0, 4.0)
"""Trays are taken to come in sizes of whole multiples of this, in mm and in inches."""


def _stock_tray(plan: Plan, common: CommonSizes) -> Plan:
    """The plan with a tray that is laid out from its riser, its drain in its middle: to begin with
    the smallest that reaches every side. What was cut off the tray before follows from it."""
    former, drain = plan.shower.former, plan.shower.drain
    need(isinstance(former, Tray), "/shower/former/kind", "Choose a tray first.")
    need(isinstance(drain, PointDrain), "/shower/drain/kind", "A tray has a point drain.")
    assert isinstance(former, Tray) and isinstance(drain, PointDrain)
    side = Side.of(plan.shower.outline, plan.shower.entries[0])
    away = np.array(framed(plan).outline) - np.array(drain.centre)
    step = common.size(*STOCK)
    sizes = [
        2 * step * np.ceil(float(np.abs(away @ way).max()) / step - 1e-6)
        for way in (side.along, side.inward)
    ]
    stock = StockTray(
        width=sizes[0], length=sizes[1], drain_left=sizes[0] / 2, drain_back=sizes[1] / 2
    )
    bare = plan.model_copy(
        update={
            "shower": plan.shower.model_copy(
                update={"former": former.model_copy(update={"cuts": ()})}
            )
        }
    )
    return put(bare, "/shower/former/stock", stock)
