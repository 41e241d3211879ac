"""The permission table holds: every route of the API is in it, and does as it says."""

from __future__ import annotations

import base64
import copy
import json
import uuid
from datetime import date, timedelta
from pathlib import Path

import custard
import custard.learning
import pytest
from archive import runs as archives
from archive.models import ArchiveRun
from book import actions as book
from book import ocr
from book.models import RecipePicture
from common import clock
from day import actions as day
from day import beside, editing
from day.models import Plan
from day.requests import HandsIn, OtherIn, WantIn
from devices import actions as devices
from devices.models import ProbeCheck
from django.core.management import call_command
from django.db import connection, transaction
from django.test.utils import CaptureQueriesContext
from kitchen import actions as larder
from kitchen import crew, joining, learned
from kitchen.models import Kitchen, Membership, Role
from log import views
from log.schemas import LogAsked, NewView
from papers.orders import order
from people import hands
from people.models import User
from photos import actions as photos
from photos.schemas import NewPhoto
from shelf import actions as shelf
from shelf.models import Tub
from shelf.schemas import NewPromise
from stove import actions as stove
from trouble import actions as trouble
from trouble.schemas import Taking

from tests.allowed import ANYONE, DEVICE, DRAFT, NOBODY_YET, RANK, TABLE, WHEN
from tests.conftest import ANGLAISE, PASSWORD, Api, close, formula_of, logged_in, mark, rewrite
from tests.pictures import photo, png
from tests.practice.practising import practised_by
from tests.statements import strays

CONTRACT = json.loads((Path(__file__).parents[1] / "openapi.json").read_text())


def test_every_route_is_in_the_table():
    routes = {(method.upper(), path) for path, methods in CONTRACT["paths"].items() for method in methods}
    assert routes == set(TABLE)


