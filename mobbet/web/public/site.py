"""Serves the published sites: one small ASGI app over the current editions, with a cache in memory."""

from __future__ import annotations

import asyncio
import threading
import time
from collections import OrderedDict
from urllib.parse import quote, urlencode

from starlette.types import Receive, Scope, Send

from mobbet.actions import addresses
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE, STRANGER, Reader, list_audiences, may_read
from mobbet.core.blog_states import PEOPLE
from mobbet.core.menu import SEARCH_PATH
from mobbet.core.permalinks import one_form
from mobbet.core.read_counts import END_PATH, READ_PATH, own_words
from mobbet.core.web_addresses import split_address
from mobbet.publish.pages.end_mark import DOT
from mobbet.publish.rendered import Rendered
from mobbet.store import blogs, editions
from mobbet.store.blogs import Blog
from mobbet.store.editions import PageRow
from mobbet.web.public.bodies import (
    ASK_AGAIN,
    KEEP_PRIVATE,
    Body,
    Headers,
    best_encoding,
    is_same,
    keep_headers,
    packed,
    part_of,
    type_headers,
    whole_answer,
)
from mobbet.web.public.guests import reader_of_request
from mobbet.web.public.place import place_of
from mobbet.web.public.tally import Tally
from mobbet.web.shell import cookies
from mobbet.web.shell.security import (
    COMMON,
    OWN,
    PLAIN_POLICY,
    SHARED,
    SITE_POLICY,
    shown_headers,
    with_headers,
)

CACHE_BYTES = 48_000_000
LARGE = 1_000_000
"""Files of the library from so many bytes on are sent from the disk, in chunks."""
CHUNK = 262_144
DRAWN = "mobbet.drawn"
"""Stands in the scope of a request whose answer had to be drawn."""
MOST_READY = 12
"""For how many different wishes about encodings a page's answer is kept ready."""
REFRESHED = 0.01
"""In seconds: how often it is asked at the most whether another process has committed something."""
MEMBER = f"{cookies.SESSION}=".encode()
"""In the cookies of those who write here, whose own looks are no reads."""


