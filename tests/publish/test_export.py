from pathlib import Path
from types import SimpleNamespace
from unittest import mock

from mobbet.actions import building, comments, placing
from mobbet.core.audience import STRANGER
from mobbet.core.comments import ANYONE, NONE
from mobbet.core.errors import Broken
from mobbet.publish import export, parallel
from mobbet.store import blogs, editions
from tests.shops import DAY, NOW, ShopCase


class WritingOutTests(ShopCase):
    def files(self, out: Path) -> dict[str, bytes]:
        return {
            str(file.relative_to(out)): file.read_bytes() for file in sorted(out.rglob("*")) if file.is_file()
        }

    def test_only_what_everyone_may_read_is_written_out(self) -> None:
        for name in ("everyone", "signed-in", "group:Friends", "only-me"):
            self.write(f"For {name}".replace(":", " "), f"xyz{name}", date="2026-11-10", visibility=name)
        out = self.folder / "out"
        building.write_out(self.shop, out, "bench", NOW)
        text = b" ".join(self.files(out).values())
        self.assertEqual(
            [word in text for word in (b"xyzeveryone", b"xyzsigned-in", b"xyzgroup", b"xyzonly-me")],
            [True, False, False, False],
        )

    def test_a_copy_without_a_server_leads_to_no_form_for_comments(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", ANYONE, NONE)
        post, other = self.write("One", date="2026-11-10"), self.write("Two", date="2026-11-10")
        blog = blogs.by_id(self.shop.db, self.blog.id)
        typed = {"name": "Zed", "email": "", "text": "Quincunx"}
        comments.write(self.shop, blog, post.id, STRANGER, typed, "192.0.2.7")
        building.write_out(self.shop, self.folder / "out", "bench", self.clock())
        files = self.files(self.folder / "out")
        pages = [files[f"posts/{name}/index.html"] for name in ("one", "two")]
        self.assertEqual([b"~/comment" in body for body in pages], [False, False])
        self.assertEqual([b"Quincunx" in body for body in pages], [True, False])
        self.assertEqual([b'id="comments"' in body for body in pages], [True, False])
        self.assertTrue(all(body.rstrip().endswith(b"</html>") for body in pages))
        page = self.shop.pages.read(editions.page_of(self.shop.db, blog.id, f"post/{other.id}").hash)
        self.assertIn(b"~/comment", page)

    def test_several_processes_write_what_one_does_at_any_instant(self) -> None:
        for number in range(9):
            self.write(
                f"Post {number}",
                date=f"2026-11-2{number}",
                categories="Lamps",
                visibility="signed-in" if number == 4 else "everyone",
            )
        self.publish()
        for threads in (1, 9):  # a command takes a part itself, a server hands out all of them
            with self.subTest(threads):
                building.write_out(self.shop, self.folder / "one", "bench", NOW + 8 * DAY)
                with (
                    mock.patch.object(export, "MANY", 5),
                    mock.patch.object(
                        parallel, "threading", SimpleNamespace(active_count=lambda threads=threads: threads)
                    ),
                ):
                    building.write_out(self.shop, self.folder / f"by-{threads}", "bench", NOW + 8 * DAY)
                self.assertTrue(
                    self.files(self.folder / f"by-{threads}") == self.files(self.folder / "one"),
                    "the files differ",
                )
                self.assertTrue((self.folder / "one" / "lamps" / "post-5" / "index.html").exists())

    def test_facts_that_change_meanwhile_are_not_mixed(self) -> None:
        self.write("One", date="2026-11-01")

        def disturbed(*work: object) -> list[export.Written]:
            self.change_meanwhile()
            return [({"index.html"}, 1)]

        with mock.patch.object(export, "MANY", 1), mock.patch.object(export, "in_processes", disturbed):
            building.write_out(self.shop, self.folder / "out", "bench", NOW)
        self.assertIn(b"another line", (self.folder / "out" / "index.html").read_bytes())

    def test_a_folder_that_cannot_be_written_is_told(self) -> None:
        self.write("One", date="2026-11-01")
        with (
            mock.patch.object(Path, "write_bytes", side_effect=OSError(28, "No space left on device")),
            self.assertRaisesRegex(Broken, "No space left on device"),
        ):
            building.write_out(self.shop, self.folder / "out", "bench", NOW)

    def test_a_folder_gets_what_differs_and_loses_what_is_gone(self) -> None:
        post = self.write("One", date="2026-01-01", categories="Lamps")
        out = self.folder / "out"
        first = building.write_out(self.shop, out, "bench", NOW)
        self.assertTrue((out / "lamps" / "one" / "index.html").is_file())
        self.assertEqual((first.written, first.removed), (first.pages, 0))
        self.assertEqual(building.write_out(self.shop, out, "bench", NOW).written, 0)
        placing.withdraw(self.shop, self.me, post.id)
        self.assertGreater(building.write_out(self.shop, out, "bench", NOW).removed, 0)
        self.assertFalse((out / "lamps" / "one").exists())
        self.assertIn("/subjects/", (out / "lamps" / "index.html").read_text())

    def test_a_folder_of_somebody_else_is_left_alone(self) -> None:
        out = self.folder / "out"
        out.mkdir()
        (out / "letter.txt").write_text("keep me")
        with self.assertRaisesRegex(placing.Refused, "holds files that Mobbet did not write"):
            building.write_out(self.shop, out, "bench", NOW)
        with self.assertRaisesRegex(placing.Refused, "is a file; name a folder"):
            building.write_out(self.shop, out / "letter.txt", "bench", NOW)
