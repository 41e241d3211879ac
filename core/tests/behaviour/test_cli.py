"""The command, as a person types it."""

from __future__ import annotations

import io
import json

import custard
import pytest
from custard import cli

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
    assert set(data["window"]) == {"rate_k_per_min", "thickens_c", "nappe_c", "heavy_c", "curdles_c"}
    assert all(row["confidence"] in "HML" for row in data["parameters_used"])


def test_scale_writes_the_same_format(capsys, file):
    _, out, _ = run(capsys, "scale", file, "--yolks", "7")
    assert custard.read_formula(json.loads(out)).yolks() == pytest.approx(7, rel=1e-3)


def test_standard_input(capsys, monkeypatch, anglaise):
    text = json.dumps(custard.write_formula(anglaise)).encode()
    monkeypatch.setattr("sys.stdin", io.TextIOWrapper(io.BytesIO(text)))
    assert run(capsys, "assess", "-")[0] == 0


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
