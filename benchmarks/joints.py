"""Joints: two hundred of them planned, and a radius dragged at ten steps a second, its picture and its weights."""

import statistics
import time

from benchmarks.desk import open_step, signed_in
from layup.job import JobSpec
from layup.library import generic
from layup.plan import laid_out, plan, settled
from layup.shop_facts import ShopFacts

JOINTS, TIMES = 200, 20
PLANNED_MS, DRAWN_MS, WEIGHED_MS = 50, 50, 100
STEPS = 120
TABLES_MS = 15_000
# The clock starts at the key and stops in the first frame with the new radius in the picture, and in the first with its
# paste on the sheet, which grows as the square of the radius. A step overtaken by a later one is weighed by nothing.
DRAG = """
([steps]) => new Promise((done) => {
  const ring = document.querySelector('[aria-label="Radius of the fillet"]');
  const drawing = document.querySelector('svg[aria-label^="Fillet of radius"]');
  const sheet = document.querySelector('section[aria-label="Sheet"]');
  const radius = () => Number(drawing.ariaLabel.match(/radius ([\\d.]+)/)?.[1]);
  const paste = () => Number(sheet.querySelector('.fig').innerText.replace(/[^\\d.]/g, ''));
  const each = paste() / radius() ** 2;
  const pressed = [], drawn = [], weighed = [];
  let at = radius(), up = true, count = 0, lastPaste = paste();
  new MutationObserver(() => {
    const seen = radius();
    requestAnimationFrame(() => drawn.push({ radius: seen, when: performance.now() }));
  }).observe(drawing, { attributes: true, attributeFilter: ['aria-label'] });
  new MutationObserver(() => {
    const now = paste();
    if (now === lastPaste) return;
    lastPaste = now;
    requestAnimationFrame(() => weighed.push({ radius: Math.round(Math.sqrt(now / each)), when: performance.now() }));
  }).observe(sheet, { subtree: true, childList: true, characterData: true });
  ring.focus();
  const beat = setInterval(() => {
    if (count++ === steps) {
      clearInterval(beat);
      return setTimeout(() => done({ pressed, drawn, weighed }), 600);
    }
    if (at >= 34) up = false;
    if (at <= 20) up = true;
    at += up ? 1 : -1;
    pressed.push({ radius: at, when: performance.now() });
    document.querySelector('[aria-label="Radius of the fillet"]').dispatchEvent(
      new KeyboardEvent('keydown', { key: up ? 'ArrowUp' : 'ArrowDown', bubbles: true }));
  }, 100);
})
"""


def many() -> JobSpec:
    """Two hundred corners, no two alike, each with a strip over it."""
    library = generic()
    tape = next(fabric for fabric in library.fabrics if fabric.id == "biax-450")
    return JobSpec.model_validate(
        {
            "name": "Two hundred corners",
            "materials": {"fabrics": [tape], "resins": [library.resins[0]], "fillers": library.fillers},
            "resins": [{"id": "resin", "resin_id": library.resins[0].id}],
            "joints": [
                {
                    "id": f"c{n}",
                    "name": f"Corner {n}",
                    "length_m": 0.5 + n / 200,
                    "radius_mm": 8 + n % 20,
                    "filler_id": "wood-flour",
                    "tabs": [{"id": f"t{n}", "fabric_id": tape.id, "width_mm": 130}],
                }
                for n in range(JOINTS)
            ],
        }
    )


def timed_ms(work) -> float:
    """The median of a few times."""
    times = []
    for _ in range(TIMES):
        began = time.perf_counter()
        work()
        times.append((time.perf_counter() - began) * 1000)
    return statistics.median(times)


def main() -> None:
    job, facts = many(), ShopFacts()
    pots = plan(job, facts).pot_count
    worked_out = timed_ms(lambda: settled(job, facts))
    of = settled(job, facts)
    laid = timed_ms(lambda: laid_out(of))
    whole = timed_ms(lambda: plan(job, facts))
    print(f"{JOINTS} joints, {pots} pots, median of {TIMES}:")
    print(f"  every joint worked out {worked_out:.0f} ms, promised under {PLANNED_MS}")
    print(f"  their pots laid out in time besides {laid:.0f} ms, {1000 * laid / pots:.0f} µs a pot")
    print(f"  the whole plan with its tickets and its run sheet {whole:.0f} ms")
    with signed_in() as page:
        open_step(page, "Joints")
        page.wait_for_timeout(TABLES_MS)
        told = page.evaluate(DRAG, [STEPS])
    print(f"A radius dragged over {STEPS} steps at ten a second:")
    report("redrawn", told["pressed"], told["drawn"], DRAWN_MS)
    report("weights", told["pressed"], told["weighed"], WEIGHED_MS)


def report(name: str, pressed: list[dict], seen: list[dict], promised: int) -> None:
    """Print how long each step took to be seen, in order."""
    times, last = [], -1
    for each in seen:
        asked = next((n for n in range(last + 1, len(pressed)) if pressed[n]["radius"] == each["radius"]), None)
        if asked is None:
            raise SystemExit(f"{name}: R {each['radius']} mm seen out of order after step {last}")
        times.append(each["when"] - pressed[asked]["when"])
        last = asked
    percentile = statistics.quantiles(times, n=20)[-1]
    print(
        f"  {name}: {len(times)} of {len(pressed)}, median {statistics.median(times):.0f} ms, "
        f"95th percentile {percentile:.0f} ms, promised under {promised}"
    )


if __name__ == "__main__":
    main()
