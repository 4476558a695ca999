"""Known faults of packages, axe and checks of its own on every screen in every state that a click opens, axe on public pages, the Nu Html Checker on the built site, Lighthouse on three pages."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from mobbet.actions import building
from mobbet.wiring import open_folder, system_clock
from tests.browser.browsing import Server, demo_copy
from tools import audit_states
from tools.audit_packages import packages

MODULES = Path(__file__).parent / "audit" / "node_modules"
WANTED = {"accessibility": 100, "best-practices": 100, "seo": 100, "performance": 98}


def main() -> int:
    with tempfile.TemporaryDirectory() as folder:
        data = demo_copy(Path(folder))
        results = [
            packages(),
            axe(),
            audit_states.main() == 0,
            html(data, Path(folder) / "out"),
            lighthouse(data),
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


def html(data: Path, out: Path) -> bool:
    """Every page of both demo sites through the Nu Html Checker."""
    if shutil.which("java") is None:
        print("The Nu Html Checker needs Java; run: sudo apt-get install default-jre-headless")
        return False
    building.write_out(open_folder(data), out, None, system_clock())
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


def lighthouse(data: Path) -> bool:
    """Front page, a post, and one with sound and pictures, desktop preset."""
    server, is_good = Server(data), True
    for path in ("", "clocks/cleaning-a-stuck-clock/", "radios/the-belt-in-the-tape-machine/"):
        command = [
            "node", MODULES / "lighthouse" / "cli" / "index.js", f"{server.address}/b/mending-bench/{path}", "--preset=desktop", "--quiet",
            "--output=json", "--chrome-flags=--headless --no-sandbox --disable-gpu --disable-quic",
        ]  # fmt: skip
        run = subprocess.run(
            command,
            capture_output=True,
            check=False,
            env={**os.environ, "CHROME_PATH": shutil.which("chromium") or ""},
        )
        if run.returncode:
            print(run.stderr.decode()[-500:])
            is_good = False
            continue
        report = json.loads(run.stdout)
        scores = {name: round(category["score"] * 100) for name, category in report["categories"].items()}
        print(f"Lighthouse /{path}: {scores}")
        low = [name for name, least in WANTED.items() if scores[name] < least]
        for name in low:
            told = [
                ref["id"]
                for ref in report["categories"][name]["auditRefs"]
                if (report["audits"][ref["id"]]["score"] or 0) < 1
            ]
            print(f"  {name}: {', '.join(told)}")
        is_good = is_good and not low
    server.stop()
    return is_good


if __name__ == "__main__":
    sys.exit(main())
