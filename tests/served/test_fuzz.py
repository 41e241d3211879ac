"""Every route, in every role, with what the contract allows and with what it does not, on what is there.

Whatever is sent, nothing breaks (no 5xx), and whatever is answered stands in the contract, as it is said
there.
OLDSPOON_FUZZ says how many calls are made, OLDSPOON_SEED which; `./spoon fuzz` sets both. What was answered
is printed at the end.
"""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import random
import uuid
import warnings
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlencode

import hypothesis
import schemathesis
from house import House, K, Person
from hypothesis import HealthCheck, Phase
from jsonschema_rs import Draft202012Validator, ValidationError
from schemathesis import GenerationMode

CONTRACT = json.loads((Path(__file__).parents[2] / "server/openapi.json").read_text())
CALLS = int(os.environ.get("OLDSPOON_FUZZ", "200"))
SEED = int(os.environ.get("OLDSPOON_SEED", "1"))
ROLES = {"pastry": 8, "trainee": 3, "guest": 2, "nobody": 1, "probe": 2, "scale": 1}
"""Who asks, and how often: mostly those who may."""
ROUND = 15
"""At most so many cases of a route at a time, as it should be and as it should not."""
READ_WHOLE = 2_000_000
LARGE_BODY = 1_000_000
"""Only what is larger may be cut off without an answer that can be read."""
LISTENS = "/events"
LEFT_OUT = {("DELETE", "/api/session"), ("DELETE", "/api/me/sessions")}
"""Logging out is tried where somebody is not needed any more."""
ENDS = {
    ("POST", "/api/k/{kitchen}/throw-away"),
    ("PATCH", "/api/k/{kitchen}/people/{member_id}"),
    ("DELETE", "/api/k/{kitchen}/people/{member_id}"),
}
"""What would end the house for all others is asked by those who may not."""
MAY_NOT = ("trainee", "guest", "nobody", "probe")


class Fuzzer:
    """Sends what was made up, as somebody, and holds the answers against the contract."""

    def __init__(self, house: House, port: int) -> None:
        self.port, self.answers, self.wrong = port, Counter[int](), []
        chef = Person(port)
        batch = chef.batch()["id"]
        row = chef("GET", f"{K}/formulas")["lines"][0]
        made = {
            kind: chef("POST", f"{K}/devices", {"name": kind, "kind": kind}) for kind in ("probe", "scale")
        }
        hearth = chef("GET", f"{K}/hearth")
        mark = chef.mark(batch)
        self.real: dict[str, list[Any]] = {
            "kitchen": ["tidemill-house"],
            "batch_id": [batch, 1, 2],
            "formula_id": [row["id"], 2, 3],
            "number": [1, 2],
            "device_id": [one["id"] for one in made.values()],
            "hob_id": [hob["id"] for hob in hearth["hobs"]],
            "pan_id": [pan["id"] for pan in hearth["pans"]],
            "mark_id": [mark["id"], str(uuid.uuid4())],
        }
        self.headers = {
            role: Person(port, role).headers() if role in ("pastry", "trainee", "guest") else {}
            for role in ROLES
        }
        for kind, one in made.items():
            self.headers[kind] = {"Authorization": f"Bearer {one['token']}"}

    def send(self, case: Any, role: str, dice: random.Random) -> None:
        path = case.path
        for name, value in (case.path_parameters or {}).items():
            # Mostly something that is there: what is not is 404 before anything happens.
            chosen = dice.choice(self.real[name]) if name in self.real and dice.random() < 0.8 else value
            path = path.replace(f"{{{name}}}", quote(str(chosen), safe=""))
        if case.query:
            path += "?" + urlencode(
                [(k, v) for k, vs in case.query.items() for v in (vs if isinstance(vs, list) else [vs])]
            )
        has_body = "requestBody" in case.operation.definition.raw
        body = json.dumps(case.body) if has_body and not isinstance(case.body, bytes) else None
        headers = {"Content-Type": "application/json", **self.headers[role]}
        with closing(http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)) as connection:
            # A body beyond the limit is answered before it is sent whole, and the line is cut.
            with contextlib.suppress(BrokenPipeError, ConnectionResetError):
                connection.request(case.method, path, body.encode() if body else None, headers)
            try:
                answer = connection.getresponse()
                text = answer.read(READ_WHOLE)
            except (ConnectionResetError, http.client.RemoteDisconnected):
                assert body is not None, (case.method, path)
                assert len(body) > LARGE_BODY, (case.method, path)
                self.answers[413] += 1
                return
        self.answers[answer.status] += 1
        said = _against_contract(case.operation, answer.status, answer.getheader("Content-Type", ""), text)
        if said:
            self.wrong.append(
                f"{role} {case.method} {path} {body!r:.300}: {answer.status} {said} {text!r:.300}"
            )


