"""Who is there when, and what the shop has but few of."""

from datetime import date, datetime, timedelta
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from layup.document import Document
from layup.errors import at_field

Weekday = Annotated[int, Field(ge=0, le=6)]
MOST_PEOPLE_OF_A_SHOP, MOST_SHUT_DAYS, MOST_PUMPS = 40, 200, 20


class PersonsHours(Document):
    """When somebody works: on these days of the week, Monday is 0, from one hour to another by the shop's clock."""

    name: str = Field(min_length=1, max_length=40)
    days: tuple[Weekday, ...] = (0, 1, 2, 3, 4)
    from_h: float = Field(default=8, ge=0, lt=24, allow_inf_nan=False)
    to_h: float = Field(default=17, gt=0, le=24, allow_inf_nan=False)
    may_mix: bool = True

    @model_validator(mode="after")
    def _comes_before_he_goes(self) -> Self:
        if self.to_h <= self.from_h:
            raise at_field("to_h", "goes before coming: a night shift is written as two")
        return self

    def there(self, local: datetime) -> bool:
        """Whether he is there at a moment by the shop's clock."""
        hour = local.hour + local.minute / 60 + local.second / 3600
        return local.weekday() in self.days and self.from_h <= hour < self.to_h


class ShopWeek(Document):
    """The people of a shop with their hours, the days it is shut, how many vacuum pumps and warm rooms it has."""

    people: tuple[PersonsHours, ...] = Field(default=(), max_length=MOST_PEOPLE_OF_A_SHOP)
    shut: tuple[date, ...] = Field(default=(), max_length=MOST_SHUT_DAYS)
    pumps: int = Field(default=1, ge=0, le=MOST_PUMPS)
    warm_rooms: int = Field(default=1, ge=0, le=MOST_PUMPS)

    @model_validator(mode="after")
    def _each_by_one_name(self) -> Self:
        names = [person.name.casefold() for person in self.people]
        if len(set(names)) < len(names):
            raise at_field("people", "two people of one name cannot be told apart: add a letter")
        return self

    def there(self, local: datetime) -> int:
        """How many are there at a moment by the shop's clock.

        >>> ShopWeek(people=(PersonsHours(name="wren"),)).there(datetime(2026, 5, 4, 9))
        1
        """
        return 0 if local.date() in self.shut else sum(person.there(local) for person in self.people)

    def mixes(self, local: datetime) -> bool:
        """Whether somebody is there who may mix."""
        return local.date() not in self.shut and any(each.may_mix and each.there(local) for each in self.people)

    def edges(self, day: date) -> list[float]:
        """The hours of a day at which somebody comes or goes."""
        of_day = [each for each in self.people if day.weekday() in each.days and day not in self.shut]
        return sorted({hour for each in of_day for hour in (each.from_h, each.to_h)})


Lack = Literal["people", "mixers", "pump", "warm room", "mould", "shut"]


def days_between(first: datetime, last: datetime) -> list[date]:
    """Each day from one moment to another by their own clock."""
    count = (last.date() - first.date()).days
    return [first.date() + timedelta(days=each) for each in range(count + 1)]
