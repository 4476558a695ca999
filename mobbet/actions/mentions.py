"""Webmentions (W3C): pages elsewhere that link here are looked at and stand as comments that wait; links in posts are told to the places that take mentions.

Both are done in the background, one page at a time.
"""

from __future__ import annotations

import json

from mobbet.actions import addresses
from mobbet.actions.access import owned_blog
from mobbet.actions.pacing import count_try, network
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.blocklist import blocked_by
from mobbet.core.comments import REFUSED, WAITS
from mobbet.core.document.mentions import outside_addresses
from mobbet.core.errors import BadInput, MobbetError, Refused
from mobbet.core.letters import pause_after
from mobbet.core.robots import fingerprint
from mobbet.core.values import existing
from mobbet.core.web_addresses import split_address
from mobbet.core.webmention import MOST_TARGETS, Said, endpoint_in, is_web_address, links_to, said_by
from mobbet.services.contracts import OtherPage
from mobbet.store import blogs, comments, placements, stale
from mobbet.store import mentions as store
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.mentions import Mention, MentionOut
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

AT_ONCE, MOST_WAITING, MOST_TRIES = 5, 500, 4
SECONDS = 5.0
AGAIN, SINCE = 7 * 86400, 3 * 86400
"""In seconds: after which a page that mentions is looked at once more, and how old a placement may be whose links are told."""
GONE = (404, 410)


def receive(workshop: Workshop, blog: Blog, source: str, target: str, address: str) -> None:
    """Takes note of a page that is said to link to one of this blog; it is looked at later. Raises BadInput, Refused, TooSoon."""
    if not blog.mentions:
        raise Refused("This blog takes no mentions.")
    count_try(workshop, ("mention", str(blog.id)), network(address))
    source, target = source.strip(), target.strip()
    if not is_web_address(source) or not is_web_address(target):
        raise BadInput("Send “source” and “target” as addresses of pages.", "source")
    if source.partition("#")[0] == target.partition("#")[0]:
        raise BadInput("“source” and “target” are the same page.", "source")
    post_id = _post_at(workshop, blog, target)
    if post_id is None:
        raise BadInput(f"“{target[:120]}” is no post here that takes mentions.", "target")
    with changing(workshop):
        known = store.of_source(workshop.db, post_id, source)
        if known is None and store.count_asked(workshop.db, blog.id) >= MOST_WAITING:
            raise Refused("Too many mentions wait to be looked at; try again later.")
        store.ask(workshop.db, blog.id, post_id, source, target, workshop.clock())


def _post_at(workshop: Workshop, blog: Blog, target: str) -> int | None:
    """The post for everyone to which an address leads; None for any other."""
    home, parts = split_address(blog.home), split_address(target)
    hosts = {home.hostname, blog.host, split_address(blog.server).hostname if blog.server else None} - {None}
    if parts.hostname not in hosts or not parts.path.startswith(
        home.path if parts.hostname == home.hostname else "/"
    ):
        return None
    path = "/" + parts.path[len(home.path) :].lstrip("/") if parts.hostname == home.hostname else parts.path
    found = addresses.resolve(workshop, blog, path)
    path = (
        found.path
        if found.kind in (addresses.PAGE, addresses.REDIRECT) and found.path.startswith("/")
        else path
    )
    snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
    owner = snapshot.address_owner(path)
    post = snapshot.post(owner.number) if owner and owner.kind == "post" else None
    return post.id if post and post.audience == EVERYONE else None


def look_at_some(workshop: Workshop) -> int:
    """Looks at pages that mention posts; answers with how many."""
    found = store.due(workshop.db, workshop.clock(), AT_ONCE)
    for mention in found:
        _look(workshop, mention)
    return len(found)


def _look(workshop: Workshop, mention: Mention) -> None:
    """Looks whether a page links to the post, and has the comment that stands for it follow."""
    now, tries = workshop.clock(), mention.tries + 1
    try:
        page = workshop.services.pages.get(mention.source)
        if page.status not in (200, *GONE):
            raise Refused(f"it answered with {page.status}")
        said = _said(workshop, mention, page)
    except MobbetError:
        is_over = tries >= MOST_TRIES
        with changing(workshop):
            state = "gone" if is_over and mention.state == "asked" else mention.state
            store.settle(
                workshop.db, mention.id, state, tries, now + (AGAIN if is_over else pause_after(tries))
            )
        return
    blog = existing(blogs.by_id(workshop.db, mention.blog_id))
    with changing(workshop, why="a page that mentions a post was looked at"):
        if said is None:
            number = store.comment_of(workshop.db, mention.post_id, mention.source)
            if number:
                comments.remove(workshop.db, [number])
                stale.mark_fact(workshop.db, blog.id, "comments", mention.post_id)
            store.settle(workshop.db, mention.id, "gone", 0, now)
        else:
            _keep(workshop, blog, mention, said)
            store.settle(workshop.db, mention.id, "known", 0, now + AGAIN)


