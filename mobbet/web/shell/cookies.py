"""The cookies of Mobbet: their names, and the one parser, in linear time."""

from __future__ import annotations

from starlette.requests import Request
from starlette.responses import Response

from mobbet.settings import Settings
from mobbet.store.blogs import Blog

SESSION, DEVICE = "mobbet_session", "mobbet_device"
DEVICE_SECONDS = 400 * 86400
MOST = 60


def session_cookie(settings: Settings) -> str:
    """The cookie of a sign-in. Behind https its name has the prefix that binds it to this host and to https (RFC 6265bis, 4.1.3)."""
    return _named(settings, SESSION)


def device_cookie(settings: Settings) -> str:
    """The cookie by which a browser is known in which somebody signed in before."""
    return _named(settings, DEVICE)


def guest_cookie(settings: Settings, blog: Blog) -> str:
    """The cookie of a reader who came in by a link of a letter, for this blog alone."""
    return _named(settings, f"mobbet_reader_{blog.id}")


def proofs_cookie(settings: Settings, blog: Blog) -> str:
    """The cookie that says which passwords of posts were typed."""
    return _named(settings, f"mobbet_opened_{blog.id}")


def copy_cookie(settings: Settings) -> str:
    """The cookie by which a browser is known that opened reading copies."""
    return _named(settings, "mobbet_copy")


def _named(settings: Settings, name: str) -> str:
    return f"__Host-{name}" if settings.secure_cookies else name


def read(header: bytes) -> dict[str, str]:
    """The cookies of a Cookie header (RFC 6265, 4.2); the first of a name holds. Values are taken as they are: Mobbet sets none in quotes."""
    found: dict[str, str] = {}
    for pair in header.decode("latin-1").split(";", MOST)[:MOST]:
        name, _, value = pair.strip().partition("=")
        found.setdefault(name, value)
    return found


def of_headers(headers: dict[bytes, bytes]) -> dict[str, str]:
    return read(headers.get(b"cookie", b""))


def of_request(request: Request) -> dict[str, str]:
    return read(request.headers.get("cookie", "").encode("latin-1", "replace"))


def put(settings: Settings, response: Response, name: str, value: str, seconds: int) -> None:
    response.set_cookie(
        name, value, max_age=seconds, path="/", httponly=True, samesite="lax", secure=settings.secure_cookies
    )


def remove(settings: Settings, response: Response, name: str) -> None:
    response.delete_cookie(name, path="/", httponly=True, samesite="lax", secure=settings.secure_cookies)
