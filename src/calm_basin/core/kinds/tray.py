"""A preformed tray."""

from __future__ import annotations

from dataclasses import dataclass

from calm_basin.core.kinds.former import FormerKind
from calm_basin.plan.shower import StockTray, Tray
from calm_basin.plan.system import BuildSystem, TrayForm


@dataclass(frozen=True)
class LaidTray(FormerKind):
    """One piece with its falls built in, measured at its edge; packing lifts all of it."""

    former: Tray

    name = "tray"
    band = "tray"
    cast = False
    one_piece = True
    rigid = False
    task = "set_tray"
    measured_at = "edge"
    measure = ("tray's edge", "edge_thickness")

    @property
    def thickness(self) -> float:
        return self.former.edge_thickness

    @property
    def raised(self) -> float:
        return self.former.raised

    @property
    def stated(self) -> bool:
        return self.former.stated is not None

    @property
    def altered(self) -> bool:
        return bool(self.former.cuts or self.former.raised or self.stock or self.stated)

    @property
    def tray(self) -> Tray:
        return self.former

    @property
    def stock(self) -> StockTray | None:
        return self.former.stock


def tray_form(system: BuildSystem | None) -> TrayForm | None:
    """The tray as a build system has it; None where it makes its falls otherwise."""
    form = None if system is None else system.former
    return form if isinstance(form, TrayForm) else None
