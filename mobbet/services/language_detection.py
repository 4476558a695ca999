"""The language of a text, by the frequencies of its runs of letters (package langdetect)."""

from __future__ import annotations

import threading

from mobbet.core.languages import NAMES

MOST = 2000
"""In letters: more make no guess better."""
LEAST = 0.8
"""Of certainty, from 0 to 1."""
_OTHER_TAGS = {"no": "nb", "zh-cn": "zh", "zh-tw": "zh"}
_lock = threading.Lock()


def detect_language(text: str) -> str:
    """The tag of the language; '' where the guess is not certain, or is a language that posts are not said to be in."""
    from langdetect import DetectorFactory, LangDetectException, detect_langs

    with _lock:  # the package loads its profiles at the first call, and is not meant for several at once
        DetectorFactory.seed = 0
        try:
            best = detect_langs(text[:MOST])[0]
        except LangDetectException:
            return ""
    tag = _OTHER_TAGS.get(best.lang, best.lang)
    return tag if best.prob >= LEAST and tag in NAMES else ""
