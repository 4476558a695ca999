"""The pages of a site that ask: for a password, for an e-mail address, for a press of a button."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.publish.pages import Renderer
from mobbet.publish.values import Page
from mobbet.store.blogs import Blog
from mobbet.store.database import Database
from mobbet.store.snapshot import SiteSnapshot


@dataclass(frozen=True)
class Ask:
    """What is asked: `kind` is 'password', 'enter', 'sent', 'link' or 'other'; `path` is where the reader wants to go."""

    kind: str
    path: str
    email: str = ""
    token: str = ""
    message: str = ""


def ask_page(db: Database, blog: Blog, root: str, now: int, ask: Ask) -> bytes:
    """Such a page, for the place where this server has the blog (`root` ends in a slash)."""
    snapshot = SiteSnapshot(db, blog.id, now)
    return Renderer(snapshot.house, snapshot.item, root=root).render(Page("ask/", ask.path, "ask", None, ask)).body
