"""Where the depth comes from, as it is sent."""

from __future__ import annotations

from calm_basin.core.answer.result import Change, Result


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
