"""Announces posts at accounts of the blog elsewhere: each once, whatever happens."""

from __future__ import annotations

from mobbet.actions.access import editable_post, owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.announcing import (
    GOING,
    KINDS,
    MICROPUB,
    NONE,
    PATTERN,
    REFUSED,
    SENT,
    UNCLEAR,
    USUAL,
    WAITING,
    read_delay,
    read_longest,
    read_pattern,
    text_of,
)
from mobbet.core.audience import EVERYONE
from mobbet.core.errors import BadInput, Broken, MobbetError, NotFound, NotTaken
from mobbet.core.facts import OutPost
from mobbet.core.letters import OLDEST, pause_after
from mobbet.core.names import one_line
from mobbet.core.values import existing
from mobbet.core.webmention import is_web_address
from mobbet.publish.cards import Cards
from mobbet.publish.pictures import share_picture
from mobbet.services.contracts import Notice
from mobbet.services.vault import Vault
from mobbet.store import announcing as store
from mobbet.store import blogs, posts
from mobbet.store.announcing import Account, Announcement
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

AT_ONCE, MOST_TRIES, MOST_ACCOUNTS, LONGEST_TOKEN = 5, 6, 12, 4000


def add(
    workshop: Workshop,
    person: Person,
    slug: str,
    kind: str,
    name: str,
    address: str,
    profile: str,
    token: str,
) -> int:
    """Adds an account; posts that go out from now on are announced there. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    name = one_line(name)
    if kind not in KINDS:
        raise BadInput(f"“{kind[:20]}” is no kind of account; choose one of the list.", "kind")
    if not 0 < len(name) <= 60:
        raise BadInput("An account needs a name of one to 60 letters, by which you know it.", "name")
    if kind == MICROPUB and (
        not is_web_address(address.strip()) or not token.strip() or len(token) > LONGEST_TOKEN
    ):
        raise BadInput(
            "Type the address at which the site takes posts (its Micropub endpoint), and the token it gave you.",
            "address",
        )
    if profile.strip() and not is_web_address(profile.strip()):
        raise BadInput(
            f"“{profile[:80]}” is no address of a page; write it like https://harbour.example/@bench.",
            "profile",
        )
    if len(store.of_blog(workshop.db, blog.id)) >= MOST_ACCOUNTS:
        raise BadInput(f"There are {MOST_ACCOUNTS} accounts, which is the most; take one away first.", "name")
    sealed = Vault(workshop.settings.sealing_key).seal(token.strip(), _about(blog)) if token.strip() else ""
    with changing(workshop, person, "an account elsewhere was added") as unit:
        unit.must_publish(blog.id)  # pages name the account (rel="me")
        return store.add(
            workshop.db,
            Account(0, blog.id, kind, name, address.strip(), profile.strip(), sealed, PATTERN, USUAL, 0, workshop.clock()),
        )  # fmt: skip


def _about(blog: Blog) -> str:
    return f"account of {blog.id}"


def _account(workshop: Workshop, blog: Blog, number: int) -> Account:
    found = store.by_id(workshop.db, number)
    if found is None or found.blog_id != blog.id:
        raise NotFound("This account is no more; reload the page.")
    return found


def set_word(workshop: Workshop, person: Person, slug: str, number: int, where: str, typed: str) -> None:
    """Changes the text, its length or when it goes, of an account. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    account = _account(workshop, blog, number)
    readers = {"pattern": read_pattern, "longest": read_longest, "delay": read_delay}
    if where not in readers:
        raise BadInput(f"“{where[:20]}” is nothing of an account; choose a word on yellow.", "where")
    with changing(workshop, person):
        store.settle(workshop.db, account.id, **{where: readers[where](typed)})


