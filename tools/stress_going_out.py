"""Kills publishing and sending at chance moments, fills the disk, sets the clock back, runs two servers on one folder; and looks
whether all is sound: what was acknowledged is there, readers get one edition whole, and the places outside catch up.

    python -m tools.stress_going_out [--rounds 300] [--disk FOLDER ON A SMALL FILE SYSTEM]
"""

from __future__ import annotations

import argparse
import random
import shutil
import subprocess
import sys
import tempfile
import time
from contextlib import suppress
from pathlib import Path

from mobbet.actions import blogs, building, consistency, files, placing, slots, targets
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.errors import MobbetError
from mobbet.publish.export import files_of
from mobbet.publish.pages.kinds import all_keys
from mobbet.publish.plan import Plan
from mobbet.publish.targets.folder import file_of
from mobbet.services.stand_ins.clock import SetClock
from mobbet.store import blogs as blog_store
from mobbet.store import editions, people
from mobbet.store import posts as post_store
from mobbet.store import targets as target_store
from mobbet.store.snapshot import SiteSnapshot
from mobbet.wiring import open_folder

OWNER = "ines@bench.example"

NOW = 1_795_000_000


def main() -> int:
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--rounds", type=int, default=300)
    options.add_argument("--disk", type=Path, default=None)
    options.add_argument("--child", nargs=3, default=None, metavar=("DATA", "SEED", "NOW"))
    chosen = options.parse_args()
    if chosen.child:
        work(Path(chosen.child[0]), int(chosen.child[1]), int(chosen.child[2]))
        return 0
    folder = Path(tempfile.mkdtemp(dir=chosen.disk))
    try:
        return stress(folder, chosen.rounds, chosen.disk is not None)
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def make(data: Path) -> None:
    shop = open_folder(data, SetClock(NOW - 86400))
    me, _ = blogs.set_up(
        shop,
        name="Ines",
        email=OWNER,
        password="a long password",
        blog="The Bench",
        address="bench",
        zone="Europe/Lisbon",
        home="https://bench.example/",
    )
    for number in range(30):
        files.new_post(
            shop,
            me,
            "bench",
            f"---\ntitle: Post {number}\ncategories: Shelf {number % 4}\ndate: 2026-11-0{number % 9 + 1}\n---\nWords of {number}.\n",
        )
    building.publish(shop, blog_store.by_slug(shop.db, "bench"))
    shop.db.close()


def work(data: Path, seed: int, now: int) -> None:
    """What a server does, in a hurry; each line it prints is something it has acknowledged."""
    shop, chance = open_folder(data, SetClock(now)), random.Random(seed)
    blog = blog_store.by_slug(shop.db, "bench")
    me = people.of_blog(shop.db, blog.id)[0]
    print("ready", flush=True)
    while True:
        try:
            act(shop, chance, me, blog)
        except MobbetError:
            pass
        except (
            Exception
        ) as error:  # a full disk is told by many kinds of errors; what counts is what is left afterwards
            print(f"failed {type(error).__name__}", flush=True)
            time.sleep(0.05)


def act(shop: Workshop, chance: random.Random, me: people.Person, blog: blog_store.Blog) -> None:
    deed = chance.choice(("new", "new", "later", "withdraw", "publish", "publish", "send", "queue", "clock"))
    if deed in ("new", "later"):
        date = "2026-11-01" if deed == "new" else "2026-11-18 12:00"
        made = files.new_post(
            shop,
            me,
            "bench",
            f"---\ntitle: Made {chance.random()}\ncategories: Shelf {chance.randrange(4)}\ndate: {date}\n---\nWords.\n",
        )
        print(f"placed {made.post.id}", flush=True)
    elif deed == "withdraw":
        placing.withdraw(shop, me, chance.randrange(1, 40))
    elif deed == "queue":
        slots.put_in_queue(shop, me, chance.randrange(1, 40))
    elif deed == "publish":
        edition = building.publish(shop, blog).edition
        print(f"published {edition}", flush=True)
    elif deed == "clock":
        shop.clock.instant += chance.choice((-7200, -60, 1, 600, 3600))
    else:
        for target in target_store.of_blog(shop.db, blog.id):
            targets.try_to_send(shop, blog, target)


