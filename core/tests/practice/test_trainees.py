"""Trainees who do what the screen says pass; ones with a known mistake fail, and the debrief names it."""

from __future__ import annotations

from functools import cache

import custard
import pytest
from custard import practice
from trainees import (
    FOLLOWS,
    boils,
    careful,
    chills,
    debriefed,
    lifts,
    mounds,
    rescues,
    says,
    spiral,
    tempers,
)

SEEDS = (1, 5)
followed = cache(debriefed)


@pytest.mark.parametrize("seed", SEEDS)
@pytest.mark.parametrize("key", FOLLOWS)
def test_who_follows_the_words_passes(key, seed):
    said = followed(key, seed, FOLLOWS[key])
    assert said.passed, (said.most, said.items)
    assert said.points >= 90
    assert said.signs == practice.exercise(key).signs


def test_every_exercise_of_a_pan_has_someone_who_follows_it():
    asked = {key for key, one in practice.exercises().items() if one.kind in practice.ASKED}
    assert set(FOLLOWS) | asked == set(practice.exercises())


def without(follows, *kinds, when=lambda picture: True):
    """Somebody who follows the words, but for some acts."""

    def does(picture, mind):
        for row in follows(picture, mind):
            if not (row["do"] in kinds and when(picture)):
                yield row

    return does


def only_the_middle(picture, mind):
    for row in careful(picture, mind):
        yield spiral(picture.at_s, 0.15) if row["do"] == "stir" else row


def waits_for_the_sheen(picture, mind):
    yield spiral(picture.at_s)
    if says(picture, "sheen", "grainy"):
        yield from lifts(picture)


def lifts_at_the_foam(picture, mind):
    yield spiral(picture.at_s)
    if says(picture, "draws back"):
        yield from lifts(picture)


def leaves_it_in_the_pan(picture, mind):
    yield from without(careful, "out")(picture, mind)
    if picture.phase == "off" and mind.since("off", picture.at_s) > 60:
        yield {"do": "out"}


def off_at_the_first_bubbles(picture, mind):
    yield spiral(picture.at_s)
    if says(picture, "slow bubbles"):
        yield from lifts(picture)


def takes_it_off_at_ribbons(picture, mind):
    yield spiral(picture.at_s)
    if says(picture, "ribbons"):
        yield from lifts(picture)


def whisks_now_and_then(picture, mind):
    yield from without(mounds, "stir", when=lambda seen: seen.at_s % 30 > 6)(picture, mind)
    if picture.at_s > 420:
        yield from lifts(picture)


def pours_it_all(picture, mind):
    yield spiral(picture.at_s)
    if picture.bowl.left_g <= 0:
        yield {"do": "back"}
    elif "pour" in picture.can:
        yield {"do": "pour", "g_s": 150.0}


def dithers(picture, mind):
    if picture.at_s > 40:
        yield from rescues(picture, mind)


def throws_away(picture, mind):
    yield {"do": "throw"}


def deep_in_the_fridge(picture, mind):
    if mind.every("lay", 1e6, picture.at_s):
        yield {"do": "chill", "by": "fridge", "depth_mm": 60.0}
    else:
        yield {"do": "end"}


