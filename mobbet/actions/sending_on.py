"""A reader sends a post on to somebody by one letter; the address is kept nowhere."""

from __future__ import annotations

from mobbet.actions.comments import post_to_comment
from mobbet.actions.pacing import count_try, network
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import sharing
from mobbet.core.audience import STRANGER
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, MobbetError, Refused
from mobbet.core.facts import OutPost
from mobbet.core.names import one_line
from mobbet.core.networks import one_client
from mobbet.publish.cards import Cards
from mobbet.services.contracts import Envelope
from mobbet.services.vault import Vault
from mobbet.store import readers
from mobbet.store.blogs import Blog
from mobbet.store.snapshot import SiteSnapshot

LONGEST_NAME = 60
KEPT = 30 * 86_400
"""In seconds: for how long it is known that somebody got a letter about a post."""
CLOSED = "This post is not sent on from here; its address can be copied."


def post_to_send(workshop: Workshop, blog: Blog, post_id: int) -> OutPost:
    """A post that readers may send on. Raises NotFound, Refused."""
    post = post_to_comment(workshop, blog, post_id, STRANGER)
    if sharing.MAIL not in blog.sharing or post.sharing == sharing.NONE:
        raise Refused(CLOSED)
    return post


def send(workshop: Workshop, blog: Blog, post_id: int, name: str, email: str, address: str) -> None:
    """Sends one letter with what lists show of a post. Raises BadInput, NotFound, Refused, TooSoon, Broken where the mail server takes none just now."""
    post = post_to_send(workshop, blog, post_id)
    email, name = read_email(email), one_line(name)
    if not 0 < len(name) <= LONGEST_NAME or "://" in name or "www." in name.lower():
        raise BadInput(
            f"Type your name in up to {LONGEST_NAME} letters, so that they know who sends it.", "name"
        )
    count_try(workshop, ("send", f"{blog.id} {one_client(address)}"), network(address))
    digest = Vault(workshop.settings.sealing_key).mac(f"send {post.id} {email.lower()}")
    with changing(workshop):
        if not readers.note_sent_on(workshop.db, digest, workshop.clock(), workshop.clock() - KEPT):
            raise Refused("This post was sent there already; nobody gets two letters about one.")
    sender = workshop.settings.mail_from or f"{blog.slug}@mobbet.invalid"
    card = Cards(SiteSnapshot(workshop.db, blog.id, workshop.clock())).of(post)
    text = (
        f"Hello,\n\n{name} read this on {blog.name} and sends it on to you:\n\n{post.title}\n{card.description}\n{blog.home}{post.path[1:]}\n\n"
        f"This is one letter; your address is kept nowhere, and no other letter follows from it.\n"
    )
    try:
        workshop.services.mail.send(
            Envelope(sender, email, one_line(f"{name} sends you: {post.title}")[:150], text)
        )
    except MobbetError:
        with changing(workshop):
            readers.forget_sent_on(workshop.db, digest)
        raise
