"""Slope panels beside a channel: how many, how they are cut, which has the outlet's notch."""

from __future__ import annotations

from math import ceil

import numpy as np

from calm_basin.core.answer.build import GEOMETRY
from calm_basin.core.answer.case import Case
from calm_basin.core.depth.result import PanelCut, PanelLayout
from calm_basin.core.geometry.surface import Facet
from calm_basin.core.structure.footing import fitting_family, outlet_of
from calm_basin.plan.shower import LinearDrain, SlopePanels

ROUNDING = 1e-6
"""Share of a panel that is no panel more."""


def panel_layout(case: Case) -> PanelLayout | None:
    """The panels of each side of the channel; None where no panels lie beside one.

    Panels lie side by side along the channel, so many as its side is wide; a side that is longer
    than a panel takes another row, packed up by what the first one rises. They are cut at the
    thick end, so that the thin end meets the drain.
    """
    plan, words = case.plan, case.words
    former, drain = plan.shower.former, plan.shower.drain
    if not isinstance(former, SlopePanels) or not isinstance(drain, LinearDrain):
        return None
    sides = [
        _side(case, former, drain, facet)
        for facet in case.surface.zone("shower")
        if not facet.strip and not facet.level
    ]
    count = sum(side.count for side in sides)
    size = f"{words.length(former.width)} × {words.length(former.length)}"
    return PanelLayout(
        count=count,
        verdict=f"{count} panel{'' if count == 1 else 's'} of {size}",
        sides=tuple(sides),
        source=GEOMETRY,
    )


def _side(case: Case, former: SlopePanels, drain: LinearDrain, facet: Facet) -> PanelCut:
    words = case.words
    start, end = np.array(drain.start), np.array(drain.end)
    along = (end - start) / np.linalg.norm(end - start)
    places = facet.corners[:, :2]
    low, high = float((places @ along).min()), float((places @ along).max())
    run = float(facet.run)
    across = ceil((high - low) / former.width - ROUNDING)
    rows = ceil(run / former.length - ROUNDING)
    last = high - low - (across - 1) * former.width
    said = []
    cut = rows * former.length - run
    if cut > words.display.step / 2:
        row = "the last row's panels" if rows > 1 else "each panel"
        said.append(
            f"Cut {words.length(cut)} off the thick end of {row}: the thin end meets the drain."
        )
    if former.width - last > words.display.step / 2:
        said.append(f"Rip the last panel of a row to {words.length(last)}.")
    for number in range(1, rows):
        rise = number * (former.thick_edge - former.thin_edge)
        said.append(f"Pack row {number + 1} up {words.length(rise)}: what the rows before it rise.")
    said += _notch(case, former, drain, along, low, across)
    return PanelCut(
        name=facet.name,
        count=across * rows,
        rows=rows,
        text=f"{across} side by side"
        + (f", {rows} rows" if rows > 1 else "")
        + f", {words.length(run)} long",
        said=tuple(said),
    )


def _notch(
    case: Case,
    former: SlopePanels,
    drain: LinearDrain,
    along: np.ndarray[tuple[int], np.dtype[np.float64]],
    low: float,
    across: int,
) -> list[str]:
    """Which panels reach over the outlet's hole, and where it is notched."""
    family = fitting_family(case.plan)
    hole = family.hole_width if family else case.plan.water.pipe_diameter
    trough = family.body_width if family and family.body_width else drain.width
    if hole <= trough:
        return []
    at = float(outlet_of(drain) @ along) - low
    first = max(int((at - hole / 2) // former.width), 0)
    last = min(int((at + hole / 2) // former.width), across - 1)
    deep = case.words.length((hole - trough) / 2, "up")
    which = f"panel {first + 1}" if first == last else f"panels {first + 1} and {last + 1}"
    place = case.words.length(at)
    return [
        f"Notch {which} for the outlet, its middle {place} along, {case.words.length(hole, 'up')} "
        f"wide and {deep} deep."
    ]
