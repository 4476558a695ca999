"""Mentions by other sites and of other sites, with servers on this machine, hostile ones among them."""

import threading
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import parse_qs

from mobbet.actions import comments, mentions, placing, posts
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput, Broken, Refused
from mobbet.services.pages import PublicPages
from mobbet.store import blogs
from mobbet.store import comments as store
from mobbet.store import mentions as mention_store
from mobbet.store import posts as posts_store
from tests.shops import DAY, ShopCase


class Elsewhere:
    """Other sites on this machine: `pages` by path, as bytes or as what answers a request; what is sent is kept."""

    def __init__(self) -> None:
        self.pages, self.got = {}, []
        outer = self

        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                page = outer.pages.get(self.path)
                if callable(page):
                    page(self)
                    return
                self.send_response(200 if page is not None else 410)
                self.send_header("Content-Type", "text/html")
                self.end_headers()
                self.wfile.write(page or b"")

            def do_POST(self) -> None:
                body = self.rfile.read(int(self.headers["Content-Length"])).decode()
                outer.got.append((self.path, {name: values[0] for name, values in parse_qs(body).items()}))
                self.send_response(202)
                self.end_headers()

            def log_message(self, *words: object) -> None:
                pass

        self.server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        self.server.handle_error = lambda *request: None  # who asks hangs up on hostile pages
        self.server.daemon_threads = True
        threading.Thread(target=self.server.serve_forever, daemon=True).start()
        self.netloc = f"127.0.0.1:{self.server.server_port}"
        self.home = f"http://{self.netloc}"

    def close(self) -> None:
        self.server.shutdown()
        self.server.server_close()


class MentionCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.elsewhere = Elsewhere()
        self.addCleanup(self.elsewhere.close)
        self.shop.services.pages = PublicPages((self.elsewhere.netloc,), seconds=1.5)

    def out(self, body: str = "Some words.", title: str = "A lamp"):
        post = self.write(title, body, categories="Lamps")
        placing.place(self.shop, self.me, post.id)
        return post

    def look(self) -> None:
        for _ in range(6):
            mentions.look_at_some(self.shop)

    def tell(self) -> None:
        for _ in range(6):
            mentions.tell_some(self.shop)


class ReceivingTests(MentionCase):
    TARGET = "https://bench.example/lamps/a-lamp/"

    def setUp(self) -> None:
        super().setUp()
        self.post_ = self.out()
        self.blog = blogs.by_slug(self.shop.db, "bench")

    def told(self, path: str = "/on-lamps", target: str = TARGET) -> None:
        mentions.receive(self.shop, self.blog, self.elsewhere.home + path, target, "203.0.113.9")
        self.look()

    def waiting(self) -> list[store.Comment]:
        return store.page(self.shop.db, self.blog.id, "waits", 0, 0, 1 << 60, 50)

    def test_a_page_that_links_here_waits_as_a_comment_with_author_and_words(self) -> None:
        self.elsewhere.pages["/on-lamps"] = (
            f'<div class="h-entry"><a class="p-author h-card" href="https://mona.example/">Mona</a> <p class="e-content">Read <a href="{self.TARGET}">this</a>.</p></div>'.encode()
        )
        self.told()
        (one,) = self.waiting()
        self.assertEqual((one.name, one.address, one.text), ("Mona", "https://mona.example/", "Read this."))
        self.told()
        self.assertEqual(len(self.waiting()), 1)

    def test_it_goes_when_the_link_goes_and_waits_again_when_its_words_change(self) -> None:
        page = '<div class="h-entry"><p class="e-content">{} <a href="{}">this</a></p></div>'
        self.elsewhere.pages["/on-lamps"] = page.format("Good", self.TARGET).encode()
        self.told()
        comments.settle(self.shop, self.me, "bench", [self.waiting()[0].id], "shown")
        self.elsewhere.pages["/on-lamps"] = page.format("Buy now", self.TARGET).encode()
        self.told()
        self.assertEqual([one.text for one in self.waiting()], ["Buy now this"])
        self.elsewhere.pages["/on-lamps"] = page.format("Gone", "https://other.example/").encode()
        self.told()
        self.assertEqual(self.waiting(), [])

    def test_what_names_the_address_without_linking_leaves_no_comment(self) -> None:
        for number, page in enumerate((f"<!-- <a href='{self.TARGET}'>x</a> -->", self.TARGET, "")):
            self.elsewhere.pages[f"/{number}"] = page.encode()
            self.told(f"/{number}")
        self.assertEqual(self.waiting(), [])

    def test_hostile_pages_do_no_harm_and_take_no_long_time(self) -> None:
        def loop(request) -> None:
            request.send_response(302)
            request.send_header("Location", request.path)
            request.end_headers()

        def huge(request) -> None:
            request.send_response(200)
            request.send_header("Content-Type", "text/html")
            request.end_headers()
            for _ in range(300):
                request.wfile.write(b"<div>" * 2000)

        def slow(request) -> None:
            request.send_response(200)
            request.send_header("Content-Type", "text/html")
            request.end_headers()
            for _ in range(100):
                request.wfile.write(b"<p>")
                time.sleep(0.1)

        def inside(request) -> None:
            request.send_response(302)
            request.send_header("Location", "http://10.0.0.1/secret")
            request.end_headers()

        begun = time.monotonic()
        for path, page in (("/loop", loop), ("/huge", huge), ("/slow", slow), ("/inside", inside)):
            self.elsewhere.pages[path] = page
            self.told(path)
        self.assertLess(time.monotonic() - begun, 12)
        self.assertEqual(self.waiting(), [])

    def test_a_private_address_is_never_asked(self) -> None:
        for address in (
            "http://127.0.0.1/",
            "http://10.1.2.3/",
            "http://[::1]/",
            "http://169.254.169.254/latest/",
        ):
            with self.subTest(address), self.assertRaises(Broken):
                self.shop.services.pages.get(address)

    def test_nonsense_is_refused_at_once(self) -> None:
        for source, target in (
            ("nonsense", self.TARGET), ("javascript:alert(1)", self.TARGET), (self.TARGET, self.TARGET + "#x"),
            ("https://a.example/", "https://bench.example/nothing/"), ("https://a.example/", "https://other.example/lamps/a-lamp/"),
        ):  # fmt: skip
            with self.subTest(source), self.assertRaises(BadInput):
                mentions.receive(self.shop, self.blog, source, target, "203.0.113.9")

    def test_posts_for_some_readers_and_blogs_that_take_none_say_the_same_of_nothing(self) -> None:
        self.shop.db.run("UPDATE placement SET audience = 'signed-in'")
        with self.assertRaisesRegex(BadInput, "is no post here that takes mentions"):
            mentions.receive(self.shop, self.blog, "https://a.example/", self.TARGET, "203.0.113.9")
        mentions.set_mentions(self.shop, self.me, "bench", False)
        with self.assertRaisesRegex(Refused, "takes no mentions"):
            mentions.receive(
                self.shop,
                blogs.by_slug(self.shop.db, "bench"),
                "https://a.example/",
                self.TARGET,
                "203.0.113.9",
            )


