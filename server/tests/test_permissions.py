"""The permission table: every route of the API, and who may use it."""

from __future__ import annotations

import json
import uuid
from datetime import date, timedelta
from pathlib import Path

import pytest
from book import actions as book
from common import clock
from day import actions as day
from day import beside, editing
from day.asked import HandsIn, OtherIn, WantIn
from day.models import Plan
from devices import actions as devices
from django.core.management import call_command
from django.db import transaction
from kitchen import actions as larder
from kitchen import crew
from kitchen.models import Kitchen, Membership, Role
from people import hands
from people.models import User
from shelf import actions as shelf
from shelf.models import Tub
from shelf.schemas import NewPromise
from stove import actions as stove
from trouble import actions as trouble
from trouble.schemas import Taking

from tests.conftest import ANGLAISE, PASSWORD, Api, close, formula_of, logged_in, mark
from tests.practice.practising import practised_by

ANYONE, LOGGED_IN, VIEWER, COOK, CHEF = "anyone", "logged in", "viewer", "cook", "chef"
DEVICE = "a device's token"
NOBODY_YET = "whoever comes first of all"
RECIPE = json.dumps({"@type": "Recipe", "name": "A custard", "recipeIngredient": ["1 cup whole milk"]})
DRAFT = {"draft": ANGLAISE}

