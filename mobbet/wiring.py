"""Puts the parts together. The one place that asks the system for the time."""

from __future__ import annotations

import os
import time
from contextlib import suppress
from pathlib import Path
from urllib.parse import urlsplit

from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Broken, Refused
from mobbet.publish.editions import Press
from mobbet.services.asking import PublicAsker
from mobbet.services.bounded import Bounded
from mobbet.services.connecting import has_network
from mobbet.services.contracts import Clock
from mobbet.services.dictionary import Hunspell
from mobbet.services.fetching import PublicFetcher
from mobbet.services.mail import Smtp
from mobbet.services.oembed import OEmbedHost
from mobbet.services.opensearch import OpenSearchCollection
from mobbet.services.stand_ins.asking import ToldAnswers
from mobbet.services.stand_ins.collection import HarbourPictures
from mobbet.services.stand_ins.mail import LetterRack
from mobbet.services.stand_ins.videos import MadeUpHosts
from mobbet.settings import Settings, from_environment
from mobbet.store.database import Database
from mobbet.store.shelf import Shelf

DATABASE = "mobbet.db"
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
    pages = Shelf(data / "pages")
    settings, fetch = settings or from_environment(data), PublicFetcher()
    return Workshop(
        settings=settings,
        db=db,
        media=Shelf(data / "media"),
        pages=pages,
        press=Press(db, pages, clock),
        clock=clock,
        fetch=fetch,
        collection=OpenSearchCollection(fetch, settings.collection, urlsplit(settings.collection).netloc) if settings.collection else HarbourPictures(),
        videos=OEmbedHost(fetch) if settings.asks_providers else MadeUpHosts(),
        dictionary=Hunspell(),
        heavy=Bounded(),
        mail=Smtp(settings.mail) if settings.mail else LetterRack(),
        ask=PublicAsker() if settings.links == "on" or (settings.links == "auto" and has_network()) else ToldAnswers(),
    )


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
    return open_folder(data, clock)
