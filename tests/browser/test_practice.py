"""Practice as a trainee meets it: drawn in with mouse, finger and keys, told in words, debriefed, set."""

from __future__ import annotations

import math
import re
import uuid

import pytest
from conftest import KITCHEN, no_axe_violation
from playwright.sync_api import Page, expect
from prepared import API, batch_with_probe, call
from test_every_screen import right_on_a_phone

STEP_S = 0.2


class Led:
    """An attempt brought along over the API, so that a test need not stir for minutes."""

    def __init__(self, page: Page, key: str, **how: object) -> None:
        self.page, self.at_s, self.after = page, 0.0, 0
        wanted = {"id": str(uuid.uuid4()), "key": key, **how}
        self.id = call(page, "POST", f"{API}/practice/attempts", wanted)["id"]

    def stir(self, seconds: float, *, left: bool = True) -> dict:
        """Stir all of it for a while, or all but its left."""
        acts, until = [], self.at_s + seconds
        while self.at_s < until - 1e-6:
            self.at_s = round(self.at_s + STEP_S, 3)
            radius = 0.12 + 0.75 * abs((self.at_s / 2.2) % 2 - 1)
            x, y = radius * math.cos(5.7 * self.at_s), radius * math.sin(5.7 * self.at_s)
            acts.append({"at": self.at_s, "do": "stir", "x": x if left or x > -0.1 else 0.3, "y": y})
        return self.send(acts)

    def send(self, acts: list[dict]) -> dict:
        body = {"after": self.after, "acts": acts, "until": self.at_s}
        shown = call(self.page, "POST", f"{API}/practice/attempts/{self.id}/acts", body)
        self.after = shown["after"]
        return shown["picture"]

    def until(self, words: str, *, left: bool = True) -> None:
        """Stir until the screen would say so."""
        for _ in range(120):
            if any(words in tell for tell in self.stir(4.0, left=left)["tells"]):
                return
        raise AssertionError(f"never {words}")

    def open(self) -> None:
        self.page.goto(f"{KITCHEN}/practice/{self.id}")
        self.page.get_by_role("button", name="Go on").wait_for()


def pan(page: Page):
    return page.get_by_role("group", name="The pan")


def draw(page: Page, seconds: float, x0: float = -0.75, x1: float = 0.75) -> None:
    """Draw to and fro over a part of the pan with the mouse."""
    box = pan(page).bounding_box()
    radius = box["width"] / 2 * 200 / 244
    at = lambda x, y: (  # noqa: E731 shorter here
        box["x"] + box["width"] / 2 + radius * x,
        box["y"] + box["height"] / 2 - radius * y,
    )
    page.mouse.move(*at(x0, 0))
    page.mouse.down()
    for step in range(int(seconds / 0.06)):
        share = (1 + math.sin(step * 0.55)) / 2
        page.mouse.move(*at(x0 + share * (x1 - x0), 0.65 * math.sin(step * 0.9)))
        page.wait_for_timeout(60)
    page.mouse.up()


@pytest.fixture
def kept(seeded):
    """What was done in an attempt after so many messages, as it was kept."""

    def acts(led: Led) -> list[dict]:
        query = "SELECT rows FROM practice_acts WHERE attempt_id = %s AND number > %s ORDER BY number"
        return [act for (rows,) in seeded.connection.execute(query, (led.id, led.after)) for act in rows]

    return acts


def test_the_place_and_what_was_learned(device):
    page = device("trainee")
    page.goto(f"{KITCHEN}/practice")
    page.get_by_role("heading", name="Exercises").wait_for()
    expect(page.get_by_role("region", name="Set for you")).to_contain_text("before you do it for service")
    nappe = page.get_by_role("listitem").filter(has_text="Nappe by eye").filter(has_text="Stir all")
    expect(nappe).to_contain_text("passed · 2 tries · best 100")
    expect(page.get_by_role("region", name="Signs")).to_contain_text("the coat on the spoon (recognised)")
    expect(page.get_by_role("button", name="Set it")).to_have_count(0)
    right_on_a_phone(page)
    page.get_by_label("Formula", exact=True).select_option(label="Perry sabayon")
    page.get_by_label("The hob is").select_option(label="far off")
    page.get_by_role("button", name="Practise it").click()
    expect(page.get_by_role("heading", name="Perry sabayon")).to_be_visible()
    expect(page.get_by_role("button", name="Off the steam")).to_be_disabled()
    right_on_a_phone(page)


