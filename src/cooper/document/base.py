"""What all models of the document have in common: frozen records that are checked when they are made."""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Iterator, Mapping
from copy import copy
from functools import cache
from math import isfinite
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, Self, Union, get_args, get_origin, get_type_hints

from msgspec import NODEFAULT, UNSET, Meta, Struct, StructMeta, ValidationError, convert, field
from msgspec.structs import asdict, astuple, force_setattr

from cooper.document.quantities import QUANTITIES
from cooper.document.units import KINDS
from cooper.errors import Open, OutOfRange
from cooper.i18n.text import tr

NO_CONTROLS = r"^[^\x00-\x1f\x7f-\x9f\ufdd0-\ufdef\ufffe\uffff]*$(?!\n)"
"""Names hold no control characters and nothing that is no character, which would break files and terminals."""
NOT_TEXT = re.compile(r"[\ufdd0-\ufdef\ufffe\uffff]")
"""Code points that are no characters, which no text and no XML may hold."""
UNKNOWN = "?unknown"
"""Where what this version does not know of a part stands while the part is made."""


def about(meaning: str, **limits: Any) -> Meta:
    """Meaning and limits of a field that is no quantity."""
    return Meta(description=str(meaning), **limits)


def quantity(symbol: str, **limits: float) -> Meta:
    """The quantity's symbol, unit and meaning, which a field carries into the schema and onto the screen, and its
    limits."""
    q = QUANTITIES[symbol]
    extra = {"symbol": symbol, "unit": KINDS[q.kind].document, "kind": q.kind}
    return Meta(description=str(q.meaning), extra_json_schema=extra, **limits)  # type: ignore[call-overload]


class Rule(ValueError):
    """A rule of a model that is broken at one of its fields."""

    def __init__(self, field: str, reason: str) -> None:
        super().__init__(reason)
        self.field = field


class Checked(StructMeta):
    """Makes models: by names what is given is checked first."""

    def __call__(cls, **values: Any) -> Any:
        return cls.from_data(values)  # type: ignore[attr-defined]


class Model(Struct, frozen=True, metaclass=Checked, kw_only=True):
    """A part of the document: frozen, keeps the fields that it does not know, refuses NaN and infinity."""

    unknown: str = field(default="", name=UNKNOWN)
    """What this version does not know, as JSON: models are compared and kept by what they hold."""

    @classmethod
    def from_data(cls, data: Any, within: str = "", whole: str = "the design") -> Self:
        """A model from plain data, in which models may stand; raises `OutOfRange` for the first fault, at its place
        ``within`` the ``whole``."""
        try:
            return convert(ready(cls, data), cls)
        except (ValidationError, NotFinite):
            raise first_fault(cls, data, within, whole) from None

    @classmethod
    def older(cls, data: dict[str, Any]) -> dict[str, Any]:
        """Data as older files have it, as it is said now."""
        return data

    def replace_unchecked(self, **values: Any) -> Self:
        """The same with other values, which are not checked."""
        made = copy(self)
        for name, value in values.items():
            force_setattr(made, name, value)
        return made

    def plain(self, without: Collection[str] = ()) -> dict[str, Any]:
        """As plain data, in tuples and dictionaries; what is not known comes last."""
        result = asdict(self)
        del result["unknown"]
        for name in _nested(type(self)):
            result[name] = _plain(result[name])
        for name in without:
            del result[name]
        return result | json.loads(self.unknown) if self.unknown else result

    def __reduce__(self) -> tuple[Any, ...]:
        return _again, (type(self), astuple(self))


def _again(kind: type[Model], values: tuple[Any, ...]) -> Model:
    """One that was checked before it was sent."""
    made: Model = StructMeta.__call__(kind, **dict(zip(kind.__struct_fields__, values, strict=True)))
    return made


def _plain(value: Any) -> Any:
    if isinstance(value, Model):
        return value.plain()
    if isinstance(value, tuple):
        return tuple(_plain(part) for part in value)
    if isinstance(value, dict):
        return {key: _plain(part) for key, part in value.items()}
    return value


class NotFinite(ValueError):
    """A number that no design can hold."""


@cache
def fields_of(kind: type[Model]) -> tuple[str, ...]:
    """Names of a model's fields."""
    return tuple(name for name in kind.__struct_fields__ if name != "unknown")


@cache
def types_of(kind: type[Model]) -> dict[str, Any]:
    """Type of each field, with its rule."""
    hints = get_type_hints(kind, include_extras=True)
    return {name: hints[name] for name in fields_of(kind)}


def bare(hint: Any) -> tuple[Any, Meta]:
    """A type without None and without its rule, and the rule."""
    rule = Meta()
    while True:
        if get_origin(hint) is Annotated:
            hint, rule = hint.__origin__, hint.__metadata__[0]
        elif (
            get_origin(hint) in (Union, UnionType)
            and len(some := [a for a in get_args(hint) if a is not NoneType]) == 1
        ):
            hint = some[0]
        else:
            return hint, rule


@cache
def rules_of(kind: type[Model]) -> dict[str, Meta]:
    """Meaning, unit and range of each field, by name."""
    return {name: bare(hint)[1] for name, hint in types_of(kind).items()}


