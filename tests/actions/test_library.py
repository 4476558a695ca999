import io
import re
from pathlib import Path
from unittest import mock

from mobbet.actions import (
    building,
    docket_lines,
    external_media,
    house_facts,
    kept_blocks,
    library,
    media_jobs,
    placing,
    replacing,
)
from mobbet.actions import posts as post_actions
from mobbet.core.document import schema
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.demo.recordings import CLIP, good_motor
from mobbet.media import pictures
from mobbet.publish.changes.exact import pending_footprint
from mobbet.store import jobs, media
from mobbet.store import posts as post_store
from mobbet.store.media import Media, Wanted
from tests.shops import ShopCase, picture


class LibraryCase(ShopCase):
    def add(self, name: str = "lamp.jpg", data: bytes | None = None, **about: object) -> Media:
        return library.add_stream(
            self.shop, self.me, self.blog, name, io.BytesIO(data or picture(1700, 1100, "JPEG")), **about
        )

    def now(self, row: Media) -> Media:
        return media.by_id(self.shop.db, row.id)

    def found(self, **wanted: object) -> list[str]:
        return [row.name for row in media.find(self.shop.db, self.blog.id, Wanted(**wanted), 100)]

    def page(self, path: str) -> str:
        return self.site()[path].decode()


class BringingTests(LibraryCase):
    def test_a_picture_can_be_published_at_once_and_gets_its_copies_later(self) -> None:
        row = self.add()
        self.assertEqual((row.state, row.kind, row.width, row.height), ("working", "picture", 1700, 1100))
        self.write("A lamp", f"![A lamp](media:{row.id})", date="2020-01-01")
        building.publish(self.shop, self.blog)
        before = pending_footprint(self.shop.db, self.blog.id, self.shop.clock()).pages
        self.assertEqual(before, [])
        media_jobs.work_all(self.shop)
        changed = {
            page.path: page.what
            for page in pending_footprint(self.shop.db, self.blog.id, self.shop.clock()).pages
        }
        self.assertEqual(changed["/posts/a-lamp/"], "altered")
        self.assertGreater(sum(kind == "added" for kind in changed.values()), 8)
        building.publish(self.shop, self.blog)
        self.assertEqual(self.shop.press.publish(self.blog.id, self.shop.clock(), full=True).written, 0)

    def test_the_same_file_twice_is_kept_once(self) -> None:
        data = picture(300, 200)
        first, second = self.add("a.png", data), self.add("b.png", data)
        self.assertEqual((first.id, jobs.open_count(self.shop.db)), (second.id, 1))
        library.set_aside(self.shop, self.me, first.id)
        self.assertIsNone(self.add("c.png", data).aside_at)

    def test_sound_video_and_files_come_with_what_belongs_to_them(self) -> None:
        rows = [
            self.add("m.wav", good_motor()),
            self.add("s.mp4", CLIP.read_bytes()),
            self.add("t.csv", b"a,b\n1,2\n"),
        ]
        media_jobs.work_all(self.shop)
        uses = [{file.use for file in media.files(self.shop.db, row.id)} for row in rows]
        self.assertEqual(
            uses, [{"sound", "wave"}, {"video", "whole", "lead", "thumb", "share", "square"}, {"file"}]
        )
        self.assertAlmostEqual(self.now(rows[0]).loudness, -12, delta=3)
        self.assertEqual([self.now(row).state for row in rows], ["ready"] * 3)

    def test_a_bad_file_leaves_nothing_behind(self) -> None:
        for name, data in (
            ("a.jpg", picture(400, 400, "JPEG")[:900]),
            ("b.png", picture(9, 9, "JPEG")),
            ("c.mp4", CLIP.read_bytes()[:900]),
            ("d.exe", b"MZ\x00"),
        ):
            with self.subTest(name), self.assertRaises(BadInput):
                self.add(name, data)
        self.assertEqual((self.found(), list((self.folder / "data" / "media").rglob("??/*"))), ([], []))
        self.assertEqual(list((self.folder / "data" / "media" / ".incoming").iterdir()), [])

    def test_work_that_was_begun_and_not_ended_begins_again(self) -> None:
        row = self.add()
        jobs.claim(self.shop.db)
        self.assertEqual(media_jobs.work_all(self.shop), 0)
        with media_jobs.only_worker(self.shop) as is_only:
            self.assertTrue(is_only)
            with media_jobs.only_worker(self.shop) as another:
                self.assertFalse(another)
            self.assertEqual(media_jobs.work_all(self.shop), 1)
        self.assertEqual(self.now(row).state, "ready")

    def test_work_that_fails_says_why_and_stops_nothing(self) -> None:
        row, other = self.add(), self.add("b.png", picture(50, 50))
        with (
            mock.patch.object(
                pictures, "derive", side_effect=[OSError("disk"), OSError("disk"), OSError("disk"), iter(())]
            ),
            self.assertLogs("mobbet.worker"),
        ):
            media_jobs.work_all(self.shop)
        self.assertEqual((self.now(row).state, self.now(other).state), ("failed", "ready"))
        self.assertRegex(self.now(row).problem, "could not be worked on")

    def test_what_the_camera_noted_stays_in_the_library_until_it_is_forgotten(self) -> None:
        from PIL import Image

        exif = Image.Exif()
        exif[0x010F], exif[0x0110], exif[0x0132] = "Alder", "Alder One", "2026:03:04 05:06:07"
        row = self.add("a.jpg", picture(90, 90, "JPEG", exif=exif))
        self.assertEqual((row.taken, row.camera), ("2026-03-04T05:06", "Alder One"))
        self.assertEqual(library.forget_camera(self.shop, self.me, row.id).camera, "")


