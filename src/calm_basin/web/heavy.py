"""What takes long, as functions that can run apart: plain values in, plain values out.

Each loads what it needs when it runs: the server, which only names them, never loads the solver.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import suppress
from datetime import datetime
from typing import TYPE_CHECKING, Any

from calm_basin.plan import Plan, PlanError, Problem
from calm_basin.plan.system import BuildSystem
from calm_basin.plan.waste import DrainFamily
from calm_basin.rules import chosen_rules, with_own

if TYPE_CHECKING:
    from pathlib import Path

    from calm_basin.core.answer.result import XY, Part
    from calm_basin.core.as_built.judged import LayerRead
    from calm_basin.core.as_built.result import AsBuilt
    from calm_basin.core.days.result import DaysResult
    from calm_basin.core.water.settings import TrialSettings
    from calm_basin.core.worked import Worked
    from calm_basin.formats.outline_dxf import Unit
    from calm_basin.formats.photos import Photo
    from calm_basin.store.job_file import Beside, Revised
    from calm_basin.units import Display

DAYS: tuple[Part, ...] = ("days",)

_LAST: list[Any] = []
"""What this process was asked last, and the plan as it is worked out."""

Rules = tuple[str, ...]
"""The rule sets of one's own, as the TOML that they are kept as."""


def solution(
    plan: Plan,
    own: Rules,
    at: list[XY],
    cut: tuple[XY, XY] | None,
    parts: tuple[Part, ...],
    cures: bool,
) -> Iterator[str]:
    """The solution of a plan, as JSON text. Asked again for the plan that it answered last, it goes
    on from there."""
    yield _worked(plan, own, at, cut).solution(parts, cures=cures).model_dump_json()


def card(plan: Plan, own: Rules) -> Iterator[str]:
    """How the list shows a job, as JSON text."""
    from calm_basin.core.card import card_of

    yield card_of(_worked(plan, own)).model_dump_json()


def _worked(
    plan: Plan, own: Rules, at: Sequence[XY] = (), cut: tuple[XY, XY] | None = None
) -> Worked:
    from calm_basin.core.worked import Worked

    asked = (plan, own, tuple(at), cut)
    # Taken out and put back as one: where threads share it each answers its own plan.
    last: tuple[Any, Worked] | None = _LAST[0] if _LAST else None
    if last is None or last[0] != asked:
        last = (asked, Worked(plan, with_own(own), *asked[2:]))
        _LAST[:] = [last]
    return last[1]


def comparison(plan: Plan, own: Rules, names: tuple[str, ...]) -> Iterator[list[dict[str, Any]]]:
    """What each of the rule sets named finds of a plan. Raises `PlanError`."""
    from calm_basin.core.comparing import compared
    from calm_basin.core.falls import NoSurfaceError

    try:
        yield [one.model_dump(mode="json") for one in compared(plan, names, with_own(own))]
    except NoSurfaceError as reason:
        raise PlanError([Problem("/shower/drain", str(reason))]) from None


def systems(
    plan: Plan, own: Rules, known: list[BuildSystem], families: dict[str, DrainFamily]
) -> Iterator[str]:
    """Build systems put into a plan, each as a line of JSON. Raises `PlanError`."""
    from calm_basin.core.subjects import CHECKS
    from calm_basin.core.systems.comparing import compared_systems

    rules = chosen_rules(plan, with_own(own))
    for candidate in compared_systems(plan, rules, CHECKS, known, families):
        yield candidate.model_dump_json() + "\n"


def built(plan: Plan, system: BuildSystem, family: DrainFamily) -> Iterator[Plan]:
    """A plan built by a system. Raises `PlanError` where it cannot be put into this shower."""
    from calm_basin.core.systems.fitting import fitted

    yield fitted(plan, system, family)


def job_of(text: bytes) -> Iterator[Revised | Beside]:
    """What a job's file holds. Raises `PlanError`."""
    from calm_basin.store.job_file import read_job

    yield from read_job(text)


def sheet_pages() -> Iterator[dict[str, Any]]:
    """The pages of the sheet by name and title, and the papers it may be on."""
    from calm_basin.formats.sheet import PAGES, PAPERS

    pages = [{"name": p.name, "title": p.title, "alone": p.alone} for p in PAGES]
    yield {"pages": pages, "papers": list(PAPERS)}


def sheet(plan: Plan, own: Rules, paper: str, pages: list[str], made: str) -> Iterator[bytes]:
    """The job sheet as PDF. Raises `PlanError` where a page is unknown."""
    from calm_basin.core.solve import solve
    from calm_basin.formats.sheet import UnknownPageError, parts_of, write_sheet

    try:
        answer = solve(plan, parts=parts_of(pages), known=with_own(own))
        yield write_sheet(plan, answer, paper=paper, pages=pages, made=made)
    except UnknownPageError as unknown:
        raise PlanError([Problem("/pages", str(unknown))]) from None


