"""Slope panels beside a channel: how many, how they are cut, which has the outlet's notch."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np

from calm_basin.core.answer.build import GEOMETRY
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import XY
from calm_basin.core.depth.result import PanelCut, PanelLayout
from calm_basin.core.geometry.surface import Array, Facet
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.core.structure.footing import fitting_family
from calm_basin.plan.shower import LinearDrain, SlopePanels
from calm_basin.tolerances import SHARE_ROUNDED


def panel_layout(case: Case) -> PanelLayout | None:
    """The panels of each side of the channel; None where no panels lie beside one.

    Panels lie side by side along the channel, so many as its side is wide; a side that is longer
    than a panel takes another row, packed up by what the first one rises. They are cut at the
    thick end, so that the thin end meets the drain.
    """
    plan, words = case.plan, case.words
    former, drain = former_of(plan.shower).panels, drain_kind(plan.shower.drain).channel
    if former is None or drain is None:
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


@dataclass(frozen=True)
class _Side:
    """One side of a channel from its drain: x to the right of whoever looks up the slope, y up it
    from where it meets the drain; ``wide`` and ``run`` are its size, mm."""

    outline: Array
    right: Array
    low: float
    wide: float
    run: float

    @classmethod
    def of(cls, facet: Facet) -> _Side:
        up = -np.array(facet.downhill)
        right = np.array([up[1], -up[0]])
        places = facet.corners[:, :2]
        x, y = places @ right, places @ up
        local = np.column_stack([x - x.min(), y - y.min()])
        return cls(local, right, float(x.min()), float(np.ptp(x)), float(facet.run))


def _side(case: Case, former: SlopePanels, drain: LinearDrain, facet: Facet) -> PanelCut:
    words, side = case.words, _Side.of(facet)
    across = ceil(side.wide / former.width - SHARE_ROUNDED)
    rows = ceil(side.run / former.length - SHARE_ROUNDED)
    last = side.wide - (across - 1) * former.width
    said = []
    cut = rows * former.length - side.run
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
    notch, told = _notch(case, former, drain, side, across)
    return PanelCut(
        name=facet.name,
        count=across * rows,
        rows=rows,
        text=f"{across} side by side"
        + (f", {rows} rows" if rows > 1 else "")
        + f", {words.length(side.run)} long",
        said=(*said, *told),
        kept=tuple((float(x), float(y)) for x, y in side.outline),
        panels=tuple(
            (
                (i * former.width, j * former.length),
                ((i + 1) * former.width, (j + 1) * former.length),
            )
            for i in range(across)
            for j in range(rows)
        ),
        notch=notch,
        run_text=words.length(side.run),
        last_text=words.length(last),
        width_text=words.length(former.width),
    )


def _notch(
    case: Case, former: SlopePanels, drain: LinearDrain, side: _Side, across: int
) -> tuple[tuple[XY, ...], list[str]]:
    """Where the outlet's hole reaches under the panels, as two corners, and which are notched."""
    family = fitting_family(case.plan)
    hole = family.hole_width if family else case.plan.water.pipe_diameter
    trough = family.body_width if family and family.body_width else drain.width
    if hole <= trough:
        return (), []
    at = float(np.array(drain.outlet_at) @ side.right) - side.low
    first = max(int((at - hole / 2) // former.width), 0)
    last = min(int((at + hole / 2) // former.width), across - 1)
    deep = (hole - trough) / 2
    which = f"panel {first + 1}" if first == last else f"panels {first + 1} and {last + 1}"
    words = case.words
    return ((at - hole / 2, 0.0), (at + hole / 2, deep)), [
        f"Notch {which} for the outlet, centred {words.length(at)} from the left, "
        f"{words.length(hole, 'up')} wide and {words.length(deep, 'up')} deep."
    ]
