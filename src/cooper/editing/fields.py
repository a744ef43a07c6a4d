"""The quantities that a person edits: how each is read, given, swapped with its partner and stepped.

No interface here: the Bench's tags, the duty's fields and the tests all use these.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import partial
from math import floor, isfinite, log10

from msgspec import Struct
from msgspec.structs import force_setattr, replace

from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.quantities import QUANTITIES, plain
from cooper.editing.edit import give_count, give_shift, give_size, set_at, set_many, shifts_now
from cooper.editing.make_sets import count_in_set, planetary_set
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.result_tree import Results
from cooper.stock.series import diametral_pitches, modules, neighbour

GREATEST = 1e12
"""Amount that no quantity of a gear train passes, in any unit of the document."""


class _Checked:
    """What gives a value, for numbers that a design can hold alone: raises `OutOfRange` for others before they reach
    any arithmetic."""

    __slots__ = ("give", "key")

    def __init__(self, key: str, give: Callable[[Design, Results, float], Design]) -> None:
        self.key, self.give = key, give

    def __call__(self, design: Design, results: Results, value: float) -> Design:
        if not isfinite(value):
            raise OutOfRange(self.key, str(value), tr("a finite number is needed"))
        if not abs(value) <= GREATEST:
            raise OutOfRange(
                self.key, value, tr("no quantity of a gear train is greater than {greatest:g}", greatest=GREATEST)
            )
        return self.give(design, results, value)


class Field(Struct, frozen=True):
    """One editable number. ``read`` gives its present value (None when absent), ``give`` the design with a new one.

    ``clear`` takes the value away where the quantity may be absent, which is then shown as ``empty``. ``scale`` names
    what stands in place of a unit, as a hardness scale does. ``swap`` exchanges given and solved with the partner, or
    is None where the quantity has none; ``partner`` says in words what is solved instead once this one is given.
    ``owner`` names what the quantity belongs to where its index does not.
    """

    key: str
    symbol: str
    index: int | None
    read: Callable[[Design, Results], float | None]
    solved: Callable[[Design, Results], bool]
    give: Callable[[Design, Results, float], Design]
    swap: Callable[[Design, Results], Design] | None = None
    partner: str = ""
    fine: float | None = None
    series: Callable[[], tuple[float, ...]] | None = None
    label: str = ""
    kind_override: str = ""
    scale: str = ""
    clear: Callable[[Design], Design] | None = None
    empty: str = "none"
    place: str = ""
    owner: str = ""
    path: str = ""
    """Where it stands in the document, for what stands at one place."""
    measure: Callable[[str], tuple[Field, str] | None] | None = None
    """Of a text typed in another measure the field of that measure and the rest of the text; None where it is the
    own one."""

    def __post_init__(self) -> None:
        if not isinstance(self.give, _Checked):
            force_setattr(self, "give", _Checked(self.key, self.give))

    @property
    def full_key(self) -> str:
        """The quantity's name in formulas and on the whole design."""
        return f"{self.place}{self.key}"

    @property
    def name(self) -> str:
        """The quantity in plain text, with what it belongs to."""
        symbol = plain(self.symbol, self.index)
        return tr("{owner} {symbol}", owner=self.owner, symbol=symbol) if self.owner else symbol

    @property
    def kind(self) -> str:
        return self.kind_override or QUANTITIES[self.symbol].kind

    @property
    def meaning(self) -> str:
        return self.label or QUANTITIES[self.symbol].meaning

    def stepped(self, value: float, step: int, fine: bool) -> float:
        """The value one step up or down: along its standard series, by one for counts, else by a round step."""
        if self.kind == "count":
            return value + step
        if self.series is not None and not fine:
            return neighbour(value, self.series(), step)
        size = self.fine or 10.0 ** floor(log10(abs(value) or 1.0)) / 10
        if fine:
            size /= 10
        # Land on multiples of the step, so that 28.37 steps to 28.4 and not to 28.47.
        n = value / size
        n = floor(n + 1e-9) + 1 if step > 0 else -(floor(-n + 1e-9) + 1)
        return round(n * size, 12)


