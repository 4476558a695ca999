"""Every route with every role, on what is one's own, a colleague's, private, and another blog's."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import httpx
from fastapi.params import Form
from fastapi.routing import APIRoute

from mobbet.actions import docket_lines, files, kept_blocks, library, people, post_states, posts
from mobbet.core.document.from_markdown import from_markdown
from mobbet.store import blogs, editions, readers
from mobbet.store import people as people_store
from mobbet.store.people import Person
from mobbet.web.shell.cookies import SESSION
from mobbet.web.shell.route_rights import ROUTES, Free
from mobbet.web.shell.session import signed_in
from tests.shops import picture
from tests.web.test_web import WebCase

PUBLIC = {entry.split(" ")[-1] for entry, right in ROUTES.items() if right == Free.PUBLIC}
"""The routes that ask nobody to sign in."""
WORDS = {
    "what": ("rename", "remove", "merge", "move", "again", "check", "begin", "learn", "describe", "summarise", "lead", "forget"), "name": ("withdraw", "aside", "place", "copy", "give", "move"), "step": ("out", "front"),
    "kind": ("untagged", "mail", "feed"), "view": ("owner", "everyone,daylight,ordinary,screen,now"), "reader": ("owner", "me"), "path": ("/", "/posts/", "/feed.atom"), "at": ("2026-11-18T12:00",), "key": ("x",), "token": ("x",), "host": ("reel",),
}  # fmt: skip
"""What stands in the addresses of routes, by the name of the part."""


def routes(case: WebCase) -> Iterator[APIRoute]:
    for route in case.app.app.routes:
        found = getattr(route, "original_router", None)
        yield from (one for one in (found.routes if found else [route]) if isinstance(one, APIRoute))


def takes_data(route: APIRoute) -> bool:
    """Whether a route reads JSON, and no form."""
    field = route.body_field
    return field is not None and not isinstance(field.field_info, Form)


def asks_for_a_person(route: APIRoute) -> bool:
    waiting = [route.dependant]
    while waiting:
        one = waiting.pop()
        if one.call is signed_in:
            return True
        waiting += one.dependencies
    return False


class RightsCase(WebCase):
    """The Bench with its owner, an editor and two writers, and another blog with an owner of its own."""

    def setUp(self) -> None:
        super().setUp()
        self.editor, self.writer, self.colleague = (
            self._member(name, role)
            for name, role in (("Tomas", "editor"), ("Laran", "writer"), ("Petra", "writer"))
        )
        self.stranger, self.other_blog = self._other()
        self.draft = self._post(self.colleague, "Colleague draft", "Halfdone words.")
        self.out = self._post(
            self.colleague,
            "Colleague out",
            f"Outgoing words.\n\n![A dial](media:{self._item().id})",
            date="2026-01-02",
        )
        self.secret = self._post(
            self.colleague,
            "Zanzibar title",
            "Quicksilver words.",
            visibility="only-me",
            tags="flex",
            categories="Lamps",
        )
        self.placed = self._post(
            self.colleague,
            "Zanzibar placed",
            "Quicksilver out.",
            visibility="only-me",
            date="2026-01-03",
            slug="zanzibar-slug",
        )
        self.coming = self._post(
            self.colleague,
            "Zanzibar coming",
            "Quicksilver later.",
            visibility="only-me",
            date="2026-12-03",
            slug="zanzibar-coming",
        )
        self.kept = kept_blocks.keep_blocks(
            self.shop, self.colleague, "bench", "Safety", from_markdown("Pull the plug first.")["content"]
        )
        self.own = self._post(self.writer, "Own draft", "My words.")
        self.publish()

    def _member(self, name: str, role: str) -> Person:
        person = people.add_person(self.shop, name=name, email=f"{name.lower()}@bench.example", password=None)
        with self.shop.db.transaction():
            blogs.add_member(self.shop.db, self.blog.id, person.id, role)
        return person

    def _other(self) -> tuple[Person, Any]:
        person = people.add_person(self.shop, name="Olga", email="olga@log.example", password=None)
        with self.shop.db.transaction():
            blog = blogs.add(
                self.shop.db,
                slug="log",
                name="The Log",
                tagline="",
                zone="Atlantic/Azores",
                home="https://log.example/",
                design="notebook",
                made_at=self.clock(),
                salt="x",
            )
            blogs.add_member(self.shop.db, blog.id, person.id, "owner")
        return person, blog

    def _item(self) -> Any:
        self.item = library.add_picture(self.shop, self.colleague, self.blog, "dial.png", picture(64, 48))
        return self.item

    def _post(self, person: Person, title: str, body: str, **settings: str) -> Any:
        front = "".join(f"{name}: {value}\n" for name, value in {"title": title, **settings}.items())
        return files.new_post(self.shop, person, "bench", f"---\n{front}---\n{body}\n").post

    def not_told(self, text: str, hidden: str) -> None:
        found = re.search(hidden, text)
        self.assertIsNone(found, text[max(0, found.start() - 80) : found.end() + 40] if found else "")

    def addresses(self, route: APIRoute, slug: str, numbers: dict[str, int]) -> Iterator[str]:
        names = re.findall(r"\{(\w+)(?::\w+)?\}", route.path)
        choices: list[dict[str, str]] = [{}]
        for name in names:
            given = (
                [str(numbers[name])]
                if name in numbers
                else ["1"]
                if name == "number"
                else [slug]
                if name in ("slug", "blog_slug")
                else list(WORDS.get(name, ("x",)))
            )
            choices = [{**one, name: value} for one in choices for value in given]
        for values in choices:
            yield re.sub(r"\{(\w+)(?::\w+)?\}", lambda match: values[match[1]], route.path)  # noqa: B023

    def try_all(
        self, route: APIRoute, slug: str, post: int, said: dict[str, str] | None = None
    ) -> Iterator[tuple[str, httpx.Response]]:
        """Each method and address of a route, with whatever it asks for, as a form or as data."""
        numbers = {"post_id": post, "media_id": self.item.id}
        form = {
            "post": str(post), "said": "now", "other": str(post), "day": "2026-12-24", "ids": str(self.item.id), "labels": "taken", "act": "change", "name": "Taken over", "source": "Taken over.", "text": "goes", "value": "taken-over",
            "title": "Taken over", "subtitle": "x", "visibility": "everyone", "at": "2026-12-24T09:00", "alt": "Taken over", "caption": "Taken over", "second": "0", "author": str(self.writer.id), "comment": "1", "become": "shown", "categories": "",
            "tags": "taken", "password": "correct horse battery", "listed": "title", "series": "Taken", "excerpt": "Taken", "description": "Taken", "kind": "none", "front": "top", "place": "Taken", "language": "de", "chosen": str(post), "numbers": str(post), "check": "", f"summary:{post}": "Taken",
        } | (said or {})  # fmt: skip
        text = {
            "base": 1,
            "title": "Taken over",
            "subtitle": "",
            "document": from_markdown("Taken over."),
            "key": "k",
            "recipe": {},
            "name": "Taken",
            "blocks": [0],
            "html": "<p>x</p>",
            "text": "x",
            "format": "markdown",
            "mine": {"document": from_markdown("x")},
            "sign": "x",
            "word": "zzz",
        }
        for path in self.addresses(route, slug, numbers):
            for method in sorted(route.methods - {"HEAD"}):
                if method == "GET":
                    yield (
                        f"GET {path}",
                        self.ask(
                            "GET",
                            path,
                            params={
                                "words": "Quicksilver",
                                "q": "Zanzibar",
                                "post": str(post),
                                "said": "now",
                                "reader": "owner",
                                "value": "zanzibar-slug",
                                "ids": str(self.item.id),
                                "number": "1",
                            },
                        ),
                    )
                else:
                    body = {"json": text} if takes_data(route) else {"data": form}
                    yield f"{method} {path}", self.ask(method, path, **body)


class RouteTests(RightsCase):
    def test_every_route_asks_for_a_person_but_those_that_are_named(self) -> None:
        self.assertEqual(
            {route.path for route in routes(self) if not asks_for_a_person(route)} - PUBLIC, set()
        )

    def test_nobody_gets_anything_without_signing_in(self) -> None:
        guest = people.add_person(self.shop, name="Guest", email="guest@away.example", password=None)
        with self.shop.db.transaction():
            readers.add_reader(self.shop.db, self.blog.id, guest.id, "Guest", self.clock())
        for token in (None, people.begin_session(self.shop, guest, self.blog.id).token):
            self.as_(None)
            if token:
                self.cookies.set(SESSION, token, domain="mobbet.example")
            for route in routes(self):
                if asks_for_a_person(route):
                    for asked, answer in self.try_all(route, "bench", self.out.id):
                        with self.subTest(asked):
                            self.assertIn(answer.status_code, (303, 401))
                            self.assertTrue(
                                answer.status_code == 401 or answer.headers["location"].startswith("/sign-in")
                            )

    def test_a_writer_reads_nothing_that_is_for_a_colleague_alone(self) -> None:
        self.reads_nothing(self.writer)

    def test_an_editor_reads_nothing_that_is_for_a_colleague_alone(self) -> None:
        self.reads_nothing(self.editor)

    def test_the_owner_reads_nothing_that_is_for_a_colleague_alone(self) -> None:
        self.reads_nothing(self.me)

    def test_a_stranger_reads_nothing_that_is_for_a_colleague_alone(self) -> None:
        self.reads_nothing(self.stranger)

    def reads_nothing(self, person: Person) -> None:
        self.as_(person)
        for route in routes(self):
            for post in (
                (self.secret, self.placed, self.coming) if "post_id" in route.path else (self.placed,)
            ):
                for asked, answer in (
                    self.try_all(route, "bench", post.id) if "sign-out" not in route.path else ()
                ):
                    with self.subTest(asked):
                        self.assertLess(answer.status_code, 500)
                        self.not_told(
                            answer.text,
                            r"Quicksilver (?:words|out|later)|Zanzibar (?:title|placed|coming)|zanzibar-(?:coming)",
                        )
        for post in (self.secret, self.placed, self.coming):
            self.assertEqual(posts.posts.by_id(self.shop.db, post.id).title, post.title)

    def test_a_writer_changes_nothing_of_a_colleague(self) -> None:
        self.as_(self.writer)
        self._unchanged(self.writer, "bench", (self.draft, self.out, self.secret, self.placed))

    def test_whoever_owns_another_blog_has_nothing_of_this_one(self) -> None:
        self.as_(self.stranger)
        self._unchanged(self.stranger, "bench", (self.draft, self.out), hidden=r"Halfdone|Colleague draft")
        self._unchanged(self.stranger, "log", (self.draft, self.out), hidden=r"Halfdone|Colleague draft")

    def _unchanged(
        self, person: Person, slug: str, chosen: tuple[Any, ...], hidden: str = r"Quicksilver (?:words|out)"
    ) -> None:
        before = self._state()
        for route in routes(self):
            if (
                route.path in PUBLIC
                or route.path.startswith("/account/")
                or route.path == "/desk/{slug}/leave"
            ):
                continue
            for post in chosen if "post_id" in route.path else chosen[:1]:
                for asked, answer in self.try_all(route, slug, post.id):
                    with self.subTest(f"{person.name}: {asked}"):
                        self.assertLess(answer.status_code, 500)
                        self.not_told(answer.text, hidden)
                        if "GET" not in asked:
                            now = self._state()
                            self.assertEqual(now, before)
                            before = now

    def _state(self) -> list[tuple]:
        db, mine = self.shop.db, f"({self.draft.id}, {self.out.id}, {self.secret.id}, {self.placed.id})"
        asked = (
            f"SELECT id, author_id, title, visibility, slug, revision, aside_at, excerpt, description, is_template, lead, leads_to FROM post WHERE id IN {mine}", f"SELECT post_id, revision, path, shows_until, audience FROM placement WHERE post_id IN {mine}",
            f"SELECT post_id, tag_id FROM post_tag WHERE post_id IN {mine}", f"SELECT id, name, alt, caption, recipe, labels, aside_at, version FROM media WHERE id = {self.item.id}", f"SELECT name, body, removed_at FROM kept WHERE id = {self.kept.id}",
            "SELECT * FROM membership", "SELECT name, tagline, home, pattern, seals FROM blog WHERE id = 1",
        )  # fmt: skip
        return [tuple(tuple(row) for row in db.all(sql)) for sql in asked]


class OnlyMeTests(RightsCase):
    """What is for its author alone, one way at a time."""

    def test_an_earlier_state_that_others_read_can_be_withdrawn_and_not_read_on(self) -> None:
        docket_lines.set_visibility(self.shop, self.colleague, self.out.id, "only-me")
        posts.save_text(
            self.shop,
            self.colleague,
            self.out.id,
            base=self.out.revision,
            title="Zanzibar now",
            subtitle="",
            body=from_markdown("Quicksilver words."),
        )
        self.as_(self.me)
        desk = self.get("/desk/bench").text
        self.assertIn("Colleague out", desk)
        self.assertNotIn("Zanzibar", desk)
        self.assertEqual(self.get(f"/posts/{self.out.id}").status_code, 404)
        self.assertEqual(self.post("/desk/bench/several/withdraw", post=str(self.out.id)).status_code, 303)
        self.assertEqual(
            post_states.state_of(self.shop, posts.posts.by_id(self.shop.db, self.out.id)), "withdrawn"
        )

    def test_its_author_finds_it_everywhere(self) -> None:
        self.as_(self.colleague)
        self.assertIn("Zanzibar title", self.get("/desk/bench").text)
        self.assertIn("Zanzibar title", self.get("/desk/bench/linkable?words=Quicksilver").text)
        self.assertIn("Zanzibar coming", self.get("/desk/bench/timetable").text)
        self.assertEqual(self.get(f"/posts/{self.secret.id}/peek").status_code, 200)

    def test_a_calendar_program_reads_no_title_that_is_for_one_person(self) -> None:
        self.as_(self.me)
        self.post("/desk/bench/timetable/calendar")
        key = blogs.by_id(self.shop.db, self.blog.id).calendar_key
        self.as_(None)
        text = self.get(f"/calendar/bench/{key}.ics").text
        self.assertIn("A post for its author alone", text)
        self.assertNotIn("Zanzibar", text)

    def test_nobody_looks_as_somebody_with_more_rights(self) -> None:
        for person, asked, status in (
            (self.editor, "owner", 403), (self.writer, "owner", 403), (self.me, "owner", 200), (self.editor, "me", 200), (self.writer, "group:1", 403), (self.editor, "group:1", 200),
        ):  # fmt: skip
            if asked.startswith("group") and not readers.groups(self.shop.db, self.blog.id):
                with self.shop.db.transaction():
                    readers.add_group(self.shop.db, self.blog.id, "Volunteers", "secret", self.clock())
            with self.subTest(f"{person.name} as {asked}"):
                self.as_(person)
                self.assertEqual(
                    self.get(f"/desk/bench/moment/2026-11-18T12:00/{asked}/site/").status_code, status
                )

    def test_an_edition_shows_each_what_they_may_read(self) -> None:
        path = next(
            row["path"]
            for row in self.shop.db.all("SELECT path FROM placement WHERE post_id = ?", self.placed.id)
        )
        newest = editions.current_number(self.shop.db, self.blog.id)
        for person, is_there in ((self.me, False), (self.editor, False), (self.colleague, True)):
            self.as_(person)
            self.assertEqual(
                "Quicksilver" in self.get(f"/desk/bench/edition/{newest}/site{path}").text, is_there
            )


class LibraryRightsTests(RightsCase):
    def test_a_writer_changes_what_they_brought_in_until_a_colleague_shows_it(self) -> None:
        item = library.add_picture(self.shop, self.writer, self.blog, "own.png", picture(80, 60))
        self.as_(self.writer)
        self.assertEqual(self.post(f"/library/{item.id}", caption="Mine").status_code, 200)
        self._post(self.colleague, "Shows it", f"Words.\n\n![Own](media:{item.id})", date="2026-01-04")
        answer = self.post(f"/library/{item.id}", caption="Mine again")
        self.assertEqual((answer.status_code, "ask an editor or the owner" in answer.text), (403, True))
        page = self.get(f"/library/{item.id}").text
        self.assertNotIn("Set it aside", page)
        self.as_(self.editor)
        self.assertEqual(self.post(f"/library/{item.id}", caption="Edited").status_code, 200)

    def test_a_writer_looks_at_a_colleagues_kept_blocks(self) -> None:
        self.as_(self.writer)
        page = self.get(f"/desk/bench/kept/{self.kept.id}")
        self.assertEqual(
            (page.status_code, "Pull the plug first" in page.text, "Change it everywhere" in page.text),
            (200, True, False),
        )
        self.assertEqual(
            self.post(
                f"/desk/bench/kept/{self.kept.id}", name="Safety", document="{}", act="change"
            ).status_code,
            403,
        )
        self.assertEqual(self.post(f"/desk/bench/kept/{self.kept.id}/remove", text="goes").status_code, 403)

    def test_a_file_of_another_blog_does_not_come_along_with_a_post_that_names_it(self) -> None:
        with self.shop.db.transaction():
            blogs.add_member(self.shop.db, self.other_blog.id, self.writer.id, "writer")
        theirs = library.add_picture(self.shop, self.stranger, self.other_blog, "theirs.png", picture(90, 70))
        post = self._post(self.writer, "Names it", f"Words.\n\n![Theirs](media:{theirs.id})")
        third = blogs.add(
            self.shop.db,
            slug="third",
            name="Third",
            tagline="",
            zone="UTC",
            home="https://third.example/",
            design="notebook",
            made_at=1,
            salt="y",
        )
        with self.shop.db.transaction():
            blogs.add_member(self.shop.db, third.id, self.writer.id, "owner")
        self.as_(self.writer)
        self.assertEqual(
            self.post("/desk/bench/several/move", post=str(post.id), said="third").status_code, 303
        )
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM media WHERE blog_id = ?", third.id), 0)
        self.assertEqual(people_store.by_id(self.shop.db, self.writer.id).name, "Laran")

    def test_a_link_to_another_blogs_post_tells_nothing_of_it(self) -> None:
        theirs = files.new_post(
            self.shop, self.stranger, "log", "---\ntitle: Other secret\n---\nWords.\n"
        ).post
        post = self._post(
            self.writer, "Leads there", f"See [there](post:{theirs.id}) and [here](post:{self.secret.id})."
        )
        self.as_(self.writer)
        text = self.get(f"/posts/{post.id}/proof").text + self.get(f"/posts/{post.id}/docket").text
        self.assertNotRegex(text, "Other secret|Zanzibar")

    def test_an_original_is_never_shown_inline(self) -> None:
        drawing = b'<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><script>alert(1)</script><rect width="40" height="30"/></svg>'
        with_script = self.shop.media.put(drawing)[0]
        self.as_(self.writer)
        self.ask(
            "POST",
            "/desk/bench/library",
            files={
                "file": ("drawing.svg", drawing.replace(b"<script>alert(1)</script>", b""), "image/svg+xml")
            },
        )
        number = self.shop.db.value("SELECT MAX(id) FROM media")
        self.shop.db.run("UPDATE media SET hash = ? WHERE id = ?", with_script, number)
        for part in ("play", "original"):
            answer = self.get(f"/library/{number}/{part}")
            with self.subTest(part):
                self.assertTrue(
                    answer.status_code == 404
                    or answer.headers["content-disposition"].startswith("attachment")
                )
                if answer.status_code == 200:
                    self.assertEqual(answer.headers["content-security-policy"], "default-src 'none'; sandbox")
        self.assertIn("sandbox", self.get(f"/pictures/{number}").headers["content-security-policy"])
