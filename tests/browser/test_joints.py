"""Joints at the desk: chines and bulkheads from dry fit to tabbing, a pot too big at first, the filler it really took."""

import re

from playwright.sync_api import expect
from shapely.geometry import Polygon

from layup.joints.tabbing import lay_strip
from layup.joints.volumes import fillet_leg_mm, fillet_section_mm2, scarf_face_mm
from tests.browser.desk import DeskTest


def _polygon(path: str) -> Polygon:
    """The outline of a drawn path, in pixels."""
    points = re.findall(r"([\d.-]+) ([\d.-]+)", path)
    return Polygon([(float(x), float(y)) for x, y in points])


BOARD_AND_PASTES = """(drawing) => [
    drawing.querySelector('path[fill="url(#lap-grain)"]'),
    ...drawing.querySelectorAll('[aria-label="The paste"]'),
].map((shape) => shape.getAttribute("d"))"""


class AtItsJoints(DeskTest):
    def begin(self, name: str) -> None:
        """A job of its own, a copy of the skiff, at its joints."""
        page = self.page
        page.get_by_label("New job").fill(name)
        self.pick("Begin from", "a copy of Estuary skiff")
        page.get_by_role("button", name="Start").click()
        self.step("Joints")
        expect(page.get_by_text("Roughly, for a moment")).to_have_count(0)

    def choose(self, joint: str) -> None:
        self.row(joint).get_by_role("button").first.click()
        expect(self.page.get_by_role("heading", level=1)).to_contain_text(joint)

    def paste(self) -> float:
        words = self.sheet.get_by_text(re.compile(r"^[\d,.]+\s*(ml|l)$")).first.inner_text()
        return float(re.sub(r"[^\d.]", "", words))

    def row(self, joint: str):
        return (
            self.page.get_by_role("region", name="Joints of this job", exact=True)
            .get_by_role("row")
            .filter(has_text=joint)
        )


