"""The signs a callout can have: drawn in one stroke on a field of 24 by 24."""

SIGNS = {
    "note": "M5 4h10l4 4v12H5zM14 4v5h5M8 13h8M8 16h6",
    "hint": "M9 18h6M10 21h4M12 3a6 6 0 0 0-3.5 10.9c.4.3.5.7.5 1.1h6c0-.4.1-.8.5-1.1A6 6 0 0 0 12 3z",
    "care": "M12 4 3 20h18zM12 10v5M12 17.2v.6",
    "stop": "M8 3h8l5 5v8l-5 5H8l-5-5V8zM8 12h8",
    "question": "M8.5 9a3.5 3.5 0 1 1 5 3.2c-1 .5-1.5 1.1-1.5 2.3M12 17.4v.6",
    "done": "M4 12.5 9.5 18 20 6.5",
    "date": "M4 6h16v14H4zM4 10h16M8 3.5V7M16 3.5V7",
    "tool": "M14.5 6.5a4 4 0 0 1 5-2.5l-2.7 2.7 1.5 1.5L21 5.5a4 4 0 0 1-5.2 5L8.5 18a2.1 2.1 0 0 1-3-3l7.5-7.3",
}


def drawing(sign: str) -> str:
    """The sign as inline SVG, silent for those who listen to the page."""
    return f'<svg class="sign" viewBox="0 0 24 24" aria-hidden="true" focusable="false"><path d="{SIGNS[sign]}"/></svg>'
