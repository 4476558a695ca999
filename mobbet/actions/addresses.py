"""Addresses: the blog's pattern, where each one leads, old ones of a previous site, and those that lead nowhere."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from dataclasses import dataclass
from difflib import SequenceMatcher
from urllib.parse import unquote, urlsplit

from mobbet.actions import refiling
from mobbet.actions.permalinks import category_subjects, filed
from mobbet.actions.workshop import Workshop, owned_blog
from mobbet.core.audience import EVERYONE
from mobbet.core.errors import BadInput, Refused
from mobbet.core.permalinks import (
    is_own_path,
    number_of_code,
    one_form,
    path_of,
    read_pattern,
)
from mobbet.core.slugs import SCRIPTS
from mobbet.core.timing import month_number
from mobbet.store import addresses, blogs, editions, filing, placements, posts, reads
from mobbet.store.blogs import Blog
from mobbet.store.database import Database
from mobbet.store.people import Person
from mobbet.store.placements import Placement

LONGEST = 500
MOST_ROWS = 20_000
PAGE, LEADS_ON, GONE, NOTHING = "page", "leads-on", "gone", "nothing"


@dataclass(frozen=True)
class Answer:
    """What an address answers with: `kind` is 'page', 'leads-on', 'gone' or 'nothing'; `path` is where the page is, or where it leads.

    `post` is the post that is gone, for everyone who may have read it.
    """

    kind: str
    path: str = ""
    post: int | None = None


def resolve(workshop: Workshop, blog: Blog, asked: str) -> Answer:
    """What readers get at an address below the blog's, in whatever spelling. An address leads on at most once."""
    path = one_form(asked.partition("?")[0])
    target = old_query(workshop, blog, asked) if "?" in asked else None
    if target:
        return Answer(LEADS_ON, target)
    found = _at(workshop, blog, path) or (_at(workshop, blog, path.rstrip("/")) if path != "/" else None)
    if found is None:
        return Answer(NOTHING)
    return Answer(LEADS_ON, found.path) if found.kind == PAGE and found.path != asked.partition("?")[0] else found


def old_query(workshop: Workshop, blog: Blog, asked: str) -> str | None:
    """Where an old address with a question mark leads; None where it is none of those that were added."""
    home = addresses.home_of(workshop.db, blog.id, _with_query(asked), workshop.clock())
    answer = _of_home(workshop, blog, home.kind, home.number, home.target) if home else None
    return answer.path if answer and answer.path else None


def blogs_with_queries(db: Database) -> set[int]:
    """The blogs that have old addresses with a question mark."""
    return {blog.id for blog in blogs.every(db) if addresses.with_query(db, blog.id)}


def _with_query(asked: str) -> str:
    path, _, query = asked.partition("?")
    return f"{one_form(path)}?{unquote(query)}".lower()


def _at(workshop: Workshop, blog: Blog, path: str) -> Answer | None:
    """What stands at the one spelling of an address, or stood there."""
    db = workshop.db
    row = editions.page_at(db, blog.id, path)
    if row is not None and row.leads_to is None:
        return Answer(PAGE, row.path)
    home = addresses.home_of(db, blog.id, path, workshop.clock())
    if home is not None:
        return _of_home(workshop, blog, home.kind, home.number, home.target)
    if path.startswith("/~"):
        number = number_of_code(path.strip("/~"))
        post = posts.by_id(db, number) if number else None
        return _of_post(workshop, blog, post.id) if post and post.blog_id == blog.id else None
    before = editions.last_page_at(db, blog.id, path)
    return _of_key(workshop, blog, before.key) if before is not None and before.audience == EVERYONE else None


def _of_home(workshop: Workshop, blog: Blog, kind: str, number: int, target: str) -> Answer | None:
    if kind == "away":
        return Answer(LEADS_ON, target)
    if kind == "post":
        return _of_post(workshop, blog, number)
    return _of_key(workshop, blog, f"list/{kind}:{number}/0")


def _of_post(workshop: Workshop, blog: Blog, number: int) -> Answer | None:
    row = editions.page_of(workshop.db, blog.id, f"post/{number}")
    if row is not None:
        return Answer(LEADS_ON, row.path)
    now, placed = workshop.clock(), placements.of_post(workshop.db, number)
    if any(one.shows_from <= now < one.shows_until for one in placed):
        return None  # it is out, but for the edition that is being made
    led = (editions.page_of(workshop.db, blog.id, f"former/{path}") for path in addresses.of(workshop.db, "post", number, now))
    on = next((row.leads_to for row in led if row is not None and row.leads_to), None)
    if on:
        return Answer(LEADS_ON, on)
    was_public = any(one.audience == EVERYONE and one.shows_from < one.shows_until and one.shows_from <= now for one in placed)
    return Answer(GONE, post=number) if was_public or posts.by_id(workshop.db, number) is None else None


