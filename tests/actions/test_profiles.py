from typing import Any

from mobbet.actions import members, placing, profiles
from mobbet.core.errors import NotAllowed, NotFound, Refused
from mobbet.core.values import existing
from mobbet.store import people
from mobbet.store import profiles as store
from tests.actions.teams import TeamCase


class ContributorsProfileTests(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        draft = self.draft(self.contributor, "By a pupil")
        placing.place(self.shop, self.me, draft.id)

    def change(self, **values: Any) -> None:
        usual = {"name": "Contributor", "line": "", "text": "", "links": "", "pictures": {}}
        profiles.set_profile(self.shop, self.contributor, **{**usual, **values})
        self.contributor = self.person("contributor")

    def page(self, path: str = "/by/contributor/") -> str:
        return self.site()[path].decode()

    def test_readers_get_nothing_of_it_before_an_editor_looked(self) -> None:
        self.change(name="Rude Name", line="rude line", text="rude text", links="https://rude.example/")
        profiles.set_web_address(self.shop, self.contributor, "https://rude.example/me")
        found = [path for path, body in self.site().items() if b"rude" in body.lower()]
        self.assertEqual(found, [])

    def test_readers_get_it_as_the_editor_saw_it(self) -> None:
        self.change(line="Winds clocks.", text="Since last week.")
        _, [one] = profiles.waiting(self.shop, self.editor, "bench")
        self.assertEqual((one.shown.line, one.now.line), ("", "Winds clocks."))
        profiles.let_stand(self.shop, self.editor, "bench", self.contributor.id, one.sign)
        self.assertIn("Winds clocks.", self.page())
        self.assertEqual(profiles.waiting(self.shop, self.editor, "bench")[1], [])
        self.assertIn(("profile", "Contributor"), self.recorded())

    def test_what_changed_after_the_look_is_looked_at_again(self) -> None:
        self.change(line="Winds clocks.")
        _, [one] = profiles.waiting(self.shop, self.editor, "bench")
        self.change(line="rude line")
        with self.assertRaisesRegex(Refused, "changed the profile meanwhile"):
            profiles.let_stand(self.shop, self.editor, "bench", self.contributor.id, one.sign)
        self.assertNotIn("rude", self.page())

    def test_editors_and_the_owner_say_it_and_nobody_else(self) -> None:
        self.change(line="Winds clocks.")
        for person in (self.writer, self.contributor):
            with self.subTest(person.name), self.assertRaises(NotAllowed):
                profiles.let_stand(self.shop, person, "bench", self.contributor.id, "")
        with self.assertRaises(NotFound):
            profiles.let_stand(self.shop, self.editor, "bench", self.writer.id, "")

    def test_a_writer_is_shown_as_they_say_and_one_who_becomes_a_contributor_as_they_were(self) -> None:
        members.set_role(self.shop, self.me, "bench", self.contributor.id, "writer")
        self.change(line="Winds clocks.")
        self.assertIn("Winds clocks.", self.page())
        members.set_role(self.shop, self.me, "bench", self.contributor.id, "contributor")
        self.change(line="rude line")
        self.assertIn("Winds clocks.", self.page())

    def test_whoever_was_taken_out_stays_as_they_were_shown(self) -> None:
        members.take_out(self.shop, self.me, "bench", self.contributor.id, 0)
        self.change(line="rude line", name="Rude")
        self.assertNotIn("rude", self.page().lower())
        shown = existing(store.author(self.shop.db, self.blog.id, self.contributor.id))
        self.assertEqual((shown.name, shown.line), ("Contributor", ""))
        self.assertEqual(existing(people.by_id(self.shop.db, self.contributor.id)).name, "Rude")
