import html
import re
from dataclasses import replace
from typing import Any
from unittest import mock
from urllib.parse import parse_qs, urlsplit

import httpx
from anyio.from_thread import start_blocking_portal

from mobbet.actions import docket_lines, library, people, placing
from mobbet.actions.workshop import Workshop
from mobbet.core.document.from_markdown import from_markdown
from mobbet.store import editions, media
from mobbet.store.people import Person
from mobbet.web.public.site import Site
from mobbet.web.public.tally import Tally
from mobbet.web.shell.cookies import SESSION
from mobbet.web.shell.door import Door, Paces
from tests.applications import application_of
from tests.shops import ShopCase, picture

HOST = "http://mobbet.example"
ORIGIN = {"origin": HOST}


def door_to(workshop: Workshop) -> Door:
    return Door(workshop, application_of(workshop), Site(workshop, Tally(workshop)))


class WebCase(ShopCase):
    """Asks the whole application through ASGI, as a browser on its own pages would."""

    def setUp(self) -> None:
        super().setUp()
        self.shop.settings = replace(self.shop.settings, hosts=("mobbet.example",))
        self.app = door_to(self.shop)
        unpaced = mock.patch.object(
            Paces, "has_left", return_value=True
        )  # a test asks for more at once than any client
        unpaced.start()
        self.addCleanup(unpaced.stop)
        self.cookies = httpx.Cookies()
        # a thread of its own, because the browser tests keep an event loop in the main one
        self.portal = self.enterContext(start_blocking_portal())
        self.addCleanup(lambda: self.portal.call(self.shop.db.close))

    def ask(
        self, method: str, path: str, headers: dict[str, str] | None = None, **more: Any
    ) -> httpx.Response:
        async def send() -> httpx.Response:
            transport = httpx.ASGITransport(app=self.app)
            async with httpx.AsyncClient(transport=transport, base_url=HOST, cookies=self.cookies) as client:
                answer = await client.request(method, path, headers={**ORIGIN, **(headers or {})}, **more)
                self.cookies = client.cookies
                return answer

        return self.portal.call(send)

    def get(self, path: str, **headers: str) -> httpx.Response:
        return self.ask("GET", path, {name.replace("_", "-"): value for name, value in headers.items()})

    def post(self, path: str, /, **data: Any) -> httpx.Response:
        return self.ask("POST", path, data=data)

    def sign_in(self) -> None:
        self.assertEqual(
            self.post("/sign-in", email="ines@bench.example", password="a long password").status_code, 303
        )

    def as_(self, person: Person | None) -> None:
        """Asks as that person from now on, as signing in would have it; as nobody without one."""
        self.cookies = httpx.Cookies()
        if person:
            self.cookies.set(SESSION, people.begin_session(self.shop, person).token, domain="mobbet.example")


