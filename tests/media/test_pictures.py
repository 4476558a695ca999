import io
import struct
import unittest
import zlib

from PIL import Image, ImageCms

from mobbet.core.errors import BadInput
from mobbet.media.pictures import read_picture
from tests.shops import picture


def huge_png(width: int, height: int) -> bytes:
    """A PNG that claims a size it does not have."""

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)) + chunk(b"IDAT", zlib.compress(b"")) + chunk(b"IEND", b"")


class PictureTests(unittest.TestCase):
    def sizes(self, data: bytes, type: str = "image/webp") -> list[int]:
        return sorted(file.width for file in read_picture(data, "p").files if file.type == type)

    def test_four_widths_are_made_where_the_original_allows(self) -> None:
        for width, wanted in ((2000, [480, 800, 1200, 1600]), (1000, [480, 800, 1000]), (300, [300]), (1600, [480, 800, 1200, 1600])):
            with self.subTest(width):
                self.assertEqual(self.sizes(picture(width, 100)), wanted)

    def test_one_file_is_for_share_cards(self) -> None:
        self.assertEqual(self.sizes(picture(2000, 500), "image/jpeg"), [1200])
        self.assertEqual(self.sizes(picture(500, 500, mode="RGBA"), "image/png"), [500])

    def test_a_turned_picture_is_made_upright_and_loses_its_metadata(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6
        exif[0x010F] = "A camera"
        data = picture(640, 480, "JPEG", exif=exif, comment=b"a place")
        made = read_picture(data, "p.jpg")
        self.assertEqual((made.width, made.height, made.type), (480, 640, "image/jpeg"))
        for file in made.files:
            opened = Image.open(io.BytesIO(file.body))
            self.assertEqual((len(opened.getexif()), opened.info.get("comment")), (0, None))
            self.assertNotIn(b"A camera", file.body)

    def test_colours_come_into_srgb(self) -> None:
        profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
        for options in ({"icc_profile": b"broken"}, {"icc_profile": profile}, {}):
            made = read_picture(picture(100, 100, "JPEG", **options), "p.jpg")
            self.assertIsNone(Image.open(io.BytesIO(made.files[0].body)).info.get("icc_profile"))
        self.assertEqual(read_picture(picture(60, 60, "JPEG", mode="CMYK", color=(0, 90, 90, 10)), "p.jpg").width, 60)

    def test_what_is_no_picture_or_too_much_is_refused_with_its_name(self) -> None:
        whole = picture(400, 400, "JPEG")
        for data, message in (
            (b"", "“x.jpg” is not a JPEG, PNG or WebP"), (b"<svg/>", "is not a JPEG"), (picture(20, 20, "GIF", mode="P", color=1), "is not a JPEG"),
            (whole[: len(whole) // 2], "is not a JPEG|damaged"), (huge_png(100_000, 100_000), "more than 40 megapixels"), (huge_png(50, 50), "is not a JPEG"),
            (b"x" * 25_000_001, "larger than 25 MB"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                read_picture(data, "x.jpg")

    def test_the_real_type_counts_not_the_name(self) -> None:
        self.assertEqual(read_picture(picture(50, 50, "WEBP"), "lamp.jpg").type, "image/webp")
