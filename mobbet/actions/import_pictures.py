"""The pictures of a text that is imported."""

from __future__ import annotations

import base64
import binascii
import re
from collections.abc import Callable
from functools import partial
from typing import Any

from mobbet.actions import library
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.links import clean_picture, media_src
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain
from mobbet.core.errors import Refused
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

_NAMED = re.compile(r"\[picture:[ \t]{0,8}([^\]\n]{1,300})\]", re.IGNORECASE)


Beside = Callable[[str], bytes | None]
"""Answers with the bytes of a file beside the text, by its name; None when there is none."""


def nothing_beside(name: str) -> bytes | None:
    """A file that came alone."""
    return None


class Pictures:
    """Puts the pictures of one text into the library, and remarks on those that do not come."""

    def __init__(
        self, workshop: Workshop, person: Person, blog: Blog, beside: Beside = nothing_beside
    ) -> None:
        self._add = partial(library.add_picture, workshop, person, blog)
        self._beside = beside
        self.notes: list[str] = []

    def bring(self, src: str) -> str | None:
        """The `src` of a picture on the sheet for one in a text; None when it is left out."""
        if src.startswith("data:"):
            return self._embedded(src)
        if ":" in src or src.startswith("//"):
            address = clean_picture(src)
            self.notes.append(
                f"The picture at {src[:80]} stays there; bring it to the library to show it."
                if address
                else "A picture without a sound address was left out."
            )
            return address
        return self.local(src) or clean_picture(src)

    def local(self, src: str) -> str | None:
        """The library's address of a file beside the text; None, with a remark, when there is none."""
        data = self._beside(src)
        if data is None:
            self.notes.append(f"The picture “{src[:80]}” was not found; its place shows its name.")
            return None
        return self._keep(src.rpartition("/")[2], data)

    def _embedded(self, src: str) -> str | None:
        head, _, body = src.partition(",")
        try:
            data = base64.b64decode(body, validate=False) if head.endswith(";base64") else b""
        except (binascii.Error, ValueError):
            data = b""
        ending = head.removeprefix("data:image/").split(";")[0][:8]
        return self._keep(f"embedded.{ending}", data)

    def _keep(self, name: str, data: bytes) -> str | None:
        try:
            return media_src(self._add(name, data).id)
        except Refused as error:
            self.notes.append(str(error))
            return None


def with_local(document: dict[str, Any], pictures: Pictures) -> dict[str, Any]:
    """The document with the pictures that lie beside the text."""

    def change(node: dict[str, Any]) -> dict[str, Any]:
        if node["type"] == "picture" and ":" not in node["attrs"]["src"]:
            src = pictures.local(node["attrs"]["src"])
            return {**node, "attrs": {**node["attrs"], "src": src}} if src else node
        return (
            {**node, "content": [change(child) for child in node["content"]]} if "content" in node else node
        )

    return change(document)


def with_named(document: dict[str, Any], pictures: Pictures) -> dict[str, Any]:
    """The document with `[picture: lamp.jpg]` on a line of its own replaced by that picture."""

    def change(node: dict[str, Any]) -> dict[str, Any]:
        if node["type"] == "paragraph":
            named = _NAMED.fullmatch(plain(node).strip())
            src = pictures.local(named.group(1).strip()) if named else None
            return {"type": "picture", "attrs": {"src": src, "alt": ""}} if src else node
        return (
            {**node, "content": [change(child) for child in node["content"]]} if "content" in node else node
        )

    if not any(
        node["type"] == "paragraph" and _NAMED.fullmatch(plain(node).strip()) for node in walk(document)
    ):
        return document
    try:
        return schema.check(change(document))
    except Refused:  # an item of a list must begin with words
        return document
