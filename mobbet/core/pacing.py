"""How often somebody may try something before they must wait: one table, and the one rule."""

from __future__ import annotations

from dataclasses import dataclass

WINDOW = 15 * 60
"""In seconds: for how long a try counts."""


@dataclass(frozen=True)
class Pace:
    """So many tries within WINDOW cost nothing; after that each waits for longer, up to `longest` seconds."""

    free: int
    longest: int


PACES = {
    "pair": Pace(5, 5 * 60),
    "network": Pace(30, 5 * 60),
    "account": Pace(60, 60),
    "device": Pace(20, 20),
    "factor": Pace(10, 60),
    "post": Pace(60, 60),
    "post-network": Pace(8, 5 * 60),
    "letter": Pace(5, 5 * 60),
    "comment": Pace(12, 5 * 60),
    "subscribe": Pace(3, 15 * 60),
    "mention": Pace(200, 60),
    "answers": Pace(20, 5 * 60),
    "send": Pace(4, 15 * 60),
}
"""By what is counted: an account from one network, a network, an account from everywhere, an account on a device that has signed in before, the
second factor of an account, the password of a post from everywhere and from one network, letters asked for, comments, the
addresses to which letters are to come, mentions of a blog, answers to what posts ask, and posts sent on.
"""


def wait(kind: str, count: int, last: int, now: int) -> int:
    """For how many seconds a try must wait, after so many within the window, the last at an instant."""
    pace = PACES[kind]
    over = count - pace.free
    if over < 0:
        return 0
    return int(max(0, last + min(pace.longest, 5 * 2 ** min(over, 10)) - now))
