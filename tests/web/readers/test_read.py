import json
import re

from mobbet.actions import house_facts, read_counts, site_search
from mobbet.actions.read_counts import Hit
from tests.actions.teams import TeamCase
from tests.shops import NOW
from tests.web.test_web import WebCase

READ = "/desk/bench/read"


class ReadRouteTests(WebCase, TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("Lamps & <more>", date="2026-10-01")
        self.publish()
        [self.path] = [
            path for path in self.site() if "lamps-more" in path and path.endswith("/") and "posts" in path
        ]
        for day in range(84):
            self.count(day, 3 if day < 42 else 2)
        self.as_(self.editor)

    def count(self, days_ago: int, readers: int) -> None:
        hits = [
            Hit(NOW - days_ago * 86400, self.path, "", f"192.0.2.{number}", "Firefox", "https://links.example/", "pt", "")
            for number in range(readers)
        ]  # fmt: skip
        read_counts.count(self.shop, self.blog, hits)

    def test_the_sentence_says_what_matters_and_drawings_have_their_table(self) -> None:
        page = self.get(READ).text
        self.assertIn(
            "<b>about 126 readers</b> opened <b>126 pages</b>, half more than in the six weeks before.", page
        )
        self.assertIn("More of them came from links.example than from any other place.", page)
        self.assertIn('<tspan class="n">126</tspan>', page)
        self.assertIn("Lamps &amp; &lt;more&gt;", page)
        self.assertNotIn("<more>", page)
        self.assertIn("<td>Lamps &amp; &lt;more&gt;</td><td>126</td>", page)

    def test_a_narrow_window_gets_drawings_of_its_own(self) -> None:
        page = self.get(READ).text
        flow, days = (
            re.search(rf'<svg class="{name} for-narrow" viewBox="0 0 (\d+)', page)
            for name in ("flow", "days")
        )
        self.assertLess(int(flow[1]), 340)
        self.assertGreaterEqual(int(days[1]), 42 * 24, "a day is as wide as a finger")

    def test_a_post_a_period_and_any_days_can_be_looked_at(self) -> None:
        page = self.get(f"{READ}?period=7&post={self.lamp.id}").text
        self.assertIn("opened “Lamps &amp; &lt;more&gt;” <b>21 times</b>", page)
        day = self.get(f"{READ}?first=2026-11-01&last=2026-11-01").text
        self.assertIn("<b>3 pages</b>", day)
        wrong = self.get(f"{READ}?first=2026-11-09&last=2026-11-01")
        self.assertEqual(wrong.status_code, 200)
        self.assertIn("is no stretch of days", wrong.text)
        for nonsense in (
            "?post=999999999999999999999",
            "?post=x&period=9",
            "?first=0001-01-01&last=9999-12-31",
            "?first=x&last=%00",
        ):
            with self.subTest(nonsense):
                self.assertEqual(self.get(f"{READ}{nonsense}").status_code, 200)

    def test_numbers_are_taken_along_with_small_ones_blurred(self) -> None:
        answer = self.get(f"{READ}.json?period=7")
        self.assertIn("attachment", answer.headers["content-disposition"])
        facts = json.loads(answer.text)
        self.assertEqual((facts["pages"], facts["days"][0]["pages"]), (21, 5))
        self.assertIn("post,", self.get(f"{READ}.csv?period=7").text)
        self.assertIn(self.get(f"{READ}.exe").status_code, (200, 404))

    def test_words_searched_for_in_vain_become_ideas(self) -> None:
        for day in (1, 2, 3):
            site_search.count_missed(self.shop, self.blog.id, day, {"kettle <element>": 1})
        self.assertIn("kettle &lt;element&gt; (3)", self.get(READ).text)
        self.assertEqual(self.post(READ, words="kettle <element>").status_code, 303)
        self.assertNotIn("kettle &lt;element&gt; (3)", self.get(READ).text)
        self.assertIn("kettle &lt;element&gt;", self.get("/desk/bench").text)

    def test_writers_do_not_see_it(self) -> None:
        self.as_(self.writer)
        for address in (READ, f"{READ}.json", f"{READ}.csv"):
            with self.subTest(address):
                self.assertEqual(self.get(address).status_code, 403)


class CountedTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("Lamps", date="2026-11-10")
        self.publish()

    def opened(self, path: str, **headers: str) -> int:
        from mobbet.web.public.tally import Tally

        tally = self.app._site._tally
        assert isinstance(tally, Tally)
        self.get(f"/b/bench{path}", **{"user_agent": "Firefox", **headers})
        tally.write()
        return read_counts.facts(self.shop, self.blog, "0", "9")["pages"]

    def test_pages_are_counted_and_files_missing_pages_and_colleagues_are_not(self) -> None:
        self.assertEqual(self.opened("/"), 1)
        self.assertEqual(self.opened("/"), 2)
        self.assertEqual(self.opened("/look.css"), 2)
        self.assertEqual(self.opened("/nowhere/"), 2)
        self.assertEqual(self.opened("/", if_none_match="x"), 3)
        self.sign_in()
        self.assertEqual(self.opened("/"), 3)

    def test_pages_that_stand_elsewhere_are_counted_where_the_owner_lets_them_ask(self) -> None:
        self.assertEqual(self.opened("/~/read/posts/lamps/", referer="https://search.example/"), 0)
        house_facts.give_facts(
            self.shop, self.me, "bench", server="https://write.example/b/bench/", counts_reads="yes"
        )
        self.assertEqual(self.opened("/~/read/posts/lamps/", referer="https://search.example/"), 1)
        self.assertEqual(self.opened("/~/read/"), 2)
        self.assertEqual(self.opened("/~/read/nowhere/"), 2)
        self.assertEqual(self.opened("/~/read/posts/lamps/", user_agent="Googlebot/2.1"), 2)
        self.opened("/~/read/end.gif?1")
        found = read_counts.facts(self.shop, self.blog, "0", "9")
        self.assertEqual([one["host"] for one in found["from"] if one["host"] == "search.example"], [])
        answer = self.get("/b/bench/~/read/")
        self.assertEqual(answer.headers["content-type"], "image/gif")
        self.assertEqual(answer.headers["cross-origin-resource-policy"], "cross-origin")
        self.assertNotIn("set-cookie", answer.headers)


class LongerTests(WebCase):
    def test_what_is_planned_for_later_today_is_not_drawn_as_gone_out(self) -> None:
        self.write("Soon", date="2026-11-18 15:00", categories="Lamps")
        self.publish()
        self.sign_in()
        self.assertNotIn("Soon", self.get(READ).text)
        self.clock.forward(6 * 3600)
        self.publish()
        self.assertIn("Soon", self.get(READ).text)

    def test_months_years_and_another_post_to_compare_with(self) -> None:
        one, two = (
            self.write("One", date="2026-11-10", categories="Lamps"),
            self.write("Two", date="2026-11-10", categories="Lamps"),
        )
        self.publish()
        for path in read_counts.post_paths(self.shop, self.blog):
            read_counts.count(
                self.shop, self.blog, [Hit(self.clock(), path, "", "192.0.2.7", "Firefox", "", "", "")]
            )
        self.sign_in()
        page = self.get(f"/desk/bench/read?post={one.id}&beside={two.id}").text
        self.assertIn("this month", page)
        self.assertIn('class="beside"', page)
        self.assertIn("Pages of “Two”", page)
        for beside in ("999", "x", str(one.id), "9" * 30):
            self.assertNotIn("Pages of “", self.get(f"/desk/bench/read?post={one.id}&beside={beside}").text)
        self.assertEqual(self.post("/desk/bench/read/slip", value="day").status_code, 303)
        self.assertIn("to the owners", self.get("/desk/bench/read").text)
