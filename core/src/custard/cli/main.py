"""The command line: a formula in, plain data out, one line and exit 2 for what cannot be used."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from typing import Any, NoReturn

from custard.advice.bench import scale
from custard.advice.bench.thickness import TARGETS
from custard.advice.trouble.faults import faults
from custard.cli import commands, cooking, reading, show
from custard.errors import CustardError
from custard.larder.eggs import all_sizes
from custard.larder.vessels import STIRRINGS, USUAL_RULE, cooling_rules, coolings, pans
from custard.larder.words import plain_degrees
from custard.process.heating.temper import SCHOOLS
from custard.reading.words import LANGUAGES


class _Parser(argparse.ArgumentParser):
    """Refuses in one line and exits 2, like every other refusal here."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message}\n")


A_FORMULA = "a formula as JSON"
FORMERLY = {"validation": ("practice",)}
"""Names that a command had before; scripts that use them go on."""


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit status: 0, or 2 when the input cannot be used."""
    options = parser().parse_args(argv)
    try:
        answer = options.run(options)
        if options.plot:
            show.plot(answer, options.plot)
        text = (
            show.table(answer)
            if options.table
            else json.dumps(answer, indent=2, ensure_ascii=False, allow_nan=False)
        )
    except CustardError as error:
        print(plain_degrees(_by_option(error, options).line()), file=sys.stderr)
        return 2
    try:
        print(text)
    except BrokenPipeError:
        sys.stderr.close()
    return 0


def _by_option(error: CustardError, options: argparse.Namespace) -> CustardError:
    """The refusal, with an argument of the library named as the option it was typed as."""
    if hasattr(options, error.field):
        error.field = f"--{error.field.replace('_', '-')}"
    return error


def parser() -> argparse.ArgumentParser:
    """Every command with its options and an example."""
    top = _Parser(
        prog="custard",
        description="Where an egg-thickened sauce sets, how thick it gets, when to lift it, how to cool it.",
        epilog="example: custard cook sauce.json --start-c 70 --lift-c 82 --table",
        allow_abbrev=False,
    )
    subs = top.add_subparsers(dest="command", required=True, metavar="COMMAND")
    one = _add(
        subs, "assess", commands.assess_command, "window, texture, yield and allergens", "assess sauce.json"
    )
    _altitude(one)
    one.add_argument("--rate-k-per-min", type=float, help="heating rate the window is stated at [K/min]")
    _add_scale(subs)
    one = _add(
        subs, "temper", cooking.temper_command, "pour by pour", "temper sauce.json --school ladle --hot-c 92"
    )
    one.add_argument("--school", choices=SCHOOLS, required=True)
    _number(one, "--hot-c", 92, "the hot dairy [degC]")
    _number(one, "--ladle-g", 80, "a ladle [g]")
    _number(one, "--bowl-c", 20, "the bowl [degC]")
    _number(one, "--power-w", 350, "net power for what is left to heat [W]")
    _altitude(one)
    _band(one)
    _add_cook(subs)
    _add_chill(subs)
    one = _add(
        subs,
        "bake",
        cooking.bake_command,
        "cups or a dish in the oven",
        "bake cups.json --plot bake.png",
    )
    _number(one, "--cup-ml", 120, "what a cup holds [ml]")
    _number(one, "--start-c", 50, "the mix going in [degC]")
    one.add_argument("--bath-c", type=float, help="the bath [degC]; by default as such an oven makes it")
    _number(one, "--oven-c", 160, "the oven [degC]")
    one.add_argument("--no-bath", action="store_true", help="in the oven's air, without a bath")
    _band(one)
    _add_whisk(subs)
    _add_solve(subs)
    _add_trouble(subs)
    _add_plan(subs)
    one = _add(
        subs,
        "calibrate",
        commands.calibrate_command,
        "a hob and a pan",
        "calibrate sauce.json --curve log.json",
    )
    one.add_argument("--curve", required=True, help="JSON with the lists t_s and sauce_c, heat on")
    one.add_argument("--stir", choices=STIRRINGS, default="whisk")
    one.add_argument("--pan", choices=tuple(pans()), default="clad")
    one = _add(
        subs,
        "finish",
        cooking.finish_command,
        "what joins after the heat: infusing, additions, folding, crust",
        "finish cremeux.json",
    )
    _number(one, "--dish-cm", 10, "diameter of a dish with a burnt crust [cm]")
    _altitude(one)
    _add_keep(subs)
    text = "text, a saved page, or schema.org JSON"
    one = _add(
        subs,
        "read",
        reading.read_command,
        "a recipe as people write it",
        "read card.txt --measures us",
        file=text,
    )
    one.add_argument("--measures", choices=tuple(reading.MEASURES), help="whose cup and pint; else as found")
    one.add_argument("--eggs", default="EU-M", choices=tuple(all_sizes()), help="the size that a count means")
    one.add_argument("--language", choices=LANGUAGES, help="of the recipe; found if not given")
    _add_learning(subs)
    one = _add(subs, "bench", commands.bench_command, "speed, as ratios", "bench --table", file=None)
    one.add_argument("--cooks", type=int, default=100_000, help="the most cooks at once")
    _add(
        subs,
        "validation",
        commands.validation_command,
        "what cooks find, beside what is computed",
        "validation --table",
        file=None,
    )
    return top


def _add(
    subs: Any, name: str, run: Callable[[Any], Any], text: str, example: str, *, file: str | None = A_FORMULA
) -> argparse.ArgumentParser:
    one: argparse.ArgumentParser = subs.add_parser(
        name,
        aliases=FORMERLY.get(name, ()),
        help=text,
        description=text,
        epilog=f"example: custard {example}",
        allow_abbrev=False,
    )
    if file:
        one.add_argument("file", metavar="FILE", help=f"{file}; - reads standard input")
    one.add_argument("--table", action="store_true", help="a table to read instead of JSON")
    one.add_argument("--plot", metavar="FILE", help="also draw the curve, as .png or .svg")
    one.set_defaults(run=run)
    return one


def _number(one: argparse.ArgumentParser, name: str, default: float, text: str) -> None:
    one.add_argument(name, type=float, default=float(default), help=f"{text}; {default:g} by default")


def _band(one: argparse.ArgumentParser) -> None:
    one.add_argument("--band", action="store_true", help="also how sure it is, by a seeded Monte Carlo")


def _altitude(one: argparse.ArgumentParser) -> None:
    _number(one, "--altitude-m", 0, "height of the kitchen [m]")
    one.add_argument("--eggs", choices=tuple(all_sizes()), help="the class of the eggs in the house")


def _add_whisk(subs: Any) -> None:
    one = _add(subs, "whisk", cooking.whisk_command, "a sabayon over steam", "whisk sabayon.json --lift-c 72")
    _number(one, "--start-c", 20, "the mix at the start [degC]")
    _number(one, "--lift-c", 72, "taken off at [degC]")
    one.add_argument("--power-w", type=float, help="the flame under the bath [W]; a bare simmer by default")
    one.add_argument("--electric", action="store_true", help="an electric whisk")
    _band(one)
    _altitude(one)


def _add_scale(subs: Any) -> None:
    one = _add(
        subs, "scale", commands.scale_command, "the formula at another size", "scale sauce.json --yolks 7"
    )
    size = one.add_mutually_exclusive_group(required=True)
    size.add_argument("--yolks", type=float, help="from this many yolks")
    size.add_argument("--portions", type=float, help="for this many portions, with --portion-g")
    size.add_argument("--dish-ml", type=float, help="to fill a dish of this volume [ml]")
    size.add_argument("--mass-g", type=float, help="weighing this much before cooking [g]")
    size.add_argument("--dairy-g", type=float, help="from this much milk and cream [g]")
    size.add_argument("--pan-ml", type=float, help="as much as a pan of this volume can be stirred in [ml]")
    one.add_argument("--portion-g", type=float, help="finished grams on a plate")
    _number(one, "--head-room", scale.HEAD_ROOM, "share of the pan left free to stir in")
    _number(one, "--filled", 1, "share of the dish that is filled")
    _altitude(one)


def _add_cook(subs: Any) -> None:
    one = _add(
        subs,
        "cook",
        cooking.cook_command,
        "a cook over a flame or over steam",
        "cook sauce.json --start-c 70 --power-w 350 --stir whisk --lift-c 82 --plot cook.png",
    )
    _number(one, "--start-c", 70, "where it starts [degC]")
    _number(one, "--power-w", 350, "net power into pan and sauce, after steam [W]")
    one.add_argument("--stir", choices=STIRRINGS, default="whisk")
    _number(one, "--lift-c", 82, "lifted at [degC]; above the boil means at the boil")
    one.add_argument("--pan", choices=tuple(pans()), default="clad")
    one.add_argument("--over-steam", action="store_true", help="over simmering water")
    _band(one)
    _number(one, "--hold-s", 0, "held there before it is lifted [s]")
    _number(one, "--left-in-pan-s", 0, "left in the hot pan after that [s]")
    _altitude(one)


def _add_chill(subs: Any) -> None:
    one = _add(
        subs,
        "chill",
        cooking.chill_command,
        "cooling, judged by a rule",
        "chill sauce.json --from-c 80 --to-c 5 --by ice-bath --mass-g 700 --depth-mm 50 --stirred",
    )
    _number(one, "--from-c", 80, "from [degC]")
    _number(one, "--to-c", 5, "to [degC]")
    one.add_argument("--by", choices=tuple(coolings()), required=True)
    _number(one, "--mass-g", 700, "how much [g]")
    _number(one, "--depth-mm", 50, "how deep it lies [mm]")
    one.add_argument("--stirred", action="store_true", help="stirred all the time while it cools")
    one.add_argument(
        "--stirred-every-min", type=float, help="mixed so often, and left alone in between [min]"
    )
    one.add_argument("--then", choices=tuple(coolings()), help="cooled on by another way, after --after-min")
    one.add_argument("--after-min", type=float, default=30.0, help="when the other way begins [min]")
    one.add_argument("--ice-g", type=float, help="ice in the bath [g]; plenty by default")
    one.add_argument("--water-g", type=float, help="water in the bath [g]; as much as ice by default")
    one.add_argument("--rule", choices=tuple(cooling_rules()), default=USUAL_RULE)
    _band(one)


def _add_keep(subs: Any) -> None:
    one = _add(subs, "keep", cooking.keep_command, "what becomes of it later", "keep sauce.json --hours 12")
    one.add_argument(
        "--hottest-c", type=float, help="the warmest it was all through [degC]; its stop by default"
    )
    one.add_argument("--cooled-too-slowly", action="store_true", help="its rule for cooling was not kept")
    _number(one, "--hours", 24, "it has stood in the cold [h]")
    _number(one, "--enzyme-left", 0.0, "what the cook left of the yolk's enzyme [1]")
    one.add_argument("--warm-c", type=float, help="kept warm at [degC], for --warm-h")
    _number(one, "--warm-h", 2, "how long it is kept warm [h]")
    one.add_argument("--reheat-c", type=float, help="warmed again to [degC], for --reheat-min")
    _number(one, "--reheat-min", 2, "how long it is kept there [min]")
    one.add_argument("--frozen-days", type=float, help="frozen for so many days, then thawed")
    one.add_argument("--rule", choices=tuple(cooling_rules()), default=USUAL_RULE)
    _altitude(one)


def _add_trouble(subs: Any) -> None:
    one = _add(
        subs, "rescue", commands.rescue_command, "a remedy, weighed", "rescue sauce.json --fault too-thick"
    )
    one.add_argument("--fault", choices=tuple(faults()), required=True)
    one.add_argument("--have-g", type=float, help="how much of it there is [g]")
    _number(one, "--over-k", 3, "how far above its limit, or its stop, it has been [K]")
    _altitude(one)
    one = _add(
        subs,
        "diagnose",
        commands.diagnose_command,
        "what made a fault, and what to do now",
        "diagnose sauce.json --seen bits --curve curve.csv --off-s 240",
    )
    one.add_argument("--seen", required=True, choices=tuple(faults()), help="what is seen")
    one.add_argument("--curve", metavar="FILE", help="CSV with the columns t_s and sauce_c, or JSON of lists")
    one.add_argument("--off-s", type=float, help="when the heat was off [s]")
    one.add_argument("--out-s", type=float, help="when it was out of the pan [s]")
    one.add_argument(
        "--still", metavar="FROM-TO", action="append", help="from when to when nobody stirred [s]"
    )
    one.add_argument(
        "--say",
        metavar="FIGURE=VALUE",
        action="append",
        help="an answer, as gap_s=30; the questions name them",
    )
    one.add_argument("--pan", choices=tuple(pans()), default="clad")
    one.add_argument("--have-g", type=float, help="how much of it there is [g]; all by default")
    _altitude(one)


def _add_learning(subs: Any) -> None:
    one = _add(
        subs,
        "learn",
        commands.learn_command,
        "what batches teach: where sauces set here, what pans add, what stays behind",
        "learn batch-*.json",
        file=None,
    )
    one.add_argument("files", metavar="FILE", nargs="+", help="batches in the open format, oldest first")
    one = _add(
        subs,
        "compare",
        commands.compare_command,
        "why one batch came out other than another",
        "compare batch-41.json batch-42.json",
        file=None,
    )
    one.add_argument("a", metavar="A", help="a batch in the open format")
    one.add_argument("b", metavar="B", help="the other")
    one = _add(
        subs,
        "replay",
        commands.replay_command,
        "the live states of a batch, as its screens showed them",
        "replay batch-41.json --at-s 240",
        file="a batch as JSON",
    )
    one.add_argument("--at-s", type=float, action="append", help="when [s]; by default at every mark")


def _add_plan(subs: Any) -> None:
    one = _add(
        subs,
        "plan",
        commands.plan_command,
        "a day: its steps and whose, how sure, and why it cannot be",
        "plan day.json --seconds 5",
        file=None,
    )
    one.add_argument("file", metavar="FILE", help="a day in the open format; - reads standard input")
    _number(one, "--seconds", 5, "how long a better plan is looked for [s]")
    one.add_argument("--workers", type=int, default=2, help="by how many threads")
    _altitude(one)


def _add_solve(subs: Any) -> None:
    one = _add(
        subs,
        "solve",
        commands.solve_command,
        "the mix that does what is wanted",
        "solve sauce.json --texture 'heavy coat' --at-c 4 --max-yolks 8",
    )
    goal = one.add_mutually_exclusive_group(required=True)
    goal.add_argument("--texture", choices=tuple(TARGETS), help="a consistency at --at-c")
    goal.add_argument("--dairy", metavar="ID", help="all dairy replaced by this one at the same thickness")
    goal.add_argument("--chocolate", metavar="ID", help="chocolate replaced by this one")
    goal.add_argument("--yolks-in-hand", type=float, help="go on with fewer yolks")
    _number(one, "--at-c", 4, "serving temperature [degC]")
    _altitude(one)
    one.add_argument("--max-yolks", type=float, help="no more yolks than this")
    starch = one.add_mutually_exclusive_group()
    starch.add_argument("--no-starch", action="store_true", help="without any starch")
    starch.add_argument("--max-starch-g", type=float, help="no more starch and flour than this [g]")
    one.add_argument("--max-fat-percent", type=float, help="no more fat than this [%%]")
    one.add_argument("--max-cost", type=float, help="no dearer than this, by --prices")
    one.add_argument("--prices", metavar="FILE", help="JSON with a price a kilogram by ingredient")
