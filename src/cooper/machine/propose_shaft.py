"""A shaft that holds, from what it has to carry: pieces in standard diameters, bearings, joints.

Diameters rise from both ends to a collar, so that everything slides on from its side. Whatever falls short grows until
it holds; what a person has fixed stays as it is.
"""

from __future__ import annotations

import pickle

import numpy as np
from msgspec.structs import replace

from cooper.arrays import frozen
from cooper.i18n.text import tr
from cooper.kept import Kept
from cooper.machine.check_shaft import ShaftCheck, check_shaft_first
from cooper.machine.more_bearings import more_names
from cooper.machine.shaft_beam import piece_of
from cooper.machine.shaft_making import PLAIN, ShaftMaking, base_name
from cooper.machine.shaft_model import (
    BearingGiven,
    JointGiven,
    MadeShaft,
    PieceGiven,
    Rules,
    ShaftRequirements,
)
from cooper.machine.shaft_pieces import build_shaft, shut_in

GROWTH = 3.0
"""How much thicker than its torque alone asks for a shaft becomes at most."""

NEARLY = 0.9
"""Share of what is asked from which a less plain joint is worth it."""
IN_VAIN = 5
"""Rounds without a higher safety after which the iteration stops."""
ROUNDS = 14
"""How often a shaft is made anew at most until it holds."""


SHAFTS: Kept[tuple[MadeShaft, ShaftCheck]] = Kept(48)
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
    return SHAFTS.of(pickle.dumps((wish, rules, D_most)), lambda: frozen(shaft_for(wish, rules, D_most)))


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
    result = _joined(wish, rules, D_most)
    if not wish.fixed and bearings_live(result[1], rules) < 1:
        other = next(b.name for b in result[0].bearings[:2] if not b.fixed)
        result = _better(result, _joined(replace(wish, fixed=other), rules, D_most), rules)
    result = _other_bearings(result, wish, rules, D_most)
    return replace(result[0], wish=wish), result[1]


Proposed = tuple[MadeShaft, ShaftCheck]
EQUAL_COSTS = 1.3
"""Greatest ratio of bearing costs up to which equal bores are preferred."""
TILTED = "tapered roller"
"""Type of the pair of bearings adjusted against each other."""


LESS_NOTCHED = {
    "key": ("press fit", "spline"),
    "two keys": ("press fit", "key", "spline"),
    "press fit": ("spline",),
    "spline": ("press fit",),
}
"""By the joint of a hub those that notch the shaft less, or leave it a thicker core."""


def _joined(wish: ShaftRequirements, rules: Rules, D_most: float) -> Proposed:
    """A shaft that holds, with another joint where the plainest notches it too much."""
    result = _with_fixed(wish, rules, D_most)
    for j in result[0].joints:
        given = wish.joints.get(j.gear, JointGiven())
        if not j.gear or given.kind is not None or j.kind not in PLAIN or not _weak_at(result, j.piece, rules):
            continue
        for kind in LESS_NOTCHED[j.kind]:
            if _holds(result, rules) >= 1:
                break
            other = replace(wish, joints={**wish.joints, j.gear: replace(given, kind=kind)})
            joined = _with_fixed(other, rules, D_most)
            # A kind that cannot be made there comes back as teeth that are cut in.
            made_so = any(x.gear == j.gear and x.kind == kind for x in joined[0].joints)
            if made_so and _holds(joined, rules) > max(_holds(result, rules), NEARLY) + 1e-9:
                result = joined
    return result


def _other_bearings(result: Proposed, wish: ShaftRequirements, rules: Rules, D_most: float) -> Proposed:
    """The same shaft with tapered rollers adjusted against each other, where spherical ones would stand or something
    falls short; and with equal bores, where that costs little. Only where nobody chose the bearings."""
    names = [tr("bearing {value}", value=k) for k in (1, 2)]
    chosen = any(n in wish.bearings or wish.pieces.get(n, PieceGiven()).d is not None for n in names)
    if chosen or len(result[0].bearings) != 2:
        return result
    short = bearings_live(result[1], rules) < 1
    if short or any(b.bearing.type == "spherical roller" for b in result[0].bearings):
        pair = replace(wish, bearings={**wish.bearings, **{n: BearingGiven(type=TILTED) for n in names}})
        result = _better(result, _joined(pair, rules, D_most), rules)
    bores = [b.bearing.d for b in result[0].bearings]
    if min(bores) < max(bores):
        equal = _with_fixed(result[0].wish, rules, D_most, dict.fromkeys(names, max(bores)), result)
        if equal[0].bearings[0].bearing.d == equal[0].bearings[1].bearing.d:
            result = _better(result, equal, rules, EQUAL_COSTS)
    return result


