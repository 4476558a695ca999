import gzip
from dataclasses import replace
from pathlib import Path

from mobbet.actions import read_counts
from mobbet.actions.read_counts import Hit
from mobbet.core.errors import BadInput
from mobbet.core.read_counts import END_PATH, blurred, device_of, language_of, source_of
from mobbet.store import read_counts as read_store
from tests.shops import NOW, ShopCase

PHONE = "Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) Mobile/15E148"
DESK = "Mozilla/5.0 (X11; Linux x86_64) Firefox/130.0"
ROBOT = "Harbourbot/1.0 (+https://robot.example)"


class ReadCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("Lamps", date="2026-11-10")
        self.publish()
        [self.path] = [path for path in self.site() if path.endswith("/lamps/") and "posts" in path]

    def facts(self) -> dict:
        return read_counts.facts(self.shop, self.blog, "0000-01-01", "9999-12-31")


class LiveTests(ReadCase):
    def hit(self, path: str = "", **more: str) -> Hit:
        usual = Hit(NOW, path or self.path, "", "192.0.2.7", DESK, "", "pt-PT,en", "bench.example")
        return replace(usual, **more)

    def count(self, *hits: Hit) -> dict:
        read_counts.count(self.shop, self.blog, hits)
        return self.facts()

    def test_pages_and_readers_are_counted_by_day_and_post(self) -> None:
        found = self.count(
            self.hit(), self.hit(), self.hit(agent=PHONE), self.hit("/"), self.hit("/nowhere/")
        )
        self.assertEqual((found["readers"], found["pages"]), (2, 4))
        self.assertEqual(found["posts"], [{"id": self.lamp.id, "path": self.path, "readers": 2, "pages": 3}])
        found = self.count(self.hit(), self.hit(address="192.0.2.8"))
        self.assertEqual((found["readers"], found["pages"]), (3, 6))

    def test_robots_are_counted_apart(self) -> None:
        found = self.count(self.hit(agent=ROBOT), self.hit())
        self.assertEqual((found["robots"], found["pages"], found["readers"]), (1, 1, 1))

    def test_only_pages_that_are_opened_from_outside_say_where_from(self) -> None:
        found = self.count(
            self.hit(referrer="https://Links.example/x?y"), self.hit(referrer="https://bench.example/"), self.hit(), self.hit(query="from=The+Poster"),
        )  # fmt: skip
        self.assertEqual(found["from"], [{"host": "links.example", "pages": 1}])

    def test_what_readers_were_told_apart_by_is_forgotten(self) -> None:
        self.count(self.hit())
        kept = lambda: self.shop.db.value("SELECT COUNT(*) FROM read_seen")  # noqa: E731
        self.assertEqual((kept(), read_counts.forget(self.shop)), (2, 0))
        stored = self.shop.db.tuples("SELECT * FROM read_seen")
        self.assertNotIn("192.0.2.7", str(stored))
        self.clock.forward(3 * 86400)
        self.assertEqual((read_counts.forget(self.shop), kept()), (1, 0))
        self.assertEqual(self.facts()["readers"], 1)

    def test_a_day_is_one_of_the_blogs_zone(self) -> None:
        late = self.hit()
        found = self.count(replace(late, at=1_782_687_000))  # 28 June 2026, 23:50 in Lisbon
        self.assertEqual([one["day"] for one in found["days"]], ["2026-06-28"])


