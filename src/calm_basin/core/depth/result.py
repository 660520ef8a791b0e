"""Where the depth comes from, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Change, Result


class Way(Result):
    """One way to get the depth, made on the plan: what it gives, the recess that is then needed
    and how much of it is over or short, the steps, what it takes, costs and forbids, all that is
    then found and what of it is new (``opens``). ``engineer`` is shown and never advised."""

    code: str
    title: str
    gives: float | None
    gives_text: str
    recess: float | None
    recess_text: str
    left: float | None
    left_text: str
    enough: bool | None
    step_text: str
    door_text: str
    material: str
    days: str
    costs: str
    forbids: str
    source: str
    findings: tuple[str, ...] = ()
    opens: tuple[str, ...] = ()
    engineer: bool = False
    changes: tuple[Change, ...] = ()


class NextStep(Result):
    """The cheapest change for the next millimetres: what it gives, and why it is cheap."""

    text: str
    gives: float
    gives_text: str
    why: str
    changes: tuple[Change, ...]


class Ways(Result):
    """Every way to the depth side by side, and the cheapest next millimetres in their order."""

    listed: tuple[Way, ...]
    cheapest: tuple[NextStep, ...]


class Segment(Result):
    """A part of the depth from the room's floor down: a layer, the fall, what makes the falls.
    ``path`` is where it is changed in the plan, empty where it follows from something else; it
    could be ``least`` thick, by its kind."""

    code: Literal["step", "fall", "layer", "former", "pour", "packed"]
    name: str
    value: float
    text: str
    path: str
    kind: Literal["length", "fall"]
    least: float | None
    spare_text: str


class Flush(Result):
    """The flush condition solved for one thing: what is ``given``, and what follows, in mm or as a
    fall (``value``; None where nothing fits)."""

    code: Literal["layers", "former", "fall", "room"]
    given: str
    solved: str
    value: float | None
    text: str


class DepthBar(Result):
    """Where the depth goes: its parts from the room's floor down, which add up to ``total``; the
    room's own floor takes ``above`` of it, the deck or slab ``below``, of which ``available`` is
    to be had. ``flush`` solves for one of them where the others are given."""

    segments: tuple[Segment, ...]
    total: float
    total_text: str
    above: float
    above_text: str
    below: float
    below_text: str
    available: float
    available_text: str
    flush: tuple[Flush, ...]


class Adjusted(Result):
    """One part of a chain of heights or lengths: its own size, or how far it can be set."""

    name: str
    text: str
    do: str


class Chain(Result):
    """The chain of heights from the deck to the grate, or of lengths from stud to cover."""

    title: str
    parts: tuple[Adjusted, ...]
    said: tuple[str, ...]
    source: str


class PanelCut(Result):
    """Panels of one side of a channel: how many, what is cut off their thick ends, which has the
    notch for the outlet. Places are seen from the drain up the slope: x to the right, y from the
    drain; ``panels`` are two corners each as delivered, ``kept`` is the side, ``notch`` two corners
    or none."""

    name: str
    count: int
    rows: int
    text: str
    said: tuple[str, ...]
    kept: tuple[XY, ...]
    panels: tuple[tuple[XY, XY], ...]
    notch: tuple[XY, ...]
    run_text: str
    last_text: str
    width_text: str


class PanelLayout(Result):
    """All panels of a floor and how they are cut."""

    count: int
    verdict: str
    sides: tuple[PanelCut, ...]
    source: str


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
    places. ``outline`` is the tray as delivered with its extension, ``kept`` what is left of it,
    ``joint`` the two ends of the line where the extension begins."""

    title: str
    verdict: str
    outline: tuple[XY, ...]
    kept: tuple[XY, ...]
    joint: tuple[XY, ...] = ()
    rim: tuple[XY, ...]
    sides: tuple[TrayMark, ...]
    said: tuple[str, ...]
