"""A setting bed, in one lift or two."""

from __future__ import annotations

from dataclasses import dataclass

from calm_basin.core.kinds.former import FormerKind
from calm_basin.plan.shower import LowerLift, MortarBed
from calm_basin.plan.system import BedForm, BuildSystem


@dataclass(frozen=True)
class CastBed(FormerKind):
    """Mortar, thinnest at the drain; between two lifts lies the membrane."""

    former: MortarBed

    name = "setting bed"
    band = "bed"
    cast = True
    one_piece = False
    rigid = False
    task = "bed"
    measured_at = "drain"
    measure = ("bed at the drain", "least_thickness")

    @property
    def thickness(self) -> float:
        return self.former.least_thickness

    @property
    def deep(self) -> float:
        return self.mud + (self.former.lower.membrane if self.former.lower else 0.0)

    @property
    def mud(self) -> float:
        lower = self.former.lower
        return self.former.least_thickness + (lower.least_thickness if lower else 0.0)

    @property
    def lower(self) -> LowerLift | None:
        return self.former.lower

    @property
    def bed(self) -> MortarBed:
        return self.former


def bed_form(system: BuildSystem | None) -> BedForm | None:
    """The bed as a build system has it; None where it makes its falls otherwise."""
    form = None if system is None else system.former
    return form if isinstance(form, BedForm) else None
