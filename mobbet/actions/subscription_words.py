"""What there is to subscribe to on a blog, in words."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE
from mobbet.core.filing import path_in_words, tree
from mobbet.core.keys import Name
from mobbet.core.subscriptions import ALL, ANSWERS, AUTHOR, CATEGORY, COMMENTS, SERIES
from mobbet.store import comments, filing, mailings, profiles, series
from mobbet.store.blogs import Blog
from mobbet.store.snapshot import SiteSnapshot

EVERYTHING = "everything"
MOST_OFFERED = 60


def words_of(workshop: Workshop, blog: Blog, what: str) -> str:
    """What somebody subscribed to, in words; '' for what is not there, or not for everybody."""
    name = Name(what)
    db = workshop.db
    if name == ALL:
        return EVERYTHING
    if name.kind == CATEGORY:
        subjects = filing.subjects(db, blog.id)
        return f"posts in {path_in_words(subjects, name.number)}" if name.number in subjects else ""
    if name.kind == AUTHOR:
        writes = name.number in mailings.authors_out(db, blog.id, workshop.clock())
        author = profiles.author(db, blog.id, name.number) if writes else None
        return f"posts by {author.name}" if author else ""
    if name.kind == SERIES:
        found = series.on_blog(db, blog.id, name.number)
        return f"the series “{found}”" if found else ""
    if name.kind == ANSWERS:
        comment = comments.one(db, name.number)
        title = _title(workshop, blog, comment.post_id) if comment else ""
        return f"answers to your comment under “{title}”" if title else ""
    title = _title(workshop, blog, name.number)
    return f"comments under “{title}”" if title else ""


def _title(workshop: Workshop, blog: Blog, post_id: int) -> str:
    """The title of a post that everybody may read now; '' for any other."""
    post = SiteSnapshot(workshop.db, blog.id, workshop.clock()).post(post_id)
    return post.title if post and post.audience == EVERYONE else ""


def offered(workshop: Workshop, blog: Blog) -> list[tuple[str, str]]:
    """(what, its words) of what readers are offered to subscribe to."""
    found = ((name, words_of(workshop, blog, name)) for name in _open(workshop, blog)[:MOST_OFFERED])
    return [(what, words) for what, words in found if words]


def is_offered(workshop: Workshop, blog: Blog, what: str) -> bool:
    """Whether anybody may subscribe to it: names of what is for some readers alone are told to nobody."""
    name = Name(what)
    if name.kind in (COMMENTS, ANSWERS):
        return bool(words_of(workshop, blog, what))
    return name in _open(workshop, blog)


def _open(workshop: Workshop, blog: Blog) -> list[str]:
    """Everything, the categories with posts for everyone, authors and series."""
    db, now = workshop.db, workshop.clock()
    snapshot = SiteSnapshot(db, blog.id, now)
    shown = {one.number for start in ("category:", "under:") for one in snapshot.lists(start)}
    subjects = [subject.id for _, subject in tree(snapshot.categories.values()) if subject.id in shown]
    return [
        ALL,
        *(Name.of(CATEGORY, number) for number in subjects),
        *(Name.of(AUTHOR, number) for number in mailings.authors_out(db, blog.id, now)),
        *(Name.of(SERIES, number) for number in mailings.series_out(db, blog.id, now)),
    ]
