"""A look: how a blog's site looks, as one frozen value. A file of it is JSON of this very shape (docs/look.md)."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError

from mobbet.core.errors import BadInput
from mobbet.core.look.letters import FAMILIES
from mobbet.core.look.palette import Palette, in_the_dark
from mobbet.core.names import one_line

LARGEST = 64 * 1024
"""The size in bytes of a file of a look at the most."""


def _family(name: str) -> str:
    if name not in FAMILIES:
        raise ValueError(f"choose one of {', '.join(FAMILIES)}")
    return name


FamilyName = Annotated[str, AfterValidator(_family)]


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", strict=True)


class Letters(_Part):
    """`text` sets what is read, `headings` the titles ('' for the same letters), `plain` the rest. `size` is in pixels, `measure` the characters
    of a line, `leading` the height of a line in hundredths of the size."""

    text: FamilyName = "literata"
    headings: Literal[""] | FamilyName = ""
    plain: FamilyName = "hyperlegible"
    size: Annotated[int, Field(ge=14, le=24)] = 17
    measure: Annotated[int, Field(ge=40, le=90)] = 66
    leading: Annotated[int, Field(ge=130, le=200)] = 160


class Picture(_Part):
    """A picture of the blog's library: its number, and the point of it, in hundredths of its width and height, that stays in sight."""

    item: Annotated[int, Field(ge=1, le=10**15)]
    x: Annotated[int, Field(ge=0, le=100)] = 50
    y: Annotated[int, Field(ge=0, le=100)] = 50


class Top(_Part):
    """The top of each page: the name with its line or alone, small or large, at the start or in the middle, with a mark before it or none; the menu
    beside it or below; a field for the search or none; all of it over a picture or none, low or high, in light or dark words, with a veil over the picture in hundredths."""

    shows: Literal["name-and-line", "name"] = "name-and-line"
    size: Literal["small", "large"] = "small"
    at: Literal["start", "middle"] = "start"
    menu: Literal["beside", "below"] = "beside"
    search: Literal["none", "field"] = "none"
    mark: Picture | None = None
    picture: Picture | None = None
    height: Literal["low", "high"] = "low"
    words: Literal["light", "dark"] = "light"
    veil: Annotated[int, Field(ge=0, le=95)] = 40


class Front(_Part):
    """Lists of posts: the newest large and the others in two columns, one below the other, titles alone, a sheet of pictures, or notices with their
    dates large."""

    shows: Literal["newest-large", "list", "dense", "sheet", "notices"] = "newest-large"


class Post(_Part):
    """The page of a post: in one column or with what belongs to it at the side; how wide its large pictures stand; what comes below it, before the
    comments, and in which order."""

    columns: Literal["one", "side"] = "one"
    pictures: Literal["text", "wider", "window"] = "text"
    below: Literal[
        "author-neighbours",
        "neighbours-author",
        "author",
        "neighbours",
        "author-alike-neighbours",
        "alike-author-neighbours",
        "alike-neighbours",
        "author-alike",
        "alike",
        "nothing",
    ] = "author-neighbours"


class Page(_Part):
    """The ground of all pages: the paper, the tint, or a picture behind the paper, once or repeated; `corners` in pixels, `width` of lists in
    characters of 16 pixels."""

    ground: Literal["paper", "tint", "picture", "pattern"] = "paper"
    picture: Picture | None = None
    lines: Literal["none", "thin", "strong"] = "thin"
    corners: Annotated[int, Field(ge=0, le=24)] = 3
    width: Annotated[int, Field(ge=48, le=110)] = 68


class Look(_Part):
    """`dark` is None where the colours for the dark follow from the light ones."""

    name: Annotated[str, Field(max_length=60)] = ""
    letters: Letters = Letters()
    light: Palette
    dark: Palette | None = None
    top: Top = Top()
    front: Front = Front()
    post: Post = Post()
    page: Page = Page()

    @property
    def pictures(self) -> tuple[int, ...]:
        """The items of the library that it shows."""
        behind = self.page.picture if self.page.ground in ("picture", "pattern") else None
        return tuple(one.item for one in (self.top.mark, self.top.picture, behind) if one)

    def without_pictures(self) -> Look:
        """The look as another blog, with another library, can have it."""
        ground = "paper" if self.page.ground in ("picture", "pattern") else self.page.ground
        top = self.top.model_copy(update={"mark": None, "picture": None})
        return self.model_copy(
            update={"top": top, "page": self.page.model_copy(update={"picture": None, "ground": ground})}
        )

    @property
    def in_dark(self) -> Palette:
        """The colours for the dark, chosen or computed."""
        return self.dark or in_the_dark(self.light)

    def in_mode(self, mode: str) -> Look:
        """The look as it is in the light, or in the dark, whatever the device has."""
        palette = self.in_dark if mode == "dark" else self.light
        return self.model_copy(update={"light": palette, "dark": palette})

    def dump(self) -> dict[str, Any]:
        """The look as plain data, in the order of its fields."""
        return self.model_dump()

    def with_value(self, where: str, value: Any) -> Look:
        """The look with another value at a place, which dots lead to: `light.accent`. Raises BadInput."""
        data = self.dump()
        *above, last = where.split(".")
        part: Any = data
        for name in above:
            part = part.get(name) if isinstance(part, dict) else None
        if not isinstance(part, dict) or last not in part:
            raise BadInput(
                f"A look has nothing called “{where[:60]}”; docs/look.md names what it has.", where[:60]
            )
        part[last] = value
        return read_look(data)


def read_look(data: object) -> Look:
    """A look from plain data. Raises BadInput, which names the place and the value."""
    try:
        return Look.model_validate(data)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        where = ".".join(
            str(part)
            for part in first["loc"]
            if not str(part).startswith(("function-", "literal[", "constrained"))
        )
        value = one_line(str(first.get("input", "")))[:60]
        raise BadInput(f"“{where or 'the look'}” cannot be “{value}”: {_in_words(first)}.", where) from error


def _in_words(error: Any) -> str:
    """What Pydantic says, as part of a sentence."""
    context = error.get("ctx", {})
    if error["type"] == "missing":
        return "it is missing; write it as docs/look.md has it"
    if error["type"] == "extra_forbidden":
        return "a look has nothing of that name"
    if "expected" in context:
        return f"write {context['expected']}"
    if error["type"] in ("greater_than_equal", "less_than_equal"):
        return f"write a number {'from ' + str(context['ge']) if 'ge' in context else 'up to ' + str(context['le'])}"
    if "error" in context:
        return str(context["error"])
    return str(error["msg"])[:1].lower() + str(error["msg"])[1:]


def read_look_file(text: str) -> Look:
    """A look from a file's JSON. Raises BadInput."""
    if len(text.encode()) > LARGEST:
        raise BadInput(f"The file of a look may have {LARGEST // 1024} kB; this one is larger.", "file")
    try:
        data = json.loads(text)
    except (ValueError, RecursionError):
        raise BadInput("This is no JSON; a look is a file as docs/look.md describes it.", "file") from None
    return read_look(data)


def look_text(look: Look) -> str:
    """The look as JSON in one line, the same for equal looks."""
    return json.dumps(look.dump(), ensure_ascii=False, separators=(",", ":"))


def look_file(look: Look) -> str:
    """The look as a file: JSON, indented, in one order."""
    return json.dumps(look.dump(), ensure_ascii=False, indent=2) + "\n"
