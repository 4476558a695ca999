import unittest

from mobbet.core import audience, filing, frontmatter, states
from mobbet.core.addresses import free_slug, is_reserved, make_slug, read_slug, up
from mobbet.core.audience import Reader
from mobbet.core.canonical import canonical, digest
from mobbet.core.errors import BadInput
from mobbet.core.facts import Subject, list_keys
from mobbet.core.states import Showing
from mobbet.core.timing import FOREVER

LAMPS, WIRING, SAFETY = (
    Subject(1, "Lamps", "lamps"),
    Subject(2, "Wiring", "wiring", 1),
    Subject(3, "Safety", "safety"),
)
SUBJECTS = {subject.id: subject for subject in (LAMPS, WIRING, SAFETY)}


class AddressTests(unittest.TestCase):
    def test_slugs_are_short_and_never_cut_a_word(self) -> None:
        for title, slug in (
            ("Rewiring a desk lamp without losing the switch", "rewiring-a-desk-lamp"), ("Don’t", "dont"), ("Über Öl", "uber-ol"),
            ("🎉", "post-7"), ("", "post-7"), ("x" * 50, "x" * 32), ("One, two", "one-two"),
        ):  # fmt: skip
            with self.subTest(title):
                self.assertEqual(make_slug(title, "post-7"), slug)

    def test_a_typed_slug_is_taken_or_refused_with_a_proposal(self) -> None:
        self.assertEqual(read_slug(" /My-Lamp/ "), "my-lamp")
        with self.assertRaisesRegex(
            BadInput, "“my lamp!” cannot be part of an address; how about “my-lamp”?"
        ):
            read_slug("My lamp!")
        with self.assertRaisesRegex(BadInput, "use letters, digits and hyphens"):
            read_slug("!!!")

    def test_a_taken_slug_gets_a_number(self) -> None:
        self.assertEqual(free_slug("a", {"a", "a-2"}.__contains__), "a-3")

    def test_paths_and_the_way_up(self) -> None:
        self.assertEqual(
            [up("/"), up("/lamps/"), up("/lamps/flex/"), up("/feed.atom")], ["./", "../", "../../", "./"]
        )

    def test_words_of_the_site_and_years_are_reserved(self) -> None:
        self.assertTrue(all(is_reserved(word) for word in ("tag", "media", "2026", "1")))
        self.assertFalse(is_reserved("lamps"))


class StateTests(unittest.TestCase):
    def test_the_state_follows_from_the_showings_and_the_instant(self) -> None:
        good, short = Showing(100, FOREVER), Showing(100, 200, 200)
        for showings, instant, wanted in (
            ([], 0, states.DRAFT), ([good], 99, states.IN_TIMETABLE), ([good], 100, states.OUT), ([short], 199, states.OUT),
            ([short], 200, states.CAME_DOWN), ([Showing(100, 150)], 150, states.WITHDRAWN), ([Showing(100, 100)], 50, states.DRAFT),
            ([Showing(100, 150), Showing(150, FOREVER)], 150, states.OUT),
        ):  # fmt: skip
            with self.subTest(f"{showings} {instant}"):
                self.assertEqual(states.state_at(showings, instant), wanted)
        self.assertEqual(states.state_at([], 0, aside=True), states.SET_ASIDE)
        self.assertLessEqual({states.DRAFT, states.OUT, states.SET_ASIDE}, set(states.WORDS))


class AudienceTests(unittest.TestCase):
    def test_only_the_author_may_read_what_is_for_only_me(self) -> None:
        only_me = audience.audience_of("only-me", 7, 12)
        self.assertEqual(
            [
                audience.may_read(only_me, Reader(person, True, works_here=True, sees_all=True))
                for person in (7, 70, None)
            ],
            [True, False, False],
        )
        self.assertTrue(audience.may_read(audience.EVERYONE, audience.STRANGER))

    def test_each_reader_may_read_what_is_for_them(self) -> None:
        known, friend, opener, worker = (
            Reader(1, True),
            Reader(None, True, frozenset({3})),
            Reader(opened=frozenset({12})),
            Reader(2, True, frozenset({3, 4}), works_here=True, sees_all=True),
        )
        for kept, allowed in (
            ("signed-in", [0, 1, 1, 0, 1]),
            ("group:3", [0, 0, 1, 0, 1]),
            ("group:4", [0, 0, 0, 0, 1]),
            ("password:12", [0, 0, 0, 1, 1]),
            ("password:13", [0, 0, 0, 0, 1]),
        ):
            with self.subTest(kept):
                self.assertEqual(
                    [
                        int(audience.may_read(kept, reader))
                        for reader in (audience.STRANGER, known, friend, opener, worker)
                    ],
                    allowed,
                )

    def test_a_page_names_only_what_all_its_readers_may_read(self) -> None:
        for other, of, is_covered in (
            ("everyone", "group:3", True),
            ("signed-in", "group:3", True),
            ("group:3", "signed-in", False),
            ("group:3", "group:4", False),
            ("password:1", "everyone", False),
        ):
            with self.subTest(f"{other} {of}"):
                self.assertEqual(audience.covers(other, of), is_covered)

    def test_a_shared_file_is_for_all_who_may_read_a_post_with_it(self) -> None:
        self.assertIsNone(audience.widest([]))
        self.assertEqual(audience.widest(["person:7", "everyone"]), "everyone")
        both = audience.widest(["person:7", "person:3"])
        self.assertEqual(
            [audience.may_read(both, Reader(person)) for person in (3, 7, 37)], [True, True, False]
        )

    def test_a_visibility_that_is_not_there_is_refused(self) -> None:
        self.assertEqual(audience.read_visibility("Only me"), "only-me")
        self.assertEqual(audience.read_visibility(" Group: Old  Friends"), "group:Old Friends")
        with self.assertRaisesRegex(
            BadInput,
            "“friends” is no visibility; choose everyone, signed-in, password, only-me or group:NAME",
        ):
            audience.read_visibility("friends")