class LogTests(ReadCase):
    def line(self, path: str = "", status: int = 200, agent: str = DESK, address: str = "192.0.2.7", second: int = 0, method: str = "GET") -> str:  # fmt: skip
        return f'{address} - - [10/Oct/2026:13:55:{second:02d} +0000] "{method} {path or self.path} HTTP/1.1" {status} 9 "https://links.example/" "{agent}"\n'

    def log(self, name: str, *lines: str, packed: bool = False) -> Path:
        path = self.folder / name
        data = "".join(lines).encode()
        path.write_bytes(gzip.compress(data) if packed else data)
        return path

    def read(self, path: Path) -> read_counts.Imported:
        return read_counts.import_log(self.shop, self.blog, path)

    def test_pages_are_counted_and_nothing_else(self) -> None:
        path = self.log(
            "a.log", self.line(), self.line(status=304, second=1), self.line(status=404), self.line(method="HEAD"), self.line("/look.css"), self.line("/nowhere/"),
            self.line(agent=ROBOT), self.line(f"{self.path}index.html", second=2), "nonsense\n",
        )  # fmt: skip
        found = self.read(path)
        self.assertEqual((found.lines, found.pages, found.robots, found.unreadable), (9, 3, 1, 1))
        self.assertEqual(self.facts()["days"], [{"day": "2026-10-10", "readers": 1, "pages": 3}])

    def test_no_line_is_counted_twice_in_however_many_logs_it_stands(self) -> None:
        lines = [self.line(second=second, address=f"192.0.2.{second}") for second in range(6)]
        self.assertEqual(self.read(self.log("a.log", *lines[:4])).pages, 4)
        self.assertEqual(self.read(self.log("a.log", *lines[:4])).pages, 0)
        self.assertEqual(self.read(self.log("b.log.gz", *lines[2:], packed=True)).pages, 2)
        self.assertEqual((self.facts()["pages"], self.facts()["readers"]), (6, 6))

    def test_two_equal_lines_of_one_log_are_two_pages(self) -> None:
        path = self.log("a.log", self.line(), self.line())
        self.assertEqual(self.read(path).pages, 2)
        self.assertEqual(self.read(path).pages, 0)
        self.assertEqual(self.read(self.log("b.log", self.line(), self.line(), self.line())).pages, 1)

    def test_a_log_whose_paths_begin_with_that_of_the_blog_is_read_so(self) -> None:
        blog = replace(self.blog, home="https://host.example/bench/")
        path = self.log("a.log", self.line(f"/bench{self.path}"), self.line(self.path))
        self.assertEqual(read_counts.import_log(self.shop, blog, path).pages, 1)

    def test_what_is_no_log_is_refused_in_one_sentence(self) -> None:
        for path in (self.folder / "none.log", self.folder, self.log("bad.gz", "x")):
            if path.name == "bad.gz":
                path.write_bytes(b"\x1f\x8b broken")
            with self.subTest(path.name), self.assertRaisesRegex(BadInput, "cannot be read as a log"):
                self.read(path)


class WordTests(ShopCase):
    def test_what_a_request_says_is_read_roughly(self) -> None:
        self.assertEqual(
            [device_of(one) for one in (PHONE, DESK, "Mozilla (iPad; Mobile)", "")],
            ["phone", "computer", "tablet", "computer"],
        )
        self.assertEqual(
            [language_of(one) for one in ("pt-PT,en;q=0.8", "*", "", "EN")], ["pt", "", "", "en"]
        )
        own = frozenset({"bench.example"})
        self.assertEqual(source_of("", "from=a%20%20B&x=1", own), "from:a b")
        self.assertEqual(source_of("https://[bad", "", own), "")
        self.assertIsNone(source_of("https://bench.example/x", "", own))

    def test_small_numbers_are_blurred(self) -> None:
        self.assertEqual([blurred(one) for one in (0, 1, 3, 7, 8, 9, 10, 11)], [0, 0, 5, 5, 10, 10, 10, 11])


class EndTests(ReadCase):
    hit, count, log = LiveTests.hit, LiveTests.count, LogTests.log

    def ends(self) -> int:
        [row] = read_store.posts(self.shop.db, self.blog.id, "0000-01-01", "9999-12-31")
        return row.ends

    def test_who_got_to_the_end_is_counted_once_a_day_and_as_no_page(self) -> None:
        end = self.hit(END_PATH, query=str(self.lamp.id))
        found = self.count(
            self.hit(),
            end,
            end,
            self.hit(END_PATH, query="999"),
            self.hit(END_PATH, query=str(self.lamp.id), agent=ROBOT),
        )
        self.assertEqual((found["pages"], found["readers"], found["robots"], self.ends()), (1, 1, 0, 1))
        self.count(end, self.hit(END_PATH, query=str(self.lamp.id), agent=PHONE))
        self.assertEqual(self.ends(), 2)

    def test_servers_of_files_tell_of_ends_in_their_logs(self) -> None:
        line = '192.0.2.7 - - [18/Nov/2026:10:00:00 +0000] "GET {} HTTP/1.1" 200 43 "-" "{}"\n'
        path = self.log("log", line.format(self.path, DESK), line.format(f"{END_PATH}?{self.lamp.id}", DESK))
        for _ in range(2):
            read_counts.import_log(self.shop, self.blog, path)
        found = self.facts()
        self.assertEqual((found["pages"], found["readers"], self.ends()), (1, 1, 1))
