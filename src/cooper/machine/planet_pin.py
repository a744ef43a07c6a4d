"""The pin of a planet between the walls of its carrier, and the bearing on which the planet turns."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, as_float, ascending
from cooper.i18n.text import tr
from cooper.machine.beam import RIGID, Beam, bend
from cooper.machine.check_bearing import BearingCheck, check_bearing
from cooper.machine.choose_bearing import borne
from cooper.machine.hub_joints import key_safety
from cooper.machine.rolling_life import WEIBULL_ROLLERS, system_life
from cooper.machine.shaft_model import BearingGiven, Borne, Rules
from cooper.machine.shaft_section import bending_modulus
from cooper.machine.shaft_strength import ShaftMaterial, fatigue_safety, notch_total, yield_safety
from cooper.stock.rolling import bearings_of, series_of
from cooper.stock.shaft_steel import ShaftSteel, size_factor

RIM = 2.7
"""Modules that a planet keeps under its roots around its bearing: 1.2 tooth depths (ISO 6336-3, Y_B = 1)."""


class PinLoad(Struct, frozen=True, kw_only=True):
    """One gear of a planet: the middle of its face from the middle of the planet, its width (mm), the force that its
    mesh leaves on the pin, across the arm and along it outwards (N), and the moment of its thrust, which acts on the
    working circle, in the plane of arm and axis (``tilt``, N mm)."""

    at: float
    b: float
    across: float
    along: float
    tilt: float = 0.0


class Pin(Struct, frozen=True):
    """A pin: diameter and span between the middles of the walls (mm), force (N) and overturning moment (N mm) on the
    planet's bearings, bending stress under K_A (MPa), safeties against fatigue and lasting deformation, slope in the
    walls (rad), and the planet's bearing, None where none fits inside the planet. ``count`` bearings stand beside each
    other, ``ends`` the loads of both, or of the halves of one (N); ``p_wall`` greatest pressure in the walls (MPa) and
    its safety ``S_wall``."""

    d: float
    span: float
    F: float
    sigma: float
    S_D: float
    S_Y: float
    slope: float
    bearing: Borne | None
    checked: BearingCheck | None
    M: float = 0.0
    count: int = 1
    ends: tuple[float, float] = (0.0, 0.0)
    p_wall: float = 0.0
    S_wall: float = 1e4


def pin_moment(d: float, span: float, loads: tuple[PinLoad, ...], centrifugal: float = 0.0) -> tuple[float, float]:
    """Greatest bending moment, and slope at the walls, of a pin that stands free between its walls.

    Parameters
    ----------
    d : float
        Diameter of the pin (mm).
    span : float
        Distance between the walls (mm).
    loads : tuple[PinLoad, ...]
        Forces of the gears, each spread over its face.
    centrifugal : float
        Centrifugal force at its middle (N).

    Returns
    -------
    tuple[float, float]
        Moment (N mm) and slope (rad).

    Examples
    --------
    >>> M, _ = pin_moment(10.0, 40.0, (PinLoad(at=0.0, b=20.0, across=1000.0, along=0.0),))
    >>> round(M)
    7500
    """
    places = [-span / 2, span / 2, 0.0]
    for g in loads:
        places += list(np.linspace(g.at - g.b / 2, g.at + g.b / 2, 9))
    x = ascending(np.round(np.clip(places, -span / 2, span / 2), 6))
    F = np.zeros((2, len(x)))
    for g in loads:
        share = np.array([0.5, *[1.0] * 7, 0.5]) / 8
        k = np.searchsorted(x, np.round(np.clip(np.linspace(g.at - g.b / 2, g.at + g.b / 2, 9), x[0], x[-1]), 6))
        np.add.at(F[0], k, share * g.across)
        np.add.at(F[1], k, share * g.along)
        if g.tilt:
            # The planet hands a moment over to its pin as a couple a half face apart.
            F[1, k[2]] -= 2 * g.tilt / g.b
            F[1, k[6]] += 2 * g.tilt / g.b
    F[1, int(np.argmin(np.abs(x)))] += centrifugal
    n = len(x) - 1
    beam = Beam(x=x, d=np.full(n, d), d_i=np.zeros(n), supports=(0, n), stiffness=(RIGID, RIGID))
    bent = bend(beam, F)
    moment: Array = np.hypot(bent.M[0], bent.M[1])
    return float(moment.max()), float(np.hypot(*bent.theta[:, 0]))


def propose_pin(
    *,
    d_f: float,
    m_n: float,
    b: float,
    wall: float,
    loads: tuple[PinLoad, ...],
    centrifugal: float,
    n: float,
    steel: ShaftSteel,
    rules: Rules,
    bore: float = 0.0,
) -> Pin:
    """The thinnest pin that holds, with the lightest needle bearing on it that lives, or two of them.

    Parameters
    ----------
    d_f : float
        Root diameter of the planet (mm).
    m_n : float
        Normal module (mm).
    b : float
        Face width (mm).
    wall : float
        Thickness of the carrier's walls (mm).
    loads : tuple[PinLoad, ...]
        Forces of the planet's gears.
    centrifugal : float
        Centrifugal force of the planet (N).
    n : float
        Speed of the planet about its pin (1/min).
    steel : ShaftSteel
        Steel of the pin.
    rules : Rules
        What is counted, with least safeties and methods.
    bore : float
        Bore of the planet as entered (mm), 0 for free.

    Returns
    -------
    Pin
        The pin with its bearings.

    Notes
    -----
    A pin that stands still against its load starts and stops with it.

    References
    ----------
    DIN 743:2012, ISO 281:2007.
    """
    span = b + wall + 2 * max(0.05 * b, 0.2)
    room = bore or d_f - 2 * RIM * m_n
    of = _Resultant(loads, centrifugal)
    best: Pin | None = None
    for row in sorted(
        (x for s in series_of("needle roller") for x in bearings_of("needle roller", s) if room + 1e-9 >= x.D),
        key=lambda x: x.D,
    ):
        at = borne(tr("planet bearing"), row, 0.0, False, BearingGiven())
        pin = _judged(row.d, span, of, wall, steel, rules)
        for count in (1, 2) if b >= 2 * row.B else (1,):
            result, ends = _bearings_checked(at, count, b, of, pin.slope, n, rules)
            one = replace(pin, bearing=at, checked=result, count=count, ends=ends)
            holds = rules.S_Dmin <= pin.S_D and rules.S_Ymin <= pin.S_Y and rules.S_joint <= pin.S_wall
            if holds and result.L_nmh >= rules.L_h and rules.S_0min <= result.S_0:
                return one
            if best is None or best.checked is None or result.L_nmh >= best.checked.L_nmh:
                best = one
    if best is not None:
        return best
    # No needle bearing is so small: the planet slides on its pin.
    return _judged(0.5 * (bore or 0.5 * d_f), span, of, wall, steel, rules)


class _Resultant:
    """Force and moment of all gears of a planet about the middle of the planet, across the arm and along it; N, N
    mm."""

    def __init__(self, loads: tuple[PinLoad, ...], centrifugal: float) -> None:
        self.loads, self.centrifugal = loads, centrifugal
        self.F = np.array([sum(g.across for g in loads), sum(g.along for g in loads) + centrifugal])
        self.M = np.array([sum(g.across * g.at for g in loads), sum(g.along * g.at + g.tilt for g in loads)])

    def at(self, arm: float) -> tuple[float, float]:
        """Forces of two supports at an arm (mm) to either side of the middle; N.

        >>> of = _Resultant((PinLoad(at=10.0, b=20.0, across=100.0, along=0.0), PinLoad(at=-10.0, b=20.0, across=-80.0, along=0.0)), 0.0)
        >>> of.at(5.0)
        (170.0, 190.0)
        """  # noqa: E501
        couple = self.M / (2 * arm)
        return float(np.hypot(*(self.F / 2 - couple))), float(np.hypot(*(self.F / 2 + couple)))


HALF = 2 ** (1 / (WEIBULL_ROLLERS * 10 / 3) - 1)
"""Rating of half a roller bearing over that of the whole, so that both halves under half of a load live together as
long as the whole: 2^(1/(e p) - 1)."""


def _bearings_checked(
    at: Borne, count: int, b: float, of: _Resultant, slope: float, n: float, rules: Rules
) -> tuple[BearingCheck, tuple[float, float]]:
    """One bearing as two halves, or two bearings at the ends of the planet, under the force and the overturning
    moment: lives of both put together, the lesser static safety; and the loads of both (N)."""
    own = at.bearing
    arm = own.L_we / 4 if count == 1 else (b - own.B) / 2
    part = at if count == 2 else replace(at, C=HALF * at.C, C_0=at.C_0 / 2)
    ends = of.at(arm)
    result = [check_bearing(part, np.array([F]), np.zeros(1), slope, n, rules) for F in ends]
    worse = min(result, key=lambda f: f.L_nmh)
    L, L_10 = (system_life(np.array(v), np.ones(2)) for v in ([f.L_nmh for f in result], [f.L_10h for f in result]))
    return replace(worse, L_nmh=L, L_10h=L_10, S_0=min(f.S_0 for f in result)), ends


def _judged(d: float, span: float, of: _Resultant, wall: float, steel: ShaftSteel, rules: Rules) -> Pin:
    M, slope = pin_moment(d, span, of.loads, of.centrifugal)
    sigma = M / float(bending_modulus(d))
    K_1, K_1S = size_factor(steel.kind, d), size_factor(steel.kind, d, True)
    stuff = ShaftMaterial(
        sigma_B=K_1 * steel.sigma_B, sigma_S=K_1S * steel.sigma_S, sigma_W=K_1 * as_float(steel.sigma_W)
    )
    K = notch_total(np.ones(3), d, rules.Rz, stuff.sigma_B)
    half = np.array([0.0, rules.K_A * sigma / 2, 0.0])
    peak = max(rules.K_A, rules.K_AP)
    most = np.array([0.0, peak * sigma, 0.0])
    S_D, S_Y = float(fatigue_safety(half, half, K, stuff)), float(yield_safety(most, stuff))
    p_wall = peak * max(of.at(span / 2)) / (d * wall)
    return Pin(
        d,
        span,
        float(np.hypot(*of.F)),
        rules.K_A * sigma,
        min(S_D, 1e4),
        min(S_Y, 1e4),
        slope,
        None,
        None,
        M=float(np.hypot(*of.M)),
        p_wall=p_wall,
        S_wall=min(float(key_safety(p_wall, stuff.sigma_S)), 1e4),
    )
