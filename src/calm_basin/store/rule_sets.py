"""Rule sets of one's own."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime
from functools import lru_cache

from calm_basin.plan.reading import Problem
from calm_basin.rules import RuleFileError, RuleSet, read_rules, rule_sets, written_rules
from calm_basin.store.database import transaction

MOST = 40
"""So many rule sets of one's own are kept."""


class NoSuchRuleSetError(LookupError):
    """There is no rule set of one's own with this id."""


def known_rules(db: sqlite3.Connection) -> dict[str, RuleSet]:
    """All rule sets by id: those that ship, then those of one's own."""
    rows = db.execute("SELECT toml FROM rule_set ORDER BY id")
    return rule_sets() | {rules.id: rules for rules in (_read(row["toml"]) for row in rows)}


@lru_cache(maxsize=MOST)
def _read(toml: str) -> RuleSet:
    return read_rules(toml)


def keep(db: sqlite3.Connection, rules: RuleSet) -> None:
    """Add a rule set, or put it in the place of the one with its id.

    Raises
    ------
    RuleFileError
        Its id is that of a set that ships, its layer is not known, or there are too many.
    """
    if rules.id in rule_sets():
        message = f"“{rules.id}” ships with Calm Basin and stays as it is. Give yours another id."
        raise RuleFileError([Problem("/id", message)])
    known = known_rules(db)
    if rules.layer and rules.layer not in known:
        message = f"There is no rule set “{rules.layer}” to add. Choose one of {', '.join(known)}."
        raise RuleFileError([Problem("/layer", message)])
    if rules.id not in known and len(known) - len(rule_sets()) >= MOST:
        raise RuleFileError([Problem("", f"At most {MOST} are kept. Remove one first.")])
    now = datetime.now(UTC).isoformat(timespec="milliseconds")
    with transaction(db):
        db.execute(
            "INSERT INTO rule_set (id, toml, changed_at) VALUES (?, ?, ?) "
            "ON CONFLICT (id) DO UPDATE SET toml = excluded.toml, changed_at = excluded.changed_at",
            (rules.id, written_rules(rules), now),
        )


def remove(db: sqlite3.Connection, name: str) -> None:
    """Remove a rule set of one's own. Raises `NoSuchRuleSetError`."""
    with transaction(db):
        if db.execute("DELETE FROM rule_set WHERE id = ?", (name,)).rowcount == 0:
            raise NoSuchRuleSetError(f"There is no rule set of your own called “{name}”.")
