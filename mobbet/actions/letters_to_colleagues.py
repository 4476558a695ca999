"""Letters to those who work on a blog, about what they have to do with."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.core.names import one_line
from mobbet.store import readers
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

LONGEST_SUBJECT = 200


def write(
    workshop: Workshop, to: Person, blog: Blog, words: str, said: str = "", server: str = "", post_id: int = 0
) -> None:
    """A letter of one sentence, with what somebody said, and where the post is on the `server`; within a unit of work."""
    where = f"\nIt is here:\n{server.rstrip('/')}/posts/{post_id}\n" if server and post_id else ""
    text = f"Hello {to.name},\n\n{words}.\n" + (f"\n{said}\n" if said else "") + where
    subject = one_line(f"{blog.name}: {words}")[:LONGEST_SUBJECT]
    readers.add_letter(workshop.db, blog.id, to.email, subject, text, workshop.clock(), is_private=True)