def _always_given(_d: Design, _r: Results) -> bool:
    return False


def path_field(
    key: str, symbol: str, index: int | None, path: str, fine: float | None = None, label: str = "", kind: str = ""
) -> Field:
    """A field that is always given and stands at one place of the document."""

    def read(d: Design, _r: Results) -> float | None:
        try:
            value = get_at(d, path)
        except (LookupError, AttributeError):
            # The place has gone with its set or stage; whoever shows the field is about to be made anew.
            return None
        return None if value is None else float(value)

    def give(d: Design, _r: Results, value: float) -> Design:
        whole = (kind or QUANTITIES[symbol].kind) == "count"
        if whole and value != round(value):
            low, high = floor(value), floor(value) + 1
            raise OutOfRange(
                key, value, tr("only whole numbers work: {low} or {high}", low=low, high=high), low=low, high=low
            )
        return _named(lambda: set_at(d, path, int(value) if whole else value), key, value)

    return Field(key, symbol, index, read, _always_given, give, fine=fine, label=label, kind_override=kind, path=path)


def optional_field(
    key: str, symbol: str, index: int | None, path: str, fine: float, empty: str, label: str = ""
) -> Field:
    """A field that may be absent, then shown as ``empty``."""
    field = path_field(key, symbol, index, path, fine=fine, label=label)
    return replace(field, clear=lambda d: set_at(d, path, None), empty=empty)


def _named(make: Callable[[], Design], key: str, value: float) -> Design:
    """Run an edit; a fault found by validation gets the field's own name and the value that was typed."""
    try:
        return make()
    except OutOfRange as fault:
        raise OutOfRange(key, value, fault.reason, low=fault.low, high=fault.high) from fault


def size_field(stage: int, name: str) -> Field:
    """Module, diametral pitch or a reference diameter: one of them is given."""
    symbol, index = ("d", int(name[2])) if name.startswith("d_") else (name, None)

    def read(_d: Design, r: Results) -> float:
        values = r.stages[stage].gears[index - 1] if index else r.stages[stage].mesh
        return values[symbol]

    def solved(d: Design, _r: Results) -> bool:
        return getattr(d.train.stages[stage].mesh, name) is None

    def give(d: Design, _r: Results, value: float) -> Design:
        return _named(lambda: give_size(d, stage, name, value), name, value)

    def swap(d: Design, r: Results) -> Design:
        if solved(d, r):
            return give_size(d, stage, name, read(d, r))
        other = "d_1" if name in ("m_n", "P_nd") else "m_n"
        value = r.stages[stage].gears[0].d if other == "d_1" else r.stages[stage].mesh.m_n
        return give_size(d, stage, other, value)

    series = modules if name == "m_n" else diametral_pitches if name == "P_nd" else None
    partner = tr("the reference diameters") if name in ("m_n", "P_nd") else tr("the module")
    return Field(
        name,
        symbol,
        index,
        read,
        solved,
        give,
        swap,
        partner,
        series=series,
        measure=partial(_pitch_or_module, stage, name),
    )


def _pitch_or_module(stage: int, name: str, text: str) -> tuple[Field, str] | None:
    """A diametral pitch typed for a module, or a module for a diametral pitch: what is typed is what is given."""
    pitch = re.fullmatch(r"\s*(.+?)\s*dp\s*", text, re.IGNORECASE)
    if name == "m_n" and pitch:
        return size_field(stage, "P_nd"), pitch[1]
    if name == "P_nd" and pitch:
        return size_field(stage, "P_nd"), pitch[1]
    if name == "P_nd" and re.search(r"\d\s*mm\b", text):
        return size_field(stage, "m_n"), text
    return None


