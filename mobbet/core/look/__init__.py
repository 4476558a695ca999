"""How a blog looks, as one value: letters, colours, top, front page, page of a post. Contrast is measured, and a style sheet computed from it."""
