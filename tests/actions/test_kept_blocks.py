"""Bringing in, looking back, keeping, standing copies, series and splitting."""

import io
import zipfile
from collections.abc import Callable
from contextlib import AbstractContextManager
from unittest import mock

from mobbet.actions import imports, kept_blocks, placing, post_states, posts, revisions
from mobbet.actions.files import update_post
from mobbet.actions.imports import ImportedPost, NotBrought
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import to_markdown
from mobbet.core.errors import BadInput, NotFound
from mobbet.store import kept as kept_store
from mobbet.store import posts as post_store
from mobbet.store.posts import Post
from tests.shops import DAY, ShopCase, picture


def packed(**members: bytes | str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, body in members.items():
            made.writestr(name.replace("_dot_", ".").replace("_hidden", ".hidden").replace("__", "/"), body)
    return out.getvalue()


class BringingTests(ShopCase):
    def bring(self, name: str, data: bytes | str, **beside: bytes) -> ImportedPost | NotBrought:
        data = data.encode() if isinstance(data, str) else data
        return imports.bring_in(
            self.shop, self.me, "bench", name, data, lambda src: beside.get(src.partition(".")[0])
        )[0]

    def text_of(self, brought: ImportedPost) -> str:
        post = post_store.by_id(self.shop.db, brought.id)
        return to_markdown(schema.load(post_store.body(self.shop.db, post.id, post.revision)))

    def test_each_kind_of_file_becomes_a_draft(self) -> None:
        for name, data, title in (
            ("old-lamps.txt", "One.\n\nTwo.", "Old lamps"),
            ("x.md", "---\ntitle: Mine\ntags: flex\n---\nWords.", "Mine"),
            ("x.md", "# From the heading\n\nWords.", "From the heading"),
            ("page.html", "<h1>On a page</h1><p>Words.</p>", "On a page"),
            ("latin.txt", "Café crème brûlée à la façon de Señora Muñoz.".encode("latin-1"), "Latin"),
        ):
            with self.subTest(name):
                brought = self.bring(name, data)
                self.assertEqual(brought.title, title)
                self.assertGreater(brought.words, 0)

    def test_text_in_any_encoding_keeps_its_letters(self) -> None:
        for encoding in ("utf-8", "utf-8-sig", "utf-16", "cp1252"):
            with self.subTest(encoding):
                words = "Café crème, déjà vu, naïve façade, élève, où, garçon, hôtel, forêt."
                self.assertIn(
                    "Café crème, déjà vu", self.text_of(self.bring("a.txt", words.encode(encoding)))
                )

    def test_pictures_come_along_and_into_place(self) -> None:
        source = "One.\n\n[picture: lamp.png]\n\n![Plug](plug.png)\n\n![](missing.png)"
        brought = self.bring("a.md", source, lamp=picture(40, 30), plug=picture(30, 30))
        self.assertEqual(brought.pictures, 2)
        self.assertIn("“missing.png” was not found", brought.notes[0])
        self.assertRegex(self.text_of(brought), r"One\.\n\n!\[\]\(media:\d+\)\n\n!\[Plug\]\(media:\d+\)")

    def test_an_archive_holds_a_post_in_each_folder(self) -> None:
        data = packed(
            one__a_dot_md="![x](p.png)",
            one__p_dot_png=picture(20, 20),
            two__b_dot_txt="Words.",
            _hidden__c_dot_txt="no",
        )
        found = imports.bring_in(self.shop, self.me, "bench", "all.zip", data)
        self.assertEqual(
            [(one.file, one.pictures) for one in found], [("all.zip: one/a.md", 1), ("all.zip: two/b.txt", 0)]
        )

    def test_what_cannot_be_brought_in_says_why_and_leaves_nothing(self) -> None:
        before = self.shop.db.value("SELECT COUNT(*) FROM post")
        for name, data, reason in (
            ("a.exe", b"x", "is no text Mobbet can bring in"), ("a.docx", b"x", "not a .docx file"), ("a.zip", b"x", "no sound .zip"),
            ("a.zip", packed(x_dot_png=b"x"), "holds no text"), ("a.md", b"---\ndate: soon\n---\nx", "“soon”"),
        ):  # fmt: skip
            with self.subTest(reason):
                self.assertIn(reason, self.bring(name, data).reason)
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM post"), before)

    def test_a_damaged_picture_does_not_stop_the_text(self) -> None:
        brought = self.bring("a.html", "<p>Words.</p><img src='data:image/png;base64,AAAA'>")
        self.assertEqual((brought.words, brought.pictures, len(brought.notes)), (1, 0, 1))


class RevisionTests(ShopCase):
    def save(self, post: Post, words: str, later: int = 0) -> int:
        self.clock.instant += later
        post = self.again(post)
        return posts.save_text(
            self.shop, self.me, post.id, base=post.revision, title="T", subtitle="", body=from_markdown(words)
        ).revision

    def numbers(self, post: Post) -> list[int]:
        return [past.row.number for past in revisions.history(self.shop, self.me, post.id)]

    def test_the_list_tells_who_when_and_how_many_words(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        self.save(post, "one two three", 600)
        self.save(post, "one two three four", 600)
        found = revisions.history(self.shop, self.me, post.id)
        self.assertEqual(
            [(past.row.person, past.added, past.removed) for past in found[:2]],
            [("Ines Farrow", 1, 0), ("Ines Farrow", 3, 0)],
        )

    def test_an_earlier_text_is_put_back_as_a_new_revision(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        first = self.save(post, "the first", 600)
        second = self.save(post, "the second", 600)
        made = revisions.restore(self.shop, self.me, post.id, first)
        self.assertEqual(self.numbers(post)[:3], [made, second, first])
        self.assertEqual(
            schema.load(post_store.body(self.shop.db, post.id, made)), from_markdown("the first")
        )

    def test_a_named_revision_is_kept_and_not_written_over(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        named = self.save(post, "named", 600)
        revisions.name(self.shop, self.me, post.id, named, " Before  the cut ")
        self.save(post, "a moment later", 5)
        self.save(post, "much later", 400 * DAY)
        self.assertIn(named, self.numbers(post))
        with self.assertRaisesRegex(BadInput, "80 is the most"):
            revisions.name(self.shop, self.me, post.id, named, "x" * 81)

    def test_old_revisions_are_thinned_as_one_writes_on(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        for number in range(12):
            self.save(post, f"words {number}", 600)
        self.save(post, "a year later", 365 * DAY)
        self.assertLess(len(self.numbers(post)), 5)

    def test_a_revision_that_is_not_kept_is_refused(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        with self.assertRaisesRegex(NotFound, "keeps no revision 77"):
            revisions.compare(self.shop, self.me, post.id, 1, 77)

    def test_anchors_stay_when_a_heading_is_reworded_after_publishing(self) -> None:
        post = self.write("Lamps", "## Flex\n\nWords.", date="2026-01-01")
        self.publish()
        post = self.again(post)
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=post.revision,
            title="Lamps",
            subtitle="",
            body=from_markdown("## All about flex\n\nWords."),
        )
        placing.place(self.shop, self.me, post.id)
        self.assertIn(b'<h2 id="flex">All about flex</h2>', self.site()["/posts/lamps/"])


class StandingTests(ShopCase):
    publishes = False

    def setUp(self) -> None:
        super().setUp()
        self.kept = kept_blocks.keep_blocks(
            self.shop, self.me, "bench", "Safety", from_markdown("Unplug it.")["content"]
        )
        self.copy = f"~~~ mobbet:standing copy={self.kept.id}\n~~~"
        self.shown = [
            self.write(f"Post {number}", f"Words.\n\n{self.copy}", date="2026-01-01") for number in range(2)
        ]
        self.write("Other", "Nothing.", date="2026-02-01")
        self.publish()

    def change(self, words: str) -> None:
        kept_blocks.change_kept(self.shop, self.me, "bench", self.kept.id, "Safety", from_markdown(words))

    def test_a_change_goes_to_every_post_that_shows_it(self) -> None:
        footprint = kept_blocks.footprint_of_change(
            self.shop, self.me, "bench", self.kept.id, from_markdown("Unplug it twice.")
        ).pages
        self.assertIn(("/posts/post-0/", "altered"), [(page.path, page.what) for page in footprint])
        self.assertNotIn("/posts/other/", [page.path for page in footprint])
        self.assertNotIn(b"twice", self.site()["/posts/post-0/"])
        self.change("Unplug it twice.")
        published = self.publish()
        self.assertEqual(published.written, len(footprint))
        for number in range(2):
            self.assertIn(b"<p>Unplug it twice.</p>", self.site()[f"/posts/post-{number}/"])

    def test_small_editions_and_a_full_build_agree_on_it(self) -> None:
        self.change("Changed.")
        self.publish()
        self.assertEqual(self.publish(full=True).written, 0)

    def test_removed_copies_leave_their_last_text_or_not_by_choice(self) -> None:
        kept_blocks.remove_kept(self.shop, self.me, "bench", self.kept.id, is_text_left=True)
        self.assertIn(b"Unplug it.", self.site()["/posts/post-0/"])
        other = kept_blocks.keep_blocks(
            self.shop, self.me, "bench", "Safety", from_markdown("Other.")["content"]
        )
        self.write("Last", f"~~~ mobbet:standing copy={other.id}\n~~~", date="2026-01-01")
        kept_blocks.remove_kept(self.shop, self.me, "bench", other.id, is_text_left=False)
        self.assertNotIn(b"Other.", self.site()["/posts/last/"].split(b"<article")[1].split(b"neighbours")[0])
        self.assertEqual(kept_store.every(self.shop.db, self.blog.id), [])

    def test_names_are_one_of_a_kind_and_copies_cannot_hold_themselves(self) -> None:
        with self.assertRaisesRegex(BadInput, "“safety” is kept already"):
            kept_blocks.keep_blocks(self.shop, self.me, "bench", "safety", schema.EMPTY["content"])
        with self.assertRaisesRegex(BadInput, "cannot show itself"):
            self.change(self.copy)

    def test_its_reach_names_the_posts(self) -> None:
        reach = kept_blocks.reach(self.shop, self.blog, self.kept.id)
        self.assertEqual(([post.title for post in reach.posts], reach.placed), (["Post 0", "Post 1"], 2))


class SeriesTests(ShopCase):
    publishes = False

    def test_parts_name_each_other_once_they_are_out(self) -> None:
        first, second = self.write("One", date="2026-01-01"), self.write("Two", date="2026-01-02")
        for post in (first, second):
            kept_blocks.set_series(self.shop, self.me, post.id, "Clocks apart")
            placing.place(self.shop, self.me, post.id)
        self.publish()
        page = self.site()["/posts/two/"].decode()
        self.assertIn("Part 2 of 2 of <b>Clocks apart</b>", page)
        self.assertIn('<a href="../../posts/one/">One</a>', page)
        placing.withdraw(self.shop, self.me, first.id)
        self.assertGreater(self.publish().written, 0)
        self.assertNotIn("Part 2", self.site()["/posts/two/"].decode())
        self.assertEqual(self.publish(full=True).written, 0)

    def test_a_place_in_the_series_can_be_chosen(self) -> None:
        posts_ = [self.write(title) for title in ("A", "B")]
        kept_blocks.set_series(self.shop, self.me, posts_[0].id, "S", "2")
        kept_blocks.set_series(self.shop, self.me, posts_[1].id, "S", "1")
        self.assertEqual([self.again(post).series_position for post in posts_], [2, 1])
        with self.assertRaisesRegex(BadInput, "no place in a series"):
            kept_blocks.set_series(self.shop, self.me, posts_[0].id, "S", "first")
        kept_blocks.set_series(self.shop, self.me, posts_[0].id, "")
        self.assertIsNone(self.again(posts_[0]).series_id)

    def test_a_post_is_split_into_a_series_and_put_together_again(self) -> None:
        post = self.write("Long", "Start.\n\n## Flex\n\nOne.\n\n## Plug\n\nTwo.", tags="lamps")
        revision = self.again(post).revision
        parts = kept_blocks.split_post(self.shop, self.me, post.id, [1, 3])
        self.assertEqual(
            [(part.title, part.series_position) for part in parts], [("Long", 1), ("Flex", 2), ("Plug", 3)]
        )
        self.assertEqual(len(post_store.tags(self.shop.db, parts[2].id)), 1)
        kept_blocks.undo_split(self.shop, self.me, post.id, revision, [part.id for part in parts[1:]])
        whole = self.again(post)
        self.assertEqual(whole.words, 5)
        self.assertIsNone(whole.series_id)
        self.assertIsNotNone(self.again(parts[1]).aside_at)

    def test_a_save_that_comes_just_before_is_split_or_replaced_too(self) -> None:
        late = "Start.\n\n## Flex\n\nOne more word."
        for act in (
            lambda number: kept_blocks.split_post(self.shop, self.me, number, [1]),
            lambda number: update_post(self.shop, self.me, number, "Other words."),
        ):
            post, real, saves = self.write("Long", "Start.\n\n## Flex\n\nOne."), self.shop.db.transaction, []

            def saved_first(
                post: Post = post, real: Callable = real, saves: list = saves
            ) -> AbstractContextManager:
                if not saves:
                    saves.append(late)
                    posts.save_text(
                        self.shop,
                        self.me,
                        post.id,
                        base=self.again(post).revision,
                        title="Long",
                        subtitle="",
                        body=from_markdown(late),
                    )
                return real()

            with mock.patch.object(self.shop.db, "transaction", saved_first):
                act(post.id)
            self.assertEqual(saves, [late])
        self.assertIn(
            "One more word.",
            [to_markdown(schema.load(post_store.working(self.shop.db, 2).body)).strip().splitlines()[-1]],
        )


class BeginningTests(ShopCase):
    def test_a_copy_has_the_text_and_the_filing(self) -> None:
        post = self.write(
            "Session", "Come at {time}.", categories="Sessions", tags="evening", date="2026-01-01"
        )
        copy = kept_blocks.begin_from(self.shop, self.me, post.id)
        self.assertEqual((copy.title, copy.words), ("Session", 3))
        self.assertEqual(
            post_store.categories(self.shop.db, copy.id), post_store.categories(self.shop.db, post.id)
        )
        self.assertEqual(post_states.state_of(self.shop, copy), "draft")

    def test_a_template_is_no_draft_and_what_is_out_is_no_template(self) -> None:
        draft, out = self.write("Shape"), self.write("Out", date="2026-01-01")
        kept_blocks.set_template(self.shop, self.me, draft.id, True)
        self.assertEqual(self.again(draft).is_template, 1)
        with self.assertRaisesRegex(BadInput, "begin a copy of it"):
            kept_blocks.set_template(self.shop, self.me, out.id, True)


class LinkedPostTests(ShopCase):
    publishes = False

    def test_a_link_to_a_post_follows_it_and_is_plain_while_it_is_not_out(self) -> None:
        target = self.write("Target", date="2026-01-01")
        self.write(
            "Linking", f"See [that post](post:{target.id}#part) and [nothing](post:999).", date="2026-01-02"
        )
        self.publish()
        self.assertIn(
            b'See <a href="../../posts/target/#part">that post</a> and nothing.',
            self.site()["/posts/linking/"],
        )
        update_post(self.shop, self.me, target.id, "---\nslug: moved\n---\nWords.")
        self.assertGreater(self.publish().written, 2)
        self.assertIn(b'href="../../posts/moved/#part"', self.site()["/posts/linking/"])
        placing.withdraw(self.shop, self.me, target.id)
        self.publish()
        self.assertIn(b"See that post and nothing.", self.site()["/posts/linking/"])
        self.assertEqual(self.publish(full=True).written, 0)
