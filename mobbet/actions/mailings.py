"""Letters to subscribers are begun here: of posts that went out, digests, corrections. `mail_sending` hands them over."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from mobbet.actions.access import editable_post, require
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE, STRANGER, Reader, may_read
from mobbet.core.comments import SHOWN
from mobbet.core.errors import BadInput, Refused
from mobbet.core.facts import OutPost
from mobbet.core.filing import trail
from mobbet.core.keys import Name
from mobbet.core.letters import LONGEST_LINE, MOST_IN_DIGEST, NONE, OLDEST, LetterRules, read_rules
from mobbet.core.numbers import counted
from mobbet.core.read_counts import LETTER
from mobbet.core.rights import Action
from mobbet.core.subscriptions import (
    ANSWERS,
    COMMENTS,
    MONTH,
    POST,
    WEEK,
    Matter,
    Wish,
    digest_due,
    is_about,
    rhythm_for,
)
from mobbet.core.timing import day_in_words
from mobbet.core.values import existing
from mobbet.publish.letter_pages import LetterMaker, LetterText
from mobbet.publish.plan import Plan
from mobbet.store import blogs, comments, mailings, subscribers
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.mailings import Mailing
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

OF_POST, DIGEST, CORRECTION, COMMENT = "post", "digest", "correction", "comment"
"""The kinds of letters."""
NOBODY = "Nobody got the letter yet, so there is nothing to correct; what is sent from now on has the text as it is out."


@dataclass(frozen=True)
class Audience:
    """The subscribers of a blog with what they want, and which of them may read more than everybody."""

    wishes: dict[int, list[Wish]]
    readers: dict[int, Reader]

    def may_read(self, subscriber: int, audience: str) -> bool:
        return may_read(audience, self.readers.get(subscriber, STRANGER))


def audience_of(workshop: Workshop, blog: Blog) -> Audience:
    groups = subscribers.groups_of_people(workshop.db, blog.id)
    known = subscribers.people_of(workshop.db, blog.id)
    readers = {
        number: Reader(None, True, groups.get(person, frozenset())) for number, person in known.items()
    }
    return Audience(subscribers.all_wishes(workshop.db, blog.id), readers)


def matter_of(snapshot: SiteSnapshot, post: OutPost) -> Matter:
    """What subscriptions are compared with, of a post."""
    subjects = snapshot.categories
    above = {one.id for number in post.categories if number in subjects for one in trail(subjects, number)}
    return Matter(post.id, frozenset(above), post.author_id, post.series_id)


def word_of(mailing: int) -> str:
    """What tells, in the addresses of a letter, that it led there; it says nothing of whom it went to."""
    return f"{LETTER}{mailing}"


def begin_due(workshop: Workshop) -> int:
    """Begins the letters that are due on all blogs; answers with how many were."""
    begun = 0
    for blog in blogs.every(workshop.db):
        rules = read_rules(blog.letters)
        if rules.is_open and blog.letters_since is not None:
            begun += _begin_posts(workshop, blog, rules) + sum(
                _begin_digest(workshop, blog, rules, every) for every in (WEEK, MONTH)
            )
    return begun


def _begin_posts(workshop: Workshop, blog: Blog, rules: LetterRules) -> int:
    """Begins a letter about each post that went out a while ago."""
    now = workshop.clock()
    since = max(existing(blog.letters_since), now - OLDEST)
    found = mailings.posts_to_write_about(workshop.db, blog.id, since, now - 60 * rules.hold)
    for post_id, _ in found:
        with changing(workshop):
            if mailings.of_post(workshop.db, post_id) is None:
                begin_post(workshop, blog, rules, post_id)
    return len(found)


def begin_post(workshop: Workshop, blog: Blog, rules: LetterRules, post_id: int) -> None:
    """Freezes the letter about a post with those it goes to, within a unit of work."""
    db, now = workshop.db, workshop.clock()
    snapshot = SiteSnapshot(db, blog.id, now)
    post = existing(snapshot.post(post_id))
    number = mailings.add(db, blog.id, OF_POST, POST, _shows(workshop, [post_id]), ("", "", ""), now, post_id)
    _write(workshop, blog, existing(mailings.by_id(db, number)))
    people, matter = audience_of(workshop, blog), matter_of(snapshot, post)
    by_group = subscribers.written_to_as_group(db, post.audience)
    addresses = {one.id: one.email.lower() for one in subscribers.every(db, blog.id)} if by_group else {}
    chosen = [
        one
        for one, wishes in people.wishes.items()
        if rhythm_for(wishes, matter) == POST
        and people.may_read(one, post.audience)
        and addresses.get(one) not in by_group
    ]
    mailings.add_deliveries(db, number, chosen, now)


def _begin_digest(workshop: Workshop, blog: Blog, rules: LetterRules, every: str) -> int:
    """Puts a digest together where one is due: a letter for each choice of posts that some subscribers get."""
    now, db = workshop.clock(), workshop.db
    until = digest_due(every, now, blog.zone, rules.weekday, rules.at)
    last = mailings.last_digest(db, blog.id, every)
    if until <= max(existing(blog.letters_since), last or 0):
        return 0
    with changing(workshop):
        if not mailings.begin_digest(db, blog.id, every, until):
            return 0
        since = max(last or 0, existing(blog.letters_since) - 1, now - 2 * OLDEST)
        people, snapshot = audience_of(workshop, blog), SiteSnapshot(db, blog.id, now)
        found = [
            snapshot.post(number) for number in mailings.posts_out_between(db, blog.id, since, until, now)
        ]
        posts = [(post, matter_of(snapshot, post)) for post in found if post]
        groups: dict[tuple[int, ...], list[int]] = defaultdict(list)
        for one, wishes in people.wishes.items():
            mine = tuple(
                post.id
                for post, matter in posts
                if rhythm_for(wishes, matter) == every and people.may_read(one, post.audience)
            )
            if mine:
                groups[mine[:MOST_IN_DIGEST]].append(one)
        for numbers, chosen in groups.items():
            number = mailings.add(db, blog.id, DIGEST, every, _shows(workshop, numbers), ("", "", ""), now)
            _write(workshop, blog, existing(mailings.by_id(db, number)))
            mailings.add_deliveries(db, number, chosen, now)
        return len(groups)


def _shows(workshop: Workshop, numbers: Iterable[int]) -> list[tuple[int, int]]:
    """(post, placement) of those that are out."""
    found = ((number, mailings.placement_out(workshop.db, number, workshop.clock())) for number in numbers)
    return [(number, placement[0]) for number, placement in found if placement]


def _write(workshop: Workshop, blog: Blog, mailing: Mailing) -> None:
    """Writes the text of a mailing of what is out now, within a unit of work."""
    shows = _shows(workshop, [post for post, _ in mailing.shown])
    text = text_of(workshop, blog, mailing, [post for post, _ in shows])
    mailings.rewrite(workshop.db, mailing.id, shows, text.parts)


def text_of(workshop: Workshop, blog: Blog, mailing: Mailing, numbers: list[int]) -> LetterText:
    """The letter of a mailing about posts that are out."""
    snapshot = SiteSnapshot(workshop.db, blog.id, workshop.clock())
    maker, word = LetterMaker(Plan(snapshot)), word_of(mailing.id)
    posts = [existing(snapshot.post(number)) for number in numbers]
    if mailing.kind == DIGEST:
        count = counted(len(posts), "post")
        return maker.of_posts(
            f"{blog.name}: {count} up to {day_in_words(mailing.made_at, blog.zone)}", posts, word
        )
    if mailing.kind != OF_POST:
        subject, _, words = mailing.words.partition("\n")
        return maker.of_words(subject, words, posts[0], word)
    return maker.of_post(
        posts[0], posts[0].letter or read_rules(blog.letters).shows, word, posts[0].letter_line
    )


def bring_up_to_date(workshop: Workshop, blog: Blog, mailing: Mailing) -> Mailing | None:
    """The mailing with the text of what is out now; None where nothing of it is out any more, or its letter was called off.

    What has not been sent of a letter is thus never sent with words that were withdrawn or corrected.
    """
    shows = _shows(workshop, [post for post, _ in mailing.shown])
    if not shows or (mailing.kind == OF_POST and _is_called_off(workshop, blog, shows[0][0])):
        return None
    comment = comments.one(workshop.db, mailing.number) if mailing.kind == COMMENT else None
    if mailing.kind == COMMENT and (comment is None or comment.state != SHOWN):
        return None
    if shows != mailing.shown:
        with changing(workshop):
            _write(workshop, blog, mailing)
        return existing(mailings.by_id(workshop.db, mailing.id))
    return mailing


def _is_called_off(workshop: Workshop, blog: Blog, post_id: int) -> bool:
    post = SiteSnapshot(workshop.db, blog.id, workshop.clock()).post(post_id)
    return post is None or post.letter == NONE


def may_go(workshop: Workshop, blog: Blog, mailing: Mailing) -> Callable[[int], bool]:
    """Whether a mailing may still go to a subscriber: they get letters, they want this one, and may read all of what it shows."""
    people, snapshot = audience_of(workshop, blog), SiteSnapshot(workshop.db, blog.id, workshop.clock())
    posts = [post for number, _ in mailing.shown if (post := snapshot.post(number))]
    about = [(post.audience, matter_of(snapshot, post)) for post in posts]
    comment = comments.one(workshop.db, mailing.number) if mailing.kind == COMMENT else None
    followed = _following(comment) if comment else ()

    def check(subscriber: int) -> bool:
        wishes = people.wishes.get(subscriber)
        if not wishes or not all(people.may_read(subscriber, audience) for audience, _ in about):
            return False
        if mailing.kind == COMMENT:
            return any(wish.what in followed for wish in wishes)
        return any(is_about(wish.what, matter) for wish in wishes for _, matter in about)

    return check


def correct(workshop: Workshop, person: Person, post_id: int, typed: str) -> int:
    """Sends a correction to all who got the letter about a post; answers with how many those are. Raises BadInput, Refused, NotAllowed."""
    post, blog = editable_post(workshop, person, post_id)
    require(workshop, person, blog, Action.KEEP_READERS)
    words = " ".join(typed.split())
    if not words or len(words) > LONGEST_LINE:
        raise BadInput(f"Say in up to {LONGEST_LINE} letters what is corrected.", "correction")
    db, now = workshop.db, workshop.clock()
    mailing = mailings.of_post(db, post.id)
    sent = mailings.sent_to(db, mailing.id) if mailing else []
    if not sent:
        raise Refused(NOBODY)
    shows = _shows(workshop, [post.id])
    if not shows:
        raise Refused("The post is not out, so a letter cannot lead to it; place it first.")
    with changing(workshop, person, f"a correction of “{post.title}” was written"):
        number = mailings.add(
            db, blog.id, CORRECTION, POST, shows, ("", "", ""), now, post.id,
            mailings.next_number(db, post.id, CORRECTION), f"Corrected: {post.title}\n{words}",
        )  # fmt: skip
        _write(workshop, blog, existing(mailings.by_id(db, number)))
        mailings.add_deliveries(db, number, sent, now)
    return len(sent)


def preview(blog: Blog, post: OutPost, snapshot: SiteSnapshot) -> LetterText:
    """The letter about a post as it would be."""
    shows = post.letter if post.letter not in ("", NONE) else read_rules(blog.letters).shows
    return LetterMaker(Plan(snapshot)).of_post(post, shows, "letter", post.letter_line)


def _following(comment: Comment) -> tuple[str, ...]:
    """What those subscribe to who are told of a comment."""
    answers = (Name.of(ANSWERS, comment.answers),) if comment.answers else ()
    return (Name.of(COMMENTS, comment.post_id), *answers)


def tell_of_comment(workshop: Workshop, blog: Blog, comment: Comment) -> None:
    """Begins the letter to those who follow the comments under a post, or the answers to one, but for whoever wrote it; within a unit of work."""
    db, now, post_id = workshop.db, workshop.clock(), comment.post_id
    own = subscribers.by_email(db, blog.id, comment.email) if comment.email else None
    found = (one for what in _following(comment) for one in subscribers.who_want(db, blog.id, what))
    chosen = [one for one in dict.fromkeys(found) if own is None or one != own.id]
    shows = _shows(workshop, [post_id])
    if not chosen or not shows or not read_rules(blog.letters).is_open:
        return
    post = existing(SiteSnapshot(db, blog.id, now).post(post_id))
    if post.audience != EVERYONE or mailings.is_there(db, post_id, COMMENT, comment.id):
        return
    words = f"{comment.name} on “{post.title}”\n{comment.name}: {comment.text}"
    number = mailings.add(db, blog.id, COMMENT, POST, shows, ("", "", ""), now, post_id, comment.id, words)
    _write(workshop, blog, existing(mailings.by_id(db, number)))
    mailings.add_deliveries(db, number, chosen, now)
