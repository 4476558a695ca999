"""A post as a file that people write: the usual front matter, and Markdown whose pictures lie beside it."""

from __future__ import annotations

import json
import re
from pathlib import Path, PurePosixPath
from typing import Any

from mobbet.actions.permalinks import category_subjects
from mobbet.actions.program_posts import is_placed, spelled_visibility
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import make_slug
from mobbet.core.audience import EVERYONE
from mobbet.core.document import outline, schema
from mobbet.core.document.write import to_markdown
from mobbet.core.errors import BadInput
from mobbet.core.filing import path_in_words
from mobbet.core.frontmatter import fields_of
from mobbet.store import filing, media, posts
from mobbet.store.blogs import Blog
from mobbet.store.posts import Post

PICTURES, ASIDE = "pictures", "set-aside"
_POST_LINE = re.compile(r"^post:[ \t]*(\d{1,15})[ \t]*$", re.MULTILINE)
_MEDIA = re.compile(r"\(media:(\d{1,12})(?=[\s)])")


def written(workshop: Workshop, blog: Blog, post: Post) -> str:
    """The file of a post, as it stands now."""
    revision = posts.working(workshop.db, post.id)
    subjects = category_subjects(workshop, blog)
    facts: dict[str, Any] = {
        "post": post.id, "title": revision.title, "subtitle": revision.subtitle, "slug": post.slug if is_placed(workshop, post) else "",
        "date": post.goes_out_wall if is_placed(workshop, post) else None, "expires": post.comes_down_wall,
        "categories": [path_in_words(subjects, one) for one in posts.categories(workshop.db, post.id) if one in subjects],
        "tags": [tag.name for tag in filing.tags(workshop.db, posts.tags(workshop.db, post.id))], "excerpt": post.excerpt, "description": post.description,
        "visibility": "" if post.visibility == EVERYONE else spelled_visibility(workshop, post), "language": post.language,
    }  # fmt: skip
    lines = "".join(
        f"{name}: {json.dumps(value, ensure_ascii=False)}\n"
        for name, value in facts.items()
        if value not in ("", None, [])
    )
    document = schema.load(revision.body)
    names = {number: picture_path(workshop, blog, number) for number in outline.items(document)}
    text = _MEDIA.sub(
        lambda found: f"({names.get(int(found[1])) or 'media:' + found[1]}", to_markdown(document)
    )
    return f"---\n{lines}---\n\n{text}"


def picture_path(workshop: Workshop, blog: Blog, number: int) -> str:
    """Where the original of a picture lies below the folder; '' for what is no picture of the library."""
    item = media.on_blog(workshop.db, blog.id, number)
    if item is None or item.kind != "picture":
        return ""
    name = PurePosixPath(item.name)
    ending = name.suffix.lower() if name.suffix[1:].isalnum() else ""
    return f"{PICTURES}/{number:04}-{make_slug(name.stem, 'picture')}{ending}"


def pictures_of(workshop: Workshop, blog: Blog, post: Post) -> dict[str, str]:
    """{where a picture lies: the hash of its original} of the pictures that a post shows."""
    document = schema.load(posts.working_body(workshop.db, post.id))
    found = {}
    for number in outline.items(document):
        path, item = picture_path(workshop, blog, number), media.on_blog(workshop.db, blog.id, number)
        if path and item:
            found[path] = item.hash
    return found


def post_in(text: str) -> int | None:
    """The post that a file says it is; None for a new one."""
    head = text.lstrip("\ufeff")
    found = _POST_LINE.search(head, 0, head.find("\n---", 3)) if head.startswith("---") else None
    return int(found[1]) if found else None


def without_post(text: str) -> str:
    """A file without the line that says which post it is, which is no setting."""
    return _POST_LINE.sub("", text, count=1) if post_in(text) is not None else text


def with_post(text: str, number: int) -> str:
    """A file that says which post it is; nothing else of it changes. Raises BadInput for front matter that is none."""
    fields, _ = fields_of(text)
    if post_in(text) is not None:
        return _POST_LINE.sub(f"post: {number}", text, count=1)
    head = text.lstrip("\ufeff")
    if fields and head.startswith("---"):
        return (
            head.replace("---\n", f"---\npost: {number}\n", 1)
            if head.startswith("---\n")
            else head.replace("---\r\n", f"---\r\npost: {number}\r\n", 1)
        )
    return f"---\npost: {number}\n---\n\n{head}"


def new_name(folder: Path, title: str, number: int, taken: set[str]) -> str:
    """The name of a new file that no other has."""
    stem = make_slug(title, "post")
    for name in (f"{stem}.md", f"{stem}-{number}.md"):
        if name not in taken and not (folder / name).exists():
            return name
    raise BadInput(
        f"There is a file {stem}-{number}.md in the folder already, which belongs to no post; rename it.",
        "folder",
    )
