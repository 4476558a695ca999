import io
import struct
import tempfile
import unittest
import zlib
from pathlib import Path

from PIL import Image, ImageCms, ImageDraw

from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import Limits
from mobbet.core.media.recipes import USES, Recipe
from mobbet.media import pictures
from mobbet.media.sniffing import sniff
from tests.shops import picture

SECRET = "A camera of port alder"


def huge_png(width: int, height: int) -> bytes:
    """A PNG that claims a size it does not have."""

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0))
        + chunk(b"IDAT", zlib.compress(b""))
        + chunk(b"IEND", b"")
    )


def cornered(format: str, orientation: int, **options: object) -> bytes:
    """A picture that is upright 400 by 200 with a red corner at its top left, kept with an orientation flag."""
    upright = Image.new("RGB", (400, 200), "#dddddd")
    ImageDraw.Draw(upright).rectangle((0, 0, 99, 99), fill="#cc0000")
    back = {1: None, 2: 0, 3: 3, 4: 1, 5: 5, 6: 2, 7: 6, 8: 4}[orientation]
    kept = upright if back is None else upright.transpose(Image.Transpose(back))
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = orientation, SECRET
    out = io.BytesIO()
    kept.save(out, format, exif=exif, **options)
    return out.getvalue()


def moving(format: str) -> bytes:
    frames = [Image.new("RGB", (120, 80), colour) for colour in ("red", "green", "blue")]
    out = io.BytesIO()
    frames[0].save(out, format, save_all=True, append_images=frames[1:], duration=90, loop=0)
    return out.getvalue()


class PictureCase(unittest.TestCase):
    def file(self, data: bytes, name: str = "p.png") -> Path:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / name
        path.write_bytes(data)
        return path

    def see(self, data: bytes, name: str = "p.png") -> pictures.InspectedPicture:
        path = self.file(data, name)
        return pictures.verify(path, sniff(path, name).type, name, Limits())

    def copies(self, data: bytes, recipe: Recipe = Recipe(), **more: object) -> list[pictures.Copy]:
        path = self.file(data)
        return list(pictures.derive(path, sniff(path, "p").type, "p", recipe, Limits(), **more))

    def opened(self, copy: pictures.Copy) -> Image.Image:
        return Image.open(io.BytesIO(copy.body))


