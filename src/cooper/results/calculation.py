"""A stage's calculation in the order in which it is checked by hand: each quantity with its formula, the numbers in
it, what comes out, and its clause."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from cooper.document.models import Train
from cooper.i18n.text import tr
from cooper.results.printed_formulas import Case, Names, case_of
from cooper.results.result_tree import Results, StageResults
from cooper.results.why import CHAINS, source_of

GEOMETRY = (
    "alpha_t",
    "beta_b",
    "d",
    "d_b",
    "a",
    "x_sum",
    "alpha_wt",
    "d_w",
    "g_alpha",
    "p_et",
    "eps_alpha",
    "eps_beta",
    "eps_gamma",
)
LOADS = (
    "F_t",
    "v",
    "F_bt",
    "F_a",
    "F_r",
    "w_t",
    "K_A",
    "K_gamma",
    "N_res",
    "K_V",
    "K_Hbeta",
    "K_Halpha",
    "K_Fbeta",
    "K_Falpha",
)
CHECKS = (
    ("flank", "S_H"),
    (tr("flank under the greatest load"), "S_Hst"),
    ("root", "S_F"),
    (tr("root under the greatest load"), "S_Fst"),
    (tr("flank by ANSI/AGMA"), "S_HA"),
    (tr("root by ANSI/AGMA"), "S_FA"),
)
BEFORE = {
    "Y_F": ("h_Fe", "s_Fn", "alpha_Fen", "f_eps"),
    "Y_S": ("rho_F", "q_s"),
    "K_vA": ("F_w", "v_wt"),
    "Y_NT": ("N_L",),
    "Z_NT": ("N_L",),
    "Z_R": ("rho_red",),
}
"""What stands before a factor because it is made of it."""


class Fill(Struct, frozen=True):
    """A quantity of one gear (1, 2; None for the mesh) with its value; ``case`` is the formula that holds for it,
    None where its value comes from a table, from geometry, or was entered."""

    gear: int | None
    names: Names
    case: Case | None
    value: float


class Calculated(Struct, frozen=True):
    """A quantity by symbol, its source, and how it is filled for each gear or for the mesh."""

    symbol: str
    source: str
    fills: tuple[Fill, ...]


def calculations(train: Train, results: Results, k: int) -> Iterator[tuple[str, list[Calculated]]]:
    """Titled groups of a stage's calculation; what is checked by no rule of this design is left out."""
    stage = results.stages[k]
    scopes = {i: Names(train, stage, k, i) for i in (None, 1, 2)}
    seen: set[str] = set()

    def listed(symbols: Iterator[str]) -> list[Calculated]:
        result = []
        for symbol in symbols:
            if symbol not in seen and (one := _calculated(stage, symbol, scopes)) is not None:
                seen.add(symbol)
                result.append(one)
        return result

    yield tr("geometry of the mesh"), listed(iter(GEOMETRY))
    if not stage.rated:
        return
    yield tr("forces and load factors"), listed(iter(LOADS))
    checked = {c.symbol.removesuffix("eq") for c in results.checks_of(k)}
    for title, safety in CHECKS:
        if safety not in checked:
            continue
        acting, bearing = CHAINS[safety]
        rows = [symbol for chain in (acting, bearing) for symbol, _ in chain]
        result = listed(s for symbol in (*rows, safety) for s in (*BEFORE.get(symbol, ()), symbol))
        if result:
            yield title, result


def _calculated(stage: StageResults, symbol: str, scopes: dict[int | None, Names]) -> Calculated | None:
    own: list[int | None] = [i for i in (1, 2) if symbol in stage.gears[i - 1]]
    fills = []
    for i in own or ([None] if symbol in stage.mesh else []):
        names = scopes[i]
        try:
            value = float(names.value(symbol))
        except KeyError:
            # A rack has no centre distance that stands in a formula.
            continue
        fills.append(Fill(i, names, case_of(symbol, names), value))
    return Calculated(symbol, source_of(stage, symbol), tuple(fills)) if fills else None
