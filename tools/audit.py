"""Known faults of packages, axe and checks of its own on every screen in every state that a click opens, axe on public pages, the Nu Html Checker on the built site, Lighthouse, EPUBCheck on a book."""

from __future__ import annotations

import json
import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import httpx

from mobbet.actions import building
from mobbet.actions import people as people_actions
from mobbet.demo.make import ACCOUNT
from mobbet.store import people
from mobbet.web.shell.cookies import SESSION
from mobbet.wiring import open_folder, system_clock
from tests.browser.browsing import Server, demo_copy
from tools import audit_books, audit_lighthouse, audit_states
from tools.audit_packages import packages

MODULES = Path(__file__).parent / "audit" / "node_modules"


def main() -> int:
    with tempfile.TemporaryDirectory() as folder:
        data = demo_copy(Path(folder))
        results = [
            packages(),
            axe(),
            audit_states.main() == 0,
            html(data, Path(folder) / "out"),
            audit_lighthouse.main(data) == 0,
            audit_books.main(data, Path(folder) / "book.epub") == 0,
        ]
    return 0 if all(results) else 1


def axe() -> bool:
    """The browser suite's screens and public pages."""
    names = [
        "tests.browser.test_rooms.ScreenTests",
        "tests.browser.test_library",
        "tests.browser.test_filing",
    ]
    return (
        unittest.TextTestRunner(verbosity=0)
        .run(unittest.defaultTestLoader.loadTestsFromNames(names))
        .wasSuccessful()
    )


def write_screens(data: Path, out: Path) -> None:
    """Each screen as an owner gets it, as a file."""
    server = Server(data)
    workshop = server.workshop
    token = people_actions.begin_session(workshop, people.by_email(workshop.db, ACCOUNT[0])).token
    out.mkdir()
    for number, path in enumerate(audit_states.screens(server)):
        answer = httpx.get(server.address + path, cookies={SESSION: token}, follow_redirects=True)
        (out / f"{number}.html").write_bytes(answer.raise_for_status().content)
    server.stop()


def html(data: Path, out: Path) -> bool:
    """Every page of both demo sites, and every screen, through the Nu Html Checker."""
    if shutil.which("java") is None:
        print("The Nu Html Checker needs Java; run: sudo apt-get install default-jre-headless")
        return False
    building.write_out(open_folder(data), out, None, system_clock())
    write_screens(data, out / "screens")
    jar = MODULES / "vnu-jar" / "build" / "dist" / "vnu.jar"
    run = subprocess.run(
        ["java", "-Xss1m", "-jar", jar, "--format", "json", "--skip-non-html", "--errors-only", out],
        capture_output=True,
        check=False,
    )
    messages = json.loads(run.stderr)["messages"]
    for message in messages:
        print(f"{message.get('url')}: {message['message']}")
    print(f"Nu Html Checker: {len(messages)} errors in {len(list(out.rglob('*.html')))} pages")
    return not messages


if __name__ == "__main__":
    sys.exit(main())
