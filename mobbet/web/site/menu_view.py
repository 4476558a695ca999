"""The menu as a map: what each entry leads to, and how that stands."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.audience import EVERYONE
from mobbet.core.keys import ALL, ListName
from mobbet.core.media.licences import LICENCES
from mobbet.core.menu import FIXED, FOOT, MENU, NEWEST, PLACES, Entry, Menu, Place, Target, entry_at, places
from mobbet.core.numbers import counted, ordinal, spelled
from mobbet.core.screen_dates import ago_in_words, day_in_words, time_in_words
from mobbet.core.states import Showing, state_at
from mobbet.store import pages, placements, posts, proofs
from mobbet.store.blogs import Blog
from mobbet.store.menu_targets import MenuTargets
from mobbet.store.placements import Placement
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.menu_contexts import WAITS, WRONG, ChosenEntry, Leads, LeftOut, Spot
from mobbet.web.site.sentence_contexts import Sentence, Word
from mobbet.web.write import addresses as to_write

NO_TITLE = "No title yet"


@dataclass(frozen=True)
class MenuView:
    """Says of one blog's menu what its entries lead to, as strangers find it."""

    workshop: Workshop
    blog: Blog
    menu: Menu
    snapshot: SiteSnapshot

    def spots(self, where: str, chosen: str) -> list[Spot]:
        """The entries of the menu, or of the foot, as the map shows them."""
        return [self._spot(where, (at,), entry, chosen) for at, entry in enumerate(self.menu.entries(where))]

    def _spot(self, where: str, place: Place, entry: Entry, chosen: str) -> Spot:
        below = tuple(self._spot(where, (*place, at), one, chosen) for at, one in enumerate(entry.below))
        parts = MenuTargets(self.snapshot).parts(entry.to) if entry.parts else ()
        at, leads = written(where, place), self.leads(entry.to)
        return Spot(
            at, entry.words or leads.title, leads, at == chosen, entry.on_phone, below, tuple(map(self.leads, parts))
        )  # fmt: skip

    def leads(self, target: Target) -> Leads:
        """What a target is and how it stands."""
        if target == NEWEST:
            count = self.snapshot.count(ALL)
            door = "beside the front door" if self.menu.front_door else "the front door"
            return Leads(self.blog.label, counted(count, "post"), door)
        if target in FIXED:
            return Leads(FIXED[target][0], "made by the site", "")
        if target.address:
            return self._away(target)
        if target.kind in ("category", "tag"):
            return self._subject(target)
        if target.kind == "author":
            link = MenuTargets(self.snapshot).link(target)
            about = counted(self.snapshot.count(ListName(target)), "post")
            return (
                Leads(link[0], "author", about)
                if link
                else Leads("Gone", "author", "no post of theirs is out", WRONG)
            )
        if target.kind == "series":
            link = MenuTargets(self.snapshot).link(target)
            parts = len(self.snapshot.series_parts(target.number))
            return Leads(
                *(
                    (link[0], "series", counted(parts, "part"))
                    if link
                    else ("Gone", "series", "no part of it is out", WRONG)
                )
            )
        return self._post(target.number)

    def _away(self, target: Target) -> Leads:
        host = (MenuTargets(self.snapshot).link(target) or (target.address, ""))[0]
        answer = proofs.answers(self.workshop.db, [target.address]).get(target.address)
        if answer and answer.problem and answer.tries > 1:
            since = ago_in_words(answer.since, self.blog.zone, self.workshop.clock())
            return Leads(host, "another site", f"leads nowhere: {answer.problem.rstrip('.')}, {since}", WRONG)
        return Leads(host, "another site", target.address.removeprefix("https://"))

    def _subject(self, target: Target) -> Leads:
        link = MenuTargets(self.snapshot).link(target)
        name, now = ListName(target), self.workshop.clock()
        if link is None:
            known = self._subject_name(target)
            about = "no post yet: not linked" if known else "it is no more: not linked"
            return Leads(known or "Gone", target.kind, about, WRONG)
        newest = self.snapshot.newest(name, 1)
        about = (
            f"newest {ago_in_words(newest[0].goes_out, self.blog.zone, now)}" if newest else "in its parts"
        )
        return Leads(link[0], f"{target.kind}, {counted(self.snapshot.count(name), 'post')}", about)

    def _subject_name(self, target: Target) -> str:
        if target.kind == "category":
            subject = self.snapshot.categories.get(target.number)
            return subject.name if subject else ""
        return next((tag.name for tag in self.snapshot.tags((target.number,))), "")

    def _post(self, number: int) -> Leads:
        post = posts.on_blog(self.workshop.db, self.blog.id, number)
        if post is None:
            return Leads("Gone", "a text", "it is no more: not linked", WRONG)
        kind = f"{'page' if post.is_page else 'post'}, {counted(post.words, 'word')}"
        about, state = self._state(post)
        return Leads(post.title or NO_TITLE, kind, about, state, post.is_page)

    def _state(self, post: Post) -> tuple[str, str]:
        """How a post or page stands for readers, in words, and whether the menu leads to it."""
        now, zone = self.workshop.clock(), self.blog.zone
        rows = placements.of_post(self.workshop.db, post.id)
        state = _state_of(rows, post, now)
        live = placements.shown_at(rows, now)
        if live is not None and state == states.OUT:
            if live.audience != EVERYONE:
                return "not for everyone: strangers do not find it here", WRONG
            return f"out since {day_in_words(live.goes_out, zone)}", "fine"
        coming = next((row for row in reversed(rows) if now < row.shows_from < row.shows_until), None)
        if coming is not None:
            return f"goes out {time_in_words(coming.shows_from, zone, now)}: not linked yet", WAITS
        return f"{states.WORDS[state]}: not linked" + (
            " yet" if state == states.DRAFT else ""
        ), WAITS if state == states.DRAFT else WRONG

    def problems(self) -> int:
        """How many entries readers do not find, or that lead nowhere."""
        entries = [entry for where in (MENU, FOOT) for _, entry in places(self.menu, where)]
        return sum(self.leads(entry.to).state == WRONG for entry in entries)

    def chosen(self, where: str, place: Place) -> ChosenEntry:
        """The slip of one entry. Raises BadInput where none stands there."""
        entry, at = entry_at(self.menu, where, place), written(where, place)
        leads, link = self.leads(entry.to), MenuTargets(self.snapshot).link(entry.to)
        is_text = entry.to.kind == "post" and leads.title != "Gone"
        site = (
            "" if link is None else link[1] if entry.to.address else to_public.public(self.blog.slug, link[1])
        )
        return ChosenEntry(
            at, leads, self._entry_sentences(where, place, entry, leads), to_write.write(entry.to.number) if is_text else "", site, self._moves(where, place)
        )  # fmt: skip

    def _entry_sentences(self, where: str, place: Place, entry: Entry, leads: Leads) -> list[Sentence]:
        at = written(where, place)
        stands = f"In the {where} it stands {ordinal(place[-1] + 1)}"
        if len(place) > 1:
            above = entry_at(self.menu, where, place[:1])
            stands = f"It stands {ordinal(place[-1] + 1)} below “{above.words or self.leads(above.to).title}”"
        words = Word(
            f"{at}:words", "its words", f"“{entry.words}”" if entry.words else "by its own name", text=entry.words,
            longest=40, placeholder=leads.title, hint="Left empty, it is called as what it leads to.",
        )  # fmt: skip
        said: list[Sentence] = [[f"{stands}, called", words, "."]]
        if (
            entry.to.kind in ("category", "post")
            and len(place) == 1
            and where == MENU
            and (leads.is_page or entry.to.kind == "category")
        ):
            what = "pages below it" if leads.is_page else "parts"
            said.append(
                [
                    "Its",
                    what,
                    _yes_no(
                        f"{at}:parts",
                        f"whether its {what} follow",
                        entry.parts,
                        ("follow below it", "stand on its own page alone"),
                    ),
                    ".",
                ]
            )
        said.append(
            [
                "On a phone it is",
                _yes_no(f"{at}:on_phone", "whether phones show it", entry.on_phone, ("shown", "left out")),
                ".",
            ]
        )
        return said

    def _moves(self, where: str, place: Place) -> list[Choice]:
        entries = self.menu.entries(where)
        beside = entry_at(self.menu, where, place[:1]).below if len(place) > 1 else entries
        at, found = place[-1], []
        if at > 0:
            found.append(Choice(_typed((*place[:-1], at - 1)), "Earlier"))
        if at < len(beside) - 1:
            found.append(Choice(_typed((*place[:-1], at + 1)), "Later"))
        if where == MENU and len(place) == 1 and at > 0 and not entries[at].below:
            before = entries[at - 1]
            found.append(
                Choice(
                    _typed((at - 1, len(before.below))),
                    f"Below “{before.words or self.leads(before.to).title}”",
                )
            )
        if len(place) > 1:
            found.append(Choice(_typed((place[0] + 1,)), "Up to the first level"))
        return found

    def sentences(self) -> list[Sentence]:
        """What holds for the menu as a whole."""
        menu, count = self.menu, len(self.menu.menu)
        doors = [page for page in pages.every(self.workshop.db, self.blog.id) if page.visibility == EVERYONE]
        door = next((page.title for page in doors if page.id == menu.front_door), "")
        offered = (
            Choice("0", "the newest posts", not menu.front_door),
            *(Choice(str(page.id), page.title or NO_TITLE, page.id == menu.front_door) for page in doors),
        )
        phone = (
            "all of it"
            if not menu.open_on_phone
            else "the first"
            if menu.open_on_phone == 1
            else f"the first {spelled(menu.open_on_phone)}"
        )
        licence = next(
            (row.words for row in LICENCES if row.key == menu.licence and row.key), "no open licence"
        )
        line = Word(
            "line", "the line of the foot", f"“{menu.line}”" if menu.line else "the blog’s name and line", text=menu.line, longest=200, placeholder="© {blog}",
            hint=f"Fill-ins: {', '.join(f'{{{name}}}' for name in self.snapshot.foot_values)}. Left empty, name and line of the blog stand there.",
        )  # fmt: skip
        return [
            ["The front door is", Word("front_door", "the front door", f"“{door}”" if door else "the newest posts", options=offered, hint="A page at the front has the newest posts beside it, at /posts/."), ".",
             f"The menu has {spelled(count)} entr{'y' if count == 1 else 'ies'}; on a phone", Word("open_on_phone", "how many stand open on a phone, 0 for all", phone, least=0, most=12, number=menu.open_on_phone), "stand open" + (", the rest below “More”." if menu.open_on_phone else ".")],
            [f"The foot has {spelled(len(menu.foot))}, and the line", line, ".", "The texts are under", Word("licence", "the licence of the texts", licence, tuple(
                Choice(row.key, row.words if row.key else "no open licence", row.key == menu.licence) for row in LICENCES if row.page or not row.key
            )), "."],
        ]  # fmt: skip

    def left_out(self) -> tuple[list[LeftOut], list[LeftOut]]:
        """(pages that are out and to which neither menu nor foot leads, pages that are not out)."""
        named = {entry.to for where in (MENU, FOOT) for _, entry in places(self.menu, where)}
        out, drafts = [], []
        for page in pages.every(self.workshop.db, self.blog.id):
            if Target.of("post", page.id) in named or page.id == self.menu.front_door:
                continue
            one = LeftOut(page.title or NO_TITLE, to_write.write(page.id), "")
            if self.snapshot.post(page.id) is None:
                drafts.append(one)
            elif page.below is None:
                count = len(self.snapshot.linking_to(page.id))
                out.append(
                    LeftOut(
                        one.title,
                        one.write,
                        f"linked from {counted(count, 'post')}" if count else "linked from nowhere",
                    )
                )
        return out, drafts

    def offered(self) -> list[str]:
        """What can be named for a new entry: pages, categories, and what every site has."""
        found = [page.title for page in pages.every(self.workshop.db, self.blog.id) if page.title]
        found += [f"/{subject.slug}/" for subject in self.snapshot.categories.values()]
        return [*found[:300], *PLACES]


def _state_of(rows: list[Placement], post: Post, now: int) -> str:
    showings = [Showing(row.shows_from, row.shows_until, row.comes_down) for row in rows]
    return state_at(showings, now, post.aside_at is not None)


def _yes_no(where: str, label: str, value: bool, words: tuple[str, str]) -> Word:
    choices = (Choice("yes", words[0], value), Choice("", words[1], not value))
    return Word(where, label, words[not value], choices)


def _typed(place: Place) -> str:
    return ".".join(str(at + 1) for at in place)


def written(where: str, place: Place) -> str:
    """A place as addresses and forms spell it: `menu.2`, `menu.2.1`, counted from 1."""
    return f"{where}.{_typed(place)}"
