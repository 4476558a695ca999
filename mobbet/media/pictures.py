"""Pictures: checks them when they arrive, and makes the files that readers get.

`verify` is quick and runs while a person waits: it reads the whole file once, small where the format
allows, and makes the first copy. `derive` makes every copy and cut and runs in the worker.
"""

from __future__ import annotations

import io
import warnings
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import cast

import pillow_heif
from PIL import ExifTags, Image, ImageCms, ImageOps, ImageSequence

from mobbet.core.errors import BadInput
from mobbet.core.media.kinds import Limits, refuse_pixels
from mobbet.core.media.recipes import USES, Recipe, cut, pixels, straightened_part
from mobbet.core.values import existing

WIDTHS = (480, 800, 1200, 1600, 2400)
FORMATS = {
    "image/jpeg": "JPEG",
    "image/png": "PNG",
    "image/webp": "WEBP",
    "image/gif": "GIF",
    "image/avif": "AVIF",
    "image/heic": "HEIF",
}
FAMILY = {
    "image/jpeg": "image/jpeg",
    "image/heic": "image/jpeg",
    "image/avif": "image/jpeg",
    "image/png": "image/png",
    "image/webp": "image/webp",
    "image/gif": "image/gif",
}
"""The type that the copies of an original have besides WebP."""
SAVING = {
    "image/jpeg": {"quality": 82, "progressive": True},
    "image/png": {"compress_level": 7},
    "image/webp": {"quality": 80, "method": 2},
    "image/avif": {"quality": 62, "speed": 7},
}
FIRST_WIDTH = 480
MOST_FRAMES_PIXELS = 150_000_000
MOST_KEPT_PIXELS = 40_000_000
"""Of all frames of a moving picture together: as it comes, and as its copies may have in memory."""
TINY = (4, 3)
"""The stand-in that shows until a picture has loaded: so many fields across and down."""
_BAD = (
    OSError,
    ValueError,
    SyntaxError,
    EOFError,
    MemoryError,
    OverflowError,
    TypeError,
    KeyError,
    IndexError,
    ZeroDivisionError,
    RuntimeError,
    AttributeError,
)

Image.MAX_IMAGE_PIXELS = None  # the limits of the settings are looked at before anything is decoded
pillow_heif.register_heif_opener(thumbnails=False)


@dataclass(frozen=True)
class Copy:
    """One file made of a picture: its use ('whole' or a cut's), size in pixels, MIME type, bytes without metadata."""

    use: str
    width: int
    height: int
    type: str
    body: bytes


@dataclass(frozen=True)
class InspectedPicture:
    """What a look at a picture tells: its upright size, whether it moves, its colours, what its camera noted."""

    width: int
    height: int
    is_moving: bool
    colour: str
    tiny: tuple[str, ...]
    taken: str
    camera: str
    place: str
    first: Copy


def verify(path: Path, type: str, name: str, limits: Limits) -> InspectedPicture:
    """Looks at every byte of a picture. Raises BadInput for one that is damaged or too large."""
    with _open(path, type, name, limits) as image:
        taken, camera, place = _noted(_exif(image))
        try:
            is_moving = getattr(image, "n_frames", 1) > 1
            upright_size = _upright_size(image)
            if is_moving:
                for _ in _frames(image, name):
                    pass
                image.seek(0)
            if type == "image/jpeg":
                image.draft("RGB", (FIRST_WIDTH, FIRST_WIDTH))
            small = _flat(image, name)
            small.thumbnail((FIRST_WIDTH, 10 * FIRST_WIDTH), Image.Resampling.BILINEAR)
            colour, tiny = _colours(small)
            first = _save(small, "whole", "image/webp")
        except _BAD as error:
            raise _damaged(name, error) from None
    return InspectedPicture(*upright_size, is_moving, colour, tiny, taken, camera, place, first)


