"""HTML that a person wrote by hand: what of it may stand on a page, and what was taken away."""

from __future__ import annotations

import re
from collections import Counter

import nh3

from mobbet.core.document.characters import UNPRINTABLE

TAGS = frozenset(
    "a abbr address article aside b bdi bdo blockquote br caption cite code col colgroup data dd del details dfn div dl dt em "
    "figcaption figure footer h2 h3 h4 h5 h6 header hr i ins kbd li main mark meter nav ol p pre progress q rp rt ruby s samp "
    "section small span strong sub summary sup table tbody td tfoot th thead time tr u ul var wbr".split()
)
ATTRIBUTES = {
    "*": {"lang", "dir", "title", "class"},
    "a": {"href", "hreflang"},
    "blockquote": {"cite"},
    "col": {"span"},
    "colgroup": {"span"},
    "data": {"value"},
    "del": {"cite", "datetime"},
    "details": {"open"},
    "ins": {"cite", "datetime"},
    "li": {"value"},
    "meter": {"min", "max", "low", "high", "optimum", "value"},
    "ol": {"start", "type", "reversed"},
    "progress": {"max", "value"},
    "q": {"cite"},
    "td": {"colspan", "rowspan", "headers"},
    "th": {"colspan", "rowspan", "headers", "scope"},
    "time": {"datetime"},
}
_TAG = re.compile(r"<\s*([a-zA-Z][\w:-]*)")
_ATTRIBUTE = re.compile(r"[\s/\"']([a-zA-Z][\w:-]*)\s*=")


def clean_html(source: str) -> tuple[str, tuple[str, ...]]:
    """The HTML that may stand on a page, and the names of elements and attributes that were taken away.

    Nothing in the result runs or loads; addresses are http, https, mailto or tel.
    """
    cleaned = _cleaned(source)
    if UNPRINTABLE.search(cleaned):  # written as references, such as &#1;
        cleaned = _cleaned(UNPRINTABLE.sub("", cleaned))
    before, after = _names(source), _names(cleaned)
    return cleaned, tuple(sorted(name for name, count in before.items() if after[name] < count))


def _cleaned(source: str) -> str:
    return nh3.clean(
        source,
        tags=set(TAGS),
        clean_content_tags={"script", "style", "template", "noscript", "iframe", "object", "math", "svg"},
        attributes={name: set(names) for name, names in ATTRIBUTES.items()},
        url_schemes={"http", "https", "mailto", "tel"},
        link_rel=None,
        strip_comments=True,
    )


def _names(source: str) -> Counter[str]:
    """How often each element, as `<b>`, and each attribute, as `onclick`, stands in a piece of HTML."""
    found: Counter[str] = Counter(f"<{name.lower()}>" for name in _TAG.findall(source))
    for tag in re.findall(r"<[a-zA-Z][^<>]*>", source):
        found.update(name.lower() for name in _ATTRIBUTE.findall(tag))
    return found
