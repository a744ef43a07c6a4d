"""Loads and life of rolling bearings. ISO 281:2007, ISO 76:2006."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where
from cooper.i18n.text import tr

E_OF_LOAD = np.array([0.172, 0.345, 0.689, 1.03, 1.38, 2.07, 3.45, 5.17, 6.89])
E_BALL = np.array([0.19, 0.22, 0.26, 0.28, 0.30, 0.34, 0.38, 0.42, 0.44])
Y_BALL = np.array([2.30, 1.99, 1.71, 1.55, 1.45, 1.31, 1.15, 1.04, 1.00])
"""Limit e and axial factor Y of deep groove ball bearings over f_0 F_a / C_0. ISO 281:2007, Table 3."""

ANGULAR = {
    25: (0.68, 0.41, 0.87, 0.38),
    30: (0.80, 0.39, 0.76, 0.33),
    35: (0.95, 0.37, 0.66, 0.29),
    40: (1.14, 0.35, 0.57, 0.26),
}
"""e, X, Y and the static Y_0 of single-row angular contact ball bearings by contact angle. ISO 281:2007, Table 3;
ISO 76:2006, Table 2."""


def axial_factors(kind: str, alpha: Real, F_a: Real, C_0: Real, f_0: Real = 14.0) -> tuple[Array, Array, Array, Array]:
    """Limit e, factors X and Y where F_a / F_r passes it, and Y where it does not, by type of bearing.

    Parameters
    ----------
    kind : str
        Type of bearing.
    alpha : Real
        Nominal contact angle (rad); ball bearings with 0 go by their axial load.
    F_a : Real
        Axial load (N).
    C_0 : Real
        Basic static rating (N).
    f_0 : Real
        Factor f_0 of ISO 76.

    Returns
    -------
    tuple[Array, Array, Array, Array]
        e, X, Y and Y_1, the factor up to F_a / F_r = e.

    References
    ----------
    ISO 281:2007, Tables 3 and 8.

    Examples
    --------
    >>> e, X, Y, Y_1 = axial_factors("deep groove ball", 0.0, 1380.0, 14000.0)
    >>> round(float(e), 2), float(X), round(float(Y), 2)
    (0.3, 0.56, 1.45)
    """
    F_a, C_0, alpha = np.abs(as_float(F_a)), as_float(C_0), as_float(alpha)
    none = np.zeros(np.broadcast_shapes(np.shape(F_a), np.shape(C_0)))
    if kind == "deep groove ball":
        at = np.log(np.clip(as_float(f_0) * F_a / C_0, E_OF_LOAD[0], E_OF_LOAD[-1]))
        e, Y = (np.interp(at, np.log(E_OF_LOAD), v) for v in (E_BALL, Y_BALL))
        return as_float(e), none + 0.56, as_float(Y), none
    if kind == "angular contact ball":
        e, X, Y, _ = ANGULAR[min(ANGULAR, key=lambda a: abs(a - float(np.degrees(alpha))))]
        return none + e, none + X, none + Y, none
    if kind == "tapered roller":
        return none + 1.5 * np.tan(alpha), none + 0.4, none + 0.4 / np.tan(alpha), none
    if kind == "spherical roller":
        return none + 1.5 * np.tan(alpha), none + 0.67, none + 0.67 / np.tan(alpha), none + 0.45 / np.tan(alpha)
    if kind in RADIAL_ONLY:
        return none + 1e9, none + 1.0, none, none
    raise ValueError(
        tr("bearing type {kind!r} has no axial factors: add them to `axial_factors` and `static_load`", kind=kind)
    )


RADIAL_ONLY = ("cylindrical roller", "needle roller")
"""Types without ribs that bear thrust."""


def equivalent_load(kind: str, alpha: Real, F_r: Real, F_a: Real, C_0: Real, f_0: Real = 14.0) -> Array:
    """Dynamic equivalent radial load.

    Parameters
    ----------
    kind : str
        Type of bearing.
    alpha : Real
        Nominal contact angle (rad).
    F_r : Real
        Radial load (N).
    F_a : Real
        Axial load (N).
    C_0 : Real
        Basic static rating (N).
    f_0 : Real
        Factor f_0 of ISO 76.

    Returns
    -------
    Array
        P (N).

    Notes
    -----
    F_r (with Y_1 F_a where a bearing has it) up to F_a / F_r = e, then X F_r + Y F_a.

    References
    ----------
    ISO 281:2007, 5.2 and 7.2.

    Examples
    --------
    >>> round(float(equivalent_load("tapered roller", np.radians(14.0), 4000.0, 3000.0, 50000.0)))
    6413
    """
    F_r, F_a = np.abs(as_float(F_r)), np.abs(as_float(F_a))
    e, X, Y, Y_1 = axial_factors(kind, alpha, F_a, C_0, f_0)
    return where(F_a > e * F_r, np.maximum(X * F_r + Y * F_a, F_r), F_r + Y_1 * F_a)


def static_load(kind: str, alpha: Real, F_r: Real, F_a: Real) -> Array:
    """Static equivalent radial load.

    Parameters
    ----------
    kind : str
        Type of bearing.
    alpha : Real
        Nominal contact angle (rad).
    F_r : Real
        Radial load (N).
    F_a : Real
        Axial load (N).

    Returns
    -------
    Array
        P_0 (N).

    Notes
    -----
    X_0 F_r + Y_0 F_a, at least F_r.

    References
    ----------
    ISO 76:2006, 5.3 and 6.3.

    Examples
    --------
    >>> float(static_load("deep groove ball", 0.0, 1000.0, 2000.0))
    1600.0
    """
    F_r, F_a = np.abs(as_float(F_r)), np.abs(as_float(F_a))
    if kind == "deep groove ball":
        X, Y = 0.6, as_float(0.5)
    elif kind == "angular contact ball":
        X, Y = 0.5, as_float(ANGULAR[min(ANGULAR, key=lambda a: abs(a - float(np.degrees(alpha))))][3])
    elif kind == "tapered roller":
        X, Y = 0.5, 0.22 / np.tan(as_float(alpha))
    elif kind == "spherical roller":
        X, Y = 1.0, 0.44 / np.tan(as_float(alpha))
    elif kind in RADIAL_ONLY:
        X, Y = 1.0, as_float(0.0)
    else:
        raise ValueError(
            tr(
                "bearing type {kind!r} has no static axial factors: add them to `axial_factors` and `static_load`",
                kind=kind,
            )
        )
    return np.maximum(X * F_r + Y * F_a, F_r)


def rating_life(C: Real, P: Real, n: Real, rollers: bool) -> Array:
    """Basic rating life.

    Parameters
    ----------
    C : Real
        Dynamic rating (N).
    P : Real
        Equivalent load (N).
    n : Real
        Speed (1/min).
    rollers : bool
        Whether it is a roller bearing, else a ball bearing.

    Returns
    -------
    Array
        L_10h (h).

    Notes
    -----
    10^6 / (60 n) (C / P)^p, p = 3 of balls, 10/3 of rollers.

    References
    ----------
    ISO 281:2007, 5.3 and 7.3.

    Examples
    --------
    >>> round(float(rating_life(19500.0, 2000.0, 1500.0, False)))
    10298
    """
    p = 10 / 3 if rollers else 3.0
    tiny = np.maximum(as_float(P), 1e-9)
    return as_float(1e6 / (60 * np.maximum(np.abs(n), 1e-9)) * (as_float(C) / tiny) ** p)


def mean_load(P: Array, n: Array, q: Array, rollers: bool) -> Array:
    """The load that damages as those of a spectrum do.

    Parameters
    ----------
    P : Array
        Equivalent loads, levels on the last axis (N).
    n : Array
        Speeds of the levels (1/min).
    q : Array
        Shares of the time.
    rollers : bool
        Whether it is a roller bearing, else a ball bearing.

    Returns
    -------
    Array
        Load (N).

    Notes
    -----
    (sum q n P^p / sum q n)^(1/p), p = 3 of balls, 10/3 of rollers.

    References
    ----------
    Miner's rule.

    Examples
    --------
    >>> round(float(mean_load(np.array([1000.0, 2000.0]), np.array([100.0, 100.0]), np.array([0.5, 0.5]), False)), 1)
    1651.0
    """
    p = 10 / 3 if rollers else 3.0
    turns = as_float(q) * n
    return as_float((np.sum(turns * as_float(P) ** p, axis=-1) / np.maximum(np.sum(turns, axis=-1), 1e-12)) ** (1 / p))


def reference_viscosity(n: Real, D_pw: Real) -> Array:
    """Viscosity nu_1 that a bearing needs.

    Parameters
    ----------
    n : Real
        Speed (1/min).
    D_pw : Real
        Pitch diameter of the rolling elements (mm).

    Returns
    -------
    Array
        nu_1 (mm2/s).

    Notes
    -----
    45000 n^-0.83 D_pw^-0.5 below 1000 1/min, 4500 n^-0.5 D_pw^-0.5 from there on.

    References
    ----------
    ISO 281:2007, 9.3.3.2.

    Examples
    --------
    >>> round(float(reference_viscosity(1500.0, 46.0)), 1)
    17.1
    """
    n = np.maximum(np.abs(as_float(n)), 1e-3)
    return as_float(where(n < 1000, 45000 * n**-0.83, 4500 * n**-0.5) / np.sqrt(as_float(D_pw)))


CLEANLINESS = {
    "ISO 4406 -/13/10": (0.0864, 0.5796),
    "ISO 4406 -/15/12": (0.0288, 1.141),
    "ISO 4406 -/17/14": (0.0133, 1.67),
    "ISO 4406 -/19/16": (0.00864, 2.5164),
    "ISO 4406 -/21/18": (0.00411, 3.8974),
}
"""Constants of e_C in oil baths by the oil's cleanliness. ISO 281:2007, A.5."""


