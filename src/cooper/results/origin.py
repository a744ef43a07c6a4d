"""Where the value of a check comes from if it is not a product of factors: the quantities it is made of, with their
sources, as rows."""

from __future__ import annotations

from cooper.document.models import Design
from cooper.document.quantities import QUANTITIES, plain
from cooper.i18n.text import tr
from cooper.results.machine_why import Row
from cooper.results.result_tree import Check, Results

_MESH = ("a_w", "alpha_wt")
_PLAY = ("E_sns of both", "a_w", "A_ai", "alpha_wt", "j_wt", "j_bn_min", "j_wt_min")
MADE_OF: dict[str, tuple[str, ...]] = {
    "s_anE": ("m_n", "own d_a", "own s_nE", "own x_E", "own s_an", "own s_anE"),
    "c": ("a_w", "own d_a", "mate d_f", "own c"),
    "c_F": (*_MESH, "mate d_Na", "own d_Nf", "own d_Ff", "own c_F"),
    "c_tip": ("a_w", "d_a of both", "c_tip"),
    "eps_alpha": (*_MESH, "d_Na of both", "g_alpha", "p_et", "eps_alpha"),
    "j_wt_min": _PLAY,
    "j_bn_min": _PLAY,
    "j_op_min": (*_PLAY, "j_heat", "j_op", "j_op_min"),
    "S_B": ("w_Bt", "mu_m", "theta_oil", "theta_M", "theta_fl", "theta_B", "theta_S", "S_B"),
    "S_int": ("mu_mC", "theta_oil", "theta_flaint", "theta_int", "theta_Sint", "S_int"),
    "S_lambda": ("theta_MGF", "h_GF", "lambda_GF", "lambda_GFT", "lambda_GFP", "S_lambda"),
    "S_FF": ("own HV_core", "own A_FF", "own y_FF", "own S_FF"),
    "CHD": ("m_n", "own sigma_H", "own CHD_c", "own CHD"),
    "theta_Fla": ("own theta_Fla",),
    "delta_W": ("m_n", "own delta_W"),
    "lambda_t": ("m_n", "lambda_t"),
    "du": ("u", "du"),
    "theta_bal": ("P_V", "theta_bal"),
}
"""The quantities that each check is computed from, in order; ``own`` and ``mate`` are the gear that is checked and
the other, all else is of the mesh or the train."""


def origin_of(design: Design, results: Results, check: Check) -> list[Row]:
    """The quantities that a check's value is computed from, then the value itself; empty for a check that is not
    listed."""
    rows: list[Row] = []
    for word in MADE_OF.get(check.symbol, ()):
        symbol = word.removeprefix("own ").removeprefix("mate ").removesuffix(" of both")
        gears: tuple[int | None, ...] = (None,)
        if word.endswith(" of both"):
            gears = (1, 2)
        elif word != symbol and check.index is not None:
            gears = (check.index if word.startswith("own ") else 3 - check.index,)
        for i in gears:
            value = _found(design, results, check, symbol, i)
            if value is not None:
                q = QUANTITIES[symbol]
                rows.append(
                    (
                        plain(symbol, i),
                        value,
                        q.kind,
                        tr("{meaning}; {source}", meaning=q.meaning, source=q.source) if q.source else q.meaning,
                    )
                )
    return rows


def _found(design: Design, results: Results, check: Check, symbol: str, i: int | None) -> float | None:
    if check.stage is None:
        result = results.train.get(symbol)
    else:
        stage = results.stages[check.stage]
        result = stage.gears[i - 1].get(symbol) if i else stage.mesh.get(symbol)
        if result is None and not i:
            # An allowance of the centres stands in the design alone.
            result = getattr(design.train.stages[check.stage].mesh, symbol, None)
    return float(result) if isinstance(result, int | float) else None
