"""The words of the trade, as this program uses them: each in plain English, with its kind of source and what it hangs together with."""

import re
import tomllib
from collections.abc import Iterator
from functools import cache
from importlib.resources import files
from typing import Self

from pydantic import Field, model_validator

from layup.record import Record


class Word(Record):
    """A word: how else it is written, what it means, where that comes from, which others to read with it."""

    term: str = Field(min_length=1)
    forms: tuple[str, ...] = ()
    means: str = Field(min_length=1)
    source: str
    see: tuple[str, ...] = ()

    @property
    def written(self) -> tuple[str, ...]:
        """Every way it is written."""
        return (self.term, *self.forms)


class Glossary(Record):
    """All of them, in the order of the alphabet. No form stands for two words; what one names is there."""

    words: tuple[Word, ...]

    @model_validator(mode="after")
    def _whole(self) -> Self:
        terms = {word.term for word in self.words}
        owners: dict[str, str] = {}
        for word in self.words:
            for form in word.written:
                if owners.setdefault(form.lower(), word.term) != word.term:
                    raise ValueError(f"{form} stands for {owners[form.lower()]} and for {word.term}")
            if missing := set(word.see) - terms:
                raise ValueError(f"{word.term} names {', '.join(sorted(missing))}, which are not there")
        return self

    def word(self, form: str) -> Word | None:
        """What a form stands for, however it is written.

        >>> glossary().word("Fillets").term, glossary().word("luncheon")
        ('fillet', None)
        """
        return _by_form().get(form.lower())


@cache
def glossary() -> Glossary:
    """The glossary that ships with the core.

    >>> glossary().words[0].term
    'abrade'
    """
    text = files("layup.library").joinpath("glossary.toml").read_text(encoding="utf-8")
    read = Glossary.model_validate(tomllib.loads(text))
    return Glossary(words=tuple(sorted(read.words, key=lambda word: word.term.lower())))


@cache
def _by_form() -> dict[str, Word]:
    return {form.lower(): word for word in glossary().words for form in word.written}


@cache
def _any_form() -> re.Pattern[str]:
    # The longest first, so that "gel coat" is not read as "gel".
    forms = sorted((re.escape(form) for form in _by_form()), key=len, reverse=True)
    return re.compile(rf"(?<![\w-])(?:{'|'.join(forms)})(?![\w-])", re.IGNORECASE)


def words_in(text: str) -> Iterator[tuple[str, Word]]:
    """The words of the glossary in a text, as they stand there, each once.

    >>> [(form, word.term) for form, word in words_in("Gel coat stays tacky: gel coat, then mat.")]
    [('Gel coat', 'gel coat'), ('tacky', 'tack'), ('mat', 'chopped mat')]
    """
    seen: set[str] = set()
    for found in _any_form().finditer(text):
        word = _by_form()[found[0].lower()]
        if word.term not in seen:
            seen.add(word.term)
            yield found[0], word
