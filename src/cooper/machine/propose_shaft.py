"""A shaft that holds, from what it has to carry: pieces in standard diameters, bearings, joints.

Diameters rise from both ends to a collar, so that everything slides on from its side. Whatever falls short grows until
it holds; what a person has fixed stays as it is.
"""

from __future__ import annotations

import pickle
from collections import OrderedDict

import numpy as np
from msgspec.structs import replace

from cooper.arrays import frozen
from cooper.i18n.text import tr
from cooper.machine.check_shaft import ShaftCheck, check_shaft_first
from cooper.machine.more_bearings import more_names
from cooper.machine.shaft_beam import piece_of
from cooper.machine.shaft_making import PLAIN, ShaftMaking
from cooper.machine.shaft_model import (
    JointGiven,
    MadeShaft,
    Rules,
    ShaftRequirements,
)
from cooper.machine.shaft_pieces import build_shaft

GROWTH = 3.0
"""How much thicker than its torque alone asks for a shaft becomes at most."""

NEARLY = 0.9
"""Share of what is asked from which a less plain joint is worth it."""
ROUNDS = 14
"""How often a shaft is made anew at most until it holds."""


_CACHE: OrderedDict[bytes, tuple[MadeShaft, ShaftCheck]] = OrderedDict()
CACHED_SHAFTS = 48
"""Shafts that were proposed last: an edit of one finds the others again."""


def propose_shaft(wish: ShaftRequirements, rules: Rules, D_most: float = np.inf) -> tuple[MadeShaft, ShaftCheck]:
    """`shaft_for`, worked out once for the same requirements.

    Parameters
    ----------
    wish : ShaftRequirements
        What the shaft has to carry, with what a person fixed of it.
    rules : Rules
        What is counted, with least safeties and methods.
    D_most : float
        Greatest outside diameter of the bearings (mm).

    Returns
    -------
    tuple[MadeShaft, ShaftCheck]
        The shaft and its check.
    """
    key = pickle.dumps((wish, rules, D_most))
    result = _CACHE.get(key)
    if result is None:
        result = _CACHE[key] = frozen(shaft_for(wish, rules, D_most))
        if len(_CACHE) > CACHED_SHAFTS:
            _CACHE.popitem(last=False)
    else:
        _CACHE.move_to_end(key)
    return result


def shaft_for(wish: ShaftRequirements, rules: Rules, D_most: float) -> tuple[MadeShaft, ShaftCheck]:
    """A shaft that holds by the rules as far as the room lets it.

    Parameters
    ----------
    wish : ShaftRequirements
        What the shaft has to carry, with what a person fixed of it.
    rules : Rules
        What is counted, with least safeties and methods.
    D_most : float
        Greatest outside diameter of the bearings (mm).

    Returns
    -------
    tuple[MadeShaft, ShaftCheck]
        The shaft and its check.

    Notes
    -----
    The bearing with the lighter load bears the thrust; the other one where only that lets both live. Where a hub leaves
    the shaft no room to grow, a joint that notches it less is taken, if that is nearly enough; else the plainest stays,
    as the hub has to change.

    References
    ----------
    DIN 743:2012, ISO 281:2007.
    """
    result = _with_fixed(wish, rules, D_most)
    for j in result[0].joints:
        given = wish.joints.get(j.gear, JointGiven())
        if not j.gear or given.kind is not None or j.kind not in PLAIN or not _weak_at(result, j.piece, rules):
            continue
        for kind in PLAIN:
            if kind == j.kind or _holds(result, rules) >= 1:
                continue
            joined = _with_fixed(
                replace(wish, joints={**wish.joints, j.gear: replace(given, kind=kind)}), rules, D_most
            )
            if _holds(joined, rules) > max(_holds(result, rules), NEARLY) + 1e-9:
                result = joined
    result = replace(result[0], wish=wish), result[1]
    if wish.fixed or _bearings_live(result[1], rules) >= 1:
        return result
    other = next(b.name for b in result[0].bearings[:2] if not b.fixed)
    again = _with_fixed(replace(wish, fixed=other), rules, D_most)
    if _bearings_live(again[1], rules) <= _bearings_live(result[1], rules):
        return result
    return replace(again[0], wish=wish), again[1]


