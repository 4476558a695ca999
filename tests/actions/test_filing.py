"""The filing as it is kept: by chance for its invariants, one by one for its words."""

import random

from mobbet.actions import (
    addresses,
    categories,
    category_tree,
    consistency,
    docket_lines,
    footprints,
    library,
    missing_pages,
    old_addresses,
    patterns,
    placing,
    refiling,
    tags,
)
from mobbet.actions.permalinks import category_subjects
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.facts import Subject
from mobbet.core.permalinks import short_path
from mobbet.store import blogs, editions, filing, placements
from mobbet.store import posts as store
from mobbet.store.posts import Post
from tests.shops import ShopCase, picture

PATTERNS = (
    "/{category}/{slug}/",
    "/{slug}/",
    "/{year}/{month}/{slug}/",
    "/{category-path}/{slug}/",
    "/notes/{year}-{slug}/",
    "/{year}/{category}/{day}-{slug}/",
)
NAMES = ("Lamps", "Wiring", "Glue", "Zips", "Clocks", "Repairs", "Odds", "Ends")


class FilingCase(ShopCase):
    def number(self, path: str) -> int:
        return categories.find(self.shop, self.fresh, path)

    @property
    def fresh(self) -> blogs.Blog:
        return blogs.by_id(self.shop.db, self.blog.id)

    def subjects(self) -> dict[int, Subject]:
        return category_subjects(self.shop, self.fresh)

    def paths(self, post: Post) -> list[str]:
        return [row.path for row in placements.of_post(self.shop.db, post.id)]

    def public(self) -> set[str]:
        return {row.path for row in editions.pages(self.shop.db, self.blog.id)}


class RandomFilingTests(FilingCase):
    def setUp(self) -> None:
        super().setUp()
        for number in range(14):
            self.write(
                f"Post {number % 9}",
                date=f"2026-0{number % 8 + 1}-1{number % 9}",
                categories=f"{NAMES[number % 4]} > {NAMES[4 + number % 4]}",
                tags=("flex", "flex, oil", "rust")[number % 3],
            )
        self.publish()

    def step(self, chance: random.Random) -> None:
        """One change of the filing by chance; those that are refused are none."""
        subjects, names = (
            list(self.subjects()),
            [tag.id for tag in filing.tag_counts(self.shop.db, self.blog.id)],
        )
        one, other = chance.choice(subjects), chance.choice(subjects)
        kind = chance.choice(
            (
                "rename",
                "slug",
                "move",
                "merge",
                "remove",
                "pattern",
                "refile",
                "tag",
                "untag",
                "withdraw",
                "below",
                "undo",
            )
        )
        shop, me = self.shop, self.me
        if kind == "rename":
            categories.rename(shop, me, "bench", one, chance.choice(NAMES))
        elif kind == "slug":
            categories.set_slug(shop, me, "bench", one, chance.choice(NAMES).lower() + "-x")
        elif kind == "move":
            category_tree.move(shop, me, "bench", one, chance.choice((None, other)))
        elif kind == "merge" and len(subjects) > 3:
            category_tree.merge(shop, me, "bench", one, other)
        elif kind == "remove" and len(subjects) > 3:
            category_tree.remove(shop, me, "bench", one, chance.choice((None, other)))
        elif kind == "pattern":
            patterns.set_pattern(shop, me, "bench", chance.choice(PATTERNS))
        elif kind == "refile":
            categories.refile_posts(
                shop, me, "bench", chance.sample(range(1, 15), 4), add=[one], take=[other]
            )
        elif kind == "tag":
            tags.rename(
                shop, me, "bench", chance.choice(names), chance.choice(("flex", "wax", "felt", "thread"))
            )
        elif kind == "untag" and len(names) > 1:
            tags.merge(shop, me, "bench", *chance.sample(names, 2))
        elif kind == "withdraw":
            placing.withdraw(shop, me, chance.randrange(1, 15))
        elif kind == "below":
            categories.describe(
                shop, me, "bench", one, description="", picture=None, shows_below=chance.random() < 0.5
            )
        elif kind == "undo":
            newest = refiling.changes.newest(shop.db, self.blog.id)
            if newest:
                refiling.undo(shop, me, self.fresh, newest)

    def test_whatever_is_refiled_the_small_editions_are_the_whole_site_and_no_address_is_lost(self) -> None:
        for seed in range(4):
            with self.subTest(seed):
                self.walk(random.Random(seed))

    def walk(self, chance: random.Random) -> None:
        ever = self.public()
        for _ in range(14):
            try:
                self.step(chance)
            except (BadInput, Refused):
                continue
            self.clock.forward(60)
            self.publish()
            ever |= self.public()
        drawn = {path for path in self.site() if not path.startswith("/media/card-")}
        rows = {
            row.path: row
            for row in editions.pages(self.shop.db, self.blog.id)
            if not row.key.startswith("card/")
        }
        self.assertEqual({path for path, row in rows.items() if row.audience == "everyone"}, drawn)
        for path, body in self.site().items():
            if path in rows:
                self.assertEqual(self.without_server(rows[path]), body, path)
        self.assertEqual(consistency.problems(self.shop), [])
        self.assert_answered(ever)

    def assert_answered(self, ever: set[str]) -> None:
        """Each address that was ever public is a page, leads to one in one step, or says that its post is gone."""
        for path in ever:
            if path.startswith("/media/"):
                continue
            answer = addresses.resolve(self.shop, self.fresh, path)
            self.assertIn(answer.kind, ("page", "leads-on", "gone"), path)
            if answer.kind == "leads-on":
                self.assertEqual(
                    addresses.resolve(self.shop, self.fresh, answer.path).kind,
                    "page",
                    f"{path} to {answer.path}",
                )


