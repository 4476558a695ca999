"""Tells other programs what happens on a blog: signed, tried again where they do not answer, and shown."""

from __future__ import annotations

import json
import os

from mobbet.actions.access import owned_blog
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, MobbetError, NotFound
from mobbet.core.timing import iso
from mobbet.core.web_addresses import split_address
from mobbet.core.webhooks import EVENTS, new_secret, next_pause, signed
from mobbet.core.webmention import is_web_address
from mobbet.services.vault import Vault
from mobbet.store import blogs, editions
from mobbet.store import webhooks as store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.webhooks import Sending, Webhook

MOST, AT_ONCE, GONE = 10, 20, 410


def add(workshop: Workshop, person: Person, slug: str, address: str, events: tuple[str, ...]) -> str:
    """A new webhook; its secret, which is shown this once. Raises BadInput, NotAllowed."""
    blog, address = owned_blog(workshop, person, slug), address.strip()
    if not is_web_address(address) or split_address(address).username:
        raise BadInput(
            f"“{address[:80]}” is no address that can be told; write it whole, like https://tools.example/hook.",
            "address",
        )
    wanted = tuple(event for event in EVENTS if event in events)
    if not wanted:
        raise BadInput("It would be told of nothing; choose what.", "events")
    secret = new_secret(os.urandom(32))
    with changing(workshop, person):
        known = store.of_blog(workshop.db, blog.id)
        if len(known) >= MOST:
            raise BadInput(f"{MOST} addresses are told already; take one away first.", "address")
        if any(one.address == address for one in known):
            raise BadInput("That address is told already.", "address")
        number = store.add(
            workshop.db,
            blog.id,
            address,
            "",
            wanted,
            workshop.clock(),
            editions.current_number(workshop.db, blog.id),
        )
        store.set_secret(workshop.db, number, _vault(workshop).seal(secret, _about(number)))
        note(workshop, person, "webhook-added", blog.id, split_address(address).hostname or "")
    return secret


def _vault(workshop: Workshop) -> Vault:
    return Vault(workshop.settings.sealing_key)


def _about(number: int) -> str:
    return f"webhook {number}"


def _one(workshop: Workshop, person: Person, slug: str, number: int) -> tuple[Webhook, Blog]:
    blog = owned_blog(workshop, person, slug)
    found = store.by_id(workshop.db, number)
    if found is None or found.blog_id != blog.id:
        raise NotFound("That address is not told any more.")
    return found, blog


def remove(workshop: Workshop, person: Person, slug: str, number: int) -> None:
    """Tells an address nothing more. Raises NotFound, NotAllowed."""
    found, blog = _one(workshop, person, slug, number)
    with changing(workshop, person):
        store.remove(workshop.db, found.id)
        note(workshop, person, "webhook-removed", blog.id, split_address(found.address).hostname or "")


def send_again(workshop: Workshop, person: Person, slug: str, number: int, sending: int) -> None:
    """Has a message sent once more. Raises NotFound, NotAllowed."""
    found, _ = _one(workshop, person, slug, number)
    with changing(workshop, person):
        if not store.send_again(workshop.db, found.id, sending, workshop.clock()):
            raise NotFound("That message is not kept any more.")


def go_round(workshop: Workshop) -> int:
    """Notes what webhooks are to be told, and sends some of it; how much was done."""
    count = sum(_note(workshop, hook) for hook in store.open_ones(workshop.db))
    return count + sum(_send(workshop, one) for one in store.due(workshop.db, workshop.clock(), AT_ONCE))


def _note(workshop: Workshop, hook: Webhook) -> int:
    """Notes what happened since a webhook was told last: what is out by the newest edition, and comments that wait."""
    db, now = workshop.db, workshop.clock()
    edition = editions.current_number(db, hook.blog_id)
    waiting = store.waiting_comments(db, hook, AT_ONCE)
    if edition == hook.edition and not waiting:
        return 0
    blog = blogs.by_id(db, hook.blog_id)
    if blog is None:
        return 0
    with changing(workshop):
        changes = store.changed_posts(db, hook, now) if edition != hook.edition else []
        for change in changes:
            store.tell(db, hook, change)
            _queue(
                workshop,
                hook,
                blog,
                change["event"],
                {
                    "id": change["post_id"],
                    "title": change["title"],
                    "address": blog.home.rstrip("/") + change["path"],
                },
            )
        for number, post, title in waiting:
            _queue(workshop, hook, blog, "comment.waits", {"id": post, "title": title, "comment": number})
        store.set_seen(db, hook.id, edition, waiting[-1][0] if waiting else hook.comment_id)
    return len(changes) + len(waiting)


def _queue(workshop: Workshop, hook: Webhook, blog: Blog, event: str, post: dict[str, object]) -> None:
    if event not in hook.events:
        return
    now = workshop.clock()
    body = {"type": event, "timestamp": iso(now), "data": {"blog": blog.home, "post": post}}
    store.add_sending(workshop.db, hook.id, event, json.dumps(body, ensure_ascii=False), now)


def _send(workshop: Workshop, one: Sending) -> int:
    """Hands a message over. Whoever answers that the address is gone is told no more."""
    hook = store.by_id(workshop.db, one.webhook_id)
    if hook is None:
        return 0
    now, body = workshop.clock(), one.body.encode()
    secret = _vault(workshop).open(hook.secret, _about(hook.id))
    try:
        status = workshop.services.pages.send(hook.address, body, signed(secret, one.id, now, body))
        answer = f"answered with {status}"
    except MobbetError as error:
        status, answer = 0, str(error)
    tries = one.tries + 1
    with changing(workshop):
        if 200 <= status < 300:
            store.settle_sending(workshop.db, one.id, "sent", tries, now, answer)
        elif status == GONE:
            store.settle_sending(workshop.db, one.id, "failed", tries, now, answer)
            store.end(
                workshop.db,
                hook.id,
                "It answered that it is gone (410), and is told nothing more; add it again if it is back.",
            )
        else:
            pause = next_pause(tries)
            store.settle_sending(
                workshop.db,
                one.id,
                "failed" if pause is None else "waiting",
                tries,
                now + (pause or 0),
                answer,
            )
    return 1
