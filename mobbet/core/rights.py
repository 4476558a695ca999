"""Who may do what on a blog: one table of role by action by whose it is. Every check of a right reads it.

A post that is for its author alone (`is_private`) is outside the table's last column: nobody but its author does
anything with it, whatever their role, except withdraw what other readers get of it.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Role(StrEnum):
    """What a person is on one blog."""

    OWNER = "owner"
    EDITOR = "editor"
    WRITER = "writer"


NO_ROLE = "none"
"""What is written for the role of somebody who has none on a blog."""


class Action(StrEnum):
    """What a person may want to do on a blog; each is a row of RIGHTS."""

    WORK = "open the blog's screens"
    BEGIN_POST = "begin a post"
    READ_POST = "read a post that is not out"
    EDIT_POST = "change, place, withdraw or set aside a post"
    WITHDRAW_POST = "take off the site what readers get of a post"
    GIVE_POST = "give a post to another author"
    READ_ITEM = "use an item of the library"
    EDIT_ITEM = "describe, cut, name, strip, replace or set aside an item of the library"
    EDIT_KEPT = "change or remove kept blocks"
    SETTLE_COMMENT = "show, refuse, answer or remove a comment"
    KEEP_FILING = "change categories and tags"
    KEEP_READERS = "change groups and invite readers"
    KEEP_TIMETABLE = "change slots, queue and marked days"
    KEEP_CALENDAR = "renew the calendar's private address"
    KEEP_WORDS = "teach the blog a word"
    KEEP_AGE = "say that an old post still holds"
    ANY_AUTHOR = "see and settle what concerns colleagues' posts"
    OWN_HOUSE = "change the blog's settings, addresses, editions, places outside and rules"


@dataclass(frozen=True)
class Right:
    """The roles that may do something with what is their own, and with what is a colleague's; and what the others are told."""

    own: frozenset[Role]
    others: frozenset[Role]
    refusal: str


_ALL = frozenset(Role)
_KEEPERS = frozenset({Role.OWNER, Role.EDITOR})
_OWNER = frozenset({Role.OWNER})


def _keepers(what: str) -> Right:
    return Right(
        _KEEPERS, _KEEPERS, f"Only the owner and the editors of the blog change {what}; ask one of them."
    )


RIGHTS: dict[Action, Right] = {
    Action.WORK: Right(_ALL, _ALL, ""),
    Action.BEGIN_POST: Right(_ALL, _ALL, ""),
    Action.READ_POST: Right(_ALL, _ALL, ""),
    Action.EDIT_POST: Right(
        _ALL, _KEEPERS, "This post is by somebody else; ask an editor or the owner to change it."
    ),
    Action.WITHDRAW_POST: Right(
        _ALL, _KEEPERS, "This post is by somebody else; ask an editor or the owner to withdraw it."
    ),
    Action.GIVE_POST: _keepers("whose a post is"),
    Action.READ_ITEM: Right(_ALL, _ALL, ""),
    Action.EDIT_ITEM: Right(
        _ALL,
        _KEEPERS,
        "A colleague brought this in, or shows it in a post; ask an editor or the owner to change it.",
    ),
    Action.EDIT_KEPT: Right(
        _ALL,
        _KEEPERS,
        "A colleague kept these blocks, or shows them in a post; ask an editor or the owner to change them.",
    ),
    Action.SETTLE_COMMENT: Right(
        _ALL,
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
    Action.OWN_HOUSE: Right(_OWNER, _OWNER, "Only the owner of the blog can change this; ask them."),
}
_OF_PRIVATE = frozenset({Action.WITHDRAW_POST})
"""What may be done with a colleague's post although it is for its author alone, because other readers get an earlier state of it."""


def may(role: str, action: Action, *, is_own: bool = True, is_private: bool = False) -> bool:
    """True when somebody of that role may do this with what is their own, or a colleague's.

    `is_private` tells that it is for its author alone.
    """
    if is_private and not is_own and action not in _OF_PRIVATE:
        return False
    right = RIGHTS[action]
    return role in (right.own if is_own else right.others)