class CategoryTests(FilingCase):
    def setUp(self) -> None:
        super().setUp()
        self.flex = self.write("Flex", date="2026-01-01", categories="Lamps > Wiring", tags="flex, solder")
        self.zip = self.write("Zip", date="2026-01-02", categories="Zips", tags="flex")
        self.publish()

    def test_a_new_name_takes_the_address_along_and_the_old_one_leads_on(self) -> None:
        categories.rename(self.shop, self.me, "bench", self.number("Lamps > Wiring"), "Cables")
        self.publish()
        self.assertEqual(self.paths(self.flex), ["/cables/flex/"])
        for old, new in (
            ("/wiring/", "/cables/"),
            ("/wiring/flex/", "/cables/flex/"),
            ("/wiring/feed.rss", "/cables/feed.rss"),
        ):
            self.assertEqual(addresses.resolve(self.shop, self.fresh, old), addresses.Answer("leads-on", new))

    def test_a_category_cannot_stand_below_itself_or_beside_its_namesake(self) -> None:
        lamps, wiring = self.number("Lamps"), self.number("Lamps > Wiring")
        with self.assertRaisesRegex(BadInput, "“Lamps” cannot stand below itself"):
            category_tree.move(self.shop, self.me, "bench", lamps, wiring)
        categories.add(self.shop, self.me, "bench", "Zips > Wiring")
        with self.assertRaisesRegex(BadInput, "There is a category “Wiring” in “Zips” already"):
            category_tree.move(self.shop, self.me, "bench", wiring, self.number("Zips"))

    def test_merging_moves_posts_parts_and_addresses(self) -> None:
        done = category_tree.merge(self.shop, self.me, "bench", self.number("Lamps"), self.number("Zips"))
        self.publish()
        self.assertEqual(done.words, "“Lamps” is part of “Zips” now: 0 posts moved.")
        self.assertEqual(self.number("Zips > Wiring"), 2)
        self.assertEqual(addresses.resolve(self.shop, self.fresh, "/lamps/").path, "/zips/")

    def test_what_was_merged_comes_apart_again(self) -> None:
        before = self.site()
        done = category_tree.merge(
            self.shop, self.me, "bench", self.number("Zips"), self.number("Lamps > Wiring")
        )
        self.publish()
        self.assertNotEqual(before, self.site())
        refiling.undo(self.shop, self.me, self.fresh, done.number)
        self.publish()
        after = self.site()
        self.assertEqual({path: body for path, body in after.items() if path in before}, before)
        with self.assertRaisesRegex(Refused, "undone already"):
            refiling.undo(self.shop, self.me, self.fresh, done.number)

    def test_only_the_last_change_is_undone(self) -> None:
        first = categories.rename(self.shop, self.me, "bench", self.number("Zips"), "Fasteners")
        categories.rename(self.shop, self.me, "bench", self.number("Fasteners"), "Closures")
        with self.assertRaisesRegex(Refused, "changed again since"):
            refiling.undo(self.shop, self.me, self.fresh, first.number)

    def test_a_removed_category_sends_its_posts_where_one_says(self) -> None:
        category_tree.remove(self.shop, self.me, "bench", self.number("Lamps > Wiring"), self.number("Zips"))
        self.publish()
        self.assertEqual(self.paths(self.flex), ["/zips/flex/"])
        self.assertEqual(addresses.resolve(self.shop, self.fresh, "/wiring/flex/").path, "/zips/flex/")

    def test_what_was_below_a_removed_category_is_published_as_it_stands_then(self) -> None:
        patterns.set_pattern(self.shop, self.me, "bench", "/{category-path}/{slug}/")
        self.publish()
        category_tree.remove(self.shop, self.me, "bench", self.number("Lamps"), None)
        self.publish()
        self.assertEqual(self.paths(self.flex), ["/wiring/flex/"])
        rows = {row.path: row for row in editions.pages(self.shop.db, self.blog.id)}
        self.assertNotIn(b"Lamps", self.body(rows["/wiring/flex/"]))

    def test_a_removed_category_may_have_one_of_its_own_name_below_it(self) -> None:
        categories.add(self.shop, self.me, "bench", "Zips > Zips")
        category_tree.remove(self.shop, self.me, "bench", self.number("Zips"), None)
        self.assertIn("Zips 2", [subject.name for subject in self.subjects().values()])

    def test_posts_go_to_a_subcategory_even_where_it_becomes_part_of_its_namesake(self) -> None:
        categories.add(self.shop, self.me, "bench", "Wiring")
        category_tree.remove(self.shop, self.me, "bench", self.number("Lamps"), self.number("Lamps > Wiring"))
        self.assertEqual(self.paths(self.flex), ["/wiring-2/flex/"])
        self.assertEqual(consistency.problems(self.shop), [])

    def test_a_category_is_split_by_a_tag(self) -> None:
        number = self.number("Lamps > Wiring")
        done = category_tree.split(self.shop, self.me, "bench", number, "solder")
        self.assertEqual(done.words, "1 post of “Wiring” tagged “solder” went to “Wiring > Solder”.")
        self.assertEqual(
            store.categories(self.shop.db, self.flex.id), [self.number("Lamps > Wiring > Solder")]
        )
        with self.assertRaisesRegex(BadInput, "No post of “Wiring” has the tag “flex”"):
            category_tree.split(self.shop, self.me, "bench", number, "flex")

    def test_posts_without_a_category_fall_under_the_catch_all_that_the_owner_names(self) -> None:
        categories.add(self.shop, self.me, "bench", "Notes")
        categories.set_catch_all(self.shop, self.me, "bench", self.number("Notes"))
        self.publish()
        self.assertNotIn("/notes/", self.public())
        post = self.write("Loose", date="2026-01-03")
        self.publish()
        self.assertEqual((self.paths(post), "/notes/" in self.public()), (["/notes/loose/"], True))

    def test_the_blogs_rule_is_asked_when_a_post_is_placed_and_never_while_it_is_written(self) -> None:
        categories.set_rule(self.shop, self.me, "bench", "1", "2", "One is enough.")
        post = self.write("Loose")
        with self.assertRaisesRegex(
            BadInput, "asks for one category, and the post has none; choose one in the docket. One is enough."
        ):
            placing.place(self.shop, self.me, post.id)
        docket_lines.set_categories(self.shop, self.me, post.id, "1", ["2", "3"])
        with self.assertRaisesRegex(BadInput, "allows two categories at the most, and the post has three"):
            placing.place(self.shop, self.me, post.id)

    def test_a_page_may_leave_the_posts_of_its_parts_out(self) -> None:
        categories.describe(
            self.shop,
            self.me,
            "bench",
            self.number("Lamps"),
            description="All *lamps*.",
            picture=None,
            shows_below=False,
        )
        self.publish()
        page = self.site()["/lamps/"].decode()
        self.assertIn("<em>lamps</em>", page)
        self.assertNotIn("/wiring/flex/", page)
        self.assertIn(
            'href="../lamps/"', self.site()["/wiring/flex/"].decode().replace("../../lamps/", "../lamps/")
        )
        self.assertNotIn("/lamps/feed.atom", self.public())

    def test_the_footprint_of_a_change_is_known_and_nothing_is_kept_of_it(self) -> None:
        number = self.number("Zips")
        effect = footprints.effect_of_filing(
            self.shop,
            self.blog,
            lambda shop: category_tree.move(shop, self.me, "bench", number, self.number("Lamps")),
        )
        altered = {page.path for page in effect.pages}
        self.assertTrue(
            {"/zips/", "/zips/zip/", "/lamps/", "/lamps/feed.atom", "/subjects/"} <= altered, altered
        )
        self.assertIsNone(self.subjects()[number].parent_id)
        self.assertEqual(self.publish().written, 0)

    def test_many_posts_are_filed_at_once(self) -> None:
        done = categories.refile_posts(
            self.shop, self.me, "bench", [self.flex.id, self.zip.id], add=[1], main=3
        )
        self.assertEqual(done.words, "2 posts are filed under Zips and Lamps.")
        self.assertEqual(
            [store.categories(self.shop.db, post.id) for post in (self.flex, self.zip)], [[3, 2, 1], [3, 1]]
        )
        with self.assertRaisesRegex(NotFound, "no post with the number 99"):
            categories.refile_posts(self.shop, self.me, "bench", [99], add=[1])

    def test_an_address_once_public_is_never_given_to_another(self) -> None:
        categories.rename(self.shop, self.me, "bench", self.number("Zips"), "Fasteners")
        self.publish()
        categories.add(self.shop, self.me, "bench", "Zips")
        self.assertEqual(self.subjects()[self.number("Zips")].slug, "zips-2")
        with self.assertRaisesRegex(BadInput, "Something else has, or had, the address /zips/"):
            categories.set_slug(self.shop, self.me, "bench", self.number("Zips"), "zips")

    def test_writers_do_not_change_the_filing(self) -> None:
        from mobbet.actions import blogs as blog_actions
        from mobbet.actions import people

        writer = people.add_person(
            self.shop, name="Petra Quill", email="p@bench.example", password="a long password"
        )
        blog_actions.add_member(self.shop, self.blog, writer, "writer")
        with self.assertRaisesRegex(NotAllowed, "Only the owner and the editors"):
            categories.rename(self.shop, writer, "bench", 1, "Lights")
        done = categories.rename(self.shop, self.me, "bench", 1, "Lights")
        with self.assertRaisesRegex(NotAllowed, "Only the owner and the editors"):
            refiling.undo(self.shop, writer, self.fresh, done.number)


