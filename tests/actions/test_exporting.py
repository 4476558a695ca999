from __future__ import annotations

import io
import json
import shutil
import subprocess
import sys
import zipfile
from pathlib import Path

from mobbet.actions import blog_imports, consistency, exporting
from mobbet.actions.export_sinks import FolderSink, ZipSink
from mobbet.actions.export_sources import open_tree
from mobbet.core.errors import BadInput, Refused
from mobbet.services.stand_ins.bounded import AtOnce
from mobbet.store import blogs
from mobbet.wiring import open_folder
from tests.random_blog import RandomBlog
from tests.shops import ShopCase, picture

EVERYTHING = exporting.read_choices("everything")


def files_of(folder: Path) -> dict[str, bytes]:
    return {
        file.relative_to(folder).as_posix(): file.read_bytes()
        for file in sorted(folder.rglob("*"))
        if file.is_file()
    }


class ExportCase(ShopCase):
    def export(self, shop=None, blog=None, name: str = "out", choices=EVERYTHING) -> Path:
        exporting.export(shop or self.shop, None, blog or self.blog, FolderSink(self.folder / name), choices)
        return self.folder / name

    def elsewhere(self, name: str = "new"):
        shop = open_folder(self.folder / name, self.clock)
        shop.services.heavy = AtOnce()
        self.addCleanup(shop.db.close)
        return shop

    def add_picture(self, colour: str = "#b3461e"):
        from mobbet.actions import library

        return library.add_stream(
            self.shop, self.me, self.blog, f"lamp {colour}.png", io.BytesIO(picture(color=colour))
        )


