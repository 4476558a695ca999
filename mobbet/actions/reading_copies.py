"""Reading copies: a private link to a draft, for those without an account; good until a day, closed at any time."""

from __future__ import annotations

import re
import secrets
from dataclasses import dataclass

from mobbet.actions import looks
from mobbet.actions import people as people_actions
from mobbet.actions.access import has_right, share_post
from mobbet.actions.moments import look
from mobbet.actions.notes import Thread, answer_as_reader, leave_as_reader, threads_of
from mobbet.actions.pacing import count_try, forget_tries, network
from mobbet.actions.people import read_name
from mobbet.actions.preview import Written, as_it_would_be
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import Passage
from mobbet.core.document import schema
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.names import one_line
from mobbet.core.rights import Action
from mobbet.core.timing import FOREVER, instant_of_wall, read_wall
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.publish.look_style import has_own_colours, own_path, own_style
from mobbet.publish.pages.kinds import render
from mobbet.publish.renderer import Renderer
from mobbet.services.vault import Vault
from mobbet.store import blogs, people, posts, readers, reading_copies
from mobbet.store.blogs import Blog
from mobbet.store.notes import Note
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.reading_copies import NOTE, PROPOSE, READ, CopyReader, ReadingCopy
from mobbet.store.snapshot import SiteSnapshot

LETS = {READ: "read it", NOTE: "leave notes", PROPOSE: "leave notes and propose words"}
"""What those with the link may do."""
USUAL_DAYS, MOST, MOST_READERS, MOST_LETTERS, LONGEST_LINE = 14, 100, 500, 200, 500
OVER = "This reading copy is closed, or its time is over; ask whoever sent it to you for another one."
_OF_EVERYBODY = re.compile(r"/assets/[\w.-]+|/[\w-]+\.css")
"""Scripts, styles and letters of the site."""
_MEDIA = re.compile(r"/media/[0-9a-f]{24}-[\w-]+\.\w+")


@dataclass(frozen=True)
class Opened:
    """A reading copy as whoever has its link finds it; `reader` is None in a browser that opens it for the first time, `is_locked` while its word is missing."""

    copy: ReadingCopy
    post: Post
    blog: Blog
    by: str
    reader: CopyReader | None
    is_locked: bool


@dataclass(frozen=True)
class Shown:
    """What a copy shows at a path: a page or a file. `is_page` tells the draft's own page."""

    body: bytes
    type: str
    is_page: bool


def make(
    workshop: Workshop,
    person: Person,
    post_id: int,
    until: str = "",
    is_this_only: bool = False,
    lets: str = NOTE,
    word: str = "",
) -> ReadingCopy:
    """Makes a link to a draft, good until the end of a day (ISO 8601; two weeks, without one). Raises BadInput, NotFound, NotAllowed."""
    post, blog = share_post(workshop, person, post_id)
    if lets not in LETS:
        raise BadInput(
            f"“{lets[:20]}” is nothing that a link can let people do; choose {', '.join(LETS)}.", "lets"
        )
    now = workshop.clock()
    ends_at = (
        instant_of_wall(read_wall(f"{until.strip()} 23:59", "until"), blog.zone)
        if until.strip()
        else now + USUAL_DAYS * 86400
    )
    if ends_at <= now:
        raise BadInput("That day is over; choose one to come.", "until")
    token = secrets.token_urlsafe(24)
    with changing(workshop, person):
        open_now = [
            one for one in reading_copies.of_post(workshop.db, post.id, MOST) if is_open(workshop, one)
        ]
        if len(open_now) >= MOST:
            raise Refused(
                f"{MOST} reading copies of this post are open, which is the most; close some first."
            )
        copy = ReadingCopy(
            0, blog.id, post.id, token_digest(token), _vault(workshop).seal(token, _about(token_digest(token))), person.id, now, min(ends_at, FOREVER - 1), None,
            posts.again(workshop.db, post).revision if is_this_only else 0, lets, people_actions.hash_word(word.strip()) if word.strip() else "",
        )  # fmt: skip
        number = reading_copies.add(workshop.db, copy)
        note(workshop, person, "copy-made", blog.id, post_id=post.id)
    return existing(reading_copies.by_id(workshop.db, post.id, number))


def address_of(workshop: Workshop, copy: ReadingCopy, server: str) -> str:
    """The link of a copy on a server."""
    return f"{server.rstrip('/')}/copy/{_vault(workshop).open(copy.sealed_token, _about(copy.token_hash))}"


def _vault(workshop: Workshop) -> Vault:
    return Vault(workshop.settings.sealing_key)


def _about(digest: str) -> str:
    """What a sealed token is bound to."""
    return f"reading copy {digest}"


