import random
from html import unescape

from mobbet.actions import editions, placing, site_search
from mobbet.actions.site_search import Asked, Found
from mobbet.actions.work import unpublished
from mobbet.core.audience import STRANGER, Reader, may_read
from mobbet.core.searching import words_of
from mobbet.publish import site_index
from mobbet.publish.page_words import words_of_page
from mobbet.store import editions as edition_store
from mobbet.store import readers
from mobbet.store import site_search as store
from tests.shops import ShopCase

SIGNED_IN = Reader(person_id=77, is_signed_in=True)


class SearchCase(ShopCase):
    def find(self, words: str, reader: Reader = STRANGER, **narrowed: str) -> Found:
        return site_search.find(self.shop, self.blog, reader, Asked(words, **narrowed))

    def paths(self, words: str, reader: Reader = STRANGER, **narrowed: str) -> list[str]:
        return [one.path for one in self.find(words, reader, **narrowed).results]

    def titles(self, words: str, reader: Reader = STRANGER, **narrowed: str) -> list[str]:
        found = self.find(words, reader, **narrowed).results
        return ["".join(part for part, _ in one.title) for one in found]


class SiteSearchTests(SearchCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("Lamps", "The flex **bro**ke, so the fuse went.", date="2026-11-10", categories="Lamps", tags="flex")  # fmt: skip
        self.radio = self.write(
            "Radios", "A hum, and no fuse at all.", date="2026-11-11", categories="Radios"
        )
        self.draft = self.write("Drafts", "A fuse of tomorrow.")
        self.later = self.write("Later", "A fuse of next week.", date="2026-12-24")
        self.publish()

    def test_words_phrases_and_what_is_left_out_are_found(self) -> None:
        for words, titles in {
            "fuse": {"Lamps", "Radios"}, "FUSE hum": {"Radios"}, '"fuse went"': {"Lamps"}, '"went fuse"': set(), "fuse -hum": {"Lamps"}, "broke": {"Lamps"},
            "radi": {"Radios"}, "tomorrow": set(), "week": set(), "": set(), "***": set(), '"': set(), "in:lamps": set(), "tag:fuse": set(),
        }.items():  # fmt: skip
            with self.subTest(words):
                self.assertEqual(set(self.titles(words)), titles)

    def test_the_place_in_the_text_is_shown_with_the_hits(self) -> None:
        [one] = self.find("flex").results
        self.assertIn(("flex", True), one.place)
        self.assertEqual(one.title, [("Lamps", False)])

    def test_a_slip_is_forgiven(self) -> None:
        found = self.find("flxe")
        self.assertEqual((found.total, found.instead), (1, (("flxe", "flex"),)))
        self.write("Лампа", "Старая лампа мигает.", date="2026-11-12")
        self.publish()
        self.assertEqual(self.find("ламла").instead, (("ламла", "лампа"),))

    def test_results_are_narrowed_to_categories_and_tags(self) -> None:
        found = self.find("fuse")
        self.assertEqual(
            {(one.kind, one.slug, one.count) for one in found.narrowings},
            {("category", "lamps", 1), ("category", "radios", 1), ("tag", "flex", 1)},
        )
        self.assertEqual(self.titles("fuse", category="radios"), ["Radios"])
        self.assertEqual(self.titles("fuse", tag="flex"), ["Lamps"])
        self.assertEqual(self.titles("fuse", category="radios", tag="flex"), [])
        self.assertEqual(self.titles("fuse", category="nothing"), [])

    def test_a_change_and_the_end_of_a_post_are_followed(self) -> None:
        placing.withdraw(self.shop, self.me, self.radio.id)
        self.publish()
        self.assertEqual(self.titles("hum"), [])
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM site_text"), 1)

    def test_an_edition_of_many_posts_waits_for_no_index_and_a_search_finds_them_all(self) -> None:
        with unpublished():
            for number in range(site_index.FEW + 5):
                self.write(f"Many {number}", "grommet", date="2026-11-01")
        self.publish()
        due = self.shop.db.value("SELECT COUNT(*) FROM site_to_index")
        self.assertGreaterEqual(due, site_index.FEW + 5)
        self.assertEqual(self.find("grommet").total, site_index.FEW + 5)

    def test_what_comes_with_time_is_found_once_it_is_out(self) -> None:
        self.clock.forward(40 * 86400)
        self.publish()
        self.assertEqual(self.titles("week"), ["Later"])

    def test_pages_are_found_as_well(self) -> None:
        self.write("About us", "We mend kettles.", date="2026-11-12", kind="page")
        self.publish()
        self.assertEqual(self.titles("kettles"), ["About us"])

    def test_other_scripts_are_found_with_and_without_spaces(self) -> None:
        self.write("時計", "古い時計の直し方です。", date="2026-11-12")
        self.write("Лампа", "Старая лампа мигает.", date="2026-11-12")
        self.publish()
        for words, title in {"時計": "時計", "直し方": "時計", "лампа": "Лампа", "МИГАЕТ": "Лампа"}.items():
            with self.subTest(words):
                self.assertEqual([one.replace(" ", "") for one in self.titles(words)], [title])

    def test_other_blogs_are_not_searched(self) -> None:
        self.assertEqual(
            self.shop.db.value("SELECT COUNT(*) FROM site_page WHERE blog_id <> ?", self.blog.id), 0
        )

    def test_an_edition_that_was_put_back_is_what_is_searched(self) -> None:
        self.write("Kettles", "The limescale.", date="2026-11-13")
        self.publish()
        before = next(
            one.edition.number for one in editions.listed(self.shop, self.blog, 9)[1:] if one.edition.pages
        )
        self.assertEqual(self.titles("limescale"), ["Kettles"])
        editions.put_back(self.shop, self.me, self.blog, before)
        standing = {row.path for row in edition_store.pages(self.shop.db, self.blog.id)}
        self.assertEqual("/posts/kettles/" in standing, bool(self.titles("limescale")))

    def test_what_is_searched_for_in_vain_is_told_after_three_days(self) -> None:
        for day in (20, 21, 22):
            self.assertEqual(site_search.missed(self.shop, self.blog), [])
            site_search.count_missed(self.shop, self.blog.id, day, {"kettle element": 2, f"once {day}": 1})
        self.assertEqual(site_search.missed(self.shop, self.blog), [("kettle element", 6)])
        site_search.keep_as_idea(self.shop, self.me, "bench", "kettle element")
        self.assertEqual(site_search.missed(self.shop, self.blog), [])

    def test_no_address_or_long_text_is_counted(self) -> None:
        for words, counted in {"kettle": "kettle", "ines@bench.example": "", "x" * 61: "", "a": ""}.items():
            with self.subTest(words[:20]):
                self.assertEqual(site_search.missed_words(Found(Asked(words))), counted)


class RightsTests(SearchCase):
    """What restricted posts have leaves no trace for those who may not read them."""

    def setUp(self) -> None:
        super().setUp()
        with self.shop.db.transaction():
            self.group = readers.add_group(self.shop.db, self.blog.id, "Families", "families", self.clock())
        self.kinds = {
            "everyone": STRANGER, "signed-in": SIGNED_IN, "group:Families": Reader(is_signed_in=True, groups=frozenset({self.group})), "only-me": Reader(person_id=self.me.id, is_signed_in=True, works_here=True, sees_all=True),
        }  # fmt: skip
        for number, visibility in enumerate((*self.kinds, "everyone")):
            self.write(f"Post {number}", f"Common marker{number} zebrafish{number}.", date="2026-11-10", visibility=visibility, tags=f"tag{number}")  # fmt: skip
        locked = self.write(
            "Locked", "Common markerlocked.", visibility="password", password="open sesame now"
        )
        placing.place(self.shop, self.me, locked.id)
        self.locked = locked.id
        self.publish()

    def test_a_stranger_finds_no_word_and_no_count_of_restricted_posts(self) -> None:
        self.assertEqual(set(self.titles("common")), {"Post 0", "Post 4"})
        found = self.find("common")
        self.assertEqual((found.total, {one.slug for one in found.narrowings}), (2, {"tag0", "tag4"}))
        for words in ("marker1", "marker2", "marker3", "markerlocked", "zebrafish3"):
            with self.subTest(words):
                self.assertEqual(self.find(words).total, 0)

    def test_no_near_word_comes_from_a_restricted_post(self) -> None:
        self.write("Secret", "The zephyr.", date="2026-11-10", visibility="signed-in")
        self.publish()
        self.assertEqual(self.find("zepyhr").instead, ())
        self.assertEqual(self.find("zepyhr", SIGNED_IN).instead, (("zepyhr", "zephyr"),))

    def test_each_reader_finds_what_lists_show_them(self) -> None:
        group = self.kinds["group:Families"]
        self.assertEqual(set(self.titles("common", SIGNED_IN)), {"Post 0", "Post 1", "Post 4"})
        self.assertEqual(set(self.titles("common", group)), {"Post 0", "Post 1", "Post 2", "Post 4"})
        opened = Reader(opened=frozenset({self.locked}))
        self.assertEqual(self.titles("markerlocked", opened), ["Locked"])

    def test_a_post_that_is_restricted_later_is_found_no_more(self) -> None:
        first = self.shop.db.value("SELECT post_id FROM site_page ORDER BY post_id LIMIT 1")
        from mobbet.actions import docket_lines

        docket_lines.set_visibility(self.shop, self.me, first, "signed-in")
        placing.place(self.shop, self.me, first)
        self.publish()
        self.assertEqual(self.find("marker0").total, 0)
        self.assertEqual(self.find("marker0", SIGNED_IN).total, 1)


WORDS = "flex fuse lamp hum switch solder rust spring thread belt motor plug wire glue zip clock dial crust kettle heel".split()


class NaiveTests(SearchCase):
    def test_random_queries_find_what_a_scan_of_the_pages_finds(self) -> None:
        chance = random.Random(5)
        for number in range(40):
            body = " ".join(chance.choices(WORDS, k=12))
            self.write(f"Post {number}", body, date="2026-11-10", visibility=chance.choice(["everyone", "everyone", "signed-in"]))  # fmt: skip
        self.publish()
        pages = [
            row for row in edition_store.pages(self.shop.db, self.blog.id) if row.key.startswith("post/")
        ]
        read = {
            row.path: (row.audience, words_of_page(self.shop.pages.read(row.hash) or b"")) for row in pages
        }
        for _ in range(60):
            wanted = chance.sample(WORDS, chance.randint(1, 3))
            phrase = chance.random() < 0.3
            words = f'"{" ".join(wanted)}"' if phrase else " ".join(f"{one} " for one in wanted)
            for reader in (STRANGER, SIGNED_IN):
                expected = {
                    path
                    for path, (audience, page) in read.items()
                    if may_read(audience, reader)
                    and self.holds(f"{page.title} | {page.text}", wanted, phrase)
                }
                found: set[str] = set()
                for number in range(1, 6):
                    asked = Asked(words, number=number)
                    found |= {
                        one.path for one in site_search.find(self.shop, self.blog, reader, asked).results
                    }
                with self.subTest(words, reader=reader.is_signed_in):
                    self.assertEqual(found, expected)

    def holds(self, text: str, wanted: list[str], is_phrase: bool) -> bool:
        words = [word.lower() for word in words_of(unescape(text))]
        if is_phrase:
            return any(words[at : at + len(wanted)] == wanted for at in range(len(words)))
        return all(word in words for word in wanted)

    def test_words_that_stand_everywhere_come_newest_first(self) -> None:
        store.MANY, before = 5, store.MANY
        self.addCleanup(setattr, store, "MANY", before)
        for number in range(8):
            self.write(f"Post {number}", "fuse", date=f"2026-11-{10 + number}")
        self.write("A fuse", "Old.", date="2026-10-01")
        self.publish()
        self.assertEqual(self.titles("fuse")[:3], ["A fuse", "Post 7", "Post 6"])
        self.assertEqual(self.find("fuse").total, 9)