def derive(
    path: Path, type: str, name: str, recipe: Recipe, limits: Limits, with_avif: bool = False
) -> Iterator[Copy]:
    """Every copy of a picture and every cut, one after the other, the largest first."""
    try:
        with _open(path, type, name, limits) as image:
            is_moving = getattr(image, "n_frames", 1) > 1 and recipe.is_plain
            if is_moving:
                yield from _moving(image, name)
                image.seek(0)
            elif type == "image/jpeg" and recipe.is_plain:
                image.draft("RGB", (WIDTHS[-1], WIDTHS[-1]))
            base = apply(_flat(image, name), recipe)
        family = FAMILY[type] if FAMILY[type] != "image/gif" else "image/png"
        types = (
            ()
            if is_moving
            else tuple(dict.fromkeys(("image/webp", family, *(("image/avif",) if with_avif else ()))))
        )
        yield from _copies(base, types)
        yield from _cuts(base, recipe)
    except _BAD as error:
        raise _damaged(name, error) from None


def apply(image: Image.Image, recipe: Recipe) -> Image.Image:
    """What the recipe makes of an upright picture."""
    if recipe.mirror:
        image = ImageOps.mirror(image)
    if recipe.turn:
        image = image.transpose(
            {90: Image.Transpose.ROTATE_270, 180: Image.Transpose.ROTATE_180, 270: Image.Transpose.ROTATE_90}[
                recipe.turn
            ]
        )
    if recipe.straighten:
        part = straightened_part(image.width, image.height, recipe.straighten)
        wide, high = max(1, round(image.width * part)), max(1, round(image.height * part))
        turned = image.rotate(-recipe.straighten, Image.Resampling.BICUBIC, expand=False)
        left, top = (image.width - wide) // 2, (image.height - high) // 2
        image = turned.crop((left, top, left + wide, top + high))
    box = pixels(recipe.crop, image.width, image.height)
    return image if box == (0, 0, image.width, image.height) else image.crop(box)


def as_shown(path: Path, type: str, name: str, limits: Limits, width: int = 1600) -> bytes:
    """The upright original as one WebP for the editing canvas, without any recipe."""
    with _open(path, type, name, limits) as image:
        try:
            if type == "image/jpeg":
                image.draft("RGB", (width, width))
            flat = _flat(image, name)
            flat.thumbnail((width, width), Image.Resampling.LANCZOS, reducing_gap=2.0)
            return _save(flat, "whole", "image/webp").body
        except _BAD as error:
            raise _damaged(name, error) from None


def cells(
    path: Path, parts: Iterable[tuple[float, float, float, float]], across: int, down: int
) -> list[tuple[int, int, int]]:
    """The mean colours of the cells into which parts of a picture that Mobbet made are divided; parts in shares of its width and height."""
    with Image.open(path) as image:
        flat = image.convert("RGB")
    found: list[tuple[int, int, int]] = []
    for left, top, right, bottom in parts:
        box = (left * flat.width, top * flat.height, right * flat.width, bottom * flat.height)
        small = flat.resize((across, down), Image.Resampling.BOX, box=box)
        found += cast("list[tuple[int, int, int]]", list(small.getdata()))
    return found


def small_jpeg(data: bytes, width: int = 240) -> bytes:
    """A picture of ours, such as a frame of a video, small and as JPEG."""
    image = Image.open(io.BytesIO(data)).convert("RGB")
    image.thumbnail((width, width))
    return _save(image, "whole", "image/jpeg").body


def _open(path: Path, type: str, name: str, limits: Limits) -> Image.Image:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            image = Image.open(path, formats=[FORMATS[type]])
    except _BAD as error:
        raise _damaged(name, error) from None
    try:
        refuse_pixels(name, image.width, image.height, limits)
    except BadInput:
        image.close()
        raise
    return image


def _damaged(name: str, error: BaseException) -> BadInput:
    if isinstance(error, BadInput):
        return error
    return BadInput(f"“{name}” is damaged or cut off; export it again and try once more.", "file")


