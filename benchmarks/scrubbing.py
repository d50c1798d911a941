"""Scrubbing the temperature at ten steps a second on the demo skiff: from the key to the frame with its answer."""

import statistics

from benchmarks.desk import open_step, signed_in

STEPS = 150
PROMISED_MS = 100
# Each step's answer is the verdict that names its temperature. The clock starts at the key and stops in the first
# frame after that verdict stands in the page; a step overtaken by a later one is answered by nothing.
SCRUB = """
([steps, which]) => new Promise((done) => {
  const thumb = document.querySelector(which);
  const title = document.querySelector('h1');
  const said = () => Number(title.innerText.match(/at ([\\d.]+) °C/)?.[1]);
  const pressed = [], shown = [];
  let at = said(), up = true, count = 0;
  new MutationObserver(() => {
    const temperature = said();
    requestAnimationFrame(() => shown.push({ temperature, when: performance.now() }));
  }).observe(title, { subtree: true, childList: true, characterData: true });
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


# The ruler over every step, and today's point on the gel chart.
SLIDERS = {"the ruler": "[role=slider]", "the chart's point": "svg [role=slider][aria-label^=Today]"}


def main() -> None:
    with signed_in() as page:
        open_step(page, "Chemistry")
        page.get_by_text("Roughly, for a moment").wait_for(state="detached")
        for name, which in SLIDERS.items():
            report(name, page.evaluate(SCRUB, [STEPS, which]))
            page.get_by_role("button", name="Spring back").click()


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
