"""The Filing screen, the docket's checks and the public addresses, as a browser without scripts gets them."""

import io
import re

from mobbet.actions import categories, house_facts, library, missing_pages, placing
from mobbet.core.permalinks import short_path
from mobbet.store import addresses as address_store
from mobbet.store import blogs, filing
from mobbet.store import posts as store
from mobbet.web.public.place import on_own_host, with_place
from mobbet.web.public.site import Site
from mobbet.web.public.tally import Tally
from tests.shops import picture
from tests.web.test_web import WebCase


class FilingRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.flex = self.write("A flex", date="2026-01-01", categories="Lamps > Wiring", tags="flex, solder")
        self.loose = self.write("A loose end", date="2026-01-02", tags="soldering")
        self.publish()

    def change(self, kind: str, number: int, what: str, **fields: str) -> str:
        return self.post(f"/desk/bench/filing/{kind}/{number}/{what}", **fields).text

    def test_the_tree_and_the_map_count_posts(self) -> None:
        text = self.get("/desk/bench/filing?in=1").text
        told = " ".join(re.sub(r"<[^>]*>", " ", text).split())
        self.assertIn("Lamps , level 1: · own 1 with parts · to come", told)
        self.assertIn("Wiring: 1 post, newest", text)
        self.assertIn("1 post without a category of its own", text)

    def test_a_change_shows_its_footprint_then_happens_then_is_undone(self) -> None:
        tried = self.change("category", 1, "rename", name="Lights")
        self.assertIn("If you go on: “Lamps” is called “Lights” now.", tried)
        self.assertRegex(tried, r"Footprint · \d+ pages of the site")
        self.assertEqual(filing.category(self.shop.db, 1, 1).name, "Lamps")
        answer = self.post("/desk/bench/filing/category/1/rename", name="Lights", sure="yes")
        told = self.get(answer.headers["location"]).text
        self.assertIn("“Lamps” is called “Lights” now.", told)
        number = re.search(r"/filing/undo/(\d+)", told)[1]
        self.post(f"/desk/bench/filing/undo/{number}")
        self.assertEqual(filing.category(self.shop.db, 1, 1).name, "Lamps")

    def test_what_is_refused_keeps_what_was_typed(self) -> None:
        refused = self.post("/desk/bench/filing/category/2/merge", into="Nowhere")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("There is no category “Nowhere” at the top; there are: Lamps.", refused.text)
        self.assertIn(
            "has an empty category name",
            self.ask("POST", "/desk/bench/filing/add", data={"path": "Lamps > "}).text,
        )
        self.assertIn("type one from 0 to 20", self.post("/desk/bench/filing/rules", least="many").text)

    def test_the_owner_names_the_catch_all_and_the_rule(self) -> None:
        self.post("/desk/bench/filing/rules", what="catch-all", catch_all="Lamps")
        self.post("/desk/bench/filing/rules", least="1", most="2", help="One is enough.")
        blog = blogs.by_slug(self.shop.db, "bench")
        self.assertEqual((blog.catch_all, blog.least_categories, blog.filing_help), (1, 1, "One is enough."))
        self.assertIn("at least one category and two at the most", self.get("/desk/bench/filing").text)

    def test_a_picture_of_a_category_is_found_by_sight(self) -> None:
        rows = [
            library.add_stream(self.shop, self.me, self.blog, f"{name}.png", io.BytesIO(picture(color=color)))
            for name, color in (("kettle", "#b3461e"), ("radio", "#1e46b3"))
        ]
        found = self.get(f"/desk/bench/filing/pictures?find=kettle&chosen={rows[1].id}").text
        self.assertIn("1 picture with “kettle”.", found)
        self.assertRegex(found, rf'value="{rows[1].id}" checked')
        self.assertIn(f"/pictures/{rows[0].id}", found)
        self.assertIn("0 pictures with “zz”.", self.get("/desk/bench/filing/pictures?find=zz").text)

    def test_a_rule_that_asks_for_one_says_nothing_of_the_catch_all(self) -> None:
        self.assertIn("without any it falls under", self.get("/desk/bench/filing").text)
        self.post("/desk/bench/filing/rules", least="1", most="1", help="")
        text = self.get("/desk/bench/filing").text
        self.assertIn("exactly one category", text)
        self.assertIn("without, it does not go out", text)
        self.assertNotIn("falls under", text)
        docket = self.get(f"/posts/{self.loose.id}").text
        self.assertNotIn("Also under", docket)
        self.assertNotIn("falls under", docket)

    def test_worklists_go_from_post_to_post(self) -> None:
        text = self.get("/desk/bench/filing/worklist/unfiled").text
        self.assertIn("A loose end", text)
        tried = self.post(
            "/desk/bench/filing/worklist/unfiled", post=str(self.loose.id), category="2", act="try"
        ).text
        self.assertIn("this post’s page", tried)
        done = self.post("/desk/bench/filing/worklist/unfiled", post=str(self.loose.id), category="2")
        self.assertIn("Nothing is left to file", self.get(done.headers["location"]).text)
        self.assertEqual(
            self.get("/b/bench/posts/a-loose-end/").headers["location"], "/b/bench/wiring/a-loose-end/"
        )
        self.assertIn(
            "No category is chosen", self.post("/desk/bench/filing/worklist/unfiled", post="1").text
        )

    def test_several_posts_are_filed_at_once(self) -> None:
        chosen = f"post={self.flex.id}&post={self.loose.id}"
        self.assertIn("File 2 posts at once", self.get(f"/desk/bench/filing/several?{chosen}").text)
        fields = {"post": [str(self.flex.id), str(self.loose.id)], "add": ["1"], "tag": "bench"}
        self.assertIn(
            "2 posts are filed under Lamps.", self.post("/desk/bench/filing/several", **fields).text
        )
        self.post("/desk/bench/filing/several", sure="yes", **fields)
        self.assertEqual(store.categories(self.shop.db, self.loose.id), [1])
        self.assertIn(
            "Nothing is to be changed yet", self.post("/desk/bench/filing/several", post=["1"]).text
        )

    def test_tags_are_merged_with_the_remedy_that_is_offered(self) -> None:
        remedies = self.get("/desk/bench/filing/tags/remedies").text
        self.assertIn("Merge into “solder”", remedies)
        number, into = re.search(r"/tag/(\d+)/merge.*?value=\"(\d+)\"", remedies, re.DOTALL).groups()
        self.post(f"/desk/bench/filing/tag/{number}/merge", into=into, sure="yes")
        self.assertNotIn("soldering", filing.tag_names(self.shop.db, 1))
        self.assertEqual(self.get("/b/bench/tag/soldering/").headers["location"], "/b/bench/tag/solder/")

    def test_a_pattern_shows_a_real_post_before_it_moves_any(self) -> None:
        tried = self.post("/desk/bench/filing/addresses/pattern", pattern="/{year}/{slug}").text
        self.assertIn(
            "“A loose end” would move from /posts/a-loose-end/ to /2026/a-loose-end/. 2 posts move; every old address leads to the new one.",
            tried,
        )
        self.post("/desk/bench/filing/addresses/pattern", pattern="/{year}/{slug}", sure="yes")
        self.assertEqual(self.get("/b/bench/wiring/a-flex/").headers["location"], "/b/bench/2026/a-flex/")
        self.assertIn(
            "does not end with {slug}", self.post("/desk/bench/filing/addresses/pattern", pattern="/x/").text
        )

    def test_old_addresses_are_added_by_hand_and_from_a_file(self) -> None:
        self.post("/desk/bench/filing/addresses/add", old="/?p=12", new="/wiring/a-flex/")
        self.assertEqual(self.get("/b/bench/?p=12").headers["location"], "/b/bench/wiring/a-flex/")
        files = {"file": ("old.csv", b"old,new\n/a.html,/wiring/\n/b.html,/nothing/\n", "text/csv")}
        text = self.ask("POST", "/desk/bench/filing/addresses/import", files=files).text
        self.assertIn("1 old address leads to the new one now.", text)
        self.assertIn("Line 3</b> Nothing stands at “/nothing/”", text)
        self.assertEqual(self.get("/b/bench/a.html").headers["location"], "/b/bench/wiring/")


class CheckTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.other = self.write("Flex", date="2026-01-01", tags="solder")
        self.draft = self.write("Flex and all that one should know about it", tags="fuse")

    def check(self, what: str, **values: str) -> str:
        query = "&".join(f"{name}={value}" for name, value in values.items())
        return self.get(f"/posts/{self.draft.id}/docket/check/{what}?{query}").text

    def test_an_address_is_checked_while_it_is_typed(self) -> None:
        self.assertIn("/posts/bend/ is free, 4 letters.", self.check("slug", value="bend"))
        self.assertIn(
            "/posts/flex/ belongs to “Flex”; /posts/flex-2/ is free.", self.check("slug", value="flex")
        )
        self.assertIn("cannot be part of an address", self.check("slug", value="a b"))
        self.assertIn('data-words="flex-all-one"', self.check("slug"))

    def test_tags_are_found_and_doubles_told_while_they_are_typed(self) -> None:
        self.assertIn(
            "“soldering” beside “solder”: two forms of one word", self.check("tags", value="soldering")
        )
        self.assertIn(">solder</button>", self.check("tags", value="fuse, so"))
        self.assertIn("New on this blog: wax.", self.check("tags", value="wax"))

    def test_a_typed_path_says_what_it_will_make(self) -> None:
        self.assertIn(
            "“Lamps” and “Lamps &gt; Wiring” are made", self.check("category", new="Lamps > Wiring")
        )
        self.assertIn("empty category name", self.check("category", new="Lamps >"))

    def test_a_search_result_is_measured(self) -> None:
        self.assertIn("The title is cut after “word word", self.check("search", title="word " * 30))

    def test_the_footprint_is_told_and_a_reason_where_there_is_none(self) -> None:
        self.assertIn("this post’s page", self.check("footprint"))
        placing.place(self.shop, self.me, self.draft.id)
        self.publish()
        self.assertEqual(self.check("footprint").strip(), "")  # nothing is left to send

    def test_a_time_is_checked_as_it_is_said(self) -> None:
        self.write("Beside it", date="2026-11-26 12:00")
        self.assertIn("Thu 26 Nov 2026 at 18:30, in 8 days", self.check("when", said="26/11 18:30"))
        self.assertIn("That day also: “Beside it”.", self.check("when", said="26/11 18:30"))
        self.assertIn("goes out at once", self.check("when", said="yesterday"))
        self.assertIn("skip 01:30", self.check("when", said="2027-03-28 1:30"))
        self.assertIn("is no time that Mobbet understands", self.check("when", said="soon"))
        self.assertIn("Thu 26 Nov at 18:30", self.settle("goes-out", said="26/11 18:30", when="then"))

    def test_a_month_shows_what_goes_out(self) -> None:
        self.write("Beside it", date="2026-11-26 12:00")
        month = self.check("month")
        self.assertIn("November 2026", month)
        self.assertIn('aria-label="2026-11-26: Beside it"', month)
        self.assertIn("February 2027", self.check("month", month="2027-02"))
        self.assertIn("November 2026", self.check("month", month="nonsense"))

    def test_the_coast_is_drawn_around_a_point(self) -> None:
        self.assertIn("<circle", self.check("coast", value="38.7,-9.1"))
        self.assertIn("Nearer", self.check("coast", value="nonsense", degrees="20"))

    def test_a_share_card_is_drawn(self) -> None:
        self.assertEqual(self.get(f"/posts/{self.draft.id}/card.png").content[:4], b"\x89PNG")

    def settle(self, sheet: str, **values: object) -> str:
        return self.post(f"/posts/{self.draft.id}/docket/{sheet}", **values).text

    def test_how_a_post_is_shown_is_settled_on_the_docket(self) -> None:
        self.assertIn("as you chose", self.settle("lead", value="block:0"))
        self.assertIn(
            "a heading without the date",
            self.settle(
                "heading", kind="standard", part=["categories", "title", "subtitle", "byline", "lead"]
            ),
        )
        self.assertIn(">at the top</span>", self.settle("front", front="top"))
        self.assertIn("called “Flex and all that one", self.settle("menu", words=""))
        self.assertIn(
            ">Port Alder</span>", self.settle("place", name="Port Alder", point="39.6, -9.1", map="yes")
        )
        self.assertIn("is no point on the earth", self.settle("place", name="Port Alder", point="99, 99"))
        placing.place(self.shop, self.me, self.draft.id)
        self.publish()
        path = f"/b/bench/posts/{self.again(self.draft).slug}/"
        page = self.get(path).text
        for words in (
            '<div class="text lead">',
            'content="39.6;-9.1"',
            '<svg class="coast"',
            '"@type":"Place"',
        ):
            self.assertIn(words, page)
        self.assertNotIn("<time", page.partition("</header>")[2].partition("</header>")[0])
        front = self.get("/b/bench/").text
        self.assertLess(front.index("all that one should know"), front.index(">Flex<"))
        self.assertIn(">Flex and all that one should know about it</a></li>", front)

    def test_a_post_without_a_heading_has_its_title_for_those_who_listen(self) -> None:
        self.settle("heading", kind="none")
        placing.place(self.shop, self.me, self.draft.id)
        self.publish()
        page = self.get(f"/b/bench/posts/{self.again(self.draft).slug}/").text
        self.assertIn('<h1 class="unseen p-name">', page)
        self.assertNotIn('class="by"', page)


class PublicAddressTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.lamp = self.write("A lamp", date="2026-01-01", categories="Lamps")
        self.other = self.write("Another lamp", date="2026-01-02", categories="Lamps")
        self.publish()

    def test_a_withdrawn_post_answers_410_and_offers_its_neighbours(self) -> None:
        placing.withdraw(self.shop, self.me, self.lamp.id)
        self.publish()
        gone = self.get("/b/bench/lamps/a-lamp/")
        self.assertEqual(gone.status_code, 410)
        self.assertIn('href="/b/bench/lamps/another-lamp/"', gone.text)
        self.assertEqual(self.get(f"/b/bench{short_path(self.lamp.id)}").status_code, 410)

    def test_the_short_address_leads_to_the_post(self) -> None:
        self.assertEqual(
            self.get(f"/b/bench{short_path(self.lamp.id)}".rstrip("/")).headers["location"],
            "/b/bench/lamps/a-lamp/",
        )

    def test_nothing_is_told_of_what_not_everyone_may_read(self) -> None:
        hidden = self.write("Marmalade", date="2026-01-03", visibility="only-me")
        self.publish()
        self.cookies.clear()
        for path in ("/posts/marmalade/", "/posts/Marmalade", short_path(hidden.id)):
            self.assertEqual(self.get(f"/b/bench{path}").status_code, 404)
        placing.withdraw(self.shop, self.me, hidden.id)
        self.publish()
        self.assertEqual(self.get("/b/bench/posts/marmalade/").status_code, 404)

    def test_a_share_card_is_drawn_when_it_is_asked_for(self) -> None:
        path = re.search(
            r'property="og:image" content="https://bench.example(/media/card-[^"]+)"',
            self.get("/b/bench/lamps/a-lamp/").text,
        )[1]
        card = self.get(f"/b/bench{path}")
        self.assertEqual(
            (card.status_code, card.headers["content-type"], card.content[:4]), (200, "image/png", b"\x89PNG")
        )

    def test_every_category_has_its_feeds(self) -> None:
        for ending, type in (
            ("atom", "application/atom+xml"),
            ("rss", "application/rss+xml"),
            ("json", "application/feed+json"),
        ):
            feed = self.get(f"/b/bench/lamps/feed.{ending}")
            self.assertTrue(feed.headers["content-type"].startswith(type))
            self.assertIn("Lamps · The Bench", feed.text)

    def test_asked_addresses_are_counted(self) -> None:
        tally = Tally(self.shop)
        site = Site(self.shop, tally)
        for path, is_known in (
            ("/lamps/a-lamp/", True),
            ("/lamps/a-lamp/", True),
            ("/nowhere/", False),
            ("/x.png", False),
        ):
            tally.count(self.blog.id, path, is_known)
        tally.write()
        self.assertIsNotNone(site)
        self.assertEqual(address_store.hits_of(self.shop.db, self.blog.id, "/lamps/a-lamp/"), 2)
        self.assertEqual([one.path for one in missing_pages.unresolved(self.shop, self.blog)], ["/nowhere/"])

    def test_a_page_that_many_ask_for_at_once_is_counted_once(self) -> None:
        site = Site(self.shop, Tally(self.shop))
        site.has_ready(with_place({}, on_own_host("bench", "/")))
        body = site._load(self.blog, "/")
        for _ in range(3):
            site._load(self.blog, "/")
        self.assertEqual(site._cached_bytes, body.size)

    def test_lists_show_whole_texts_and_leave_categories_out_by_choice(self) -> None:
        give = lambda **typed: house_facts.give_facts(self.shop, self.me, "bench", **typed)  # noqa: E731
        give(label="Notes", read_on="Go on", full_in_lists="yes", categories_in_lists="")
        front = self.get("/b/bench/").text
        self.assertIn('<div class="posts wide h-feed whole">', front)
        self.assertNotIn('<p class="kicker"><a', front)
        self.assertIn(">Notes</a></li>", front)
        give(full_in_lists="", categories_in_lists="yes")
        front = self.get("/b/bench/").text
        self.assertIn("Go on: 1 minute", front)
        self.assertIn("<title>Notes · The Bench</title>", front)
        self.assertIn(
            '<p class="kicker"><a href="./">Notes</a> › <a href="lamps/">'.replace("./", "../../").replace(
                "lamps/", "../../lamps/"
            ),
            self.get("/b/bench/lamps/a-lamp/").text,
        )

    def test_a_category_is_described_on_its_page(self) -> None:
        number = categories.find(self.shop, self.blog, "Lamps")
        categories.describe(
            self.shop, self.me, "bench", number, description="What *shines*.", picture=None, shows_below=True
        )
        self.publish()
        self.assertIn("<em>shines</em>", self.get("/b/bench/lamps/").text)
        self.assertIn("<subtitle>What shines.</subtitle>", self.get("/b/bench/lamps/feed.atom").text)
