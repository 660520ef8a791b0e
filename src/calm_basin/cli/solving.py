"""Solve a plan file and print it, or write it for the site."""

from __future__ import annotations

import sys
from datetime import date
from typing import BinaryIO, NoReturn, get_args

import click

from calm_basin.core.answer.build import SAID
from calm_basin.core.answer.result import Part
from calm_basin.core.solution import Solution
from calm_basin.core.solve import solve as solve_plan
from calm_basin.formats.dates import format_date
from calm_basin.formats.sheet import PAGES, PAPERS, parts_of, write_sheet
from calm_basin.plan import PlanError, read_plan
from calm_basin.plan.reading import LARGEST_DOCUMENT
from calm_basin.rules import RuleSet, with_own

REFUSED, INCOMPLETE, BROKEN = 2, 1, 3


def _place(
    _context: click.Context, _option: click.Parameter, texts: tuple[str, ...]
) -> list[tuple[float, float]]:
    places = []
    for text in texts:
        try:
            x, y = (float(part) for part in text.split(","))
        except ValueError:
            raise click.BadParameter(f"“{text}” is not X,Y in mm, such as 750,1200.") from None
        places.append((x, y))
    return places


_RULES = click.option(
    "--rules",
    multiple=True,
    type=click.File("rb"),
    help="A rule set of your own, a TOML file that the plan may name. May be given again.",
)


def _known(files: tuple[BinaryIO, ...]) -> dict[str, RuleSet]:
    """The rule sets that ship, and those of these files."""
    return with_own(tuple(file.read() for file in files))


@click.command()
@click.argument("plan", type=click.File("rb"))
@click.option("--text", is_flag=True, help="Print key figures and findings for people.")
@click.option(
    "--at",
    multiple=True,
    callback=_place,
    metavar="X,Y",
    help="Also give the finished level at this place, mm. May be given again.",
)
@click.option(
    "--with",
    "parts",
    multiple=True,
    type=click.Choice(get_args(Part)),
    help="Also work out the water's way, what is marked, walls, membrane, cable and tile, what to "
    "buy, the days or the places for the drain. May be given again.",
)
@click.option("--check", is_flag=True, help="Exit with 3 while something must be fixed.")
@_RULES
def solve(
    plan: BinaryIO,
    text: bool,
    at: list[tuple[float, float]],
    parts: tuple[Part, ...],
    check: bool,
    rules: tuple[BinaryIO, ...],
) -> None:
    """Work out PLAN, a plan file (or - for standard input), and print the solution as JSON.

    Exit codes: 0 solved; 1 the falls cannot be worked out (a finding says why); 2 the plan or the
    command was refused; 3 with --check, something must be fixed.
    """
    try:
        document = read_plan(plan.read(LARGEST_DOCUMENT + 1))
        solution = solve_plan(document, at, parts=parts, known=_known(rules))
    except PlanError as error:
        refuse(error)
    click.echo(_for_people(solution) if text else solution.model_dump_json(indent=2))
    stops = [finding for finding in solution.findings if finding.severity == "stop"]
    if not solution.complete:
        click.echo(f"calm-basin: {stops[0].field}: {stops[0].title}. {stops[0].detail}", err=True)
        sys.exit(INCOMPLETE)
    if check and stops:
        for finding in stops:
            click.echo(f"calm-basin: {finding.field}: {finding.title}", err=True)
        sys.exit(BROKEN)


def refuse(error: PlanError) -> NoReturn:
    """Say on standard error what is wrong, field by field, and end."""
    for problem in error.problems:
        click.echo(f"calm-basin: {problem.path or '/'}: {problem.message}", err=True)
    sys.exit(REFUSED)


def _for_people(solution: Solution) -> str:
    lines = []
    for _, figure in solution.figures:
        lines.append(f"{figure.label:<18} {figure.text}")
    if solution.surface:
        lines += ["", "Planes"]
        lines += [f"  {p.name:<16} {p.text}" for p in solution.surface.planes if p.labelled]
    if solution.asked:
        lines += ["", "Below the entry level"]
        lines += [f"  {spot.x:g},{spot.y:g}".ljust(19) + spot.text for spot in solution.asked]
    if solution.access:
        access = solution.access
        lines += ["", "Getting in", f"  {access.asked}"]
        for space in access.spaces:
            lines.append(f"  {space.name:<34} {space.text} {space.state}".rstrip())
        lines += [f"  {figure.label:<34} {figure.text}" for figure in access.figures[1:]]
        lines += [f"  {edge.name:<34} {edge.text}" for edge in access.thresholds]
        lines += [f"  {said}" for said in access.unmeasured]
    lines += [*_depth(solution), *_under(solution)]
    if solution.water:
        water = solution.water
        lines += ["", "Water", f"  {water.verdict}; {water.crossing_text}"]
        for figure in (water.drained, water.holds, water.overflow, water.flow):
            lines.append(f"  {figure.label:<30} {figure.text}")
        for way in water.capacities:
            lines.append(f"  {way.name:<30} {way.text}{'' if way.enough else ', too little'}")
    lines += [
        *_walls(solution),
        *_membrane(solution),
        *_heating(solution),
        *_tile(solution),
        *_order(solution),
        *_days(solution),
        *_marks(solution),
    ]
    if solution.assumed.text:
        lines += ["", f"All of it {solution.assumed.text}: measure and confirm them."]
        lines += [f"  {item.name:<40} {item.text}" for item in solution.assumed.listed]
    lines += ["", f"Findings ({solution.rule_set})"]
    for finding in solution.findings:
        lines += [f"  {SAID[finding.severity].upper()}: {finding.title}", f"    {finding.detail}"]
        lines.append(f"    {finding.source}")
        for cure in finding.cures:
            lines.append(f"    → {cure.text}")
            lines += [f"      then: {title}" for title in cure.opens]
    if not solution.findings:
        lines.append("  none")
    lines += ["", *(f"! {caution.text}" for caution in solution.cautions)]
    return "\n".join(lines)


