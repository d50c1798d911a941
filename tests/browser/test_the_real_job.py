"""The real job, not a rectangle: measured as builders measure, stacked as they stack, told early what does not go."""

import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest


class RealJob(DeskTest):
    def part(self, name: str = "") -> None:
        self.page.get_by_role("button", name="Add a part").click()
        if name:
            self.fill("Part", name)

    def figure(self) -> str:
        return self.page.get_by_role("link", name="Measure").inner_text()

    def test_a_hull_bottom_by_girths_two_cautions_mended_and_one_overridden(self):
        page = self.page
        self.new_job("Hull bottom")
        self.part("Bottom")
        self.pick("Measured as", "girths at stations")
        for station, (along, girth) in enumerate((("0 m", "0 m"), ("1 m", "1.2 m"), ("2 m", "0.9 m")), 1):
            self.fill(f"Station {station}, along", along)
            field = page.get_by_label("girth there").nth(station - 1)
            field.fill(girth)
            field.press("Enter")
        # published: Simpson's rule, (0 + 4 × 1.2 + 0.9) × 1 ÷ 3.
        expect(page.get_by_role("link", name="Measure")).to_contain_text("1.9 m²")
        self.fill("Station 2, along", "3 m")
        expect(page.get_by_text("each further along than the last").first).to_be_visible()
        self.fill("Station 2, along", "1 m")
        page.locator("button", has_text=re.compile(r"^1\.90\s*m²")).first.click()
        page.get_by_role("dialog").get_by_role("button", name="Bottom").click()
        page.get_by_role("dialog").get_by_role("button", name=re.compile("girths at stations")).click()
        expect(page.get_by_role("dialog")).to_contain_text("(1 × a + 4 × b + 1 × c) × o ÷ 3")
        page.keyboard.press("Escape")
        page.get_by_text("How it is laid").click()
        self.fill("Moisture, %", "15")
        page.get_by_label("sharp inside corners").click()
        self.step("Stack")
        page.get_by_label("Write the stack").fill("300 cloth, 450 csm")
        self.step("Chemistry")
        self.pick("Resin", "Laminating epoxy, 2 to 1")
        expect(page.get_by_role("button", name=re.compile("1 stop"))).to_be_visible()
        page.get_by_role("button", name=re.compile("1 stop")).click()
        expect(page.get_by_role("dialog")).to_contain_text("holds 15 % water: twelve at most")
        expect(page.get_by_role("dialog")).to_contain_text("has a sharp inside corner and the job no fillet")
        corner = page.get_by_role("dialog").get_by_role("listitem").filter(has_text="sharp inside corner")
        corner.get_by_role("button", name="show me where, under measure").click()
        expect(page.get_by_label("sharp inside corners")).to_be_focused()
        self.fill("Moisture, %", "11")
        expect(page.get_by_text("twelve at most")).to_have_count(0)
        page.get_by_label("sharp inside corners").click()
        self.step("Stack")
        page.get_by_text("Why, and what to do").first.click()
        page.get_by_label("To go on all the same").fill("this mat's maker says epoxy")
        page.get_by_role("button", name="Override this stop").click()
        expect(page.get_by_role("link", name="Stack")).to_contain_text("ready")
        self.saved()

    def test_a_measure_is_typed_on_the_drawing(self):
        page = self.page
        self.open("Rudder blade")
        self.step("Measure")
        page.get_by_role("button", name="0.98 m, change it").click()
        self.page.get_by_role("dialog").get_by_label("Between them").fill("1.1 m")
        self.page.keyboard.press("Enter")
        self.page.keyboard.press("Escape")
        expect(page.get_by_role("button", name="1.10 m, change it")).to_be_visible()
        expect(self.sheet.get_by_label("Between them")).to_have_value("1.1 m")
        self.saved()

    def test_the_locker_lid_is_patched(self):
        page = self.page
        self.open("Locker lid")
        self.step("Measure")
        expect(page.get_by_role("link", name="Measure")).to_contain_text("ready")
        self.fill("Each ply wider by", "20 mm")
        expect(self.sheet.get_by_text("runs 80 mm past the hole; the ground ends at 42 mm")).to_have_count(0)
        page.get_by_role("button", name=re.compile("care")).click()
        expect(page.get_by_role("dialog")).to_contain_text("runs 80 mm past the hole; the ground ends at 42 mm")
        page.keyboard.press("Escape")
        self.fill("Each ply wider by", "10 mm")
        self.fill("Hole, width", "5 in")
        expect(page.get_by_text("5 in = 0.127 m")).to_be_visible()
        self.step("Stack")
        expect(page.get_by_role("row").filter(has_text="300 cloth").first).to_contain_text("+40 mm")
        expect(page.get_by_role("row").filter(has_text="300 cloth").last).to_contain_text("+10 mm")
        self.saved()

    def test_holes_pairs_and_margins_and_a_hole_too_big(self):
        page = self.page
        self.open("Foredeck hatch")
        self.step("Measure")
        page.get_by_text("Pair, holes, strips, margin, curve").click()
        page.get_by_label("port and starboard, mirrored").click()
        expect(page.get_by_role("link", name="Measure")).to_contain_text("2 parts · 0.973 m²")
        self.fill("Hole, diameter", "2 m")
        expect(page.get_by_text("the holes are bigger than the part")).to_be_visible()
        self.fill("Hole, diameter", "180 mm")
        page.get_by_label("port and starboard, mirrored").click()
        expect(page.get_by_role("link", name="Measure")).to_contain_text("1 part · 0.487 m²")
        self.saved()

    def test_a_ply_in_strips_builds_its_layers(self):
        page = self.page
        self.new_job("Strips")
        self.part()
        self.fill("Width", "0.5 m")
        self.fill("Length", "3 m")
        self.step("Stack")
        page.get_by_label("Write the stack").fill("300 cloth")
        page.get_by_role("button", name="300 cloth, twill", exact=True).click()
        self.fill("In strips of", "300 mm")
        self.fill("overlapping by, %", "33.333")
        expect(page.get_by_text("1 to 2 layers, 1.50 on the mean, 15 strips")).to_be_visible()
        self.fill("or for layers, mean", "3")
        expect(page.get_by_text("3 layers all over, 32 strips")).to_be_visible()
        self.fill("In strips of", "2 m")
        expect(page.get_by_text("a strip can be no wider").first).to_be_visible()
        self.fill("In strips of", "")
        expect(page.get_by_role("link", name="Stack")).to_contain_text("1 ply")
        self.pick("Add a ply", "85 peel ply")
        expect(page.get_by_role("row").filter(has_text="85 peel ply")).to_contain_text("comes off")
        page.get_by_role("button", name="Mirror it").click()
        expect(page.get_by_role("link", name="Stack")).to_contain_text("4 plies")
        self.saved()

    def test_what_if_leaner_and_a_pinned_plan_stand_beside_the_present(self):
        page = self.page
        self.open("Estuary skiff")
        self.step("Stack")
        total = page.get_by_role("link", name="Pots")
        for choice in ("as the table", "generous"):
            before = re.search(r"[\d.]+ kg", total.inner_text())[0]
            page.get_by_role("radio", name=choice).click()
            expect(total).not_to_contain_text(before)
        page.get_by_role("button", name="Pin these figures").click()
        before = re.search(r"[\d.]+ kg", total.inner_text())[0]
        page.get_by_role("radio", name="as the table").click()
        expect(total).not_to_contain_text(before)
        page.get_by_role("button", name="What if leaner").click()
        row = page.get_by_role("row").filter(has_text="To mix")
        expect(row.get_by_role("cell")).to_have_count(4)
        kilos = [float(cell.split()[0]) for cell in row.get_by_role("cell").all_inner_texts()[1:]]
        self.assertTrue(kilos[0] > kilos[1] > kilos[2], kilos)
        page.get_by_role("radio", name="by fabric").click()
        self.saved()

    def test_coats_stand_among_the_plies_and_plies_are_dragged(self):
        page = self.page
        self.new_job("Coats")
        self.part("Deck")
        self.fill("Width", "0.5 m")
        self.fill("Length", "2 m")
        self.step("Stack")
        page.get_by_label("Write the stack").fill("120 wet-out, 300 cloth, 450 csm, 10 mm core, 150 fill")
        expect(page.get_by_text("5 plies read")).to_be_visible()
        ledger = page.get_by_role("table", name="Plies from the surface outward")
        names = ledger.get_by_role("row").locator("td:nth-child(2) > button")
        expect(names).to_have_text(
            ["wet-out coat", "300 cloth, twill", "450 chopped mat", "10 mm foam core", "fill coat"]
        )
        self.pick("Add a coat", "sealing coat")
        expect(names.last).to_have_text("sealing coat")
        names.last.click()
        self.fill("Resin in the coat", "80")
        expect(page.get_by_label("Write the stack")).to_have_value(
            "120 wet-out coat, 300 cloth, 450 csm, 10 mm core, 150 fill coat, 80 seal coat"
        )
        names.first.click()
        grips = page.get_by_title("Drag to another place")
        cloth, mat = grips.nth(1).bounding_box(), grips.nth(2).bounding_box()
        page.mouse.move(cloth["x"] + 6, cloth["y"] + 8)
        page.mouse.down()
        page.mouse.move(mat["x"] + 6, mat["y"] + 12, steps=8)
        page.mouse.up()
        expect(names).to_have_text(
            ["wet-out coat", "450 chopped mat", "300 cloth, twill", "10 mm foam core", "fill coat", "sealing coat"]
        )
        self.saved()

    def test_a_stack_goes_out_as_csv_and_another_comes_in(self):
        page = self.page
        self.new_job("Spreadsheet")
        self.part("Deck")
        self.fill("Width", "1 m")
        self.fill("Length", "1 m")
        self.step("Stack")
        page.get_by_label("Write the stack").fill("300 cloth +50")
        expect(page.get_by_text("1 ply read")).to_be_visible()
        self.saved()
        page.keyboard.press("Tab")
        with page.expect_download() as download:
            page.get_by_role("link", name="the plies as CSV").click()
        self.assertEqual(download.value.suggested_filename, "deck.csv")
        table = "\ufeffg/m2;kind;wider mm\r\n450;csm;12,5\r\n300;wool;\r\n600;biax;\r\n"
        picker = page.get_by_label("Plies as CSV")
        picker.set_input_files({"name": "s.csv", "mimeType": "text/csv", "buffer": table.encode()})
        expect(page.get_by_role("alert").filter(has_text="row 3")).to_contain_text("wool")
        expect(page.get_by_label("Write the stack")).to_have_value("300 cloth +50")
        whole = table.replace("wool", "twill")
        picker.set_input_files({"name": "s.csv", "mimeType": "text/csv", "buffer": whole.encode()})
        expect(page.get_by_label("Write the stack")).to_have_value("450 csm +12.5, 300 cloth, 600 biax")
        picker.set_input_files({"name": "s.csv", "mimeType": "text/csv", "buffer": b"colour;size\nred;2\n"})
        expect(page.get_by_role("alert").filter(has_text="has no column")).to_be_visible()
        self.saved()

    def test_a_new_job_works_as_the_shop_does_with_reasons_beside_each_choice(self):
        page = self.page
        page.goto(f"{self.server.address}/shop")
        expect(page.get_by_text("nothing unmixed on the wall reaches the job")).to_be_visible()
        page.get_by_role("radio", name="one pot").click()
        expect(page.get_by_role("status")).to_have_text("kept")
        page.goto(self.server.address)
        self.new_job("One pot")
        page.get_by_text("How we work on this job").click()
        expect(page.get_by_role("radio", name="one pot")).to_be_checked()
        page.get_by_role("radio", name="two pots").click()
        self.saved()
        page.goto(f"{self.server.address}/shop")
        page.get_by_role("radio", name="two pots").click()
        expect(page.get_by_role("status")).to_have_text("kept")

    def test_the_section_and_the_workbook_are_taken_elsewhere(self):
        page = self.page
        self.open("Rudder blade")
        self.step("Stack")
        for link, name in (("the section as SVG", "skin.svg"), ("the job as a workbook", "rudder-blade.xlsx")):
            with page.expect_download() as download:
                page.get_by_role("link", name=link).click()
            self.assertEqual(download.value.suggested_filename, name)

    def test_a_named_strip_is_written_in_the_quick_line(self):
        page = self.page
        self.new_job("Keel strip")
        self.part()
        self.fill("Width", "1 m")
        self.fill("Length", "2 m")
        page.get_by_text("Pair, holes, strips, margin, curve").click()
        page.get_by_role("button", name="Name a strip of it").click()
        self.fill("Strip, called", "keel")
        self.fill("its width", "200 mm")
        self.fill("its length", "1.8 m")
        self.saved()
        self.step("Stack")
        page.get_by_label("Write the stack").fill("300 cloth, 600 biax @ kiel")
        expect(page.get_by_text("this part has no strip called “kiel”: it has keel")).to_be_visible()
        page.get_by_role("button", name="take @ keel").click()
        expect(page.get_by_role("row").filter(has_text="600 biaxial")).to_contain_text("@ keel")
        expect(page.get_by_text("2 plies read")).to_be_visible()
        # 600 g/m² over 0.2 × 1.8 m
        expect(page.get_by_role("row").filter(has_text="600 biaxial")).to_contain_text("216")
        self.saved()
        page.reload()
        expect(page.get_by_label("Write the stack")).to_have_value("300 cloth, 600 biax @ keel")