class TagTests(FilingCase):
    def setUp(self) -> None:
        super().setUp()
        self.one = self.write("One", date="2026-01-01", tags="solder, Fuses")
        self.two = self.write("Two", date="2026-01-02", tags="soldering, flex, Fuses")
        self.write("Three", tags="wax")
        self.publish()

    def tag(self, name: str) -> int:
        return tags.find(self.shop, self.blog, name)

    def test_near_doubles_are_found_across_the_blog_and_as_one_types(self) -> None:
        self.assertEqual(
            [(one.tag.name, one.into.name) for one in tags.near_doubles(self.shop, self.blog)],
            [("soldering", "solder")],
        )
        self.assertEqual(
            [(one.one, one.other) for one in tags.alike(self.shop, self.blog, ["fuse", "flex"])],
            [("fuse", "Fuses")],
        )

    def test_merged_and_removed_tags_lead_on(self) -> None:
        tags.merge(self.shop, self.me, "bench", self.tag("soldering"), self.tag("solder"))
        tags.remove(self.shop, self.me, "bench", self.tag("flex"))
        self.publish()
        self.assertEqual(addresses.resolve(self.shop, self.fresh, "/tag/soldering/").path, "/tag/solder/")
        self.assertEqual(addresses.resolve(self.shop, self.fresh, "/tag/flex/").path, "/subjects/")
        self.assertEqual(
            [tag.name for tag in filing.tags(self.shop.db, store.tags(self.shop.db, self.two.id))],
            ["solder", "Fuses"],
        )

    def test_a_taken_name_asks_to_merge(self) -> None:
        with self.assertRaisesRegex(
            BadInput, "There is a tag “solder” already; merge “soldering” into it instead."
        ):
            tags.rename(self.shop, self.me, "bench", self.tag("soldering"), "Solder")

    def test_seldom_used_tags_are_told_with_their_remedy(self) -> None:
        docket_lines.set_line(self.shop, self.me, self.one.id, "excerpt", "x")
        found = tags.seldom(self.shop, self.blog)
        self.assertEqual([one.tag.name for one in found["once"]], ["flex", "solder", "soldering", "wax"])
        self.assertEqual(found["never"], [])

    def test_tags_are_proposed_from_the_text(self) -> None:
        post = self.write(
            "Soldering a loose wire",
            body="Solder the wire. A wire that is not soldered falls off. The iron must be hot; the iron is slow.",
        )
        known, new = tags.proposals(self.shop, post, self.blog)
        self.assertIn("solder", known)
        self.assertIn("loose wire", new)


