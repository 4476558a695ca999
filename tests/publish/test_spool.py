import io
from unittest import mock

from mobbet.core.errors import Broken
from mobbet.publish import spool
from mobbet.publish.spool import Spool
from tests.shops import ShopCase


class SpoolTests(ShopCase):
    def spooled(self, *added: list[int]) -> Spool:
        found = Spool(self.folder)
        for rows in added:
            found.add(rows)
        return found

    def test_rows_come_back_in_their_order_and_again(self) -> None:
        for in_memory in (spool.IN_MEMORY, 1):
            with self.subTest(in_memory), mock.patch.object(spool, "IN_MEMORY", in_memory):
                found = self.spooled([1, 2], [], [3])
                self.assertEqual((list(found), list(found)), ([1, 2, 3], [1, 2, 3]))

    def test_one_takes_what_another_gave(self) -> None:
        stream = io.BytesIO()
        self.spooled([1], [2]).give(stream)
        stream.seek(0)
        other = Spool(self.folder)
        other.take(stream)
        self.assertEqual(list(other), [1, 2])

    def test_a_full_disk_is_told(self) -> None:
        found = Spool(self.folder)
        with (
            mock.patch.object(
                found, "_file", mock.Mock(write=mock.Mock(side_effect=OSError(28, "No space left on device")))
            ),
            self.assertRaisesRegex(Broken, "No space left on device"),
        ):
            found.add([1])
