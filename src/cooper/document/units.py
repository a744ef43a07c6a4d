"""Units at the edge: what the document holds, what the core computes in, what a person reads and types.

The document and the results hold every kind of quantity in one unit (`Kind.document`). The core computes in mm, N,
N m, MPa, rad, s, W. People choose between the mm and the inch system for display and may type any unit.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from importlib.resources import files
from typing import TYPE_CHECKING

from msgspec import Struct

from cooper.errors import Open, OutOfRange
from cooper.i18n.text import figure, term, tr

if TYPE_CHECKING:
    import pint


class Kind(Struct, frozen=True):
    """A kind of quantity with its unit in the document, in the core and on screen in each unit system.

    ``digits`` are decimals shown by default in the document's unit and in the inch system's.
    """

    name: str
    document: str
    core: str
    inch: str
    digits: int
    inch_digits: int
    metric: str = ""
    small: str = ""
    """Unit in which a value that is less than a tenth of the screen's is read, where it stands with its unit."""

    def display_unit(self, system: str) -> str:
        return self.inch if system == "inch" else (self.metric or self.document)

    def digits_in(self, system: str) -> int:
        return self.inch_digits if system == "inch" else self.digits


KINDS: dict[str, Kind] = {
    k.name: k
    for k in (
        Kind("count", "", "", "", 0, 0),
        Kind("factor", "", "", "", 3, 3),
        Kind("number", "", "", "", 0, 0),
        Kind("safety", "", "", "", 2, 2),
        Kind("share", "%", "", "%", 2, 2),
        Kind("length", "mm", "mm", "in", 3, 4),
        Kind("module", "mm", "mm", "mm", 4, 4),
        Kind("diametral_pitch", "1/in", "1/mm", "1/in", 4, 4),
        Kind("allowance", "mm", "mm", "in", 3, 4),
        Kind("roughness", "um", "um", "uin", 1, 0),
        Kind("angle", "deg", "rad", "deg", 4, 4),
        Kind("small_angle", "deg", "rad", "deg", 4, 4, "arcmin"),
        Kind("speed", "1/min", "rad/s", "1/min", 1, 1),
        Kind("velocity", "m/s", "m/s", "ft/min", 3, 1),
        Kind("power", "W", "W", "hp", 4, 4, "kW", "W"),
        Kind("torque", "N m", "N m", "lbf in", 3, 2),
        Kind("force", "N", "N", "lbf", 1, 1),
        Kind("line_load", "N/mm", "N/mm", "lbf/in", 1, 1),
        Kind("stiffness", "N/mm/um", "N/mm/um", "lbf/in/uin", 2, 3),
        Kind("spring", "N/um", "N/um", "lbf/uin", 2, 3),
        Kind("line_mass", "kg/mm", "kg/mm", "lb/in", 5, 4),
        Kind("stress", "MPa", "MPa", "psi", 1, 0),
        Kind("root_stress", "sqrt(MPa)", "sqrt(MPa)", "sqrt(psi)", 1, 0),
        Kind("time", "h", "h", "h", 0, 0),
        Kind("temperature", "degC", "degC", "degF", 0, 0),
        Kind("viscosity", "mm2/s", "mm2/s", "mm2/s", 1, 1),
        Kind("dynamic_viscosity", "mPa s", "mPa s", "mPa s", 1, 1),
        Kind("density", "kg/m3", "kg/m3", "lb/in3", 0, 4),
        Kind("mass", "kg", "kg", "lb", 3, 3),
        Kind("inertia", "kg m2", "kg m2", "lb ft2", 5, 4),
        Kind("expansion", "um/m/K", "um/m/K", "um/m/K", 1, 1),
        Kind("hardness", "", "", "", 0, 0),
        Kind("area", "m2", "m2", "ft2", 3, 2),
        Kind("heat_transfer", "W/m2/K", "W/m2/K", "W/m2/K", 1, 1),
        Kind("wear", "mm3/MJ", "mm3/MJ", "mm3/MJ", 2, 2),
    )
}

