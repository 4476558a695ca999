"""Keeps the posts of a blog in step with a folder of Markdown files: a change on either side comes over, and nothing is thrown away."""

from __future__ import annotations

import fcntl
import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

from mobbet.actions import files, placing, posts
from mobbet.actions.access import owned_blog
from mobbet.actions.program_posts import is_placed
from mobbet.actions.sync_files import (
    ASIDE,
    PICTURES,
    new_name,
    pictures_of,
    post_in,
    with_post,
    without_post,
    written,
)
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput, Broken, MobbetError, Refused
from mobbet.core.frontmatter import read
from mobbet.store import posts as post_store
from mobbet.store import revisions, synced
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.synced import Synced

LARGEST, MOST_FILES, SECONDS = 5_000_000, 50_000, 20.0
CAME, WENT, NEW_POST, NEW_FILE, MET, SET_ASIDE, BACK, REFUSED = (
    "came over",
    "was written",
    "is a new post",
    "is a new file",
    "met",
    "was set aside",
    "is back",
    "refused",
)


@dataclass(frozen=True)
class Step:
    """What was done with a file or a post, and what somebody has to know of it."""

    what: str
    path: str
    post: int
    note: str = ""


def sync(workshop: Workshop, person: Person, blog: Blog, folder: Path) -> list[Step]:
    """Brings both sides to the same state, once. Run again after it was broken off it goes on.

    Raises BadInput for what is no folder, Refused while another one works on it, NotAllowed.
    """
    owned_blog(workshop, person, blog.slug)
    if not folder.is_dir():
        raise BadInput(f"{folder} is no folder; make it first.", "folder")
    with _alone(folder):
        return list(_Sync(workshop.seen_by(person.id), person, blog, folder.resolve()).steps())


@contextmanager
def _alone(folder: Path) -> Iterator[None]:
    try:
        handle = os.open(folder / ".mobbet-sync", os.O_CREAT | os.O_RDWR, 0o600)
    except OSError as error:
        raise Broken(f"{folder} cannot be written ({error.strerror}); check its rights.") from None
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        yield
    except BlockingIOError:
        raise Refused(f"{folder} is being kept in step already; end the other one first.") from None
    finally:
        os.close(handle)


def _digest(text: str) -> str:
    return sha256(text.encode()).hexdigest()


