"""Starts a command in a process of its own whenever there is work for it, while a server runs."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Callable
from contextlib import suppress

from mobbet.actions.workshop import Workshop
from mobbet.web.shell.periodic import PeriodicTasks

ENDING = 5.0
"""In seconds: how long the process may take to end with the server."""


class OwnProcess:
    """Starts `mobbet COMMAND --data … --due` when `is_due` says so; looks every `pause` seconds. A process that is ended leaves nothing half done."""

    def __init__(
        self, workshop: Workshop, command: str, is_due: Callable[[Workshop], object], pause: float
    ) -> None:
        self._workshop, self._command, self._is_due = workshop, command, is_due
        self._tasks = PeriodicTasks(command, self._look, pause)
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
        if not self._is_due(self._workshop):
            return
        data = str(self._workshop.settings.data)
        command = [sys.executable, "-m", "mobbet", self._command, "--data", data, "--due"]
        with subprocess.Popen(command, stdout=subprocess.DEVNULL, stdin=subprocess.DEVNULL) as self._process:
            self._process.wait()
        self._process = None
