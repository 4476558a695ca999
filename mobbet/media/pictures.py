"""Pictures: what a file really is, and the files readers get of it."""

from __future__ import annotations

import io
import threading
import warnings
from dataclasses import dataclass

from PIL import Image, ImageCms, ImageOps

from mobbet.core.errors import BadInput

WIDTHS = (480, 800, 1200, 1600)
SHARE_WIDTH = 1200
LARGEST_BYTES = 25_000_000
LARGEST_PIXELS = 40_000_000
TYPES = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}

Image.MAX_IMAGE_PIXELS = LARGEST_PIXELS
_one_at_a_time = threading.Lock()


@dataclass(frozen=True)
class Derived:
    """One file made of a picture: size in pixels, MIME type, bytes without any metadata."""

    width: int
    height: int
    type: str
    body: bytes


@dataclass(frozen=True)
class Picture:
    """A picture that was let in: its real type, its upright size, and the files for readers."""

    type: str
    width: int
    height: int
    files: tuple[Derived, ...]


def read_picture(data: bytes, name: str) -> Picture:
    """Looks at the bytes, whatever the name says, and makes the files for readers.

    WebP in the widths of WIDTHS that the original allows, and one JPEG (PNG where the picture has
    transparency) for share cards. Raises BadInput, with the file's name, for anything else than a
    JPEG, PNG or WebP, and for one that is broken or too large.
    """
    if len(data) > LARGEST_BYTES:
        raise BadInput(f"“{name}” is larger than {LARGEST_BYTES // 1_000_000} MB; make it smaller and try again.", "picture")
    with _one_at_a_time:
        image = _open(data, name)
        picture_type = TYPES[image.format]
        try:
            upright = _to_srgb(ImageOps.exif_transpose(image))
        except (OSError, ValueError, SyntaxError, MemoryError):
            raise BadInput(f"“{name}” is damaged or cut off; export it again and try once more.", "picture") from None
        return Picture(picture_type, *upright.size, tuple(_files(upright)))


def _open(data: bytes, name: str) -> Image.Image:
    with warnings.catch_warnings():
        warnings.simplefilter("error", Image.DecompressionBombWarning)
        try:
            image = Image.open(io.BytesIO(data), formats=list(TYPES))
            if image.width * image.height > LARGEST_PIXELS:
                raise Image.DecompressionBombError
            image.load()
        except (Image.DecompressionBombError, Image.DecompressionBombWarning):
            raise BadInput(
                f"“{name}” has more than {LARGEST_PIXELS // 1_000_000} megapixels; make it smaller and try again.", "picture"
            ) from None
        except (OSError, ValueError, SyntaxError, EOFError, MemoryError):
            raise BadInput(f"“{name}” is not a JPEG, PNG or WebP picture; choose one of these.", "picture") from None
    return image


def _to_srgb(image: Image.Image) -> Image.Image:
    """RGB or RGBA in sRGB; the colour profile is applied, then gone with all other metadata."""
    has_alpha = "A" in image.getbands() or "transparency" in image.info
    profile = image.info.get("icc_profile")
    mode = "RGBA" if has_alpha else "RGB"
    if profile and image.mode in ("RGB", "RGBA", "CMYK"):
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            image = ImageCms.profileToProfile(image, source, ImageCms.createProfile("sRGB"), outputMode="RGB" if image.mode == "CMYK" else None)
        except (ImageCms.PyCMSError, OSError, ValueError):
            pass  # a broken profile: the numbers are taken as sRGB
    image = image.convert(mode)
    bare = Image.new(mode, image.size)
    bare.paste(image)
    return bare


def _files(image: Image.Image) -> list[Derived]:
    widths = [width for width in WIDTHS if width < image.width] or []
    if image.width <= WIDTHS[-1]:
        widths.append(image.width)
    files = []
    current = image
    for width in sorted(widths, reverse=True):
        if width != current.width:
            height = max(1, round(image.height * width / image.width))
            current = current.resize((width, height), Image.Resampling.LANCZOS, reducing_gap=3.0)
        files.append(_save(current, "WEBP", quality=80, method=4))
        if width == max([w for w in widths if w <= SHARE_WIDTH], default=min(widths)):
            files.append(_save(current, "PNG", optimize=True) if image.mode == "RGBA" else _save(current, "JPEG", quality=84, optimize=True, progressive=True))
    return files


def _save(image: Image.Image, format: str, **options: object) -> Derived:
    out = io.BytesIO()
    image.save(out, format, **options)
    return Derived(image.width, image.height, TYPES[format], out.getvalue())
