"""Has backups made while a server runs, by a process of its own."""

from __future__ import annotations

import subprocess
import sys
from contextlib import suppress

from mobbet.actions import backup_places
from mobbet.actions.workshop import Workshop
from mobbet.web.shell.periodic import PeriodicTasks

PAUSE, ENDING = 20.0, 5.0
"""In seconds: between two looks for a backup that is due, and how long the process may take to end with the server."""


class BackupMaking:
    """Starts `mobbet backup --due` when one is due. A process that is ended leaves no copy, and the next one goes on with what it sent."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._tasks = PeriodicTasks("backups", self._look, PAUSE)
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        self._tasks.start()

    def stop(self) -> None:
        process = self._process
        if process:
            process.terminate()
            with suppress(subprocess.TimeoutExpired):
                process.wait(timeout=ENDING)
        self._tasks.stop()

    def _look(self) -> None:
        if not backup_places.due(self._workshop):
            return
        command = [
            sys.executable,
            "-m",
            "mobbet",
            "backup",
            "--data",
            str(self._workshop.settings.data),
            "--due",
        ]
        with subprocess.Popen(command, stdout=subprocess.DEVNULL, stdin=subprocess.DEVNULL) as self._process:
            self._process.wait()
        self._process = None
