"""The quantities that designs are chosen by: what they are, their units, and which way is better."""

from __future__ import annotations

from math import isfinite

from msgspec import Struct

from cooper.document.units import KINDS, convert, screen_unit
from cooper.i18n.text import tr

BETTER_LESS, BETTER_MORE, NEITHER = -1, 1, 0


class Criterion(Struct, frozen=True):
    """``symbol`` as it is typeset, ``words`` what it is, ``kind`` its unit's kind (`document.units.KINDS`),
    ``better`` which way."""

    key: str
    symbol: str
    words: str
    kind: str
    better: int = NEITHER

    @property
    def percent(self) -> bool:
        """Whether it is a share that a person reads in per cent."""
        return self.key in ("worst", "eta")

    def unit(self, system: str = "mm") -> str:
        """Its unit on screen."""
        return "%" if self.percent else screen_unit(KINDS[self.kind].display_unit(system))

    def shown(self, value: float, system: str = "mm") -> float:
        """A value in the unit of the screen."""
        kind = KINDS[self.kind]
        return 100 * value if self.percent else convert(value, kind.document, kind.display_unit(system))

    def held(self, shown: float, system: str = "mm") -> float:
        """The value of what stands on the screen."""
        kind = KINDS[self.kind]
        return shown / 100 if self.percent else convert(shown, kind.display_unit(system), kind.document)

    def text(self, value: float, system: str = "mm") -> str:
        """A value as a person reads it, without its unit."""
        if not isfinite(value):
            return "–"
        digits = DIGITS.get(self.key, 3 if self.kind in ("factor", "mass") else 2)
        kind = KINDS[self.kind]
        if system == "inch" and self.kind == "length":
            digits = kind.inch_digits - 1
        result = tr("{system:.{digits}f}", digits=digits, system=self.shown(value, system))
        # No nought with a sign.
        return result.lstrip("-") if float(result) == 0 else result


DIGITS = {"worst": 1, "eta": 2, "z_1": 0, "u": 4, "du": 2, "m_n": 3, "m_last": 3, "beta": 1, "cost": 2, "theta_bal": 0}


def _k(key: str, symbol: str, words: str, kind: str, better: int = NEITHER) -> Criterion:
    return Criterion(key, symbol, words, kind, better)


CRITERIA: dict[str, Criterion] = {
    k.key: k
    for k in (
        _k("worst", "worst", tr("least margin of all checks"), "factor", BETTER_MORE),
        _k("S_F", "S_F", tr("least safety against tooth breakage"), "safety", BETTER_MORE),
        _k("S_H", "S_H", tr("least safety against pitting"), "safety", BETTER_MORE),
        _k("S_B", "S_B", tr("least safety against scuffing, flash temperature"), "safety", BETTER_MORE),
        _k("S_int", "S_int", tr("least safety against scuffing, integral temperature"), "safety", BETTER_MORE),
        _k("mass", "mass", tr("mass of all gears"), "mass", BETTER_LESS),
        _k("cost", "cost", tr("relative cost of the gears' material"), "factor", BETTER_LESS),
        _k("eta", "eta", tr("efficiency, with the losses that are counted"), "factor", BETTER_MORE),
        _k("theta_bal", "theta_bal", tr("oil temperature of the heat balance"), "temperature", BETTER_LESS),
        _k("u", "u", "ratio", "factor"),
        _k("du", "du", tr("deviation from the wanted ratio"), "share"),
        _k("a_w", "a_w", tr("centre distance, of stages added up"), "length", BETTER_LESS),
        _k("length", "length", tr("length across the axes in one plane"), "length", BETTER_LESS),
        _k(tr("height"), tr("height"), tr("greatest height about the axes"), "length", BETTER_LESS),
        _k("width", "width", tr("width of all stages"), "length", BETTER_LESS),
        _k("d_out", "d_out", tr("greatest outside diameter"), "length", BETTER_LESS),
        _k("m_n", "m_n", tr("normal module of the first stage"), "module"),
        _k("m_last", "m_last", tr("normal module of the last stage"), "module"),
        _k("beta", "beta", tr("helix angle of the first stage"), "angle"),
        _k("z_1", "z_1", tr("count of the first gear"), "count"),
        _k("b", "b", tr("face width of the first stage"), "length", BETTER_LESS),
        _k("b_d", "b/d", tr("greatest width over diameter"), "factor"),
        _k("eps_gamma", "eps_gamma", tr("least total contact ratio"), "factor", BETTER_MORE),
    )
}
"""By key, in the order in which they are offered."""
