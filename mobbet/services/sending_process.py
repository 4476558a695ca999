"""Starts the process that hands letters over to a mail server (`mobbet.letter_sender`)."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path


def start(data: Path) -> subprocess.Popen[bytes]:
    """A process, in a session of its own, that sends what is due; it ends when that is done, or after its standard input was closed. It prints JSON."""
    return subprocess.Popen(
        [sys.executable, "-m", "mobbet.letter_sender", str(data)],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        start_new_session=True,
    )
