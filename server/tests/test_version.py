"""What was weighed is what is said: the version, and in what a batch differs from it."""

from __future__ import annotations

import custard
import pytest
from stove.models import Batch

from tests.conftest import ANGLAISE, formula_of, put, with_line


def taken(cook, version, draft):
    body = {"formula_id": version.formula_id, "version": 1, "draft": draft}
    return cook("POST", "/api/k/here/batches", body).json()["id"]


def test_sugar_changed_at_the_bench_is_told_on_page_label_and_record(cook, version):
    key = taken(cook, version, with_line(2, amount="100 g"))
    words = ["white sugar 100 g for 90 g"]
    assert cook("GET", f"/api/k/here/batches/{key}").json()["changed"] == words
    tub = put(cook, Batch.objects.get(pk=key), kept_g=300)
    assert cook("GET", f"/api/k/here/labels?tub={tub.pk}").json()[0]["changed"] == words[0]
    record = cook("GET", f"/api/k/here/batches/{key}/record").json()["batches"][0]
    assert (record["version"], record["changed"]) == (1, words)


def test_only_scaled_it_is_the_version(cook, version):
    scaled = formula_of(ANGLAISE).times(2.5)
    draft = {**ANGLAISE, "lines": custard.write_formula(scaled)["lines"]}
    assert cook("GET", f"/api/k/here/batches/{taken(cook, version, draft)}").json()["changed"] == []


def test_of_two_lines_the_one_that_was_changed_is_named():
    def two(sugar):
        lines = [
            {"ingredient": "whole-milk", "amount": "500 g"},
            {"ingredient": "white-sugar", "amount": sugar},
        ]
        return formula_of({**ANGLAISE, "lines": lines})

    assert custard.bench.changed_from(two("90 g"), two("100 g")) == ("white sugar 100 g for 90 g",)
    assert custard.bench.changed_from(two("90 g"), two("90 g").times(3)) == ()


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"amount": "5 yolks"}, "egg yolk 85 g for 101 g"),
        ({"ingredient": "whole-egg", "amount": "2 eggs"}, "no egg yolk for"),
    ],
)
def test_whatever_differs_is_named(cook, version, change, words):
    found = cook("GET", f"/api/k/here/batches/{taken(cook, version, with_line(1, **change))}").json()
    assert words in "; ".join(found["changed"])
