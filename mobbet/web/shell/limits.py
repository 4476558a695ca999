"""Limits of requests, in size and time: one table."""

from __future__ import annotations

import re
from dataclasses import dataclass

KB, MB = 1_000, 1_000_000

HEAD_BYTES, HEADERS, COOKIE_BYTES = 8_192, 100, 4_096
"""The head of a request: its bytes with the address in it, its lines, and the cookies among them. More is answered with 431."""
QUERY_PARTS, QUERY_VALUE = 600, 2_000
"""How many parts a query may have, and how many letters one of them. More is answered with 414."""
HEAD_SECONDS, BODY_SECONDS, BODY_RATE, STALLED_SECONDS = 10.0, 15.0, 20_000, 30.0
"""How long a client may take to send the head, and the body (with so many bytes a second on top), and to take what it is sent."""
CONNECTIONS, CONNECTIONS_OF_ONE = 2_000, 120
AT_ONCE, WAITING = 8, 60
"""How many requests of one client the application works on at once, and how many more may wait."""
SLOWED_SECONDS = 1.0
"""How long one who asks too often waits for the 429, so that asking again at once costs the server next to nothing."""
MISSES, MISSES_A_SECOND = 60, 10.0
"""How many requests of a stranger that need work (a screen, a page that is not there, a share card to draw) are answered at once, and then each second."""

FIELD, LONG_FIELD, FIELDS = 20_000, 1 * MB, 2_000
"""The letters of a field of a form, of one that holds a whole text, and how many fields there may be."""


@dataclass(frozen=True)
class BodyLimit:
    """How many bytes requests may have whose path fits, by whether a person is signed in; `is_file` lets in the largest file on top."""

    path: re.Pattern[str]
    stranger: int
    person: int
    is_file: bool = False


BODIES = (
    BodyLimit(
        re.compile(r"/desk/[^/]+/(?:library|bring-in|read-file|site/in-and-out/import)"),
        0,
        1 * MB,
        is_file=True,
    ),
    BodyLimit(
        re.compile(r"/posts/\d+/(?:text|text/over|text/apart|preview/live|proof|compared)"), 0, 12 * MB
    ),
    BodyLimit(re.compile(r"/device/steps"), 0, 12 * MB),
    BodyLimit(re.compile(r"/device/share"), 0, 12 * MB, is_file=True),
    BodyLimit(re.compile(r"/desk/[^/]+/(?:pasted|kept/)|/documents/\w+"), 0, 12 * MB),
    BodyLimit(re.compile(r"/desk/[^/]+/(?:filing/addresses/import|timetable/days)"), 0, 6 * MB),
    BodyLimit(re.compile(r"/library/\d+/captions"), 0, 3 * MB),
    BodyLimit(re.compile(r"/desk/[^/]+/kept/\d+"), 0, 3 * MB),
    BodyLimit(re.compile(r"/~/[^/]+/comment/\d+(?:/change/[^/]+)?"), 64 * KB, 64 * KB),
    BodyLimit(re.compile(r"/desk/[^/]+/letters/import"), 0, 20 * MB),
    BodyLimit(
        re.compile(r"/~/[^/]+/(?:micropub|media|(?:atom|api)(?:/[^/]+){0,3})"), 16 * KB, 3 * MB, is_file=True
    ),
    BodyLimit(re.compile(r"/~/[^/]+/ask/\d+/[a-z0-9]+"), 128 * KB, 128 * KB),
    BodyLimit(re.compile(r"/copy/[^/]+/note(?:/\d+)?"), 128 * KB, 128 * KB),
    BodyLimit(re.compile(r"/.*"), 16 * KB, 1 * MB),
)
"""The first row whose path fits holds."""


FROM_OTHER_SITES = re.compile(
    r"/~/[^/]+/(?:letters(?:/[^/]+/end)?|mention|ask/\d+/[a-z0-9]+|allow|token|revoke|introspect|micropub|media|(?:atom|api)(?:/[^/]+){0,3})"
)
"""Paths to which a page of another site, or a mail program, may send a form: asking for letters from a site that is hosted elsewhere, ending them by one
click (RFC 8058), telling of a mention (Webmention), and answering the questions
of a post; and what programs send, who show a token. None of them asks who is signed in."""


def most_bytes(path: str, is_person: bool, largest_file: int) -> int:
    """How many bytes a request's body may have."""
    row = next((one for one in BODIES if one.path.fullmatch(path)), BODIES[-1])
    if not is_person:
        return row.stranger
    return row.person + (largest_file if row.is_file else 0)


def problem_of_head(
    query: bytes, headers: list[tuple[bytes, bytes]], path: bytes = b""
) -> tuple[int, str] | None:
    """(status, sentence) for a head that is too large; None for one that may be read."""
    size = len(path) + len(query) + sum(len(name) + len(value) + 4 for name, value in headers)
    if size > HEAD_BYTES or len(headers) > HEADERS:
        return (
            431,
            f"The head of this request has {size:,} bytes; {HEAD_BYTES:,} is the most. Clear the cookies of this site and try again.",
        )
    if sum(len(value) for name, value in headers if name == b"cookie") > COOKIE_BYTES:
        return (
            431,
            f"The cookies of this site have more than {COOKIE_BYTES:,} bytes; clear them and try again.",
        )
    parts = query.split(b"&")
    if len(parts) > QUERY_PARTS or any(len(part) > QUERY_VALUE for part in parts):
        return (
            414,
            f"A part of this address has more than {QUERY_VALUE:,} letters, or there are more than {QUERY_PARTS} parts; shorten it.",
        )
    return None
