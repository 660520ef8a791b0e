"""Every number of the plan as its field shows it."""

from __future__ import annotations

from calm_basin.amounts import format_flow
from calm_basin.core.answer.words import Words
from calm_basin.core.survey.answer import MOST_LISTED
from calm_basin.plan import Plan, quantities


def plan_texts(plan: Plan, words: Words) -> dict[str, str]:
    """The numbers of the plan in its display's units, by JSON pointer."""
    texts = {}
    if len(plan.survey.levels) > MOST_LISTED:
        # Thousands of readings are printed once, as soundings, and not listed for editing.
        plan = plan.model_copy(update={"survey": plan.survey.model_copy(update={"levels": ()})})
    # What a build system says of itself is told by its cards.
    for path, kind, value in quantities(plan.model_copy(update={"system": None})):
        if kind == "length":
            texts[path] = words.bare(value)
        elif kind == "fall":
            texts[path] = words.fall(value)
        elif kind == "flow":
            texts[path] = format_flow(value, words.display)
        else:
            texts[path] = f"{value:g}°"
    return texts
