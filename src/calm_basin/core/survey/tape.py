"""The room as it was taped: walls and diagonals adjusted to one outline by least squares.

Observations are the taped lengths and, weakly, the corners that may be taken as square. Every tape
measure gets its misfit; one that fits far worse than the rest can explain is named as a blunder.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import degrees, hypot, pi

import numpy as np
import scipy

from calm_basin.core.geometry.surface import Array
from calm_basin.plan.survey import Tape

TAPE_SIGMA = 3.0
"""How well a tape is read on site, in mm (common practice, no source)."""

SQUARE_SIGMA = 0.01
"""How square a corner is taken to be where no tape says otherwise, in radians: 10 mm in a metre."""

BLUNDER = 3.29
"""Largest misfit, in its own standard deviations, that chance explains: 0.1 %, two-sided."""

CHANCE = 1e-3
"""A misfit that is rarer than this is no chance."""

LEAST_CHECKED = 1e-4
"""What the others check less of an observation cannot show it to be wrong."""

OPEN = 1e-6
"""Where the least change of shape costs less than this share of the greatest, nothing holds it."""


MOST_STEPS = 60
"""So many steps the adjustment takes at most; that of a real room takes fewer than twenty."""


@dataclass(frozen=True)
class Misfit:
    """One taped length: ``adjusted`` in the outline, and how far the tape is from it, in mm.

    ``checked`` is the share of a blunder in this length that the others would show, from 0 (nothing
    checks it) to 1. ``suspect`` marks the one that does not fit; ``likely`` is then what the others
    say it is.
    """

    name: str
    measured: float
    adjusted: float
    checked: float
    suspect: bool
    likely: float | None

    @property
    def misfit(self) -> float:
        """Taped less adjusted, mm."""
        return self.measured - self.adjusted


@dataclass(frozen=True)
class TapedCorner:
    """How far a corner is from square: ``off`` in radians, positive where the room is wider there.

    ``inner`` corners jut into the room: the wall's own corner is what the room's side leaves of a
    whole turn. ``along`` is the shorter wall at the corner, mm.
    """

    off: float
    along: float
    inner: bool = False

    @property
    def gap(self) -> float:
        """Distance from square at the end of the shorter wall at this corner, in mm."""
        return float(np.tan(self.off) * self.along)


@dataclass(frozen=True)
class AdjustedRoom:
    """The outline that fits the tapes best, shape (n, 2), anticlockwise from the origin.

    ``closes`` is in mm. ``open`` says that the tapes do not hold the shape; ``suspects`` names what
    may be wrong where more than one measure may.
    """

    outline: Array
    misfits: tuple[Misfit, ...]
    corners: tuple[TapedCorner, ...]
    closes: float
    open: bool = False
    suspects: tuple[str, ...] = ()


def adjust(tape: Tape) -> AdjustedRoom:
    """Fit an outline to taped walls and diagonals.

    Parameters
    ----------
    tape : Tape
        Walls anticlockwise; corner 0 is put at the origin and wall 0 along the x axis.

    Returns
    -------
    AdjustedRoom
        ``closes`` is the gap, mm, that is left when the walls are simply laid on with square
        corners.

    Notes
    -----
    Gauss-Markov adjustment with the covariance of the residuals for the test of single observations
    (Baarda's data snooping; from memory).
    """
    start = _laid_on(tape)
    closes = float(hypot(*(start[-1])))
    names, measured, pairs = _tapes(tape)
    squares = [i for i, wall in enumerate(tape.walls) if wall.square]
    n = len(tape.walls)
    wanted = np.array([pi / 2 if wall.turn == "left" else -pi / 2 for wall in tape.walls])

    def points(unknown: Array) -> Array:
        # Corner 0 is held at the origin and corner 1 on the x axis.
        return np.vstack([[0.0, 0.0], [unknown[0], 0.0], unknown[1:].reshape(-1, 2)])

    def residuals(unknown: Array) -> Array:
        place = points(unknown)
        lengths = np.hypot(*(place[pairs[:, 1]] - place[pairs[:, 0]]).T)
        turns = _turns(place) - wanted
        turns = (turns + pi) % (2 * pi) - pi
        return np.concatenate([(lengths - measured) / TAPE_SIGMA, turns[squares] / SQUARE_SIGMA])

    guess = np.concatenate([[start[1, 0]], start[2:n].ravel()])
    fit = scipy.optimize.least_squares(
        residuals, guess, method="trf", x_scale="jac", xtol=1e-12, ftol=1e-12, max_nfev=MOST_STEPS
    )
    outline = points(fit.x)
    singular = np.linalg.svd(fit.jac, compute_uv=False)
    # Tapes that are nothing like a room come to no rest: nothing is known of its shape then.
    rests = fit.status > 0
    known = rests and len(fit.fun) >= len(fit.x) and bool(singular[-1] > OPEN * singular[0])
    cofactors = np.eye(len(fit.fun)) - fit.jac @ np.linalg.pinv(fit.jac)
    checked = np.clip(np.diag(cofactors), 0, 1)
    corners = [f"corner {(i + 1) % n + 1}, if it is not square," for i in squares]
    suspects = _suspects(fit.fun, checked, len(fit.x)) if known else []
    alone = suspects[0] if len(suspects) == 1 and suspects[0] < len(names) else None
    misfits = []
    for i, name in enumerate(names):
        adjusted = measured[i] + fit.fun[i] * TAPE_SIGMA
        likely = None
        if i == alone:
            likely = float(measured[i] + fit.fun[i] * TAPE_SIGMA / checked[i])
        misfits.append(
            Misfit(name, float(measured[i]), float(adjusted), float(checked[i]), i == alone, likely)
        )
    told = [*names, *corners]
    return AdjustedRoom(
        outline,
        tuple(misfits),
        tuple(corners_of(outline)),
        closes,
        not known,
        () if alone is not None else tuple(told[i] for i in suspects),
    )


def _suspects(off: Array, checked: Array, unknowns: int) -> list[int]:
    """The observations any one of which, if it alone were wrong, would explain the misfits.

    Parameters
    ----------
    off : ndarray, shape (m,)
        Residuals in their own standard deviations.
    checked : ndarray, shape (m,)
        Share of an error in each that the others show.
    unknowns : int

    Notes
    -----
    Baarda's test of one observation against the rest (from memory): taking observation i as wrong
    lowers the sum of squares by ``w_i² = off_i² / checked_i``. What is left then has one degree of
    freedom less; where chance explains that, observation i may be the one. With a single spare
    measure every observation explains everything, and none can be told from another.
    """
    testable = checked > LEAST_CHECKED
    lowers = np.where(testable, off**2 / np.where(testable, checked, 1.0), 0.0)
    if not len(off) or lowers.max() <= BLUNDER**2:
        return []
    spare = len(off) - unknowns
    left = float(off @ off) - lowers
    most = scipy.special.chdtri(spare - 1, CHANCE) if spare > 1 else np.inf
    explains = testable & ((left <= most) | (lowers == lowers.max()))
    return [int(i) for i in np.flatnonzero(explains)]


def corners_of(outline: Array) -> list[TapedCorner]:
    """How far each corner of an anticlockwise outline is from the nearest right angle."""
    sides = np.hypot(*(np.roll(outline, -1, axis=0) - outline).T)
    found = []
    for i, turn in enumerate(_turns(outline)):
        # The turn at the end of wall i is corner i + 1; a wider inside angle turns less.
        inner = turn < 0
        off = (-pi / 2 if inner else pi / 2) - float(turn)
        along = float(min(sides[i], sides[(i + 1) % len(sides)]))
        found.append(TapedCorner(off, along, bool(inner)))
    return [found[-1], *found[:-1]]


def _laid_on(tape: Tape) -> Array:
    """Walls laid end to end with square corners: corners 0 to n, where n should be corner 0."""
    place, heading = np.zeros(2), 0.0
    corners = [place]
    for wall in tape.walls:
        place = place + wall.length * np.array([np.cos(heading), np.sin(heading)])
        corners.append(place)
        heading += pi / 2 if wall.turn == "left" else -pi / 2
    if sum(1 if wall.turn == "left" else -1 for wall in tape.walls) != 4:
        # Corners that are not square: begin from a regular polygon of the same turns.
        step = 2 * pi / len(tape.walls)
        place, heading, corners = np.zeros(2), 0.0, [np.zeros(2)]
        for wall in tape.walls:
            place = place + wall.length * np.array([np.cos(heading), np.sin(heading)])
            corners.append(place)
            heading += step
    return np.array(corners)


def _tapes(tape: Tape) -> tuple[list[str], Array, Array]:
    n = len(tape.walls)
    names = [f"wall {i + 1}" for i in range(n)]
    names += [f"diagonal {d.first + 1} to {d.last + 1}" for d in tape.diagonals]
    measured = np.array([w.length for w in tape.walls] + [d.length for d in tape.diagonals])
    pairs = [(i, (i + 1) % n) for i in range(n)] + [(d.first, d.last) for d in tape.diagonals]
    return names, measured, np.array(pairs)


def _turns(outline: Array) -> Array:
    """Turn from each wall to the next, radians, left positive."""
    along = np.roll(outline, -1, axis=0) - outline
    headings = np.arctan2(along[:, 1], along[:, 0])
    turns: Array = (np.roll(headings, -1) - headings + pi) % (2 * pi) - pi
    return turns


def angle_text(corner: TapedCorner) -> str:
    """A corner's angle in degrees, such as ``90.6°``; of one that juts into the room the wall's own
    and the room's."""
    if corner.inner:
        return f"{90 - degrees(corner.off):.1f}°, {270 + degrees(corner.off):.1f}° in the room"
    return f"{90 + degrees(corner.off):.1f}°"
