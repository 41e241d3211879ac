"""The command `custard`: a formula in, plain data out."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, NoReturn

from custard.advice import scale
from custard.advice.assess import assess
from custard.errors import BadFormula, CustardError, OutOfRange
from custard.formats.formula_json import read_formula, write_formula
from custard.formula import Formula

MAX_INPUT_BYTES = 2_000_000


class _Parser(argparse.ArgumentParser):
    """Refuses in one line and exits 2, like every other refusal here."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message}\n")


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit status: 0, or 2 when the input cannot be used."""
    options = _parser().parse_args(argv)
    try:
        answer = options.run(options)
    except CustardError as error:
        print(error.line(), file=sys.stderr)
        return 2
    try:
        print(json.dumps(answer, indent=2, ensure_ascii=False, allow_nan=False))
    except BrokenPipeError:
        sys.stderr.close()
    return 0


def _parser() -> _Parser:
    parser = _Parser(prog="custard", description=__doc__, allow_abbrev=False)
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")

    command = _command(commands, "assess", _assess, "window, texture, yield and allergens of a formula")
    command.add_argument("--altitude-m", type=float, default=0.0, help="height of the kitchen [m]")

    command = _command(commands, "scale", _scale, "the same formula at another size, in the same format")
    size = command.add_mutually_exclusive_group(required=True)
    size.add_argument("--yolks", type=float, help="from this many yolks")
    size.add_argument("--portions", type=float, help="for this many portions, with --portion-g")
    size.add_argument("--dish-ml", type=float, help="to fill a dish of this volume [ml]")
    size.add_argument("--mass-g", type=float, help="weighing this much before cooking [g]")
    size.add_argument("--dairy-g", type=float, help="from this much milk and cream [g]")
    command.add_argument("--portion-g", type=float, help="finished grams on a plate")
    return parser


def _command(commands: Any, name: str, run: Callable[[Any], Any], text: str) -> argparse.ArgumentParser:
    command: argparse.ArgumentParser = commands.add_parser(
        name,
        help=text,
        description=text,
        allow_abbrev=False,
        epilog=f"example: custard {name} sauce.json",
    )
    command.add_argument("file", metavar="FILE", help="a formula as JSON; - reads standard input")
    command.set_defaults(run=run)
    return command


def _read(path: str) -> Formula:
    try:
        data = sys.stdin.buffer.read(MAX_INPUT_BYTES + 1) if path == "-" else Path(path).read_bytes()
    except OSError as error:
        raise BadFormula("FILE", path, f"cannot be read: {error.strerror}") from None
    if len(data) > MAX_INPUT_BYTES:
        raise OutOfRange("FILE", path, "is larger than 2 MB")
    try:
        return read_formula(json.loads(data.decode("utf-8")))
    except UnicodeDecodeError:
        raise BadFormula("FILE", path, "is not UTF-8 text") from None
    except json.JSONDecodeError as error:
        raise BadFormula("FILE", path, f"is not JSON: {error.msg} in line {error.lineno}") from None
    except RecursionError:
        raise BadFormula("FILE", path, "is nested too deeply") from None


def _altitude(value: float) -> float:
    if not -500 <= value <= 6000:
        raise OutOfRange("--altitude-m", value, "must be from -500 to 6000")
    return value


def _assess(options: Any) -> dict[str, Any]:
    return assess(_read(options.file), _altitude(options.altitude_m)).as_json()


def _scale(options: Any) -> dict[str, Any]:
    formula = _read(options.file)
    if options.yolks is not None:
        return write_formula(formula.for_yolks(options.yolks))
    if options.portions is not None:
        if options.portion_g is None:
            raise OutOfRange("--portion-g", None, "given with --portions", "Say how much a portion weighs.")
        return write_formula(scale.for_portions(formula, options.portions, options.portion_g))
    if options.dish_ml is not None:
        return write_formula(scale.for_dish(formula, options.dish_ml))
    if options.dairy_g is not None:
        return write_formula(formula.for_dairy(options.dairy_g))
    return write_formula(formula.for_mass(options.mass_g))


if __name__ == "__main__":
    sys.exit(main())
