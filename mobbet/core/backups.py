"""Backups: when one is due, which copies are kept, what a copy says of itself, and how a key is written."""

from __future__ import annotations

import base64
import json
import re
from collections.abc import Iterable
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime, timedelta
from enum import StrEnum
from hashlib import sha256
from zoneinfo import ZoneInfo

from mobbet.core.errors import BadInput, Broken

FORMAT = 1
KEY_BYTES = 32
HOURS_KEPT, DAYS_KEPT = 24, 31
_SUM = 4


class Every(StrEnum):
    """How often a backup is made."""

    HOUR = "hour"
    DAY = "day"
    WEEK = "week"


def kept(times: Iterable[int], now: int) -> set[int]:
    """Of the instants of all copies those that stay: the newest of each hour for a day, of each day for a month, of each month beyond that.

    The newest of all stays whatever its age. Hours, days and months are those of UTC.
    """
    newest: dict[str, int] = {}
    for instant in sorted(times):
        age, moment = now - instant, datetime.fromtimestamp(instant, UTC)
        if age <= HOURS_KEPT * 3600:
            newest[f"{moment:%Y-%m-%d %H}"] = instant
        elif age <= DAYS_KEPT * 86400:
            newest[f"{moment:%Y-%m-%d}"] = instant
        else:
            newest[f"{moment:%Y-%m}"] = instant
    return {*newest.values(), *([max(times)] if (times := list(times)) else [])}


def is_due(every: Every, hour: int, zone: str, last: int | None, now: int) -> bool:
    """Whether a backup is due: an hour after the last one, or at the hour of the day (for a week, of its Monday) in that zone."""
    if last is None:
        return True
    if every is Every.HOUR:
        return now - last >= 3600
    here = datetime.fromtimestamp(now, ZoneInfo(zone))
    turn = here.replace(hour=hour, minute=0, second=0, microsecond=0)
    if every is Every.WEEK:
        turn -= timedelta(days=turn.weekday())
    step = timedelta(days=7 if every is Every.WEEK else 1)
    if turn > here:
        turn -= step
    return last < turn.timestamp()


@dataclass(frozen=True)
class Files:
    """The files of one shelf in a copy: how many, their bytes together, and the objects that list them."""

    count: int = 0
    bytes: int = 0
    lists: tuple[str, ...] = ()


@dataclass(frozen=True)
class Copy:
    """One copy: when, by which Mobbet, the parts of its database in order, its files by shelf, and what it holds.

    `holds` is (slug, name, posts) for each blog; `sealing_key` the key of sealed credentials as base64, which only an encrypted copy has.
    """

    at: int
    mobbet: str
    database_bytes: int
    database_hash: str
    database_parts: tuple[str, ...]
    files: dict[str, Files] = field(default_factory=dict)
    holds: tuple[tuple[str, str, int], ...] = ()
    sealing_key: str = ""

    @property
    def posts(self) -> int:
        return sum(posts for _, _, posts in self.holds)

    @property
    def size(self) -> int:
        return self.database_bytes + sum(one.bytes for one in self.files.values())

    @property
    def file_count(self) -> int:
        return sum(one.count for one in self.files.values())

    def written(self) -> bytes:
        return json.dumps({"format": FORMAT, **asdict(self)}, sort_keys=True).encode()


def read_copy(body: bytes) -> Copy:
    """What `Copy.written` wrote. Raises Broken for another format."""
    facts = json.loads(body)
    if facts.pop("format", None) != FORMAT:
        raise Broken("This backup was made by a newer Mobbet; install that version to read it.")
    files = {
        shelf: Files(one["count"], one["bytes"], tuple(one["lists"])) for shelf, one in facts["files"].items()
    }
    holds = tuple((slug, name, posts) for slug, name, posts in facts["holds"])
    return Copy(**{**facts, "database_parts": tuple(facts["database_parts"]), "files": files, "holds": holds})


def name_of(instant: int) -> str:
    """The file name of a copy: its instant, as in `20261201T160000Z`."""
    return f"{datetime.fromtimestamp(instant, UTC):%Y%m%dT%H%M%SZ}"


def instant_of(name: str) -> int | None:
    """The instant in the name of a copy; None for another name."""
    if not re.fullmatch(r"\d{8}T\d{6}Z", name):
        return None
    try:
        return int(datetime.strptime(name, "%Y%m%dT%H%M%SZ").replace(tzinfo=UTC).timestamp())
    except ValueError:
        return None


def written_key(key: bytes) -> str:
    """A key as it is shown: groups of four letters and digits, with a checksum at the end."""
    text = base64.b32encode(key).decode().rstrip("=") + _sum_of(key)
    return "-".join(text[at : at + 4] for at in range(0, len(text), 4))


def read_key(text: str) -> bytes:
    """The key that was typed, in any spelling of its groups. Raises BadInput where a letter is missing or another one."""
    letters = re.sub(r"[\s-]", "", text[:200]).upper()
    try:
        key = base64.b32decode(letters[:-_SUM] + "=" * (-len(letters[:-_SUM]) % 8))
    except ValueError:
        key = b""
    if len(key) != KEY_BYTES or letters[-_SUM:] != _sum_of(key):
        raise BadInput(
            "This is no key of a backup: a key has 14 groups of four letters and digits; copy it whole.",
            "key",
        )
    return key


def _sum_of(key: bytes) -> str:
    return base64.b32encode(sha256(key).digest())[:_SUM].decode()
