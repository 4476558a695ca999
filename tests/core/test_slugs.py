import unicodedata
import unittest
from urllib.parse import quote

from mobbet.core.errors import BadInput
from mobbet.core.permalinks import (
    PermalinkFacts,
    is_own_path,
    number_of_code,
    one_form,
    path_of,
    read_pattern,
    short_code,
    short_path,
)
from mobbet.core.slugs import LATIN, LONGEST_SLUG, OWN, read_post_slug, shorter_slugs, slug_of

TITLES = (
    "Rewiring a desk lamp", "Żółta lampa przy łóżku", "Настольная лампа не горит", "Λάμπα γραφείου χωρίς διακόπτη", "מנורה שבורה על השולחן", "مصباح مكسور على الطاولة",
    "टूटा हुआ दीपक", "ভাঙা বাতি", "உடைந்த விளக்கு", "విరిగిన దీపం", "ಮುರಿದ ದೀಪ", "തകർന്ന വിളക്ക്", "ตะเกียงที่แตก", "ໂຄມໄຟແຕກ", "ကွဲနေသောမီးအိမ်", "ចង្កៀងខូច", "გატეხილი ლამპა",
    "Կոտրված լամպ", "የተሰበረ መብራት", "壊れたランプを直す", "修理台灯", "고장 난 램프", "ᠪᠤᠯᠭᠠᠨ", "⠇⠁⠍⠏", "🙂🙂", "Don’t, won’t & can’t", "…", "C++ и Rust: сравнение", "ÆØÅ og ñandú",
)  # fmt: skip


class SlugTests(unittest.TestCase):
    def test_titles_of_every_script_make_addresses_that_are_read_back(self) -> None:
        for script in (LATIN, OWN):
            for title in TITLES:
                with self.subTest(title, script=script):
                    slug = slug_of(title, "post-7", script)
                    self.assertTrue(slug)
                    self.assertLessEqual(len(slug), LONGEST_SLUG)
                    self.assertEqual(read_post_slug(slug, script), slug)
                    self.assertEqual(one_form(quote(f"/lamps/{slug}")), f"/lamps/{slug}/")
                    self.assertFalse(unicodedata.category(slug[0]).startswith(("M", "P")))

    def test_a_long_title_loses_its_little_words_and_is_never_cut_in_a_word(self) -> None:
        self.assertEqual(
            slug_of("Rewiring a desk lamp without losing the switch", ""),
            "rewiring-desk-lamp-without-losing-switch",
        )
        self.assertEqual(slug_of("The old lamp", ""), "the-old-lamp")
        self.assertEqual(
            slug_of("of the and the of the and the of the and", ""),
            "of-the-and-the-of-the-and-the-of-the-and",
        )
        self.assertEqual(len(slug_of("x" * 90, "")), 60)

    def test_shorter_ones_are_proposed(self) -> None:
        self.assertEqual(
            shorter_slugs("Rewiring a desk lamp without losing the switch"),
            ("rewiring-desk-lamp-without", "rewiring-desk-lamp", "rewiring-desk"),
        )
        self.assertEqual(shorter_slugs("Flex"), ())

    def test_what_cannot_stand_in_an_address_is_refused_with_a_proposal(self) -> None:
        with self.assertRaisesRegex(
            BadInput, "“Two words!” cannot be part of an address; how about “two-words”?"
        ):
            read_post_slug("Two words!")
        with self.assertRaisesRegex(BadInput, "use letters, digits and hyphens"):
            read_post_slug("🙂")


class PermalinkTests(unittest.TestCase):
    FILED = PermalinkFacts(1_795_000_000, "Europe/Lisbon", ("lamps", "wiring"))

    def test_a_pattern_is_filled_with_what_it_stands_for(self) -> None:
        for pattern, path in (
            ("/{category}/{slug}/", "/wiring/flex/"), ("/{category-path}/{slug}/", "/lamps/wiring/flex/"),
            ("/{year}/{month}/{day}-{slug}/", "/2026/11/18-flex/"), ("/notes/{slug}/", "/notes/flex/"),
        ):  # fmt: skip
            with self.subTest(pattern):
                self.assertEqual(path_of(read_pattern(pattern), "flex", self.FILED), path)
        self.assertEqual(path_of("/{category}/{slug}/", "flex", PermalinkFacts(0, "UTC", ())), "/posts/flex/")

    def test_patterns_that_cannot_work_are_refused_in_words(self) -> None:
        for pattern, words in (
            ("/{year}/", "does not end with {slug}"), ("/{slug}/{year}/", "does not end with {slug}"), ("/{title}/{slug}", "“{title}” stands for nothing"),
            ("/{slug}-{slug}/", "stands twice"), ("/a b/{slug}", "cannot stand in an address"), ("/tag/{slug}", "the site itself"), ("/x{category-path}/{slug}", "a part of its own"),
        ):  # fmt: skip
            with self.subTest(pattern), self.assertRaisesRegex(BadInput, words):
                read_pattern(pattern)

    def test_every_spelling_has_one_form(self) -> None:
        for asked, path in (
            ("/Lamps/Flex", "/lamps/flex/"),
            ("//a//b", "/a/b/"),
            ("/a/index.html", "/a/"),
            ("/Feed.Atom", "/feed.atom"),
            ("/caf%C3%A9", "/café/"),
            ("", "/"),
            ("/e\u0301", "/é/"),
        ):
            with self.subTest(asked):
                self.assertEqual(one_form(asked), path)

    def test_the_site_keeps_its_own_addresses(self) -> None:
        self.assertTrue(
            all(
                map(
                    is_own_path,
                    (
                        "/",
                        "/tag/x/",
                        "/2026/11/",
                        "/lamps/page/2/",
                        "/archive/",
                        "/lamps/feed.rss",
                        "/~abc/",
                        "/sitemap.xml",
                    ),
                )
            )
        )
        self.assertFalse(any(map(is_own_path, ("/lamps/", "/2026/11/flex/", "/lamps/archive/"))))

    def test_short_codes_are_all_different_and_lead_back(self) -> None:
        numbers = [*range(1, 3000), 21_951, 21_952, 50_000, 614_656]
        codes = [short_code(number) for number in numbers]
        self.assertEqual(len(set(codes)), len(numbers))
        self.assertEqual([number_of_code(code) for code in codes], numbers)
        self.assertEqual([number_of_code(code) for code in ("", "ab", "aaa", "zz!")], [None] * 4)
        self.assertRegex(short_path(12), r"^/~[2-9a-z]{3}/$")


if __name__ == "__main__":
    unittest.main()
