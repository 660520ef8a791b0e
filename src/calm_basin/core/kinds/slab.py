"""A slab."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calm_basin.core.kinds.carrier import DRAWN, Carrier
from calm_basin.plan.floor import SlabFloor


@dataclass(frozen=True)
class OnSlab(Carrier):
    """A slab is cut as deep as it has to be, and gives nothing until somebody who may has said
    so."""

    floor: SlabFloor

    name = "slab"
    recessed_name = "recess in the slab"
    structure = "the slab"
    opening = "cut_slab"
    opened_for_pipe = False
    refitted = False
    trenched = True
    timber = False
    gives_why = "a slab gives nothing until it was scanned and somebody who may has agreed"
    never = (
        "slab",
        "Never cut a slab blind: scan it for stressed cables, heating pipes and the "
        "damp-proof membrane.",
    )

    @property
    def thickness(self) -> float:
        return self.floor.thickness

    @property
    def gives(self) -> float:
        return 0.0

    def under(self, base: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.minimum(base, 0.0)

    def drawn_to(self, base: float) -> float:
        return -min(self.floor.thickness, max(DRAWN, -base + DRAWN / 2))

    @property
    def slab(self) -> SlabFloor:
        return self.floor
