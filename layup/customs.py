"""How a country writes numbers, money, days and hours, said in English: the decimal mark, 12 hours or 24."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, time
from functools import cache
from typing import Annotated, Literal

from babel import Locale, UnknownLocaleError, localedata
from babel.dates import format_date, format_skeleton, format_time
from babel.numbers import format_currency, get_decimal_symbol, get_group_symbol
from pydantic import AfterValidator, Field

DecimalMark = Literal[".", ",", ""]
NARROW_SPACE = "\u202f"
_NOBODYS = "en_GB"


@dataclass(frozen=True)
class Customs:
    """Those of a locale such as en-DE: English, as it is written in Germany. Without one, of nobody's in particular:
    a point, thousands a narrow space apart, and a typed comma is asked about.
    """

    locale: str = ""

    @property
    def decimal(self) -> DecimalMark:
        """The mark before decimals; none where nobody said."""
        return _marks(self.locale)[0] if self.locale else ""

    @property
    def decimal_comma(self) -> bool:
        """Whether decimals follow a comma: a table then parts its cells by semicolons.

        >>> Customs("en-DE").decimal_comma, Customs("en-CH").decimal_comma, Customs().decimal_comma
        (True, False, False)
        """
        return self.decimal == ","

    def number(self, value: float, form: str = "g") -> str:
        """A number, formatted as Python does, in these marks.

        >>> Customs("en-DE").number(1234.56, ",.1f"), Customs().number(2.5)
        ('1\\u202f234,6', '2.5')
        """
        return self.written(format(value, form))

    def written(self, number: str) -> str:
        """A number as Python writes it with commas, in these marks. Thousands are never parted by a point: it would be
        read back as a decimal mark.

        >>> [Customs(locale).written("-1,234.5") for locale in ("en-US", "en-DE", "en-CH", "")]
        ['-1,234.5', '-1\\u202f234,5', '-1\\u202f234.5', '-1\\u202f234.5']
        """
        decimal, thousands = _marks(self.locale)
        return number.translate({ord(","): thousands, ord("."): decimal})

    def clock(self, at: time | datetime) -> str:
        """An hour of the day.

        >>> Customs("en-US").clock(time(14, 5)), Customs("en-DE").clock(time(14, 5))
        ('2:05\\u202fPM', '14:05')
        """
        return format_time(at if isinstance(at, time) else at.time(), "short", locale=self._babel)

    def hour(self, hours: float) -> str:
        """An hour as a number, 24 the end of the day.

        >>> Customs().hour(8.5), Customs("en-US").hour(24)
        ('08:30', '12:00\\u202fAM')
        """
        whole = round(hours * 60)
        return self.clock(time(whole // 60 % 24, whole % 60))

    def day(self, at: date) -> str:
        """A day with its year.

        >>> Customs("en-US").day(date(2026, 11, 28)), Customs().day(date(2026, 11, 28))
        ('November 28, 2026', '28 November 2026')
        """
        return format_date(at, "long", locale=self._babel)

    @property
    def month_first(self) -> bool:
        """Whether a date in numbers has its month before its day.

        >>> Customs("en-US").month_first, Customs("en-DE").month_first
        (True, False)
        """
        pattern = self._babel.date_formats["short"].pattern
        return pattern.index("M") < pattern.index("d")

    def weekday(self, at: date, *, whole: bool = False) -> str:
        """A day of the week with its date, short or with its names written out.

        >>> Customs("en-US").weekday(date(2026, 11, 28)), Customs().weekday(date(2026, 11, 28), whole=True)
        ('Sat, Nov 28', 'Saturday 28 November')
        """
        return format_skeleton("MMMMEEEEd" if whole else "MMMEd", at, locale=self._babel)

    def whole_day(self, at: date) -> str:
        """A day of the week with its date and year, nothing of it shortened.

        >>> Customs("en-US").whole_day(date(2026, 11, 28)), Customs().whole_day(date(2026, 11, 28))
        ('Saturday, November 28, 2026', 'Saturday, 28 November 2026')
        """
        return format_date(at, "full", locale=self._babel)

    def moment(self, at: datetime) -> str:
        """A day and an hour of it.

        >>> Customs().moment(datetime(2026, 5, 2, 8, 30)), Customs("en-US").moment(datetime(2026, 5, 2, 8, 30))
        ('Sat 2 May 08:30', 'Sat, May 2 8:30\u202fAM')
        """
        return f"{self.weekday(at)} {self.clock(at)}"

    def money(self, amount: float, currency: str) -> str:
        """
        >>> Customs("en-US").money(1234.5, "USD"), Customs("en-DE").money(1234.5, "EUR")
        ('$1,234.50', '1.234,50\\xa0€')
        """
        return format_currency(amount, currency, locale=self._babel)

    @property
    def _babel(self) -> Locale:
        return _babel(self.locale)


UNSAID = Customs()


@cache
def _babel(locale: str) -> Locale:
    return Locale.parse(locale or _NOBODYS, sep="-" if locale else "_")


@cache
def _marks(locale: str) -> tuple[DecimalMark, str]:
    if not locale:
        return ".", NARROW_SPACE
    decimal = get_decimal_symbol(_babel(locale))
    mark: DecimalMark = "," if decimal == "," else "."
    return mark, "," if mark == "." and get_group_symbol(_babel(locale)) == "," else NARROW_SPACE


@cache
def locales() -> tuple[str, ...]:
    """English as it is written in each country that has customs of its own.

    >>> len(locales()) > 90, {"en-US", "en-GB", "en-DE", "en-FR"} <= set(locales())
    (True, True)
    """
    found: Iterable[str] = localedata.locale_identifiers()
    return tuple(sorted(name.replace("_", "-") for name in found if name.startswith("en_") and len(name) == 5))


def _known(locale: str) -> str:
    if not locale:
        return locale
    try:
        _babel(locale)
    except (UnknownLocaleError, ValueError):
        raise ValueError(f"no country is known as “{locale}”: choose one of the list") from None
    if locale not in locales():
        raise ValueError(f"“{locale}” is not on the list of countries: choose one of it")
    return locale


LocaleName = Annotated[str, Field(max_length=20), AfterValidator(_known)]
