"""A blog with one of each role, for tests of people and decisions."""

from __future__ import annotations

from mobbet.actions import files, people
from mobbet.store import blogs
from mobbet.store.people import Person
from mobbet.store.posts import Post
from tests.shops import ShopCase

SERVER = "https://write.example"


class TeamCase(ShopCase):
    """The Bench with its owner (`me`), an editor, a writer and a contributor."""

    def prepare(self) -> None:
        super().prepare()
        for name in ("editor", "writer", "contributor"):
            person = people.add_person(
                self.shop, name=name.title(), email=f"{name}@bench.example", password=None
            )
            with self.shop.db.transaction():
                self.shop.db.run("UPDATE person SET password_hash = 'x' WHERE id = ?", person.id)
                blogs.add_member(self.shop.db, self.blog.id, person.id, name)

    def setUp(self) -> None:
        super().setUp()
        self.editor, self.writer, self.contributor = map(self.person, ("editor", "writer", "contributor"))

    def person(self, name: str) -> Person:
        found = people.people.by_email(self.shop.db, f"{name}@bench.example")
        assert found is not None
        return found

    def draft(
        self, person: Person, title: str = "A draft", body: str = "Some words.", **settings: str
    ) -> Post:
        front = "".join(f"{name}: {value}\n" for name, value in {"title": title, **settings}.items())
        return files.new_post(self.shop, person, "bench", f"---\n{front}---\n{body}\n").post

    def letters(self) -> list[tuple[str, str]]:
        """(recipient, text) of all letters, the oldest first."""
        return self.shop.db.tuples("SELECT recipient, text FROM letter ORDER BY id")

    def recorded(self) -> list[tuple[str, str]]:
        """(kind, subject) of the record, the oldest first."""
        return self.shop.db.tuples("SELECT kind, subject FROM record ORDER BY id")
