"""A batch begins on the hob, in the pan and with the probe of last time, where they are free."""

from __future__ import annotations

from datetime import timedelta

import pytest
from book import actions as book
from common import clock
from devices import actions as devices
from devices.schemas import NewReading
from kitchen import actions as kitchen
from stove import actions as stove
from stove import setting_up
from stove.schemas import EquipmentWanted

from tests.conftest import ANGLAISE, close, draft, formula_of


@pytest.fixture
def fitted(here):
    ring = kitchen.add_hob(here["chef"], "front ring", 360, over_steam=False)
    iron = kitchen.add_pan(here["chef"], "the iron one", "cast-iron")
    probe = devices.register(here["chef"], "silver probe", devices.new_token(), "probe")
    return ring, iron, probe


@pytest.fixture
def before(here, batch, fitted):
    """A batch that was cooked on the ring, in the iron pan, with the probe."""
    ring, iron, probe = fitted
    wanted = EquipmentWanted(hob_id=ring.pk, pan_id=iron.pk, probe_id=probe.pk)
    setting_up.set_up(here["cook"], batch.pk, wanted)
    close(here["cook"], batch)
    batch.refresh_from_db()
    return batch


def start(here, version):
    return stove.start(here["cook"], version.formula_id, 1, formula_of(ANGLAISE))


def sends(probe):
    devices.take_readings(probe, [NewReading(at=clock.now(), celsius=62.0)])


def test_the_first_of_a_kitchen_is_on_nothing(batch):
    assert (batch.hob, batch.pan, batch.probes.count()) == (None, None, 0)


def test_the_next_is_as_the_last_was_with_the_same_number_to_lift_at(here, before, version):
    again = start(here, version)
    assert (again.hob, again.pan) == (before.hob, before.pan)
    assert again.equipment == before.equipment
    assert again.lift == before.lift
    again.refresh_from_db()
    assert again.lift == before.lift


def test_another_sauce_of_the_same_way_is_too_and_another_way_is_not(here, before):
    other = book.add(here["chef"], formula_of(draft(name="Another")))
    assert start(here, other).hob == before.hob
    cups = draft(name="Cups", family="baked-custard")
    baked = book.add(here["chef"], formula_of(cups))
    assert stove.start(here["cook"], baked.formula_id, 1, formula_of(cups)).hob is None


def test_a_hob_that_another_sauce_is_on_is_asked_for(here, before, version):
    first, second = start(here, version), start(here, version)
    assert (first.hob, second.hob) == (before.hob, None)
    assert second.pan == before.pan
    with clock.at(clock.now() + timedelta(hours=7)):
        assert start(here, version).hob == before.hob


def test_a_hob_that_was_removed_is_not_cooked_on(here, before, version):
    kitchen.remove_hob(here["chef"], before.hob_id)
    assert start(here, version).hob is None


def test_a_probe_is_in_it_only_while_it_sends_and_lies_in_no_other(here, before, version, fitted):
    _, _, probe = fitted
    assert start(here, version).probes.count() == 0
    sends(probe)
    with_it = start(here, version)
    assert with_it.probes.get(until=None).device == probe
    assert start(here, version).probes.count() == 0


def test_of_two_probes_that_send_it_is_not_known_which_is_meant(here, version, fitted):
    other = devices.register(here["chef"], "brass probe", devices.new_token(), "probe")
    sends(fitted[2])
    sends(other)
    assert start(here, version).probes.count() == 0
    devices.revoke(here["chef"], other.pk)
    assert start(here, version).probes.get().device == fitted[2]


def test_another_kitchen_knows_nothing_of_it(here, before, there):
    theirs = book.add(there["chef"], formula_of(ANGLAISE))
    batch = stove.start(there["cook"], theirs.formula_id, 1, formula_of(ANGLAISE))
    assert (batch.hob, batch.pan) == (None, None)
