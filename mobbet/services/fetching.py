"""Gets files from public addresses, and from nowhere inside the network."""

from __future__ import annotations

import ipaddress
import re
import socket
from collections.abc import Callable
from urllib.parse import unquote, urljoin, urlsplit

import httpx

from mobbet.core.errors import BadInput
from mobbet.services.contracts import Fetched

MOST_REDIRECTS = 5
SECONDS = 15.0
AGENT = "Mobbet/1 (a blog's library)"

Resolve = Callable[[str, int], list[str]]


def resolve(host: str, port: int) -> list[str]:
    """The network addresses of a host."""
    return list(dict.fromkeys(str(row[4][0]) for row in socket.getaddrinfo(host, port, proto=socket.IPPROTO_TCP)))


class PublicFetcher:
    """Asks only addresses that are public after the name was resolved, on every redirect anew.

    The connection goes to the very address that was judged, so that a name which changes its mind leads nowhere.
    """

    def __init__(self, resolve: Resolve = resolve, transport: httpx.BaseTransport | None = None) -> None:
        self._resolve = resolve
        self._transport = transport

    def __call__(self, address: str, most_bytes: int) -> Fetched:
        with httpx.Client(timeout=SECONDS, transport=self._transport, follow_redirects=False, trust_env=False) as client:
            for _ in range(MOST_REDIRECTS + 1):
                answer = self._ask(client, address, most_bytes)
                if isinstance(answer, Fetched):
                    return answer
                address = answer
        raise BadInput(f"“{address[:120]}” leads on more than {MOST_REDIRECTS} times; use the address it ends at.", "address")

    def _ask(self, client: httpx.Client, address: str, most_bytes: int) -> Fetched | str:
        """What lies there, or the address it leads on to."""
        host, number, target = judged(self._resolve, address)
        request = client.build_request("GET", target, headers={"Host": host, "User-Agent": AGENT, "Accept": "*/*"}, extensions={"sni_hostname": number})
        try:
            response = client.send(request, stream=True)
            try:
                if response.is_redirect and "location" in response.headers:
                    return urljoin(address, response.headers["location"])
                if response.status_code != 200:
                    raise BadInput(f"“{address[:120]}” answered with {response.status_code}; check the address in a browser.", "address")
                return Fetched(address, _name(response, address), _read(response, address, most_bytes))
            finally:
                response.close()
        except httpx.HTTPError as error:
            raise BadInput(f"“{address[:120]}” could not be reached ({type(error).__name__}); check the address and the network.", "address") from None


def judged(resolve: Resolve, address: str) -> tuple[str, str, httpx.URL]:
    """(the Host header, the name for TLS, the address to connect to). Raises BadInput for what is not public."""
    try:
        parts = urlsplit(address.strip())
        host, port = parts.hostname or "", parts.port or (443 if parts.scheme == "https" else 80)
    except ValueError:
        host, port, parts = "", 0, None
    if parts is None or parts.scheme not in ("http", "https") or not host or parts.username or port not in (80, 443):
        raise BadInput(f"“{address[:120]}” is no public address of a file; write it like https://name.example/picture.jpg.", "address")
    try:
        found = [ipaddress.ip_address(one.split("%")[0]) for one in resolve(host, port)]
    except (OSError, ValueError, UnicodeError):
        raise BadInput(f"There is no “{host[:80]}” to be found; check the address and the network.", "address") from None
    if not found or not all(_is_public(one) for one in found):
        raise BadInput(f"“{host[:80]}” lies inside the network, where Mobbet does not fetch from; use a public address.", "address")
    number = f"[{found[0]}]" if found[0].version == 6 else str(found[0])
    path = parts.path or "/"
    return parts.netloc, host, httpx.URL(f"{parts.scheme}://{number}:{port}{path}{'?' + parts.query if parts.query else ''}")


def _is_public(address: ipaddress.IPv4Address | ipaddress.IPv6Address) -> bool:
    mapped = getattr(address, "ipv4_mapped", None) or getattr(address, "sixtofour", None)
    if mapped is not None:
        return _is_public(mapped)
    return address.is_global and not address.is_multicast


def _read(response: httpx.Response, address: str, most_bytes: int) -> bytes:
    parts, size = [], 0
    for chunk in response.iter_bytes():
        parts.append(chunk)
        size += len(chunk)
        if size > most_bytes:
            raise BadInput(f"What lies at “{address[:120]}” is larger than {most_bytes // 1_000_000} MB; bring in a smaller one.", "address")
    return b"".join(parts)


def _name(response: httpx.Response, address: str) -> str:
    told = re.search(r'filename="?([^";]+)', response.headers.get("content-disposition", ""))
    return (told.group(1) if told else unquote(urlsplit(address).path.rpartition("/")[2])) or "file"