class AddressTests(FilingCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = self.write("Flex and fuse", date="2026-01-05", categories="Lamps")
        self.publish()

    def answer(self, path: str) -> tuple[str, str]:
        found = addresses.resolve(self.shop, self.fresh, path)
        return found.kind, found.path

    def test_a_pattern_moves_every_post_and_says_how_many_before(self) -> None:
        tried = patterns.try_pattern(self.shop, self.blog, "/{year}/{slug}")
        self.assertEqual(
            (tried.title, tried.before, tried.path, tried.moved),
            ("Flex and fuse", "/lamps/flex-and-fuse/", "/2026/flex-and-fuse/", 1),
        )
        self.assertEqual(patterns.set_pattern(self.shop, self.me, "bench", "/{year}/{slug}"), 1)
        self.publish()
        self.assertEqual(self.answer("/lamps/flex-and-fuse/"), ("leads-on", "/2026/flex-and-fuse/"))
        patterns.set_pattern(self.shop, self.me, "bench", "/{category}/{slug}/")
        self.publish()
        self.assertEqual(self.answer("/2026/flex-and-fuse/"), ("leads-on", "/lamps/flex-and-fuse/"))

    def test_every_spelling_leads_to_the_one_form(self) -> None:
        for asked in (
            "/lamps/flex-and-fuse",
            "/Lamps/Flex-And-Fuse/",
            "//lamps//flex-and-fuse/",
            "/lamps/flex-and-fuse/index.html",
            short_path(self.post.id).rstrip("/"),
        ):
            with self.subTest(asked):
                self.assertEqual(self.answer(asked), ("leads-on", "/lamps/flex-and-fuse/"))
        self.assertEqual(self.answer("/lamps/flex-and-fuse/"), ("page", "/lamps/flex-and-fuse/"))

    def test_a_file_of_a_picture_leads_to_what_the_picture_has_in_its_place(self) -> None:
        item = library.add_picture(self.shop, self.me, self.blog, "lamp.png", picture(1700, 900))
        post = self.write("A lamp", f"![A lamp](media:{item.id})", date="2026-01-06")
        self.publish()
        before = self.files()
        library.set_recipe(self.shop, self.me, item.id, {"crop": [0, 0, 0.5, 1]})
        self.publish()
        now = self.files()
        for path in before.keys() - now.keys():
            kind, new = self.answer(path)
            self.assertEqual((kind, now[new].split("/")[2:4]), ("leads-on", before[path].split("/")[2:4]))
        self.assertIn(
            (f"media/{item.id}/whole/image/webp/1600", f"media/{item.id}/whole/image/webp/800"),
            {(key, now.get(self.answer(path)[1])) for path, key in before.items()},
        )
        placing.withdraw(self.shop, self.me, post.id)
        self.publish()
        self.assertEqual({self.answer(path)[0] for path in (*before, *now)}, {"nothing"})

    def files(self) -> dict[str, str]:
        """{path: key} of the library's files that readers may have."""
        return {
            page.path: page.key
            for page in editions.pages(self.shop.db, self.blog.id)
            if page.shelf == "media"
        }

    def test_old_addresses_of_a_previous_site_lead_on_and_follow_the_post(self) -> None:
        self.assertEqual(
            old_addresses.add(self.shop, self.me, "bench", "/?p=12", "/lamps/flex-and-fuse/"),
            "/lamps/flex-and-fuse/",
        )
        old_addresses.add(
            self.shop, self.me, "bench", "https://bench.example/2019/Flex.html", "/lamps/flex-and-fuse/"
        )
        patterns.set_pattern(self.shop, self.me, "bench", "/{slug}/")
        self.publish()
        self.assertEqual(self.answer("/?p=12"), ("leads-on", "/flex-and-fuse/"))
        self.assertEqual(self.answer("/2019/flex.html"), ("leads-on", "/flex-and-fuse/"))

    def test_addresses_that_cannot_lead_on_are_refused_in_words(self) -> None:
        for old, new, words in (
            ("/lamps/", "/archive/", "is a page of this site"), ("", "/lamps/", "is no address"), ("/old/", "/nowhere/", "Nothing stands at “/nowhere/”"),
            ("/lamps/flex-and-fuse/", "/lamps/", "is a page of this site"), ("/old/", "javascript:alert(1)", "is no address to lead to"), ("/", "/lamps/", "The front page cannot lead on"),
        ):  # fmt: skip
            with self.subTest(old), self.assertRaisesRegex(BadInput, words):
                old_addresses.add(self.shop, self.me, "bench", old, new)

    def test_a_file_of_old_addresses_is_read_with_its_slips_told_by_line(self) -> None:
        done = old_addresses.bring_in(
            self.shop, self.me, "bench", "old;new\n/a.html;/lamps/\n/b.html;/nowhere/\n"
        )
        self.assertEqual(
            (done.added, done.refused),
            (1, ((3, "Nothing stands at “/nowhere/” on this site; check the address it is to lead to."),)),
        )
        with self.assertRaisesRegex(BadInput, "Line 1 has no second column"):
            old_addresses.bring_in(self.shop, self.me, "bench", "/a.html\n")

    def test_a_withdrawn_post_is_gone_and_names_its_neighbours(self) -> None:
        other = self.write("Beside it", date="2026-01-06", categories="Lamps")
        placing.withdraw(self.shop, self.me, self.post.id)
        self.publish()
        self.assertEqual(self.answer("/lamps/flex-and-fuse/")[0], "gone")
        self.assertEqual(
            [row.post_id for row in addresses.neighbours_of(self.shop, self.blog, self.post.id)], [other.id]
        )

    def test_what_readers_miss_is_listed_with_the_likeliest_target(self) -> None:
        missing_pages.count(
            self.shop, self.blog.id, {("/lamp/flex-and-fuses/", False): 3, ("/elsewhere/", False): 1}
        )
        found = missing_pages.unresolved(self.shop, self.blog)
        self.assertEqual(
            [(one.path, one.hits, one.likely) for one in found],
            [
                ("/lamp/flex-and-fuses/", 3, ("/lamps/flex-and-fuse/", "Flex and fuse")),
                ("/elsewhere/", 1, None),
            ],
        )
        old_addresses.add(self.shop, self.me, "bench", "/lamp/flex-and-fuses/", "/lamps/flex-and-fuse/")
        self.assertEqual(len(missing_pages.unresolved(self.shop, self.blog)), 1)


class NamedInFilesTests(ShopCase):
    def filed(self, name: str) -> list[str]:
        post = self.write(f"Filed under {name}", categories=name)
        subjects = filing.subjects(self.shop.db, self.blog.id)
        return [subjects[number].name for number in store.categories(self.shop.db, post.id)]

    def test_a_file_means_the_one_category_of_that_name_wherever_it_stands(self) -> None:
        self.write("One", categories="Textiles > Zips")
        self.assertEqual(self.filed("zips"), ["Zips"])
        self.assertEqual(len(filing.subjects(self.shop.db, self.blog.id)), 2)
        self.write("Two", categories="Bags > Zips")
        with self.assertRaisesRegex(
            BadInput,
            "“Zips” is the name of several categories, “Textiles > Zips” and “Bags > Zips”; write the whole path.",
        ):
            self.filed("Zips")
        self.assertEqual(self.filed("Bags > Zips"), ["Zips"])
        self.assertEqual(self.filed("Buttons"), ["Buttons"])
