"""How fast the Bench follows a hand: from a handle's movement to the new map, beside a bare request, in turn.

Run with ./spoon bench. Prints what it measured; it holds nothing to a limit.
"""

from __future__ import annotations

import statistics

from conftest import FIRST_VISIT, KITCHEN

STEPS = 60
MEASURE = """async (steps) => {
  const slider = [...document.querySelectorAll("input[type=range]")][1];
  const map = document.querySelector("svg[aria-label^='Ratio map']");
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const frame = () => new Promise((done) => requestAnimationFrame(() => done()));
  const redrawn = () => new Promise((done) => {
    const watch = new MutationObserver(() => { watch.disconnect(); requestAnimationFrame(() => done()); });
    watch.observe(map, {subtree: true, attributes: true, attributeFilter: ["d"], childList: true});
  });
  const turned = [], bare = [];
  for (let i = 0; i < steps; i++) {
    const waits = redrawn();
    const began = performance.now();
    set.call(slider, String(10 + (i % 30) * 0.5));
    slider.dispatchEvent(new Event("input", {bubbles: true}));
    await waits;
    turned.push(performance.now() - began);
    await new Promise((done) => setTimeout(done, 900));
    const asked = performance.now();
    await (await fetch("/api/kitchens")).json();
    await frame();
    bare.push(performance.now() - asked);
  }
  return {turned, bare};
}"""


def p95(values: list[float]) -> float:
    return sorted(values)[int(0.95 * len(values))]


def test_the_hand_and_the_map(device):
    page = device("pastry")
    page.goto(f"{KITCHEN}/book")
    page.get_by_role("link", name="Bay leaf anglaise").click()
    page.get_by_role("img", name="Ratio map").wait_for()
    page.wait_for_timeout(1500)
    found = page.evaluate(MEASURE, STEPS)
    turned, bare = found["turned"][5:], found["bare"][5:]
    print(
        f"\n{len(turned)} turns of a handle and as many bare requests, in turn; milliseconds to the picture"
    )
    for name, values in (("map redrawn", turned), ("bare request", bare)):
        print(f"  {name:14} median {statistics.median(values):6.1f}   p95 {p95(values):6.1f}")
    print(f"  map over bare: {statistics.median(turned) / statistics.median(bare):.1f} at the median")


VISITS = 7


def test_the_first_visit(device):
    """With nothing kept by the browser, and again with what it kept: when the largest thing is drawn."""
    first, again = [], []
    for _ in range(VISITS):
        page = device("pastry")
        for visits in (first, again):
            page.goto(f"{KITCHEN}/book")
            page.get_by_role("link", name="Bay leaf anglaise").wait_for()
            visits.append(page.evaluate(FIRST_VISIT)["lcp"])
        page.context.close()
    print(f"\n{VISITS} visits of the Book, largest thing drawn after, milliseconds (the budget is 1500)")
    for name, values in (("first", first), ("again", again)):
        print(f"  {name:6} median {statistics.median(values):6.0f}   most {max(values):6.0f}")
    print(f"  first over again: {statistics.median(first) / statistics.median(again):.1f} at the median")
