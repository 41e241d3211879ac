"""The pictures in docs/screenshots, taken from the demo kitchen. Run with ./spoon pictures."""

from __future__ import annotations

from conftest import KITCHEN, ROOT
from playwright.sync_api import Page, expect
from prepared import API, batch_with_probe, call, new_batch, open_batch
from test_journey import tick
from test_live import probe_in_it
from test_practice import Led, draw
from test_remedy import overcooked
from test_shelf import mark, shelf
from test_wall import code_of, opened
from year import YEAR, bring_in

ICED = {
    "mass_g": 690,
    "from_c": 80,
    "vessel": {"kind": "bowl", "length_cm": 24, "height_cm": 12},
    "ways": [{"by": "ice-bath", "stirred": True, "minutes": 30}, {"by": "fan-fridge"}],
}
SLOW = {
    "mass_g": 1550,
    "from_c": 88,
    "vessel": {"kind": "tray", "length_cm": 30, "width_cm": 20, "height_cm": 5},
    "ways": [{"by": "fridge-covered"}],
}
CARD = """Quince cottage custard

a pint of milk
5 yolks (90 g)
3-4 oz sugar
knob of butter
1 tsp corn flour
vanila

Steep the vanilla in the hot milk for 20 minutes. Whisk yolks, sugar and cornflour. Pour on slowly, back in
the pan, cook to 85 C. Off the heat, butter in. Makes 8.
"""
FOLDER = ROOT / "docs" / "screenshots"


def take(page: Page, name: str) -> None:
    page.evaluate("document.fonts.ready")
    page.wait_for_timeout(400)
    FOLDER.mkdir(parents=True, exist_ok=True)
    page.screenshot(path=FOLDER / f"{name}.png")


