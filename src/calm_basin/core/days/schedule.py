"""In which order one crew works so that it is done first, or with the fewest days on site.

Every order that the tasks allow is searched, with the days that are left out, bounded by what is
left of the longest chain of work and waits, and of the crew's own work. Of two ways to have done
the same tasks, one that is later nowhere is followed alone.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, NamedTuple

from calm_basin.core.days.calendar import DAY, WorkHours
from calm_basin.plan.days import Goal, Who

if TYPE_CHECKING:
    import networkx as nx

MOST_STEPS = 1_200
"""So many steps are searched; what was best until then is kept, and said not to be proven."""

MOST_LEFT_OUT = 120
"""So many days are left out one after the other at most."""


@dataclass(frozen=True)
class Task:
    """A piece of work: ``minutes`` of hands, then ``wait`` minutes of the clock until what follows
    may begin. ``after`` names what has to be done and waited for before it, ``behind`` what has
    only to be done, ``earliest`` when it may begin at all; what is ``whole`` is not left
    overnight."""

    id: str
    minutes: int
    wait: int
    after: tuple[str, ...]
    who: Who = "crew"
    whole: bool = False
    earliest: int = 0
    behind: tuple[str, ...] = ()


class Slot(NamedTuple):
    """When a task begins and ends, and until when it is waited after it; minutes."""

    start: int
    end: int
    free: int


class Schedule(NamedTuple):
    """When each task is done; ``finish`` with the last wait, on how many ``visits``; ``proven``
    where no order is better."""

    slots: dict[str, Slot]
    finish: int
    visits: int
    proven: bool


class CycleError(ValueError):
    """Tasks wait for each other in a ring; ``ring`` names them."""

    def __init__(self, ring: Sequence[str]) -> None:
        super().__init__(f"These wait for each other: {', '.join(ring)}. Take one link out.")
        self.ring = tuple(ring)


def network(tasks: Sequence[Task]) -> nx.DiGraph:
    """The tasks with their links. Raises `CycleError`, and `KeyError` for an unknown task."""
    import networkx as nx

    graph = nx.DiGraph()
    known = {task.id: task for task in tasks}
    for task in tasks:
        graph.add_node(task.id, task=task)
    for task in tasks:
        for before in task.after:
            graph.add_edge(known[before].id, task.id, waits=True)
        for before in set(task.behind) - set(task.after):
            graph.add_edge(known[before].id, task.id, waits=False)
    try:
        ring = nx.find_cycle(graph)
    except nx.NetworkXNoCycle:
        return graph
    raise CycleError([edge[0] for edge in ring])


def scheduled(
    tasks: Sequence[Task],
    hours: WorkHours,
    begin: int = 0,
    fixed: Mapping[str, Slot] | None = None,
    goal: Goal = "done first",
) -> Schedule:
    """The order that is done first, and of those the one with the fewest days on site, or the other
    way round by the ``goal``; tasks that are ``fixed`` were or are being done then, whatever should
    have come before them.

    Raises `CycleError`, `KeyError` and `NeverError`.
    """
    graph = network(tasks)
    known: dict[str, Task] = {task.id: task for task in tasks}
    tails = _tails(graph, known)
    search = _Search(graph, known, hours, begin, tails, goal)
    there = dict(fixed or {})
    crew = [slot.end for one, slot in there.items() if known[one].who == "crew"]
    search.go(there, max([begin, *crew]))
    assert search.best is not None
    slots, finish, visits = search.best
    return Schedule(slots, finish, visits, search.steps <= MOST_STEPS and not search.cut)


def floats(tasks: Sequence[Task], made: Schedule) -> dict[str, int]:
    """By how many minutes of the clock each task could end later with nothing behind it moved."""
    graph = network(tasks)
    found = {}
    for task in tasks:
        own = made.slots[task.id]
        room = [
            made.slots[after].start - (own.free if link["waits"] else own.end)
            for _, after, link in graph.out_edges(task.id, data=True)
        ]
        found[task.id] = min(room, default=made.finish - own.free)
    return found


def _tails(graph: nx.DiGraph, known: Mapping[str, Task]) -> dict[str, int]:
    """The least minutes of the clock from the start of each task to the end of all behind it."""
    import networkx as nx

    tails: dict[str, int] = {}
    for one in reversed(list(nx.topological_sort(graph))):
        wait = known[one].wait
        links = graph.out_edges(one, data=True)
        rest = [tails[after] + link["waits"] * wait for _, after, link in links]
        tails[one] = known[one].minutes + max([wait, *rest])
    return tails


class _Search:
    """The search through all orders, with the best one found."""

    def __init__(
        self,
        graph: nx.DiGraph,
        known: dict[str, Task],
        hours: WorkHours,
        begin: int,
        tails: dict[str, int],
        goal: Goal,
    ) -> None:
        self.goal = goal
        # Twice the longest chain of work and waits, in days, and a week: nights and days off.
        self.reach = 2 * max(tails.values(), default=0) // DAY + 7
        self.known, self.hours, self.begin, self.tails = known, hours, begin, tails
        self.before = {one: tuple(graph.predecessors(one)) for one in graph}
        self.waits = {(a, b): bool(link["waits"]) for a, b, link in graph.edges(data=True)}
        self.behind = {one: tuple(graph.successors(one)) for one in graph}
        self.best: tuple[dict[str, Slot], int, int] | None = None
        self.steps = self.left_out = 0
        self.cut = False
        self.days: dict[Slot, frozenset[int]] = {}
        self.seen: dict[tuple[frozenset[str], int], list[tuple[tuple[int, ...], int]]] = {}

    def go(self, slots: dict[str, Slot], crew: int) -> None:
        """Try every task that may come next after those that have their ``slots``; the crew is free
        at ``crew``."""
        self.steps += 1
        if self.steps > MOST_STEPS and self.best is not None:
            return
        slots = self._others(dict(slots))
        visits = self._visits(slots)
        if len(slots) == len(self.known):
            finish = max((slot.free for slot in slots.values()), default=self.begin)
            if self.best is None or self._cost(finish, visits) < self._cost(*self.best[1:]):
                self.best = (slots, finish, visits)
            return
        if self._hopeless(slots, crew, visits) or self._worse(slots, crew, visits):
            return
        ready = [
            one
            for one, task in self.known.items()
            if one not in slots and task.who == "crew" and all(b in slots for b in self.before[one])
        ]
        tried = []
        for one in ready:
            task = self.known[one]
            start, end = self.hours.done(
                max(crew, self._free(slots, one)), task.minutes, whole=task.whole
            )
            tried.append((start, -self.tails[one], one, Slot(start, end, end + task.wait)))
        for *_, one, slot in sorted(tried):
            self.go({**slots, one: slot}, slot.end)
        if self.goal == "fewest days" and tried:
            self._another_day(slots, crew, min(tried)[0])

    def _another_day(self, slots: dict[str, Slot], crew: int, first: int) -> None:
        """Leave out a day on which nothing has been done yet: more may be ready on the next."""
        day = first // DAY
        if any(s.start // DAY <= day <= s.end // DAY for s in self._crews(slots)):
            return
        left = [task for one, task in self.known.items() if one not in slots]
        later = [slot.free for slot in slots.values()] + [task.earliest for task in left]
        hands = sum(task.minutes for task in left if task.who == "crew")
        opening, closing = day * DAY + self.hours.begin, day * DAY + self.hours.end
        # Later more is ready, or more of it fits into the next day. Of what is far off only the
        # days are tried from which all that is left can still lead up to it.
        coming = [moment // DAY for moment in later if moment > first]
        if self.left_out >= MOST_LEFT_OUT:
            self.cut = True
            return
        self.left_out += 1
        if coming:
            self.go(slots, self.hours.opens(max(day + 1, min(coming) - self.reach) * DAY))
        elif first > opening and hands > closing - first:
            self.go(slots, self.hours.opens((day + 1) * DAY))
        self.left_out -= 1

    def _crews(self, slots: Mapping[str, Slot]) -> list[Slot]:
        return [slot for one, slot in slots.items() if self.known[one].who == "crew"]

    def _cost(self, finish: int, visits: int) -> tuple[int, int]:
        return (finish, visits) if self.goal == "done first" else (visits, finish)

    def _free(self, slots: Mapping[str, Slot], one: str) -> int:
        """When a task may begin, by those before it that have their time."""
        begin = max(self.begin, self.known[one].earliest)
        there = [(b, slots[b]) for b in self.before[one] if b in slots]
        return max([begin, *(s.free if self.waits[b, one] else s.end for b, s in there)])

    def _others(self, slots: dict[str, Slot]) -> dict[str, Slot]:
        """Give those who are not the crew their time as soon as they can begin."""
        while True:
            ready = [
                one
                for one, task in self.known.items()
                if one not in slots
                and task.who != "crew"
                and all(b in slots for b in self.before[one])
            ]
            if not ready:
                return slots
            for one in ready:
                task = self.known[one]
                start, end = self.hours.done(self._free(slots, one), task.minutes, whole=task.whole)
                slots[one] = Slot(start, end, end + task.wait)

    def _hopeless(self, slots: Mapping[str, Slot], crew: int, visits: int) -> bool:
        """Whether what is left cannot end before the best that is known."""
        if self.best is None:
            return False
        left = [task for one, task in self.known.items() if one not in slots]
        hands = sum(task.minutes for task in left if task.who == "crew")
        least = self.hours.done(crew, hands, whole=False)[1] if hands else crew
        least = max(least, max((slot.free for slot in slots.values()), default=0))
        for task in left:
            at = self._free(slots, task.id)
            at = max(at, crew) if task.who == "crew" else at
            least = max(least, self.hours.opens(at) + self.tails[task.id])
        return self._cost(least, visits) >= self._cost(*self.best[1:])

    def _worse(self, slots: Mapping[str, Slot], crew: int, visits: int) -> bool:
        """Whether another way to have done the same is later nowhere, and comes to no more days
        even if it goes on only on this one's day."""
        done = frozenset(slots)
        open_ends = [one for one in sorted(done) if any(b not in slots for b in self.behind[one])]
        last = max((slots[one].free for one in done), default=0)
        times = (crew, last, *(slots[one].free for one in open_ends))
        # A state that leaves out a day is not the same as one that does not.
        day = crew // DAY if self.goal == "fewest days" else 0
        known = self.seen.setdefault((done, day), [])
        for other, others in known:
            later = crew // DAY > other[0] // DAY
            if all(a <= b for a, b in zip(other, times, strict=True)) and others + later <= visits:
                return True
        known.append((times, visits))
        return False

    def _visits(self, slots: Mapping[str, Slot]) -> int:
        """On how many days the crew is on site."""
        days: set[int] = set()
        for one, slot in slots.items():
            if self.known[one].who == "crew":
                days |= self._days(slot)
        return len(days)

    def _days(self, slot: Slot) -> frozenset[int]:
        """The days on which hands are at work in a slot."""
        found = self.days.get(slot)
        if found is None:
            first, last = slot.start // DAY, max(slot.end - 1, slot.start) // DAY
            # What was really begun on a day off was begun all the same.
            later = (day for day in range(first + 1, last + 1) if self.hours.is_worked(day))
            found = self.days[slot] = frozenset((first, *later))
        return found
