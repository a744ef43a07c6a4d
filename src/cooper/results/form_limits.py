"""How much of a form is sensible, and how much is possible; what cannot be is refused."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.document.gear_data import Flanks
from cooper.document.models import Stage
from cooper.document.quantities import plain
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.flank_forms import named_forms
from cooper.results.pair_numbers import PairNumbers
from cooper.results.result_tree import StageResults


class FormLimit(Struct, frozen=True):
    """The smallest sensible and the largest possible amount of a form (um), with what they come from."""

    low: float
    high: float
    why: str


_SLOPE = tr("to either side up to 2 F/(b c_γ), by springs side by side: more, and one end bears no more at this load")


def mesh_deflection(s: StageResults) -> float:
    """What the teeth give way by under the mean line load with K_A and K_gamma, F_bt K / (b c_gamma); um."""
    m = s.mesh
    return float(m.F_bt * m.K_A * m.K_gamma / (m.b_H * m.c_gamma))


def form_limits(s: StageResults, i: int) -> dict[str, FormLimit]:
    """Limits by the symbol of the form, for gear i (0, 1) of a stage under load."""
    give = mesh_deflection(s)
    land = _greatest_relief(float(s.gears[i].s_an), s)
    return {
        "C_alphaa": FormLimit(
            give,
            land,
            tr(
                "from the deflection of the loaded teeth, so that tips enter freely, to where a quarter of "
                "the tip land is gone (rule of thumb)"
            ),
        ),
        "C_alphaf": FormLimit(
            0.0,
            2 * give,
            tr(
                "in place of the mate's tip relief as much as that; at most twice the deflection of the teeth "
                "(rule of thumb)"
            ),
        ),
        "C_betaI": FormLimit(
            0.5 * give,
            1.5 * give,
            tr(
                "from half of the deflection of the teeth, over a tenth of the face, to where the end bears "
                "no more (rules of thumb)"
            ),
        ),
        "C_alpha": FormLimit(
            0.0,
            2 * give,
            tr(
                "up to twice the deflection of the loaded teeth (rule of thumb): more, and the ends of the "
                "profile hardly bear"
            ),
        ),
        "C_Halpha": FormLimit(-2 * give, 2 * give, _SLOPE),
        "C_Hbeta": FormLimit(-2 * give, 2 * give, _SLOPE),
        "C_beta": FormLimit(
            0.0, 1.5 * give, tr("up to 1.5 F/(b c_γ): more, and the ends of the face lift at this load")
        ),
    }


def _greatest_relief(s_an: float, s: StageResults) -> float:
    """A tip relief takes a quarter of the land away on either flank at most; um."""
    return 1000 * s_an / 4 * float(np.cos(np.radians(s.mesh.alpha_n)))


def lifted(s: StageResults, C_beta: float) -> float:
    """Share of the face that bears with a crowning C_beta (um) under the mean load, by springs c_gamma side by side;
    1 where all of it does.

    A parabola that is pressed in by d0 bears over sqrt(d0 / C) of the half face; its load is 2/3 d0 times that.
    """
    give = mesh_deflection(s)
    if C_beta <= 1.5 * give:
        return 1.0
    return float((1.5 * give / C_beta) ** (1 / 3))


def refuse_forms(stage: Stage, numbers: PairNumbers) -> None:
    """Refuse reliefs that are longer than the flank's contact, deeper than the tip allows, or that overlap along the
    face."""
    mesh = stage.mesh
    g_alpha = float(numbers.mesh.g_alpha)
    b = float(min(numbers.gears[0].b_F, numbers.gears[1].b_F)) / (2 if mesh.double_helix else 1)
    for i, gear in enumerate(stage.gears, 1):
        for _side, end, f in named_forms(gear):
            _refuse(f, i, end, numbers, g_alpha, b)


def _refuse(f: Flanks, i: int, end: str, numbers: PairNumbers, g_alpha: float, b: float) -> None:
    """The same for flanks of gear i (1, 2), whose quantities' names end so."""
    for symbol, length in (("l_Ca", f.l_Ca), ("l_Cf", f.l_Cf)):
        if length is not None and length > g_alpha:
            reason = tr(
                "the relief would be longer than the contact of the flank, {g_alpha:.3f} mm of roll", g_alpha=g_alpha
            )
            raise OutOfRange(plain(symbol, i) + end, length, reason, low=0.0, high=_down(g_alpha), unit="mm")
    if f.C_alphaa > 0:
        land = float(numbers.gears[i - 1].s_an)
        high = 1000 * land / 2 * float(np.cos(numbers.pair.alpha_n))
        if f.C_alphaa >= high:
            reason = tr("the tip land of {land:.3f} mm would be gone", land=land)
            raise OutOfRange(plain("C_alphaa", i) + end, f.C_alphaa, reason, low=0.0, high=_down(high), unit="um")
    both = (f.l_CI if f.C_betaI else 0.0) + (f.l_CII if f.C_betaII else 0.0)
    if both > b:
        symbol, length, other = ("l_CI", f.l_CI, f.l_CII) if f.C_betaI else ("l_CII", f.l_CII, f.l_CI)
        other = other if f.C_betaI and f.C_betaII else 0.0
        reason = tr("end reliefs of {both:g} mm in all do not fit on a face of {b:g} mm", both=both, b=b)
        raise OutOfRange(plain(symbol, i) + end, length, reason, low=0.0, high=max(_down(b - other), 0.0), unit="mm")


def _down(value: float) -> float:
    """Rounded so that it works itself."""
    return float(np.floor(value * 1000) / 1000)
