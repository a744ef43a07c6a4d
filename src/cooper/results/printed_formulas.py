"""Formulas as they stand in the standards, written so that they can be set as mathematics, filled with numbers and
worked out again.

This is a second way to the numbers of a report: nothing here is used to rate. Angles are in degrees; an internal gear
has negative counts and diameters.
"""

from __future__ import annotations

import ast
import math
from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import Any

from msgspec import Struct, field

from cooper.arrays import Loose
from cooper.document.models import Train
from cooper.document.quantities import QUANTITIES
from cooper.rating.iso6336.nominal_load import K1_HELICAL, K1_SPUR, K2_HELICAL, K2_SPUR
from cooper.results.result_tree import StageResults
from cooper.results.to_core import material_of, stiffness_of


class PrintedFormula(Struct, frozen=True):
    """A formula in the symbols of the results; ``when`` the case that it holds for, ``where`` names of its own with
    their formulas.

    ``d__1`` and ``d__2`` are of gears 1 and 2, ``d__p`` and ``d__w`` of pinion and wheel, ``d__m`` of the mate; all
    else is the gear's own, or the mesh's.
    """

    text: str
    when: str = ""
    where: Mapping[str, str] = field(default_factory=dict)
    told: str = ""
    """Words for the case, where its formula is a plain number."""


W = PrintedFormula
_ROOT_OF_TIP = "sqrt((d_Na{0} / d_b{0})**2 - 1)"
_PRODUCT_H, _PRODUCT_F = "K_A * K_gamma * K_V * K_Hbeta * K_Halpha", "K_A * K_gamma * K_V * K_Fbeta * K_Falpha"


def _limited(
    text: str, of: str, where: Mapping[str, str] | None = None, static: str = ""
) -> tuple[PrintedFormula, ...]:
    """An influence factor at long life, at limited life between its static value (1 unless given) and that, and at
    static load."""
    q = {"q": f"ln(N_L / N_{of}st) / ln(N_{of}ref / N_{of}st)"}
    where = where or {}
    limited = f"({static})**(1 - q) * ({text})**q" if static else f"({text})**q"
    return (
        *((W("1", "in_standard == 0", told="stated for steels and cast irons alone"),) if of == "H" else ()),
        W(text, f"N_L >= N_{of}ref", where),
        W(limited, f"N_{of}st < N_L < N_{of}ref", {**where, **q}),
        W(static or "1", f"N_L <= N_{of}st", told="static load"),
    )