def remove(workshop: Workshop, person: Person, slug: str, number: int) -> None:
    """Takes an account away; nothing is announced there any more. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    account = _account(workshop, blog, number)
    with changing(workshop, person, "an account elsewhere was taken away") as unit:
        store.remove(workshop.db, account.id)
        unit.must_publish(blog.id)


def send_again(workshop: Workshop, person: Person, slug: str, number: int, post_id: int) -> None:
    """Sends once more what was refused, or of which nobody knows whether it arrived. Only the owner may. Raises NotFound."""
    blog = owned_blog(workshop, person, slug)
    account = _account(workshop, blog, number)
    found = store.one(workshop.db, account.id, post_id)
    if found is None or found.state not in (REFUSED, UNCLEAR):
        raise NotFound("There is nothing to send again; reload the page.")
    with changing(workshop, person):
        store.set_state(workshop.db, found, WAITING, 0, workshop.clock())


def set_announced(workshop: Workshop, person: Person, post_id: int, is_off: bool) -> None:
    """Whether a post is announced."""
    post, _ = editable_post(workshop, person, post_id)
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), announce=NONE if is_off else "")


def notice_of(
    workshop: Workshop, blog: Blog, account: Account, post: OutPost, snapshot: SiteSnapshot
) -> Notice:
    """What is announced of a post, without the token."""
    card = Cards(snapshot).of(post)
    tags = " ".join(f"#{''.join(tag.name.split())}" for tag in snapshot.tags(post.tags))
    address = blog.home + post.path[1:]
    values = {
        "title": post.title, "subtitle": post.subtitle, "description": card.description, "author": post.author, "blog": blog.name, "address": address,
        "tags": tags,
    }  # fmt: skip
    file = share_picture(card.picture)
    picture = blog.home + file.path[1:] if file else ""
    text = text_of(account.pattern, values, account.longest)
    return Notice(account.kind, account.address, "", text, address, picture, card.alt)


def go_round(workshop: Workshop) -> int:
    """Announces what is due; answers with how many notices were sent. For one process at a time: what another one began to send and did not end is unclear."""
    db, sent = workshop.db, 0
    if store.is_any_going(db):
        with changing(workshop):
            store.give_up_going(db)
    for blog in blogs.every(db):
        for account in store.of_blog(db, blog.id) if not blog.closed else ():
            _begin(workshop, blog, account)
    for one in store.due(db, workshop.clock(), AT_ONCE):
        sent += _send(workshop, one)
    return sent


def _begin(workshop: Workshop, blog: Blog, account: Account) -> None:
    now = workshop.clock()
    for post_id in store.posts_to_announce(workshop.db, account, now - OLDEST, now):
        snapshot = SiteSnapshot(workshop.db, blog.id, now)
        notice = notice_of(workshop, blog, account, existing(snapshot.post(post_id)), snapshot)
        with changing(workshop):
            store.begin(workshop.db, account.id, post_id, notice.text, now)


def _send(workshop: Workshop, one: Announcement) -> int:
    """Sends a notice. What is not known to have arrived is not sent again by itself."""
    db, now = workshop.db, workshop.clock()
    account = existing(store.by_id(db, one.account_id))
    blog = existing(blogs.by_id(db, account.blog_id))
    snapshot = SiteSnapshot(db, blog.id, now)
    post = snapshot.post(one.post_id)
    if post is None or post.audience != EVERYONE:
        with changing(workshop):
            store.set_state(
                db, one, REFUSED, one.tries, now, problem="The post is not out for everyone any more."
            )
        return 0
    notice = notice_of(workshop, blog, account, post, snapshot)
    with changing(workshop):
        store.set_state(db, one, GOING, one.tries, now)
    state, answer, problem, tries = SENT, "", "", one.tries + 1
    try:
        token = (
            Vault(workshop.settings.sealing_key).open(account.token, _about(blog)) if account.token else ""
        )
        answer = workshop.services.accounts.announce(notice.with_token(token))
    except NotTaken as error:
        is_over = error.why == "final" or tries >= MOST_TRIES
        state, problem = (REFUSED if is_over else WAITING), str(error)
    except Broken as error:
        state, problem = UNCLEAR, str(error)
    except MobbetError as error:
        state, problem = REFUSED, str(error)
    with changing(workshop):
        store.set_state(db, one, state, tries, now + pause_after(one.tries), answer, problem[:300])
    return int(state == SENT)
