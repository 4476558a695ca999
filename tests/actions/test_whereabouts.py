from mobbet.actions import addresses, appearance, placing, posts, whereabouts
from mobbet.store import blogs
from tests.shops import DAY, ShopCase


class WhereaboutsTests(ShopCase):
    publishes = False

    def told(self, post) -> dict[str, bool]:
        return {
            one.words: one.is_there
            for one in whereabouts.whereabouts(
                self.shop, self.again(post), blogs.by_id(self.shop.db, self.blog.id)
            )
        }

    def test_a_post_that_is_nowhere_has_one_reason_with_its_mend(self) -> None:
        draft, later = self.write("Draft"), self.write("Later", date="2026-11-26 09:00")
        down = self.write("Down", date="2026-11-01", expires="2026-11-18 12:00")
        self.clock.forward(2 * 3600)
        withdrawn, aside = self.write("Back", date="2026-11-02"), self.write("Aside")
        placing.withdraw(self.shop, self.me, withdrawn.id)
        placing.set_aside(self.shop, self.me, aside.id)
        for post, words, mend in (
            (draft, "It is a draft", "main"), (later, "It goes out on Thu 26 Nov at 09:00", "goes-out"), (down, "It came down on Wed 18 Nov at 12:00", "comes-down"),
            (withdrawn, "It was withdrawn on Wed 18 Nov at 13:06", "main"), (aside, "It is set aside", "state"),
        ):  # fmt: skip
            with self.subTest(words):
                [one] = whereabouts.whereabouts(self.shop, self.again(post), self.blog)
                self.assertEqual((one.words.startswith(words), one.mend, one.is_there), (True, mend, False))

    def test_a_post_for_one_reader_says_so(self) -> None:
        [one] = whereabouts.whereabouts(
            self.shop, self.write("Key", date="2026-11-01", visibility="only-me"), self.blog
        )
        self.assertIn("It is out, but for its author alone: a stranger may not read it.", one.words)

    def test_an_older_post_is_found_on_the_page_which_really_shows_it(self) -> None:
        made = [
            self.write(
                f"Post {number:02d}",
                date=f"2026-01-{number + 1:02d}",
                categories="Lamps > Wiring",
                tags="flex",
            )
            for number in range(23)
        ]
        self.publish()
        site = self.site()
        for post in (made[0], made[9], made[12], made[22]):
            for one in whereabouts.whereabouts(self.shop, self.again(post), self.blog):
                if one.path:
                    page = site[one.path].decode()
                    self.assertIn(
                        f"post-{post.id}"
                        if "feed" not in one.path and post.title not in page
                        else post.title,
                        page,
                        one.words,
                    )
        told = self.told(made[0])
        self.assertIn("It is older than the newest 10 on the front page; it stands on an older page.", told)
        self.assertIn("The blog’s feed holds the newest 20 posts, and it is older.", told)

    def test_what_keeps_a_post_off_a_page_is_told(self) -> None:
        post = self.write("Notice", date="2026-11-01")
        appearance.set_front(self.shop, self.me, post.id, "off")
        placing.place(self.shop, self.me, post.id)
        told = self.told(post)
        for words in (
            "It is kept off the front page and the pages before it.",
            "The menu has no link to it.",
            "It is in no category, so no category’s page shows it.",
        ):
            self.assertIs(told[words], False)

    def test_changes_that_wait_are_told(self) -> None:
        post = self.write("Notice", date="2026-11-01")
        self.clock.forward(DAY)
        posts.save_text(
            self.shop,
            self.me,
            post.id,
            base=self.again(post).revision,
            title="Notice!",
            subtitle="",
            body={"type": "doc", "content": [{"type": "paragraph"}]},
        )
        self.assertIn(
            "What was changed since it went out waits: readers get the text as it was last updated.",
            self.told(post),
        )
        self.assertEqual(addresses.resolve(self.shop, self.blog, "/posts/notice/").kind, "nothing")
