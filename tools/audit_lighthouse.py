"""Lighthouse on public pages, on the desk and in the writing room, as a desktop and as a phone."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple

from mobbet.actions import people as people_actions
from mobbet.demo.make import ACCOUNT
from mobbet.store import people
from mobbet.web.shell.cookies import SESSION
from tests.browser.browsing import Server, demo_copy

PROGRAM = Path(__file__).parent / "audit" / "node_modules" / "lighthouse" / "cli" / "index.js"
PUBLIC = {"accessibility": 100, "best-practices": 100, "seo": 100, "performance": 98}
DESK = {"accessibility": 100, "best-practices": 100, "performance": 95}
ROOM = {**DESK, "performance": 90}
TRIES = 3
"""Lighthouse misses the begin of a page now and then."""
DEVICES = {"desktop": ("--preset=desktop",), "phone": ()}


class Audited(NamedTuple):
    """A page, the scores it must reach, and whether somebody is signed in."""

    path: str
    wanted: dict[str, int]
    signed_in: bool = False
    devices: tuple[str, ...] = ("desktop", "phone")


def audited(server: Server) -> Iterator[Audited]:
    post = server.workshop.db.value("SELECT id FROM post WHERE title LIKE 'Rewiring a desk lamp%'")
    for path in ("", "clocks/cleaning-a-stuck-clock/", "radios/the-belt-in-the-tape-machine/"):
        yield Audited(f"/b/mending-bench/{path}", PUBLIC, devices=("desktop",))
    yield Audited("/desk/mending-bench", DESK, True)
    yield Audited(f"/posts/{post}", ROOM, True)


def report(address: str, device: str, cookie: str) -> dict[str, Any]:
    """What Lighthouse says of a page. Raises CalledProcessError; its own words go to the terminal."""
    headers = ("--extra-headers", json.dumps({"Cookie": cookie})) if cookie else ()
    command = [
        "node", PROGRAM, address, "--quiet", "--output=json", *DEVICES[device], *headers,
        "--chrome-flags=--headless --no-sandbox --disable-gpu --disable-quic",
    ]  # fmt: skip
    environment = {**os.environ, "CHROME_PATH": shutil.which("chromium") or ""}
    for left in reversed(range(TRIES)):
        run = subprocess.run(command, stdout=subprocess.PIPE, check=not left, env=environment)
        if not run.returncode:
            break
    found: dict[str, Any] = json.loads(run.stdout)
    return found


def is_good(found: dict[str, Any], wanted: dict[str, int], name: str) -> bool:
    """Prints the scores of a page, and for each that is too low what is behind it."""
    scores = {
        category: round((one["score"] or 0) * 100)
        for category, one in found["categories"].items()
        if category in wanted
    }
    size = found["audits"].get("total-byte-weight", {}).get("numericValue", 0)
    print(f"Lighthouse {name}: {scores}, {size / 1000:.0f} kB", flush=True)
    low = [category for category, least in wanted.items() if scores[category] < least]
    for category in low:
        refs = [ref["id"] for ref in found["categories"][category]["auditRefs"]]
        print(f"  {category}: {', '.join(one for one in refs if (found['audits'][one]['score'] or 0) < 1)}")
    return not low


def main(data: Path | None = None) -> int:
    with tempfile.TemporaryDirectory() as folder:
        server = Server(data or demo_copy(Path(folder)))
        workshop = server.workshop
        token = people_actions.begin_session(workshop, people.by_email(workshop.db, ACCOUNT[0])).token
        results = [
            is_good(
                report(server.address + page.path, device, f"{SESSION}={token}" if page.signed_in else ""),
                page.wanted,
                f"{page.path} {device}",
            )
            for page in audited(server)
            for device in page.devices
        ]
        server.stop()
    return 0 if all(results) else 1


if __name__ == "__main__":
    sys.exit(main())