def is_open(workshop: Workshop, copy: ReadingCopy) -> bool:
    return copy.closed_at is None and copy.ends_at > workshop.clock()


def of_post(workshop: Workshop, person: Person, post_id: int) -> list[tuple[ReadingCopy, list[CopyReader]]]:
    """The open copies of a post, and who opened each. Raises NotFound, NotAllowed."""
    post, _ = share_post(workshop, person, post_id)
    found = [one for one in reading_copies.of_post(workshop.db, post.id, MOST) if is_open(workshop, one)]
    return [(one, reading_copies.readers(workshop.db, one.id, 20)) for one in found]


def close(workshop: Workshop, person: Person, post_id: int, number: int) -> None:
    """Closes a copy: its link leads nowhere from now on. Raises NotFound."""
    post, blog = share_post(workshop, person, post_id)
    with changing(workshop, person):
        copy = _of(workshop, post, number)
        reading_copies.close(workshop.db, copy.id, workshop.clock())
        note(workshop, person, "copy-closed", blog.id, post_id=post.id)


def _of(workshop: Workshop, post: Post, number: int) -> ReadingCopy:
    copy = reading_copies.by_id(workshop.db, post.id, number)
    if copy is None:
        raise NotFound("This reading copy is no more; look at the docket again.")
    return copy


def send(
    workshop: Workshop, person: Person, post_id: int, number: int, addresses: str, line: str, server: str
) -> int:
    """Writes to each address with the link and a line of one's own; answers with how many. Raises BadInput."""
    post, blog = share_post(workshop, person, post_id)
    copy = _of(workshop, post, number)
    if not is_open(workshop, copy):
        raise Refused("This reading copy is closed; make another one.")
    chosen = list(
        dict.fromkeys(read_email(one, "to").lower() for one in re.split(r"[\s,;]+", addresses) if one)
    )
    if not chosen or len(chosen) > MOST_LETTERS:
        raise BadInput(f"{len(chosen)} addresses are named; name 1 to {MOST_LETTERS}.", "to")
    if len(line) > LONGEST_LINE:
        raise BadInput(f"The line has {len(line):,} letters; {LONGEST_LINE} is the most.", "line")
    title = posts.again(workshop.db, post).title or "a draft"
    text = (
        f"Hello,\n\n{person.name} asks you to read “{title}” before it goes out on {blog.name}.\n\n{line.strip()}\n\nIt is here, for you alone:\n"
        f"{address_of(workshop, copy, server)}\n\nYou may {LETS[copy.lets]}.\n"
    )
    with changing(workshop, person):
        for one in chosen:
            readers.add_letter(
                workshop.db,
                blog.id,
                one,
                one_line(f"{person.name} asks you to read “{title}”")[:200],
                text,
                workshop.clock(),
                is_private=True,
            )
    workshop.on_change()
    return len(chosen)


def opened(workshop: Workshop, token: str, key: str) -> Opened:
    """The copy that a link leads to, for a browser with that key. Raises NotFound where it is good no more, TooSoon for who tries many."""
    copy = reading_copies.by_token(workshop.db, token_digest(token)) if len(token) < 100 else None
    if copy is None:
        count_try(workshop, network(workshop.origin))
        raise NotFound(OVER)
    post, blog = (
        existing(posts.of_copy(workshop.db, copy.post_id)),
        existing(blogs.by_id(workshop.db, copy.blog_id)),
    )
    maker = people.by_id(workshop.db, copy.made_by)
    is_good = (
        is_open(workshop, copy)
        and post.aside_at is None
        and blog.set_aside_at is None
        and maker is not None
        and not maker.suspended_at
    )
    if not is_good or maker is None or not _still_shares(workshop, maker, post):
        raise NotFound(OVER)
    reader = reading_copies.reader(workshop.db, copy.id, token_digest(key)) if 0 < len(key) < 100 else None
    return Opened(copy, post, blog, maker.name, reader, bool(copy.word_hash) and reader is None)


def _still_shares(workshop: Workshop, maker: Person, post: Post) -> bool:
    try:
        share_post(workshop, maker, post.id)
    except (NotAllowed, NotFound):
        return False
    return True


