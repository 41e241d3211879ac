"""One caller of a running Old Spoon over HTTP, as a browser or a device is one."""

from __future__ import annotations

import http.client
import json
from dataclasses import dataclass, field
from typing import Any

UNAVAILABLE = 503
DEMO = "/api/k/tidemill-house"
"""Where the demo kitchen is answered for."""
DEMO_PASSWORD = "nappe-at-82"
"""That of everybody there; `./spoon start` prints it."""


@dataclass(frozen=True)
class Answer:
    """What came back; `retry_s` is after how long to ask again, where the server says so [s]."""

    status: int
    body: Any
    retry_s: float | None


@dataclass
class Client:
    """Somebody with a session, or a device with a token, over a connection made for each call.

    `address` is host and port, `more` headers of each call besides those of its session.
    """

    address: str
    token: str = ""
    cookies: dict[str, str] = field(default_factory=dict)
    timeout_s: float = 30.0
    more: dict[str, str] = field(default_factory=dict)

    def headers(self) -> dict[str, str]:
        """What goes with each call."""
        found = {"Content-Type": "application/json", "X-CSRFToken": self.cookies.get("csrftoken", "")}
        found |= self.more
        if self.token:
            found["Authorization"] = f"Bearer {self.token}"
        elif self.cookies:
            found["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        return found

    def call(self, method: str, path: str, body: object = None) -> Answer:
        """Ask once.

        Raises
        ------
        OSError, http.client.HTTPException
            when there is no answer.
        """
        connection = http.client.HTTPConnection(self.address, timeout=self.timeout_s)
        try:
            connection.request(method, path, None if body is None else json.dumps(body), self.headers())
            answer = connection.getresponse()
            text, headers = answer.read(), answer.getheaders()
        finally:
            connection.close()
        for name, value in headers:
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        wait = answer.getheader("Retry-After")
        is_json = (answer.getheader("Content-Type") or "").partition(";")[0].endswith("json")
        return Answer(
            answer.status, json.loads(text) if text and is_json else None, float(wait) if wait else None
        )

    def log_in(self, username: str, password: str) -> None:
        """Open a session."""
        self.call("GET", "/api/session")
        self.call("POST", "/api/session", {"username": username, "password": password})