class Joints(AtItsJoints):
    def test_from_dry_fit_to_tabbing_with_a_pot_too_big_at_first(self):
        page = self.page
        self.begin("Bulkheads, by the book")

        self.step("Prepare")
        fits = page.get_by_role("checkbox", name=re.compile("^Dry fit, with 8 temporary screws"))
        fits.click()
        expect(fits).to_be_checked()

        self.step("Joints")
        self.choose("Bulkheads to bottom")
        self.fill("How many", "1")
        self.fill("Length", "4 m")
        page.get_by_role("radio", name="from a bag").click()
        page.get_by_text("What it carries, its ground, order, fixings, pots").click()
        self.fill("Pots for each one", "1")
        said = self.sheet.get_by_text(re.compile(r"^one pot at .* take \d+ pots? of"))
        expect(said).to_be_visible()
        expect(page.get_by_role("link", name="Joints")).to_contain_text("to do")
        pots = max(3, int(re.search(r"take (\d+) pots", said.inner_text())[1]))
        self.fill("Pots for each one", str(pots))
        expect(said).to_have_count(0)
        expect(self.sheet.get_by_text(re.compile(rf"^{pots} pots, [\d.]+ m of bead each\."))).to_be_visible()
        self.saved()

        self.fill("From mixed resin", "100 g")
        expect(
            self.sheet.get_by_text(re.compile(r"^takes \d+ ml of wood flour, makes \d+ ml of paste"))
        ).to_be_visible()

        order = page.get_by_role("region", name="Order").get_by_role("listitem")
        expect(order.first).to_contain_text("Wet out with plain resin")
        expect(order.nth(1)).to_contain_text("Fillet, drawn to R 15 mm")
        expect(order.last).to_contain_text("Take out: 8 temporary screws")

        page.get_by_role("button", name="Bulkheads to bottom, one side: to do").click()
        expect(page.get_by_role("button", name="Bulkheads to bottom, one side: done")).to_be_visible()
        page.reload()
        expect(page.get_by_role("button", name="Bulkheads to bottom, one side: done")).to_be_visible()

        self.step("Ticket")
        self.to_the_bench()
        page.get_by_role("button", name="Poured").click()
        thick = page.get_by_role("region", name="Thicken it")
        expect(thick).to_contain_text("until it stands")
        expect(thick).to_contain_text("particle mask")
        expected = float(re.search(r"loose, about\s*([\d,]+)", thick.inner_text())[1].replace(",", ""))
        page.get_by_label("Filler really stirred in, loose, ml").fill("a cup or so")
        page.get_by_role("button", name="Thickened").click()
        expect(page.get_by_role("alert").filter(has_text="mend what was stirred in")).to_be_visible()
        page.get_by_label("Filler really stirred in, loose, ml").fill(f"{1.3 * expected:.0f} ml")
        page.get_by_role("button", name="Thickened").click()
        expect(page.get_by_role("button", name=re.compile(r"Thickened \d\d:"))).to_be_disabled()

        self.step("Log")
        expect(page.get_by_role("cell", name=re.compile(r"\+\d+ % on the plan"))).to_be_visible()
        page.goto(f"{self.server.address}/")
        self.open("Bulkheads, by the book")
        self.step("Log")
        expect(
            page.get_by_text(re.compile(r"^Wood flour stands at [\d.]+ loose to 1.*2 pots of the shop's log"))
        ).to_be_visible()

    def test_the_radius_and_the_strips_follow_the_hand(self):
        page = self.page
        self.begin("Chines, drawn")
        self.choose("Chines, inside")
        before = self.paste()
        ring = page.get_by_role("slider", name="Radius of the fillet")
        box = ring.bounding_box()
        middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.move(*middle)
        page.mouse.down()
        page.mouse.move(middle[0] + 4, middle[1] - 8, steps=5)
        expect(ring).not_to_have_attribute("aria-valuetext", "18 mm")
        # The weights follow while the ring is still held.
        for _ in range(600):
            if self.paste() > 1.2 * before:
                break
            page.wait_for_timeout(100)
        self.assertGreater(self.paste(), 1.2 * before)
        page.mouse.up()
        expect(page.get_by_label("Radius", exact=True)).not_to_have_value("18 mm")
        radius = float(page.get_by_label("Radius", exact=True).input_value().split()[0])
        self.assertGreater(radius, 20)
        self.saved()
        ring.focus()
        ring.press("ArrowUp")
        expect(page.get_by_label("Radius", exact=True)).to_have_value(f"{radius + 1:g} mm")

        end = page.get_by_role("slider", name="End of strip 1")
        end.focus()
        for _ in range(5):
            end.press("ArrowRight")
        expect(page.get_by_label("Width of strip 1")).to_have_value("100 mm")
        page.get_by_role("button", name="Add a strip").click()
        expect(page.get_by_label("Width of strip 2")).to_have_value("150 mm")
        page.get_by_role("button", name="Strip 2").first.focus()
        expect(page.get_by_text(re.compile(r"^Strip 2, 450 biaxial: [\d.]+ g fibre, [\d.]+ g resin"))).to_be_visible()
        self.fill("Width of strip 2", "40 mm")
        expect(self.sheet.get_by_text(re.compile(r"strip 2 leaves .* flat on each face"))).to_be_visible()
        expect(page.get_by_label("Width of strip 2")).to_have_value("40 mm")

        page.get_by_role("button", name="Remove strip 2").click()
        page.get_by_text("Copy it to other joints").click()
        page.get_by_role("checkbox", name="Buoyancy box, inside").click()
        page.get_by_role("button", name="Copy shape, filler and strips").click()
        self.saved()
        self.choose("Buoyancy box, inside")
        expect(page.get_by_label("Width of strip 1")).to_have_value("100 mm")
        expect(page.get_by_label("Length", exact=True)).to_have_value("1.6 m")

    def test_what_is_drawn_is_what_is_worked_out(self):
        """The drawing knows its own geometry: its fillet, measured off the screen, has the core's section and ends."""
        page = self.page
        self.begin("To scale")
        self.choose("Bulkheads to bottom")
        for angle in (90, 65, 120):
            with self.subTest(angle=angle):
                self.fill("Angle between faces, °", str(angle))
                self.saved()
                beads = page.get_by_role("button", name="The fillet")
                expect(beads).to_have_count(2)
                drawn = [_polygon(bead.get_attribute("d")) for bead in beads.all()]
                # From the corner to where the bead meets the base.
                leg_px = drawn[0].exterior.coords[1][0] - drawn[0].exterior.coords[0][0]
                scale = leg_px / fillet_leg_mm(15, angle)
                for bead, between in zip(drawn, (angle, 180 - angle), strict=True):
                    section = fillet_section_mm2(15, between)
                    self.assertAlmostEqual(bead.area / scale**2 / section, 1, delta=0.02)
                ends = [
                    float(
                        page.get_by_role("slider", name=f"End of strip {n}").get_attribute("aria-valuetext").split()[0]
                    )
                    for n in (1, 2)
                ]
                wanted = [lay_strip(90, 15, angle).end_mm, lay_strip(140, 15, angle, 0.52).end_mm]
                for end, want in zip(ends, wanted, strict=True):
                    self.assertAlmostEqual(end, want, delta=0.15)

    def test_what_cannot_be_is_said_where_it_stands(self):
        page = self.page
        self.begin("Slips of the pen")
        self.choose("Chines, inside")
        self.fill("Angle between faces, °", "0")
        expect(self.sheet.get_by_text(re.compile("faces at 0° lie on one another"))).to_be_visible()
        self.fill("Angle between faces, °", "200")
        expect(self.sheet.get_by_text("must be 180 or less")).to_be_visible()
        self.fill("Angle between faces, °", "180")
        expect(self.sheet.get_by_text("a flat seam: no fillet")).to_be_visible()
        expect(page.get_by_role("group", name="Flat seam with 1 strips, to scale")).to_be_visible()
        self.fill("Angle between faces, °", "90")
        self.fill("Narrower face", "60 mm")
        self.fill("Radius", "70 mm")
        expect(self.sheet.get_by_text(re.compile("reaches 70 mm along a face.* R 60 mm at most"))).to_be_visible()
        expect(page.get_by_label("Radius", exact=True)).to_have_value("70 mm")
        self.fill("Radius", "18 mm")
        expect(self.sheet.get_by_text(re.compile("at most"))).to_have_count(0)

        self.pick("Filler", "Hollow glass microspheres")
        expect(
            self.sheet.get_by_text(re.compile("Hollow glass microspheres alone in Chines, inside, which carries load"))
        ).to_be_visible()
        expect(page.get_by_role("link", name="Joints")).to_contain_text("stop")
        self.pick("and a second one", "Colloidal silica")
        expect(self.sheet.get_by_text(re.compile("which carries load"))).to_have_count(0)
        self.pick("and a second one", "none")
        self.pick("Filler", "Milled glass fibre")
        self.fill("Your own loose parts to 1 of resin", "6")
        expect(self.sheet.get_by_text(re.compile("solids by volume and will not wet"))).to_be_visible()
        self.fill("Your own loose parts to 1 of resin", "")
        expect(
            page.get_by_role("region", name="Thickening").get_by_role("row").filter(has_text="Colloidal silica")
        ).to_be_visible()

    def test_every_kind_of_joint_is_drawn_to_its_measures(self):
        """The paste in the picture, by the scale of the boards beside it, has the section that is worked out."""
        page = self.page
        self.begin("All kinds")
        self.choose("Gunwales")
        # What is typed, and the section of one bead, tooth or hole that it makes, mm², by the height of its boards, mm.
        for kind, typed, sections, boards_mm in (
            ("Scarf", {"Stock": "12 mm"}, [scarf_face_mm(12, 8) * 0.5], 12),
            ("Gap to fill", {"Depth": "9 mm", "Width": "5 mm"}, [45], 12),
            ("Bedding", {"Teeth of the trowel": "4 mm", "Width": "40 mm"}, [16] * 5, 12),
            ("Holes", {"How many holes": "40", "Across": "4 mm", "Depth": "9 mm"}, [36] * 6, 12),
        ):
            with self.subTest(kind=kind):
                self.pick("What it is", kind)
                for field, words in typed.items():
                    self.fill(field, words)
                self.saved()
                self.assertGreater(self.paste(), 0)
                drawing = page.get_by_role("group", name=re.compile("cut through to scale"))
                expect(drawing.get_by_role("button", name="The paste")).to_have_count(len(sections))
                # Boards and paste of one moment: the drawing takes another scale as a measure comes.
                for _ in range(200):
                    board, *pastes = map(_polygon, drawing.evaluate(BOARD_AND_PASTES))
                    scale = (board.bounds[3] - board.bounds[1]) / boards_mm
                    shares = [paste.area / scale**2 / section for paste, section in zip(pastes, sections, strict=True)]
                    if all(abs(share - 1) < 0.04 for share in shares):
                        break
                    page.wait_for_timeout(100)
                for share in shares:
                    self.assertAlmostEqual(share, 1, delta=0.04)
        self.assertNotIn("NaN", page.content())


