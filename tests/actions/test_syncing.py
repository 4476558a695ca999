"""Posts and files of a folder are kept in step."""

from __future__ import annotations

import os
from pathlib import Path
from random import Random

from mobbet.actions import docket_lines, files, placing, posts, syncing
from mobbet.actions.syncing import BACK, CAME, MET, NEW_FILE, NEW_POST, REFUSED, SET_ASIDE, WENT, Step
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import to_markdown
from mobbet.core.errors import BadInput, NotAllowed, Refused
from mobbet.store import posts as post_store
from mobbet.store import revisions
from tests.actions.teams import TeamCase
from tests.shops import picture


class SyncCase(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.there = self.folder / "there"
        self.there.mkdir()

    def sync(self) -> list[Step]:
        return syncing.sync(self.shop, self.me, self.blog, self.there)

    def done(self) -> list[tuple[str, str]]:
        return [(one.what, one.path) for one in self.sync()]

    def read(self, name: str) -> str:
        return (self.there / name).read_text()

    def edit(self, name: str, old: str, new: str) -> None:
        self.assertIn(old, self.read(name))
        (self.there / name).write_text(self.read(name).replace(old, new))

    def say(self, number: int, text: str, title: str | None = None) -> None:
        post = post_store.by_id(self.shop.db, number)
        posts.save_text(
            self.shop,
            self.me,
            number,
            base=post.revision,
            title=title or post.title,
            subtitle="",
            body=from_markdown(text),
        )

    def text(self, number: int = 1) -> str:
        return post_store.working_body(self.shop.db, number)


class StepTests(SyncCase):
    def test_posts_become_files_with_their_pictures(self) -> None:
        (self.folder / "lamp.png").write_bytes(picture())
        files.new_post(
            self.shop,
            self.me,
            "bench",
            "---\ntitle: A lamp\ntags: [flex]\n---\n![A lamp](lamp.png)\n",
            self.folder,
        )
        self.assertEqual(self.done(), [(NEW_FILE, "a-lamp.md")])
        self.assertIn('title: "A lamp"\ntags: ["flex"]', self.read("a-lamp.md"))
        self.assertIn("![A lamp](pictures/0001-lamp.png)", self.read("a-lamp.md"))
        self.assertEqual((self.there / "pictures/0001-lamp.png").read_bytes(), picture())
        self.assertEqual(self.done(), [])

    def test_a_change_on_either_side_comes_over(self) -> None:
        self.write("A lamp", "Old words.")
        self.sync()
        self.edit("a-lamp.md", "Old words.", "New words.\n\n![x](pictures/own.png)")
        (self.there / "pictures").mkdir()
        (self.there / "pictures/own.png").write_bytes(picture(color="#00ff00"))
        self.assertEqual(self.done(), [(CAME, "a-lamp.md")])
        self.assertIn("New words.", self.text())
        self.assertIn("media:1", self.text())
        self.clock.forward(600)
        self.say(1, "Newest words.")
        self.assertEqual(self.done(), [(WENT, "a-lamp.md")])
        self.assertIn("Newest words.", self.read("a-lamp.md"))
        self.assertEqual(self.done(), [])

    def test_what_is_out_is_updated_and_a_time_places_a_post(self) -> None:
        self.write("A lamp", "Old words.", date="2026-11-01")
        self.sync()
        self.edit("a-lamp.md", "Old words.", "New words.")
        self.sync()
        self.assertIn(b"New words.", self.site()["/posts/a-lamp/"])
        (self.there / "later.md").write_text("---\ntitle: Later\ndate: 2026-12-24T09:00\n---\nWords.")
        self.assertEqual(self.done(), [(NEW_POST, "later.md")])
        self.assertEqual(
            self.shop.db.value("SELECT goes_out_wall FROM placement ORDER BY id DESC"), "2026-12-24T09:00"
        )

    def test_a_new_file_becomes_a_draft_and_says_which_post_it_is(self) -> None:
        (self.there / "in").mkdir()
        (self.there / "in/idea.md").write_text("Just words, without anything above.\n")
        self.assertEqual(self.done(), [(NEW_POST, "in/idea.md")])
        self.assertEqual(
            self.read("in/idea.md"), "---\npost: 1\n---\n\nJust words, without anything above.\n"
        )
        self.assertEqual(self.done(), [])
        os.rename(self.there / "in/idea.md", self.there / "moved.md")
        self.edit("moved.md", "Just words", "Moved words")
        self.assertEqual(self.done(), [(CAME, "moved.md")])
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM post"), 1)

    def test_both_changed_keeps_both(self) -> None:
        self.write("A lamp", "Old words.")
        self.sync()
        self.edit("a-lamp.md", "Old words.", "Words of the file.")
        self.clock.forward(600)
        self.say(1, "Words of the room.")
        (step,) = self.sync()
        self.assertEqual(step.what, MET)
        self.assertIn("Words of the room.", self.text())
        self.assertIn("Words of the room.", self.read("a-lamp.md"))
        named = [row for row in revisions.of_post(self.shop.db, 1) if row.name]
        self.assertEqual([row.name for row in named], ["from a-lamp.md"])
        self.assertIn("Words of the file.", post_store.body(self.shop.db, 1, named[0].number))
        self.assertEqual(self.done(), [])

    def test_a_file_that_is_removed_sets_its_post_aside(self) -> None:
        self.write("A lamp", "Words.", date="2026-11-01")
        self.sync()
        (self.there / "a-lamp.md").unlink()
        self.assertEqual(self.done(), [(SET_ASIDE, "a-lamp.md")])
        self.assertIsNotNone(post_store.by_id(self.shop.db, 1).aside_at)
        self.assertEqual(self.done(), [])

    def test_a_file_that_is_removed_comes_back_when_the_post_was_changed(self) -> None:
        self.write("A lamp", "Words.")
        self.sync()
        (self.there / "a-lamp.md").unlink()
        self.clock.forward(600)
        self.say(1, "Other words.")
        self.assertEqual(self.done(), [(NEW_FILE, "a-lamp.md")])

    def test_a_post_that_is_set_aside_puts_its_file_apart_unless_it_was_written_on(self) -> None:
        for title in ("One", "Two"):
            self.write(title, "Words.")
        self.sync()
        for number in (1, 2):
            placing.set_aside(self.shop, self.me, number)
        self.edit("two.md", "Words.", "More words.")
        self.assertEqual(self.done(), [(SET_ASIDE, "one.md"), (BACK, "two.md")])
        self.assertTrue((self.there / "set-aside/one.md").is_file())
        self.assertIn("More words.", self.text(2))

    def test_what_cannot_be_taken_is_told_and_the_rest_goes_on(self) -> None:
        self.write("A lamp", "Words.")
        self.sync()
        (self.there / "bad.md").write_text("---\ntitle: [a\n---\nWords.")
        (self.there / "bytes.md").write_bytes(b"\xff\xfe\xfa")
        (self.there / "copy.md").write_text(self.read("a-lamp.md"))
        (self.there / "link.md").symlink_to("/etc/hostname")
        self.edit("a-lamp.md", "Words.", "Better words.")
        steps = self.sync()
        self.assertEqual(
            {one.path: one.what for one in steps},
            {
                "bad.md": REFUSED,
                "bytes.md": REFUSED,
                "copy.md": REFUSED,
                "link.md": REFUSED,
                "a-lamp.md": CAME,
            },
        )
        self.assertIn("not valid YAML", next(one.note for one in steps if one.path == "bad.md"))

    def test_a_post_of_another_blog_is_never_touched(self) -> None:
        from mobbet.actions import blogs

        other = blogs.make_blog(
            self.shop, self.me, name="Other", address="other", zone="UTC", home="https://other.example/"
        )
        post = files.new_post(self.shop, self.me, "other", "---\ntitle: Theirs\n---\nTheir words.").post
        (self.there / "steal.md").write_text(f"---\npost: {post.id}\ntitle: Mine\n---\nMy words.")
        self.assertEqual(self.done(), [(NEW_POST, "steal.md")])
        self.assertIn("Their words.", self.text(post.id))
        self.assertEqual(post_store.by_id(self.shop.db, post.id).blog_id, other.id)

    def test_only_an_owner_keeps_a_folder_and_one_at_a_time(self) -> None:
        with self.assertRaises(NotAllowed):
            syncing.sync(self.shop, self.writer, self.blog, self.there)
        with self.assertRaises(BadInput):
            syncing.sync(self.shop, self.me, self.blog, self.there / "none")
        with syncing._alone(self.there), self.assertRaises(Refused):
            self.sync()


class RandomTests(SyncCase):
    def test_after_any_changes_both_sides_are_the_same_and_no_words_are_lost(self) -> None:
        for seed in range(4):
            random, said = Random(seed), set[str]()
            self.doCleanups()
            self.setUp()
            for step in range(14):
                self._change(random, said, step)
                self.clock.forward(7000)
                if random.random() < 0.6:
                    self.sync()
            self.sync()
            with self.subTest(seed=seed):
                self.assertEqual(self.done(), [])
                kept = "".join(self.shop.db.column("SELECT body FROM revision")) + "".join(
                    one.read_text() for one in self.there.rglob("*.md")
                )
                self.assertEqual([one for one in said if one not in kept], [])

    def _change(self, random: Random, said: set[str], step: int) -> None:
        word = f"word{step}x{random.randint(0, 999)}"
        here = self.shop.db.column("SELECT id FROM post WHERE aside_at IS NULL AND revision > 0")
        there = sorted(one for one in self.there.rglob("*.md") if "set-aside" not in one.parts)
        what = random.choice(("write", "say", "edit", "new", "remove", "aside", "tag"))
        if what == "write" or (what == "new" and not there):
            self.write(f"Post {step}", word)
        elif what == "say" and here:
            number = random.choice(here)
            self.say(number, to_markdown(schema.load(self.text(number))) + f"\n{word}\n")
        elif what == "edit" and there:
            file = random.choice(there)
            file.write_text(file.read_text() + f"\n{word}\n")
        elif what == "new":
            (self.there / f"new-{step}.md").write_text(f"# New {step}\n\n{word}\n")
        elif what == "remove" and there:
            random.choice(there).unlink()
            return
        elif what == "aside" and here:
            placing.set_aside(self.shop, self.me, random.choice(here))
            return
        elif what == "tag" and here:
            docket_lines.set_line(self.shop, self.me, random.choice(here), "excerpt", word)
            return
        else:
            return
        if what not in ("edit", "tag"):  # an excerpt makes way for the next one
            said.add(word)


class KilledTests(SyncCase):
    def test_a_file_that_was_written_before_the_end_is_known_again(self) -> None:
        self.write("A lamp", "Words.")
        self.sync()
        with self.shop.db.transaction():
            self.shop.db.run("DELETE FROM synced")
        self.assertEqual(self.done(), [])
        self.assertEqual(Path(self.there / "a-lamp.md").read_text().count("post: 1"), 1)