class FindingTests(LibraryCase):
    def test_words_kinds_shapes_uses_and_labels_are_found(self) -> None:
        lamp = self.add(
            "red-lamp_02.jpg",
            caption="On the bench",
            labels="Lamps, before",
            alt="A lamp",
            credit="Ines",
            licence="cc-by",
        )
        self.add("tall.png", picture(20, 90))
        self.add("m.wav", good_motor(), caption="A motor")
        self.write("Post", f"![x](media:{lamp.id})")
        for wanted, names in (
            ({"words": "lamp"}, ["red-lamp_02.jpg"]), ({"words": "ben"}, ["red-lamp_02.jpg"]), ({"words": "before INES"}, ["red-lamp_02.jpg"]), ({"words": "lamp motor"}, []), ({"words": '"*('}, 3),
            ({"kind": "sound"}, ["m.wav"]), ({"shape": "portrait"}, ["tall.png"]), ({"uses": "used"}, ["red-lamp_02.jpg"]), ({"uses": "unused"}, 2), ({"lacks": "description"}, ["tall.png"]),
            ({"licence": "cc-by"}, ["red-lamp_02.jpg"]), ({"label": "lamps"}, ["red-lamp_02.jpg"]), ({"lacks": "words"}, ["m.wav"]), ({"year": "2026"}, 3), ({"year": "1999"}, []),
        ):  # fmt: skip
            with self.subTest(wanted):
                found = self.found(**wanted)
                self.assertEqual(len(found) if isinstance(names, int) else found, names)

    def test_many_items_are_labelled_at_once(self) -> None:
        rows = [self.add("a.png", picture(20, 20)), self.add("b.png", picture(21, 20), labels="old")]
        numbers = [row.id for row in rows]
        self.assertEqual(library.label_many(self.shop, self.me, "bench", [*numbers, 999], "New,  old"), 2)
        self.assertEqual([self.now(row).labels for row in rows], [("New", "old"), ("old", "New")])
        library.label_many(self.shop, self.me, "bench", numbers, "OLD", remove=True)
        self.assertEqual(self.now(rows[1]).labels, ("New",))
        with self.assertRaisesRegex(BadInput, "No label was typed"):
            library.label_many(self.shop, self.me, "bench", numbers, " , ")

    def test_what_is_said_of_an_item_is_checked(self) -> None:
        row = self.add("a.png", picture(20, 20))
        for about, message in (
            ({"alt": "x" * 2001}, "The alt has 2,001 letters"),
            ({"licence": "mine"}, "is no licence"),
            ({"name": " "}, "The name is empty"),
            ({"labels": "x" * 41}, "40 is the most"),
        ):
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                library.describe(self.shop, self.me, row.id, **about)
        with self.assertRaises(NotFound):
            library.describe(self.shop, self.me, 99, alt="x")


