"""Places outside to which a site is sent: their addresses, what the operator allows of them, and whether two of them are one."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from pathlib import Path, PurePosixPath
from urllib.parse import parse_qsl, quote, unquote

from mobbet.core.errors import BadInput, NotAllowed
from mobbet.core.web_addresses import split_address

FOLDER, STORE, MACHINE = "folder", "s3", "sftp"
LONGEST, LONGEST_SECRET = 1000, 20_000
_ASKED = {STORE: {"endpoint", "region"}, MACHINE: {"key", "known-hosts"}}


@dataclass(frozen=True)
class Allowed:
    """What the operator lets places be, in the environment; nothing but what is named."""

    folders: tuple[Path, ...] = ()
    stores: tuple[str, ...] = ()
    machines: tuple[str, ...] = ()
    keys: Path | None = None


@dataclass(frozen=True)
class Credentials:
    """What a place asks for: the access key of a store and its secret; the password or private key for a machine, and its host key."""

    access: str = ""
    secret: str = ""
    host_key: str = ""

    def kept(self) -> str:
        return json.dumps(asdict(self))


def read_credentials(kept: str) -> Credentials:
    return Credentials(**json.loads(kept)) if kept else Credentials()


def check_credentials(credentials: Credentials) -> Credentials:
    """Credentials without white space around them. Raises BadInput for too long ones."""
    if (
        len(credentials.access) > 300
        or max(len(credentials.secret), len(credentials.host_key)) > LONGEST_SECRET
    ):
        raise BadInput("That is longer than any key; copy it again.", "secret")
    secret = credentials.secret.replace("\r\n", "\n").strip()
    return Credentials(
        credentials.access.strip(),
        secret + ("\n" if "\n" in secret else ""),
        " ".join(credentials.host_key.split()),
    )


@dataclass(frozen=True)
class Place:
    """An address taken apart. `path` is that of a folder, the prefix in a bucket, or the folder on a machine; `host` the bucket, or the machine."""

    kind: str
    path: str
    host: str = ""
    user: str = ""
    port: int = 0
    endpoint: str = ""
    region: str = ""
    key: str = ""
    known_hosts: str = ""

    def __str__(self) -> str:
        if self.kind == FOLDER:
            return f"folder:{self.path}"
        if self.kind == STORE:
            asked = "&".join(
                f"{name}={quote(value, safe=':/')}"
                for name, value in (("endpoint", self.endpoint), ("region", self.region))
                if value
            )
            return f"s3://{self.host}{'/' + self.path if self.path else ''}{'?' + asked if asked else ''}"
        asked = "&".join(
            f"{name}={quote(value)}"
            for name, value in (("key", self.key), ("known-hosts", self.known_hosts))
            if value
        )
        port = f":{self.port}" if self.port != 22 else ""
        return f"sftp://{quote(self.user)}@{self.host}{port}{self.path}{'?' + asked if asked else ''}"


def read_place(text: str) -> tuple[Place, str]:
    """(the place, the password that was typed in its address or ''). Raises BadInput."""
    address = text.strip()
    wrong = BadInput(
        f"“{address[:80]}” is no place to send to; write it like folder:/srv/site, s3://bucket/prefix or sftp://user@host.example/path.",
        "address",
    )
    if len(address) > LONGEST or any(ord(letter) < 32 for letter in address):
        raise wrong
    kind, colon, rest = address.partition(":")
    if kind == FOLDER and rest.startswith("/"):
        return Place(FOLDER, _plain(rest, wrong) or "/"), ""
    try:
        parts = split_address(address)
        host, port = parts.hostname or "", parts.port
        asked = dict(parse_qsl(parts.query, keep_blank_values=True, strict_parsing=bool(parts.query)))
    except ValueError:
        raise wrong from None
    if not colon or parts.scheme not in (STORE, MACHINE) or not host or parts.fragment:
        raise wrong
    unknown = set(asked) - _ASKED[parts.scheme]
    if unknown:
        raise BadInput(
            f"A place of this kind has no “{sorted(unknown)[0][:40]}”; it may have {' and '.join(sorted(_ASKED[parts.scheme]))}.",
            "address",
        )
    if parts.scheme == STORE:
        if parts.username or port:
            raise wrong
        return Place(
            STORE,
            _plain(unquote(parts.path), wrong).strip("/"),
            host,
            endpoint=asked.get("endpoint", "").rstrip("/"),
            region=asked.get("region", ""),
        ), ""
    if not parts.username:
        raise wrong
    for name in (asked.get("key", ""), asked.get("known-hosts", "")):
        if name and (name != PurePosixPath(name).name or name in (".", "..")):
            raise BadInput(
                f"“{name[:60]}” is no name of a key; name a file of the operator’s folder of keys, without its path.",
                "address",
            )
    place = Place(
        MACHINE,
        _plain(unquote(parts.path), wrong) or "/",
        host,
        unquote(parts.username),
        port or 22,
        key=asked.get("key", ""),
        known_hosts=asked.get("known-hosts", ""),
    )
    return place, unquote(parts.password or "")


def _plain(path: str, wrong: BadInput) -> str:
    """A path in its one spelling, without a slash at its end. Raises where it goes up."""
    parts = [part for part in path.split("/") if part not in ("", ".")]
    if ".." in parts:
        raise wrong
    return "/" + "/".join(parts) if parts else ""


def check_allowed(place: Place, allowed: Allowed, data: Path) -> None:
    """Raises NotAllowed, naming the setting, for a place that the operator does not let sites go to; `data` is the data folder."""
    if place.kind == FOLDER:
        folder = Path(place.path).resolve()
        if not any(folder != root and folder.is_relative_to(root) for root in allowed.folders):
            raise NotAllowed(
                f"{place.path} is not below a folder that MOBBET_FOLDERS names; whoever runs this server sets it."
            )
        check_apart(place, data)
    elif place.kind == STORE:
        endpoint = endpoint_of(place)
        if endpoint not in allowed.stores:
            raise NotAllowed(
                f"{endpoint} is not among the stores that MOBBET_STORES names; whoever runs this server sets it."
            )
    elif (place.key or place.known_hosts) and allowed.keys is None:
        raise NotAllowed(
            "There is no folder of keys that places may name; give the key itself, or ask whoever runs this server to set MOBBET_KEYS."
        )


def check_apart(place: Place, data: Path) -> None:
    """Raises NotAllowed for a folder within the data folder, or around it."""
    folder, inside = Path(place.path).resolve(), data.resolve()
    if place.kind == FOLDER and (folder.is_relative_to(inside) or inside.is_relative_to(folder)):
        raise NotAllowed(f"{place.path} lies in the data folder, or around it; name another folder.")


def endpoint_of(place: Place) -> str:
    """Where a store answers: as its address says, else as the region does."""
    return place.endpoint or f"https://s3.{place.region or 'us-east-1'}.amazonaws.com"


def is_same_or_within(one: Place, other: Place) -> bool:
    """Whether what is sent to one place could lie upon what is sent to the other."""
    if one.kind != other.kind:
        return False
    if one.kind == FOLDER:
        paths = [Path(place.path).resolve().parts for place in (one, other)]
    elif (one.kind == STORE and (one.host, endpoint_of(one)) == (other.host, endpoint_of(other))) or (
        one.kind == MACHINE and one.host.lower() == other.host.lower()
    ):
        paths = [tuple(part for part in place.path.split("/") if part) for place in (one, other)]
    else:
        return False
    short, long = sorted(paths, key=len)
    return long[: len(short)] == short


def shown(address: str) -> str:
    """An address as it is shown: without a password that an older Mobbet kept in it."""
    parts = split_address(address)
    return address.replace(f":{parts.password}@", ":…@") if parts.password else address
