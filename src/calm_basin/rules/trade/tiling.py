"""What a tile may stand off its neighbour, and what laying tile takes."""

from __future__ import annotations

from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure, Share, Sourced


class Lippage(Measure):
    """How far a tile may stand off its neighbour over joints narrower than ``joint_under``."""

    joint_under: str


class Trowel(Sourced):
    """The trowel for tile whose longest side is no longer than ``up_to``."""

    up_to: str
    notch: str
    bed: str

    @property
    def bed_thickness(self) -> float:
        """About how thick the bed is that it leaves under a pressed tile, mm."""
        return millimetres(self.bed)


class Tiling(Record):
    """``lippage`` by joint, the narrowest joints first. ``thumb`` is the largest tile that follows
    folds uncut, ``kerf`` what a saw takes between two pieces, ``sliver`` the share of its tile that
    a piece keeps at least, ``least_joint`` the narrowest that can be laid. ``breakage`` is bought
    over what is laid where every cut was counted; ``coverage`` is the share of a tile's back that
    has to be in its adhesive where it gets wet. ``trowels`` are those for the smallest tile first.
    """

    lippage: tuple[Lippage, ...]
    thumb: Measure
    kerf: Measure
    sliver: Share
    least_joint: Measure
    breakage: Share
    coverage: Share
    trowels: tuple[Trowel, ...]

    def lippage_over(self, joint: float) -> Lippage:
        """Permitted lippage over a joint of this width, mm."""
        found = (one for one in self.lippage if joint < millimetres(one.joint_under))
        return next(found, self.lippage[-1])

    def trowel(self, side: float) -> Trowel:
        """The trowel for tile whose longest side is ``side``, mm."""
        return next(one for one in self.trowels if side <= millimetres(one.up_to))
