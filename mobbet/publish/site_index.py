"""Keeps the readers' search index up to date with the pages of the current editions."""

from __future__ import annotations

from mobbet.publish.page_words import words_of_page
from mobbet.store import site_search
from mobbet.store.database import Database
from mobbet.store.shelf import Shelf

AT_ONCE, FEW = 100, 20


def read_few(db: Database, pages: Shelf, blog_id: int) -> None:
    """Reads what an edition changed, if that is little; more is left to the background and to the next search, so that no publication waits for it."""
    if site_search.count_to_index(db, FEW + 1) <= FEW:
        bring_up_to_date(db, pages, blog_id, FEW)


def bring_up_to_date(db: Database, pages: Shelf, blog_id: int, most: int) -> int:
    """Reads at most so many pages that changed since the index was brought up to date, those of one blog first; answers with how many it read."""
    done = 0
    while done < most and (due := site_search.to_index(db, blog_id, min(AT_ONCE, most - done))):
        found = [
            (page, words_of_page(body) if page.hash and (body := pages.read(page.hash)) else None)
            for page in due
        ]
        with db.transaction():
            for page, words in found:
                if site_search.to_index_of(db, page.blog_id, page.post_id) != page:
                    continue  # another edition, or another process, came first
                if words is None:
                    site_search.forget(db, page.blog_id, page.post_id)
                else:
                    site_search.index(db, page, words)
        done += len(due)
    return done
