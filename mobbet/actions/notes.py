"""Notes in blue pencil: left on passages by colleagues and by readers of a copy, answered, settled, opened again; and how they follow the text."""

from __future__ import annotations

from dataclasses import dataclass, field

from mobbet.actions.access import editable_post, note_post
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.annotation import LONGEST_QUOTE, Change, Line, Passage, find, linear, lines_of, passage_at
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.values import existing
from mobbet.store import events, notes, posts
from mobbet.store.blogs import Blog
from mobbet.store.notes import LEFT, OPEN, SETTLED, TAKEN, Note
from mobbet.store.people import Person
from mobbet.store.posts import Post, Revision
from mobbet.store.reading_copies import CopyReader

LONGEST, MOST, MOST_OF_READER = 4000, 1000, 200
NOWHERE = Passage(-1, -1, "", "", "")
ENDINGS = {"settle": SETTLED, "take": TAKEN, "leave": LEFT, "reopen": OPEN}


@dataclass(frozen=True)
class Thread:
    """A note with its answers."""

    note: Note
    answers: list[Note] = field(default_factory=list)


def text_of(revision: Revision) -> list[Line]:
    """The lines of a revision."""
    return lines_of(revision.title, revision.subtitle, schema.load(revision.body))


def threads(workshop: Workshop, person: Person, post_id: int) -> list[Thread]:
    """The notes on a post with their answers, in the order of the text; those on the whole first, those whose passage is gone last. Raises NotFound, NotAllowed."""
    post, _ = note_post(workshop, person, post_id)
    return threads_of(workshop, post.id)


def threads_of(workshop: Workshop, post_id: int, reader_ids: frozenset[int] | None = None) -> list[Thread]:
    """The same, of a post that was handed out; with readers, of what those left alone."""
    rows = notes.of_post(workshop.db, post_id)
    found = {
        row.id: Thread(row)
        for row in rows
        if row.answers is None and (reader_ids is None or row.reader_id in reader_ids)
    }
    for row in rows:
        if row.answers in found:
            found[row.answers].answers.append(row)
    return sorted(found.values(), key=lambda one: (one.note.is_gone, one.note.passage_start, one.note.id))


def leave(
    workshop: Workshop,
    person: Person,
    post_id: int,
    revision: int,
    start: int,
    end: int,
    said: str,
    proposal: str | None = None,
) -> Note:
    """Leaves a note on the passage between two offsets of the linear text of a revision; on the whole post where they are the same.

    Raises BadInput, and Refused where the post was saved since.
    """
    post, blog = note_post(workshop, person, post_id)
    with changing(workshop, person):
        post = posts.again(workshop.db, post)
        if revision != post.revision:
            raise Refused("The text was saved meanwhile; choose the passage once more.")
        text = linear(text_of(posts.working(workshop.db, post.id)))
        if not 0 <= start <= end <= len(text) or end - start > LONGEST_QUOTE:
            raise BadInput(
                f"The passage has {end - start:,} letters; choose {LONGEST_QUOTE:,} at the most.", "passage"
            )
        passage = passage_at(text, start, end) if text[start:end].strip() else NOWHERE
        return _add(workshop, post, blog, person.name, said, proposal, passage, person=person)


def leave_on_words(
    workshop: Workshop, person: Person, post_id: int, about: Passage, said: str, proposal: str | None
) -> Note:
    """Leaves a note of a colleague on words of the post's page, as `leave_as_reader` takes them. Raises BadInput, NotFound, NotAllowed."""
    post, blog = note_post(workshop, person, post_id)
    with changing(workshop, person):
        passage = found_in(linear(text_of(posts.working(workshop.db, post.id))), about)
        return _add(workshop, post, blog, person.name, said, proposal, passage, person=person)


def leave_as_reader(
    workshop: Workshop,
    post: Post,
    blog: Blog,
    reader: CopyReader,
    about: Passage,
    said: str,
    proposal: str | None,
) -> Note:
    """Leaves a note of a reader of a copy; `about` has the words of the passage and what stands around them, as the page shows them. Raises BadInput."""
    with changing(workshop):
        if notes.count(workshop.db, post.id, reader.id) >= MOST_OF_READER:
            raise Refused(f"You left {MOST_OF_READER} notes, which is the most; thank you.")
        passage = found_in(linear(text_of(posts.working(workshop.db, post.id))), about)
        return _add(workshop, post, blog, reader.reader_name, said, proposal, passage, reader=reader)


def found_in(text: str, about: Passage) -> Passage:
    """Where words that a page shows stand in the linear text, white space aside. Raises BadInput where they stand in several places, or in none."""
    if not about.quote.strip():
        return NOWHERE
    if len(about.quote) > LONGEST_QUOTE:
        raise BadInput(
            f"The passage has {len(about.quote):,} letters; choose {LONGEST_QUOTE:,} at the most.", "passage"
        )
    plain, places = _plain(text)
    quote, prefix, suffix = (_plain(words)[0] for words in (about.quote.strip(), about.prefix, about.suffix))
    found = find(plain, quote, prefix, suffix)
    if found is None:
        raise BadInput(
            f"“{quote[:60]}” is not to be found by itself in the text; choose a few more words.", "passage"
        )
    return passage_at(text, places[found.start], places[found.end - 1] + 1)


