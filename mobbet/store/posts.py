"""Posts, their dockets and their revisions."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar, cast

from mobbet.core.audience import ONLY_ME
from mobbet.core.docket import COLUMNS, Docket
from mobbet.core.values import existing
from mobbet.store.database import Database, Row, data_of, maybe


@dataclass(frozen=True)
class Post(Docket):
    """The working side of a post. `slug` is '' until somebody chose one; walls are wall times or None."""

    id: int
    blog_id: int
    author_id: int
    slug: str
    visibility: str
    goes_out_wall: str | None
    comes_down_wall: str | None
    title: str
    words: int
    revision: int
    made_at: int
    changed_at: int
    aside_at: int | None
    is_template: int = 0
    update_wall: str | None = None
    looked_at: int = 0
    placed_for: int | None = None
    placed_until: int | None = None
    waits_turn: int = 0
    home_post: int | None = None
    """The post of another blog whose text and times it follows."""
    followed: str = ""
    """Of which state of that it was made last."""
    wanted_by: str = ""
    """The day by which whoever has it to write should be done; '' for none."""
    given_by: int = 0
    """Who gave it to its author to write; 0 for nobody."""


@dataclass(frozen=True)
class Revision:
    """One saved state of a post's text; `body` is a document as JSON."""

    post_id: int
    number: int
    person_id: int
    title: str
    subtitle: str
    body: str
    save_key: str
    begun_at: int
    saved_at: int
    name: str = ""
    words: int = 0


def _post(row: Row) -> Post:
    return Post(**data_of(row))


def add(db: Database, *, blog_id: int, author_id: int, made_at: int) -> Post:
    return existing(maybe(_post, db.one(
        "INSERT INTO post (blog_id, author_id, made_at, changed_at) VALUES (?, ?, ?, ?) RETURNING *",
        blog_id, author_id, made_at, made_at,
    )))  # fmt: skip


AS_BEGUN = (
    "post.revision = 1 AND post.title = '' AND post.words = 0 AND post.changed_at <= post.made_at + 1 AND post.is_template = 0"
    " AND NOT EXISTS (SELECT 1 FROM post_category WHERE post_id = post.id) AND NOT EXISTS (SELECT 1 FROM post_tag WHERE post_id = post.id)"
)
"""An SQL expression: a post that was begun and not saved since; lists leave it out."""


def as_begun(db: Database, blog_id: int, author_id: int) -> list[Post]:
    """The last few posts of a person that were begun and not saved since."""
    rows = db.all(
        f"SELECT * FROM post WHERE blog_id = ? AND author_id = ? AND aside_at IS NULL AND {AS_BEGUN} ORDER BY id DESC LIMIT 3",
        blog_id,
        author_id,
    )
    return [_post(row) for row in rows]


def by_id(db: Database, post_id: int) -> Post | None:
    return maybe(_post, db.one("SELECT * FROM post WHERE id = ?", post_id))


def hidden(db: Database) -> set[int]:
    """The posts of any blog that the viewer is not told of."""
    if db.viewer is None:
        return set()
    return set(
        db.column(
            f"SELECT id FROM post INDEXED BY post_private WHERE visibility = '{ONLY_ME}' AND author_id <> ?",
            db.viewer,
        )
    )


def home_of(db: Database, post: Post) -> str:
    """The name of the blog in which a post lives that stands in another one; '' for any other post."""
    return db.value(
        "SELECT blog.name FROM post JOIN blog ON blog.id = blog_id WHERE post.id = ?", post.home_post
    ) or ""  # fmt: skip


Same = TypeVar("Same", bound=Post)
"""A post, or one that was handed out for editing."""


def give_all(db: Database, blog_id: int, from_id: int, to_id: int) -> int:
    """Makes somebody the author of all posts of another one that are not for that one alone; answers with how many."""
    return db.run(
        f"UPDATE post SET author_id = ? WHERE blog_id = ? AND author_id = ? AND visibility <> '{ONLY_ME}'",
        to_id,
        blog_id,
        from_id,
    ).rowcount


def of_copy(db: Database, post_id: int) -> Post | None:
    """The post that a reading copy is of; the link is the right to it."""
    return maybe(_post, db.one("SELECT * FROM post WHERE id = ?", post_id))


def changed_last(db: Database, blog_id: int, before: tuple[int, int] | None, most: int) -> list[Post]:
    """Posts that the viewer may see, those changed last first; `before` is (changed at, number) of the one after which they follow."""
    at, number = before or (1 << 62, 0)
    rows = db.all(
        f"SELECT * FROM post WHERE blog_id = ? AND aside_at IS NULL AND NOT is_template AND {db.sees()} AND (changed_at, id) < (?, ?)"
        " ORDER BY changed_at DESC, id DESC LIMIT ?",
        blog_id, at, number, most,
    )  # fmt: skip
    return [_post(row) for row in rows]


def again(db: Database, post: Same) -> Same:
    """A post that somebody was handed out, as it stands now."""
    return cast(Same, existing(maybe(_post, db.one("SELECT * FROM post WHERE id = ?", post.id))))


