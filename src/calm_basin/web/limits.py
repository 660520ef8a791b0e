"""How much a request may carry; what carries more is refused before it is read."""

from __future__ import annotations

import re

from calm_basin.store.database import LARGEST_JOB, LARGEST_PHOTO, LARGEST_RECORD

LARGEST_BODY = 6_000_000
"""Most bytes of a request: a plan as large as one may be, and its questions."""

LARGER = {
    "/api/jobs/import": LARGEST_JOB,
    "/api/jobs/import/record": LARGEST_RECORD,
    "/api/store/restore": 4_000_000_000,
}
"""Where whole jobs, or all of them, are brought in."""

_PHOTOS = re.compile(r"/api/jobs/[^/]+/log/photos")


def largest(path: str) -> int:
    """Most bytes that a request to an address may carry."""
    if _PHOTOS.fullmatch(path):
        return LARGEST_PHOTO + LARGEST_BODY
    return LARGER.get(path, LARGEST_BODY)


def too_large(path: str) -> str:
    """What is said of a request that carries more."""
    return (
        f"That is over {largest(path) // 1_000_000} MB. Choose a smaller picture, or a file "
        "that was exported here."
    )
