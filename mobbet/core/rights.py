"""Who may do what on a blog: one table of role by action by whose it is. Every check of a right reads it.

A blog's owner loosens or tightens single rights (`ADJUSTABLE`), and has some ask an editor before a post goes out: both are one value, `HouseRights`.
A post that is for its author alone (`is_private`) is outside the table's last column: nobody but its author does
anything with it, whatever their role, except withdraw what other readers get of it.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cache
from typing import Any


class Role(StrEnum):
    """What a person is on one blog, from the one who may do most."""

    OWNER = "owner"
    EDITOR = "editor"
    WRITER = "writer"
    CONTRIBUTOR = "contributor"
    READER = "reader"


STAFF = (Role.OWNER, Role.EDITOR, Role.WRITER, Role.CONTRIBUTOR)
"""The roles of those who work on a blog. Who is a reader is decided by groups and letters (`core/audience.py`)."""
ROLE_WORDS = {
    Role.OWNER: "keeps the house, its people and the places outside, and does all that editors do",
    Role.EDITOR: "places and withdraws anyone's posts, keeps filing, comments and readers",
    Role.WRITER: "writes and places their own posts",
    Role.CONTRIBUTOR: "writes drafts and sees their own alone; an editor says when they go out",
    Role.READER: "reads what is out for them",
}
"""What each role is there for, after a name and “is …:”."""
NO_ROLE = "none"
"""What is written for the role of somebody who has none on a blog."""


class Action(StrEnum):
    """What a person may want to do on a blog; each is a row of RIGHTS."""

    READ_OUT = "read what is out for them, and comment on it"
    WORK = "open the blog's screens"
    BEGIN_POST = "begin a post"
    READ_POST = "read a post that is not out"
    EDIT_POST = "change a post, or set it aside"
    PLACE_POST = "give a post its time to go out, update what is out"
    WITHDRAW_POST = "take off the site what readers get of a post"
    GIVE_WORD = "say that a post may go out, or send it back"
    GIVE_POST = "give a post to another author"
    NOTE_POST = "leave notes on a post"
    SHARE_COPY = "let somebody read a draft by a private link"
    LOOK_AHEAD = "look at the whole site of another moment"
    READ_ITEM = "use an item of the library"
    EDIT_ITEM = "describe, cut, name, strip, replace or set aside an item of the library"
    EDIT_KEPT = "change or remove saved blocks"
    SETTLE_COMMENT = "show, refuse, answer or remove a comment"
    KEEP_FILING = "change categories and tags"
    KEEP_READERS = "change groups and invite readers"
    KEEP_TIMETABLE = "change slots, queue and marked days"
    KEEP_CALENDAR = "renew the calendar's private address"
    KEEP_WORDS = "teach the blog a word"
    KEEP_AGE = "say that an old post still holds"
    ANY_AUTHOR = "see and settle what concerns colleagues' posts"
    KEEP_PEOPLE = "invite people, change their roles and rights, take them out"
    READ_RECORD = "read the record of who did what"
    OWN_HOUSE = "change the blog's settings, addresses, editions, places outside and rules"


@dataclass(frozen=True)
class Right:
    """The roles that may do something with what is their own, and with what is a colleague's; and what the others are told."""

    own: frozenset[Role]
    others: frozenset[Role]
    refusal: str


_ALL = frozenset(STAFF)
_WRITERS = frozenset({Role.OWNER, Role.EDITOR, Role.WRITER})
_KEEPERS = frozenset({Role.OWNER, Role.EDITOR})
_OWNER = frozenset({Role.OWNER})


def _keepers(what: str) -> Right:
    return Right(
        _KEEPERS, _KEEPERS, f"Only the owner and the editors of the blog change {what}; ask one of them."
    )


RIGHTS: dict[Action, Right] = {
    Action.READ_OUT: Right(frozenset(Role), frozenset(Role), ""),
    Action.WORK: Right(_ALL, _ALL, ""),
    Action.BEGIN_POST: Right(_ALL, _ALL, ""),
    Action.READ_POST: Right(
        _ALL,
        _WRITERS,
        "This post is by somebody else, and you see your own alone; ask an editor to show it to you.",
    ),
    Action.EDIT_POST: Right(
        _ALL, _KEEPERS, "This post is by somebody else; ask an editor or the owner to change it."
    ),
    Action.PLACE_POST: Right(
        _ALL, _KEEPERS, "This post is by somebody else; ask an editor or the owner to put it out."
    ),
    Action.WITHDRAW_POST: Right(
        _ALL, _KEEPERS, "This post is by somebody else; ask an editor or the owner to withdraw it."
    ),
    Action.GIVE_WORD: Right(
        frozenset(),
        _KEEPERS,
        "Whether this post may go out is for an editor or the owner to say, and nobody says it of their own; ask one of them.",
    ),
    Action.GIVE_POST: _keepers("whose a post is"),
    Action.NOTE_POST: Right(_ALL, _WRITERS, "You see your own posts alone; leave notes on those."),
    Action.SHARE_COPY: Right(
        _ALL, _KEEPERS, "This post is by somebody else; ask them, an editor or the owner for a reading copy."
    ),
    Action.LOOK_AHEAD: Right(
        _WRITERS,
        _WRITERS,
        "The site of another moment shows what is not out yet, which writers and editors look at; ask one of them.",
    ),
    Action.READ_ITEM: Right(_ALL, _ALL, ""),
    Action.EDIT_ITEM: Right(
        _ALL,
        _KEEPERS,
        "A colleague brought this in, or a post shows it that you do not put out yourself; ask an editor or the owner to change it.",
    ),
    Action.EDIT_KEPT: Right(
        _ALL,
        _KEEPERS,
        "A colleague kept these blocks, or a post shows them that you do not put out yourself; ask an editor or the owner to change them.",
    ),
    Action.SETTLE_COMMENT: Right(
        _WRITERS,
        _KEEPERS,
        "This comment stands under a post by somebody else; an editor or the owner settles it.",
    ),
    Action.KEEP_FILING: _keepers("its filing"),
    Action.KEEP_READERS: _keepers("its readers"),
    Action.KEEP_TIMETABLE: _keepers("its timetable"),
    Action.KEEP_CALENDAR: _keepers("its calendar"),
    Action.KEEP_WORDS: _keepers("its words"),
    Action.KEEP_AGE: _keepers("what is looked at again"),
    Action.ANY_AUTHOR: Right(
        _KEEPERS, _KEEPERS, "Only the owner and the editors of the blog see this; ask one of them."
    ),
    Action.KEEP_PEOPLE: Right(_OWNER, _OWNER, "Only the owner of the blog says who works on it; ask them."),
    Action.READ_RECORD: Right(_OWNER, _OWNER, "Only the owner of the blog reads its record; ask them."),
    Action.OWN_HOUSE: Right(_OWNER, _OWNER, "Only the owner of the blog can change this; ask them."),
}
_OF_PRIVATE = frozenset({Action.WITHDRAW_POST})
"""What may be done with a colleague's post although it is for its author alone, because other readers get an earlier state of it."""