class EditingTests(LibraryCase):
    def test_a_crop_alters_what_is_out_and_the_original_stays(self) -> None:
        row = self.add()
        self.write("A lamp", f"![A lamp](media:{row.id})", date="2020-01-01")
        self.publish()
        before = self.page("/posts/a-lamp/")
        library.set_recipe(self.shop, self.me, row.id, {"crop": [0, 0, 0.25, 1], "focus": [1, 0.5]})
        self.publish()
        self.assertNotEqual(self.page("/posts/a-lamp/"), before)
        self.assertIn('width="425" height="1100"', self.page("/posts/a-lamp/"))
        self.assertEqual(self.shop.press.publish(self.blog.id, self.shop.clock(), full=True).written, 0)
        self.assertEqual(self.shop.media.path(row.hash).stat().st_size, row.bytes)
        self.assertEqual(set(self.site()), {page.path for page in self.current_pages()})

    def current_pages(self) -> list:
        from mobbet.store import editions

        return list(editions.pages(self.shop.db, self.blog.id))

    def test_what_cannot_be_cropped_says_so(self) -> None:
        with self.assertRaisesRegex(Refused, "is no picture of pixels"):
            library.set_recipe(self.shop, self.me, self.add("m.wav", good_motor()).id, {})
        with self.assertRaisesRegex(Refused, "moves; it can have a focal point"):
            library.set_recipe(self.shop, self.me, self.add("s.mp4", CLIP.read_bytes()).id, {"turn": 90})

    def test_captions_and_poster_of_a_video_reach_readers(self) -> None:
        row = self.add("s.mp4", CLIP.read_bytes())
        self.write("A switch", f"~~~ mobbet:video src=media:{row.id} title=Switch\n~~~", date="2020-01-01")
        library.set_captions(self.shop, self.me, row.id, "0:01 - 0:02 On")
        library.set_poster(self.shop, self.me, row.id, "2.5")
        self.publish()
        page = self.page("/posts/a-switch/")
        track = re.search(r'<track kind="captions" src="\.\./\.\.(/media/[\w-]+\.vtt)"', page).group(1)
        self.assertIn(b"On", self.site()[track])
        self.assertRegex(
            page, r'<video controls playsinline preload="none" width="640" height="360" poster="[^"]+\.webp"'
        )
        with self.assertRaisesRegex(BadInput, "“99” is no moment"):
            library.set_poster(self.shop, self.me, row.id, "99")

    def test_a_new_name_or_transcript_reaches_the_pages_that_show_it(self) -> None:
        row = self.add("m.wav", good_motor())
        self.write("A motor", f"~~~ mobbet:sound src=media:{row.id}\n~~~", date="2020-01-01")
        self.publish()
        library.describe(self.shop, self.me, row.id, name="Motor, running", transcript="It hums.")
        self.assertIn(
            "/posts/a-motor/",
            [page.path for page in pending_footprint(self.shop.db, self.blog.id, self.shop.clock()).pages],
        )
        self.assertIn("<p>It hums.</p>", self.page("/posts/a-motor/"))
        self.publish()
        library.describe(self.shop, self.me, row.id, credit="Ines")
        self.assertEqual(pending_footprint(self.shop.db, self.blog.id, self.shop.clock()).pages, [])

    def test_removing_is_refused_while_it_is_out(self) -> None:
        row = self.add("a.png", picture(20, 20))
        post = self.write("A lamp", f"![A lamp](media:{row.id})", date="2020-01-01")
        with self.assertRaisesRegex(Refused, "Readers see “a.png” in “A lamp”"):
            library.set_aside(self.shop, self.me, row.id)
        placing.withdraw(self.shop, self.me, post.id)
        library.set_aside(self.shop, self.me, row.id)
        self.assertEqual((self.found(), self.found(is_aside=True)), ([], ["a.png"]))
        library.restore(self.shop, self.me, row.id)
        self.assertEqual(self.found(), ["a.png"])