class RoundTripTests(ExportCase):
    def test_a_blog_with_every_kind_of_fact_comes_back_byte_for_byte(self) -> None:
        for seed in range(6):
            with self.subTest(seed=seed):
                self.tearDown_between(seed)
                self.add_picture(), self.add_picture("#112233")
                RandomBlog(self.shop.db, self.blog.id, seed).make()
                first = self.export(name=f"out-{seed}")
                shop = self.elsewhere(f"new-{seed}")
                blog, _ = blog_imports.bring(shop, None, open_tree(first))
                second = self.export(shop, blog, f"again-{seed}")
                self.assertEqual(files_of(first), files_of(second))
                self.assertEqual([one for one in consistency.problems(shop) if "lists" not in one], [])

    def tearDown_between(self, seed: int) -> None:
        if seed:
            self.doCleanups()
            self.setUp()

    def test_the_site_that_readers_get_is_the_same(self) -> None:
        self.write(
            "Lamps, mended",
            "![A lamp](media:1)\n\nSee [the other](post:2).",
            date="2026-11-01",
            categories="[Lamps]",
            tags="[flex]",
        )
        self.write("Second", "Words.", date="2026-11-02", excerpt="Short")
        self.add_picture()
        before = self.site()
        shop = self.elsewhere()
        blog, _ = blog_imports.bring(shop, None, open_tree(self.export()))
        self.shop, self.blog = shop, blog
        self.assertEqual(before.keys(), self.site().keys())
        self.assertEqual(
            before["/posts/second/"].replace(b"-2", b""), self.site()["/posts/second/"].replace(b"-2", b"")
        )

    def test_numbers_of_another_blog_on_the_way_do_no_harm(self) -> None:
        self.add_picture()
        self.write("Lamps", "![A lamp](media:1)\n\n[Itself](post:1)", date="2026-11-01", categories="[Lamps]")
        first = self.export()
        blog, _ = blog_imports.bring(self.shop, None, open_tree(first), "second")
        body = self.shop.db.value(
            "SELECT body FROM revision JOIN post ON post.id = post_id WHERE blog_id = ?", blog.id
        )
        self.assertIn("media:2", body)
        self.assertIn("post:2", body)
        with_own_address = {
            name: data.replace(b'"second"', b'"bench"')
            for name, data in files_of(self.export(blog=blog, name="again")).items()
        }
        self.assertEqual(files_of(first), with_own_address)

    def test_a_zip_has_the_files_of_the_folder_and_the_same_bytes_each_time(self) -> None:
        self.write("Lamps", date="2026-11-01")
        zips = [io.BytesIO(), io.BytesIO()]
        for stream in zips:
            exporting.export(self.shop, None, self.blog, ZipSink(stream), EVERYTHING)
        self.assertEqual(zips[0].getvalue(), zips[1].getvalue())
        with zipfile.ZipFile(zips[0]) as file:
            self.assertEqual({name: file.read(name) for name in file.namelist()}, files_of(self.export()))
        (self.folder / "blog.zip").write_bytes(zips[0].getvalue())
        blog, _ = blog_imports.bring(self.elsewhere(), None, open_tree(self.folder / "blog.zip"))
        self.assertEqual(blog.slug, "bench")

    def test_a_folder_is_brought_up_to_date_and_what_is_not_ours_stays(self) -> None:
        post = self.write("Lamps")
        self.write("Clocks")
        folder = self.export()
        (folder / ".git").mkdir()
        (folder / ".git" / "HEAD").write_text("ref")
        with self.shop.db.transaction():
            self.shop.db.run("DELETE FROM post WHERE id = ?", post.id)
        self.export()
        self.assertEqual([file.name for file in (folder / "posts").iterdir()], ["0001-clocks.md"])
        self.assertEqual((folder / ".git" / "HEAD").read_text(), "ref")

    def test_an_export_never_writes_into_a_folder_of_something_else(self) -> None:
        (self.folder / "out").mkdir()
        (self.folder / "out" / "thesis.txt").write_text("mine")
        with self.assertRaisesRegex(BadInput, "holds other files"):
            self.export()

    def test_people_come_without_secrets_and_by_choice_without_subscribers(self) -> None:
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE person SET password_hash = 'HASH', code_secret = 'CODE'")
        RandomBlog(self.shop.db, self.blog.id, 1).make()
        files = files_of(self.export(choices=frozenset()))
        self.assertNotIn("subscriber.jsonl", files)
        self.assertFalse(
            [
                name
                for name, data in files.items()
                if b"HASH" in data or b"CODE" in data or b"secret 0" in data
            ]
        )

    def test_what_is_on_its_way_is_sent_by_nobody_who_imports_the_blog(self) -> None:
        RandomBlog(self.shop.db, self.blog.id, 2).make()
        with self.shop.db.transaction():
            for table in ("delivery", "announcement", "mention_out"):
                self.shop.db.run(f"UPDATE {table} SET state = 'waiting'")
        out = self.export()
        for name in ("delivery", "announcement", "mention-out"):
            with self.subTest(name=name):
                self.assertNotIn('"state": "waiting"', (out / f"{name}.jsonl").read_text())

    def test_the_record_says_who_exported(self) -> None:
        exporting.export(self.shop, self.me, self.blog, FolderSink(self.folder / "out"), EVERYTHING)
        row = self.shop.db.one("SELECT actor, detail FROM record WHERE kind = 'exported'")
        self.assertEqual(tuple(row), ("Ines Farrow", "reads, revisions, subscribers"))


