"""A canvas whose every mark says what it is, so that a print can be read aloud in its order."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any, BinaryIO

from reportlab.lib.units import mm
from reportlab.pdfbase.pdfdoc import PDFArray, PDFDictionary, PDFName, PDFObjectReference, PDFString
from reportlab.pdfgen.canvas import Canvas

from layup.paper.face import PLAIN, draw_words, width_of

FOOT_SIZE = 8
FOOT_UP = 8 * mm
MARGIN = 14 * mm


@dataclass(eq=False)
class Element:
    """A piece of a document's structure: a heading, a paragraph, a table, its rows and cells, a figure.

    It joins the document when the first of its marks is drawn. One that is `once` stands for its first page alone: a
    table's head that is drawn again on the next is for the eye.
    """

    kind: str
    parent: "Element | None" = None
    alt: str = ""
    once: bool = False
    kids: list["Element | _Mark"] = field(default_factory=list)

    def first_page(self) -> int | None:
        """The page of its first mark, none where nothing of it is drawn."""
        return next((kid.page for kid in self.kids if isinstance(kid, _Mark)), None)


@dataclass(frozen=True)
class _Mark:
    page: int
    number: int


@dataclass
class _Structure:
    """What is tagged so far, page by page."""

    document: Element = field(default_factory=lambda: Element("Document"))
    pages: list[list[Element]] = field(default_factory=lambda: [[]])

    def mark(self, element: Element) -> _Mark:
        """The next mark of the page in hand, of an element."""
        page = self.pages[-1]
        mark = _Mark(len(self.pages) - 1, len(page))
        page.append(element)
        self._join(element)
        element.kids.append(mark)
        return mark

    def _join(self, element: Element) -> None:
        if element.kids:
            return
        parent = element.parent or self.document
        if parent is not self.document:
            self._join(parent)
        parent.kids.append(element)


class TaggedCanvas(Canvas):
    """A canvas that tags what is drawn, and numbers its pages at the foot when all of them are there."""

    def __init__(self, out: BinaryIO, *, foot: tuple[str, str] | None = None, **more: Any) -> None:
        """`foot` is what the print is of, and its edition; none where its cards say so themselves."""
        super().__init__(out, **more)
        self._foot, self._structure = foot, _Structure()
        self._whole: list[dict[str, Any]] = []

    @contextmanager
    def marked(self, element: Element) -> Iterator[None]:
        """What is drawn within is of this element; of none where it stood on an earlier page already."""
        page = len(self._structure.pages) - 1
        if element.once and element.first_page() not in (None, page):
            with self.unread():
                yield
            return
        mark = self._structure.mark(element)
        self._code.append(f"/{element.kind} <</MCID {mark.number}>> BDC")
        yield
        self._code.append("EMC")

    @contextmanager
    def unread(self) -> Iterator[None]:
        """What is drawn within is for the eye alone: rules, boxes, the foot of a page."""
        self._code.append("/Artifact BMC")
        yield
        self._code.append("EMC")

    def showPage(self) -> None:
        """Keeps the page until all are there."""
        self._whole.append(dict(self.__dict__))
        self._structure.pages.append([])
        self._startPage()

    def save(self) -> None:
        """Writes every page with its number and how many there are, and the tree of what they hold."""
        if self._code_is_begun():
            self.showPage()
        whole, references = self._whole, []
        for number, page in enumerate(whole, 1):
            self.__dict__.update(page)
            if self._foot:
                with self.unread():
                    self._write_foot(*self._foot, f"page {number} of {len(whole)}")
            super().showPage()
            written = self._doc.Pages.pages[-1]
            # The library's pages know no such keys, and leave out what they do not know.
            written.__NoDefault__ = [*written.__NoDefault__, "StructParents", "Tabs"]
            written.StructParents, written.Tabs = number - 1, PDFName("S")
            references.append(self._doc.Reference(written))
        self._write_structure(references)
        super().save()

    def _code_is_begun(self) -> bool:
        return bool(self._structure.pages[-1]) or not self._whole

    def _write_foot(self, name: str, edition: str, numbered: str) -> None:
        self.setFillGray(0)
        left = self._pagesize[0] - MARGIN - width_of(numbered, PLAIN, FOOT_SIZE)
        draw_words(self, left, FOOT_UP, numbered, PLAIN, FOOT_SIZE)
        told = f"{name}   {edition}"
        if width_of(told, PLAIN, FOOT_SIZE) <= left - MARGIN - 4 * mm:
            draw_words(self, MARGIN, FOOT_UP, told, PLAIN, FOOT_SIZE)
            return
        # A long name has a row to itself, and is set smaller before it is cut.
        draw_words(self, MARGIN, FOOT_UP, edition, PLAIN, FOOT_SIZE)
        fits = min(1.0, (self._pagesize[0] - 2 * MARGIN) / width_of(name, PLAIN, FOOT_SIZE))
        draw_words(self, MARGIN, FOOT_UP + 1.2 * FOOT_SIZE, name, PLAIN, FOOT_SIZE * fits)

    def _write_structure(self, pages: list[PDFObjectReference]) -> None:
        doc, written = self._doc, {}
        root = PDFDictionary({"Type": PDFName("StructTreeRoot")})
        doc.Catalog.StructTreeRoot = root
        doc.Catalog.MarkInfo = PDFDictionary({"Marked": "true"})
        doc.Catalog.ViewerPreferences = PDFDictionary({"DisplayDocTitle": "true"})

        def write(element: Element, parent: PDFObjectReference) -> PDFObjectReference:
            """An element with all that is in it, and where it stands in the file."""
            entry = PDFDictionary({"Type": PDFName("StructElem"), "S": PDFName(element.kind), "P": parent})
            reference = doc.Reference(entry)
            if element.alt:
                entry["Alt"] = PDFString(element.alt)
            first = element.first_page()
            if first is not None:
                entry["Pg"] = pages[first]
            entry["K"] = PDFArray(
                [
                    _content(kid, first, pages) if isinstance(kid, _Mark) else write(kid, reference)
                    for kid in element.kids
                ]
            )
            written[id(element)] = reference
            return reference

        root["K"] = write(self._structure.document, doc.Reference(root))
        parents = []
        for number, elements in enumerate(self._structure.pages[: len(pages)]):
            parents += [number, PDFArray([written[id(element)] for element in elements])]
        root["ParentTree"] = doc.Reference(PDFDictionary({"Nums": PDFArray(parents)}))
        root["ParentTreeNextKey"] = len(pages)


def _content(mark: _Mark, first: int | None, pages: list[PDFObjectReference]) -> object:
    if mark.page == first:
        return mark.number
    return PDFDictionary({"Type": PDFName("MCR"), "Pg": pages[mark.page], "MCID": mark.number})