# fmt: off
PRINTED_FORMULAS: dict[str, tuple[PrintedFormula, ...]] = {
    # geometry
    "alpha_t": (W("atan(tan(alpha_n) / cos(beta))"),),
    "beta_b": (W("asin(sin(beta) * cos(alpha_n))"),),
    "a": (W("m_n * (z__1 + z__2) / (2 * cos(beta))"),),
    "alpha_wt": (W("acos(a * cos(alpha_t) / a_w)"),),
    "x_sum": (W("(z__1 + z__2) * (inv(alpha_wt) - inv(alpha_t)) / (2 * tan(alpha_n))"),),
    "d": (W("m_n * z / cos(beta)"),),
    "d_b": (W("d * cos(alpha_t)"),),
    "d_w": (W("d_b / cos(alpha_wt)"),),
    "p_et": (W("pi * m_n * cos(alpha_t) / cos(beta)"),),
    "g_alpha": (W("(abs(d_Na__1) * sqrt(1 - (d_b__1 / d_Na__1)**2) + abs(d_Na__2) * sqrt(1 - (d_b__2 / " "d_Na__2)**2)) / 2 - a_w * sin(alpha_wt)", "z__2 > 0"),
                W("(abs(d_Na__1) * sqrt(1 - (d_b__1 / d_Na__1)**2) - abs(d_Na__2) * sqrt(1 - (d_b__2 / " "d_Na__2)**2)) / 2 - a_w * sin(alpha_wt)", "z__2 < 0")),
    "eps_alpha": (W("g_alpha / p_et"),),
    "eps_beta": (W("b_H * sin(beta) / (pi * m_n)", "n_half == 1"), W("b_H * sin(beta) / (2 * pi * m_n)", "n_half == 2")),
    "eps_gamma": (W("eps_alpha + eps_beta"),),
    # loads
    "F_t": (W("2000 * T_mesh / d__1"),),
    "v": (W("pi * d__1 * n_mesh / 60000"),),
    "w_t": (W("K_A * K_gamma * F_t / b_H"),),
    "F_w": (W("2000 * T_mesh / d_w__1"),),
    "F_bt": (W("F_t / cos(alpha_t)"),),
    "F_a": (W("F_t * tan(beta)", "n_half == 1"),),
    "F_r": (W("2000 * T_mesh / d_w__1 * tan(alpha_wt)"),),
    "K_V": (W("1 + (K_1 / max(w_t, 100) + K_2) * (v * z__1 / 100) * K_3 * sqrt(u**2 / (1 + u**2))", "method_V == 'C' and (eps_beta == 0 or eps_beta >= 1)"),
            W("1 + ((1 - eps_beta) * (K_1 / max(w_t, 100) + K_2) + eps_beta * (K_1beta / max(w_t, 100) + K_2beta)) " "* (v * z__1 / 100) * K_3 * sqrt(u**2 / (1 + u**2))",
              "method_V == 'C' and 0 < eps_beta < 1"),
            W("1 + N_res * (C_v1 * B_p + C_v2 * B_f + C_v3 * B_k)", "method_V == 'B' and N_res < 0.5 and eps_gamma <= 2 and Q_w > 5",
              {"B_p": "c_s * f_pbeff / w_t", "B_f": "c_s * f_faeff / w_t", "B_k": "1", "C_v1": "0.32", "C_v2": "0.34", "C_v3": "0.23"}),
            W("1 + N_res * (C_v1 * B_p + C_v2 * B_f + C_v3 * B_k)", "method_V == 'B' and N_res < 0.5 and eps_gamma > 2 and Q_w > 5",
              {"B_p": "c_s * f_pbeff / w_t", "B_f": "c_s * f_faeff / w_t", "B_k": "1", "C_v1": "0.32", "C_v2": "0.57 / (eps_gamma - 0.3)",
               "C_v3": "0.096 / (eps_gamma - 1.56)"})),
    "N_res": (W("n_p / n_E1", "z__1 < abs(z__2)"),),
    "K_Hbeta": (W("1 + F_betay * 0.85 * c_gamma * b_H / (2 * F_m)", "method_H == 'C' and F_betay * 0.85 * c_gamma * b_H < 2 * F_m", {"F_m": "F_t * K_A * K_gamma * K_V"}),
                W("2 * sqrt(F_betay * 0.85 * c_gamma * b_H / (2 * F_m))", "method_H == 'C' and F_betay * 0.85 * c_gamma * b_H >= 2 * F_m", {"F_m": "F_t * K_A * K_gamma * K_V"})),
    "K_Fbeta": (W("K_Hbeta**N_F", "n_half == 1", {"r": "max(b_H / max(h__1, h__2), 3)", "N_F": "r**2 / (1 + r + r**2)"}),
                W("K_Hbeta**N_F", "n_half == 2", {"r": "max(b_H / (2 * max(h__1, h__2)), 3)", "N_F": "r**2 / (1 + r + r**2)"})),
    "K_Halpha": (W("min(max(eps_gamma / 2 * (0.9 + 0.4 * c_gamma * f_alphaeff / (w_t * K_V * K_Hbeta)), 1), " "eps_gamma / (eps_alpha * Z_eps**2))", "method_alpha == 'B' and eps_gamma <= 2"),
                 W("min(max(0.9 + 0.4 * sqrt(2 * (eps_gamma - 1) / eps_gamma) * c_gamma * f_alphaeff / (w_t * K_V " "* K_Hbeta), 1), eps_gamma / (eps_alpha * Z_eps**2))", "method_alpha == 'B' and eps_gamma > 2")),
    "K_Falpha": (W("min(max(eps_gamma / 2 * (0.9 + 0.4 * c_gamma * f_alphaeff / (w_t * K_V * K_Hbeta)), 1), " "eps_gamma / (0.25 * eps_alpha + 0.75))", "method_alpha == 'B' and eps_gamma <= 2"),
                 W("min(max(0.9 + 0.4 * sqrt(2 * (eps_gamma - 1) / eps_gamma) * c_gamma * f_alphaeff / (w_t * K_V " "* K_Hbeta), 1), eps_gamma / (0.25 * eps_alpha + 0.75))", "method_alpha == 'B' and eps_gamma > 2")),
    # flank, ISO 6336-2
    "Z_H": (W("sqrt(2 * cos(beta_b) * cos(alpha_wt) / (cos(alpha_t)**2 * sin(alpha_wt)))"),),
    "Z_E": (W("sqrt(1 / (pi * ((1 - nu__1**2) / E__1 + (1 - nu__2**2) / E__2)))"),),
    "Z_eps": (W("sqrt((4 - eps_alpha) / 3)", "eps_beta == 0"),
              W("sqrt((4 - eps_alpha) / 3 * (1 - eps_beta) + eps_beta / eps_alpha)", "0 < eps_beta < 1"),
              W("sqrt(1 / eps_alpha)", "eps_beta >= 1")),
    "Z_beta": (W("1 / sqrt(cos(beta))"),),
    "sigma_load": (W("sqrt(F_t / (d__1 * b_H) * ((u + 1) / u))"),),
    "sigma_H0": (W("Z_H * Z_E * Z_eps * Z_beta * sqrt(F_t / (d__1 * b_H) * ((u + 1) / u))"),),
    "Z_BD": (W("max(M, 1)", "eps_beta == 0 and inside == 0",
               {"M": "tan(alpha_wt) / sqrt((" + _ROOT_OF_TIP.format("") + " - 2 * pi / z) * (" + _ROOT_OF_TIP.format("__m") + " - (eps_alpha - 1) * 2 * pi / z__m))"}),
             W("max(M - eps_beta * (M - sqrt(f_ZCa)), 1)", "0 < eps_beta < 1 and inside == 0",
               {"M": "tan(alpha_wt) / sqrt((" + _ROOT_OF_TIP.format("") + " - 2 * pi / z) * (" + _ROOT_OF_TIP.format("__m") + " - (eps_alpha - 1) * 2 * pi / z__m))"}),
             W("sqrt(f_ZCa)", "eps_beta >= 1 and inside == 0"),
             W("1", "inside == 1", told="an internal gear")),
    "sigma_H": (W(f"Z_BD * sigma_H0 * sqrt({_PRODUCT_H})"),),
    "Z_L": _limited("C_ZL + 4 * (1 - C_ZL) / (1.2 + 134 / nu_40)**2", "H", {"C_ZL": "0.08 * (min(max(sigma_Hs, 850), 1200) - 850) / 350 + 0.83"}),
    "Z_V": _limited("C_ZV + 2 * (1 - C_ZV) / sqrt(0.8 + 32 / v)", "H", {"C_ZV": "0.08 * (min(max(sigma_Hs, 850), 1200) - 850) / 350 + 0.85"}),
    "Z_R": _limited("(3 / Rz_10)**C_ZR", "H", {"Rz_10": "(Rz_H__1 + Rz_H__2) / 2 * cbrt(10 / rho_red)", "C_ZR": "0.32 - 0.0002 * min(max(sigma_Hs, 850), 1200)"}),
    "sigma_HG": (W("sigma_Hlim * Z_NT * Z_L * Z_V * Z_R * Z_W * Z_X"),),
    "S_H": (W("sigma_HG / sigma_H"),),
    "K_peak": (W("K_AP / K_A"),),
    "sigma_Hpk": (W("sigma_Hpk", "T_rel_H > 0", told="the level of the spectrum with the greatest stress"), W("sigma_H * sqrt(K_peak)")),
    "sigma_HGst": (W("sigma_Hlim_st * Z_NTst * Z_Wst"),),
    "S_Hst": (W("sigma_HGst / sigma_Hpk"),),
    # root, ISO 6336-3
    "sigma_Fload": (W("F_t / (b_F * m_n)"),),
    "f_eps": (W("1", "at_tip == 1", told="load at the tip"),
              W("1", "at_tip == 0 and eps_beta == 0 and eps_alpha < 2", told="spur, ε_αn below 2"),
              W("0.7", "at_tip == 0 and eps_beta == 0 and eps_alpha >= 2", told="spur, ε_αn of 2 and more"),
              W("sqrt(1 - eps_beta + eps_beta / eps_alphan)", "at_tip == 0 and 0 < eps_beta < 1 and eps_alphan < 2"),
              W("sqrt((1 - eps_beta) / 2 + eps_beta / eps_alphan)", "at_tip == 0 and 0 < eps_beta < 1 and eps_alphan >= 2"),
              W("1 / sqrt(eps_alphan)", "at_tip == 0 and eps_beta >= 1")),
    "q_s": (W("s_Fn / (2 * rho_F)"),),
    "Y_F": (W("6 * (h_Fe / m_n) * cos(alpha_Fen) / ((s_Fn / m_n)**2 * cos(alpha_n)) * f_eps"),),
    "Y_S": (W("(1.2 + 0.13 * L) * q_s**(1 / (1.21 + 2.3 / L))", "", {"L": "s_Fn / h_Fe"}),),
    "Y_g": (W("1.3 / (1.3 - 0.6 * sqrt(t_g / rho_g))"),),
    "Y_eps": (W("0.25 + 0.75 / eps_alpha", "plastic == 1"), W("1", "plastic == 0", told="no plastic")),
    "Y_beta": (W("1", "beta == 0", told="spur"),
               W("(1 - min(eps_beta, 1) * min(beta, 30) / 120) / cos(min(beta, 30))**3", "beta > 0"),),
    "Y_B": (W("1", "inside == 0 and s_R / h >= 1.2", told="s_R/h of 1.2 and more"),
            W("1.6 * ln(2.242 * h / s_R)", "inside == 0 and s_R / h < 1.2"),
            W("1", "inside == 1 and s_R / m_n >= 3.5", told="s_R/m_n of 3.5 and more"),
            W("1.15 * ln(8.324 * m_n / s_R)", "inside == 1 and s_R / m_n < 3.5")),
    "Y_DT": (W("1", "Q_w > 4", told="class 5 and coarser"), W("min(max(2.366 - 0.666 * eps_alphan, 0.7), 1)", "Q_w <= 4")),
    "sigma_F0": (W("F_t / (b_F * m_n) * Y_F * Y_S * Y_eps * Y_beta * Y_B * Y_DT", "Y_eps > 0"),
                 W("F_t / (b_F * m_n) * Y_F * Y_S * Y_g * Y_beta * Y_B * Y_DT", "Y_g > 0"),
                 W("F_t / (b_F * m_n) * Y_F * Y_S * Y_beta * Y_B * Y_DT")),
    "sigma_F": (W(f"sigma_F0 * {_PRODUCT_F}"),),
    "Y_delta_relT": _limited("(1 + sqrt(rho_slip * chi)) / (1 + sqrt(rho_slip * chi_T))", "F", {"chi": "(1 + 2 * q_s) / 5", "chi_T": "(1 + 2 * 2.5) / 5"}, "Y_delta_st"),
    "Y_R_relT": _limited("a_R - b_R * (Rz_F + 1)**n_R", "F"),
    "Y_X": _limited("min(max(a_X - b_X * m_n, c_X), 1)", "F"),
    "sigma_FG": (W("sigma_Flim * Y_ST * Y_NT * Y_delta_relT * Y_R_relT * Y_X * Y_M"),),
    "S_F": (W("sigma_FG / sigma_F"),),
    "sigma_Fpk": (W("sigma_Fpk", "T_rel_F > 0", told="the level of the spectrum with the greatest stress"), W("sigma_F * K_peak")),
    "sigma_FGst": (W("sigma_Flim_st * Y_ST * Y_NTst * Y_delta_st * Y_Mst"),),
    "S_Fst": (W("sigma_FGst / sigma_Fpk"),),
    # ANSI/AGMA 2101-D04
    "v_wt": (W("pi * d_w__1 * n_mesh / 60000"),),
    "K_vA": (W("((A + sqrt(200 * v_wt)) / A)**B", "", {"B": "0.25 * (A_v - 5)**(2 / 3)", "A": "50 + 56 * (1 - B)"}),),
    "p_HA": (W("sqrt(F_w / (d_w__p * b_H))"),),
    "sigma_HA": (W("Z_E * sqrt(F_w * K_A * K_gamma * K_vA * K_s * K_HA / (d_w__p * b_H) * Z_RA / Z_I)"),),
    "sigma_HPA": (W("sigma_HP0 * Z_N * Z_WA / (Y_theta * Y_Z)"),),
    "S_HA": (W("sigma_HPA / sigma_HA"),),
    "Y_J": (W("Y_AGMA * C_psi / (K_f * m_N)", "eps_beta == 0", {"C_psi": "1"}),),
    "K_B": (W("1", "s_R / h >= 1.2", told="s_R/h of 1.2 and more"), W("1.6 * ln(2.242 * h / s_R)", "s_R / h < 1.2")),
    "sigma_FA": (W("F_w * K_A * K_gamma * K_vA * K_s * K_HA * K_B * cos(beta) / (b_H * m_n * Y_J)"),),
    "sigma_FPA": (W("sigma_FP0 * Y_N * Y_both / (Y_theta * Y_Z)"),),
    "S_FA": (W("sigma_FPA / sigma_FA"),),
    # scuffing
    "theta_B": (W("theta_M + theta_fl"),),
    "S_B": (W("(theta_S - theta_oil) / (theta_B - theta_oil)"),),
    "S_int": (W("theta_Sint / theta_int"),),
    "S_FF": (W("0.8 / A_FF"),),
}
# fmt: on


