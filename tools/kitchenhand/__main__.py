"""The command line of `./spoon`."""

from __future__ import annotations

import argparse
import signal
import subprocess
import sys
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import Any

from kitchenhand import bare, checks, crew, debian, machine, runs, scale, serve
from kitchenhand.places import PYTHON, ROOT, SERVER, WEB
from kitchenhand.say import Trouble, fail
from kitchenhand.soak import costs, soak

MOST_WORKERS = 64


def main(argv: list[str]) -> int:
    """Run one of the commands; returns the exit status."""
    parser = argparse.ArgumentParser(
        prog="./spoon", description="Old Spoon: start it, test it, look after it."
    )
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for add in (_to_run, _to_keep, _to_build, _to_stand_in):
        add(commands)
    options, words = parser.parse_known_args(argv)
    if words and options.run is not _probe:
        parser.error(f"unrecognized arguments: {' '.join(words)}")
    options.rest = words
    _hear_signals()
    try:
        return int(options.run(options))
    except Trouble as trouble:
        fail(str(trouble))
        return 1
    except KeyboardInterrupt:
        fail("Stopped.")
        return 130


def _to_run(commands: Any) -> None:
    """What serves."""
    start = _command(commands, "start", _start, "set everything up and serve it, with the demo kitchen")
    start.add_argument("--empty", action="store_true", help="without demo data, in a database of its own")
    start.add_argument(
        "--port", type=_port, help="the port to serve on; by default 8000 or the next free one"
    )
    start.add_argument("--workers", type=int, default=1, help="how many worker processes; 1 by default")
    start.add_argument(
        "--listen", default=crew.LOOPBACK, metavar="ADDRESS", help="where to listen; 127.0.0.1 by default"
    )
    web = _command(commands, "web", _web, "only serve; for more than one machine, with OLDSPOON_DB_… set")
    web.add_argument("--port", type=_port, default=serve.FIRST_PORT, help="the port to serve on")
    web.add_argument("--listen", default=crew.LOOPBACK, metavar="ADDRESS", help="where to listen")
    web.add_argument("--empty", action="store_true", help="in the database of --empty")
    worker = _command(commands, "worker", _worker, "only work: follow batches, raise alarms, do jobs")
    worker.add_argument("--empty", action="store_true", help="in the database of --empty")


def _hear_signals() -> None:
    """A polite end (`kill`, or Ctrl-C where the shell let it be ignored) undoes what a command set up, as a
    database of its own."""
    for stop in (signal.SIGTERM, signal.SIGINT):
        signal.signal(stop, signal.default_int_handler)


def _to_keep(commands: Any) -> None:
    """What is done to a kitchen's data and people."""
    backup = _command(commands, "backup", _backup, "keep the whole kitchen in one file")
    backup.add_argument("file", nargs="?", type=Path, help="by default named after the time, here")
    restore = _command(commands, "restore", _restore, "bring a kitchen back out of such a file")
    restore.add_argument("file", type=Path)
    restore.add_argument("--replace", action="store_true", help="in place of the kitchen that is there")
    verify = _command(commands, "verify", _verify, "look for a record that was altered since it was written")
    export = _command(commands, "export", _export, "write one kitchen into a file that anybody can read")
    export.add_argument("kitchen", help="what it is called in its addresses, as tidemill-house")
    export.add_argument("file", nargs="?", type=Path, help="by default named after the kitchen, here")
    bring = _command(commands, "import", _import, "bring the kitchen of such a file in, beside the others")
    bring.add_argument("file", type=Path)
    bring.add_argument("--chef", required=True, help="the username of somebody here who becomes its chef")
    bring.add_argument("--slug", help="what it is called in its addresses; by default as it was")
    for either in (backup, restore, verify, export, bring):
        either.add_argument("--empty", action="store_true", help="the database of --empty")
    admin = _command(commands, "admin", _admin, "make an administrator: ./spoon admin NAME")
    admin.add_argument("name")
    admin.add_argument("--empty", action="store_true", help="in the database of --empty")
    manage = _command(commands, "manage", _manage, "any management command of the server")
    manage.add_argument("--empty", action="store_true", help="in the database of --empty")
    manage.add_argument("words", nargs=argparse.REMAINDER)