def _better(one: Proposed, two: Proposed, rules: Rules, worth: float = 1.0) -> Proposed:
    """The one that reaches more of what is asked; of two that reach it the one that costs less, the second up to
    ``worth`` times the first."""
    if _shut(two[0]) > _shut(one[0]):
        return one
    first, second = (tuple(min(share, 1.0) for share in _shares(r, rules)) for r in (one, two))
    if any(b < min(a, 1.0 - 1e-9) for a, b in zip(first, second, strict=True)):
        # A criterion that is met must not become short for the sake of another one.
        return one
    if abs(min(first) - min(second)) > 1e-9:
        return one if min(first) > min(second) else two
    return two if _cost(two[0]) < worth * _cost(one[0]) else one


def _shut(made: MadeShaft) -> int:
    """How many hubs cannot be put onto their seats."""
    return sum(shut_in(made.pieces, j.piece) for j in made.joints if j.gear and j.kind != "integral")


def _shares(result: Proposed, rules: Rules) -> tuple[float, float, float]:
    """The least shares of what is asked that shaft with joints, bearings, and stiffness reach."""
    made, checked = result
    soft = [checked.w_gears[s.gear] / (rules.w_rel * s.m_n) for s in made.wish.seats]
    soft += [slope / b.bearing.slope for slope, b in zip(checked.slopes, made.bearings, strict=True)]
    return _holds(result, rules), bearings_live(checked, rules), 1 / max(*soft, 1e-9)


def _cost(made: MadeShaft) -> float:
    """Rough cost of the bearings, small ones costing as much as they are handled for; its unit does not matter."""
    return sum(b.bearing.cost * (b.bearing.mass + HANDLED) for b in made.bearings)


HANDLED = 0.12
"""Mass (kg) added to a bearing's own in its cost, for ordering, fitting and seats."""


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


def bearings_live(checked: ShaftCheck, rules: Rules) -> float:
    """The least share of what is asked of them that the bearings reach.

    Parameters
    ----------
    checked : ShaftCheck
        The check of a shaft.
    rules : Rules
        What is asked.

    Returns
    -------
    float
        Share; 1 where life and static safety just hold.
    """
    return min(min(b.L_nmh / rules.L_h, b.S_0 / rules.S_0min) for b in checked.bearings)


def _with_fixed(
    wish: ShaftRequirements,
    rules: Rules,
    D_most: float,
    bores: dict[str, float] | None = None,
    start: Proposed | None = None,
) -> tuple[MadeShaft, ShaftCheck]:
    """A shaft made anew until it holds; ``bores`` are the least ones of its bearings (mm). From a ``start`` that
    holds nothing becomes thinner."""
    cases = max((len(c.force) for c in wish.contacts), default=1)
    T_all = max(wish.T, wish.T_most) * rules.K_A
    d_T = float(np.cbrt(16000 * T_all / (np.pi * 0.25 * wish.steel.sigma_S)))
    least = {"end left": d_T, "end right": d_T} | {tr("seat {gear}", gear=s.gear): d_T for s in wish.seats}
    least |= {"bearing 1": 0.8 * d_T, "bearing 2": 0.8 * d_T} | (bores or {})
    none = np.zeros((cases, 2 + len(more_names(wish))))
    m = ShaftMaking(wish, rules, D_most, least, none, none, GROWTH * max(d_T, 2.0))
    m.fixed = {"bearing 1": 0, "bearing 2": 1}.get(wish.fixed, 0)
    if start is not None:
        before, held = start
        m.least |= {p.name: p.d for p in before.pieces if p.kind in ("end", "seat", "gap", "collar")}
        m.fixed = next((k for k, b in enumerate(before.bearings[:2]) if b.fixed), m.fixed)
        m.F_r, m.F_a = np.hypot(held.reactions[..., 0], held.reactions[..., 1]), held.reactions[..., 2]
    made = build_shaft(m)
    checked, rest = check_shaft_first(made, rules)
    reached: list[float] = []
    for n in range(ROUNDS):
        reached.append(float(min(checked.S_D.min() / rules.S_Dmin, checked.S_Y.min() / rules.S_Ymin)))
        if len(reached) > IN_VAIN and reached[-1] < 1 and max(reached[-IN_VAIN:]) < max(reached) + 1e-3:
            # Values fixed by the user limit the safety: larger diameters elsewhere do not help.
            break
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
    return _not_whirling(m, made, rest())


