"""The factor chain behind a safety: from nominal stress step by step to the permissible one."""

from __future__ import annotations

from math import prod

from msgspec import Struct

from cooper.document.quantities import QUANTITIES
from cooper.i18n.text import tr
from cooper.results.result_tree import Check, StageResults


class Step(Struct, frozen=True):
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
    def formula(self) -> str:
        """The small formula of the factor; empty where it is a number from a table or a duty."""
        return "" if self.entered else QUANTITIES[self.symbol].formula

    @property
    def source(self) -> str:
        """Where the factor comes from: the standard and clause, with the method where there is a choice of one."""
        return _source(self.symbol, self.how)


class Why(Struct, frozen=True):
    """Both chains of a safety: the stress that acts and the stress that the material bears."""

    acting: tuple[Step, ...]
    bearing: tuple[Step, ...]


def _source(symbol: str, how: str) -> str:
    source = QUANTITIES[symbol].source
    if how in ("B", "C"):
        return source.split(", method")[0] + tr(", method {how}", how=how)
    if how == "shafts":
        return "ISO 6336-1:2019, Annex E, from the shafts of the machine"
    return "entered" if how == "entered" else source


def source_of(stage: StageResults, symbol: str) -> str:
    """Where a quantity of a stage comes from, with the method where there is a choice of one."""
    return _source(symbol, _how(stage, symbol))


def _how(stage: StageResults, symbol: str) -> str:
    """How a factor was found, where there is a choice; K_A is always entered."""
    if symbol in ("K_A", "K_gamma", "K_s"):
        return "entered"
    return stage.methods.get("K_Halpha" if symbol == "K_Falpha" else symbol, "")


Rows = tuple[tuple[str, float], ...]
_CONTACT: Rows = (
    ("sigma_load", 0),
    ("Z_H", 1),
    ("Z_E", 1),
    ("Z_eps", 1),
    ("Z_beta", 1),
    ("sigma_H0", 0),
    ("Z_BD", 1),
    ("K_A", 0.5),
    ("K_gamma", 0.5),
    ("K_V", 0.5),
    ("K_Hbeta", 0.5),
    ("K_Halpha", 0.5),
    ("sigma_H", 0),
)
_CONTACT_BEARS: Rows = (("sigma_Hlim", 0), ("Z_NT", 1), ("Z_L", 1), ("Z_V", 1), ("Z_R", 1), ("Z_W", 1), ("Z_X", 1),
                  ("sigma_HG", 0))  # fmt: skip
_ROOT: Rows = (
    ("sigma_Fload", 0),
    ("Y_F", 1),
    ("Y_S", 1),
    ("Y_g", 1),
    ("Y_eps", 1),
    ("Y_beta", 1),
    ("Y_B", 1),
    ("Y_DT", 1),
    ("sigma_F0", 0),
    ("K_A", 1),
    ("K_gamma", 1),
    ("K_V", 1),
    ("K_Fbeta", 1),
    ("K_Falpha", 1),
    ("sigma_F", 0),
)
_ROOT_BEARS: Rows = (
    ("sigma_Flim", 0),
    ("Y_ST", 1),
    ("Y_NT", 1),
    ("Y_delta_relT", 1),
    ("Y_R_relT", 1),
    ("Y_X", 1),
    ("Y_M", 1),
    ("sigma_FG", 0),
)
_AGMA_LOAD = ("K_A", "K_gamma", "K_vA", "K_s", "K_HA")
CHAINS: dict[str, tuple[Rows, Rows]] = {
    "S_H": (_CONTACT, _CONTACT_BEARS),
    "S_F": (_ROOT, _ROOT_BEARS),
    "S_Heq": (_CONTACT, _CONTACT_BEARS),
    "S_Feq": (_ROOT, _ROOT_BEARS),
    "S_Hst": (
        (("sigma_H", 0), ("K_peak", 0.5), ("sigma_Hpk", 0)),
        (("sigma_Hlim_st", 0), ("Z_NTst", 1), ("Z_Wst", 1), ("sigma_HGst", 0)),
    ),
    "S_Fst": (
        (("sigma_F", 0), ("K_peak", 1), ("sigma_Fpk", 0)),
        (("sigma_Flim_st", 0), ("Y_ST", 1), ("Y_NTst", 1), ("Y_delta_st", 1), ("Y_Mst", 1), ("sigma_FGst", 0)),
    ),
    "S_HA": (
        (("p_HA", 0), ("Z_E", 1), ("Z_I", -0.5), *((k, 0.5) for k in (*_AGMA_LOAD, "Z_RA")), ("sigma_HA", 0)),
        (("sigma_HP0", 0), ("Z_N", 1), ("Z_WA", 1), ("Y_theta", -1), ("Y_Z", -1), ("sigma_HPA", 0)),
    ),
    "S_FA": (
        (("p_FA", 0), ("Y_J", -1), *((k, 1) for k in (*_AGMA_LOAD, "K_B")), ("sigma_FA", 0)),
        (("sigma_FP0", 0), ("Y_N", 1), ("Y_both", 1), ("Y_theta", -1), ("Y_Z", -1), ("sigma_FPA", 0)),
    ),
}
"""The chains of every strength check: what acts and what the material bears, each factor with its exponent."""
LEVEL_OF = {"S_Hst": "T_rel_H", "S_Fst": "T_rel_F"}
"""Torque ratio of the level of a load spectrum that static strength is rated at, where a level governs it."""


def why(stage: StageResults, check: Check) -> Why | None:
    """The chains of a strength check; None for checks that are a single value against a limit."""
    if check.index is None or check.symbol not in CHAINS:
        return None
    acting, bearing = CHAINS[check.symbol]
    level = LEVEL_OF.get(check.symbol, "")
    if level and stage.gears[check.index - 1].get(level, 0.0) > 0:
        # The stress of a level of the spectrum, with the load factors of that level.
        acting = acting[-1:]
    return Why(_chain(stage, check.index, acting), _chain(stage, check.index, bearing))


def _chain(stage: StageResults, i: int, rows: Rows) -> tuple[Step, ...]:
    gear = stage.gears[i - 1]

    def look(symbol: str) -> tuple[str, int | None, float]:
        if symbol[1:2] == ":":
            # What belongs to gear 1, or to the pinion, whichever gear is looked at.
            k = 1 if symbol[0] == "1" else stage.pinion
            return symbol[2:], k, stage.gears[k - 1][symbol[2:]]
        if symbol in gear:
            return symbol, i, gear[symbol]
        return symbol, None, stage.mesh[symbol]

    steps: list[Step] = []
    for symbol, power in rows:
        if symbol not in gear and symbol not in stage.mesh:
            # A factor of some materials alone.
            continue
        name, index, value = look(symbol)
        running = value if power == 0 else steps[-1].running * value**power
        # What does not turn has no ratio and no diameters to show.
        how = _how(stage, symbol)
        drives = QUANTITIES[symbol].inputs_by.get(how, QUANTITIES[symbol].inputs)
        inputs = tuple(look(s) for s in drives if s[1:2] == ":" or s in gear or s in stage.mesh)
        steps.append(Step(name, index, value, power, running, inputs, how == "entered", how))
    return tuple(steps)


def product(steps: tuple[Step, ...]) -> float:
    """The chain multiplied out from its first stress; equals its last one."""
    return steps[0].value * prod(s.value**s.power for s in steps if s.power)
