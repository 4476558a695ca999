"""What readers of every kind get of a published site, asked for as their browsers would."""

from __future__ import annotations

import io
import re

from PIL import Image

from mobbet.actions import building, letters, library, media_jobs, people, preview_readers, readers
from mobbet.core.audience import Reader
from mobbet.core.permalinks import short_path
from mobbet.core.values import existing
from mobbet.store import editions
from mobbet.store import readers as store
from tests.web.test_web import WebCase

PUBLIC = "/b/bench"


class ReadingCase(WebCase):
    """A blog with a post for each kind of reader, each with a word of its own in it."""

    def setUp(self) -> None:
        super().setUp()
        self.group = readers.make_group(self.shop, self.me, self.blog, "Volunteers")
        for name, settings in {
            "open": {},
            "known": {"visibility": "signed-in"},
            "grouped": {"visibility": "group:Volunteers"},
            "locked": {"visibility": "password", "password": "a rusty spring"},
            "shown": {"visibility": "password", "password": "a rusty spring"},
            "mine": {"visibility": "only-me"},
        }.items():
            self.write(
                f"Post {name}",
                f"The word is xyz{name}.",
                date="2026-11-10",
                categories="Lamps" if name == "open" else "Hidden",
                tags=f"tag{name}",
                **settings,
            )
        self.publish()

    def crawl(self, start: str = f"{PUBLIC}/") -> str:
        """Everything that one gets by following links from a page, and from what every site has."""
        seen, text = set(), ""
        waiting = [
            start,
            *(
                f"{PUBLIC}/{name}"
                for name in (
                    "feed.atom",
                    "feed.rss",
                    "feed.json",
                    "sitemap.xml",
                    "archive/",
                    "subjects/",
                    "2026/11/",
                    "404.html",
                    "robots.txt",
                )
            ),
        ]
        while waiting:
            path = waiting.pop()
            if path in seen or not path.startswith(PUBLIC):
                continue
            seen.add(path)
            answer = self.get(path)
            if (
                "text" in answer.headers.get("content-type", "")
                or "xml" in answer.headers.get("content-type", "")
                or "json" in answer.headers.get("content-type", "")
            ):
                text += f"{path} {answer.text}"
                for href in re.findall(r'(?:href|src)="([^"#]+)', answer.text) + re.findall(
                    r"<loc>https://bench.example([^<]+)", answer.text
                ):
                    waiting.append(_joined(path, href))
        return text

    def come_in(self, email: str = "mira@port-alder.example") -> None:
        """Signs a reader in by the newest letter to them."""
        letter = next(one for one in store.letters(self.shop.db, self.blog.id, 50) if one.recipient == email)
        token = re.search(r"/~/in/(\S+)", letter.text)[1]
        self.assertEqual(self.get(f"{PUBLIC}/~/in/{token}").status_code, 200)
        self.assertEqual(self.post(f"{PUBLIC}/~/in/{token}").status_code, 303)


class NewerFilesTests(ReadingCase):
    def files(self, path: str) -> list[str]:
        return [
            _joined(path, part.split()[0])
            for found in re.findall(r'srcset="([^"]+)"', self.get(path).text)
            for part in found.split(",")
        ]

    def test_a_page_made_for_a_reader_shows_files_that_are_newer_than_the_edition(self) -> None:
        drawn = io.BytesIO()
        Image.effect_noise((900, 600), 60).save(drawn, "PNG")
        item = library.add_picture(self.shop, self.me, self.blog, "lamp.png", drawn.getvalue())
        post = self.write("A lamp", f"![A lamp](media:{item.id})", date="2026-11-11")
        building.publish(self.shop, self.blog)
        media_jobs.work_all(self.shop)  # the copies are made, and the next edition is not
        path = PUBLIC + editions.page_of(self.shop.db, self.blog.id, f"post/{post.id}").path
        for_all = self.files(path)
        readers.add_readers(self.shop, self.me, self.blog, self.group.id, "mira@port-alder.example")
        self.come_in()
        newer = sorted({*self.files(path)} - {*for_all})
        self.assertTrue(newer)
        for file in newer:
            answer = self.get(file)
            self.assertEqual(
                (answer.status_code, answer.headers["content-type"].partition("/")[0]), (200, "image"), file
            )
        self.cookies.clear()
        self.assertEqual({self.get(file).status_code for file in newer}, {404})
        self.assertEqual({self.get(file).status_code for file in for_all}, {200})


