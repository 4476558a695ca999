"""Prints a page as PDF by Chromium, where it is installed: without a network or a window."""

from __future__ import annotations

import os
import shutil
import subprocess
import tempfile
from pathlib import Path

from mobbet.core.errors import Broken, Refused

PROGRAMS = ("chromium", "chromium-browser")
SECONDS = 120.0
FLAGS = (
    "--headless=new", "--disable-gpu", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-extensions", "--host-resolver-rules=MAP * ~NOTFOUND", "--no-pdf-header-footer",
)  # fmt: skip


def can_print() -> bool:
    """Whether a program for it is there."""
    return _program() is not None


def _program() -> str | None:
    return next((found for name in PROGRAMS if (found := shutil.which(name))), None)


def print_pdf(html: bytes) -> bytes:
    """The PDF of a page that is whole by itself. Raises Refused where no program is there, and Broken where it fails."""
    program = _program()
    if program is None:
        raise Refused(
            "Making a PDF needs Chromium, which this server does not have; take the post out as HTML and print that."
        )
    with tempfile.TemporaryDirectory(prefix="mobbet-print-") as folder:
        page, out = Path(folder) / "page.html", Path(folder) / "page.pdf"
        page.write_bytes(html)
        # the sandbox cannot begin for root; the page's own policy lets no script run and nothing be loaded
        flags = [
            *FLAGS,
            *(["--no-sandbox"] if os.geteuid() == 0 else []),
            f"--user-data-dir={folder}/profile",
            f"--print-to-pdf={out}",
        ]
        try:
            subprocess.run(
                [program, *flags, page.as_uri()],
                capture_output=True,
                timeout=SECONDS,
                check=False,
                stdin=subprocess.DEVNULL,
            )
        except subprocess.TimeoutExpired:
            raise Broken(
                f"The PDF was not ready within {SECONDS:g} seconds; take fewer posts at once."
            ) from None
        if not out.is_file():
            raise Broken("The PDF could not be made; take the post out as HTML and print that.")
        return out.read_bytes()
