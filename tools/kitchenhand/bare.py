"""`./spoon bare`: what a stranger meets. Both README commands on a Debian with nothing on it, made for this.

Two bare systems are made with debootstrap, each with a clone of this checkout: one for root, one for an
ordinary user. Programs in them see their own files and their own processes, and end when we do; the folder
is deleted afterwards. The network is this machine's.
"""

from __future__ import annotations

import contextlib
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from kitchenhand import crowd, debian
from kitchenhand.places import ROOT
from kitchenhand.say import Trouble, logged, step, timed

SUITE = "bookworm"
PORT = 8710
CROWD_S = 30.0
TOLD_WITHIN_S = 1.5
"""“In the first second”, and half a one for starting a shell in a new place."""
UP_WITHIN_S, TEST_WITHIN_S, STOP_WITHIN_S = 900, 3600, 15
CERTIFICATES = Path("/etc/ssl/certs/ca-certificates.crt")
OWN_CERTIFICATES = Path("/usr/local/share/ca-certificates")


@dataclass
class Report:
    """What was tried, whether it held, and how long it took."""

    lines: list[tuple[bool, str]] = field(default_factory=list)

    def __call__(self, held: bool, what: str) -> bool:
        """Note whether something held; returns it."""
        self.lines.append((held, what))
        print(f"  {'held' if held else 'FAILED'}: {what}", flush=True)
        return held


@dataclass(frozen=True)
class Machine:
    """A bare system in a folder, and who works in it."""

    root: Path
    user: str

    @property
    def home(self) -> str:
        """Where the checkout is cloned into, as seen inside."""
        return "/root" if self.user == "root" else f"/home/{self.user}"

    @property
    def log(self) -> Path:
        """Everything that was said inside."""
        return self.root.with_suffix(".log")

    def command(self, line: str, user: str = "") -> list[str]:
        """A command line in this system, in a process tree of its own that ends with its first process."""
        inside = f"cd {self.home}/old-spoon 2>/dev/null || cd /; {line}"
        words = ["runuser", "-u", user or self.user, "--", "sh", "-c", inside]
        settings = {
            "PATH": "/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin",
            "HOME": "/root" if (user or self.user) == "root" else self.home,
            "TERM": "dumb",
            "LANG": "C.UTF-8",
            **_network(),
        }
        environment = [f"{name}={value}" for name, value in settings.items()]
        # The shell stays as the first process and takes in orphans, as an init would: without one a program
        # that was killed would never be gone.
        mounts = (
            f"mount -t proc proc {self.root}/proc && mount --rbind /dev {self.root}/dev && "
            f'chroot {self.root} env -i "$@"; exit $?'
        )
        enter = ["unshare", "--mount", "--pid", "--fork", "--kill-child", "sh", "-c", mounts, "enter"]
        return [*enter, *environment, *words]

    def run(self, line: str, user: str = "", within_s: float = UP_WITHIN_S) -> tuple[int, str, float]:
        """Run to the end: exit status, everything it said, seconds."""
        began = time.monotonic()
        try:
            done = subprocess.run(
                self.command(line, user),
                stdin=subprocess.DEVNULL,
                stdout=subprocess.PIPE,
                stderr=subprocess.STDOUT,
                text=True,
                errors="replace",
                timeout=within_s,
                check=False,
            )
            status, said = done.returncode, done.stdout
        except subprocess.TimeoutExpired as late:
            status, said = -1, (late.stdout or b"").decode(errors="replace")
        with self.log.open("a") as log:
            log.write(f"\n$ {line}\n{said}\n[exit {status}]\n")
        return status, said, time.monotonic() - began


def _network() -> dict[str, str]:
    """How programs reach the network here: proxies, and where certificates of its own lie."""
    found = {name: value for name, value in os.environ.items() if name.lower().endswith("_proxy")}
    if any(OWN_CERTIFICATES.glob("*.crt")):
        names = ("SSL_CERT_FILE", "PIP_CERT", "REQUESTS_CA_BUNDLE", "NODE_EXTRA_CA_CERTS")
        found |= dict.fromkeys(names, str(CERTIFICATES))
    return found


