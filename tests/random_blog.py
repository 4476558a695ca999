"""A blog made by chance: rows of every table that an export has, with references to what is there."""

from __future__ import annotations

import json
from random import Random
from typing import Any

from mobbet.core.canonical import canonical
from mobbet.core.document.leading import reference
from mobbet.core.exporting.forms import Field
from mobbet.core.exporting.tables import MEDIA, PLACEMENT, POST, TABLES, Table
from mobbet.core.look.begun import begun_look
from mobbet.core.look.look import look_text, read_look
from mobbet.core.menu import Entry, Menu, Target, menu_text
from mobbet.core.promos import Promo, Promos, promos_text
from mobbet.store.database import Database
from tests.core.document.generating import WORDS, Maker

CHOICES = {
    ("comment", "state"): ("waits", "shown", "refused"), ("membership", "role"): ("owner", "editor", "writer", "contributor"),
    ("address", "kind"): ("post", "category", "tag", "away"), ("read_way", "way"): ("language", "device"),
    ("house_given", "part"): ("look", "menu", "promos"), ("house_tried", "part"): ("look", "menu", "promos"), ("placement", "kind"): ("", "page"),
}  # fmt: skip
LANGUAGES, ADDRESSES = ("", "pt", "ja"), ("", "https://elsewhere.example/a?b=ü")
WORDS_OF = {
    "kind": ("", "page"), "comments": ("", "open", "closed"), "listed": ("", "title", "teaser"), "front": ("", "top", "off"), "sharing": ("", "none"), "announce": ("", "none"),
}  # fmt: skip
"""{line of the docket: its words}."""
SHAPES = {
    ("", "slug"): "slug-ü{number}", ("", "author_slug"): "somebody-{number}", ("", "path"): "/old/{number} ü/", ("", "zone"): "Atlantic/Azores", ("", "goes_out_wall"): "2026-12-01T09:00",
    ("", "comes_down_wall"): "2026-12-02T09:00", ("", "update_wall"): "2026-12-03T10:30", ("", "wanted_by"): "2026-12-24", ("slot", "rule"): "FREQ=WEEKLY;BYDAY=TU",
    ("slot", "time"): "09:00", ("slot", "starts"): "2026-12-01", ("marked_day", "first"): "2026-12-24", ("marked_day", "last"): "2026-12-26", ("category", "name"): "Lamps {number} ‹ü›",
    ("tag", "name"): "flex {number}",
}  # fmt: skip
"""{(table or '', column): the shape of its texts}."""
AUDIENCES = ("everyone", "signed-in", "only-me", "password:{post}", "group:{group}", "person:{person}")


