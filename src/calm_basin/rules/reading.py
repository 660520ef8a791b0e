"""Rule files: TOML in, problems out, and TOML again."""

from __future__ import annotations

import re
import tomllib
from functools import cache, lru_cache
from importlib import resources
from typing import Any

import tomli_w
from pydantic import ValidationError

from calm_basin.plan.reading import MOST_PROBLEMS, PlanError, Problem, and_more
from calm_basin.rules.ruleset import RuleSet

LARGEST = 200_000
"""Most bytes of a rule file; those that ship have up to 12,000."""


DEEPEST = 12
"""So many parts one name may have: reading more of them takes memory by the square."""

# Each part matches whatever follows its beginning, closed or not: a text is gone through once.
_STRINGS = re.compile(
    r'"""(?:[^\\"]|\\.|"(?!""))*+(?:""")?'
    r"|'''(?:[^']|'(?!''))*+(?:''')?"
    r'|"(?:[^"\\\n]|\\.)*+"?'
    r"|'[^'\n]*+'?"
    r"|#[^\n]*+",
    re.DOTALL,
)
_DEEP = re.compile(r"(?<![\w-])(?:[\w-]++\s*+\.\s*+){" + str(DEEPEST) + r",}+")


class RuleFileError(PlanError):
    """The file is no rule set; each problem names the field and the cure."""

    title = "This is no rule set"


@cache
def rule_sets() -> dict[str, RuleSet]:
    """All rule sets that ship, by id, in the order of their file names."""
    files = sorted((resources.files(__package__) / "sets").iterdir(), key=lambda file: file.name)
    sets = [read_rules(file.read_text("utf-8")) for file in files]
    return {rules.id: rules for rules in sets}


def loaded(text: str | bytes, error: type[RuleFileError], called: str) -> dict[str, Any]:
    """What a TOML file says. Raises ``error`` where it is none or too large; ``called`` is what the
    file ought to be, such as ``a rule file``."""
    if len(text) > LARGEST:
        message = f"The file has over {LARGEST:,} bytes. Choose {called}, which is smaller."
        raise error([Problem("", message)])
    try:
        written = text if isinstance(text, str) else text.decode("utf-8")
        if deep := _DEEP.search(_STRINGS.sub("s", written)):
            raise ValueError(f"a name in it has over {DEEPEST} parts, “{deep[0][:40]}…”")
        return tomllib.loads(written)
    except (ValueError, RecursionError) as wrong:
        reason = str(wrong) or "it is nested too deeply"
        message = f"The file is not TOML: {reason}. Choose {called}."
        raise error([Problem("", message)]) from None


def read_rules(text: str | bytes) -> RuleSet:
    """Read a rule set from TOML. Raises `RuleFileError`."""
    document = loaded(text, RuleFileError, "a rule file")
    try:
        return RuleSet.model_validate(document)
    except ValidationError as error:
        told = [_problem(item, document) for item in error.errors()[:MOST_PROBLEMS]]
        raise RuleFileError([*told, *and_more(error.error_count() - len(told))]) from None


@lru_cache(maxsize=8)
def with_own(texts: tuple[str | bytes, ...]) -> dict[str, RuleSet]:
    """All rule sets by id: those that ship, then those of one's own, each given as TOML."""
    return rule_sets() | {rules.id: rules for rules in map(read_rules, texts)}


def written_rules(rules: RuleSet) -> str:
    """A rule set as TOML, which `read_rules` reads back as the same."""
    document = rules.model_dump(mode="python", exclude_defaults=True)
    return tomli_w.dumps(plain(document))


def plain(value: Any) -> Any:
    """A document without tuples and without what is absent, as it is written to TOML."""
    if isinstance(value, dict):
        return {name: plain(item) for name, item in value.items() if item is not None}
    return [plain(item) for item in value] if isinstance(value, list | tuple) else value


def _problem(item: Any, document: dict[str, Any]) -> Problem:
    """What pydantic found, with the entry's own words beside its place."""
    entry: Any = document
    for step in item["loc"][:2]:
        try:
            entry = entry[step]
        except (KeyError, IndexError, TypeError):
            entry = {}
    named = f" ({entry['topic']}: {entry.get('applies_to', '')})" if _is_entry(entry) else ""
    problem = problem_of(item)
    return Problem(problem.path, problem.message + named)


def problem_of(item: Any) -> Problem:
    """What pydantic found in a file, in words that name the field and the cure."""
    steps = [str(step) for step in item["loc"]]
    kind = item["type"]
    if kind == "missing":
        message = f"“{steps[-1]}” is missing. Add it."
    elif kind == "extra_forbidden":
        message = f"There is no field “{steps[-1]}”. Remove it, or check its spelling."
    elif kind == "literal_error":
        message = f"Choose one of {item['ctx']['expected']}."
    else:
        message = f"{item['msg'].removeprefix('Value error, ').rstrip('.')}."
    return Problem("/" + "/".join(steps), message)


def _is_entry(entry: Any) -> bool:
    return isinstance(entry, dict) and "topic" in entry
