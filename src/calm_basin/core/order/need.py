"""So much of something."""

from __future__ import annotations

from typing import NamedTuple

M, M2, LITRE = 1e3, 1e6, 1e6
"""Millimetres a metre, square millimetres a square metre, cubic millimetres a litre."""


class Share(NamedTuple):
    """A part of an amount: what it is of, and how much."""

    name: str
    amount: float


class Need(NamedTuple):
    """So much of something, in its shares; ``formula`` in words, ``called`` where it is named more
    closely than what is sold; ``counted`` where its waste is among the shares."""

    item: str
    formula: str
    shares: tuple[Share, ...]
    called: str = ""
    counted: bool = False

    @property
    def amount(self) -> float:
        """All of it."""
        return sum(share.amount for share in self.shares)