def marks(plan: Plan, own: Rules) -> Iterator[str]:
    """What is marked, as CSV. Raises `PlanError` where the falls cannot be worked out."""
    from calm_basin.formats.marks_csv import write_marks

    result = _worked(plan, own).field("marks")
    if result is None:
        raise PlanError([Problem("/shower/drain", "The falls cannot be worked out yet.")])
    yield write_marks(result)


def outlines(text: str, unit: Unit | None, display: Display) -> Iterator[dict[str, Any]]:
    """The outlines of a DXF drawing. Raises `PlanError` where it cannot be read."""
    from calm_basin.formats.outline_dxf import read_outlines

    yield read_outlines(text, unit, display).model_dump(mode="json")


def order(plan: Plan, own: Rules, *, cuts: bool = False) -> Iterator[str]:
    """What is bought, or how it is cut, as CSV. Raises `PlanError` where the falls cannot be worked
    out."""
    from calm_basin.formats.order_csv import write_cuts, write_order

    result = _worked(plan, own).field("order")
    if result is None:
        raise PlanError([Problem("/shower/drain", "The falls cannot be worked out yet.")])
    yield write_cuts(result) if cuts else write_order(result)


def cuts(plan: Plan, own: Rules) -> Iterator[str]:
    """How lengths and sheets are cut, as CSV. Raises `PlanError` as `order` does."""
    yield from order(plan, own, cuts=True)


def log_forms() -> Iterator[list[dict[str, Any]]]:
    """The kinds of entries that the site log takes, with their fields."""
    from calm_basin.core.site_log.forms import FORMS

    yield [form.model_dump(mode="json") for form in FORMS]


def log_entry(plan: Plan, own: Rules, kind: str, typed: dict[str, Any]) -> Iterator[dict[str, Any]]:
    """An entry of the site log out of what was typed, with the verdict on it. Raises `PlanError`
    that names each field which cannot be read."""
    from calm_basin.core.answer.words import Words
    from calm_basin.core.site_log.forms import TITLES
    from calm_basin.core.site_log.typed import lines_of, read_entry
    from calm_basin.core.site_log.verdict import judged

    words = Words.of(plan)
    entry = read_entry(kind, typed, words)
    yield {
        "kind": kind,
        "title": TITLES[kind],
        "values": entry.model_dump(mode="json"),
        "lines": [list(line) for line in lines_of(entry, plan.room.outline, words)],
        "verdict": judged(entry, plan, chosen_rules(plan, with_own(own)), words).model_dump(
            mode="json"
        ),
    }


def built_as(
    plan: Plan,
    own: Rules,
    layer: LayerRead,
    entries: list[tuple[int, dict[str, Any]]],
    newest: bool,
) -> Iterator[str]:
    """The floor as it was built, from what the log says of one layer, as JSON text. Raises
    `PlanError` where the falls cannot be worked out."""
    yield _built(plan, own, layer, entries, newest).model_dump_json()


def _built(
    plan: Plan,
    own: Rules,
    layer: LayerRead,
    entries: list[tuple[int, dict[str, Any]]],
    newest: bool = False,
) -> AsBuilt:
    from calm_basin.core.answer.words import Words
    from calm_basin.core.as_built.answer import as_built
    from calm_basin.core.falls import NoSurfaceError, surface_of
    from calm_basin.core.site_log.handover import levels_of

    sets = levels_of(entries, layer)[-1 if newest else 0 :]
    readings = [reading for one in sets for reading in one.heights]
    error = max((one.error for one in sets), default=1.0)
    try:
        surface = surface_of(plan)
    except NoSurfaceError as reason:
        raise PlanError([Problem("/shower/drain", str(reason))]) from None
    rules = chosen_rules(plan, with_own(own))
    return as_built(plan, rules, Words.of(plan), surface, layer, readings, error)


def handed_over(plan: Plan, own: Rules, entries: list[tuple[int, dict[str, Any]]]) -> Iterator[str]:
    """What is handed over, and what is still open, as JSON text."""
    from calm_basin.core.site_log.handover import handover

    yield handover(_worked(plan, own).field("days"), entries).model_dump_json()