def test_pictures(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").wait_for()
    take(page, "book")
    page.get_by_role("link", name="Import a recipe").click()
    page.get_by_label("The recipe").fill(CARD)
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("img", name="your card says").wait_for()
    take(page, "book-import")
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").click()
    page.get_by_role("img", name="Ratio map").wait_for()
    page.get_by_text("Likely range in brackets").wait_for()
    take(page, "bench")
    page.get_by_role("button", name="Solve for me").click()
    page.get_by_role("radio", name="heavy coat").click()
    page.get_by_role("button", name="Solve", exact=True).click()
    page.get_by_role("button", name="Take it", exact=True).first.wait_for()
    take(page, "bench-solve")
    page.keyboard.press("Escape")
    open_batch(page)
    page.get_by_label("The scale shows, g").fill("512")
    tick(page, "whole milk").click()
    tick(page, "egg yolk").click()
    page.get_by_role("button", name="Take back: weighed egg yolk").wait_for()
    take(page, "stove-weigh")
    page.get_by_role("button", name="All weighed").click()
    for temperature, done in (("92", "Warmed"), ("72.5", "Tempered")):
        page.get_by_role("button", name=done).wait_for()
        page.get_by_label("Temperature").fill(temperature)
        page.get_by_role("button", name=done).click()
    page.get_by_role("button", name="Off the heat").wait_for()
    page.evaluate("window.scrollTo(0, 0)")
    take(page, "stove-cook")
    open_batch(page, "Bitter chocolate crémeux")
    page.keyboard.press("6")
    page.get_by_role("list", name="Pours onto the chocolate").get_by_role("button").first.click()
    page.get_by_role("button", name="Take back: onto the chocolate, pour 1 in").wait_for()
    take(page, "stove-finish")
    page.keyboard.press("7")
    how = page.get_by_role("region", name="How it is cooled")
    how.get_by_role("img", name="Cooling:").wait_for()
    page.evaluate("window.scrollTo(0, 0)")
    take(page, "stove-chill")
    page.goto(f"{KITCHEN}/kitchen")
    page.get_by_label("Height above the sea").wait_for()
    take(page, "kitchen")


def test_pictures_of_the_log(device):
    bring_in()
    page = device("pastry")
    page.goto(f"{YEAR}/log?words=bay+leaf")
    page.get_by_role("link", name="Bay leaf anglaise").first.wait_for()
    take(page, "log")
    good = [batch_at(page, place) for place in (1, 3)]
    page.goto(f"{YEAR}/log?words=bay+leaf&verdict=discarded")
    page.get_by_text("✕ discarded").first.wait_for()
    page.goto(f"{YEAR}/log/overlay?batches={batch_at(page, 0)},{','.join(good)}")
    page.get_by_label("beside this one").select_option(index=2)
    page.get_by_role("region", name="Why was one better?").get_by_role("listitem").first.wait_for()
    take(page, "log-overlay")


def batch_at(page: Page, place: int) -> str:
    """The id of a batch in the list."""
    link = page.get_by_role("link", name="Bay leaf anglaise").nth(place)
    return (link.get_attribute("href") or "").rpartition("/")[2]


def test_picture_of_the_wall(device, address):
    page, wall = device("pastry"), device(None)
    opened(wall, code_of(page))
    cooling, _ = batch_with_probe(page, "Rye pastry cream")
    for done in ("weigh", "warm", "temper", "cook", "test"):
        mark(page, cooling, "done", done, 18)
    call(page, "PUT", f"{API}/batches/{cooling}/cooling", ICED)
    for place, (minutes, celsius) in enumerate(((18, 80), (12, 52), (6, 34), (1, 22))):
        mark(page, cooling, "spot" if place else "into-ice", "chill", minutes, temperature_c=celsius)
    new_batch(page, "Burnt honey filling")
    batch, token = batch_with_probe(page, "Bay leaf anglaise", pace=4)
    page.goto(f"{KITCHEN}/stove/{batch}/live")
    with probe_in_it(address, token, seed=4):
        page.get_by_role("button", name="The mix is in the pan, heat on").click()
        wall.get_by_text("It is turning: watch the spoon").wait_for(timeout=60_000)
        take(wall, "wall")


def test_picture_of_the_day(device):
    page = device("section")
    days = call_at(page, f"{API}/days")["days"]
    page.goto(f"{KITCHEN}/day/{next(one['date'] for one in days if one['wants'])}")
    page.get_by_test_id("board").wait_for()
    page.get_by_role("button", name="Plan it again from now").click()
    expect(page.get_by_role("button", name="Plan it again from now")).to_be_enabled()
    page.get_by_text("No plan is better.").wait_for()
    take(page, "day")


def test_pictures_of_practice(device):
    page = device("trainee")
    led = Led(page, "nappe")
    led.until("drags")
    led.open()
    page.get_by_role("button", name="Go on").click()
    draw(page, 1.5)
    page.keyboard.press("d")
    page.get_by_text("The line").wait_for()
    draw(page, 2.0)
    take(page, "practice")
    page.goto(f"{KITCHEN}/practice")
    page.get_by_role("region", name="Lately").get_by_role("link", name="Nappe by eye").last.click()
    page.get_by_role("img", name="Curve of").wait_for()
    take(page, "practice-debrief")


def call_at(page: Page, path: str):
    """What the API says, asked from a page of the application."""
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").wait_for()
    return call(page, "GET", path)


def test_pictures_of_the_live_stove(device, address):
    page = device("pastry")
    batch, token = batch_with_probe(page, "Bay leaf anglaise", pace=4)
    page.goto(f"{KITCHEN}/stove/{batch}")
    page.get_by_role("button", name="All weighed").click()
    page.get_by_role("button", name="Warmed").click()
    page.get_by_label("Pours").wait_for()
    for pour in range(4):
        page.get_by_label("Pours").get_by_role("listitem").nth(pour).get_by_role("button").click()
    page.goto(f"{KITCHEN}/stove/{batch}/live")
    with probe_in_it(address, token, seed=4):
        page.get_by_role("button", name="The mix is in the pan, heat on").wait_for()
        page.wait_for_timeout(1500)
        page.get_by_role("button", name="The mix is in the pan, heat on").click()
        say = page.get_by_label("What to do now").get_by_role("status").first
        expect(say).to_have_text("Keep stirring, scrape the base", timeout=20_000)
        page.get_by_role("button", name="foam on top thins and goes").click()
        expect(say).to_have_text("It is turning: watch the spoon", timeout=60_000)
        take(page, "stove-live")
    left = next(line for line in call(page, "GET", f"{API}/log")["lines"] if line["number"] == 1)
    page.goto(f"{KITCHEN}/stove/{left['id']}")
    page.get_by_label("Plan and fact").get_by_role("img", name="Curve:").wait_for()
    take(page, "stove-record")


def test_pictures_of_the_shelf(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/book")
    slow, _ = batch_with_probe(page, "Rye pastry cream")
    quick, _ = batch_with_probe(page, "Bay leaf anglaise")
    for batch, ago, cooling, reads in (
        (slow, 50, SLOW, ((50, 88), (30, 76), (10, 66), (1, 61.5))),
        (quick, 18, ICED, ((18, 80), (12, 52), (6, 34), (1, 22))),
    ):
        for done in ("weigh", "warm", "temper", "cook", "test"):
            mark(page, batch, "done", done, ago)
        call(page, "PUT", f"{API}/batches/{batch}/cooling", cooling)
        for place, (minutes, celsius) in enumerate(reads):
            mark(page, batch, "spot" if place else "into-ice", "chill", minutes, temperature_c=celsius)
    page.wait_for_timeout(4000)
    shelf(page)
    take(page, "shelf")


def test_picture_of_trouble(device):
    page = device("pastry")
    batch = overcooked(page)
    page.goto(f"{KITCHEN}/trouble?batch={batch}&seen=bits")
    page.get_by_role("region", name="Answer").get_by_role("radio", name="never").click()
    page.get_by_role("button", name="Write it into the batch").wait_for()
    page.wait_for_timeout(800)
    take(page, "trouble")