def enter(workshop: Workshop, token: str, word: str = "", key: str = "") -> str:
    """Knows a browser from now on: answers with its key, which is the one it had for other copies. Raises BadInput for a wrong word, TooSoon."""
    found = opened(workshop, token, "")
    keys = (
        ("post", f"copy {found.copy.id}"),
        ("post-network", f"copy {found.copy.id} {network(workshop.origin)[1]}"),
    )
    if found.copy.word_hash:
        count_try(workshop, *keys)
        if not people_actions.verify_password(found.copy.word_hash, word.strip()[:200]):
            raise BadInput("This is not the word; ask whoever sent you the link.", "word")
        forget_tries(workshop, keys[1])
    key = key if 20 < len(key) < 100 else secrets.token_urlsafe(24)
    with changing(workshop):
        is_known = reading_copies.reader(workshop.db, found.copy.id, token_digest(key)) is not None
        if not is_known and reading_copies.count_readers(workshop.db, found.copy.id) < MOST_READERS:
            reading_copies.add_reader(workshop.db, found.copy.id, token_digest(key), workshop.clock())
    return key


def shown(workshop: Workshop, found: Opened, path: str) -> Shown | None:
    """The draft's page as readers will get it, or a file that it shows; None for any other path. Raises NotAllowed while its word is missing."""
    if found.is_locked:
        raise NotAllowed("This reading copy opens with a word; type it first.")
    return draft_at(workshop, found.post, found.blog, found.copy.of_revision or found.post.revision, path)


def draft_at(workshop: Workshop, post: Post, blog: Blog, number: int, path: str) -> Shown | None:
    """What stands at a path while a revision of a post that was handed out is read: its page or a file that it shows; None for any other path."""
    revision = existing(posts.revision(workshop.db, post.id, number))
    with workshop.db.reading():
        previewed = as_it_would_be(
            workshop, post, blog, Written(revision.title, revision.subtitle, schema.load(revision.body))
        )
        snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
        page = render(Renderer(snapshot.house, snapshot.item), previewed.page)
    if path == previewed.page.path:
        return Shown(page.body, page.type, True)
    if path == own_path(post.id) and has_own_colours(post.own_look):
        return Shown(own_style(looks.given(workshop, blog), post.own_look), "text/css; charset=utf-8", False)
    if _OF_EVERYBODY.fullmatch(path) or (_MEDIA.fullmatch(path) and path.encode() in page.body):
        file = look(workshop, blog, path, workshop.clock())
        return Shown(file.body, file.type, False) if file.is_there and not file.is_download else None
    return None


def path_of(workshop: Workshop, found: Opened) -> str:
    """The path of the draft's page."""
    return draft_path(workshop, found.post, found.blog)


def draft_path(workshop: Workshop, post: Post, blog: Blog) -> str:
    """The path that a post's page has, or would have."""
    return as_it_would_be(workshop, post, blog).page.path


def leave(
    workshop: Workshop, found: Opened, about: Passage, said: str, proposal: str | None, name: str = ""
) -> Note:
    """Leaves a note of somebody who has the link, with the name that they give once. Raises BadInput, NotAllowed."""
    reader = _named(workshop, found, name)
    if found.copy.lets != PROPOSE and proposal is not None:
        raise NotAllowed("Words cannot be proposed with this link; leave a note.")
    return leave_as_reader(workshop, found.post, found.blog, reader, about, said, proposal)


def answer(workshop: Workshop, found: Opened, number: int, said: str) -> Note:
    """Answers in a thread of one's own. Raises BadInput, NotAllowed, NotFound."""
    return answer_as_reader(workshop, found.post, found.blog, _named(workshop, found, ""), number, said)


def _named(workshop: Workshop, found: Opened, name: str) -> CopyReader:
    """Who leaves a note. Raises NotAllowed, and BadInput without a name."""
    if found.is_locked or found.reader is None or found.copy.lets == READ:
        raise NotAllowed("This link is for reading only.")
    if not found.reader.reader_name:
        reading_name = read_name(name, "Your name", "name", 60)
        with changing(workshop):
            reading_copies.set_name(workshop.db, found.reader.id, reading_name)
        return existing(reading_copies.reader(workshop.db, found.copy.id, found.reader.key_hash))
    return found.reader


def threads(workshop: Workshop, found: Opened) -> list[Thread]:
    """The notes that this reader left, with what was answered."""
    return threads_of(workshop, found.post.id, frozenset({found.reader.id})) if found.reader else []


def note_progress(workshop: Workshop, found: Opened, came_to: str, share: int) -> None:
    """Notes how far somebody read: the heading they came to, and the share of the page in percent."""
    if found.reader is not None and not found.is_locked:
        with changing(workshop):
            reading_copies.set_progress(
                workshop.db,
                found.reader.id,
                one_line(came_to)[:120],
                max(0, min(100, share)),
                workshop.clock(),
            )


def may_share(workshop: Workshop, person: Person, post: Post, blog: Blog) -> bool:
    """Whether this person makes reading copies of a post."""
    return has_right(workshop, person, blog, Action.SHARE_COPY, post.author_id == person.id)
