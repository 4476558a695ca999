"""Puts the parts together. The one place that asks the system for the time."""

from __future__ import annotations

import os
import time
from contextlib import suppress
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Broken, Refused
from mobbet.core.record import COMMAND_LINE
from mobbet.core.web_addresses import split_address
from mobbet.settings import Settings, from_environment
from mobbet.store.database import Database
from mobbet.store.shelf import Shelf

if TYPE_CHECKING:
    from mobbet.publish.editions import Press
    from mobbet.services import contracts
    from mobbet.services.contracts import Clock
    from mobbet.store.people import Person

DATABASE = "mobbet.db"
VIDEO_SECONDS = 10.0
"""How long a page may take that is asked whether it shows a video, while somebody waits."""
PRIVATE_FOLDER, PRIVATE_FILE = 0o700, 0o600


def system_clock() -> int:
    """The system's time in whole seconds since 1970 UTC."""
    return int(time.time())


def exact_time() -> float:
    """The system's time with fractions of a second, to sleep until an instant."""
    return time.time()


def open_folder(data: Path, clock: Clock = system_clock, settings: Settings | None = None) -> Workshop:
    """Opens a data folder, and makes it where there is none. Raises Broken when it cannot be used."""
    try:
        data.mkdir(mode=PRIVATE_FOLDER, parents=True, exist_ok=True)
        _make_private(data, PRIVATE_FOLDER)
    except OSError as error:
        raise Broken(f"The data folder {data} cannot be made ({error.strerror}); name another one.") from None
    db = Database(data / DATABASE)
    for file in (data / DATABASE, data / f"{DATABASE}-wal", data / f"{DATABASE}-shm"):
        _make_private(file, PRIVATE_FILE)
    pages, settings = Shelf(data / "pages"), settings or from_environment(data)
    return Workshop(
        settings,
        db,
        Shelf(data / "media"),
        pages,
        clock,
        SystemServices(settings, db, pages, clock),
        follow=_follow,
    )


def _follow(workshop: Workshop, person: Person | None, homes: list[int]) -> None:
    """Has posts in other blogs follow their homes; imported when there are such posts."""
    from mobbet.actions import also_in

    also_in.follow(workshop, person, homes)


class SystemServices:
    """The real services, and the stand-ins of those that the settings leave out. A module is imported when its service is first used."""

    def __init__(self, settings: Settings, db: Database, pages: Shelf, clock: Clock) -> None:
        self._settings, self._db, self._pages, self._clock = settings, db, pages, clock

    @cached_property
    def press(self) -> Press:
        from mobbet.publish.editions import Press

        return Press(self._db, self._pages, self._clock)

    @cached_property
    def fetch(self) -> contracts.Fetcher:
        from mobbet.services.fetching import PublicFetcher

        return PublicFetcher()

    @cached_property
    def collection(self) -> contracts.Collection:
        if not self._settings.collection:
            from mobbet.services.stand_ins.collection import HarbourPictures

            return HarbourPictures()
        from mobbet.services.opensearch import OpenSearchCollection

        return OpenSearchCollection(
            self.fetch, self._settings.collection, split_address(self._settings.collection).netloc
        )

    @cached_property
    def videos(self) -> contracts.VideoHost:
        from mobbet.services.fetching import PublicFetcher
        from mobbet.services.stand_ins.videos import MadeUpHosts

        others = PublicFetcher(seconds=VIDEO_SECONDS) if self._settings.asks_video_hosts else None
        return MadeUpHosts(self.heavy, others)

    @cached_property
    def dictionary(self) -> contracts.Dictionary:
        from mobbet.services.dictionary import Hunspell

        return Hunspell()

    @cached_property
    def detect_language(self) -> contracts.LanguageDetector:
        from mobbet.services.language_detection import detect_language

        return detect_language

    @cached_property
    def mail(self) -> contracts.Mail:
        from mobbet.services.mail import Smtp
        from mobbet.services.stand_ins.mail import LetterRack

        return Smtp(self._settings.mail) if self._settings.mail else LetterRack()

    @cached_property
    def returned_mail(self) -> contracts.ReturnedMail:
        from mobbet.services.returned_mail import ImapMailbox
        from mobbet.services.stand_ins.mail import ReturnedLetters

        return (
            ImapMailbox(self._settings.returned_mail) if self._settings.returned_mail else ReturnedLetters()
        )

    @cached_property
    def pages(self) -> contracts.OtherPages:
        from mobbet.services.pages import PublicPages
        from mobbet.services.stand_ins.pages import ScriptedPages

        return PublicPages(self._settings.inside) if self._settings.tells_others else ScriptedPages()

    @cached_property
    def accounts(self) -> contracts.AccountsElsewhere:
        from mobbet.services.accounts import Accounts

        return Accounts(self.pages)

    @cached_property
    def ask(self) -> contracts.Asker:
        from mobbet.services.connecting import has_network
        from mobbet.services.link_answers import PublicAsker
        from mobbet.services.stand_ins.link_answers import ScriptedReplies

        is_on = self._settings.links == "on" or (self._settings.links == "auto" and has_network())
        return PublicAsker() if is_on else ScriptedReplies()

    @cached_property
    def make_index(self) -> contracts.IndexMaker:
        from mobbet.services.static_index import make_index

        return make_index

    @cached_property
    def heavy(self) -> contracts.Heavy:
        from mobbet.services.bounded import Bounded

        return Bounded()


def _make_private(path: Path, mode: int) -> None:
    """Lets nobody else on the machine read a folder or a file of ours."""
    with suppress(OSError):
        status = path.stat()
        if status.st_uid == os.getuid() and status.st_mode & 0o077:
            path.chmod(mode)


def open_existing(data: Path, clock: Clock = system_clock) -> Workshop:
    """Opens a data folder that has been made before. Raises Refused when there is none."""
    if not (data / DATABASE).is_file():
        raise Refused(f"There is no data in {data}; make some with: mobbet init --data {data}.")
    workshop = open_folder(data, clock)
    workshop.origin = COMMAND_LINE
    return workshop
