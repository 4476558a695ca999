"""Sounds for tests."""

import io
import math
import struct
import wave


def tone(seconds: float = 0.5, pitch: int = 440, rate: int = 8000) -> bytes:
    """A tone as a WAV file, mono, 16 bits."""
    file = io.BytesIO()
    with wave.open(file, "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(rate)
        values = (int(9000 * math.sin(2 * math.pi * pitch * at / rate)) for at in range(int(seconds * rate)))
        sound.writeframes(b"".join(struct.pack("<h", one) for one in values))
    return file.getvalue()
