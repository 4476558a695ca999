"""What a browser calls itself, in a few words for a list of sessions."""

from __future__ import annotations

NAMES = (
    ("edg", "Edge"),
    ("opr/", "Opera"),
    ("firefox", "Firefox"),
    ("chrome", "Chrome"),
    ("safari", "Safari"),
    ("curl", "curl"),
)
SYSTEMS = (
    ("iphone", "an iPhone"),
    ("ipad", "an iPad"),
    ("android", "Android"),
    ("windows", "Windows"),
    ("mac os", "a Mac"),
    ("linux", "Linux"),
)
LONGEST = 400


def in_words(agent: str) -> str:
    """“Firefox on Linux” of a User-Agent header (RFC 9110, 10.1.5); “a browser” where it says nothing that is known."""
    text = agent[:LONGEST].lower()
    name = next((words for sign, words in NAMES if sign in text), "a browser")
    system = next((words for sign, words in SYSTEMS if sign in text), "")
    return f"{name} on {system}" if system else name