def _holds(result: tuple[MadeShaft, ShaftCheck], rules: Rules) -> float:
    """The least share of what is asked of it that a shaft with its joints reaches."""
    checked = result[1]
    shaft = min(checked.S_D.min() / rules.S_Dmin, checked.S_Y.min() / rules.S_Ymin)
    return float(min(shaft, *(j.S / rules.S_joint for j in checked.joints), np.inf))


def _weak_at(result: tuple[MadeShaft, ShaftCheck], piece: str, rules: Rules) -> bool:
    """Whether a shaft does not reach what is asked of it, and is weakest on a piece or at its ends."""
    made, checked = result
    share = np.minimum(checked.S_D / rules.S_Dmin, checked.S_Y / rules.S_Ymin)
    at, p = checked.ends[np.unravel_index(np.argmin(share), share.shape)], made.piece(piece)
    return bool(share.min() < 1 and p.start - 1e-6 <= at <= p.end + 1e-6)


def _bearings_live(checked: ShaftCheck, rules: Rules) -> float:
    """The least share of what is asked of them that the bearings reach."""
    return min(min(b.L_nmh / rules.L_h, b.S_0 / rules.S_0min) for b in checked.bearings)


def _with_fixed(wish: ShaftRequirements, rules: Rules, D_most: float) -> tuple[MadeShaft, ShaftCheck]:
    cases = max((len(c.force) for c in wish.contacts), default=1)
    T_all = max(wish.T, wish.T_most) * rules.K_A
    d_T = float(np.cbrt(16000 * T_all / (np.pi * 0.25 * wish.steel.sigma_S)))
    least = {"end left": d_T, "end right": d_T} | {tr("seat {gear}", gear=s.gear): d_T for s in wish.seats}
    least |= {"bearing 1": 0.8 * d_T, "bearing 2": 0.8 * d_T}
    none = np.zeros((cases, 2 + len(more_names(wish))))
    m = ShaftMaking(wish, rules, D_most, least, none, none, GROWTH * max(d_T, 2.0))
    m.fixed = {"bearing 1": 0, "bearing 2": 1}.get(wish.fixed, 0)
    made = build_shaft(m)
    checked, rest = check_shaft_first(made, rules)
    for n in range(ROUNDS):
        m.spare = 1.02 + 0.04 * max(n - 3, 0)
        m.F_r = np.hypot(checked.reactions[..., 0], checked.reactions[..., 1])
        m.F_a = checked.reactions[..., 2]
        if not wish.fixed:
            fixed = int(np.argmin(m.F_r[:, :2].max(axis=0)))
            if fixed != m.fixed:
                m.fixed = fixed
                m.F_a = m.F_a[:, [1, 0, *range(2, m.F_a.shape[1])]]
        grown = _grow(m, made, checked)
        again = build_shaft(m)
        if again == made and not grown:
            break
        made = again
        checked, rest = check_shaft_first(made, rules)
    return made, rest()


def _grow(m: ShaftMaking, made: MadeShaft, checked: ShaftCheck) -> bool:
    """Let grow what falls short; whether anything did."""
    rules, grown = m.rules, False

    def more(name: str, d: float) -> None:
        nonlocal grown
        d = min(d, m.most)
        if m.piece_given(name).d is None and d > m.least.get(name, 0.0) + 1e-9:
            m.least[name] = d
            grown = True

    short = np.minimum(checked.S_D / rules.S_Dmin, checked.S_Y / rules.S_Ymin).min(axis=1)
    for k in np.nonzero(short < 1)[0]:
        p = piece_of(made.pieces, float(checked.ends[k].mean()))
        more(p.name, p.d * float(np.clip(short[k] ** (-1 / 3), 1.01, 1.3)))
    for j, result in zip(made.joints, checked.joints, strict=True):
        if j.kind != "integral" and rules.S_joint > result.S:
            more(j.piece, j.d * float(np.clip((rules.S_joint / max(result.S, 1e-6)) ** (1 / 3), 1.02, 1.25)))
    softness = max(
        [checked.w_gears[s.gear] / (rules.w_rel * s.m_n) for s in m.wish.seats]
        + [slope / b.bearing.slope for slope, b in zip(checked.slopes, made.bearings, strict=True)]
    )
    if softness > 1:
        for p in made.pieces:
            # The short seats of bearings hardly bend.
            if p.kind not in ("end", "bearing"):
                more(p.name, p.d * float(np.clip(softness**0.25, 1.02, 1.25)))
    return grown
