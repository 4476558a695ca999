"""What Mobbet's own JSON over HTTP takes and answers with; the OpenAPI description is made from these."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

Line = Annotated[str, Field(max_length=300)]


def _example(value: dict[str, Any]) -> ConfigDict:
    return ConfigDict(extra="forbid", json_schema_extra={"examples": [value]})


class PostIn(BaseModel):
    """A post to be made, or what is to be changed of one: fields that are left out stay as they are."""

    model_config = _example(
        {
            "title": "A desk lamp",
            "markdown": "Two wires and a *switch*.",
            "tags": ["flex"],
            "excerpt": "Forty minutes, one screwdriver.",
            "state": "draft",
        }
    )

    title: Line | None = None
    subtitle: Line | None = None
    markdown: Annotated[str, Field(max_length=2_000_000)] | None = Field(
        None, description="the text, in CommonMark with Mobbet's notation"
    )
    html: Annotated[str, Field(max_length=5_000_000)] | None = Field(
        None, description="the text, instead of markdown"
    )
    categories: list[Line] | None = Field(
        None,
        max_length=50,
        description="paths such as “Textiles › Zips”; those that are not there are refused",
    )
    tags: list[Line] | None = Field(None, max_length=100)
    excerpt: Annotated[str, Field(max_length=2000)] | None = None
    slug: Line | None = None
    goes_out: Line | None = Field(
        None, description="RFC 3339; an instant that is still to come waits in the timetable"
    )
    visibility: Line | None = Field(None, description="everyone, signed-in, only-me or group:NAME")
    state: Literal["draft", "out"] | None = Field(None, description="whether it goes out, or is a draft")


class PostOut(BaseModel):
    """A post."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "id": 12, "title": "A desk lamp", "subtitle": "", "state": "draft", "revision": 1, "author": "Ines Farrow", "address": "https://bench.example/~k7q/",
                    "goes_out": "2026-12-24T08:00:00Z", "changed": "2026-12-01T09:00:00Z", "excerpt": "", "slug": "", "visibility": "everyone", "categories": [], "tags": ["flex"],
                    "markdown": "Two wires and a *switch*.\n", "waits": "",
                }
            ]
        }
    )  # fmt: skip

    id: int
    title: str
    subtitle: str
    state: str = Field(description="draft, in-timetable, out, came-down, withdrawn or set-aside")
    revision: int
    author: str
    address: str
    goes_out: str | None
    changed: str
    excerpt: str
    slug: str
    visibility: str
    categories: list[str]
    tags: list[str]
    markdown: str
    waits: str = Field(
        "",
        description="why it does not go out although that was asked for: a mark of the proof, or an editor who has to say so first",
    )


class PostLine(BaseModel):
    """A post in a list."""

    id: int
    title: str
    state: str
    address: str
    goes_out: str | None
    changed: str


class Posts(BaseModel):
    """Posts, those that were changed last first."""

    posts: list[PostLine]
    next: str | None = Field(description="the value of `before` for the next ones; null for none")


class MediaIn(BaseModel):
    """What is said of a file."""

    model_config = _example({"alt": "A desk lamp with a red shade", "credit": "The Mending Bench"})

    alt: Annotated[str, Field(max_length=2000)] | None = None
    caption: Annotated[str, Field(max_length=2000)] | None = None
    credit: Line | None = None
    name: Line | None = None


class MediaOut(BaseModel):
    """A file of the library. `src` is what a text names it by."""

    id: int
    src: str
    name: str
    kind: Literal["picture", "sound", "video", "file"]
    state: Literal["working", "ready", "failed"]
    alt: str
    caption: str
    credit: str
    width: int
    height: int
    bytes: int


class Items(BaseModel):
    items: list[MediaOut]


class CategoryOut(BaseModel):
    id: int
    path: str
    slug: str


class TagOut(BaseModel):
    name: str
    posts: int


class Filing(BaseModel):
    """Under what posts are filed."""

    categories: list[CategoryOut]
    tags: list[TagOut]


class Footprint(BaseModel):
    """The pages of the site that would be added, altered, removed and redirected if a post went out as it is."""

    add: list[str]
    alter: list[str]
    remove: list[str]
    redirects: list[dict[str, str]]


class Event(BaseModel):
    what: str
    instant: str
    post: int | None
    title: str


class Timetable(BaseModel):
    """What goes out and comes down, from a year ago to a year ahead."""

    zone: str
    events: list[Event]


class Problem(BaseModel):
    """Why a request is not carried out: a word for programs, a sentence for people."""

    error: str
    error_description: str
