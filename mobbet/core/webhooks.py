"""What other programs are told by a webhook, and how that is signed (the Standard Webhooks specification)."""

from __future__ import annotations

import base64
import hmac

EVENTS = {
    "post.out": "a post went out",
    "post.changed": "what is out was changed",
    "post.down": "a post came down",
    "comment.waits": "a comment waits for your word",
}
"""{event: in words}."""
PAUSES = (60, 300, 1800, 7200, 21600, 43200, 86400)
"""Seconds until the next try, after each that failed; after the last one nobody tries any more."""
SECRET = "whsec_"


def next_pause(tries: int) -> int | None:
    """How long to wait after so many tries that failed; None for no further one."""
    return PAUSES[tries - 1] if 0 < tries <= len(PAUSES) else None


def new_secret(data: bytes) -> str:
    """A secret as a person copies it, from 32 bytes made by chance."""
    return SECRET + base64.b64encode(data).decode()


def signed(secret: str, number: int, timestamp: int, body: bytes) -> dict[str, str]:
    """The headers of a message: its id, the instant, and the signature over both and its bytes."""
    key, message_id = base64.b64decode(secret.removeprefix(SECRET)), f"msg_{number}"
    content = f"{message_id}.{timestamp}.".encode() + body
    signature = base64.b64encode(hmac.digest(key, content, "sha256")).decode()
    return {
        "Content-Type": "application/json",
        "webhook-id": message_id,
        "webhook-timestamp": str(timestamp),
        "webhook-signature": f"v1,{signature}",
    }
