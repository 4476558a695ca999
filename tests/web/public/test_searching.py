from xml.etree import ElementTree

from tests.web.test_web import WebCase

SEARCH = "/b/bench/search/"


class SearchRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("Lamps & more", "The flex broke <here>.", date="2026-11-10", categories="Lamps")
        self.write("Secret", "The flexible word.", date="2026-11-10", visibility="signed-in")
        for number in range(11):
            self.write(f"Radio {number}", "A hum.", date="2026-11-10", categories="Radios")
        self.publish()

    def test_results_are_drawn_as_a_page_of_the_site_and_kept_by_nobody(self) -> None:
        answer = self.get(f"{SEARCH}?q=flex")
        self.assertEqual(answer.status_code, 200)
        self.assertIn('<a href="/b/bench/lamps/lamps-more/">Lamps &amp; more</a>', answer.text)
        self.assertIn("<mark>flex</mark>", answer.text)
        self.assertIn("1 page.", answer.text)
        self.assertIn("no-store", answer.headers["cache-control"])
        self.assertEqual(answer.headers["x-robots-tag"], "noindex")
        self.assertNotIn("Secret", answer.text)

    def test_without_words_the_page_has_the_field_and_the_categories(self) -> None:
        page = self.get(SEARCH).text
        self.assertIn('name="q"', page)
        self.assertIn('<a href="../lamps/">Lamps</a>', page)

    def test_nonsense_is_answered_with_a_page(self) -> None:
        for query in ("q=", "q=%00%ff", "q=" + "x" * 1500, "q=flex&page=-1", "q=flex&page=999", "q=%22%22%22", "q=NEAR(a,b)", "q=flex&in=../x", "&" * 90, "q=title:flex*^"):  # fmt: skip
            with self.subTest(query[:30]):
                answer = self.get(f"{SEARCH}?{query}")
                self.assertEqual(answer.status_code, 200)
                self.assertIn("<h1>Search</h1>", answer.text)

    def test_what_was_typed_stays_and_is_escaped(self) -> None:
        page = self.get(f"{SEARCH}?q=%3Cscript%3E%22").text
        self.assertIn('value="&lt;script&gt;&#34;"', page)
        self.assertNotIn("<script>&", page)

    def test_more_results_stand_on_further_pages_and_narrowing_goes_along(self) -> None:
        first = self.get(f"{SEARCH}?q=hum&in=radios").text
        self.assertIn("q=hum&amp;in=radios&amp;page=2", first)
        second = self.get(f"{SEARCH}?q=hum&in=radios&page=2").text
        self.assertEqual(second.count("<h2><a"), 1)
        self.assertIn('<ol class="results" start="11">', second)

    def test_browsers_are_told_how_to_search(self) -> None:
        self.assertIn('opensearch.xml"', self.get("/b/bench/").text)
        answer = self.get("/b/bench/opensearch.xml")
        self.assertEqual(answer.headers["content-type"], "application/opensearchdescription+xml")
        root = ElementTree.fromstring(answer.content)
        url = root.find("{http://a9.com/-/spec/opensearch/1.1/}Url")
        assert url is not None
        self.assertEqual(url.get("template"), "https://bench.example/search/?q={searchTerms}")