class ImportTests(ExportCase):
    def setUp(self) -> None:
        super().setUp()
        self.add_picture()
        self.write("Lamps", "![A lamp](media:1)", date="2026-11-01", categories="[Lamps]", tags="[flex]")
        self.out = self.export()

    def refused(self, message: str) -> None:
        shop = self.elsewhere()
        with self.assertRaisesRegex((BadInput, Refused), message):
            blog_imports.bring(shop, None, open_tree(self.out))
        self.assertEqual(blogs.every(shop.db), [])

    def edit(self, path: str, old: str, new: str) -> None:
        file = self.out / path
        text = file.read_text()
        self.assertIn(old, text)
        file.write_text(text.replace(old, new))

    def test_a_dry_run_tells_and_writes_nothing(self) -> None:
        shop = self.elsewhere()
        found = blog_imports.look_at(shop, open_tree(self.out))
        self.assertEqual(
            (found.rows["post"], found.rows["media"], found.new_people),
            (1, 1, ["Ines Farrow (ines@bench.example)"]),
        )
        self.assertEqual(blogs.every(shop.db), [])

    def test_a_blog_with_posts_is_never_replaced(self) -> None:
        with self.assertRaisesRegex(Refused, "has posts already"):
            blog_imports.bring(self.shop, None, open_tree(self.out))

    def test_an_empty_blog_gets_the_facts(self) -> None:
        shop = self.elsewhere()
        from mobbet.actions import blogs as blog_actions

        with self.subTest("begun"):
            blog_actions.set_up(
                shop, name="Somebody", email="some@body.example", password="a long password", blog="Begun", address="bench", zone="UTC", home="https://x.example/"
            )  # fmt: skip
        blog, _ = blog_imports.bring(shop, None, open_tree(self.out))
        self.assertEqual((blog.name, blog.zone), ("The Bench", "Europe/Lisbon"))
        self.assertEqual(files_of(self.export(shop, blog, "again")), files_of(self.out))

    def test_an_account_that_is_there_stays_as_it_is(self) -> None:
        self.edit("person.jsonl", '"Ines Farrow"', '"Somebody else"')
        _, found = blog_imports.bring(self.shop, None, open_tree(self.out), "second")
        self.assertEqual(self.shop.db.column("SELECT name FROM person"), ["Ines Farrow"])
        self.assertEqual(found.known_people, ["Somebody else (ines@bench.example)"])

    def test_whoever_imports_works_on_the_blog(self) -> None:
        from mobbet.actions import people

        other = people.add_person(self.shop, name="Other", email="other@bench.example", password=None)
        blog, _ = blog_imports.bring(self.shop, other, open_tree(self.out), "second")
        self.assertEqual(blogs.role(self.shop.db, blog.id, other.id), "owner")

    def test_an_export_that_was_broken_off_is_refused(self) -> None:
        (self.out / "blog.json").unlink()
        self.refused("broken off")

    def test_another_version_is_refused(self) -> None:
        self.edit("blog.json", '"version": 1', '"version": 2')
        self.refused("version 2")

    def test_what_cannot_be_is_told_with_its_place(self) -> None:
        cases = (
            ("category.jsonl", '"position": 1', '"position": "x"', "line 1 of category.jsonl: position: \"x\" is not a whole number"),
            ("tag.jsonl", '"name"', '"noun"', "line 1 of tag.jsonl: There is no field “noun”"),
            ("placement.jsonl", '"post": 1', '"post": 7', "the export has no post “7”"),
            ("posts/0001-lamps.md", '["flex"]', '["flax"]', "the export has no tag “flax”"),
            ("posts/0001-lamps.md", "number: 1", "number: &a [*a, *a]", "YAML aliases"),
            ("blog.json", "https://bench.example/", "javascript:alert(1)", "is no address of a site"),
            ("placement.jsonl", '"revision": 2', '"revision": 99', "contradict each other"),
            ("membership.jsonl", '"owner"', '"emperor"', "contradict each other"),
            ("media.jsonl", "media/0001", "../0001", "there is no file"),
            ("person.jsonl", '"ines@bench.example"', '"nobody"', "nobody"),
            ("category.jsonl", '"slug": "lamps"', '"slug": "../../lamps"', "is not the end of an address"),
            ("placement.jsonl", '"/lamps/lamps/"', '"/../../etc/cron.d/x"', "is not an address below"),
            ("placement.jsonl", '"Europe/Lisbon"', '"Mars/Olympus"', "Mars/Olympus"),
        )  # fmt: skip
        for path, old, new, message in cases:
            with self.subTest(path=path, new=new):
                shutil.rmtree(self.out)
                self.export()
                self.edit(path, old, new)
                self.refused(message)

    def test_nothing_outside_the_folder_is_read(self) -> None:
        secret = self.folder / "secret.png"
        secret.write_bytes(picture(color="#00ff00"))
        file = next((self.out / "media").iterdir())
        file.unlink()
        file.symlink_to(secret)
        self.refused("leads out of the folder")

    def test_a_zip_bomb_and_a_path_out_of_the_zip_are_refused(self) -> None:
        bomb, out = self.folder / "bomb.zip", self.folder / "out.zip"
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as file:
            file.writestr("blog.json", b" " * 30_000_000)
        with zipfile.ZipFile(out, "w") as file:
            file.writestr("../blog.json", b"{}")
        for path, message in ((bomb, "packed in"), (out, "outside its folder")):
            with self.subTest(path=path.name), self.assertRaisesRegex(BadInput, message):
                blog_imports.bring(self.elsewhere(), None, open_tree(path))

    def test_a_file_in_disguise_is_refused(self) -> None:
        next((self.out / "media").iterdir()).write_bytes(b"<script>alert(1)</script>")
        self.refused("lamp")

    def test_facts_that_somebody_wrote_by_hand_are_read(self) -> None:
        self.edit("posts/0001-lamps.md", 'tags: ["flex"]', "tags:\n  - flex\nexcerpt: Short words")
        blog, _ = blog_imports.bring(self.elsewhere(), None, open_tree(self.out))
        self.assertEqual(blog.slug, "bench")