class RandomBlog:
    """Adds rows of one seed to a blog that is there; `each` of every table."""

    def __init__(self, db: Database, blog_id: int, seed: int, each: int = 4) -> None:
        self.db, self.blog_id, self.random, self.each = db, blog_id, Random(seed), each
        self.maker = Maker(seed, size=3, depth=4)
        self.there: dict[str, list[int]] = {"person": db.column("SELECT id FROM person")}
        self._count = 0

    def make(self) -> None:
        with self.db.transaction():
            self.db.defer_foreign_keys()
            for table in TABLES:
                if table is MEDIA:
                    self.there["media"] = self.db.column(
                        "SELECT id FROM media WHERE blog_id = ?", self.blog_id
                    )
                    self.posts()
                    continue
                self._fill(table)
            self._link_posts()

    def _fill(self, table: Table) -> None:
        if table.kind:
            self.there.setdefault(
                table.kind,
                self.db.column(f"SELECT id FROM {table.name} WHERE blog_id = ?", self.blog_id)
                if table.has_id
                else [],
            )
        for _ in range(self.each):
            row = {one.column: self.value(table, one) for one in table.fields}
            row |= {column: self._left(value) for column, value in table.left.items()}
            if table.name == "address":
                row["kind"] = self.random.choice(CHOICES["address", "kind"])
                row["owner"] = 0 if row["kind"] == "away" else self.one(row["kind"])
            if table.name.startswith("house_"):
                row["value"] = self.house(row["part"])
            names = ", ".join(row)
            number = self.db.run(
                f"INSERT OR IGNORE INTO {table.name} ({names}) VALUES ({', '.join('?' * len(row))})",
                *row.values(),
            )
            if table.kind and number.rowcount:
                self.there[table.kind].append(number.lastrowid)

    def _left(self, value: Any) -> Any:
        return (
            self.blog_id
            if value == ":blog"
            else f"secret {self.random.random()}"
            if value == ":secret"
            else value
        )

    def one(self, kind: str) -> int:
        return self.random.choice(self.there[kind]) if self.there.get(kind) else 0

    def words(self) -> str:
        self._count += 1
        return f"{self.random.choice(WORDS)}{self._count}".replace("\ufeff", "")

    def value(self, table: Table, field: Field) -> Any:
        """A value of a column, by its form."""
        known = CHOICES.get((table.name, field.column))
        if known:
            return self.random.choice(known)
        word = field.word
        if word.endswith("?") and self.random.random() < 0.4:
            return None
        if word.endswith("0") and self.random.random() < 0.4:
            return 0
        return self._of_word(table.name, field.column, word.rstrip("?0"))

    def _of_word(self, table: str, column: str, word: str) -> Any:
        random = self.random
        simple = {
            "text": lambda: self._text(table, column), "whole": lambda: random.randint(0, 9), "real": lambda: random.random() * 9,
            "time": lambda: random.choice((0, 1_790_000_000 + random.randint(0, 10_000_000), 2**53)), "page": lambda: random.choice((0, -1, self.one("post"))),
            "data": lambda: random.choice(("", '{"a": [1, "é"]}')), "data[]": lambda: '[["a", "https://b.example/"]]' if "links" in column else '["a", "ß"]',
            "data{}": lambda: '{"b": 1}', "name": self.name, "document": self.body, "description": lambda: random.choice(("", self.body())),
            "own_look": lambda: random.choice(("", canonical({"accent": "", "paper": "#ffffff", "picture": self.one("media")}))),
            "alike": lambda: random.choice(("", json.dumps({"none": False, "pinned": [self.one("post")], "struck": []}))), "lead": lambda: "",
            "wishes": lambda: json.dumps([[f"category:{self.one('category')}", "week"]]), "categories": lambda: str(self.one("category")), "owner": lambda: 0,
            "shown": lambda: json.dumps([[self.one("post"), self.one("placement")]]), "house": lambda: "", "rights": lambda: "{}",
        }  # fmt: skip
        if word in simple:
            return simple[word]()
        if word.endswith("*"):
            return json.dumps(sorted({self.one(word[:-1]) for _ in range(2)} - {0}))
        return self.one(word) or None

    def _text(self, table: str, column: str) -> str:
        self._count += 1
        if table in ("post", "placement") and column in WORDS_OF:
            return self.random.choice(WORDS_OF[column])
        shaped = SHAPES.get((table, column)) or SHAPES.get(("", column))
        if shaped:
            return shaped.format(number=self._count)
        if (table, column) == ("post", "language") or column == "language":
            return self.random.choice(LANGUAGES)
        if column in ("source", "target", "profile", "answer", "shown_address"):
            return self.random.choice(ADDRESSES)
        return self.words()

    def name(self) -> str:
        kind = self.random.choice(AUDIENCES)
        return kind.format(**{name: self.one(name) for name in ("post", "group", "person")})

    def body(self) -> str:
        return canonical(self.maker.document())

    def house(self, part: str) -> str:
        if part == "look":
            return look_text(read_look(json.loads(begun_look("ferry"))))
        if part == "promos":
            return promos_text(
                Promos(
                    (
                        Promo(
                            1, self.one("kept") or 1, (self.one("category"),), (self.one("tag"),), ("rival",)
                        ),
                    )
                )
            )
        return menu_text(
            Menu(
                menu=(
                    Entry(Target.of("category", self.one("category"))),
                    Entry(Target.of("address", "https://a.example/"), "A"),
                ),
                front_door=self.one("post"),
            )
        )

    def posts(self) -> None:
        """Posts with some revisions, which categories, tags, series and the library are there for."""
        self.there["post"] = self.db.column("SELECT id FROM post WHERE blog_id = ?", self.blog_id)
        made = []
        for _ in range(self.each):
            number = self.db.run(
                "INSERT INTO post (blog_id, author_id, made_at, changed_at) VALUES (?, ?, 1, 1)",
                self.blog_id,
                self.one("person"),
            ).lastrowid
            self.there["post"].append(number)
            made.append(number)
        post = Table("post", POST)
        for number in made:
            values = {one.column: self.value(post, one) for one in POST}
            self.db.run(
                f"UPDATE post SET {', '.join(f'{name} = ?' for name in values)} WHERE id = ?",
                *values.values(),
                number,
            )
            self._revisions(number)
            for table, kind in (("post_category", "category"), ("post_tag", "tag")):
                self.db.run_many(
                    f"INSERT INTO {table} VALUES (?, ?, ?)",
                    [
                        (number, place, one)
                        for place, one in enumerate(sorted({self.one(kind), self.one(kind)}))
                    ],
                )

    def _revisions(self, number: int) -> None:
        last = self.random.randint(1, 4)
        for revision in sorted({1, last}):
            document = self.maker.document()
            title = " ".join(self.words().split())
            self.db.run(
                "INSERT INTO revision (post_id, number, person_id, title, subtitle, body, begun_at, saved_at, name) VALUES (?, ?, ?, ?, ?, ?, 5, 9, ?)",
                number, revision, self.one("person"), title, self.words(), canonical(document), self.random.choice(("", "before the edit")),
            )  # fmt: skip
        lead = reference(document, len(document["content"]) - 1)
        self.db.run(
            "UPDATE post SET revision = ?, title = ?, lead = ? WHERE id = ?",
            last,
            title,
            json.dumps(lead.__dict__) if lead else "",
            number,
        )

    def _link_posts(self) -> None:
        """Placements show a revision that is there."""
        self.db.run(
            "UPDATE placement SET revision = (SELECT MAX(number) FROM revision WHERE revision.post_id = placement.post_id), shows_until = shows_from"
        )
        assert PLACEMENT.kind
