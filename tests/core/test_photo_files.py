"""Pictures on their way in: what they show stays, where on earth they were taken goes, and what is
too large or none is refused within bounds."""

import io
import random
import struct
import tracemalloc
import unittest
import zlib

import numpy as np
from PIL import Image

from calm_basin.formats.photos import MOST_PIXELS, SCREEN, read_photo
from calm_basin.plan import PlanError
from tests.pictures import DETAILS, GPS, ORIENTATION, TAKEN, picture
from tests.sweeps import some

KINDS = ("JPEG", "PNG", "WEBP")


def pixels(data: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))


class PlaceTest(unittest.TestCase):
    def test_the_place_on_earth_goes_and_every_pixel_stays(self) -> None:
        for kind in KINDS:
            for options in ({}, {"progressive": True}) if kind == "JPEG" else ({},):
                with self.subTest(kind, **options):
                    data = picture(kind, turned=6, **options)
                    self.assertTrue(Image.open(io.BytesIO(data)).getexif().get_ifd(GPS))
                    read = read_photo(data)
                    exif = Image.open(io.BytesIO(read.original)).getexif()
                    self.assertFalse(exif.get_ifd(GPS))
                    for told in (b"xmpmeta", b"59.91N", b"GPS"):
                        self.assertNotIn(told, read.original)
                    self.assertEqual(exif[ORIENTATION], 6)
                    self.assertEqual(exif.get_ifd(DETAILS)[TAKEN], "2026:12:07 09:41:30")
                    np.testing.assert_array_equal(pixels(read.original), pixels(data))
                    self.assertEqual((read.taken, read.located), ("2026-12-07T09:41", False))

    def test_it_is_kept_where_that_is_asked(self) -> None:
        for kind in KINDS:
            data = picture(kind)
            read = read_photo(data, keep_place=True)
            self.assertEqual((read.original, read.located), (data, True))

    def test_what_hangs_on_behind_the_picture_goes_too(self) -> None:
        for kind in KINDS:
            data = picture(kind)
            hidden = data + b"GPSLatitude 59.91 N"
            self.assertEqual(read_photo(hidden).original, read_photo(data).original)

    def test_read_twice_it_is_the_same(self) -> None:
        for kind in KINDS:
            once = read_photo(picture(kind)).original
            self.assertEqual(read_photo(once).original, once)


class ScreenTest(unittest.TestCase):
    def test_the_copy_stands_upright_whichever_way_the_camera_was_held(self) -> None:
        # Where the white quarter comes to lie, by Exif 2.3, table 6 (from memory).
        corner = {1: (0, 0), 2: (0, 1), 3: (1, 1), 4: (1, 0), 5: (0, 0), 6: (0, 1), 7: (1, 1)}
        corner[8] = (1, 0)
        for turned, (row, column) in corner.items():
            read = read_photo(picture(size=(400, 240), turned=turned))
            shown = pixels(read.screen)
            size = (240, 400) if turned >= 5 else (400, 240)
            self.assertEqual((read.width, read.height), size)
            self.assertEqual(shown.shape[:2], size[::-1])
            halves = [np.array_split(half, 2, axis=1) for half in np.array_split(shown, 2)]
            means = np.array([[part.mean() for part in half] for half in halves])
            self.assertEqual(np.unravel_index(means.argmax(), (2, 2)), (row, column), turned)

    def test_it_is_no_larger_than_a_screen(self) -> None:
        for size in ((4000, 3000), (300, 5000), (SCREEN, 10), (1, 1)):
            with Image.open(io.BytesIO(read_photo(picture(size=size)).screen)) as small:
                self.assertLessEqual(max(small.size), SCREEN)
                self.assertGreaterEqual(min(small.size), 1)

    def test_what_is_clear_is_shown_on_white(self) -> None:
        out = io.BytesIO()
        Image.new("RGBA", (40, 40), (0, 0, 0, 0)).save(out, "PNG")
        self.assertGreater(pixels(read_photo(out.getvalue()).screen).min(), 250)


class RefusedTest(unittest.TestCase):
    def refused(self, data: bytes) -> str:
        with self.assertRaises(PlanError) as caught:
            read_photo(data)
        (problem,) = caught.exception.problems
        self.assertEqual(problem.path, "/fields/photo")
        return problem.message

    def test_what_is_no_picture_is_named_with_its_cure(self) -> None:
        self.assertIn("JPEG, PNG or WebP", self.refused(b"no picture"))
        self.assertIn("JPEG, PNG or WebP", self.refused(b""))
        out = io.BytesIO()
        Image.new("RGB", (9, 9)).save(out, "GIF")
        self.assertIn("JPEG, PNG or WebP", self.refused(out.getvalue()))
        heic = struct.pack(">I", 24) + b"ftypheic" + b"\0" * 40
        self.assertIn("Set the camera to JPEG", self.refused(heic))

    def test_one_that_is_cut_off_is_damaged(self) -> None:
        for kind in KINDS:
            data = picture(kind)
            self.assertIn("damaged", self.refused(data[: len(data) // 2]), kind)

    def test_a_bomb_is_refused_before_it_is_unpacked(self) -> None:
        width, height = 60_000, 60_000
        rows = zlib.compressobj(9)
        body = b"".join(rows.compress(b"\0" * width) for _ in range(2000)) + rows.flush()
        png = b"\x89PNG\r\n\x1a\n"
        head = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
        for name, part in ((b"IHDR", head), (b"IDAT", body), (b"IEND", b"")):
            png += struct.pack(">I", len(part)) + name + part
            png += struct.pack(">I", zlib.crc32(name + part))
        tracemalloc.start()
        try:
            self.assertIn("megapixels", self.refused(png))
            self.assertLess(tracemalloc.get_traced_memory()[1], 20_000_000)
        finally:
            tracemalloc.stop()
        self.assertLess(width, MOST_PIXELS)

    def test_spoiled_ones_are_read_or_refused_and_never_anything_else(self) -> None:
        chance, read = random.Random(3), 0
        whole = [picture(kind, (64, 40)) for kind in KINDS]
        for _ in range(some(400)):
            data = bytearray(chance.choice(whole))
            for _ in range(chance.randrange(1, 6)):
                data[chance.randrange(len(data))] = chance.randrange(256)
            try:
                found = read_photo(bytes(data[: chance.choice((len(data), len(data) // 2))]))
            except PlanError:
                continue
            read += 1
            self.assertTrue(found.screen)
        self.assertGreater(read, some(400) / 20)