PINT_NAMES = {
    "": "dimensionless",
    "%": "percent",
    "1/min": "rpm",
    "mm2/s": "mm**2/s",
    "mPa s": "mPa*s",
    "kg/m3": "kg/m**3",
    "lb/in3": "lb/inch**3",
    "N m": "N*m",
    "lbf in": "lbf*inch",
    "in": "inch",
    "uin": "microinch",
    "1/in": "1/inch",
    "deg": "degree",
    "arcmin": "arcminute",
    "sqrt(MPa)": "MPa**0.5",
    "sqrt(psi)": "psi**0.5",
    "lbf/in": "lbf/inch",
    "N/mm/um": "N/mm/um",
    "lbf/in/uin": "lbf/inch/microinch",
    "lbf/uin": "lbf/microinch",
    "lb/in": "lb/inch",
    "m2": "m**2",
    "ft2": "foot**2",
    "W/m2/K": "W/m**2/K",
    "mm3/MJ": "mm**3/MJ",
    "kg m2": "kg*m**2",
    "lb ft2": "lb*foot**2",
}

SCREEN_NAMES = {
    "um/m/K": "µm/(m K)",
    "m2": "m²",
    "ft2": "ft²",
    "W/m2/K": "W/(m² K)",
    "mm3/MJ": "mm³/MJ",
    "N/mm/um": "N/(mm µm)",
    "lbf/in/uin": "lbf/(in µin)",
    "N/um": "N/µm",
    "lbf/uin": "lbf/µin",
    "deg": "°",
    "arcmin": "′",
    "um": "µm",
    "uin": "µin",
    "degC": "°C",
    "degF": "°F",
    "mm2/s": "mm²/s",
    "kg/m3": "kg/m³",
    "lb/in3": "lb/in³",
    "1/min": "rpm",
    "sqrt(MPa)": "√MPa",
    "sqrt(psi)": "√psi",
}


@cache
def registry() -> pint.UnitRegistry:
    """The units library, with the spellings that engineers type for torque and pitch."""
    # Imported here: it takes longer than all the rest of the window, and what is only shown does not need it.
    import pint

    reg: pint.UnitRegistry = pint.UnitRegistry(autoconvert_offset_to_baseunit=True, on_redefinition="ignore")
    for spelling in (
        "Nm = newton * meter",
        "Nmm = newton * millimeter",
        "kNm = kilonewton * meter",
        "lbfin = force_pound * inch",
        "lbfft = force_pound * foot",
        "rpm = revolution / minute",
        "years = 8760 * hour",
    ):
        reg.define(spelling)
    return reg


def by_library(source: str, target: str) -> tuple[float, float]:
    """Factor and offset from one unit to another, by the units library."""
    reg = registry()
    zero, one = (
        float(reg.Quantity(v, PINT_NAMES.get(source, source)).to(PINT_NAMES.get(target, target)).magnitude)
        for v in (0.0, 1.0)
    )
    # Only temperatures have another zero.
    return (one - zero, zero) if "deg" in source and source != "deg" else (one, 0.0)


@cache
def cached_factors() -> dict[str, tuple[float, float]]:
    """Factor and offset between all units of `KINDS`, as the units library gave them to `tools/write_docs.py`."""
    text = (files("cooper.document") / "unit_factors.json").read_text(encoding="utf-8")
    return {k: (float(f), float(o)) for k, (f, o) in json.loads(text).items()}


@cache
def _factor(source: str, target: str) -> tuple[float, float]:
    return cached_factors().get(f"{source} -> {target}") or by_library(source, target)


def pairs_of_units() -> list[tuple[str, str]]:
    """Every conversion between units of one kind."""
    units = [{k.document, k.core, k.inch, k.metric or k.document} for k in KINDS.values()]
    return sorted({(a, b) for group in units for a in group for b in group if a != b})


def convert(value: float, source: str, target: str) -> float:
    """A value from one unit to another; factors come from the units library and are kept.

    >>> convert(1.0, "in", "mm")
    25.4
    >>> round(convert(212.0, "degF", "degC"), 9)
    100.0
    """
    if source == target:
        return value
    factor, offset = _factor(source, target)
    return value * factor + offset if offset else value * factor


def to_core(value: float, kind: str) -> float:
    """A document value in the core's unit.

    >>> round(to_core(180.0, "angle"), 6)
    3.141593
    """
    k = KINDS[kind]
    return convert(value, k.document, k.core)


def from_core(value: float, kind: str) -> float:
    """A core value in the document's unit."""
    k = KINDS[kind]
    return convert(value, k.core, k.document)


def from_core_factors(kind: str) -> tuple[float, float]:
    """Factor and offset of the same, for who converts many values.

    >>> from_core_factors("length")
    (1.0, 0.0)
    """
    k = KINDS[kind]
    return (1.0, 0.0) if k.core == k.document else _factor(k.core, k.document)


