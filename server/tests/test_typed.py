"""What somebody types is a reading: the number, the alarm, the story and the record know of it."""

from __future__ import annotations

from datetime import timedelta

import pytest
from common import clock
from stove.models import Batch

from tests.conftest import mark, rewrite, work_off
from tests.test_trouble import ask

COOKED_FOR = timedelta(minutes=6)


@pytest.fixture
def path(batch):
    return f"/api/k/here/batches/{batch.pk}"


@pytest.fixture
def in_the_pan(cook, path, batch):
    """Since a few minutes, with no probe in it."""
    began = clock.now() - COOKED_FOR
    rewrite(Batch.objects.filter(pk=batch.pk), started_at=began - timedelta(minutes=20))
    for stage in ("weigh", "warm"):
        cook("POST", f"{path}/marks", mark("done", stage, at=began.isoformat()))
    cook("POST", f"{path}/marks", mark("done", "temper", at=began.isoformat(), temperature_c=70))
    return batch


@pytest.mark.parametrize(("celsius", "called"), [(78, False), (98, True)])
def test_past_curdling_it_is_called(cook, path, in_the_pan, celsius, called):
    cook("POST", f"{path}/marks", mark("moment", "cook", temperature_c=celsius))
    work_off()
    live = cook("GET", f"{path}/live").json()
    kinds = {one["kind"] for one in live["alarms"]}
    assert bool(kinds & {"past", "curdling"}) == called
    assert "probe-lost" not in kinds
    assert live["probe_c"] is None
    assert live["past"]["c"][-1] == celsius


def test_trouble_knows_how_hot_it_was(cook, path, in_the_pan):
    cook("POST", f"{path}/marks", mark("off-heat", "cook", temperature_c=98))
    told = ask(cook, batch_id=in_the_pan.pk, fault="split").json()
    assert told["curve"]["read"]
    assert max(told["curve"]["c"]) == pytest.approx(98, abs=0.5)
    assert "98" in told["causes"][0]["say"] + str(told["curve"]["c"])


def test_a_probe_goes_before_what_is_typed_where_it_is_silent(cook, path, in_the_pan):
    """Without a probe nothing is silent."""
    cook("POST", f"{path}/marks", mark("moment", "cook", temperature_c=75))
    with clock.at(clock.now() + timedelta(minutes=5)):
        work_off()
        live = cook("GET", f"{path}/live").json()
    assert live["probe_ago_s"] is None
    assert live["phase"] != "lost"
