"""A blog's rules for links by domain, applied when a page is written."""

from __future__ import annotations

import re

from mobbet.core.errors import BadInput
from mobbet.core.web_addresses import split_address

RULES = {"paid": ("sponsored", "nofollow"), "not-vouched-for": ("nofollow",)}
"""What a rule adds to `rel` (HTML standard, link types)."""
WORDS = {"paid": "paid or partner links", "not-vouched-for": "links we do not vouch for"}
_LABEL = re.compile(r"(?!-)[a-z0-9-]{1,63}(?<!-)")


def read_rules(text: str) -> tuple[tuple[str, str], ...]:
    """Rules typed one a line, `shop.example paid`. Raises BadInput, naming the line."""
    rules: dict[str, str] = {}
    for line in text.splitlines():
        if not line.strip():
            continue
        domain, _, rule = line.strip().partition(" ")
        domain = (
            domain.lower().removeprefix("https://").removeprefix("http://").removeprefix("www.").strip("/")
        )
        if not is_domain(domain):
            raise BadInput(
                f"“{line.strip()}” names no domain; write it like shop.example paid.", "link_rules"
            )
        if rule.strip() not in RULES:
            raise BadInput(
                f"“{line.strip()}” has no rule; end it with one of: {', '.join(RULES)}.", "link_rules"
            )
        rules[domain] = rule.strip()
    return tuple(rules.items())


def is_domain(text: str) -> bool:
    """Whether a text is a host name with a dot in it (RFC 1123, 2.1)."""
    labels = text.split(".")
    return len(text) <= 253 and len(labels) > 1 and all(_LABEL.fullmatch(label) for label in labels)


def relations(href: str, rules: tuple[tuple[str, str], ...]) -> tuple[str, ...]:
    """What the rules add to the `rel` of a link: those of its domain, or of a domain above it."""
    try:
        host = (split_address(href).hostname or "").removeprefix("www.")
    except ValueError:
        return ()
    return next((RULES[rule] for domain, rule in rules if host == domain or host.endswith(f".{domain}")), ())