@pytest.fixture
def tried(here, there, version, batch, monkeypatch):
    """Make the call a route describes, as somebody; returns the status."""
    writer = logged_in("here-cook")
    known = mark()
    writer("POST", f"/api/k/here/batches/{batch.pk}/marks", known)
    own = larder.add_ingredient(
        here["chef"], name="oat milk", composition={"water": 100}, allergens=[], density_g_per_ml=1
    )
    hob = larder.add_hob(here["chef"], "front ring", 350, over_steam=False)
    pan = larder.add_pan(here["chef"], "small pan", "clad")
    cooler = larder.add_cooler(here["chef"], "fridge", "fridge")
    vessel = larder.add_vessel(here["chef"], "tub", kind="tub", length_cm=30, width_cm=20, height_cm=10)
    scale = devices.register(here["chef"], "scale", devices.new_token())
    probe = devices.register(here["chef"], "probe", devices.new_token(), "probe")
    other = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    close(here["cook"], other, kept_g=300, whites_g=0)
    tub = Tub.objects.get(batch=other)
    promise = shelf.promise(here["cook"], tub.pk, NewPromise(grams=20, dish="tart"))
    reminder = book.remind(here["cook"], version.formula_id, "More yolk.")
    learned.learn_sauces(here["cook"], {learned.HOUSE: custard.learning.learn([]).of()})
    remedy = uuid.uuid4()
    trouble.take(here["cook"], Taking(id=remedy, batch_id=batch.pk, fault="too-thick"))
    monkeypatch.setattr(ocr, "languages", lambda: ("eng",))
    picture = RecipePicture.objects.create(
        kitchen=version.formula.kitchen, formula=version.formula, image=b"jpeg", width=4, height=3
    )
    taken_photo = photos.add(here["chef"], batch.pk, NewPhoto(**photo()))
    taker = User.objects.create_user("here-helper", password=PASSWORD, title="helper")
    Membership.objects.create(user=taker, kitchen=here["chef"].kitchen, role=Role.COOK)
    hands.set_pin(taker, "2580")
    token = joining.new_token()
    invitation = crew.invite(here["chef"], "cook", "commis", token)
    rewrite(Kitchen.objects.filter(slug="here"), demo=True)
    closed = Kitchen.objects.create(slug="closed", name="Closed", demo=True, thrown_away_at=clock.now())
    for role, actor in here.items():
        Membership.objects.create(user=actor.user, kitchen=closed, role=role)
    bath = larder.add_cooler(here["chef"], "ice bath", "ice-bath")
    taken_off = larder.remove_cooler(here["chef"], bath.pk)
    uninvited = crew.uninvite(
        here["chef"], crew.invite(here["chef"], "cook", "nobody", joining.new_token()).pk
    )
    planned = a_day(here["cook"], version.formula_id)
    practised = {str(actor.user.pk): practised_by(actor, here["chef"]) for actor in here.values()}
    papers = {
        str(actor.user.pk): order(actor, "day record", {"day": WHEN}, "day").pk for actor in here.values()
    }
    carried = archives.make(here["chef"])
    carried.path.write_bytes(b"zip")
    ArchiveRun.objects.filter(pk=carried.pk).update(done_at=clock.now())
    sent = {
        str(user.pk): archives.expect(user, 10).pk for user in User.objects.filter(username__contains="-")
    }
    kept_views = {
        str(actor.user.pk): views.keep(actor, NewView(name="mine", asked=LogAsked(words="x"))).pk
        for actor in here.values()
    }
    secret = devices.new_token()
    beside.make_calendar(here["chef"], secret)

    def attempt(api: Api, route, kitchen="here"):
        method, path = route
        body = TABLE[route][1]
        by_name = {
            "MARK": mark(),
            "MARKS": {"marks": [mark(), mark()]},
            "PHOTO": photo(),
            "PICTURE": {"content": base64.b64encode(png(4, 3)).decode()},
        }
        if isinstance(body, str) and body in by_name:
            body = by_name[body]
        elif body == "MOVE":
            body = {"id": str(uuid.uuid4()), "kind": "opened"}
        elif body in ("TROUBLE", "REMEDY"):
            key = {"id": str(uuid.uuid4())} if body == "REMEDY" else {}
            body = {**key, "batch_id": batch.pk, "fault": "bits"}
        # Nobody plays for somebody else: everyone has attempts of their own.
        mine = practised.get(api.client.session.get("_auth_user_id", ""), next(iter(practised.values())))
        if isinstance(body, str) and body in mine:
            body = mine[body]
        elif isinstance(body, str) and body in planned:
            body = planned[body]
        elif body == "HANDS":
            body = {"person_id": taker.pk, "pin": "2580"}
        elif body == "SIGNING":
            body = {"id": str(uuid.uuid4()), "day": f"{clock.now():%Y-%m-%d}", "note": "all else is well"}
        elif isinstance(body, dict) and body.get("formula_id") == "FORMULA":
            body = {**body, "formula_id": version.formula_id}
        elif isinstance(body, dict) and body.get("layers") == "FORMULA":
            body = {**body, "layers": [{"formula_id": version.formula_id, "height_mm": 20}]}
        url = path.format(
            kitchen=kitchen,
            formula_id=version.formula_id,
            number=1,
            batch_id=other.pk if path.endswith(("/reopen", "/odd")) else batch.pk,
            mark_id=remedy if "remedies" in path else known["id"],
            reminder_id=reminder.pk,
            ingredient_id=own.pk,
            device_id=probe.pk if path.endswith(("/now", "/checks")) else scale.pk,
            hob_id=hob.pk,
            pan_id=pan.pk,
            cooler_id=cooler.pk,
            vessel_id=vessel.pk,
            tub_id=tub.pk,
            promise_id=promise.pk,
            when=WHEN,
            secret=secret,
            paper_id=papers.get(api.client.session.get("_auth_user_id", ""), next(iter(papers.values()))),
            picture_id=picture.pk,
            photo_id=taken_photo.pk,
            archive_id=carried.pk,
            view_id=kept_views.get(api.client.session.get("_auth_user_id", ""), 1),
            check_id=probe_check(api, method, probe),
            run_id=sent.get(api.client.session.get("_auth_user_id", ""), carried.pk),
            slug="closed",
            taken_off_id=(uninvited if "people" in path else taken_off).key,
            token=token,
            member_id=taker.pk,
            invitation_id=invitation.pk,
            **planned["KEYS"],
            **(mine["KEYS"] | (mine["GONE"] if path.endswith("/back") else {})),
            attempt_id=mine["over"] if path.endswith("/debrief") else mine["going"],
            kind="formula" if "export" in path else "csv",
        )
        asked = {
            "/log/compare": f"?a={other.pk}&b={other.pk}",
            "/log/overlay": f"?batches={other.pk},{batch.pk}",
            "/compare": f"?a={version.formula_id}&b={version.formula_id}",
            "/troubles": f"?batch_id={batch.pk}",
            "/labels": f"?tub={tub.pk}",
            "/labels.pdf": f"?tub={tub.pk}",
        }
        url += next((query for end, query in asked.items() if path.endswith(end)), "")
        return api(method, url, body).status_code

    return attempt


def probe_check(api, method, probe):
    """A check of its own for everybody who takes one back: there is only one to be taken back else."""
    if method != "DELETE":
        return 1
    return ProbeCheck.objects.create(
        device=probe, at=clock.now() + timedelta(minutes=1), boils_c=100, reads_high_k=0, error_k=1
    ).pk


def a_day(cook, formula_id):
    """A planned day with a template of it; what its routes are asked with, by their names."""
    day_date = date.fromisoformat(WHEN)
    hands = editing.add_hands(cook, day_date, HandsIn(name="pastry cook", there=[[420, 1380]]))
    wanted = editing.add_want(cook, day_date, WantIn(formula_id=formula_id, at=1200))
    other = editing.add_other(cook, day_date, OtherIn(name="glaze", minutes=10))
    template = editing.keep_template(cook, day_date, "a Sunday")
    day.planned(cook, day_date)
    Plan.objects.update(helps=[{
        "kind": "more", "say": "A second ring.", "minutes": 0, "job": "", "hands": [], "places": {"ring": 2},
        "ice_g": None, "bowls": None, "dues": {},
    }])  # fmt: skip
    job = f"want-{wanted.pk}"
    return {
        "KEYS": {
            "hands_id": hands.pk, "want_id": wanted.pk, "other_id": other.pk, "template_id": template.pk,
        },
        "MOVING": {"job": job, "step": "weigh", "start": 600},
        "DOING": {"job": job, "step": "weigh", "what": "begun"},
        "STOVE": {"job": job},
        "COPY": {"template_id": template.pk},
    }  # fmt: skip


