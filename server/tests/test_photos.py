"""Photographs of batches: taken, shown, named, removed and put back; by whom, how much, and as files."""

from __future__ import annotations

import base64
import io
from datetime import timedelta
from uuid import uuid4

import pytest
from common import clock
from kitchen.models import AuditEntry, Membership, Role
from people.models import User
from photos import actions, reads
from photos.models import Photo, folder
from PIL import Image
from stove import actions as stove

from tests.conftest import ANGLAISE, PASSWORD, close, formula_of, logged_in
from tests.pictures import photo, saved


@pytest.fixture
def at(here, batch, settings, tmp_path):
    settings.FILES = tmp_path
    return f"/api/k/here/batches/{batch.pk}/photos"


def with_exif() -> str:
    """A picture taken on its side, that says where and by what it was taken."""
    made, exif = Image.new("RGB", (40, 20), "wheat"), Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "a maker"
    return base64.b64encode(saved(made, "JPEG", exif=exif)).decode()


def test_a_photograph_is_kept_upright_and_without_exif_where_it_was_taken(cook, viewer, at):
    sent = photo(content=with_exif(), note="first bubbles")
    answer = cook("POST", at, sent)
    assert answer.status_code == 201, answer.content
    [one] = viewer("GET", at).json()["photos"]
    assert (one["stage"], one["note"], one["width"], one["height"]) == ("cook", "first bubbles", 20, 40)
    assert one["mine"] is False
    assert cook("GET", at).json()["photos"][0]["mine"] is True
    shown = viewer("GET", f"/api/k/here/photos/{one['id']}/image")
    picture = Image.open(io.BytesIO(shown.content))
    assert (picture.size, dict(picture.getexif())) == ((20, 40), {})
    assert Photo.objects.get().path.is_relative_to(folder())


def test_sent_twice_it_is_one(cook, at):
    sent = photo()
    for _ in range(2):
        assert cook("POST", at, sent).status_code == 201
    assert Photo.objects.count() == 1
    assert AuditEntry.objects.filter(action="photo.add").count() == 1


def test_an_id_of_another_batch_is_refused(cook, here, version, at):
    sent, other = photo(), stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    cook("POST", at, sent)
    assert cook("POST", f"/api/k/here/batches/{other.pk}/photos", sent).status_code == 409


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"content": "no base64!"}, "content"),
        ({"content": base64.b64encode(b"no picture").decode()}, "content"),
        ({"at": "2999-01-01T00:00:00Z"}, "at"),
        ({"at": "1999-01-01T00:00:00Z"}, "at"),
        ({"stage": "lunch"}, "stage"),
        ({"note": "x" * 501}, "note"),
    ],
)
def test_what_is_wrong_is_named_and_nothing_is_kept(cook, at, change, field):
    answer = cook("POST", at, photo(**change))
    assert answer.status_code == 422
    assert [one["field"] for one in answer.json()["fields"]] == [field]
    assert not Photo.objects.exists()


def test_a_closed_batch_takes_a_photograph_of_the_plate(cook, here, batch, at):
    close(here["cook"], batch)
    assert cook("POST", at, photo(stage="keep")).status_code == 201


@pytest.fixture
def viewer(here):
    return logged_in("here-viewer")


@pytest.fixture
def another_cook(here):
    user = User.objects.create_user("here-helper", password=PASSWORD, title="helper")
    Membership.objects.create(user=user, kitchen=here["chef"].kitchen, role=Role.COOK)
    return logged_in("here-helper")


def test_it_is_removed_and_put_back_by_who_took_it_or_a_chef(cook, chef, here, at, another_cook):
    sent = photo()
    cook("POST", at, sent)
    one = f"/api/k/here/photos/{sent['id']}"
    assert another_cook("DELETE", one).status_code == 403
    assert another_cook("PATCH", one, {"note": "mine"}).status_code == 403
    assert cook("PATCH", one, {"note": "the line held"}).json()["photos"][0]["note"] == "the line held"
    assert chef("DELETE", one).json()["photos"] == []
    assert cook("GET", f"{one}/image").status_code == 404
    assert [p["id"] for p in cook("POST", f"{one}/back").json()["photos"]] == [sent["id"]]


def test_a_kitchen_keeps_what_it_allows(cook, chef, at):
    assert chef("PATCH", "/api/k/here", {"photos_mb": 0}).json()["photos_mb"] == 0
    answer = cook("POST", at, photo())
    assert (answer.status_code, answer.json()["type"]) == (409, "photos-full")
    assert "keeps 0 MB" in answer.json()["detail"]
    assert cook("GET", at).json() == {"photos": [], "left_mb": 0.0, "most_mb": 0}
    chef("PATCH", "/api/k/here", {"photos_mb": 1})
    assert cook("POST", at, photo()).status_code == 201


def test_at_night_what_was_removed_goes_and_so_do_files_of_no_row(cook, at):
    first, second = photo(), photo()
    for sent in (first, second):
        cook("POST", at, sent)
    cook("DELETE", f"/api/k/here/photos/{first['id']}")
    gone = Photo.objects.get(pk=first["id"]).path
    stray = gone.with_name(f"{uuid4()}.jpg")
    stray.write_bytes(b"of a kitchen that was rolled back")
    assert actions.forget(clock.now()) == 0, "it can still be put back"
    assert actions.forget(clock.now() + timedelta(days=2)) == 2
    assert (gone.exists(), stray.exists()) == (False, False)
    assert Photo.objects.get().path.exists()


def test_a_picture_that_is_lost_is_a_404(viewer, cook, at):
    sent = photo()
    cook("POST", at, sent)
    Photo.objects.get().path.unlink()
    assert viewer("GET", f"/api/k/here/photos/{sent['id']}/image").status_code == 404


def test_what_was_removed_takes_room_too(cook, chef, at, monkeypatch):
    """Else a disk is filled by taking and removing, over and over."""
    chef("PATCH", "/api/k/here", {"photos_mb": 1})
    monkeypatch.setattr(reads, "MB", 1000)
    answers = []
    for _ in range(10):
        sent = photo()
        answers.append(cook("POST", at, sent).status_code)
        cook("DELETE", f"/api/k/here/photos/{sent['id']}")
    fit = 2000 // Photo.objects.latest("added_at").size
    assert 1 < fit < 10
    assert answers == [201] * fit + [409] * (10 - fit), "twice the room, and no more"
