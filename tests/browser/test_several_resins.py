"""A job of several resins at the desk: one added, named, laid in, pointed at and taken out; older words sent on."""

import json
import re

from playwright.sync_api import expect

from tests.browser.desk import DeskTest

# A job as it was kept in a browser by the version before: one resin, no names of it.
AS_BEFORE = """([key, name]) => {
    const older = (job) => {
        const { resins, ...rest } = job;
        const { id, word, ...chemistry } = resins[0];
        const bare = ({ use_id, ...thing }) => thing;
        const ply = (each) => (each.coat ? { ...each, coat: bare(each.coat) } : each);
        const parts = rest.parts.map((part) => ({ ...bare(part), plies: part.plies.map(ply) }));
        return { ...rest, version: 1, chemistry, parts, joints: rest.joints.map(bare) };
    };
    return fetch(key.replace("inch-cradle.draft.", "/api/jobs/")).then((answer) => answer.json()).then((job) => {
        const base = older(job.document);
        localStorage.setItem(key, JSON.stringify({ base, document: { ...base, name } }));
        return JSON.stringify(base);
    });
}"""


class SeveralResins(DeskTest):
    def test_a_gel_coat_from_its_own_tin_gets_its_pot_and_its_wait(self):
        page = self.page
        self.new_job("Dinghy seat")
        page.get_by_role("button", name="Add a part").click()
        self.fill("Width", "40 cm")
        self.fill("Length", "1 m")
        self.pick("Surface", "Waxed mould")
        self.step("Stack")
        page.get_by_label("Write the stack").fill("600 gel coat, 2x 450 csm")
        expect(page.get_by_text("3 plies read")).to_be_visible()
        self.step("Chemistry")
        self.pick("Resin", "General-purpose polyester")
        expect(page.get_by_role("heading", level=1)).to_contain_text("catalyst gels in")
        self.saved()
        before = self.pots()

        # A second tin: until the coat names it, it is mixed for nothing.
        page.get_by_role("button", name="Add another resin").click()
        self.fill("What it is for", "gel coat")
        expect(page.get_by_role("list", name="Resins in use").get_by_role("button")).to_have_count(2)
        self.pick("Resin", "Gel coat, without wax")
        expect(page.get_by_role("heading", level=1)).to_contain_text("catalyst gels in")
        expect(page.get_by_role("link", name="Chemistry")).to_contain_text("+ 1")
        self.step("Stack")
        page.get_by_role("row").filter(has_text="gel coat").locator("td:nth-child(2) > button").click()
        self.pick("Of the resin", "gel coat")
        self.saved()
        self.assertEqual(self.pots(), before + 1)
        # Written anew, the coat is still of its own tin.
        page.get_by_label("Write the stack").fill("600 gel coat, 3x 450 csm")
        expect(page.get_by_text("4 plies read")).to_be_visible()
        expect(page.get_by_role("row").filter(has_text="of gel coat")).to_have_count(1)
        page.get_by_label("Write the stack").fill("600 gel coat, 2x 450 csm")
        expect(page.get_by_text("3 plies read")).to_be_visible()
        self.saved()
        self.step("Pots")
        expect(page.get_by_role("region", name="Picture")).to_contain_text("thumbprint")
        self.step("Ticket")
        page.get_by_role("button", name="Goggles are on").click()
        ticket = page.get_by_role("region", name="Ticket")
        expect(ticket).to_contain_text("gel coat, Gel coat, without wax")
        expect(ticket).to_contain_text(re.compile(r"pour 2[67]\d g"))

        # Taken out, its coat is mixed by its own sheet again.
        self.step("Chemistry")
        page.get_by_role("list", name="Resins in use").get_by_role("button", name="Gel coat, without wax").click()
        page.get_by_role("button", name="Take gel coat out of the job").click()
        expect(page.get_by_role("list", name="Resins in use")).to_have_count(0)
        self.saved()
        self.assertEqual(self.pots(), before)

    def pots(self) -> int:
        return int(re.search(r"(\d+) pots?", self.page.get_by_role("link", name="Pots").inner_text())[1])

    def test_what_was_typed_before_the_program_was_made_newer_is_sent_on(self):
        page = self.page
        self.open("Locker lid")
        job_id = re.search(r"/jobs/([0-9a-f-]+)", page.url)[1]
        key = f"inch-cradle.draft.{job_id}"
        page.goto(self.server.address)
        kept = json.loads(page.evaluate(AS_BEFORE, [key, "Locker lid, typed before"]))
        self.assertEqual((kept["version"], "resins" in kept), (1, False))
        page.goto(f"{self.server.address}/jobs/{job_id}/measure")
        expect(page.get_by_label("Job", exact=True)).to_have_value("Locker lid, typed before")
        self.assertIsNone(page.evaluate("(key) => localStorage.getItem(key)", key))
        page.goto(self.server.address)
        expect(page.get_by_role("list", name="Jobs").get_by_text("Locker lid, typed before")).to_be_visible()
