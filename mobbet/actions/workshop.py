"""The application context of every action: one data folder, the services of the world outside, and the clock."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, Protocol

from mobbet.core.rights import Action, house_rights, may
from mobbet.settings import Settings
from mobbet.store import blogs
from mobbet.store.database import Database
from mobbet.store.shelf import Shelf

if TYPE_CHECKING:
    from mobbet.actions.filing_writer import FilingDryRun, FilingWriter
    from mobbet.publish.editions import Press
    from mobbet.services.contracts import (
        AccountsElsewhere,
        Asker,
        Clock,
        Collection,
        Dictionary,
        Fetcher,
        Heavy,
        IndexMaker,
        LanguageDetector,
        Mail,
        OtherPages,
        ReturnedMail,
        VideoHost,
    )
    from mobbet.store.people import Person


class Services(Protocol):
    """What an action may need beside the data folder. Each is made when it is first used, so a command loads no more than it needs."""

    @property
    def press(self) -> Press: ...
    @property
    def fetch(self) -> Fetcher: ...
    @property
    def collection(self) -> Collection: ...
    @property
    def videos(self) -> VideoHost: ...
    @property
    def dictionary(self) -> Dictionary: ...
    @property
    def detect_language(self) -> LanguageDetector: ...
    @property
    def mail(self) -> Mail: ...
    @property
    def returned_mail(self) -> ReturnedMail: ...
    @property
    def pages(self) -> OtherPages: ...
    @property
    def accounts(self) -> AccountsElsewhere: ...
    @property
    def ask(self) -> Asker: ...
    @property
    def make_index(self) -> IndexMaker: ...
    @property
    def heavy(self) -> Heavy: ...


@dataclass
class Workshop:
    """One data folder in use. `on_change` is called after facts changed, to wake the scheduler.

    `memo` caches what is expensive to compute.
    Pictures that come in are looked at one at a time, under `looking`, so that memory stays small.
    `origin` is where what is asked for comes from: the network address of a browser, or words such as “the command line”.
    With a `trial`, changes of the filing are a dry run. `follow` is told which changed posts stand in other blogs too; `follows_home` is set while
    those follow.
    """

    settings: Settings
    db: Database
    media: Shelf
    pages: Shelf
    clock: Clock
    services: Services
    on_change: Callable[[], None] = field(default=lambda: None)
    looking: threading.Lock = field(default_factory=threading.Lock)
    cache: dict[tuple[Any, ...], Any] = field(default_factory=dict)
    trial: FilingDryRun | None = None
    follow: Callable[[Workshop, Person | None, list[int]], None] = field(default=lambda *_: None)
    follows_home: bool = False
    origin: str = ""

    def seen_by(self, person_id: int) -> Workshop:
        """The same data folder as that person sees it: lists of posts leave out what is not for them."""
        limited = frozenset(
            blog_id
            for blog_id, role, rights in (blogs.roles(self.db, person_id) if person_id else ())
            if not may(role, Action.READ_POST, is_own=False, rights=house_rights(rights))
        )
        return replace(self, db=self.db.seen_by(person_id, limited))

    @property
    def press(self) -> Press:
        return self.services.press

    @property
    def filing_writer(self) -> FilingWriter:
        """Where changes of the filing are written."""
        from mobbet.actions.filing_writer import FilingWriter

        return self.trial or FilingWriter(self.db)