def _joined(path: str, href: str) -> str:
    if href.startswith("/"):
        return PUBLIC + href
    parts = path.rpartition("/")[0].split("/")
    while href.startswith("../"):
        parts, href = parts[:-1], href[3:]
    return "/".join([*parts, href.removeprefix("./")])


class StrangerTests(ReadingCase):
    def test_a_stranger_finds_nothing_of_what_is_for_others(self) -> None:
        text = self.crawl()
        self.assertIn("xyzopen", text)
        for name in ("known", "grouped", "locked", "shown", "mine"):
            for word in (f"xyz{name}", f"Post {name}", f"tag{name}", f"post-{name}"):
                self.assertNotIn(word, text)
        self.assertNotIn("hidden/", text)

    def test_a_page_for_others_asks_who_one_is_and_tells_nothing(self) -> None:
        for path, status, words in (
            ("hidden/post-known", 401, "Sign in to read this"),
            ("hidden/post-grouped", 401, "Sign in to read this"),
            ("hidden/post-locked", 401, "This post needs a password"),
            ("hidden/post-mine", 404, "There is nothing at this address"),
        ):
            with self.subTest(path):
                answer = self.get(f"{PUBLIC}/{path}/")
                self.assertEqual(
                    (answer.status_code, words in answer.text, "xyz" in answer.text), (status, True, False)
                )

    def test_a_letter_is_sent_only_to_readers_and_the_answer_is_the_same(self) -> None:
        readers.add_readers(self.shop, self.me, self.blog, self.group.id, "mira@port-alder.example")
        before = len(store.letters(self.shop.db, self.blog.id, 50))
        answers = {
            self.post(f"{PUBLIC}/~/in", email=email).text.replace(email, "")
            for email in ("mira@port-alder.example", "nobody@port-alder.example")
        }
        self.assertEqual(len(answers), 1)
        self.assertEqual(len(store.letters(self.shop.db, self.blog.id, 50)), before + 1)
        self.assertIn("is no e-mail address", self.post(f"{PUBLIC}/~/in", email="mira at home").text)


class GroupTests(ReadingCase):
    def setUp(self) -> None:
        super().setUp()
        readers.add_readers(
            self.shop, self.me, self.blog, self.group.id, "Mira Holt <mira@port-alder.example>"
        )

    def test_a_reader_of_a_group_finds_its_posts_in_lists_and_neighbours(self) -> None:
        self.come_in()
        text = self.crawl()
        for name in ("open", "known", "grouped"):
            self.assertIn(f"xyz{name}", text)
            self.assertIn(f"xyz{name}", self.get(f"{PUBLIC}/").text)
        for name in ("locked", "mine"):
            self.assertNotIn(f"xyz{name}", text)
        self.assertIn("hidden/", self.get(f"{PUBLIC}/subjects/").text)
        self.assertEqual(self.get(f"{PUBLIC}/").headers["cache-control"], "private, no-store")

    def test_who_is_taken_out_reads_no_more(self) -> None:
        self.come_in()
        mira = store.of_blog(self.shop.db, self.blog.id, None, "", 5)[0].person_id
        readers.take_out(self.shop, self.me, self.blog, mira, self.group.id)
        answer = self.get(f"{PUBLIC}/hidden/post-grouped/")
        self.assertEqual((answer.status_code, "for other readers" in answer.text), (403, True))
        readers.take_out(self.shop, self.me, self.blog, mira, None)
        self.assertEqual(self.get(f"{PUBLIC}/hidden/post-known/").status_code, 401)

    def test_the_link_of_a_letter_works_once_and_opens_no_screen(self) -> None:
        self.come_in()
        self.assertEqual(self.get("/desk/bench").status_code, 303)
        self.cookies.clear()
        letter = store.letters(self.shop.db, self.blog.id, 1)[0]
        token = re.search(r"/~/in/(\S+)", letter.text)[1]
        self.assertEqual(self.post(f"{PUBLIC}/~/in/{token}").status_code, 410)

    def test_a_letter_to_a_colleague_makes_no_colleague_of_who_opens_it(self) -> None:
        readers.add_readers(self.shop, self.me, self.blog, self.group.id, "ines@bench.example")
        self.come_in("ines@bench.example")
        self.assertEqual(self.get(f"{PUBLIC}/hidden/post-mine/").status_code, 404)
        self.assertEqual(self.get("/desk/bench").status_code, 303)

    def test_the_private_feed_has_all_a_group_may_read_until_it_is_renewed(self) -> None:
        for format in ("atom", "rss", "json"):
            answer = self.get(f"{PUBLIC}/~/feed/{self.group.feed_key}.{format}")
            self.assertEqual(
                [
                    name in answer.text
                    for name in ("xyzopen", "xyzknown", "xyzgrouped", "xyzlocked", "xyzmine")
                ],
                [True, True, True, False, False],
            )
        readers.renew_feed(self.shop, self.me, self.blog, self.group.id)
        self.assertEqual(self.get(f"{PUBLIC}/~/feed/{self.group.feed_key}.atom").status_code, 404)

    def test_letters_go_to_the_mail_service_once(self) -> None:
        self.assertEqual((letters.send_waiting(self.shop), letters.send_waiting(self.shop)), (1, 0))
        self.assertEqual(
            [one.recipient for one in self.shop.services.mail.taken], ["mira@port-alder.example"]
        )