@lru_cache(maxsize=1024)
def parsed(text: str) -> ast.expr:
    """The expression of a formula; raises SyntaxError where it is none."""
    return ast.parse(text, mode="eval").body


def _inv(degrees: float) -> float:
    """Involute function of an angle in degrees."""
    return math.tan(math.radians(degrees)) - math.radians(degrees)


FUNCTIONS: dict[str, Callable[..., float]] = {
    "sqrt": math.sqrt,
    "cbrt": lambda x: math.copysign(abs(x) ** (1 / 3), x),
    "ln": math.log,
    "min": min,
    "max": max,
    "abs": abs,
    "inv": _inv,
    **{f: (lambda x, _f=f: getattr(math, _f)(math.radians(x))) for f in ("sin", "cos", "tan")},
    **{f"a{f}": (lambda x, _f=f: math.degrees(getattr(math, f"a{_f}")(x))) for f in ("sin", "cos", "tan")},
}
"""What formulas are made of; angles are in degrees."""


def worked_out(text: str, names: Callable[[str], Loose]) -> Loose:
    """The value of a formula with names' values; raises KeyError for a name that is not known.

    >>> worked_out("m_n * z / cos(beta)", {"m_n": 2.0, "z": 20.0, "beta": 60.0}.__getitem__)
    80.0
    """

    def of(node: ast.expr) -> Any:
        match node:
            case ast.Constant(value=value):
                return value
            case ast.Name(id=name):
                return math.pi if name == "pi" else names(name)
            case ast.UnaryOp(op=ast.USub(), operand=operand):
                return -of(operand)
            case ast.BinOp(left=left, op=op, right=right):
                a, b = of(left), of(right)
                return (
                    {ast.Add: a + b, ast.Sub: a - b, ast.Mult: a * b}[type(op)]
                    if not isinstance(op, ast.Div | ast.Pow)
                    else a / b
                    if isinstance(op, ast.Div)
                    else a**b
                )
            case ast.Call(func=ast.Name(id=function), args=args):
                return FUNCTIONS[function](*map(of, args))
            case ast.Compare(left=left, ops=ops, comparators=others):
                values = [of(left), *map(of, others)]
                return all(_COMPARED[type(op)](a, b) for op, a, b in zip(ops, values, values[1:], strict=False))
            case ast.BoolOp(op=op, values=values):
                return (all if isinstance(op, ast.And) else any)(of(v) for v in values)
        raise ValueError(f"{ast.unparse(node)} is no part of a formula")

    result = of(parsed(text))
    return (
        round(result, 12)
        if isinstance(result, float) and abs(result) < 1e3 and abs(result - round(result, 9)) < 1e-13
        else result
    )