def _against_contract(operation: Any, status: int, kind: str, text: bytes) -> str:
    """What an answer is that the contract does not say, or nothing."""
    if status >= 500:
        return "broke"
    documented = operation.definition.raw["responses"].get(str(status))
    if documented is None:
        if status not in refusals(operation):
            return "is no refusal of this route's"
        documented = CONTRACT["components"]["responses"]["Problem"]
    content = documented.get("content")
    if not content:
        return ""
    (wanted, how), *_ = content.items()
    if not kind.startswith(wanted):
        return f"is {kind}, not {wanted}"
    try:
        _validator(how["schema"]).validate(json.loads(text))
    except (ValueError, ValidationError) as error:
        return f"is not as the contract says: {error!s:.200}"
    return ""


def refusals(operation: Any) -> set[int]:
    """The statuses that a route may refuse with, by its shape; the contract names them for all at once."""
    raw, path = operation.definition.raw, operation.path
    has_body = "requestBody" in raw
    # Whatever is asked: the request cannot be read, or the database is away.
    found = {400, 503}
    if raw.get("security") or path.endswith("/session"):
        found |= {401, 403}
    if raw.get("parameters") or has_body:
        found.add(422)
    if "{" in path:
        found.add(404)
    if operation.method.lower() != "get":
        # Someone was faster; more was sent than is read at once.
        found |= {403, 409, 413}
    # A question that is computed in turn may be one too many, and so may be a log-in, or a paper to be set.
    in_turn = has_body or "/pours" in path or "/remedies" in path or path.endswith("/compare")
    if in_turn or "202" in raw["responses"]:
        found.add(429)
    return found


_validators: dict[str, Draft202012Validator] = {}


def _validator(schema: dict[str, Any]) -> Draft202012Validator:
    key = json.dumps(schema)
    if key not in _validators:
        _validators[key] = Draft202012Validator(
            {**schema, "components": CONTRACT["components"]}, validate_formats=False
        )
    return _validators[key]


def operations() -> Iterator[Any]:
    """Every route but the one that never ends, and those that log out."""
    schema = schemathesis.openapi.from_dict(CONTRACT)
    for found in schema.get_all_operations():
        operation = found.ok()
        if not operation.path.endswith(LISTENS) and _route(operation) not in LEFT_OUT:
            yield operation


def _route(operation: Any) -> tuple[str, str]:
    return operation.method.upper(), operation.path


def made_up(operation: Any, mode: GenerationMode, most: int, seed: int, use: Callable[[Any], None]) -> None:
    """Hand on so many made-up cases of a route."""

    @hypothesis.seed(seed)
    @hypothesis.settings(
        max_examples=most,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @hypothesis.given(case=operation.as_strategy(generation_mode=mode))
    def each(case: Any) -> None:
        use(case)

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        each()


def test_nothing_that_is_sent_breaks_it_and_every_answer_is_in_the_contract(house, port, record_property):
    house.forgive()
    fuzzer, dice = Fuzzer(house, port), random.Random(SEED)
    routes = list(operations())
    dice.shuffle(routes)
    # Few calls go to some of the routes, in one way each; many to all of them, in both ways, again and again.
    each = min(ROUND, max(1, CALLS // (2 * len(routes))))
    ways = [GenerationMode.POSITIVE, GenerationMode.NEGATIVE]

    def send(case: Any) -> None:
        ends = _route(case.operation) in ENDS
        role = dice.choice(MAY_NOT) if ends else dice.choices(list(ROLES), ROLES.values())[0]
        fuzzer.send(case, role, dice)

    rounds, asked = 0, set[tuple[str, str]]()
    while fuzzer.answers.total() < CALLS:
        for number, operation in enumerate(routes):
            for mode in ways if 2 * len(routes) <= CALLS else ways[number % 2 :][:1]:
                if fuzzer.answers.total() >= CALLS:
                    break
                asked.add(_route(operation))
                # What cannot be wrong has no wrong cases.
                with contextlib.suppress(hypothesis.errors.Unsatisfiable):
                    made_up(operation, mode, each, SEED + rounds, send)
        rounds += 1
    said = ", ".join(f"{count} × {status}" for status, count in sorted(fuzzer.answers.items()))
    record_property(
        "told", f"{fuzzer.answers.total()} calls to {len(asked)} routes in {len(ROLES)} roles: {said}"
    )
    house.forgive()
    assert fuzzer.wrong == [], "\n".join(fuzzer.wrong[:20])