class _Sync:
    def __init__(self, workshop: Workshop, person: Person, blog: Blog, folder: Path) -> None:
        self._workshop, self._person, self._blog, self._folder = workshop, person, blog, folder
        self._db = workshop.db
        self._known = synced.of_folder(self._db, blog.id, str(folder))

    def steps(self) -> Iterator[Step]:
        found, refused = self._files()
        yield from refused
        there = set(synced.posts_in_hand(self._db, self._blog.id))
        paths = {number: path for path, (number, _) in found.items() if number is not None}
        for number in sorted(there | self._known.keys() | paths.keys()):
            path = paths.get(number)
            text = found[path][1] if path else None
            try:
                yield from self._one(number, path, text, number in there, {*found})
            except MobbetError as error:
                yield Step(REFUSED, path or f"post {number}", number, str(error))
        for path in [path for path, (known, _) in found.items() if known is None]:
            try:
                yield self._new_post(path, found[path][1])
            except MobbetError as error:
                yield Step(REFUSED, path, 0, str(error))

    def _files(self) -> tuple[dict[str, tuple[int | None, str]], list[Step]]:
        """({path: (the post it is, its text)}, those that cannot be read). Two files of one post are told, and the second one is left."""
        found: dict[str, tuple[int | None, str]] = {}
        refused, seen = [], dict[int, str]()
        by_path = {row.path: row.post_id for row in self._known.values()}
        for file in self._markdown():
            path = file.relative_to(self._folder).as_posix()
            try:
                if not file.resolve().is_relative_to(self._folder) or file.stat().st_size > LARGEST:
                    raise BadInput("it leads out of the folder, or is larger than 5 MB", "folder")
                text = file.read_bytes().decode()
            except (OSError, UnicodeDecodeError, BadInput) as error:
                refused.append(Step(REFUSED, path, 0, str(error)))
                continue
            number = post_in(text)
            number = by_path.get(path) if number is None else number if self._is_ours(number) else None
            if number is not None and number in seen:
                refused.append(
                    Step(
                        REFUSED,
                        path,
                        number,
                        f"{seen[number]} is the same post; take the line “post: {number}” out of this one, and it becomes a new post.",
                    )
                )
                continue
            if number is not None:
                seen[number] = path
            found[path] = (number, text)
        return found, refused

    def _markdown(self) -> list[Path]:
        files = []
        for where, folders, names in os.walk(self._folder, followlinks=False):
            folders[:] = sorted(
                name for name in folders if not name.startswith(".") and name not in (ASIDE, PICTURES)
            )
            files += [
                Path(where) / name
                for name in sorted(names)
                if name.endswith((".md", ".markdown")) and not name.startswith(".")
            ]
            if len(files) > MOST_FILES:
                raise BadInput(
                    f"The folder has more than {MOST_FILES:,} files; keep a smaller one in step.", "folder"
                )
        return files

    def _is_ours(self, number: int) -> bool:
        post = post_store.by_id(self._db, number)
        return post is not None and post.blog_id == self._blog.id

    def _one(
        self, number: int, path: str | None, text: str | None, is_there: bool, taken: set[str]
    ) -> Iterator[Step]:
        """Compares a post with its file, and brings over what changed."""
        row, post = self._known.get(number), post_store.by_id(self._db, number)
        if post is None or post.blog_id != self._blog.id:
            self._forget(number)
            return
        if not is_there:
            if path and text is not None:
                yield from self._gone_here(post, path, text, row)
            else:
                self._forget(number)
            return
        now = written(self._workshop, self._blog, post)
        if path is None or text is None:
            yield from self._gone_there(post, now, row, taken)
            return
        file_changed = row is None or _digest(text) != row.file_digest
        post_changed = row is None or _digest(now) != row.post_digest
        if text == now or (not file_changed and not post_changed):
            self._keep(post, path, text, now)
        elif row is None or (file_changed and post_changed):
            yield self._meet(post, path, text)
        elif file_changed:
            yield self._take(post, path, text)
        else:
            self._write(post, path, now)
            yield Step(WENT, path, number)

    def _gone_here(self, post: Post, path: str, text: str, row: Synced | None) -> Iterator[Step]:
        """A post that was set aside here: its file is put apart, unless somebody wrote on it, which brings the post back."""
        if row is not None and _digest(text) == row.file_digest:
            place = self._folder / ASIDE / Path(path).name
            place.parent.mkdir(exist_ok=True)
            while place.exists():
                place = place.with_name(f"{place.stem}-{post.id}{place.suffix}")
            shutil.move(self._folder / path, place)
            self._forget(post.id)
            yield Step(SET_ASIDE, path, post.id, f"The post was set aside; its file lies in {ASIDE}.")
            return
        with changing(self._workshop, self._person):
            placing.restore(self._workshop, self._person, post.id)
            step = self._take(post, path, text)
        yield Step(BACK, path, post.id, step.note or "It was set aside, and its file was written on since.")

    def _gone_there(self, post: Post, now: str, row: Synced | None, taken: set[str]) -> Iterator[Step]:
        """A post without a file: a new file, or one that was removed, by which the post is set aside unless it changed since."""
        if row is None or _digest(now) != row.post_digest:
            path = new_name(self._folder, post.title, post.id, taken)
            self._write(post, path, now)
            yield Step(
                NEW_FILE,
                path,
                post.id,
                "" if row is None else "Its file was removed, and the post was changed since.",
            )
            return
        with changing(self._workshop, self._person):
            if is_placed(self._workshop, post):
                placing.withdraw(self._workshop, self._person, post.id)
            placing.set_aside(self._workshop, self._person, post.id)
        self._forget(post.id)
        yield Step(
            SET_ASIDE, row.path, post.id, "Its file was removed; the post can be brought back on the desk."
        )

    def _new_post(self, path: str, text: str) -> Step:
        made = files.new_post(self._workshop, self._person, self._blog.slug, without_post(text), self._folder)
        numbered = with_post(text, made.post.id)
        self._put(path, numbered)
        self._keep(
            made.post,
            path,
            numbered,
            written(self._workshop, self._blog, post_store.again(self._db, made.post)),
        )
        return Step(NEW_POST, path, made.post.id, " ".join(made.notes))

    def _take(self, post: Post, path: str, text: str) -> Step:
        made = files.update_post(self._workshop, self._person, post.id, without_post(text), self._folder)
        self._keep(post, path, text, written(self._workshop, self._blog, post_store.again(self._db, post)))
        return Step(CAME, path, post.id, " ".join(made.notes))

    def _meet(self, post: Post, path: str, text: str) -> Step:
        """Both were changed: the text of the file becomes a revision of its own, and the file gets what the post has."""
        taken = read(without_post(text), self._blog.zone)
        document = self._workshop.services.heavy(from_markdown, taken.markdown, seconds=SECONDS, what=path)
        before = post_store.working(self._db, post.id)
        with changing(self._workshop, self._person):
            apart = posts.save_text(
                self._workshop, self._person, post.id, base=post_store.again(self._db, post).revision, title=taken.settings.title or before.title,
                subtitle=taken.settings.subtitle or before.subtitle, body=document, is_apart=True,
            )  # fmt: skip
            revisions.set_name(self._db, post.id, apart.revision, f"from {path}"[:80])
            posts.save_text(
                self._workshop,
                self._person,
                post.id,
                base=apart.revision,
                title=before.title,
                subtitle=before.subtitle,
                body=schema.load(before.body),
                is_apart=True,
            )
        post = post_store.again(self._db, post)
        self._write(post, path, written(self._workshop, self._blog, post))
        return Step(
            MET,
            path,
            post.id,
            f"Both were changed: the file’s text is revision {apart.revision} of the post, where you compare them; the file has what the post has.",
        )

    def _write(self, post: Post, path: str, now: str) -> None:
        for name, digest in pictures_of(self._workshop, self._blog, post).items():
            place = self._folder / name
            if not place.exists():
                place.parent.mkdir(parents=True, exist_ok=True)
                shutil.copyfile(self._workshop.media.path(digest), place)
        self._put(path, now)
        self._keep(post, path, now, now)

    def _put(self, path: str, text: str) -> None:
        file = self._folder / path
        part = file.with_name(f".{file.name}.part")
        try:
            part.write_bytes(text.encode())
            os.replace(part, file)
        except OSError as error:
            raise Broken(f"{file} cannot be written ({error.strerror}); check its rights.") from None

    def _keep(self, post: Post, path: str, text: str, now: str) -> None:
        row = Synced(post.id, path, _digest(text), _digest(now))
        if self._known.get(post.id) != row:
            with changing(self._workshop):
                synced.put(self._db, self._blog.id, str(self._folder), row)

    def _forget(self, number: int) -> None:
        with changing(self._workshop):
            synced.forget(self._db, self._blog.id, str(self._folder), number)
