"""Write all files of a plan into a folder."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path
from typing import BinaryIO, get_args

import click

from calm_basin.cli.solving import INCOMPLETE, refuse
from calm_basin.core.answer.result import Part
from calm_basin.core.solve import solve
from calm_basin.formats.bundle import NAMES, files_of
from calm_basin.plan import PlanError, read_plan
from calm_basin.plan.reading import LARGEST_DOCUMENT


@click.command()
@click.argument("plan", type=click.File("rb"))
@click.argument("folder", type=click.Path(file_okay=False, path_type=Path))
@click.option("--replace", is_flag=True, help="Write over files that are there.")
def files(plan: BinaryIO, folder: Path, replace: bool) -> None:
    """Work out PLAN and write all its files into FOLDER: sheet, drawing, order, days, marks."""
    # Asked before anything is worked out, which takes seconds.
    there = sorted(name for name in NAMES if (folder / name).exists())
    if there and not replace:
        raise click.ClickException(
            f"{folder} has {', '.join(there)} already. Write over them with --replace."
        )
    try:
        document = read_plan(plan.read(LARGEST_DOCUMENT + 1))
        solution = solve(document, parts=get_args(Part))
    except PlanError as error:
        refuse(error)
    made = datetime.now(UTC)
    uid = "".join(sign if sign.isalnum() else "-" for sign in document.job.name.lower())
    found = files_of(document, solution, uid=uid, made=made)
    try:
        folder.mkdir(parents=True, exist_ok=True)
        for name, content in found.items():
            (folder / name).write_bytes(content)
    except OSError as error:
        raise click.ClickException(f"{folder} cannot be written: {error}.") from None
    click.echo(f"{len(found)} files in {folder}.", err=True)
    if not solution.complete:
        raise SystemExit(INCOMPLETE)
