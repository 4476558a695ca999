"""The picture that loads late at the end of a text: a request for it says that somebody read that far, without a script and without a cookie.

It is one dot that nobody sees. The number of the post is its query, so that servers of files have it in their logs.
"""

from __future__ import annotations

from base64 import b64decode

from mobbet.core.keys import PageKey
from mobbet.core.read_counts import END_PATH
from mobbet.publish import house_parts
from mobbet.publish.page_kind import PageKind
from mobbet.publish.pages.missing import OTHER
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.values import Page

KEY = PageKey("end/")
DOT = b64decode("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7")
"""A transparent GIF of one pixel."""


def page(plan: Plan, key: PageKey) -> Page:
    return Page(key, END_PATH, "end", [], None)


KIND = PageKind(
    name="end",
    page=page,
    recipes={"end": lambda renderer, page: Rendered("image/gif", DOT)},
    fixed=lambda: (KEY,),
    at=lambda plan, path: KEY if path == END_PATH else None,
    groups=(OTHER,),
    shows_of_house=house_parts.NONE,
)