class TellingTests(MentionCase):
    def setUp(self) -> None:
        super().setUp()
        self.elsewhere.pages["/guide"] = b'<link rel="webmention" href="/take">'
        self.elsewhere.pages["/plain"] = b"<p>No mentions here.</p>"

    def test_the_places_that_take_mentions_are_told_once_and_again_on_an_update(self) -> None:
        post = self.out(
            f"See [the guide]({self.elsewhere.home}/guide) and [this]({self.elsewhere.home}/plain)."
        )
        self.tell(), self.tell()
        source = "https://bench.example/lamps/a-lamp/"
        self.assertEqual(
            self.elsewhere.got, [("/take", {"source": source, "target": f"{self.elsewhere.home}/guide"})]
        )
        self.clock.forward(60)
        self.update(post)
        self.tell(), self.tell()
        self.assertEqual(len(self.elsewhere.got), 2)
        states = {
            one.target.rpartition("/")[2]: one.state for one in mention_store.of_post(self.shop.db, post.id)
        }
        self.assertEqual(states, {"guide": "told", "plain": "none"})

    def update(self, post) -> None:
        base = posts_store.by_id(self.shop.db, post.id).revision
        body = from_markdown(f"See [the guide]({self.elsewhere.home}/guide), once more.")
        posts.save_text(self.shop, self.me, post.id, base=base, title="A lamp", subtitle="", body=body)
        placing.place(self.shop, self.me, post.id)

    def test_a_withdrawn_post_is_told_of_too_and_a_restricted_one_never(self) -> None:
        post = self.out(f"See [the guide]({self.elsewhere.home}/guide).")
        self.tell()
        placing.withdraw(self.shop, self.me, post.id)
        self.tell()
        self.assertEqual(len(self.elsewhere.got), 2)
        other = self.write("Inside", f"See [the guide]({self.elsewhere.home}/guide).", visibility="signed-in")
        placing.place(self.shop, self.me, other.id)
        self.tell()
        self.assertEqual(len(self.elsewhere.got), 2)

    def test_a_place_that_does_not_answer_is_tried_again_and_then_left(self) -> None:
        post = self.out("See [it](http://127.0.0.1:1/gone).")
        for _ in range(8):
            self.tell()
            self.clock.forward(DAY // 4)
        (one,) = mention_store.of_post(self.shop.db, post.id)
        self.assertEqual((one.state, one.tries), ("failed", 4))
