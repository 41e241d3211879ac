"""What the API says about people."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from common.text import Word
from ninja import Schema
from pydantic import ConfigDict, Field


class Login(Schema):
    """A name and a password."""

    username: Word
    password: str = Field(max_length=200)


class Habits(Schema):
    """How a person reads and writes figures. All that is computed is the same for everybody."""

    model_config = ConfigDict(extra="forbid")

    units: Literal["metric", "us"] = "metric"
    decimal: Literal["point", "comma"] = "point"
    clock: Literal["24", "12"] = "24"
    week: Literal["monday", "sunday", "saturday"] = "monday"


class Person(Schema):
    """Who is logged in; `by_pin` where hands were changed with a PIN, which opens less than a password."""

    username: str
    title: str
    habits: Habits
    by_pin: bool
    has_pin: bool


class Session(Schema):
    """Who is logged in, if anyone is; `first` where nobody was ever here."""

    person: Person | None
    first: bool


class NewTitle(Schema):
    """How one is named from now on."""

    model_config = ConfigDict(extra="forbid")

    title: Word = Field(min_length=1)


class NewPassword(Schema):
    """A new password, and the one it takes the place of."""

    model_config = ConfigDict(extra="forbid")

    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class NewPin(Schema):
    """A PIN, or none any more."""

    model_config = ConfigDict(extra="forbid")

    pin: str | None = Field(None, max_length=20)


class OpenSessionOut(Schema):
    """One device somebody is logged in on."""

    id: int
    device: str
    since: datetime
    by_pin: bool
    this: bool