class CopyTests(PictureCase):
    def test_the_widths_are_those_the_original_allows(self) -> None:
        for width, wanted in (
            (2600, [480, 800, 1200, 1600, 2400]),
            (1700, [480, 800, 1200, 1600]),
            (1000, [480, 800, 1000]),
            (300, [300]),
        ):
            with self.subTest(width):
                found = [
                    copy.width
                    for copy in self.copies(picture(width, 100))
                    if (copy.use, copy.type) == ("whole", "image/webp")
                ]
                self.assertEqual(sorted(found), wanted)

    def test_copies_are_webp_and_of_the_originals_family(self) -> None:
        for format, family in (
            ("JPEG", "image/jpeg"),
            ("PNG", "image/png"),
            ("WEBP", "image/webp"),
            ("AVIF", "image/jpeg"),
        ):
            with self.subTest(format):
                self.assertEqual(
                    {copy.type for copy in self.copies(picture(500, 300, format)) if copy.use == "whole"},
                    {"image/webp", family},
                )
        self.assertIn("image/avif", {copy.type for copy in self.copies(picture(500, 300), with_avif=True)})

    def test_a_phones_heic_comes_as_jpeg_and_webp(self) -> None:
        exif = Image.Exif()
        exif[0x010F] = SECRET
        out = io.BytesIO()
        Image.new("RGB", (640, 400), "#884422").save(out, "HEIF", exif=exif.tobytes())
        self.assertEqual(
            (
                self.see(out.getvalue(), "p.heic").width,
                {copy.type for copy in self.copies(out.getvalue()) if copy.use == "whole"},
            ),
            (640, {"image/webp", "image/jpeg"}),
        )
        self.assertTrue(all(SECRET.encode() not in copy.body for copy in self.copies(out.getvalue())))

    def test_each_use_gets_its_cut(self) -> None:
        made = self.copies(picture(2000, 1500, "JPEG"))
        for use in USES:
            sizes = sorted((copy.width, copy.height) for copy in made if copy.use == use)
            self.assertEqual([width for width, _ in sizes], list(USES[use].widths))
            self.assertAlmostEqual(sizes[-1][0] / sizes[-1][1], USES[use].shape, delta=0.01)

    def test_every_orientation_comes_upright_and_without_a_word_of_the_camera(self) -> None:
        for orientation in range(1, 9):
            for format in ("JPEG", "PNG", "WEBP"):
                data = cornered(format, orientation, **({"lossless": True} if format == "WEBP" else {}))
                with self.subTest(f"{format} {orientation}"):
                    seen = self.see(data)
                    self.assertEqual((seen.width, seen.height), (400, 200))
                    for copy in (seen.first, *self.copies(data)):
                        self.assertNotIn(SECRET.encode(), copy.body)
                        self.assertEqual(len(self.opened(copy).getexif()), 0)
                    whole = next(copy for copy in self.copies(data) if copy.use == "whole")
                    red, green, _ = self.opened(whole).convert("RGB").getpixel((40, 40))
                    self.assertGreater(red - green, 120)

    def test_every_kind_of_colour_comes_into_srgb(self) -> None:
        lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
        grey16 = io.BytesIO()
        Image.new("I;16", (60, 60), 32768).save(grey16, "PNG")
        palette = io.BytesIO()
        clear = Image.new("P", (60, 60), 1)
        clear.putpalette([0, 0, 0, 200, 30, 30])
        clear.save(palette, "PNG", transparency=0)
        cases = (
            (picture(60, 60, "JPEG", mode="CMYK", color=(0, 200, 200, 10)), "RGB"), (grey16.getvalue(), "RGB"), (palette.getvalue(), "RGB"),
            (picture(60, 60, "JPEG", icc_profile=b"broken"), "RGB"), (picture(60, 60, "JPEG", icc_profile=lab), "RGB"), (picture(60, 60, "JPEG", mode="L", color=90), "RGB"),
            (picture(60, 60, mode="RGBA", color=(9, 9, 9, 90)), "RGBA"), (picture(60, 60, mode="LA", color=(9, 90)), "RGBA"), (picture(60, 60, mode="1", color=1), "RGB"),
        )  # fmt: skip
        for number, (data, mode) in enumerate(cases):
            with self.subTest(number):
                whole = self.opened(next(copy for copy in self.copies(data) if copy.type == "image/webp"))
                self.assertEqual((whole.mode, whole.info.get("icc_profile")), (mode, None))
        grey = self.opened(self.copies(grey16.getvalue())[0]).convert("RGB").getpixel((9, 9))
        self.assertAlmostEqual(grey[0], 128, delta=3)

    def test_a_moving_picture_keeps_moving(self) -> None:
        for format in ("GIF", "WEBP"):
            data = moving(format)
            with self.subTest(format):
                self.assertTrue(self.see(data).is_moving)
                whole = [copy for copy in self.copies(data) if copy.use == "whole"]
                self.assertEqual({self.opened(copy).n_frames for copy in whole}, {3})

    def test_a_recipe_mirrors_turns_and_crops(self) -> None:
        data = cornered("PNG", 1)
        for recipe, size, place in (
            (Recipe(turn=90), (200, 400), (150, 40)), (Recipe(mirror=True), (400, 200), (360, 40)), (Recipe(turn=180), (400, 200), (360, 160)),
            (Recipe(crop=(0.0, 0.0, 0.5, 0.5)), (200, 100), (20, 20)),
        ):  # fmt: skip
            whole = self.opened(next(copy for copy in self.copies(data, recipe) if copy.type == "image/png"))
            with self.subTest(recipe):
                self.assertEqual(whole.size, size)
                self.assertGreater(whole.getpixel(place)[0] - whole.getpixel(place)[1], 120)
        straightened = self.opened(
            next(copy for copy in self.copies(data, Recipe(straighten=10)) if copy.type == "image/png")
        )
        self.assertLess(straightened.width, 400)

    def test_the_colours_of_a_picture_stand_in_for_it(self) -> None:
        seen = self.see(picture(900, 600, color="#204060"))
        self.assertEqual((seen.colour, len(seen.tiny)), ("#204060", 12))
        self.assertEqual(self.see(picture(90, 60, mode="RGBA", color=(1, 2, 3, 40))).tiny, ())


class RefusalTests(PictureCase):
    def test_what_is_damaged_or_too_large_is_refused_with_its_name(self) -> None:
        whole = picture(400, 400, "JPEG")
        noise = Image.effect_noise((300, 300), 90)
        out = io.BytesIO()
        noise.save(out, "PNG")
        for data, message in (
            (whole[: len(whole) // 2], "“x.jpg” is damaged or cut off"), (out.getvalue()[:-4000], "damaged or cut off"),
            (huge_png(100_000, 100_000), "100,000 × 100,000 pixels .10,000 megapixels., more than 50"), (huge_png(50, 50), "damaged or cut off"),
            (b"\xff\xd8\xff\xe0nothing else", "damaged or cut off"), (b"GIF89a\xff\xff\xff\xff", "damaged or cut off|more than 50"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                path = self.file(data, "x.jpg")
                pictures.verify(path, sniff(path, "x.jpg").type, "x.jpg", Limits())

    def test_a_file_that_moves_through_too_many_pixels_is_refused(self) -> None:
        frames = [Image.new("L", (3000, 3000), at) for at in range(20)]
        out = io.BytesIO()
        frames[0].save(out, "GIF", save_all=True, append_images=frames[1:])
        with self.assertRaisesRegex(BadInput, "moves through 180 megapixels, more than 150"):
            self.see(out.getvalue())
