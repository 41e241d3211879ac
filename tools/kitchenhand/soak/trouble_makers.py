"""What goes wrong during a soak: processes are killed, the network is cut, the disk fills up."""

from __future__ import annotations

import contextlib
import http.client
import os
import signal
import threading
import time
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from kitchenhand.client import Client
from kitchenhand.crew import Crew
from kitchenhand.say import Trouble, step
from kitchenhand.soak.ledger import Ledger
from kitchenhand.soak.wire import Wire

WORKER, WEB, DATABASE = "worker", "web server", "database"
PATIENCE_S = 90.0
LOOK_S = 0.02
FULL_S, CUT_S = 15.0, 30.0
BLOCK = b"\0" * (1 << 20)


@dataclass
class TroubleMaker:
    """Breaks things one after another, and keeps how long each was gone [s]."""

    crew: Crew
    ledger: Ledger
    wire: Wire
    direct: Client
    gone_s: dict[str, list[float]] = field(default_factory=lambda: defaultdict(list))

    def kill(self, name: str) -> None:
        """`kill -9` of one of the three, then wait until it works again."""
        step(f"soak: {name} is killed")
        pid = self._pid(name)
        began = time.monotonic()
        os.kill(pid, signal.SIGKILL)
        back = {WORKER: self._worker_back, WEB: self._web_back, DATABASE: self._database_back}[name]
        back(pid, began)

    def _pid(self, name: str) -> int:
        if name == DATABASE:
            assert self.crew.cluster is not None  # noqa: S101 a soak has its own
            data = self.crew.cluster.folder / "data"
            return int((data / "postmaster.pid").read_text().split("\n", 1)[0])
        return next(one.running.pid for one in self.crew.processes if one.name == name)

    def _worker_back(self, pid: int, began: float) -> None:
        self._wait(WORKER, "another process", lambda: self._other(WORKER, pid), began)
        # Its sign of life is one of the first things that a worker writes.
        since = self._sql("SELECT now()")
        signed = f"SELECT count(*) FROM stove_livestate WHERE computed_at > '{since}'"  # noqa: S608
        self._wait(WORKER, "follows batches again", lambda: self._sql(signed) not in ("", "0"), began)

    def _web_back(self, pid: int, began: float) -> None:
        self._wait(WEB, "another process", lambda: self._other(WEB, pid), began)
        self._wait(WEB, "answers", self._answers, began)

    def _database_back(self, pid: int, began: float) -> None:
        self._wait(DATABASE, "gone", lambda: not Path(f"/proc/{pid}").exists(), began)
        self._wait(DATABASE, "answers", lambda: self._sql("SELECT 1") == "1", began)
        back, before = time.monotonic(), self.ledger.count()
        self._wait(DATABASE, "to the first write after that", lambda: self.ledger.count() > before, back)

    def _other(self, name: str, pid: int) -> bool:
        return any(one.name == name and one.running.pid != pid for one in list(self.crew.processes))

    def _answers(self) -> bool:
        with contextlib.suppress(OSError, http.client.HTTPException, ValueError):
            return self.direct.call("GET", "/health/alive").status == 200
        return False

    def _sql(self, text: str) -> str:
        """What the database says, or nothing while it does not answer."""
        assert self.crew.cluster is not None  # noqa: S101 a soak has its own
        with contextlib.suppress(Trouble):
            return self.crew.cluster.sql("oldspoon", text).strip()
        return ""

    def _wait(self, name: str, what: str, so: Callable[[], bool], began: float) -> None:
        while not so():
            if time.monotonic() - began > PATIENCE_S:
                raise Trouble(f"The {name} was killed, and within {PATIENCE_S:.0f} s not: {what}.")
            time.sleep(LOOK_S)
        self.gone_s[f"{name}: {what}"].append(time.monotonic() - began)

    def cut_the_network(self, stop: threading.Event) -> None:
        """No client reaches the server for half a minute."""
        step(f"soak: the network is cut for {CUT_S:.0f} s")
        self.wire.cut()
        stop.wait(CUT_S)
        self.wire.mend()

    def fill_the_disk(self, disk: Path, stop: threading.Event) -> None:
        """The disk of the database is full for a while."""
        step(f"soak: the disk is full for {FULL_S:.0f} s")
        filling = disk / "filling"
        try:
            with contextlib.suppress(OSError), filling.open("wb", buffering=0) as out:
                while True:
                    out.write(BLOCK)
            stop.wait(FULL_S)
        finally:
            filling.unlink(missing_ok=True)
