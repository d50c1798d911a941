"""Plurals and articles, as a sentence needs them."""

import re

# Numbers that are said with a vowel first: eight, eleven, eighteen, and what begins with them.
_AN_NUMBER = re.compile(r"8|1[18](?:$|[^\d.,\u202f]|[,\u202f]\d{3}(?:$|[^\d,\u202f])|\.)")
_AN_WORD = re.compile(r"[aeio]|u(?!ni|se)|hour", re.IGNORECASE)


def counted(count: int, one: str, many: str = "") -> str:
    """A count with its noun.

    >>> counted(1, "pot"), counted(3, "ply", "plies"), counted(1200, "piece")
    ('1 pot', '3 plies', '1,200 pieces')
    """
    return f"{count:,} {one if count == 1 else many or one + 's'}"


def with_article(words: str) -> str:
    """Words with the article that they are said with.

    >>> [with_article(words) for words in ("85 g pot", "110 g pot", "11 g pot", "8 oz pot", "18 min", "infusion bag", "unit")]
    ['an 85 g pot', 'a 110 g pot', 'an 11 g pot', 'an 8 oz pot', 'an 18 min', 'an infusion bag', 'a unit']
    """
    vowel = _AN_NUMBER.match(words) if words[:1].isdigit() else _AN_WORD.match(words)
    return f"{'an' if vowel else 'a'} {words}"


def begun(words: str) -> str:
    """Words as a sentence begins with them.

    >>> begun("an 85 g pot is mixed")
    'An 85 g pot is mixed'
    """
    return words[:1].upper() + words[1:]
