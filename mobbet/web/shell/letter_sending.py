"""Has letters to subscribers sent while a server runs: by a process of its own, or here where no mail server is set."""

from __future__ import annotations

import logging
import subprocess
import threading
import time
from contextlib import suppress

from mobbet.actions import mail_sending, mailings, returned_letters, subscribers
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError
from mobbet.services import sending_process

PAUSE, MAILBOX_PAUSE, ENDING = 2.0, 600.0, 3.0
"""In seconds: between two looks for letters that are due, and into the mailbox; and how long the process may take to end with the server."""

log = logging.getLogger("mobbet.letters")


class LetterSending:
    """Begins letters that are due, and starts the process that hands them over."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._stopping = threading.Event()
        self._looked = time.monotonic()
        self._thread = threading.Thread(target=self._run, name="letters to subscribers", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._stopping.set()
        self._thread.join(timeout=10)

    def _run(self) -> None:
        while not self._stopping.wait(PAUSE):
            try:
                self._look()
            except Exception:
                log.exception("sending letters goes on after an unexpected error")

    def _look(self) -> None:
        workshop = self._workshop
        mailings.begin_due(workshop)
        if mail_sending.is_due(workshop):
            if workshop.services.mail.keeps:
                mail_sending.send_due(workshop, self._stopping.is_set)
            else:
                self._have_sent()
        if time.monotonic() - self._looked >= MAILBOX_PAUSE:
            self._looked = time.monotonic()
            subscribers.forget_unconfirmed(workshop)
            try:
                returned_letters.fetch(workshop)
            except MobbetError as error:
                log.warning("%s", error)

    def _have_sent(self) -> None:
        with sending_process.start(self._workshop.settings.data) as process:
            while process.poll() is None and not self._stopping.wait(0.2):
                pass
            if process.stdin:
                process.stdin.close()  # by which it ends after its letter
            with suppress(subprocess.TimeoutExpired):
                process.wait(timeout=ENDING)
