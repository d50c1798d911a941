"""Every step of three demo jobs with the processor slowed four times: what script it takes, how soon it stands after the step
before it, and the longest task while the temperature is scrubbed on it; the bench besides.
"""

import gzip
import re
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import CDPSession, Page

from benchmarks.desk import SKIFF, signed_in
from tests.browser.desk import ROOT

JOBS = (SKIFF, "Foredeck hatch", "Tiller-head panel")
PROMISED_KB, PROMISED_STEP_MS, PROMISED_TASK_MS = 200, 200, 100
SCRUBS, SLOWED = 24, 4
ASSETS = ROOT / "web" / "dist" / "assets"
_IMPORTED = re.compile(r'(?:from|import)\s*"\./([^"]+\.js)"')
_STEPS = [
    "Measure",
    "Stack",
    "Cut",
    "Prepare",
    "Chemistry",
    "Joints",
    "Pours",
    "Vacuum",
    "Finish",
    "Pots",
    "Ticket",
    "Log",
]
PAGES = {"floor": ("Floor",), "bench": ("Bench",), **{step.lower(): ("JobPage", step) for step in _STEPS}}
TABLES_MS = 15_000
# From the press to the first frame that says the step's name in the title and shows its heading.
TO_STEP = """
(step) => new Promise((done) => {
  const link = [...document.querySelectorAll('nav[aria-label=Steps] a')].find((each) => each.href.endsWith('/' + step));
  const before = document.title, began = performance.now();
  link.click();
  const look = () => {
    if (document.title !== before && document.querySelector('#step h1'))
      return requestAnimationFrame(() => done(performance.now() - began));
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
})
"""
LONG_TASKS = """
window.tasks = [];
new PerformanceObserver((list) => list.getEntries().forEach((each) => window.tasks.push(each.duration)))
  .observe({ type: 'longtask', buffered: false });
"""
SCRUB = """
(times) => new Promise((done) => {
  const thumb = document.querySelector('header [role=slider], [role=slider]');
  window.tasks.length = 0;
  let count = 0;
  thumb.focus();
  const beat = setInterval(() => {
    if (count++ === times) { clearInterval(beat); return setTimeout(() => done(Math.max(0, ...window.tasks)), 500); }
    const key = count % 12 < 6 ? 'ArrowRight' : 'ArrowLeft';
    thumb.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  }, 100);
})
"""


def main() -> None:
    with signed_in() as page:
        page.add_init_script(LONG_TASKS)
        page.goto("/")
        page.wait_for_timeout(TABLES_MS)
        session = page.context.new_cdp_session(page)
        for job in JOBS:
            page.goto("/")
            page.get_by_role("list", name="Jobs").get_by_role("link").filter(has_text=job).click()
            page.get_by_role("navigation", name="Steps").wait_for()
            page.wait_for_load_state("networkidle")
            told = list(_steps(page, session))
            print(f"Every step of {job}, {SLOWED} times slowed:")
            for step, ms, task_ms in told:
                print(f"  {step}: there in {ms:.0f} ms, longest task of a scrub {task_ms:.0f} ms")
            ms, task_ms = (max(each[at] for each in told) for at in (1, 2))
            print(
                f"  at most {ms:.0f} ms (promised {PROMISED_STEP_MS}), a task of {task_ms:.0f} ms "
                f"(promised {PROMISED_TASK_MS})"
            )
    sizes = ", ".join(f"{name} {script_kb(*pages):.0f}" for name, pages in PAGES.items())
    print(f"Script of a page, kB (promised {PROMISED_KB}): {sizes}")


def _steps(page: Page, session: CDPSession) -> Iterator[tuple[str, float, float]]:
    """Of each step: the time to it from the step before, and the longest task of a scrub."""
    links = page.get_by_role("navigation", name="Steps").get_by_role("link").all()
    steps = [str(link.get_attribute("href")).rsplit("/", 1)[1] for link in links]
    # Once round, so that each has been fetched: what is measured is the step, not the network.
    for step in steps:
        page.evaluate(TO_STEP, step) if step != steps[0] else None
        page.wait_for_timeout(300)
    session.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})
    for step in steps:
        ms = page.evaluate(TO_STEP, step)
        page.wait_for_timeout(1200)
        yield step, ms, page.evaluate(SCRUB, SCRUBS)
        page.get_by_role("button", name="Spring back").click()
        page.wait_for_timeout(800)
    session.send("Emulation.setCPUThrottlingRate", {"rate": 1})


def script_kb(*pages: str) -> float:
    """The scripts that pages stand on, with all that these begin with, kB as gzip sends them."""
    needed: set[Path] = set()
    to_do = [path for name in ("index", *pages) for path in ASSETS.glob(f"{name}-*.js")]
    while to_do:
        path = to_do.pop()
        if path not in needed:
            needed.add(path)
            to_do += [ASSETS / name for name in _IMPORTED.findall(path.read_text(encoding="utf-8"))]
    return sum(len(gzip.compress(path.read_bytes())) for path in needed) / 1000


if __name__ == "__main__":
    main()
