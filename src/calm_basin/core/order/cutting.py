"""Pieces cut from lengths as they are sold: the least that has to be bought, or how near it is.

The cutting stock problem by patterns: every way to fill a length is a column, how often each is
cut a whole number (Gilmore and Gomory 1961, from memory; solved by scipy's HiGHS).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import ceil, inf
from typing import NamedTuple

import numpy as np
import scipy

MOST_PATTERNS = 3000
"""So many ways to fill a length are looked at; of more, the fullest that come first."""

NODES = 100
"""So many nodes of its tree the solver looks at. A count and not the clock decides: a list gets the
same cuts on a busy machine."""

SECONDS = 1.0
"""And no longer than this, s: nobody waits for more. Only lists of dozens of pieces take it."""

PRECISE = 1e-6


class Bar(NamedTuple):
    """A length that is bought, the pieces that are cut from it and what is left, mm."""

    stock: float
    pieces: tuple[float, ...]
    left: float


Pattern = tuple[float, tuple[int, ...]]
"""A length that is sold, and how many of each piece are cut from it."""


class Cutting(NamedTuple):
    """A cut list. None can buy less than ``bound``, mm; where that is what is bought it is
    ``proven``. ``joined`` are pieces longer than any length, each made of several."""

    bars: tuple[Bar, ...]
    bound: float
    joined: tuple[float, ...]

    @property
    def bought(self) -> float:
        """What is bought in all, mm."""
        return sum(bar.stock for bar in self.bars)

    @property
    def proven(self) -> bool:
        """Whether none is cheaper."""
        return self.bought - self.bound < 1.0


def cut(pieces: Sequence[float], stocks: Sequence[float], kerf: float) -> Cutting:
    """Cut pieces, mm, from lengths that are sold, mm, with a saw that takes ``kerf`` at each cut.

    A piece longer than the longest length is made of whole ones and a rest.
    """
    longest = max(stocks)
    joined = tuple(piece for piece in pieces if piece > longest + PRECISE)
    asked = Counter[float]()
    for piece in pieces:
        whole = ceil(piece / longest - 1 - PRECISE) if piece > longest + PRECISE else 0
        asked[longest] += whole
        asked[piece - whole * longest] += 1
    lengths = sorted((one for one, count in asked.items() if count), reverse=True)
    if not lengths:
        return Cutting((), 0.0, joined)
    wanted = [asked[one] for one in lengths]
    chosen = _first_fit(lengths, wanted, stocks, kerf)
    least = _least(lengths, wanted, stocks, kerf)
    if sum(stock for stock, _ in chosen) - least >= 1.0:
        chosen, least = _searched(lengths, wanted, stocks, kerf, chosen, least)
    bars = _dealt(chosen, lengths, wanted, kerf)
    return Cutting(bars, min(least, sum(bar.stock for bar in bars)), joined)


def _searched(
    lengths: list[float],
    wanted: list[int],
    stocks: Sequence[float],
    kerf: float,
    chosen: list[Pattern],
    least: float,
) -> tuple[list[Pattern], float]:
    """What the solver finds better than what was ``chosen``, and a better bound."""
    patterns, all_of_them = _patterns(lengths, wanted, stocks, kerf)
    costs = np.array([stock for stock, _ in patterns])
    counts = np.array([counts for _, counts in patterns], dtype=float).T
    found = scipy.optimize.milp(
        costs,
        constraints=scipy.optimize.LinearConstraint(counts, lb=wanted),
        integrality=np.ones(len(costs)),
        options={"node_limit": NODES, "time_limit": SECONDS},
    )
    if all_of_them and found.mip_dual_bound is not None:
        least = max(least, _sold(float(found.mip_dual_bound), stocks))
    if found.x is not None and costs @ np.rint(found.x) < sum(stock for stock, _ in chosen):
        often = np.rint(found.x).astype(int)
        chosen = [patterns[i] for i in np.flatnonzero(often) for _ in range(often[i])]
    return chosen, least


def _patterns(
    lengths: list[float], wanted: list[int], stocks: Sequence[float], kerf: float
) -> tuple[list[Pattern], bool]:
    """Ways to fill each length sold that take no more of any piece, and whether they are all."""
    found: list[Pattern] = []
    whole = True
    for stock in stocks:
        share = MOST_PATTERNS // len(stocks)
        own: list[Pattern] = []
        for counts in _filled(lengths, wanted, stock + kerf, kerf):
            if len(own) == share:
                whole = False
                break
            own.append((stock, counts))
        found += own
        # Whatever was left out, each piece can still be cut.
        for i, length in enumerate(lengths):
            if length <= stock + PRECISE:
                single = tuple(int(i == j) for j in range(len(lengths)))
                found.append((stock, single))
    return found, whole


def _filled(
    lengths: list[float], wanted: list[int], room: float, kerf: float
) -> Iterator[tuple[int, ...]]:
    """The fillings to which no further piece can be added, the longest pieces first."""
    takes = [length + kerf for length in lengths]
    # What all pieces from one on would take together.
    after = [0.0]
    for one, count in zip(reversed(takes), reversed(wanted), strict=True):
        after.append(after[-1] + one * count)
    after.reverse()

    def fill(first: int, room: float, skipped: float) -> Iterator[tuple[int, ...]]:
        # A piece that was left out may not fit into what is left in the end.
        if room - after[first] + PRECISE >= skipped:
            return
        if first == len(takes):
            yield ()
            return
        most = min(int((room + PRECISE) / takes[first]), wanted[first])
        for count in range(most, -1, -1):
            least = min(skipped, takes[first]) if count < wanted[first] else skipped
            for rest in fill(first + 1, room - count * takes[first], least):
                yield (count, *rest)

    yield from fill(0, room, inf)


def _least(lengths: list[float], wanted: list[int], stocks: Sequence[float], kerf: float) -> float:
    """Bounds that need no solver, of one length sold: pieces over half of it lie in one each, and
    the smaller ones beside them or in others (bound L2 of Martello and Toth 1990, from memory)."""
    if len(stocks) > 1:
        return sum(n * one for n, one in zip(wanted, lengths, strict=True))
    room = stocks[0] + kerf
    pieces = np.repeat(np.array(lengths) + kerf, wanted)
    most = 0
    for small in {0.0, *(one for one in pieces if one <= room / 2)}:
        alone = pieces > room - small + PRECISE
        large = (pieces > room / 2 + PRECISE) & ~alone
        medium = (pieces <= room / 2 + PRECISE) & (pieces >= small - PRECISE)
        beside = large.sum() * room - pieces[large].sum()
        more = max(ceil((pieces[medium].sum() - beside) / room - PRECISE), 0)
        most = max(most, int(alone.sum() + large.sum() + more))
    return most * stocks[0]


@dataclass
class _Bin:
    room: float
    counts: list[int]


def _first_fit(
    lengths: list[float], wanted: list[int], stocks: Sequence[float], kerf: float
) -> list[Pattern]:
    """The longest pieces first, each into the first length with room: what there is at least."""
    stock = max(stocks)
    bins: list[_Bin] = []
    for i, length in enumerate(lengths):
        for _ in range(wanted[i]):
            for one in bins:
                if length <= one.room + PRECISE:
                    break
            else:
                one = _Bin(stock, [0] * len(lengths))
                bins.append(one)
            one.counts[i] += 1
            one.room -= length + kerf
    return [(stock, tuple(one.counts)) for one in bins]


def _sold(total: float, stocks: Sequence[float]) -> float:
    """The least that lengths sold can be together and no less than ``total``, mm."""
    if len(stocks) == 1:
        return ceil(total / stocks[0] - PRECISE) * stocks[0]
    return total


def _dealt(
    chosen: list[Pattern],
    lengths: list[float],
    wanted: list[int],
    kerf: float,
) -> tuple[Bar, ...]:
    """The pieces dealt to the lengths that were chosen: none more often than it is wanted."""
    left, bars = list(wanted), []
    for stock, counts in chosen:
        taken = [min(count, rest) for count, rest in zip(counts, left, strict=True)]
        left = [rest - count for rest, count in zip(left, taken, strict=True)]
        pieces = tuple(one for one, n in zip(lengths, taken, strict=True) for _ in range(n))
        if pieces:
            bars.append(Bar(stock, pieces, max(stock - sum(pieces) - kerf * len(pieces), 0.0)))
    return tuple(sorted(bars, key=lambda bar: (-bar.stock, bar.left)))
