"""Scrubbing the temperature at ten steps a second on the demo skiff: from the key to the frame with its answer.

Over Chemistry, by the ruler and by the point on its chart, over the run sheet, and over the flow of the demo hatch.
"""

import statistics

from benchmarks.desk import open_step, signed_in

STEPS = 150
PROMISED_MS = 100
# Each step's answer is the words that name its temperature: the verdict, or what the run sheet is called. The clock starts at the key and stops in the first
# frame after that verdict stands in the page; a step overtaken by a later one is answered by nothing.
SCRUB = """
([steps, which, where]) => new Promise((done) => {
  const thumb = document.querySelector(which);
  const title = document.querySelector(where);
  const said = () => Number((title.ariaLabel ?? title.innerText).match(/(?:at|in) ([\\d.]+) °C/)?.[1]);
  const pressed = [], shown = [];
  let at = said(), up = true, count = 0;
  new MutationObserver(() => {
    const temperature = said();
    requestAnimationFrame(() => shown.push({ temperature, when: performance.now() }));
  }).observe(title, { subtree: true, childList: true, characterData: true, attributes: true, attributeFilter: ["aria-label"] });
  thumb.focus();
  const beat = setInterval(() => {
    if (count++ === steps) {
      clearInterval(beat);
      return setTimeout(() => done({ pressed, shown }), 600);
    }
    if (at >= 25) up = false;
    if (at <= 17) up = true;
    at += up ? 0.5 : -0.5;
    pressed.push({ temperature: at, when: performance.now() });
    thumb.dispatchEvent(new KeyboardEvent('keydown', { key: up ? 'ArrowRight' : 'ArrowLeft', bubbles: true }));
  }, 100);
})
"""


# Time for the tables of the heat model of every job's products, which are built one after the other from the first
# page on: the promise is for when they stand.
TABLES_MS = 15_000
RULER, POINT = "[role=slider]", "svg [role=slider][aria-label^=Today]"
FLOW = 'svg[aria-label^="By the room"]'
SHEET = 'svg[aria-label^="Run sheet"]'


def main() -> None:
    with signed_in() as page:
        open_step(page, "Chemistry")
        page.wait_for_timeout(TABLES_MS)
        for name, which in (("the ruler", RULER), ("the chart's point", POINT)):
            report(name, page.evaluate(SCRUB, [STEPS, which, "h1"]))
            page.get_by_role("button", name="Spring back").click()
        page.get_by_role("navigation", name="Steps").get_by_role("link", name="Pots").click()
        page.locator(SHEET).wait_for()
        page.wait_for_load_state("networkidle")
        report("the ruler over the run sheet", page.evaluate(SCRUB, [STEPS, RULER, SHEET]))
        page.goto("/")
        open_step(page, "Bag", "Foredeck hatch")
        page.locator(FLOW).wait_for()
        report("the ruler over the flow", page.evaluate(SCRUB, [STEPS, RULER, FLOW]))


def report(name: str, told: dict) -> None:
    """Print how long the answers took, each in its order."""
    pressed, shown = told["pressed"], told["shown"]
    times, last = [], -1
    for answer in shown:
        asked = next(
            (n for n in range(last + 1, len(pressed)) if pressed[n]["temperature"] == answer["temperature"]), None
        )
        if asked is None:
            raise SystemExit(f"an answer out of order: {answer['temperature']} °C after step {last}")
        times.append(answer["when"] - pressed[asked]["when"])
        last = asked
    percentile = statistics.quantiles(times, n=20)[-1]
    print(f"Scrubbing {name}, {STEPS} steps at ten a second, {len(times)} answered, none out of order:")
    print(
        f"  median {statistics.median(times):.0f} ms, 95th percentile {percentile:.0f} ms, promised under {PROMISED_MS}"
    )


if __name__ == "__main__":
    main()
