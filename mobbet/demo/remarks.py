"""What readers of the demo blog wrote under its posts, and what they were answered."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions import comments
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import STRANGER
from mobbet.core.comments import SHOWN
from mobbet.core.values import existing
from mobbet.services.stand_ins.clock import SetClock
from mobbet.store import posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

DAY = 86400


@dataclass(frozen=True)
class Remark:
    """A comment under a post: how many days ago, by whom, whether it is shown, and an answer by one of the blog ('' for none)."""

    title: str
    days: int
    name: str
    email: str
    text: str
    is_shown: bool = True
    answer: str = ""


REMARKS = (
    Remark("Which glue, honestly", 34, "Mira Holt", "mira@port-alder.example", "The wood glue held my stool through the whole summer. I had used the quick one before, twice, and it let go both times on the same leg."),
    Remark("Which glue, honestly", 31, "Jonas Amsel", "", "What about the hard plastic of old telephones? Nothing I own sticks to it for longer than a week.", answer="Two-part epoxy, and roughen both sides with the grey paper first. Bring it on Thursday if you like, we have a tube open."),
    Remark("Zips: replace the slider, not the zip", 20, "Bea Quickly", "bea@port-alder.example", "Done in ten minutes with pliers and bad language. Thank you.\n\nThe tent is next."),
    Remark("Why your lamp flickers when the tram goes by", 12, "Otto Vance", "", "Mine flickers when the neighbour’s kettle is on. Same cause, I suppose?", answer="The same cause one floor up. Start with the screw in the ceiling rose, with the current off."),
    Remark("Cleaning a stuck clock without taking it apart", 2, "Alba Renn", "alba@port-alder.example", "It runs! It gains four minutes a day now. Is there something gentle I can do about that before Thursday?", False),
    Remark("Zips: replace the slider, not the zip", 1, "Hanne Orvik", "", "Where do I get a slider in size 8? The shop at the ferry only has 5 and 10.", False),
    Remark("Which glue, honestly", 1, "Great offers", "", "Best price https://one.example https://two.example https://three.example", False),
)  # fmt: skip


def make_remarks(workshop: Workshop, clock: SetClock, owner: Person, blog: Blog, now: int) -> None:
    """Has readers write them on their days, and the owner show and answer what is shown."""
    shown, answers = [], {}
    for at, one in enumerate(REMARKS):
        clock.instant = now - one.days * DAY + at * 1700
        post_id = existing(posts.titled(workshop.db, blog.id, one.title))
        number = comments.write(
            workshop,
            blog,
            post_id,
            STRANGER,
            {"name": one.name, "email": one.email, "text": one.text},
            f"reader {at}",
        ).id
        if one.is_shown:
            shown.append(number)
        if one.answer:
            answers[number] = one.answer
    clock.instant = now - DAY
    for number, words in answers.items():
        comments.answer(workshop, owner, blog.slug, number, words)
    clock.instant = now
    comments.settle(workshop, owner, blog.slug, shown, SHOWN)