class KilledTests(ExportCase):
    CODE = (
        "import sys; from pathlib import Path; from mobbet import wiring; from mobbet.actions import exporting, blog_imports\n"
        "from mobbet.actions.export_sinks import FolderSink; from mobbet.actions.export_sources import open_tree\n"
        "import threading, os, time\n"
        "threading.Thread(target=lambda: (time.sleep(float(sys.argv[3])), os._exit(9)), daemon=True).start()\n"
    )
    EXPORT = (
        CODE
        + "w = wiring.open_folder(Path(sys.argv[1])); exporting.export(w, None, exporting.chosen(w), FolderSink(Path(sys.argv[2])), frozenset())"
    )
    IMPORT = (
        CODE
        + "w = wiring.open_folder(Path(sys.argv[1])); blog_imports.bring(w, None, open_tree(Path(sys.argv[2])))"
    )

    def run_killed(self, code: str, *paths: Path, seconds: float) -> None:
        code = code.replace(
            "exporting.chosen(w)", "__import__('mobbet.store.blogs', fromlist=['x']).every(w.db)[0]"
        )
        subprocess.run(
            [sys.executable, "-c", code, *map(str, paths), str(seconds)], check=False, capture_output=True
        )

    def test_killed_at_any_moment_both_end_well_when_run_again(self) -> None:
        for number in range(8):
            self.write(f"Post {number}", "Words. " * 200, date=f"2026-11-0{number + 1}")
        whole = files_of(self.export(choices=frozenset()))
        for seconds in (0.3, 0.5, 0.7, 0.9, 1.2):
            out, new = self.folder / f"killed-{seconds}", self.folder / f"data-{seconds}"
            self.run_killed(self.EXPORT, self.folder / "data", out, seconds=seconds)
            exporting.export(self.shop, None, self.blog, FolderSink(out), frozenset())
            self.assertEqual(files_of(out), whole)
            self.run_killed(self.IMPORT, new, out, seconds=seconds)
            shop = self.elsewhere(new.name)
            known = blogs.every(shop.db)
            blog = known[0] if known else blog_imports.bring(shop, None, open_tree(out))[0]
            self.assertEqual(files_of(self.export(shop, blog, f"again-{seconds}", frozenset())), whole)


class SchemaTests(ExportCase):
    def test_the_published_schema_is_current_and_describes_every_file(self) -> None:
        from jsonschema import Draft202012Validator

        from mobbet.core.exporting import post_files
        from tools import export_schema

        self.assertEqual(
            export_schema.FILE.read_text(), export_schema.text(), "run python -m tools.export_schema"
        )
        schema = export_schema.json_schema()
        self.add_picture()
        RandomBlog(self.shop.db, self.blog.id, 5).make()
        checked = 0
        for path, data in files_of(self.export()).items():
            if path == "blog.json":
                Draft202012Validator(schema).validate(json.loads(data))
            elif path.endswith(".jsonl"):
                validator = Draft202012Validator(
                    {"$defs": schema["$defs"], "$ref": f"#/$defs/{path.removesuffix('.jsonl')}"}
                )
                for line in data.decode().rstrip("\n").split("\n"):
                    validator.validate(json.loads(line))
                    checked += 1
            elif path.endswith(".md"):
                name = "post" if path.count("/") == 1 else "revision"
                facts, _ = post_files.read(data.decode())
                Draft202012Validator({"$defs": schema["$defs"], "$ref": f"#/$defs/{name}"}).validate(facts)
                checked += 1
        self.assertGreater(checked, 100)
