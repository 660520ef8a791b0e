"""What carries a shower's floor, as the subjects of the trade ask of it."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from calm_basin.plan.floor import JoistFloor, SlabFloor

DRAWN = 120.0
"""How much of what carries is drawn below the deepest level, mm."""


class Carrier(ABC):
    """The deck or slab that carries a shower, with what lies under it.

    Heights count from its top, mm, up positive.
    """

    name: ClassVar[str]
    """What its top is called."""

    recessed_name: ClassVar[str]
    """What is stood on where it is recessed."""

    structure: ClassVar[str]
    """What an engineer decides on, as a finding names it."""

    opening: ClassVar[str]
    """The task by which it is opened."""

    opened_for_pipe: ClassVar[bool]
    """Whether it is opened even where only the waste pipe goes in."""

    refitted: ClassVar[bool]
    """Whether what was taken up is set lower: a recess needs framing and is as deep as that."""

    trenched: ClassVar[bool]
    """Whether a pipe lies in a trench that is cut from above, with no access from below."""

    timber: ClassVar[bool]
    """Whether it burns, moves and takes a nail."""

    gives_why: ClassVar[str]
    """Why it gives as much depth as it does."""

    never: ClassVar[tuple[str, str]]
    """A caution: its code and what must never be done here."""

    @property
    @abstractmethod
    def thickness(self) -> float:
        """How thick its top is, mm: the deck, or the slab."""

    @property
    @abstractmethod
    def gives(self) -> float:
        """Depth, mm, that can be had without touching structure."""

    @abstractmethod
    def under(self, base: NDArray[np.float64]) -> NDArray[np.float64]:
        """Its top where it carries a base at these levels, (n,): as it is, refitted or cut."""

    @abstractmethod
    def drawn_to(self, base: float) -> float:
        """How far down it is drawn in a section, mm, under a base at this level."""

    def lowered(self, recess: float) -> float:
        """How far its top is lowered, mm, for a recess of this depth."""
        if recess <= 0:
            return 0.0
        return self.gives if self.refitted else recess

    @property
    def joists(self) -> JoistFloor | None:
        """The joists under it; None where there are none."""
        return None

    @property
    def slab(self) -> SlabFloor | None:
        """The concrete that is cut; None where there is none."""
        return None

    @property
    def ceiling(self) -> float | None:
        """The level of a ceiling below it; None where none hangs there."""
        return None
