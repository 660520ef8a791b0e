"""Cures are made on the plan before they are offered.

A check looks at a solved plan and tells what it found, each finding with the changes that might
mend it. A change is offered only where, made on the plan, the finding is gone, no stop is opened
and no fall is farther off than it was; what cautions it opens and what it makes worse it says.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from calm_basin.core.answer.build import ORDER, TO_SIGN
from calm_basin.core.answer.case import Case, Check, Found, Key, key_of, looked_at
from calm_basin.core.answer.changes import EditError, edited
from calm_basin.core.answer.result import Cure, Finding
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet
from calm_basin.tolerances import SHARE_ROUNDED


def with_cures(
    case: Case, checks: Sequence[Check], told: Sequence[tuple[Check, Found]]
) -> list[Finding]:
    """All that was found on a plan, each with the cures that hold."""
    bench = _Bench(case, checks, {key_of(found.finding): found.finding for _, found in told})
    # The gravest are mended first: there is an end to how much is tried for one answer.
    order = sorted(range(len(told)), key=lambda i: ORDER[told[i][1].finding.severity])
    cures = {i: bench.offered(*told[i]) for i in order}
    return [
        found.finding.model_copy(update={"cures": cures[i]}) for i, (_, found) in enumerate(told)
    ]


MOST_MADE = 20
"""So many changes are made on a plan for one answer: where a great deal is wrong it is mended step
by step."""


class _Bench:
    """Where the cures of one plan are tried: several findings may ask for the same change."""

    def __init__(self, case: Case, checks: Sequence[Check], before: dict[Key, Finding]) -> None:
        self.case, self.checks, self.before = case, checks, before
        self._made: dict[str, Case | None] = {}
        self._opened: dict[str, list[Finding] | None] = {}

    def offered(self, own: Check, found: Found) -> tuple[Cure, ...]:
        """The candidates that hold when they are made, in their order."""
        kept: list[Cure] = []
        opening: list[tuple[int, Cure]] = []
        for cure in found.candidates():
            first = cure and cure.changes[0].path
            if cure is None or (not found.each and first in {c.changes[0].path for c in kept}):
                continue
            name = repr(cure.changes)
            if name not in self._made:
                if len(self._made) >= MOST_MADE:
                    break
                self._made[name] = made_on(self.case.plan, self.case.rules, cure)
            mended = self._made[name]
            if mended is None or key_of(found.finding) in {key_of(f.finding) for f in own(mended)}:
                continue
            if name not in self._opened:
                self._opened[name] = self._opens(mended)
            opens = self._opened[name]
            if opens is not None:
                kept.append(cure.model_copy(update={"opens": tuple(f.title for f in opens)}))
            elif found.unbuilt:
                opening.append(_told(cure, opened(self.before, after(mended, self.checks))))
        if not kept and opening:
            return (min(opening, key=lambda one: one[0])[1],)
        return tuple(kept)

    def _opens(self, mended: Case) -> list[Finding] | None:
        """What a change opens; None as soon as that keeps it from being offered."""
        found: list[Finding] = []
        for check in self.checks:
            for finding in opened(self.before, (item.finding for item in check(mended))):
                if forbids(self.before, finding):
                    return None
                found.append(finding)
        return found


def _told(cure: Cure, opens: list[Finding]) -> tuple[int, Cure]:
    """A change with what it opens, and how many stops are among that."""
    told = cure.model_copy(update={"opens": tuple(f.title for f in opens)})
    return sum(finding.severity == "stop" for finding in opens), told


def tried(case: Case, checks: Sequence[Check], cure: Cure, found: Sequence[Finding]) -> Case | None:
    """The plan with a change made on it; None where there is no floor or a stop is opened."""
    mended = made_on(case.plan, case.rules, cure)
    if mended is None:
        return None
    before = {key_of(f): f for f in found}
    opens = opened(before, after(mended, checks))
    return None if any(forbids(before, finding) for finding in opens) else mended


def made_without_floor(
    plan: Plan, rules: RuleSet, checks: Sequence[Check], candidates: Iterable[Cure | None]
) -> tuple[Cure, ...]:
    """The candidates that give a plan a floor that has none.

    What that floor breaks could not be seen before: of the candidates those are offered that break
    least, and what they break they say.
    """
    made: list[tuple[Cure, dict[Key, Finding]]] = []
    for cure in candidates:
        mended = None if cure is None else made_on(plan, rules, cure)
        if cure is not None and mended is not None:
            made.append((cure, {key_of(f): f for f in after(mended, checks)}))
    stops = [sum(f.severity == "stop" for f in left.values()) for _, left in made]
    return tuple(
        cure.model_copy(update={"opens": tuple(f.title for f in left.values())})
        for (cure, left), count in zip(made, stops, strict=True)
        if count == min(stops)
    )


def made_on(plan: Plan, rules: RuleSet, cure: Cure) -> Case | None:
    """The plan with a cure made on it; None where there is no such plan or it has no floor."""
    try:
        mended = edited(plan, cure.changes)
        surface = surface_of(mended)
    except (EditError, NoSurfaceError):
        return None
    return Case(mended, rules, Words.of(mended), surface)


def after(case: Case, checks: Sequence[Check]) -> list[Finding]:
    """Everything that the checks find, without cures."""
    return [found.finding for _, found in looked_at(case, checks)]


def opened(before: dict[Key, Finding], now: Iterable[Finding]) -> list[Finding]:
    """What a change opened: findings that were not there, or were less grave; and stops that were
    there and got worse."""
    return [
        finding
        for finding in now
        if _new(before, finding)
        or (finding.severity == "stop" and _excess(finding) > _excess(before[key_of(finding)]))
    ]


def forbids(before: dict[Key, Finding], finding: Finding) -> bool:
    """Whether something that a change opened keeps it from being offered: a stop that is new, or a
    fall that is farther off its limit than it was. Another stop that got worse is only told, and
    that an engineer has to sign for it."""
    if finding.severity != "stop" or finding.code == TO_SIGN:
        return False
    return _new(before, finding) or finding.unit == "rise_per_run"


def _new(before: dict[Key, Finding], finding: Finding) -> bool:
    old = before.get(key_of(finding))
    return old is None or _graver(old, finding)


def _graver(old: Finding, new: Finding) -> bool:
    return old.severity != "stop" and new.severity == "stop"


def _excess(finding: Finding) -> float:
    """How far a figure is beyond its limit, rounded to what counts as a change."""
    if finding.measured is None or finding.limit is None:
        return 0.0
    beyond = abs(finding.measured - finding.limit)
    step = SHARE_ROUNDED * max(abs(finding.limit), abs(finding.measured), SHARE_ROUNDED)
    return round(beyond / step) * step if beyond > step else 0.0
