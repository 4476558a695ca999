"""The background tasks of a running server."""

from __future__ import annotations

from collections.abc import Callable

from mobbet.actions import (
    alike,
    aside,
    backup_places,
    blog_states,
    comment_letters,
    letters,
    link_checks,
    most_read,
    pushing,
    read_counts,
    read_slips,
    record,
    site_search,
    telling,
)
from mobbet.actions.workshop import Workshop
from mobbet.store import transfers
from mobbet.web.public.tally import Tally
from mobbet.web.shell.letter_sending import LetterSending
from mobbet.web.shell.own_process import OwnProcess
from mobbet.web.shell.periodic import PeriodicTasks
from mobbet.web.shell.scheduler import Scheduler
from mobbet.web.shell.sender import Sender
from mobbet.web.shell.service import Service

TELLING_PAUSE, LETTERS_PAUSE, LINKS_PAUSE = 3.0, 2.0, 20.0
ASIDE_PAUSE, READS_PAUSE, SEARCH_PAUSE = 600.0, 3600.0, 2.0
BACKUP_PAUSE, TRANSFER_PAUSE = 20.0, 1.0
"""In seconds, between two runs."""


def background_tasks(workshop: Workshop, tally: Tally, exact_time: Callable[[], float]) -> list[Service]:
    """The scheduler, which every change wakes; counting reads; letters; links; removing what was set aside for long; sending; and closing what they started."""
    scheduler = Scheduler(workshop, exact_time)
    workshop.on_change = scheduler.wake
    links = (
        [PeriodicTasks("links", lambda: link_checks.try_some(workshop), LINKS_PAUSE)]
        if workshop.settings.links != "off"
        else []
    )
    return [
        scheduler, tally, PeriodicTasks("letters", lambda: letters.go_round(workshop), LETTERS_PAUSE), LetterSending(workshop), *links,
        PeriodicTasks("aside", lambda: comment_letters.tell_daily(workshop) + read_slips.tell_daily(workshop) + aside.remove_aged(workshop) + read_counts.forget(workshop) + blog_states.remove_aged(workshop) + record.forget_old(workshop), ASIDE_PAUSE),
        PeriodicTasks("notices to devices", lambda: pushing.send_waiting(workshop), TELLING_PAUSE), PeriodicTasks("other sites", lambda: telling.go_round(workshop), TELLING_PAUSE), PeriodicTasks("most read", lambda: most_read.count_again(workshop), READS_PAUSE), PeriodicTasks("search", lambda: site_search.bring_up_to_date(workshop) + alike.catch_up(workshop), SEARCH_PAUSE), Sender(workshop), OwnProcess(workshop, "backup", backup_places.due, BACKUP_PAUSE), OwnProcess(workshop, "transfers", lambda here: transfers.is_any_waiting(here.db), TRANSFER_PAUSE), _Bounded(workshop),
    ]  # fmt: skip


class _Bounded:
    """Ends the bounded processes with the server."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop

    def start(self) -> None:
        pass

    def stop(self) -> None:
        self._workshop.services.heavy.close()
