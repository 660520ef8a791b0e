"""Where the depth comes from, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Change, Result


class Way(Result):
    """One way to get the depth: what it gives, what it costs and what it forbids."""

    code: str
    title: str
    gives: float | None
    gives_text: str
    enough: bool | None
    costs: str
    forbids: str
    changes: tuple[Change, ...] = ()


class TrayMark(Result):
    """A side of the shower on the tray: what is cut or missing there (``text``), the measures from
    the riser to the side and from the tray's own drain to its edge, and what the cut loses."""

    name: str
    state: Literal["cut", "missing", "as delivered"]
    text: str
    riser_text: str
    reach_text: str
    loss: float
    loss_text: str
    note: str
    start: XY
    end: XY
    entry: bool


class TrayLayout(Result):
    """A stock tray laid out from the riser. Places are on the tray, from its own drain: x to the
    right as seen by whoever comes in, y to the back; from the underside left and right change
    places. ``outline`` is the tray as delivered, ``kept`` what is left of it."""

    title: str
    verdict: str
    outline: tuple[XY, ...]
    kept: tuple[XY, ...]
    rim: tuple[XY, ...]
    sides: tuple[TrayMark, ...]
    said: tuple[str, ...]
