"""Photographs of recipes: taken in without EXIF, read by a worker whichever way up, stored with a formula."""

from __future__ import annotations

import base64
import io
import uuid
from datetime import timedelta

import custard
import pytesseract
import pytest
from book import ocr, pictures
from book import tasks as book_tasks
from book.models import PictureStep, RecipePicture
from common import clock, images
from django.db import connection
from django.test.utils import CaptureQueriesContext
from PIL import Image

from tests.conftest import ANGLAISE, Api, logged_in, rewrite
from tests.pictures import PAPER, in_bad_light, page, png, saved

CARD = """Vanilla anglaise

500 ml whole milk
250 g cream 35 %
6 egg yolks (120 g)
90 g caster sugar
1 pinch of salt"""
METHOD = """Heat the milk and cream, whisk the
yolks with the sugar, pour the hot
milk over them and cook to 82 °C,
stirring all the time."""
GERMAN = """Vanillesauce

500 ml Milch
1 Päckchen Vanillezucker
4 Eigelb
80 g Zucker

Die Milch aufkochen, das Eigelb mit dem Zucker
schaumig rühren und zur Rose abziehen."""
FRENCH = """Crème pâtissière

500 g de lait entier
4 jaunes d'œufs
100 g de sucre
45 g de maïzena

Faire bouillir le lait, ajouter la maïzena et cuire
2 minutes à ébullition."""
NAMES = "Ice cream base\n\nMilk\nCream 35 %\nEgg yolk\nSugar"
AMOUNTS = "\n\n500 g\n250 g\n120 g\n150 g"


@pytest.fixture
def reads_english(monkeypatch):
    monkeypatch.setattr(ocr, "languages", lambda: ("eng",))


def sent(api: Api, content: bytes):
    return api("POST", "/api/k/here/pictures", {"content": base64.b64encode(content).decode()})


@pytest.mark.parametrize(
    ("made", "lines"),
    [
        (
            page([(80, GERMAN)]).rotate(180),
            ["500 ml Milch", "1 Päckchen Vanillezucker", "4 Eigelb", "80 g Zucker"],
        ),
        (
            in_bad_light(page([(80, FRENCH)]).rotate(90, expand=True)),
            ["500 g de lait entier", "45 g de maïzena"],
        ),
        (
            page([(60, CARD), (720, "\n\n" + METHOD)]).rotate(3, fillcolor=PAPER),
            ["500 ml whole milk", "90 g caster sugar", "".join(METHOD.replace("\n", " "))],
        ),
        (page([(80, NAMES), (800, AMOUNTS)]), ["Milk   500 g", "Egg yolk   120 g", "Sugar   150 g"]),
    ],
    ids=["upside down", "turned, in bad light", "crooked, in two columns", "table"],
)  # fmt: skip
def test_a_page_is_read_however_it_was_taken(made, lines):
    if set(ocr.languages()) != set(ocr.LANGUAGES):
        pytest.skip("tesseract is not installed in all three languages")
    words, _ = ocr.words_in(images.upright(saved(made))[0], lambda step: None)
    text = [bare(line) for line in custard.reading.text_of(words).text.split("\n")]
    assert [line for line in lines if bare(line) not in text] == []


def bare(line: str) -> str:
    """A line without accents and spaces, which a reader of recipes does not mind."""
    return custard.reading.fold(line).replace(" ", "")


def test_a_photograph_becomes_a_formula_with_its_picture(here):
    """From the file to the book: read by a worker, nothing sure, the picture kept and shown."""
    if not ocr.languages():
        pytest.skip("tesseract is not installed")
    api = logged_in("here-chef")
    made = sent(api, saved(page([(80, CARD)])))
    assert made.status_code == 202
    picture = made.json()["id"]
    assert made.json()["step"] == "waiting"
    assert made.json()["text"] is None
    book_tasks.read_picture(picture)
    found = api("GET", f"/api/k/here/pictures/{picture}").json()
    assert found["step"] == "read"
    read = api("POST", "/api/k/here/import", {"text": found["text"], "doubtful": found["doubtful"]}).json()
    assert [line["ingredient"] for line in read["lines"]][:2] == ["whole-milk", "whipping-cream-35"]
    assert all(line["assumed"] for line in read["lines"]), "a picture's 6 may be an 8"
    body = {"draft": ANGLAISE, "recipe": found["text"], "picture": picture}
    kept = api("POST", "/api/k/here/formulas", body)
    assert kept.status_code == 201
    assert kept.json()["pictures"] == [picture]
    shown = logged_in("here-viewer")("GET", f"/api/k/here/pictures/{picture}/image")
    assert shown["Content-Type"] == "image/jpeg"
    assert Image.open(io.BytesIO(shown.content)).size == (1400, 1150)
    assert api("POST", "/api/k/here/formulas", body).status_code == 422, "one formula has it already"


def test_exif_is_removed_and_the_picture_stands_as_the_camera_held_it(here, reads_english):
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "a camera"
    exif.get_ifd(0x8825)[2] = (47.0, 3.0, 11.0)
    made = sent(logged_in("here-cook"), saved(Image.new("RGB", (60, 40), "white"), "JPEG", exif=exif))
    assert (made.json()["width"], made.json()["height"]) == (40, 60)
    kept = Image.open(io.BytesIO(bytes(RecipePicture.objects.get().image)))
    assert not kept.getexif()
    assert "exif" not in kept.info


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (png(8000, 6250), "50 million points"),
        (png(40, 30)[:60], "no picture that can be opened"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "no picture that can be opened"),
        (b"", "no picture that can be opened"),
        (b"%PDF-1.7", "no picture that can be opened"),
    ],
    ids=["50 megapixels", "cut off", "drawing", "nothing", "pdf"],
)
def test_what_is_no_picture_is_refused_and_not_kept(here, reads_english, content, says):
    refused = sent(logged_in("here-cook"), content)
    assert refused.status_code == 422
    assert says in refused.json()["detail"]
    assert not RecipePicture.objects.exists()


