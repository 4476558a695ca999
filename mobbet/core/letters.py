"""Letters to subscribers: what a blog and a post say about them, their Message-IDs, and when a hand-over is tried again."""

from __future__ import annotations

import hmac
import json
import re
from dataclasses import asdict, dataclass, fields
from hashlib import sha256

from mobbet.core.errors import BadInput
from mobbet.core.names import one_line

TEASER, WHOLE, NONE = "teaser", "whole", "none"
SHOWS = {TEASER: "the teaser", WHOLE: "the whole text"}
"""What a letter about a post has of it, in words."""
POST_CHOICES = ("", TEASER, WHOLE, NONE)
"""What a post may say: '' for as the blog has it, 'none' for no letter."""
WAITING, GOING, SENT, REFUSED = "waiting", "going", "sent", "refused"
LONGEST_SUBJECT, LONGEST_LINE = 150, 500
LARGEST = 100_000
"""The HTML of a letter in bytes: mail programs cut off what is longer."""
MOST_IN_DIGEST = 60
LETTER_HERE = "To look at: "
"""Before the subject of a letter that somebody sends to themselves."""
OLDEST = 30 * 86400
"""No letter is begun about a post that went out so long ago, in seconds."""
FIRST_PAUSE, LONGEST_PAUSE, MOST_TRIES = 60, 6 * 3600, 20
END_LINK, CHANGE_LINK = "https://letter.invalid/end", "https://letter.invalid/change"
"""They stand in a frozen letter for the addresses of one subscriber."""
_ID = re.compile(r"letter-(\d{1,15})-(\d{1,15})-([0-9a-f]{20})@", re.ASCII)
_AT = re.compile(r"(?:[01]\d|2[0-3]):[0-5]\d", re.ASCII)


@dataclass(frozen=True)
class LetterRules:
    """A blog's rules: whether readers may subscribe, what letters show, after how many minutes one goes, when digests go, and how many go a minute."""

    is_open: bool = False
    shows: str = TEASER
    hold: int = 10
    weekday: int = 4
    at: str = "09:00"
    pace: int = 600


LIMITS = {"hold": (0, 1440), "weekday": (0, 6), "pace": (1, 10_000)}


def read_rules(stored: str) -> LetterRules:
    """The rules as a blog keeps them."""
    known = {field.name for field in fields(LetterRules)}
    return LetterRules(**{name: value for name, value in json.loads(stored).items() if name in known})


def with_rule(stored: str, name: str, typed: str) -> str:
    """The rules of a blog, as kept, with one of them as it was typed. Raises BadInput."""
    values = asdict(read_rules(stored))
    if name == "is_open":
        values[name] = bool(typed)
    elif name == "shows":
        if typed not in SHOWS:
            raise BadInput(f"“{typed[:20]}” is nothing a letter shows; choose {', '.join(SHOWS)}.", name)
        values[name] = typed
    elif name == "at":
        if not _AT.fullmatch(typed.strip()):
            raise BadInput(f"“{typed[:20]}” is no time of day; write it like 09:00.", name)
        values[name] = typed.strip()
    elif name in LIMITS:
        least, most = LIMITS[name]
        if not typed.strip().isdecimal() or len(typed) > 6 or not least <= int(typed) <= most:
            raise BadInput(f"“{typed[:20]}” cannot be; type a number from {least} to {most:,}.", name)
        values[name] = int(typed)
    else:
        raise BadInput(f"“{name[:20]}” is no rule of letters; choose a word on yellow.", "rule")
    return json.dumps(values)


def read_letter(shows: str, subject: str, line: str) -> dict[str, str]:
    """The docket's columns for what was typed about a post's letter. Raises BadInput."""
    if shows not in POST_CHOICES:
        raise BadInput(f"“{shows[:20]}” is no letter; choose one of the list.", "letter")
    subject, line = one_line(subject), one_line(line)
    for words, most, what in (
        (subject, LONGEST_SUBJECT, "The subject"),
        (line, LONGEST_LINE, "The first line"),
    ):
        if len(words) > most:
            raise BadInput(f"{what} has {len(words)} letters; {most} is the most.", "letter")
    return {"letter": shows, "letter_subject": subject, "letter_line": line}


def message_id(mailing: int, subscriber: int, key: str, host: str) -> str:
    """The Message-ID (RFC 5322) of the letter of a mailing to a subscriber: always the same, and not to be guessed without their key."""
    return f"<letter-{mailing}-{subscriber}-{_seal(mailing, key)}@{host}>"


def _seal(mailing: int, key: str) -> str:
    return hmac.new(key.encode(), str(mailing).encode(), sha256).hexdigest()[:20]


def read_message_id(text: str) -> tuple[int, int, str] | None:
    """(mailing, subscriber, seal) of a Message-ID that may be one of ours."""
    found = _ID.search(text)
    return (int(found[1]), int(found[2]), found[3]) if found else None


def is_sealed(mailing: int, key: str, seal: str) -> bool:
    """Whether a Message-ID with this seal was made for a subscriber with this key."""
    return hmac.compare_digest(_seal(mailing, key), seal)


def pause_after(tries: int) -> int:
    """For how many seconds to wait after so many failed hand-overs."""
    return int(min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** min(tries, 12)))