def _to_build(commands: Any) -> None:
    """What is for developers."""
    test = _command(
        commands,
        "test",
        lambda o: checks.run_all(o.only, o.matching),
        "set everything up and run every check",
    )
    test.add_argument(
        "only",
        nargs="*",
        help="run only checks whose name holds one of these words, as core, server or browser; "
        "quick: what changed since the last commit on main, in ninety seconds",
    )
    test.add_argument("-k", dest="matching", metavar="WORDS", default="", help="only tests named like this")
    fuzz = _command(
        commands, "fuzz", _fuzz, "try to break it, for longer than the tests do; prints what was tried"
    )
    fuzz.add_argument("--calls", type=int, default=50_000, help="made-up calls to every route")
    fuzz.add_argument("--sequences", type=int, default=300, help="random sequences at the stove")
    fuzz.add_argument("--kills", type=int, default=50, help="kills of server and database under load")
    fuzz.add_argument("--seed", type=int, help="try the same again as a run that printed this seed")
    soak = _command(
        commands, "soak", _soak, "a kitchen at work while processes are killed; counts what was lost"
    )
    soak.add_argument("--minutes", type=float, default=60.0, help="how long; an hour by default")
    _command(commands, "costs", lambda o: costs.run(), "measure what a kitchen costs on this machine")
    _command(commands, "check", lambda o: runs.deployment(), "check the settings as behind HTTPS")
    _command(commands, "build", _build, "set up and build the front end")
    _command(commands, "contract", _contract, "write the API contract and the types made from it")
    _command(commands, "dishes", lambda o: runs.dishes(), "walk eighteen dishes from recipe to label")
    _command(commands, "pictures", lambda o: runs.pictures(), "take docs/screenshots again")
    _command(commands, "plots", _plots, "draw the pictures of docs/model again")
    _command(commands, "bench", _bench, "measure speed: both sides in one run, as ratios")
    _command(
        commands, "bare", lambda o: bare.run(), "try both commands on a Debian with nothing on it; needs root"
    )


def _to_stand_in(commands: Any) -> None:
    """What stands in for a device."""
    scale_ = _command(commands, "scale", _scale, "be a simulated kitchen scale, registered in Kitchen")
    scale_.add_argument("--token", required=True, help="the token the kitchen showed once")
    scale_.add_argument("--url", default="http://127.0.0.1:8000", help="where Old Spoon is served")
    scale_.add_argument("put", nargs="*", type=float, help="grams to put on it, one after another")
    probe = commands.add_parser(
        "probe", help="be a simulated thermometer, registered in Kitchen", add_help=False
    )
    probe.set_defaults(run=_probe)


def _port(text: str) -> int:
    """A port as typed."""
    if not text.isdigit() or not 1 <= int(text) <= 65535:
        raise argparse.ArgumentTypeError(f"{text} is no port: take a number from 1 to 65535")
    return int(text)


def _command(
    commands: Any, name: str, run: Callable[[argparse.Namespace], int], text: str
) -> argparse.ArgumentParser:
    command: argparse.ArgumentParser = commands.add_parser(name, help=text, description=text)
    command.set_defaults(run=run)
    return command


def _start(options: argparse.Namespace) -> int:
    if not 0 <= options.workers <= MOST_WORKERS:
        raise Trouble(f"--workers must be from 0 to {MOST_WORKERS}.")
    return serve.start(empty=options.empty, port=options.port, workers=options.workers, listen=options.listen)


def _web(options: argparse.Namespace) -> int:
    command = crew.web_command(options.port, options.listen)
    return serve.one(command, empty=options.empty, port=options.port, listen=options.listen)


