"""A workshop in a folder of its own, with one blog, for tests."""

from __future__ import annotations

import atexit
import io
import os
import shutil
import tempfile
import unittest
from functools import lru_cache
from pathlib import Path
from unittest import mock

from argon2 import PasswordHasher
from PIL import Image

from mobbet.actions import blogs, building, files, media_jobs, people
from mobbet.actions.work import unpublished
from mobbet.publish import on_request
from mobbet.publish.editions import Published
from mobbet.publish.export import files_of
from mobbet.publish.pages.kinds import all_keys
from mobbet.publish.plan import Plan
from mobbet.publish.renderer import Renderer
from mobbet.publish.static_copy import static_copy
from mobbet.services.stand_ins.bounded import AtOnce
from mobbet.services.stand_ins.clock import SetClock
from mobbet.store import posts
from mobbet.store.database import Database
from mobbet.store.editions import PageRow
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot
from mobbet.wiring import open_folder

NOW = 1_795_000_000  # 2026-11-18T11:06:40Z, a Wednesday
DAY = 86400
quick_hashes = mock.patch.object(
    people, "_hasher", return_value=PasswordHasher(time_cost=1, memory_cost=8, parallelism=1)
)


@lru_cache(maxsize=1)
def _blank() -> Path:
    """A data folder without a blog, made once for each process: making the tables anew takes longer than most tests."""
    folder = Path(tempfile.mkdtemp(prefix="mobbet-blank-", dir=os.environ.get("MOBBET_TEST_FOLDER")))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    open_folder(folder / "data").db.close()
    return folder / "data"


class ShopCase(unittest.TestCase):
    """Each test has a workshop whose clock stands at NOW, a person who owns it, and a blog in Lisbon."""

    begun: Path | None = None
    """The data folder that each test begins with, once it was prepared."""
    publishes = True
    """Whether actions publish what follows from them; tests of publications leave that to `publish`."""

    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="mobbet-test-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        quick_hashes.start()
        self.addCleanup(quick_hashes.stop)
        if not self.publishes:
            self.enterContext(unpublished())
        self.clock = SetClock(NOW)
        begun = type(self).__dict__.get("begun")
        self._open(begun or _blank())
        if not begun:
            self.me, self.blog = blogs.set_up(
                self.shop, name="Ines Farrow", email="ines@bench.example", password="a long password", blog="The Bench",
                address="bench", zone="Europe/Lisbon", home="https://bench.example/",
            )  # fmt: skip
            self.prepare()
            if type(self).prepare is not ShopCase.prepare:
                self._keep()

    def prepare(self) -> None:
        """What stands in the workshop before each test of the class; done once, and copied."""

    def _open(self, data: Path) -> None:
        shutil.copytree(data, self.folder / "data", dirs_exist_ok=True)
        self.shop = open_folder(self.folder / "data", self.clock)
        self.shop.services.heavy = AtOnce()
        self.addCleanup(self.shop.db.close)

    def _keep(self) -> None:
        kept = Path(tempfile.mkdtemp(prefix="mobbet-begun-"))
        self.addClassCleanup(shutil.rmtree, kept, ignore_errors=True)
        self.shop.db.close()
        type(self).begun = shutil.copytree(self.folder / "data", kept / "data")
        type(self).me, type(self).blog = self.me, self.blog
        self._open(self.begun)

    def write(self, title: str, body: str = "Some words.", **settings: str) -> Post:
        """A post from front matter; with `date` it is placed."""
        front = "".join(f"{name}: {value}\n" for name, value in {"title": title, **settings}.items())
        return files.new_post(self.shop, self.me, "bench", f"---\n{front}---\n{body}\n").post

    def publish(self, full: bool = False) -> Published:
        media_jobs.work_all(self.shop)
        return building.publish(self.shop, self.blog, full=full)

    def change_meanwhile(self) -> None:
        """Another process alters what stands on every page."""
        other = Database(self.shop.db.path)
        with other.transaction():
            other.run("UPDATE blog SET tagline = 'another line'")
        other.close()

    def site(self, instant: int | None = None) -> dict[str, bytes]:
        """The whole public site, made from the facts alone, with every picture ready."""
        media_jobs.work_all(self.shop)
        plan = Plan(SiteSnapshot(self.shop.db, self.blog.id, self.clock() if instant is None else instant))
        return dict(files_of(plan, self.shop.media, list(all_keys(plan))))

    def body(self, row: PageRow) -> bytes | None:
        """The bytes of a page of an edition, also of one that is made when somebody asks for it."""
        if row.is_made_on_request:
            snapshot = SiteSnapshot(self.shop.db, self.blog.id, self.clock())
            return on_request.bytes_of(snapshot, Renderer(snapshot.house, snapshot.item), row)
        return (self.shop.media if row.shelf == "media" else self.shop.pages).read(row.hash)

    def without_server(self, row: PageRow) -> bytes | None:
        """The bytes of a page of an edition, as a copy without a server."""
        body = self.body(row)
        is_page = body is not None and row.type.startswith("text/html")
        return static_copy(body, row.key.kind) if is_page else body

    def again(self, post: Post) -> Post:
        return posts.by_id(self.shop.db, post.id)


def picture(
    width: int = 900,
    height: int = 600,
    format: str = "PNG",
    mode: str = "RGB",
    color: str = "#b3461e",
    **options: object,
) -> bytes:
    """The bytes of a plain picture."""
    out = io.BytesIO()
    Image.new(mode, (width, height), color).save(out, format, **options)
    return out.getvalue()
