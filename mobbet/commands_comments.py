"""The command about comments."""

from __future__ import annotations

from argparse import Namespace

from mobbet.actions import comments
from mobbet.commands import at_work, report
from mobbet.core.comments import STATES
from mobbet.core.errors import BadInput
from mobbet.core.timing import iso
from mobbet.store import comments as store
from mobbet.store import posts

NEWEST = 1 << 60


def comment_list(options: Namespace) -> None:
    """The newest comments of a state."""
    workshop, person, blog = at_work(options)
    if options.state not in STATES:
        raise BadInput(f"“{options.state}” is nothing a comment can be; write one of: {', '.join(STATES)}.", "--state")
    author = comments.mine(workshop, person, blog)
    rows = store.page(workshop.db, blog.id, options.state, 0, author, NEWEST, options.limit)
    facts = [{"id": row.id, "post": row.post_id, "answers": row.answers, "name": row.name, "text": row.text, "state": row.state, "made_at": iso(row.made_at)} for row in rows]
    lines = [f"{row.id:>6}  {row.name}, under “{posts.by_id(workshop.db, row.post_id).title}”: {' '.join(row.text.split())}" for row in rows]
    report(options, {"comments": facts, "counts": store.counts(workshop.db, blog.id, 0, author)}, "\n".join(lines) or f"No comment is {STATES[options.state]}.")


def comment_settle(options: Namespace) -> None:
    """Shows, refuses or takes back comments by number."""
    workshop, person, blog = at_work(options)
    become = {"show": "shown", "refuse": "refused", "take-back": "waits"}[options.what]
    count = comments.settle(workshop, person, blog.slug, options.ids, become)
    report(options, {"settled": count, "state": become}, f"{count} {'is' if count == 1 else 'are'} {STATES[become]} now.")


def comment_remove(options: Namespace) -> None:
    """Removes comments for good."""
    workshop, person, blog = at_work(options)
    count = comments.remove(workshop, person, blog.slug, options.ids)
    report(options, {"removed": count}, f"{count} removed for good.")


def comment_rule(options: Namespace) -> None:
    """Says who may comment and which comments wait, or changes it."""
    workshop, person, blog = at_work(options)
    if options.who is not None:
        comments.set_rule(workshop, person, blog.slug, "" if options.who == "nobody" else options.who, options.waiting)
        blog = at_work(options)[2]
    report(options, {"who": blog.comments or "nobody", "waiting": blog.comments_wait}, f"{(blog.comments or 'nobody').capitalize()} may comment; {blog.comments_wait} of it waits.")
