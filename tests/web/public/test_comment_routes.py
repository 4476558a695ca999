from mobbet.actions import comments, placing
from mobbet.publish.pages.post import MOST_COMMENTS
from mobbet.store import blogs
from mobbet.store import comments as store
from tests.web.test_web import WebCase


class CommentPageTests(WebCase):
    def prepare(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", "anyone", "none")
        post = self.write("A lamp", categories="Lamps")
        placing.place(self.shop, self.me, post.id)

    def say(self, text: str, **more: str):
        return self.post("/b/bench/~/comment/1", name="Mona", email="", text=text, **more)

    def stored(self, count: int) -> None:
        """So many shown comments, as if they had come over years."""
        blog = blogs.by_slug(self.shop.db, "bench")
        with self.shop.db.transaction():
            for number in range(count):
                one = store.Comment(
                    0,
                    blog.id,
                    1,
                    None,
                    None,
                    0,
                    "Mona",
                    "",
                    f"Comment number {number} & <more>",
                    "shown",
                    self.clock() + number,
                    None,
                )
                store.add(self.shop.db, one)

    def test_a_comment_is_changed_by_the_link_of_the_page_that_thanked(self) -> None:
        page = self.say("Wich fuse do you use?").text
        address = page.split("/change/")[1].split('"')[0]
        path = f"/b/bench/~/comment/1/change/{address}"
        self.assertIn("Wich fuse", self.get(path).text)
        self.assertIn("Thank you", self.post(path, text="Which fuse do you use?").text)
        self.assertIn("Which fuse do you use?", self.get("/b/bench/lamps/a-lamp/").text)
        self.assertEqual(self.post(path, text=" ").status_code, 422)
        self.assertEqual(self.get("/b/bench/~/comment/1/change/nonsense").status_code, 410)

    def test_the_first_fifty_stand_below_the_post_and_the_others_on_numbered_pages(self) -> None:
        self.stored(2 * MOST_COMMENTS + 3)
        self.publish(full=True)
        page = self.get("/b/bench/lamps/a-lamp/").text
        self.assertEqual(page.count('class="h-entry h-cite"'), MOST_COMMENTS)
        self.assertIn("103 comments", page)
        self.assertIn("Comments 51 to 103", page)
        last = self.get("/b/bench/~/comments/1?page=3").text
        self.assertEqual(last.count('class="h-entry h-cite"'), 3)
        self.assertIn("Comment number 102 &amp; &lt;more&gt;", last)
        for number in (0, 4, -1, 10**9):
            self.assertEqual(self.get(f"/b/bench/~/comments/1?page={number}").status_code, 404)

    def test_feeds_have_what_everybody_sees(self) -> None:
        self.say("Which fuse do you use?")
        waiting = store.page(self.shop.db, self.blog.id, "shown", 0, 0, 1 << 60, 1)[0]
        for path in ("comments.atom", "comments/1.atom"):
            self.assertIn("Which fuse do you use?", self.get(f"/b/bench/~/{path}").text)
        comments.settle(self.shop, self.me, "bench", [waiting.id], "refused")
        self.assertNotIn("Which fuse", self.get("/b/bench/~/comments.atom").text)
        self.assertEqual(self.get("/b/bench/~/comments/99.atom").status_code, 404)

    def test_comments_of_a_post_for_some_readers_are_in_no_feed_and_on_no_page_of_a_stranger(self) -> None:
        self.stored(60)
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE placement SET audience = 'signed-in'")
        self.assertNotIn("Comment number", self.get("/b/bench/~/comments.atom").text)
        for path in ("comments/1.atom", "comments/1?page=2"):
            self.assertEqual(self.get(f"/b/bench/~/{path}").status_code, 404)
