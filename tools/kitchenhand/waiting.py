"""The page that is shown from the first moment, until the application itself answers on the same socket."""

from __future__ import annotations

import errno
import html
import json
import socket
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

from kitchenhand.say import Trouble
from kitchenhand.steps import Progress

BACKLOG = 512
"""So many callers wait in line while nobody answers, as when the server is started again."""
WORDS = {"waiting": "to do", "running": "going on", "done": "done"}
PAGE = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Old Spoon is being set up</title>
<meta name="viewport" content="width=device-width, initial-scale=1"><meta http-equiv="refresh" content="1">
<style>
body {{ margin: 12vh auto; max-width: 34rem; padding: 0 1.5rem; background: #F8F3E6; color: #24211C;
  font: 1.125rem/1.5 "Atkinson Hyperlegible Next", sans-serif }}
h1 {{ font: 2.5rem/1.2 Fraunces, Georgia, serif }}
li {{ display: flex; justify-content: space-between; border-top: 1px solid #D8CFBB; padding: .5rem 0 }}
ul {{ list-style: none; padding: 0 }} .waiting {{ color: #6C6557 }} .running {{ color: #A6522A }}
</style></head><body><h1>Old Spoon is being set up</h1>
<p>{say} This page turns into the kitchen by itself.</p><ul>{steps}</ul></body></html>"""
FIRST = "The first start takes about two minutes; what is done is kept."
SOON = "Everything is here; it starts now."


class Door:
    """A listening socket that is ours from the first moment to the last.

    The waiting page answers on it first; server processes inherit it. A server that dies leaves its callers
    in line for the next one instead of refusing them.
    """

    def __init__(self, listen: str, port: int, progress: Progress) -> None:
        self.socket = _bound(listen, port)
        self.port: int = self.socket.getsockname()[1]
        self._page: ThreadingHTTPServer | None = _WaitingPage(self.socket, progress)
        self._thread = threading.Thread(target=self._page.serve_forever, args=(0.05,), daemon=True)
        self._thread.start()

    def hand_over(self) -> None:
        """Show the waiting page no longer: somebody else answers now."""
        if self._page is not None:
            self._page.shutdown()
            self._thread.join()
            self._page = None

    def close(self) -> None:
        """Listen no longer."""
        self.hand_over()
        self.socket.close()


def _bound(listen: str, port: int) -> socket.socket:
    """A socket that listens.

    Raises
    ------
    Trouble
        when the port is taken, or the address is not this machine's.
    """
    family = socket.AF_INET6 if ":" in listen else socket.AF_INET
    made = socket.socket(family, socket.SOCK_STREAM)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        made.bind((listen, port))
    except socket.gaierror:
        made.close()
        raise Trouble(f"{listen} is not an address of this machine.") from None
    except OSError as error:
        made.close()
        if error.errno == errno.EADDRNOTAVAIL:
            raise Trouble(f"{listen} is not an address of this machine.") from None
        raise Trouble(f"Port {port} is taken; choose another with --port.") from None
    made.listen(BACKLOG)
    return made


class _WaitingPage(ThreadingHTTPServer):
    """Answers every request with what is still to be set up."""

    daemon_threads = True

    def __init__(self, listening: socket.socket, progress: Progress) -> None:
        super().__init__(("", 0), _Answer, bind_and_activate=False)
        self.socket.close()
        self.socket = listening
        self.progress = progress

    def handle_error(self, request: Any, client_address: Any) -> None:
        """Somebody hung up: nothing to print."""


class _Answer(BaseHTTPRequestHandler):
    """The page for people, a short document for programs; both say that it is not ready yet."""

    server: _WaitingPage
    timeout = 5

    def do_GET(self) -> None:
        """Answer any request."""
        states = self.server.progress.states()
        pages = "text/html" in self.headers.get("Accept", "") or self.path == "/"
        body = _page(states) if pages else json.dumps({"setting-up": states})
        data = body.encode()
        self.send_response(503)
        self.send_header("Content-Type", "text/html; charset=utf-8" if pages else "application/json")
        self.send_header("Content-Length", str(len(data)))
        self.send_header("Retry-After", "2")
        self.send_header("Cache-Control", "no-store")
        self.send_header("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'")
        self.end_headers()
        if self.command != "HEAD":
            self.wfile.write(data)

    do_HEAD = do_POST = do_PUT = do_DELETE = do_PATCH = do_GET  # noqa: N815

    def log_message(self, format: str, *args: Any) -> None:
        """Nobody reads a log of these."""


def _page(states: dict[str, str]) -> str:
    rows = "".join(
        f'<li class="{state}"><span>{html.escape(name[0].upper() + name[1:])}</span>'
        f"<span>{WORDS[state]}</span></li>"
        for name, state in states.items()
    )
    busy = any(state != "done" for state in states.values())
    return PAGE.format(say=FIRST if busy else SOON, steps=rows)