def test_what_is_not_base64_did_not_arrive_whole(here, reads_english):
    refused = logged_in("here-cook")("POST", "/api/k/here/pictures", {"content": "(no base64)"})
    assert refused.status_code == 422
    assert refused.json()["fields"][0]["field"] == "content"


def test_without_tesseract_the_page_says_what_to_install(here, monkeypatch):
    monkeypatch.setattr(ocr.shutil, "which", lambda name: None)
    api = logged_in("here-cook")
    asked = api("GET", "/api/k/here/pictures").json()
    assert asked == {"languages": [], "install": ["tesseract-ocr", "tesseract-ocr-fra", "tesseract-ocr-deu"]}
    assert sent(api, png(40, 30)).status_code == 503


def picture_of(actor, **more) -> RecipePicture:
    image, width, height = images.upright(png(400, 300))
    return RecipePicture.objects.create(
        kitchen=actor.kitchen, user=actor.user, image=image, width=width, height=height, **more
    )


@pytest.mark.parametrize(
    ("fails", "says"),
    [
        (RuntimeError("Tesseract process timeout"), "too long"),
        (pytesseract.TesseractError(1, "no such language"), "could not be read"),
        (pytesseract.TesseractNotFoundError(), "could not be read"),
    ],
)
def test_a_picture_that_cannot_be_read_says_why_and_the_worker_goes_on(
    here, reads_english, monkeypatch, fails, says
):
    def fail(*_, **__):
        raise fails

    monkeypatch.setattr(pytesseract, "image_to_osd", lambda *_, **__: {"rotate": 0})
    monkeypatch.setattr(pytesseract, "image_to_data", fail)
    picture = picture_of(here["cook"])
    book_tasks.read_picture(str(picture.pk))
    found = logged_in("here-cook")("GET", f"/api/k/here/pictures/{picture.pk}").json()
    assert found["step"] == "refused"
    assert says in found["refused"]


def test_a_page_without_words_says_how_to_take_it(here, monkeypatch):
    monkeypatch.setattr(ocr, "words_in", lambda image, report: ([], 0))
    picture = picture_of(here["cook"])
    pictures.read(str(picture.pk))
    picture.refresh_from_db()
    assert picture.refused == pictures.NO_TEXT


def test_a_picture_is_read_once_and_progress_is_kept(here, monkeypatch):
    steps = []

    def words(image, report):
        for step in (PictureStep.TURNING, PictureStep.READING):
            report(step)
            steps.append(RecipePicture.objects.get().step)
        return [custard.reading.PictureWord("Milk", 95, 0, 0, 40, 20)], 90

    monkeypatch.setattr(ocr, "words_in", words)
    picture = picture_of(here["cook"])
    for _ in range(2):
        pictures.read(str(picture.pk))
    assert steps == ["turning", "reading"]
    picture.refresh_from_db()
    assert (picture.text, picture.width, picture.height) == ("Milk", 300, 400), "it stands upright"
    pictures.read(str(uuid.uuid4()))


def test_whose_picture_it_is(here, there):
    """Until a formula keeps it, a picture is its taker's alone."""
    picture = picture_of(here["cook"])
    assert logged_in("here-cook")("GET", f"/api/k/here/pictures/{picture.pk}").status_code == 200
    assert logged_in("here-chef")("GET", f"/api/k/here/pictures/{picture.pk}").status_code == 404
    assert logged_in("there-chef")("GET", f"/api/k/there/pictures/{picture.pk}").status_code == 404
    body = {"draft": ANGLAISE, "picture": str(picture.pk)}
    refused = logged_in("here-chef")("POST", "/api/k/here/formulas", body)
    assert refused.status_code == 422
    assert refused.json()["fields"][0]["field"] == "picture"
    assert logged_in("here-cook")("POST", "/api/k/here/formulas", body).status_code == 201


def test_how_far_it_is_read_is_asked_without_fetching_the_image(here):
    picture = picture_of(here["cook"])
    with CaptureQueriesContext(connection) as made:
        found = logged_in("here-cook")("GET", f"/api/k/here/pictures/{picture.pk}")
    assert found.status_code == 200
    assert not any('"image"' in one["sql"] for one in made.captured_queries)
    image = logged_in("here-cook")("GET", f"/api/k/here/pictures/{picture.pk}/image")
    assert image["Cache-Control"] == "no-store", "it may still be turned"


def test_five_at_once(here, reads_english):
    api = logged_in("here-cook")
    assert [sent(api, png(40, 30)).status_code for _ in range(6)] == [202] * 5 + [429]
    rewrite(RecipePicture.objects.all(), made_at=clock.now() - timedelta(hours=1))
    assert sent(api, png(40, 30)).status_code == 202


def test_pictures_that_no_formula_keeps_are_deleted_the_night_after(here, version):
    old = clock.now() - timedelta(days=2)
    kept, fresh = picture_of(here["cook"], formula=version.formula, made_at=old), picture_of(here["cook"])
    picture_of(here["cook"], made_at=old)
    assert pictures.forget(clock.now()) == 1
    assert set(RecipePicture.objects.values_list("pk", flat=True)) == {kept.pk, fresh.pk}
