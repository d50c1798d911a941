"""From a key in the quick line to the frame with the section redrawn: 100 keys in a stack of 60 plies."""

import statistics

from benchmarks.desk import signed_in

KEYS, PLIES = 100, 60
PROMISED_MS = 100
LINE = ", ".join(f"{(300, 450, 600)[n % 3]} {('cloth', 'csm', 'biax')[n % 3]}" for n in range(PLIES - 1))
# The last ply alone changes, and with it the thickness that the section's own name tells.
TIMED = """
(words) => new Promise((done) => {
  const field = document.getElementById('quick-line');
  const section = document.querySelector('svg[aria-label^="Section"]');
  field.focus();
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  const began = performance.now();
  const watch = new MutationObserver(() => {
    watch.disconnect();
    requestAnimationFrame(() => done(performance.now() - began));
  });
  watch.observe(section, { attributes: true, attributeFilter: ['aria-label'] });
  set.call(field, words);
  field.dispatchEvent(new Event('input', { bubbles: true }));
})
"""


def main() -> None:
    times = []
    with signed_in() as page:
        page.get_by_label("New job").fill("Sixty plies")
        page.get_by_role("button", name="Start").click()
        page.get_by_role("button", name="Add a part").click()
        for label in ("Width", "Length"):
            page.get_by_label(label, exact=True).fill("1 m")
            page.get_by_label(label, exact=True).press("Enter")
        page.get_by_role("link", name="Stack").click()
        page.get_by_label("Write the stack").fill(f"{LINE}, 200 cloth")
        page.get_by_text(f"{PLIES} plies read").wait_for()
        page.get_by_role("status").filter(has_text="saved").wait_for()
        for key in range(KEYS):
            times.append(page.evaluate(TIMED, f"{LINE}, {(300, 200)[key % 2]} cloth"))
            page.get_by_role("status").filter(has_text="saved").wait_for()
            page.wait_for_timeout(40)
    percentile = statistics.quantiles(times, n=20)[-1]
    print(f"From a key in the quick line to the section redrawn, {PLIES} plies, {KEYS} keys:")
    print(
        f"  median {statistics.median(times):.0f} ms, 95th percentile {percentile:.0f} ms, promised under {PROMISED_MS}"
    )


if __name__ == "__main__":
    main()