_COMPARED: dict[type, Callable[[Any, Any], bool]] = {
    ast.Eq: lambda a, b: a == b,
    ast.Lt: lambda a, b: a < b,
    ast.LtE: lambda a, b: a <= b,
    ast.Gt: lambda a, b: a > b,
    ast.GtE: lambda a, b: a >= b,
}
OWN_NAMES: dict[str, tuple[tuple[str, str], str]] = {
    "theta_oil": (("θ", "oil"), "temperature"),
    "rho_slip": (("ρ", "′"), "length"),
    "sigma_Hs": (("σ", "Hlim, softer"), "stress"),
    "nu_40": (("ν", "40"), "viscosity"),
    "eps_alphan": (("ε", "αn"), "factor"),
    "n_half": (("n", "halves"), "count"),
    "Q_w": (("Q", "coarser"), "count"),
    "chi": (("χ", "*"), "factor"),
    "chi_T": (("χ", "*T"), "factor"),
    "n_p": (("n", "pinion"), "speed"),
    "K_1beta": (("K", "1β"), "factor"),
    "K_2beta": (("K", "2β"), "factor"),
    "N_Hst": (("N", "stat"), "cycles"),
    "N_Href": (("N", "ref"), "cycles"),
    "N_Fst": (("N", "stat"), "cycles"),
    "N_Fref": (("N", "ref"), "cycles"),
}
"""Names that stand in formulas alone: how they are shown, and the kind of their unit."""
SIGNED = ("z", "d", "d_b", "d_a", "d_f", "d_w", "d_Na", "d_Ff", "z_n")
"""What of an internal gear is negative in the standards' formulas."""


