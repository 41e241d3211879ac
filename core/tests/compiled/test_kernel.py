"""Compiled equals plain, and both agree with LSODA on the same equations written out again."""

from __future__ import annotations

import custard
import numba
import numpy as np
import pytest
from custard.physics import evaporation, starch
from custard.process.following.curve import along
from custard.process.heating import fresh, kernel, pan
from custard.process.heating.cook import constants, step_s
from custard.process.heating.many import simulate_many

from benchmarks.speed import ours, reference

MIXES = {
    "anglaise": (("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")),
    "starch": (("whole-milk", "500 ml"), ("egg-yolk", 5), ("white-sugar", "90 g"), ("cornstarch", "12 g")),
    "sweet": (("evaporated-milk", "400 g"), ("egg-yolk", 4), ("white-sugar", "240 g")),
    "cream": (("double-cream-48", "500 ml"), ("egg-yolk", 6), ("white-sugar", "80 g")),
}


def numbers(make, name, power, **more):
    mixture = custard.mix(make("anglaise", *MIXES[name]))
    return constants(mixture, custard.process.Stove(power_w=power, **more))


@pytest.mark.parametrize("name", MIXES)
def test_compiled_equals_plain(make, name):
    k = numbers(make, name, 400.0)
    arguments = (k, kernel.Asked(60.0, 84.0, 20.0, 30.0, 300.0), step_s(k), 5)
    fast_rows, slow_rows = np.empty((200, kernel.COLUMNS)), np.empty((200, kernel.COLUMNS))
    fast = kernel.simulate(*arguments, fast_rows)
    slow = kernel.simulate.py_func(*arguments, slow_rows)
    assert fast[0] == slow[0]
    assert fast[1] == pytest.approx(slow[1])
    assert fast_rows[: fast[0]] == pytest.approx(slow_rows[: slow[0]], rel=1e-9, abs=1e-12)


@pytest.mark.parametrize("name", MIXES)
def test_along_a_curve_compiled_equals_plain(make, name):
    k = numbers(make, name, 400.0)._replace(traces=1.0)
    celsius = np.linspace(70.0, 88.0, 120)
    stirred = np.where(np.arange(120) < 80, k.stirring, float(pan.STILL))
    arguments = (celsius, np.gradient(celsius), stirred, stirred, 1.0, 300.0)
    fast, slow = kernel.at_rest(70.0), kernel.at_rest(70.0)
    assert along(k, fast, *arguments) == pytest.approx(along.py_func(k, slow, *arguments))
    assert fast == pytest.approx(slow, rel=1e-9, abs=1e-12)


@pytest.mark.parametrize("name", MIXES)
@pytest.mark.parametrize(("power", "end_s"), [(150.0, 1200.0), (350.0, 560.0)])
def test_the_kernel_agrees_with_lsoda(make, name, power, end_s):
    k = numbers(make, name, power)
    truth, found = reference(k, 20.0, end_s), ours(k, 20.0, end_s)
    assert truth[0] > 60
    assert found[0] == pytest.approx(truth[0], abs=0.1)
    assert found[2:] == pytest.approx(truth[2:], abs=0.01)


def test_many_at_once_equal_one_by_one(make):
    ks = [numbers(make, name, 350.0) for name in MIXES]
    starts, lifts = np.full(len(ks), 62.0), np.full(len(ks), 83.0)
    ends = simulate_many(np.concatenate([pan.rows_of(k) for k in ks]), starts, lifts, 0.0, 0.0, 900.0, 1.0)
    for k, end in zip(ks, ends, strict=True):
        _, _, alone = kernel.simulate(
            k, kernel.Asked(62.0, 83.0, 0.0, 0.0, 900.0), 1.0, 1 << 30, np.empty((0, kernel.COLUMNS))
        )
        assert end == pytest.approx(alone)