def is_same_text(db: Database, post_id: int, one: int, other: int) -> bool:
    """Whether two revisions of a post say the same, such as one and its copy that was put back."""
    return one == other or db.value(
        "SELECT COUNT(DISTINCT title || CHAR(0) || subtitle || CHAR(0) || body) = 1 FROM revision WHERE post_id = ? AND number IN (?, ?)", post_id, one, other
    ) == 1  # fmt: skip


def written_last_by(db: Database, person_id: int, most: int, saves: int = 3000) -> list[int]:
    """The posts that somebody wrote last, among so many of their saves, the newest first."""
    rows = db.column(
        "SELECT post_id FROM revision WHERE person_id = ? ORDER BY saved_at DESC LIMIT ?", person_id, saves
    )
    return list(dict.fromkeys(rows))[:most]


def in_hand(db: Database, blog_id: int, author_id: int, most: int) -> list[Post]:
    """Posts of that person in which something is written and that are neither out nor set aside nor a template; the last changed first."""
    rows = db.all(
        "SELECT * FROM post WHERE blog_id = ? AND author_id = ? AND aside_at IS NULL AND is_template = 0 AND placed_for IS NULL AND (title <> '' OR words > 0)"
        " ORDER BY changed_at DESC, id DESC LIMIT ?",
        blog_id, author_id, most,
    )  # fmt: skip
    return [_post(row) for row in rows]


DOCKET_COLUMNS = (
    "author_id",
    "slug",
    "visibility",
    "goes_out_wall",
    "comes_down_wall",
    "update_wall",
    "aside_at",
    "is_template",
    "waits_turn",
    *COLUMNS,
)


def settle(db: Database, post_id: int, now: int, **values: object) -> None:
    """Writes columns of the docket (a subset of DOCKET_COLUMNS). A post that gets a time waits for its turn no longer."""
    if "goes_out_wall" in values:
        values = {"waits_turn": 0, **values}
    assert values.keys() <= set(DOCKET_COLUMNS), values.keys()
    db.run(
        f"UPDATE post SET {''.join(f'{column} = ?, ' for column in values)}changed_at = ? WHERE id = ?",
        *values.values(),
        now,
        post_id,
    )


def categories(db: Database, post_id: int) -> list[int]:
    """The numbers of a post's categories, the main one first."""
    return [
        row[0]
        for row in db.all(
            "SELECT category_id FROM post_category WHERE post_id = ? ORDER BY position", post_id
        )
    ]


def tags(db: Database, post_id: int) -> list[int]:
    return [
        row[0] for row in db.all("SELECT tag_id FROM post_tag WHERE post_id = ? ORDER BY position", post_id)
    ]


def set_categories(db: Database, post_id: int, category_ids: list[int], now: int) -> None:
    db.run("DELETE FROM post_category WHERE post_id = ?", post_id)
    db.run_many(
        "INSERT INTO post_category VALUES (?, ?, ?)",
        [(post_id, i, number) for i, number in enumerate(category_ids)],
    )
    db.run("UPDATE post SET changed_at = ? WHERE id = ?", now, post_id)


def set_tags(db: Database, post_id: int, tag_ids: list[int], now: int) -> None:
    db.run("DELETE FROM post_tag WHERE post_id = ?", post_id)
    db.run_many(
        "INSERT INTO post_tag VALUES (?, ?, ?)", [(post_id, i, number) for i, number in enumerate(tag_ids)]
    )
    db.run("UPDATE post SET changed_at = ? WHERE id = ?", now, post_id)


def revision(db: Database, post_id: int, number: int) -> Revision | None:
    row = db.one("SELECT * FROM revision WHERE post_id = ? AND number = ?", post_id, number)
    return Revision(**data_of(row)) if row else None


def working(db: Database, post_id: int) -> Revision:
    """The revision that is being written on. One question, since a save may replace the revision between two."""
    return Revision(
        **dict(
            existing(
                db.one(
                    "SELECT r.* FROM post p JOIN revision r ON r.post_id = p.id AND r.number = p.revision WHERE p.id = ?",
                    post_id,
                )
            )
        )
    )


def working_body(db: Database, post_id: int) -> str:
    """The document that is being written on, as JSON."""
    return db.value(
        "SELECT r.body FROM post p JOIN revision r ON r.post_id = p.id AND r.number = p.revision WHERE p.id = ?",
        post_id,
    )


def body(db: Database, post_id: int, number: int) -> str:
    """The document of a revision that is known to exist, as JSON."""
    return db.value("SELECT body FROM revision WHERE post_id = ? AND number = ?", post_id, number)


def set_body(db: Database, post_id: int, number: int, body: str) -> None:
    """Writes what placing settles in a text: the anchors of its headings."""
    db.run(
        "UPDATE revision SET body = ? WHERE post_id = ? AND number = ? AND body <> ?",
        body,
        post_id,
        number,
        body,
    )


