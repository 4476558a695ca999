"""Everything Mobbet refuses or cannot do, in one tree.

    MobbetError
    ├── Refused              the person's request cannot be met as it stands
    │   ├── BadInput         a value is wrong; names the field and keeps the value
    │   │   └── BadDocument  a document breaks the node table; names the place
    │   ├── NotFound         there is no such thing, or not for this person
    │   ├── NotAllowed       the person's role does not reach that far
    │   ├── TooMuch          what was sent takes more time or memory than Mobbet gives it
    │   ├── Conflict         somebody else changed it first
    │   ├── NeedsFactor      the password is right, and a second factor is asked for
    │   ├── ProveFirst       what is asked for matters, and who asks proves once more who they are
    │   └── TooSoon          tried again too quickly after failures
    └── Broken               the world's failure: disk, damaged data
        └── NotTaken         a mail server did not take a letter; says why and for how long

Each message is one sentence: what, which value, and what to do about it.
"""

from __future__ import annotations

from typing import Literal


class MobbetError(Exception):
    """The root of all errors that Mobbet raises on purpose."""


class Refused(MobbetError):
    """The request cannot be met as it stands."""


class BadInput(Refused):
    """A value is wrong; `field` names it."""

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.field = field


class BadDocument(BadInput):
    """A document breaks the node table; `place` is the path to the node, such as 'block 3 > item 1'."""

    def __init__(self, message: str, place: str = "") -> None:
        super().__init__(f"{place}: {message}" if place else message, "document")
        self.reason = message
        self.place = place


class NotFound(Refused):
    """There is no such thing, or not for this person."""


class NotAllowed(Refused):
    """The person's role does not reach that far."""


class TooMuch(Refused):
    """What was sent takes more time or memory than Mobbet gives it."""


class Conflict(Refused):
    """Somebody else changed it first; `current` is the revision number that stands."""

    def __init__(self, message: str, current: int) -> None:
        super().__init__(message)
        self.current = current


class NeedsFactor(Refused):
    """The password is right, and a second factor is asked for; `token` knows the sign-in that was begun."""

    def __init__(self, message: str, token: str) -> None:
        super().__init__(message)
        self.token = token


class ProveFirst(Refused):
    """What is asked for matters, and it is a while since whoever asks proved who they are."""


class TooSoon(Refused):
    """Tried again too quickly after failures; `wait` is how many seconds are left."""

    def __init__(self, message: str, wait: int) -> None:
        super().__init__(message)
        self.wait = wait


class Broken(MobbetError):
    """The world's failure: a full disk, damaged data, a missing file."""


class NotTaken(Broken):
    """A mail server did not take a letter: `final` for good, `later` for now, `broken` since the connection broke, `server` since it takes none at all."""

    def __init__(self, message: str, why: Literal["final", "later", "broken", "server"]) -> None:
        super().__init__(message)
        self.why = why
