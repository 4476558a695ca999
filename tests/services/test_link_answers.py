"""Asking whether links answer, against places that are slow, lead in circles, lie, or lead inside the network."""

from __future__ import annotations

import unittest
from collections.abc import Callable

import httpx

from mobbet.services.contracts import LinkReply
from mobbet.services.link_answers import AGENT, PublicAsker

Answer = Callable[[httpx.Request], httpx.Response]


class AskingTests(unittest.TestCase):
    def setUp(self) -> None:
        self.requests: list[httpx.Request] = []
        self.now = 0.0
        self.places = {
            "a.example": "93.184.216.34",
            "b.example": "93.184.216.35",
            "inside.example": "10.0.0.7",
        }

    def ask(self, address: str, answer: Answer, rules: str = "") -> LinkReply:
        def handle(request: httpx.Request) -> httpx.Response:
            self.requests.append(request)
            if request.url.path == "/robots.txt":
                return httpx.Response(200 if rules else 404, text=rules)
            return answer(request)

        def resolve(host: str, port: int) -> list[str]:
            if host not in self.places:
                raise OSError("no such host")
            return [self.places[host]]

        return PublicAsker(resolve, httpx.MockTransport(handle), lambda: self.now)(address)

    def test_a_place_that_answers_has_no_problem(self) -> None:
        self.assertEqual(self.ask("https://a.example/x", lambda request: httpx.Response(200)), LinkReply())
        self.assertEqual([request.method for request in self.requests], ["GET", "HEAD"])
        self.assertEqual(self.requests[1].headers["user-agent"], AGENT)

    def test_where_head_is_not_understood_it_asks_again(self) -> None:
        for status in (405, 404, 500):
            with self.subTest(status):
                self.assertEqual(
                    self.ask(
                        "https://a.example/x",
                        lambda request, status=status: httpx.Response(
                            status if request.method == "HEAD" else 200
                        ),
                    ),
                    LinkReply(),
                )

    def test_what_does_not_answer_is_told_in_words(self) -> None:
        def broken(request: httpx.Request) -> httpx.Response:
            raise httpx.ConnectError("refused")

        for answer, words in (
            (lambda request: httpx.Response(404), "answered with 404"), (lambda request: httpx.Response(503), "answered with 503"), (broken, "could not be reached"),
            (lambda request: httpx.Response(302, headers={"location": str(request.url.path) + "x"}), "redirects more than 5 times"),
            (lambda request: httpx.Response(302, headers={"location": "/x"}), "leads round in a circle"),
            (lambda request: httpx.Response(302, headers={"location": "http://inside.example/secret"}), "lies inside the network"),
            (lambda request: httpx.Response(302, headers={"location": "http://169.254.169.254/latest"}), "is not to be found"),
            (lambda request: httpx.Response(302, headers={"location": "file:///etc/passwd"}), "is not to be found"),
            (lambda request: httpx.Response(302, headers={"location": "http://[::1"}), "could not be reached"),
        ):  # fmt: skip
            with self.subTest(words):
                self.assertEqual(self.ask("https://a.example/x", answer).problem, words)
        self.assertEqual(
            self.ask("https://nowhere.example/", lambda request: httpx.Response(200)).problem,
            "is not to be found",
        )
        self.assertNotIn("10.0.0.7", {request.url.host for request in self.requests})

    def test_a_place_that_wants_people_is_left_alone(self) -> None:
        for status in (401, 403, 451):
            self.assertEqual(
                self.ask("https://a.example/x", lambda request, status=status: httpx.Response(status)),
                LinkReply(),
            )
        self.assertEqual(
            self.ask(
                "https://a.example/x", lambda request: httpx.Response(429, headers={"retry-after": "120"})
            ),
            LinkReply(is_known=False, wait=120),
        )
        self.assertEqual(
            self.ask(
                "https://a.example/x", lambda request: httpx.Response(404), "User-agent: *\nDisallow: /x"
            ),
            LinkReply(is_known=False),
        )

    def test_a_place_that_moved_for_good_offers_its_end(self) -> None:
        def moved(status: int) -> Answer:
            return lambda request: (
                httpx.Response(status, headers={"location": "https://b.example/new"})
                if request.headers["host"] == "a.example"
                else httpx.Response(200)
            )

        self.assertEqual(
            self.ask("https://a.example/x", moved(301)), LinkReply(ends_at="https://b.example/new")
        )
        self.assertEqual(self.ask("https://a.example/x", moved(302)), LinkReply())

    def test_a_place_that_drips_is_left_and_a_large_one_not_read(self) -> None:
        class Drops(httpx.SyncByteStream):
            def __init__(self, case: AskingTests, seconds: float) -> None:
                self.case, self.seconds, self.sent = case, seconds, 0

            def __iter__(self):  # noqa: ANN204
                for _ in range(10_000):
                    self.case.now += self.seconds
                    self.sent += 1
                    yield b"x" * 4096

        self.assertEqual(
            self.ask(
                "https://a.example/x", lambda request: httpx.Response(200, stream=Drops(self, 6.0))
            ).problem,
            "took more than 15 seconds to answer",
        )
        lying = httpx.Response(
            200, headers={"content-encoding": "gzip"}, stream=httpx.ByteStream(b"not packed")
        )
        self.now = 0.0
        self.assertEqual(self.ask("https://a.example/x", lambda request: lying), LinkReply())
        large = Drops(self, 0.0)
        self.assertEqual(
            self.ask(
                "https://a.example/x",
                lambda request: httpx.Response(200, headers={"content-type": "image/png"}, stream=large),
            ),
            LinkReply(),
        )
        self.assertLess(large.sent, 10)
