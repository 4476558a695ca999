"""What the values of an export must be beside their form: each is read by the rule that reads it when a person sets it.

A check gives the value as it is kept and raises BadInput; what it raises beside that for data of another shape becomes BadInput as well.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Any

from mobbet.core import sharing
from mobbet.core.addresses import read_blog_slug
from mobbet.core.alike import checked, read_choice
from mobbet.core.audience import LISTED
from mobbet.core.blocklist import read_blocklist
from mobbet.core.canonical import canonical
from mobbet.core.comments import CLOSED, OPEN
from mobbet.core.document.links import clean_address
from mobbet.core.embeds import read_hosts
from mobbet.core.errors import BadInput
from mobbet.core.fill_ins import read_facts
from mobbet.core.house import FACTS, LOOK, MENU, PROMOS, read_home, read_hub, read_server
from mobbet.core.languages import read_language
from mobbet.core.letters import read_rules as read_letter_rules
from mobbet.core.link_rules import is_domain, read_rules
from mobbet.core.look.begun import read_begun
from mobbet.core.look.look import look_text, read_look
from mobbet.core.look.own import own_text, read_own
from mobbet.core.media import recipes
from mobbet.core.menu import menu_text, read_address, read_menu
from mobbet.core.names import one_line
from mobbet.core.pages import KINDS as PAGE_KINDS
from mobbet.core.permalinks import read_pattern
from mobbet.core.promos import promos_text, read_promos
from mobbet.core.rights import Role, house_rights
from mobbet.core.slots import read_rule
from mobbet.core.timing import zone

Check = Callable[[Any], Any]
LONGEST = 1000


def checked_value(check: Check, value: Any) -> Any:
    """A value by a check. Raises BadInput."""
    try:
        return check(value)
    except BadInput:
        raise
    except (ValueError, TypeError, KeyError, AttributeError, IndexError, RecursionError):
        raise BadInput(
            f"{str(value)[:80]} cannot be read; correct it in the folder, or export the blog again.", "folder"
        ) from None


def _same(read: Callable[[str], Any]) -> Check:
    """The text itself, when a rule reads it."""

    def check(text: str) -> str:
        read(text)
        return text

    return check


def _matching(pattern: str, wanted: str) -> Check:
    """The check of a text that may be missing, and that a pattern matches as a whole."""
    found = re.compile(pattern)

    def check(text: str | None) -> str | None:
        if text and (len(text) > LONGEST or not found.fullmatch(text)):
            raise BadInput(f"“{text[:80]}” is not {wanted}; correct it in the folder.", "folder")
        return text

    return check


_slug = _matching(r"[^\s/\\.?#%\"'<>&\x00-\x1f\x7f]+", "the end of an address")
_path_letters = _matching(r"/[^\\\x00-\x1f\x7f]*", "an address below the blog’s")
_wall = _matching(r"\d{4}-\d\d-\d\dT\d\d:\d\d", "a time such as 2026-12-01T09:00")
_day = _matching(r"\d{4}-\d\d-\d\d", "a day such as 2026-12-01")


def _path(text: str) -> str:
    """An address below the blog's, which leads nowhere above it."""
    if not text.startswith("/") or ".." in text.split("?")[0].split("/") or "//" in text.split("?")[0]:
        raise BadInput(
            f"“{text[:80]}” is not an address below the blog’s; correct it in the folder.", "folder"
        )
    return str(_path_letters(text))


def _line(most: int) -> Check:
    """The check of some words in one line."""

    def check(text: str) -> str:
        if len(text) > most or one_line(text) != text:
            raise BadInput(
                f"“{text[:80]}” is not a line of at most {most} letters; correct it in the folder.", "folder"
            )
        return text

    return check


def _one_of(*choices: str) -> Check:
    """The check of a word that is one of a few."""

    def check(text: str) -> str:
        if text not in choices:
            raise BadInput(
                f"“{text[:40]}” is not one of {', '.join(one or 'nothing' for one in choices)}; correct it in the folder.",
                "folder",
            )
        return text

    return check


def _host(text: str | None) -> str | None:
    if text is not None and not is_domain(text):
        raise BadInput(f"“{text[:80]}” is no domain; correct it in the folder.", "folder")
    return text


def _address(text: str) -> str:
    """An address of the web, or ''."""
    if text and (clean_address(text) != text or not text.startswith(("http://", "https://", "mailto:"))):
        raise BadInput(
            f"“{text[:80]}” is no address that a page can lead to; write one that begins with https://.",
            "folder",
        )
    return text


def _pairs(text: str) -> list[tuple[str, str]]:
    found = [(first, second) for first, second in json.loads(text)]
    if not all(isinstance(one, str) for pair in found for one in pair):
        raise ValueError(text)
    return found


def _links(text: str) -> str:
    for _, address in _pairs(text):
        _address(address)
    return text


def _facts(text: str) -> str:
    read_facts("\n".join(f"{name}: {value}" for name, value in _pairs(text)))
    return text


def _link_rules(text: str) -> str:
    read_rules("\n".join(f"{domain} {rule}" for domain, rule in _pairs(text)))
    return text


