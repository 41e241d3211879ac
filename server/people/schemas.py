"""What the API says about people."""

from __future__ import annotations

from common.text import Word
from ninja import Schema
from pydantic import Field


class Login(Schema):
    """A name and a password."""

    username: Word
    password: str = Field(max_length=200)


class Person(Schema):
    """Who is logged in."""

    username: str
    title: str


class Session(Schema):
    """Who is logged in, if anyone is."""

    person: Person | None
