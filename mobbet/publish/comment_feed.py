"""The feed of comments, of one post or of all (Atom, RFC 4287; threads by RFC 4685)."""

from __future__ import annotations

from collections.abc import Iterable
from xml.etree import ElementTree

from mobbet.core.comments import html_of
from mobbet.core.timing import iso
from mobbet.publish.feeds import ATOM
from mobbet.publish.xml import add, to_bytes
from mobbet.store.comments import Comment

THREADS = "http://purl.org/syndication/thread/1.0"
TYPE = "application/atom+xml; charset=utf-8"

ElementTree.register_namespace("thr", THREADS)


def comment_feed(title: str, home: str, own: str, rows: Iterable[tuple[Comment, str, str]]) -> bytes:
    """A feed at `own` of (comment, title of its post, address of its post), the newest first; `home` is the blog's address."""
    known = list(rows)
    root = ElementTree.Element("feed", xmlns=ATOM)
    add(root, "id", own)
    add(root, "title", title)
    add(root, "link", rel="self", type="application/atom+xml", href=own)
    add(root, "link", rel="alternate", type="text/html", href=home)
    add(root, "updated", iso(max((one.made_at for one, _, _ in known), default=0)))
    for comment, about, address in known:
        entry = add(root, "entry")
        add(entry, "id", f"{home}#comment-{comment.id}")
        add(entry, "title", f"{comment.name} on {about}")
        add(entry, "link", rel="alternate", type="text/html", href=f"{address}#comment-{comment.id}")
        add(entry, "published", iso(comment.made_at))
        add(entry, "updated", iso(comment.made_at))
        add(add(entry, "author"), "name", comment.name)
        add(entry, "content", html_of(comment.text), type="html")
        ref = f"{home}#comment-{comment.answers}" if comment.answers else f"{home}#post-{comment.post_id}"
        add(entry, f"{{{THREADS}}}in-reply-to", ref=ref, href=address)
    return to_bytes(root)
