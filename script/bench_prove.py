"""Measure what proves a job: the floor as built, the log with its photos, the record."""

from __future__ import annotations

import io
import json
import tempfile
from contextlib import closing
from pathlib import Path

import numpy as np
import scipy
from bench_tools import report, timed
from PIL import Image

from calm_basin.core.answer.words import Words
from calm_basin.core.as_built.answer import as_built
from calm_basin.core.as_built.judged import above
from calm_basin.core.falls import surface_of
from calm_basin.core.site_log.handover import handover
from calm_basin.core.solve import solve
from calm_basin.demo import demo_plans
from calm_basin.formats.photos import read_photo
from calm_basin.formats.record import Recorded, write_record
from calm_basin.plan import Plan
from calm_basin.rules import chosen_rules
from calm_basin.store import jobs, log, photos
from calm_basin.store.database import connect, migrate
from calm_basin.store.opening import Store
from calm_basin.web.app import create_app


def bench_built(plans: list[Plan]) -> None:
    print(
        "\nThe floor as built from 60 readings, beside the same readings interpolated and averaged"
    )
    chance = np.random.default_rng(3)
    for name, size in (("nearly as planned", 0.4), ("out by some millimetres", 2.5)):
        took, bare = [], []
        for plan in plans:
            surface, words, rules = surface_of(plan), Words.of(plan), chosen_rules(plan)
            left, bottom, right, top = surface.outline.bounds
            places = chance.uniform((left, bottom), (right, top), (60, 2))
            planned = surface.heights(places)
            there = np.isfinite(planned)
            places, planned = places[there], planned[there] - above(plan, "bed")
            heights = planned + chance.normal(0, size, len(planned))
            rows = [(*map(float, p), float(z)) for p, z in zip(places, heights, strict=True)]

            def judged(
                plan: Plan = plan,
                rules: object = rules,
                words: Words = words,
                surface: object = surface,
                rows: object = rows,
            ) -> object:
                return as_built(plan, rules, words, surface, "bed", rows, 1.0)

            grid = np.meshgrid(np.linspace(left, right, 100), np.linspace(bottom, top, 100))

            def plain(
                places: object = places, heights: object = heights, grid: object = grid
            ) -> object:
                return np.nanmean(scipy.interpolate.LinearNDInterpolator(places, heights)(*grid))

            took.append(timed(judged))
            bare.append(timed(plain))
        report(f"judged, {name}", took, "aim 1 s with the least work")
        report("interpolated and averaged", bare)


def bench_log() -> None:
    print("\nA log of 5,000 entries and 500 photos")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "jobs.sqlite3"
        migrate(path)
        with closing(connect(path)) as db:
            job = jobs.create(db, demo_plans()[0])
            text = db.execute("SELECT plan FROM revision").fetchone()["plan"]
            with photos.writing(path):
                names = [
                    photos.keep(path, f"photo {i}".encode() * 300, b"small") for i in range(500)
                ]
            previous, rows = log.FIRST, []
            for i in range(5000):
                body = {
                    "kind": "note",
                    "title": "Note",
                    "by": "AB",
                    "at": "2026-12-07T09:00",
                    "values": {"note": "x" * 60},
                    "lines": [["Note", "x" * 60]],
                    "verdict": {"state": "none", "text": "", "why": "", "cure": "", "source": ""},
                }
                if i % 10 == 0:
                    size = 300 * len(f"photo {i // 10}")
                    body["photo"] = {"hash": names[i // 10], "media": "image/jpeg", "size": size}
                row = {
                    "number": i + 1,
                    "id": f"entry-{i:05}",
                    "made_at": "2026-12-07T09:00:00",
                    "body": body,
                    "plan_hash": log.hashed(json.loads(text)),
                    "previous": previous,
                }
                row["hash"] = previous = log.hashed(row)
                rows.append(row | {"revision": job.revision})
            log.insert(db, job.job_id, rows)
            assert log.wrong(db, job.job_id, log.entries(db, job.job_id)) == []
        client = create_app(Store(path)).load().test_client()
        address = f"/api/jobs/{job.job_id}/log"
        report("opened", [timed(lambda: client.get(address)) for _ in range(9)], "aim 300 ms")
        report(
            "every entry, plan and photo's size checked",
            [timed(lambda: client.get(f"{address}/check")) for _ in range(5)],
        )
        report(
            "every byte of every photo as well",
            [timed(lambda: client.get(f"{address}/check?whole")) for _ in range(5)],
        )


def bench_photos() -> None:
    print("\nPhotos on their way in, beside the library opening them")
    chance = np.random.default_rng(1)
    for name, size in (("12 megapixels", (4000, 3000)), ("50 megapixels", (8660, 5774))):
        coarse = chance.integers(0, 255, (size[1] // 16, size[0] // 16, 3), dtype=np.uint8)
        image = Image.fromarray(coarse).resize(size)
        for kind in ("JPEG", "PNG", "WEBP"):
            out = io.BytesIO()
            image.save(out, kind, **({"method": 0} if kind == "WEBP" else {}))
            data = out.getvalue()
            report(
                f"{kind} of {name}, {len(data) / 1e6:.1f} MB",
                [timed(lambda d=data: read_photo(d)) for _ in range(2)],
                "aim 5 s",
            )
            report(
                "the library alone",
                [timed(lambda d=data: Image.open(io.BytesIO(d)).load()) for _ in range(2)],
            )


def bench_record(plan: Plan) -> None:
    print("\nThe record")
    solution = solve(plan, parts=("days",))
    told = Recorded([], "", [], handover(solution.days, []), [], {})
    report(
        "the record as PDF",
        [timed(lambda: write_record(plan, solution, told)) for _ in range(3)],
        "aim 3 s",
    )


if __name__ == "__main__":
    demo = demo_plans()
    bench_built(demo)
    bench_log()
    bench_photos()
    bench_record(demo[0])
