"""Who may use a bathroom."""

from __future__ import annotations

from functools import cached_property

from calm_basin.plan.users import User
from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure


class Person(Measure):
    """Somebody who may use the room: how wide a way they need, and their day in a few words."""

    id: User
    name: str
    day: str


class People(Record):
    """Who may use a room, in the order in which they are offered."""

    people: tuple[Person, ...]

    @cached_property
    def by_id(self) -> dict[User, Person]:
        """The same by id."""
        return {person.id: person for person in self.people}
