from tests.web.test_web import WebCase


class PreferenceTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_dates_are_in_the_language_of_whoever_looks(self) -> None:
        post = self.write("Lamps")
        self.post(f"/posts/{post.id}/docket/goes-out", day="2031-05-06", time="07:30")
        self.assertEqual(self.post("/account/dates", value="fr").status_code, 303)
        self.assertIn("mar. 6 mai 2031, 07:30", self.get(f"/posts/{post.id}").text)
        self.post("/account/dates", value="")
        self.assertIn("Tue 6 May 2031 at 07:30", self.get(f"/posts/{post.id}").text)

    def test_what_readers_get_is_in_no_language_of_whoever_publishes(self) -> None:
        self.post("/account/dates", value="fr")
        post = self.write("Lamps")
        self.post(f"/posts/{post.id}/place")
        pages = b"".join(body for body in self.site().values())
        self.assertNotIn(b"novembre", pages)
        self.assertIn(b"2026", pages)

    def test_a_language_that_is_not_offered_is_refused(self) -> None:
        answer = self.post("/account/dates", value="tlh")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Dates cannot be in “tlh”", answer.text)

    def test_own_keys_are_kept_and_shown(self) -> None:
        self.assertEqual(self.post("/account/keys", **{"Alt+J": "ctrl+alt+f"}).status_code, 303)
        page = self.get("/account/keys").text
        self.assertIn('data-own-keys="{&#34;Alt+J&#34;: &#34;Ctrl+Alt+F&#34;}"', page)
        self.assertIn('aria-keyshortcuts="Control+Alt+F"', page)
        self.post("/account/keys", **{"as-usual": "yes", "Alt+J": "Ctrl+Alt+F"})
        self.assertNotIn("data-own-keys", self.get("/account/keys").text)

    def test_a_refused_key_stays_in_its_field_with_the_reason(self) -> None:
        answer = self.post("/account/keys", **{"Alt+J": "Ctrl+W", "Alt+K": "Alt+Y"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn('value="Ctrl+W"', answer.text)
        self.assertIn('value="Alt+Y"', answer.text)
        self.assertIn("belongs to the browser", answer.text)