@contextlib.contextmanager
def _machines() -> Iterator[tuple[Machine, Machine]]:
    """Root's bare system and a cook's, deleted afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="oldspoon-bare-", dir="/var/tmp"))
    folder.chmod(0o755)
    try:
        ours, theirs = Machine(folder / "root", "root"), Machine(folder / "cook", "cook")
        with timed("making a bare Debian"):
            packages = "--include=ca-certificates,git"
            make = ["debootstrap", "--variant=minbase", packages, SUITE, ours.root]
            logged(make, "making a bare Debian")
            for name in ("resolv.conf", "hosts"):
                if Path("/etc", name).exists():
                    shutil.copy(Path("/etc", name), ours.root / "etc" / name)
            for path in OWN_CERTIFICATES.glob("*.crt"):
                shutil.copy(path, ours.root / str(OWN_CERTIFICATES).lstrip("/"))
            ours.run("update-ca-certificates")
            logged(["cp", "-a", ours.root, theirs.root], "copying the bare Debian")
            theirs.run("useradd --create-home cook", user="root")
        for machine in (ours, theirs):
            clone = machine.root / machine.home.lstrip("/") / "old-spoon"
            logged(["git", "clone", "--no-hardlinks", ROOT, clone], "cloning the checkout")
            machine.run(f"chown -R {machine.user}: {machine.home}/old-spoon", user="root")
        yield ours, theirs
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def _serve_and_crowd(machine: Machine, report: Report, who: str) -> None:
    """`./spoon start`, eight people for half a minute, Ctrl-C."""
    began = time.monotonic()
    with machine.log.open("ab") as log:
        log.write(b"\n$ ./spoon start\n")
        log.flush()
        at = log.tell()
        served = subprocess.Popen(
            machine.command(f"exec ./spoon start --port {PORT}"),
            stdin=subprocess.DEVNULL,
            stdout=log,
            stderr=subprocess.STDOUT,
        )
    try:
        while time.monotonic() < began + UP_WITHIN_S and served.poll() is None:
            if "Ctrl-C stops it" in _said(machine, at):
                break
            time.sleep(0.5)
        up = served.poll() is None and "Ctrl-C stops it" in _said(machine, at)
        if not report(up, f"start, {who}: answers after {time.monotonic() - began:.0f} s"):
            print(_said(machine, at)[-2000:])
            return
        noise = re.findall(
            r"debconf|Can not write log|dpkg-preconfigure|Selecting previously", _said(machine, at)
        )
        report(not noise, f"start, {who}: nothing of the package manager is shown")
        good = crowd.run(f"127.0.0.1:{PORT}", CROWD_S) == 0
        report(good, f"start, {who}: {crowd.PEOPLE} people at Bench, Stove and probes for {CROWD_S:.0f} s")
        report(served.poll() is None, f"start, {who}: it still serves afterwards")
        _interrupt(machine)
        with contextlib.suppress(subprocess.TimeoutExpired):
            served.wait(timeout=STOP_WITHIN_S)
        clean = served.poll() == 0 and "everything is kept" in _said(machine, at)
        report(clean, f"start, {who}: Ctrl-C ends it with exit 0")
    finally:
        if served.poll() is None:
            served.kill()
            served.wait()


def _said(machine: Machine, after: int) -> str:
    return machine.log.read_bytes()[after:].decode(errors="replace")


def _interrupt(machine: Machine) -> None:
    """Ctrl-C for the start command in that system: its process is found by the folder it runs in."""
    for proc in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            if (proc / "root").resolve() == machine.root and b"kitchenhand\0start" in (
                proc / "cmdline"
            ).read_bytes():
                os.kill(int(proc.name), signal.SIGINT)


def _as_root(machine: Machine, report: Report) -> None:
    _serve_and_crowd(machine, report, "root, on nothing")
    status, said, seconds = machine.run("./spoon test", within_s=TEST_WITHIN_S)
    summary = re.search(r"\d+ of \d+ checks passed in \d+ s", said)
    told = summary[0] if summary else f"exit {status}"
    if not report(status == 0, f"test, root: {told}, {seconds / 60:.1f} min with set-up"):
        print(said[said.rfind("── summary") :][-2000:] if summary else said[-4000:])


def _as_a_cook(machine: Machine, report: Report) -> None:
    line = ""
    for words in ("test", "start"):
        status, said, seconds = machine.run(f"./spoon {words}")
        found = re.search(r"sudo (apt-get install .*)", said)
        line = found[1] if found else ""
        quick = status == 1 and bool(line) and seconds < TOLD_WITHIN_S
        if not report(quick, f"{words}, ordinary user, on nothing: told in {seconds:.1f} s: {line}"):
            print(said[-1000:])
            return
    # Python alone first: then it is our own code that has to say the rest, and sets up what it can.
    python = "apt-get update -qq && apt-get install -y -qq --no-install-recommends python3 python3-venv"
    machine.run(python, "root")
    status, said, seconds = machine.run("./spoon start")
    first = status == 1 and "sudo apt-get install postgresql" in "".join(said.splitlines()[:2])
    rest = "building the front end" in said
    report(
        first and rest,
        f"start, ordinary user, no PostgreSQL: told first, the rest set up in {seconds:.0f} s",
    )
    status, said, _ = machine.run(f"{line} -y -qq", "root")
    report(status == 0, "the line it printed installs what it names")
    _serve_and_crowd(machine, report, "ordinary user")


def run() -> int:
    """Try everything; prints what held. Needs root."""
    if os.geteuid() != 0:
        raise Trouble("Making a bare Debian needs root: sudo ./spoon bare")
    if not shutil.which("debootstrap"):
        debian.install(["debootstrap"], "debootstrap")
    dirty = subprocess.run(
        ["git", "status", "--porcelain"], cwd=ROOT, capture_output=True, text=True, check=False
    ).stdout
    if dirty:
        step("what is not committed is not tried: the bare systems get a clone")
    began, report = time.monotonic(), Report()
    with _machines() as (ours, theirs):
        try:
            _as_a_cook(theirs, report)
            _as_root(ours, report)
        finally:
            for machine in (ours, theirs):
                with contextlib.suppress(OSError):
                    shutil.copy(machine.log, ROOT / "var" / f"bare-{machine.user}.log")
    failed = [what for held, what in report.lines if not held]
    print(f"\n── on a machine with nothing on it ({SUITE}, {(time.monotonic() - began) / 60:.0f} min)")
    for held, what in report.lines:
        print(f"  {'held' if held else 'FAILED':7} {what}")
    print(f"  {len(report.lines) - len(failed)} of {len(report.lines)} held", flush=True)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(run())
