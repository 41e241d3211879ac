"""The server as everyone runs it: uvicorn, on loopback unless told otherwise. When it stops, the screens that
listen are let go.

python -m oldspoon.serve PORT [ADDRESS [SOCKET READY]]

SOCKET is the number of an inherited socket that listens already, READY that of a pipe to which a byte is
written once requests are answered.
"""

from __future__ import annotations

import contextlib
import gc
import os
import socket
import sys
from types import FrameType

import uvicorn

# Nothing of what is loaded now is ever garbage: looking for some would take a fifth of the time.
gc.disable()

from oldspoon.asgi import answering, application, warm  # noqa: E402 first, as it makes Django ready for the others

from django.conf import settings  # noqa: E402  # isort: skip
from oldspoon import memory  # noqa: E402  # isort: skip
from stove.live.events import end_all_listening  # noqa: E402  # isort: skip

import oldspoon.urls  # noqa: E402, F401  # isort: skip  every route, before the first request asks for it

gc.enable()
gc.freeze()
GRACE_S = 3
SWITCH_S = 0.0005


class Server(uvicorn.Server):
    """A server that does not wait for those who would listen for ever."""

    ready: int | None = None
    """A pipe to write to once requests are answered."""
    gives_way = False
    """Whether it ends so that another takes its place."""

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        """Begin to answer, and say so to whoever started us."""
        await super().startup(sockets)
        warm()
        if self.ready is not None and self.started:
            os.write(self.ready, b"1")
            os.close(self.ready)

    def give_way(self) -> None:
        """Stop gently, and ask to be started again."""
        self.gives_way = True
        end_all_listening()
        self.should_exit = True

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Stop, at the first signal gently."""
        end_all_listening()
        super().handle_exit(sig, frame)


def serve(
    port: int, listen: str = "127.0.0.1", inherited: int | None = None, ready: int | None = None
) -> None:
    """Serve until told to stop, on a port or on an inherited socket that listens already."""
    # Whose word on where a request comes from is taken: nobody's, unless the operator names them.
    trusted = os.environ.get("OLDSPOON_TRUSTED_PROXIES", "")
    config = uvicorn.Config(
        application,
        host=listen,
        port=port,
        log_level="warning",
        server_header=False,
        proxy_headers=bool(trusted),
        forwarded_allow_ips=trusted or None,
        timeout_graceful_shutdown=GRACE_S,
    )
    # Threads that compute hand Python's lock on sooner, so that a quick read need not wait for it.
    sys.setswitchinterval(SWITCH_S)
    server = Server(config)
    server.ready = ready
    sockets = None if inherited is None else [socket.socket(fileno=inherited)]
    memory.watch(settings.WEB_MB, lambda: answering.under_way == 0, server.give_way)
    with contextlib.suppress(KeyboardInterrupt):
        server.run(sockets)
    if server.gives_way:
        sys.exit(memory.GIVES_WAY)


if __name__ == "__main__":
    port, address, *numbers = (*sys.argv[1:], "127.0.0.1")[: max(2, len(sys.argv) - 1)]
    serve(int(port), address, *map(int, numbers))
