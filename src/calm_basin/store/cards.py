"""How jobs looked in the list when they were last worked out."""

from __future__ import annotations

import json
import sqlite3
from typing import Any, NamedTuple

from calm_basin.store.database import transaction


class Kept(NamedTuple):
    """A card as JSON says it, if there is one; ``current`` tells whether it is of the job as it
    stands, worked out from the same besides its plan."""

    card: dict[str, Any] | None
    current: bool


def cards(db: sqlite3.Connection, besides: str) -> dict[str, Kept]:
    """The cards of all jobs that have one, by job. ``besides`` names what they hang on besides
    their plans. Of a damaged store there are none: they are worked out again."""
    try:
        rows = db.execute(
            """
            SELECT job_id, body, card.revision = job.head AND besides = ? AS current
            FROM card JOIN job ON job.id = card.job_id WHERE deleted_at IS NULL
            """,
            (besides,),
        ).fetchall()
    except sqlite3.DatabaseError:
        return {}
    return {row["job_id"]: Kept(json.loads(row["body"]), bool(row["current"])) for row in rows}


def keep(db: sqlite3.Connection, job_id: str, revision: int, besides: str, body: str) -> None:
    """Keep the card of a revision in the place of an older one; of a job that is gone, none."""
    with transaction(db):
        db.execute(
            """
            INSERT INTO card (job_id, revision, besides, body)
            SELECT id, ?, ?, ? FROM job WHERE id = ?
            ON CONFLICT (job_id) DO UPDATE SET
              revision = excluded.revision, besides = excluded.besides, body = excluded.body
            """,
            (revision, besides, body, job_id),
        )
