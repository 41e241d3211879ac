"""The run: set up, people, trouble, the count."""

from __future__ import annotations

import contextlib
import os
import platform
import random
import secrets
import subprocess
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date
from pathlib import Path

from kitchenhand import machine, serve
from kitchenhand.client import Client
from kitchenhand.cluster import Cluster, Role, open_cluster
from kitchenhand.crew import LOOPBACK, WORK, Crew, web_command
from kitchenhand.places import VAR
from kitchenhand.say import Trouble, step
from kitchenhand.soak import people, proof
from kitchenhand.soak.ledger import Ledger
from kitchenhand.soak.memory import Memory
from kitchenhand.soak.trouble_makers import DATABASE, WEB, WORKER, TroubleMaker
from kitchenhand.soak.wire import Wire
from kitchenhand.waiting import Door

COOKS, SCREENS, THINKERS = 10, 30, 2
ROUND_S = 120.0
"""Each process is killed once in such a round, evenly apart."""
DISK_MB = 3000
FLAT = 0.1
SETTLE_S = 20.0


@dataclass
class House:
    """A demo kitchen of its own, served as `./spoon start` serves it."""

    cluster: Cluster
    crew: Crew
    disk: Path | None
    died: list[str]

    @contextlib.contextmanager
    def watched(self) -> Iterator[None]:
        """What dies is brought back while the block runs, as under `./spoon start`; why that was given up is
        kept."""

        def watch() -> None:
            try:
                self.crew.watch()
            except Trouble as trouble:
                self.died.append(str(trouble))

        watching = threading.Thread(target=watch, daemon=True)
        watching.start()
        try:
            yield
        finally:
            # Whoever still brings something back must be done before all is ended.
            self.crew.over.set()
            watching.join()


@contextlib.contextmanager
def house() -> Iterator[House]:
    """A demo kitchen that runs while the block runs, and is gone afterwards."""
    name = f"soak-{secrets.token_hex(3)}"
    with _disk(VAR / "postgres" / name) as disk:
        cluster = open_cluster(name)
        cluster.start()
        door = Door(LOOPBACK, 0, machine.progress)
        crew = Crew(serve.served(cluster, Role.SERVING), cluster, door)
        try:
            serve.prepare(cluster, empty=False)
            serve.wait_for(door.port, crew.take_on(web_command(door.port), web=True))
            crew.take_on(WORK)
            here = House(cluster, crew, disk, [])
            with here.watched():
                yield here
        finally:
            crew.end()
            door.close()
            cluster.remove()


@contextlib.contextmanager
def _disk(folder: Path) -> Iterator[Path | None]:
    """A disk of the database's own that can be filled; None where none can be mounted."""
    folder.mkdir(parents=True)
    size = f"size={DISK_MB}m,mode=0755"
    mounted = (
        os.geteuid() == 0
        and not subprocess.run(["mount", "-t", "tmpfs", "-o", size, "tmpfs", folder], check=False).returncode
    )
    try:
        yield folder if mounted else None
    finally:
        if mounted:
            subprocess.run(["umount", folder], check=False)
        with contextlib.suppress(OSError):
            folder.rmdir()


def run(minutes: float) -> int:
    """Soak for that long and print the table; 0 when every promise was kept."""
    machine.ensure(tests=False)
    with house() as here:
        crew = here.crew
        assert crew.door is not None  # noqa: S101 opened above
        wire, ledger, stop = Wire(crew.door.port), Ledger(), threading.Event()
        trouble = TroubleMaker(crew, ledger, wire, Client(f"{LOOPBACK}:{crew.door.port}"))
        memory = Memory(crew, stop)
        threading.Thread(target=memory.watch, daemon=True).start()
        everyone = list(_begin(f"{LOOPBACK}:{wire.port}", ledger, stop))
        try:
            _break_things(trouble, here, minutes * 60.0)
            time.sleep(SETTLE_S)
        finally:
            stop.set()
            for one in everyone:
                one.join(60.0)
            wire.close()
        return _report(here, ledger, trouble, memory, minutes)