WHIRL_ROUNDS = 5
"""How often a shaft is made thicker at most until it does not whirl."""


def _not_whirling(m: ShaftMaking, made: MadeShaft, checked: ShaftCheck) -> Proposed:
    """The shaft, thicker between its ends where it would whirl at its speed: the speed at which it does grows with the
    square of the diameter."""
    need = m.rules.whirl * m.wish.n
    for _ in range(WHIRL_ROUNDS):
        if need <= 0 or not checked.n_crit < need:
            break
        factor = float(np.clip(1.02 * (need / max(checked.n_crit, 1e-9)) ** 0.5, 1.05, 1.6))
        for p in made.pieces:
            if p.kind in ("seat", "gap", "collar", "bearing") and not p.holds:
                m.least[p.name] = max(m.least.get(p.name, 0.0), p.d * factor)
        again = build_shaft(m)
        if again == made:
            break
        made, checked = again, check_shaft_first(again, m.rules)[1]()
    return made, checked


def _grow(m: ShaftMaking, made: MadeShaft, checked: ShaftCheck) -> bool:
    """Let grow what falls short; whether anything did."""
    rules, grown = m.rules, False

    # Pieces beside a bearing are limited by its abutment diameter, so the bearing has to grow with them.
    kept = {
        made.pieces[n].name: b
        for b in made.bearings
        for k in [next(k for k, p in enumerate(made.pieces) if p.name == b.name)]
        for n in (k - 1, k + 1)
        if 0 <= n < len(made.pieces) and made.pieces[n].kind in ("gap", "collar")
    }

    # A groove and what is under a sleeve are as thick as what they keep; parts of a piece that was cut grow with it.
    # Under a sleeve beside a bore that is fixed the shaft grows by itself, which a ring lets it do.
    bores = {tr("seat {gear}", gear=s.gear) for s in m.wish.seats if s.bore}
    fixed = bores | {name for name, piece in m.wish.pieces.items() if piece.d is not None}
    owners = {p.name: p.holds or base_name(p.name) for p in made.pieces if p.name not in fixed}
    owners = {name: owner for name, owner in owners.items() if owner not in fixed}

    def more(name: str, d: float, weak: bool = False) -> None:
        nonlocal grown
        owner = owners.get(name) or name
        if owner != name:
            d, name = made.piece(owner).d * d / made.piece(name).d, owner
        b = kept.get(name)
        if weak and b is not None and d > b.bearing.d_a_max:
            more(b.name, b.bearing.d * 1.01)
        d = min(d, m.most)
        if m.piece_given(name).d is None and d > m.least.get(name, 0.0) + 1e-9:
            m.least[name] = d
            grown = True

    short = np.minimum(checked.S_D / rules.S_Dmin, checked.S_Y / rules.S_Ymin).min(axis=1)
    for k in np.nonzero(short < 1)[0]:
        p = piece_of(made.pieces, float(checked.ends[k].mean()))
        more(p.name, p.d * float(np.clip(short[k] ** (-1 / 3), 1.01, 1.3)), weak=True)
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
            if p.kind not in ("end", "seal", "bearing") and not p.holds:
                more(p.name, p.d * float(np.clip(softness**0.25, 1.02, 1.25)))
    return grown
