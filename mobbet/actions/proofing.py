"""The proof of a post, and the decisions about its marks: ignoring one, publishing in spite of one."""

from __future__ import annotations

import json
import logging
from collections import Counter
from dataclasses import dataclass, replace
from typing import Any

from mobbet.actions import placing
from mobbet.actions.access import editable_post, is_keeper
from mobbet.actions.indexing import bring_up_to_date
from mobbet.actions.proof_material import knowledge_of, material_of, rules_of, words_alone
from mobbet.actions.work import changing, dry_run
from mobbet.actions.workshop import Workshop
from mobbet.core import frontmatter
from mobbet.core.canonical import canonical
from mobbet.core.document import outline, schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import to_text
from mobbet.core.errors import BadInput, Refused
from mobbet.core.proofing.checks.links import outward
from mobbet.core.proofing.house import weighed
from mobbet.core.proofing.marks import MUST, SEVERITIES, Mark, replaced
from mobbet.core.proofing.material import DocketFacts, Material, PlannedNeighbour
from mobbet.core.proofing.meant import OwnPost, meant_in, own_posts, telling
from mobbet.core.proofing.proof import Proof
from mobbet.core.proofing.table import WHY
from mobbet.core.slugs import slug_of
from mobbet.core.timing import local, read_instant
from mobbet.core.values import existing
from mobbet.services.contracts import Dictionary
from mobbet.services.dictionary import Hunspell
from mobbet.services.language_detection import detect_language
from mobbet.store import blogs, editions, posts, proofs, search
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.proofs import Ignored

MOST_PROOFS = 24
MOST_FAR, MOST_OF_TEXT = 3, 3
"""Words further away that a mark offers, and for how many words of a file they are looked for."""
LONGEST_REASON = 200
log = logging.getLogger("mobbet.proof")
MOST_TO_LINK_HERE = 5


@dataclass(frozen=True)
class ProofReading:
    """The marks of a post that want settling, in reading order, and the ignored ones, each with the reason."""

    document: dict[str, Any]
    marks: list[Mark]
    stand: list[tuple[Mark, Ignored]]

    @property
    def must(self) -> list[Mark]:
        return [mark for mark in self.marks if mark.severity == MUST]


def read(
    workshop: Workshop, post: Post, blog: Blog, person_id: int = 0, document: dict[str, Any] | None = None
) -> ProofReading:
    """Reads a post's working text (or another text of it) and its docket, by the words that the person and the blog have learned; a post with nothing written yet has no marks."""
    material = material_of(workshop, post, blog, person_id, document)
    reading = _read(workshop, post, blog, material)
    written = any(passage.text.strip() for passage in material.passages) or outline.items(material.document)
    return reading if material.docket.title or written else ProofReading(material.document, [], [])


def _read(workshop: Workshop, post: Post, blog: Blog, material: Material) -> ProofReading:
    marks = _with_far_words(
        workshop.services.dictionary,
        workshop.cache,
        material,
        weighed(_proof_of(workshop, post.id, material).marks(material), _severities(blog)),
    )
    let = proofs.ignored(workshop.db, post.id)
    return ProofReading(
        material.document,
        [mark for mark in marks if mark.sign not in let],
        [(mark, let[mark.sign]) for mark in marks if mark.sign in let],
    )


def of_post(workshop: Workshop, post: Post, blog: Blog) -> list[Mark]:
    """The marks of a post that want settling."""
    return read(workshop, post, blog).marks


def _proof_of(workshop: Workshop, post_id: int, material: Material) -> Proof:
    """The proof of a post that knows the passages it read before, as long as the same words are known."""
    key, known = ("proof", post_id), (material.knowledge.learned, material.language)
    kept = workshop.cache.get(key)
    if kept is None or kept[0] != known:
        for old in [name for name in list(workshop.cache) if name[0] == "proof"][: -MOST_PROOFS + 1]:
            workshop.cache.pop(old, None)
        kept = workshop.cache[key] = (known, Proof())
    return kept[1]