def _of_key(workshop: Workshop, blog: Blog, key: str) -> Answer:
    """Where the page is now that once was made from a key: the same, the list's newest, or what lists all of its kind."""
    kind, _, rest = key.partition("/")
    wanted = [key]
    if kind == "list":
        name = rest.rpartition("/")[0]
        wanted += [f"list/{name}/0", "archive/" if name.startswith("month:") else "subjects/"]
        gone = re.fullmatch(r"(category|tag):(\d+)", name)
        if gone:
            heirs = addresses.heir(workshop.db, blog.id, gone[1], int(gone[2]), editions.paths_of(workshop.db, blog.id, f"list/{name}/0"))
            wanted[1:1] = [f"list/{heirs[0]}:{heirs[1]}/0"] if heirs else []
    elif kind == "feed":
        name, _, format = rest.rpartition("/")
        heirs = None
        if name.startswith("category:"):
            heirs = addresses.heir(workshop.db, blog.id, "category", int(name[9:]), editions.paths_of(workshop.db, blog.id, f"list/{name}/0"))
        wanted += [*([f"feed/{heirs[0]}:{heirs[1]}/{format}"] if heirs else []), f"feed/all/{format}"]
    elif kind == "post":
        return _of_post(workshop, blog, int(rest)) or Answer(NOTHING)
    elif kind == "sitemap":
        wanted += ["sitemap/index"]
    rows = (editions.page_of(workshop.db, blog.id, one) for one in wanted)
    row = next((row for row in rows if row is not None), None)
    return Answer(LEADS_ON, row.path) if row is not None else Answer(NOTHING)


def neighbours_of(workshop: Workshop, blog: Blog, post_id: int) -> list[Placement]:
    """The posts that a page of one that is gone offers: those beside it in time, and the newest of its main category."""
    now, db = workshop.clock(), workshop.db
    last = next((row for row in reversed(placements.of_post(db, post_id)) if row.shows_from < row.shows_until), None)
    if last is None:
        return placements.newest_listed(db, blog.id, "all", now, 3)
    beside = placements.beside(db, blog.id, last.goes_out, post_id, now)
    alike = placements.newest_listed(db, blog.id, f"category:{last.categories[0]}", now, 3) if last.categories else []
    return list({row.post_id: row for row in (*beside, *alike) if row.post_id != post_id}.values())


@dataclass(frozen=True)
class Pattern:
    """A pattern with a real post as example: its address as it would be, and as it is."""

    pattern: str
    title: str
    path: str
    before: str
    moved: int


def try_pattern(workshop: Workshop, blog: Blog, text: str) -> Pattern:
    """What a pattern would make of the newest post, and how many addresses it would move. Raises BadInput."""
    pattern = read_pattern(text)
    subjects, now = category_subjects(workshop, blog), workshop.clock()
    moved, example = 0, None
    for row in placements.live(workshop.db, blog.id, now):
        path = path_of(pattern, row.slug, filed(subjects, row.categories, row.goes_out, row.zone))
        moved += path != row.path
        if example is None or row.goes_out > example[0].goes_out:
            example = row, path
    if example is None:
        path = path_of(pattern, "a-post", filed(subjects, (), now, blog.zone))
        return Pattern(pattern, "A post", path, "", 0)
    return Pattern(pattern, placements.title_of(workshop.db, example[0]), example[1], example[0].path, moved)


def set_pattern(workshop: Workshop, person: Person, blog_slug: str, text: str) -> int:
    """Changes the pattern and moves every post; each old address leads on. Answers how many moved. Only the owner may."""
    blog = owned_blog(workshop, person, blog_slug)
    pattern = read_pattern(text)
    with workshop.db.transaction():
        before = {row.id: row.path for row in placements.live(workshop.db, blog.id, workshop.clock())}
        blogs.settle(workshop.db, blog.id, pattern=pattern)
        changed = blogs.by_id(workshop.db, blog.id)
        refiling.settle_posts(workshop, changed, placements.posts_live(workshop.db, blog.id, workshop.clock()))
        return sum(before[row.id] != row.path for row in placements.live(workshop.db, blog.id, workshop.clock()))


def set_script(workshop: Workshop, person: Person, blog_slug: str, script: str) -> None:
    """Chooses Latin letters, or each title's own script, for addresses to come. Only the owner may."""
    blog = owned_blog(workshop, person, blog_slug)
    if script not in SCRIPTS:
        raise BadInput(f"“{script}” is no script; choose {' or '.join(SCRIPTS)}.", "script")
    with workshop.db.transaction():
        blogs.settle(workshop.db, blog.id, slug_script=script)