def _plain(text: str) -> tuple[str, list[int]]:
    """A text with one space for any white space, and the offset of each of its letters."""
    letters: list[str] = []
    places: list[int] = []
    for at, letter in enumerate(text):
        is_space = letter.isspace() or letter == "\ufffc"
        if is_space and letters and letters[-1] == " ":
            continue
        letters.append(" " if is_space else letter)
        places.append(at)
    return "".join(letters), places


def _add(
    workshop: Workshop, post: Post, blog: Blog, who: str, said: str, proposal: str | None, passage: Passage, person: Person | None = None,
    reader: CopyReader | None = None, answers: int | None = None,
) -> Note:  # fmt: skip
    said, proposal = read_words(said), None if proposal is None else read_words(proposal)
    if not said and not (proposal is not None and passage.quote):
        raise BadInput("The note has no words yet; write what you think.", "said")
    if proposal is not None and not passage.quote:
        raise BadInput("Words can be proposed for a passage; choose one first.", "proposal")
    if notes.count(workshop.db, post.id) >= MOST:
        raise Refused(
            f"This post has {MOST:,} notes and answers, which is the most; settle some with its author."
        )
    row = Note(
        0, blog.id, post.id, answers, person.id if person else None, reader.id if reader else None, who, workshop.clock(), passage.start, passage.end,
        passage.quote, passage.prefix, passage.suffix, said, proposal, OPEN, None, None,
    )  # fmt: skip
    number = notes.add(workshop.db, row)
    events.add(workshop.db, blog.id)
    return existing(notes.by_id(workshop.db, post.id, number))


def read_words(text: str) -> str:
    """The words of a note. Raises BadInput where there are too many."""
    text = text.replace("\r\n", "\n").strip()
    if len(text) > LONGEST:
        raise BadInput(f"The note has {len(text):,} letters; {LONGEST:,} is the most.", "said")
    return text


def answer(workshop: Workshop, person: Person, post_id: int, number: int, said: str) -> Note:
    """Answers a note. Raises BadInput, NotFound."""
    post, blog = note_post(workshop, person, post_id)
    with changing(workshop, person):
        _first(workshop, post, number)
        return _add(workshop, post, blog, person.name, said, None, NOWHERE, person=person, answers=number)


def answer_as_reader(
    workshop: Workshop, post: Post, blog: Blog, reader: CopyReader, number: int, said: str
) -> Note:
    """Answers in a thread that the same reader began. Raises NotFound for any other."""
    with changing(workshop):
        if _first(workshop, post, number).reader_id != reader.id:
            raise NotFound("This note is no more; reload the page.")
        if notes.count(workshop.db, post.id, reader.id) >= MOST_OF_READER:
            raise Refused(f"You left {MOST_OF_READER} notes, which is the most; thank you.")
        return _add(
            workshop, post, blog, reader.reader_name, said, None, NOWHERE, reader=reader, answers=number
        )


def _first(workshop: Workshop, post: Post, number: int) -> Note:
    found = notes.by_id(workshop.db, post.id, number)
    if found is None or found.answers is not None:
        raise NotFound("This note is no more; reload the page.")
    return found


def end(workshop: Workshop, person: Person, post_id: int, number: int, what: str) -> None:
    """Settles a note, opens it again, or says that its words were taken, or left. Only whoever may change the post, or left the note.

    Raises BadInput, NotFound, NotAllowed.
    """
    if what not in ENDINGS:
        raise BadInput(f"“{what[:20]}” is nothing that is done with a note.", "what")
    post, blog = note_post(workshop, person, post_id)
    with changing(workshop, person):
        note = _first(workshop, post, number)
        if note.person_id != person.id or what == "take":
            editable_post(workshop, person, post_id)
        if what == "take" and note.proposal is None:
            raise Refused("This note proposes no words.")
        notes.set_ended(workshop.db, number, ENDINGS[what], person.id, workshop.clock())
        events.add(workshop.db, blog.id)


def remove(workshop: Workshop, person: Person, post_id: int, number: int) -> None:
    """Removes a note that this person left, with its answers. Raises NotFound, NotAllowed."""
    post, blog = note_post(workshop, person, post_id)
    with changing(workshop, person):
        if _first(workshop, post, number).person_id != person.id:
            raise NotAllowed("Somebody else left this note; settle it instead.")
        notes.remove(workshop.db, number)
        events.add(workshop.db, blog.id)


def follow_text(workshop: Workshop, before: Revision, now: Revision) -> None:
    """Has the notes on a post follow their passages to another text of it; in the unit of work that saves it."""
    rows = notes.on_passages(workshop.db, now.post_id)
    if not rows:
        return
    change = Change(linear(text_of(before)), linear(text_of(now)))
    for row in rows:
        passage = change.follow(row.passage)
        if (passage.start, passage.end) != (row.passage_start, row.passage_end):
            notes.set_passage(workshop.db, row.id, passage)
