from urllib.parse import urlparse

from mobbet.actions import notes, own_look, reading_copies
from tests.web.test_web import WebCase


class CopyRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.draft = self.write("Lamps", "Pull the plug **out** of the wall.\n\nThen wait.")

    def link(self, **values: str) -> str:
        copy = reading_copies.make(self.shop, self.me, self.draft.id, **values)
        self.as_(None)
        return urlparse(reading_copies.address_of(self.shop, copy, "https://x.example")).path

    def page(self, link: str) -> str:
        """The address of the draft's page, as a browser is led there."""
        answer = self.get(link)
        self.assertEqual(answer.status_code, 303)
        return answer.headers["location"]

    def test_a_friend_reads_and_leaves_a_note_without_a_script(self) -> None:
        link = self.link()
        address = self.page(link)
        page = self.get(address)
        self.assertIn("Pull the plug <strong>out</strong>", page.text)
        self.assertEqual(page.headers["x-robots-tag"], "noindex, nofollow, noarchive")
        self.assertEqual(page.headers["referrer-policy"], "same-origin")
        self.assertIn("no-store", page.headers["cache-control"])
        answer = self.post(f"{link}/note", said="Which wall?", line="2", name="Hanne")
        self.assertEqual(answer.status_code, 303)
        [thread] = notes.threads(self.shop, self.me, self.draft.id)
        self.assertEqual((thread.note.quote, thread.note.who), ("Pull the plug out of the wall.", "Hanne"))
        self.assertIn("Which wall?", self.get(address).text)

    def test_a_draft_on_a_background_of_its_own_has_it_in_the_copy(self) -> None:
        own_look.set_own_look(
            self.shop, self.me, self.draft.id, paper="#fff4d6", accent="#7a1f1f", picture=""
        )
        address = self.page(self.link())
        name = f"look-of-{self.draft.id}.css"
        self.assertIn(name, self.get(address).text)
        answer = self.get(f"{address.partition('/site')[0]}/site/{name}")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("#fff4d6", answer.text.lower())

    def test_what_is_refused_keeps_what_was_typed(self) -> None:
        link = self.link()
        self.page(link)
        answer = self.post(f"{link}/note", said="Words & <more>", quote="not there", name="Hanne")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Words &amp; &lt;more&gt;", answer.text)
        self.assertIn("choose a few more words", answer.text)

    def test_other_pages_lead_to_the_site_as_everybody_has_it(self) -> None:
        link = self.link()
        self.page(link)
        self.assertEqual(self.get(f"{link}/site/").headers["location"], "/b/bench/")
        self.assertEqual(self.get("/copy/guess").status_code, 404)

    def test_a_word_is_asked_for_first(self) -> None:
        link = self.link(word="kettle")
        self.assertIn("The word that opens it", self.get(link).text)
        self.assertEqual(self.get(f"{link}/site/notes/lamps/").headers["location"], link)
        self.assertEqual(self.post(link, word="pan").status_code, 422)
        address = self.post(link, word="kettle").headers["location"]
        self.assertIn("Pull the plug", self.get(address).text)

    def test_progress_is_told_by_a_script(self) -> None:
        link = self.link()
        self.page(link)
        self.assertEqual(self.post(f"{link}/read", came_to="The end", share="100").status_code, 204)
        [(_, [reader])] = reading_copies.of_post(self.shop, self.me, self.draft.id)
        self.assertEqual((reader.came_to, reader.share), ("The end", 100))
