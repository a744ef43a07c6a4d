"""What all models of the document have in common: frozen records that are checked when they are made."""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Mapping
from copy import copy
from functools import cache
from math import isfinite
from types import NoneType, UnionType
from typing import Annotated, Any, Self, Union, get_args, get_origin, get_type_hints

from msgspec import NODEFAULT, UNSET, Meta, Struct, StructMeta, ValidationError, convert, field
from msgspec.structs import asdict, astuple, force_setattr

from cooper.document.quantities import QUANTITIES
from cooper.document.units import KINDS

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
    """The quantity's symbol, unit and meaning, which a field carries into the schema and onto the screen, and its limits."""
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
        return cls.of(values)  # type: ignore[attr-defined]


class Model(Struct, frozen=True, metaclass=Checked, kw_only=True):
    """A part of the document: frozen, keeps the fields that it does not know, refuses NaN and infinity."""

    unknown: str = field(default="", name=UNKNOWN)
    """What this version does not know, as JSON: models are compared and kept by what they hold."""

    @classmethod
    def of(cls, data: Any, within: str = "", whole: str = "the design") -> Self:
        """A model from plain data, in which models may stand; raises `OutOfRange` for the first fault, at its place ``within`` the ``whole``."""
        try:
            return convert(ready(cls, data), cls)
        except (ValidationError, NotFinite):
            # Imported here: few are refused.
            from cooper.document.first_fault import first_fault

            raise first_fault(cls, data, within, whole) from None

    @classmethod
    def older(cls, data: dict[str, Any]) -> dict[str, Any]:
        """Data as older files have it, as it is said now."""
        return data

    def but(self, **values: Any) -> Self:
        """The same with other values, which are not checked."""
        made = copy(self)
        for name, value in values.items():
            force_setattr(made, name, value)
        return made

    def plain(self, without: Collection[str] = ()) -> dict[str, Any]:
        """As plain data, in tuples and dictionaries; what is not known comes last."""
        found = asdict(self)
        del found["unknown"]
        for name in _nested(type(self)):
            found[name] = _plain(found[name])
        for name in without:
            del found[name]
        return found | json.loads(self.unknown) if self.unknown else found

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
    found = given.get(name, NODEFAULT)
    return UNSET if found is NODEFAULT else found


class Held(Struct, frozen=True):
    """What a field holds: models, whole numbers or other things, alone (None), in a row (tuple) or by name (dict)."""

    how: Any
    kind: Any


@cache
def _held(kind: type[Model]) -> dict[str, Held]:
    """What each field holds."""
    found = {}
    for name, hint in types_of(kind).items():
        one = bare(hint)[0]
        how = get_origin(one)
        inner = bare(get_args(one)[how is dict])[0] if how in (tuple, dict) else one
        found[name] = Held(how, inner)
    return found


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
    """Plain data as it is converted: what is not known put aside, older words said anew, whole floats where whole numbers belong."""
    if not isinstance(data, Mapping):
        return data
    held = _held(kind)
    found = kind.older(dict(data))
    aside = {key: found.pop(key) for key in list(found) if key not in held} if not held.keys() >= found.keys() else None
    whole = _whole(kind)
    for name, value in found.items():
        sort = type(value)
        if sort is float and name not in whole:
            if not isfinite(value):
                raise NotFinite
        elif sort not in PLAIN_SORTS:
            found[name] = _ready(held[name], value)
    if aside:
        try:
            found[UNKNOWN] = json.dumps(aside, allow_nan=False)
        except ValueError:
            raise NotFinite from None
    return found


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
