"""What makes the falls, as the subjects of the trade ask of it."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import ClassVar, Literal

from calm_basin.plan.shower import LowerLift, MortarBed, SlopePanels, StockTray, Tray
from calm_basin.plan.system import Form


class FormerKind(ABC):
    """What makes the falls of a shower; thicknesses in mm."""

    name: ClassVar[str]
    """What it is called."""

    band: ClassVar[Literal["bed", "tray"]]
    """How a section draws it."""

    cast: ClassVar[bool]
    """Whether it is made on site: to any fall, by pins, down to what carries it."""

    one_piece: ClassVar[bool]
    """Whether it comes in one stiff piece that holds its drain and lies as its floor does."""

    rigid: ClassVar[bool]
    """Whether its parts bend in no place: what lies beside a channel is one plane."""

    task: ClassVar[str]
    """The task by which it is made or set."""

    measured_at: ClassVar[Literal["drain", "edge"]]
    """Where its thickness is given; levels are counted from there."""

    measure: ClassVar[tuple[str, str]]
    """What that thickness is called, and its field."""

    @property
    @abstractmethod
    def thickness(self) -> float:
        """Its least thickness, where it is measured."""

    def least_of(self, form: Form) -> float | None:
        """The least thickness that a build system allows; None where it makes its falls
        otherwise."""
        return getattr(form, self.measure[1], None)

    @property
    def deep(self) -> float:
        """What it takes of the depth under the place where it is measured."""
        return self.thickness

    @property
    def raised(self) -> float:
        """How far it is packed up."""
        return 0.0

    @property
    def altered(self) -> bool:
        """Whether it is anything but what the planned falls make over the shower as it is."""
        return False

    @property
    def stated(self) -> bool:
        """Whether its maker states its falls: it is judged by those."""
        return False

    @property
    def mud(self) -> float:
        """How much of that is mortar."""
        return 0.0

    @property
    def lower(self) -> LowerLift | None:
        """The lower lift of a bed in two; None where there is none."""
        return None

    @property
    def bed(self) -> MortarBed | None:
        """The bed that is cast; None where nothing is."""
        return None

    @property
    def tray(self) -> Tray | None:
        """The tray that is laid; None where there is none."""
        return None

    @property
    def stock(self) -> StockTray | None:
        """The size in which it is delivered; None where it is made to the shower's."""
        return None

    @property
    def panels(self) -> SlopePanels | None:
        """The panels that are laid side by side; None where there are none."""
        return None
