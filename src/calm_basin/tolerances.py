"""By how little things may differ and still be the same: every tolerance, with its reason.

What limits effort (how many are tried, how fine a grid is) stands where it is used. Lengths in mm.
"""

from __future__ import annotations

# What people see, mark and read.

ON_EDGE = 0.5
"""A place that lies outside by no more than this lies on the edge and belongs inside."""

UNSEEN = 0.05
"""A step, a depth, a thickness or standing water that is smaller is none: it is not shown, and
nobody cuts, reads or feels so little."""

SAME_MARK = 1.0
"""A mark or a piece holds while it has not moved or grown by more: nobody marks finer."""

SAME_HEIGHT = 0.3
"""And while its height has not changed by more: half of the finest that is read from a rule."""

ONE_PLACE = 25.0
"""Readings nearer to each other are of one place: a staff's foot is not smaller."""

ON_LINE = 30.0
"""Readings that spread less than this across lie on one line."""

LEAST_DAM = 0.1
"""A zone's edge that stands less above the rest is flush as built."""

NAMED_ALIKE = 2.0
"""Tile of 100 mm and tile of 4 in are one size."""

# What stands or lies at something.

AT_WALL = 5.0
"""What lies no farther from a wall's face, or from a block's, is at it."""

SIDE_AT_WALL = 1.0
"""A shower's side that lies nearer to the room's stands at that wall."""

NEXT_TO = 2.0
"""What lies nearer to the end of a way's narrowest place is what it ends at, and a disc touches
what is no farther from it: its round corners are drawn with sides."""

TOUCHES = 100.0
"""Things that share a smaller area, mm², only touch."""

SLIVER = 1.0
"""A smaller area, mm², is no floor, and no part that is shared: it is rounding."""

# Which way something runs: sines of angles, and slopes.

ALONG = 0.02
"""A side that is off a line by less runs along it, and two sides are one straight wall: 20 mm in
the metre."""

SAME_SIDE = 0.35
"""Sides of shower, tray and room may be off each other by so much, 20°, and still be the same side;
what is farther off cuts across a corner."""

PARALLEL = 1e-3
"""The floor's rows may be off a wall by this to run along it: 1 mm in the metre."""

ONE_PLANE = 1e-7
"""Gradients that differ by less, rise over run, are of one plane."""

LEVEL = 1e-9
"""A gradient, or the sine of a turn, below this is none."""

SAME_WAY = 1e-6
"""Ways that differ by less, radians, are one: a drop that runs so along an edge runs on it."""

# What working out leaves behind.

SAME_PLACE = 1e-3
"""Places on plan, and depths, that lie nearer to each other are one: documents that are rounded and
shapes that were worked out differ so."""

HAIR = 0.01
"""Corners and heights that differ by less, and parts half as narrow, are nothing of their own."""

ONE_CORNER = 0.1
"""Corners of planes that lie nearer to each other are one place: no drop of water fits between."""

SLIPPED = 2.0
"""A drop between planes that should meet goes on from a place no farther off, and one that comes so
near to a rim is in the drain."""

ROUNDED = 1e-6
"""Lengths that differ by less are one: sums of them are no finer."""

SHARE_ROUNDED = 1e-6
"""A figure may pass a limit, miss a whole step or differ from what it was by this share: that is
rounding, not workmanship."""

SOLVED = 1e-7
"""Share by which a fall may pass its limit: a solver's own rounding."""
