"""Hours that are worked: work stops at night and on days off, a cure does not.

Moments are minutes from midnight before the first day.
"""

from __future__ import annotations

from dataclasses import dataclass

DAY = 24 * 60
"""Minutes."""

HORIZON = 2000
"""So many days are looked at: beyond them nothing is planned."""


class NeverError(ValueError):
    """No hour is worked in all the days that are looked at."""


@dataclass(frozen=True)
class WorkHours:
    """When work is done: from ``begin`` to ``end``, minutes of the day, on the days of the ``week``
    that are worked, from Monday; the first day is its ``first``. Days are counted from 0, and those
    of ``off`` are not worked."""

    begin: int
    end: int
    week: tuple[bool, ...]
    first: int = 0
    off: frozenset[int] = frozenset()

    def is_worked(self, day: int) -> bool:
        """Whether anybody works on a day, counted from the first, 0."""
        return self.week[(self.first + day) % 7] and day not in self.off

    def opens(self, moment: int) -> int:
        """The first moment from one on at which work can begin. Raises `NeverError`."""
        day = moment // DAY
        for one in range(day, day + HORIZON):
            if not self.is_worked(one):
                continue
            start, stop = one * DAY + self.begin, one * DAY + self.end
            if moment < stop:
                return max(moment, start)
        raise NeverError("No hour is worked. Change the hours, the weekdays or the days off.")

    def done(self, moment: int, minutes: int, *, whole: bool) -> tuple[int, int]:
        """When work of so many minutes that may begin from ``moment`` on begins and ends.

        What is done ``whole`` is not left overnight, if a day is long enough for it. Raises
        `NeverError`.
        """
        start = self.opens(moment)
        if whole and minutes <= self.end - self.begin and start % DAY + minutes > self.end:
            start = self.opens((start // DAY + 1) * DAY)
        at, left = start, minutes
        while left > (room := at // DAY * DAY + self.end - at):
            left -= room
            at = self.opens((at // DAY + 1) * DAY)
        return start, at + left
