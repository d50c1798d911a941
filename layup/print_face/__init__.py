"""The face that paper is set in, embedded in every print: Latin, Greek and Cyrillic letters, plain and bold."""

from importlib.resources import as_file, files
from unicodedata import combining, normalize

from reportlab.pdfbase.pdfmetrics import getFont, registerFont, stringWidth
from reportlab.pdfbase.ttfonts import TTFont

PLAIN, BOLD = "CradlePrint", "CradlePrint-Bold"
for _name, _file in ((PLAIN, "cradle-print-regular.ttf"), (BOLD, "cradle-print-bold.ttf")):
    with as_file(files(__name__).joinpath(_file)) as _path:
        registerFont(TTFont(_name, str(_path)))
_HAS = getFont(PLAIN).face.charToGlyph
# What the face lacks and is said otherwise.
_AS = {"\u202f": "\u00a0", "→": "›", "✓": "x"}
MISSING = "?"


def printable(words: str) -> str:
    """Words in the letters that the face has: an accent it lacks is dropped, any other letter becomes a question mark.

    >>> printable("Łódka ±45° Ж 船")
    'Łódka ±45° Ж ?'
    """
    return "".join(_letter(letter) for letter in words)


def _letter(letter: str) -> str:
    if ord(letter) in _HAS:
        return letter
    bare = _AS.get(letter) or "".join(c for c in normalize("NFKD", letter) if not combining(c))
    return bare if bare and all(ord(c) in _HAS for c in bare) else "" if combining(letter) else MISSING


def wrapped(words: str, font: str, size: float, wide: float) -> list[str]:
    """Words broken into rows no wider than `wide` points.

    >>> wrapped("set out the cups", PLAIN, 10, 40)
    ['set out', 'the cups']
    """
    rows: list[str] = []
    for word in printable(words).split():
        if rows and stringWidth(f"{rows[-1]} {word}", font, size) <= wide:
            rows[-1] += f" {word}"
        else:
            rows += _in_pieces(word, font, size, wide)
    return rows or [""]


def _in_pieces(word: str, font: str, size: float, wide: float) -> list[str]:
    """A word too long for a row, over as many as it takes."""
    pieces = [""]
    for letter in word:
        if pieces[-1] and stringWidth(pieces[-1] + letter, font, size) > wide:
            pieces.append("")
        pieces[-1] += letter
    return pieces


def shortened(words: str, font: str, size: float, wide: float) -> str:
    """Words that fit, the last of them dots where they do not."""
    words = printable(words)
    if stringWidth(words, font, size) <= wide:
        return words
    while words and stringWidth(words + "…", font, size) > wide:
        words = words[:-1]
    return words + "…"