def test_a_spot_left_alone_shows_and_drawing_there_sweeps_it(device, kept):
    page = device("trainee")
    led = Led(page, "nappe")
    led.until("film", left=False)
    led.open()
    drawing = page.get_by_role("img", name="The pan from above")
    expect(drawing).to_have_accessible_name(re.compile("film"))
    hatched = drawing.locator("path[fill*='film']")

    def lies() -> set[str]:
        return {one.get_attribute("d") for one in hatched.all()}

    before = lies()
    assert before
    page.get_by_role("button", name="Go on").click()
    # Elsewhere it may grow meanwhile: drawing goes on until it was seen to go where it lay.
    for _ in range(20):
        draw(page, 1.0)
        if before - lies():
            break
    assert before - lies()
    stirred = [act for act in kept(led) if act["do"] == "stir"]
    assert min(act["x"] for act in stirred) < -0.6
    assert max(act["x"] for act in stirred) > 0.6
    assert [act["at"] for act in stirred] == sorted(act["at"] for act in stirred)
    no_axe_violation(page)


def test_a_whole_attempt_by_keys_alone(device, kept):
    """Begun by words, whisked by the space bar, dipped, lifted, told, and again."""
    page = device("trainee")
    led = Led(page, "nappe")
    led.until("drags")
    led.open()
    page.get_by_role("button", name="Go on").press("Enter")
    pan(page).focus()
    page.keyboard.down(" ")
    page.wait_for_timeout(1500)
    page.keyboard.up(" ")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("d")
    spoon = page.get_by_role("region", name="The spoon")
    expect(spoon).to_contain_text(re.compile("thin coat|nappe"))
    page.keyboard.press("-")
    expect(page.get_by_text("3 of 10")).to_be_visible()
    page.keyboard.press("o")
    expect(page.get_by_role("button", name="Back on the heat")).to_be_enabled()
    page.keyboard.press("i")
    expect(page.get_by_role("heading", level=1)).to_contain_text("of a hundred")
    done = [act["do"] for act in kept(led)]
    assert done.count("stir") > 12
    assert [what for what in done if what not in ("stir", "rest")] == ["dip", "flame", "off", "out"]
    expect(page.get_by_role("img", name="The pan at")).to_have_count(5)
    expect(page.get_by_role("img", name="Curve of")).to_be_visible()
    expect(page.get_by_text("The hob gave")).to_be_visible()
    right_on_a_phone(page)
    page.keyboard.press("u")
    expect(page.get_by_role("row", name="landing")).to_contain_text(re.compile(r"1[67]\d°"))


def test_again_from_where_it_went_wrong(device):
    page = device("trainee")
    page.goto(f"{KITCHEN}/practice")
    page.get_by_role("region", name="Lately").get_by_role("link", name="Nappe by eye").last.click()
    expect(page.get_by_text("not passed yet")).to_be_visible()
    expect(page.get_by_text("sheen had gone").first).to_be_visible()
    again = page.get_by_role("button", name=re.compile(r"Again from \d:\d\d"))
    begins = again.inner_text().removeprefix("Again from ")
    again.click()
    expect(page.get_by_text(f"From {begins} on, on the same hob as before.")).to_be_visible()
    page.get_by_role("button", name="Go on").click()
    page.get_by_role("button", name="Off the heat").click()
    page.get_by_role("button", name="Through the sieve").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("of a hundred")


