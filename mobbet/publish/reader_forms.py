"""Forms on the public site: for a password, an e-mail address, a comment, a button to press."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.asking import Counted
from mobbet.core.audience import Reader
from mobbet.core.facts import Comment
from mobbet.core.keys import PageKey
from mobbet.publish.pages.search import results_page
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import Renderer
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


@dataclass(frozen=True)
class CommentForm:
    """What the page shows on which a reader writes a comment, and what was typed; with `told` it only tells what became of it.

    `who` is the name of somebody who is signed in, `waits` whether the comment is read before others see it.
    """

    post_id: int
    title: str
    path: str
    who: str
    waits: bool
    name: str = ""
    email: str = ""
    text: str = ""
    message: str = ""
    told: str = ""
    sign: str = ""
    """Says when the form was opened."""
    answers: int = 0
    answered: str = ""
    """The comment that is answered: its number, and who wrote it."""
    can_tell: bool = False
    tells: str = ""
    """Whether answers can be told of by e-mail, and whether that is wanted."""
    work: int = 0
    """How many bits of work the browser does (`core/proof_of_work.py`); 0 for none."""
    change: str = ""
    """The sign by which the comment can be changed."""


@dataclass(frozen=True)
class SendPage:
    """Where a reader sends a post on: what was typed; with `told` it only tells what became of it."""

    post_id: int
    title: str
    path: str
    name: str = ""
    email: str = ""
    message: str = ""
    told: str = ""


def send_page(db: Database, blog: Blog, root: str, now: int, shown: SendPage) -> bytes:
    """Such a page, for the place where this server has the blog."""
    return _rendered(db, blog, root, now, Page(PageKey("send/"), shown.path, "send", None, shown))


@dataclass(frozen=True)
class AskedPage:
    """The questions of a post by themselves: `form` is their HTML, '' where nothing is taken; `outcome` what a poll came to, None where it is not shown."""

    title: str
    path: str
    heading: str
    form: str = ""
    outcome: list[Counted] | None = None
    message: str = ""
    told: str = ""


def asked_page(db: Database, blog: Blog, root: str, now: int, shown: AskedPage) -> bytes:
    """Such a page, for the place where this server has the blog."""
    return _rendered(db, blog, root, now, Page(PageKey("asked/"), shown.path, "asked", None, shown))


@dataclass(frozen=True)
class CommentList:
    """A page of the comments under a post: `number` of `pages`, the comments in all, and whether one may write there."""

    post_id: int
    title: str
    path: str
    number: int
    pages: int
    total: int
    comments: tuple[Comment, ...]
    may_comment: bool


def comment_list(db: Database, blog: Blog, root: str, now: int, shown: CommentList) -> bytes:
    """A further page of comments, for the place where this server has the blog."""
    return _rendered(db, blog, root, now, Page(PageKey("comments/"), shown.path, "comment_list", None, shown))


@dataclass(frozen=True)
class LettersForm:
    """A page about letters by e-mail: `kind` is 'ask', 'sent', 'own', 'ended' or 'closed'.

    `offered` are (what, words) to choose from, `rhythms` (how often, words); `rows` (what, words, how often) are a subscriber's own, `asked` (words, how often)
    what they can confirm.
    """

    kind: str
    email: str = ""
    what: str = ""
    every: str = ""
    key: str = ""
    offered: tuple[tuple[str, str], ...] = ()
    rhythms: tuple[tuple[str, str], ...] = ()
    rows: tuple[tuple[str, str, str], ...] = ()
    asked: tuple[tuple[str, str], ...] = ()
    can_confirm: bool = False
    is_on: bool = False
    is_open: bool = True
    message: str = ""
    told: str = ""


def letters_page(db: Database, blog: Blog, root: str, now: int, form: LettersForm) -> bytes:
    """A page about letters, for the place where this server has the blog."""
    return _rendered(db, blog, root, now, Page(PageKey("letters/"), "/~/letters", "letters", None, form))


def comment_page(db: Database, blog: Blog, root: str, now: int, form: CommentForm) -> bytes:
    """The page on which a comment is written, for the place where this server has the blog."""
    return _rendered(db, blog, root, now, Page(PageKey("comment/"), form.path, "comment", None, form))


def search_page(db: Database, blog: Blog, root: str, now: int, reader: Reader, found: object) -> bytes:
    """The page of the search with what was found for a reader."""
    snapshot = SiteSnapshot(db, blog.id, now, reader)
    return (
        Renderer(snapshot.house, snapshot.item, root=root).template(results_page(Plan(snapshot), found)).body
    )


def closed_page(db: Database, blog: Blog, root: str, now: int) -> bytes:
    """What everybody gets of a site that is closed to them; it tells nothing of what stands there."""
    return _rendered(db, blog, root, now, Page(PageKey("closed/"), "/", "closed", None, blog.closed))


def ask_page(db: Database, blog: Blog, root: str, now: int, ask: Ask) -> bytes:
    """Such a page, for the place where this server has the blog (`root` ends in a slash)."""
    return _rendered(db, blog, root, now, Page(PageKey("ask/"), ask.path, "ask", None, ask))


def _rendered(db: Database, blog: Blog, root: str, now: int, page: Page) -> bytes:
    """A page of a blog's look for the place where this server has the blog; `root` ends in a slash."""
    snapshot = SiteSnapshot(db, blog.id, now)
    return Renderer(snapshot.house, snapshot.item, root=root).template(page).body
