"""Who uses the room, in words."""

from __future__ import annotations

from calm_basin.plan import Plan
from calm_basin.plan.users import User
from calm_basin.rules import TRADE, Asked


def whose(plan: Plan, asked: Asked) -> str:
    """For whom something is required, as a sentence begins."""
    users = [user for user in plan.users if user in asked.users] or list(plan.users)
    return who(users)


def who(users: list[User]) -> str:
    """The users as a sentence begins."""
    return TRADE.people.by_id[users[0]].day if users else "Any user"