COOLING = {
    "vessel": {"kind": "bowl", "length_cm": 24, "height_cm": 12},
    "ways": [{"by": "fridge"}],
    "from_c": 70,
}
DAY_FILE = {"format": "old-spoon/day", "version": 1, "hands": [{"name": "a", "there": [["8:00", "16:00"]]}]}
WHEN = f"{clock.now() + timedelta(days=1):%Y-%m-%d}"
# (method, path) -> (who may, a body that works)
TABLE = {
    ("GET", "/api/session"): (ANYONE, None),
    ("POST", "/api/session"): (ANYONE, {"username": "here-chef", "password": "wrong"}),
    ("DELETE", "/api/session"): (LOGGED_IN, None),
    ("PATCH", "/api/me"): (LOGGED_IN, {"title": "commis"}),
    ("PUT", "/api/me/habits"): (LOGGED_IN, {"decimal": "comma"}),
    ("PUT", "/api/me/password"): (LOGGED_IN, {"old": PASSWORD, "new": "another-long-one"}),
    ("PUT", "/api/me/pin"): (LOGGED_IN, {"pin": "2580"}),
    ("GET", "/api/me/sessions"): (LOGGED_IN, None),
    ("DELETE", "/api/me/sessions"): (LOGGED_IN, None),
    ("POST", "/api/first"): (NOBODY_YET, {"username": "first", "password": "a-long-enough-one"}),
    ("GET", "/api/invitations/{token}"): (ANYONE, None),
    ("POST", "/api/invitations/{token}"): (ANYONE, {"username": "new", "password": "a-long-enough-one"}),
    ("POST", "/api/kitchens/begin"): (LOGGED_IN, {"name": "Ours", "altitude_m": 3}),
    ("POST", "/api/kitchens/{slug}/bring-back"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/throw-away"): (CHEF, None),
    ("GET", "/api/k/{kitchen}/people"): (VIEWER, None),
    ("PATCH", "/api/k/{kitchen}/people/{member_id}"): (CHEF, {"role": "viewer"}),
    ("DELETE", "/api/k/{kitchen}/people/{member_id}"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/invitations"): (CHEF, {"role": "cook", "title": "commis"}),
    ("DELETE", "/api/k/{kitchen}/invitations/{invitation_id}"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/taken-off/{taken_off_id}/back"): (CHEF, None),
    ("GET", "/api/k/{kitchen}/audit"): (CHEF, None),
    ("GET", "/api/k/{kitchen}/hands"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/hands"): (VIEWER, "HANDS"),
    ("GET", "/api/kitchens"): (LOGGED_IN, None),
    ("GET", "/api/larder"): (LOGGED_IN, None),
    ("GET", "/api/k/{kitchen}"): (VIEWER, None),
    ("PATCH", "/api/k/{kitchen}"): (CHEF, {"altitude_m": 5}),
    ("GET", "/api/k/{kitchen}/usual"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/patterns"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/formulas"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/formulas"): (CHEF, DRAFT),
    ("GET", "/api/k/{kitchen}/formulas/{formula_id}"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/formulas/{formula_id}/versions/{number}"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/formulas/{formula_id}/versions"): (CHEF, {**DRAFT, "base": 1}),
    ("POST", "/api/k/{kitchen}/formulas/{formula_id}/duplicate"): (CHEF, {"name": "Another"}),
    ("POST", "/api/k/{kitchen}/formulas/{formula_id}/archive"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/formulas/{formula_id}/restore"): (CHEF, None),
    ("PUT", "/api/k/{kitchen}/formulas/{formula_id}/schools"): (CHEF, {"schools": {"temper": "ladle"}}),
    ("GET", "/api/k/{kitchen}/formulas/{formula_id}/versions/{number}/export/{kind}"): (VIEWER, None),
    ("PUT", "/api/k/{kitchen}/prices"): (CHEF, {"ingredient": "whole-milk", "price": 1, "per": "1 l"}),
    ("GET", "/api/k/{kitchen}/ingredients"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/ingredients"): (CHEF, {"name": "spelt milk", "composition": {"water": 100}}),
    ("DELETE", "/api/k/{kitchen}/ingredients/{ingredient_id}"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/details"): (VIEWER, ANGLAISE),
    ("POST", "/api/k/{kitchen}/band"): (VIEWER, ANGLAISE),
    ("POST", "/api/k/{kitchen}/turn"): (VIEWER, {**DRAFT, "values": {"yolk": 150}}),
    ("POST", "/api/k/{kitchen}/map"): (VIEWER, DRAFT),
    ("POST", "/api/k/{kitchen}/solve"): (VIEWER, {**DRAFT, "goal": "texture", "texture": "spoonable"}),
    ("POST", "/api/k/{kitchen}/fit"): (
        VIEWER,
        {**DRAFT, "vessel": "dish", "length_cm": 20, "height_cm": 5},
    ),
    ("POST", "/api/k/{kitchen}/top-up"): (VIEWER, {**DRAFT, "left_g": 480}),
    ("GET", "/api/k/{kitchen}/compare"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/import"): (VIEWER, {"text": RECIPE}),
    ("POST", "/api/k/{kitchen}/layers"): (
        VIEWER,
        {"length_cm": 20, "layers": "FORMULA"},
    ),
    ("POST", "/api/k/{kitchen}/crust"): (VIEWER, {"diameter_cm": 10}),
    ("GET", "/api/schemas/formula-2"): (ANYONE, None),
    ("GET", "/api/k/{kitchen}/devices"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/devices"): (CHEF, {"name": "bench scale"}),
    ("POST", "/api/k/{kitchen}/devices/{device_id}/revoke"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/devices/{device_id}/token"): (CHEF, None),
    ("GET", "/api/k/{kitchen}/weight"): (VIEWER, None),
    ("POST", "/api/device/weights"): (DEVICE, None),
    ("POST", "/api/k/{kitchen}/assess"): (VIEWER, ANGLAISE),
    ("POST", "/api/k/{kitchen}/scale"): (VIEWER, {**DRAFT, "by": "yolks", "amount": 3}),
    ("GET", "/api/k/{kitchen}/batches"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/batches"): (COOK, {**DRAFT, "formula_id": "FORMULA", "version": 1}),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/batches/{batch_id}/marks"): (COOK, "MARK"),
    ("POST", "/api/k/{kitchen}/batches/{batch_id}/marks/{mark_id}/withdraw"): (COOK, None),
    ("POST", "/api/k/{kitchen}/batches/{batch_id}/close"): (COOK, {"verdict": "good"}),
    ("POST", "/api/k/{kitchen}/batches/{batch_id}/reopen"): (COOK, None),
    ("PUT", "/api/k/{kitchen}/batches/{batch_id}/setup"): (COOK, {}),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/live"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/pours"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/oven"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/batch.json"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/batches/{batch_id}/cooling"): (VIEWER, COOLING),
    ("PUT", "/api/k/{kitchen}/batches/{batch_id}/cooling"): (COOK, COOLING),
    ("POST", "/api/k/{kitchen}/coolers"): (CHEF, {"name": "walk-in", "by": "fridge"}),
    ("DELETE", "/api/k/{kitchen}/coolers/{cooler_id}"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/vessels"): (
        CHEF,
        {"name": "bowl", "kind": "bowl", "length_cm": 24, "height_cm": 12},
    ),
    ("DELETE", "/api/k/{kitchen}/vessels/{vessel_id}"): (CHEF, None),
    ("GET", "/api/k/{kitchen}/troubles"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/trouble"): (VIEWER, "TROUBLE"),
    ("POST", "/api/k/{kitchen}/trouble/take"): (COOK, "REMEDY"),
    ("POST", "/api/k/{kitchen}/batches/{batch_id}/remedies/{mark_id}/take-back"): (COOK, None),
    ("POST", "/api/k/{kitchen}/formulas/{formula_id}/next-time"): (COOK, {"say": "Lift it at 79."}),
    ("POST", "/api/k/{kitchen}/formulas/{formula_id}/reminders/{reminder_id}/done"): (COOK, None),
    ("GET", "/api/k/{kitchen}/urgent"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/events"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/hearth"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/hobs"): (CHEF, {"name": "side ring"}),
    ("DELETE", "/api/k/{kitchen}/hobs/{hob_id}"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/pans"): (CHEF, {"name": "milk pan", "kind": "thin"}),
    ("DELETE", "/api/k/{kitchen}/pans/{pan_id}"): (CHEF, None),
    ("POST", "/api/device/readings"): (DEVICE, None),
    ("GET", "/api/device/batch"): (DEVICE, None),
    ("GET", "/api/k/{kitchen}/log"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/record"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/record.{kind}"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/day/record.{kind}"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/shelf"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/stock.{kind}"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/tubs/{tub_id}"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/tubs/{tub_id}/moves"): (COOK, "MOVE"),
    ("POST", "/api/k/{kitchen}/tubs/{tub_id}/promises"): (COOK, {"grams": 10, "dish": "trifle"}),
    ("DELETE", "/api/k/{kitchen}/tubs/{tub_id}/promises/{promise_id}"): (COOK, None),
    ("GET", "/api/k/{kitchen}/whites"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/labels"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/labels.pdf"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/closing"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/closing"): (COOK, "SIGNING"),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/trace"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/life"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/batches/{batch_id}/guests"): (VIEWER, None),
    ("PUT", "/api/k/{kitchen}/batches/{batch_id}/guests"): (COOK, {"vulnerable": True}),
    ("GET", "/api/k/{kitchen}/days"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/upcoming"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/days/{when}"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/days/{when}/plan"): (COOK, None),
    ("PATCH", "/api/k/{kitchen}/days/{when}/room"): (COOK, {"rings": 3}),
    ("POST", "/api/k/{kitchen}/days/{when}/hands"): (COOK, {"name": "helper", "there": [[480, 600]]}),
    ("PUT", "/api/k/{kitchen}/days/{when}/hands/{hands_id}"): (
        COOK,
        {"name": "pastry cook", "there": [[420, 1380]]},
    ),
    ("DELETE", "/api/k/{kitchen}/days/{when}/hands/{hands_id}"): (COOK, None),
    ("POST", "/api/k/{kitchen}/days/{when}/wants"): (COOK, {"formula_id": "FORMULA", "at": 1400}),
    ("PATCH", "/api/k/{kitchen}/days/{when}/wants/{want_id}"): (COOK, {"seen": 1, "covers": 2}),
    ("DELETE", "/api/k/{kitchen}/days/{when}/wants/{want_id}"): (COOK, None),
    ("POST", "/api/k/{kitchen}/days/{when}/others"): (COOK, {"name": "caramel", "minutes": 20}),
    ("PATCH", "/api/k/{kitchen}/days/{when}/others/{other_id}"): (COOK, {"seen": 1, "minutes": 25}),
    ("DELETE", "/api/k/{kitchen}/days/{when}/others/{other_id}"): (COOK, None),
    ("POST", "/api/k/{kitchen}/days/{when}/move"): (COOK, "MOVING"),
    ("POST", "/api/k/{kitchen}/days/{when}/steps"): (COOK, "DOING"),
    ("POST", "/api/k/{kitchen}/days/{when}/stove"): (COOK, "STOVE"),
    ("POST", "/api/k/{kitchen}/days/{when}/help"): (COOK, {"number": 0, "say": "A second ring."}),
    ("GET", "/api/k/{kitchen}/days/{when}/lists"): (VIEWER, None),
    ("PUT", "/api/k/{kitchen}/house"): (COOK, {"ingredient": "whole-milk", "amount": "2 l"}),
    ("GET", "/api/k/{kitchen}/days/{when}/after"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/days/{when}/copy"): (COOK, "COPY"),
    ("POST", "/api/k/{kitchen}/days/{when}/template"): (COOK, {"name": "a weekday"}),
    ("DELETE", "/api/k/{kitchen}/templates/{template_id}"): (COOK, None),
    ("GET", "/api/k/{kitchen}/days/{when}/day.json"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/days/{when}/day.json"): (CHEF, DAY_FILE),
    ("GET", "/api/k/{kitchen}/days/{when}/day.ics"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/calendar"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/calendar"): (CHEF, None),
    ("DELETE", "/api/k/{kitchen}/calendar"): (CHEF, None),
    ("GET", "/api/calendar/{secret}.ics"): (ANYONE, None),
    ("GET", "/api/k/{kitchen}/practice"): (VIEWER, None),
    ("GET", "/api/k/{kitchen}/practice/section"): (CHEF, None),
    ("GET", "/api/k/{kitchen}/practice/people/{person_id}"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/practice/attempts"): (VIEWER, "BEGINNING"),
    ("GET", "/api/k/{kitchen}/practice/attempts/{attempt_id}"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/practice/attempts/{attempt_id}/acts"): (
        VIEWER,
        {"after": 1, "acts": [{"at": 9, "do": "dip"}], "until": 9},
    ),
    ("POST", "/api/k/{kitchen}/practice/attempts/{attempt_id}/debrief"): (VIEWER, None),
    ("POST", "/api/k/{kitchen}/practice/attempts/{attempt_id}/again"): (VIEWER, "AGAIN"),
    ("POST", "/api/k/{kitchen}/practice/exercises"): (CHEF, {"formula_id": "FORMULA", "name": "ours"}),
    ("DELETE", "/api/k/{kitchen}/practice/exercises/{exercise_id}"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/practice/set"): (CHEF, "SETTING"),
    ("DELETE", "/api/k/{kitchen}/practice/set/{set_id}"): (CHEF, None),
    ("POST", "/api/k/{kitchen}/practice/sheets"): (CHEF, "SHEET"),
    ("GET", "/api/k/{kitchen}/practice/sheets/{sheet_id}"): (VIEWER, None),
    ("PUT", "/api/k/{kitchen}/practice/sheets/{sheet_id}"): (
        CHEF,
        {"marks": {"plate": "well"}, "revision": 1},
    ),
    ("GET", "/api/k/{kitchen}/practice/sheets/{sheet_id}/sheet.pdf"): (VIEWER, None),
}
RANK = [ANYONE, LOGGED_IN, VIEWER, COOK, CHEF, DEVICE, NOBODY_YET]
CONTRACT = json.loads((Path(__file__).parents[1] / "openapi.json").read_text())


def test_every_route_is_in_the_table():
    routes = {(method.upper(), path) for path, methods in CONTRACT["paths"].items() for method in methods}
    assert routes == set(TABLE)


@pytest.fixture
def tried(here, there, version, batch):
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
    other = stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))
    close(here["cook"], other, kept_g=300, whites_g=0)
    tub = Tub.objects.get(batch=other)
    promise = shelf.promise(here["cook"], tub.pk, NewPromise(grams=20, dish="tart"))
    reminder = book.remind(here["cook"], version.formula_id, "More yolk.")
    remedy = uuid.uuid4()
    trouble.take(here["cook"], Taking(id=remedy, batch_id=batch.pk, fault="too-thick"))
    taker = User.objects.create_user("here-helper", password=PASSWORD, title="helper")
    Membership.objects.create(user=taker, kitchen=here["chef"].kitchen, role=Role.COOK)
    hands.set_pin(taker, "2580")
    token = crew.new_token()
    invitation = crew.invite(here["chef"], "cook", "commis", token)
    Kitchen.objects.filter(slug="here").update(demo=True)
    closed = Kitchen.objects.create(slug="closed", name="Closed", demo=True, thrown_away_at=clock.now())
    for role, actor in here.items():
        Membership.objects.create(user=actor.user, kitchen=closed, role=role)
    bath = larder.add_cooler(here["chef"], "ice bath", "ice-bath")
    taken_off = larder.remove_cooler(here["chef"], bath.pk)
    planned = a_day(here["cook"], version.formula_id)
    practised = {str(actor.user.pk): practised_by(actor, here["chef"]) for actor in here.values()}
    secret = devices.new_token()
    beside.make_calendar(here["chef"], secret)

    def attempt(api: Api, route, kitchen="here"):
        method, path = route
        body = TABLE[route][1]
        if body == "MARK":
            body = mark()
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
            batch_id=batch.pk,
            mark_id=remedy if "remedies" in path else known["id"],
            reminder_id=reminder.pk,
            ingredient_id=own.pk,
            device_id=scale.pk,
            hob_id=hob.pk,
            pan_id=pan.pk,
            cooler_id=cooler.pk,
            vessel_id=vessel.pk,
            tub_id=tub.pk,
            promise_id=promise.pk,
            when=WHEN,
            secret=secret,
            slug="closed",
            taken_off_id=taken_off.key,
            token=token,
            member_id=taker.pk,
            invitation_id=invitation.pk,
            **planned["KEYS"],
            **mine["KEYS"],
            attempt_id=mine["over"] if path.endswith("/debrief") else mine["going"],
            kind="formula" if "export" in path else "csv",
        )
        if path.endswith("/compare"):
            url += f"?a={version.formula_id}&b={version.formula_id}"
        if path.endswith("/troubles"):
            url += f"?batch_id={batch.pk}"
        if "/labels" in path:
            url += f"?tub={tub.pk}"
        return api(method, url, body).status_code

    return attempt


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


GROUPS = 12
"""The kitchen that routes are tried in takes longer to make than any call: so many times it is made."""


@pytest.mark.parametrize("group", range(GROUPS))
def test_roles(tried, group):
    """Each finds everything as the one before found it: what a call changed is rolled back."""
    for route in list(TABLE)[group::GROUPS]:
        try:
            _roles(tried, route)
        except AssertionError as wrong:
            raise AssertionError(f"{' '.join(route)}: {wrong}") from wrong


def _roles(tried, route):
    needs = TABLE[route][0]
    for who in WHO:
        api = Api() if who == "nobody" else logged_in(f"here-{who}")
        status = undone(tried, api, route)
        if RANK.index(ANYONE if who == "nobody" else who) >= RANK.index(needs):
            assert status in (200, 201, 204) or route == ("POST", "/api/session"), who
        elif needs == DEVICE:
            assert status == 401, who
        elif needs == NOBODY_YET or route == BRING_BACK:
            assert status in (401, 403, 404), who
        else:
            assert status == (401 if who == "nobody" else 403), who
    if "{kitchen}" in route[1]:
        _kitchens_never_meet(tried, route)


def undone(tried, *call, **where):
    """What a call answers; what it changed is taken back."""
    with transaction.atomic():
        status = tried(*call, **where)
        transaction.set_rollback(True)
    return status


def _kitchens_never_meet(tried, route):
    """A chef of the other kitchen finds nothing here, nor these things in their own kitchen."""
    stranger = logged_in("there-chef")
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
