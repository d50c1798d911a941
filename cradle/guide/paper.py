"""The guide as one PDF."""

from collections.abc import Iterator
from datetime import date

from reportlab.platypus import Flowable, PageBreak

from cradle.guide.content import Block, GuidePage, pages, picture, versions
from layup.paper.kit import Masthead, Paper, heading, photo, printed, title, words

_MOST_TALL = 250.0


def guide_pdf(paper: Paper, printed_on: date) -> bytes:
    """All pages in their order, on A4 or Letter."""
    head = Masthead("Inch Cradle", 0, printed_on, paper)
    story = [title("Inch Cradle: the guide"), *_contents()]
    for page in pages():
        story += [PageBreak(), *_page(page, head)]
    return printed(head, "the guide", story, edition=f"version {versions()[0].version}, printed {head.day_words()}")


def _contents() -> Iterator[Flowable]:
    for page in pages():
        yield words(page.title, bold=True, after=1, kept=True)
        yield words(" ".join(page.asks), 9, after=5)


def _page(page: GuidePage, head: Masthead) -> Iterator[Flowable]:
    yield heading(page.title)
    for block in page.blocks:
        yield from _block(block, page, head)


def _block(block: Block, page: GuidePage, head: Masthead) -> Iterator[Flowable]:
    if block.words:
        yield words(block.words, after=7)
    for number, step in enumerate(block.steps, 1):
        yield words(f"{number}. {step}", after=4)
    if block.careful:
        yield words(f"Careful: {block.careful}", bold=True, after=7)
    if block.picture and picture(block.picture).is_file():
        yield photo(picture(block.picture).read_bytes(), (head.room[0], _MOST_TALL), f"the screen of {page.title}")
