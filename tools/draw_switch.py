"""Draws the demo's video clip, a switch that is thrown three times, and writes it beside the demo's modules."""

from __future__ import annotations

from pathlib import Path

import av
from PIL import Image, ImageDraw

TARGET = Path(__file__).parent.parent / "mobbet" / "demo" / "switch.mp4"
SIZE, RATE, SECONDS = (640, 360), 24, 6


def frame(second: float) -> Image.Image:
    image = Image.new("RGB", SIZE, "#dfe7e4")
    pen = ImageDraw.Draw(image)
    is_on = int(second / 1.5) % 2 == 1
    moved = min(1.0, (second % 1.5) / 0.15)
    level = moved if is_on else 1 - moved
    pen.rectangle((0, 290, 640, 360), fill="#b7a489")
    pen.rounded_rectangle((90, 90, 230, 290), 14, fill="#fffaf0", outline="#24211c", width=5)
    pen.polygon(
        [(130, 190), (190, 190), (190, 130 + 120 * (1 - level)), (130, 130 + 120 * (1 - level))],
        fill="#b3461e",
    )
    pen.line([(230, 220), (360, 220), (430, 190)], fill="#24211c", width=5)
    glow = tuple(round(a + (b - a) * level) for a, b in zip((203, 210, 207), (255, 229, 138), strict=True))
    pen.ellipse((400, 70, 540, 210), fill=glow, outline="#24211c", width=5)
    pen.rectangle((445, 205, 495, 250), fill="#2f4a52")
    return image


def main() -> None:
    with av.open(str(TARGET), "w", options={"movflags": "+faststart", "fflags": "+bitexact"}) as out:
        stream = out.add_stream("libx264", rate=RATE, options={"crf": "28", "preset": "slow"})
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        for at in range(RATE * SECONDS):
            out.mux(stream.encode(av.VideoFrame.from_image(frame(at / RATE))))
        out.mux(stream.encode())


if __name__ == "__main__":
    main()
