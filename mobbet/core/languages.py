"""The languages that a post, or words in it, can be said to be in: their tags (BCP 47) and names."""

from __future__ import annotations

from mobbet.core.errors import BadInput

NAMES = {
    "en": "English", "en-US": "English as in America", "de": "German", "fr": "French", "es": "Spanish", "pt": "Portuguese", "it": "Italian", "nl": "Dutch", "sv": "Swedish",
    "da": "Danish", "nb": "Norwegian", "fi": "Finnish", "is": "Icelandic", "ga": "Irish", "cy": "Welsh", "pl": "Polish", "cs": "Czech", "sk": "Slovak", "hu": "Hungarian",
    "ro": "Romanian", "bg": "Bulgarian", "el": "Greek", "hr": "Croatian", "sl": "Slovene", "sr": "Serbian", "uk": "Ukrainian", "ru": "Russian", "tr": "Turkish", "ar": "Arabic",
    "he": "Hebrew", "fa": "Persian", "hi": "Hindi", "bn": "Bengali", "th": "Thai", "vi": "Vietnamese", "id": "Indonesian", "zh": "Chinese", "ja": "Japanese", "ko": "Korean",
    "eu": "Basque", "ca": "Catalan", "gl": "Galician", "et": "Estonian", "lv": "Latvian", "lt": "Lithuanian", "la": "Latin", "eo": "Esperanto", "sw": "Swahili", "af": "Afrikaans",
}  # fmt: skip
TAG = r"[a-z]{2,3}(?:-[A-Za-z0-9]{2,8}){0,3}"


def name_of(tag: str) -> str:
    """The name of a language; its tag where it has none here."""
    return NAMES.get(tag) or NAMES.get(tag[:2]) or tag


def read_language(text: str) -> str:
    """A language by its tag or name, as a tag; '' for none. Raises BadInput."""
    said = text.strip()
    found = next(
        (tag for tag, name in NAMES.items() if said.casefold() in (tag.casefold(), name.casefold())), None
    )
    if said and found is None:
        raise BadInput(
            f"“{said[:40]}” is no language Mobbet knows; write its tag or its English name, such as de or German.",
            "language",
        )
    return found or ""
