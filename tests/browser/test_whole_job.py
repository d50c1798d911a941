"""A new job by hand, as a builder does it, in each chemistry: from the surface to the log, and after a restart."""

import re
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


def number(text: str) -> float:
    return float(re.search(r"\d[\d,]*(?:\.\d+)?", text)[0].replace(",", ""))


class WholeJob(DeskTest):
    def pours(self) -> list[tuple[str, float, float]]:
        """Each pour on the ticket: its name, the amount in its words, the number it shows large."""
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Pot 1 of")
        rows = self.page.get_by_role("region", name="Ticket").locator("ol").first.locator("li").all()[1:]
        found = []
        for row in rows:
            name, words = row.locator("div").first.inner_text().split("\n")[:2]
            found.append((name, number(words), number(row.locator("div.fig").inner_text())))
        return found

    def restart(self) -> None:
        self.server.kill()
        self.server.start()
        self.page.reload()

    def cut_and_prepared(self) -> None:
        """Cut all, sign off what keeps the first pot shut, waive one line with its reason."""
        page = self.page
        self.step("Ticket")
        expect(page.get_by_role("button", name="Take it to the bench")).to_be_disabled()
        expect(page.get_by_text("3 of 3 pieces are not cut")).to_be_visible()
        page.get_by_role("link", name="To Cut").click()
        page.get_by_role("checkbox", name=re.compile("Piece 1,")).click()
        page.get_by_role("button", name="all 2 are cut").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("All of it is cut")
        expect(page.get_by_role("link", name="Cut")).to_contain_text("all 3 cut")
        self.step("Prepare")
        page.get_by_role("listitem").filter(has_text="Check it is dry").get_by_role("button", name="waive").click()
        page.get_by_role("button", name="Waive it").click()
        expect(page.get_by_role("alert")).to_contain_text("say why it is waived")
        page.get_by_label("Why waive").fill("in the loft since May")
        page.get_by_role("button", name="Waive it").click()
        expect(page.get_by_text("waived: in the loft since May · wren")).to_be_visible()
        fits = page.get_by_role("checkbox", name=re.compile("^Dry fit"))
        expect(fits).to_have_count(2)
        for fit in fits.all():
            fit.click()
            expect(fit).to_be_checked()
        expect(page.get_by_role("link", name="Prepare")).to_contain_text("3 of")

    def test_two_part_resin_over_plywood_with_a_fillet(self):
        page = self.page
        self.new_job("Tender transom")
        page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "2 ft 6 in")
        expect(page.get_by_text("2 ft 6 in = 0.762 m")).to_be_visible()
        self.fill("Length", "1.4 m")
        expect(page.get_by_text("1.07", exact=False).first).to_be_visible()
        page.get_by_role("button", name="Add a joint").click()

        self.step("Stack")
        page.get_by_label("Write the stack").fill("2x 300 cloth, 300 cloth +50")
        expect(page.get_by_text("3 plies read")).to_be_visible()
        expect(page.get_by_role("row").filter(has_text="300 cloth")).to_have_count(3)

        self.step("Chemistry")
        self.pick("Resin", "Laminating epoxy, 2 to 1")
        expect(page.get_by_role("heading", level=1)).to_have_text(
            re.compile(r"Medium hardener: \d+ min to work with at 19 °C")
        )
        expect(page.get_by_text("two steps slower").or_(page.get_by_text("2 steps slower"))).to_be_visible()

        self.step("Joints")
        self.fill("Length", "1400 mm")
        self.fill("Radius", "15 mm")
        self.pick("Filler", "Wood flour")
        expect(self.sheet.get_by_text("Paste", exact=True)).to_be_visible()
        self.assertIn("74 ml", page.get_by_role("link", name="Joints").inner_text())  # 0.2146 · 15² · 1.4 m + 10 %

        self.step("Pots")
        expect(page.get_by_role("heading", level=1)).to_contain_text("laid by")
        self.saved()

        self.cut_and_prepared()
        self.step("Ticket")
        (a_name, a, a_shown), (b_name, b, b_shown) = self.pours()
        self.assertEqual((a_name, b_name), ("A, resin", "B, medium hardener"))
        self.assertEqual((a_shown, b_shown), (20 + a, 20 + a + b))
        self.assertAlmostEqual(b / a, 0.452, delta=0.01)
        page.get_by_role("button", name="Take it to the bench").click()
        page.get_by_label("A poured, g").fill(str(a + 2))
        page.get_by_label("B poured, g").fill(str(b))
        # The hour that was typed is read with the press, however soon it comes.
        page.get_by_label("At, if not now").fill("some time ago")
        page.get_by_role("button", name="Poured").click()
        expect(page.get_by_text("mend the time first")).to_be_visible()
        poured = f"{datetime.now(ZoneInfo('Europe/London')) - timedelta(minutes=2):%H:%M}"
        page.get_by_label("At, if not now").fill(poured)
        page.get_by_role("button", name="Poured").click()
        expect(page.get_by_role("button", name=re.compile(f"Poured {poured}"))).to_be_disabled()
        expect(
            page.get_by_text(re.compile(r"On the work by\s*\d\d:\d\d"))
        ).to_be_visible()  # by the clock, from the pour
        page.get_by_label("Note").fill("ran a little")
        page.get_by_role("button", name="Gelled").click()
        expect(page.get_by_role("button", name=re.compile("Gelled .*:"))).to_be_disabled()

        self.step("Log")
        self.restart()
        expect(page.get_by_text("“ran a little”")).to_be_visible()
        expect(page.get_by_role("cell", name=re.compile("on the plan"))).to_be_visible()
        page.goto(self.server.address)
        expect(page.get_by_role("list", name="Jobs").get_by_text("Tender transom")).to_be_visible()

    def test_catalysed_resin_and_chopped_mat(self):
        page = self.page
        self.new_job("Hatch tray")
        page.get_by_role("button", name="Add a part").click()
        self.pick("Measured as", "area")
        self.fill("Area of one", "1.5 m2")
        self.pick("Surface", "Waxed mould")
        self.step("Stack")
        page.get_by_label("Write the stack").fill("300 csm, 1.5 oz mat")
        expect(page.get_by_text("1.5 oz/ft² = 458 g/m²")).to_be_visible()
        self.step("Chemistry")
        self.pick("Resin", "General-purpose polyester")
        self.fill("Gel time wanted", "20 min")
        expect(page.get_by_role("heading", level=1)).to_contain_text("1.6 % catalyst gels in 20 min at 19 °C")
        self.saved()

        self.step("Ticket")
        expect(page.get_by_role("heading", level=1)).to_have_text("Goggles on, before the bottle is opened")
        page.get_by_role("button", name="Goggles are on").click()
        (_, resin, shown), (name, real_pct, drawn_ml) = self.pours()
        self.assertEqual((name, shown), ("Catalyst", 20 + resin))
        self.assertAlmostEqual(drawn_ml * 1.12 / resin * 100, real_pct, delta=0.01)
        self.to_the_bench()
        expect(page.get_by_role("heading", level=1)).to_have_text("Goggles on, before the bottle is opened")
        page.get_by_role("button", name="Goggles are on").click()
        page.get_by_role("button", name="Poured").click()
        page.get_by_role("button", name="Dumped").click()
        expect(page.get_by_role("button", name=re.compile("Dumped .*:"))).to_be_disabled()
        self.step("Log")
        self.restart()
        expect(page.get_by_text(re.compile(r"dumped \d\d:\d\d"))).to_be_visible()