def stress(folder: Path, rounds: int, is_small: bool) -> int:
    data, out = folder / "data", folder / "out"
    make(data)
    shop = open_folder(data, SetClock(NOW))
    blog = blog_store.by_slug(shop.db, "bench")
    me = people.by_email(shop.db, OWNER)
    slots.add_slot(shop, me, blog, "FREQ=DAILY", "18:00")
    targets.add(shop, me, blog, f"folder:{out}")
    chance, bad, told = random.Random(7), 0, []
    for number in range(rounds):
        pair = [
            subprocess.Popen(
                [
                    sys.executable,
                    "-m",
                    "tools.stress_going_out",
                    "--child",
                    str(data),
                    str(number * 2 + one),
                    str(NOW + number * 60),
                ],
                stdout=subprocess.PIPE,
                text=True,
            )
            for one in range(2)
        ]
        for process in pair:
            process.stdout.readline()
        if is_small:
            with suppress(OSError):  # the two at work fill the disk as well
                (folder / "ballast").write_bytes(
                    b"x" * max(0, shutil.disk_usage(folder).free - chance.randrange(20_000, 900_000))
                )
        time.sleep(chance.random() * 0.6)
        for process in pair:
            process.kill()
        lines = [line.split() for process in pair for line in process.communicate()[0].splitlines()]
        (folder / "ballast").unlink(missing_ok=True)
        problems = look(shop, blog, data, out, lines, NOW + number * 60)
        bad += bool(problems)
        told += problems[:3]
        if number % 20 == 19:
            print(
                f"{number + 1} rounds, {bad} bad, edition {editions.current_number(shop.db, blog.id)}",
                *told[-3:],
                flush=True,
            )
    return 1 if bad else 0


def look(
    shop: Workshop, blog: blog_store.Blog, data: Path, out: Path, lines: list[list[str]], now: int
) -> list[str]:
    """Everything that is not as it must be after a sudden end."""
    shop.clock.instant = max(now, editions.current(shop.db, blog.id).instant)
    problems = consistency.problems(shop)
    acknowledged = [int(words[1]) for words in lines if words[0] == "placed" and len(words) == 2]
    problems += [
        f"post {number} was acknowledged and is not there"
        for number in acknowledged
        if post_store.by_id(shop.db, number) is None
    ]
    seen = max((int(words[1]) for words in lines if words[0] == "published" and len(words) == 2), default=0)
    if editions.current_number(shop.db, blog.id) < seen:
        problems.append(f"edition {seen} was acknowledged and is not there")
    building.publish(shop, blog)
    rows = {
        row.path: row
        for row in editions.pages(shop.db, blog.id)
        if row.audience == EVERYONE and row.shelf == "pages" and not row.is_made_on_request
    }
    plan = Plan(SiteSnapshot(shop.db, blog.id, shop.clock()))
    whole = {path: body for path, body in files_of(plan, shop.media, list(all_keys(plan))) if path in rows}
    problems += [
        f"{path} differs from the facts"
        for path, row in rows.items()
        if whole.get(path) != shop.pages.read(row.hash)
    ][:3]
    for target in target_store.of_blog(shop.db, blog.id):
        targets.try_again(shop, people.by_email(shop.db, OWNER), target)
        if targets.try_to_send(shop, blog, target_store.by_id(shop.db, target.id)) is None:
            problems.append(f"sending failed: {target_store.by_id(shop.db, target.id).problem}")
    problems += [
        f"{file_of(path)} at the folder differs"
        for path, row in rows.items()
        if (out / file_of(path)).read_bytes() != shop.pages.read(row.hash)
    ][:3]
    strange = [
        str(file)
        for file in out.rglob("*")
        if file.is_file()
        and not file.name.startswith(".")
        and "/" + str(file.relative_to(out)).removesuffix("index.html")
        not in {row.path for row in editions.pages(shop.db, blog.id)}
    ]
    return problems + [f"{name} is left over" for name in strange[:3]]


if __name__ == "__main__":
    sys.exit(main())
