"""The formulas that F1, Why and the report print are read again and worked out with the numbers of the demos."""

import math
import re

import pytest

from cooper.demo import DEMOS, demo
from cooper.document.quantities import QUANTITIES
from cooper.editing.edit import set_many
from cooper.results.evaluate import evaluate
from makers import pair

WORDS = {
    "Z_NT",
    "Y_NT",
    "Z_BD",
    "Z_X",
    "K_V",
    "K_Hbeta",
    "K_Falpha",
    "Z_I",
    "K_HA",
    "Y_N",
    "Z_N",
    "Z_WA",
    "Z_W",
    "Y_R_relT",
    "Y_X",
    "Y_M",
    "Y_delta_relT",
    "Z_L",
    "Z_V",
    "Z_R",
    "K_Halpha",
}
"""Told in words, by a table, or by factors that stand in no result: held by rows of the tables in this folder."""
GREEK = {
    "α": "alpha",
    "β": "beta",
    "γ": "gamma",
    "ε": "eps",
    "σ": "sigma",
    "ν": "nu",
    "ρ": "rho",
    "δ": "delta",
    "θ": "theta",
    "ψ": "psi",
    "π": "pi",
}
ANGLES = ("alpha_t", "alpha_wt", "beta_b", "beta", "alpha_n", "alpha_Fen")
NAMES = {
    "K_Hα": "K_Halpha",
    "K_Hβ": "K_Hbeta",
    "K_Fα": "K_Falpha",
    "K_Fβ": "K_Fbeta",
    "Z_B,D": "Z_BD",
    "Y_δrelT": "Y_delta_relT",
    "Y_RrelT": "Y_R_relT",
    "Z_ε": "Z_eps",
    "Z_β": "Z_beta",
    "Y_β": "Y_beta",
    "σ_H0": "sigma_H0",
    "σ_F0": "sigma_F0",
    "σ_Hlim": "sigma_Hlim",
    "σ_Flim": "sigma_Flim",
    "σ_HP": "sigma_HP0",
    "σ_FP": "sigma_FP0",
    "Y_θ": "Y_theta",
    "K_γ": "K_gamma",
}


def readable(text):
    """A printed formula as Python: products by a space, roots, powers and Greek letters."""
    for shown, plain in sorted(NAMES.items(), key=lambda p: -len(p[0])):
        text = re.sub(rf"(?<![\w]){re.escape(shown)}(?![\w,])", plain, text)
    text = re.sub(
        r"(cos|sin)([²³]?) ([A-Za-zα-ω_]+)",
        lambda m: f"({m[1]}({m[3]}){ {'²': '**2', '³': '**3'}.get(m[2], '') })",
        text,
    )
    text = (
        re.sub(r"√(\(cos\(\w+\)\))", r"sqrt\1", text)
        .replace("√", "sqrt")
        .replace("−", "-")
        .replace("·", "*")
        .replace("²", "**2")
        .replace("^", "**")
    )
    for letter, name in GREEK.items():
        text = text.replace(letter, name)
    # What stands side by side is multiplied.
    return re.sub(r"(?<=[\w)]) +(?=[\w(])", "*", text)


def values(stage, i):
    at = {**stage.mesh, **stage.gears[i]}
    at |= {k: math.radians(at[k]) for k in ANGLES if k in at}
    one = stage.gears[0]
    pinion = stage.gears[stage.pinion - 1]
    at |= {
        "d_1": one.get("d"),
        "d_w1": pinion.get("d_w"),
        "pi": math.pi,
        "sqrt": math.sqrt,
        "cos": math.cos,
        "sin": math.sin,
        "ln": math.log,
    }
    return at


FORMULAS = {s: q.formula for s, q in QUANTITIES.items() if q.formula}

CASES = {
    # By symbol: which part of the text is worked out where, and what its letters stand for beside their own names.
    "sigma_load": {"b": "b_H"},
    "sigma_H0": {"b": "b_H"},
    "Z_H": {},
    "Z_beta": {},
    "sigma_H": {},
    "sigma_HG": {},
    "sigma_Fload": {"b": "b_F"},
    "Y_eps": {},
    "Y_g": {},
    "sigma_F0": {"b": "b_F"},
    "sigma_F": {},
    "sigma_FG": {},
    "K_peak": {},
    "p_HA": {"F_t": "F_w", "b": "b_H"},
    "p_FA": {"F_t": "F_w", "b": "b_H"},
    "sigma_HPA": {"Z_W": "Z_WA"},
    "sigma_FPA": {},
    "Y_F": {},
    "Y_S": {},
    "sigma_HA": {"F_t": "F_w", "b": "b_H", "K_o": "K_A", "K_v": "K_vA", "K_H": "K_HA", "Z_R": "Z_RA"},
    "sigma_FA": {"F_t": "F_w", "b": "b_H", "K_o": "K_A", "K_v": "K_vA", "K_H": "K_HA"},
}
EXTRA = {"sigma_HA": ("K_gamma", 0.5), "sigma_FA": ("K_gamma", 1.0), "sigma_FPA": ("Y_both", 1.0)}


@pytest.mark.parametrize("name", [*DEMOS, "notched"])
def test_what_is_printed_is_what_is_computed(name):
    d = (
        demo(name)
        if name != "notched"
        else set_many(pair(), {"train.gears.gear1.t_g": 0.1, "train.gears.gear1.rho_g": 0.4})
    )
    worked = 0
    for stage in evaluate(d).stages:
        for i in (0, 1):
            at = values(stage, i)
            at["m_t"] = at["m_n"] / math.cos(at["beta"])
            for symbol, letters in CASES.items():
                if (
                    symbol not in at
                    or not stage.rated
                    or (not stage.kind.turns and symbol in ("sigma_load", "sigma_H0"))
                ):
                    continue
                text = FORMULAS[symbol]
                if symbol == "Y_S":
                    text, _, rest = text.partition(" with ")
                    local = {"L": at["s_Fn"] / at["h_Fe"]}
                    assert rest.startswith("L = s_Fn/h_Fe")
                else:
                    local = {}
                local |= {a: at[b] for a, b in letters.items() if b in at}
                if symbol == "sigma_F0":
                    # Of plastics and of notches the chain shows one factor more.
                    text += "".join(f" {more}" for more in ("Y_eps", "Y_g") if more in at)
                result = eval(readable(text), {"__builtins__": {}}, {**at, **local})
                extra, power = EXTRA.get(symbol, ("K_A", 0.0))
                assert result * at[extra] ** power == pytest.approx(at[symbol], rel=1e-6), (symbol, readable(text))
                worked += 1
    assert worked > 10


def test_every_formula_is_worked_out_or_told_in_words():
    others = {"Z_E", "Z_eps", "K_Fbeta", "Y_beta", "Y_B", "Y_DT", "sigma_HGst", "sigma_FGst", "Y_J", "K_vA", "K_B"}
    assert set(FORMULAS) == set(CASES) | WORDS | others
