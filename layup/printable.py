"""Letters that do not print: they are let into no document, and so into no file that is made of one."""

import re

_CONTROLS = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\u2028\u2029\ud800-\udfff\ufffe\uffff]")


def printable(words: str) -> str:
    """Words without letters that do not print; lines and tabs stay.

    >>> printable("lid\\u0001\\r\\nleft")
    'lid\\nleft'
    """
    return _CONTROLS.sub("", words)


def plain(words: str) -> str:
    """The same on one line, as a cell of a table holds it.

    >>> plain("lid\\u0001,\\r\\n left ")
    'lid, left'
    """
    return " ".join(printable(words).split())


def all_printable(fields: object) -> object:
    """The fields of a thing, as they are read, with every word among them printable."""
    if not isinstance(fields, dict):
        return fields
    return {name: printable(value) if isinstance(value, str) else value for name, value in fields.items()}
