"""Cleans SVG drawings: what draws is kept, what runs, loads or leads elsewhere is taken out."""

from __future__ import annotations

import re

from lxml import etree

from mobbet.core.errors import BadInput

LARGEST = 2_000_000
MOST_ELEMENTS = 20_000
SVG = "http://www.w3.org/2000/svg"
XLINK = "http://www.w3.org/1999/xlink"
ELEMENTS = frozenset(
    "svg g defs title desc path rect circle ellipse line polyline polygon text tspan textPath use symbol clipPath mask pattern marker"
    " linearGradient radialGradient stop filter feGaussianBlur feOffset feMerge feMergeNode feColorMatrix feBlend feFlood feComposite"
    " feComponentTransfer feFuncR feFuncG feFuncB feFuncA feMorphology feTurbulence feDisplacementMap feDropShadow".split()
)
_URL = re.compile(r"url\(\s*+['\"]?+\s*+(?!#)", re.IGNORECASE)
_LENGTH = re.compile(r"\s*+([\d.]++)\s*+(px|pt|pc|mm|cm|in|em|%)?\s*+")
_UNITS = {"px": 1, "pt": 4 / 3, "pc": 16, "mm": 3.7795, "cm": 37.795, "in": 96, "em": 16, None: 1, "": 1}


def clean_svg(data: bytes, name: str) -> tuple[bytes, int, int]:
    """(the drawing without anything that acts, its width, its height in pixels).

    Raises BadInput for what is no sound SVG, and for one that is too large.
    """
    if len(data) > LARGEST:
        raise BadInput(
            f"“{name}” has {len(data) / 1_000_000:.1f} MB, more than {LARGEST // 1_000_000} MB for a drawing; make it simpler.",
            "file",
        )
    parser = etree.XMLParser(
        resolve_entities=False,
        no_network=True,
        load_dtd=False,
        huge_tree=False,
        remove_comments=True,
        remove_pis=True,
    )
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError):
        raise BadInput(f"“{name}” is no sound SVG drawing; export it again.", "file") from None
    if root.tag != f"{{{SVG}}}svg":
        raise BadInput(f"“{name}” is no SVG drawing; export it again as plain SVG.", "file")
    if (
        root.getroottree().docinfo.doctype
        and root.getroottree().docinfo.internalDTD is not None
        and list(root.getroottree().docinfo.internalDTD.iterentities())
    ):
        raise BadInput(
            f"“{name}” defines entities, which drawings do not need; export it again as plain SVG.", "file"
        )
    if sum(1 for _ in root.iter()) > MOST_ELEMENTS:
        raise BadInput(f"“{name}” has more than {MOST_ELEMENTS:,} parts; make it simpler.", "file")
    _clean(root)
    _refuse_loops(root, name)
    width, height = _size(root)
    root.set("width", f"{width:g}")
    root.set("height", f"{height:g}")
    etree.cleanup_namespaces(root)
    return etree.tostring(root), max(1, round(width)), max(1, round(height))


def _clean(element: etree._Element) -> None:
    for child in list(element):
        local = etree.QName(child).localname if isinstance(child.tag, str) else ""
        if not isinstance(child.tag, str) or etree.QName(child).namespace != SVG or local not in ELEMENTS:
            tail = child.tail
            element.remove(child)
            if tail and tail.strip():
                element.text = (element.text or "") + tail
        else:
            _clean(child)
    for name, value in list(element.attrib.items()):
        if not _is_kept(name, value):
            del element.attrib[name]


def _is_kept(name: str, value: str) -> bool:
    """Whether an attribute only draws: no handler, no style sheet, no address but one inside the drawing."""
    bare = re.sub(r"[\x00-\x20]", "", value).lower()
    if name in ("href", f"{{{XLINK}}}href"):
        return bare.startswith("#")
    if name.startswith("{") or name.lower().startswith("on") or name in ("src", "class", "systemLanguage"):
        return False
    if name == "style" and ("\\" in value or "@" in value or "expression" in bare):
        return False
    return not _URL.search(value) and "javascript:" not in bare


def _refuse_loops(root: etree._Element, name: str) -> None:
    """Raises BadInput when copies of copies would draw more than a browser should."""
    targets = {element.get("id"): element for element in root.iter() if element.get("id")}
    costs: dict[str, int] = {}

    def cost(element: etree._Element, open_ids: frozenset[str]) -> int:
        total = 1
        for child in element:
            total += cost(child, open_ids)
        href = element.get("href") or element.get(f"{{{XLINK}}}href") or ""
        wanted = href[1:] if element.tag == f"{{{SVG}}}use" else ""
        if wanted in targets:
            if wanted in open_ids:
                total = 10**9
            elif wanted not in costs:
                costs[wanted] = min(10**9, cost(targets[wanted], open_ids | {wanted}))
            total += costs.get(wanted, 0)
        return min(total, 10**9)

    try:
        total = cost(root, frozenset())
    except RecursionError:
        total = 10**9
    if total > MOST_ELEMENTS * 10:
        raise BadInput(f"“{name}” draws copies of copies without end; export it again as plain SVG.", "file")


def _size(root: etree._Element) -> tuple[float, float]:
    """Width and height in pixels: as given, or those of the viewBox, or 300 × 150 as browsers have it."""
    try:
        box = [float(part) for part in re.split(r"[\s,]+", root.get("viewBox", "").strip())]
    except ValueError:
        box = []
    box = box if len(box) == 4 and box[2] > 0 and box[3] > 0 else []
    width, height = _length(root.get("width")), _length(root.get("height"))
    if box:
        width = width or (height * box[2] / box[3] if height else box[2])
        height = height or width * box[3] / box[2]
    return min(width or 300.0, 10_000.0), min(height or 150.0, 10_000.0)


def _length(value: str | None) -> float:
    match = _LENGTH.fullmatch(value or "")
    return (
        float(match.group(1)) * _UNITS[match.group(2)]
        if match and match.group(2) != "%" and match.group(1).count(".") < 2
        else 0.0
    )
