"""Answers searches on the published sites."""

from __future__ import annotations

from urllib.parse import parse_qs

from mobbet.actions import site_search
from mobbet.actions.site_search import Asked, Found
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import Reader
from mobbet.core.errors import TooMuch
from mobbet.core.searching import LONGEST
from mobbet.publish.reader_forms import search_page
from mobbet.store.blogs import Blog

MOST_FIELDS = 20


def answer(workshop: Workshop, blog: Blog, reader: Reader, root: str, query: str) -> tuple[int, bytes, str]:
    """(status, page, words to count as not found) for the query of an address."""
    asked = asked_of(query)
    try:
        found = site_search.find(workshop, blog, reader, asked)
    except TooMuch as error:
        found = Found(asked, problem=str(error))
        return 503, search_page(workshop.db, blog, root, workshop.clock(), reader, found), ""
    page = search_page(workshop.db, blog, root, workshop.clock(), reader, found)
    return 200, page, site_search.missed_words(found)


def asked_of(query: str) -> Asked:
    """What the query of an address asks for; what cannot be meant is left out."""
    try:
        fields = parse_qs(query, max_num_fields=MOST_FIELDS)
    except ValueError:
        fields = {}
    words, category, tag, number = (
        fields.get(name, [""])[0].strip()[:LONGEST] for name in ("q", "in", "tag", "page")
    )
    is_number = number.isascii() and number.isdecimal() and 0 < len(number) < 4
    return Asked(words, category, tag, max(1, int(number)) if is_number else 1)