def _hosts(text: str) -> str:
    if list(read_hosts(" ".join(json.loads(text)))) != json.loads(text):
        raise ValueError(text)
    return text


def _share_links(text: str) -> str:
    kept = "[]"
    for words, pattern in _pairs(text):
        kept = sharing.with_link(kept, f"{words} {pattern}", "")
    return text


def _ways(text: str) -> str:
    for way in json.loads(text):
        sharing.with_way("[]", way, True)
    return text


def _words(text: str) -> str:
    if not all(isinstance(one, str) for one in json.loads(text)):
        raise ValueError(text)
    return text


def _roles(text: str) -> str:
    if not set(json.loads(text)) <= set(map(str, Role)):
        raise ValueError(text)
    return text


def _blocklist(text: str) -> str:
    read_blocklist("\n".join(json.loads(text)))
    return text


def _range(least: int, most: int) -> Check:
    def check(value: int) -> int:
        if not least <= value <= most:
            raise BadInput(f"{value} is not between {least} and {most}; correct it in the folder.", "folder")
        return value

    return check


def _menu(text: str) -> str:
    menu = read_menu(text)
    for entry in (one for top in (*menu.menu, *menu.foot) for one in (top, *top.below)):
        if entry.to.address:
            read_address(entry.to.address)
    return menu_text(menu)


def _given_facts(text: str) -> str:
    facts = json.loads(text)
    for name, value in facts.items():
        if name in BLOG:
            checked_value(BLOG[name], value)
    return canonical(facts)


HOUSE: dict[str, Check] = {
    LOOK: lambda text: look_text(read_look(json.loads(text))),
    MENU: _menu,
    PROMOS: lambda text: promos_text(read_promos(text)),
    FACTS: _given_facts,
}
"""{part of the house: the check of its values}."""


def house_value(part: str, value: str) -> str:
    """A value of a part of the house. Raises BadInput."""
    if part not in HOUSE:
        raise BadInput(f"“{part[:40]}” is no part of the house; there are {', '.join(HOUSE)}.", "folder")
    return str(checked_value(HOUSE[part], value))


BLOG: dict[str, Check] = {
    "slug": _same(read_blog_slug), "name": _line(200), "tagline": _line(300), "host": _host, "zone": _same(zone), "language": _same(read_language), "home": _same(read_home), "server": _same(read_server),
    "hub": _same(read_hub), "design": _same(read_begun), "pattern": _same(read_pattern), "posts_on_page": _range(1, 100), "facts": _facts,
    "link_rules": _link_rules, "video_hosts": _hosts, "share_links": _share_links, "sharing": _ways, "avoided": _same(_pairs), "factor_roles": _roles,
    "blocklist": _blocklist, "rights": _same(house_rights), "letters": _same(read_letter_rules), "salt": _same(bytes.fromhex),
}  # fmt: skip
DOCKET: dict[str, Check] = {
    "slug": _slug,
    "goes_out_wall": _wall,
    "comes_down_wall": _wall,
    "kind": _one_of("", *PAGE_KINDS),
    "comments": _one_of("", OPEN, CLOSED),
    "listed": _one_of(*LISTED),
    "front": _one_of("", "top", "off"),
    "sharing": _one_of("", "none"),
    "announce": _one_of("", "none"),
    "own_look": lambda text: own_text(read_own(text)),
    "alike": lambda text: checked(read_choice(text)).stored(),
    "language": _same(read_language),
}
ROWS: dict[str, dict[str, Check]] = {
    "person": {
        "name": _line(80),
        "author_slug": _slug,
        "author_line": _line(300),
        "web_address": _address,
        "author_links": _links,
    },
    "category": {"name": _line(200), "slug": _slug},
    "tag": {"name": _line(200), "slug": _slug},
    "address": {
        "path": _path,
        "target": lambda text: _path(text) if text.startswith("/") else _address(text),
    },
    "slot": {
        "rule": _same(lambda text: read_rule(text, "09:00", "2026-01-01", "UTC")),
        "time": _matching(r"\d\d:\d\d", "a time such as 09:00"),
        "starts": _day,
    },
    "marked_day": {"first": _day, "last": _day},
    "shown_profile": {"shown_address": _address, "shown_links": _links},
    "post": {**DOCKET, "update_wall": _wall, "wanted_by": _day},
    "placement": {**DOCKET, "path": _path, "zone": _same(zone)},
    "media": {"recipe": lambda text: recipes.load(text).kept() if text else "", "labels": _words},
    "comment": {"source": _address},
    "mention": {"source": _address},
    "mention_out": {"target": _address},
    "account": {"profile": _address},
    "announcement": {"answer": _address},
}
"""{table: {column: check}}."""


def row(name: str, values: dict[str, Any]) -> dict[str, Any]:
    """The columns of a row of a table, checked. Raises BadInput."""
    for column, check in ROWS.get(name, {}).items():
        values[column] = checked_value(check, values[column])
    if name in ("house_given", "house_tried"):
        values["value"] = house_value(values["part"], values["value"])
    return values


def blog(values: dict[str, Any]) -> dict[str, Any]:
    """The columns of the blog, checked. Raises BadInput."""
    for column, check in BLOG.items():
        values[column] = checked_value(check, values[column])
    return values
