"""Two kitchens with everyone in them, and a client that logs in and speaks JSON."""

from __future__ import annotations

import json
import os
import secrets
import uuid
from typing import Any

import custard
import pgtrigger
import pytest
from book import actions as book
from book.models import FormulaVersion
from common import clock
from django.conf import settings
from django.db import connection
from django.db.models import QuerySet
from django.http import HttpResponse
from django.test import Client
from kitchen.access import Actor
from kitchen.models import Kitchen, Membership, Role
from papers import orders
from people.models import User
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from shelf import actions as shelf
from shelf.models import Tub
from shelf.schemas import Closing
from stove import actions as stove
from stove.live import follow
from stove.models import Batch, LiveState

PASSWORD = "whisked-not-stirred"
DECIDED = "read by hand, the chef was there"
ANGLAISE: dict[str, Any] = {
    "name": "Bay leaf anglaise",
    "family": "anglaise",
    "eggs": "EU-M",
    "measures": "metric",
    "lines": [
        {"ingredient": "whole-milk", "amount": "500 ml", "note": "two bay leaves"},
        {"ingredient": "egg-yolk", "amount": "6 yolks"},
        {"ingredient": "white-sugar", "amount": "90 g"},
    ],
}


class Api:
    """A browser's side of the API, with its CSRF token and its session."""

    def __init__(self) -> None:
        self.client = Client(enforce_csrf_checks=True, SERVER_NAME="localhost")
        self.client.cookies[settings.CSRF_COOKIE_NAME] = secrets.token_hex(16)

    def log_in(self, username: str, password: str = PASSWORD) -> HttpResponse:
        return self("POST", "/api/session", {"username": username, "password": password})

    def __call__(self, method: str, path: str, body: object = None) -> HttpResponse:
        token = self.client.cookies["csrftoken"].value
        return self.client.generic(
            method,
            path,
            "" if body is None else as_json(body),
            content_type="application/json",
            headers={"X-CSRFToken": token},
        )


@pytest.fixture(scope="session", autouse=True)
def own_files(tmp_path_factory: pytest.TempPathFactory) -> None:
    """What tests keep lies in a folder of their own."""
    settings.FILES, settings.ARCHIVES = (tmp_path_factory.mktemp(name) for name in ("files", "archives"))


def as_json(body: object) -> str:
    return body if isinstance(body, str | bytes) else json.dumps(body)


def draft(**changes: Any) -> dict[str, Any]:
    return {**ANGLAISE, **changes}


def with_line(index: int, **changes: Any) -> dict[str, Any]:
    lines = [dict(line) for line in ANGLAISE["lines"]]
    lines[index] |= changes
    return draft(lines=lines)


def mark(kind: str = "done", stage: str = "warm", **more: Any) -> dict[str, Any]:
    return {"id": str(uuid.uuid4()), "stage": stage, "kind": kind, "at": clock.now().isoformat(), **more}


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings_parallel_suffix) -> None:
    """The test database is a copy of one that has its tables already, where there is one."""
    template = os.environ.get("OLDSPOON_TEST_TEMPLATE")
    if template:
        connection.settings_dict["TEST"]["TEMPLATE"] = template


@pytest.fixture(autouse=True)
def quick_passwords(settings):
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


def make_kitchen(slug: str, name: str) -> dict[str, Actor]:
    kitchen = Kitchen.objects.create(slug=slug, name=name, altitude_m=12)
    actors = {}
    for role in Role:
        user = User.objects.create_user(
            f"{slug}-{role.value}", password=PASSWORD, title=f"{role.value} there"
        )
        Membership.objects.create(user=user, kitchen=kitchen, role=role)
        actors[role.value] = Actor(user, kitchen, role)
    return actors


@pytest.fixture
def here(db) -> dict[str, Actor]:
    return make_kitchen("here", "The kitchen here")


@pytest.fixture
def there(db) -> dict[str, Actor]:
    return make_kitchen("there", "The kitchen there")


