"""Pictures for tests, made here."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
from PIL import Image

ORIENTATION, GPS, DETAILS, TAKEN = 0x0112, 0x8825, 0x8769, 0x9003


def picture(
    kind: str = "JPEG",
    size: tuple[int, int] = (320, 200),
    *,
    turned: int = 1,
    located: bool = True,
    seed: int = 1,
    **options: Any,
) -> bytes:
    """A picture of noise whose left upper quarter is white, with what a phone writes beside it."""
    chance = np.random.default_rng(seed)
    pixels = chance.integers(0, 120, (size[1], size[0], 3), dtype=np.uint8)
    pixels[: size[1] // 2, : size[0] // 2] = 255
    exif = Image.Exif()
    exif[ORIENTATION] = turned
    exif.get_ifd(DETAILS)[TAKEN] = "2026:12:07 09:41:30"
    if located:
        exif.get_ifd(GPS)[2] = (59.0, 54.0, 47.5)
        exif.get_ifd(GPS)[1] = "N"
    out = io.BytesIO()
    more = {"xmp": b"<x:xmpmeta>59.91N</x:xmpmeta>"} if kind in ("JPEG", "WEBP") else {}
    Image.fromarray(pixels).save(out, kind, exif=exif, **more, **options)
    return out.getvalue()