def _with_far_words(
    dictionary: Dictionary,
    cache: dict[tuple[Any, ...], Any],
    material: Material,
    marks: list[Mark],
    most: int = 1,
) -> list[Mark]:
    """The marks, where no word is near a misspelt one with those further away: for so many words more at each reading, since that takes a while."""
    found, left = [], most
    for mark in marks:
        if mark.check == "spelling" and not mark.mends:
            key = ("words", material.language, mark.text)
            if key not in cache and left:
                left -= 1
                cache[key] = dictionary.suggest_more(mark.text, material.language)[:MOST_FAR]
            far = cache.get(key, ())
            mark = replace(mark, mends=tuple(replaced(mark.path, mark.start, mark.end, word) for word in far))
        found.append(mark)
    return found


def _severities(blog: Blog) -> dict[str, str]:
    severities: dict[str, str] = json.loads(blog.severities)
    return severities


def of_text(workshop: Workshop | None, blog: Blog | None, source: str) -> list[Mark]:
    """The marks of a Markdown file with front matter; with a blog, by its rules and what stands on it."""
    text = frontmatter.read(source, blog.zone if blog else "UTC")
    document, settings = from_markdown(text.markdown), text.settings
    title, document = _titled(settings.title, document)
    docket = DocketFacts(
        title, settings.subtitle or "", settings.slug or "", slug_of(title, "", "latin", "en"), settings.excerpt or "", settings.description or "",
        settings.categories or (), settings.tags or (), is_known=source.lstrip("\ufeff").startswith("---"),
    )  # fmt: skip
    zone = blog.zone if blog else "UTC"
    times = [read_instant(said, zone) for said in (settings.date, settings.expires) if said]
    going = PlannedNeighbour(
        when=settings.date or "", comes_down_first=len(times) == 2 and times[1] <= times[0]
    )
    if workshop is None or blog is None:
        dictionary = Hunspell()
        material = Material(
            document, docket, settings.language or "en", words_alone(dictionary, detect_language), going=going
        )
        return _with_far_words(dictionary, {}, material, Proof().marks(material), MOST_OF_TEXT)
    material = Material(
        document,
        docket,
        settings.language or blog.language,
        knowledge_of(workshop, blog, document, docket, 0),
        rules_of(blog),
        going,
    )
    return _with_far_words(
        workshop.services.dictionary,
        {},
        material,
        weighed(Proof().marks(material), _severities(blog)),
        MOST_OF_TEXT,
    )


def _titled(given: str | None, document: dict[str, Any]) -> tuple[str, dict[str, Any]]:
    """The title, which may be the first heading of the text, and the text without it."""
    first, *rest = document["content"]
    if given is None and first["type"] == "heading" and first["attrs"]["level"] == 1:
        return outline.headings({"content": [first]})[0].words, {
            **document,
            "content": rest or schema.EMPTY["content"],
        }
    return given or "", document


def ignore(workshop: Workshop, person: Person, post_id: int, sign: str, reason: str) -> None:
    """Lets a mark stand, with the reason; it is kept with the post. Raises BadInput without one."""
    post, _ = editable_post(workshop, person, post_id)
    words = " ".join(reason.split())
    if not words or len(words) > LONGEST_REASON:
        raise BadInput(
            f"The reason has {len(words)} letters; say in 1 to {LONGEST_REASON} why the mark may stand.",
            "reason",
        )
    if sign.partition(":")[0] not in WHY:
        raise BadInput("There is no such mark; read the proof again.", "sign")
    with changing(workshop):
        proofs.ignore(workshop.db, post.id, sign, words, person.id, workshop.clock())
        proofs.forget_read(workshop.db, [post.id])


def unignore(workshop: Workshop, person: Person, post_id: int, sign: str) -> None:
    """Stops ignoring a mark."""
    post, _ = editable_post(workshop, person, post_id)
    with changing(workshop):
        proofs.unignore(workshop.db, post.id, sign)
        proofs.forget_read(workshop.db, [post.id])


