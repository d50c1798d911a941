"""The guide as it ships: whole, with its pictures, on paper; what changed is of this version; nothing that ships is unnamed.

Of `cradle.guide.content`, `cradle.guide.paper`, `cradle.guide.routes`, `tests.shipped`.
"""

import json
from io import BytesIO

from django.contrib.staticfiles.finders import find
from pypdf import PdfReader

from cradle.guide.content import pages, picture, versions
from cradle.version import VERSION
from tests.server.people import TwoShops
from tests.shipped import FILE, bundled, pinned


class Guide(TwoShops):
    def test_every_page_is_whole(self):
        ids = [page.id for page in pages()]
        asks = [ask for page in pages() for ask in page.asks]
        self.assertEqual((len(set(ids)), len(set(asks))), (len(ids), len(asks)))
        # Words that the address of a page means already.
        self.assertFalse({"about", "changes"} & set(ids))
        for block in (block for page in pages() for block in page.blocks):
            if block.picture:
                self.assertTrue(picture(block.picture).is_file(), block.picture)
                self.assertTrue(find(f"guide/{block.picture}.png"), "it is served")
            for said in filter(None, (block.words, block.careful, *block.steps)):
                self.assertRegex(said, r"[.!?:”]$")

    def test_paper_holds_every_sentence(self):
        for paper in ("A4", "Letter"):
            answer = self.client.get(f"/api/guide.pdf?paper={paper}")
            self.assertEqual(answer["Content-Type"], "application/pdf")
            read = PdfReader(BytesIO(answer.content))
            text = " ".join(" ".join(sheet.extract_text() for sheet in read.pages).split())
            for page in pages():
                self.assertIn(page.title, text)
                for block in page.blocks:
                    for said in filter(None, (block.words, block.careful, *block.steps)):
                        self.assertIn(said, text)
        shown = sum(len(sheet.images) for sheet in read.pages)
        self.assertEqual(shown, sum(bool(block.picture) for page in pages() for block in page.blocks))

    def test_the_newest_change_is_of_this_version(self):
        told = self.get("/api/guide")[1]["versions"]
        self.assertEqual(
            (versions()[0].version, told[0]["version"], self.get("/api/about")[1]["version"]), (VERSION,) * 3
        )
        days = [version.on for version in versions()]
        self.assertEqual(days, sorted(days, reverse=True))

    def test_all_that_ships_is_named_with_its_licence(self):
        told = json.loads(FILE.read_text(encoding="utf-8"))
        server = {each["name"]: each["version"] for each in told if each["runs"] == "server"}
        self.assertEqual(server, pinned(), "run `make shipped`")
        page = sorted(each["version"] for each in told if each["runs"] == "page")
        self.assertEqual(page, sorted(bundled().values()), "run `make shipped`")
        self.assertEqual([each["name"] for each in told if not each["licence"]], [])