def test_with_a_finger_on_a_phone_and_with_less_motion(device, kept):
    page = device("trainee", width=390, height=844)
    page.emulate_media(reduced_motion="reduce")
    led = Led(page, "nappe")
    led.until("steam, steady")
    led.open()
    assert pan(page).bounding_box()["y"] + pan(page).bounding_box()["height"] < 844
    no_axe_violation(page)
    page.get_by_role("button", name="Go on").click()
    box = pan(page).bounding_box()
    finger = page.context.new_cdp_session(page)
    point = lambda n: {"x": box["x"] + box["width"] * (0.3 + 0.04 * n), "y": box["y"] + box["height"] / 2}  # noqa: E731
    finger.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [point(0)]})
    for n in range(1, 10):
        finger.send("Input.dispatchTouchEvent", {"type": "touchMove", "touchPoints": [point(n)]})
        page.wait_for_timeout(80)
    finger.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
    page.wait_for_timeout(500)
    xs = [act["x"] for act in kept(led) if act["do"] == "stir"]
    assert len(xs) >= 6
    assert xs == sorted(xs)
    steam = page.locator("path.steam").first
    assert steam.evaluate("(node) => getComputedStyle(node).animationName") == "none"
    for name in ("Dip the spoon", "Off the heat", "Through the sieve, into ice"):
        assert page.get_by_role("button", name=name).bounding_box()["height"] >= 72


def test_without_a_network_time_stands_and_nothing_is_lost(device):
    page = device("trainee")
    page.goto(f"{KITCHEN}/practice")
    page.get_by_role("button", name="Again Nappe by eye").click()
    page.get_by_role("button", name="Begin", exact=True).click()
    page.get_by_role("button", name="whisk round").click()
    page.context.set_offline(True)
    expect(page.get_by_text("The kitchen does not answer. Time stands")).to_be_visible()
    page.get_by_role("button", name="Off the heat").click()
    page.context.set_offline(False)
    expect(page.get_by_text("The kitchen does not answer")).to_be_hidden()
    expect(page.get_by_role("button", name="Back on the heat")).to_be_visible()


def test_two_screens_do_not_play_one_attempt(device):
    page = device("trainee")
    led = Led(page, "nappe")
    led.stir(3.0)
    led.open()
    led.stir(3.0)
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_text("went on somewhere else meanwhile")).to_be_visible()
    page.get_by_role("button", name="Show it as it stands").click()
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_text("0:07").or_(page.get_by_text("0:08")).first).to_be_visible()


def test_a_bowl_a_tub_and_three_questions(device):
    page = device("trainee")

    def begin(name: str) -> None:
        page.goto(f"{KITCHEN}/practice")
        page.get_by_role("button", name=re.compile(f"(Begin|Again) {name}")).click()
        page.get_by_role("button", name="Begin", exact=True).click()

    def told() -> None:
        expect(page.get_by_role("heading", level=1)).to_contain_text("of a hundred")

    begin("Temper without scrambling")
    page.get_by_role("button", name="whisk round").click()
    page.keyboard.press("2")
    expect(page.get_by_text("25 g a second")).to_be_visible()
    no_axe_violation(page)
    page.get_by_role("button", name="All back into the pan").click()
    told()
    begin("Chill in time")
    page.get_by_role("radio", name="the fridge").click()
    page.get_by_role("button", name="Lay it so").click()
    expect(page.get_by_text("the fridge · 50 mm deep")).to_be_visible()
    page.get_by_role("button", name="An hour passes").click()
    expect(page.get_by_text("60 min since it left the heat")).to_be_visible()
    right_on_a_phone(page)
    page.get_by_role("button", name="That is how it stays").click()
    told()
    expect(page.get_by_text("it keeps to no rule")).to_be_visible()
    begin("One mistake in the slip")
    page.get_by_role("radio").first.check()
    page.get_by_label("It should say").fill("500")
    right_on_a_phone(page)
    page.get_by_role("button", name="That is it").click()
    told()
    begin("Seven yolks")
    for box in page.get_by_role("textbox").all():
        box.fill("600")
    page.get_by_role("button", name="That is it").click()
    told()
    begin("Three spoons")
    for one in page.get_by_role("combobox").all():
        one.select_option(label="nappe")
    no_axe_violation(page)
    page.get_by_role("button", name="Those are their names").click()
    told()


