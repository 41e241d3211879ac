"""Many recipes in one file; what is hostile is refused before it is unpacked."""

from __future__ import annotations

import io
import zipfile
from contextlib import suppress

import custard
import pytest
from custard.reading import read, unbundle
from hypothesis import given
from hypothesis import strategies as st


def zipped(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as bundle:
        for name, content in files.items():
            bundle.writestr(name.replace("__", "/"), content)
    return out.getvalue()


def test_a_zip_is_its_texts_and_what_is_none_says_so():
    data = zipped(**{
        "cards__plain.txt": b"Plain\n500 ml milk\n6 yolks",
        "cards__page.html": b"<p>300 ml cream</p><p>4 yolks</p>",
        "photo.png": b"\x89PNG",
        "broken.txt": b"\x00\x01\x02",
        "__MACOSX__._plain.txt": b"x",
    })  # fmt: skip
    found = {one.name: one for one in unbundle("cards.zip", data)}
    assert set(found) == {"plain.txt", "page.html", "photo.png", "broken.txt"}
    assert [line.ingredient for line in read(found["page.html"].text).lines] == [
        "whipping-cream-36",
        "egg-yolk",
    ]
    assert found["photo.png"].why
    assert found["broken.txt"].why
    assert found["plain.txt"].why == ""


@pytest.mark.parametrize("cut", [",", ";", "\t"])
def test_a_table_is_a_recipe_for_each_name(cut):
    rows = [
        ["recipe", "ingredient", "amount", "unit"],
        ["Plain", "whole milk", "500", "ml"],
        ["Plain", "egg yolks", "6", ""],
        ["Rich", "double cream", "500", "g"],
        ["Rich", "egg yolks", "8", ""],
    ]
    text = "\n".join(cut.join(row) for row in rows)
    plain, rich = unbundle("book.csv", text.encode())
    assert [(line.ingredient, line.amount) for line in read(plain.text).lines] == [
        ("whole-milk", "500 ml"),
        ("egg-yolk", "6"),
    ]
    assert read(rich.text).name == "Rich"


def test_a_table_of_one_recipe_is_one():
    (one,) = unbundle("card.csv", b"ingredient,amount\nmilk,500 ml\negg yolks,6")
    assert [line.ingredient for line in read(one.text).lines] == ["whole-milk", "egg-yolk"]


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "cp1252", "utf-16"])
def test_letters_are_read_however_they_were_written(encoding):
    (one,) = unbundle("carte.txt", "Crème\n500 ml de lait\n6 jaunes d’œufs".encode(encoding))
    assert read(one.text).name == "Crème"


def test_a_zip_that_unpacks_to_too_much_is_refused():
    bomb = zipped(**{f"{number}.txt": b"1 egg\n" * 200_000 for number in range(25)})
    assert len(bomb) < 100_000
    with pytest.raises(custard.BadFormula, match="more than 20 MB"):
        unbundle("bomb.zip", bomb)


def test_too_many_files_a_zip_within_and_a_broken_one_are_refused():
    with pytest.raises(custard.BadFormula, match="more than 500"):
        unbundle("many.zip", zipped(**{f"{number}.txt": b"6 yolks" for number in range(501)}))
    inner = zipped(**{"a.txt": b"6 yolks"})
    (nested,) = unbundle("outer.zip", zipped(**{"inner.zip": inner}))
    assert nested.why
    whole = zipped(**{"a.txt": b"6 yolks" * 100})
    for broken in (whole[:-30], b"PK\x03\x04" + b"x" * 200, whole[:40] + b"\xff" * 20 + whole[60:]):
        with pytest.raises(custard.BadFormula, match="damaged"):
            unbundle("broken.zip", broken)


def test_a_long_text_is_left_out_with_a_reason():
    (one,) = unbundle("long.txt", b"x" * 1_000_001)
    assert one.why.startswith("is longer than")


CARDS = zipped(**{"a.txt": b"Plain\n500 ml milk\n6 yolks" * 50, "b.txt": b"6 yolks"})


@given(st.lists(st.tuples(st.integers(0, len(CARDS) - 1), st.integers(0, 255)), min_size=1, max_size=6))
def test_a_zip_whose_bytes_were_changed_is_read_or_refused(changes):
    data = bytearray(CARDS)
    for at, byte in changes:
        data[at] = byte
    with suppress(custard.BadFormula):
        assert isinstance(unbundle("cards.zip", bytes(data)), tuple)


@pytest.mark.parametrize(
    "table",
    [b"name;ingredient;amount\nx;" + b"y" * 200_000 + b";3 g", b'name,ingredient,amount\n"Plain,milk,500 ml'],
)
def test_a_damaged_table_is_left_out_with_a_reason(table):
    (one,) = unbundle("cards.csv", table)
    assert one.why.startswith("is a damaged table")
    assert one.text == ""


def test_rows_may_end_as_any_system_writes_them():
    for end in (b"\n", b"\r\n", b"\r"):
        (one,) = unbundle(
            "cards.csv", end.join((b"name,ingredient,amount", b"Plain,milk,500 ml", b"Plain,yolks,6"))
        )
        assert len(read(one.text).lines) == 2


def test_a_document_says_how_to_save_it():
    (one,) = unbundle("cards.docx", CARDS)
    assert "save it as text" in one.why
