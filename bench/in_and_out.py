"""Measures import, export and backups: `python -m bench.in_and_out [POSTS] [PICTURES]` (10,000 and 20,000 as it comes).

An import of Markdown with pictures, an export and its import, and a backup while posts are saved at full speed, from which everything that was saved before it comes back.
"""

from __future__ import annotations

import io
import json
import os
import resource
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

from PIL import Image

from mobbet import wiring
from mobbet.actions import blogs, posts
from mobbet.core.document.from_markdown import from_markdown
from mobbet.store import people
from mobbet.store import posts as post_store

WORDS = "The flex has bent ten thousand times where it enters the base, and one of the two conductors has quietly let go. "
WRITING = 60.0
PER_FOLDER = 1000


def run(*words: str) -> tuple[dict, float, int]:
    """(what a command reports, its seconds, the most memory of it and its processes in MB)."""
    before = time.monotonic()
    done = subprocess.run(
        [sys.executable, "-m", "mobbet", *words, "--json"], capture_output=True, text=True, check=False
    )
    seconds = time.monotonic() - before
    if not done.stdout:
        raise SystemExit(done.stderr)
    return json.loads(done.stdout), seconds, resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss // 1000


def make_site(folder: Path, count: int, pictures: int) -> None:
    """Markdown files with pictures beside them, each picture another one."""
    each = pictures // max(1, count)
    for number in range(count):
        below = folder / f"{number // PER_FOLDER:03}"
        below.mkdir(parents=True, exist_ok=True)
        shown = []
        for place in range(each):
            name = f"{number:05}-{place}.jpg"
            out = io.BytesIO()
            Image.new("RGB", (640, 420), ((number * 7) % 256, (number // 256) % 256, place * 40)).save(
                out, "JPEG", quality=60, comment=f"{number}-{place}".encode()
            )
            (below / name).write_bytes(out.getvalue())
            shown.append(f"![Picture {place} of post {number}]({name})")
        day = f"{2000 + number // 365 % 25}-{number // 28 % 12 + 1:02}-{number % 28 + 1:02}"
        text = "\n\n".join([WORDS * 4, *shown, WORDS * 3])
        (below / f"post-{number:05}.md").write_text(
            f"---\ntitle: Post {number} of the old site\ndate: {day}\ncategories: [Lamps]\ntags: [flex, t{number % 50}]\n---\n\n{text}\n"
        )


def begin(data: Path) -> None:
    workshop = wiring.open_folder(data)
    blogs.set_up(
        workshop,
        name="Ines Farrow",
        email="ines@bench.example",
        password="a long password",
        blog="Bench",
        address="bench",
        zone="Europe/Lisbon",
        home="https://bench.example/",
    )
    workshop.db.close()


def measure_transfers(folder: Path, count: int, pictures: int) -> None:
    data, site, out = folder / "data", folder / "site", folder / "out"
    begin(data)
    make_site(site, count, pictures)
    found, seconds, memory = run("import", "--data", str(data), "--from", "markdown", str(site))
    print(
        f"import of {count:,} posts with {pictures:,} pictures: {found['new']:,} came in {seconds / 60:.1f} minutes; most memory {memory:,} MB",
        flush=True,
    )
    found, seconds, _ = run("export", "--data", str(data), "--out", str(out), "--what", "everything")
    print(f"export of them: {found['files']:,} files in {seconds:.0f} s", flush=True)
    found, seconds, memory = run("import", "--data", str(folder / "again"), "--from", "folder", str(out))
    print(
        f"import of that export: {found['rows']['post']:,} posts in {seconds:.0f} s; most memory {memory:,} MB",
        flush=True,
    )
    run("export", "--data", str(folder / "again"), "--out", str(folder / "out2"), "--what", "everything")
    same = subprocess.run(
        ["diff", "-rq", str(out), str(folder / "out2")], capture_output=True, text=True, check=False
    ).stdout
    print(f"export, import, export: {'the same bytes' if not same else same[:500]}", flush=True)


def measure_backup(folder: Path) -> None:
    """Backs up while posts are saved without a pause; each save that was acknowledged before the backup's moment has to be in it."""
    data, place = folder / "writing", f"folder:{folder / 'backups'}"
    begin(data)
    workshop = wiring.open_folder(data)
    me, blog = people.by_email(workshop.db, "ines@bench.example"), "bench"
    saved: list[tuple[float, int, int]] = []
    ends = time.monotonic() + WRITING

    def write() -> None:
        made = [posts.begin_post(workshop, me, blog).id for _ in range(20)]
        number = 0
        while time.monotonic() < ends:
            post = post_store.by_id(workshop.db, made[number % 20])
            done = posts.save_text(
                workshop,
                me,
                post.id,
                base=post.revision,
                title=f"Save {number}",
                subtitle="",
                body=from_markdown(f"{WORDS} {number}"),
            )
            saved.append((time.time(), post.id, done.revision))
            number += 1

    writer = threading.Thread(target=write)
    writer.start()
    time.sleep(WRITING / 2)
    moment = time.time()
    _, seconds, _ = run("backup", "--data", str(data), "--to", place)
    writer.join()
    restored = folder / "restored"
    found, back, _ = run("restore", "--from", place, "--data", str(restored))
    copy = wiring.open_folder(restored)
    kept = dict(copy.db.tuples("SELECT id, revision FROM post"))
    lost = [one for one in saved if one[0] < moment and kept.get(one[1], 0) < one[2]]
    print(
        f"backup during {WRITING:.0f} s of writing: {len(saved):,} saves, {len(saved) / WRITING:.0f} a second; made in {seconds:.1f} s, restored in {back:.1f} s, "
        f"{'sound' if found['sound'] else 'NOT SOUND'}; {len(lost)} saves of before it missing",
        flush=True,
    )


def main() -> None:
    count, pictures = (
        int(sys.argv[at]) if len(sys.argv) > at else usual for at, usual in ((1, 10_000), (2, 20_000))
    )
    with tempfile.TemporaryDirectory(prefix="mobbet-bench-", dir=os.environ.get("TMPDIR")) as folder:
        measure_backup(Path(folder))
        measure_transfers(Path(folder), count, pictures)


if __name__ == "__main__":
    main()
