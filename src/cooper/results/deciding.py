"""The quantities behind the checks that are short or thin: what decides something now."""

from __future__ import annotations

from functools import cache

from cooper.document.models import Train
from cooper.document.quantities import QUANTITIES
from cooper.results.origin import MADE_OF
from cooper.results.result_tree import Results
from cooper.results.why import CHAINS

LIMITS = {"S_Heq": "S_Hmin", "S_Feq": "S_Fmin", "s_anE": "s_an_min", "c": "c_min", "delta_W": "delta_Wmax"}
LIMITS |= {"j_op_min": "j_min", "j_wt_min": "j_min", "j_bn_min": "j_min", "du": "u_tol", "theta_bal": "theta_max"}
LIMITS |= {"S_lambda": "S_lambda_min", "eps_alpha": "eps_alpha_min"}
"""The limit of a check, where it is not the symbol with ``min`` behind it."""


@cache
def behind(symbol: str) -> frozenset[str]:
    """The symbols that a check is made of, down to what is entered, and its limit.

    >>> {"K_A", "S_Hmin", "hardness", "Rz_H"} <= behind("S_H")
    True
    """
    acting, bearing = CHAINS.get(symbol, ((), ()))
    waiting = [s for s, _power in (*acting, *bearing)]
    waiting += [w.removeprefix("own ").removeprefix("mate ").removesuffix(" of both") for w in MADE_OF.get(symbol, ())]
    seen = {LIMITS.get(symbol, f"{symbol}min")}
    while waiting:
        name = waiting.pop()
        if name in seen:
            continue
        seen.add(name)
        q = QUANTITIES.get(name)
        if q is not None:
            drives = (*q.inputs, *(s for by in q.inputs_by.values() for s in by))
            waiting += [s[2:] if s[1:2] == ":" else s for s in drives]
    return frozenset(seen)


def deciding(train: Train, results: Results) -> dict[tuple[str, str], str]:
    """Of each symbol behind a check that is short or thin the worse of these verdicts, by the identity of the stage
    ("" for what holds for the whole train)."""
    decided: dict[tuple[str, str], str] = {}
    for check in results.checks:
        if check.verdict == "holds" or check.part:
            continue
        places = {"" if check.stage is None else train.stages[check.stage].id, ""}
        for key in ((place, symbol) for place in places for symbol in behind(check.symbol)):
            if decided.get(key) != "short":
                decided[key] = check.verdict
    return decided