def add(workshop: Workshop, person: Person, blog_slug: str, old: str, new: str) -> str:
    """Lets an address of a previous site lead to one of this blog, or elsewhere; answers where it leads now.

    An address of the blog's own is not led away. Raises BadInput with what to do.
    """
    blog = owned_blog(workshop, person, blog_slug)
    with workshop.db.transaction():
        return _add(workshop, blog, old, new)


def _add(workshop: Workshop, blog: Blog, old: str, new: str) -> str:
    path = read_old(old, blog)
    bare = path.partition("?")[0]
    if "?" not in path and (is_own_path(path) or _is_current(workshop, blog, path)):
        raise BadInput(f"“{path}” is a page of this site; only addresses that lead nowhere can lead on.", "old")
    taken = addresses.owner(workshop.db, blog.id, path)
    if taken and not addresses.is_by_hand(workshop.db, blog.id, path):
        raise BadInput(f"“{path}” belongs to something on this blog and leads to it already.", "old")
    kind, number, target = read_new(workshop, blog, new)
    if bare == target:
        raise BadInput(f"“{path}” would lead to itself; choose another address.", "new")
    addresses.take(workshop.db, blog.id, path, kind, number, 0, target, by_hand=True)
    filing.mark_list(workshop.db, blog.id, f"away:{path}")
    addresses.forget_asked(workshop.db, blog.id, path)
    answer = resolve(workshop, blog, path)
    return answer.path or target


def _is_current(workshop: Workshop, blog: Blog, path: str) -> bool:
    row = editions.page_at(workshop.db, blog.id, path)
    return row is not None and row.leads_to is None


def read_old(text: str, blog: Blog) -> str:
    """An address of a previous site, as a path below the blog's, with its query. Raises BadInput."""
    typed = text.strip()
    parts = urlsplit(typed if "://" in typed or typed.startswith("/") else "/" + typed)
    if not typed or len(typed) > LONGEST or any(letter.isspace() for letter in typed) or parts.scheme not in ("", "http", "https"):
        raise BadInput(f"“{typed[:80]}” is no address; write it like /2019/old-post/ or /?p=12.", "old")
    prefix = urlsplit(blog.home).path.rstrip("/")
    path = parts.path.removeprefix(prefix) if prefix and parts.path.startswith(prefix + "/") else parts.path
    if path in ("", "/") and not parts.query:
        raise BadInput("The front page cannot lead on; name an address below it.", "old")
    return one_form(path or "/") + (f"?{unquote(parts.query).lower()}" if parts.query else "")


def read_new(workshop: Workshop, blog: Blog, text: str) -> tuple[str, int, str]:
    """(kind, number, target) of where an old address is to lead: a post, category or tag of the blog follows wherever it
    moves; anything else is an address. Raises BadInput where nothing stands there.
    """
    typed = text.strip()
    if not typed or len(typed) > LONGEST or any(letter.isspace() for letter in typed):
        raise BadInput(f"“{typed[:80]}” is no address to lead to; write it like /lamps/flex/ or https://elsewhere.example/.", "new")
    parts = urlsplit(typed)
    is_mine = typed.startswith(blog.home)
    if parts.scheme and not is_mine:
        if parts.scheme not in ("http", "https") or not parts.hostname:
            raise BadInput(f"“{typed}” is no address to lead to; write it like /lamps/flex/ or https://elsewhere.example/.", "new")
        return "away", 0, typed
    path = one_form(typed[len(blog.home) - 1 :] if is_mine else typed)
    home = addresses.home_of(workshop.db, blog.id, path, workshop.clock())
    if home is not None:
        return home.kind, home.number, home.target
    answer = resolve(workshop, blog, path)
    if answer.kind == NOTHING:
        raise BadInput(f"Nothing stands at “{path}” on this site; check the address it is to lead to.", "new")
    if answer.kind == GONE:
        raise BadInput(f"The post at “{path}” is not there any more; choose another address.", "new")
    row = editions.page_at(workshop.db, blog.id, answer.path)
    kind, _, number = row.key.partition("/") if row else ("", "", "")
    return ("post", int(number), "") if kind == "post" else ("away", 0, answer.path)


@dataclass(frozen=True)
class Imported:
    """What a file of old addresses came to: how many lead on now, and (line, reason) of those refused."""

    added: int
    refused: tuple[tuple[int, str], ...]


def bring_in(workshop: Workshop, person: Person, blog_slug: str, source: str) -> Imported:
    """Old addresses from a CSV file: two columns, the old address and where it leads. A first line without addresses is a heading."""
    blog = owned_blog(workshop, person, blog_slug)
    added, refused = 0, []
    with workshop.db.transaction():
        for line, (old, new) in read_csv(source):
            try:
                _add(workshop, blog, old, new)
                added += 1
            except BadInput as error:
                refused.append((line, str(error)))
    return Imported(added, tuple(refused))


