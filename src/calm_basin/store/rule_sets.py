"""Rule sets of one's own."""

from __future__ import annotations

import sqlite3

from calm_basin.plan.reading import Problem
from calm_basin.rules import RuleFileError, RuleSet, rule_sets, with_own, written_rules
from calm_basin.store import own


def known_rules(db: sqlite3.Connection) -> dict[str, RuleSet]:
    """All rule sets by id: those that ship, then those of one's own."""
    return with_own(own_texts(db))


def own_texts(db: sqlite3.Connection) -> tuple[str, ...]:
    """Those of one's own, as the TOML that they are kept as."""
    return tuple(own.texts(db, "rule_set"))


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
    if rules.id not in known and len(known) - len(rule_sets()) >= own.MOST:
        raise RuleFileError([Problem("", f"At most {own.MOST} are kept. Remove one first.")])
    own.put(db, "rule_set", {rules.id: written_rules(rules)})


def remove(db: sqlite3.Connection, name: str) -> None:
    """Remove a rule set of one's own. Raises `own.NotOwnError`."""
    own.remove(db, "rule_set", name, "rule set")