def contamination_factor(cleanliness: str, kappa: Real, D_pw: Real) -> Array:
    """Contamination factor e_C of an oil bath: a (1 - c / D_pw^(1/3)), a = c_1 kappa^0.68 D_pw^0.55, at most 1.

    Parameters
    ----------
    cleanliness : str
        Cleanliness of the oil, a key of the table.
    kappa : Real
        Viscosity ratio nu/nu_1.
    D_pw : Real
        Pitch diameter of the rolling elements (mm).

    Returns
    -------
    Array
        e_C.

    References
    ----------
    ISO 281:2007, A.5.

    Examples
    --------
    >>> round(float(contamination_factor("ISO 4406 -/17/14", 2.0, 46.0)), 4)
    0.0934
    """
    c_1, c = CLEANLINESS[cleanliness]
    D_pw = as_float(D_pw)
    a = np.minimum(c_1 * as_float(kappa) ** 0.68 * D_pw**0.55, 1.0)
    return as_float(a * np.maximum(1 - c / np.cbrt(D_pw), 0.0))


def life_factor_iso(kappa: Real, share: Real, rollers: bool) -> Array:
    """Life modification factor a_ISO, at most 50.

    Parameters
    ----------
    kappa : Real
        Viscosity ratio nu/nu_1, 0.1 to 4.
    share : Real
        e_C C_u / P.
    rollers : bool
        Whether it is a roller bearing, else a ball bearing.

    Returns
    -------
    Array
        a_ISO.

    Notes
    -----
    Balls: 0.1 (1 - (2.5671 - c / kappa^q)^0.83 share^(1/3))^-9.3; rollers: 0.1 (1 - (1.5859 - c / kappa^q)
    share^0.4)^-9.185; c and q by the range of kappa: below 0.4, below 1, from 1.

    References
    ----------
    ISO 281:2007, 9.3.3.5.

    Examples
    --------
    >>> round(float(life_factor_iso(1.0, 0.1, False)), 3), round(float(life_factor_iso(2.0, 0.2, True)), 3)
    (2.431, 0.934)
    """
    k, share = np.clip(as_float(kappa), 0.1, 4.0), np.maximum(as_float(share), 0.0)
    q = np.select([k < 0.4, k < 1], [0.054381, 0.19087], 0.071739)
    if rollers:
        c = np.select([k < 0.4, k < 1], [1.3993, 1.2348], 1.2348)
        left = 1 - (1.5859 - c / k**q) * share**0.4
        power = -9.185
    else:
        c = np.select([k < 0.4, k < 1], [2.2649, 1.9987], 1.9987)
        left = 1 - (2.5671 - c / k**q) ** 0.83 * np.cbrt(share)
        power = -9.3
    return as_float(np.minimum(0.1 * np.maximum(left, 1e-3) ** power, 50.0))


