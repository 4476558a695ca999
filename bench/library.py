"""The figures of the library: making copies beside bare Pillow, and its screen with 5,000 items."""

from __future__ import annotations

import io
import random
import resource
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from statistics import median

from PIL import Image

from mobbet.actions import sample_posts
from mobbet.actions.workshop import Workshop
from mobbet.core.media.kinds import Limits
from mobbet.core.media.recipes import USES, Recipe, cut, pixels
from mobbet.media import pictures
from mobbet.store import media, people
from mobbet.store.media import Wanted

ITEMS = 5000
LARGE = (4000, 3000)


def twelve_megapixels() -> bytes:
    """A JPEG of 12 megapixels with as much detail as a photograph."""
    out = io.BytesIO()
    noise = Image.effect_noise((LARGE[0] // 4, LARGE[1] // 4), 60).resize(LARGE, Image.Resampling.BICUBIC)
    Image.merge(
        "RGB",
        (
            noise,
            noise.transpose(Image.Transpose.FLIP_LEFT_RIGHT),
            noise.transpose(Image.Transpose.FLIP_TOP_BOTTOM),
        ),
    ).save(out, "JPEG", quality=88)
    return out.getvalue()


def of_pictures() -> dict[str, float]:
    """Seconds for every copy of a 12-megapixel JPEG, beside bare Pillow doing the same work in turn."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.jpg"
        path.write_bytes(twelve_megapixels())
        ours, bare = [], []
        for _ in range(3):
            ours.append(
                _seconds(lambda: list(pictures.derive(path, "image/jpeg", "large.jpg", Recipe(), Limits())))
            )
            bare.append(_seconds(lambda: _bare(path)))
        first = _seconds(lambda: pictures.verify(path, "image/jpeg", "large.jpg", Limits()))
    return {
        "look at 12 megapixels, ms": round(1000 * first), "every copy of 12 megapixels, s": round(median(ours), 2), "bare Pillow, the same work, s": round(median(bare), 2),
        "the first over the second": round(median(ours) / median(bare), 2), "memory after it, MB": resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024,
    }  # fmt: skip


def _bare(path: Path) -> None:
    """The same sizes, formats and settings, in a few lines of Pillow."""
    image = Image.open(path).convert("RGB")
    current = image
    for width in pictures.widths_of(image.width):
        current = current.resize(
            (width, round(image.height * width / image.width)), Image.Resampling.LANCZOS, reducing_gap=3.0
        )
        for type in ("image/webp", "image/jpeg"):
            current.save(io.BytesIO(), pictures.FORMATS[type], **pictures.SAVING[type])
    for name, use in USES.items():
        part = image.crop(pixels(cut(name, image.width, image.height, Recipe()), image.width, image.height))
        type = "image/jpeg" if name == "share" else "image/webp"
        for width in sorted(use.widths, reverse=True):
            part = part.resize((width, round(width / use.shape)), Image.Resampling.LANCZOS, reducing_gap=3.0)
            part.save(io.BytesIO(), pictures.FORMATS[type], **pictures.SAVING[type])


def of_screen(
    workshop: Workshop,
    request: Callable[[Workshop, str], float],
    p95: Callable[[Callable[[], object]], float],
) -> dict[str, float]:
    """The library's screen and its search with 5,000 items, p95 in milliseconds."""
    fill_library(workshop, ITEMS)
    address = "/desk/measured/library"
    return {
        f"library of {ITEMS}, first byte, p95": request(workshop, address),
        f"library of {ITEMS}, searched, p95": p95(
            lambda: media.find(workshop.db, 1, Wanted(words="hinge bra"), 61)
        ),
    }


def fill_library(workshop: Workshop, count: int) -> None:
    """Adds items without their files, described in made-up words, every third of them shown in a post."""
    person = people.of_blog(workshop.db, 1)[0]
    chance = random.Random(3)
    words = [
        f"{chance.choice(sample_posts.ADJECTIVES)} {chance.choice(sample_posts.NOUNS)} and {chance.choice(sample_posts.NOUNS)} {chance.choice(sample_posts.VERBS)}"
        for _ in range(count)
    ]
    with workshop.db.transaction():
        for number in range(count):
            row = media.add(
                workshop.db, blog_id=1, hash=f"{number:064x}", name=f"{words[number].replace(' ', '-')}.jpg", type="image/jpeg", width=1600, height=900 + number % 900, bytes=200_000 + number,
                alt=words[-number] if number % 4 else "", caption=words[number], labels=(words[number].split()[0],), added_by=person.id, added_at=workshop.clock() - 3600 * number,
            )  # fmt: skip
            if number % 3 == 0:
                media.set_post_media(workshop.db, 1 + number % 90, {row.id: ("", "")})


def _seconds(run: Callable[[], object]) -> float:
    started = time.perf_counter()
    run()
    return time.perf_counter() - started
