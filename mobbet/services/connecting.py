"""The only way out: every connection that Mobbet begins is begun here.

What a person typed is judged before it is connected to: every address of a name must be public, and the connection goes to the very
address that was judged, so that a name which changes its mind leads nowhere. Bytes are bounded after they are unpacked, and time in all.
"""

from __future__ import annotations

import imaplib
import ipaddress
import smtplib
import socket
import ssl
import threading
import time
import zlib
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager, suppress
from functools import cache
from typing import Any, cast

import httpx

from mobbet.core.errors import BadInput, Broken
from mobbet.core.web_addresses import split_address

Resolve = Callable[[str, int], list[str]]
Address = ipaddress.IPv4Address | ipaddress.IPv6Address
READING = 8.0
"""In seconds: how long one read may take; in all a request takes no longer than its whole deadline and one read."""
CHUNK = 65_536
WEB_PORTS = (80, 443)
LOCAL = ("localhost", "127.0.0.1", "::1")
_WITHIN_OTHERS = tuple(
    map(
        ipaddress.ip_network,
        (
            "::/96",
            "::ffff:0:0/96",
            "64:ff9b::/96",
            "64:ff9b:1::/48",
            "100::/64",
            "2001::/23",
            "2001:db8::/32",
            "2002::/16",
            "3fff::/20",
            "5f00::/16",
            "fc00::/7",
            "fe80::/10",
            "fec0::/10",
            "ff00::/8",
        ),
    )
)
"""IPv6 networks that hold IPv4 addresses (mapped, compatible, NAT64, Teredo, 6to4) or are not of the public network (RFC 6890 and its registry)."""
_NOT_PUBLIC = tuple(
    map(
        ipaddress.ip_network,
        ("0.0.0.0/8", "100.64.0.0/10", "192.0.0.0/24", "192.88.99.0/24", "198.18.0.0/15", "224.0.0.0/3"),
    )
)


class TooSlow(Exception):
    """The whole deadline is over."""


class TooLarge(Exception):
    """More came, once unpacked, than was asked for."""


def resolve(host: str, port: int) -> list[str]:
    """The network addresses of a host."""
    return list(
        dict.fromkeys(str(row[4][0]) for row in socket.getaddrinfo(host, port, proto=socket.IPPROTO_TCP))
    )


def is_public(address: Address) -> bool:
    """Whether an address is one of the public network, and leads nowhere else by another name."""
    barred = _WITHIN_OTHERS if address.version == 6 else _NOT_PUBLIC
    return (
        address.is_global and not address.is_multicast and not any(address in network for network in barred)
    )


def public_address(resolve: Resolve, host: str, port: int) -> Address:
    """The address to connect to. Raises BadInput where a host is not found, or any of its addresses is not public."""
    try:
        found = [ipaddress.ip_address(one.split("%")[0]) for one in resolve(host, port)]
    except (OSError, ValueError, UnicodeError):
        raise BadInput(
            f"There is no “{host[:80]}” to be found; check the address and the network.", "address"
        ) from None
    if not found or not all(map(is_public, found)):
        raise BadInput(
            f"“{host[:80]}” lies inside the network, where Mobbet does not go; use a public address.",
            "address",
        )
    return found[0]


def judged(resolve: Resolve, address: str, named: frozenset[str] = frozenset()) -> tuple[str, str, httpx.URL]:
    """(the Host header, the name for TLS, the address to connect to) of a page. Raises BadInput for what is neither public nor `named`, as host:port, by the operator."""
    parts = split_address(address.strip())
    host, port = parts.hostname or "", parts.port or (443 if parts.scheme == "https" else 80)
    is_named = f"{host}:{port}" in named
    if (
        parts.scheme not in ("http", "https")
        or not host
        or parts.username
        or not (is_named or port in WEB_PORTS)
    ):
        raise BadInput(
            f"“{address[:120]}” is no public address of a file; write it like https://name.example/picture.jpg.",
            "address",
        )
    found = ipaddress.ip_address(resolve(host, port)[0]) if is_named else public_address(resolve, host, port)
    number = f"[{found}]" if found.version == 6 else str(found)
    try:
        target = httpx.URL(
            f"{parts.scheme}://{number}:{port}{parts.path or '/'}{'?' + parts.query if parts.query else ''}"
        )
    except httpx.InvalidURL:
        raise BadInput(f"“{address[:120]}” is no address; check it in a browser.", "address") from None
    return parts.netloc, host, target