A_1 = {90.0: 1.0, 95.0: 0.64, 96.0: 0.55, 97.0: 0.47, 98.0: 0.37, 99.0: 0.25}
"""Life adjustment a_1 by reliability (%). ISO 281:2007, Table 12."""

WEIBULL_BALLS, WEIBULL_ROLLERS = 10 / 9, 9 / 8
"""Slopes of the spread of lives by which ISO 281 puts rows and rings together, and by which bearings of one machine
are. ISO/TR 1281-1."""


def system_life(lives: Array, rollers: Array) -> float:
    """Life that all of several bearings reach with the reliability that each life stands for.

    Parameters
    ----------
    lives : Array
        Lives (h).
    rollers : Array
        Which are roller bearings.

    Returns
    -------
    float
        Life (h).

    Notes
    -----
    L with sum (L/L_i)^e_i = 1, e = 10/9 of balls and 9/8 of rollers. Where all are alike L = L_i n^(-1/e).

    References
    ----------
    ISO 281:2007, Weibull slopes.

    Examples
    --------
    >>> round(system_life(np.full(6, 10000.0), np.zeros(6))), round(system_life(np.full(6, 10000.0), np.ones(6)))
    (1994, 2034)
    """
    lives, e = as_float(lives), where(np.asarray(rollers, dtype=bool), WEIBULL_ROLLERS, WEIBULL_BALLS)
    if not len(lives):
        return float("inf")
    if not float(lives.min()) > 0:
        return 0.0
    high = float(np.log(lives.min()))
    low = high - np.log(len(lives)) - 1
    for _ in range(60):
        mid = (low + high) / 2
        low, high = (mid, high) if float(np.sum(np.exp(e * (mid - np.log(lives))))) < 1 else (low, mid)
    return float(np.exp(low))


