import io
import tempfile
import unittest
import zipfile
from pathlib import Path

from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import BY_TYPE, refuse_ending, with_ending
from mobbet.media.sniffing import sniff
from tests.shops import picture


def packed(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, body in files.items():
            archive.writestr(name, body)
    return out.getvalue()


class SniffingTests(unittest.TestCase):
    def sniff(self, data: bytes, name: str) -> str:
        with tempfile.NamedTemporaryFile() as file:
            file.write(data)
            file.flush()
            row = sniff(Path(file.name), name)
            refuse_ending(name, row)
            return row.type

    def test_the_bytes_tell_the_type(self) -> None:
        ftyp = b"\x00\x00\x00\x18ftyp%s\x00\x00\x00\x00%s"
        for data, name, type in (
            (picture(9, 9, "JPEG"), "a.jpeg", "image/jpeg"), (picture(9, 9, "AVIF"), "a.avif", "image/avif"), (ftyp % (b"heic", b"mif1heic"), "a.heic", "image/heic"),
            (ftyp % (b"mif1", b"mif1avif"), "a.avif", "image/avif"), (ftyp % (b"isom", b"isomavc1"), "a.mp4", "video/mp4"), (ftyp % (b"qt  ", b"qt  qt  "), "a.mov", "video/quicktime"),
            (ftyp % (b"M4A ", b"M4A mp42"), "a.m4a", "audio/mp4"), (b"ID3\x03", "a.mp3", "audio/mpeg"), (b"\xff\xfb\x90\x00", "a.mp3", "audio/mpeg"), (b"fLaC", "a.flac", "audio/flac"),
            (b"<?xml version='1.0'?>\n<!-- x -->\n<svg xmlns='http://www.w3.org/2000/svg'/>", "a.svg", "image/svg+xml"), (b"%PDF-1.7", "a.pdf", "application/pdf"),
            (b"a,b\n1,2\n", "a.csv", "text/csv"), (packed({"word/document.xml": b"x"}), "a.docx", BY_TYPE["application/vnd.openxmlformats-officedocument.wordprocessingml.document"].type),
        ):  # fmt: skip
            with self.subTest(name=name, type=type):
                self.assertEqual(self.sniff(data, name), type)

    def test_what_is_disguised_is_refused_with_the_reason(self) -> None:
        jpeg = picture(40, 40, "JPEG")
        for data, name, message in (
            (picture(9, 9), "lamp.jpg", "“lamp.jpg” ends in .jpg but is a PNG file; rename it to .png"), (jpeg, "report.pdf", "ends in .pdf but is a JPEG file"),
            (jpeg + packed({"x.txt": b"x"}), "two.jpg", "is JPEG and holds a ZIP archive as well"), (jpeg + b"<script>alert(1)</script>", "two.jpg", "holds a page or a script"),
            (b"GIF89a/*" + b"\x00" * 40 + b"*/<?php x", "two.gif", "holds a page or a script"), (b"MZ\x90\x00" + b"\x00" * 90, "tool.exe", "is nothing the library keeps"),
            (b"<html><script>x</script>", "page.txt", "is nothing the library keeps"), (b"PK\x03\x04broken", "a.zip", "is no sound ZIP file"),
            (packed({f"{at}.bin": b"\x00" * 30_000_000 for at in range(3)}), "bomb.zip", "unpacks to 90 MB in 3 files"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                self.sniff(data, name)

    def test_a_name_gets_the_ending_that_fits(self) -> None:
        self.assertEqual(with_ending("embedded.jpeg", BY_TYPE["image/png"]), "embedded.png")
        self.assertEqual(with_ending("lamp", BY_TYPE["image/png"]), "lamp.png")
        self.assertEqual(with_ending("lamp.png", BY_TYPE["image/png"]), "lamp.png")
