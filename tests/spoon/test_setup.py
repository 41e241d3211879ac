"""Setting up side by side, the page that is shown meanwhile, and what pip is set to handed to uv."""

from __future__ import annotations

import http.client
import json
import socket
import threading
import time
from contextlib import closing
from pathlib import Path

import pytest
from kitchenhand import cluster, packages, related
from kitchenhand.say import Trouble
from kitchenhand.steps import Progress, Step, run_together
from kitchenhand.waiting import Door


def test_what_does_not_need_another_runs_beside_it_and_the_rest_after():
    both, done = threading.Barrier(2, timeout=5), []
    run_together(
        [
            Step("whisk", lambda: (both.wait(), done.append("whisk"))),
            Step("warm", lambda: (both.wait(), done.append("warm"))),
            Step("temper", lambda: done.append("temper"), ("whisk", "warm")),
        ]
    )
    assert sorted(done[:2]) == ["warm", "whisk"]
    assert done[2:] == ["temper"]


def test_a_step_that_fails_is_named_with_how_to_go_on_and_what_runs_is_let_end(capsys):
    done, fails = [], threading.Event()

    def fail() -> None:
        fails.set()
        raise Trouble("the milk is off")

    def go_on() -> None:
        fails.wait(5)
        time.sleep(0.05)
        done.append("whisk")

    steps = [
        Step("warm", fail),
        Step("whisk", go_on),
        Step("temper", lambda: done.append("temper"), ("warm",)),
    ]
    with pytest.raises(Trouble, match=r"(?s)stopped at “warm”.*start again.*the milk is off"):
        run_together(steps)
    assert done == ["whisk"]
    assert "“warm” failed; “whisk” still ends" in capsys.readouterr().out


def test_what_is_no_trouble_of_ours_is_raised_as_it_is():
    with pytest.raises(ZeroDivisionError):
        run_together([Step("share out", lambda: 1 // 0)])


@pytest.fixture
def door():
    progress = Progress()
    progress.set("Python packages", "done")
    progress.set("the front end", "running")
    made = Door("127.0.0.1", cluster.free_port(), progress)
    yield made
    made.close()


def asked(port: int, path: str = "/", accept: str = "text/html") -> tuple[int, str]:
    with closing(http.client.HTTPConnection("127.0.0.1", port, timeout=5)) as connection:
        connection.request("GET", path, headers={"Accept": accept})
        answer = connection.getresponse()
        return answer.status, answer.read().decode()


def test_a_page_says_at_once_what_is_still_set_up(door):
    began = time.monotonic()
    status, page = asked(door.port)
    assert time.monotonic() - began < 1
    assert status == 503
    assert "The front end</span><span>going on" in page
    assert "Python packages</span><span>done" in page
    status, text = asked(door.port, "/health/ready", "application/json")
    assert (status, json.loads(text)["setting-up"]["the front end"]) == (503, "running")


def test_callers_wait_in_line_once_the_page_has_given_way(door):
    door.hand_over()
    with socket.create_connection(("127.0.0.1", door.port), timeout=5) as caller:
        caller.sendall(b"GET / HTTP/1.0\r\n\r\n")
        taken, _ = door.socket.accept()
        with taken:
            assert taken.recv(100).startswith(b"GET /")


@pytest.mark.parametrize(
    ("listen", "said"), [("10.255.255.1", "not an address of this machine"), ("nowhere.invalid", "not an")]
)
def test_an_address_that_is_not_ours_is_refused(listen, said):
    with pytest.raises(Trouble, match=said):
        Door(listen, cluster.free_port(), Progress())


LISTED = """
global.index-url='https://one.example/simple'
global.extra-index-url='file:///a/simple\\nfile:///b/simple'
global.find-links='/wheels'
install.index-url='https://two.example/simple'
download.index-url='https://three.example/simple'
:env:.cert='/etc/certificates.crt'
:env:.disable-pip-version-check='1'
:env:.no-index='0'
global.constraint='/etc/a.txt /etc/b.txt'
"""


def test_what_pip_is_set_to_is_handed_to_uv():
    assert packages.for_uv(packages.read_settings(LISTED)) == {
        "UV_DEFAULT_INDEX": "https://two.example/simple",
        "UV_INDEX": "file:///a/simple file:///b/simple",
        "UV_INDEX_STRATEGY": "unsafe-best-match",
        "UV_FIND_LINKS": "/wheels",
        "SSL_CERT_FILE": "/etc/certificates.crt",
        "UV_CONSTRAINT": "/etc/a.txt /etc/b.txt",
    }


def test_a_setting_that_uv_does_not_know_goes_to_pip(monkeypatch, capsys):
    ran = []
    monkeypatch.setattr(packages, "pip_settings", lambda: {"keyring-provider": "subprocess"})
    monkeypatch.setattr(packages, "run_pip", lambda words, what: ran.append([str(word) for word in words]))
    packages.install(Path("requirements.txt"), "installing")
    assert ran == [["--require-hashes", "-r", "requirements.txt"]]
    assert "“keyring-provider”, which uv does not know; pip installs instead" in capsys.readouterr().out


def test_where_uv_fails_pip_is_asked(monkeypatch, capsys):
    ran = []

    def fail(words, what):
        raise Trouble("no such package")

    monkeypatch.setattr(packages, "run_uv", fail)
    monkeypatch.setattr(packages, "run_pip", lambda words, what: ran.append(what))
    packages.install(Path("requirements.txt"), "installing")
    assert ran == ["installing"]
    assert "pip installs instead" in capsys.readouterr().out


def test_a_changed_file_finds_its_tests_the_nearest_first():
    found = related.related([Path("core/src/custard/planning/greedy.py")])
    assert Path("core/tests/planning/test_seeded_days.py") in found
    assert Path("server/tests/day/test_planned.py") in found
    assert found.index(Path("core/tests/planning/test_small_days.py")) < found.index(
        Path("server/tests/test_shelf.py")
    )
    own = Path("server/tests/test_labels.py")
    assert related.related([own]) == [own]
    assert related.related([Path("web/src/main.tsx")]) == []
