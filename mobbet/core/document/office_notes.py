"""Footnotes of word processors and of HTML made from Markdown: numbered notes at the end of the text."""

from __future__ import annotations

import re

from mobbet.core.document.elements import Element

_MARK = re.compile(r"[\[(]?\s*(\d{1,4}|[ivx]{1,6}|[a-z*†‡])\s*[\])]?", re.IGNORECASE)
_BLOCKS = ("li", "p", "div", "dd", "td", "aside")


def gather(body: Element) -> None:
    """Moves every note that a mark in the text leads to into one list at the end, in the marks' order.

    The marks become raised numbers. A link counts as a mark when its words are a number or a sign and it
    leads to a place in the same page that leads back.
    """
    links = [
        element
        for element in body.walk()
        if element.tag == "a"
        and element.attrs.get("href", "").startswith("#")
        and len(element.attrs["href"]) > 1
    ]
    if not links:
        return
    parents = _parents(body)
    places = _places(body)
    notes: list[Element] = []
    numbers: dict[int, int] = {}
    moved: set[int] = set()
    for link in links:
        target = places.get(link.attrs["href"][1:])
        if target is None or not _MARK.fullmatch(link.words().strip()):
            if re.match(r"#(_Toc|_Ref|_Hlk|_top)", link.attrs["href"]):
                link.attrs["class"] = "dropped"
            continue
        block = _block_of(target, parents)
        if block is None or any(id(link) == id(inner) for inner in block.walk()) or id(link) in moved:
            continue
        if not _leads_back(block, link, parents):
            continue
        if id(block) not in numbers:
            notes.append(block)
            numbers[id(block)] = len(notes)
            moved.update(id(inner) for inner in block.walk())
        number = str(numbers[id(block)])
        parent = parents.get(id(link))
        link.tag, link.attrs, link.children = (
            ("span" if parent is not None and parent.tag == "sup" else "sup"),
            {},
            [number],
        )
    if notes:
        _move(body, notes, parents)


def _parents(body: Element) -> dict[int, Element]:
    found: dict[int, Element] = {}
    for element in [body, *body.walk()]:
        for child in element.elements():
            found[id(child)] = element
    return found


def _places(body: Element) -> dict[str, Element]:
    """The elements that an address in the page can lead to."""
    found: dict[str, Element] = {}
    for element in body.walk():
        for name in (element.attrs.get("id"), element.attrs.get("name") if element.tag == "a" else None):
            if name:
                found.setdefault(name, element)
    return found


def _block_of(element: Element, parents: dict[int, Element]) -> Element | None:
    """The block a note stands in: its container where the container has an id of its own."""
    block: Element | None = element
    while block is not None and block.tag not in _BLOCKS:
        block = parents.get(id(block))
    if block is None:
        return None
    element, parent = block, parents.get(id(block))
    if (
        element.tag == "p"
        and parent is not None
        and parent.tag in ("div", "li", "aside")
        and re.search(r"(ft|foot|end|ed)n|note", parent.attrs.get("id", ""))
    ):
        return parent
    return element


def _leads_back(block: Element, link: Element, parents: dict[int, Element]) -> bool:
    """Whether the note holds a link back to the mark, or says by its name that it is a note."""
    names = {link.attrs.get("id"), link.attrs.get("name")}
    parent = parents.get(id(link))
    names.update({parent.attrs.get("id"), parent.attrs.get("name")} if parent is not None else ())
    names.update(inner.attrs.get("id") for inner in link.walk())
    for inner in block.walk():
        if (
            inner.tag == "a"
            and inner.attrs.get("href", "").startswith("#")
            and inner.attrs["href"][1:] in names
        ):
            return True
    return bool(
        re.search(r"ftn|edn|footnote|fn[:\d-]", f"{block.attrs.get('id', '')} {block.attrs.get('class', '')}")
    )


def _move(body: Element, notes: list[Element], parents: dict[int, Element]) -> None:
    for note in notes:
        parent = parents[id(note)]
        parent.children[:] = [child for child in parent.children if child is not note]
    items = []
    for note in notes:
        _without_back(note)
        items.append(Element("li", {}, note.children))
    _remove_leftovers(body)
    body.children += [Element("hr", {}, []), Element("ol", {}, [*items])]
    body.holds_block = True


def _without_back(note: Element) -> None:
    """Takes the links back, with the sign that stands for the number."""
    kept: list[Element | str] = []
    for child in note.children:
        is_back = not isinstance(child, str) and (
            (child.tag == "a" and child.attrs.get("href", "").startswith("#"))
            or (child.tag == "sup" and _MARK.fullmatch(child.words().strip()))
        )
        if is_back:
            continue
        if not isinstance(child, str):
            _without_back(child)
        kept.append(child)
    note.children[:] = kept


def _remove_leftovers(body: Element) -> None:
    """Lists, sections and rules that held nothing but notes."""
    kept: list[Element | str] = []
    for child in body.children:
        if not isinstance(child, str):
            holder = child.tag in ("ol", "ul", "section", "div", "aside", "footer")
            is_note_list = "footnote-list" in child.attrs.get(
                "style", ""
            ) or "endnote-list" in child.attrs.get("style", "")
            if is_note_list or (holder and child.holds_block):
                _remove_leftovers(child)
            if (
                holder and not child.words().strip() and not any(inner.tag == "img" for inner in child.walk())
            ) or (is_note_list and not child.words().strip()):
                continue
        kept.append(child)
    body.children[:] = kept
