"""The door, as the application is asked through it."""

from __future__ import annotations

from dataclasses import replace
from unittest import mock

import httpx

from mobbet.actions import first_run, people
from mobbet.core.networks import read_networks
from mobbet.store import blogs
from mobbet.web.shell import cookies, door
from mobbet.web.shell.cookies import SESSION
from mobbet.web.shell.door import Paces
from mobbet.web.shell.limits import MISSES, SLOWED_SECONDS, most_bytes, problem_of_head
from mobbet.wiring import open_folder
from tests.shops import SetClock
from tests.web.test_web import HOST, WebCase, door_to


class HeadTests(WebCase):
    def test_a_head_that_is_too_large_is_not_read(self) -> None:
        for headers, path, status in (
            ({"x-large": "a" * 9000}, "/", 431), ({"cookie": "a=" + '"' + "\\" * 5000 + '"'}, "/", 431), ({f"x-{number}": "1" for number in range(120)}, "/b/bench/", 431), ({}, "/b/bench/?q=" + "a" * 2100, 414), ({}, "/sign-in?" + "&".join(["a=1"] * 700), 414),
        ):  # fmt: skip
            with self.subTest(path[:20]):
                answer = self.ask("GET", path, headers)
                self.assertEqual(answer.status_code, status)
                self.assertIn("content-security-policy", answer.headers)

    def test_the_limits_are_one_table(self) -> None:
        self.assertIsNone(problem_of_head(b"q=1", [(b"host", b"a.example"), (b"cookie", b"a=1")]))
        largest = 500_000_000
        for path, stranger, person in (
            ("/sign-in", 16_000, 1_000_000), ("/posts/7/text", 0, 12_000_000), ("/desk/a/pasted", 0, 12_000_000), ("/desk/a/library", 0, 501_000_000), ("/desk/a/readers/1/invite", 16_000, 1_000_000), ("/~/a/comment/7", 64_000, 64_000),
        ):  # fmt: skip
            self.assertEqual(
                (most_bytes(path, False, largest), most_bytes(path, True, largest)), (stranger, person), path
            )

    def test_nothing_large_is_read_before_it_is_known_who_asks(self) -> None:
        reached = mock.AsyncMock()
        self.app._guard.app = reached
        for path, size in (
            ("/posts/1/text", 1),
            ("/documents/raw", 29_000_000),
            ("/desk/bench/library", 500),
            ("/sign-in", 17_000),
        ):
            answer = self.ask("POST", path, {"content-length": str(size)}, content=b"x")
            self.assertIn(answer.status_code, (401, 413), path)
        reached.assert_not_called()

    def test_what_is_nested_too_deeply_is_refused(self) -> None:
        self.sign_in()
        answer = self.ask(
            "PUT",
            "/posts/1/text",
            {"content-type": "application/json"},
            content=b'{"base":1,"document":' + b"[" * 100_000 + b"]" * 100_000 + b"}",
        )
        self.assertEqual(answer.status_code, 400)


class OriginTests(WebCase):
    def test_only_pages_of_this_very_server_ask_for_changes(self) -> None:
        self.sign_in()
        for headers, status in (
            ({"origin": HOST}, 303), ({"origin": "https://mobbet.example"}, 303), ({"origin": "http://mobbet.example:80"}, 303), ({"origin": "http://mobbet.example:8080"}, 403), ({"origin": "http://[::1"}, 403), ({"origin": "null"}, 403), ({"origin": "ftp://mobbet.example"}, 403),
            ({"origin": HOST, "sec-fetch-site": "cross-site"}, 403), ({"origin": HOST, "sec-fetch-site": "same-site"}, 403), ({"origin": HOST, "sec-fetch-site": "same-origin"}, 303), ({"origin": ""}, 403), ({"origin": "http://user@mobbet.example"}, 403), ({"origin": "http://mobbet.example/x"}, 403),
        ):  # fmt: skip
            with self.subTest(headers):
                self.assertEqual(self.ask("POST", "/desk/bench/posts", headers).status_code, status)

    def test_behind_https_a_page_that_came_over_http_is_another_site(self) -> None:
        self.shop.settings = replace(self.shop.settings, secure_cookies=True)
        self.app = door_to(self.shop)
        self.assertEqual(self.ask("POST", "/sign-in", {"origin": "http://mobbet.example"}).status_code, 403)
        answer = self.ask(
            "POST",
            "/sign-in",
            {"origin": "https://mobbet.example"},
            data={"email": "ines@bench.example", "password": "a long password"},
        )
        self.assertEqual(answer.status_code, 303)
        self.assertIn("__Host-mobbet_session=", answer.headers["set-cookie"])
        self.assertIn("Secure", answer.headers["set-cookie"])
        self.assertEqual(answer.headers["strict-transport-security"], "max-age=31536000")


