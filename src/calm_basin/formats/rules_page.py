"""The rule sets as a page to read: every limit and fact that ships, with where it is from."""

from __future__ import annotations

import sys
from pathlib import Path

from calm_basin.rules import TITLES, Fact, Limit, rule_sets

HEAD = """# Rule sets

What ships, generated from [src/calm_basin/rules/sets](../src/calm_basin/rules/sets). A plan is held
against the limits of its rule set: what is *required* is a stop where it is broken, *advice* a
caution. What is *to know* is shown to whoever plans and held against nothing. “From memory” was not
checked against the document. Local code, the inspector and the product's own text come first.
"""


def rules_page() -> str:
    """All rule sets as Markdown."""
    parts = [HEAD]
    for rules in rule_sets().values():
        parts.append(
            f"## {rules.name} (`{rules.id}`)\n\nEntered {rules.entered.isoformat()}. "
            f"{rules.deference}\n\n| topic | value | for | weight | source | note |\n"
            "| --- | --- | --- | --- | --- | --- |"
        )
        parts += [_limit(limit) for limit in rules.limits]
        parts += [_row(fact, fact.given, "to know") for fact in rules.facts]
        parts.append("")
    return "\n".join(parts)


def _limit(limit: Limit) -> str:
    way = limit.binds.replace("_", " ")
    return _row(limit, f"{way} {limit.printed}", limit.weight)


def _row(item: Limit | Fact, value: str, weight: str) -> str:
    cells = (TITLES[item.topic], value, item.applies_to, weight, item.source, item.note)
    return f"| {' | '.join(cells)} |"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(rules_page(), encoding="utf-8")
