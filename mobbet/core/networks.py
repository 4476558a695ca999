"""Network addresses of clients: whose a request is behind proxies, and which clients count as one."""

from __future__ import annotations

import ipaddress
from collections.abc import Iterable, Sequence

from mobbet.core.errors import BadInput

Address = ipaddress.IPv4Address | ipaddress.IPv6Address
Network = ipaddress.IPv4Network | ipaddress.IPv6Network
MOST_HOPS = 20


def read_networks(text: str, field: str) -> tuple[Network, ...]:
    """Networks parted by commas, `127.0.0.1, 10.0.0.0/8`. Raises BadInput."""
    found = []
    for part in filter(None, (part.strip() for part in text.split(","))):
        try:
            found.append(ipaddress.ip_network(part, strict=False))
        except ValueError:
            raise BadInput(
                f"{field} names “{part[:60]}”, which is no network; write it like 127.0.0.1 or 10.0.0.0/8.",
                field,
            ) from None
    return tuple(found)


def read_address(text: str) -> Address | None:
    """An address as proxies write it: `192.0.2.1`, `192.0.2.1:4711`, `[2001:db8::1]:4711`; None for anything else. IPv4 within IPv6 is IPv4."""
    text = text.strip().strip('"')
    if text.startswith("["):
        text = text[1:].partition("]")[0]
    elif text.count(":") == 1:
        text = text.partition(":")[0]
    try:
        found = ipaddress.ip_address(text.partition("%")[0])
    except ValueError:
        return None
    return getattr(found, "ipv4_mapped", None) or found


def is_among(address: Address | None, networks: Iterable[Network]) -> bool:
    return address is not None and any(
        address.version == network.version and address in network for network in networks
    )


def one_client(address: str) -> str:
    """What counts as one client: an IPv4 address, or the /64 of an IPv6 one; any other text as it is."""
    found = read_address(address)
    if found is None:
        return address[:60]
    return str(ipaddress.ip_network((found, 64), strict=False)) if found.version == 6 else str(found)


def client_behind(
    peer: str,
    forwarded: Sequence[str],
    further: Sequence[str],
    scheme: Sequence[str],
    trusted: Iterable[Network],
) -> tuple[str, str]:
    """(address, 'http', 'https' or '') of whoever a request is from, as its trusted proxies tell.

    `forwarded` are the values of Forwarded (RFC 7239), `further` those of X-Forwarded-For and `scheme` those of X-Forwarded-Proto. They are
    read from the right: what stands left of the first address that is no trusted proxy, anyone may have written.
    """
    trusted = tuple(trusted)
    if not is_among(read_address(peer), trusted):
        return peer, ""
    hops = (
        _hops(forwarded)
        if forwarded
        else [(part, "") for part in ",".join(further).split(",")[-MOST_HOPS:] if part.strip()]
    )
    said = ",".join(scheme).split(",")[-1].strip().lower() if not forwarded else ""
    for text, proto in reversed(hops):
        said = said or proto
        address = read_address(text)
        if address is None:
            break
        if not is_among(address, trusted):
            return str(address), said if said in ("http", "https") else ""
    return peer, said if said in ("http", "https") else ""


def _hops(forwarded: Sequence[str]) -> list[tuple[str, str]]:
    """[(for, proto)] of the elements of Forwarded, the nearest proxy's last."""
    found = []
    for element in ",".join(forwarded).split(",")[-MOST_HOPS:]:
        pairs = dict(part.strip().lower().partition("=")[::2] for part in element.split(";"))
        found.append((pairs.get("for", "").strip('"'), pairs.get("proto", "").strip('"')))
    return found
