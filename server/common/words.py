"""Words of which there are only a few: in columns, and in what the API takes and answers.

A word that code tells apart is an enumeration, of core (`custard.vocabulary`) or of a model here. One that
only stands in a table of core is a `OneOf` that table: a row more there is a word more in the contract.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, Generic, TypeVar

import custard
from django.db import models
from pydantic_core import CoreSchema, core_schema

W = TypeVar("W", bound=StrEnum)


@dataclass(frozen=True)
class OneOf:
    """That a text is one of some words; the contract lists them.

    Parameters
    ----------
    words : gives them; asked once, when a schema is made.
    """

    words: Callable[[], Iterable[str]]

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> CoreSchema:
        """For pydantic: nothing but these words."""
        return core_schema.literal_schema(list(self.words()))


FamilyName = Annotated[str, OneOf(custard.larder.all_families)]
EggClass = Annotated[str, OneOf(custard.larder.all_sizes)]
Measures = Annotated[str, OneOf(lambda: custard.quantities.MEASURES)]
CoolingRuleName = Annotated[str, OneOf(lambda: (*custard.larder.cooling_rules(), custard.larder.OWN))]
CoolingWay = Annotated[str, OneOf(custard.larder.coolings)]
PanKind = Annotated[str, OneOf(custard.larder.pans)]


class WordField(models.CharField, Generic[W]):  # type: ignore[type-arg]
    """A column that holds a word of an enumeration, and gives it back as one; "" where there is none.

    Parameters
    ----------
    words : the enumeration.
    """

    def __init__(self, words: type[W], **options: Any) -> None:
        self.words = words
        super().__init__(**options)

    def from_db_value(self, value: str | None, *_: object) -> W | str | None:
        """The word that the column holds."""
        return self.words(value) if value else value

    def deconstruct(self) -> Any:
        """To a migration it is a text: a word more changes no table."""
        name, _, args, kwargs = super().deconstruct()
        return name, "django.db.models.CharField", args, kwargs

    def clone(self) -> Any:
        """For a migration's models, which hold texts."""
        _, _, args, kwargs = self.deconstruct()
        return models.CharField(*args, **kwargs)