def _depth(solution: Solution) -> list[str]:
    """Where the depth goes and can come from, and what is cut for it."""
    lines = []
    if solution.system:
        lines += ["", f"Built with: {solution.system.name}"]
    if solution.depth:
        lines += ["", "Build-up, from the room's floor down"]
        lines += [f"  {part.name:<42} {part.text}" for part in solution.depth.segments]
        lines += [f"  {one.solved} ({one.given}): {one.text}" for one in solution.depth.flush]
    if solution.panels:
        lines += ["", f"Panels: {solution.panels.verdict}"]
        lines += [f"  {said}" for side in solution.panels.sides for said in (side.text, *side.said)]
    if solution.ways:
        lines += ["", "Ways to the depth: recess, what is over, step at entry and door"]
        for way in solution.ways.listed:
            figures = (way.recess_text, way.left_text, way.step_text, way.door_text)
            lines.append(f"  {way.title}: {', '.join(figures)}")
            lines += [f"    then: {title}" for title in way.opens]
    return lines


def _walls(solution: Solution) -> list[str]:
    """Both lines of each wall, and what is framed and boarded."""
    walls = solution.walls
    if walls is None:
        return []
    lines = ["", "Walls", f"  {walls.said}"]
    lines += [f"  {figure.label:<36} {figure.text}" for figure in walls.figures]
    for line in walls.lines:
        depth = f", {line.depth_text} in front" if line.depth_text else ""
        said = f"{line.studs_text} between studs, {line.finished_text} finished{depth}"
        lines.append(f"  {f'wall {line.number}':<36} {said}")
    for built in walls.built:
        lines += [f"  {built.name}", *[f"    {row.name:<34} {row.text}" for row in built.rows]]
        lines.append(f"    {built.note}")
    for view in walls.views:
        lines.append(f"  {view.name}: {view.said}")
        lines += [f"    {row.name:<34} {row.text}" for row in (*view.cuts, *view.furring)]
        lines += [f"    board {board.text}" for board in view.boards]
        lines += [f"    {fixing}" for fixing in view.fixings]
    lines += [f"  {row.name:<36} {row.text}" for row in walls.chain]
    return lines + [f"  {note}" for note in walls.notes]


def _membrane(solution: Solution) -> list[str]:
    """How far the membrane goes, and its pieces in the order of laying."""
    membrane = solution.membrane
    if membrane is None:
        return []
    lines = ["", "Membrane", f"  {membrane.said}"]
    lines += [f"  {figure.label:<36} {figure.text}" for figure in membrane.figures]
    lines += [f"    {one.name:<34} {one.cut_text}".rstrip() for one in membrane.pieces]
    return lines + [f"  {note}" for note in membrane.notes]


def _heating(solution: Solution) -> list[str]:
    """Whether the cable fits, and what it takes."""
    heating = solution.heating
    if heating is None:
        return []
    lines = ["", "Heating cable", f"  {heating.none_because or heating.sentence}"]
    lines += [f"  {heating.detail}"] if heating.detail else []
    lines += [f"  {figure.label:<36} {figure.text}" for figure in heating.figures]
    return lines + [f"  {note}" for note in heating.notes]


def _tile(solution: Solution) -> list[str]:
    """How the tile lies and what is cut."""
    tile = solution.tile
    if tile is None:
        return []
    lines = ["", "Tile", f"  {tile.none_because or tile.narrowest_text}"]
    on_walls = [tile.walls.tiled] if tile.walls is not None and tile.walls.tiled else []
    for floor in (*tile.floors, *on_walls):
        lines.append(f"  {floor.name}: {floor.buy_text}; {floor.made_text}")
        lines += [
            f"    {one.count} × {one.text}{', sliver' if one.sliver else ''}" for one in floor.sizes
        ]
    if tile.walls is not None:
        lines.append(f"  {tile.walls.none_because or tile.walls.said}")
        lines += [f"    {wall.name}: {wall.said}" for wall in tile.walls.views]
    lines += [f"  {row.name}: {row.text}" for row in tile.meets]
    return lines + [f"  {note}" for note in tile.notes]


