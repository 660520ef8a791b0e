"""Pictures on their way in: what is one, within bounds, without the place on earth where it was
taken; and a copy for the screen."""

from __future__ import annotations

import io
import re
import struct
import warnings
from collections.abc import Iterator
from contextlib import suppress
from typing import Literal, NamedTuple

from PIL import Image, ImageOps, UnidentifiedImageError

from calm_basin.plan import PlanError, Problem

MOST_PIXELS = 64_000_000
"""Most pixels of a picture: beyond the largest that phones take as a rule."""

SCREEN = 1600
"""The longer side of the copy for the screen, in pixels."""

MEDIA = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}

Format = Literal["JPEG", "PNG", "WEBP"]

_EXIF = b"Exif\0\0"
_TAKEN, _ORIENTATION = 0x9003, 0x0112
_DETAILS = 0x8769


class Photo(NamedTuple):
    """A picture as it is kept: its bytes, a copy for the screen (JPEG), and what is known of it.
    ``located`` is whether it still says where on earth it was taken."""

    original: bytes
    screen: bytes
    media: str
    width: int
    height: int
    taken: str
    located: bool


def read_photo(data: bytes, *, keep_place: bool = False) -> Photo:
    """Read a picture: JPEG, PNG or WebP.

    Parameters
    ----------
    data : bytes
        The file as the camera wrote it.
    keep_place : bool
        Whether what it says of the place on earth is kept; else it is cut out of the file, and
        every pixel stays as it was.

    Raises
    ------
    PlanError
        That says why it is not taken, and what helps.
    """
    if _is_heic(data):
        _refuse(
            "This is a HEIC picture, which browsers cannot show. Set the camera to JPEG, or save "
            "the picture as JPEG first."
        )
    with warnings.catch_warnings():
        # Of a large one and of a spoiled one it is said below.
        warnings.simplefilter("ignore")
        try:
            with Image.open(io.BytesIO(data), formats=list(MEDIA)) as image:
                return _read(data, image, keep_place)
        except Image.DecompressionBombError:
            _refuse(_TOO_MANY)
        except UnidentifiedImageError:
            _refuse("This is no picture that can be read. Choose a JPEG, PNG or WebP file.")
        except PlanError:
            raise
        except Exception as error:
            # What is spoiled is told by whatever comes upon it.
            _refuse(f"The picture is damaged ({str(error)[:80]}). Take or save it again.")
    raise AssertionError


_TOO_MANY = f"The picture has over {MOST_PIXELS // 1_000_000} megapixels. Save it smaller."


def _refuse(message: str) -> None:
    raise PlanError([Problem("/fields/photo", message)])


def _is_heic(data: bytes) -> bool:
    brands = (b"heic", b"heix", b"hevc", b"heim", b"heis", b"mif1", b"msf1", b"heif", b"avif")
    return data[4:8] == b"ftyp" and data[8:12] in brands


def _read(data: bytes, image: Image.Image, keep_place: bool) -> Photo:
    width, height = image.size
    if width * height > MOST_PIXELS:
        _refuse(_TOO_MANY)
    kind: Format = image.format  # type: ignore[assignment]
    exif = image.getexif()
    taken = _moment(exif)
    turned = exif.get(_ORIENTATION, 1) in (5, 6, 7, 8)
    original = data if keep_place else _without_place(data, kind, exif)
    # A JPEG is read at a fraction of its size where that is enough.
    image.draft("RGB", (SCREEN, SCREEN))
    image.load()
    small = ImageOps.exif_transpose(image)
    small.thumbnail((SCREEN, SCREEN))
    if small.mode in ("RGBA", "LA", "PA") or "transparency" in small.info:
        clear = small.convert("RGBA")
        small = Image.new("RGB", clear.size, "white")
        small.paste(clear, mask=clear.getchannel("A"))
    out = io.BytesIO()
    small.convert("RGB").save(out, "JPEG", quality=82, optimize=True)
    size = (height, width) if turned else (width, height)
    return Photo(original, out.getvalue(), MEDIA[kind], *size, taken, keep_place)


def _moment(exif: Image.Exif) -> str:
    """When it was taken, as ``2026-11-30T14:05``; empty where it does not say."""
    with suppress(Exception):
        text = str(exif.get_ifd(_DETAILS).get(_TAKEN, ""))
        found = re.match(r"^(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d)", text)
        if found:
            return "{}-{}-{}T{}:{}".format(*found.groups())
    return ""