class Site:
    """The published sites of one data folder.

    Every request is answered from one edition. The cache is dropped when a new edition stands,
    which is noticed without a question where nothing at all was committed.
    """

    def __init__(self, workshop: Workshop, tally: Tally) -> None:
        self._workshop = workshop
        self._tally = tally
        self._with_query: set[int] = set()
        self._homes: frozenset[str] = frozenset()
        self._missing: dict[tuple[int, str], bytes] = {}
        self._telling = (
            asyncio.Lock()
        )  # so that many who ask for what is not there render one page, not one each
        self._with_more: dict[tuple[int, tuple[str, ...]], bool] = {}
        self._cache: OrderedDict[tuple[int, str], Body] = OrderedDict()
        self._cached_bytes = 0
        self._keeping = threading.Lock()  # pages are loaded in threads
        self._blogs: dict[str, tuple[Blog, int]] = {}
        self._version = (-1, -1)
        self._look_again = 0.0
        self._is_stale = threading.Event()
        workshop.press.on_edition = self._is_stale.set

    def has_ready(self, scope: Scope) -> bool:
        """Whether a request asks for a page that is at hand, so that answering takes no work."""
        slug, path, _ = place_of(scope)
        blog = self._blog(slug)
        return blog is not None and (blog.id, path) in self._cache

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = dict(scope["headers"])
        slug, path, _ = place_of(scope)
        blog = self._blog(slug)
        if blog is not None and blog.closed and not await self._is_let_in(blog, headers, path):
            await self._send_closed(scope, send, blog)
            return
        ready = self._ready(scope, headers, blog, path)
        if ready is not None:
            await send({"type": "http.response.start", "status": 200, "headers": ready[0]})
            await send({"type": "http.response.body", "body": ready[1]})
            return
        if scope["method"] not in ("GET", "HEAD"):
            await _send(send, scope, 405, [(b"allow", b"GET, HEAD")], b"")
        elif blog is None:
            await _send(
                send,
                scope,
                404,
                [(b"content-type", b"text/plain; charset=utf-8")],
                b"There is no such blog here.\n",
            )
        elif path.startswith(f"{READ_PATH}/"):
            await self._count_elsewhere(scope, send, headers, blog, path.removeprefix(READ_PATH))
        elif not path:
            await _send(send, scope, 308, [(b"location", f"/b/{slug}/".encode())], b"")
        else:
            await self._answer(scope, send, headers, blog, path)

    async def _is_let_in(self, blog: Blog, headers: dict[bytes, bytes], path: str) -> bool:
        """Whether a site that is closed answers all the same: its style sheets, and its pages those who work on it, if it is open to them."""
        if path == "/look.css" or path.startswith("/assets/"):
            return True
        return blog.closed == PEOPLE and (await self._reader(blog, headers)).works_here

    async def _send_closed(self, scope: Scope, send: Send, blog: Blog) -> None:
        from mobbet.publish.reader_forms import closed_page

        root, now = f"{place_of(scope).root}/", self._workshop.clock()
        page = await asyncio.to_thread(closed_page, self._workshop.db, blog, root, now)
        told = [
            (b"content-type", b"text/html; charset=utf-8"),
            (b"cache-control", KEEP_PRIVATE),
            (b"retry-after", b"3600"),
            (b"content-security-policy", SITE_POLICY.encode()),
            *COMMON,
        ]
        await _send(send, scope, 503, told, page)

    def _ready(
        self, scope: Scope, headers: dict[bytes, bytes], blog: Blog | None, path: str
    ) -> tuple[Headers, bytes] | None:
        """What a stranger is sent who asks for a page that everyone may read, and has no older copy; None where there is more to it."""
        if (
            blog is None
            or scope["method"] != "GET"
            or scope.get("query_string")
            or b"cookie" in headers
            or b"if-none-match" in headers
        ):
            return None
        body = self._cache.get((blog.id, path))
        if body is None or body.row.audience != EVERYONE or body.row.leads_to or body.row.shelf != "pages":
            return None
        if body.is_counted:
            self._tally.count(blog.id, path, True)
            self._tally.count_opened(blog.id, path, scope, headers)
        accepted = headers.get(b"accept-encoding", b"")
        found = body.ready.get(accepted)
        if found is None and len(body.ready) < MOST_READY:
            found = body.ready[accepted] = whole_answer(body, accepted)
        return found or whole_answer(body, accepted)

    def host_of(self, host: str) -> str | None:
        """The slug of the blog that has this host name of its own."""
        self._refresh()
        return next((blog.slug for blog, _ in self._blogs.values() if blog.host and blog.host == host), None)

    def is_home(self, host: str) -> bool:
        """Whether a host is that of a blog's public address."""
        self._refresh()
        return host in self._homes

    async def _answer(
        self, scope: Scope, send: Send, headers: dict[bytes, bytes], blog: Blog, path: str
    ) -> None:
        query = scope.get("query_string", b"").decode("latin-1")
        if query and blog.id in self._with_query:
            answer = await asyncio.to_thread(addresses.old_query, self._workshop, blog, f"{path}?{query}")
            if answer:
                await self._lead_on(scope, send, blog, answer)
                return
        reader = await self._reader(blog, headers)
        if path == SEARCH_PATH and query:
            await self._send_found(scope, send, blog, reader, query)
            return
        if reader is not STRANGER and await self._has_more(blog, reader):
            from mobbet.actions import reading

            rendered = await asyncio.to_thread(reading.page_for, self._workshop, blog, reader, path)
            if rendered is not None:
                await self._send_private(scope, send, headers, blog, path, rendered)
                return
        body = self._cache.get((blog.id, path))
        if body is None:
            body = await asyncio.to_thread(self._load, blog, path)
        if body is not None and not may_read(body.row.audience, reader) and _asks(body.row):
            await self._ask(scope, send, blog, body.row, reader)
        elif body is None or not may_read(body.row.audience, reader):
            await self._elsewhere(scope, send, reader, blog, path)
        elif body.row.leads_to:
            self._tally.count(blog.id, path, True)
            await self._lead_on(scope, send, blog, _with_word(body.row.leads_to, query))
        else:
            if (
                body.row.type.startswith("text/html")
                and scope["method"] == "GET"
                and MEMBER not in headers.get(b"cookie", b"")
            ):
                self._tally.count(blog.id, path, True)
                self._tally.count_opened(blog.id, path, scope, headers)
            if MEMBER in headers.get(b"cookie", b"") and body.row.type.startswith("text/html"):
                page = await asyncio.to_thread(self._with_strip, headers, blog, path, body.encodings[b""])
                if page is not None:
                    await self._send_own(scope, send, page)
                    return
            elif path == END_PATH and scope["method"] == "GET" and MEMBER not in headers.get(b"cookie", b""):
                self._tally.count_opened(blog.id, path, scope, headers)
            await self._send_page(scope, send, headers, body)

    async def _count_elsewhere(
        self, scope: Scope, send: Send, headers: dict[bytes, bytes], blog: Blog, path: str
    ) -> None:
        """Counts a page that stands elsewhere and asks for it; which page they came from stays unknown, since that page itself is what asks."""
        if blog.counts_reads and scope["method"] == "GET" and MEMBER not in headers.get(b"cookie", b""):
            self._tally.count_opened(blog.id, path, scope, {**headers, b"referer": blog.home.encode()})
        told = [(b"content-type", b"image/gif"), (b"cache-control", KEEP_PRIVATE), SHARED]
        await _send(send, scope, 200, told, DOT)

    async def _send_found(self, scope: Scope, send: Send, blog: Blog, reader: Reader, query: str) -> None:
        """What a search finds for this reader; kept by nobody."""
        from mobbet.web.public.searching import answer

        scope[DRAWN] = True
        status, page, missed = await asyncio.to_thread(
            answer, self._workshop, blog, reader, f"{place_of(scope).root}/", query
        )
        if missed and scope["method"] == "GET":
            self._tally.count_missed(blog.id, missed)
        told = [
            (b"content-type", b"text/html; charset=utf-8"),
            (b"cache-control", KEEP_PRIVATE),
            (b"x-robots-tag", b"noindex"),
            *COMMON,
            OWN,
        ]
        await _send(send, scope, status, [*told, (b"content-security-policy", SITE_POLICY.encode())], page)

    def _with_strip(self, headers: dict[bytes, bytes], blog: Blog, path: str, page: bytes) -> bytes | None:
        """A page for somebody who works on the blog; None for anybody else."""
        from mobbet.web.public.strip import with_strip

        row = editions.page_at(self._workshop.db, blog.id, path)
        return with_strip(self._workshop, blog, cookies.of_headers(headers), row.key if row else None, page)

    async def _send_own(self, scope: Scope, send: Send, page: bytes) -> None:
        """A page that is for one person, and that no browser keeps."""
        told = [
            (b"cache-control", KEEP_PRIVATE),
            *COMMON,
            OWN,
            *shown_headers("text/html; charset=utf-8", False, SITE_POLICY, page),
        ]
        await _send(send, scope, 200, told, page)

    async def _lead_on(self, scope: Scope, send: Send, blog: Blog, target: str) -> None:
        location = target if "://" in target else place_of(scope).root + target
        await _send(
            send,
            scope,
            301,
            [
                (b"location", quote(location, safe=":/?&=#%+~@!,;$'()*").encode()),
                (b"cache-control", ASK_AGAIN),
            ],
            b"",
        )

    async def _reader(self, blog: Blog, headers: dict[bytes, bytes]) -> Reader:
        if b"mobbet_" not in headers.get(b"cookie", b""):
            return STRANGER
        return await asyncio.to_thread(reader_of_request, self._workshop, blog, cookies.of_headers(headers))

    async def _has_more(self, blog: Blog, reader: Reader) -> bool:
        """Whether lists hold more for this reader than for everyone; asked anew when something was committed."""
        key = (blog.id, list_audiences(reader))
        if key not in self._with_more:
            from mobbet.actions import reading

            self._with_more[key] = await asyncio.to_thread(reading.has_more, self._workshop, blog, reader)
        return self._with_more[key]

    async def _send_private(
        self, scope: Scope, send: Send, headers: dict[bytes, bytes], blog: Blog, path: str, rendered: Rendered
    ) -> None:
        """What is made for a reader who may see more than a stranger; with the strip, if they work on the blog."""
        if (
            rendered.type.startswith("text/html")
            and scope["method"] == "GET"
            and MEMBER not in headers.get(b"cookie", b"")
        ):
            self._tally.count_opened(blog.id, path, scope, headers)
        if MEMBER in headers.get(b"cookie", b"") and rendered.type.startswith("text/html"):
            page = await asyncio.to_thread(self._with_strip, headers, blog, path, rendered.body)
            if page is not None:
                await self._send_own(scope, send, page)
                return
        told = [
            (b"cache-control", KEEP_PRIVATE),
            *COMMON,
            OWN,
            *shown_headers(rendered.type, rendered.is_download, page=rendered.body),
        ]
        await _send(send, scope, 200, told, rendered.body)

    async def _ask(self, scope: Scope, send: Send, blog: Blog, row: PageRow, reader: Reader) -> None:
        """Asks a reader to sign in, or for the password; tells nothing of what stands there."""
        from mobbet.publish.reader_forms import Ask, ask_page

        kind = (
            "password"
            if row.audience.startswith("password:")
            else "other"
            if reader.is_signed_in
            else "enter"
        )
        page = await asyncio.to_thread(
            ask_page,
            self._workshop.db,
            blog,
            f"{place_of(scope).root}/",
            self._workshop.clock(),
            Ask(kind, row.path),
        )
        told = [
            (b"content-type", b"text/html; charset=utf-8"),
            (b"cache-control", KEEP_PRIVATE),
            *COMMON,
            OWN,
        ]
        await _send(
            send,
            scope,
            403 if kind == "other" else 401,
            [*told, (b"content-security-policy", SITE_POLICY.encode())],
            page,
        )

    async def _send_page(self, scope: Scope, send: Send, headers: dict[bytes, bytes], body: Body) -> None:
        encoding = best_encoding(headers.get(b"accept-encoding", b""), body.encodings)
        if body.row.is_made_on_request:
            scope[DRAWN] = True
        if is_same(headers.get(b"if-none-match", b""), body.etag):
            await _send(send, scope, 304, keep_headers(body, encoding), b"")
        elif body.row.shelf == "media":
            await self._send_media(
                scope, send, headers, body, [*keep_headers(body, encoding), *type_headers(body)]
            )
        else:
            answer, sent = whole_answer(body, headers.get(b"accept-encoding", b""))
            await _send(send, scope, 200, answer[:-1], sent)

    async def _send_media(
        self, scope: Scope, send: Send, headers: dict[bytes, bytes], body: Body, answer: Headers
    ) -> None:
        """A file of the library, or the part of it that a player asks for."""
        answer.append((b"accept-ranges", b"bytes"))
        asked = headers.get(b"range") if headers.get(b"if-range", body.etag) == body.etag else None
        part = part_of(asked, body.length) if asked else None
        if part == ():
            await _send(send, scope, 416, [*answer, (b"content-range", b"bytes */%d" % body.length)], b"")
            return
        first, last = part or (0, body.length - 1)
        if part:
            answer.append((b"content-range", b"bytes %d-%d/%d" % (first, last, body.length)))
        answer.append((b"content-length", str(last - first + 1).encode()))
        await send({"type": "http.response.start", "status": 206 if part else 200, "headers": answer})
        if scope["method"] == "HEAD" or body.file is None:
            sent = b"" if scope["method"] == "HEAD" else body.encodings[b""][first : last + 1]
            await send({"type": "http.response.body", "body": sent})
            return
        with body.file.open("rb") as file:
            file.seek(first)
            left = last - first + 1
            while left:
                chunk = await asyncio.to_thread(file.read, min(CHUNK, left))
                left = left - len(chunk) if chunk else 0
                await send({"type": "http.response.body", "body": chunk, "more_body": left > 0})

    async def _elsewhere(self, scope: Scope, send: Send, reader: Reader, blog: Blog, path: str) -> None:
        """The way to where a page is now; 410 for one that was taken down; the not-found page."""
        answer = await asyncio.to_thread(addresses.resolve, self._workshop, blog, path)
        if (
            answer.kind in (addresses.PAGE, addresses.REDIRECT)
            and answer.path != path
            and await self._is_open(reader, blog, answer.path)
        ):
            self._tally.count(blog.id, one_form(path), True)
            await self._lead_on(scope, send, blog, answer.path)
            return
        is_gone = answer.kind == addresses.GONE
        self._tally.count(blog.id, one_form(path), is_gone)
        async with self._telling:
            page = None if is_gone else self._missing.get((blog.id, place_of(scope).root))
            page = page or await asyncio.to_thread(
                self._told, blog, place_of(scope).root, answer.post if is_gone else None, is_gone
            )
        told = [(b"content-type", b"text/html; charset=utf-8"), (b"cache-control", b"no-cache"), *COMMON]
        await _send(
            send,
            scope,
            410 if is_gone else 404,
            [*told, (b"content-security-policy", SITE_POLICY.encode())],
            page or b"",
        )

    async def _is_open(self, reader: Reader, blog: Blog, path: str) -> bool:
        """Whether this reader may have what an address leads to, so that nothing is told of what they may not read."""
        if "://" in path:
            return True
        row = await asyncio.to_thread(editions.page_at, self._workshop.db, blog.id, path)
        return row is not None and may_read(row.audience, reader)

    def _told(self, blog: Blog, root: str, post_id: int | None, is_gone: bool) -> bytes:
        from mobbet.web.public.made_pages import gone_page, not_found_page

        if is_gone:
            return gone_page(self._workshop, blog, root, post_id)
        self._missing[blog.id, root] = not_found_page(self._workshop, blog, root)
        return self._missing[blog.id, root]

    def _blog(self, slug: str) -> Blog | None:
        self._refresh()
        found = self._blogs.get(slug)
        return found[0] if found else None

    def _refresh(self) -> None:
        now = time.monotonic()
        if now < self._look_again and not self._is_stale.is_set():
            return
        self._look_again = now + REFRESHED
        self._is_stale.clear()
        db = self._workshop.db
        version = db.version()
        if version == self._version:
            return
        self._version = version
        self._with_query = addresses.blogs_with_queries(db)
        self._with_more = {}
        known = {blog.slug: (blog, editions.current_number(db, blog.id)) for blog in blogs.every(db)}
        if known != self._blogs:
            self._blogs = known
            self._homes = frozenset(split_address(blog.home).hostname or "" for blog, _ in known.values())
            self._missing = {}
            self._cache = OrderedDict()
            self._cached_bytes = 0

    def _load(self, blog: Blog, path: str) -> Body | None:
        cache, db, blog_id = self._cache, self._workshop.db, blog.id
        row = editions.page_at(db, blog_id, path)
        if row is None and path.startswith("/assets/"):
            row = editions.last_page_at(
                db, blog_id, path
            )  # a page of an older edition may still be on a reader's screen
        if row is None:
            return None
        shelf = self._workshop.media if row.shelf == "media" else self._workshop.pages
        etag = b'"' + row.hash[:32].encode() + b'"'
        if (
            row.shelf == "media"
            and shelf.has(row.hash)
            and (size := shelf.path(row.hash).stat().st_size) > LARGE
        ):
            return Body(row, etag, {}, shelf.path(row.hash), size)
        plain = (
            b""
            if row.leads_to
            else self._drawn(blog, row)
            if row.is_made_on_request
            else shelf.read(row.hash)
        )
        if plain is None:
            return None
        encodings = {b"": plain} if row.is_made_on_request else {b"": plain, **packed(row.type, plain)}
        body = Body(row, etag, encodings, length=len(plain))
        if cache is self._cache and body.size < CACHE_BYTES // 8:
            self._keep(blog_id, path, body)
        return body

    def _drawn(self, blog: Blog, row: PageRow) -> bytes | None:
        from mobbet.web.public.made_pages import share_card

        return share_card(self._workshop, blog, row)

    def _keep(self, blog_id: int, path: str, body: Body) -> None:
        with self._keeping:
            earlier = self._cache.pop((blog_id, path), None)
            self._cache[(blog_id, path)] = body
            self._cached_bytes += body.size - (earlier.size if earlier else 0)
            while self._cached_bytes > CACHE_BYTES and self._cache:
                _, oldest = self._cache.popitem(last=False)
                self._cached_bytes -= oldest.size


def _with_word(target: str, query: str) -> str:
    """Where an address leads to, with the word that says where its readers come from (`core/read_counts.py`), so that it is counted there."""
    words = own_words(query)
    return f"{target}?{urlencode({'from': words})}" if words and "?" not in target else target


def _asks(row: PageRow) -> bool:
    """Whether a reader who may not have this page is asked who they are; what is for one person alone, or has a short address, is not told of."""
    return (
        row.type.startswith("text/html") and row.leads_to is None and not row.audience.startswith("person:")
    )


async def _send(
    send: Send, scope: Scope, status: int, headers: list[tuple[bytes, bytes]], body: bytes
) -> None:
    headers = with_headers(headers, COMMON)
    if status != 304:  # whose headers replace those of what the browser has
        headers = [*with_headers(headers, [PLAIN_POLICY]), (b"content-length", str(len(body)).encode())]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": b"" if scope["method"] == "HEAD" else body})
