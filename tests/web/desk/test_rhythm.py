"""The strip of the desk and the year by weeks."""

from datetime import date

from mobbet.web.desk.rhythm import drawing_of
from mobbet.web.desk.strip import MOST_BLOCKS, REACH, Range, read_range, strip
from tests.web.test_web import WebCase


class StripTests(WebCase):
    def drawn(self, start: str = "", weeks: str = ""):  # noqa: ANN201
        return strip(self.shop, self.blog, read_range(self.shop, self.blog, start, weeks))

    def test_an_empty_blog_has_none(self) -> None:
        self.assertIsNone(self.drawn())

    def test_it_opens_with_twelve_weeks_around_now_and_goes_wherever_one_scrolls(self) -> None:
        self.write("A lamp", date="2026-11-10")
        self.write("A clock", date="2026-12-01", expires="2026-12-03")
        usual = self.drawn()
        self.assertEqual(
            (usual.first, usual.span, [block.kind for block in usual.blocks]),
            ("2026-09-21", 12, ["out", "coming", "down"]),
        )
        self.assertIsNotNone(usual.today)
        self.assertEqual([gap.words for gap in usual.gaps], ["8 days quiet"])
        early = self.drawn("2020-01-06", "4")
        self.assertEqual((early.today, early.blocks), (None, []))
        self.assertEqual(
            (self.drawn("nonsense", "99999").span, self.drawn("", "0").span, self.drawn("", "600").span),
            (12, 1, 520),
        )

    def test_many_posts_are_bars_that_lead_to_them(self) -> None:
        self.write("A lamp", date="2026-11-10")
        rows = [(self.blog.id, 1_700_000_000 + at * 3600) for at in range(MOST_BLOCKS + 5)]
        for _, instant in rows:
            self.shop.db.run("INSERT INTO post (blog_id, author_id, made_at, changed_at) VALUES (1, 1, 0, 0)")
            number = self.shop.db.value("SELECT MAX(id) FROM post")
            self.shop.db.run(
                "INSERT INTO revision (post_id, number, person_id, title, subtitle, body, begun_at, saved_at) VALUES (?, 1, 1, 'x', '', '{}', 0, 0)",
                number,
            )
            self.shop.db.run(
                "INSERT INTO placement (blog_id, post_id, revision, zone, goes_out_wall, goes_out, comes_down, shows_from, shows_until, path, audience, author_id, excerpt, description,"
                " categories, tags, media, placed_by, placed_at) SELECT blog_id, ?, 1, zone, goes_out_wall, ?, comes_down, ?, comes_down, path, audience, author_id, '', '', '[]', '[]', '[]', 1, 0"
                " FROM placement WHERE id = 1", number, instant, instant,
            )  # fmt: skip
        self.shop.db.connection.commit()
        found = strip(self.shop, self.blog, Range(date(2023, 11, 6), 8))
        self.assertEqual((found.blocks, sum(bar.count for bar in found.bars)), ([], MOST_BLOCKS + 5))
        self.sign_in()
        first = found.bars[0]
        self.assertIn(f"{first.count} found with", self.get(first.href).text)

    def test_a_post_is_pressed_around_its_mark_as_far_as_halfway_to_the_next(self) -> None:
        for day in ("2026-10-01", "2026-11-10", "2026-11-11"):
            self.write("A lamp", date=day)
        alone, one, next_one = self.drawn().blocks
        self.assertEqual((alone.reach, alone.left), (REACH, round(alone.x - REACH / 2, 1)))
        self.assertLess(one.reach, REACH)
        self.assertAlmostEqual(one.left + one.reach, next_one.left, delta=0.2)

    def test_a_part_of_it_is_asked_for(self) -> None:
        self.write("A lamp", date="2026-11-10")
        self.sign_in()
        self.assertIn('data-weeks="26"', self.get("/desk/bench/strip?start=2026-06-01&weeks=26").text)


class RhythmTests(WebCase):
    def test_each_dot_leads_to_its_posts(self) -> None:
        self.write("A lamp", "Three words here.", date="2026-11-10", categories="[Lamps]")
        self.write("Another lamp", "Two words.", date="2026-11-12", categories="[Lamps]")
        self.write("A zip", "One.", date="2026-02-03", categories="[Zips]")
        drawn = drawing_of(self.shop, self.blog, date(2026, 11, 18))
        self.assertEqual(
            [(row.name, row.total) for row in drawn.rows],
            [("Posts", "3"), ("Words", "6"), ("Lamps", "2"), ("Zips", "1")],
        )
        self.assertEqual(
            drawn.sentence, "3 posts and 6 words in a year; 51 weeks had none, 39 of them in a row."
        )
        self.assertEqual(drawn.neglected, "Nothing in Zips since 3 Feb 2026.")
        cell = drawn.rows[2].cells[0]
        self.assertEqual((cell.words, cell.radius), ("2 posts in Lamps in the week of 9 Nov", 4.8))
        self.sign_in()
        shown = self.get(cell.href).text
        self.assertIn("A lamp", shown)
        self.assertIn("2 found with", shown)

    def test_a_narrow_window_gets_a_line_for_each_week_with_posts(self) -> None:
        self.write("A lamp", "Three words here.", date="2026-11-10", categories="[Lamps]")
        self.write("A zip", "One.", date="2026-11-12", categories="[Zips]")
        self.write("Another", "One.", date="2026-10-28")
        drawn = drawing_of(self.shop, self.blog, date(2026, 11, 18))
        self.assertEqual(
            [(line.words, line.counted, line.subjects, line.share) for line in drawn.lines],
            [
                ("1 week without a post", "", "", 0),
                ("9 Nov", "2 posts, 4 words", "Lamps, Zips", 100),
                ("1 week without a post", "", "", 0),
                ("26 Oct", "1 post, 1 word", "no category", 50),
                ("49 weeks without a post", "", "", 0),
            ],
        )
        self.sign_in()
        self.assertIn("2 found with", self.get(drawn.lines[1].href).text)

    def test_the_screen_goes_back_by_years_and_no_further_than_now(self) -> None:
        self.sign_in()
        shown = self.get("/desk/bench/rhythm").text
        self.assertIn("A year earlier", shown)
        self.assertNotIn("A year later", shown)
        self.assertIn("A year later", self.get("/desk/bench/rhythm?end=2024-01-01").text)
        self.assertEqual(self.get("/desk/bench/rhythm?end=soon").status_code, 200)