class FilingTests(unittest.TestCase):
    def test_a_category_is_typed_as_a_path(self) -> None:
        self.assertEqual(filing.read_category(" Lamps >  Wiring "), ("Lamps", "Wiring"))
        for typed, message in (
            ("Lamps > ", "empty category name"),
            ("", "empty"),
            ("x" * 70, "longer than 60"),
        ):
            with self.subTest(typed), self.assertRaisesRegex(BadInput, message):
                filing.read_category(typed)

    def test_tags_are_typed_with_commas(self) -> None:
        self.assertEqual(filing.read_tags("flex, #fuse,, flex "), ("flex", "fuse"))
        with self.assertRaisesRegex(BadInput, "shorter tag"):
            filing.read_tags("x" * 61)

    def test_the_tree_its_trails_and_its_parents(self) -> None:
        self.assertEqual(filing.trail(SUBJECTS, 2), (LAMPS, WIRING))
        self.assertEqual(filing.category_lists(SUBJECTS, (2, 3)), ("category:2", "category:1", "category:3"))
        self.assertEqual(filing.tree([SAFETY, LAMPS, WIRING]), [(0, SAFETY), (0, LAMPS), (1, WIRING)])

    def test_a_post_stands_on_each_list_once(self) -> None:
        self.assertEqual(
            list_keys(("category:2", "category:1"), (9,), "2026-11"),
            ("all", "front", "category:2", "category:1", "tag:9", "month:2026-11"),
        )


class FrontmatterTests(unittest.TestCase):
    def test_settings_and_text_are_taken_apart(self) -> None:
        text = frontmatter.read(
            "---\ntitle: A  lamp\ntags: flex, fuse\ncategories:\n  - Lamps > Wiring\ndate: 2026-11-26 09:00\nmood: blue\n---\nBody\n",
            "UTC",
        )
        self.assertEqual(
            (text.settings.title, text.settings.tags, text.settings.categories),
            ("A lamp", ("flex", "fuse"), ("Lamps > Wiring",)),
        )
        self.assertEqual(
            (text.settings.date, text.markdown, text.unknown), ("2026-11-26 09:00", "Body\n", ("mood",))
        )

    def test_a_text_without_front_matter_is_all_text(self) -> None:
        self.assertEqual(
            frontmatter.read("\ufeffJust text\n---\nmore", "UTC").markdown, "Just text\n---\nmore"
        )

    def test_wrong_front_matter_is_refused_before_anything_is_kept(self) -> None:
        for head, message in (
            ("title: a: b", "not valid YAML in line 2"), ("- a\n- b", "lines of “name: value”"), ("date: tomorrow", "no date and time"),
            ("visibility: friends", "no visibility"), ("password: [a, b]", "one line of text"), ("title: [a, b]", "one line of text"),
        ):  # fmt: skip
            with self.subTest(head), self.assertRaisesRegex(BadInput, message):
                frontmatter.read(f"---\n{head}\n---\n", "UTC")

    def test_dates_in_any_yaml_spelling_are_read(self) -> None:
        for head in (
            "date: 2026-11-26",
            "date: 2026-11-26 09:00:00",
            "date: 2026-11-26T09:00:00Z",
            'date: "2026-11-26 09:00"',
        ):
            with self.subTest(head):
                self.assertTrue(
                    frontmatter.read(f"---\n{head}\n---\n", "UTC").settings.date.startswith("2026-11-26")
                )


class CanonicalTests(unittest.TestCase):
    def test_equal_facts_have_one_spelling(self) -> None:
        self.assertEqual(canonical({"b": (1, 2), "a": "é"}), '{"a":"é","b":[1,2]}')
        self.assertEqual(digest({"a": 1, "b": 2}), digest({"b": 2, "a": 1}))
