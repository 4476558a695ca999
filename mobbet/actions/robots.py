"""The guard against robots: what it thinks of a comment, and how it learns from what the blog's people show and refuse."""

from __future__ import annotations

from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import robots
from mobbet.core.alike import counted_words
from mobbet.core.audience import Reader
from mobbet.core.comments import REFUSED, SHOWN, WAITS
from mobbet.core.errors import BadInput, Broken
from mobbet.core.facts import OutPost
from mobbet.core.robots import Manner, Suspicion
from mobbet.services.vault import Vault
from mobbet.store import blogs, comments, robot_signs
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.people import Person

WEEK, FLOOD_SECONDS, FLOOD = 7 * 86400, 600, 20
"""When so many comments of strangers come under one post within FLOOD_SECONDS, further ones wait."""
LONGEST_FORM, LONGEST_SIGN = 86400, 300
ROBOT, HUMAN = "robot", "person"


def form_sign(workshop: Workshop, post_id: int) -> str:
    """What a form carries along of when it was opened, sealed, so that nobody can say otherwise."""
    return Vault(workshop.settings.sealing_key).seal(str(workshop.clock()), _about(post_id))


def _about(post_id: int) -> str:
    return f"comment form {post_id}"


def seconds_on_form(workshop: Workshop, post_id: int, sign: str) -> int | None:
    """How long a form was open; None where its sign is missing, another one's or of long ago."""
    try:
        opened = Vault(workshop.settings.sealing_key).open(sign[:LONGEST_SIGN], _about(post_id))
    except (Broken, ValueError):
        return None
    passed = workshop.clock() - int(opened)
    return passed if 0 <= passed <= LONGEST_FORM else None


def judge(
    workshop: Workshop, blog: Blog, post: OutPost, reader: Reader, name: str, email: str, text: str, seconds: int | None, is_trapped: bool,
) -> Suspicion:  # fmt: skip
    """What the guard thinks of a comment; nothing where the blog has none, or of those who work on it."""
    if blog.guard == robots.OFF or reader.works_here:
        return Suspicion(0.0)
    db, now = workshop.db, workshop.clock()
    manner = Manner(
        seconds,
        is_trapped,
        robot_signs.refused_alike(db, blog.id, robots.fingerprint(text), now - WEEK),
        robot_signs.is_known(db, blog.id, name, email),
        reader.is_signed_in,
        frozenset(counted_words(post.title, post.subtitle, post.language or blog.language)),
    )
    found = robots.suspicion(
        name, text, manner, robot_signs.learned(db, blog.id, robots.signs_of(name, text))
    )
    if (
        not found.looks_like_one
        and not reader.is_signed_in
        and robot_signs.under_lately(db, post.id, now - FLOOD_SECONDS) >= FLOOD
    ):
        return Suspicion(robots.BAR, ("very many came under this post at once",))
    return found


def state_of(blog: Blog, found: Suspicion, otherwise: str) -> str:
    """What becomes of a comment: as it would be otherwise, or waiting, or refused where the owner lets the guard go so far."""
    if blog.guard == robots.REFUSE and found.is_sure:
        return REFUSED
    return WAITS if found.looks_like_one and otherwise == SHOWN else otherwise


def learn(workshop: Workshop, blog: Blog, chosen: list[Comment], state: str) -> None:
    """Learns from what became of comments; what it learned of them before is taken back first. In the unit of work that settles them."""
    lesson = {SHOWN: HUMAN, REFUSED: ROBOT, WAITS: ""}[state]
    for one in chosen:
        if one.is_ours or one.learned == lesson:
            continue
        signs = robots.signs_of(one.name, one.text)
        for what, step in ((one.learned, -1), (lesson, 1)):
            if what:
                robot_signs.learn(workshop.db, blog.id, signs, step * (what == ROBOT), step * (what == HUMAN))
        comments.set_learned(workshop.db, one.id, lesson)


def set_guard(workshop: Workshop, person: Person, slug: str, guard: str) -> None:
    """What the guard does on a blog. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    if guard not in robots.WAYS:
        raise BadInput(f"“{guard[:20]}” is nothing the guard does; choose {', '.join(robots.WAYS)}.", "guard")
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, guard=guard)