def _begin(address: str, ledger: Ledger, stop: threading.Event) -> Iterator[threading.Thread]:
    """Let everybody begin."""
    roles: list[tuple[str, int, Callable[[people.Person], None]]] = [
        ("cooks", COOKS, people.cook),
        ("screens", SCREENS, people.screen),
        ("heavy questions", THINKERS, people.thinker),
        ("the chef's edits", 1, people.chef),
    ]
    for name, many, work in roles:
        for number in range(many):
            dice = random.Random(f"{name} {number}")  # noqa: S311 a rehearsal, not a secret
            one = people.Person(name, Client(address), ledger, stop, dice)
            yield (made := threading.Thread(target=one.run, args=(work,), daemon=True))
            made.start()
            time.sleep(0.2)


def _break_things(trouble: TroubleMaker, here: House, seconds: float) -> None:
    """Kills in turn until the time is over; the network is cut after a third, the disk full after two."""
    began, still = time.monotonic(), threading.Event()
    cut, full = seconds / 3.0, 2.0 * seconds / 3.0
    turn, names = 0, (WORKER, WEB, DATABASE)
    while (passed := time.monotonic() - began) < seconds and not here.died:
        if passed > cut:
            trouble.cut_the_network(still)
            cut = seconds
        if passed > full:
            if here.disk is None:
                step("soak: no disk can be mounted here (it needs root), so none is filled")
            else:
                trouble.fill_the_disk(here.disk, still)
            full = seconds
        due = began + (turn + 1) * ROUND_S / len(names)
        still.wait(max(0.0, min(due, began + seconds) - time.monotonic()))
        if time.monotonic() - began < seconds:
            trouble.kill(names[turn % len(names)])
            turn += 1


def _report(here: House, ledger: Ledger, trouble: TroubleMaker, memory: Memory, minutes: float) -> int:
    """Print what came of it."""
    kept = True

    def say(good: bool, text: str) -> None:
        nonlocal kept
        kept = kept and good
        print(f"  {'held ' if good else 'FAILED'} {text}", flush=True)

    print(
        f"\n{date.today()}, {minutes:g} min, {os.cpu_count()} cores, {platform.machine()}: "
        f"{COOKS} live batches, {SCREENS} screens, {THINKERS} people with heavy questions, one who edits"
    )
    say(not here.died, "Old Spoon went on" if not here.died else here.died[0])
    for kind, sent, gone in proof.lost(here.cluster, ledger):
        say(gone == 0 and sent > 0, f"{kind}s: {sent} acknowledged, {gone} lost")
    many, twice, missing = proof.alarms(here.cluster, ledger)
    say(
        twice == 0 and missing == 0,
        f"alarms: {many}, {twice} twice, {missing} missing of {len(ledger.batches)} batches held too hot",
    )
    say(_verified(here.cluster), "verify: every record as it was written")
    said = ", ".join(f"{count} × {status}" for status, count in sorted(ledger.answers.items()))
    say(not ledger.wrong, f"answers: {said}")
    for what, count in (ledger.wrong + ledger.refused).most_common():
        print(f"         {count} × {what}")
    for name in (WEB, WORKER):
        first, second = memory.medians_mb(name)
        flat = second <= first * (1.0 + FLAT)
        say(flat, f"memory of the {name}: {first:.0f} MB in the first half, {second:.0f} MB in the second")
    for who in ("cooks", "probes", "screens", "heavy questions", "the chef's edits"):
        median, most, longest = ledger.quantiles_s(who)
        print(f"         {who}: median {median:.2f} s, 95 % within {most:.2f} s, longest {longest:.1f} s")
    for what, took in sorted(trouble.gone_s.items()):
        took.sort()
        middle = took[len(took) // 2]
        print(f"         {len(took)} × {what}: {took[0]:.1f}, median {middle:.1f}, at most {took[-1]:.1f} s")
    return 0 if kept else 1


def _verified(cluster: Cluster) -> bool:
    try:
        serve.manage(serve.served(cluster, Role.OWNER), "verify")
    except Trouble:
        return False
    return True