def _flat(image: Image.Image, name: str) -> Image.Image:
    """Upright RGB or RGBA in sRGB; the colour profile is applied, then gone with all other metadata."""
    profile = image.info.get("icc_profile")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        image.load()
    has_alpha = image.mode in ("RGBA", "LA", "PA", "RGBa", "La") or "transparency" in image.info
    if image.mode.startswith(("I", "F")):
        image = _eight_bit(image)
    if image.mode in ("P", "PA", "1", "LA", "L") and not (profile and image.mode == "L"):
        image = image.convert("RGBA" if has_alpha else "RGB")
    image = _to_srgb(image, profile)
    mode = "RGBA" if has_alpha else "RGB"
    image = image if image.mode == mode else image.convert(mode)
    ImageOps.exif_transpose(image, in_place=True)
    if has_alpha and image.getchannel("A").getextrema() == (255, 255):
        image = image.convert("RGB")
    image.info = {}
    return image


def _eight_bit(image: Image.Image) -> Image.Image:
    """Grey levels of 16 bits, or of any range, as 8 bits."""
    if image.mode.startswith("I;16"):
        image = image.convert("I")
    _, high = cast(tuple[float, float], image.getextrema())
    scale = 255 / 65535 if high > 255 else 1.0
    if image.mode == "F" and high <= 1.0:
        scale = 255.0
    return image.point(lambda value: value * scale).convert("L")


def _to_srgb(image: Image.Image, profile: bytes | None) -> Image.Image:
    if not profile or image.mode not in ("RGB", "RGBA", "CMYK", "L"):
        return image
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        to = "RGBA" if image.mode == "RGBA" else "RGB"
        return existing(
            ImageCms.profileToProfile(image, source, ImageCms.createProfile("sRGB"), outputMode=to)
        )
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
        return image  # a broken profile: the numbers are taken as sRGB


def _upright_size(image: Image.Image) -> tuple[int, int]:
    turned = _exif(image).get(ExifTags.Base.Orientation, 1) in (5, 6, 7, 8)
    return (image.height, image.width) if turned else image.size


def _exif(image: Image.Image) -> Image.Exif:
    try:
        return image.getexif()
    except _BAD:
        return Image.Exif()


def _noted(exif: Image.Exif) -> tuple[str, str, str]:
    """(when it was taken, with which camera, where), each '' when it is not said."""
    try:
        inner = exif.get_ifd(ExifTags.IFD.Exif)
        stamp = str(
            inner.get(ExifTags.Base.DateTimeOriginal) or exif.get(ExifTags.Base.DateTime) or ""
        ).strip("\x00 ")
        taken = datetime.strptime(stamp, "%Y:%m:%d %H:%M:%S").isoformat(timespec="minutes")
    except _BAD:
        taken = ""
    words = [
        str(exif.get(tag) or "").replace("\x00", "").strip()
        for tag in (ExifTags.Base.Make, ExifTags.Base.Model)
    ]
    camera = (
        words[1] if words[0] and words[1].startswith(words[0]) else " ".join(word for word in words if word)
    )
    return taken, camera[:120], _place(exif)


def _place(exif: Image.Exif) -> str:
    try:
        gps = exif.get_ifd(ExifTags.IFD.GPSInfo)
        degrees = []
        for value, reference, negative in ((2, 1, "S"), (4, 3, "W")):
            whole = sum(float(part) / 60**power for power, part in enumerate(gps[value]))
            degrees.append(-whole if gps.get(reference) == negative else whole)
        return f"{degrees[0]:.5f}, {degrees[1]:.5f}"
    except _BAD:
        return ""


def _colours(image: Image.Image) -> tuple[str, tuple[str, ...]]:
    """The colour that stands for the picture, and the fields of its stand-in; none where it is transparent."""
    if image.mode == "RGBA":
        return "", ()
    one = cast(tuple[int, ...], image.resize((1, 1), Image.Resampling.BOX).getpixel((0, 0)))
    fields = image.resize(TINY, Image.Resampling.BOX)
    return _hex(one), tuple(
        _hex(cast(tuple[int, ...], fields.getpixel((x, y)))) for y in range(TINY[1]) for x in range(TINY[0])
    )