ALLOWED = re.compile(r"[0-9a-zA-Zµμ°′\"'%²³·*/+\-.,() ^_]*")


def parse(text: str, kind: str, system: str = "mm", quantity: str = "value") -> float:
    """What a person typed, as a number in the document's unit of that kind.

    Sums, units and both decimal marks are understood; a bare number is in the display unit of the unit system. For a
    module, ``12 DP`` means a diametral pitch.

    >>> parse("5/8 in", "length"), parse("0.9 Nm", "torque"), parse("2*1.75+3", "length"), parse("2,5", "module")
    (15.875, 0.9, 6.5, 2.5)
    >>> round(parse("10 DP", "module"), 4)
    2.54
    """
    k = KINDS[kind]
    raw = text.strip()
    if not raw:
        raise OutOfRange(quantity, "(nothing)", tr("a number is needed"))
    if len(raw) > 80 or not ALLOWED.fullmatch(raw):
        raise OutOfRange(quantity, raw[:40], tr("only numbers, units, brackets and + - * / are understood here"))
    raw = re.sub(r"(?<=[A-Za-z])(?:\^|\*\*)([23])(?![0-9.])", lambda m: "²³"[int(m[1]) - 2], raw)
    if re.search(r"\*\*|\^|(?<![A-Za-zµμ])[²³]|[²³][²³]", raw):
        raise OutOfRange(quantity, raw, tr("powers are not understood here; write the product"))
    clean = _spellings(_one_mark(raw, quantity))
    pitch = re.fullmatch(r"(.+?)\s*(dp|DP|Dp)", clean)
    if kind == "module" and pitch:
        P = parse(pitch[1], "factor", system, quantity)
        if not P > 0:
            raise OutOfRange(quantity, raw, tr("a diametral pitch must be above 0"), low=Open(0.0), unit="1/in")
        return 25.4 / P
    unit = k.display_unit(system)
    try:
        if re.fullmatch(r"[-+]?[0-9.]+(e[-+]?[0-9]+)?", clean):
            value = convert(float(clean), unit, k.document)
        elif re.fullmatch(r"[-+0-9.eE*/() ]+", clean):
            value = convert(float(registry().parse_expression(clean)), unit, k.document)
        else:
            reg = registry()
            temperature = re.fullmatch(r"([-+0-9.]+)\s*(degC|degF|kelvin|K|C|F)", clean)
            if kind == "temperature" and temperature:
                name = {"C": "degC", "F": "degF"}.get(temperature[2], temperature[2])
                read = reg.Quantity(float(temperature[1]), name)
            else:
                read = reg.Quantity(1, "dimensionless") * reg.parse_expression(clean)
            if read.dimensionless and kind not in ("angle", "small_angle", "speed", "share"):
                value = convert(float(read.to("dimensionless").magnitude), unit, k.document)
            else:
                value = float(read.to(PINT_NAMES.get(k.document, k.document)).magnitude)
    except OutOfRange:
        raise
    except ZeroDivisionError as error:
        raise OutOfRange(quantity, raw, tr("it divides by zero")) from error
    except Exception as error:
        if type(error).__name__ == "DimensionalityError":
            reason = tr(
                "its unit does not measure this quantity, which is in {value}",
                value=screen_unit(unit) or tr("plain numbers"),
            )
            raise OutOfRange(quantity, raw, reason) from error
        raise OutOfRange(quantity, raw, tr("it cannot be read as a number with a unit")) from error
    if value != value or value in (float("inf"), float("-inf")):
        raise OutOfRange(quantity, raw, tr("a finite number is needed"))
    return value


def _one_mark(raw: str, quantity: str) -> str:
    """Numbers with a point as their decimal mark; raises `OutOfRange` where a comma may stand for either.

    >>> _one_mark("1.234,5 mm", "a_w"), _one_mark("1,234.5", "a_w"), _one_mark("0,125", "a_w"), _one_mark("2,5", "m_n")
    ('1234.5 mm', '1234.5', '0.125', '2.5')
    """

    def read(result: re.Match[str]) -> str:
        text = result[0]
        point, comma = text.rfind("."), text.rfind(",")
        if comma < 0:
            return text
        mark = "," if comma > point else "."
        whole, _, part = text.rpartition(mark)
        if point < 0 and text.count(",") == 1:
            if len(part) == 3 and 1 <= len(whole) <= 3 and whole.strip("0"):
                raise OutOfRange(
                    quantity,
                    text,
                    tr(
                        "it may mean {whole}.{part} or {whole}{part}: write one of these, without a comma",
                        whole=whole,
                        part=part,
                    ),
                )
            return f"{whole}.{part}"
        groups = re.split(r"[.,]", whole if point >= 0 else text)
        if not all(len(g) == 3 for g in groups[1:]):
            raise OutOfRange(quantity, text, tr("its points and commas do not part it into thousands"))
        return "".join(groups) + (f".{part}" if point >= 0 else "")

    return re.sub(r"\d[\d.,]*\d", read, raw)


