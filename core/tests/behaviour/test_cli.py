"""The command, as a person types it."""

from __future__ import annotations

import io
import json

import custard
import pytest
from custard import cli
from custard.advice.mix.used import parameters_used

PROMISED = {
    "mass_g",
    "fractions",
    "sugars_in_aqueous_percent",
    "ethanol_in_aqueous_percent",
    "egg_protein_percent",
    "starch_in_aqueous_percent",
    "boiling_c",
    "window",
    "texture",
    "yield_g",
    "whites_left_g",
    "allergens",
    "parameters_used",
}


@pytest.fixture
def file(tmp_path, anglaise):
    path = tmp_path / "sauce.json"
    path.write_text(json.dumps(custard.write_formula(anglaise)))
    return str(path)


def run(capsys, *argv):
    status = cli.main(argv)
    captured = capsys.readouterr()
    return status, captured.out, captured.err


def test_assess_answers_with_every_promised_key(capsys, file):
    status, out, _ = run(capsys, "assess", file)
    data = json.loads(out)
    assert status == 0
    assert set(data) >= PROMISED
    assert sum(data["fractions"].values()) == pytest.approx(1, abs=1e-5)
    assert set(data["window"]) == {"rate_k_per_min", "thickens_c", "nappe_c", "heavy_c", "curdles_c", "band"}
    assert all(low < high for low, high in data["window"]["band"].values())
    assert all(row["confidence"] in "HML" for row in data["parameters_used"])


def test_only_parameters_that_were_used_are_listed(make):
    def used(formula):
        return {one.name for one in parameters_used(formula)}

    milk, yolk, sugar = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")
    plain = used(make("anglaise", milk, yolk, sugar))
    assert {"set_base_c", "stirred_limit_pa", "protein_setback"} <= plain
    assert not {"ethanol_shift_k", "starch_guard_k", "unstirred_gap_k", "cocoa_butter_factor"} & plain
    assert "starch_guard_k" in used(make("anglaise", milk, yolk, sugar, ("cornstarch", "8 g")))
    cups = used(make("baked-custard", milk, yolk, sugar))
    assert "unstirred_gap_k" in cups
    assert "stirred_limit_pa" not in cups


def test_scale_writes_the_same_format(capsys, file):
    _, out, _ = run(capsys, "scale", file, "--yolks", "7")
    assert custard.read_formula(json.loads(out)).yolks() == pytest.approx(7, rel=1e-3)


@pytest.mark.parametrize("words", [("assess", "-"), ("diagnose", "-", "--seen", "too-thick")])
def test_standard_input(capsys, monkeypatch, anglaise, words):
    text = json.dumps(custard.write_formula(anglaise)).encode()
    monkeypatch.setattr("sys.stdin", io.TextIOWrapper(io.BytesIO(text)))
    assert run(capsys, *words)[0] == 0


@pytest.mark.parametrize(
    "text",
    ["", "{", "[]", "null", '{"format": "old-spoon/formula"}', "[" * 100_000, "\x00", '{"version": NaN}'],
)
def test_bad_files_are_one_line_and_exit_2(capsys, tmp_path, text):
    path = tmp_path / "bad.json"
    path.write_text(text)
    status, out, err = run(capsys, "assess", str(path))
    assert (status, out, len(err.splitlines())) == (2, "", 1)


@pytest.mark.parametrize(
    "argv",
    [
        ("assess", "/no/such/file"),
        ("assess", "FILE", "--altitude-m", "90000"),
        ("scale", "FILE", "--yolks", "-3"),
        ("scale", "FILE", "--portions", "12"),
        ("scale", "FILE", "--dish-ml", "nan"),
    ],
)
def test_bad_options_are_one_line_and_exit_2(capsys, file, argv):
    status, out, err = run(capsys, *(file if word == "FILE" else word for word in argv))
    assert (status, out, len(err.splitlines())) == (2, "", 1)


def test_a_wrong_command_is_one_line_and_exit_2(capsys):
    with pytest.raises(SystemExit) as left:
        cli.main(["stir"])
    assert left.value.code == 2
    assert len(capsys.readouterr().err.splitlines()) == 1


