"""Check the site log in a job's file or record, without a server."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from typing import BinaryIO

import click

from calm_basin.cli.solving import refuse
from calm_basin.plan import PlanError
from calm_basin.store import log
from calm_basin.store.database import LARGEST_JOB
from calm_basin.store.job_file import Beside, Revised, read_job
from calm_basin.store.log import photo_of
from calm_basin.store.record import Record, is_one, rewound

NOT_WHAT_IT_WAS = 4
"""The exit code where something was changed."""


@click.command()
@click.argument("file", type=click.File("rb"))
@click.option("--seal", default="", help="What the last entry's seal begins with, as it was told.")
def verify(file: BinaryIO, seal: str) -> None:
    """Check the site log in FILE, a job's file or its record (a zip): each entry against its seal
    and the one before, each plan that it was judged by, and each photo.

    Exit codes: 0 it is what it was; 2 the file was refused; 4 something was changed.
    """
    try:
        there = rewound(file)
        record = Record(there) if is_one(there) else None
        read = list(read_job(record.job() if record else there.read(LARGEST_JOB + 1)))
    except PlanError as error:
        refuse(error)
    plans = {one.number: one.plan for one in read if isinstance(one, Revised)}
    (beside,) = (one for one in read if isinstance(one, Beside))
    found = [log.Kept(**entry) for entry in beside.log]
    told = [
        f"Entry {one.number} {one.what}."
        for one in (*log.broken(found), *log.broken_plans(found, plans.get))
    ]
    if record:
        told += [*_photos(record, found), *record.changed()]
    last = found[-1].hash if found else ""
    if seal and not last.startswith(seal.lower()):
        told.append(f"The last seal is {last[:12] or 'none'}, not {seal}.")
    if told:
        for line in told:
            click.echo(line, err=True)
        sys.exit(NOT_WHAT_IT_WAS)
    many = f"{len(found)} entries" if len(found) != 1 else "1 entry"
    shown = len({photo.hash for one in found if (photo := photo_of(one.body))})
    with_photos = f", {shown} {'photo' if shown == 1 else 'photos'}" if record and shown else ""
    click.echo(f"{beside.name}: {many}{with_photos}, none changed; seal {last or 'none'}.")
    if shown and not record:
        click.echo("Its photos are not in this file: check the record.", err=True)


def _photos(record: Record, found: list[log.Kept]) -> Iterator[str]:
    """Entries whose photo is not in the record, or not what it was."""
    hashes = {name: record.hash_of(member) for name, member in record.photos.items()}
    for entry in found:
        photo = photo_of(entry.body)
        if photo is None:
            continue
        if photo.hash not in hashes:
            yield f"Entry {entry.number} has a photo that is gone."
        elif hashes[photo.hash] != photo.hash:
            yield f"Entry {entry.number} has a photo that was changed."