class SessionRouteTests(WebCase):
    def test_the_start_leads_where_one_belongs(self) -> None:
        self.assertEqual(self.get("/").headers["location"], "/sign-in")
        self.sign_in()
        self.assertEqual(self.get("/").headers["location"], "/desk/bench")
        self.assertEqual(self.get("/begin").headers["location"], "/")

    def test_numbers_that_are_too_large_name_nothing(self) -> None:
        self.sign_in()
        number = 10**25
        for path in (
            f"/posts/{number}",
            f"/desk/bench/comments?post={number}",
            f"/desk/bench/readers?group={number}",
            f"/b/bench/~/comment/{number}",
            "/b/bench/~zzzzzzzzzzzzzzzzzzzzzz",
        ):
            with self.subTest(path):
                self.assertEqual(self.get(path).status_code, 404)

    def test_every_screen_asks_for_a_sign_in(self) -> None:
        for path in (
            "/desk/bench",
            "/posts/1",
            "/posts/1/preview",
            "/account",
            "/desk/bench/site",
            "/pictures/1",
        ):
            with self.subTest(path):
                answer = self.get(path)
                self.assertEqual(
                    (answer.status_code, answer.headers["location"]),
                    (303, f"/sign-in?then={path.replace('/', '%2F')}"),
                )
        self.assertEqual(self.get("/desk/bench/rows", hx_request="true").headers["hx-redirect"], "/sign-in")
        self.assertEqual(self.post("/desk/bench/posts").status_code, 401)

    def test_a_script_never_gets_the_sign_in_page_in_the_place_of_what_it_asked_for(self) -> None:
        self.assertEqual(self.get("/posts/1/docket", sec_fetch_dest="empty").status_code, 401)
        page = {
            "sec_fetch_dest": "empty",
            "accept": "text/html,*/*;q=0.8",
        }  # a page that the service worker passes on
        self.assertEqual(self.get("/posts/1", **page).status_code, 303)

    def test_a_wrong_password_keeps_what_was_typed(self) -> None:
        answer = self.post("/sign-in", email="ines@bench.example", password="wrong")
        self.assertEqual(answer.status_code, 422)
        self.assertIn('value="ines@bench.example"', answer.text)
        self.assertIn("do not belong together", answer.text)
        for _ in range(4):
            self.post("/sign-in", email="ines@bench.example", password="wrong")
        self.assertEqual(
            self.post("/sign-in", email="ines@bench.example", password="a long password").status_code, 429
        )

    def test_signing_in_leads_to_the_whole_address_that_was_asked_for(self) -> None:
        answer = self.get("/desk/bench?q=tag%3Afuse&state=draft")
        self.assertEqual(
            parse_qs(urlsplit(answer.headers["location"]).query)["then"],
            ["/desk/bench?q=tag%3Afuse&state=draft"],
        )

    def test_sign_in_leads_on_within_mobbet_only(self) -> None:
        for then, wanted in (
            ("/desk/bench", "/desk/bench"),
            ("//evil.example", "/"),
            ("https://evil.example", "/"),
            ("/\\evil.example", "/"),
        ):
            answer = self.post("/sign-in", email="ines@bench.example", password="a long password", then=then)
            self.assertEqual(answer.headers["location"], wanted)

    def test_the_cookie_is_closed_to_scripts_and_other_sites(self) -> None:
        cookie = (
            self.post("/sign-in", email="ines@bench.example", password="a long password")
            .headers["set-cookie"]
            .lower()
        )
        for word in ("httponly", "samesite=lax", "max-age=2592000"):
            self.assertIn(word, cookie)

    def test_a_change_asked_for_by_another_site_is_not_made(self) -> None:
        self.sign_in()
        for headers in (
            {"origin": "https://evil.example"},
            {"origin": "null"},
            {"origin": "", "sec-fetch-site": "cross-site"},
        ):
            with self.subTest(headers):
                self.assertEqual(self.ask("POST", "/desk/bench/posts", headers).status_code, 403)
        self.assertEqual(
            self.ask(
                "POST", "/desk/bench/posts", {"origin": "", "sec-fetch-site": "same-origin"}
            ).status_code,
            303,
        )

    def test_what_is_too_large_is_not_even_read(self) -> None:
        answer = self.ask("POST", "/sign-in", {"content-length": "16001"}, content=b"x")
        self.assertEqual(answer.status_code, 413)
        self.assertIn("larger than 16 kB", answer.text)

    def test_what_comes_without_its_length_is_counted(self) -> None:
        async def chunks():
            for _ in range(40):
                yield b"x" * 1_000_000

        self.sign_in()
        answer = self.ask("PUT", "/posts/1/text", {"content-type": "application/json"}, content=chunks())
        self.assertEqual(
            (answer.status_code, answer.text),
            (413, "This is larger than 12 MB; make it smaller and try again."),
        )

    def test_crawlers_are_told_where_the_sites_are(self) -> None:
        text = self.get("/robots.txt").text
        self.assertIn("Disallow: /desk/", text)
        self.assertIn("Sitemap: https://bench.example/sitemap.xml", text)

    def test_signing_out_ends_the_session(self) -> None:
        self.sign_in()
        kept = httpx.Cookies(self.cookies)
        self.post("/sign-out")
        self.cookies = kept
        self.assertEqual(self.get("/desk/bench").status_code, 303)

    def test_the_bar_of_the_account_has_the_screens_of_the_blog(self) -> None:
        self.sign_in()
        page = self.get("/account").text
        for screen in ("Desk", "Timetable", "Readers", "Site"):
            self.assertIn(f">{screen}</a>", page)

    def test_the_password_is_changed_in_the_account(self) -> None:
        self.sign_in()
        self.assertIn("Ines Farrow", self.get("/account").text)
        for values, words in (
            ({"old": "x", "new": "12345678", "again": "1"}, "differ"),
            ({"old": "x", "new": "a kettle of rust", "again": "a kettle of rust"}, "not right"),
        ):
            self.assertIn(words, self.post("/account/password", **values).text)
        done = self.post(
            "/account/password", old="a long password", new="a kettle of rust", again="a kettle of rust"
        )
        self.assertIn("The password is changed", done.text)

    def test_every_answer_has_the_security_headers(self) -> None:
        self.sign_in()
        for path in ("/desk/bench", "/sign-in", "/nowhere", "/favicon.ico"):
            headers = self.get(path).headers
            policy = headers["content-security-policy"]
            self.assertNotIn("unsafe", policy)
            self.assertIn("default-src 'none'", policy)
            self.assertEqual(headers["x-content-type-options"], "nosniff")


class DeskRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_an_empty_desk_offers_the_first_post(self) -> None:
        text = self.get("/desk/bench").text
        self.assertIn("Write the first post", text)
        self.assertIn("Nothing is published yet.", text)
        self.assertIn("Nothing is in hand.", self.get("/desk/bench/write").text)

    def test_the_desk_tells_each_post_in_words(self) -> None:
        self.write("A draft of five words", "Three more words.")
        self.write("A coming one", date="2026-12-01 09:00", expires="2026-12-05", categories="Lamps")
        self.write("An older one", date="2026-11-14")
        text = self.get("/desk/bench").text
        for words in (
            "In hand",
            "In the timetable",
            "Published",
            "3 words",
            "Tue 1 Dec 09:00",
            "comes down Sat 5 Dec",
            "Sat 14 Nov",
            "Four days since the last post.",
            "3 posts",
            "no category yet",
        ):
            with self.subTest(words):
                self.assertIn(words, text)

    def test_the_search_answers_with_rows_alone(self) -> None:
        self.write("The brass hinge")
        answer = self.get("/desk/bench/rows?q=bras", hx_request="true").text
        self.assertIn("1 found with “bras”", answer)
        self.assertNotIn("<html", answer)
        self.assertIn("No post has “&lt;q&gt;”", self.get("/desk/bench/rows?q=<q>", hx_request="true").text)
        self.assertEqual(self.get("/desk/bench/rows?q=x").status_code, 303)
        self.assertIn("The brass hinge", self.get("/desk/bench?q=brass").text)

    def test_older_posts_are_shown_on_request(self) -> None:
        for number in range(27):
            self.write(f"Post {number:02d}", date=f"2026-01-01 10:{number:02d}")
        text = self.get("/desk/bench").text
        self.assertNotIn("Post 02", text)
        more = re.search(r'data-hx-get="([^"]+before=[^"]+)"', text)[1]
        older = self.get(html.unescape(more), hx_request="true").text
        self.assertEqual(re.findall(r">(Post \d\d)", older), ["Post 02", "Post 01", "Post 00"])
        self.assertNotIn("Show older posts", older)

    def test_drafts_are_shown_page_by_page_too(self) -> None:
        for number in range(27):
            self.write(f"Draft {number:02d}")
        text = self.get("/desk/bench").text
        more = re.search(r'data-hx-get="([^"]+group=in-hand[^"]+)"[^>]*>Show more in hand<', text)[1]
        rest = self.get(html.unescape(more), hx_request="true").text
        found = {*re.findall(r">(Draft \d\d)</a>", text), *re.findall(r">(Draft \d\d)</a>", rest)}
        self.assertEqual(len(found), 27)

    def test_a_blog_of_others_is_not_there(self) -> None:
        answer = self.get("/desk/other")
        self.assertEqual(answer.status_code, 404)
        self.assertIn("There is no blog “other” that you work on", answer.text)

    def test_a_new_post_opens_the_writing_room(self) -> None:
        room = self.post("/desk/bench/posts").headers["location"]
        self.assertIn('id="surface"', self.get(room).text)
        self.assertNotIn(f'href="{room}"', self.get("/desk/bench/write").text)  # nothing is written in it
        draft = self.write("A lamp", "Words.")
        self.assertIn(f'href="/posts/{draft.id}"', self.get("/desk/bench/write").text)
        for path in ("/posts/999", "/posts/x", "/nowhere"):
            self.assertEqual(self.get(path).status_code, 404)


class WriteRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.draft = self.write("A lamp", "First words.")
        self.address = f"/posts/{self.draft.id}"

    def save(self, base: int, words: str = "New words here.", **more: Any) -> httpx.Response:
        sheet = {"base": base, "title": "A lamp", "subtitle": "", "document": from_markdown(words), **more}
        return self.ask("PUT", f"{self.address}/text", {"accept": "application/json"}, json=sheet)

    def docket(self, part: str, **data: Any) -> str:
        return self.post(f"{self.address}/docket/{part}", **data).text

    def test_the_first_picture_of_a_text_is_loaded_along_with_the_scripts(self) -> None:
        self.sign_in()
        media = library.add_picture(self.shop, self.me, self.blog, "p.png", picture())
        shown = self.write("With a picture", f"Words.\n\n![A lamp](media:{media.id})")
        later = self.write("Far down", "Words.\n\n" * 6 + f"![A lamp](media:{media.id})")
        preload = f'<link rel="preload" href="/pictures/{media.id}" as="image">'
        self.assertIn(preload, self.get(f"/posts/{shown.id}").text)
        self.assertNotIn(preload, self.get(f"/posts/{later.id}").text)

    def test_a_save_answers_with_revision_words_and_minutes(self) -> None:
        self.assertEqual(self.save(2).json(), {"revision": 3, "words": 3, "minutes": 1})

    def test_a_late_save_is_told_who_was_quicker(self) -> None:
        self.save(2)
        answer = self.save(2, "Others.")
        self.assertEqual((answer.status_code, answer.json()["current"]), (409, 3))
        over = self.ask(
            "POST",
            f"{self.address}/text/over",
            json={"base": 3, "title": "A lamp", "document": from_markdown("Mine.")},
        )
        self.assertEqual(over.json()["revision"], 4)
        apart = self.ask(
            "POST",
            f"{self.address}/text/apart",
            json={"base": 3, "title": "Mine", "document": from_markdown("Mine.")},
        )
        self.assertIn("Mine.", self.get(apart.json()["address"]).text)

    def test_what_cannot_be_saved_is_told_in_one_sentence(self) -> None:
        for sheet, words in (
            ({"document": {"type": "doc", "content": [{"type": "gif"}]}}, "no kind of block"),
            ({"title": "x" * 301}, "300 is the most"),
            ({"base": -1}, "could not be read"),
        ):
            with self.subTest(words):
                answer = self.save(**{"base": 2, **sheet})
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.json()["message"])

    def test_each_sentence_of_the_docket_can_be_changed(self) -> None:
        for part, data, words in (
            ("visibility", {"value": "only-me"}, "Change who may read it: only me"),
            ("categories", {"new": "Lamps > Wiring"}, "Change the categories: Wiring"),
            ("tags", {"value": "flex, fuse"}, "Change the tags: fuse"),
            ("slug", {"value": "better"}, "Change the address: better"),
            ("excerpt", {"value": "Short."}, "an excerpt of your own"),
            ("description", {"value": "Found by searching."}, "Change the description: Found by searching."),
            ("goes-out", {"day": "2026-11-26", "time": "09:00", "when": "then"}, "Change when it goes out: Thu 26 Nov at 09:00"),
            ("comes-down", {"day": "2026-11-30", "time": "21:00", "when": "then"}, "until Mon 30 Nov at 21:00"),
            ("author", {"value": str(self.me.id)}, "Change the author: Ines Farrow"),
        ):  # fmt: skip
            with self.subTest(part):
                self.assertIn(words, self.docket(part, **data))
        text = self.docket("goes-out", when="none")
        self.assertIn("when you publish it", text)

    def test_a_wrong_setting_keeps_its_sheet_open_with_the_reason(self) -> None:
        text = self.docket("slug", value="no good!")
        self.assertIn('data-open="slug"', text)
        self.assertIn("how about “no-good”?", text)
        self.assertIn("No day is chosen", self.docket("goes-out", when="then"))

    def test_the_main_action_says_what_will_happen(self) -> None:
        self.assertIn("Publish now", self.get(self.address).text)
        self.assertIn(
            "Put in the timetable", self.docket("goes-out", day="2026-11-26", time="09:00", when="then")
        )
        placed = self.post(f"{self.address}/place").text
        self.assertIn("It is in the timetable and goes out", placed)
        self.assertRegex(placed, r'id="main-action"[^>]* disabled')
        self.assertIn("Publish now", self.docket("goes-out", day="2026-11-01", time="09:00", when="then"))
        self.assertIn("Not out yet: the time", self.get(self.address).text)
        published = self.post(f"{self.address}/place").text
        self.assertRegex(published, r"Published\. \d+ pages of the site changed; also [^.]*redirects?\.")
        self.assertIn('href="/b/bench/posts/a-lamp/"', published)
        self.save(2)
        changed = self.get(self.address).text
        self.assertIn("Update what is out", changed)
        self.assertIn("Not out yet: the text", changed)

    def test_withdrawing_setting_aside_and_restoring(self) -> None:
        self.post(f"{self.address}/place")
        self.assertIn("withdraw it first", self.post(f"{self.address}/set-aside").text)
        self.clock.forward(60)
        self.assertIn("It is withdrawn", self.post(f"{self.address}/withdraw").text)
        self.assertIn("nothing to withdraw", self.post(f"{self.address}/withdraw").text)
        self.assertIn("Set aside", self.post(f"{self.address}/set-aside").text)
        self.assertIn("Withdrawn", self.post(f"{self.address}/restore").text)

    def test_a_post_without_a_title_is_not_placed_and_says_why(self) -> None:
        room = self.post("/desk/bench/posts").headers["location"]
        self.assertIn("no title yet", self.post(f"{room}/place").text)