def _without_place(data: bytes, kind: Format, exif: Image.Exif) -> bytes:
    """The file without what may say where it was taken: of what it says beside its pixels only the
    way it is turned and the moment are kept. Nothing is compressed anew."""
    kept = Image.Exif()
    if _ORIENTATION in exif:
        kept[_ORIENTATION] = exif[_ORIENTATION]
    with suppress(Exception):
        taken = exif.get_ifd(_DETAILS).get(_TAKEN)
        if isinstance(taken, str):
            kept.get_ifd(_DETAILS)[_TAKEN] = taken
    said = kept.tobytes() if len(kept) or kept.get_ifd(_DETAILS) else b""
    if kind == "JPEG":
        return _jpeg(data, said)
    return _png(data, said) if kind == "PNG" else _webp(data, said)


def _jpeg(data: bytes, said: bytes) -> bytes:
    """The segments of a JPEG up to the end of its picture, but for those that say things beside
    it (ITU-T T.81, annex B; Exif 2.3, 4.5.4)."""
    out = [b"\xff\xd8"]
    if said:
        out.append(b"\xff\xe1" + struct.pack(">H", len(said) + 2) + said)
    for marker, piece in _segments(data):
        # APP1 Exif and XMP, APP2 but for colours, APP3 to APP13, APP15, comments.
        beside = 0xE1 <= marker <= 0xEF and marker != 0xEE
        colours = marker == 0xE2 and piece[4:15] == b"ICC_PROFILE"
        if (beside and not colours) or marker == 0xFE:
            continue
        out.append(piece)
    return b"".join(out)


def _segments(data: bytes) -> Iterator[tuple[int, bytes]]:
    """The segments of a JPEG after its first mark, each with its bytes; what is behind the end of
    the picture is left out."""
    at = 2
    while at + 4 <= len(data):
        if data[at] != 0xFF:
            raise ValueError("a segment is missing")
        if data[at + 1] == 0xFF:
            at += 1
            continue
        marker = data[at + 1]
        if marker == 0xD9:
            break
        size = struct.unpack_from(">H", data, at + 2)[0]
        end = at + 2 + size
        if marker == 0xDA:
            # The picture itself: until a mark that is neither a filled byte nor a restart.
            found = re.compile(rb"\xff[^\x00\xd0-\xd7\xff]", re.DOTALL).search(data, end)
            end = found.start() if found else len(data)
        yield marker, data[at:end]
        at = end
    yield 0xD9, b"\xff\xd9"


def _png(data: bytes, said: bytes) -> bytes:
    """The chunks of a PNG (W3C PNG, 5) that make the picture, and what is said."""
    from zlib import crc32

    kept = {
        b"IHDR",
        b"PLTE",
        b"tRNS",
        b"IDAT",
        b"IEND",
        b"gAMA",
        b"cHRM",
        b"sRGB",
        b"iCCP",
        b"sBIT",
    }
    out, at = [data[:8]], 8
    while at + 12 <= len(data):
        size, name = struct.unpack_from(">I4s", data, at)
        if name == b"IDAT" and said:
            body = b"eXIf" + said.removeprefix(_EXIF)
            out.append(struct.pack(">I", len(body) - 4) + body + struct.pack(">I", crc32(body)))
            said = b""
        if name in kept:
            out.append(data[at : at + 12 + size])
        at += 12 + size
        if name == b"IEND":
            break
    return b"".join(out)


def _webp(data: bytes, said: bytes) -> bytes:
    """The chunks of a WebP (RFC 9649) that make the picture, and what is said."""
    out, at = [], 12
    while at + 8 <= len(data):
        name, size = data[at : at + 4], struct.unpack_from("<I", data, at + 4)[0]
        end = at + 8 + size + size % 2
        chunk = data[at:end]
        if name == b"VP8X":
            # Bit 3: Exif, bit 2: XMP.
            flags = chunk[8] & ~0x0C | (0x08 if said else 0)
            chunk = chunk[:8] + bytes([flags]) + chunk[9:]
        if name in (b"VP8X", b"VP8 ", b"VP8L", b"ALPH", b"ICCP", b"ANIM", b"ANMF"):
            out.append(chunk)
        at = end
    # Only the extended form has room for it.
    if said and out[0][:4] == b"VP8X":
        body = said.removeprefix(_EXIF)
        out.append(b"EXIF" + struct.pack("<I", len(body)) + body + b"\0" * (len(body) % 2))
    whole = b"WEBP" + b"".join(out)
    return b"RIFF" + struct.pack("<I", len(whole)) + whole