@pytest.mark.parametrize("name", MIXES)
def test_a_map_s_cell_is_the_same_cook_with_less_followed(make, name):
    mixture, stove = custard.mix(make("anglaise", *MIXES[name])), custard.process.Stove(power_w=300.0)
    whole = constants(mixture, stove)
    cell = constants(mixture, stove, look_c=80.0)
    rows = np.empty((0, kernel.COLUMNS))
    _, _, a = kernel.simulate(whole, kernel.Asked(62.0, 79.0, 0.0, 0.0, 3600.0), 2.0, 1 << 30, rows)
    _, _, b = kernel.simulate(cell, kernel.Asked(62.0, 79.0, 0.0, 0.0, 3600.0), 2.0, 1 << 30, rows)
    _, _, plain = kernel.simulate.py_func(
        cell, kernel.Asked(62.0, 79.0, 0.0, 0.0, 3600.0), 2.0, 1 << 30, rows
    )
    same = [kernel.T_S, kernel.SAUCE_C, kernel.BASE_C, kernel.THICKENED, kernel.CURDLED, kernel.GELATINISED]
    assert b[same] == pytest.approx(a[same], rel=1e-9)
    assert b == pytest.approx(plain, rel=1e-9, abs=1e-12)
    _, _, looked = kernel.simulate(cell, kernel.Asked(62.0, 200.0, 0.0, 0.0, 3600.0), 2.0, 1 << 30, rows)
    assert looked[kernel.LOOK_PA] > 0
    assert looked[kernel.NAPPE_C] < 100


def test_constants_survive_packing(make):
    k = numbers(make, "starch", 350.0)
    [row] = pan.rows_of(k)
    assert row.tolist() == tuple(k)
    assert pan.rows_of(k._replace(set_c=np.array([70.0, 80.0])), 2)["set_c"].tolist() == [70.0, 80.0]


def test_the_looked_up_laws_are_the_laws():
    for t in np.linspace(0, 129, 200):
        assert pan.lookup(pan.FLUX_TABLE, t) == pytest.approx(evaporation.flux(t))
        assert pan.lookup(pan.CAPACITY_TABLE, t) == pytest.approx(starch.capacity(t, 0.0))


def test_half_the_step_changes_little(make):
    k = numbers(make, "anglaise", 350.0)
    empty = np.empty((0, kernel.COLUMNS))
    coarse, fine = (
        kernel.simulate(k, kernel.Asked(60.0, 84.0, 0.0, 60.0, 900.0), dt, 1 << 30, empty)
        for dt in (step_s(k), step_s(k) / 8)
    )
    assert coarse[1] == pytest.approx(fine[1], rel=5e-3)
    assert coarse[2][kernel.THICKENED] == pytest.approx(fine[2][kernel.THICKENED], abs=0.01)
    assert coarse[2][kernel.CURDLED] == pytest.approx(fine[2][kernel.CURDLED], abs=0.01)


def test_compiled_code_from_other_sources_is_forgotten(tmp_path, monkeypatch):
    cache = tmp_path / "__pycache__"
    cache.mkdir()
    monkeypatch.setattr(fresh, "PROCESS", tmp_path)
    monkeypatch.setattr(numba.config, "CACHE_DIR", "")
    (cache / "kernel.simulate.nbi").write_bytes(b"")
    fresh.forget_stale()
    assert not list(cache.glob("*.nbi"))
    (cache / "kernel.simulate.nbi").write_bytes(b"")
    fresh.forget_stale()
    assert list(cache.glob("*.nbi"))


def test_whole_numbers_are_not_compiled_for_once_more(anglaise):
    """Half a minute went by before the first answer to a target or a power without a decimal point."""
    custard.compile_kernels()
    stove = custard.process.Stove(power_w=400)
    assert custard.stove.time_to(custard.mix(anglaise), [0.0], [60.0], 80, stove).seconds > 0
    assert custard.process.cook(custard.mix(anglaise), 60, 80, stove).lift_s > 0
    # The other is for rows of a map.
    assert sum("Constants" in str(first) for first, *_ in kernel.simulate.signatures) == 1
