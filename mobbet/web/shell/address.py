"""Addresses inside the application, each written once: its route has the pattern, and a link is a call of it."""

from __future__ import annotations

import re
from urllib.parse import quote, urlencode

_NAME = re.compile(r"{(\w+)(:path)?}")


class Address:
    """A pattern with names for its parts, such as `/posts/{post_id}/docket[/{part}]`; what stands in brackets may be left out.

    A call with the values of the parts gives the address; named values, and those beyond the parts in the order of `query`, follow as its
    query, the empty ones left out. A part that is a `:path` is written as it is.
    """

    def __init__(self, pattern: str, *query: str) -> None:
        self.route, _, tail = pattern.partition("[")
        self.whole = self.route + tail.removesuffix("]")
        self._query = query

    def __call__(self, *values: object, **query: object) -> str:
        parts = len(_NAME.findall(self.route))
        all_parts = len(_NAME.findall(self.whole))
        if len(values) < parts or len(values) > all_parts + len(self._query):
            raise TypeError(
                f"{self.whole} takes {parts} to {all_parts} parts and {len(self._query)} values of its query, not {len(values)} of them"
            )
        pattern = self.whole if all_parts > parts and len(values) > parts and values[parts] else self.route
        left = list(values[all_parts:])
        given = iter(values)
        address = _NAME.sub(
            lambda name: str(next(given)) if name[2] else quote(str(next(given)), safe=":,"), pattern
        )
        asked = {name: value for name, value in {**dict(zip(self._query, left)), **query}.items() if value}
        return f"{address}?{urlencode(asked)}" if asked else address

    @property
    def stem(self) -> str:
        """What stands before the first part, for scripts that fill it in."""
        return self.route.partition("{")[0]

    def at(self, last: str) -> str:
        """The route in which the last part is this literal."""
        return f"{self.whole[: self.whole.rindex('{')]}{last}{self.whole[self.whole.rindex('}') + 1 :]}"