COMMANDS = [
    ("temper", "FILE", "--school", "ladle", "--hot-c", "95", "--ladle-g", "80"),
    ("cook", "FILE", "--start-c", "70", "--power-w", "350", "--stir", "whisk", "--lift-c", "82"),
    (
        "chill",
        "FILE",
        "--from-c",
        "80",
        "--to-c",
        "5",
        "--by",
        "ice-bath",
        "--mass-g",
        "700",
        "--depth-mm",
        "50",
    ),
    ("bake", "FILE"),
    ("whisk", "FILE", "--lift-c", "70"),
    ("solve", "FILE", "--texture", "heavy coat", "--at-c", "4"),
    ("rescue", "FILE", "--fault", "too-thick"),
    ("keep", "FILE", "--hours", "12", "--warm-c", "62", "--reheat-c", "70", "--frozen-days", "10"),
]
KEYS = {
    "temper": {"pours", "landing_c", "worst_local_curdling", "to_go_c"},
    "cook": {"curve", "lift_s", "peak_c", "texture", "bits_percent", "caught"},
    "chill": {"curve", "time_to_21_s", "time_to_5_s", "verdict", "greatest_depth_mm"},
    "bake": {"curve", "out_s", "wobble"},
    "whisk": {"curve", "volume_ratio", "word"},
    "solve": {"changes", "formula", "reached"},
    "rescue": {"cause", "saved", "steps", "add"},
    "keep": {"keeps", "stood", "warm", "reheated", "thawed", "caution"},
}


@pytest.mark.parametrize("argv", COMMANDS, ids=lambda argv: argv[0])
def test_every_command_answers_in_json_and_as_a_table(capsys, file, argv):
    words = [file if word == "FILE" else word for word in argv]
    status, out, _ = run(capsys, *words)
    data = json.loads(out)
    assert status == 0
    assert set(data) >= KEYS[argv[0]]
    if "salmonella_logs" in data:
        assert "never clearance" in data["caution"]
    if "curve" in data:
        assert len({len(column) for column in data["curve"].values()}) == 1
        assert {"t_s", "sauce_c", "base_c", "thickened", "curdled"} <= set(data["curve"]) or argv[0] != "cook"
    status, out, _ = run(capsys, *words, "--table")
    assert status == 0
    assert len(out.splitlines()) >= 3


BANDED = {
    "temper": ("landing_c", 40, 95),
    "cook": ("lift_s", 60, 600),
    "chill": ("time_to_21_s", 300, 5000),
    "bake": ("out_s", 1000, 5000),
    "whisk": ("volume_ratio", 1.5, 5),
}


@pytest.mark.parametrize("argv", [a for a in COMMANDS if a[0] in BANDED], ids=lambda argv: argv[0])
def test_what_takes_time_can_carry_its_band(capsys, file, argv):
    status, out, _ = run(capsys, *(file if word == "FILE" else word for word in argv), "--band")
    assert status == 0
    name, low, high = BANDED[argv[0]]
    band = json.loads(out)["band"][name]
    assert low < band[0] < band[1] < high


def test_prices_come_from_a_file(capsys, tmp_path, file):
    prices = tmp_path / "prices.json"
    prices.write_text(json.dumps({"whole-milk": 1.1, "egg-yolk": 9, "white-sugar": 1.2, "cornstarch": 2}))
    words = ("solve", file, "--texture", "heavy coat", "--max-cost", "2.5", "--prices", str(prices))
    status, out, _ = run(capsys, *words)
    assert status == 0
    assert "heavy coat" in json.loads(out)["reached"]
    status, _, err = run(capsys, *words[:5], "0.5", *words[6:])
    assert (status, err.split(":")[0]) == (2, "--max-cost")


def test_a_refusal_names_the_option_as_it_was_typed(capsys, file):
    assert run(capsys, "cook", file, "--left-in-pan-s", "-1")[2].startswith("--left-in-pan-s: ")
    assert run(capsys, "scale", file, "--pan-ml", "0")[2].startswith("--pan-ml: ")


def test_a_cook_can_be_calibrated_from_its_own_curve(capsys, tmp_path, file):
    _, out, _ = run(capsys, "cook", file, "--start-c", "40", "--lift-c", "78", "--power-w", "420")
    log = tmp_path / "log.json"
    log.write_text(out)
    status, out, _ = run(capsys, "calibrate", file, "--curve", str(log))
    assert status == 0
    assert json.loads(out)["power_w"] == pytest.approx(420, rel=0.02)


@pytest.mark.parametrize("ending", ["png", "svg"])
def test_a_plot(capsys, tmp_path, file, ending):
    path = tmp_path / f"cook.{ending}"
    assert run(capsys, "cook", file, "--plot", str(path))[0] == 0
    assert path.stat().st_size > 5000