def before_placing(workshop: Workshop, person: Person, post_id: int, reason: str = "") -> list[Mark]:
    """The marks that must be settled, where an editor lets the post go out in spite of them with a word why, which is kept.

    Raises Refused, naming them, without such a word, or for a writer who gives one.
    """
    post, blog = editable_post(workshop, person, post_id)
    must = _read(workshop, post, blog, material_of(workshop, post, blog, person.id)).must
    if not must:
        return []
    told = "; ".join(mark.message.rstrip(".") for mark in must[:2]) + ("; and more" if len(must) > 2 else "")
    words = " ".join(reason.split())
    if not words:
        raise Refused(f"{len(must)} mark{'s' if len(must) > 1 else ''} must be settled first: {told}.")
    if not is_keeper(workshop, person, blog):
        raise Refused("Only an editor can let a post go out in spite of such a mark; settle it, or ask one.")
    if len(words) > LONGEST_REASON:
        raise BadInput(f"The reason has {len(words)} letters; {LONGEST_REASON} are enough.", "reason")
    # no reason lets out what publishing refuses
    dry_run(workshop, lambda: placing.place(workshop, person, post_id))
    with changing(workshop):
        proofs.override(
            workshop.db, post.id, person.id, words, [mark.message for mark in must], workshop.clock()
        )
    return must


def keep_read(workshop: Workshop, post: Post, blog: Blog, reading: ProofReading) -> None:
    """Keeps what a reading came to, for the desk and the proof of the whole blog, and the links out that are to be tried."""
    counts = Counter(mark.severity for mark in reading.marks)
    with changing(workshop):
        proofs.set_read(
            workshop.db, post.id, blog.id, post.revision, post.changed_at, workshop.clock(), {name: counts[name] for name in SEVERITIES},
            dict(sorted(Counter(mark.check for mark in reading.marks).items())),
        )  # fmt: skip
        proofs.set_links_out(workshop.db, post.id, outward(reading.document))


def read_some(workshop: Workshop, most: int) -> int:
    """Reads the proof of posts that changed since it was read, and keeps the day's total; answers with how many."""
    done = 0
    touched: dict[int, Blog] = {}
    for number in proofs.unread(workshop.db, most):
        with workshop.db.reading():  # a save may take the revision away meanwhile
            post = existing(posts.by_id(workshop.db, number))  # on nobody's behalf
            blog = touched.setdefault(post.blog_id, existing(blogs.by_id(workshop.db, post.blog_id)))
            reading = _read_quietly(workshop, post, blog)
        keep_read(workshop, post, blog, reading)
        done += 1
    for blog in touched.values():
        with changing(workshop):
            proofs.note_day(workshop.db, blog.id, local(workshop.clock(), blog.zone).date().isoformat())
    return done


def _read_quietly(workshop: Workshop, post: Post, blog: Blog) -> ProofReading:
    """A post's proof by its author's words; an unexpected error in one post holds up no other, and is told in the log."""
    document = schema.load(posts.working_body(workshop.db, post.id))
    try:
        let = proofs.ignored(workshop.db, post.id)
        marks = weighed(
            Proof().marks(material_of(workshop, post, blog, post.author_id, document)), _severities(blog)
        )
    except Exception:
        log.exception("the proof of post %d could not be read", post.id)
        return ProofReading(document, [], [])
    return ProofReading(document, [mark for mark in marks if mark.sign not in let], [])


def should_link_here(workshop: Workshop, post: Post, blog: Blog) -> list[OwnPost]:
    """Posts of the blog whose text plainly means this one and does not lead to it; looked for anew with each title and edition."""
    known = (post.title, editions.current_number(workshop.db, blog.id))
    key = ("here", post.id, workshop.db.viewer)
    kept = workshop.cache.get(key)
    if kept is None or kept[0] != known:
        kept = workshop.cache[key] = (known, _meaning(workshop, post, blog))
    return kept[1]


def _meaning(workshop: Workshop, post: Post, blog: Blog) -> list[OwnPost]:
    bring_up_to_date(workshop, blog)
    own = own_posts([OwnPost(post.id, post.title)], blog.language)
    words = [word for word in telling(post.title, blog.language) if word.isalnum()]
    if not own or not words:
        return []
    found = []
    for number in search.find_any(workshop.db, blog.id, words[:6], 40):
        other = posts.on_blog(workshop.db, blog.id, number)
        if other is None or number == post.id or other.aside_at is not None:
            continue
        document = schema.load(posts.working_body(workshop.db, number))
        if f"post:{post.id}" in canonical(document):
            continue
        if any(True for _ in meant_in(to_text(document), own, blog.language)):
            found.append(OwnPost(number, other.title))
        if len(found) == MOST_TO_LINK_HERE:
            break
    return found
