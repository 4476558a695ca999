import io
import os
import signal
import subprocess
import time
from unittest import mock

from mobbet.actions import library, media_jobs
from mobbet.store import jobs, media
from mobbet.worker import Keeper
from tests.shops import ShopCase, picture

MOST_SECONDS = 60


class KeeperTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.started: list[int] = []
        real = subprocess.Popen

        def start(*words: object, **more: object) -> subprocess.Popen:
            process = real(*words, **more)
            self.started.append(process.pid)
            return process

        patch = mock.patch.object(subprocess, "Popen", start)
        patch.start()
        self.addCleanup(patch.stop)

    def wait(self, is_true) -> None:
        end = time.monotonic() + MOST_SECONDS
        while not is_true():
            self.assertLess(time.monotonic(), end, "the worker did not do its work")
            time.sleep(0.05)

    def add(self, number: int) -> int:
        return library.add_stream(
            self.shop, self.me, self.blog, f"{number}.png", io.BytesIO(picture(600 + number, 400))
        ).id

    def is_ready(self, number: int) -> bool:
        return media.by_id(self.shop.db, number).state == "ready"

    def test_a_worker_that_dies_is_started_anew_and_ends_with_the_server(self) -> None:
        keeper = Keeper(self.folder / "data")
        keeper.start()
        first = self.add(1)
        self.wait(lambda: self.is_ready(first))
        with self.assertLogs("mobbet.worker", "WARNING"):
            os.kill(self.started[0], signal.SIGKILL)
            second = self.add(2)
            self.wait(lambda: self.is_ready(second))
        self.assertEqual((len(self.started), jobs.open_count(self.shop.db)), (2, 0))
        keeper.stop()
        with media_jobs.only_worker(self.shop) as is_only:
            self.assertTrue(is_only)