def read_csv(source: str) -> list[tuple[int, tuple[str, str]]]:
    """(line, (old, new)) of each row. Commas, semicolons and tabs divide; raises BadInput for a file without two columns."""
    source = source.removeprefix("\ufeff")
    first = next((line for line in source.splitlines() if line.strip()), "")
    divider = max(",;\t", key=first.count)
    rows = []
    try:
        for at, row in enumerate(csv.reader(io.StringIO(source), delimiter=divider), 1):
            cells = [cell.strip() for cell in row]
            if any(cells):
                rows.append((at, cells))
    except csv.Error as error:
        raise BadInput(f"The file cannot be read as CSV ({error}); save it with two columns, old and new.", "file") from None
    if rows and not any("/" in cell or "?" in cell for cell in rows[0][1]):
        rows = rows[1:]
    if not rows:
        raise BadInput("The file holds no addresses; it needs two columns, the old address and the new one.", "file")
    if len(rows) > MOST_ROWS:
        raise BadInput(f"The file has {len(rows):,} lines; {MOST_ROWS:,} is the most at once.", "file")
    short = next((at for at, cells in rows if len(cells) < 2 or not cells[1]), None)
    if short is not None:
        raise BadInput(f"Line {short} has no second column; each line needs the old address and the new one.", "file")
    return [(at, (cells[0], cells[1])) for at, cells in rows]


def remove(workshop: Workshop, person: Person, blog_slug: str, path: str) -> None:
    """Takes away an address that a person added. Raises Refused for one that was public here."""
    blog = owned_blog(workshop, person, blog_slug)
    with workshop.db.transaction():
        if not addresses.remove_by_hand(workshop.db, blog.id, path):
            raise Refused(f"“{path}” was public on this site, so it leads on for ever; only added addresses can be taken away.")
        filing.mark_list(workshop.db, blog.id, f"away:{path}")


@dataclass(frozen=True)
class Unresolved:
    """An address that readers asked for and that leads nowhere: how often, when last, and the likeliest target (path, title), if any."""

    path: str
    hits: int
    last_at: int
    likely: tuple[str, str] | None


def unresolved(workshop: Workshop, blog: Blog, most: int = 50) -> list[Unresolved]:
    """The addresses most asked for that lead nowhere."""
    rows = addresses.unknown(workshop.db, blog.id, most)
    known = [(path, title, _words(path), _words(title)) for path, _, title in addresses.public_paths(workshop.db, blog.id)] if rows else []
    return [Unresolved(path, hits, last_at, likeliest(path, known)) for path, hits, last_at in rows]


def likeliest(path: str, known: Iterable[tuple[str, str, frozenset[str], frozenset[str]]]) -> tuple[str, str] | None:
    """The (path, title) that a mistyped address most likely meant: by the words they share, and by their letters."""
    last = path.rstrip("/").rpartition("/")[2]
    words = _words(last) or _words(path)
    best, best_score = None, 0.55
    for other, title, other_words, title_words in known:
        shared = len(words & (other_words | title_words))
        score = 0.8 * shared / max(1, len(words)) * (0.6 + 0.4 * len(words & other_words) / max(1, len(other_words)))
        if shared or abs(len(last) - len(other)) < 20:
            slug = other.rstrip("/").rpartition("/")[2]
            if shared or (slug[:1] == last[:1] and abs(len(slug) - len(last)) <= 3):
                score = max(score, SequenceMatcher(None, last, slug, autojunk=False).ratio())
        if score > best_score:
            best, best_score = (other, title), score
    return best


def _words(text: str) -> frozenset[str]:
    return frozenset(word for word in re.findall(r"[^\W_]+", text.lower()) if len(word) > 2 and not word.isdigit() and word not in ("html", "php", "index", "the", "and"))


def dismiss(workshop: Workshop, person: Person, blog_slug: str, path: str) -> None:
    """Takes an address that leads nowhere off the list, until it is asked for again."""
    blog = owned_blog(workshop, person, blog_slug)
    with workshop.db.transaction():
        addresses.forget_asked(workshop.db, blog.id, path)


def count(workshop: Workshop, blog_id: int, asked: dict[tuple[str, bool], int]) -> None:
    """Adds to how often addresses were asked for: {(path, whether it leads anywhere): times}."""
    now = workshop.clock()
    with workshop.db.transaction():
        for (path, is_known), hits in asked.items():
            addresses.count_asked(workshop.db, blog_id, path, hits, now, is_known)
            if is_known:
                reads.count(workshop.db, blog_id, path, hits, month_number(now))
        if any(not is_known for _, is_known in asked):
            addresses.thin_unknown(workshop.db, blog_id)