def default_of(kind: type[Model], name: str) -> Any:
    """What a field is where nothing is given; `UNSET` where it must be given."""
    given = dict(zip(kind.__struct_fields__[::-1], kind.__struct_defaults__[::-1], strict=False))
    result = given.get(name, NODEFAULT)
    return UNSET if result is NODEFAULT else result


class Held(Struct, frozen=True):
    """What a field holds: models, whole numbers or other things, alone (None), in a row (tuple) or by name (dict)."""

    how: Any
    kind: Any


@cache
def _held(kind: type[Model]) -> dict[str, Held]:
    """What each field holds."""
    result = {}
    for name, hint in types_of(kind).items():
        one = bare(hint)[0]
        how = get_origin(one)
        inner = bare(get_args(one)[how is dict])[0] if how in (tuple, dict) else one
        result[name] = Held(how, inner)
    return result


@cache
def _nested(kind: type[Model]) -> tuple[str, ...]:
    """Fields whose values have parts."""
    return tuple(name for name, held in _held(kind).items() if held.how is not None or _is_model(held.kind))


def _is_model(kind: Any) -> bool:
    return isinstance(kind, type) and issubclass(kind, Model)


@cache
def _whole(kind: type[Model]) -> frozenset[str]:
    """Fields that hold a whole number."""
    return frozenset(name for name, held in _held(kind).items() if held.how is None and held.kind is int)


PLAIN_SORTS = frozenset((str, int, bool, NoneType))


def ready(kind: type[Model], data: Any) -> Any:
    """Plain data as it is converted: what is not known put aside, older words said anew, whole floats where whole
    numbers belong."""
    if not isinstance(data, Mapping):
        return data
    held = _held(kind)
    result = kind.older(dict(data))
    aside = (
        {key: result.pop(key) for key in list(result) if key not in held} if not held.keys() >= result.keys() else None
    )
    whole = _whole(kind)
    for name, value in result.items():
        sort = type(value)
        if sort is float and name not in whole:
            if not isfinite(value):
                raise NotFinite
        elif sort not in PLAIN_SORTS:
            result[name] = _ready(held[name], value)
    if aside:
        try:
            result[UNKNOWN] = json.dumps(aside, allow_nan=False)
        except ValueError:
            raise NotFinite from None
    return result


def _ready(held: Held, value: Any) -> Any:
    if isinstance(value, float):
        if not isfinite(value):
            raise NotFinite
        return int(value) if held.kind is int and value.is_integer() else float(value)
    if isinstance(value, list | tuple):
        one = Held(None, held.kind)
        return [_ready(one, part) for part in value]
    if isinstance(value, Mapping):
        if held.how is dict:
            one = Held(None, held.kind)
            return {key: _ready(one, part) for key, part in value.items()}
        if _is_model(held.kind):
            return ready(held.kind, value)
    return value


NOTHING = "(nothing)"
Fault = tuple[str, Any, str, float | None, float | None]
"""Place, what stands there, why it cannot, and the ends of what works."""


def first_fault(kind: type[Model], data: Any, within: str = "", whole: str = tr("the design")) -> OutOfRange:
    """The fault of the field that comes first in the schema, with the value and the range; ``within`` is the place
    of the data, ``whole`` its name."""
    place, value, reason, low, high = next(_faults(kind, data, ""), ("", data, tr("it does not fit"), None, None))
    shown: float | str
    if isinstance(value, Mapping | list | tuple | Model):
        # A whole part of the design is named by its place alone.
        shown = ""
    elif isinstance(value, int | float) and not isinstance(value, bool):
        shown = value
    else:
        shown = _short(repr(value) if isinstance(value, str) and value is not NOTHING else str(value))
    return OutOfRange((within + place).rstrip(".") or whole, shown, reason, low=low, high=high)


def _at(data: Any, path: str) -> Any:
    """What stands at a path within plain data, in which models may stand."""
    for key in path.split("."):
        data = data.get(key, {}) if isinstance(data, Mapping) else getattr(data, key, {})
    return data


def _short(text: str) -> str:
    return text if len(text) <= 40 else text[:37] + "..."


def _faults(kind: type[Model], data: Any, place: str) -> Iterator[Fault]:
    """The faults of a model's data: of its fields in their order, then of its own rules."""
    if isinstance(data, kind):
        return
    if not isinstance(data, Mapping):
        yield place, data, tr("named values are needed"), None, None
        return
    older = kind.older(dict(data))
    count = 0
    for name, hint in types_of(kind).items():
        at = f"{place}.{name}" if place else name
        if name in older:
            result = _of_field(hint, older[name], at)
        else:
            missing: Fault = (at, NOTHING, tr("it is missing"), None, None)
            result = iter([missing] if default_of(kind, name) is UNSET else [])
        for fault in result:
            count += 1
            yield fault
    if count:
        return
    try:
        convert(ready(kind, data), kind)
    except ValidationError as error:
        cause = error.__cause__ or error
        if isinstance(cause, Rule):
            # A rule of a single field is reported at that field.
            place, data = f"{place}.{cause.field}".lstrip("."), _at(data, cause.field)
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
        yield at, value, tr("a list of values is needed") if row else tr("named values are needed"), None, None
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
        return tr("text is needed")
    if rule.max_length is not None and len(value) > rule.max_length:
        return tr("it has {value} letters, and {max_length} are the most", value=len(value), max_length=rule.max_length)
    return tr("it holds signs that cannot be kept here")