@cache
def _certificates() -> ssl.SSLContext:
    """Whom to believe, read once: reading the certificates takes 20 ms in which no other thread runs."""
    return httpx.create_ssl_context(trust_env=False)


class Web:
    """Requests to public pages, within a whole deadline. Not for more than one thread at a time."""

    def __init__(
        self,
        seconds: float,
        resolve: Resolve = resolve,
        transport: httpx.BaseTransport | None = None,
        clock: Callable[[], float] = time.monotonic,
        named: frozenset[str] = frozenset(),
    ) -> None:
        self._clock, self._until, self._named = clock, clock() + seconds, named
        self._resolve = resolve
        self._client = httpx.Client(
            timeout=min(READING, seconds),
            transport=transport,
            verify=_certificates(),
            follow_redirects=False,
            trust_env=False,
        )
        self._alarm = threading.Timer(seconds, self._client.close)
        self._alarm.daemon = True

    def __enter__(self) -> Web:
        self._alarm.start()
        return self

    def __exit__(self, *error: object) -> None:
        self._alarm.cancel()
        with suppress(RuntimeError):
            self._client.close()

    @contextmanager
    def asked(
        self,
        method: str,
        address: str,
        agent: str,
        content: bytes | None = None,
        more: dict[str, str] | None = None,
    ) -> Iterator[httpx.Response]:
        """The answer of a public address, its body not read yet; `content` is sent, with `more` headers. Raises BadInput, TooSlow and httpx.HTTPError."""
        host, name, target = judged(self._resolve, address, self._named)
        headers = {
            "Host": host, "User-Agent": agent, "Accept": "*/*", "Accept-Encoding": "identity", **(more or {}),
        }  # fmt: skip
        self.check()
        try:
            with self._client.stream(
                method, target, content=content, headers=headers, extensions={"sni_hostname": name}
            ) as response:
                yield response
        except RuntimeError:  # the client was closed, as the time was over
            self.check()
            raise
        self.check()

    def check(self) -> None:
        """Raises TooSlow once the whole deadline is over."""
        if self._clock() > self._until:
            raise TooSlow

    def chunks(self, response: httpx.Response, most: int) -> Iterator[bytes]:
        """The body, unpacked bit by bit, up to so many bytes. Raises TooLarge, TooSlow, and httpx.DecodingError for a packing that was not asked for."""
        packing, size = response.headers.get("content-encoding", "identity").strip().lower(), 0
        if packing not in ("identity", "", "gzip", "x-gzip", "deflate"):
            raise httpx.DecodingError(f"packed as {packing[:40]}")
        unpacked = (
            chunk
            for raw in cast(Iterable[bytes], response.stream)
            for chunk in ([raw] if packing in ("identity", "") else self._unpack(response, raw, most))
        )
        for chunk in unpacked:
            size += len(chunk)
            self.check()
            if size > most:
                raise TooLarge
            yield chunk

    def _unpack(self, response: httpx.Response, raw: bytes, most: int) -> Iterator[bytes]:
        unpacker = response.extensions.setdefault("mobbet.unpacker", zlib.decompressobj(wbits=47))
        try:
            while raw:
                yield unpacker.decompress(raw, CHUNK)
                raw = unpacker.unconsumed_tail
                self.check()
        except zlib.error as error:
            raise httpx.DecodingError(str(error)) from None


