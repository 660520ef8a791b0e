"""Check the site log in a job's file, without a server."""

from __future__ import annotations

import sys
from typing import BinaryIO

import click

from calm_basin.cli.solving import refuse
from calm_basin.plan import PlanError
from calm_basin.store import log
from calm_basin.store.database import LARGEST_JOB
from calm_basin.store.job_file import Beside, Revised, read_job

NOT_WHAT_IT_WAS = 4
"""The exit code where something was changed."""


@click.command()
@click.argument("file", type=click.File("rb"))
@click.option("--seal", default="", help="What the last entry's seal begins with, as it was told.")
def verify(file: BinaryIO, seal: str) -> None:
    """Check the site log in FILE, a job's file: each entry against its seal and the one before,
    and each plan that it was judged by.

    Exit codes: 0 it is what it was; 2 the file was refused; 4 something was changed.
    """
    try:
        read = list(read_job(file.read(LARGEST_JOB + 1)))
    except PlanError as error:
        refuse(error)
    plans = {one.number: one.plan for one in read if isinstance(one, Revised)}
    (beside,) = (one for one in read if isinstance(one, Beside))
    found = [log.Kept(**entry) for entry in beside.log]
    told = [
        f"Entry {one.number} {one.what}."
        for one in (*log.broken(found), *log.broken_plans(found, plans.get))
    ]
    last = found[-1].hash if found else ""
    if seal and not last.startswith(seal.lower()):
        told.append(f"The last seal is {last[:12] or 'none'}, not {seal}.")
    if told:
        for line in told:
            click.echo(line, err=True)
        sys.exit(NOT_WHAT_IT_WAS)
    many = f"{len(found)} entries" if len(found) != 1 else "1 entry"
    click.echo(f"{beside.name}: {many}, none changed; seal {last or 'none'}.")
