"""Backups of all jobs, and one job as a file."""

from __future__ import annotations

import sys
from contextlib import closing
from pathlib import Path
from typing import BinaryIO

import click

from calm_basin.cli.database import of_database, opened
from calm_basin.cli.solving import refuse
from calm_basin.plan import PlanError
from calm_basin.store import backup as one_file
from calm_basin.store import copies, events, job_file, jobs, photos, record, restoring
from calm_basin.store.database import LARGEST_JOB

_REPLACE = click.option("--replace", is_flag=True, help="Write over FILE where there is one.")


def _may_be_written(file: Path, database: Path, replace: bool) -> None:
    """Raise `click.ClickException` where writing to a file would cost what is in it."""
    kept = (database, *one_file.beside(database))
    if any(file.exists() and one.exists() and file.samefile(one) for one in kept):
        raise click.ClickException(
            f"{file} is where all jobs are kept. Choose another file to write to."
        )
    if file.parent.resolve() == copies.folder_of(database).resolve():
        raise click.ClickException(
            f"{file.parent} is where copies are kept by themselves. Choose another folder."
        )
    if not file.exists() or replace:
        return
    if not sys.stdin.isatty():
        raise click.ClickException(f"{file} is there already. Write over it with --replace.")
    click.confirm(f"{file} is there already. Write over it?", abort=True)


@click.command()
@click.argument("file", type=click.Path(dir_okay=False, path_type=Path))
@_REPLACE
@of_database
def backup(file: Path, replace: bool, database: Path) -> None:
    """Write all jobs with their histories into FILE, and check it."""
    opened(database).close()
    _may_be_written(file, database, replace)
    try:
        contents = photos.write_all(database, file)
    except one_file.BackupError as error:
        raise click.ClickException(str(error)) from None
    click.echo(f"{file}: {contents.told()}, checked.")


@click.command()
@click.argument("file", type=click.Path(dir_okay=False, exists=True, path_type=Path))
@of_database
def restore(file: Path, database: Path) -> None:
    """Put what is in FILE, a backup, in the place of all jobs. What was there is kept as a copy."""
    database.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    try:
        contents = restoring.restore(database, file)
    except one_file.BackupError as error:
        raise click.ClickException(str(error)) from None
    store = opened(database)
    with closing(store.connect()) as db:
        events.tell(db, "put back", "", f"{contents.jobs} jobs from {file.name}")
    click.echo(f"{contents.told()} are back.")
    kept = copies.copies(database)
    if kept:
        click.echo(f"What was there is kept in {copies.folder_of(database) / kept[0].name}.")


@click.command()
@click.argument("job")
@click.argument("file", type=click.Path(dir_okay=False, path_type=Path, allow_dash=True))
@_REPLACE
@of_database
def export(job: str, file: Path, replace: bool, database: Path) -> None:
    """Write JOB, by its id or its name, with its history into FILE; as a zip with its photos where
    that ends in .zip."""
    with closing(opened(database).connect()) as db:
        found = [row for row in jobs.list_jobs(db) if job in (row.id, row.name)]
        if len(found) != 1:
            many = "More than one job has" if found else "No job has"
            ids = ", ".join(f"{row.id} {row.name}" for row in found or jobs.list_jobs(db)[:10])
            raise click.ClickException(f"{many} this id or name. Choose one by its id: {ids}.")
        with_photos = file.suffix.lower() == ".zip"
        if str(file) == "-":
            sys.stdout.buffer.write(job_file.export_job(db, found[0].id).encode())
        else:
            _may_be_written(file, database, replace)
            try:
                with one_file.part_of(file) as part:
                    if with_photos:
                        with part.open("wb") as out:
                            record.write_record(db, database, found[0].id, out, {})
                    else:
                        part.write_bytes(job_file.export_job(db, found[0].id).encode())
                    one_file.settled(part, file)
            except OSError as error:
                raise click.ClickException(f"{file} cannot be written: {error}.") from None
    more = " and its photos" if with_photos else ""
    click.echo(f"{found[0].name}, with its history{more}.", err=True)


@click.command("import")
@click.argument("file", type=click.File("rb"))
@of_database
def bring_in(file: BinaryIO, database: Path) -> None:
    """Add the job of FILE, with its history, to those there are."""
    with closing(opened(database).connect()) as db:
        try:
            there = record.rewound(file)
            if record.is_one(there):
                found = record.Record(there)
                with photos.writing(database):
                    record.bring_photos(database, found)
                    head = job_file.import_job(db, found.job())
            else:
                head = job_file.import_job(db, there.read(LARGEST_JOB + 1))
        except PlanError as error:
            refuse(error)
    click.echo(f"{head.document['job']['name']}: job {head.job_id}.")