class PreviewRouteTests(WebCase):
    def test_the_preview_shows_the_sheet_and_walks_on_into_the_site(self) -> None:
        self.sign_in()
        self.write("Out", date="2026-01-01")
        self.publish()
        draft = self.write("A draft", "Unseen words.")
        frame = f"/posts/{draft.id}/preview/site"
        self.assertIn(
            f'src="/posts/{draft.id}/preview/in/everyone,daylight,ordinary,screen,/site/posts/a-draft/"',
            self.get(f"/posts/{draft.id}/preview").text,
        )
        page = self.get(f"{frame}/posts/a-draft/")
        self.assertIn("Unseen words.", page.text)
        self.assertIn("frame-ancestors 'self'", page.headers["content-security-policy"])
        style = re.search(r'href="(?:\.\./)+(assets/site[^"]+)"', page.text)[1]
        self.assertEqual(self.get(f"{frame}/{style}").headers["content-type"], "text/css; charset=utf-8")
        self.assertIn("Out", self.get(f"{frame}/posts/out/").text)
        missing = self.get(f"{frame}/nowhere/")
        self.assertIn("There is nothing at this address", missing.text)
        self.assertIn(f'href="{frame}/assets', missing.text)
        self.assertNotIn("Unseen words.", self.get("/b/bench/").text)

    def test_the_preview_is_the_page_that_is_published(self) -> None:
        self.sign_in()
        draft = self.write("A draft", "Some *words*.", categories="Lamps")
        shown = self.get(f"/posts/{draft.id}/preview/site/lamps/a-draft/").content
        placing.place(self.shop, self.me, draft.id)
        self.publish()
        self.as_(None)
        self.assertEqual(self.get("/b/bench/lamps/a-draft/").content, shown)

    def test_a_picture_that_no_reader_gets_yet_is_shown(self) -> None:
        self.sign_in()
        self.ask(
            "POST",
            "/desk/bench/library",
            {"accept": "application/json"},
            files={"file": ("lamp.png", picture(), "image/png")},
        )
        draft = self.write("A draft", "![a](media:1)")
        file = media.files(self.shop.db, 1)[0]
        self.assertEqual(self.get(f"/posts/{draft.id}/preview/site{file.path}").status_code, 200)
        self.assertEqual(self.get(f"/b/bench{file.path}").status_code, 404)


class SiteRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("A lamp", "words " * 300, date="2026-01-01", categories="Lamps")
        self.publish()

    def test_a_page_is_sent_once_and_then_confirmed(self) -> None:
        first = self.get("/b/bench/lamps/a-lamp/")
        self.assertEqual(
            (first.status_code, first.headers["cache-control"]), (200, "public, max-age=0, must-revalidate")
        )
        second = self.get("/b/bench/lamps/a-lamp/", if_none_match=first.headers["etag"])
        self.assertEqual((second.status_code, second.content), (304, b""))
        self.assertEqual(
            dict(second.headers), {name: first.headers.get(name) for name in second.headers}
        )  # a browser keeps them in place of the first
        head = self.ask("HEAD", "/b/bench/lamps/a-lamp/")
        self.assertEqual((head.status_code, head.content), (200, b""))

    def test_texts_come_packed_as_the_browser_wishes(self) -> None:
        sizes = {}
        for accepted, encoding in (
            ("br, gzip", "br"),
            ("gzip", "gzip"),
            ("identity", None),
            ("br;q=0, gzip;q=0.5", "gzip"),
        ):
            answer = self.get("/b/bench/lamps/a-lamp/", accept_encoding=accepted)
            self.assertEqual(answer.headers.get("content-encoding"), encoding)
            self.assertIn("words words", answer.text)
            sizes[encoding] = int(answer.headers["content-length"])
        self.assertLess(max(sizes["br"], sizes["gzip"]), sizes[None])

    def test_addresses_without_their_slash_or_with_two_lead_on(self) -> None:
        self.assertEqual(self.get("/b/bench/lamps/a-lamp").headers["location"], "/b/bench/lamps/a-lamp/")
        self.assertEqual(self.get("/b/bench").headers["location"], "/b/bench/")
        doubled = self.get("/b/bench//lamps//a-lamp/")
        self.assertEqual((doubled.status_code, doubled.headers["location"]), (301, "/b/bench/lamps/a-lamp/"))
        self.assertEqual(self.get("/b/bench/LAMPS/A-Lamp").headers["location"], "/b/bench/lamps/a-lamp/")

    def test_nothing_is_where_nothing_is(self) -> None:
        missing = self.get("/b/bench/not/here/")
        self.assertEqual(missing.status_code, 404)
        self.assertIn('href="/b/bench/assets', missing.text)
        self.assertEqual(self.get("/b/other/").status_code, 404)
        self.assertEqual(self.post("/b/bench/").status_code, 405)

    def test_a_new_edition_is_seen_at_once(self) -> None:
        self.assertNotIn("Second", self.get("/b/bench/").text)
        self.write("Second", date="2026-02-01")
        self.publish()
        self.assertIn("Second", self.get("/b/bench/").text)

    def test_an_edition_put_back_shows_strangers_nothing_that_was_restricted_since(self) -> None:
        self.sign_in()
        secret = self.write("Quince", date="2026-02-01")
        then = editions.current_number(self.shop.db, self.blog.id)
        docket_lines.set_visibility(self.shop, self.me, secret.id, "signed-in")
        placing.place(self.shop, self.me, secret.id)
        chosen = self.get(f"/desk/bench/site/editions?number={then}").text
        self.assertRegex(chosen, r"What stays as it is: [^.]*, because of “Quince”: not everybody")
        self.assertEqual(self.post(f"/desk/bench/site/editions/{then}/put-back").status_code, 303)
        self.cookies.clear()
        self.assertEqual(self.get("/b/bench/posts/quince/").status_code, 401)
        for row in editions.pages(self.shop.db, self.blog.id):
            if row.path != "/posts/quince/":  # whose name whoever asks for it has typed
                self.assertNotIn("quince", self.get(f"/b/bench{row.path}").text.casefold(), row.path)

    def test_a_site_that_was_put_back_says_so_and_goes_on_when_told(self) -> None:
        self.sign_in()
        then = editions.current_number(self.shop.db, self.blog.id)
        self.write("Quince", date="2026-02-01")
        answer = self.post(f"/desk/bench/site/editions/{then}/put-back", way="waits")
        self.assertEqual(answer.status_code, 303)
        screen = self.get("/desk/bench/site/editions").text
        self.assertIn(f"Readers get edition {then}, put back", screen)
        self.assertIn("nothing goes out by itself", screen)
        self.assertIn(f"since edition {then} was put back", self.get("/desk/bench/timetable").text)
        self.assertEqual(self.get("/b/bench/posts/quince/").status_code, 404)
        self.assertEqual(self.post("/desk/bench/site/editions/go-on").status_code, 303)
        self.assertEqual(self.get("/b/bench/posts/quince/").status_code, 200)
        self.assertEqual(self.post("/desk/bench/site/editions/go-on").status_code, 422)

    def test_a_style_sheet_of_an_older_edition_is_still_served(self) -> None:
        path = next(
            row.path
            for row in editions.pages(self.shop.db, self.blog.id)
            if row.path.startswith("/assets/site")
        )
        self.shop.db.run("UPDATE edition_page SET to_edition = 1 WHERE path = ?", path)
        answer = self.get(f"/b/bench{path}")
        self.assertEqual(
            (answer.status_code, answer.headers["cache-control"]),
            (200, "public, max-age=31536000, immutable"),
        )

    def test_a_post_for_its_author_alone_is_not_there_for_others(self) -> None:
        self.write("For me", "Marmalade.", date="2026-02-01", visibility="only-me")
        self.publish()
        self.assertEqual(self.get("/b/bench/posts/for-me/").status_code, 404)
        self.assertEqual(self.get("/b/bench/posts/for-me").status_code, 404)
        self.sign_in()
        answer = self.get("/b/bench/posts/for-me/")
        self.assertIn("Marmalade", answer.text)
        self.assertEqual(answer.headers["cache-control"], "private, no-store")

    def test_an_old_address_leads_on(self) -> None:
        docket_lines.set_slug(self.shop, self.me, 1, "better")
        placing.place(self.shop, self.me, 1)
        self.publish()
        answer = self.get("/b/bench/lamps/a-lamp/")
        self.assertEqual((answer.status_code, answer.headers["location"]), (301, "/b/bench/lamps/better/"))

    def test_a_blog_may_have_a_host_of_its_own(self) -> None:
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE blog SET host = 'bench.example'")
        answer = self.ask("GET", "/lamps/a-lamp/", {"host": "bench.example:8000"})
        self.assertIn("A lamp", answer.text)

    def test_the_owner_changes_what_stands_on_every_page(self) -> None:
        self.sign_in()
        set_ = lambda where, value: self.post("/desk/bench/site/house/set", where=where, value=value)  # noqa: E731
        refused = set_("posts_on_page", "0")
        self.assertIn("“0” is no number of posts", refused.text)
        self.assertEqual(refused.status_code, 422)
        for where, value in (
            ("name", "New name"),
            ("tagline", "A line"),
            ("home", "https://new.example"),
            ("posts_on_page", "5"),
        ):
            set_(where, value)
        self.assertIn(
            "Tried here only: the name, the line below it, the public address",
            self.get("/desk/bench/site").text,
        )
        self.assertNotIn("New name", self.get("/b/bench/").text)
        self.assertIn("page", self.get("/desk/bench/site/house/effect").text)
        self.post("/desk/bench/site/house/give")
        self.assertIn("New name", self.get("/b/bench/").text)
        self.assertIn("https://new.example/", self.get("/b/bench/feed.atom").text)


class ProofRouteTests(WebCase):
    def test_the_docket_lists_the_marks_the_gravest_first(self) -> None:
        post = self.write(
            "A lamp", "We recieve [here](https://a.example/) lamps.\n\n![](https://a.example/x.jpg)"
        )
        self.sign_in()
        answer = self.get(f"/posts/{post.id}/proof").json()
        text = answer["html"]
        self.assertLess(text.index("no alternative text"), text.index("“recieve” is not in the dictionary"))
        self.assertIn('data-at="0">receive</button>', text)
        self.assertIn('data-mend="categories"', text)
        self.assertEqual(answer["must"], 1)

    def test_words_learned_for_oneself_stand_in_the_account_and_are_forgotten_there(self) -> None:
        post = self.write("A pump", "The dashpott.")
        self.sign_in()
        self.post(f"/posts/{post.id}/proof/learn", word="dashpott", whose="me")
        self.assertIn("Forget it: dashpott", self.get("/account").text)
        self.post("/account/words", word="dashpott")
        self.assertNotIn("dashpott", self.get("/account").text)