def _worker(options: argparse.Namespace) -> int:
    return serve.one(crew.WORK, empty=options.empty)


def _fuzz(options: argparse.Namespace) -> int:
    return runs.fuzz(options.calls, options.sequences, options.kills, options.seed)


def _soak(options: argparse.Namespace) -> int:
    if options.minutes <= 0:
        raise Trouble("--minutes must be more than 0.")
    return soak.run(options.minutes)


def _backup(options: argparse.Namespace) -> int:
    named = f"old-spoon-{datetime.now():%Y-%m-%d-%H%M%S}.backup"
    return serve.backup(options.file or Path(named), empty=options.empty)


def _restore(options: argparse.Namespace) -> int:
    return serve.restore(options.file, empty=options.empty, replace=options.replace)


def _export(options: argparse.Namespace) -> int:
    file = options.file or Path(f"{options.kitchen}.kitchen.zip")
    return serve.into_file(file, ["export_kitchen", options.kitchen], empty=options.empty)


def _import(options: argparse.Namespace) -> int:
    words = ["import_kitchen", options.chef, *(["--slug", options.slug] if options.slug else [])]
    return serve.out_of_file(options.file, words, empty=options.empty)


def _verify(options: argparse.Namespace) -> int:
    return serve.manage_command(["verify"], empty=options.empty)


def _build(options: argparse.Namespace) -> int:
    debian.install_or_tell(tests=False)
    machine.ensure_python(tests=False)
    machine.ensure_web()
    return 0


def _plots(options: argparse.Namespace) -> int:
    machine.ensure_python(tests=False)
    return subprocess.run([PYTHON, ROOT / "docs/model/plots.py"], check=False).returncode


def _bench(options: argparse.Namespace) -> int:
    machine.ensure(tests=True)
    print("The computation:", flush=True)
    core = subprocess.run([PYTHON, "-m", "custard", "bench", "--table"], check=False).returncode
    print("\nThe served application:", flush=True)
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.assess"], SERVER)
    print("\nReadings of probes:", flush=True)
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.ingest"], SERVER) or served
    print("\nOpen batches on live screens:", flush=True)
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.screens"], SERVER) or served
    print("\nA crowd at one door:", flush=True)
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.crowded"], SERVER) or served
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.practice"], SERVER) or served
    print("\nLong lists:", flush=True)
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.lists"], SERVER) or served
    print("\nA large shelf:", flush=True)
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.shelf"], SERVER) or served
    print("\nA kitchen's archive:", flush=True)
    served = runs.run_in_environment(lambda: [PYTHON, "-m", "speed.archive"], SERVER) or served
    print("\nThe page in a browser:", flush=True)
    return core or served or runs.in_the_browser("speed.py", "-s")


def _scale(options: argparse.Namespace) -> int:
    return scale.run(options.url, options.token, options.put)


def _probe(options: argparse.Namespace) -> int:
    machine.ensure_python(tests=False)
    command = [PYTHON, "-m", "kitchenhand.probe", *options.rest]
    return subprocess.run(command, cwd=ROOT / "tools", check=False).returncode


def _admin(options: argparse.Namespace) -> int:
    return serve.manage_command(["make_admin", options.name], empty=options.empty)


def _manage(options: argparse.Namespace) -> int:
    return serve.manage_command(options.words, empty=options.empty)


def _contract(options: argparse.Namespace) -> int:
    machine.ensure_python(tests=False)
    machine.ensure_node_modules()
    environment = machine.environment(OLDSPOON_SECRET_KEY="not-used-here")
    export = [PYTHON, "manage.py", "export_openapi_schema", "--api", "oldspoon.api.api", "--indent", "2"]
    for command, folder in (
        ([*export, "--output", "openapi.json"], SERVER),
        (machine.npm("run", "types"), WEB),
    ):
        if subprocess.run(command, cwd=folder, env=environment, check=False).returncode:
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
