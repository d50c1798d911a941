"""The faces that paper is set in, embedded in every print: Latin, Greek and Cyrillic plain and bold, and some for more.

Those for more hold Arabic, Hebrew and Thai letters and pictures, Korean, Chinese and Japanese; each is opened when the
first word needs it. Arabic letters are joined and lines that run from the right are put in the order in which they are drawn.
"""

import re
from collections.abc import Mapping
from functools import cache
from importlib.resources import as_file, files
from itertools import groupby
from typing import Any
from unicodedata import bidirectional, category, combining, normalize
from xml.sax.saxutils import escape

from arabic_reshaper import ArabicReshaper
from bidi import get_display
from reportlab.lib.fonts import addMapping
from reportlab.pdfbase.pdfmetrics import getFont, registerFont, stringWidth
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

PLAIN, BOLD = "CradlePrint", "CradlePrint-Bold"
_MORE = ("Far", "Korean", "Chinese-1", "Chinese-2", "Chinese-3", "Chinese-4")


class _Face(TTFont):
    """A face whose letters past the first 65,536, pictures above all, can be copied out of a print again."""

    def addObjects(self, doc: Any) -> None:
        """Writes the face into a document, then says of its far letters what they are in two halves, as PDF has them."""
        super().addObjects(doc)
        for name, stream in doc.idToObject.items():
            if name.startswith("toUnicodeCMap:") and isinstance(stream.content, str):
                stream.content = _FAR_LETTER.sub(_as_utf16, stream.content)


_FAR_LETTER = re.compile("<([0-9A-F]{5,6})>")


def _as_utf16(found: re.Match[str]) -> str:
    return f"<{chr(int(found[1], 16)).encode('utf-16-be').hex().upper()}>"


def _opened(name: str, file: str) -> Mapping[int, int]:
    with as_file(files(__name__).joinpath(file)) as path:
        registerFont(_Face(name, str(path)))
    for bold in (0, 1):
        addMapping(name, bold, 0, name)
    return getFont(name).face.charToGlyph


_HAS = _opened(PLAIN, "cradle-print-regular.ttf")
_opened(BOLD, "cradle-print-bold.ttf")
# What the face lacks and is said otherwise; what joins or colours the letters beside it is drawn with them.
_AS = {"\u202f": "\u00a0", "→": "›", "✓": "x"}
_JOINERS = dict.fromkeys((0x200C, 0x200D, 0xFE0E, 0xFE0F, *range(0x1F3FB, 0x1F400)))
MISSING = "?"


@cache
def _more(name: str) -> Mapping[int, int]:
    return _opened(f"{PLAIN}-{name}", f"cradle-print-{name.lower()}.ttf")


@cache
def _face_for_more(letter: str) -> str | None:
    return next((f"{PLAIN}-{name}" for name in _MORE if ord(letter) in _more(name)), None)


@cache
def _reshaper() -> ArabicReshaper:
    return ArabicReshaper()


def printable(words: str) -> str:
    """Words in letters that a face has, in the order in which they are drawn from the left.

    An accent that no face has is dropped, any other letter becomes a question mark.

    >>> printable("Łódka ±45° Ж 船 🚤")
    'Łódka ±45° Ж 船 🚤'
    >>> printable("שלט skiff")
    'טלש skiff'
    """
    words = words.translate(_JOINERS)
    if any(bidirectional(letter) in ("R", "AL") for letter in words):
        words = get_display(_reshaper().reshape(words), base_dir="L")
    return "".join(map(_letter, words))


def _letter(letter: str) -> str:
    if ord(letter) in _HAS or letter == "\n":
        return letter
    bare = _AS.get(letter) or "".join(c for c in normalize("NFKD", letter) if not combining(c))
    if bare and all(ord(c) in _HAS for c in bare):
        return bare
    if _face_for_more(letter):
        return letter
    return "" if combining(letter) or category(letter) in ("Cf", "Mn") else MISSING


def _runs(words: str, font: str) -> list[tuple[str, str]]:
    """Words as the stretches that one face sets, each with that face's name."""
    told = groupby(printable(words), key=lambda letter: font if ord(letter) in _HAS else _face_for_more(letter) or font)
    return [(face, "".join(letters)) for face, letters in told]


def markup(words: str, font: str) -> str:
    """Words for a flowing paragraph, each stretch in its face.

    >>> markup("deck & lid", PLAIN), markup("船 1", BOLD)
    ('deck &amp; lid', '<font name="CradlePrint-Chinese-3">船</font> 1')
    """
    return "".join(
        escape(letters) if face == font else f'<font name="{face}">{escape(letters)}</font>'
        for face, letters in _runs(words, font)
    )


def width_of(words: str, font: str, size: float) -> float:
    """How wide words are set, points.

    >>> width_of("pot", BOLD, 10) > width_of("pot", PLAIN, 10) > 0
    True
    """
    return sum(stringWidth(letters, face, size) for face, letters in _runs(words, font))


def draw_words(canvas: Canvas, x: float, y: float, words: str, font: str, size: float) -> None:
    """Writes words on their line, from x to the right."""
    for face, letters in _runs(words, font):
        canvas.setFont(face, size)
        canvas.drawString(x, y, letters)
        x += stringWidth(letters, face, size)


def wrapped(words: str, font: str, size: float, wide: float) -> list[str]:
    """Words broken into rows no wider than `wide` points, a word too long for a row over as many as it takes.

    >>> wrapped("set out the cups", PLAIN, 10, 40)
    ['set out', 'the cups']
    """
    rows: list[str] = []
    for word in words.split():
        if rows and width_of(f"{rows[-1]} {word}", font, size) <= wide:
            rows[-1] += f" {word}"
        else:
            rows += _in_pieces(word, font, size, wide)
    return rows or [""]


def _in_pieces(word: str, font: str, size: float, wide: float) -> list[str]:
    pieces = [""]
    for letter in word:
        if pieces[-1] and width_of(pieces[-1] + letter, font, size) > wide:
            pieces.append("")
        pieces[-1] += letter
    return pieces
