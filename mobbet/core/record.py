"""What the record keeps, and how each row of it reads."""

from __future__ import annotations

import re
from dataclasses import dataclass

from mobbet.core.errors import BadInput


@dataclass(frozen=True)
class Kind:
    """One kind of row: the part of the record it belongs to, and its sentence, in which {who}, {subject} and {detail} stand for what the row says."""

    part: str
    sentence: str


PARTS = {
    "entry": "signing in",
    "people": "people and rights",
    "posts": "posts going out",
    "house": "the house",
    "outside": "places outside",
}
KINDS = {
    "signed-in": Kind("entry", "{who} signed in"),
    "sign-in-failed": Kind("entry", "somebody tried to sign in as {subject} and did not know the password"),
    "signed-out": Kind("entry", "{who} signed out"),
    "password-changed": Kind("entry", "{who} changed the password of {subject}"),
    "factor-on": Kind("entry", "{who} set up {subject} as a second factor"),
    "factor-off": Kind("entry", "the second factor of {subject} was taken away by {who}"),
    "factor-failed": Kind("entry", "somebody typed a wrong code for {subject}"),
    "sessions-ended": Kind("entry", "{who} ended sessions of {subject}"),
    "address-changed": Kind("entry", "{who} has another e-mail address"),
    "invited": Kind("people", "{who} invited {subject} as {detail}"),
    "invitation-withdrawn": Kind("people", "{who} withdrew the invitation of {subject}"),
    "joined": Kind("people", "{who} took the invitation and is {detail}"),
    "role": Kind("people", "{who} made {subject} {detail}"),
    "suspended": Kind("people", "{who} suspended {subject}"),
    "let-in": Kind("people", "{who} let {subject} work here again"),
    "profile": Kind("people", "{who} let the profile of {subject} stand for readers"),
    "taken-out": Kind("people", "{who} took {subject} out"),
    "left": Kind("people", "{who} left the blog"),
    "handed-over": Kind("people", "{who} gave {detail} of {subject} to somebody else"),
    "rights": Kind("people", "{who} changed the rights: {detail}"),
    "asked": Kind("posts", "{who} asked for a word on “{subject}”"),
    "yes": Kind("posts", "{who} said that “{subject}” may go out"),
    "sent-back": Kind("posts", "{who} sent “{subject}” back"),
    "placed": Kind("posts", "{who} placed “{subject}”: {detail}"),
    "withdrawn": Kind("posts", "{who} withdrew “{subject}”"),
    "set-aside": Kind("posts", "{who} set “{subject}” aside"),
    "copy-made": Kind("posts", "{who} made a reading copy of a post"),
    "copy-closed": Kind("posts", "{who} closed a reading copy of a post"),
    "given": Kind("posts", "{who} gave “{subject}” to {detail}"),
    "house": Kind("house", "{who} gave readers {subject}"),
    "program-allowed": Kind("people", "{who} let {subject} write here ({detail})"),
    "program-ended": Kind("people", "{who} lets {subject} write here no more"),
    "webhook-added": Kind("outside", "{who} has {subject} told what happens here"),
    "webhook-removed": Kind("outside", "{who} has {subject} told nothing more"),
    "exported": Kind("house", "{who} exported the blog {subject}"),
    "imported": Kind("house", "{who} imported the blog {subject}"),
    "blog-aside": Kind("house", "{who} set the blog {subject} aside"),
    "blog-back": Kind("house", "{who} brought the blog {subject} back"),
    "edition-put-back": Kind("house", "{who} put edition {subject} back"),
    "closed": Kind("house", "{who} changed whom the site answers: {subject}"),
    "backup-place-added": Kind("outside", "{who} has backups made to {subject}"),
    "backup-place-changed": Kind("outside", "{who} changed when backups are made to {subject}"),
    "backup-place-removed": Kind("outside", "{who} had no more backups made to {subject}"),
    "place-added": Kind("outside", "{who} added the place {subject}"),
    "place-removed": Kind("outside", "{who} removed the place {subject}"),
    "place-credentials": Kind("outside", "{who} gave other credentials for {subject}"),
    "record-days": Kind("house", "{who} has the record kept for {subject}"),
}
LONGEST_WORDS = 200
_PLACE = re.compile(r"\{(who|subject|detail)\}")
SOMEBODY = "somebody"
COMMAND_LINE = "the command line"
KEPT_FOR = {
    30: "30 days",
    90: "90 days",
    365: "a year",
    730: "two years",
    1825: "five years",
    3650: "ten years",
}
"""For how long a blog may keep its record, in days."""


def sentence(kind: str, who: str, subject: str, detail: str) -> str:
    """A row in words, with a capital and a full stop; of a kind that a newer Mobbet wrote, its plain words."""
    known = KINDS.get(kind)
    if known is None:
        return f"{who}: {kind} {subject} {detail}".strip() + "."
    values = {"who": who, "subject": subject, "detail": detail}
    words = _PLACE.sub(lambda place: values[place[1]], known.sentence)
    return words[0].upper() + words[1:] + "."


def read_days(text: str) -> int:
    """For how many days the record is kept. Raises BadInput."""
    if not text.isascii() or not text.isdecimal() or int(text[:6]) not in KEPT_FOR:
        raise BadInput(
            f"“{text[:20]}” is no time for the record; choose {', '.join(KEPT_FOR.values())}.", "record_days"
        )
    return int(text)