class PasswordTests(ReadingCase):
    def test_the_password_opens_the_post_and_only_it(self) -> None:
        wrong = self.post(f"{PUBLIC}/~/open", path="/hidden/post-locked/", password="a rusty hinge")
        self.assertEqual((wrong.status_code, "not the password" in wrong.text), (422, True))
        answer = self.post(f"{PUBLIC}/~/open", path="/hidden/post-locked/", password=" a rusty  spring")
        self.assertEqual(answer.headers["location"], f"{PUBLIC}/hidden/post-locked/")
        self.assertIn("xyzlocked", self.get(f"{PUBLIC}/hidden/post-locked/").text)
        self.assertEqual(self.get(f"{PUBLIC}/hidden/post-grouped/").status_code, 401)

    def test_a_short_address_of_what_one_may_not_read_is_as_one_that_does_not_exist(self) -> None:
        missing = self.get(f"{PUBLIC}/~zz9")
        for row in self.shop.db.all("SELECT post_id FROM placement WHERE audience <> 'everyone'"):
            answer = self.get(f"{PUBLIC}{short_path(row['post_id'])}")
            with self.subTest(row["post_id"]):
                self.assertEqual((answer.status_code, answer.text), (missing.status_code, missing.text))

    def test_guessing_is_slowed_down(self) -> None:
        statuses = [
            self.post(f"{PUBLIC}/~/open", path="/hidden/post-locked/", password=f"guess {n}").status_code
            for n in range(9)
        ]
        self.assertEqual(statuses[-1], 429)

    def test_a_password_opens_its_post_however_a_keyboard_composes_it(self) -> None:
        self.sign_in()
        number = next(iter(self.shop.db.all("SELECT id FROM post WHERE title = 'Post locked'")))[0]
        self.post(f"/posts/{number}/docket/password", value="klíč ﬁfty", listed="title")
        self.post(f"/posts/{number}/place")
        self.post("/sign-out")
        for typed, status in (("kli\u0301c\u030c fifty", 303), ("klíč ﬁfty", 303), ("klic fifty", 422)):
            answer = self.post(f"{PUBLIC}/~/open", path="/hidden/post-locked/", password=typed)
            self.assertEqual(answer.status_code, status, typed)

    def test_a_new_password_shuts_the_post_again(self) -> None:
        self.post(f"{PUBLIC}/~/open", path="/hidden/post-locked/", password="a rusty spring")
        self.sign_in()
        number = next(iter(self.shop.db.all("SELECT id FROM post WHERE title = 'Post locked'")))[0]
        self.post(f"/posts/{number}/docket/password", value="another word", listed="title")
        self.post(f"/posts/{number}/place")
        self.post("/sign-out")
        self.assertEqual(self.get(f"{PUBLIC}/hidden/post-locked/").status_code, 401)
        text = self.crawl()
        self.assertIn("Post locked", text)
        self.assertNotIn("xyzlocked", text)

    def test_title_and_teaser_stand_in_lists_only_by_choice(self) -> None:
        self.write(
            "A teased post",
            "What everyone sees xyzabove.\n\n<!-- teaser -->\n\nThe rest is xyzbelow.",
            date="2026-11-11",
            visibility="password",
            password="a rusty spring",
            slug="teased",
        )
        number = self.shop.db.value("SELECT MAX(id) FROM post")
        self.sign_in()
        for listed, found in (
            ("", [False, False, False]),
            ("title", [True, False, False]),
            ("teaser", [True, True, False]),
        ):
            self.assertEqual(
                self.post(f"/posts/{number}/docket/password", value="", listed=listed).status_code, 200
            )
            self.post(f"/posts/{number}/place")
            cookies, self.cookies = self.cookies, {}
            for text in (self.get(f"{PUBLIC}/").text, self.get(f"{PUBLIC}/feed.atom").text):
                self.assertEqual(
                    [word in text for word in ("A teased post", "xyzabove", "xyzbelow")], found, listed
                )
            self.cookies = cookies


