"""Who reads a published site: from the cookies of a request to what they may read."""

from __future__ import annotations

from http.cookies import CookieError, SimpleCookie

from mobbet.actions import looking
from mobbet.actions.people import person_of
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import STRANGER, Reader
from mobbet.store.blogs import Blog
from mobbet.web.session import COOKIE

MOST_PROOFS = 30


def guest_cookie(blog: Blog) -> str:
    """The cookie of a reader who came in by a link of a letter, for this blog alone."""
    return f"mobbet_reader_{blog.id}"


def proofs_cookie(blog: Blog) -> str:
    """The cookie that says which passwords of posts were typed."""
    return f"mobbet_opened_{blog.id}"


def cookies_in(headers: dict[bytes, bytes]) -> dict[str, str]:
    """The cookies of a request; none where they cannot be read."""
    try:
        return {name: morsel.value for name, morsel in SimpleCookie(headers.get(b"cookie", b"").decode("latin-1")).items()}
    except CookieError:
        return {}


def reader_of_request(workshop: Workshop, blog: Blog, cookies: dict[str, str]) -> Reader:
    """What whoever sent these cookies may read of a blog."""
    person = person_of(workshop, cookies.get(COOKIE))
    guest = person_of(workshop, cookies.get(guest_cookie(blog)), blog.id)
    proofs = frozenset(cookies.get(proofs_cookie(blog), "").split(".")) - {""}
    if person is None and guest is None and not proofs:
        return STRANGER
    return looking.reader_of(workshop, blog, person, guest, proofs)