def record(
    plan: Plan,
    own: Rules,
    entries: list[tuple[int, dict[str, Any]]],
    seal: str,
    broken: list[str],
    photos: dict[str, Path],
    paper: str,
    made: str,
) -> Iterator[bytes]:
    """The record as PDF, the photos read from their files."""
    from calm_basin.core.as_built.judged import LAYERS
    from calm_basin.core.site_log.handover import handover, levels_of
    from calm_basin.core.solve import solve
    from calm_basin.formats.record import Recorded, write_record

    solution = solve(plan, parts=DAYS, known=with_own(own), cures=False)
    built = []
    for layer in LAYERS:
        if levels_of(entries, layer):
            with suppress(PlanError):
                built.append(_built(plan, own, layer, entries))
    told = Recorded(entries, seal, broken, handover(solution.days, entries), built, photos)
    yield write_record(plan, solution, told, paper=paper, made=made)


def photo(data: bytes, keep_place: bool) -> Iterator[Photo]:
    """A picture on its way in. Raises `PlanError` where it is none, or too large."""
    from calm_basin.formats.photos import read_photo

    yield read_photo(data, keep_place=keep_place)


def bundle(plan: Plan, own: Rules, uid: str, made: datetime) -> Iterator[bytes]:
    """All files of a job in one zip."""
    from typing import get_args

    from calm_basin.core.answer.result import Part
    from calm_basin.core.solve import solve
    from calm_basin.formats.bundle import files_of, zipped

    solution = solve(plan, parts=get_args(Part), known=with_own(own))
    yield zipped(files_of(plan, solution, uid=uid, made=made))


def calendar(plan: Plan, own: Rules, uid: str, made: datetime) -> Iterator[bytes]:
    """The days as iCalendar. Raises `PlanError` where there are none, or no first day."""
    from calm_basin.formats.days_files import write_calendar

    if plan.days.start is None:
        raise PlanError([Problem("/days/start", "Choose the first day: a calendar needs dates.")])
    found = _days(plan, own)
    yield write_calendar(found, job=plan.job.name, uid=uid, first=plan.days.start, made=made)


def days(plan: Plan, own: Rules) -> Iterator[str]:
    """The days as CSV. Raises `PlanError` where there are none."""
    from calm_basin.formats.days_files import write_days

    yield write_days(_days(plan, own))


def _days(plan: Plan, own: Rules) -> DaysResult:
    result: DaysResult | None = _worked(plan, own).field("days")
    if result is None or not result.tasks:
        reason = result.none_because if result else "The falls cannot be worked out yet."
        raise PlanError([Problem("/days" if result else "/shower/drain", reason)])
    return result


def best_tile(plan: Plan, own: Rules) -> Iterator[dict[str, Any]]:
    """Where the tile of a plan is best begun. Raises `PlanError` where it cannot be laid out."""
    from calm_basin.core.answer.case import Case
    from calm_basin.core.answer.words import Words
    from calm_basin.core.falls import NoSurfaceError, surface_of
    from calm_basin.core.tile.answer import best_begun
    from calm_basin.core.tile.floors import NotLaidError

    try:
        case = Case(plan, chosen_rules(plan, with_own(own)), Words.of(plan), surface_of(plan))
        yield best_begun(case).model_dump(mode="json")
    except NoSurfaceError as reason:
        raise PlanError([Problem("/shower/drain", str(reason))]) from None
    except NotLaidError as reason:
        raise PlanError([Problem(reason.field, str(reason))]) from None


def floors(plan: Plan, settings: TrialSettings) -> Iterator[str]:
    """Floors made by hand: after each what came of all so far, as a line of JSON. Raises
    `PlanError` where there is no floor."""
    from calm_basin.core.answer.words import Words
    from calm_basin.core.falls import NoSurfaceError
    from calm_basin.core.water.trials import trials

    try:
        for result in trials(plan, Words.of(plan), settings):
            yield result.model_dump_json() + "\n"
    except NoSurfaceError as reason:
        raise PlanError([Problem("/shower/drain", str(reason))]) from None


def gap(plan: Plan, start: XY, end: XY) -> Iterator[dict[str, Any]]:
    """The widest gap under a straightedge on the floor that was read. Raises `PlanError`."""
    import numpy as np

    from calm_basin.core.answer.words import Words
    from calm_basin.core.survey.ground import floor_of

    try:
        floor = floor_of(plan.survey.levels, plan.room.outline)
    except ValueError as reason:
        raise PlanError([Problem("/survey/levels", str(reason))]) from None
    first, last = np.array(start), np.array(end)
    gaps = floor.under_edge(first, last)
    words = Words.of(plan)
    worst = int(gaps.argmax())
    at = first + worst / (len(gaps) - 1) * (last - first)
    yield {
        "gap": float(gaps[worst]),
        "text": words.length(float(gaps[worst]), "up"),
        "length_text": words.length(float(np.hypot(*(last - first)))),
        "at": [float(at[0]), float(at[1])],
    }
