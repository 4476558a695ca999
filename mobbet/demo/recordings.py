"""The demo's sounds, made of tones, and its one video clip, drawn and kept beside this module."""

from __future__ import annotations

import array
import io
import math
import random
import wave
from pathlib import Path

RATE = 8_000
CLIP = Path(__file__).parent / "switch.mp4"
"""A switch that is thrown three times, drawn by tools/draw_switch.py."""


def good_motor() -> bytes:
    """Nine seconds of an even hum."""
    return _wav(
        [
            0.33 * math.sin(2 * math.pi * 98 * at / RATE) + 0.12 * math.sin(2 * math.pi * 196 * at / RATE)
            for at in range(9 * RATE)
        ]
    )


def bad_motor() -> bytes:
    """Eleven seconds of a hum that limps: slower and slower, with a knock at every turn."""
    chance = random.Random(7)
    samples, phase = [], 0.0
    for at in range(11 * RATE):
        second = at / RATE
        phase += (96 - 3.2 * second + 4 * math.sin(5 * second)) / RATE
        knock = 0.55 * math.exp(-40 * (second % 0.43)) * chance.uniform(-1, 1)
        samples.append(0.28 * math.sin(2 * math.pi * phase) + knock)
    return _wav(samples)


def _wav(samples: list[float]) -> bytes:
    ends = RATE // 10
    faded = (value * min(1.0, at / ends, (len(samples) - at) / ends) for at, value in enumerate(samples))
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE)
        file.writeframes(
            array.array("h", (round(32000 * max(-1.0, min(1.0, value))) for value in faded)).tobytes()
        )
    return out.getvalue()
