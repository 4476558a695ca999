"""Posts as other programs know them: by an address, and with what they may do to them."""

from __future__ import annotations

import hmac
import re
from typing import Any

from mobbet.actions import docket_lines, placing, post_states, proofing
from mobbet.actions.access import editable_post, readable_post
from mobbet.actions.import_pictures import Pictures
from mobbet.actions.programs import Grant
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import GROUP, ONLY_ME
from mobbet.core.document.links import media_number, media_src
from mobbet.core.document.write import to_html
from mobbet.core.errors import MobbetError, NotFound
from mobbet.core.permalinks import number_of_code, one_form, short_path
from mobbet.core.states import IN_TIMETABLE, OUT
from mobbet.core.web_addresses import split_address
from mobbet.services.vault import Vault
from mobbet.store import addresses, media, placements, readers
from mobbet.store.blogs import Blog
from mobbet.store.media import Media
from mobbet.store.posts import Post

MOST_BYTES_FETCHED = 50_000_000
_SHORT = re.compile(r"/~([a-z0-9]{1,14})/?")
_MEDIA = re.compile(r"/~/media/(\d{1,12})-([0-9a-f]{32})(?:\.\w{1,8})?")


def address_of(workshop: Workshop, blog: Blog, post: Post) -> str:
    """Where a post is found: its page, or the short address that leads to it once it is out."""
    path = placements.path_shown(workshop.db, post.id, workshop.clock())
    return blog.home.rstrip("/") + (path or short_path(post.id))


def post_at(workshop: Workshop, grant: Grant, address: str) -> Post:
    """The post at an address of the blog, also one that it had before, which the person of a grant may read. Raises NotFound."""
    path = below_home(grant.blog, address)
    number = _number_at(workshop, grant.blog, path) if path else None
    if number is None:
        raise NotFound(f"There is no post at {address[:120]}.")
    post, blog = readable_post(workshop, grant.person, number)
    if blog.id != grant.blog.id:
        raise NotFound(f"There is no post at {address[:120]}.")
    return post


def below_home(blog: Blog, address: str) -> str:
    """The path of an address below that of the blog; '' for one elsewhere."""
    home, parts = split_address(blog.home), split_address(address)
    if (parts.hostname or home.hostname) != home.hostname or not parts.path.startswith(home.path):
        return ""
    return "/" + parts.path[len(home.path) :].lstrip("/")


def _number_at(workshop: Workshop, blog: Blog, path: str) -> int | None:
    short = _SHORT.fullmatch(path)
    if short:
        return number_of_code(short[1])
    owner = addresses.owner(workshop.db, blog.id, one_form(path))
    return owner[1] if owner and owner[0] == "post" else None


def place(workshop: Workshop, grant: Grant, post_id: int) -> str:
    """Has a post go out, as its docket says; '' or why it stays as it is: a mark of the proof, or an editor who has to say so first."""
    try:
        with changing(workshop, grant.person):
            proofing.before_placing(workshop, grant.person, post_id)
            placing.place(workshop, grant.person, post_id)
    except MobbetError as error:
        return str(error)
    return ""


def remove(workshop: Workshop, grant: Grant, post: Post) -> None:
    """Takes a post off the site and sets it aside. Raises NotAllowed."""
    with changing(workshop, grant.person):
        if post_states.state_of(workshop, post) in (OUT, IN_TIMETABLE):
            placing.withdraw(workshop, grant.person, post.id)
        placing.set_aside(workshop, grant.person, post.id)


def bring_back(workshop: Workshop, grant: Grant, post: Post) -> str:
    """Brings a post back that was set aside, and has it go out again when it had, or at its time; '' or why it does not."""
    with changing(workshop, grant.person):
        placing.restore(workshop, grant.person, post.id)
        rows = placements.of_post(workshop.db, post.id)
        if rows and rows[-1].goes_out > workshop.clock():
            docket_lines.set_time(workshop, grant.person, post.id, "goes_out_wall", rows[-1].goes_out_wall)
    return place(workshop, grant, post.id) if rows else ""


def spelled_visibility(workshop: Workshop, post: Post) -> str:
    """The visibility of a post as a person types it, a group by its name; that of a group which is gone is its author's alone."""
    if not post.visibility.startswith(GROUP):
        return post.visibility
    group = readers.group(workshop.db, int(post.visibility.removeprefix(GROUP)))
    return f"{GROUP}{group.name}" if group else ONLY_ME


def is_placed(workshop: Workshop, post: Post) -> bool:
    """Whether readers get a post, or are going to."""
    return post_states.state_of(workshop, post) in (OUT, IN_TIMETABLE)


def withdraw(workshop: Workshop, grant: Grant, post: Post) -> None:
    """Makes a draft of a post that is out. Raises NotAllowed."""
    editable_post(workshop, grant.person, post.id)
    placing.withdraw(workshop, grant.person, post.id)


# files


def media_address(workshop: Workshop, blog: Blog, media_id: int) -> str:
    """Where a file is found before a post shows it: nobody guesses the address, which is signed with the key of the server."""
    item = media.on_blog(workshop.db, blog.id, media_id)
    if item is None:
        raise NotFound("There is no such file.")
    ending = item.name.rpartition(".")[2].lower() if "." in item.name else ""
    tail = f".{ending}" if ending.isalnum() and ending.isascii() and len(ending) <= 8 else ""
    return f"{blog.home.rstrip('/')}/~/media/{media_id}-{_sign(workshop, blog, item)}{tail}"


def media_at(workshop: Workshop, blog: Blog, address: str) -> int | None:
    """The item of the library at such an address; None for any other."""
    found = _MEDIA.fullmatch(below_home(blog, address))
    item = media.on_blog(workshop.db, blog.id, int(found[1])) if found else None
    return item.id if item and found and hmac.compare_digest(found[2], _sign(workshop, blog, item)) else None


def _sign(workshop: Workshop, blog: Blog, item: Media) -> str:
    return Vault(workshop.settings.sealing_key).mac(f"file {blog.id} {item.id} {item.hash}")[:32]


def html_of(workshop: Workshop, blog: Blog, document: dict[str, Any]) -> str:
    """A text as HTML, which comes back as the same text; its files at addresses that a program can open."""

    def address(found: re.Match[str]) -> str:
        number = int(found[1])
        known = media.on_blog(workshop.db, blog.id, number)
        return f'"{media_address(workshop, blog, number)}"' if known else found[0]

    return re.sub(r'"media:(\d{1,12})"', address, to_html(document))


class ProgramPictures(Pictures):
    """Knows the files of the library by the addresses that programs were told; others stay where they are."""

    def __init__(self, workshop: Workshop, grant: Grant) -> None:
        super().__init__(workshop, grant.person, grant.blog)
        self._workshop, self._blog = workshop, grant.blog

    def bring(self, src: str) -> str | None:
        known = media_at(self._workshop, self._blog, src)
        if known is not None:
            return media_src(known)
        number = media_number(src)
        if number is not None and media.on_blog(self._workshop.db, self._blog.id, number):
            return src
        return super().bring(src)
