"""What Mobbet asks of the world outside. Each contract has a real service and a stand-in."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from contextlib import AbstractContextManager
from dataclasses import dataclass, replace
from typing import Any, Protocol


class Clock(Protocol):
    """Tells the present instant, in whole seconds since 1970 UTC. The real one stands in `wiring`."""

    def __call__(self) -> int: ...


@dataclass(frozen=True)
class Fetched:
    """What an address answered with: its last address after redirects, a file name, its bytes."""

    address: str
    name: str
    body: bytes


class Fetcher(Protocol):
    """Gets what lies at a public address. Raises BadInput for one that is not public, does not answer or is too large."""

    def __call__(self, address: str, most_bytes: int) -> Fetched: ...


@dataclass(frozen=True)
class LinkReply:
    """What came of asking for an address: a problem in words ('' when it answers), or the address it redirects to permanently.

    `is_known` is false where it could not be asked, by its own wish; `wait` is how many seconds it asks to be left alone.
    """

    problem: str = ""
    ends_at: str = ""
    is_known: bool = True
    wait: int = 0


@dataclass(frozen=True)
class IndexedPage:
    """A page as an index for readers' search takes it: its path, its words, and {kind of subject: names} by which results are narrowed."""

    path: str
    title: str
    text: str
    subjects: dict[str, list[str]]


class IndexMaker(Protocol):
    """Makes {name: bytes} of an index that a browser searches by itself. Raises Broken."""

    def __call__(self, pages: Iterable[IndexedPage], language: str) -> dict[str, bytes]: ...


class Asker(Protocol):
    """Asks whether an address answers. It never raises."""

    def __call__(self, address: str) -> LinkReply: ...


@dataclass(frozen=True)
class Offered:
    """A picture that a collection offers: its number there, what it shows, by whom, and under which licence."""

    id: str
    title: str
    credit: str
    licence: str
    page: str
    width: int
    height: int
    thumb: str


class Collection(Protocol):
    """A searchable collection of pictures. `thumb` of what it offers is an address of this server, or a data-free path."""

    name: str

    def search(self, words: str) -> list[Offered]: ...
    def find(self, id: str) -> Offered | None: ...
    def take(self, id: str) -> Fetched: ...
    def small(self, id: str) -> bytes: ...


@dataclass(frozen=True)
class EmbedFacts:
    """What a host says of a video or a sound (oEmbed): title, by whom, size in pixels, the address of its frame, the host's own name, and its poster's bytes."""

    title: str
    by: str
    width: int
    height: int
    frame: str
    provider: str
    poster: bytes


@dataclass(frozen=True)
class OfferedVideo:
    """A video or sound that a host offers: its page's address, its title, by whom, and its length in seconds."""

    address: str
    title: str
    by: str
    seconds: int


class VideoHost(Protocol):
    """Hosts of video and sound: what they offer, and what the page at an address says of its work; None where it is none. Raises BadInput when it does not answer."""

    def search(self, words: str) -> list[OfferedVideo]: ...
    def tell(self, address: str) -> EmbedFacts | None: ...


@dataclass(frozen=True)
class Envelope:
    """A letter as it is handed to a mail server: plain text, perhaps HTML as well, to one address.

    `message_id` is made up where it is ''; `headers` are further ones, such as List-Unsubscribe (RFC 8058).
    """

    sender: str
    recipient: str
    subject: str
    text: str
    html: str = ""
    name: str = ""
    """Of the sender, as it is shown."""
    message_id: str = ""
    headers: tuple[tuple[str, str], ...] = ()


class Heavy(Protocol):
    """Calls a function of a module over somebody's input, within so many seconds. Raises what it raises, and TooMuch, saying `what` was too large."""

    def __call__(self, function: Callable[..., Any], *args: Any, seconds: float, what: str) -> Any: ...
    def close(self) -> None: ...


class Mail(Protocol):
    """Takes letters. Raises NotTaken with the reason when one could not be handed over.

    `keeps` is true where letters go nowhere but are kept to be looked at.
    """

    keeps: bool

    def send(self, letter: Envelope) -> None: ...
    def open(self) -> AbstractContextManager[Callable[[Envelope], None]]:
        """What sends many letters one after the other, over one connection where it lasts."""
        ...


class ReturnedMail(Protocol):
    """A mailbox to which letters come back that could not be delivered."""

    def fetch(self, take: Callable[[bytes], None]) -> int:
        """Has each message that is new there taken, and marks it as read then; answers with how many. Raises Broken."""
        ...


@dataclass(frozen=True)
class OtherPage:
    """What another site answered: the address after redirects (of a form, where it was put), the status, the type, its Link headers and the bytes of a page."""

    address: str
    status: int
    type: str
    links: list[str]
    body: bytes


class OtherPages(Protocol):
    """Pages of other sites. Raises Broken where one cannot be reached, is too large, or lies inside the network."""

    def get(self, address: str) -> OtherPage: ...
    def post(
        self, address: str, fields: dict[str, str], headers: dict[str, str] | None = None
    ) -> OtherPage: ...
    def send(self, address: str, body: bytes, headers: dict[str, str]) -> int:
        """Posts bytes; answers with the status."""


@dataclass(frozen=True)
class Notice:
    """What is announced of a post at an account elsewhere: its kind and endpoint, the text, the post's address, and a picture with its description."""

    kind: str
    endpoint: str
    token: str
    text: str
    link: str
    picture: str = ""
    alt: str = ""

    def with_token(self, token: str) -> Notice:
        return replace(self, token=token)


class AccountsElsewhere(Protocol):
    """Accounts at which posts are announced. Raises NotTaken where a notice surely did not arrive, Broken where nobody knows."""

    def announce(self, notice: Notice) -> str:
        """The address at which the notice stands; '' where it was not told."""
        ...


class LanguageDetector(Protocol):
    """Detects the language of a text, as a tag of `core/languages`; '' where it cannot."""

    def __call__(self, text: str) -> str: ...


class Dictionary(Protocol):
    """Knows the words of languages (`en`, `en-GB`); of one without a dictionary it knows none."""

    def knows(self, word: str, language: str) -> bool: ...
    def suggest(self, word: str, language: str) -> list[str]: ...
    def suggest_more(self, word: str, language: str) -> list[str]: ...
    def has(self, language: str) -> bool: ...
