"""Sends editions to the places outside, with a thread for each place."""

from __future__ import annotations

import logging
import threading

from mobbet.actions import targets
from mobbet.actions.workshop import Workshop
from mobbet.core.places_outside import shown
from mobbet.core.values import existing
from mobbet.store import blogs
from mobbet.store import targets as store
from mobbet.store.targets import Target

PAUSE = 1.0

log = logging.getLogger("mobbet.sender")


class Sender:
    """Looks every second whether a target is behind and may be tried."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._busy: dict[int, threading.Thread] = {}
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name="sender", daemon=True)

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
                log.exception("sending goes on after an unexpected error")

    def _look(self) -> None:
        self._busy = {number: thread for number, thread in self._busy.items() if thread.is_alive()}
        for target in store.every(self._workshop.db):
            if target.id not in self._busy and targets.is_due(self._workshop, target):
                thread = threading.Thread(
                    target=self._send, args=(target,), name=f"sender-{target.id}", daemon=True
                )
                self._busy[target.id] = thread
                thread.start()

    def _send(self, target: Target) -> None:
        try:
            blog = existing(blogs.by_id(self._workshop.db, target.blog_id))
            sent = targets.try_to_send(self._workshop, blog, target)
            if sent is not None:
                log.info(
                    "edition %d is at %s: %d files sent, %d removed",
                    sent.edition,
                    shown(target.address),
                    sent.written,
                    sent.removed,
                )
        except Exception:
            log.exception("sending goes on after an unexpected error")
        finally:
            self._workshop.db.close()