def _order(solution: Solution) -> list[str]:
    """What is bought and how it is cut."""
    order = solution.order
    if order is None:
        return []
    lines = ["", "What to buy", *(f"  {said}" for said in order.said)]
    for line in order.lines:
        lines.append(f"  {line.name:<44} {line.needed_text:>12}  {line.buy_text}")
        lines += [f"    keep back: {held}" for held in line.held]
    for cuts in order.cuts:
        lines += ["", f"{cuts.name}, {cuts.bought} × {cuts.stock_text}: {cuts.said}"]
        for bar in cuts.bars:
            strip = f"sheet {bar.sheet}, {bar.width_text} wide: " if bar.sheet else ""
            lines.append(f"  {strip}{bar.pieces_text}, left {bar.left_text}")
    return lines


def _days(solution: Solution) -> list[str]:
    """What is done on which day."""
    days = solution.days
    if days is None:
        return []
    lines = ["", f"Done {days.finish_text}; {days.visits_text}", *(f"  {s}" for s in days.said)]
    for slot in days.tasks:
        hold = " (hold point)" if slot.hold else ""
        when = f"{slot.day_text}, {slot.begin_text} to {slot.end_text:<6}"
        lines.append(f"  {when} {slot.name}{hold}, {slot.who}")
        if slot.agreed_text:
            lines.append(f"    {slot.agreed_text}")
        if slot.wait_text:
            lines.append(f"    then wait {slot.wait_text}")
    return lines


def _marks(solution: Solution) -> list[str]:
    """What is marked, in the order of work."""
    marks = solution.marks
    if marks is None:
        return []
    lines = ["", f"Setting out: {marks.left} of {marks.total} still to mark", marks.measured_from]
    for stale in marks.stale:
        lines.append(f"  HOLDS NO MORE: {stale.noted.name}, {stale.from_text}. {stale.said}")
    for group in marks.groups:
        lines += ["", f"{group.title}. {group.said}"]
        for mark in group.marks:
            done = " (marked)" if mark.noted else ""
            staff = f", staff {mark.staff_text}" if mark.staff_text else ""
            cut = f", cut to {mark.cut_text}" if mark.cut_text else ""
            lines.append(f"  {mark.name}: {mark.text}{cut}{staff}{done}")
            for place in mark.places:
                check = f"; check {place.check_text}" if place.check_text else ""
                lines.append(f"    {place.from_text}{check}")
    if marks.pins.none_because:
        lines += ["", marks.pins.none_because]
    return lines


def _under(solution: Solution) -> list[str]:
    """What the drain meets, what carries the floor, and where the waste goes."""
    structure, waste, places = solution.structure, solution.waste, solution.drain_map
    if structure is None or waste is None:
        return []
    lines = ["", "Under the floor", f"  {waste.verdict}"]
    for body in structure.bodies:
        meets = f"sits on {', '.join(body.meets)}" if body.meets else "clear"
        lines.append(f"  {body.part:<30} {meets}")
    for figure in (*structure.figures, *waste.figures, *waste.trench):
        lines.append(f"  {figure.label:<42} {figure.text}")
    for one in waste.run.passed if waste.run else ():
        lines.append(f"  {one.name:<12} {one.level_text}; {one.hole_text or one.limit_text}")
    lines += [f"  {told}" for told in (*structure.notes, *waste.missing)]
    if waste.riser:
        lines += ["", f"Riser: {waste.riser.title}", *(f"  {said}" for said in waste.riser.said)]
    if places:
        lines += ["", f"Places for the drain: {places.summary}"]
        lines += [f"  {one.text}" for one in (places.best, places.nearest) if one]
    return lines


@click.command()
@click.argument("plan", type=click.File("rb"))
@click.argument("file", type=click.File("wb"))
@click.option(
    "--paper", type=click.Choice(list(PAPERS)), default="a4", show_default=True, help="Its size."
)
@click.option(
    "--page",
    "pages",
    multiple=True,
    type=click.Choice([page.name for page in PAGES]),
    help="Only this page; may be given again. Without it, all of them.",
)
@_RULES
def sheet(
    plan: BinaryIO,
    file: BinaryIO,
    paper: str,
    pages: tuple[str, ...],
    rules: tuple[BinaryIO, ...],
) -> None:
    """Work out PLAN and write it for the site: the job sheet, as PDF, goes to FILE."""
    try:
        document = read_plan(plan.read(LARGEST_DOCUMENT + 1))
        solution = solve_plan(document, parts=parts_of(pages), known=_known(rules))
    except PlanError as error:
        refuse(error)
    made = format_date(date.today())
    file.write(write_sheet(document, solution, paper=paper, pages=pages, made=made))
