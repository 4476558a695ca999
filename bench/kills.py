"""Kills a process in the midst of decisions, notes and invitations, and looks whether anything is half there: `python -m bench.kills [ROUNDS]`."""

from __future__ import annotations

import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from mobbet import wiring
from mobbet.actions import blogs, deciding, files, invitations, notes, people, posts
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import linear
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.values import existing
from mobbet.store import posts as post_store

SERVER = "https://write.example"
LONGEST = 0.6
"""In seconds: how long a process works at most before it is killed."""


def begin(data: Path) -> None:
    """A data folder with a blog, its owner and a contributor."""
    workshop = wiring.open_folder(data)
    owner, blog = blogs.set_up(
        workshop, name="Ines", email="ines@bench.example", password="three brass kettles", blog="Bench", address="bench", zone="UTC",
        home="https://bench.example/",
    )  # fmt: skip
    writer = people.add_person(workshop, name="Wren", email="wren@bench.example", password=None)
    blogs.add_member(workshop, blog, writer, "contributor")
    files.new_post(workshop, writer, blog.slug, "---\ntitle: Lamps\n---\nPull the plug first.\n")
    workshop.db.close()


def work(data: Path) -> None:
    """Decides, notes and invites until it is killed."""
    workshop = wiring.open_existing(data)
    owner, writer = (
        existing(people.people.by_email(workshop.db, f"{name}@bench.example")) for name in ("ines", "wren")
    )
    post = existing(post_store.titled(workshop.db, 1, "Lamps"))
    number = workshop.db.value("SELECT COUNT(*) FROM invitation")
    print("ready", flush=True)
    while True:
        number += 1
        revision = existing(post_store.by_id(workshop.db, post)).revision
        deciding.ask(workshop, writer, post, remark="May it?", server=SERVER)
        notes.leave(workshop, owner, post, revision, 0, 5, "Which lamps?")
        posts.save_text(
            workshop,
            writer,
            post,
            base=revision,
            title="Lamps",
            subtitle="",
            body=from_markdown(f"Pull the plug first, {number}."),
            is_apart=True,
        )
        deciding.send_back(workshop, owner, post, "Say more.", SERVER)
        invitations.invite(workshop, owner, {"bench": "writer"}, f"new{number}@away.example", SERVER)
        if number % 50 == 0:
            with workshop.db.transaction():
                workshop.db.run("DELETE FROM note")
                workshop.db.run("UPDATE invitation SET ended = 'withdrawn'")


def problems(workshop: Workshop) -> list[str]:
    """What is half there."""
    db, found = workshop.db, []
    decided = db.value("SELECT COUNT(*) FROM decision")
    recorded = db.value("SELECT COUNT(*) FROM record WHERE kind IN ('asked', 'sent-back', 'yes')")
    if decided != recorded:
        found.append(f"{decided} decisions, {recorded} of them in the record")
    for words, sql in (
        ("invitations without a role", "SELECT COUNT(*) FROM invitation WHERE NOT EXISTS (SELECT 1 FROM invitation_role WHERE invitation_id = invitation.id)"),
        ("invitations without a letter", "SELECT COUNT(*) FROM invitation WHERE letter_id IS NULL"),
        ("decisions about no revision", "SELECT COUNT(*) FROM decision WHERE NOT EXISTS (SELECT 1 FROM revision WHERE revision.post_id = decision.post_id AND number = revision)"),
    ):  # fmt: skip
        if count := db.value(sql):
            found.append(f"{count} {words}")
    for post_id in db.column("SELECT DISTINCT post_id FROM note"):
        text = linear(notes.text_of(post_store.working(db, post_id)))
        found += [
            f"note {one.id} is on other words"
            for one in notes.notes.on_passages(db, post_id)
            if text[one.passage_start : one.passage_end] != one.quote
        ]
    if db.value("PRAGMA integrity_check") != "ok":
        found.append("the database is damaged")
    return found


def run(rounds: int, seed: int = 1) -> list[str]:
    """Kills so many processes, each at a moment of its own; answers with what was found half there."""
    folder, dice, found = Path(tempfile.mkdtemp(prefix="mobbet-kills-")), random.Random(seed), []
    try:
        begin(folder / "data")
        for _ in range(rounds):
            process = subprocess.Popen(
                [sys.executable, "-m", "bench.kills", "work", str(folder / "data")], stdout=subprocess.PIPE, text=True, cwd=Path(__file__).parent.parent
            )  # fmt: skip
            assert process.stdout is not None
            process.stdout.readline()
            time.sleep(dice.uniform(0.01, LONGEST))
            process.send_signal(signal.SIGKILL)
            process.wait()
            process.stdout.close()
            workshop = wiring.open_existing(folder / "data")
            found += problems(workshop)
            workshop.db.close()
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    return found


if __name__ == "__main__":
    if sys.argv[1:2] == ["work"]:
        work(Path(sys.argv[2]))
    chosen = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    halves = run(chosen)
    print(f"{chosen} kills: {len(halves)} things half there", *halves, sep="\n")
    sys.exit(1 if halves else 0)
