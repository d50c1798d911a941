"""Eighteen kinds of job from nothing to their first pot: by the fields, by one line typed, and by an example typed over.

The line and the fields must come to the same job. What is counted: presses (buttons, choices, fields gone to) and letters.
"""

import re
import statistics
from dataclasses import dataclass
from typing import Any

from playwright.sync_api import Locator, Page, expect

from benchmarks.desk import signed_in
from layup.job import JobSpec, Joint, Part, Pour
from layup.laminate.job_line.kinds_of_job import job_lines
from layup.laminate.job_line.read import read_job_line
from layup.library import generic
from layup.shelf import Library
from tests.first_hour import Newcomer

_SHAPES = {"disc": "disc", "cylinder": "skin of a cylinder", "patch": "patch over a hole", "area": "area"}
_LAID_BY = {"vacuum bag": "bag", "infusion": "infusion"}
_JOINTS = {"scarf": "Scarf", "glue line": "Glue line", "gap": "Gap to fill"}
_SIZE = re.compile(r"\d[\d./]*(?= ?(?:x|mm|m\b|m²|cm))")


@dataclass
class Hands(Newcomer):
    """Who makes a job field by field, each found by its place in the document."""

    def at(self, path: str) -> Locator:
        return self.page.locator(f'[data-path="{path}"]').first

    def fills(self, path: str, words: str) -> None:
        self.presses += 1
        self.letters += len(words)
        field = self.at(path).locator("input, textarea").first
        field.fill(words)
        field.press("Enter")

    def takes(self, path: str, option: str | re.Pattern[str]) -> None:
        self.presses += 2
        self.at(path).get_by_role("combobox").first.click()
        self.page.get_by_role("option", name=option, exact=isinstance(option, str)).first.click()
        expect(self.page.get_by_role("listbox")).to_have_count(0)


def by_fields(page: Page, line: str, library: Library) -> Hands:
    """As a builder made it before he could say it in a line."""
    job = read_job_line(line, library).job
    who = Hands(page)
    who.types("New job", job.name)
    who.button("Start")
    who.sees("Steps", "navigation")
    for number, part in enumerate(job.parts):
        _part(who, number, part, alone=len(job.parts) == 1)
    if any(part.plies for part in job.parts):
        who.step("Stack")
    for part in job.parts:
        if len(job.parts) > 1:
            who.presses += 1
            page.get_by_role("radio", name=part.name, exact=True).first.click()
        who.types(_stack_field(part), _plies_of(line, part, job))
        expect(page.get_by_text(re.compile(r"\d pl(y|ies) read"))).to_be_visible()
    _things(who, job.joints, "Add a joint", "Joints", _joint)
    _things(who, job.pours, "Add a casting", "Pours", _pour)
    who.step("Chemistry")
    who.picks("Resin", next(iter(job.materials.resins)).name)
    return who


def _stack_field(part: Part) -> str:
    return f"Write the stack, {'mould side' if part.substrate == 'waxed mould' else 'surface'} first"


def _plies_of(line: str, part: Part, job: JobSpec) -> str:
    """The plies of a part, in the words of the line."""
    clause = line.split(";")[[other.id for other in job.parts].index(part.id)]
    items = [item.strip() for item in clause.rsplit(":", 1)[-1].split(",")]
    return ", ".join(item for item in items if re.match(r"(\d+x )?\d+ (csm|cloth|biax|carbon)", item))


def _part(who: Hands, number: int, part: Part, *, alone: bool) -> None:
    at = f"parts.{number}"
    who.button("Add a part")
    expect(who.at(f"{at}.name")).to_be_visible()
    if not alone:
        who.fills(f"{at}.name", part.name)
    if part.substrate != "bare plywood":
        who.takes(f"{at}.substrate", re.compile(f"^{part.substrate}$", re.IGNORECASE))
    if part.shape.kind != "rectangle":
        who.presses += 2
        who.page.get_by_role("combobox", name="Measured as").nth(number).click()
        who.page.get_by_role("option", name=_SHAPES[part.shape.kind], exact=True).click()
        expect(who.page.get_by_role("listbox")).to_have_count(0)
    for field, words in getattr(part.shape, "typed", {}).items():
        who.fills(f"{at}.shape.{field}", words)
    if part.count > 1:
        who.fills(f"{at}.count", str(part.count))
    if part.process != "open mould":
        who.presses += 2
        ground = who.at(f"{at}.ground")
        ground.locator("summary").first.click()
        ground.get_by_role("radio", name=_LAID_BY[part.process], exact=True).click()


