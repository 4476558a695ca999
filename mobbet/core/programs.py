"""Other programs that write for a person: what they may be allowed, and how they ask (OAuth 2.0 with PKCE, RFC 6749 and RFC 7636; IndieAuth)."""

from __future__ import annotations

import base64
import hashlib
import hmac
import ipaddress
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from mobbet.core.errors import Refused
from mobbet.core.web_addresses import split_address

CREATE, DRAFT, UPDATE, DELETE, UNDELETE, MEDIA, READ, PROFILE = (
    "create",
    "draft",
    "update",
    "delete",
    "undelete",
    "media",
    "read",
    "profile",
)
SCOPES = {
    CREATE: "make posts, and have them go out",
    DRAFT: "make drafts",
    UPDATE: "change posts",
    DELETE: "take posts off the site and set them aside",
    UNDELETE: "bring back posts that were set aside",
    MEDIA: "add files to the library",
    READ: "read posts, drafts as well",
    PROFILE: "know your name",
}
"""{scope: what it lets a program do, in words}."""
CODE_SECONDS, UNUSED_SECONDS = 300, 90 * 86400
"""How long a code is good, and after how long without use a token ends."""
LONGEST, LONGEST_STATE = 1000, 2000
_HOST = re.compile(r"[a-z0-9.-]{1,253}|[0-9a-f:.]{2,45}")
_OWN_SCHEME = re.compile(r"[a-z][a-z0-9+-]*(?:\.[a-z0-9+-]+)+")
_CHALLENGE = re.compile(r"[A-Za-z0-9._~-]{43,128}")


class AskedWrongly(Refused):
    """What a program asked for cannot be: `error` is the code of OAuth 2.0 for it."""

    def __init__(self, error: str, message: str) -> None:
        super().__init__(message)
        self.error = error


@dataclass(frozen=True)
class Asked:
    """What a program asks a person for: by its address, where the answer goes, its `state`, the challenge of PKCE, and the scopes."""

    client: str
    redirect: str
    state: str
    challenge: str
    scopes: tuple[str, ...]


def read_asked(query: Mapping[str, str]) -> Asked:
    """What a request of authorization asks for. Raises AskedWrongly where the program or the place of the answer cannot be trusted, or a value is missing."""
    client, redirect = query.get("client_id", ""), query.get("redirect_uri", "")
    if not is_client(client):
        raise AskedWrongly(
            "invalid_request",
            f"“{client[:80]}” is no address of a program (client_id); it is a web address without a user, a password or a fragment.",
        )
    if not is_redirect(redirect):
        raise AskedWrongly(
            "invalid_request", f"“{redirect[:80]}” is no address that an answer can go to (redirect_uri)."
        )
    if query.get("response_type", "code") not in ("code", "id"):
        raise AskedWrongly(
            "unsupported_response_type",
            "The program asks for an answer of another kind than a code (response_type=code).",
        )
    challenge = query.get("code_challenge", "")
    if not _CHALLENGE.fullmatch(challenge) or query.get("code_challenge_method", "") != "S256":
        raise AskedWrongly(
            "invalid_request",
            "The program does not prove itself (PKCE with code_challenge_method=S256); use a newer version of it.",
        )
    if len(query.get("state", "")) > LONGEST_STATE:
        raise AskedWrongly(
            "invalid_request", f"The state of the program has more than {LONGEST_STATE:,} letters."
        )
    return Asked(client, redirect, query.get("state", ""), challenge, read_scopes(query.get("scope", "")))


def read_scopes(text: str) -> tuple[str, ...]:
    """The scopes of a text that Mobbet knows, each once, in one order; `post` is an old word for `create`."""
    words = {CREATE if word == "post" else word for word in text.split()}
    return tuple(scope for scope in SCOPES if scope in words)


def is_client(address: str) -> bool:
    """Whether an address can be that of a program: a web address with a host name, or of this machine, without a fragment, user or password."""
    parts = split_address(address)
    if (
        parts.scheme not in ("http", "https")
        or not parts.hostname
        or parts.fragment
        or parts.username
        or parts.password
        or len(address) > LONGEST
    ):
        return False
    if any(step in (".", "..") for step in parts.path.split("/")) or any(
        letter.isspace() or not letter.isprintable() for letter in address
    ):
        return False
    try:
        return ipaddress.ip_address(parts.hostname).is_loopback
    except ValueError:
        return True


def is_redirect(address: str) -> bool:
    """Whether an answer can be sent to an address: of the web, or of a scheme of the program's own; never one that a browser runs."""
    parts = split_address(address)
    scheme = parts.scheme
    if (
        not scheme
        or len(address) > LONGEST
        or parts.fragment
        or any(letter.isspace() or not letter.isprintable() for letter in address)
    ):
        return False
    if scheme in ("http", "https"):
        return bool(parts.hostname and _HOST.fullmatch(parts.hostname))
    return _OWN_SCHEME.fullmatch(scheme) is not None


def policy_source(redirect: str) -> str:
    """What a content security policy calls the place of an answer, so that a form may lead there."""
    parts = split_address(redirect)
    if parts.scheme not in ("http", "https"):
        return f"{parts.scheme}:"
    host = f"[{parts.hostname}]" if ":" in (parts.hostname or "") else parts.hostname
    return f"{parts.scheme}://{host}{f':{parts.port}' if parts.port else ''}"


def is_of_client(asked: Asked, listed: Iterable[str] = ()) -> bool:
    """Whether an answer goes to the program itself: to its own host, or to an address that its page lists."""
    client, redirect = split_address(asked.client), split_address(asked.redirect)
    own = (client.scheme, client.hostname, client.port) == (redirect.scheme, redirect.hostname, redirect.port)
    return own or asked.redirect in set(listed)


def proves(verifier: str, challenge: str) -> bool:
    """Whether a verifier is the one whose challenge came before (RFC 7636, S256)."""
    digest = hashlib.sha256(verifier.encode("ascii", "replace")).digest()
    found = base64.urlsafe_b64encode(digest).rstrip(b"=").decode()
    return bool(_CHALLENGE.fullmatch(verifier)) and hmac.compare_digest(found, challenge)


def token_in(authorization: str) -> str:
    """The token of the head of a request: a bearer's (RFC 6750), or the password of a program that knows names and passwords alone (RFC 7617). '' for none."""
    kind, _, value = authorization[:2000].partition(" ")
    if kind.lower() == "bearer":
        return value.strip()
    if kind.lower() != "basic":
        return ""
    try:
        return base64.b64decode(value.strip(), validate=True).decode().partition(":")[2]
    except ValueError:
        return ""
