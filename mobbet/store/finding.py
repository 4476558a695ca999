"""Search queries over posts: words, filing, author, state, time; paged by keyset."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.core.audience import ONLY_ME
from mobbet.store.database import Database, data_of
from mobbet.store.posts import AS_BEGUN

STATE = """CASE
 WHEN post.aside_at IS NOT NULL THEN 'set-aside'
 WHEN EXISTS (SELECT 1 FROM placement WHERE post_id = post.id AND shows_from <= :now AND shows_until > :now AND shows_from < shows_until) THEN 'out'
 WHEN EXISTS (SELECT 1 FROM placement WHERE post_id = post.id AND shows_from > :now AND shows_from < shows_until) THEN 'in-timetable'
 ELSE IFNULL((SELECT CASE WHEN shows_until = comes_down THEN 'came-down' ELSE 'withdrawn' END FROM placement
   WHERE post_id = post.id AND shows_from < shows_until ORDER BY id DESC LIMIT 1), 'draft') END"""
"""The state of a post as `core/states.py` has it, at the instant `:now`."""
_SHOWS = "+post.id IN (SELECT post_id FROM placement WHERE shows_from <= :now AND shows_until > :now AND shows_from < shows_until)"
_COMES = "+post.id IN (SELECT post_id FROM placement WHERE shows_from > :now AND shows_from < shows_until)"
_ENDED = f"post.aside_at IS NULL AND post.placed_for IS NOT NULL AND NOT {_SHOWS} AND NOT {_COMES}"
_CAME_DOWN = "(SELECT shows_until = comes_down FROM placement WHERE post_id = post.id AND shows_from < shows_until ORDER BY placement.id DESC LIMIT 1)"
IS_IN = {
    "draft": "post.aside_at IS NULL AND post.placed_for IS NULL",
    "out": f"post.aside_at IS NULL AND {_SHOWS}",
    "in-timetable": f"post.aside_at IS NULL AND {_COMES} AND NOT {_SHOWS}",
    "came-down": f"{_ENDED} AND {_CAME_DOWN}",
    "withdrawn": f"{_ENDED} AND NOT {_CAME_DOWN}",
    "set-aside": "post.aside_at IS NOT NULL",
}
"""The same for one state at a time: one look at all placements, rather than one for each post."""
_TIME = "IFNULL(post.placed_for, post.changed_at)"
"""When a post went out or goes out (triggers of the database keep it with the post); when it was last changed, of one that does neither."""
ORDERS = {
    "newest": ("when_", "DESC"),
    "oldest": ("when_", "ASC"),
    "untouched": ("changed_at", "ASC"),
    "touched": ("changed_at", "DESC"),
    "read": ("reads", "DESC"),
}
_KEYS = {
    "when_": _TIME,
    "changed_at": "post.changed_at",
    "reads": "IFNULL((SELECT SUM(count) FROM reads WHERE reads.post_id = post.id), 0)",
}
"""{place in an order: what it is}."""


@dataclass(frozen=True)
class Wanted:
    """What is wanted: `match` in the words of FTS5; sets of numbers and states, each empty for any; `is_page` None for posts and pages; `marks` 'unsettled', 'clear' or ''."""

    match: str = ""
    tags: tuple[str, ...] = ()
    categories: tuple[frozenset[int], ...] = ()
    authors: tuple[frozenset[int], ...] = ()
    states: tuple[str, ...] = ()
    is_page: bool | None = None
    before: int | None = None
    after: int | None = None
    marks: str = ""


@dataclass(frozen=True)
class Found:
    """A post that was found, with its state."""

    id: int
    title: str
    state: str


def _terms(db: Database, blog_id: int, wanted: Wanted, now: int) -> tuple[str, dict[str, object]]:
    values: dict[str, object] = {"blog": blog_id, "now": now, "before": wanted.before, "after": wanted.after}
    terms = ["post.blog_id = :blog", f"NOT ({AS_BEGUN})", db.sees()]
    terms.append(_in_states(wanted.states))
    if wanted.is_page is not None:
        terms.append("post.kind <> ''" if wanted.is_page else "post.kind = ''")
    for at, tag in enumerate(wanted.tags):
        values[f"tag{at}"] = tag
        terms.append(
            f"post.id IN (SELECT post_id FROM tag JOIN post_tag ON tag_id = tag.id WHERE tag.blog_id = :blog AND (name = :tag{at} COLLATE NOCASE OR slug = :tag{at} COLLATE NOCASE))"
        )
    for at, numbers in enumerate(wanted.categories):
        values[f"category{at}"] = json.dumps(sorted(numbers))
        terms.append(
            f"post.id IN (SELECT post_id FROM post_category WHERE category_id IN (SELECT value FROM JSON_EACH(:category{at})))"
        )
    for at, numbers in enumerate(wanted.authors):
        values[f"author{at}"] = json.dumps(sorted(numbers))
        terms.append(f"post.author_id IN (SELECT value FROM JSON_EACH(:author{at}))")
    if wanted.before is not None:
        terms.append(f"{_TIME} < :before")
    if wanted.after is not None:
        terms.append(f"{_TIME} >= :after")
    if wanted.marks:
        terms.append(
            f"{'' if wanted.marks == 'unsettled' else 'NOT '}EXISTS (SELECT 1 FROM post_proof WHERE post_proof.post_id = post.id AND must + should > 0)"
        )
    if wanted.match:
        values["match"] = wanted.match
    return " AND ".join(terms), values


def _in_states(states: tuple[str, ...]) -> str:
    return "(" + " OR ".join(IS_IN[state] for state in states) + ")" if states else "post.aside_at IS NULL"


def search(db: Database, blog_id: int, wanted: Wanted, now: int, most: int) -> tuple[list[Found], int]:
    """Posts that hold the words and are as wanted, those first in whose title the words stand, then the likelier ones; and how many there are."""
    terms, values = _terms(db, blog_id, wanted, now)
    values["most"] = most
    if not wanted.match:
        rows = db.named(
            f"SELECT post.id, title, {STATE} AS state FROM post WHERE {terms} ORDER BY {_TIME} DESC, post.id DESC LIMIT :most",
            values,
        )
        return [Found(**data_of(row)) for row in rows], count(db, blog_id, wanted, now) if len(
            rows
        ) == most else len(rows)
    numbers = db.numbers("SELECT rowid AS number FROM post_text WHERE post_text MATCH :match", values)
    if len(numbers) >= MANY:
        return _newest_hits(db, blog_id, wanted, terms, values, numbers)
    rows = db.named(
        "WITH hits AS MATERIALIZED (SELECT post_text.rowid AS number, bm25(post_text, 8.0, 1.0) AS likely FROM post_text CROSS JOIN post ON post.id = post_text.rowid"
        f" WHERE post_text MATCH :match AND {terms}),"
        " top AS MATERIALIZED (SELECT number, likely, COUNT(*) OVER () AS total FROM hits ORDER BY likely, number LIMIT :most)"
        f" SELECT post.id, post.title, {STATE} AS state, total FROM top JOIN post ON post.id = number ORDER BY likely, post.id",
        values,
    )
    return [Found(row["id"], row["title"], row["state"]) for row in rows], rows[0]["total"] if rows else 0


MANY = 1500
"""Of words that stand in so many texts none tells posts apart, so the newest come first: those with the words in the title, then the others."""


def _others(db: Database) -> str:
    """The posts that a search leaves out: those of other blogs, what is set aside, and what is for a colleague alone."""
    private = (
        f" UNION ALL SELECT post.id FROM post INDEXED BY post_private WHERE visibility = '{ONLY_ME}' AND author_id <> {db.viewer}"
        if db.viewer is not None
        else ""
    )
    if db.limited:
        private += f" UNION ALL SELECT post.id FROM post WHERE blog_id = :blog AND NOT {db.sees()}"
    return (
        "SELECT post.id AS number FROM blog JOIN post ON post.blog_id = blog.id WHERE blog.id <> :blog"
        " UNION ALL SELECT post.id FROM post WHERE blog_id = :blog AND aside_at IS NOT NULL" + private
    )


def _newest_hits(
    db: Database, blog_id: int, wanted: Wanted, terms: str, values: dict[str, object], numbers: list[int]
) -> tuple[list[Found], int]:
    titled = set(
        db.numbers(
            "SELECT rowid AS number FROM post_text WHERE post_text MATCH :titled",
            {"titled": f"{{title}} : ({wanted.match})"},
        )
    )
    if wanted == Wanted(match=wanted.match):  # an index alone tells them
        kept = set(numbers).difference(db.numbers(_others(db), values))
    else:
        kept = set(numbers).intersection(
            db.numbers(f"SELECT post.id AS number FROM post WHERE {terms}", values)
        )
    top = [*sorted(kept & titled, reverse=True), *sorted(kept - titled, reverse=True)][
        : int(str(values["most"]))
    ]
    found = {
        row["id"]: Found(**data_of(row))
        for row in db.named(
            f"SELECT id, title, {STATE} AS state FROM post WHERE id IN (SELECT value FROM JSON_EACH(:top))",
            {**values, "top": json.dumps(top)},
        )
    }
    return [found[number] for number in top], len(kept)


def texts(db: Database, post_ids: list[int]) -> dict[int, str]:
    """{post: its text as the index has it}."""
    return dict(
        map(
            tuple,
            db.all(
                "SELECT rowid, text FROM post_text WHERE rowid IN (SELECT value FROM JSON_EACH(?))",
                json.dumps(post_ids),
            ),
        )
    )


def count(db: Database, blog_id: int, wanted: Wanted, now: int) -> int:
    """How many posts are as wanted."""
    terms, values = _terms(db, blog_id, wanted, now)
    if wanted.match:
        return db.named(
            f"SELECT COUNT(*) FROM post_text CROSS JOIN post ON post.id = post_text.rowid WHERE post_text MATCH :match AND {terms}",
            values,
        )[0][0]
    return db.named(f"SELECT COUNT(*) FROM post WHERE {terms}", values)[0][0]


def page(
    db: Database, blog_id: int, wanted: Wanted, now: int, order: str, after: tuple[int, int] | None, most: int
) -> tuple[list[tuple[int, int]], int]:
    """((post, its place in the order) of posts that are as wanted, after a place, in one of ORDERS; how many there are from there on)."""
    column, way = ORDERS[order]
    key = _KEYS[column]
    terms, values = _terms(db, blog_id, wanted, now)
    values |= {"most": most, "place": after[0] if after else None, "number": after[1] if after else None}
    sign = "<" if way == "DESC" else ">"
    more = f" AND ({key}, post.id) {sign} (:place, :number)" if after else ""
    rows = db.named(
        f"SELECT post.id, {key} AS place, COUNT(*) OVER () FROM post WHERE {terms}{more} ORDER BY place {way}, post.id {way} LIMIT :most",
        values,
    )
    return [(row[0], row[1]) for row in rows], rows[0][2] if rows else 0


def near_terms(db: Database, candidates: list[str]) -> list[str]:
    """Those of the candidates that stand in some text, the most frequent first."""
    rows = db.all(
        "SELECT term FROM post_vocabulary WHERE term IN (SELECT value FROM JSON_EACH(?)) ORDER BY doc DESC",
        json.dumps(candidates),
    )
    return [row[0] for row in rows]


def is_term(db: Database, word: str, is_open: bool) -> bool:
    """Whether a word, or one that begins so, stands in some text."""
    if is_open:
        return (
            db.value(
                "SELECT 1 FROM post_vocabulary WHERE term >= ? AND term < ? LIMIT 1",
                word,
                word + "\U0010ffff",
            )
            is not None
        )
    return db.value("SELECT 1 FROM post_vocabulary WHERE term = ?", word) is not None