class Names:
    """The values that the formulas of a gear (1, 2; None for the mesh) of stage k are filled with."""

    def __init__(self, train: Train, stage: StageResults, k: int, gear: int | None = None) -> None:
        self.stage, self.gear = stage, gear
        doc = train.stages[k]
        mesh = doc.mesh
        members = doc.gears
        one, two = (material_of(g.material) for g in members)
        (E_1, nu_1), (E_2, nu_2) = (stiffness_of(g, v, "theta_Fla") for g, v in zip(members, stage.gears, strict=True))
        m, at = stage.mesh, stage.gears
        inward = stage.kinds[1].inward
        self.signs = (1.0, -1.0 if inward else 1.0)
        self.rack = not inward and "d" not in stage.gears[1]
        given: dict[str, float] = {
            "method_V": stage.methods.get("K_V", ""),  # type: ignore[dict-item]
            "method_H": stage.methods.get("K_Hbeta", ""),  # type: ignore[dict-item]
            "method_alpha": stage.methods.get("K_Halpha", ""),  # type: ignore[dict-item]
            "n_half": 2.0 if mesh.double_helix else 1.0,
            "theta_oil": train.duty.theta_oil,
            "nu_40": train.defaults.lubricant.nu_40,
            "E__1": E_1,
            "E__2": E_2,
            "nu__1": nu_1,
            "nu__2": nu_2,
            "sigma_Hs": float(min(one.sigma_Hlim, two.sigma_Hlim)),
            "Q_w": max(g.get("Q", 0.0) for g in at),
            "K_1": max(K1_SPUR[max(g.Q, 3)] for g in members),
            "K_1beta": max(K1_HELICAL[max(g.Q, 3)] for g in members),
            "K_2": K2_SPUR,
            "K_2beta": K2_HELICAL,
        }
        if "eps_alpha" in m:
            given["eps_alphan"] = float(m.eps_alpha) / math.cos(math.radians(float(m.beta_b))) ** 2
        if "eps_beta" in m and float(m.eps_beta) >= 1:
            given |= {"K_1": given["K_1beta"], "K_2": given["K_2beta"]}
        if "vz" in m:
            vz = float(m.vz)
            given["K_3"] = 2.0 if vz <= 0.2 else max(2.071 - 0.357 * vz, 1.0)
        if "n_mesh" in stage.power:
            given["n_p"] = float(stage.power.n_mesh) * (1.0 if stage.pinion == 1 else 1 / abs(stage.ratio))
        if gear is not None:
            own = (one, two)[gear - 1]
            corners = own.Z_N_pitting if train.defaults.pitting_allowed else own.Z_N
            given |= {
                "plastic": float(own.plastic),
                "inside": float(self.signs[gear - 1] < 0),
                "rho_slip": float(own.rho_slip),
                "N_Hst": float(corners[0, 0]),
                "N_Href": float(corners[0, 2]),
                "N_Fst": float(own.Y_N[0, 0]),
                "N_Fref": float(own.Y_N[0, 2]),
                "a_R": float(own.surface_a),
                "b_R": float(own.surface_b),
                "n_R": float(own.surface_n),
                "a_X": float(own.size_a),
                "b_X": float(own.size_b),
                "c_X": float(own.size_least),
                "in_standard": float(own.in_standard),
            }
        self.given = given

    def split(self, name: str) -> tuple[str, int | None]:
        """A name's symbol, and the gear that it belongs to, None for the mesh."""
        symbol, _, whose = name.partition("__")
        if whose:
            pinion = self.stage.pinion
            own = self.gear or 1
            return symbol, {"1": 1, "2": 2, "p": pinion, "w": 3 - pinion, "m": 3 - own}[whose]
        if self.gear is not None and symbol in self.stage.gears[self.gear - 1] and name not in self.given:
            return symbol, self.gear
        return symbol, None

    def value(self, name: str) -> Any:
        """The value of a name; raises KeyError where there is none."""
        if name in self.given:
            return self.given[name]
        symbol, gear = self.split(name)
        if self.rack and (symbol in ("a", "a_w") or (gear == 2 and symbol == "z")):
            # It has no count and no centre.
            raise KeyError(name)
        if gear is not None:
            if f"{symbol}__{gear}" in self.given:
                return self.given[f"{symbol}__{gear}"]
            value = float(self.stage.gears[gear - 1][symbol])
            return abs(value) * self.signs[gear - 1] if symbol in SIGNED else value
        if symbol == "u":
            return float(self.stage.ratio)
        if symbol in self.stage.mesh:
            value = float(self.stage.mesh[symbol])
            return value * self.signs[1] if symbol in ("a", "a_w") else value
        return float(self.stage.power[symbol])

    def kind(self, name: str) -> str:
        """The kind of a name's unit."""
        symbol = name.partition("__")[0]
        if symbol in OWN_NAMES:
            return OWN_NAMES[symbol][1]
        return QUANTITIES[symbol].kind if symbol in QUANTITIES else "factor"


class Case(Struct, frozen=True):
    """A formula that holds, with the names of its own in the order in which they are needed, and what it comes to."""

    written: PrintedFormula
    locals: dict[str, float]
    value: float


def case_of(symbol: str, names: Names) -> Case | None:
    """The case of a symbol's formula that holds here, worked out; None where none is written or a value for it is
    missing."""
    for written in PRINTED_FORMULAS.get(symbol, ()):
        own: dict[str, float] = {}

        def look(name: str, own: dict[str, float] = own) -> Any:
            return own[name] if name in own else names.value(name)

        try:
            for name, text in written.where.items():
                own[name] = float(worked_out(text, look))
            if written.when and not worked_out(written.when, look):
                continue
            value = float(worked_out(written.text, look))
        except (KeyError, ValueError, ZeroDivisionError, OverflowError, TypeError):
            continue
        return Case(written, own, value)
    return None