class OnAPhone(AtItsJoints):
    size = (390, 844)

    def test_a_corner_is_ticked_and_a_poured_pots_clocks_come_first(self):
        page = self.page
        self.begin("In the hull")
        self.choose("Buoyancy box, inside")
        ring = page.get_by_role("slider", name="Radius of the fillet")
        self.assertGreaterEqual(min(ring.bounding_box()[side] for side in ("width", "height")), 24)
        ring.press("ArrowUp")
        expect(page.get_by_label("Radius", exact=True)).to_have_value("13 mm")
        corner = page.get_by_role("button", name=re.compile("^Buoyancy box, inside.*: to do"))
        self.assertGreaterEqual(corner.bounding_box()["width"], 24)
        corner.click()
        expect(page.get_by_role("button", name=re.compile("^Buoyancy box, inside.*: done"))).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)

        self.step("Ticket")
        by, pour = page.get_by_text("On the work by"), page.get_by_text("A, resin", exact=True)
        expect(
            page.get_by_text(re.compile(r"^Left in its cup it kicks after \d+ min: pour it out at once"))
        ).to_be_visible()
        self.assertGreater(by.bounding_box()["y"], pour.bounding_box()["y"])
        self.to_the_bench()
        page.get_by_role("button", name="Poured").click()
        expect(page.get_by_text(re.compile(r"^Left in its cup it kicks at \d\d:\d\d"))).to_be_visible()
        self.assertLess(by.bounding_box()["y"], pour.bounding_box()["y"])
        hot = page.get_by_text("Pot getting hot?")
        self.assertLess(hot.bounding_box()["y"], pour.bounding_box()["y"])
        hot.click()
        expect(page.get_by_text("Never water into hot resin", exact=False).first).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
