from mobbet.actions import announcing, placing
from tests.web.test_web import WebCase


class AccountScreenTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        post = self.write("A lamp")
        placing.place(self.shop, self.me, post.id)
        self.post_id = post.id

    def test_an_account_is_added_its_words_changed_and_taken_away(self) -> None:
        self.post("/desk/bench/accounts/add", kind="stand-in", name="Harbour board")
        page = self.get("/desk/bench/accounts").text
        self.assertIn("Harbour board", page)
        self.assertIn("letters.", page)
        self.assertEqual(
            self.post("/desk/bench/accounts/1/word", where="pattern", value="{title} {address}").status_code,
            303,
        )
        refused = self.post("/desk/bench/accounts/1/word", where="pattern", value="{nonsense} {address}")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("is nothing to fill in", refused.text)
        self.assertIn("{nonsense} {address}", refused.text)
        self.assertEqual(self.post("/desk/bench/accounts/99/remove").status_code, 422)
        self.post("/desk/bench/accounts/1/remove")
        self.assertIn("announced nowhere yet", self.get("/desk/bench/accounts").text)

    def test_what_was_typed_stays_and_a_token_is_never_shown(self) -> None:
        refused = self.post(
            "/desk/bench/accounts/add", kind="micropub", name="Other", address="nonsense", token="s3cret"
        )
        self.assertEqual(refused.status_code, 422)
        self.assertIn('value="Other"', refused.text)
        self.assertNotIn("s3cret", refused.text)

    def test_the_docket_says_where_it_is_announced_and_how(self) -> None:
        announcing.add(self.shop, self.me, "bench", "stand-in", "Harbour board", "", "", "")
        self.assertIn("at one place", self.get(f"/posts/{self.post_id}").text)
        part = self.get(f"/posts/{self.post_id}/docket/check/announce").text
        self.assertIn("of 500 letters", part)
        self.assertIn("nowhere", self.post(f"/posts/{self.post_id}/docket/announce", value="none").text)
