"""How many pages a change concerns, counted in one way everywhere: pages, and beside them files and addresses."""

from __future__ import annotations

from typing import NamedTuple


class PageCount(NamedTuple):
    """`pages` are what readers open or follow: posts, lists, feeds, site maps. `files` belong to pages: pictures, sound, the design.
    `addresses` redirect to a page.
    """

    pages: int = 0
    files: int = 0
    addresses: int = 0

    @property
    def pages_in_words(self) -> str:
        return f"{self.pages:,} page{'s' if self.pages != 1 else ''}"

    @property
    def beside(self) -> str:
        """“19 files of pictures or sound and 2 addresses that redirect”; '' where there are only pages."""
        words = []
        if self.files:
            words.append(f"{self.files:,} file{'s' if self.files != 1 else ''} of pictures or sound")
        if self.addresses:
            words.append(
                f"{self.addresses:,} address{'es that redirect' if self.addresses != 1 else ' that redirects'}"
            )
        return " and ".join(words)

    @property
    def in_short(self) -> str:
        """“16 pages, 19 files, 2 addresses”."""
        words = [self.pages_in_words]
        words += [f"{self.files:,} file{'s' if self.files != 1 else ''}"] if self.files else []
        words += (
            [f"{self.addresses:,} address{'es' if self.addresses != 1 else ''}"] if self.addresses else []
        )
        return ", ".join(words)

    @property
    def in_words(self) -> str:
        """“16 pages of the site changed; also 19 files of pictures or sound.”"""
        return f"{self.pages_in_words} of the site changed{f'; also {self.beside}' if self.beside else ''}."
