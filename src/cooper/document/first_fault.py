"""The first fault of plain data that is to be a model: where it is, what stands there and what could."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from math import isfinite
from typing import Any, Literal, get_args, get_origin

from msgspec import UNSET, Meta, ValidationError, convert

from cooper.document.base import Model, NotFinite, Rule, bare, default_of, ready, types_of
from cooper.errors import Open, OutOfRange
from cooper.i18n.text import tr

NOTHING = "(nothing)"
Fault = tuple[str, Any, str, float | None, float | None]
"""Place, what stands there, why it cannot, and the ends of what works."""


def first_fault(kind: type[Model], data: Any, within: str = "", whole: str = tr("the design")) -> OutOfRange:
    """The fault of the field that comes first in the schema, with the value and the range; ``within`` is the place of the data,
    ``whole`` its name."""
    place, value, reason, low, high = next(_faults(kind, data, ""), ("", data, tr("it does not fit"), None, None))
    shown: float | str
    if isinstance(value, Mapping | list | tuple | Model):
        # A whole part of the design is named by its place alone.
        shown = ""
    elif isinstance(value, int | float) and not isinstance(value, bool):
        shown = value
    else:
        shown = _short(repr(value) if isinstance(value, str) and value is not NOTHING else str(value))
    return OutOfRange(within + place or whole, shown, reason, low=low, high=high)


def _short(text: str) -> str:
    return text if len(text) <= 40 else text[:37] + "..."


def _faults(kind: type[Model], data: Any, place: str) -> Iterator[Fault]:
    """The faults of a model's data: of its fields in their order, then of its own rules."""
    if isinstance(data, kind):
        return
    if not isinstance(data, Mapping):
        yield place, data, tr("named values belong here"), None, None
        return
    older = kind.older(dict(data))
    count = 0
    for name, hint in types_of(kind).items():
        at = f"{place}.{name}" if place else name
        if name in older:
            found = _of_field(hint, older[name], at)
        else:
            missing: Fault = (at, NOTHING, tr("it is missing"), None, None)
            found = iter([missing] if default_of(kind, name) is UNSET else [])
        for fault in found:
            count += 1
            yield fault
    if count:
        return
    try:
        convert(ready(kind, data), kind)
    except ValidationError as error:
        cause = error.__cause__ or error
        if isinstance(cause, Rule):
            # A rule of one field is told at the field.
            place, data = f"{place}.{cause.field}".lstrip("."), data.get(cause.field)
        yield place, data, str(cause), None, None
    except NotFinite:
        yield place, data, tr("a finite number is needed"), None, None


def _of_field(hint: Any, value: Any, at: str) -> Iterator[Fault]:
    """The faults of what stands at a field of a type."""
    kind, rule = bare(hint)
    how = get_origin(kind)
    if value is None and kind is not hint and convertible(value, hint):
        return
    if isinstance(kind, type) and issubclass(kind, Model):
        yield from _faults(kind, value, at)
    elif how in (tuple, dict):
        yield from _of_several(kind, rule, value, at)
    elif kind in (int, float):
        yield from _of_number(kind, rule, value, at)
    elif not convertible(value, hint):
        yield at, value, _of_words(kind, rule, value), None, None


def convertible(value: Any, hint: Any) -> bool:
    """Whether a value can stand at a field of a type."""
    try:
        convert(value, hint)
    except ValidationError:
        return False
    return True


def _of_several(kind: Any, rule: Meta, value: Any, at: str) -> Iterator[Fault]:
    """Of values in a row or by name."""
    row = get_origin(kind) is tuple
    if not isinstance(value, list | tuple if row else Mapping):
        yield at, value, tr("a row of values belongs here") if row else tr("named values belong here"), None, None
        return
    low, high = rule.min_length, rule.max_length
    if len(value) < (low or 0) or len(value) > (high if high is not None else len(value)):
        some = tr("{value} to {high}", value=low or 0, high=high) if high is not None else tr("{low} or more", low=low)
        yield at, value, tr("{some} of them can be given; these are {value}", some=some, value=len(value)), None, None
        return
    kinds = get_args(kind)
    if row and kinds[-1] is not ...:
        if not convertible(value, kind):
            yield at, value, tr("{kinds} values of their kinds belong together", kinds=len(kinds)), None, None
        return
    pairs: Any = value.items() if isinstance(value, Mapping) else enumerate(value)
    for key, part in pairs:
        yield from _of_field(kinds[0 if row else 1], part, f"{at}.{key}")


def _of_number(kind: type, rule: Meta, value: Any, at: str) -> Iterator[Fault]:
    whole = kind is int
    if isinstance(value, bool) or not isinstance(value, int | float):
        yield at, value, tr("a whole number is needed") if whole else tr("a number is needed"), None, None
        return
    low, high = (next((v for v in pair if v is not None), None) for pair in ((rule.ge, rule.gt), (rule.le, rule.lt)))
    if isinstance(value, float) and not isfinite(value):
        yield at, value, tr("a finite number is needed"), None, None
    elif whole and value != int(value):
        yield at, value, tr("a whole number is needed"), None, None
    elif rule.ge is not None and value < rule.ge:
        yield at, value, tr("it is below what Cooper can work with"), low, None
    elif rule.gt is not None and value <= rule.gt:
        yield at, value, tr("it must be above {gt:g}", gt=rule.gt), Open(rule.gt), None
    elif rule.le is not None and value > rule.le:
        yield at, value, tr("it is above what Cooper can work with"), None, high
    elif rule.lt is not None and value >= rule.lt:
        yield at, value, tr("it must be below {lt:g}", lt=rule.lt), None, Open(rule.lt)
    elif not convertible(value if whole is False else int(value), kind):
        yield at, value, tr("no design can hold it"), None, None


def _of_words(kind: Any, rule: Meta, value: Any) -> str:
    """Why words, a choice or a yes or no cannot stand."""
    if get_origin(kind) is Literal:
        return tr("one of these is needed: {kind}", kind=", ".join(str(option) for option in get_args(kind)))
    if kind is bool:
        return tr("it is true or false")
    if not isinstance(value, str):
        return tr("words belong here")
    if rule.max_length is not None and len(value) > rule.max_length:
        return tr("it has {value} letters, and {max_length} are the most", value=len(value), max_length=rule.max_length)
    return tr("it holds signs that cannot be kept here")