BRING_BACK = ("POST", "/api/kitchens/{slug}/bring-back")
WHO = ("nobody", "viewer", "cook", "chef")


GROUPS = 2
"""The kitchen that routes are tried in takes longer to make than any call: one for each of two processes."""


@pytest.mark.parametrize("group", range(GROUPS))
def test_roles(tried, group):
    """Each finds everything as the one before found it: what a call changed is rolled back."""
    people = {who: Api() if who == "nobody" else logged_in(f"here-{who}") for who in WHO}
    people["stranger"] = logged_in("there-chef")
    for route in list(TABLE)[group::GROUPS]:
        try:
            _roles(tried, route, people)
        except AssertionError as wrong:
            raise AssertionError(f"{' '.join(route)}: {wrong}") from wrong


def _roles(tried, route, people):
    needs = TABLE[route][0]
    for who in WHO:
        status = _keeping_to_one(tried, people[who], route)
        if RANK.index(ANYONE if who == "nobody" else who) >= RANK.index(needs):
            assert status in (200, 201, 202, 204) or route == ("POST", "/api/session"), who
        elif needs == DEVICE:
            assert status == 401, who
        elif needs == NOBODY_YET or route == BRING_BACK:
            assert status in (401, 403, 404), who
        else:
            assert status == (401 if who == "nobody" else 403), who
    if "{kitchen}" in route[1]:
        _kitchens_never_meet(tried, route, people["stranger"])


def _keeping_to_one(tried, api, route):
    """What a call answers; whatever it reads or changes is reached by its kitchen, or by a key that was."""
    here = Kitchen.objects.get(slug="here").pk
    with CaptureQueriesContext(connection) as made:
        status = undone(tried, api, route)
    if "{kitchen}" in route[1]:
        found = [(why, one["sql"]) for one in made.captured_queries if (why := strays(one["sql"], here))]
        assert not found
    return status


@pytest.mark.parametrize(
    ("statement", "stray"),
    [
        ('SELECT 1 FROM "stove_batch" WHERE "stove_batch"."kitchen_id" = 7 AND "stage" = 4', False),
        ('SELECT 1 FROM "stove_batch" WHERE "stove_batch"."id" = 3', False),
        ('SELECT 1 FROM "shelf_tub" WHERE "shelf_tub"."batch_id" IN (3, 4)', False),
        ('SELECT 1 FROM "stove_batch" WHERE "stove_batch"."kitchen_id" = 8', True),
        ('SELECT 1 FROM "stove_batch" WHERE "stove_batch"."family" = 5', True),
        ('UPDATE "shelf_tub" SET "place" = 1', True),
        ('SELECT 1 FROM "people_user" WHERE "people_user"."username" = 1', False),
    ],
)
def test_a_statement_that_strays_is_seen(statement, stray):
    assert bool(strays(statement, 7)) is stray


def undone(tried, api, *call, **where):
    """What a call answers; what it changed is taken back, on the side of the browser as well."""
    cookies = copy.deepcopy(api.client.cookies)
    with transaction.atomic():
        status = tried(api, *call, **where)
        transaction.set_rollback(True)
    api.client.cookies = cookies
    return status


def _kitchens_never_meet(tried, route, stranger):
    """A chef of the other kitchen finds nothing here, nor these things in their own kitchen."""
    assert undone(tried, stranger, route, kitchen="here") == 404
    names_one = "_id}" in route[1] or route[1].endswith(
        ("/compare", "/labels", "/labels.pdf", "/troubles", "/trouble", "/trouble/take")
    )
    absent = (
        "{when}" in route[1]
        and route[0] != "PATCH"
        and not route[1].endswith(("{when}", "/hands", "/others", "/day.json"))
    )
    if names_one or absent or route == ("POST", "/api/k/{kitchen}/batches"):
        assert undone(tried, stranger, route, kitchen="there") == 404


def test_writes_need_the_csrf_token(here, version):
    api = logged_in("here-chef")
    answer = api.client.post("/api/k/here/formulas", json.dumps(DRAFT), content_type="application/json")
    assert answer.status_code == 403
    assert api.client.post("/api/session", "{}", content_type="application/json").status_code in (403, 422)


def test_an_administrator_is_a_chef_everywhere(here, there, version, monkeypatch):
    monkeypatch.setenv("OLDSPOON_ADMIN_PASSWORD", "a-long-enough-one")
    call_command("make_admin", "root")
    api = Api()
    assert api.log_in("root", "a-long-enough-one").status_code == 200
    assert [k["role"] for k in api("GET", "/api/kitchens").json()] == ["chef", "chef"]
    assert api("PATCH", "/api/k/there", {"altitude_m": 900}).status_code == 200