def paired_thrust(F_rA: Real, F_rB: Real, Y_A: Real, Y_B: Real, K_a: Real) -> tuple[Array, Array]:
    """Axial loads of an adjusted pair. Customary rule for bearings without play.

    Parameters
    ----------
    F_rA : Real
        Radial load of bearing A (N).
    F_rB : Real
        Radial load of bearing B (N).
    Y_A : Real
        Factor Y of bearing A.
    Y_B : Real
        Factor Y of bearing B.
    K_a : Real
        Outer axial force towards A (N).

    Returns
    -------
    tuple[Array, Array]
        F_aA and F_aB (N).

    Notes
    -----
    Each presses with F_r / (2 Y) against the other: F_aA = max(F_rA / 2 Y_A, F_rB / 2 Y_B + K_a), F_aB = max(F_rB / 2
    Y_B, F_rA / 2 Y_A - K_a).

    Examples
    --------
    >>> tuple(float(v) for v in paired_thrust(4000.0, 2000.0, 1.6, 1.6, 500.0))
    (1250.0, 750.0)
    """
    own_A, own_B = np.abs(as_float(F_rA)) / (2 * as_float(Y_A)), np.abs(as_float(F_rB)) / (2 * as_float(Y_B))
    return np.maximum(own_A, own_B + K_a), np.maximum(own_B, own_A - K_a)


def radial_give(D_w: Real, Z: Real, alpha: Real, L_we: Real, F_r: Real) -> Array:
    """How far rings approach each other under a radial load, without play.

    Parameters
    ----------
    D_w : Real
        Diameter of the rolling elements (mm).
    Z : Real
        Number of rolling elements.
    alpha : Real
        Nominal contact angle (rad).
    L_we : Real
        Effective length of the rollers (mm), 0 for balls.
    F_r : Real
        Radial load (N).

    Returns
    -------
    Array
        Approach (mm).

    Notes
    -----
    Balls: 4.4e-4 (Q^2 / D_w)^(1/3) / cos alpha, Q = 5 F_r / (Z cos alpha); rollers: 7.7e-5 Q^0.9 / L_we^0.8 / cos
    alpha, Q = 4.6 F_r / (Z cos alpha).

    References
    ----------
    Palmgren's approximation.

    Examples
    --------
    >>> round(1000 * float(radial_give(9.525, 9, 0.0, 0.0, 2000.0)), 1)
    22.3
    """
    F_r, D_w, L_we = np.abs(as_float(F_r)), as_float(D_w), as_float(L_we)
    c = np.cos(alpha)
    balls = 4.4e-4 * np.cbrt((5 * F_r / (as_float(Z) * c)) ** 2 / D_w) / c
    rollers = 7.7e-5 * (4.6 * F_r / (as_float(Z) * c)) ** 0.9 / np.maximum(L_we, 1e-9) ** 0.8 / c
    return where(L_we > 0, rollers, balls)
