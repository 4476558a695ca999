"""Lines of access logs in the Common and the Combined Log Format."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta, timezone
from typing import NamedTuple
from urllib.parse import unquote

LONGEST = 16_384
"""In bytes: a longer line is left out."""
_LINE = re.compile(
    r'(?P<address>\S+) \S+ (?:\S+|[^\[\]"]{0,200}) \[(?P<time>[^\]]{20,32})\] "(?P<request>(?:[^"\\]|\\.)*)" (?P<status>\d{3}) (?:\d+|-)'
    r'(?: "(?P<referrer>(?:[^"\\]|\\.)*)" "(?P<agent>(?:[^"\\]|\\.)*)")?'
)
_MONTHS = {
    name: number for number, name in enumerate("Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(), 1)
}
_ESCAPED = re.compile(r'\\(["\\])')


class LogLine(NamedTuple):
    """A request: the client's address, the time as the log has it, method, path with its query, status, referrer and agent ('' where the log has none)."""

    address: str
    time: str
    method: str
    target: str
    status: int
    referrer: str
    agent: str


def read_line(line: str) -> LogLine | None:
    """A line of a log; None for one that is none."""
    found = _LINE.match(line) if len(line) <= LONGEST else None
    if found is None:
        return None
    address, time, request, status, referrer, agent = found.groups()
    parts = request.split(" ")
    if len(parts) not in (2, 3):
        return None
    return LogLine(address, time, parts[0], parts[1], int(status), _plain(referrer), _plain(agent))


def _plain(text: str | None) -> str:
    if text is None or text == "-":
        return ""
    return _ESCAPED.sub(r"\1", text) if "\\" in text else text


def instant_of(time: str) -> int | None:
    """`10/Oct/2026:13:55:36 +0100` as seconds since 1970 UTC; None where that is no time."""
    try:
        day, month, rest = time[:2], _MONTHS[time[3:6]], time[7:]
        moment = datetime(int(rest[:4]), month, int(day), int(rest[5:7]), int(rest[8:10]), int(rest[11:13]))
        sign = -1 if rest[14:15] == "-" else 1
        offset = timedelta(hours=int(rest[15:17]), minutes=int(rest[17:19])) * sign
    except (ValueError, KeyError):
        return None
    return int(moment.replace(tzinfo=timezone(offset) if offset else UTC).timestamp())


def path_of(target: str, root: str) -> str | None:
    """The path below a blog's address of what was asked for, decoded, without query; None for what is not below `root`, which ends in a slash."""
    if target.startswith(("http://", "https://")):
        target = "/" + target.split("/", 3)[3] if target.count("/") > 2 else "/"
    path = unquote(target.partition("?")[0].partition("#")[0], errors="replace")
    if not path.startswith(root):
        return None
    below = "/" + path[len(root) :]
    return below.removesuffix("index.html") if below.endswith("/index.html") else below


def days_by(day_of: Callable[[int], str]) -> Callable[[str], str | None]:
    """Finds the day of a log's time; each minute is computed once."""
    known: dict[str, str | None] = {}

    def day(time: str) -> str | None:
        minute = time[:17] + time[20:]
        if minute not in known:
            if len(known) > 100_000:
                known.clear()
            instant = instant_of(time)
            known[minute] = day_of(instant) if instant is not None else None
        return known[minute]

    return day
