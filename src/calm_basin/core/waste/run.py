"""The waste's run from a drain to the stack: its levels where it passes timbers, and the cheapest
that keeps all limits."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice, pairwise
from typing import TYPE_CHECKING

import numpy as np

from calm_basin.core.geometry.surface import Array
from calm_basin.core.waste.ground import Crossing, UnderFloor
from calm_basin.core.waste.lattice import Lattice, Node
from calm_basin.rules import TRADE

if TYPE_CHECKING:
    import networkx as nx

AT_ONCE = 1e-7
"""What it counts to pass a timber so many mm later: it only orders runs that cost alike."""

MOST_TRIED = 24
"""So many runs are tried, the cheapest first, until one keeps all limits."""


@dataclass(frozen=True)
class Passed:
    """One timber that a run passes: where, how far from the drain, and the level of the pipe's
    middle there; ``fits`` where that is one at which it may."""

    crossing: Crossing
    at: Array
    distance: float
    level: float
    fits: bool


@dataclass(frozen=True, eq=False)
class Run:
    """A run on plan, (n, 2), from the drain to the stack, and its levels.

    ``levels`` are (distance, level) of the pipe's middle where it bends or steps down, ``passed``
    the timbers in their order. ``drops`` is what it steps down on its way beside its own fall.
    """

    line: Array
    levels: Array
    passed: tuple[Passed, ...]

    @property
    def length(self) -> float:
        """mm."""
        return float(np.hypot(*np.diff(self.line, axis=0).T).sum())

    def levels_along(self, start: float, end: float) -> tuple[float, float]:
        """The lowest and highest level of the pipe's middle between two distances from its trap,
        mm."""
        along, levels = self.levels[:, 0], self.levels[:, 1]
        inside = levels[(along >= start) & (along <= end)]
        both = np.concatenate([inside, np.interp([start, end], along, levels)])
        return float(both.min()), float(both.max())

    @property
    def bends(self) -> int:
        """Where it turns on plan."""
        ways = np.diff(self.line, axis=0)
        long = np.hypot(*ways.T)
        ways = ways[long > 0] / long[long > 0, None]
        return int(((ways[1:] * ways[:-1]).sum(axis=1) < 1 - 1e-6).sum())

    @property
    def end(self) -> float:
        """The level at the stack, mm."""
        return float(self.levels[-1, 1])

    @property
    def holes(self) -> int:
        """How many timbers are drilled."""
        return sum(one.crossing.passing.hole > 0 and not _beneath(one) for one in self.passed)

    @property
    def cost(self) -> float:
        """What runs are compared by: length, bends and holes."""
        bend, hole = TRADE.pipes.bend.value, TRADE.pipes.hole.value
        return self.length + bend * self.bends + hole * self.holes

    def keeps(self, level: float) -> bool:
        """Whether every timber is passed where it may be, and the stack met at ``level`` or
        higher."""
        return all(one.fits for one in self.passed) and self.end >= level - 1e-6


def _beneath(one: Passed) -> bool:
    under = one.crossing.passing.under
    return under is not None and one.level <= under + 1e-9


def laid(ground: UnderFloor, line: Array, start: float) -> Run:
    """A run along a line on plan, its levels taken as high as each timber allows: where the first
    place to pass one lies lower, the pipe steps down before it."""
    level, gone = start, 0.0
    levels, passed = [(0.0, start)], []
    for first, last in pairwise(line):
        length = float(np.hypot(*(last - first)))
        before = 0.0
        for crossing in ground.crossings(first, last):
            level -= ground.fall * (crossing.distance - before)
            before = crossing.distance
            taken = crossing.passing.taken(level, crossing.along)
            at = first + (last - first) * crossing.distance / length
            distance = gone + crossing.distance
            if taken is not None and taken < level - 1e-9:
                levels += [(distance, level), (distance, taken)]
                level = taken
            passed.append(Passed(crossing, at, distance, level, taken is not None))
        level -= ground.fall * (length - before)
        gone += length
        levels.append((gone, level))
    return Run(np.asarray(line), np.array(levels), tuple(passed))


def cheapest(lattice: Lattice, outlet: Array, start: float) -> Run | None:
    """The run from an outlet, (2,), that leaves its trap at level ``start``, costs least by length,
    bends and holes and keeps all limits; None: there is none. The lattice's lines go through the
    outlet.

    Runs are taken in the order of what they cost at least (networkx's shortest simple paths over
    nodes and the way in which each is left; a timber that may be passed beneath counts no hole)
    until none that follows can cost less than one that keeps all limits. Where none of the first
    does, the one that may start lowest is taken.
    """
    # Loaded where there is a run to look for: not every plan has one, and it takes its time.
    import networkx as nx

    ground, stack, level = lattice.ground, lattice.place(lattice.stack), lattice.level
    if np.hypot(*(outlet - stack)) < 1e-6:
        return laid(ground, np.array([outlet, stack]), start) if start >= level else None
    source = lattice.nearest(outlet)
    levels, _, onward = lattice.needs
    if levels[source] > start + 1e-6:
        return None
    graph = _graph(lattice, source)
    begin, end = ("from", source), ("to", lattice.stack)
    for way in (0, 1):
        graph.add_edge(begin, (source, way), weight=0.0)
        graph.add_edge((lattice.stack, way), end, weight=0.0)
    best: Run | None = None
    for path in islice(nx.shortest_simple_paths(graph, begin, end, "weight"), MOST_TRIED):
        run = laid(ground, _line(lattice, [node for node, _ in path[1:-1]]), start)
        if run.keeps(level) and (best is None or run.cost < best.cost):
            best = run
        # Asked before the next is looked for: to find the one that follows takes the longest.
        if best is not None and nx.path_weight(graph, path, "weight") >= best.cost - 1e-6:
            return best
    if best is not None:
        return best
    node, nodes = source, [source]
    while node != lattice.stack:
        node = onward[node]
        nodes.append(node)
    return laid(ground, _line(lattice, nodes), start)


def _graph(lattice: Lattice, source: Node) -> nx.DiGraph:
    """Nodes of a lattice, each once for pipes along the joists and once for those square to
    them. Of runs that cost alike those come first that pass timbers near their source: there the
    pipe is still high."""
    import networkx as nx

    graph, bend, hole = nx.DiGraph(), TRADE.pipes.bend.value, TRADE.pipes.hole.value
    edges: list[tuple[tuple[Node, int], tuple[Node, int], float]] = []
    reached = np.isfinite(lattice.needs[0]).tolist()
    along, across = lattice.along.tolist(), lattice.across.tolist()
    for node, around in lattice.neighbours.items():
        i, j = node
        if not reached[i][j]:
            continue
        away = abs(along[i] - along[source[0]]) + abs(across[j] - across[source[1]])
        edges += [((node, 0), (node, 1), bend), ((node, 1), (node, 0), bend)]
        for other, weight in around:
            if not reached[other[0]][other[1]]:
                continue
            crossings = lattice.crossings(node, other)
            if any(one.passing.taken(np.inf, one.along) is None for one in crossings):
                continue
            if crossings:
                holes = sum(one.passing.hole > 0 and one.passing.under is None for one in crossings)
                weight += hole * holes + AT_ONCE * away
            way = 0 if other[1] == j else 1
            edges.append(((node, way), (other, way), weight))
    graph.add_weighted_edges_from(edges)
    return graph


def _line(lattice: Lattice, nodes: list[Node]) -> Array:
    """Nodes as a line on plan that has a corner only where it bends."""
    kept = [nodes[0]]
    for before, here, after in zip(nodes, nodes[1:], nodes[2:], strict=False):
        turns = (before[0] == here[0]) != (here[0] == after[0])
        if turns and here != kept[-1]:
            kept.append(here)
    kept.append(nodes[-1])
    return np.array([lattice.place(node) for node in kept])