def _hex(colour: tuple[int, ...]) -> str:
    return "#" + "".join(f"{part:02x}" for part in colour[:3])


def _frames(image: Image.Image, name: str) -> Iterator[Image.Image]:
    total = image.width * image.height * getattr(image, "n_frames", 1)
    if total > MOST_FRAMES_PIXELS:
        raise BadInput(
            f"“{name}” moves through {total / 1_000_000:,.0f} megapixels, more than {MOST_FRAMES_PIXELS // 1_000_000}; make it smaller or shorter.",
            "file",
        )
    yield from ImageSequence.Iterator(image)


def _moving(image: Image.Image, name: str) -> Iterator[Copy]:
    """A moving picture in its own size, and smaller where that is useful, as WebP and in its family."""
    times = [max(20, int(frame.info.get("duration", 100) or 100)) for frame in _frames(image, name)]
    loops = image.info.get("loop", 0)
    for width in sorted({min(image.width, most) for most in (WIDTHS[1], WIDTHS[0])}, reverse=True):
        height = max(1, round(image.height * width / image.width))
        if width * height * len(times) > MOST_KEPT_PIXELS and width > FIRST_WIDTH // 2:
            width, height = FIRST_WIDTH // 2, max(1, round(image.height * FIRST_WIDTH / 2 / image.width))
        frames = [_sized(frame.convert("RGBA"), width, height) for frame in _frames(image, name)]
        for type in ("image/webp", "image/gif"):
            out = io.BytesIO()
            more = {"quality": 72, "method": 2} if type == "image/webp" else {"disposal": 2}
            frames[0].save(
                out,
                FORMATS[type],
                save_all=True,
                append_images=frames[1:],
                duration=times,
                loop=loops,
                **more,
            )
            yield Copy("whole", width, height, type, out.getvalue())


def _sized(image: Image.Image, width: int, height: int) -> Image.Image:
    return image if image.size == (width, height) else image.resize((width, height), Image.Resampling.LANCZOS)


def widths_of(width: int) -> list[int]:
    """The widths a picture is made in, the largest first: those it allows, and its own where that adds something."""
    steps = [step for step in WIDTHS if step <= width]
    adds = not steps or width > 1.15 * steps[-1]
    return sorted({*steps, *((width,) if adds and width <= WIDTHS[-1] else ())}, reverse=True)


def _copies(base: Image.Image, types: tuple[str, ...]) -> Iterator[Copy]:
    current = base
    for width in widths_of(base.width) if types else ():
        if width != current.width:
            current = current.resize(
                (width, max(1, round(base.height * width / base.width))),
                Image.Resampling.LANCZOS,
                reducing_gap=3.0,
            )
        for type in types:
            yield _save(current, "whole", type)


def _cuts(base: Image.Image, recipe: Recipe) -> Iterator[Copy]:
    for name, use in USES.items():
        part = base.crop(pixels(cut(name, base.width, base.height, recipe), base.width, base.height))
        widths = [width for width in use.widths if width <= part.width] or [min(use.widths[0], part.width)]
        for width in sorted(widths, reverse=True):
            height = max(1, round(width / use.shape))
            part = (
                part
                if part.size == (width, height)
                else part.resize((width, height), Image.Resampling.LANCZOS, reducing_gap=3.0)
            )
            yield (
                _save(_on_white(part), name, "image/jpeg")
                if name == "share"
                else _save(part, name, "image/webp")
            )


def _on_white(image: Image.Image) -> Image.Image:
    if image.mode != "RGBA":
        return image
    white = Image.new("RGB", image.size, "white")
    white.paste(image, mask=image.getchannel("A"))
    return white


def _save(image: Image.Image, use: str, type: str) -> Copy:
    out = io.BytesIO()
    image = _on_white(image) if type == "image/jpeg" else image
    image.save(out, FORMATS[type], **SAVING.get(type, {}))
    return Copy(use, image.width, image.height, type, out.getvalue())
