"""Pages beside posts: what kinds there are, and how deep they stand below one another."""

from __future__ import annotations

from mobbet.core.errors import BadInput

POST, PAGE, ABOUT, CONTACT = "", "page", "about", "contact"
KINDS = {
    POST: "a post",
    PAGE: "a page",
    ABOUT: "a page about the blog",
    CONTACT: "a page that says how to reach you",
}
"""The kinds of what is written, as the docket has them, in words. All but the first are pages: undated, and on no list or feed."""
SCHEMA_TYPES = {PAGE: "WebPage", ABOUT: "AboutPage", CONTACT: "ContactPage"}
"""The schema.org type of each kind of page."""
DEEPEST = 5
"""How many pages stand below one another at the most."""
_TYPED = {"post": POST} | {kind: kind for kind in KINDS if kind}


def read_kind(text: str) -> str:
    """A kind that a person typed: post, page, about or contact. Raises BadInput."""
    kind = _TYPED.get(text.strip().lower())
    if kind is None:
        raise BadInput(f"“{text}” is nothing a text can be; write {', '.join(_TYPED)}.", "kind")
    return kind


def counted(posts: int, pages: int) -> str:
    """“47 posts and 5 pages”; '' for neither."""
    found = ((posts, "post"), (pages, "page"))
    return " and ".join(f"{count:,} {name}{'s' if count != 1 else ''}" for count, name in found if count)


def kind_name(kind: str) -> str:
    """'post' or 'page', as commands print it."""
    return "page" if kind else "post"