@contextmanager
def mail_server(address: str, seconds: float) -> Iterator[smtplib.SMTP]:
    """A mail server that the operator named, `smtp://host:port` or `smtps://…`, its certificate verified wherever the line is encrypted.

    A password goes over an encrypted line only, but to this very machine. Raises OSError and smtplib.SMTPException.
    """
    parts, context = split_address(address), ssl.create_default_context()
    host, port = parts.hostname or "", parts.port or {"smtp": 25, "smtps": 465}[parts.scheme]
    made = (
        smtplib.SMTP_SSL(host, port, timeout=seconds, context=context)
        if parts.scheme == "smtps"
        else smtplib.SMTP(host, port, timeout=seconds)
    )
    with made as connection:
        if parts.scheme == "smtp":
            connection.ehlo()
            if connection.has_extn("starttls") and parts.hostname not in LOCAL:
                connection.starttls(context=context)
            elif parts.username and parts.hostname not in LOCAL:
                raise smtplib.SMTPException("it offers no encryption, so no password is sent to it")
        yield connection


@contextmanager
def mailbox_server(address: str, seconds: float) -> Iterator[imaplib.IMAP4]:
    """A mailbox that the operator named, `imaps://host` or `imap://host` on this very machine. Raises OSError and IMAP4.error."""
    parts = split_address(address)
    host, port = parts.hostname or "", parts.port or {"imap": 143, "imaps": 993}[parts.scheme]
    if parts.scheme == "imap" and parts.hostname not in LOCAL:
        raise imaplib.IMAP4.error(
            "the line is not encrypted, so no password is sent over it; name it as imaps://"
        )
    box = (
        imaplib.IMAP4_SSL(host, port, ssl_context=ssl.create_default_context(), timeout=seconds)
        if parts.scheme == "imaps"
        else imaplib.IMAP4(host, port, timeout=seconds)
    )
    try:
        yield box
    finally:
        with suppress(OSError, imaplib.IMAP4.error):
            box.logout()


def object_store(endpoint: str, region: str, access: str, secret: str, connections: int) -> Any:
    """A client of a store that the operator named. Nothing of the machine's own credentials is looked for. Raises Broken."""
    import boto3  # its client takes half a second to load
    from botocore.config import Config
    from botocore.exceptions import BotoCoreError

    config = Config(
        connect_timeout=10,
        read_timeout=30,
        retries={"max_attempts": 2, "mode": "standard"},
        max_pool_connections=connections,
        proxies={},
    )
    try:
        return boto3.client(
            "s3",
            endpoint_url=endpoint,
            region_name=region or "us-east-1",
            aws_access_key_id=access,
            aws_secret_access_key=secret,
            config=config,
        )
    except (BotoCoreError, ValueError) as error:
        raise Broken(
            f"The store at {endpoint} cannot be used ({type(error).__name__}); check its address."
        ) from None


def machine(host: str, port: int, is_named: bool, resolve: Resolve = resolve) -> str:
    """The address of a machine to connect to by SSH; of one that the operator did not name only a public one. Raises BadInput."""
    return host if is_named else str(public_address(resolve, host, port))


async def shell(address: str, port: int, **options: Any) -> Any:
    """A connection to a machine by SSH (RFC 4253), with no key, agent or setting of the person who runs this server."""
    import asyncssh

    return await asyncssh.connect(address, port, config=[], agent_path=None, gss_host=None, **options)


def has_network() -> bool:
    """Whether this machine has a way out; nothing is sent to find out."""
    for family, address in ((socket.AF_INET, "192.0.2.1"), (socket.AF_INET6, "2001:db8::1")):
        with socket.socket(family, socket.SOCK_DGRAM) as probe:
            try:
                probe.connect((address, 9))
            except OSError:
                continue
            return True
    return False


def listen_error(host: str, port: int) -> str:
    """Why this machine would not listen at a port, in the system's words; '' if it would."""
    with socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as error:
            return error.strerror or str(error)
    return ""