def _spellings(raw: str) -> str:
    """Typed marks as the units library reads them."""
    clean = raw.replace("µ", "u").replace("μ", "u").replace("·", "*").replace("²", "**2").replace("³", "**3")
    clean = clean.replace("°C", " degC").replace("°F", " degF").replace("°", " degree").replace("′", " arcminute")
    clean = re.sub(r'(?<=[0-9 ])"', " inch", clean)
    clean = re.sub(r"(?<=\d),(?=\d)", ".", clean)
    clean = re.sub(r"\b(lbf|lb)[ .*-]?in\b", "lbf*inch", clean)
    clean = re.sub(r"\b(lbf|lb)[ .*-]?ft\b|\bft[ .*-]?lbf?\b", "lbf*foot", clean)
    clean = re.sub(r"\bN m\b", "N*m", clean)
    clean = re.sub(r"\b(1/min|min-1)\b", "rpm", clean)
    # Squares and cubes as they are typed where there is no raised figure: mm2/s, kg/m3.
    clean = re.sub(r"(?<![A-Za-z])(mm|cm|dm|m|in|ft)([23])(?![0-9])", r"\1**\2", clean)
    clean = re.sub(r"(?<![A-Za-z])in(?![A-Za-z])", "inch", clean)
    return clean.strip()


def screen_unit(unit: str) -> str:
    """A unit as it is written on the screen."""
    return term(SCREEN_NAMES.get(unit, unit))


MOST_EXTRA = 6
_extra_digits = 0


def show_digits(extra: int) -> int:
    """Let numbers show more or fewer decimals than their kind's own, from now on; returns what is in force.

    This is about the screen and what is written from it: no value is ever rounded by it.
    """
    global _extra_digits
    _extra_digits = max(-2, min(MOST_EXTRA, extra))
    return _extra_digits


@contextmanager
def digits_shown(extra: int | None) -> Iterator[None]:
    """For a while more or fewer decimals, as `show_digits`; None leaves them.

    >>> with digits_shown(2): number(73.5462137, "length")
    '73.54621'
    """
    before = _extra_digits
    if extra is not None:
        show_digits(extra)
    try:
        yield
    finally:
        show_digits(before)


def number(value: float, kind: str, system: str = "mm", digits: int | None = None) -> str:
    """A document value as text in the display unit, without the unit; rounding never touches the value itself.

    >>> number(73.5462, "length"), number(420.0, "power"), number(17.0, "count")
    ('73.546', '0.42', '17')
    """
    k = KINDS[kind]
    shown = convert(value, k.document, k.display_unit(system))
    if shown != shown:
        return "–"
    places = k.digits_in(system) if digits is None else digits
    if digits is None and places:
        places = max(0, places + _extra_digits)
    if abs(shown) >= 1e7 or (shown != 0 and abs(shown) < 0.5 * 10**-places and kind not in ("safety",)):
        return figure(format(shown, ".3g"))
    text = format(shown, f".{places}f")
    if kind not in ("safety",) and "." in text:
        text = text.rstrip("0").rstrip(".")
    return figure("0" if text == "-0" else text)


def number_with_unit(value: float, kind: str, system: str = "mm", digits: int | None = None) -> str:
    """A document value as text with its unit.

    >>> number_with_unit(20.0, "angle"), number_with_unit(25.4, "length", "inch"), number_with_unit(0.4, "power")
    ('20°', '1 in', '0.4 W')
    """
    of = KINDS[kind]
    if of.small and 0 < abs(convert(value, of.document, of.display_unit(system))) < 0.1:
        return tr("{document:.4g} {small}", document=convert(value, of.document, of.small), small=screen_unit(of.small))
    unit = screen_unit(KINDS[kind].display_unit(system))
    text = number(value, kind, system, digits)
    if not unit:
        return text
    return text + unit if unit in ("°", "′") else tr("{text} {unit}", text=text, unit=unit)
