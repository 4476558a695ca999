"""The parts of a house, each of which is tried, given to readers and put back by itself; and how some of its facts are read."""

from __future__ import annotations

from mobbet.core.errors import BadInput
from mobbet.core.web_addresses import split_address

LOOK, MENU, FACTS, PROMOS = "look", "menu", "facts", "promos"
PARTS = {
    LOOK: "the look",
    MENU: "the menu",
    FACTS: "what the house says of itself",
    PROMOS: "the blocks below posts",
}
"""{part: what it is called in the list of editions}."""
LONGEST_LINE = 160


def read_tagline(text: str) -> str:
    """The line below the name. Raises BadInput."""
    tagline = " ".join(text.split())
    if len(tagline) > LONGEST_LINE:
        raise BadInput(
            f"The line below the name is longer than {LONGEST_LINE} letters; shorten it.", "tagline"
        )
    return tagline


def read_server(text: str) -> str:
    """The address below which readers' forms are answered for; '' for that of the blog. Raises BadInput."""
    return read_home(text) if text.strip() else ""


def read_hub(text: str) -> str:
    """The address of a hub; '' for none. Raises BadInput."""
    hub = text.strip()
    if hub and (
        split_address(hub).scheme not in ("http", "https")
        or not split_address(hub).hostname
        or len(hub) > 500
    ):
        raise BadInput(f"“{hub[:80]}” is no address of a hub; write it like https://hub.example/.", "hub")
    return hub


def read_home(text: str) -> str:
    """The public address of a site's front page, with a slash at its end. Raises BadInput."""
    text = text.strip()
    parts = split_address(text)
    if (
        parts.scheme not in ("http", "https")
        or not parts.hostname
        or parts.query
        or parts.fragment
        or any(c.isspace() for c in text)
    ):
        raise BadInput(f"“{text}” is no address of a site; write it like https://my-blog.example/.", "home")
    return text.rstrip("/") + "/"