def count_field(stage: int, i: int) -> Field:
    """Tooth count; a negative one makes the gear internal."""
    key = f"z_{i}"

    def read(_d: Design, r: Results) -> float:
        return r.stages[stage].gears[i - 1].z

    def give(d: Design, r: Results, value: float) -> Design:
        if value != round(value):
            low, high = floor(value), floor(value) + 1
            raise OutOfRange(
                key, value, tr("only whole numbers work: {low} or {high}", low=low, high=high), low=low, high=low
            )
        if abs(value) < 4:
            ends = (4.0, 2000.0) if value >= 0 else (-2000.0, -4.0)
            reason = tr("a gear has 4 or more teeth; an internal one, entered as negative, -4 or fewer")
            raise OutOfRange(key, value, reason, low=ends[0], high=ends[1])
        if planetary_set(d, stage) is not None:
            return _named(lambda: count_in_set(d, stage, i, int(value)), key, value)
        return _named(lambda: give_count(d, stage, i, int(value)), key, value)

    return Field(key, "z", i, read, _always_given, give)


def shift_field(stage: int, name: str) -> Field:
    """x_1, x_2 or a_w: two are given, the third is solved without backlash."""
    symbol, index = (name[0], int(name[2])) if name.startswith("x") else ("a_w", None)

    def read(_d: Design, r: Results) -> float:
        return shifts_now(r.stages[stage])[name]

    def solved(_d: Design, r: Results) -> bool:
        return name in r.stages[stage].solved

    def free(r: Results) -> str:
        return next(n for n in ("a_w", "x_2", "x_1") if n in r.stages[stage].solved)

    def freed_when_given(r: Results) -> str:
        present = free(r)
        if present != name:
            return present
        return {"a_w": "x_2" if r.stages[stage].kind.shifts else "x_1", "x_2": "a_w", "x_1": "a_w"}[name]

    def give(d: Design, r: Results, value: float) -> Design:
        def make() -> Design:
            return give_shift(d, stage, name, value, freed_when_given(r), shifts_now(r.stages[stage]))

        return _named(make, name, value)

    def swap(d: Design, r: Results) -> Design:
        now = shifts_now(r.stages[stage])
        if solved(d, r):
            return give_shift(d, stage, name, now[name], freed_when_given(r), now)
        present = free(r)
        return give_shift(d, stage, present, now[present], name, now)

    partner = tr("the shift x_2") if name == "a_w" else tr("the centre distance")
    return Field(name, symbol, index, read, solved, give, swap, partner, fine=0.01 if index else 0.1)


def tip_field(stage: int, i: int) -> Field:
    """Tip diameter: solved from the rack's addendum, or given."""

    def path(d: Design) -> str:
        return f"{d.train.stages[stage].paths[i - 1]}.d_a"

    def read(_d: Design, r: Results) -> float:
        return r.stages[stage].gears[i - 1].d_a

    def solved(d: Design, _r: Results) -> bool:
        return get_at(d, path(d)) is None

    def give(d: Design, _r: Results, value: float) -> Design:
        return _named(lambda: set_at(d, path(d), value), f"d_a{i}", value)

    def swap(d: Design, r: Results) -> Design:
        return set_at(d, path(d), read(d, r) if solved(d, r) else None)

    return Field(f"d_a{i}", "d_a", i, read, solved, give, swap, tr("the addendum"), fine=0.1)


def duty_field(name: str) -> Field:
    """Power, torque or speed at the input: two are given and give the third."""

    def read(_d: Design, r: Results) -> float:
        return r.train[f"{name}_in"]

    def solved(d: Design, _r: Results) -> bool:
        return getattr(d.train.duty, name) is None

    def give(d: Design, r: Results, value: float) -> Design:
        changes: dict[str, float | None] = {f"train.duty.{name}": value}
        if solved(d, r):
            # What was solved is given now: the power gives way to torque and speed, and the torque to power.
            changes[f"train.duty.{'T' if name == 'P' else 'P' if name == 'T' else 'T'}"] = None
        return _named(lambda: set_many(d, changes), name, value)

    def swap(d: Design, r: Results) -> Design:
        if solved(d, r):
            return give(d, r, read(d, r))
        other = next(n for n in ("P", "T", "n") if getattr(d.train.duty, n) is None)
        return set_many(d, {f"train.duty.{other}": r.train[f"{other}_in"], f"train.duty.{name}": None})

    return Field(name, name, None, read, solved, give, swap, tr("the third of power, torque and speed"))
