"""The blog's rules for words: house style, learned words, and the severity of each check."""

from __future__ import annotations

import json

from mobbet.actions.access import blog_for, editable_post, owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.canonical import canonical
from mobbet.core.errors import BadInput
from mobbet.core.proofing.checks.typography import DASHES, ELLIPSES, QUOTES
from mobbet.core.proofing.house import OFF, read_avoided
from mobbet.core.proofing.marks import SEVERITIES
from mobbet.core.proofing.table import WHY
from mobbet.core.rights import Action
from mobbet.store import blogs, proofs
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

LONGEST_WORD = 60


def learn(workshop: Workshop, person: Person, post_id: int, word: str, for_whom: str) -> None:
    """Learns a word for the person ('me') or for the blog of a post ('blog'). Raises BadInput."""
    _, blog = editable_post(workshop, person, post_id)
    with changing(workshop):
        proofs.learn(workshop.db, _word(word), workshop.clock(), **_whose(person, blog, for_whom))
        proofs.forget_read_with(workshop.db, blog.id, "spelling")


def _word(text: str) -> str:
    word = text.strip().replace("’", "'")
    if not word or len(word) > LONGEST_WORD or len(word.split()) > 1:
        raise BadInput(f"“{text[:80]}” is not one word; learn words one by one.", "learned")
    return word


def _whose(person: Person, blog: Blog, for_whom: str) -> dict[str, int]:
    if for_whom not in ("me", "blog"):
        raise BadInput(f"“{for_whom}” learns nothing; choose me or blog.", "for")
    return {"person_id": person.id} if for_whom == "me" else {"blog_id": blog.id}


def forget_word(workshop: Workshop, person: Person, word: str) -> None:
    """Forgets a word that the person learned for themselves; posts on their blogs are read anew."""
    with changing(workshop):
        proofs.forget(workshop.db, word, person_id=person.id)
        for blog in blogs.of_person(workshop.db, person.id):
            proofs.forget_all_read(workshop.db, blog.id)


def set_learned(workshop: Workshop, person: Person, slug: str, text: str) -> None:
    """Sets the words that a blog has learned, one a line or parted by commas. Only its keepers may. Raises BadInput."""
    blog = blog_for(workshop, person, slug, Action.KEEP_WORDS)
    wanted = {_word(word) for word in text.replace(",", "\n").splitlines() if word.strip()}
    with changing(workshop):
        known = set(proofs.learned_for(workshop.db, blog_id=blog.id))
        for word in sorted(known - wanted):
            proofs.forget(workshop.db, word, blog_id=blog.id)
        for word in sorted(wanted - known):
            proofs.learn(workshop.db, word, workshop.clock(), blog_id=blog.id)
        proofs.forget_all_read(workshop.db, blog.id)


STYLES = {"quotes": tuple(QUOTES), "dashes": tuple(DASHES), "ellipses": tuple(ELLIPSES)}


def set_house_words(workshop: Workshop, person: Person, slug: str, **chosen: str) -> None:
    """Sets parts of the house style for words: `quotes`, `dashes`, `ellipses` (styles of `checks/typography.py` or ''), and
    `avoided`, words to avoid, one a line. Only the owner may. Raises BadInput.
    """
    blog = owned_blog(workshop, person, slug)
    for name, value in chosen.items():
        if name in STYLES and value and value not in STYLES[name]:
            known = ", ".join(STYLES[name])
            raise BadInput(f"“{value[:40]}” is no style the house can have; choose one of: {known}.", name)
    if "avoided" in chosen:
        chosen["avoided"] = canonical(read_avoided(chosen["avoided"]))
    with changing(workshop):
        blogs.settle(workshop.db, blog.id, **chosen)
        proofs.forget_all_read(workshop.db, blog.id)


def set_severity(workshop: Workshop, person: Person, slug: str, check: str, severity: str) -> None:
    """Sets how grave a check is ('' as it comes, or off). Only the owner may. Raises BadInput."""
    if check not in WHY or severity not in ("", OFF, *SEVERITIES):
        raise BadInput(
            f"“{check[:40]}: {severity[:20]}” is no choice; choose one of: {', '.join((*SEVERITIES, OFF))}.",
            f"check:{check}",
        )
    with changing(workshop):
        blog = owned_blog(workshop, person, slug)
        severities = {**json.loads(blog.severities), check: severity}
        blogs.settle(
            workshop.db,
            blog.id,
            severities=canonical({name: value for name, value in severities.items() if value}),
        )
        proofs.forget_all_read(workshop.db, blog.id)


def set_tries_links(workshop: Workshop, person: Person, slug: str, tries: bool) -> None:
    """Sets whether the links to other sites are tried. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop):
        blogs.settle(workshop.db, blog.id, tries_links=int(tries))


def set_word(workshop: Workshop, person: Person, slug: str, where: str, value: str) -> None:
    """Sets one of the rules for words by its name: a style, `avoided`, `learned`, `tries_links`, or `check:NAME`. Raises BadInput."""
    if where.startswith("check:"):
        set_severity(workshop, person, slug, where.removeprefix("check:"), value)
    elif where == "learned":
        set_learned(workshop, person, slug, value)
    elif where == "tries_links":
        set_tries_links(workshop, person, slug, value == "yes")
    elif where in (*STYLES, "avoided"):
        set_house_words(workshop, person, slug, **{where: value})
    else:
        raise BadInput(f"“{where[:40]}” is no rule for words; change one that stands on the page.", "where")