def _said(workshop: Workshop, mention: Mention, page: OtherPage) -> Said | None:
    """What the page says that mentions; None where it does not link to the post (any more)."""
    if page.status in GONE or page.type not in ("text/html", "application/xhtml+xml"):
        return None
    heavy, what = workshop.services.heavy, "The page that mentions"
    if not heavy(links_to, page.body, page.address, mention.target, seconds=SECONDS, what=what):
        return None
    said: Said = heavy(said_by, page.body, page.address, seconds=SECONDS, what=what)
    return said


def _keep(workshop: Workshop, blog: Blog, mention: Mention, said: Said) -> None:
    """The comment that stands for a mention: it waits, and again when its words became others."""
    number = store.comment_of(workshop.db, mention.post_id, mention.source)
    known = comments.one(workshop.db, number) if number else None
    if known is not None and known.text == said.text:
        return
    host = split_address(mention.source).hostname or ""
    blocked = blocked_by(
        json.loads(blog.blocklist), f"{said.name} {host}", "", f"{said.text} {mention.source}"
    )
    state, why = (REFUSED, f"Has “{blocked}”, which is refused for good.") if blocked else (WAITS, "")
    made = Comment(
        0, blog.id, mention.post_id, None, None, 0, said.name, "", said.text, state, workshop.clock(), None, 0.0, why, fingerprint(said.text),
        source=mention.source, address=said.address,
    )  # fmt: skip
    if known is None:
        comments.add(workshop.db, made)
        return
    comments.rewrite(workshop.db, known.id, said.text, state, why, made.fingerprint)
    stale.mark_fact(workshop.db, blog.id, "comments", mention.post_id)


def tell_some(workshop: Workshop) -> int:
    """Has the links of posts that went out, were updated or withdrawn told, and tells some; answers with how many places were asked."""
    db, now = workshop.db, workshop.clock()
    for blog_id, post_id, placement_id in store.posts_to_tell(db, now - SINCE, now, AT_ONCE):
        _have_told(workshop, blog_id, post_id, placement_id)
    for _, post_id in store.posts_withdrawn(db, now, AT_ONCE):
        with changing(workshop):
            store.tell(db, post_id, [], now)
            store.set_told(db, post_id, 0)
    found = store.to_tell(db, now, AT_ONCE)
    for one in found:
        _tell(workshop, one)
    return len(found)


def _have_told(workshop: Workshop, blog_id: int, post_id: int, placement_id: int) -> None:
    """Notes the places to which a post leads, to be told once each."""
    blog, snapshot = (
        existing(blogs.by_id(workshop.db, blog_id)),
        SiteSnapshot(workshop.db, blog_id, workshop.clock()),
    )
    post = snapshot.post(post_id)
    own = {split_address(blog.home).hostname, blog.host}
    targets = outside_addresses(snapshot.body(post)) if post else ()
    wanted = [one for one in targets if is_web_address(one) and split_address(one).hostname not in own]
    with changing(workshop):
        store.tell(workshop.db, post_id, wanted[:MOST_TARGETS], workshop.clock())
        store.set_told(workshop.db, post_id, placement_id)


def _tell(workshop: Workshop, one: MentionOut) -> None:
    """Asks a place whether it takes mentions, and tells it of the post."""
    db, now = workshop.db, workshop.clock()
    source = _address_of(workshop, one.post_id)
    try:
        page = workshop.services.pages.get(one.target)
        endpoint = workshop.services.heavy(
            endpoint_in, page.body, page.links, page.address, seconds=SECONDS, what="The page"
        )
        if not endpoint or not source:
            state, problem = "none", ""
        else:
            answer = workshop.services.pages.post(endpoint, {"source": source, "target": one.target})
            if not 200 <= answer.status < 300:
                raise Refused(f"It answered with {answer.status}.")
            state, problem = "told", ""
    except MobbetError as error:
        is_over = one.tries + 1 >= MOST_TRIES
        state, problem = "failed" if is_over else "waiting", str(error)
    with changing(workshop):
        store.settle_out(db, one, state, one.tries + 1, now + pause_after(one.tries), problem[:300])


def _address_of(workshop: Workshop, post_id: int) -> str:
    """Where a post is, or was last."""
    rows = placements.of_post(workshop.db, post_id)
    blog = blogs.by_id(workshop.db, rows[-1].blog_id) if rows else None
    shown = placements.shown_at(rows, workshop.clock()) or (rows[-1] if rows else None)
    return blog.home + shown.path[1:] if blog and shown else ""


def set_mentions(workshop: Workshop, person: Person, slug: str, is_on: bool) -> None:
    """Whether links are told to other sites, and theirs are taken. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person, "mentions of other sites were changed") as unit:
        blogs.settle(workshop.db, blog.id, mentions="on" if is_on else "")
        unit.must_publish(blog.id)