MISTAKES = {
    "stirs only the middle": ("nappe", only_the_middle, "unstirred"),
    "does not stir at all": ("nappe", without(careful, "stir"), "unstirred"),
    "waits until the sheen goes": ("nappe", waits_for_the_sheen, "sheen"),
    "is afraid of scrambled egg": ("nappe", lifts_at_the_foam, "early"),
    "leaves it in the iron pan": ("iron", leaves_it_in_the_pan, "stood"),
    "does not hear the flame": ("turned-up", without(careful, "flame"), "turned-up"),
    "leaves it on when called away": (
        "called-away",
        without(careful, "off", "on", when=lambda seen: says(seen, "called away", "back")),
        "away",
    ),
    "takes a cream off at the first bubbles": ("turn", off_at_the_first_bubbles, "starch-short"),
    "whisks a cream now and then": ("turn", without(boils, "stir", when=lambda p: p.at_s % 20 > 4), "lumps"),
    "takes a sabayon to the sheen": ("sabayon", waits_for_the_sheen, "sheen"),
    "takes a sabayon off at ribbons": ("sabayon", takes_it_off_at_ribbons, "under"),
    "whisks a sabayon now and then": ("sabayon", whisks_now_and_then, "slack"),
    "pours it all at once": ("temper", pours_it_all, "poured-fast"),
    "pours and does not whisk": ("temper", without(tempers, "stir"), "not-whisked"),
    "leaves a split one on the flame": ("rescue", dithers, "slow-off"),
    "throws away what could be saved": ("rescue", throws_away, "threw-good"),
    "does not blend": ("rescue", without(rescues, "blend"), "no-blend"),
    "puts it deep in the fridge": ("chill", deep_in_the_fridge, "too-deep"),
    "leaves it on the counter": ("chill", without(chills, "chill"), "too-deep"),
}


@pytest.mark.parametrize("mistake", MISTAKES)
def test_a_known_mistake_fails_for_its_reason(mistake):
    key, does, reason = MISTAKES[mistake]
    said = debriefed(key, 6, does)
    assert not said.passed, said.items
    assert said.reason == reason, (said.most, said.items)
    assert said.most
    assert said.signs == ()


def test_a_kept_one_past_saving_is_told():
    keeps = without(rescues, "throw")

    def does(picture, mind):
        yield from keeps(picture, mind)
        if picture.at_s > 5:
            yield {"do": "end"}

    said = next(
        said for said in (debriefed("rescue", seed, does) for seed in range(30)) if said.reason == "kept-lost"
    )
    assert not said.passed


def test_the_probe_costs_ten_points_and_teaches_no_sign():
    def asks(picture, mind):
        yield from careful(picture, mind)
        if "probe" in picture.can and picture.at_s > 20:
            yield {"do": "probe"}

    plain, asked = followed("nappe", 1, careful), debriefed("nappe", 1, asks)
    assert plain.points - asked.points == pytest.approx(10, abs=1)
    assert asked.passed
    assert asked.signs == ()


def to_the_rim(picture, mind):
    yield spiral(picture.at_s)
    if says(picture, "at the rim"):
        yield from lifts(picture)


MILK = (("whole-milk", "600 ml"), ("egg-yolk", 5), ("white-sugar", "90 g"))


@pytest.mark.parametrize("difficulty", [*practice.DIFFICULTIES][::2])
@pytest.mark.parametrize(
    ("family", "lines", "does"),
    [
        ("ice-base", (*MILK, ("double-cream-48", "200 ml"), ("glucose-syrup-42de", "40 g")), careful),
        ("anglaise", (("whole-milk", "1 l"), ("egg-yolk", 9), ("honey", "140 g")), careful),
        ("pouring-custard", ((*MILK, ("cornstarch", "15 g"))), to_the_rim),
        ("pastry-cream", ((*MILK, ("cornstarch", "45 g"))), boils),
        ("sabayon", (("egg-yolk", 4), ("white-sugar", "80 g"), ("fortified-wine-sweet", "100 ml")), mounds),
    ],
)  # fmt: skip
def test_any_formula_of_the_book_can_be_practised(make, family, lines, does, difficulty):
    exercise = practice.of_formula(make(family, *lines), difficulty)
    said = debriefed("", 4, does, exercise=exercise)
    assert said.passed, (said.most, said.items)


def test_what_is_baked_cannot(make):
    cups = make("baked-custard", ("whole-milk", "500 ml"), ("whole-egg", 3), ("white-sugar", "80 g"))
    with pytest.raises(custard.Impossible, match="set in the oven"):
        practice.of_formula(cups)