class OpenEntryTests(ReadingCase):
    def test_anyone_may_sign_in_where_the_owner_lets_them(self) -> None:
        self.sign_in()
        self.post("/desk/bench/readers/entry", open="yes")
        self.post("/sign-out")
        self.post(f"{PUBLIC}/~/in", email="new@port-alder.example", path="/hidden/post-known/")
        self.come_in("new@port-alder.example")
        self.assertIn("xyzknown", self.get(f"{PUBLIC}/hidden/post-known/").text)
        self.assertEqual(self.get(f"{PUBLIC}/hidden/post-grouped/").status_code, 403)


class ReadersScreenTests(ReadingCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_groups_are_made_named_and_removed(self) -> None:
        self.post("/desk/bench/readers/group", name="Friends")
        friends = store.group_named(self.shop.db, self.blog.id, "Friends")
        self.post(f"/desk/bench/readers/{friends.id}/rename", name="Old friends")
        self.assertIn("Old friends", self.get("/desk/bench/readers").text)
        self.assertIn(
            "There is a group “Old friends” already",
            self.post("/desk/bench/readers/group", name="old friends").text,
        )
        self.post(f"/desk/bench/readers/{friends.id}/remove")
        self.assertNotIn("Old friends", self.get("/desk/bench/readers").text)

    def test_a_group_with_posts_stays(self) -> None:
        answer = self.post(f"/desk/bench/readers/{self.group.id}/remove")
        self.assertIn("“Post grouped” is for “Volunteers”; choose other readers there first.", answer.text)

    def test_a_line_that_is_no_address_is_refused_and_kept(self) -> None:
        lines = "Mira <mira@port-alder.example>\nnobody at all"
        answer = self.post(f"/desk/bench/readers/{self.group.id}/invite", lines=lines)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("“nobody at all” is no e-mail address", answer.text)
        self.assertIn("mira@port-alder.example", answer.text)
        self.assertEqual(store.count_readers(self.shop.db, self.blog.id), 0)

    def test_writers_do_not_keep_readers(self) -> None:
        self.shop.db.run("UPDATE membership SET role = 'writer'")
        self.shop.db.connection.commit()
        self.assertEqual(self.get("/desk/bench/readers").status_code, 403)

    def test_a_session_is_known_for_its_blog_alone(self) -> None:
        session = people.begin_session(self.shop, self.me, self.blog.id)
        self.assertIsNone(people.person_of(self.shop, session.token))
        self.assertEqual(existing(people.person_of(self.shop, session.token, self.blog.id)).id, self.me.id)
        self.assertEqual(preview_readers.reader_of(self.shop, self.blog, None, self.me), Reader())
