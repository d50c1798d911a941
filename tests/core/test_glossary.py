"""The glossary: whole, in plain English itself, and no trade word on a screen that it leaves out.

What is plain English is read off pyspellchecker's counts of everyday words (subtitles of films): what hardly stands there is a
word of the trade, or is named here as plain all the same. Of `layup.training.glossary`.
"""

import ast
import re
from collections.abc import Iterator
from functools import cache
from unittest import TestCase

from pydantic import ValidationError
from spellchecker import SpellChecker

from cradle.settings import BASE_DIR
from layup.training.glossary import Glossary, Word, glossary, words_in

# A word that stands so often in everyday speech is understood.
_EVERYDAY = 400
_WORD = re.compile(r"[A-Za-z][a-z]+(?:-[a-z]+)*")
_ENDS = ("'s", "’s", "es", "s", "ed", "d", "ing", "ly", "er", "est", "r")
# Plain to whoever reads English, though seldom said in films: British spellings, units, and what a shop does.
_PLAIN = frozenset((BASE_DIR / "tests" / "core" / "plain_words.txt").read_text(encoding="utf-8").split())


@cache
def _everyday() -> SpellChecker:
    return SpellChecker()


def understood(word: str) -> bool:
    """Whether a word is plain English, or the glossary has it, in some of its endings."""
    parts = word.lower().split("-")
    if glossary().word(word) or word.lower() in _PLAIN or (len(parts) > 1 and all(map(understood, parts))):
        return True
    stems = {word.lower(), *(word.lower().removesuffix(end) for end in _ENDS)}
    stems |= {f"{stem}e" for stem in stems}
    told = {form.lower() for each in glossary().words for form in each.written}
    in_terms = {piece for form in told for piece in form.split()}
    return any(
        stem in told or stem in in_terms or stem in _PLAIN or _everyday().word_frequency[stem] >= _EVERYDAY
        for stem in stems
    )


def sentences() -> Iterator[str]:
    """What the core and the screens say: strings with a space in them that are no code."""
    for file in [*(BASE_DIR / "layup").rglob("*.py"), *(BASE_DIR / "cradle").rglob("*.py")]:
        # Where words are read and none is said: spellings of units, headings of tables that others write.
        if "migrations" in file.parts or file.name in ("settings.py", "units.py", "stack_csv.py", "fabric_words.py"):
            continue
        tree = ast.parse(file.read_text(encoding="utf-8"))
        docs = {
            id(node.body[0].value)
            for node in ast.walk(tree)
            if isinstance(node, (ast.Module, ast.ClassDef, ast.FunctionDef))
            and node.body
            and isinstance(node.body[0], ast.Expr)
        }
        for node in ast.walk(tree):
            if (
                isinstance(node, ast.Constant)
                and isinstance(node.value, str)
                and id(node) not in docs
                and _is_said(node.value)
            ):
                yield node.value
    for file in [*(BASE_DIR / "layup" / "library").glob("*.toml"), *(BASE_DIR / "cradle" / "guide").glob("*.toml")]:
        yield from (said for said in re.findall(r'"([^"\n]+ [^"\n]+)"', file.read_text(encoding="utf-8")))
    for file in (BASE_DIR / "web" / "src").rglob("*.tsx"):
        text = file.read_text(encoding="utf-8")
        yield from filter(_is_said, re.findall(r">\s*([A-Z][^<>{}=;()]* [^<>{}=;()]*)[<{]", text))
        yield from filter(_is_said, re.findall(r'(?:label|title|placeholder|words)="([^"\n]* [^"\n]*)"', text))


def _is_said(text: str) -> bool:
    """No query, format or style, but words: with a space between two of them."""
    return bool(re.search(r"[a-z] [a-z]", text)) and not re.search(r"[{}_=;\\]|SELECT|https?:|Http|--|::", text)


class Words(TestCase):
    def test_every_trade_word_on_a_screen_is_in_it_or_is_plain(self):
        said = {word for sentence in sentences() for word in _WORD.findall(sentence)}
        self.assertGreater(len(said), 1500)
        self.assertEqual(sorted({word.lower() for word in said if not understood(word)}), [])

    def test_no_plain_word_is_named_that_nobody_says(self):
        """The list of plain words is no place to hide one."""
        said = {word.lower() for sentence in sentences() for word in _WORD.findall(sentence)}
        said |= {part for word in said for part in word.split("-")}
        stems = {word.removesuffix(end) for word in said for end in ("", *_ENDS)}
        stems |= {f"{stem}e" for stem in stems}
        self.assertEqual(sorted(_PLAIN - stems), [])

    def test_what_a_word_means_is_told_in_plain_words(self):
        for word in glossary().words:
            with self.subTest(word.term):
                self.assertTrue(word.means.endswith("."))
                self.assertLess(len(word.means), 260)
                self.assertEqual([each for each in _WORD.findall(word.means) if not understood(each)], [])
                self.assertRegex(word.source, r"^(common practice|memory|this program|published: .+)$")
                self.assertNotIn(word.term, word.see)

    def test_the_terms_it_must_have(self):
        """shared words of the trade that every part of the program speaks in; common practice, no source."""
        for term in (
            "pot",
            "life",
            "kick",
            "gel",
            "tack",
            "ply",
            "fillet",
            "tabbing",
            "catalyst",
            "hardener",
            "peel ply",
            "amine blush",
            "bevel",
            "core",
        ):
            self.assertIsNotNone(glossary().word(term), term)

    def test_the_longest_word_is_found_and_each_once(self):
        found = [
            (form, word.term)
            for form, word in words_in("Gel coat, then gel coat: the pot gels. A pre-gel-coat is none, nor a despot.")
        ]
        self.assertEqual(found, [("Gel coat", "gel coat"), ("pot", "pot"), ("gels", "gel")])

    def test_one_that_is_not_whole_is_refused(self):
        one = Word(term="mat", means="A fabric.", source="memory")
        with self.assertRaisesRegex(ValidationError, "stands for mat and for csm"):
            Glossary(
                words=(
                    one.model_copy(update={"forms": ("x",)}),
                    Word(term="csm", forms=("x",), means="A mat.", source="memory"),
                )
            )
        with self.assertRaisesRegex(ValidationError, "names resin, which"):
            Glossary(words=(one.model_copy(update={"see": ("resin",)}),))