class ReplacingTests(LibraryCase):
    def test_an_item_is_replaced_everywhere_and_every_setting_stays(self) -> None:
        old, new = (
            self.add("old.png", picture(900, 600)),
            self.add("new.png", picture(901, 600, color="#112233")),
        )
        body = f'~~~ mobbet:picture size=half place=left src=media:{old.id} alt="A lamp"\nA caption\n~~~'
        out, draft = self.write("Out", body, date="2020-01-01"), self.write("Draft", body)
        kept_blocks.keep_blocks(self.shop, self.me, "bench", "Kept", from_markdown(body)["content"])
        self.publish()
        reach = replacing.footprint(self.shop, self.me, old.id, new.id)
        self.assertEqual(
            ([post.title for post in reach.posts], reach.placed, reach.kept), (["Out", "Draft"], 1, ("Kept",))
        )
        self.assertIn(("/posts/out/", "altered"), reach.pages)
        self.assertEqual(self.again(out).revision, out.revision)
        replacing.replace(self.shop, self.me, old.id, new.id)
        self.publish()
        for post in (out, draft):
            node = schema.load(post_store.body(self.shop.db, post.id, self.again(post).revision))["content"][
                0
            ]
            self.assertEqual(
                (node["attrs"]["src"], node["attrs"]["size"], node["attrs"]["alt"]),
                (f"media:{new.id}", "half", "A lamp"),
            )
        self.assertEqual(media.posts_showing(self.shop.db, old.id, self.shop.clock()), [])
        with self.assertRaisesRegex(BadInput, "cannot take the place"):
            replacing.replace(self.shop, self.me, new.id, new.id)


class GettingTests(LibraryCase):
    def test_a_picture_of_the_collection_comes_with_its_credit(self) -> None:
        row = external_media.from_collection(self.shop, self.me, "bench", "4")
        self.assertEqual(
            (row.credit, row.licence, row.caption),
            ("Colm Tarrant", "cc-by-nc", "Two-masted model on a bench"),
        )
        with self.assertRaises(NotFound):
            external_media.from_collection(self.shop, self.me, "bench", "400")

    def test_from_an_address_it_must_be_said_whose_it_is(self) -> None:
        for credit, licence, message in (
            ("", "", "Say under which licence"),
            ("", "cc-by", "Say whose it is"),
            ("Ines", "cc-by", "lies inside the network"),
        ):
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                external_media.from_address(
                    self.shop, self.me, "bench", "http://127.0.0.1/x.png", credit, licence
                )

    def test_an_embed_brings_its_title_size_and_poster(self) -> None:
        house_facts.allow_video_host(self.shop, self.me, "bench", "reel.example")
        attrs = external_media.embed(
            self.shop, self.me, "bench", "https://reel.example/watch/launching-day"
        ).attrs
        self.assertEqual(
            (attrs["title"], attrs["width"], attrs["height"]), ("Launching day at Port Alder", 640, 360)
        )
        poster = media.by_id(self.shop.db, int(attrs["poster"][6:]))
        self.assertEqual((poster.credit, poster.kind), ("Edda Rusk", "picture"))


