import json

from mobbet.actions import factors
from mobbet.core.values import existing
from mobbet.store import accounts, people
from mobbet.wiring import open_folder
from tests.test_cli import CommandCase


class PeopleCommandTests(CommandCase):
    """What the machine itself does with people, copies, notes and the record."""

    def setUp(self) -> None:
        super().setUp()
        self.init()

    def mobbet(self, *words: str) -> dict:
        command, *rest = words
        return self.report(command, "--data", self.data, "--json", *rest)

    def test_somebody_is_invited_and_the_link_is_told_while_no_mail_server_is_set(self) -> None:
        told = self.mobbet(
            "person",
            "invite",
            "nell@away.example",
            "--blog",
            "bench",
            "--role",
            "contributor",
            "--server",
            "https://w.example",
        )
        self.assertEqual(
            (told["role"], told["link"].startswith("https://w.example/join/")), ("contributor", True)
        )
        status, _, err = self.run_it(
            "person", "--data", self.data, "invite", "nell", "--blog", "bench", "--role", "writer"
        )
        self.assertEqual((status, "no e-mail address" in err), (1, True))

    def test_a_second_factor_is_taken_away_and_sessions_are_ended(self) -> None:
        workshop = open_folder(self.folder / "data")
        person = existing(people.by_email(workshop.db, "i@b.example"))
        with workshop.db.transaction():
            accounts.set_code_secret(workshop.db, person.id, "sealed")
        self.mobbet("person", "factor", "i@b.example", "off")
        self.assertFalse(factors.factors_of(workshop, person).is_any)
        self.assertEqual(self.mobbet("person", "sessions", "i@b.example", "--end"), {"sessions": []})

    def test_a_copy_is_made_and_notes_are_read(self) -> None:
        post = str(self.new("title: Lamps")["id"])
        told = self.mobbet("copy", post, "--may", "propose", "--until", "2099-12-31")
        self.assertRegex(told["address"], r"^https?://\S+/copy/[\w-]{32}$")
        self.assertEqual(self.mobbet("notes", post), {"post": int(post), "notes": []})
        status, _, err = self.run_it("copy", "--data", self.data, post, "--until", "2001-01-01")
        self.assertEqual((status, "That day is over" in err), (1, True))

    def test_the_record_is_lines_of_json(self) -> None:
        self.mobbet("person", "invite", "nell@away.example", "--blog", "bench", "--role", "writer")
        _, out, _ = self.run_it("record", "--data", self.data)
        rows = [json.loads(line) for line in out.splitlines()]
        self.assertIn(("invited", "the command line"), [(row["kind"], row["from"]) for row in rows])
        self.assertEqual(self.mobbet("record", "--from", "2001-01-01")["record"], rows)
        self.assertEqual(self.mobbet("record", "--from", "2099-01-01")["record"], [])
