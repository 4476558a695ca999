"""Letters that came back: delivery status notifications (RFC 3464), alone or several in a mailbox file (RFC 4155)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from email import message_from_bytes
from email.message import Message

LARGEST = 2_000_000
"""In bytes: a longer message is not looked at."""
MOST_PARTS, LONGEST_REASON = 50, 200
_SPACES = re.compile(r"\s+")


@dataclass(frozen=True)
class Bounce:
    """An address to which a letter could not be delivered: whether for good, why, and the Message-ID of the letter."""

    address: str
    is_final: bool
    reason: str
    message_id: str


def messages_in(data: bytes) -> Iterator[bytes]:
    """The messages of a file: one, or those of a mailbox, which begin with a line `From `."""
    if not data.startswith(b"From "):
        yield data
        return
    start = 0
    while start < len(data):
        end = data.find(b"\nFrom ", start)
        end = len(data) if end < 0 else end + 1
        yield data[start:end].partition(b"\n")[2]
        start = end


def bounces_in(data: bytes) -> list[Bounce]:
    """What a notification says of each recipient; nothing for any other message."""
    if len(data) > LARGEST:
        return []
    message = message_from_bytes(data)
    if message.get_content_type() != "multipart/report":
        return []
    parts = [part for part, _ in zip(message.walk(), range(MOST_PARTS), strict=False)]
    original = _message_id(parts)
    return [
        bounce
        for part in parts
        if part.get_content_type() == "message/delivery-status"
        for fields in _payload(part)
        if (bounce := _bounce(fields, original)) is not None
    ]


def _bounce(fields: Message, original: str) -> Bounce | None:
    recipient = str(fields.get("original-recipient") or fields.get("final-recipient") or "")
    action, status = str(fields.get("action", "")).strip().lower(), str(fields.get("status", "")).strip()
    if not recipient or action not in ("failed", "delayed"):
        return None
    address = recipient.partition(";")[2].strip() or recipient.strip()
    reason = _SPACES.sub(" ", str(fields.get("diagnostic-code", "") or status))[:LONGEST_REASON].strip()
    return Bounce(address.strip("<>"), action == "failed" and not status.startswith("4"), reason, original)


def _message_id(parts: list[Message]) -> str:
    """The Message-ID of the letter that the notification gives back, whole or its head alone."""
    for part in parts:
        if part.get_content_type() == "text/rfc822-headers":
            head = part.get_payload(decode=True)
            found = message_from_bytes(head if isinstance(head, bytes) else b"")["message-id"]
        elif part.get_content_type() == "message/rfc822" and _payload(part):
            found = _payload(part)[0]["message-id"]
        else:
            continue
        if found:
            return str(found).strip()
    return ""


def _payload(part: Message) -> list[Message]:
    """The messages inside a part."""
    inside = part.get_payload()
    return [one for one in inside if isinstance(one, Message)] if isinstance(inside, list) else []