def test_a_split_one_is_rescued_or_thrown_away(device):
    page = device("trainee")
    led = Led(page, "rescue")
    split = led.send([])["tells"]
    page.goto(f"{KITCHEN}/practice/{led.id}")
    page.get_by_role("button", name=re.compile("Begin|Go on")).click()
    if any("curds and whey" in tell for tell in split):
        page.keyboard.press("t")
    else:
        page.keyboard.press("o")
        page.keyboard.press("i")
        for _ in range(3):
            page.keyboard.press("c")
        page.keyboard.press("b")
        page.get_by_role("button", name="It is mended").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("of a hundred, passed")


def test_a_chef_sets_makes_and_sees_the_section(device):
    chef, trainee = device("section"), device("trainee")
    chef.goto(f"{KITCHEN}/practice")
    chef.get_by_role("button", name="Set it: Called away").click()
    dialog = chef.get_by_role("dialog")
    dialog.get_by_label("For whom").select_option(label="trainee")
    dialog.get_by_label("A word with it").fill("the phone rings a lot on Sundays")
    no_axe_violation(chef)
    dialog.get_by_role("button", name="Set it").click()
    trainee.goto(f"{KITCHEN}/practice")
    expect(trainee.get_by_role("region", name="Set for you")).to_contain_text("the phone rings a lot")
    chef.get_by_label("Formula", exact=True).select_option(label="Saffron pouring custard")
    chef.get_by_text("Keep it as an exercise").click()
    chef.get_by_label("Its name").fill("Saffron, nobody helps")
    chef.get_by_role("button", name="Keep it", exact=True).click()
    expect(chef.get_by_role("button", name="Begin Saffron, nobody helps")).to_be_visible()
    chef.get_by_role("link", name="The section").click()
    row = chef.get_by_role("row", name="trainee")
    expect(row.get_by_text("passed", exact=True)).to_have_count(3)
    right_on_a_phone(chef)
    chef.get_by_role("link", name="trainee").click()
    expect(chef.get_by_role("region", name="Exercises tried")).to_contain_text("Nappe by eye")
    right_on_a_phone(chef)
    chef.get_by_role("region", name="Lately").get_by_role("link", name="Nappe by eye").first.click()
    chef.get_by_role("button", name="Assess it").click()
    expect(chef.get_by_text("practice: Nappe by eye")).to_be_visible()


def paper(page: Page, href: str) -> bytes:
    """What a link to a paper leads to, once the worker has set it."""
    for _ in range(60):
        answer = page.request.get(href)
        if answer.status != 202:
            return answer.body()
        href = answer.headers["location"]
        page.wait_for_timeout(500)
    raise AssertionError(f"{href} is still being set")


def test_a_sheet_is_filled_in_by_touch_for_a_real_batch(device):
    chef, other = device("section"), device("pastry")
    batch, _ = batch_with_probe(chef, "Bay leaf anglaise")
    chef.goto(f"{KITCHEN}/stove/{batch}")
    chef.get_by_role("link", name="assess").click()
    chef.get_by_role("button", name="trainee").wait_for()
    no_axe_violation(chef)
    chef.get_by_role("button", name="trainee").click()
    chef.get_by_role("radiogroup", name="Hygiene").get_by_role("radio", name="well", exact=True).click()
    expect(chef.get_by_role("status").filter(has_text="5 to mark")).to_be_visible()
    other.goto(chef.url)
    other.get_by_role("radiogroup", name="Cooling").get_by_role("radio", name="with help").click()
    expect(other.get_by_role("status").filter(has_text="4 to mark")).to_be_visible()
    chef.get_by_role("radiogroup", name="Tempering").get_by_role("radio", name="not yet").click()
    expect(chef.get_by_text("Somebody marked this sheet meanwhile")).to_be_visible()
    expect(
        chef.get_by_role("radiogroup", name="Cooling").get_by_role("radio", name="with help")
    ).to_be_checked()
    right_on_a_phone(chef)
    href = chef.get_by_role("link", name="Print it").get_attribute("href")
    assert paper(chef, href).startswith(b"%PDF")