def add_revision(db: Database, revision: Revision, words: int) -> None:
    """Adds a revision and makes it the post's working one."""
    db.run(
        "INSERT INTO revision (post_id, number, person_id, title, subtitle, body, save_key, begun_at, saved_at, words)"
        " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        revision.post_id, revision.number, revision.person_id, revision.title, revision.subtitle,
        revision.body, revision.save_key, revision.begun_at, revision.saved_at, words,
    )  # fmt: skip
    db.run(
        "UPDATE post SET revision = ?, title = ?, words = ?, changed_at = ? WHERE id = ?",
        revision.number, revision.title, words, revision.saved_at, revision.post_id,
    )  # fmt: skip


def drop_revision(db: Database, post_id: int, number: int) -> None:
    """Removes a revision that no placement uses; one of which an editor said something, or that a reading copy shows, stays."""
    db.run(
        "DELETE FROM revision WHERE post_id = ? AND number = ?"
        " AND NOT EXISTS (SELECT 1 FROM decision WHERE decision.post_id = revision.post_id AND decision.revision = revision.number)"
        " AND NOT EXISTS (SELECT 1 FROM reading_copy WHERE reading_copy.post_id = revision.post_id AND of_revision = revision.number)",
        post_id,
        number,
    )


def is_placed(db: Database, post_id: int, number: int) -> bool:
    """True when readers get, got or will get this revision."""
    return db.value("SELECT 1 FROM placement WHERE post_id = ? AND revision = ?", post_id, number) is not None


def with_slug(db: Database, blog_id: int, slug: str, other_than: int) -> Post | None:
    """Another post of the blog that has chosen that slug, of those that the viewer may be told of."""
    return maybe(
        _post,
        db.one(
            f"SELECT * FROM post WHERE blog_id = ? AND slug = ? AND id <> ? AND {db.sees()} LIMIT 1",
            blog_id,
            slug,
            other_than,
        ),
    )


def on_blog(db: Database, blog_id: int, post_id: int) -> Post | None:
    """A post of that blog, of those that the viewer may be told of; None for any other number."""
    return maybe(
        _post, db.one(f"SELECT * FROM post WHERE id = ? AND blog_id = ? AND {db.sees()}", post_id, blog_id)
    )


def of_page(db: Database, post_id: int) -> Post | None:
    """The post that a published page is of; None where the viewer may not be told of it."""
    return maybe(_post, db.one(f"SELECT * FROM post WHERE id = ? AND {db.sees()}", post_id))


def titled(db: Database, blog_id: int, title: str) -> int | None:
    """The newest post of a blog with that title, in any case."""
    return db.value(
        f"SELECT id FROM post WHERE blog_id = ? AND FOLD(title) = FOLD(?) AND aside_at IS NULL AND {db.sees()} ORDER BY id DESC LIMIT 1",
        blog_id,
        title,
    )


def others_with_title(db: Database, blog_id: int, title: str, other_than: int) -> dict[str, int]:
    """{title in small letters: post} of another post with that title."""
    number = db.value(
        f"SELECT id FROM post WHERE blog_id = ? AND FOLD(title) = FOLD(?) AND title <> '' AND id <> ? AND aside_at IS NULL AND {db.sees()}",
        blog_id,
        title.strip(),
        other_than,
    )
    return {title.strip().casefold(): number} if number else {}


def others_with_description(db: Database, blog_id: int, description: str, other_than: int) -> dict[str, int]:
    """{description in small letters: post} of another post with that description."""
    number = db.value(
        f"SELECT id FROM post WHERE blog_id = ? AND description = ? AND description <> '' AND id <> ? AND aside_at IS NULL AND {db.sees()}",
        blog_id,
        description.strip(),
        other_than,
    )
    return {description.strip().casefold(): number} if number else {}


def newest_titles(db: Database, blog_id: int, other_than: int, most: int) -> list[str]:
    """The titles of the posts changed last, to choose from."""
    rows = db.all(
        f"SELECT title FROM post WHERE blog_id = ? AND id <> ? AND title <> '' AND aside_at IS NULL AND {db.sees()} ORDER BY changed_at DESC, id DESC LIMIT ?",
        blog_id,
        other_than,
        most,
    )
    return [row[0] for row in rows]


def is_slug_taken(db: Database, blog_id: int, slug: str, other_than: int) -> bool:
    """True when another post of the blog has chosen that slug."""
    return (
        db.value("SELECT 1 FROM post WHERE blog_id = ? AND slug = ? AND id <> ?", blog_id, slug, other_than)
        is not None
    )


def set_aside_before(db: Database, blog_id: int, instant: int) -> list[int]:
    """Posts that were set aside up to an instant. The newest post of all is left for later, so that its number is never given again."""
    rows = db.all(
        "SELECT id FROM post WHERE blog_id = ? AND aside_at <= ? AND id < (SELECT MAX(id) FROM post) ORDER BY id",
        blog_id,
        instant,
    )
    return [row[0] for row in rows]


def remove(db: Database, post_id: int) -> None:
    """Removes a post for good, with its revisions and all that stands beside it."""
    db.run("UPDATE post SET leads_to = NULL WHERE leads_to = ?", post_id)
    db.run("DELETE FROM placement WHERE post_id = ?", post_id)
    db.run("DELETE FROM post WHERE id = ?", post_id)