class HeaderTests(WebCase):
    def test_every_answer_has_the_headers_also_redirects_and_errors(self) -> None:
        self.write("Lamp", date="2026-01-01")
        self.publish()
        for method, path in (
            ("GET", "/"), ("GET", "/sign-in"), ("GET", "/nothing"), ("POST", "/sign-in"), ("GET", "/b/bench/"), ("GET", "/b/bench"), ("GET", "/b/none/"), ("GET", "/b/bench/missing/"), ("POST", "/b/bench/"), ("GET", "/b/bench/posts/lamp"), ("GET", "/b/bench/feed.atom"), ("GET", "/robots.txt"), ("GET", "/b/bench/~/in"), ("GET", "/desk/bench"),
        ):  # fmt: skip
            answer = self.ask(method, path)
            for name in (
                "x-content-type-options",
                "referrer-policy",
                "cross-origin-opener-policy",
                "permissions-policy",
                "content-security-policy",
            ):
                with self.subTest(f"{method} {path} {name} {answer.status_code}"):
                    self.assertIn(name, answer.headers)
        self.assertEqual(self.get("/b/bench/").headers["cross-origin-resource-policy"], "cross-origin")
        self.assertEqual(self.get("/sign-in").headers["cross-origin-resource-policy"], "same-origin")

    def test_signing_out_ends_the_session_and_clears_what_was_kept(self) -> None:
        self.sign_in()
        token = self.cookies[SESSION]
        answer = self.post("/sign-out")
        self.assertEqual(answer.headers["clear-site-data"], '"cache"')
        self.assertIsNone(people.person_of(self.shop, token))

    def test_a_readers_sign_out_ends_their_session(self) -> None:
        reader = people.add_person(self.shop, name="Mira", email="mira@away.example", password=None)
        token = people.begin_session(self.shop, reader, self.blog.id).token
        self.cookies = httpx.Cookies({cookies.guest_cookie(self.shop.settings, self.blog): token})
        self.assertEqual(self.post("/b/bench/~/out").status_code, 303)
        self.assertIsNone(people.person_of(self.shop, token, self.blog.id))


class HostTests(WebCase):
    def on(self, host: str, path: str = "/sign-in") -> httpx.Response:
        return self.ask("GET", path, {"host": host})

    def test_names_that_are_not_the_servers_are_not_answered(self) -> None:
        for host, status in (
            ("mobbet.example", 200),
            ("127.0.0.1:8000", 200),
            ("[::1]:8000", 200),
            ("localhost", 200),
            ("bench.example", 200),
            ("rebound.evil.example", 421),
            ("", 421),
        ):
            with self.subTest(host):
                self.assertEqual(self.on(host).status_code, status)

    def test_the_application_may_have_a_host_name_of_its_own(self) -> None:
        self.shop.settings = replace(self.shop.settings, host="write.example", hosts=("read.example",))
        self.app = door_to(self.shop)
        self.assertEqual(
            [self.on(host).status_code for host in ("write.example", "read.example", "bench.example")],
            [200, 404, 404],
        )
        self.assertEqual(self.on("read.example", "/b/bench/robots.txt").status_code, 200)

    def test_the_owner_gives_a_blog_a_host_of_its_own(self) -> None:
        self.publish()
        self.sign_in()
        set_ = lambda host: self.post("/desk/bench/site/house/set", where="host", value=host)  # noqa: E731
        for host, message in (("no host", "is no host name"), ("mobbet.example", "belongs to Mobbet itself")):
            answer = set_(host)
            self.assertEqual(
                (answer.status_code, message in answer.text, f'value="{host}"' in answer.text),
                (422, True, True),
            )
        self.assertEqual(set_("bench.example").status_code, 303)
        self.assertIsNone(blogs.by_id(self.shop.db, self.blog.id).host)
        self.post("/desk/bench/site/house/give")
        self.assertEqual(blogs.by_id(self.shop.db, self.blog.id).host, "bench.example")
        self.assertEqual(self.on("bench.example", "/").status_code, 200)
        self.assertEqual(self.on("bench.example", "/sign-in").status_code, 404)
        self.assertEqual(self.on("bench.example", "/~/in").status_code, 200)

    def test_whose_a_request_is_behind_a_proxy(self) -> None:
        for proxies, expected in (("", 422), ("127.0.0.0/8", 422)):
            self.shop.settings = replace(self.shop.settings, proxies=read_networks(proxies, "x"))
            self.app = door_to(self.shop)
            with self.subTest(proxies):
                for number in range(5):
                    self.ask(
                        "POST",
                        "/sign-in",
                        {"x-forwarded-for": f"198.51.100.{number}"},
                        data={"email": f"a{proxies[:3]}@bench.example", "password": "wrong"},
                    )
                answer = self.ask(
                    "POST",
                    "/sign-in",
                    {"x-forwarded-for": "198.51.100.77"},
                    data={"email": f"a{proxies[:3]}@bench.example", "password": "wrong"},
                )
                self.assertEqual(answer.status_code, expected if proxies else 429)


