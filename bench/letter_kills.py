"""Kills the sending of letters again and again, before a mail server that refuses, stalls and breaks off, and looks who got what:
`python -m bench.letter_kills [ROUNDS [SUBSCRIBERS]]`."""

from __future__ import annotations

import asyncio
import os
import random
import shutil
import socket
import subprocess
import sys
import tempfile
import time
from collections import Counter
from email import message_from_bytes
from pathlib import Path
from typing import Any

from aiosmtpd.controller import Controller

from mobbet import wiring
from mobbet.actions import blogs, files, letter_rules, placing, subscribers
from mobbet.core.values import existing
from mobbet.store import blogs as blog_store

LONGEST = 0.9
"""In seconds: how long a process works at most before it is killed."""


class Server:
    """What a mail server does with each letter, by chance: takes it, refuses it for now, stalls, or breaks off before it took it."""

    def __init__(self, gone: set[str], seed: int) -> None:
        self.taken: Counter[tuple[str, str]] = Counter()
        self._gone, self._dice = gone, random.Random(seed)
        self.is_difficult = True

    async def handle_RCPT(
        self, server: Any, session: Any, envelope: Any, address: str, options: list[str]
    ) -> str:
        if address in self._gone:
            return "550 no such user"
        if self.is_difficult and self._dice.random() < 0.01:
            return "451 try again later"
        envelope.rcpt_tos.append(address)
        return "250 OK"

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        chance = self._dice.random() if self.is_difficult else 1
        if chance < 0.005:
            server.transport.close()
            return "421 broken off"
        if chance < 0.01:
            await asyncio.sleep(0.5)
        if chance < 0.02:
            return "452 no room just now"
        number = message_from_bytes(envelope.content)["message-id"]
        self.taken[number, envelope.rcpt_tos[0]] += 1
        return "250 OK"


def begin(data: Path, count: int) -> None:
    """A data folder with a blog, so many subscribers, and a post that is out."""
    workshop = wiring.open_folder(data)
    owner, blog = blogs.set_up(
        workshop, name="Ines", email="ines@bench.example", password="three brass kettles", blog="Bench", address="bench", zone="UTC",
        home="https://bench.example/",
    )  # fmt: skip
    for name, value in (("is_open", "yes"), ("hold", "0"), ("pace", "10000")):
        letter_rules.set_rule(workshop, owner, "bench", name, value)
    blog = existing(blog_store.by_slug(workshop.db, "bench"))
    lines = "".join(f"reader{number}@alder.example\n" for number in range(count))
    subscribers.bring_in(workshop, owner, blog, f"email\n{lines}", "said so", {})
    post = files.new_post(workshop, owner, "bench", "---\ntitle: Lamps\n---\nPull the plug first.\n").post
    placing.place(workshop, owner, post.id)
    workshop.db.close()


def _start(data: Path, port: int) -> subprocess.Popen[bytes]:
    environment = {**os.environ, "MOBBET_MAIL": f"smtp://127.0.0.1:{port}"}
    command = [sys.executable, "-m", "mobbet", "letter", "--data", str(data), "--json", "due"]
    return subprocess.Popen(
        command, stdout=subprocess.PIPE, env=environment, cwd=Path(__file__).parent.parent
    )


def _free_port() -> int:
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        return int(found.getsockname()[1])


def run(rounds: int, count: int, seed: int = 1) -> list[str]:
    """Kills the sending so many times, lets it end, and answers with who got a letter twice or none."""
    folder, dice = Path(tempfile.mkdtemp(prefix="mobbet-letters-")), random.Random(seed)
    data, gone = folder / "data", {f"reader{number}@alder.example" for number in range(0, count, 40)}
    server = Server(gone, seed)
    controller = Controller(server, hostname="127.0.0.1", port=_free_port())
    try:
        begin(data, count)
        controller.start()
        for _ in range(rounds):
            process = _start(data, controller.port)
            time.sleep(dice.uniform(0.3, LONGEST))
            process.kill()
            process.communicate()
        server.is_difficult = False
        _until_all_went(data, controller.port)
    finally:
        controller.stop()
        shutil.rmtree(folder, ignore_errors=True)
    people = Counter(address for _, address in server.taken)
    numbers = Counter(number for number, _ in server.taken)
    wanted = {f"reader{number}@alder.example" for number in range(count)} - gone
    return [
        *(f"{address} got {times} different letters" for address, times in people.items() if times > 1),
        *(
            f"{pair[1]} got the same letter {times} times"
            for pair, times in server.taken.items()
            if times > 1
        ),
        *(f"{number} went to {times} people" for number, times in numbers.items() if times > 1),
        *(f"{address} got none" for address in sorted(wanted - people.keys())),
    ]


def _until_all_went(data: Path, port: int) -> None:
    """Sends the rest, as if the pauses that the server was given were over."""
    for _ in range(20):
        workshop = wiring.open_existing(data)
        with workshop.db.transaction():
            workshop.db.run("UPDATE delivery SET next_try = 0")
            workshop.db.run("DELETE FROM mail_pause")
        workshop.db.close()
        answer = _start(data, port).communicate()[0]
        if b'"waiting": 0' in answer:
            return


if __name__ == "__main__":
    kills = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    people_count = int(sys.argv[2]) if len(sys.argv) > 2 else 5000
    begun = time.monotonic()
    wrong = run(kills, people_count)
    print(
        f"{kills} kills, {people_count} subscribers, {time.monotonic() - begun:.0f} s: {len(wrong)} letters wrong",
        *wrong[:40],
        sep="\n",
    )
    sys.exit(1 if wrong else 0)