def _things(who: Hands, things: Any, add: str, step: str, fill: Any) -> None:
    """Joints or castings: added under Measure, and filled in under their own step."""
    if not things:
        return
    who.step("Measure")
    for _ in things:
        who.button(add)
    who.step(step)
    for number, thing in enumerate(things):
        fill(who, number, thing)


def _joint(who: Hands, number: int, joint: Joint) -> None:
    at = f"joints.{number}"
    expect(who.page.get_by_role("region", name="Measures")).to_be_visible()
    if joint.kind != "corner":
        who.picks("What it is", _JOINTS[joint.kind])
    for field, words in joint.typed.items():
        who.fills(f"{at}.{field}", words)
    if joint.count > 1:
        who.fills(f"{at}.count", str(joint.count))
    if joint.substrate != "bare plywood":
        who.presses += 1
        who.page.locator("summary").filter(has_text="What it carries").first.click()
        who.picks("Faces are", joint.substrate.capitalize())
    who.takes(f"{at}.filler_id", "Wood flour")
    for strip, tab in enumerate(joint.tabs):
        who.button("Add a strip")
        fabric = next(fabric for fabric in generic().fabrics if fabric.id == tab.fabric_id)
        expect(who.at(f"{at}.tabs.{strip}.width_mm")).to_be_visible()
        who.takes(f"{at}.tabs.{strip}.fabric_id", fabric.name)
        who.fills(f"{at}.tabs.{strip}.width_mm", tab.typed["width_mm"])


def _pour(who: Hands, number: int, pour: Pour) -> None:
    at = f"pours.{number}"
    expect(who.at(f"{at}.lies_in")).to_be_visible()
    for field, words in pour.typed.items():
        who.fills(f"{at}.{field}", words)
    who.takes(f"{at}.lies_in", re.compile(f"^{pour.lies_in}$", re.IGNORECASE))


def by_line(page: Page, line: str) -> Newcomer:
    """The whole of it typed, and Enter."""
    who = Newcomer(page)
    who.presses, who.letters = 2, len(line)
    field = page.get_by_label("New job")
    field.fill(line)
    field.press("Enter")
    who.sees("Steps", "navigation")
    return who


def by_example(page: Page, name: str, line: str) -> Newcomer:
    """The kind chosen, and each of its sizes typed over: a press to mark it, and its figures."""
    who = Newcomer(page)
    who.picks("Begin from", name)
    for size in _SIZE.findall(line.split(":", 1)[1]):
        who.presses += 1
        who.letters += len(size)
    who.button("Start")
    who.sees("Steps", "navigation")
    return who


def headlines(page: Page) -> list[str]:
    """What the job comes to, once it stands."""
    steps = page.get_by_role("navigation", name="Steps")
    expect(steps.get_by_role("link", name="Ticket")).to_contain_text("first")
    page.wait_for_timeout(1500)
    return [words for words in steps.get_by_role("link").all_inner_texts() if not words.startswith("Log")]


def main() -> None:
    counted: dict[str, list[Newcomer]] = {"by the fields": [], "by one line": [], "by an example": []}
    with signed_in() as page:
        floor = page.url
        shop_id = page.request.get("/api/session").json()["shops"][0]["id"]
        library = Library.model_validate(page.request.get(f"/api/shops/{shop_id}/library").json())
        for name, line in job_lines().items():
            page.goto(floor)
            fields = by_fields(page, line, library)
            wanted = headlines(page)
            page.goto(floor)
            typed = by_line(page, line)
            came = headlines(page)
            page.goto(floor)
            example = by_example(page, name, line)
            same = "the same job" if wanted == came else f"NOT the same: {wanted} {came}"
            for way, who in zip(counted, (fields, typed, example), strict=True):
                counted[way].append(who)
            print(
                f"  {name}: {fields.presses} presses and {fields.letters} letters by the fields, {typed.presses} and "
                f"{typed.letters} by one line, {example.presses} and {example.letters} by an example; {same}"
            )
    for way, people in counted.items():
        presses = statistics.median(who.presses for who in people)
        touches = statistics.median(who.presses + who.letters for who in people)
        seconds = statistics.median(who.by_hand_s for who in people)
        print(f"{way}: median of {presses:g} presses, {touches:g} with the letters, {seconds:.0f} s by hand")


if __name__ == "__main__":
    main()