class SaidTests(LibraryCase):
    """What posts say of the pictures they show."""

    def test_a_picture_is_described_where_a_post_describes_it(self) -> None:
        said, bare = self.add("said.jpg"), self.add("bare.png", picture(300, 200))
        self.assertEqual(self.found(lacks="description"), ["bare.png", "said.jpg"])
        self.write("A lamp", f"![A bench lamp](media:{said.id})\n\n![](media:{bare.id})")
        self.assertEqual(self.found(lacks="description"), ["bare.png"])
        self.assertEqual(media.described_in_posts(self.shop.db, [said.id, bare.id]), {said.id})

    def test_words_of_a_post_find_its_picture_and_no_longer_once_they_are_gone(self) -> None:
        row = self.add("p1.jpg")
        post = self.write("A lamp", f'![A grommet](media:{row.id} "Où la gaîne casse")')
        self.assertEqual((self.found(words="gromm"), self.found(words="gaine")), (["p1.jpg"], ["p1.jpg"]))
        post_actions.save_text(
            self.shop,
            self.me,
            post.id,
            base=post.revision,
            title="A lamp",
            subtitle="",
            body=from_markdown("None"),
        )
        self.assertEqual(self.found(words="gromm"), [])
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM said_text"), 0)

    def test_words_of_a_private_post_find_nothing_for_others(self) -> None:
        row = self.add("p1.jpg")
        self.write("A lamp", f"![A grommet](media:{row.id})", visibility="only-me")
        other = self.shop.db.seen_by(self.me.id + 1)
        self.assertEqual(self.found(words="gromm"), ["p1.jpg"])
        self.assertEqual(media.find(other, self.blog.id, Wanted(words="gromm"), 9), [])


class LeadTests(LibraryCase):
    def test_the_lead_is_the_first_wide_enough_or_the_one_that_was_chosen(self) -> None:
        small, wide, other = (
            self.add("s.png", picture(100, 80)),
            self.add("w.png", picture(1300, 800)),
            self.add("o.png", picture(1200, 700)),
        )
        post = self.write(
            "Lead", f"![small](media:{small.id})\n\n![wide](media:{wide.id})", date="2020-01-01"
        )
        self.assertRegex(self.page("/"), rf"/media/\w+-{wide.id}-lead-1200\.webp 1200w")
        docket_lines.set_lead_picture(self.shop, self.me, post.id, other.id)
        self.assertNotIn(f"-{other.id}-lead", self.page("/"))
        placing.place(self.shop, self.me, post.id)
        self.assertIn(f"-{other.id}-lead", self.page("/"))
        self.assertRegex(
            self.page("/posts/lead/"),
            rf'og:image" content="https://bench\.example/media/\w+-{other.id}-share-1200\.jpg',
        )
        with self.assertRaisesRegex(BadInput, "no picture of this blog"):
            docket_lines.set_lead_picture(self.shop, self.me, post.id, 999)

    def test_front_matter_names_a_lead_beside_the_file_or_in_the_library(self) -> None:
        row = self.add("w.png", picture(1300, 800))
        self.assertEqual(self.write("A", lead="w.png").lead_media, row.id)
        with self.assertRaisesRegex(BadInput, "no picture “x.png” beside the file"):
            self.write("B", lead="x.png")


class SnapshotTests(LibraryCase):
    def test_files_of_a_private_post_are_private(self) -> None:
        row = self.add("a.png", picture(600, 400))
        self.write("Mine", f"![A lamp](media:{row.id})", date="2020-01-01", visibility="only-me")
        self.assertFalse([path for path in self.site() if path.startswith("/media/")])

    def test_a_shelf_keeps_a_file_that_is_taken(self) -> None:
        with self.shop.media.incoming() as file:
            file.write_bytes(b"abc")
            digest, new = self.shop.media.take(file)
        self.assertEqual((self.shop.media.read(digest), len(new)), (b"abc", 1))
        left = Path(self.folder / "data" / "media" / ".incoming" / "left")
        left.write_bytes(b"half")
        self.shop.media.sweep(left.stat().st_mtime + 1)
        self.assertFalse(left.exists())