@pytest.mark.parametrize(
    "argv",
    [
        ("cook", "FILE", "--start-c", "300"),
        ("cook", "FILE", "--power-w", "nan"),
        ("cook", "FILE", "--plot", "/no/such/place.png"),
        ("assess", "FILE", "--plot", "x.png"),
        ("cook", "FILE", "--plot", "x.gif"),
        ("chill", "FILE", "--by", "fridge", "--depth-mm", "0"),
        ("chill", "FILE", "--by", "fridge", "--from-c", "20", "--to-c", "60"),
        ("calibrate", "FILE", "--curve", "FILE"),
        ("solve", "FILE", "--chocolate", "dark-chocolate-70"),
        ("whisk", "FILE", "--lift-c", "99", "--power-w", "10"),
        ("solve", "FILE", "--texture", "nappe", "--max-cost", "1"),
        ("solve", "FILE", "--texture", "nappe", "--prices", "FILE"),
        ("scale", "FILE", "--pan-ml", "900", "--head-room", "1"),
    ],
)
def test_what_cannot_be_is_one_line_and_exit_2(capsys, file, argv):
    status, out, err = run(capsys, *(file if word == "FILE" else word for word in argv))
    assert (status, out, len(err.splitlines())) == (2, "", 1)


CHILL = ("chill", "FILE", "--mass-g", "700", "--depth-mm", "25")


@pytest.mark.parametrize(
    ("more", "says"),
    [
        (("--by", "ice-bath", "--stirred", "--ice-g", "200"), "the ice is gone after"),
        (("--by", "ice-bath", "--stirred"), "keeps to 60 °C to 10 °C"),
        (("--by", "counter", "--then", "fridge-covered", "--after-min", "120"), "2 h are allowed"),
    ],
)
def test_cooling_tells_of_ice_that_runs_out_and_of_two_ways(capsys, file, more, says):
    status, out, _ = run(capsys, *(file if word == "FILE" else word for word in CHILL), *more)
    assert status == 0
    assert says in json.loads(out)["why"]


@pytest.mark.parametrize(
    ("more", "names"),
    [
        ((*CHILL, "--by", "counter", "--then", "fridge", "--band"), "two ways"),
        ((*CHILL, "--by", "ice-bath", "--ice-g", "-5"), "ice_g"),
        ((*CHILL, "--by", "fridge", "--ice-g", "500"), "has no ice in it"),
        (("bake", "FILE", "--bath-c", "62"), "never sets in the middle"),
        (("keep", "FILE", "--hours", "-1"), "hours"),
        (("keep", "FILE", "--hottest-c", "400"), "hottest_c"),
    ],
)
def test_what_cannot_be_cooled_or_baked_is_one_line_and_exit_2(capsys, file, more, names):
    status, out, err = run(capsys, *(file if word == "FILE" else word for word in more))
    assert (status, out, len(err.splitlines())) == (2, "", 1)
    assert names in err or f"--{names.replace('_', '-')}" in err


@pytest.mark.parametrize(
    ("more", "days", "why"),
    [
        ((), 3, "usual for"),
        (("--hottest-c", "66"), 0, "cooked to less than 70 °C"),
        (("--cooled-too-slowly",), 0, "cooled too slowly: discard it"),
    ],
)
def test_how_long_it_keeps_follows_what_was_done(capsys, file, more, days, why):
    status, out, _ = run(capsys, "keep", file, *more)
    told = json.loads(out)["keeps"]
    assert (status, told["days"]) == (0, days)
    assert why in told["why"]


def test_the_practice_table_is_told_with_how_much_of_it_is_inside(capsys):
    status, out, _ = run(capsys, "validation")
    told = json.loads(out)
    assert status == 0
    assert told["of"] == len(told["rows"])
    assert told["inside"] == sum(row["inside"] for row in told["rows"])
    assert not any("{" in row["what"] for row in told["rows"])


def test_milk_that_splits_is_warned_of(capsys, tmp_path, make):
    lines = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g"), ("lemon-juice", "70 ml")
    path = tmp_path / "sour.json"
    path.write_text(json.dumps(custard.write_formula(make("anglaise", *lines))))
    [warning] = json.loads(run(capsys, "assess", str(path))[1])["warnings"]
    assert "splits" in warning
    assert "{" not in warning


def test_finish_tells_what_joins_and_what_comes_of_it(capsys, tmp_path):
    path = tmp_path / "cremeux.json"
    lines = [("whole-milk", "500 g"), ("egg-yolk", "6"), ("dark-chocolate-65", "180 g"), ("bay-leaf", "2")]
    formula = {
        "format": "old-spoon/formula",
        "version": 2,
        "name": "x",
        "family": "cremeux",
        "lines": [{"ingredient": name, "amount": amount} for name, amount in lines],
    }
    path.write_text(json.dumps(formula))
    status, out, _ = run(capsys, "finish", str(path))
    told = json.loads(out)
    assert status == 0
    (one,) = told["additions"]
    assert "180 g" in one["say"]
    assert one["ladles"][-1]["look"] == "shines"
    assert told["infusing"]["top_up_g"] > 0
    assert run(capsys, "finish", str(path), "--dish-cm", "900")[0] == 0
