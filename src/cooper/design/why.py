"""The factor chain behind a safety: from nominal stress step by step to the permissible one."""

from __future__ import annotations

from dataclasses import dataclass
from math import prod

from cooper.design.quantities import QUANTITIES
from cooper.design.results import Check, StageResults


@dataclass(frozen=True)
class Step:
    """One factor of a chain. ``power`` is the exponent with which it enters; ``running`` the stress after it (MPa).

    ``inputs`` are the values that drive it, as (symbol, gear number or None, value). ``entered`` marks factors that a
    person typed. A step that only states a stress (start, result) has ``power`` 0.
    """

    symbol: str
    index: int | None
    value: float
    power: float
    running: float
    inputs: tuple[tuple[str, int | None, float], ...]
    entered: bool
    how: str = ""

    @property
    def source(self) -> str:
        """Where the factor comes from: the standard and clause, with the method where there is a choice of one."""
        source = QUANTITIES[self.symbol].source
        if self.how in ("B", "C"):
            return source.split(", method")[0] + f", method {self.how}"
        return "entered" if self.how == "entered" else source


@dataclass(frozen=True)
class Why:
    """Both chains of a safety: the stress that acts and the stress that the material bears."""

    acting: tuple[Step, ...]
    bearing: tuple[Step, ...]


_INPUTS: dict[str, tuple[str, ...]] = {
    "sigma_load": ("F_t", "1:d", "b_H", "u"), "Z_H": ("alpha_t", "alpha_wt"), "Z_eps": ("eps_alpha", "eps_beta"),
    "Z_BD": ("z", "d_Na", "alpha_wt", "eps_alpha", "f_ZCa"), "K_V": ("v", "1:z", "w_t", "Q"), "Z_beta": ("beta",),
    "K_Fbeta": ("K_Hbeta", "b_H", "h"), "sigma_Fload": ("F_t", "b_F", "m_n"),
    "Y_F": ("h_Fe", "s_Fn", "alpha_Fen", "f_eps"), "Y_S": ("s_Fn", "h_Fe", "rho_F"), "Y_B": ("s_R", "h"), "Y_DT": ("eps_alpha", "Q"), "Z_X": ("m_n",),
    "sigma_Hlim": ("hardness",), "sigma_Flim": ("hardness",), "Z_NT": ("N_L",), "Y_NT": ("N_L",),
    "Z_V": ("v",), "Z_R": ("Rz_H", "rho_red"), "Y_delta_relT": ("q_s",), "Y_R_relT": ("Rz_F",), "Y_X": ("m_n",),
}  # fmt: skip

_BY_METHOD: dict[tuple[str, str], tuple[str, ...]] = {
    ("K_V", "B"): ("N_res", "c_s", "f_pbeff", "f_faeff", "w_t"), ("K_Hbeta", "C"): ("F_betay", "f_sh", "f_ma", "c_gamma", "w_t"),
    ("K_Halpha", "B"): ("c_gamma", "f_pbeff", "eps_gamma"), ("K_Falpha", "B"): ("c_gamma", "f_pbeff", "eps_gamma"),
}  # fmt: skip
"""What drives a load factor that is computed by one of the methods that can be chosen."""


def _how(stage: StageResults, symbol: str) -> str:
    """How a factor was found, where there is a choice; K_A is always entered."""
    if symbol == "K_A":
        return "entered"
    return stage.methods.get("K_Halpha" if symbol == "K_Falpha" else symbol, "")

_CONTACT = (("sigma_load", 0), ("Z_H", 1), ("Z_E", 1), ("Z_eps", 1), ("Z_beta", 1), ("sigma_H0", 0), ("Z_BD", 1),
            ("K_A", 0.5), ("K_V", 0.5), ("K_Hbeta", 0.5), ("K_Halpha", 0.5), ("sigma_H", 0))  # fmt: skip
_CONTACT_BEARS = (("sigma_Hlim", 0), ("Z_NT", 1), ("Z_L", 1), ("Z_V", 1), ("Z_R", 1), ("Z_W", 1), ("Z_X", 1),
                  ("sigma_HG", 0))  # fmt: skip
_ROOT = (("sigma_Fload", 0), ("Y_F", 1), ("Y_S", 1), ("Y_beta", 1), ("Y_B", 1), ("Y_DT", 1), ("sigma_F0", 0), ("K_A", 1), ("K_V", 1),
         ("K_Fbeta", 1), ("K_Falpha", 1), ("sigma_F", 0))  # fmt: skip
_ROOT_BEARS = (("sigma_Flim", 0), ("Y_ST", 1), ("Y_NT", 1), ("Y_delta_relT", 1), ("Y_R_relT", 1), ("Y_X", 1),
               ("sigma_FG", 0))  # fmt: skip


def why(stage: StageResults, check: Check) -> Why | None:
    """The chains of a strength check; None for checks that are a single value against a limit."""
    if check.index is None or check.symbol not in ("S_H", "S_F"):
        return None
    acting, bearing = (_CONTACT, _CONTACT_BEARS) if check.symbol == "S_H" else (_ROOT, _ROOT_BEARS)
    return Why(_chain(stage, check.index, acting), _chain(stage, check.index, bearing))


def _chain(stage: StageResults, i: int, rows: tuple[tuple[str, float], ...]) -> tuple[Step, ...]:
    gear = stage.gears[i - 1]

    def look(symbol: str) -> tuple[str, int | None, float]:
        if symbol.startswith("1:"):
            # What belongs to the pinion, whichever gear is looked at.
            return symbol[2:], 1, stage.gears[0][symbol[2:]]
        if symbol in gear:
            return symbol, i, gear[symbol]
        return symbol, None, stage.mesh[symbol]

    steps: list[Step] = []
    for symbol, power in rows:
        name, index, value = look(symbol)
        running = value if power == 0 else steps[-1].running * value**power
        # A rack has no ratio and no diameters to show.
        how = _how(stage, symbol)
        drives = _BY_METHOD.get((symbol, how), _INPUTS.get(symbol, ()))
        inputs = tuple(look(s) for s in drives if s.startswith("1:") or s in gear or s in stage.mesh)
        steps.append(Step(name, index, value, power, running, inputs, how == "entered", how))
    return tuple(steps)


def product(steps: tuple[Step, ...]) -> float:
    """The chain multiplied out from its first stress; equals its last one."""
    return steps[0].value * prod(s.value**s.power for s in steps if s.power)
