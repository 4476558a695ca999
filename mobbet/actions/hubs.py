"""Tells a blog's hub that its feeds are new (WebSub, W3C Recommendation, 2018)."""

from __future__ import annotations

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError, Refused
from mobbet.core.letters import pause_after
from mobbet.store import blogs, editions
from mobbet.store.blogs import Blog

MOST_FEEDS = 60


def tell_some(workshop: Workshop) -> int:
    """Tells the hubs of blogs with feeds that changed since they were told; answers with how many feeds that were.

    A hub that does not answer is told again after growing pauses.
    """
    told = 0
    for blog in blogs.every(workshop.db):
        if blog.hub and not blog.closed:
            told += _tell(workshop, blog)
    return told


def _tell(workshop: Workshop, blog: Blog) -> int:
    current, now = editions.current_number(workshop.db, blog.id), workshop.clock()
    tries, next_try = workshop.cache.get(("hub", blog.id, blog.hub), (0, 0))
    if current <= blog.hub_told or now < next_try:
        return 0
    feeds = (
        editions.feeds_since(workshop.db, blog.id, blog.hub_told, MOST_FEEDS)
        if blog.hub_told
        else ["/feed.atom"]
    )
    try:
        for path in feeds:
            answer = workshop.services.pages.post(
                blog.hub, {"hub.mode": "publish", "hub.url": blog.home + path[1:]}
            )
            if not 200 <= answer.status < 300:
                raise Refused(f"the hub answered with {answer.status}")
    except MobbetError:
        workshop.cache["hub", blog.id, blog.hub] = (tries + 1, now + pause_after(tries))
        return 0
    workshop.cache.pop(("hub", blog.id, blog.hub), None)
    with changing(workshop):
        blogs.settle(workshop.db, blog.id, hub_told=current)
    return len(feeds)
