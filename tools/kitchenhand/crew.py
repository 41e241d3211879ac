"""The processes of `./spoon start`: what serves and what works, brought back when one dies."""

from __future__ import annotations

import contextlib
import math
import os
import signal
import subprocess
import threading
import time
from dataclasses import dataclass, field
from typing import Any

from kitchenhand import ordinary
from kitchenhand.cluster import Cluster
from kitchenhand.places import PYTHON, SERVER
from kitchenhand.say import Trouble, step
from kitchenhand.waiting import Door

LOOPBACK = "127.0.0.1"
SOON_S = 0.3
"""How often it is looked whether all still work."""
SPARE_AFTER_S = 10.0
"""How long after a worker has begun another one gets ready to take its place."""
MOST_DEATHS, DEATHS_WITHIN_S = 3, 60.0
GIVES_WAY = 75
"""The exit status of a process that has grown and asks to be started again; see `oldspoon.memory`."""


WORK = [str(PYTHON), "manage.py", "work"]
"""The process that follows open batches and does jobs."""


def web_command(port: int, listen: str = LOOPBACK) -> list[str]:
    """The process that serves."""
    return [str(PYTHON), "-m", "oldspoon.serve", str(port), listen]


@dataclass
class Process:
    """A running process of ours: how it was started, and what a person calls it."""

    command: list[str]
    name: str
    running: subprocess.Popen[bytes]


@dataclass
class Crew:
    """Our own processes. One that dies is started again, as is the database; three deaths end them all."""

    environment: dict[str, str]
    cluster: Cluster | None = None
    door: Door | None = None
    processes: list[Process] = field(default_factory=list)
    deaths: list[float] = field(default_factory=list)
    over: threading.Event = field(default_factory=threading.Event)
    spare: subprocess.Popen[bytes] | None = None
    spare_due: float = math.inf

    def take_on(self, command: list[str], *, web: bool = False) -> subprocess.Popen[bytes]:
        """Start one. With `web` it serves on our door, which it takes over once it answers."""
        made = self._open(command) if web and self.door is not None else self._run(command)
        self._add(command, made, web=web)
        return made

    def _add(self, command: list[str], made: subprocess.Popen[bytes], *, web: bool) -> None:
        self.processes.append(Process(command, "web server" if web else "worker", made))
        if command == WORK:
            # Not at once: whoever has just begun needs the processor more.
            self.spare_due = time.monotonic() + SPARE_AFTER_S

    def _run(self, command: list[str], **more: Any) -> subprocess.Popen[bytes]:
        # A session of its own, so that Ctrl-C in the terminal reaches us and we end them in order.
        return subprocess.Popen(
            ordinary.command(command), cwd=SERVER, env=self.environment, start_new_session=True, **more
        )

    def _open(self, command: list[str]) -> subprocess.Popen[bytes]:
        """Start what serves on our socket; once it answers, the waiting page gives way."""
        assert self.door is not None  # noqa: S101 only asked with one
        listening = self.door.socket.fileno()
        heard, says = os.pipe()
        made = self._run([*command, str(listening), str(says)], pass_fds=(listening, says))
        os.close(says)
        threading.Thread(target=self._give_way, args=(heard,), daemon=True).start()
        return made

    def _give_way(self, heard: int) -> None:
        with os.fdopen(heard, "rb") as pipe:
            if pipe.read(1) and self.door is not None:
                self.door.hand_over()

    def watch(self) -> None:
        """What dies is started again, until the end.

        Raises
        ------
        Trouble
            when processes die again and again.
        """
        while not self.over.is_set():
            if self.cluster is not None and not self.cluster.alive():
                step("the database died; it is started again")
                self.cluster.revive()
            for process in list(self.processes):
                if process.running.poll() is not None:
                    self._again(process)
            self._keep_a_spare()
            time.sleep(SOON_S)

    def _again(self, dead: Process) -> None:
        if dead.running.returncode == GIVES_WAY:
            step(f"the {dead.name} had grown; a fresh one takes its place")
            self._replace(dead)
            return
        now = time.monotonic()
        self.deaths = [at for at in self.deaths if now - at < DEATHS_WITHIN_S] + [now]
        if len(self.deaths) >= MOST_DEATHS:
            raise Trouble(
                f"The {dead.name} died with exit status {dead.running.returncode}. That was the third death "
                f"in a minute, so Old Spoon stops. What it printed is above; everything is kept."
            )
        step(f"the {dead.name} died; another takes its place")
        self._replace(dead)

    def _replace(self, dead: Process) -> None:
        self.processes.remove(dead)
        spare = self.spare if dead.command == WORK else None
        if spare is None or spare.poll() is not None:
            self.take_on(dead.command, web=dead.name == "web server")
            return
        self.spare = None
        assert spare.stdin is not None  # noqa: S101 opened with a pipe
        with contextlib.suppress(OSError), spare.stdin as says:
            says.write(b"begin\n")
        self._add(WORK, spare, web=False)

    def _keep_a_spare(self) -> None:
        """A worker that is ready to take the place of one that dies: alarms wait for nobody's start."""
        if time.monotonic() < self.spare_due:
            return
        if self.spare is not None and self.spare.poll() is None:
            return
        self._dismiss_spare()
        self.spare_due = time.monotonic() + SPARE_AFTER_S
        self.spare = self._run([*WORK, "--spare"], stdin=subprocess.PIPE)

    def _dismiss_spare(self) -> None:
        if self.spare is not None and self.spare.stdin is not None:
            with contextlib.suppress(OSError):
                self.spare.stdin.close()
            _end(self.spare)

    def end(self) -> None:
        """End all of them, gently first."""
        self.over.set()
        for process in self.processes:
            if process.running.poll() is None:
                process.running.terminate()
        self._dismiss_spare()
        for process in self.processes:
            _end(process.running)


def _end(server: subprocess.Popen[bytes]) -> None:
    if server.poll() is None:
        with contextlib.suppress(subprocess.TimeoutExpired):
            server.wait(timeout=8)
    if server.poll() is None:
        os.killpg(server.pid, signal.SIGKILL)
        server.wait()
