"""E-mail addresses as people type them (RFC 5321, 4.1.2, without quoted local parts), read in time proportional to their length."""

from __future__ import annotations

import re

from mobbet.core.errors import BadInput

LONGEST, LONGEST_LOCAL, LONGEST_LABEL = 254, 64, 63
_LOCAL = re.compile(r"[^\s@<>()\[\]\\,;:\"\x00-\x20\x7f]+")
_LABEL = re.compile(r"(?!-)[^\W_](?:[\w-]*[^\W_])?")


def is_email(text: str) -> bool:
    """Whether a text is one address, as a mail server takes it."""
    if len(text) > LONGEST:
        return False
    local, at, domain = text.rpartition("@")
    labels = domain.split(".")
    if not at or not 0 < len(local) <= LONGEST_LOCAL or not _LOCAL.fullmatch(local) or "" in local.split("."):
        return False
    return len(labels) > 1 and all(
        len(label) <= LONGEST_LABEL and "_" not in label and _LABEL.fullmatch(label) for label in labels
    )


def read_email(text: str, field: str = "email") -> str:
    """An address without white space around it. Raises BadInput."""
    if len(text) > 2 * LONGEST or not is_email(text.strip()):
        raise BadInput(
            f"“{text.strip()[:80]}” is no e-mail address; write it like name@example.example.", field
        )
    return text.strip()


def split_line(line: str) -> tuple[str, str]:
    """(name, address) of `Name <address>`, `"Name" <address>` or an address alone; neither is checked."""
    line = line.strip()
    name, bracket, rest = line.partition("<")
    if not bracket:
        return "", line
    return " ".join(name.replace('"', " ").split()), rest.removesuffix(">").strip()
