import io
import json
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from contextlib import redirect_stderr, redirect_stdout, suppress
from datetime import date, timedelta
from pathlib import Path
from unittest import mock

from mobbet import cli
from mobbet.actions import comments
from mobbet.cli.__main__ import main
from mobbet.cli.parser import COMMANDS, module_of
from mobbet.core.audience import STRANGER
from mobbet.store import blogs
from mobbet.wiring import open_folder
from tests.shops import picture, quick_hashes


class CommandCase(unittest.TestCase):
    """Commands as they are typed, in this process."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.data = str(self.folder / "data")
        quick_hashes.start()
        self.addCleanup(quick_hashes.stop)

    def run_it(self, *words: str, source: str = "") -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        stdin = io.TextIOWrapper(io.BytesIO(source.encode()))
        with redirect_stdout(out), redirect_stderr(err), mock.patch("sys.stdin", stdin):
            try:
                status = main(list(words))
            except SystemExit as stop:
                status = stop.code
        return status, out.getvalue(), err.getvalue()

    def report(self, *words: str, source: str = "") -> dict:
        status, out, err = self.run_it(*words, source=source)
        self.assertEqual(status, 0, err)
        self.assertEqual(len(out.strip().splitlines()), 1)
        return json.loads(out)

    def init(self) -> None:
        secret = self.folder / "secret"
        secret.write_text("a long password\n")
        self.report(
            "init",
            "--data",
            self.data,
            "--json",
            "--blog",
            "The Bench",
            "--address",
            "bench",
            "--zone",
            "Europe/Lisbon",
            "--email",
            "i@b.example",
            "--password-file",
            str(secret),
        )

    def new(self, front: str, body: str = "Words.") -> dict:
        return self.report(
            "post", "--data", self.data, "--json", "new", "-", source=f"---\n{front}\n---\n{body}\n"
        )


class CommandTests(CommandCase):
    def test_an_operator_sets_up_people_and_blogs(self) -> None:
        self.init()
        secret = self.folder / "tomas"
        secret.write_text("a kettle of rust\n")
        data = ("--data", self.data)
        made = self.report(
            "person",
            *data,
            "--json",
            "add",
            "tomas@b.example",
            "--name",
            "Tomas Wilde",
            "--blog",
            "bench",
            "--role",
            "editor",
            "--password-file",
            str(secret),
        )
        self.assertEqual(
            (made["name"], made["blogs"], made["has_password"]),
            ("Tomas Wilde", [{"blog": "bench", "role": "editor"}], True),
        )
        self.assertFalse(
            self.report(
                "person",
                *data,
                "--json",
                "add",
                "petra@b.example",
                "--name",
                "Petra",
                "--blog",
                "bench",
                "--role",
                "writer",
            )["has_password"]
        )
        self.assertEqual(
            self.report("person", *data, "--json", "role", "petra@b.example", "editor", "--blog", "bench")[
                "blogs"
            ][0]["role"],
            "editor",
        )
        self.assertEqual(
            self.report("person", *data, "--json", "role", "petra@b.example", "none", "--blog", "bench")[
                "blogs"
            ],
            [],
        )
        self.assertTrue(self.report("person", *data, "--json", "suspend", "tomas@b.example")["suspended"])
        self.assertIsNone(
            self.report("person", *data, "--json", "suspend", "tomas@b.example", "--lift")["suspended"]
        )
        self.assertTrue(
            self.report(
                "person", *data, "--json", "password", "tomas@b.example", "--password-file", str(secret)
            )["has_password"]
        )
        blog = self.report(
            "blog",
            *data,
            "--json",
            "add",
            "Ferry Log",
            "--address",
            "ferry-log",
            "--owner",
            "tomas@b.example",
        )
        self.assertEqual(
            (blog["blog"], blog["zone"], blog["owners"]), ("ferry-log", "Europe/Lisbon", ["tomas@b.example"])
        )
        self.assertEqual(
            [row["blog"] for row in self.report("blog", *data, "--json", "list")["blogs"]],
            ["bench", "ferry-log"],
        )
        self.assertEqual(len(self.report("person", *data, "--json", "list")["people"]), 2)
        self.assertIn(
            "tomas@b.example  Tomas Wilde  editor of bench, owner of ferry-log",
            self.run_it("person", *data, "list")[1],
        )

    def test_what_an_operator_cannot_do_is_said_in_one_line(self) -> None:
        self.init()
        secret = self.folder / "short"
        secret.write_text("short\n")
        for words, message in (
            (("person", "--data", self.data, "role", "i@b.example", "writer", "--blog", "bench"), "is the only owner"), (("person", "--data", self.data, "suspend", "nobody@b.example"), "There is nobody with the address"),
            (("person", "--data", self.data, "password", "i@b.example", "--password-file", str(secret)), "use at least 15"), (("person", "--data", self.data, "add", "a@b.example", "--name", "A", "--blog", "none", "--role", "writer"), "There is no blog “none”"),
            (("blog", "--data", self.data, "add", "B", "--address", "bench", "--owner", "i@b.example"), "belongs to another blog"), (("target", "--data", self.data, "add", "folder:/srv/x"), "MOBBET_FOLDERS"),
        ):  # fmt: skip
            with self.subTest(words):
                status, out, err = self.run_it(*words)
                self.assertEqual((status, out, err.count("\n")), (1, "", 1))
                self.assertIn(message, err)

    def test_files_come_into_the_library_are_found_and_set_aside(self) -> None:
        self.init()
        good, bad = self.folder / "lamp.png", self.folder / "page.jpg"
        good.write_bytes(picture(900, 600))
        bad.write_bytes(b"<html>")
        told = self.report(
            "library",
            "--data",
            self.data,
            "--json",
            "add",
            str(good),
            str(bad),
            str(self.folder / "nothing.png"),
        )
        item = told["items"][0]
        self.assertEqual(
            (item["id"], item["kind"], item["width"], item["height"], item["state"]),
            (1, "picture", 900, 600, "ready"),
        )
        self.assertTrue(
            all((Path(self.data) / copy["path"]).stat().st_size == copy["bytes"] for copy in item["copies"])
        )
        self.assertEqual([Path(one["file"]).name for one in told["refused"]], ["page.jpg", "nothing.png"])
        self.assertEqual(
            [
                one["name"]
                for one in self.report("library", "--data", self.data, "--json", "list", "lamp")["items"]
            ],
            ["lamp.png"],
        )
        self.assertEqual(self.report("library", "--data", self.data, "--json", "show", "1")["posts"], [])
        self.assertEqual(
            self.report("library", "--data", self.data, "--json", "remove", "1")["state"], "set-aside"
        )
        self.assertEqual(self.report("library", "--data", self.data, "--json", "list")["items"], [])
        self.assertEqual(self.run_it("library", "--data", self.data, "add", str(bad))[0], 1)

    def test_a_text_is_read_with_and_without_a_blog(self) -> None:
        marks = self.report("proof", "--json", "-", source="We recieve the the lamps.")["marks"]
        found = {mark["check"]: mark for mark in marks}
        self.assertEqual(
            (found["spelling"]["text"], found["spelling"]["gravity"], found["spelling"]["mends"][0]["text"]),
            ("recieve", "should", "receive"),
        )
        self.assertEqual(set(found) - {"title", "picture-missing"}, {"spelling", "doubled-words"})
        self.init()
        self.new("title: A lamp\ndate: 2020-01-01", "We recieve lamps.")
        source = "---\ntitle: A lamp\ndate: 2026-12-01\nexpires: 2026-11-01\n---\nWords."
        self.assertLessEqual(
            {"title", "time", "category", "description"},
            {
                mark["check"]
                for mark in self.report("proof", "--data", self.data, "--json", "-", source=source)["marks"]
            },
        )
        self.assertIn(
            "spelling",
            {
                mark["check"]
                for mark in self.report("proof", "--data", self.data, "--json", "--post", "1")["marks"]
            },
        )
        self.assertEqual(self.run_it("proof")[0], 1)

    def test_a_blog_is_exported_and_imported_again(self) -> None:
        self.init()
        self.new("title: A lamp of brass\ndate: 2026-11-01T09:00\ntags: fuse")
        out = str(self.folder / "out.zip")
        done = self.report("export", "--data", self.data, "--json", "--out", out, "--what", "revisions")
        self.assertEqual((done["rows"]["posts"], done["blog"]), (1, "bench"))
        self.assertIn(
            "is nothing that an export has",
            self.run_it("export", "--data", self.data, "--out", out, "--what", "all")[2],
        )
        words = ("import", "--data", str(self.folder / "new"), "--json", "--from", "folder", out)
        found = self.report(*words, "--dry-run")
        self.assertEqual((found["rows"]["post"], found["known_people"]), (1, []))
        self.assertEqual(self.report(*words)["blog"], "bench")
        self.assertIn("has posts already", self.run_it(*words)[2])
        again = self.report(*words, "--blog", "bench")
        self.assertEqual((again["new"], again["posts"][0]["title"]), (1, "A lamp of brass"))
        self.assertEqual(self.report(*words, "--blog", "bench")["there"], 1)

    def test_posts_are_found_and_the_timetable_told(self) -> None:
        self.init()
        day = (date.today() - timedelta(days=30)).isoformat()
        self.new(f"title: A lamp of brass\ndate: {day}T09:00\ntags: fuse")
        found = self.report("search", "--data", self.data, "--json", "tag:fuse bras")
        self.assertEqual(
            (found["posts"], found["total"]), ([{"id": 1, "title": "A lamp of brass", "state": "out"}], 1)
        )
        self.assertEqual(self.run_it("search", "--data", self.data, "--limit", "0", "x")[0], 1)
        told = self.report("timetable", "--data", self.data, "--json")
        self.assertEqual(
            [(one["what"], one["wall"], one["post"]) for one in told["events"]],
            [("goes out", f"{day}T09:00", 1)],
        )
        out = io.TextIOWrapper(io.BytesIO())
        with mock.patch("sys.stdout", out):
            self.assertEqual(main(["timetable", "--data", self.data, "--ics"]), 0)
        self.assertTrue(out.buffer.getvalue().startswith(b"BEGIN:VCALENDAR\r\n"))

    def test_comments_are_listed_and_settled(self) -> None:
        self.init()
        self.new("title: A lamp\ndate: 2020-01-01\ncomments: open")
        self.assertEqual(
            self.report("comment", "--data", self.data, "--json", "rule", "anyone", "--waiting", "strangers"),
            {"who": "anyone", "waiting": "strangers"},
        )
        shop = open_folder(Path(self.data))
        self.addCleanup(shop.db.close)
        comments.write(
            shop,
            blogs.every(shop.db)[0],
            1,
            STRANGER,
            {"name": "Mira", "email": "", "text": "Good light."},
            "",
        )
        self.assertEqual(
            self.report("comment", "--data", self.data, "--json", "list")["comments"][0]["text"],
            "Good light.",
        )
        self.assertEqual(
            self.report("comment", "--data", self.data, "--json", "show", "1"),
            {"settled": 1, "state": "shown"},
        )
        self.assertEqual(
            self.report("comment", "--data", self.data, "--json", "list", "--state", "shown")["counts"],
            {"shown": 1},
        )
        self.assertEqual(self.report("comment", "--data", self.data, "--json", "remove", "1"), {"removed": 1})
        for refused in (("show", "7"), ("list", "--state", "eaten")):
            self.assertEqual(self.run_it("comment", "--data", self.data, *refused)[0], 1)

    def test_a_post_goes_from_file_to_site_and_off_it(self) -> None:
        self.init()
        made = self.new("title: A lamp\ndate: 2020-01-01\ncategories: [Lamps > Wiring]")
        self.assertEqual(
            (made["id"], made["path"], made["state"], made["edition"]), (1, "/wiring/a-lamp/", "out", 2)
        )
        self.assertGreater(made["written"], 5)
        self.assertGreater(made["seconds"], 0)
        update = self.folder / "update.md"
        update.write_text("---\ntitle: A better lamp\n---\nOther words.")
        changed = self.report("post", "--data", self.data, "--json", "update", "1", str(update))
        self.assertEqual((changed["state"], changed["edition"]), ("out", 3))
        shown = self.report("post", "--data", self.data, "--json", "show", "1")
        self.assertEqual(
            (shown["title"], shown["goes_out"], shown["comes_down"]),
            ("A better lamp", "2020-01-01T00:00:00Z", None),
        )
        self.assertEqual(
            self.report("post", "--data", self.data, "--json", "withdraw", "1")["state"], "withdrawn"
        )
        self.assertEqual(self.report("check", "--data", self.data, "--json"), {"sound": True, "problems": []})

    def test_a_draft_is_placed_later_and_listed(self) -> None:
        self.init()
        self.assertEqual(self.new("title: A draft")["state"], "draft")
        placed = self.report("post", "--data", self.data, "--json", "place", "1", "--at", "2199-07-01T09:00")
        self.assertEqual(placed["state"], "in-timetable")
        rows = self.report("post", "--data", self.data, "--json", "list")["posts"]
        self.assertEqual(
            rows,
            [
                {
                    "id": 1,
                    "kind": "post",
                    "title": "A draft",
                    "path": "/posts/a-draft/",
                    "state": "in-timetable",
                    "goes_out": "2199-07-01T08:00:00Z",
                    "comes_down": None,
                }
            ],
        )
        self.assertIn("A draft", self.run_it("post", "--data", self.data, "list")[1])
        self.assertIn("# A draft", self.run_it("post", "--data", self.data, "show", "1")[1])

    def test_a_build_tells_what_it_wrote(self) -> None:
        self.init()
        self.new("title: A lamp\ndate: 2020-01-01")
        self.new("title: Coming\ndate: 2199-01-01")
        built = self.report("build", "--data", self.data, "--json")
        self.assertEqual((built["written"], built["removed"]), (0, 0))
        out = self.folder / "out"
        files = self.report("build", "--data", self.data, "--json", "--out", str(out))
        self.assertEqual(files["written"], files["pages"])
        self.assertTrue((out / "posts/a-lamp/index.html").is_file())
        self.report("build", "--data", self.data, "--json", "--out", str(out), "--at", "2199-02-01")
        self.assertTrue((out / "posts/coming/index.html").is_file())
        self.assertEqual(
            self.report("build", "--data", self.data, "--json", "--full")["edition"], built["edition"]
        )

    def test_texts_are_turned_from_one_format_into_another(self) -> None:
        for words, source, wanted in (
            (("markdown", "html"), "*a*", "<p><em>a</em></p>\n"), (("html", "markdown"), "<p><b>a</b></p>", "**a**\n"),
            (("text", "document"), "a", '{"type": "doc", "content": [{"type": "paragraph", "attrs": {"align": "start"}, "content": [{"type": "text", "text": "a"}]}]}\n'),
            (("document", "text"), '{"type":"doc","content":[{"type":"divider"}]}', "* * *\n"),
        ):  # fmt: skip
            with self.subTest(words):
                self.assertEqual(
                    self.run_it("convert", "--from", words[0], "--to", words[1], source=source)[1], wanted
                )

    def test_files_are_brought_in_and_looked_back_at(self) -> None:
        self.init()
        good, bad = self.folder / "lamp.md", self.folder / "x.docx"
        good.write_text("# A lamp\n\nSome words.")
        bad.write_bytes(b"no")
        facts = self.report(
            "bring-in", "--data", self.data, "--json", str(good), str(bad), str(self.folder / "none.txt")
        )
        self.assertEqual([(post["title"], post["words"]) for post in facts["posts"]], [("A lamp", 2)])
        self.assertEqual([Path(one["file"]).name for one in facts["refused"]], ["x.docx", "none.txt"])
        number = str(facts["posts"][0]["id"])
        past = ("revisions", "--data", self.data)
        first = self.report(*past, "--json", number)["revisions"][0]["revision"]
        self.report(*past, "--json", "name", number, str(first), "as", "it", "came")
        self.report(
            "post",
            "--data",
            self.data,
            "--json",
            "update",
            number,
            str(self.changed("# A lamp\n\nSome other words.")),
        )
        second = self.report(*past, "--json", number)["revisions"][0]["revision"]
        self.assertIn(
            "~ Some{+ other+} words.", self.run_it(*past, "compare", number, str(first), str(second))[1]
        )
        restored = self.report(*past, "--json", "restore", number, str(first))
        self.assertEqual(restored["restored"], first)
        self.assertEqual(
            self.report(*past, "--json", number)["revisions"][0]["revision"], restored["revision"]
        )
        for words in (("bogus",), ("compare", number), ("restore", number, "x"), ("99",)):
            with self.subTest(words):
                status, out, err = self.run_it(*past, *words)
                self.assertEqual((status, out, len(err.strip().splitlines())), (1, "", 1))

    def changed(self, text: str) -> Path:
        file = self.folder / "changed.md"
        file.write_text(text)
        return file

    def test_what_is_refused_says_why_in_one_line(self) -> None:
        self.init()
        self.new("title: A lamp\ndate: 2020-01-01")
        post = ("post", "--data", self.data)
        for words, message in (
            (("check", "--data", str(self.folder / "none")), "There is no data in"),
            (("post", "--data", self.data, "--blog", "other", "list"), "There is no blog “other”; there are: bench"),
            ((*post, "show", "99"), "no post with the number 99"),
            ((*post, "new", str(self.folder / "none.md")), "No such file"),
            ((*post, "place", "1", "--at", "soon"), "“soon” is no time that Mobbet understands"),
            ((*post, "place", "1", "--at", "2199-01-01"), "is out already"),
            (("build", "--data", self.data, "--at", "2020-01-01"), "--at goes with --out"),
            (("build", "--data", self.data, "--out", self.data + "/pages"), "lies in the data folder"),
            (("fill", "--data", self.data, "--posts", "0"), "0 is no number of posts"),
            (("convert", "--from", "docx", "--to", "text"), "is not a .docx file"),
        ):  # fmt: skip
            with self.subTest(message):
                status, out, err = self.run_it(*words)
                self.assertEqual((status, out, len(err.strip().splitlines())), (1, "", 1))
                self.assertIn(message, err)

    def test_unknown_words_are_a_usage_error(self) -> None:
        for words in (
            (),
            ("dance",),
            ("post", "--data", self.data),
            ("convert", "--from", "pdf", "--to", "html"),
        ):
            self.assertEqual(self.run_it(*words)[0], 2)

    def test_a_setting_that_means_nothing_is_told_and_left_out(self) -> None:
        self.init()
        status, _, err = self.run_it(
            "post", "--data", self.data, "new", "-", source="---\ntitle: X\nmood: blue\n---\nText"
        )
        self.assertEqual(status, 0)
        self.assertIn("“mood” is not a setting", err)

    def test_a_look_is_shown_tried_checked_given_and_put_back(self) -> None:
        self.init()

        def look(*words: str) -> dict:
            return self.report("look", "--data", self.data, *words, "--json")

        self.assertEqual(look("show")["light"]["paper"], "#fbf9f4")
        self.assertTrue(look("try", "ledger")["tried"])
        self.assertEqual((look("show")["name"], look("show", "--given")["name"]), ("Ledger", "Bench"))
        pairs = look("check")["pairs"]
        self.assertTrue(all(pair["holds"] and pair["ratio"] >= pair["needed"] for pair in pairs))
        self.assertEqual(
            sorted(pairs[0]), ["background", "foreground", "holds", "nearest", "needed", "ratio", "where"]
        )
        self.assertGreater(look("give")["written"], 0)
        self.assertEqual([one["name"] for one in look("list")["looks"]], ["Ledger"])
        look("put-back")
        self.assertEqual(look("show")["name"], "Bench")
        self.assertEqual(self.run_it("look", "--data", self.data, "give")[0], 1)
        self.assertIn("cannot be read", self.run_it("look", "--data", self.data, "try", "no-such-file")[2])

    def test_a_blog_begins_from_another(self) -> None:
        self.init()
        words = ("add", "The Log", "--address", "log", "--with", "look,rules")
        first = json.loads(self.run_it("blog", "--data", self.data, "list", "--json")[1])["blogs"][0]["blog"]
        status, out, _ = self.run_it("blog", "--data", self.data, *words, "--from", first, "--json")
        self.assertEqual((status, json.loads(out)["blog"]), (0, "log"))
        self.assertEqual(self.run_it("blog", "--data", self.data, *words, "--from", "nobodys")[0], 1)

    def test_the_server_stops_cleanly(self) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = str(probe.getsockname()[1])
        with subprocess.Popen(
            [sys.executable, "-m", "mobbet", "serve", "--data", self.data, "--port", port],
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
        ) as server:
            end = time.monotonic() + 40
            while time.monotonic() < end:
                with suppress(OSError), urllib.request.urlopen(f"http://127.0.0.1:{port}/begin"):
                    break
                time.sleep(0.1)
            server.send_signal(signal.SIGINT)
            self.assertEqual((server.wait(timeout=60), server.stderr.read()), (0, b""))

    def test_the_module_runs_as_the_command_does(self) -> None:
        run = subprocess.run(
            [sys.executable, "-m", "mobbet", "convert", "--from", "text", "--to", "html"],
            input=b"caf\xe9", capture_output=True, env={**os.environ, "PYTHONIOENCODING": "utf-8"}, check=False,
        )  # fmt: skip
        self.assertEqual((run.returncode, run.stdout.decode()), (0, "<p>café</p>\n"))


class StartTests(unittest.TestCase):
    """What a process loads before it does anything."""

    def loaded(self, *words: str) -> set[str]:
        """The modules that a command has imported when it ends."""
        run = f"import sys\nfrom mobbet.cli.__main__ import main\ntry:\n    main({list(words)!r})\nexcept SystemExit:\n    pass\nprint(*sys.modules, file=sys.stderr)"
        done = subprocess.run([sys.executable, "-c", run], capture_output=True, text=True, check=True)
        return set(done.stderr.splitlines()[-1].split())

    def test_help_and_usage_errors_load_next_to_nothing(self) -> None:
        for words in (["--help"], ["post", "place", "x"], ["post", "--help"], ["nonsense"]):
            with self.subTest(words):
                loaded = self.loaded(*words)
                self.assertLess(len(loaded), 130)
                self.assertLessEqual(
                    {name for name in loaded if name.startswith("mobbet.")},
                    {
                        "mobbet.cli",
                        "mobbet.cli.__main__",
                        "mobbet.cli.parser",
                        "mobbet.cli.post",
                        "mobbet.core.numbers",
                        "mobbet.cli.options",
                        "mobbet.cli.shared",
                        "mobbet.core",
                        "mobbet.core.errors",
                        "mobbet.core.values",
                    },
                )

    def test_commands_that_read_load_no_server_no_templates_and_no_pictures(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            open_folder(Path(folder)).db.close()
            for words in (
                ["post", "--data", folder, "list"],
                ["search", "--data", folder, "lamp"],
                ["address", "--data", folder, "resolve", "/"],
            ):
                with self.subTest(words):
                    self.assertEqual(
                        self.loaded(*words)
                        & {
                            "fastapi",
                            "jinja2",
                            "PIL",
                            "httpx",
                            "av",
                            "lxml",
                            "pygments",
                            "argon2",
                            "pydantic",
                        },
                        set(),
                    )

    def test_every_command_has_a_module_and_every_module_a_command(self) -> None:
        modules = {path.stem for path in (Path(cli.__file__).parent).glob("*.py")} - {
            "__init__",
            "__main__",
            "parser",
            "options",
            "shared",
        }
        self.assertEqual(modules, {module_of(name) for name in COMMANDS})
