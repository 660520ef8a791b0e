"""Boards on joists."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calm_basin.core.kinds.carrier import DRAWN, Carrier
from calm_basin.plan.floor import JoistFloor
from calm_basin.tolerances import UNSEEN


@dataclass(frozen=True)
class OnJoists(Carrier):
    """The deck is lifted and refitted between the joists, flush with their tops: it gives its own
    thickness, and deeper is structure."""

    floor: JoistFloor

    name = "deck"
    recessed_name = "deck between the joists"
    structure = "the floor's structure"
    opening = "open_deck"
    opened_for_pipe = True
    refitted = True
    trenched = False
    timber = True
    gives_why = (
        "the deck, lifted and refitted between the joists flush with their tops, gives its "
        "thickness"
    )
    never = (
        "structure",
        "Joists are structure. Never notch or cut them by this plan: an engineer decides.",
    )

    @property
    def thickness(self) -> float:
        return self.floor.deck_thickness

    @property
    def gives(self) -> float:
        return self.floor.deck_thickness

    def under(self, base: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.where(base >= -UNSEEN, 0.0, -self.floor.deck_thickness)

    def drawn_to(self, base: float) -> float:
        deck = self.floor.deck_thickness
        return -deck - min(self.floor.depth, max(DRAWN / 2, -base - deck + DRAWN / 2))

    @property
    def joists(self) -> JoistFloor:
        return self.floor

    @property
    def ceiling(self) -> float | None:
        return -self.floor.deck_thickness - self.floor.depth if self.floor.ceiling else None
