"""Backups of all jobs, and one job as a file."""

from __future__ import annotations

from contextlib import closing
from pathlib import Path
from typing import BinaryIO

import click

from calm_basin.cli.database import of_database, opened
from calm_basin.cli.solving import refuse
from calm_basin.plan import PlanError
from calm_basin.store import backup as copies
from calm_basin.store import events, job_file, jobs
from calm_basin.store.database import LARGEST_JOB


@click.command()
@click.argument("file", type=click.Path(dir_okay=False, path_type=Path))
@of_database
def backup(file: Path, database: Path) -> None:
    """Write all jobs with their histories into FILE, and check it."""
    opened(database).close()
    try:
        contents = copies.write_copy(database, file)
    except copies.BackupError as error:
        raise click.ClickException(str(error)) from None
    click.echo(f"{file}: {contents.jobs} jobs with {contents.revisions} steps, checked.")


@click.command()
@click.argument("file", type=click.Path(dir_okay=False, exists=True, path_type=Path))
@of_database
def restore(file: Path, database: Path) -> None:
    """Put what is in FILE, a backup, in the place of all jobs. What was there is kept as a copy."""
    database.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    try:
        contents = copies.restore(database, file)
    except copies.BackupError as error:
        raise click.ClickException(str(error)) from None
    store = opened(database)
    with closing(store.connect()) as db:
        events.tell(db, "put back", "", f"{contents.jobs} jobs from {file.name}")
    click.echo(f"{contents.jobs} jobs with {contents.revisions} steps are back.")
    kept = copies.copies(database)
    if kept:
        click.echo(f"What was there is kept in {copies.folder_of(database) / kept[0].name}.")


@click.command()
@click.argument("job")
@click.argument("file", type=click.File("wb"))
@of_database
def export(job: str, file: BinaryIO, database: Path) -> None:
    """Write JOB, by its id or its name, with its history into FILE."""
    with closing(opened(database).connect()) as db:
        found = [row for row in jobs.list_jobs(db) if job in (row.id, row.name)]
        if len(found) != 1:
            many = "More than one job has" if found else "No job has"
            ids = ", ".join(f"{row.id} {row.name}" for row in found or jobs.list_jobs(db)[:10])
            raise click.ClickException(f"{many} this id or name. Choose one by its id: {ids}.")
        file.write(job_file.export_job(db, found[0].id).encode())
    click.echo(f"{found[0].name}, with its history.", err=True)


@click.command("import")
@click.argument("file", type=click.File("rb"))
@of_database
def bring_in(file: BinaryIO, database: Path) -> None:
    """Add the job of FILE, with its history, to those there are."""
    with closing(opened(database).connect()) as db:
        try:
            head = job_file.import_job(db, file.read(LARGEST_JOB + 1))
        except PlanError as error:
            refuse(error)
    click.echo(f"{head.document['job']['name']}: job {head.job_id}.")
