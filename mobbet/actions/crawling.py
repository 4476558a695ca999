"""Reads the pages of an older site over the network, from one address on, under the rule for public addresses."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator
from urllib.robotparser import RobotFileParser

from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, MobbetError
from mobbet.core.importing.html_pages import links_in, read_page
from mobbet.core.importing.item import Item, NotRead
from mobbet.core.web_addresses import join_address, split_address

MOST_PAGES, LARGEST_PAGE, SECONDS, MOST_FAILURES = 20_000, 5_000_000, 20.0, 20
"""After so many failures one after the other, the site is left alone."""
AGENT = "Mobbet"
NOT_PAGES = (
    ".jpg", ".jpeg", ".png", ".gif", ".webp", ".avif", ".svg", ".ico", ".css", ".js", ".pdf", ".zip", ".mp3", ".mp4", ".webm", ".ogg", ".wav", ".xml", ".json", ".atom",
    ".rss", ".txt", ".woff", ".woff2",
)  # fmt: skip


def crawl(workshop: Workshop, start: str) -> Iterator[Item | NotRead]:
    """The pages that lead on from an address, at the same site and below the same folder, each once; what a site asks robots to leave is left.

    Raises BadInput where the first page cannot be read.
    """
    parts = split_address(start)
    if parts.scheme not in ("http", "https") or not parts.hostname:
        raise BadInput(
            f"“{start[:80]}” is no address of a site; write it whole, like https://old.example/.", "source"
        )
    robots, below = _robots(workshop, start), parts.path.rpartition("/")[0] + "/"
    waiting, seen, failures = deque([start.partition("#")[0]]), {start.partition("#")[0]}, 0
    while waiting:
        address = waiting.popleft()
        if not robots.can_fetch(AGENT, address):
            yield NotRead(address, "the site asks robots to leave it")
            continue
        try:
            body = workshop.services.fetch(address, LARGEST_PAGE).body
            links = workshop.services.heavy(links_in, body, address, seconds=SECONDS, what="The page")
            failures = 0
            yield workshop.services.heavy(read_page, body, address, seconds=SECONDS, what="The page")
        except MobbetError as error:
            failures += 1
            if len(seen) == 1:
                raise BadInput(str(error), "source") from None
            yield NotRead(address, str(error))
            if failures >= MOST_FAILURES:
                yield NotRead(
                    start,
                    f"{MOST_FAILURES} pages one after the other could not be read; run it again later, and it goes on",
                )
                return
            continue
        for link in links:
            path = split_address(link).path
            if link in seen or not path.startswith(below) or path.lower().endswith(NOT_PAGES):
                continue
            if len(seen) >= MOST_PAGES:
                yield NotRead(link, f"a site may have {MOST_PAGES:,} pages; begin at a part of it")
                return
            seen.add(link)
            waiting.append(link)


def _robots(workshop: Workshop, start: str) -> RobotFileParser:
    """What the site asks robots to leave; nothing where it does not say."""
    rules = RobotFileParser()
    try:
        text = workshop.services.fetch(join_address(start, "/robots.txt"), 500_000).body.decode(
            "utf-8", "replace"
        )
    except MobbetError:
        text = ""
    rules.parse(text.splitlines())
    return rules
