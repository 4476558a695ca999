from __future__ import annotations

import unittest

from mobbet.core.errors import BadInput
from mobbet.core.exporting import forms
from mobbet.core.exporting.structures import fields
from mobbet.core.timing import FOREVER

KEYS = {
    ("post", 40): 1,
    ("post", 41): 2,
    ("category", 7): "lamps",
    ("person", 3): "ines@bench.example",
    ("group", 5): "Friends",
    ("media", 9): 1,
}


class Known:
    def key(self, kind, number):
        return KEYS.get((kind, number))

    def number(self, kind, key):
        found = next((number for (known, number), one in KEYS.items() if known == kind and one == key), None)
        if found is None:
            raise BadInput(f"there is no {kind} {key}")
        return found


class FormTests(unittest.TestCase):
    def both(self, word: str, value: object) -> object:
        form = fields(f"column {word}")[0].form
        written = form.write(value, Known())
        self.assertEqual(form.read(written, Known()), value)
        return written

    def test_each_form_is_read_as_it_is_written(self) -> None:
        cases = (
            ("text", "a\nü", "a\nü"), ("text?", None, None), ("whole", 3, 3), ("real", 0.5, 0.5), ("real?", None, None),
            ("time", 1_795_000_000, "2026-11-18T11:06:40Z"), ("time", FOREVER, FOREVER), ("time", 0, 0), ("time?", None, None),
            ("data[]", "[]", None), ("data[]", '[["a","b"]]', [["a", "b"]]), ("data", "", None), ("post", 40, 1), ("post?", None, None), ("person0", 0, None),
            ("category*", "[7]", ["lamps"]), ("name", "group:5", "group:Friends"), ("name", "person:3", "person:ines@bench.example"), ("name", "everyone", "everyone"),
            ("name", "password:41", "password:2"), ("page", -1, -1), ("page", 41, 2), ("owner", "away:0", "away:0"), ("categories", "7", ["lamps"]),
            ("own_look", '{"picture":9}', {"picture": 1}), ("wishes", '[["category:7", "week"]]', [["category:lamps", "week"]]),
        )  # fmt: skip
        for word, value, written in cases:
            with self.subTest(word=word, value=value):
                self.assertEqual(self.both(word, value), written)

    def test_what_is_of_another_form_is_refused(self) -> None:
        cases = (
            ("text", 3, "is not text"), ("text", "a\0b", "is not text"), ("text", "\ud800", "is not text"), ("whole", True, "whole number"), ("whole", 2**60, "whole number"),
            ("real", "x", "is not a number"), ("real", float("inf"), "is not a number"), ("time", "2026-13-01T00:00:00Z", "instant"), ("time", "soon", "instant"),
            ("data[]", "x", "list or an object"), ("post", None, "name of a post"), ("post", 9, "no post 9"), ("category*", ["x"], "no category x"), ("shown", [1], "pairs"),
        )  # fmt: skip
        for word, value, message in cases:
            with self.subTest(word=word, value=value), self.assertRaisesRegex(BadInput, message):
                fields(f"column {word}")[0].form.read(value, Known())

    def test_readers_whose_group_is_gone_become_nobody(self) -> None:
        form = fields("audience name")[0].form
        self.assertEqual(form.write("group:99", Known()), "group:")
        self.assertEqual(form.read("group:", Known()), "group:0")

    def test_a_row_that_needs_one_that_is_gone_is_left_out(self) -> None:
        with self.assertRaises(forms.Missing):
            forms.written({"post_id": 99}, fields("post_id post"), Known())

    def test_empty_fields_are_left_out_and_come_back(self) -> None:
        columns = fields("name text, count whole, below_id post?, tags category*")
        row = {"name": "", "count": 0, "below_id": None, "tags": "[]"}
        self.assertEqual(forms.written(row, columns, Known()), {})
        self.assertEqual(forms.read({}, columns, Known()), row)