@dataclass(frozen=True)
class Adjustment:
    """A single right that an owner loosens or tightens: a sentence (`before`, the changeable words, `after`), with what is usual and what else may be."""

    role: Role
    action: Action
    is_own: bool
    before: str
    usual: str
    otherwise: str
    after: str = ""


ADJUSTABLE: dict[str, Adjustment] = {
    "contributors-see": Adjustment(
        Role.CONTRIBUTOR,
        Action.READ_POST,
        False,
        "Contributors see",
        "their own posts alone",
        "everybody's posts",
    ),
    "writers-see": Adjustment(
        Role.WRITER, Action.READ_POST, False, "Writers see", "everybody's posts", "their own posts alone"
    ),
    "writers-settle": Adjustment(
        Role.WRITER,
        Action.SETTLE_COMMENT,
        True,
        "Comments under a writer's post are settled by",
        "the writer or an editor",
        "editors alone",
    ),
    "writers-file": Adjustment(
        Role.WRITER, Action.KEEP_FILING, True, "Categories and tags are kept by", "editors", "writers too"
    ),
    "writers-teach": Adjustment(
        Role.WRITER, Action.KEEP_WORDS, True, "The blog's dictionary is kept by", "editors", "writers too"
    ),
    "editors-readers": Adjustment(
        Role.EDITOR,
        Action.KEEP_READERS,
        True,
        "Groups and readers are kept by",
        "editors too",
        "the owner alone",
    ),
}
"""The rights that a blog may have otherwise; its name is what is kept."""
ALWAYS = "always"
ASKERS = (Role.CONTRIBUTOR, Role.WRITER, Role.EDITOR)
"""The roles whose posts may need somebody's word before they go out."""


@dataclass(frozen=True)
class HouseRights:
    """What a blog has otherwise than RIGHTS: names of ADJUSTABLE; and of each of ASKERS when they ask first: ALWAYS, or in which categories.

    A contributor always asks.
    """

    adjusted: frozenset[str] = frozenset()
    asks: dict[Role, str | frozenset[int]] = field(default_factory=dict)

    def asks_first(self, role: str, categories: Iterable[int]) -> bool:
        """Whether a post of somebody of that role, below these categories (with those above them), needs an editor's word to go out."""
        if role == Role.CONTRIBUTOR:
            return True
        rule = self.asks.get(Role(role), frozenset()) if role in ASKERS else frozenset()
        return rule == ALWAYS if isinstance(rule, str) else bool(rule & set(categories))

    def written(self) -> str:
        """As JSON, the same for the same rights."""
        asks = {
            role.value: rule if isinstance(rule, str) else sorted(rule)
            for role, rule in sorted(self.asks.items())
            if rule
        }
        return json.dumps({"adjusted": sorted(self.adjusted), "asks": asks})


AS_USUAL = HouseRights()


@cache
def house_rights(text: str) -> HouseRights:
    """The rights of a blog as they are kept; whatever is unknown is left out."""
    kept: dict[str, Any] = json.loads(text or "{}")
    asks = {
        Role(role): rule if rule == ALWAYS else frozenset(rule)
        for role, rule in kept.get("asks", {}).items()
        if role in ASKERS
    }
    return HouseRights(frozenset(kept.get("adjusted", ())) & ADJUSTABLE.keys(), asks)


_ADJUSTED_BY = {(one.role, one.action, one.is_own): name for name, one in ADJUSTABLE.items()}


def may(
    role: str,
    action: Action,
    *,
    is_own: bool = True,
    is_private: bool = False,
    rights: HouseRights = AS_USUAL,
) -> bool:
    """True when somebody of that role may do this with what is their own, or a colleague's, on a blog with these rights.

    `is_private` tells that it is for its author alone.
    """
    if is_private and not is_own and action not in _OF_PRIVATE:
        return False
    right = RIGHTS[action]
    usual = role in (right.own if is_own else right.others)
    if role not in STAFF:
        return usual
    return usual != (_ADJUSTED_BY.get((Role(role), action, is_own)) in rights.adjusted)