def formula_of(content: dict[str, Any]) -> custard.Formula:
    return custard.read_formula({"format": "old-spoon/formula", "version": 1, **content})


@pytest.fixture
def version(here) -> FormulaVersion:
    return book.add(here["chef"], formula_of(ANGLAISE))


@pytest.fixture
def batch(here, version) -> Batch:
    return stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))


def settle():
    """What happens as a transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute("SET CONSTRAINTS ALL DEFERRED")


def past_the_triggers(sql, *values):
    """As somebody does who owns the database and means harm."""
    with connection.cursor() as cursor:
        cursor.execute("SET session_replication_role = replica")
        cursor.execute(sql, values)
        cursor.execute("SET session_replication_role = DEFAULT")


def rewrite(rows: QuerySet[Any], **values: Any) -> None:
    """Write what is written once, as if the rows had been made so: an hour ago, in a demo."""
    with pgtrigger.ignore("stove.Batch:frozen", "stove.ProbeUse:frozen", "kitchen.Kitchen:frozen"):
        rows.update(**values)


def close(actor: Actor, batch: Batch, **closing: Any) -> None:
    """Close a batch as somebody does, good unless said otherwise."""
    shelf.decide(actor, batch.pk, DECIDED)
    shelf.close(actor, batch.pk, Closing.model_validate({"verdict": "good", **closing}))


def work_off() -> int:
    """Do what a worker would: every job that was asked for, and every batch that is due. How many jobs."""
    jobs = list(ProcrastinateJob.objects.filter(status="todo").order_by("id"))
    for job in jobs:
        app.tasks[job.task_name](**job.args)
    ProcrastinateJob.objects.filter(pk__in=[job.pk for job in jobs]).update(status="succeeded")
    for state in LiveState.objects.filter(due_at__lte=clock.now()):
        follow.compute(state.batch_id, state.due_at)
    return len(jobs)


def printed(api: Api, path: str) -> Any:
    """The answer to a paper that is asked for, once a worker has set it."""
    answer = api("GET", path)
    if answer.status_code != 202:
        return answer
    work_off()
    return api("GET", answer["Location"])


@pytest.fixture(autouse=True)
def no_worker_is_waited_for(monkeypatch: pytest.MonkeyPatch) -> None:
    """No request waits for a worker: here it works when it is asked to."""
    monkeypatch.setattr(orders, "WAIT_S", 0.0)


def by_password(username: str) -> Api:
    api = Api()
    assert api.log_in(username).status_code == 200
    return api


def person(username: str) -> User:
    return User.objects.get(username=username)


def logged_in(username: str) -> Api:
    """Somebody who has logged in already; logging in has tests of its own."""
    api = Api()
    api.client.force_login(User.objects.get(username=username), settings.AUTHENTICATION_BACKENDS[-1])
    return api


@pytest.fixture
def chef(here) -> Api:
    return logged_in("here-chef")


@pytest.fixture
def cook(here) -> Api:
    return logged_in("here-cook")


def put(api: Api, batch: Batch, **closing: Any) -> Tub | None:
    """Close a batch over the API, of which somebody decided that it may be used; the tub it was put into."""
    path = f"/api/k/here/batches/{batch.pk}"
    assert api("POST", f"{path}/decision", {"reason": DECIDED}).status_code == 200
    answer = api("POST", f"{path}/close", {"verdict": "good", **closing})
    assert answer.status_code == 200, answer.content
    return Tub.objects.filter(batch=batch, what="sauce").first()


def do(api: Api, tub: Tub, kind: str, **more: Any) -> HttpResponse:
    """Do something with a tub over the API."""
    body = {"id": str(uuid.uuid4()), "kind": kind, **more}
    return api("POST", f"/api/k/here/tubs/{tub.pk}/moves", body)


@pytest.fixture
def tub(cook, batch):
    return put(cook, batch, kept_g=600)
