"""Posts and files as members of collections of the Atom Publishing Protocol (RFC 5023)."""

from __future__ import annotations

from typing import Any

from mobbet.actions import library, micropub, program_posts
from mobbet.actions.access import readable_post
from mobbet.actions.program_posts import address_of, html_of, is_placed, media_address
from mobbet.actions.programs import Grant
from mobbet.actions.workshop import Workshop
from mobbet.core.atompub import Entry, Link, Member
from mobbet.core.canonical import digest
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.micropub import Changes, NotTaken, Properties
from mobbet.core.slugs import read_post_slug
from mobbet.core.timing import iso
from mobbet.store import media, people
from mobbet.store import posts as post_store
from mobbet.store.media import Media, Wanted
from mobbet.store.posts import Post

PAGE = 20


class Outdated(NotTaken):
    """A change of a state that is not the present one any more."""

    def __init__(self) -> None:
        super().__init__(
            "precondition_failed",
            "Somebody changed it since you got it; get it again and make your change to that.",
            412,
        )


def root(grant: Grant) -> str:
    """Where the collections of a blog begin."""
    return f"{grant.blog.home.rstrip('/')}/~/atom"


def post_by_number(workshop: Workshop, grant: Grant, number: int) -> Post:
    """A post of the blog that the person may read. Raises NotFound."""
    post, blog = readable_post(workshop, grant.person, number)
    if blog.id != grant.blog.id or post.aside_at:
        raise NotFound("There is no such post.")
    return post


def etag_of(member: Member) -> str:
    """Another one whenever the entry is another."""
    return f'"{digest(member)[:32]}"'


def _must_match(member: Member, if_match: str) -> None:
    """Raises Outdated where a client knows another state than the present one; '' for a client that does not say."""
    if if_match and if_match.strip() != "*" and etag_of(member) not in if_match:
        raise Outdated


def member_of(workshop: Workshop, grant: Grant, post: Post) -> Member:
    """A post as an entry."""
    properties = micropub.properties_of(workshop, grant, post)
    working = post_store.working(workshop.db, post.id)
    author = people.by_id(workshop.db, post.author_id)
    is_out = is_placed(workshop, post)
    links = [Link("edit", f"{root(grant)}/posts/{post.id}", "application/atom+xml;type=entry")]
    if is_out:
        links.append(Link("alternate", address_of(workshop, grant.blog, post), "text/html"))
    return Member(
        f"{grant.blog.home}#post-{post.id}", working.title, iso(post.changed_at), author.name if author else "", tuple(links),
        published=str(properties.get("published", [""])[0]), summary=str(properties.get("summary", [""])[0]),
        html=html_of(workshop, grant.blog, schema.load(working.body)), categories=tuple(map(str, properties.get("category", []))), is_draft=not is_out,
    )  # fmt: skip


def listed(workshop: Workshop, grant: Grant, before: tuple[int, int] | None) -> list[Post]:
    """A page of posts, those changed last first, and one more when there are further ones; `before` is (changed at, number) of the last one of the page before."""
    micropub.need(grant, "read", "update", "create", "draft")
    return post_store.changed_last(workshop.db, grant.blog.id, before, PAGE + 1)


def _properties(entry: Entry, slug: str = "") -> Properties:
    content: Any = {"html": entry.html} if entry.html is not None else entry.text or ""
    found: dict[str, Any] = {
        "name": entry.title, "content": content, "summary": entry.summary, "published": entry.published, "mp-slug": slug,
    }  # fmt: skip
    status = "draft" if entry.is_draft else "published"
    return {
        **{name: [value] for name, value in found.items() if value},
        "category": list(entry.categories),
        "post-status": [status],
    }


def _free_slug(workshop: Workshop, grant: Grant, proposed: str) -> str:
    """A slug as a client proposes it, where no post has it; '' for none, so that it follows from the title."""
    try:
        slug = read_post_slug(proposed, grant.blog.slug_script)
    except BadInput:
        return ""
    return "" if post_store.is_slug_taken(workshop.db, grant.blog.id, slug, 0) else slug


def create(workshop: Workshop, grant: Grant, entry: Entry, slug: str) -> tuple[Post, str]:
    """(the new post, why it does not go out yet or ''). A slug that is taken, or none, makes way for one that follows from the title."""
    micropub.need(grant, "create", "draft")
    done = micropub.create(workshop, grant, _properties(entry, _free_slug(workshop, grant, slug)))
    return post_by_number(workshop, grant, done.post_id), done.waits


def update(workshop: Workshop, grant: Grant, number: int, entry: Entry, if_match: str) -> tuple[Post, str]:
    """(the post with what the entry says of it, why it does not go out or ''). Raises Outdated where `if_match` is another state than the present one."""
    post = post_by_number(workshop, grant, number)
    _must_match(member_of(workshop, grant, post), if_match)
    properties = _properties(entry)
    gone = [name for name in ("summary",) if name not in properties]
    changes = Changes(replace=properties, remove=tuple(gone))
    micropub.need(grant, "update")
    done = micropub.update(workshop, grant, post, changes)
    return post_store.again(workshop.db, post), done.waits


def remove(workshop: Workshop, grant: Grant, number: int, if_match: str) -> None:
    """Takes a post off the site and sets it aside. Raises Outdated."""
    post = post_by_number(workshop, grant, number)
    _must_match(member_of(workshop, grant, post), if_match)
    micropub.need(grant, "delete")
    program_posts.remove(workshop, grant, post)


# files


def item_by_number(workshop: Workshop, grant: Grant, number: int) -> Media:
    """An item of the library. Raises NotFound."""
    item = media.on_blog(workshop.db, grant.blog.id, number)
    if item is None or item.aside_at:
        raise NotFound("There is no such file.")
    return item


def member_of_item(workshop: Workshop, grant: Grant, item: Media) -> Member:
    """An item of the library as a media link entry."""
    person, address = people.by_id(workshop.db, item.added_by), media_address(workshop, grant.blog, item.id)
    links = (
        Link("edit", f"{root(grant)}/media/{item.id}", "application/atom+xml;type=entry"),
        Link("edit-media", address, item.type),
    )
    return Member(
        f"{grant.blog.home}#file-{item.id}", item.name, iso(item.added_at), person.name if person else "", links,
        summary=item.alt or item.caption, content_src=(address, item.type),
    )  # fmt: skip


def describe(workshop: Workshop, grant: Grant, number: int, entry: Entry, if_match: str) -> Media:
    """Says of an item what an entry says: its name is the title, what it shows the summary. Raises Outdated."""
    micropub.need(grant, "media", "update")
    item = item_by_number(workshop, grant, number)
    _must_match(member_of_item(workshop, grant, item), if_match)
    return library.describe(workshop, grant.person, number, name=entry.title or item.name, alt=entry.summary)


def remove_item(workshop: Workshop, grant: Grant, number: int) -> None:
    """Sets an item aside that no post shows. Raises Refused for one that is shown."""
    micropub.need(grant, "media", "delete")
    library.set_aside(workshop, grant.person, item_by_number(workshop, grant, number).id)


def items(workshop: Workshop, grant: Grant) -> list[Media]:
    """The newest items of the library."""
    micropub.need(grant, "media", "read", "update", "create")
    return media.find(workshop.db, grant.blog.id, Wanted(), PAGE)
