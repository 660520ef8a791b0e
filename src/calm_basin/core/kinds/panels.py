"""Slope panels."""

from __future__ import annotations

from dataclasses import dataclass

from calm_basin.core.kinds.former import FormerKind
from calm_basin.plan.shower import SlopePanels


@dataclass(frozen=True)
class LaidPanels(FormerKind):
    """Wedges side by side along a channel, thin where they meet it."""

    former: SlopePanels

    name = "slope panels"
    band = "bed"
    cast = False
    one_piece = False
    rigid = True
    task = "set_panels"
    measured_at = "drain"
    measure = ("panels' thin edge", "thin_edge")

    @property
    def thickness(self) -> float:
        return self.former.thin_edge

    @property
    def panels(self) -> SlopePanels:
        return self.former
