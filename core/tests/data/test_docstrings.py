"""Every law says what its arguments are and in which unit."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import re
from typing import get_type_hints

import custard
import custard.physics
import pytest
from custard import planning, practice

MODULES = [f"custard.physics.{found.name}" for found in pkgutil.iter_modules(custard.physics.__path__)]
LAWS = [
    function
    for module in MODULES
    for name, function in inspect.getmembers(importlib.import_module(module), inspect.isfunction)
    if function.__module__ == module and not name.startswith("_")
]


@pytest.mark.parametrize("law", LAWS, ids=lambda law: f"{law.__module__.rpartition('.')[2]}.{law.__name__}")
def test_every_argument_has_a_unit(law):
    text = inspect.getdoc(law) or ""
    for name in inspect.signature(law).parameters:
        line = re.search(rf"^\s*(?:[\w, ]*\b)?{name}\b[^\n]* : (.+)$", text, re.MULTILINE)
        assert line, f"{name} is not described"
        kind = get_type_hints(law)[name]
        unitless = line[1].startswith("parameters")
        if isinstance(kind, type) and issubclass(kind, tuple):
            # Several arguments in one: its own attributes have the units.
            line, unitless = re.search(r"\[[^\]]+\]", inspect.getdoc(kind) or ""), True
            assert line, f"{kind.__name__} has no unit"
        assert unitless or re.search(r"\[[^\]]+\]", line[1]), f"{name} has no unit"


def test_there_are_laws():
    assert len(LAWS) > 25


DOOR = [custard, planning, practice]


def _functions(module):
    """Of a room its list; of a module without one what is its own."""
    listed = getattr(module, "__all__", None)
    for name in listed or vars(module):
        found = getattr(module, name)
        if listed and inspect.ismodule(found):
            yield from _functions(found)
        function = inspect.unwrap(found)
        own = listed or function.__module__ == module.__name__ if inspect.isfunction(function) else False
        if own and not name.startswith("_"):
            yield function


PUBLIC = sorted(
    {one for module in DOOR for one in _functions(module)}, key=lambda one: (one.__module__, one.__qualname__)
)


@pytest.mark.parametrize("function", PUBLIC, ids=lambda one: f"{one.__module__}.{one.__name__}")
def test_every_argument_of_the_public_door_is_described(function):
    text = inspect.getdoc(function) or ""
    hints = get_type_hints(function)
    for name in inspect.signature(function).parameters:
        line = re.search(rf"^(?:[\w, ]*\b)?{name}\b[^\n]* : (.+(?:\n    .+)*)$", text, re.MULTILINE)
        assert line, f"{name} is not described"
        if hints[name] is float:
            assert re.search(r"\[[^\]]+\]", line[1]), f"{name} has no unit"


def test_there_is_a_door():
    assert len(PUBLIC) > 150
