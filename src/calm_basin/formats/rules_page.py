"""The rule sets as a page to read: everything that ships, with where it is from."""

from __future__ import annotations

import sys
from pathlib import Path

from calm_basin.rules import TITLES, Fact, Limit, RuleSet, Space, rule_sets

HEAD = """# Rule sets

What ships, generated from [src/calm_basin/rules/sets](../src/calm_basin/rules/sets). A plan is held
against the limits and spaces of its rule set: what is *required* is a stop where it is broken,
*advice* a caution, *advice, binding where accessible* a stop where the job is to be accessible.
What is *to know* is shown to the planner and held against nothing. “From memory” was not checked
against the document. Local code, the inspector and the product's own text come first.
"""


def rules_page() -> str:
    """All rule sets as Markdown."""
    parts = [HEAD]
    for rules in rule_sets().values():
        layer = f" Accessible jobs add `{rules.layer}`." if rules.layer else ""
        parts.append(
            f"## {rules.name} (`{rules.id}`)\n\nEntered {rules.entered.isoformat()}. "
            f"{rules.deference}{layer}\n\n| topic | value | for | weight | source | note |\n"
            "| --- | --- | --- | --- | --- | --- |"
        )
        parts += [_row(item) for item in entries(rules)]
        parts.append("")
    return "\n".join(parts)


def entries(rules: RuleSet) -> tuple[Limit | Space | Fact, ...]:
    """Everything that a rule set asks or tells, in the order in which it is shown."""
    return (*rules.limits, *rules.spaces, *rules.facts)


def weight_of(item: Limit | Space | Fact) -> str:
    """How binding a requirement is, in words."""
    if isinstance(item, Fact):
        return "to know"
    return f"{item.weight}, binding where accessible" if item.accessible else item.weight


def _row(item: Limit | Space | Fact) -> str:
    title = TITLES[item.topic]
    cells = (title, item.printed, item.applies_to, weight_of(item), item.source, item.note)
    return f"| {' | '.join(cells)} |"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(rules_page(), encoding="utf-8")