class PaceTests(WebCase):
    def test_a_flood_of_what_needs_work_is_slowed_and_pages_at_hand_are_not(self) -> None:
        self.publish()
        mock.patch.stopall()
        self.get("/b/bench/")
        with (
            mock.patch.object(Paces, "has_left", HAS_LEFT),
            mock.patch.multiple(door, MISSES_A_SECOND=0.0, SLOWED_SECONDS=0.0),
        ):
            answers = [self.get(f"/b/bench/none-{number}/").status_code for number in range(MISSES + 20)]
            self.assertEqual((answers[0], answers.count(429) > 0), (404, True))
            self.assertEqual(self.get("/b/bench/").status_code, 200)

    def test_who_is_slowed_waits_for_the_refusal(self) -> None:
        mock.patch.stopall()
        held = mock.AsyncMock()
        with (
            mock.patch.object(Paces, "has_left", return_value=False),
            mock.patch.object(door.asyncio, "sleep", held),
        ):
            self.assertEqual(self.get("/b/bench/none/").status_code, 429)
            self.assertEqual(self.get("/", cookie="a" * 9000).status_code, 431)
        self.assertEqual([call.args for call in held.await_args_list], [(SLOWED_SECONDS,)] * 2)

    def test_who_reads_the_whole_site_at_once_is_not_slowed(self) -> None:
        for number in range(MISSES + 20):
            self.write(f"Post {number}", date="2026-01-01", categories="Lamps")
        self.publish()
        mock.patch.stopall()
        with (
            mock.patch.object(Paces, "has_left", HAS_LEFT),
            mock.patch.multiple(door, MISSES_A_SECOND=0.0, SLOWED_SECONDS=0.0),
        ):
            self.assertEqual(
                {self.get(f"/b/bench/lamps/post-{number}/").status_code for number in range(MISSES + 20)},
                {200},
            )


HAS_LEFT = Paces.has_left


class FirstRunTests(WebCase):
    def test_only_whoever_reads_the_console_begins(self) -> None:
        empty = open_folder(self.folder / "empty", SetClock(self.clock.instant))
        empty.settings = replace(empty.settings, hosts=("mobbet.example",))
        self.addCleanup(empty.db.close)
        self.app = door_to(empty)
        word = first_run.word(empty)
        self.assertRegex(word, r"^\w{4}-\w{4}-\w{4}$")
        self.assertEqual((self.folder / "empty" / first_run.FILE).stat().st_mode & 0o777, 0o600)
        values = {
            "name": "Ines",
            "email": "ines@bench.example",
            "password": "a kettle of rust",
            "blog": "Mending",
            "address": "mending",
            "zone": "UTC",
        }
        answer = self.post("/begin", **values, word="wrong")
        self.assertEqual(
            (answer.status_code, "That is not the word" in answer.text, 'value="Mending"' in answer.text),
            (422, True, True),
        )
        self.assertEqual(self.post("/begin", **values, word=f" {word.upper()} ").status_code, 303)
        self.assertEqual(first_run.word(empty), "")
        self.portal.call(empty.db.close)
