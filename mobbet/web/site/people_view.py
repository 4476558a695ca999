"""Who works on a blog, as sentences, and the table of rights."""

from __future__ import annotations

import json

from mobbet.actions import invitations as invitation_actions
from mobbet.actions import members as member_actions
from mobbet.actions.access import has_right
from mobbet.actions.workshop import Workshop
from mobbet.core.filing import trail
from mobbet.core.rights import ADJUSTABLE, ALWAYS, RIGHTS, ROLE_WORDS, STAFF, Action, HouseRights, Role, may
from mobbet.core.screen_dates import ago_in_words, time_in_words
from mobbet.store import blogs, filing, invitations
from mobbet.store.blogs import Blog
from mobbet.store.people import Member, Person
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.people_contexts import AskingLine, InvitationLine, MemberLine, RightRow
from mobbet.web.site.sentence_contexts import Sentence, Word


def lines(workshop: Workshop, me: Person, blog: Blog, members: list[Member]) -> list[MemberLine]:
    """Everybody who works on the blog."""
    return [_line(workshop, me, blog, one, members) for one in members]


def _line(workshop: Workshop, me: Person, blog: Blog, one: Member, members: list[Member]) -> MemberLine:
    person, now = one.person, workshop.clock()
    choices = tuple(Choice(role.value, role.value, role == one.role, ROLE_WORDS[role]) for role in STAFF)
    seen = (
        f"Last here {ago_in_words(person.seen_at, blog.zone, now)}"
        if person.seen_at
        else "Has not been here yet"
    )
    colleagues = [
        Choice(str(other.person.id), other.person.name)
        for other in members
        if other.person.id != person.id and not other.suspended_at
    ]
    return MemberLine(
        person.id, person.name, person.id == me.id, Word(str(person.id), f"the role of {person.name}", one.role, choices), ROLE_WORDS[Role(one.role)],
        seen, _in_hand(one), colleagues, one.suspended_at is not None,
        one.role != Role.OWNER and not one.suspended_at and person.password_hash is not None,
    )  # fmt: skip


def _in_hand(one: Member) -> str:
    """“3 drafts, 2 in the timetable, 31 out”."""
    said = [
        *([f"{one.drafts:,} draft{'s' if one.drafts != 1 else ''}"] if one.drafts else []),
        *([f"{one.coming:,} in the timetable"] if one.coming else []),
        *([f"{one.out:,} out"] if one.out else []),
    ]
    return ", ".join(said) or "no post"


def waiting(workshop: Workshop, blog: Blog) -> list[InvitationLine]:
    """The invitations that nobody took yet."""
    now = workshop.clock()
    return [
        InvitationLine(
            one.id, one.email, role, time_in_words(one.ends_at, blog.zone, now), one.ends_at <= now,
            invitation_actions.link_shown(workshop, one) if one.ends_at > now else "",
        )
        for one, role in invitations.waiting(workshop.db, blog.id)
    ]  # fmt: skip


def invite_blogs(workshop: Workshop, me: Person, blog: Blog, chosen: list[str]) -> list[Choice]:
    """The blogs to which this person may invite."""
    return [
        Choice(one.slug, one.name, one.slug in (chosen or [blog.slug]))
        for one in blogs.of_person(workshop.db, me.id)
        if has_right(workshop, me, one, Action.KEEP_PEOPLE)
    ]


def invite_roles(chosen: str) -> list[Choice]:
    return [
        Choice(role.value, f"{role.value}: {ROLE_WORDS[role]}", role == chosen) for role in reversed(STAFF)
    ]


def asking(workshop: Workshop, blog: Blog) -> list[AskingLine]:
    """When posts of writers and editors need somebody's word."""
    rights, subjects = member_actions.rights_of(blog), filing.subjects(workshop.db, blog.id)
    found = []
    for role in (Role.WRITER, Role.EDITOR):
        rule = rights.asks.get(role, frozenset())
        who = "an editor's" if role == Role.WRITER else "another editor's"
        chosen = frozenset() if isinstance(rule, str) else rule & subjects.keys()
        state = ALWAYS if rule == ALWAYS else "in" if chosen else "never"
        names = ", ".join(subjects[number].name for number in sorted(chosen))
        words = {
            ALWAYS: f"after {who} word",
            "never": "without asking",
            "in": f"without asking, but not in {names}",
        }[state]
        choices = [
            Choice("never", "without asking", state == "never"),
            Choice(ALWAYS, f"after {who} word", state == ALWAYS),
        ]
        categories = [
            Choice(str(number), " > ".join(step.name for step in trail(subjects, number)), number in chosen)
            for number in subjects
        ]
        found.append(AskingLine(role.value, words, choices, categories))
    return found


def adjusting(rights: HouseRights) -> list[Sentence]:
    """The single rights that a blog can have otherwise."""
    found: list[Sentence] = []
    for name, one in ADJUSTABLE.items():
        is_other = name in rights.adjusted
        choices = (Choice("", one.usual, not is_other), Choice("yes", one.otherwise, is_other))
        label = f"{one.before[0].lower()}{one.before[1:]}"
        found.append(
            [
                one.before,
                Word(name, f"what holds: {label}", one.otherwise if is_other else one.usual, choices),
                ".",
            ]
        )
    return found


def table(rights: HouseRights) -> list[RightRow]:
    """The table of rights as it holds on a blog."""
    return [
        RightRow(action.value, [_cell(role, action, rights) for role in reversed(Role)]) for action in RIGHTS
    ]


def _cell(role: Role, action: Action, rights: HouseRights) -> tuple[str, bool]:
    words, usual = (_reach(role, action, one) for one in (rights, HouseRights()))
    if action == Action.PLACE_POST and words == "own" and rights.asks_first(role, ()):
        return "own, after a word", role != Role.CONTRIBUTOR
    return words, words != usual


def _reach(role: Role, action: Action, rights: HouseRights) -> str:
    if may(role, action, is_own=False, rights=rights):
        return "yes" if may(role, action, rights=rights) else "colleagues'"
    return "own" if may(role, action, rights=rights) else ""


def factor_sentence(blog: Blog) -> Sentence:
    """Of whom a second factor is asked."""
    now = ",".join(json.loads(blog.factor_roles))
    choices = tuple(
        Choice(roles, words, roles == now) for roles, words in member_actions.FACTOR_ROLES.items()
    )
    words = member_actions.FACTOR_ROLES.get(now, now)
    return [
        "A second factor for signing in is asked of",
        Word("factor", "of whom a second factor is asked", words, choices),
        ".",
    ]
