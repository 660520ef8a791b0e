"""Photos of the site log as they are kept: with their entry or not at all, and what they were."""

import io
import json
import random
import shutil
import threading
import zipfile
from contextlib import closing
from pathlib import Path

from click.testing import CliRunner

from calm_basin.cli import main
from calm_basin.plan import PlanError
from calm_basin.store import copies, job_file, jobs, log, photos, record, restoring
from calm_basin.store.backup import BackupError
from calm_basin.store.database import connect
from tests.store.test_jobs import StoreCase, plan
from tests.sweeps import some


def body(name: str, size: int) -> dict[str, object]:
    told = {"hash": name, "media": "image/jpeg", "size": size}
    return {"kind": "photo", "title": "Photo", "by": "AB", "at": "2026-12-07T09:00", "photo": told}


def written(path: Path, job: jobs.Head, data: bytes, entry: str) -> str:
    """An entry with a photo, as the server writes it; the photo's name."""
    with closing(connect(path)) as db, photos.writing(path):
        name = photos.keep(path, data, b"small")
        log.append(db, job.job_id, entry, body(name, len(data)), job.revision)
    return name


class PhotoCase(StoreCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = jobs.create(self.db, plan(30))

    def photo(self, data: bytes, entry: str) -> str:
        return written(self.path, self.job, data, entry)

    def there(self) -> set[str]:
        return {file.name for file in photos.photos_of(self.path).glob("??/*")}

    def wrong(self, job_id: str = "", *, whole: bool = True) -> list[str]:
        found = log.entries(self.db, job_id or self.job.job_id)
        return [one.what for one in log.broken_photos(self.path, found, whole=whole)]


class KeptTest(PhotoCase):
    def test_what_no_entry_names_goes_and_what_one_names_stays(self) -> None:
        kept = self.photo(b"kept", "entry-0001")
        with photos.writing(self.path):
            lost = photos.keep(self.path, b"lost", b"small")
            # Somebody is writing: it may be named yet.
            self.assertEqual(photos.clear(self.path), 0)
        half = photos.file_of(self.path, kept).with_name(f".{kept}.x.part")
        half.write_bytes(b"ha")
        self.assertEqual(photos.clear(self.path), 1)
        self.assertEqual(self.there(), {kept, f"{kept}{photos.SCREEN}"})
        self.assertNotIn(lost, self.there())
        self.assertEqual(self.wrong(), [])

    def test_those_of_a_job_that_is_gone_stay_as_long_as_a_copy_names_them(self) -> None:
        name = self.photo(b"picture", "entry-0001")
        copies.copy_of_the_day(self.path)
        self.db.execute("DELETE FROM job")
        self.assertEqual(photos.clear(self.path), 0)
        restoring.restore(self.path, next(copies.folder_of(self.path).glob("day-*")))
        self.assertEqual(self.wrong(), [])
        self.db.execute("DELETE FROM job")
        for copy in copies.folder_of(self.path).glob("*.sqlite3"):
            copy.unlink()
        self.assertEqual(photos.clear(self.path), 1)
        self.assertNotIn(name, self.there())

    def test_two_that_write_the_same_and_one_that_clears_agree(self) -> None:
        stop, wrong = threading.Event(), []

        def clear() -> None:
            while not stop.is_set():
                photos.clear(self.path)

        def write(who: int) -> None:
            try:
                for i in range(some(30)):
                    written(self.path, self.job, b"same %d" % (i % 3), f"entry-{who}-{i:03}")
            except Exception as error:
                wrong.append(error)

        writers = [threading.Thread(target=write, args=(who,)) for who in range(2)]
        sweeper = threading.Thread(target=clear)
        for thread in (sweeper, *writers):
            thread.start()
        for thread in writers:
            thread.join()
        stop.set()
        sweeper.join()
        self.assertEqual(wrong, [])
        self.assertEqual(len(log.entries(self.db, self.job.job_id)), 2 * some(30))
        self.assertEqual(self.wrong(), [])
        self.assertEqual(len(self.there()), 6)

    def test_a_name_that_is_none_leads_nowhere(self) -> None:
        for name in ("../../etc/passwd", "", "a" * 63, "A" * 64, "g" * 64):
            with self.assertRaises(ValueError):
                photos.file_of(self.path, name)


class ChangedTest(PhotoCase):
    def test_any_changed_byte_is_found_and_a_photo_that_is_gone_named(self) -> None:
        data = random.Random(1).randbytes(5000)
        file = photos.file_of(self.path, self.photo(data, "entry-0001"))
        for place in (0, 2500, 4999):
            spoiled = bytearray(data)
            spoiled[place] ^= 1
            file.write_bytes(spoiled)
            self.assertEqual(self.wrong(), ["has a photo that was changed"])
            self.assertEqual(self.wrong(whole=False), [])
        file.write_bytes(data[:-1])
        self.assertEqual(self.wrong(whole=False), ["has a photo that was changed"])
        file.unlink()
        self.assertEqual(self.wrong(whole=False), ["has a photo that is gone"])
        # Taken again it is put right.
        self.photo(data, "entry-0002")
        self.assertEqual(self.wrong(), [])


class BackupTest(PhotoCase):
    def test_a_backup_takes_them_along_and_brings_them_back(self) -> None:
        data = random.Random(2).randbytes(9_000_000)
        self.photo(data, "entry-0001")
        self.photo(b"other", "entry-0002")
        file = self.path.with_name("all.backup")
        self.assertIn("2 photos", photos.write_all(self.path, file).told())
        shutil.rmtree(photos.photos_of(self.path))
        self.assertEqual(len(self.wrong()), 2)
        self.assertEqual(restoring.restore(self.path, file).photos, 2)
        self.assertEqual(self.wrong(), [])
        rows = self.db.execute("SELECT count(*) FROM photo_part").fetchone()[0]
        self.assertEqual(rows, 0, "the photos lie beside the database")

    def test_one_that_was_changed_in_it_is_refused_and_nothing_is_put_back(self) -> None:
        self.photo(b"picture", "entry-0001")
        file = self.path.with_name("all.backup")
        photos.write_all(self.path, file)
        with closing(connect(file)) as db:
            db.execute("UPDATE photo_part SET bytes = x'00'")
        jobs.create(self.db, plan(40, "newer"))
        with self.assertRaisesRegex(BackupError, "photo"):
            restoring.restore(self.path, file)
        self.assertEqual(len(jobs.list_jobs(self.db)), 2)


class RecordTest(PhotoCase):
    def made(self, **others: bytes) -> bytes:
        out = io.BytesIO()
        record.write_record(self.db, self.path, self.job.job_id, out, others)
        return out.getvalue()

    def verified(self, data: bytes) -> tuple[int, str]:
        found = CliRunner().invoke(main, ["verify", "-"], input=data)
        return found.exit_code, found.output

    def test_a_job_comes_back_with_its_photos(self) -> None:
        names = [self.photo(data, f"entry-{data.decode()}") for data in (b"one", b"two", b"two2")]
        made = self.made()
        self.assertEqual(made, self.made(), "the same job makes the same file")
        self.assertEqual(self.verified(made)[0], 0)
        self.assertIn("3 photos, none changed", self.verified(made)[1])
        shutil.rmtree(photos.photos_of(self.path))
        file = self.path.with_name("job.zip")
        file.write_bytes(made)
        told = CliRunner().invoke(main, ["import", str(file), "--database", str(self.path)])
        self.assertEqual(told.exit_code, 0, told.output)
        (new,) = {row.id for row in jobs.list_jobs(self.db)} - {self.job.job_id}
        self.assertEqual(self.wrong(new), [])
        self.assertEqual(self.there(), set(names))

    def test_any_changed_byte_is_found_and_named(self) -> None:
        chance = random.Random(5)
        self.photo(chance.randbytes(3000), "entry-0001")
        self.photo(chance.randbytes(3000), "entry-0002")
        made = self.made(**{"log.csv": b"number\r\n1\r\n"})
        with zipfile.ZipFile(io.BytesIO(made)) as whole:
            members = {info.filename: whole.read(info) for info in whole.infolist()}
        found = 0
        for _ in range(some(60)):
            name = chance.choice(list(members))
            data = bytearray(members[name])
            place = chance.randrange(len(data))
            data[place] = chance.choice([c for c in b"0123456789abc" if c != data[place]])
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as spoiled:
                for member, kept in members.items():
                    spoiled.writestr(member, bytes(data) if member == name else kept)
            code, told = self.verified(out.getvalue())
            self.assertIn(code, (2, 4), (name, place, told))
            found += name.split(".")[0] in told or "Entry" in told
        self.assertGreater(found, some(60) / 2)
        # A byte of the zip itself: found, or of no weight.
        for _ in range(some(60)):
            data = bytearray(made)
            data[chance.randrange(len(data))] ^= 1 << chance.randrange(8)
            self.assertIn(self.verified(bytes(data))[0], (0, 2, 4))

    def test_what_is_no_record_is_refused_in_words(self) -> None:
        self.photo(b"picture", "entry-0001")
        made = self.made()
        with zipfile.ZipFile(io.BytesIO(made)) as whole:
            members = {info.filename: whole.read(info) for info in whole.infolist()}
        for change, said in (
            ({"../evil": b"x"}, "is no part"),
            ({"photos/x.jpg": b"x"}, "is no part"),
            ({"job.json": None}, "holds no job.json"),
            ({"job.json": b"{"}, "not JSON"),
            ({f"photos/{'0' * 64}.jpg": b"x"}, "was changed"),
        ):
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as spoiled:
                for member, data in (members | change).items():
                    if data is not None:
                        spoiled.writestr(member, data)
            file = self.path.with_name("bad.zip")
            file.write_bytes(out.getvalue())
            told = CliRunner().invoke(main, ["import", str(file), "--database", str(self.path)])
            self.assertEqual(told.exit_code, 2, change)
            self.assertIn(said, told.output)
        self.assertEqual(len(jobs.list_jobs(self.db)), 1)

    def test_a_member_that_unpacks_to_more_than_it_says_is_refused(self) -> None:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as bomb:
            bomb.writestr("job.json", b" " * 300_000_000)
        with self.assertRaisesRegex(PlanError, "over 200 MB"):
            record.Record(io.BytesIO(out.getvalue()))

    def test_the_command_writes_one(self) -> None:
        self.photo(b"picture", "entry-0001")
        file = self.path.with_name("mine.zip")
        job = self.job.job_id
        told = CliRunner().invoke(main, ["export", job, str(file), "--database", str(self.path)])
        self.assertEqual(told.exit_code, 0, told.output)
        self.assertEqual(self.verified(file.read_bytes())[0], 0)
        with zipfile.ZipFile(file) as made:
            log_of = json.loads(made.read("job.json"))["log"]
        self.assertEqual(len(log_of), 1)
        self.assertIn("photo", log_of[0]["body"])
        self.assertFalse(job_file.is_one(file.read_bytes()))
