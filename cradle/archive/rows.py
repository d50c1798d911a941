"""Rows of the database as plain JSON, and back: the names of their fields are the format."""

import json
from collections.abc import Callable, Sequence
from typing import Any, TypeVar

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.core.serializers.json import DjangoJSONEncoder
from django.db import models

Row = dict[str, Any]
Made = TypeVar("Made", bound=models.Model)
Person = Callable[[str], User]
_AT_A_TIME = 200


def _fields(model: type[models.Model]) -> list[models.Field]:
    """What a row carries itself: no links but to people, no number that only this database gave, no bytes."""
    return [
        field
        for field in model._meta.concrete_fields
        if not isinstance(field, (models.AutoField, models.BinaryField))
        and (not field.is_relation or field.related_model is User)
    ]


def row_of(instance: models.Model, *, without: tuple[str, ...] = ()) -> Row:
    """A row as JSON has it; people by their names."""
    told = {}
    for field in _fields(type(instance)):
        if field.name in without:
            continue
        value = getattr(instance, field.name)
        told[field.name] = value.get_username() if isinstance(value, User) else value
    return told


def made_of(model: type[Made], row: Row, person: Person, **links: Any) -> Made:
    """A row as an instance, not saved. Raises ValidationError or KeyError for what is none."""
    values: Row = dict(links)
    for field in _fields(model):
        if field.name in values or field.name not in row:
            continue
        value = row[field.name]
        if field.is_relation:
            values[field.name] = None if value is None else person(value)
        else:
            values[field.name] = _checked(field, field.to_python(value))
    return model(**values)


def _checked(field: models.Field, value: Any) -> Any:
    """A value that its field may hold; what must not be null is for the table to say."""
    if value not in field.empty_values:
        field.run_validators(value)
        if field.choices and value not in dict(field.flatchoices):
            raise ValidationError(f"{value} is no {field.name}")
    return value


def keep(rows: Sequence[Made]) -> list[Made]:
    """Rows saved as they stand, with the moments they were made at."""
    if not rows:
        return []
    model = type(rows[0])
    stamps = [
        field.attname
        for field in model._meta.concrete_fields
        if getattr(field, "auto_now", False) or getattr(field, "auto_now_add", False)
    ]
    told = [[getattr(row, stamp) for stamp in stamps] for row in rows]
    made = model._default_manager.bulk_create(rows, batch_size=_AT_A_TIME)
    if stamps:
        for row, moments in zip(made, told, strict=True):
            for stamp, moment in zip(stamps, moments, strict=True):
                setattr(row, stamp, moment or getattr(row, stamp))
        model._default_manager.bulk_update(made, stamps, batch_size=_AT_A_TIME)
    return made


def text_of(told: Any) -> str:
    return json.dumps(told, cls=DjangoJSONEncoder, indent=1, ensure_ascii=False)


def of_kind(told: Any, kind: type) -> Any:
    """What must be an object, or a list. Raises TypeError where it is not."""
    if not isinstance(told, kind):
        raise TypeError(f"{kind.__name__} expected")
    return told
