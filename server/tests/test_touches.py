"""Few touches: what one mark shows of the stages before it, how it is usually cooled, what the probe ends."""

from __future__ import annotations

from datetime import timedelta

import custard
import pytest
from stove.live import follow
from stove.models import Batch, Mark

from tests.conftest import ANGLAISE, mark, work_off
from tests.test_cooling import FRIDGE, put_away, spot

SABAYON = [
    {"ingredient": "egg-yolk", "amount": "6"},
    {"ingredient": "white-sugar", "amount": "100 g"},
    {"ingredient": "white-wine-12", "amount": "150 ml"},
]


@pytest.fixture
def path(batch):
    return f"/api/k/here/batches/{batch.pk}"


def begun(cook, version, **more):
    body = {"formula_id": version.formula_id, "version": 1, "draft": {**ANGLAISE, **more}}
    answer = cook("POST", "/api/k/here/batches", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


def test_off_the_heat_ends_the_cook_and_into_the_ice_the_test(cook, path):
    body = cook("POST", f"{path}/marks", mark("off-heat", "cook")).json()
    assert (body["stage"], body["done"]) == ("test", ["cook"])
    body = cook("POST", f"{path}/marks", mark("into-ice", "chill")).json()
    assert (body["stage"], body["done"]) == ("chill", ["cook", "test"])


def test_back_on_the_heat_it_cooks_again(cook, path):
    for stage in ("weigh", "warm", "temper"):
        cook("POST", f"{path}/marks", mark("done", stage))
    cook("POST", f"{path}/marks", mark("off-heat", "cook"))
    body = cook("POST", f"{path}/marks", mark("back-on", "cook")).json()
    assert (body["stage"], "cook" in body["done"]) == ("cook", False)
    work_off()
    assert cook("GET", f"{path}/live").json()["phase"] != "off"
    body = cook("POST", f"{path}/marks", mark("off-heat", "cook")).json()
    assert body["stage"] == "test"


def test_several_marks_go_in_one_go_all_or_none(cook, path):
    three = [mark("tick", "weigh", line=line) for line in range(3)]
    body = cook("POST", f"{path}/marks/several", {"marks": three}).json()
    assert body["ticked"] == [0, 1, 2]
    # Sent again, with one more, each counts once.
    more = [*three, mark("done", "weigh")]
    body = cook("POST", f"{path}/marks/several", {"marks": more}).json()
    assert (body["stage"], len(body["marks"])) == ("warm", 4)
    wrong = [mark("tick", "weigh", line=0), mark("tick", "weigh", line=99)]
    answer = cook("POST", f"{path}/marks/several", {"marks": wrong})
    assert (answer.status_code, answer.json()["fields"][0]["field"]) == (422, "marks[1].line")
    assert len(cook("GET", path).json()["marks"]) == 4


@pytest.mark.parametrize(
    ("marks", "breaks", "off_s"),
    [
        ([], [], None),
        ([(5, "off-heat")], [], 5),
        ([(5, "off-heat"), (9, "back-on")], [(5, 9)], None),
        ([(5, "off-heat"), (9, "back-on"), (20, "off-heat")], [(5, 9)], 20),
        ([(2, "back-on"), (5, "off-heat"), (6, "off-heat")], [], 5),
    ],
)
def test_breaks_are_read_from_the_marks(marks, breaks, off_s):
    assert custard.stove.off_the_heat(marks) == (breaks, off_s)


def test_it_is_usually_cooled_as_the_last_of_its_kind(cook, version, path, batch):
    first = cook("GET", f"{path}/cooling").json()
    assert first["like"] is None
    assert first["wanted"]["ways"][0]["by"] == "ice-bath"
    assert first["plan"]["passes"]
    kept = {**first["wanted"], "vessel": {"kind": "tray", "length_cm": 40, "width_cm": 30, "height_cm": 4}}
    assert cook("PUT", f"{path}/cooling", kept).status_code == 200
    other = begun(cook, version)
    found = cook("GET", f"/api/k/here/batches/{other['id']}/cooling").json()
    assert found["like"] == batch.number
    assert found["wanted"]["vessel"]["kind"] == "tray"


def test_what_does_not_fit_the_usual_vessel_is_cooled_in_more_of_them(cook, version):
    large = begun(
        cook,
        version,
        lines=[{"ingredient": "whole-milk", "amount": "9 kg"}, {"ingredient": "egg-yolk", "amount": "2 kg"}],
    )
    found = cook("GET", f"/api/k/here/batches/{large['id']}/cooling").json()
    assert found["wanted"]["vessel"]["count"] > 1


def reads_of(began, *points):
    """A probe: minutes after it was put away, and what it reads."""
    return lambda batch, since, until: [
        (began + timedelta(minutes=at), c)
        for at, c in points
        if until is None or began + timedelta(minutes=at) <= until
    ]


COLD_SOON = [(minutes, max(3.0, 76 - 2.4 * minutes)) for minutes in range(0, 59, 2)]


def by_the_worker(batch):
    return list(Mark.objects.filter(batch=batch, kind="done", stage="chill"))


def test_a_probe_that_reads_cold_ends_the_chill_once(cook, path, batch):
    began = put_away(cook, path, batch, 60)
    cook("PUT", f"{path}/cooling", {**FRIDGE, "mass_g": 700, "ways": [{"by": "ice-bath", "stirred": True}]})
    follow.compute(batch.pk, read=reads_of(began, *COLD_SOON[:5]))
    assert by_the_worker(batch) == []
    for _ in range(2):
        follow.compute(batch.pk, read=reads_of(began, *COLD_SOON))
    [made] = by_the_worker(batch)
    body = cook("GET", path).json()
    assert body["stage"] == "keep"
    assert next(one for one in body["marks"] if one["id"] == str(made.pk))["by"] == "the worker"
    # Somebody who takes it back is believed.
    cook("POST", f"{path}/marks/{made.pk}/withdraw")
    follow.compute(batch.pk, read=reads_of(began, *COLD_SOON))
    assert cook("GET", path).json()["stage"] == "chill"


def test_the_clock_alone_proves_no_cold(cook, path, batch):
    began = put_away(cook, path, batch, 600)
    spot(cook, path, began + timedelta(minutes=20), 60)
    work_off()
    assert by_the_worker(batch) == []


def test_a_sabayon_is_tested_by_its_ribbon_and_needs_proof_of_heat(cook, version):
    body = begun(cook, version, family="sabayon", lines=SABAYON)
    path = f"/api/k/here/batches/{body['id']}"
    assert body["plan"]["served_at_once"]
    seen = cook("POST", f"{path}/marks", mark("ribbon", "test", what="mounds"))
    assert seen.status_code == 200
    assert Batch.objects.get(pk=body["id"]).coat == "mounds"
    wrong = cook("POST", f"{path}/marks", mark("ribbon", "test", what="nappe"))
    assert wrong.status_code == 422
    # A foam mounds raw, too: how it looks proves no heat.
    missing = cook("GET", f"{path}/life").json()["missing"]
    assert len(missing) == 1
    assert "temperature of its heat" in missing[0]


def test_a_chilled_sabayon_is_cooled_kept_and_put_on_the_shelf(cook, version):
    cream = {"ingredient": "whipping-cream-36", "amount": "200 g", "when": "folded when cool"}
    body = begun(cook, version, family="sabayon", lines=[*SABAYON, cream])
    path = f"/api/k/here/batches/{body['id']}"
    assert not body["plan"]["served_at_once"]
    assert len(cook("GET", f"{path}/life").json()["missing"]) == 2
    usual = cook("GET", f"{path}/cooling").json()
    assert usual["wanted"]["ways"][0]["by"] == "fridge"


def test_a_counter_asks_for_no_ice(cook, path):
    def said():
        stages = cook("GET", path).json()["plan"]["stages"]
        return next(one["say"] for one in stages if one["stage"] == "chill")

    assert "ice" in said()
    wanted = {"vessel": {"kind": "bowl", "length_cm": 24, "height_cm": 12}, "ways": [{"by": "counter"}]}
    assert cook("PUT", f"{path}/cooling", wanted).status_code == 200
    assert "ice" not in said()
